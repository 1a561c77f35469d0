package readings

import (
	"maps"
	"slices"
	"strconv"
)

// Table is figures as rows, to be taken away. A cell is a string, an int or a float64.
type Table struct {
	Columns []string
	Rows    [][]any
}

// TableName names a table that a reading can be taken away as.
type TableName string

// The tables of a reading.
const (
	DaysTable      TableName = "days"
	ButtonsTable   TableName = "buttons"
	DailyTable     TableName = "buttons-by-day"
	LinksTable     TableName = "links"
	SourcesTable   TableName = "sources"
	PlacesTable    TableName = "places"
	EvidenceTable  TableName = "evidence"
	DevicesTable   TableName = "devices"
	CountriesTable TableName = "countries"
	LanguagesTable TableName = "languages"
	PaymentTable   TableName = "payment"
	LeftOutTable   TableName = "left-out"
)

// Names are what the keys of a reading stand for.
type Names struct {
	// Blocks, Items and Sources are by key; Items by block and item.
	Blocks, Sources map[string]string
	Items           map[[2]string]string
}

func (n Names) block(key string) string { return named(n.Blocks, key) }

func (n Names) source(key string) string { return named(n.Sources, key) }

func named(names map[string]string, key string) string {
	if name, known := names[key]; known {
		return name
	}
	return key
}

// Table is one of the tables of the reading; every figure in it stands on the screen too. It
// reports false for a name that is none.
func (r Reading) Table(name TableName, names Names) (Table, bool) {
	tables := map[TableName]func(Names) Table{
		DaysTable: r.days, ButtonsTable: r.buttons, DailyTable: r.buttonsByDay, LinksTable: r.links, SourcesTable: r.sources,
		PlacesTable: r.places, EvidenceTable: r.evidence, DevicesTable: r.devices,
		CountriesTable: func(Names) Table { return traits("country", r.Countries) },
		LanguagesTable: func(Names) Table { return traits("language", r.Languages) },
		PaymentTable:   func(Names) Table { return traits("payment", r.Payment) },
		LeftOutTable:   r.leftOut,
	}
	of, known := tables[name]
	if !known {
		return Table{}, false
	}
	return of(names), true
}

func (r Reading) days(names Names) Table {
	sources := r.sourceKeys()
	table := Table{Columns: []string{"day", "views", "visits", "clicks"}}
	for _, key := range sources {
		table.Columns = append(table.Columns, "visits: "+names.source(key))
	}
	table.Columns = distinct(table.Columns)
	for _, day := range r.Days {
		row := []any{day.Date, day.Views, day.Visits, day.Clicks}
		for _, key := range sources {
			row = append(row, day.VisitsBySource[key])
		}
		table.Rows = append(table.Rows, row)
	}
	return table
}

func (r Reading) buttons(names Names) Table {
	table := Table{Columns: []string{"button", "key", "source", "clicks", "takers", "reach", "rate", "rate_low", "rate_high"}}
	add := func(block, source string, f BlockFigures) {
		table.Rows = append(table.Rows, []any{
			names.block(block), block, source, f.Clicks, f.Rate.Taken, f.Rate.Of, f.Rate.Rate, f.Rate.Interval.Low, f.Rate.Interval.High,
		})
	}
	for _, block := range r.Blocks {
		for _, key := range sorted(block.BySource) {
			add(block.Block, names.source(key), block.BySource[key])
		}
	}
	return table
}

func (r Reading) buttonsByDay(names Names) Table {
	table := Table{Columns: []string{"day", "button", "key", "clicks"}}
	for _, block := range r.Blocks {
		for i, clicks := range block.Daily {
			if clicks == 0 {
				continue // of years there would be more of these than of all else
			}
			table.Rows = append(table.Rows, []any{r.Days[i].Date, names.block(block.Block), block.Block, clicks})
		}
	}
	return table
}

func (r Reading) links(names Names) Table {
	table := Table{Columns: []string{"button", "key", "link", "link_key", "source", "clicks"}}
	for _, block := range r.Blocks {
		for _, item := range block.Items {
			title, known := names.Items[[2]string{block.Block, item.Item}]
			if !known {
				title = item.Item
			}
			for _, key := range sorted(item.BySource) {
				row := []any{names.block(block.Block), block.Block, title, item.Item, names.source(key), item.BySource[key]}
				table.Rows = append(table.Rows, row)
			}
		}
	}
	return table
}

// figureColumns are those of headline figures.
var figureColumns = []string{"views", "visits", "visitors", "clicks", "visits_with_click", "rate", "rate_low", "rate_high"}

func (f Figures) cells() []any {
	through := f.ClickThrough
	return []any{
		f.Views, f.Visits, f.Visitors, f.Clicks, through.Taken, through.Rate, through.Interval.Low, through.Interval.High,
	}
}

func (r Reading) sources(names Names) Table {
	table := Table{Columns: append([]string{"source", "key"}, figureColumns...)}
	for _, key := range r.sourceKeys() {
		table.Rows = append(table.Rows, append([]any{names.source(key), key}, r.BySource[key].cells()...))
	}
	return table
}

func (r Reading) places(Names) Table {
	table := Table{Columns: append([]string{"place", "known_by"}, figureColumns...)}
	for _, place := range r.Unlisted {
		table.Rows = append(table.Rows, append([]any{place.Name, string(place.Known)}, place.Figures.cells()...))
	}
	return table
}

func (r Reading) evidence(Names) Table {
	table := Table{Columns: []string{"evidence", "visits"}}
	for _, each := range r.Coverage {
		table.Rows = append(table.Rows, []any{each.By, each.Visits})
	}
	return table
}

func (r Reading) devices(Names) Table {
	table := Table{Columns: []string{"device", "visits"}}
	for _, each := range r.Devices {
		table.Rows = append(table.Rows, []any{each.Device, each.Visits})
	}
	return table
}

func traits(name string, values []TraitReading) Table {
	table := Table{Columns: []string{name, "visits", "visits_with_click", "rate", "rate_low", "rate_high"}}
	for _, v := range values {
		through := v.ClickThrough
		table.Rows = append(table.Rows, []any{v.Value, v.Visits, through.Taken, through.Rate, through.Interval.Low, through.Interval.High})
	}
	return table
}

func (r Reading) leftOut(Names) Table {
	table := Table{Columns: []string{"reason", "views", "clicks"}}
	for _, each := range r.LeftOut {
		table.Rows = append(table.Rows, []any{each.Reason, each.Views, each.Clicks})
	}
	return table
}

func (r Reading) sourceKeys() []string { return sorted(r.BySource) }

// distinct tells columns of one name apart by a number: sources may share a name.
func distinct(columns []string) []string {
	seen := make(map[string]int)
	for i, column := range columns {
		if seen[column]++; seen[column] > 1 {
			columns[i] = column + " (" + strconv.Itoa(seen[column]) + ")"
		}
	}
	return columns
}

func sorted[V any](by map[string]V) []string { return slices.Sorted(maps.Keys(by)) }
