package readings

import (
	"maps"
	"slices"

	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/stats"
)

// EnoughVisits is how many visits a rate rests on before it is coloured or
// compared; below it the screen says how many are missing.
const EnoughVisits = 30

// PlacesShown is how many places that are not on the list a reading tells apart.
const PlacesShown = 50

// Keys under which visits are split that came from none of the page's sources:
// from places that are not on its list, all together, and from nobody knows
// where.
const (
	Unlisted = "unlisted"
	Untagged = "untagged"
)

// Rate is a share with how sure it is.
type Rate struct {
	Taken    int            `json:"taken"`
	Of       int            `json:"of"`
	Rate     float64        `json:"rate" doc:"taken / of, 0 when of is 0."`
	Interval stats.Interval `json:"interval" doc:"95 % Wilson interval."`
}

// NewRate is the rate of so many of so many.
func NewRate(taken, of int) Rate {
	rate := Rate{Taken: taken, Of: of, Interval: stats.Wilson(taken, of)}
	if of > 0 {
		rate.Rate = float64(taken) / float64(of)
	}
	return rate
}

// Figures are the headline figures of a page or of one source.
type Figures struct {
	Views        int  `json:"views"`
	Visits       int  `json:"visits"`
	Visitors     int  `json:"visitors" doc:"Sum of daily keys, each under the source of its first visit that day."`
	Clicks       int  `json:"clicks"`
	ClickThrough Rate `json:"clickThrough" doc:"Visits with a click, of all visits."`
}

// BlockFigures are the figures of one block, for all sources or for one.
type BlockFigures struct {
	Clicks int  `json:"clicks" doc:"May exceed the visits that clicked."`
	Rate   Rate `json:"rate" doc:"Takers of reach: visits that clicked it, of visits that were shown it."`
}

// BlockReading is one row of the buttons x sources table.
type BlockReading struct {
	Block    string                  `json:"block"`
	Total    BlockFigures            `json:"total"`
	BySource map[string]BlockFigures `json:"bySource" doc:"Keyed by source ID, unlisted and untagged."`
	Daily    []int                   `json:"daily" nullable:"false" doc:"Clicks on each day of the range."`
	Items    []ItemReading           `json:"items" nullable:"false" doc:"What was pressed on a block with several things to press."`
}

// ItemReading is what one of several things on a block was pressed.
type ItemReading struct {
	Item     string         `json:"item"`
	Clicks   int            `json:"clicks"`
	Rate     Rate           `json:"rate" doc:"Takers of the block's reach."`
	BySource map[string]int `json:"bySource" doc:"Clicks, keyed as those of the block."`
}

// TraitReading is how many visits had a value of something that is known of them.
type TraitReading struct {
	Value        string `json:"value" doc:"Empty for visits of which it is not known."`
	Visits       int    `json:"visits"`
	ClickThrough Rate   `json:"clickThrough"`
}

// Day is one point on the line over time.
type Day struct {
	Date           string         `json:"date" doc:"YYYY-MM-DD in the workspace's time zone."`
	Views          int            `json:"views"`
	Visits         int            `json:"visits"`
	Clicks         int            `json:"clicks"`
	VisitsBySource map[string]int `json:"visitsBySource"`
}

// LeftOut counts events that were kept and not counted, for one reason.
type LeftOut struct {
	Reason string `json:"reason" enum:"crawler,preview,prefetch,own,flood,repeat"`
	Views  int    `json:"views"`
	Clicks int    `json:"clicks"`
}

// Evidence is how many visits rest on one kind of evidence.
type Evidence struct {
	By     string `json:"by" enum:"tag,campaign,referrer,app,untagged"`
	Visits int    `json:"visits"`
}

// DeviceReading is how many visits came from one class of device.
type DeviceReading struct {
	Device string `json:"device" enum:"phone,tablet,desktop"`
	Visits int    `json:"visits"`
}

// UnlistedReading is what one place that is not on the list of sources brought.
type UnlistedReading struct {
	Key     string          `json:"key" doc:"What it is adopted by."`
	Known   source.Unlisted `json:"known" enum:"campaign,network,host,several,others" doc:"several: a network of more than one source."`
	Name    string          `json:"name"`
	Figures Figures         `json:"figures"`
}

// Reading is everything the figures say of one page in one span.
type Reading struct {
	Total    Figures            `json:"total"`
	BySource map[string]Figures `json:"bySource" doc:"Keyed by source ID, unlisted and untagged."`
	Unlisted []UnlistedReading  `json:"unlisted" nullable:"false" doc:"Most visits first; fifty at most, then the others together."`
	Blocks   []BlockReading     `json:"blocks" nullable:"false" doc:"Every block that was shown or clicked, by key."`
	Days     []Day              `json:"days" nullable:"false"`
	LeftOut  []LeftOut          `json:"leftOut" nullable:"false"`
	Coverage []Evidence         `json:"coverage" nullable:"false" doc:"Visits by the evidence of their source, in the order asked."`
	Devices  []DeviceReading    `json:"devices" nullable:"false"`
	// Each of these adds up to all visits.
	Countries []TraitReading `json:"countries" nullable:"false" doc:"By ISO 3166-1 alpha-2, most visits first."`
	Languages []TraitReading `json:"languages" nullable:"false" doc:"By ISO 639-1, that browsers ask for first; most visits first."`
	Payment   []TraitReading `json:"payment" nullable:"false" doc:"paid, for visits that an advertisement brought, and unpaid."`
	// StillPlain is for whoever knows which sources have a profile.
	StillPlain *StillPlain `json:"stillPlain,omitempty" doc:"A profile that may still have the plain address."`
	// Recounting is for whoever reads the sums to set.
	Recounting int `json:"recounting" doc:"How many days of the span are being summed up anew; until then their figures are those of before."`
	Missing    int `json:"missing" doc:"How many more visits are needed before a rate says anything; 0 when there are enough."`
}

// Read computes the figures of a page from its daily changed. Rows of days
// outside the span take no part.
func Read(span Span, sums daily.Sums) Reading {
	reader := newReader(span)
	for _, row := range sums.Pages {
		reader.page(row)
	}
	for _, row := range sums.Blocks {
		reader.block(row)
	}
	for _, row := range sums.LeftOut {
		reader.out(row)
	}
	for _, row := range sums.Items {
		reader.item(row)
	}
	for _, row := range sums.Traits {
		reader.trait(row)
	}
	reading := reader.reading()
	reading.StillPlain = FindStillPlain(span, sums, slices.Sorted(maps.Keys(reader.sources)))
	return reading
}

func sourceKey(key string) string {
	if key == "" {
		return Untagged
	}
	if _, _, ok := source.ParseUnlisted(key); ok {
		return Unlisted
	}
	return key
}
