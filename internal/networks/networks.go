// Package networks carries what open lists know of the places people come from:
// networks with their hosts, and how the browsers inside their apps call
// themselves. The rules that use it are in core/source; no network is named in
// our own code.
package networks

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"regexp"

	"jundle/internal/core/source"
)

var (
	//go:embed libdata/networks.json
	networkList []byte
	//go:embed libdata/apps.json
	appList []byte
)

// App is an app with a browser of its own.
type App struct {
	Network string
	// Mark matches the user agents of its browser.
	Mark *regexp.Regexp
	// Sample is such a user agent.
	Sample string
}

// Load reads the vendored list of networks.
func Load() (*source.Networks, error) {
	list, err := read()
	if err != nil {
		return nil, err
	}
	return source.NewNetworks(list), nil
}

func read() ([]source.Network, error) {
	var list []source.Network
	if err := json.Unmarshal(networkList, &list); err != nil {
		return nil, fmt.Errorf("list of networks: %w", err)
	}
	return list, nil
}

// Apps reads the vendored list of apps, in the order in which they are asked:
// one may carry the mark of another behind its own.
func Apps() ([]App, error) {
	var list []struct{ Network, Pattern, Sample string }
	if err := json.Unmarshal(appList, &list); err != nil {
		return nil, fmt.Errorf("list of apps: %w", err)
	}
	apps := make([]App, len(list))
	for i, each := range list {
		mark, err := regexp.Compile(each.Pattern)
		if err != nil {
			return nil, fmt.Errorf("list of apps: %s: %w", each.Network, err)
		}
		apps[i] = App{Network: each.Network, Mark: mark, Sample: each.Sample}
	}
	return apps, nil
}
