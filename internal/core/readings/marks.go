package readings

import (
	"maps"
	"math"
	"slices"

	"jundle/internal/core/daily"
	"jundle/internal/core/stats"
)

const (
	// markedFrom is how many clicks are to be expected in a cell that may be marked.
	markedFrom = 5
	// levelOfCells is how often any cell of a table is marked where buttons and sources have nothing to do with each other.
	levelOfCells = 0.015
)

// Association is how far buttons and sources go together.
type Association struct {
	ChiSquared float64 `json:"chiSquared" doc:"Of the log-linear model with exposures, divided by the dispersion."`
	Freedom    int     `json:"freedom"`
	P          float64 `json:"p" doc:"The chance of as much where the source says nothing of the button; 1 where nothing can be said."`
	Dispersion float64 `json:"dispersion" doc:"How many times as much days vary as chance alone has it."`
	Marks      []Mark  `json:"marks" nullable:"false" doc:"Cells that stand out; where none do, 1.5 of 100 tables have a mark."`
	// Cells is how many there are, and Compared of how many enough clicks are expected to tell.
	Cells    int `json:"cells" doc:"Of buttons that were on the page for visits of a source."`
	Compared int `json:"compared" doc:"Of these, those in which enough clicks are expected to tell anything: 5."`
	// Missing is how many days are missing until anything of any cell can be told.
	Missing int `json:"missing" doc:"In how many more days, if they are like these, there are enough in a first cell; 0 where there are, or nothing was pressed."`
}

// Mark is a cell of buttons x sources that is more, or less, than its button, its source and how often it was on the page
// explain.
type Mark struct {
	Block    string  `json:"block"`
	Source   string  `json:"source"`
	Takers   int     `json:"takers"`
	Expected float64 `json:"expected"`
	Residual float64 `json:"residual" doc:"Adjusted, and divided by the root of the dispersion: in standard errors."`
}

// Associate looks for cells of enough visits of a span that stand out. What is counted are takers: who presses often is one
// of them.
func Associate(span Span, sums daily.Sums) Association {
	found := Association{P: 1, Dispersion: 1, Marks: []Mark{}}
	blocks, sources, days := tablesOf(span, sums)
	if len(blocks) == 0 {
		return found
	}
	visits := 0
	within := dayNumbers(span)
	for _, row := range sums.Pages {
		if _, there := within[row.Day]; there {
			visits += row.Visits
		}
	}
	table := stats.QuasiCross(days)
	found.ChiSquared, found.Freedom, found.P, found.Dispersion = table.ChiSquared, table.Freedom, table.P, table.Dispersion
	if visits < EnoughVisits {
		return found
	}
	var marks []Mark
	var chances []float64
	most := 0.0
	for i, block := range blocks {
		for j, source := range sources {
			taken, exposed := 0.0, 0.0
			for _, day := range days {
				taken, exposed = taken+day.Counts[i][j], exposed+day.Exposures[i][j]
			}
			if exposed > 0 {
				found.Cells++
			}
			most = max(most, table.Expected[i][j])
			if table.Expected[i][j] < markedFrom {
				continue
			}
			marks = append(marks, Mark{block, source, int(taken), table.Expected[i][j], table.Residual[i][j]})
			chances = append(chances, stats.Chance(table.Residual[i][j]))
		}
	}
	found.Compared = len(marks)
	if most > 0 && most < markedFrom {
		found.Missing = int(math.Ceil(float64(span.Len()) * (markedFrom/most - 1)))
	}
	for i, rejected := range stats.Holm(chances, levelOfCells) {
		if rejected {
			found.Marks = append(found.Marks, marks[i])
		}
	}
	return found
}

// mostParts is into how many parts a long span is cut, for how far days differ: each is as large as the table.
const mostParts = 60

// tablesOf are the takers and exposures of each day of a span, or of some days together, by block and source in their order.
func tablesOf(span Span, sums daily.Sums) (blocks, sources []string, days []stats.Parts) {
	rows, columns := make(map[string]int), make(map[string]int)
	within := make(map[string]int, span.Len())
	for i := range span.Len() {
		within[span.Date(i)] = i * min(mostParts, span.Len()) / span.Len()
	}
	for _, row := range sums.Blocks {
		if _, there := within[row.Day]; there {
			rows[row.Block], columns[sourceKey(row.Source)] = 0, 0
		}
	}
	blocks, sources = slices.Sorted(maps.Keys(rows)), slices.Sorted(maps.Keys(columns))
	for i, block := range blocks {
		rows[block] = i
	}
	for j, source := range sources {
		columns[source] = j
	}
	of := make(map[int]stats.Parts)
	for _, row := range sums.Blocks {
		part, there := within[row.Day]
		if !there {
			continue
		}
		if of[part].Counts == nil {
			of[part] = stats.Parts{Counts: table(len(blocks), len(sources)), Exposures: table(len(blocks), len(sources))}
		}
		i, j := rows[row.Block], columns[sourceKey(row.Source)]
		of[part].Counts[i][j] += float64(row.Takers)
		of[part].Exposures[i][j] += float64(row.Reach)
	}
	for _, part := range slices.Sorted(maps.Keys(of)) {
		days = append(days, of[part])
	}
	return blocks, sources, days
}

func table(rows, columns int) [][]float64 {
	cells := make([][]float64, rows)
	for i := range cells {
		cells[i] = make([]float64, columns)
	}
	return cells
}
