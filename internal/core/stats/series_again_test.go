package stats_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/stats"
)

// The comparison of counts written a second time, out of matrices: weekdays are a Poisson regression fitted by Newton's method
// with half a count beside each weekday, and the variance of the difference is that of a weighted sum of days whose
// covariance matrix is written down whole. Sources as those of stats.CompareCounts.
func TestTheComparisonOfCountsAgreesWithOneByMatricesOnAThousandInputs(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 28))
	for range 1000 {
		days := 21 + random.IntN(60)
		mood, level := 0.0, 5+random.Float64()*400
		series := make([]stats.Daily, days)
		for i := range series {
			mood = 0.7*mood + 0.2*random.NormFloat64()
			mean := level * math.Exp(mood) * (1 + 0.4*math.Sin(float64(i%7)))
			if random.IntN(40) == 0 {
				mean *= 5
			}
			series[i] = stats.Daily{Day: i, Count: 1 + int(distuv.Poisson{Lambda: mean, Src: random}.Rand())}
		}
		from := days - 2 - random.IntN(days/2-2)
		before := from - 2 - random.IntN(from-2)
		now, then, history := series[from:], series[before:from], series[:before]
		got, want := stats.CompareCounts(now, then, history), byMatrices(t, now, then, history)
		require.InDelta(t, want.P, got.P, 1e-6)
		require.InDelta(t, want.Share.Low, got.Share.Low, 1e-6*(1+math.Abs(want.Share.Low)))
		require.InDelta(t, want.Share.High, got.Share.High, 1e-6*(1+math.Abs(want.Share.High)))
	}
}

func byMatrices(t *testing.T, now, before, history []stats.Daily) (change stats.ChangeOfCounts) {
	all := slices.Concat(history, before, now) // in the order of time
	counts, design := mat.NewVecDense(len(all), nil), make([]int, len(all))
	for i, day := range all {
		counts.SetVec(i, float64(day.Count))
		if i >= len(history)+len(before) {
			design[i] = 1
		}
	}
	week := weekdaysByRegression(t, all, design)
	levels := [2]float64{}
	for span := range levels {
		had, load := 0.0, 0.0
		for i, day := range all {
			if design[i] == span {
				had, load = had+counts.AtVec(i), load+week[day.Day%7]
			}
		}
		levels[span] = had / load
	}
	for _, most := range []float64{math.Inf(1), 3} {
		one := lookByMatrices(all, now, before, week, levels, design, most)
		if one.P >= change.P {
			change = one
		}
	}
	return change
}

// weekdaysByRegression are the factors of weekdays: the logarithm of a day's mean is its span's level and its weekday.
func weekdaysByRegression(t *testing.T, all []stats.Daily, spans []int) (week [7]float64) {
	beta := mat.NewVecDense(9, nil)
	for i := range all {
		beta.SetVec(7, math.Log(1+float64(all[i].Count)))
		beta.SetVec(8, math.Log(1+float64(all[i].Count)))
	}
	for range 200 {
		information, score := mat.NewDense(9, 9, nil), mat.NewVecDense(9, nil)
		row := func(count, offset float64, columns ...int) {
			mean := offset
			for _, at := range columns {
				mean *= math.Exp(beta.AtVec(at))
			}
			for _, a := range columns {
				score.SetVec(a, score.AtVec(a)+count-mean)
				for _, b := range columns {
					information.Set(a, b, information.At(a, b)+mean)
				}
			}
		}
		for i, day := range all {
			row(float64(day.Count), 1, day.Day%7, 7+spans[i])
		}
		for weekday := range 7 {
			row(0.5, 0.5, weekday)
		}
		var step mat.VecDense
		require.NoError(t, step.SolveVec(information, score))
		for i := range 9 { // no step too far
			beta.SetVec(i, beta.AtVec(i)+max(-1, min(1, step.AtVec(i))))
		}
		if mat.Norm(&step, 2) < 1e-13 {
			break
		}
	}
	for i := range week {
		week[i] = math.Exp(beta.AtVec(i))
	}
	return week
}

func lookByMatrices(
	all, now, before []stats.Daily, week [7]float64, levels [2]float64, spans []int, most float64,
) (change stats.ChangeOfCounts) {
	n := len(all)
	shares, loads, off := mat.NewVecDense(n, nil), mat.NewVecDense(n, nil), make([]float64, n)
	for i, day := range all {
		loads.SetVec(i, week[day.Day%7])
		shares.SetVec(i, float64(day.Count)/(levels[spans[i]]*loads.AtVec(i))-1)
		off[i] = math.Abs(shares.AtVec(i))
	}
	slices.Sort(off)
	left := mat.NewVecDense(n, nil) // what is left of each day, in average days
	for i := range n {
		shares.SetVec(i, math.Min(shares.AtVec(i), most*1.4826*off[n/2]))
		left.SetVec(i, loads.AtVec(i)*shares.AtVec(i))
	}
	next, pair := mat.Dot(left.SliceVec(0, n-1), left.SliceVec(1, n)), mat.Dot(loads.SliceVec(0, n-1), loads.SliceVec(1, n))
	variance := mat.Dot(left, left) / mat.Dot(loads, loads)
	inertia := inertiaAgain(next/pair/variance, float64(n))
	variance /= 1 - math.Min(0.8, (6+2*(1+inertia)/(1-inertia))/float64(n))
	freedom := math.Max(1, float64(n-8)*(1-inertia*inertia)/(1+inertia*inertia))

	covariance := mat.NewDense(n, n, nil)
	for i := range n {
		for j := range n {
			if hangs := math.Pow(inertia, math.Abs(float64(i-j))); hangs > 1e-4 && i-j < 200 && j-i < 200 {
				covariance.Set(i, j, variance*hangs)
			}
		}
	}
	weights, means, sums := mat.NewVecDense(n, nil), [2]float64{}, [2]float64{}
	for side, span := range [][]stats.Daily{before, now} {
		first := span[0].Day
		whole := mat.Sum(loads.SliceVec(first, first+len(span)))
		for _, day := range span {
			weight := loads.AtVec(day.Day) / whole
			weights.SetVec(day.Day, weight*float64(2*side-1))
			means[side] += weight * levels[spans[day.Day]] * (1 + shares.AtVec(day.Day))
			sums[side] += float64(day.Count)
		}
	}
	spread := math.Sqrt(math.Max(mat.Inner(weights, covariance, weights), 1/sums[0]+1/sums[1]))
	log := math.Log(means[1] / means[0])
	law := distuv.StudentsT{Mu: log, Sigma: spread, Nu: freedom}
	change.P = 2 * math.Min(law.CDF(0), law.Survival(0))
	change.Share = stats.Interval{Low: math.Exp(law.Quantile(0.025)) - 1, High: math.Exp(law.Quantile(0.975)) - 1}
	return change
}

// inertiaAgain corrects the correlation that is seen for the bias of two means, and takes it as large as it may well be.
func inertiaAgain(seen, days float64) float64 {
	each := days / 2
	corrected := (seen + 1/each) / (1 - math.Min(0.6, 4/each))
	if corrected > 1.5/math.Sqrt(days) {
		return math.Min(0.97, corrected+2*math.Sqrt(math.Max(0.05, 1-corrected*corrected)/days))
	}
	return math.Min(0.97, math.Max(0, (corrected*days+0.3*12)/(days+12)))
}
