package stats_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/stats"
)

func TestWhatComesAtFirstFadesAndWhatIsSteadyDoesNot(t *testing.T) {
	random := rand.New(rand.NewPCG(2, 8))
	drawn := func(mean func(day int) float64) (counts []int) {
		for day := range 28 {
			counts = append(counts, int(distuv.Poisson{Lambda: mean(day), Src: random}.Rand()))
		}
		return counts
	}
	steady, weekly, fading := 0, 0, 0
	week := []float64{6, 6, 7, 9, 12, 16, 14}
	for range 400 {
		if stats.Fading(daysOf(0, drawn(func(int) float64 { return 10 })...)) < 0.02 {
			steady++
		}
		if stats.Fading(daysOf(0, drawn(func(day int) float64 { return week[day%7] })...)) < 0.02 {
			weekly++
		}
		if stats.Fading(daysOf(0, drawn(func(day int) float64 { return 4 + 30/float64(1+day) })...)) < 0.02 {
			fading++
		}
	}
	assert.LessOrEqual(t, steady, 12)
	assert.LessOrEqual(t, weekly, 12)
	assert.GreaterOrEqual(t, fading, 200)
	assert.Equal(t, 1.0, stats.Fading(daysOf(0, 90, 1, 1)), "too few days")
	assert.Equal(t, 1.0, stats.Fading(daysOf(0, same(0, 28)...)))
}
