package daily

import (
	"cmp"
	"maps"
	"slices"

	"jundle/internal/core/source"
)

// PlacesADay is how many places that are not on a page's list one UTC day tells
// apart. Anybody can make up another with every visit, and rows must not grow with
// that; the rest is summed up together, so totals stay what they are.
const PlacesADay = 100

// Beyond lists the unlisted sources that come after the first so many, by visits
// and then by key. What is together already is none of them.
func Beyond(visits map[string]int, most int) []string {
	places := slices.DeleteFunc(slices.Collect(maps.Keys(visits)), func(key string) bool {
		kind, _, unlisted := source.ParseUnlisted(key)
		return !unlisted || kind == source.Others
	})
	if len(places) <= most {
		return nil
	}
	slices.SortFunc(places, func(a, b string) int { return cmp.Or(cmp.Compare(visits[b], visits[a]), cmp.Compare(a, b)) })
	return places[most:]
}

// joinPlaces puts the rows of places beyond PlacesADay together.
func (s *summing) joinPlaces() {
	visits := make(map[string]int)
	for key, row := range s.pages {
		visits[key.Source] += row.Visits
	}
	joined := make(map[string]bool)
	for _, place := range Beyond(visits, PlacesADay) {
		joined[place] = true
	}
	others := source.Others.Key("")
	for key, row := range s.pages {
		if joined[key.Source] {
			delete(s.pages, key)
			key.Source = others
			s.pageRow(key).join(*row)
		}
	}
	for key, row := range s.blocks {
		if joined[key.Source] {
			delete(s.blocks, key)
			key.Source = others
			s.blockRow(key).join(*row)
		}
	}
}

func (r *PageRow) join(other PageRow) {
	r.Views += other.Views
	r.Visits += other.Visits
	r.Visitors += other.Visitors
	r.Clicks += other.Clicks
	r.ClickedVisits += other.ClickedVisits
}

func (r *BlockRow) join(other BlockRow) {
	r.Clicks += other.Clicks
	r.Takers += other.Takers
	r.Reach += other.Reach
}
