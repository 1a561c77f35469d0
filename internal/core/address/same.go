package address

import "strings"

// Key returns what two addresses share when they lead to the same destination:
// the host lower-cased, a default port dropped, an empty path read as "/", and
// the utm_ parameters left out. An address that cannot be linked is its own key.
func Key(text string) string {
	link, err := ParseLink(text)
	if err != nil {
		return text
	}
	if !link.IsWeb() {
		return link.URL
	}
	// The WHATWG parser has already lower-cased the host, dropped a default
	// port and filled in the empty path.
	rest, fragment, hasFragment := strings.Cut(link.URL, "#")
	path, query, hasQuery := strings.Cut(rest, "?")
	if hasQuery {
		if kept := withoutCampaign(query); kept != "" {
			path += "?" + kept
		}
	}
	if hasFragment {
		path += "#" + fragment
	}
	return path
}

// Same tells whether two addresses lead to the same destination.
func Same(a, b string) bool { return Key(a) == Key(b) }

func withoutCampaign(query string) string {
	var kept []string
	for _, pair := range strings.Split(query, "&") {
		name, _, _ := strings.Cut(pair, "=")
		if pair != "" && !strings.HasPrefix(strings.ToLower(name), "utm_") {
			kept = append(kept, pair)
		}
	}
	return strings.Join(kept, "&")
}
