package destination

import (
	"net/url"
	"slices"
	"strings"

	"jundle/internal/core/invalid"
)

// Many is a change that is made to many destinations at once: any of its parts.
type Many struct {
	Host         *HostSwap      `json:"host,omitempty" doc:"Another host in place of one."`
	Parameter    *ParameterSwap `json:"parameter,omitempty" doc:"Another value of a parameter of addresses."`
	AddLabels    []string       `json:"addLabels,omitempty" maxItems:"10"`
	RemoveLabels []string       `json:"removeLabels,omitempty" maxItems:"10"`
}

// HostSwap puts one host in place of another; path, query and fragment stay.
type HostSwap struct {
	From string `json:"from" maxLength:"255" doc:"Host, with its port where it has one of its own."`
	To   string `json:"to" maxLength:"255"`
}

// ParameterSwap gives a parameter of the query another value, where there is one of that
// name. All else of the address stays as it was written.
type ParameterSwap struct {
	Name string `json:"name" minLength:"1" maxLength:"100"`
	From string `json:"from,omitempty" maxLength:"500" doc:"Only where it has this value; whatever it has when left out."`
	To   string `json:"to,omitempty" maxLength:"500" doc:"The parameter is taken out when left out."`
}

// Tidy checks a change. The error is an *invalid.Error under the names of the fields.
func (m Many) Tidy() (Many, error) {
	var wrong invalid.List
	if m.Host != nil {
		host := HostSwap{From: hostIn(m.Host.From), To: hostIn(m.Host.To)}
		if host.From == "" {
			wrong.Add("host/from", "Say which host: partner.example, for instance.")
		}
		if host.To == "" {
			wrong.Add("host/to", "Say which host comes in its place: new-partner.example, for instance.")
		}
		m.Host = &host
	}
	if m.Parameter != nil {
		parameter := *m.Parameter
		if parameter.Name = strings.TrimSpace(parameter.Name); parameter.Name == "" {
			wrong.Add("parameter/name", "Say which parameter: “partner” in ?partner=12, for instance.")
		}
		m.Parameter = &parameter
	}
	m.AddLabels = invalid.Labels(&wrong, "addLabels", m.AddLabels)
	m.RemoveLabels = invalid.Labels(&wrong, "removeLabels", m.RemoveLabels)
	if m.Host == nil && m.Parameter == nil && len(m.AddLabels)+len(m.RemoveLabels) == 0 {
		wrong.Add("", "Say what is to be changed.")
	}
	return m, wrong.Err()
}

// hostIn is the host in what was typed, which may be a whole address; empty for none.
func hostIn(typed string) string {
	typed = strings.TrimSpace(typed)
	if !strings.Contains(typed, "://") {
		typed = "https://" + typed
	}
	parsed, err := url.Parse(typed)
	if err != nil {
		return ""
	}
	return strings.ToLower(parsed.Host)
}

// Apply makes the change to a destination that was tidied before. The error says why it
// cannot be made to this one.
func (m Many) Apply(to Destination) (Destination, error) {
	changed := to
	changed.Address = m.readdressed(to.Address)
	changed.Swaps = slices.Clone(to.Swaps)
	for i := range changed.Swaps {
		changed.Swaps[i].Address = m.readdressed(changed.Swaps[i].Address)
	}
	changed.Labels = []string{}
	for _, label := range to.Labels {
		if !slices.ContainsFunc(m.RemoveLabels, func(other string) bool { return strings.EqualFold(label, other) }) {
			changed.Labels = append(changed.Labels, label)
		}
	}
	changed.Labels = append(changed.Labels, m.AddLabels...)
	return changed.Tidy()
}

func (m Many) readdressed(address string) string {
	if !IsWeb(address) {
		return address
	}
	if m.Host != nil {
		address = m.Host.in(address)
	}
	if m.Parameter != nil {
		address = m.Parameter.in(address)
	}
	return address
}

func (s HostSwap) in(address string) string {
	parsed, err := url.Parse(address)
	if err != nil || !strings.EqualFold(parsed.Host, s.From) {
		return address
	}
	scheme, rest, _ := strings.Cut(address, "://")
	return scheme + "://" + s.To + rest[len(parsed.Host):]
}

func (s ParameterSwap) in(address string) string {
	rest, fragment, hasFragment := strings.Cut(address, "#")
	path, query, hasQuery := strings.Cut(rest, "?")
	if !hasQuery {
		return address
	}
	var pairs []string
	for pair := range strings.SplitSeq(query, "&") {
		name, value, _ := strings.Cut(pair, "=")
		name, wrongName := url.QueryUnescape(name)
		value, wrongValue := url.QueryUnescape(value)
		switch {
		case wrongName != nil || wrongValue != nil || name != s.Name || s.From != "" && value != s.From:
			pairs = append(pairs, pair)
		case s.To != "":
			written, _, _ := strings.Cut(pair, "=")
			pairs = append(pairs, written+"="+url.QueryEscape(s.To))
		}
	}
	swapped := path
	if len(pairs) > 0 {
		swapped += "?" + strings.Join(pairs, "&")
	}
	if hasFragment {
		swapped += "#" + fragment
	}
	return swapped
}
