package readings

import (
	"jundle/internal/core/daily"
	"jundle/internal/core/source"
)

// fewPlain is below how many visits nothing is said of a profile's address.
const fewPlain = 10

// StillPlain is a source most of whose visits bring no tag, though it has one: the plain address of the
// page may stand there. What else such visits bring named it.
type StillPlain struct {
	Source string `json:"source"`
	// Visits came from it without a tag; Tagged with one.
	Visits int `json:"visits"`
	Tagged int `json:"tagged"`
	// ADay are those from nobody knows where, of which some are likely its own.
	ADay float64 `json:"aDay" doc:"Untagged visits a day."`
}

// FindStillPlain is the source with the most such visits; nil when there is none.
func FindStillPlain(span Span, sums daily.Sums, listed []string) *StillPlain {
	d := newDetail(span)
	plain, tagged, untagged := make(map[string]int), make(map[string]int), 0
	for _, row := range sums.Pages {
		if _, within := d.indices[row.Day]; !within {
			continue
		}
		switch row.Evidence {
		case source.ByTag:
			tagged[row.Source] += row.Visits
		case source.ByReferrer, source.ByApp:
			plain[row.Source] += row.Visits
		case source.Untagged:
			untagged += row.Visits
		}
	}
	var most *StillPlain
	for _, from := range listed {
		if plain[from] < fewPlain || plain[from] < tagged[from] || most != nil && plain[from] <= most.Visits {
			continue
		}
		most = &StillPlain{from, plain[from], tagged[from], float64(untagged) / float64(max(1, span.Len()))}
	}
	return most
}
