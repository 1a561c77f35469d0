package campaign

import (
	"net/url"
	"slices"
	"strings"
)

// Add puts tags on an address, before its fragment and behind what is there. A
// tag that is there already stays as it is and is named among the kept, unless
// overwrite asks for it to be replaced. Empty values are left out.
func Add(address string, tags Tags, overwrite bool) (finished string, kept []string) {
	rest, fragment, hasFragment := strings.Cut(address, "#")
	path, query, _ := strings.Cut(rest, "?")
	var pairs []string
	if query != "" {
		pairs = strings.Split(query, "&")
	}
	for i, value := range tags.values() {
		if *value == "" {
			continue
		}
		name := Names[i]
		is := func(pair string) bool {
			given, _, _ := strings.Cut(pair, "=")
			return strings.EqualFold(given, name)
		}
		if slices.ContainsFunc(pairs, is) {
			if !overwrite {
				kept = append(kept, name)
				continue
			}
			pairs = slices.DeleteFunc(pairs, is)
		}
		pairs = append(pairs, name+"="+encode(*value))
	}
	if len(pairs) > 0 {
		path += "?" + strings.Join(pairs, "&")
	}
	if hasFragment {
		path += "#" + fragment
	}
	return path, kept
}

// encode writes a value as application/x-www-form-urlencoded (WHATWG URL, 5.2):
// what url.QueryEscape does but for two characters.
func encode(value string) string {
	return strings.NewReplacer("%2A", "*", "~", "%7E").Replace(url.QueryEscape(value))
}
