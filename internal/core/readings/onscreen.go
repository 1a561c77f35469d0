package readings

import (
	"math"
)

// OnScreen is how often a block was on screen where a page measures how far down visits get.
type OnScreen struct {
	// Share is in how many of the openings that told how far they got the block was on screen.
	Share Rate `json:"share" doc:"Openings of the page that had it on screen, of those that told how far they got."`
	// Pressed is how many of the visits that had it on screen pressed it, if the others got as far.
	Pressed Rate `json:"pressed" doc:"Visits that pressed it, of those that had it on screen: its reach times the share."`
}

// Depth is how many openings of an edition got down to a place, from 1, and no further.
type Depth struct{ Edition, Place, Count int }

// Standing is the place from 1 at which a block stood on an edition.
type Standing struct {
	Edition, Place int
	Block          string
}

// ScreenShares are, by block, how many of the openings that told how far they got had it on screen: whoever got further
// down had all on screen that stands above.
func ScreenShares(depths []Depth, standings []Standing) map[string]Rate {
	most := 0
	for _, depth := range depths {
		most = max(most, depth.Place)
	}
	// Of each edition, by place: how many openings got as far or further.
	reached := make(map[int][]int)
	for _, depth := range depths {
		if depth.Place < 1 {
			continue
		}
		if reached[depth.Edition] == nil {
			reached[depth.Edition] = make([]int, most+1)
		}
		for place := 1; place <= depth.Place; place++ {
			reached[depth.Edition][place] += depth.Count
		}
	}
	type part struct{ seen, told int }
	parts := make(map[string]part)
	for _, standing := range standings {
		of := reached[standing.Edition]
		if of == nil || standing.Place < 1 {
			continue
		}
		sum := parts[standing.Block]
		sum.told += of[1]
		if standing.Place <= most {
			sum.seen += of[standing.Place]
		}
		parts[standing.Block] = sum
	}
	shares := make(map[string]Rate, len(parts))
	for block, part := range parts {
		shares[block] = NewRate(part.seen, part.told)
	}
	return shares
}

// ScreenRate is what is known of a block by the share of openings that had it on screen, and by its rate of visits with it
// on the page; nil where too few openings told.
func ScreenRate(share, rate Rate) *OnScreen {
	if share.Of < EnoughVisits {
		return nil
	}
	had := int(math.Round(float64(rate.Of) * share.Rate))
	return &OnScreen{share, NewRate(min(rate.Taken, had), had)}
}
