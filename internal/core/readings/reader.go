package readings

import (
	"cmp"
	"maps"
	"slices"

	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

// tally is what is summed up for the whole page and for each source.
type tally struct{ views, visits, visitors, clicks, clickedVisits int }

func tallyOf(row daily.PageRow) tally {
	return tally{row.Views, row.Visits, row.Visitors, row.Clicks, row.ClickedVisits}
}

func (t *tally) add(other tally) {
	t.views += other.views
	t.visits += other.visits
	t.visitors += other.visitors
	t.clicks += other.clicks
	t.clickedVisits += other.clickedVisits
}

func (t *tally) figures() Figures {
	return Figures{
		Views: t.views, Visits: t.visits, Visitors: t.visitors, Clicks: t.clicks,
		ClickThrough: NewRate(t.clickedVisits, t.visits),
	}
}

// cell is one block seen from one source.
type cell struct{ clicks, takers, reach int }

func (c *cell) add(row daily.BlockRow) {
	c.clicks += row.Clicks
	c.takers += row.Takers
	c.reach += row.Reach
}

func (c *cell) figures() BlockFigures {
	return BlockFigures{Clicks: c.clicks, Rate: NewRate(c.takers, c.reach)}
}

type row struct {
	total    cell
	bySource map[string]*cell
	daily    []int
	items    map[string]*itemCell
}

// itemCell is one of several things on a block.
type itemCell struct {
	clicks, takers int
	bySource       map[string]int
}

// reader sums up rows.
type reader struct {
	days    []Day
	indices map[string]int // of days, by date
	total   tally
	sources map[string]*tally
	places  map[string]*tally // that are not on the list, by key
	rows    map[string]*row
	leftOut map[string]*LeftOut
	visits  map[source.By]int
	devices map[traffic.Device]int
	traits  map[daily.Trait]map[string]*tally
}

func newReader(span Span) *reader {
	r := &reader{
		indices: make(map[string]int), sources: make(map[string]*tally), places: make(map[string]*tally), rows: make(map[string]*row),
		leftOut: make(map[string]*LeftOut), visits: make(map[source.By]int), devices: make(map[traffic.Device]int),
		traits: map[daily.Trait]map[string]*tally{},
	}
	for i := range span.Len() {
		r.indices[span.Date(i)] = i
		r.days = append(r.days, Day{Date: span.Date(i), VisitsBySource: map[string]int{}})
	}
	for _, reason := range traffic.Reasons {
		r.leftOut[reason.Name] = &LeftOut{Reason: reason.Name}
	}
	return r
}

func (r *reader) page(row daily.PageRow) {
	i, within := r.indices[row.Day]
	if !within {
		return
	}
	key := sourceKey(row.Source)
	if r.sources[key] == nil {
		r.sources[key] = &tally{}
	}
	figures := tallyOf(row)
	r.total.add(figures)
	r.sources[key].add(figures)
	if key == Unlisted {
		if r.places[row.Source] == nil {
			r.places[row.Source] = &tally{}
		}
		r.places[row.Source].add(figures)
	}
	r.visits[row.Evidence] += row.Visits
	r.devices[row.Device] += row.Visits
	day := &r.days[i]
	day.Views += row.Views
	day.Visits += row.Visits
	day.Clicks += row.Clicks
	if row.Visits > 0 {
		day.VisitsBySource[key] += row.Visits
	}
}

func (r *reader) block(from daily.BlockRow) {
	i, within := r.indices[from.Day]
	if !within {
		return
	}
	row, key := r.row(from.Block), sourceKey(from.Source)
	if row.bySource[key] == nil {
		row.bySource[key] = &cell{}
	}
	row.total.add(from)
	row.bySource[key].add(from)
	row.daily[i] += from.Clicks
}

func (r *reader) row(block string) *row {
	if r.rows[block] == nil {
		r.rows[block] = &row{bySource: make(map[string]*cell), daily: make([]int, len(r.days)), items: make(map[string]*itemCell)}
	}
	return r.rows[block]
}

func (r *reader) item(from daily.ItemRow) {
	if _, within := r.indices[from.Day]; !within {
		return
	}
	items := r.row(from.Block).items
	if items[from.Item] == nil {
		items[from.Item] = &itemCell{bySource: make(map[string]int)}
	}
	item := items[from.Item]
	item.clicks += from.Clicks
	item.takers += from.Takers
	item.bySource[sourceKey(from.Source)] += from.Clicks
}

func (r *reader) trait(row daily.TraitRow) {
	if _, within := r.indices[row.Day]; !within {
		return
	}
	if r.traits[row.Trait] == nil {
		r.traits[row.Trait] = make(map[string]*tally)
	}
	values := r.traits[row.Trait]
	if values[row.Value] == nil {
		values[row.Value] = &tally{}
	}
	values[row.Value].add(tally{visits: row.Visits, clickedVisits: row.ClickedVisits})
}

// traitReadings are the values of a trait, most visits first. Visits of days whose events
// were deleted before traits were summed up are among those of whom nobody knows.
func (r *reader) traitReadings(of daily.Trait) []TraitReading {
	list := []TraitReading{}
	rest := tally{visits: r.total.visits, clickedVisits: r.total.clickedVisits}
	for value, sum := range r.traits[of] {
		rest.visits -= sum.visits
		rest.clickedVisits -= sum.clickedVisits
		if value != "" {
			list = append(list, TraitReading{value, sum.visits, NewRate(sum.clickedVisits, sum.visits)})
		} else {
			rest.visits += sum.visits
			rest.clickedVisits += sum.clickedVisits
		}
	}
	if rest.visits > 0 {
		list = append(list, TraitReading{"", rest.visits, NewRate(rest.clickedVisits, rest.visits)})
	}
	slices.SortFunc(list, func(a, b TraitReading) int {
		return cmp.Or(cmp.Compare(b.Visits, a.Visits), cmp.Compare(a.Value, b.Value))
	})
	return list
}

func (r *row) itemReadings() []ItemReading {
	list := []ItemReading{}
	for key, item := range r.items {
		list = append(list, ItemReading{key, item.clicks, NewRate(item.takers, r.total.reach), item.bySource})
	}
	slices.SortFunc(list, func(a, b ItemReading) int {
		return cmp.Or(cmp.Compare(b.Clicks, a.Clicks), cmp.Compare(a.Item, b.Item))
	})
	return list
}

func (r *reader) out(row daily.LeftOutRow) {
	if _, within := r.indices[row.Day]; !within {
		return
	}
	r.leftOut[row.Reason].Views += row.Views
	r.leftOut[row.Reason].Clicks += row.Clicks
}

// joinPlaces puts together what comes after the places that are shown.
func (r *reader) joinPlaces() {
	visits := make(map[string]int, len(r.places))
	for key, tally := range r.places {
		visits[key] = tally.visits
	}
	others := source.Others.Key("")
	for _, key := range daily.Beyond(visits, PlacesShown) {
		if r.places[others] == nil {
			r.places[others] = &tally{}
		}
		r.places[others].add(*r.places[key])
		delete(r.places, key)
	}
}

func (r *reader) unlisted() []UnlistedReading {
	r.joinPlaces()
	list := []UnlistedReading{}
	for key, tally := range r.places {
		known, name, _ := source.ParseUnlisted(key)
		list = append(list, UnlistedReading{Key: key, Known: known, Name: name, Figures: tally.figures()})
	}
	last := func(row UnlistedReading) int {
		if row.Known == source.Others {
			return 1
		}
		return 0
	}
	slices.SortFunc(list, func(a, b UnlistedReading) int {
		return cmp.Or(cmp.Compare(last(a), last(b)), cmp.Compare(b.Figures.Visits, a.Figures.Visits), cmp.Compare(a.Key, b.Key))
	})
	return list
}

func (r *reader) reading() Reading {
	reading := Reading{
		Total: r.total.figures(), BySource: make(map[string]Figures, len(r.sources)),
		Blocks: []BlockReading{}, Days: r.days, LeftOut: []LeftOut{}, Coverage: []Evidence{}, Devices: []DeviceReading{},
		Missing: max(0, EnoughVisits-r.total.visits), Unlisted: r.unlisted(),
		Countries: r.traitReadings(daily.Country), Languages: r.traitReadings(daily.Language), Payment: r.traitReadings(daily.Payment),
	}
	for key, tally := range r.sources {
		reading.BySource[key] = tally.figures()
	}
	for _, block := range slices.Sorted(maps.Keys(r.rows)) {
		row := r.rows[block]
		out := BlockReading{
			Block: block, Total: row.total.figures(), BySource: make(map[string]BlockFigures, len(row.bySource)),
			Daily: row.daily, Items: row.itemReadings(),
		}
		for source, cell := range row.bySource {
			out.BySource[source] = cell.figures()
		}
		reading.Blocks = append(reading.Blocks, out)
	}
	for _, reason := range traffic.Reasons {
		reading.LeftOut = append(reading.LeftOut, *r.leftOut[reason.Name])
	}
	for _, by := range source.Kinds {
		reading.Coverage = append(reading.Coverage, Evidence{By: string(by), Visits: r.visits[by]})
	}
	for _, device := range traffic.Devices {
		reading.Devices = append(reading.Devices, DeviceReading{Device: string(device), Visits: r.devices[device]})
	}
	return reading
}
