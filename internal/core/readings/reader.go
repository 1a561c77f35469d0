package readings

import (
	"maps"
	"slices"

	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
)

// tally is what is summed up for the whole page and for each source.
type tally struct {
	views, visits, clicks, clickedVisits int
	visitors                             map[traffic.VisitorKey]bool
}

func (t *tally) event(event traffic.Event) {
	if event.Kind == traffic.View {
		t.views++
	} else {
		t.clicks++
	}
	if t.visitors == nil {
		t.visitors = make(map[traffic.VisitorKey]bool)
	}
	t.visitors[event.Visitor] = true
}

func (t *tally) visit(visit traffic.Visit) {
	t.visits++
	if len(visit.Clicks) > 0 {
		t.clickedVisits++
	}
}

func (t *tally) figures() Figures {
	return Figures{
		Views: t.views, Visits: t.visits, Visitors: len(t.visitors), Clicks: t.clicks,
		ClickThrough: newRate(t.clickedVisits, t.visits),
	}
}

// cell is one block seen from one source.
type cell struct{ clicks, takers, reach int }

func (c cell) figures() BlockFigures {
	return BlockFigures{Clicks: c.clicks, Rate: newRate(c.takers, c.reach)}
}

type row struct {
	total    cell
	bySource map[string]*cell
	daily    []int
}

func (r *row) cell(source string) *cell {
	if r.bySource[source] == nil {
		r.bySource[source] = &cell{}
	}
	return r.bySource[source]
}

// reader sums up one pass over events and one over visits.
type reader struct {
	span    Span
	shown   map[int][]string // keys of what visitors of an edition could press, in order
	total   tally
	sources map[string]*tally
	rows    map[string]*row
	order   []string
	days    []Day
	leftOut map[string]*LeftOut
}

func newReader(span Span, editions map[int]page.Document) *reader {
	r := &reader{
		span: span, shown: make(map[int][]string), sources: make(map[string]*tally),
		rows: make(map[string]*row), leftOut: make(map[string]*LeftOut),
	}
	for number, doc := range editions {
		for _, row := range doc.Rows() {
			r.shown[number] = append(r.shown[number], row.Key)
		}
	}
	for i := range span.Len() {
		r.days = append(r.days, Day{Date: span.Date(i), VisitsBySource: map[string]int{}})
	}
	for _, reason := range traffic.Reasons {
		r.leftOut[reason.Name] = &LeftOut{Reason: reason.Name}
	}
	return r
}

func (r *reader) event(event traffic.Event) {
	if reason := event.Flags.Reason(); reason != "" {
		if event.Kind == traffic.View {
			r.leftOut[reason].Views++
		} else {
			r.leftOut[reason].Clicks++
		}
		return
	}
	r.total.event(event)
	r.source(event.Source).event(event)
	day := r.span.day(event.At)
	if event.Kind == traffic.View {
		if day >= 0 {
			r.days[day].Views++
		}
		return
	}
	row := r.row(event.Block)
	row.total.clicks++
	row.cell(sourceKey(event.Source)).clicks++
	if day >= 0 {
		r.days[day].Clicks++
		row.daily[day]++
	}
}

func (r *reader) visit(visit traffic.Visit) {
	source := sourceKey(visit.Source)
	r.total.visit(visit)
	r.source(visit.Source).visit(visit)
	if day := r.span.day(visit.Start); day >= 0 {
		r.days[day].Visits++
		r.days[day].VisitsBySource[source]++
	}
	for _, block := range r.reached(visit) {
		row := r.row(block)
		for _, cell := range []*cell{&row.total, row.cell(source)} {
			cell.reach++
			if visit.Clicks[block] > 0 {
				cell.takers++
			}
		}
	}
}

// reached lists the blocks a visit was shown: those of its editions. A block it
// clicked was shown to it whatever the editions say.
func (r *reader) reached(visit traffic.Visit) []string {
	var blocks []string
	for _, edition := range visit.Editions {
		for _, block := range r.shown[edition] {
			if len(visit.Editions) == 1 || !slices.Contains(blocks, block) {
				blocks = append(blocks, block)
			}
		}
	}
	for _, block := range slices.Sorted(maps.Keys(visit.Clicks)) {
		if !slices.Contains(blocks, block) {
			blocks = append(blocks, block)
		}
	}
	return blocks
}

func (r *reader) source(id string) *tally {
	key := sourceKey(id)
	if r.sources[key] == nil {
		r.sources[key] = &tally{}
	}
	return r.sources[key]
}

func (r *reader) row(block string) *row {
	if r.rows[block] == nil {
		r.rows[block] = &row{bySource: make(map[string]*cell), daily: make([]int, r.span.Len())}
		r.order = append(r.order, block)
	}
	return r.rows[block]
}

func (r *reader) reading() Reading {
	reading := Reading{
		Total: r.total.figures(), BySource: make(map[string]Figures, len(r.sources)),
		Blocks: []BlockReading{}, Days: r.days, LeftOut: []LeftOut{},
		Missing: max(0, EnoughVisits-r.total.visits),
	}
	for key, tally := range r.sources {
		reading.BySource[key] = tally.figures()
	}
	for _, block := range r.order {
		row := r.rows[block]
		out := BlockReading{Block: block, Total: row.total.figures(), BySource: make(map[string]BlockFigures, len(row.bySource)), Daily: row.daily}
		for source, cell := range row.bySource {
			out.BySource[source] = cell.figures()
		}
		reading.Blocks = append(reading.Blocks, out)
	}
	for _, reason := range traffic.Reasons {
		reading.LeftOut = append(reading.LeftOut, *r.leftOut[reason.Name])
	}
	return reading
}
