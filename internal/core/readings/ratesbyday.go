package readings

import (
	"iter"
	"maps"
	"slices"

	"jundle/internal/core/daily"
	"jundle/internal/core/stats"
)

// ratesByDay are counts by day and source: a row for each day of a span, and a column for each source.
type ratesByDay struct {
	of    *dayTable
	cells []stats.DailyRate
}

// dayTable numbers the days of a span, and sources, in order.
type dayTable struct {
	rows    map[string]int // by date
	columns map[string]int // by source as it stands in sums
	days    []int
	names   []string
}

// dayTableOf numbers the days of spans and the sources of rows.
func dayTableOf(sources iter.Seq[string], spans ...Span) *dayTable {
	t := &dayTable{rows: make(map[string]int), columns: make(map[string]int)}
	numbers := make(map[string]int)
	for _, span := range spans {
		maps.Copy(numbers, dayNumbers(span))
	}
	dates := slices.Sorted(maps.Keys(numbers))
	for i, date := range dates {
		t.rows[date] = i
		t.days = append(t.days, numbers[date])
	}
	for source := range sources {
		t.columns[source] = 0
	}
	for source := range t.columns {
		t.names = append(t.names, sourceKey(source))
	}
	slices.Sort(t.names)
	t.names = slices.Compact(t.names)
	for source := range t.columns {
		t.columns[source], _ = slices.BinarySearch(t.names, sourceKey(source))
	}
	return t
}

func (t *dayTable) rates() ratesByDay {
	return ratesByDay{t, make([]stats.DailyRate, len(t.days)*len(t.names))}
}

func (r ratesByDay) add(row, column, taken, of int) {
	cell := &r.cells[row*len(r.of.names)+column]
	cell.Taken, cell.Of = cell.Taken+taken, cell.Of+of
}

// list are the cells of which something is known, in order, of all days or those of a span.
func (r ratesByDay) list(spans ...Span) (rates []stats.DailyRate) {
	from, to := 0, len(r.of.days)
	for _, span := range spans {
		from, to = r.of.rows[span.Date(0)], r.of.rows[span.Date(span.Len()-1)]+1
	}
	rates = make([]stats.DailyRate, 0, (to-from)*len(r.of.names))
	for row := from; row < to; row++ {
		day := r.of.days[row]
		for column, name := range r.of.names {
			if cell := r.cells[row*len(r.of.names)+column]; cell.Of > 0 || cell.Taken > 0 {
				cell.Day, cell.Stratum = day, name
				rates = append(rates, cell)
			}
		}
	}
	return rates
}

func sourcesOfPages(rows []daily.PageRow) iter.Seq[string] {
	return func(yield func(string) bool) {
		for i := range rows {
			if !yield(rows[i].Source) {
				return
			}
		}
	}
}

func sourcesOfBlocks(rows []daily.BlockRow) iter.Seq[string] {
	return func(yield func(string) bool) {
		for i := range rows {
			if !yield(rows[i].Source) {
				return
			}
		}
	}
}

// wholeByDay are how many visits pressed anything on each day of a span and of its history, of all sources together.
func wholeByDay(span Span, sums daily.Sums) []stats.DailyRate {
	table := dayTableOf(slices.Values([]string{""}), span, span.History())
	rates := table.rates()
	for i := range sums.Pages {
		row := &sums.Pages[i]
		if day, there := table.rows[row.Day]; there {
			rates.add(day, 0, row.ClickedVisits, row.Visits)
		}
	}
	return rates.list()
}

// throughByDay are how many visits of each source pressed anything on each day of a span.
func throughByDay(span Span, sums daily.Sums) []stats.DailyRate {
	table := dayTableOf(sourcesOfPages(sums.Pages), span)
	rates := table.rates()
	for i := range sums.Pages {
		row := &sums.Pages[i]
		if day, there := table.rows[row.Day]; there {
			rates.add(day, table.columns[row.Source], row.ClickedVisits, row.Visits)
		}
	}
	return rates.list()
}

// blocksByDay are how many visits of each source pressed each block on each day of spans.
func blocksByDay(sums daily.Sums, spans ...Span) map[string]ratesByDay {
	table := dayTableOf(sourcesOfBlocks(sums.Blocks), spans...)
	blocks := make(map[string]ratesByDay)
	for i := range sums.Blocks {
		row := &sums.Blocks[i]
		day, there := table.rows[row.Day]
		if !there {
			continue
		}
		rates, known := blocks[row.Block]
		if !known {
			rates = table.rates()
			blocks[row.Block] = rates
		}
		rates.add(day, table.columns[row.Source], row.Takers, row.Reach)
	}
	return blocks
}

// dayNumbers are the numbers of the days of a span, by date.
func dayNumbers(span Span) map[string]int {
	numbers := make(map[string]int, span.Len())
	for i := range span.Len() {
		numbers[span.Date(i)] = dayNumber(span.Date(i))
	}
	return numbers
}

// together are the rates of all sources of a day as one; they are in the order of days.
func together(rates []stats.DailyRate) (all []stats.DailyRate) {
	for _, each := range rates {
		if last := len(all) - 1; last >= 0 && all[last].Day == each.Day {
			all[last].Taken, all[last].Of = all[last].Taken+each.Taken, all[last].Of+each.Of
		} else {
			all = append(all, stats.DailyRate{Day: each.Day, Taken: each.Taken, Of: each.Of})
		}
	}
	return all
}
