package readings

import (
	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

// Detail is one block, one source, or a block from one source, day by day.
type Detail struct {
	Days    []DetailDay    `json:"days" nullable:"false"`
	Total   BlockFigures   `json:"total" doc:"Of a block, takers of reach; of a source, visits with a click of visits."`
	Devices []DetailDevice `json:"devices" nullable:"false"`
	// Weekdays are sums of the days of each name.
	Weekdays []BlockFigures `json:"weekdays" nullable:"false" doc:"Seven, Monday first."`
}

// DetailDay is one day of a detail.
type DetailDay struct {
	Date   string `json:"date" doc:"YYYY-MM-DD"`
	Of     int    `json:"of" doc:"Reach of a block, visits of a source."`
	Taken  int    `json:"taken" doc:"Takers of a block, visits of a source with a click."`
	Clicks int    `json:"clicks"`
}

// DetailDevice is what one class of device brought.
type DetailDevice struct {
	Device  string       `json:"device" enum:"phone,tablet,desktop"`
	Figures BlockFigures `json:"figures"`
}

// OfBlock reads one block of a page, from one source unless that is empty.
func OfBlock(span Span, sums daily.Sums, block, from string) Detail {
	d := newDetail(span)
	for _, row := range sums.Blocks {
		if row.Block == block && (from == "" || sourceKey(row.Source) == from) {
			d.add(row.Day, row.Device, cell{row.Clicks, row.Takers, row.Reach})
		}
	}
	return d.detail()
}

// OfSource reads one source of a page.
func OfSource(span Span, sums daily.Sums, from string) Detail {
	d := newDetail(span)
	for _, row := range sums.Pages {
		if sourceKey(row.Source) == from {
			d.add(row.Day, row.Device, cell{row.Clicks, row.ClickedVisits, row.Visits})
		}
	}
	return d.detail()
}

// detailer adds up a detail.
type detailer struct {
	span    Span
	indices map[string]int // of days, by date
	days    []cell
	devices map[traffic.Device]*cell
}

func newDetail(span Span) *detailer {
	d := &detailer{span: span, indices: make(map[string]int), days: make([]cell, span.Len()), devices: make(map[traffic.Device]*cell)}
	for i := range span.Len() {
		d.indices[span.Date(i)] = i
	}
	for _, device := range traffic.Devices {
		d.devices[device] = &cell{}
	}
	return d
}

func (d *detailer) add(day string, device traffic.Device, brought cell) {
	i, within := d.indices[day]
	if !within {
		return
	}
	d.days[i].join(brought)
	d.devices[device].join(brought)
}

func (d *detailer) detail() Detail {
	detail := Detail{Days: []DetailDay{}, Devices: []DetailDevice{}, Weekdays: []BlockFigures{}}
	total, weekdays := cell{}, [7]cell{}
	for i, day := range d.days {
		detail.Days = append(detail.Days, DetailDay{Date: d.span.Date(i), Of: day.reach, Taken: day.takers, Clicks: day.clicks})
		total.join(day)
		weekdays[weekday(d.span, i)].join(day)
	}
	detail.Total = total.figures()
	for _, device := range traffic.Devices {
		detail.Devices = append(detail.Devices, DetailDevice{string(device), d.devices[device].figures()})
	}
	for _, day := range weekdays {
		detail.Weekdays = append(detail.Weekdays, day.figures())
	}
	return detail
}

// weekday counts from Monday, as ISO 8601 does; Go's week begins on Sunday.
func weekday(span Span, day int) int { return (int(span.Days[day].Weekday()) + 6) % 7 }

func (c *cell) join(other cell) {
	c.clicks += other.clicks
	c.takers += other.takers
	c.reach += other.reach
}

// EvidenceOf is what the visits of a source rest on, in the order in which evidence is asked.
func EvidenceOf(span Span, sums daily.Sums, from string) []Evidence {
	d, visits := newDetail(span), make(map[source.By]int)
	for _, row := range sums.Pages {
		if _, within := d.indices[row.Day]; within && sourceKey(row.Source) == from {
			visits[row.Evidence] += row.Visits
		}
	}
	list := []Evidence{}
	for _, by := range source.Kinds {
		if visits[by] > 0 {
			list = append(list, Evidence{By: string(by), Visits: visits[by]})
		}
	}
	return list
}
