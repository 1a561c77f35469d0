package readings

import (
	"cmp"
	"slices"
)

// Stayed are people who came from one source, left an e-mail address and confirmed it.
type Stayed struct {
	Source string `json:"source" doc:"A source's ID, unlisted or untagged."`
	Rate   Rate   `json:"rate" doc:"Of the visits from there."`
}

// StayedBySource are those of a reading by where they came from, the most first, out of
// counts by source as events have it. Of more people than visits, as many as there were
// visits are taken: of one visit two may sign up.
func StayedBySource(of Reading, counts map[string]int) []Stayed {
	people := make(map[string]int)
	for source, count := range counts {
		people[sourceKey(source)] += count
	}
	stayed := []Stayed{}
	for source, figures := range of.BySource {
		if figures.Visits > 0 || people[source] > 0 {
			stayed = append(stayed, Stayed{source, NewRate(min(people[source], figures.Visits), figures.Visits)})
		}
	}
	slices.SortFunc(stayed, func(a, b Stayed) int {
		if a.Rate.Taken != b.Rate.Taken {
			return b.Rate.Taken - a.Rate.Taken
		}
		return cmp.Compare(a.Source, b.Source)
	})
	return stayed
}
