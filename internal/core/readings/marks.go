package readings

import (
	"maps"
	"slices"

	"jundle/internal/core/stats"
)

const (
	// markedBeyond is how far a cell is from what its row and column explain before it is
	// marked, in standard errors.
	markedBeyond = 3
	// markedFrom is how many clicks are to be expected in a cell that may be marked.
	markedFrom = 5
)

// Association is how far buttons and sources go together.
type Association struct {
	ChiSquared float64 `json:"chiSquared"`
	Freedom    int     `json:"freedom"`
	P          float64 `json:"p" doc:"The chance of as much where the source says nothing of the button; 1 where nothing can be said."`
	Marks      []Mark  `json:"marks" nullable:"false" doc:"Cells more than 3 standard errors from what is expected of them."`
}

// Mark is a cell of buttons x sources that is more, or less, than its button and its source
// explain.
type Mark struct {
	Block    string  `json:"block"`
	Source   string  `json:"source"`
	Takers   int     `json:"takers"`
	Expected float64 `json:"expected"`
	Residual float64 `json:"residual" doc:"Adjusted: in standard errors."`
}

// Associate looks for cells of a reading of enough visits that stand out. What is counted are takers: who
// presses often is one of them.
func Associate(reading Reading) Association {
	sources := make(map[string]bool)
	for _, block := range reading.Blocks {
		for source := range block.BySource {
			sources[source] = true
		}
	}
	columns := slices.Sorted(maps.Keys(sources))
	counts := make([][]int, len(reading.Blocks))
	for i, block := range reading.Blocks {
		counts[i] = make([]int, len(columns))
		for j, source := range columns {
			counts[i][j] = block.BySource[source].Rate.Taken
		}
	}
	cross := stats.Cross(counts)
	found := Association{ChiSquared: cross.ChiSquared, Freedom: cross.Freedom, P: cross.P, Marks: []Mark{}}
	if reading.Missing > 0 {
		return found
	}
	for i, block := range reading.Blocks {
		for j, source := range columns {
			if residual := cross.Residual[i][j]; cross.Expected[i][j] >= markedFrom &&
				(residual > markedBeyond || residual < -markedBeyond) {
				found.Marks = append(found.Marks, Mark{block.Block, source, counts[i][j], cross.Expected[i][j], residual})
			}
		}
	}
	return found
}
