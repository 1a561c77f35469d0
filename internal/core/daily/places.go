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

// Places are the unlisted sources that a day tells apart.
type Places map[string]bool

// Admit takes in the places of sums, in its order, as long as there is room
// for them. It reports whether any was new, and whether there was room for all.
func (p Places) Admit(sums Sums) (added, all bool) {
	all = true
	for _, row := range sums.Pages {
		switch {
		case p[row.Source] || !isUnlisted(row.Source):
		case len(p) < PlacesADay:
			p[row.Source], added = true, true
		default:
			all = false
		}
	}
	return added, all
}

// Keys lists them in order.
func (p Places) Keys() []string {
	keys := slices.AppendSeq([]string{}, maps.Keys(p))
	slices.Sort(keys)
	return keys
}

// MostVisited are the places of a whole day that are told apart: the first
// PlacesADay by visits and then by key.
func MostVisited(sums Sums) Places {
	visits := make(map[string]int)
	for _, row := range sums.Pages {
		visits[row.Source] += row.Visits
	}
	told := make(Places)
	for key := range visits {
		if isUnlisted(key) {
			told[key] = true
		}
	}
	for _, place := range Beyond(visits, PlacesADay) {
		delete(told, place)
	}
	return told
}

// isUnlisted says that a key names a place that is on nobody's list. What is
// together already is none.
func isUnlisted(key string) bool {
	kind, _, unlisted := source.ParseUnlisted(key)
	return unlisted && kind != source.Others
}

// togetherIfUnlisted names all places that are on nobody's list alike.
func togetherIfUnlisted(key string) string {
	if isUnlisted(key) {
		return source.Others.Key("")
	}
	return key
}

// Beyond lists the unlisted sources that come after the first so many, by visits
// and then by key.
func Beyond(visits map[string]int, most int) []string {
	places := slices.DeleteFunc(slices.Collect(maps.Keys(visits)), func(key string) bool { return !isUnlisted(key) })
	if len(places) <= most {
		return nil
	}
	slices.SortFunc(places, func(a, b string) int { return cmp.Or(cmp.Compare(visits[b], visits[a]), cmp.Compare(a, b)) })
	return places[most:]
}

// Join puts the rows of all places but these together.
func (s Sums) Join(told Places) Sums {
	others := source.Others.Key("")
	tally := NewTally(nil, nil)
	joined := s
	joined.Pages, joined.Blocks, joined.Items = slices.Clone(s.Pages), slices.Clone(s.Blocks), slices.Clone(s.Items)
	for i, row := range joined.Pages {
		if isUnlisted(row.Source) && !told[row.Source] {
			joined.Pages[i].Source = others
		}
	}
	for i, row := range joined.Blocks {
		if isUnlisted(row.Source) && !told[row.Source] {
			joined.Blocks[i].Source = others
		}
	}
	for i, row := range joined.Items {
		if isUnlisted(row.Source) && !told[row.Source] {
			joined.Items[i].Source = others
		}
	}
	tally.AddSums(joined)
	return tally.Sums()
}

func (r *PageRow) add(other PageRow, sign int) {
	r.Views += sign * other.Views
	r.Visits += sign * other.Visits
	r.Visitors += sign * other.Visitors
	r.Clicks += sign * other.Clicks
	r.ClickedVisits += sign * other.ClickedVisits
}

func (r *BlockRow) add(other BlockRow, sign int) {
	r.Clicks += sign * other.Clicks
	r.Takers += sign * other.Takers
	r.Reach += sign * other.Reach
}
