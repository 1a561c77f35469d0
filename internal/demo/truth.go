package demo

import (
	"math"

	"jundle/internal/core/page"
)

// The true values that the simulator makes visits from. Readings can be held
// against them.

// blockTruth is a block and how strongly it appeals: the chance that a visitor
// who sees it presses it.
type blockTruth struct {
	title, address string
	pictured       bool
	appeal         float64
}

var blocks = map[string]blockTruth{
	"openings": {"Kiln opening dates", "https://quarrow.example/kiln-openings", true, 0.17},
	"throwing": {"Book a seat: throwing weekend", "https://seats.quarrow.example/throwing", true, 0.12},
	"recipes":  {"Glaze recipes (PDF)", "https://quarrow.example/files/glaze-recipes", true, 0.20},
	"seconds":  {"Seconds sale: small faults, half price", "https://shop.quarrow.example/seconds", true, 0.24},
	"film":     {"Film: forty hours of fire", "https://wavecastle.example/watch/forty-hours", true, 0.11},
	"stockist": {"Where to find our pots", "https://quarrow.example/stockists", false, 0.06},
	"message":  {"Commissions: write to me", "mailto:commissions@quarrow.example", false, 0.04},
	"kilnfund": {"A tip for the kiln fund", "https://tips.example/kiln-fund", false, 0.03},
	"letter":   {"Get the studio letter", "https://letter.quarrow.example/join", false, 0.09},
	"handbuil": {"Hand-building evening", "https://seats.quarrow.example/handbuilding", true, 0.19},
	"giftseat": {"A seat as a gift", "https://seats.quarrow.example/gift", false, 0.08},
}

// seen is the chance that a visitor gets as far as a place.
func seen(place int) float64 { return math.Pow(0.91, float64(place-1)) }

// sourceTruth is a source and its visits on an ordinary day.
type sourceTruth struct {
	name, tag, network string
	perDay             float64
	// tagLeftOut: the bare address was pasted, so its visits are untagged.
	tagLeftOut bool
	// favours is a block that people from here press more often, by factor.
	favours string
	factor  float64
	// boom: this source multiplies while the film takes off.
	boom float64
}

var clay = pageStory{
	header:   page.Header{Name: "Quarrow Clay", Line: "Wood-fired pots from a small studio by the river. I’m Ilse; the kiln opens four times a year."},
	portrait: "quarrow clay",
	sources: []sourceTruth{
		{name: "Photoloft", tag: "loft", network: "photoloft", perDay: 24, favours: "openings", factor: 1.4, boom: 1.2},
		{name: "Reelpond", tag: "reel", network: "reelpond", perDay: 13, favours: "film", factor: 2.6, boom: 6},
		{name: "Wavecastle", tag: "wave", network: "wavecastle", perDay: 7, favours: "recipes", factor: 1.7, boom: 3},
		{name: "Pinmoss", tag: "moss", network: "pinmoss", perDay: 6, tagLeftOut: true, favours: "recipes", factor: 1.5},
		{name: "Printed card", tag: "card", perDay: 3, favours: "stockist", factor: 3},
		{name: "Studio letter", tag: "post", perDay: 5, favours: "seconds", factor: 1.6},
	},
	editions: []editionStory{
		{0, []string{"openings", "throwing", "recipes", "film", "stockist", "message", "kilnfund", "letter"}},
		{saleFrom, []string{"seconds", "openings", "throwing", "recipes", "film", "letter", "stockist", "message", "kilnfund"}},
		{saleTo, []string{"openings", "throwing", "recipes", "film", "seconds", "letter", "stockist", "message", "kilnfund"}},
	},
	waiting: []string{"openings", "recipes", "throwing", "film", "seconds", "letter", "stockist", "message", "kilnfund"},
	hidden:  "seconds",
}

var workshop = pageStory{
	header:   page.Header{Name: "Quarrow Workshops", Line: "Learn to throw, build and glaze. Six seats, clay and lunch included."},
	portrait: "quarrow workshops",
	sources: []sourceTruth{
		{name: "Photoloft", tag: "loft", perDay: 6},
		{name: "Printed card", tag: "card", perDay: 2, favours: "giftseat", factor: 2},
	},
	editions: []editionStory{{0, []string{"throwing", "handbuil", "giftseat", "letter"}}},
	waiting:  []string{"throwing", "handbuil", "giftseat", "letter"},
}

// bareVisits come to the bare address on an ordinary day, from nobody knows
// where.
const bareVisits = 4

// weekday is the rhythm of the week, Sunday first; its mean is 1.
var weekday = [7]float64{1.25, 0.85, 0.80, 0.90, 0.95, 1.05, 1.20}

// Days counted from the beginning: the four on which the film takes off, and
// the window in which the seconds sale stands on top and appeals more.
const (
	boomFrom, boomTo = 68, 72
	saleFrom, saleTo = 52, 66
	saleFactor       = 1.5
)

// What is not counted, on an ordinary day or per event.
const (
	crawlersPerDay = 7
	previewsPerDay = 3
	ownPerDay      = 2
	doublePress    = 0.06 // share of presses that are pressed twice
)
