package stats_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/stats"
)

// The comparison of rates written a second time: strata and days are matrices, how days hang together is a whole matrix, and
// the ends of the intervals are searched for, not solved for. Sources as those of stats.CompareRates.
func TestTheComparisonOfRatesAgreesWithOneByMatricesOnAThousandInputs(t *testing.T) {
	random := rand.New(rand.NewPCG(12, 28))
	for range 1000 {
		strata := 1 + random.IntN(4)
		now, before := drawnSpan(random, 7+random.IntN(30), strata), drawnSpan(random, 7+random.IntN(30), strata)
		inertia := stats.RateInertia(now.rates(), before.rates())
		got := stats.CompareRates(now.rates(), before.rates(), 0)
		want := now.against(before, inertia)
		require.InDelta(t, want.Difference, got.Difference, 1e-9)
		require.InDelta(t, want.P, got.P, 1e-6)
		require.InDelta(t, want.Points.Low, got.Points.Low, 1e-6)
		require.InDelta(t, want.Points.High, got.Points.High, 1e-6)
	}
}

// span is what was taken of what, a row for each day and a column for each stratum.
type span struct{ taken, of *mat.Dense }

func drawnSpan(random *rand.Rand, days, strata int) span {
	s := span{mat.NewDense(days, strata, nil), mat.NewDense(days, strata, nil)}
	mood := 0.0
	for day := range days {
		mood = 0.5*mood + 0.2*random.NormFloat64()
		for i := range strata {
			of := float64(40 + random.IntN(200))
			s.of.Set(day, i, of)
			s.taken.Set(day, i, distuv.Binomial{N: of, P: 1 / (1 + math.Exp(1.5-mood-0.3*float64(i))), Src: random}.Rand())
		}
	}
	return s
}

func (s span) rates() (rates []stats.DailyRate) {
	days, strata := s.of.Dims()
	for day := range days {
		for i := range strata {
			rates = append(rates, stats.DailyRate{
				Day: day, Stratum: fmt.Sprint(i), Taken: int(s.taken.At(day, i)), Of: int(s.of.At(day, i)),
			})
		}
	}
	return rates
}

// sums are those of each stratum.
func (s span) sums() (taken, of []float64) {
	_, strata := s.of.Dims()
	for i := range strata {
		taken, of = append(taken, mat.Sum(s.taken.ColView(i))), append(of, mat.Sum(s.of.ColView(i)))
	}
	return taken, of
}

func (s span) against(before span, inertia float64) (change stats.ChangeOfRate) {
	a, n := s.sums()
	b, m := before.sums()
	weights, all := make([]float64, len(n)), 0.0
	for i := range n {
		weights[i] = 1 / (1/n[i] + 1/m[i])
		all += weights[i]
	}
	var p, q, chance, first, second float64
	for i := range n {
		weights[i] /= all
		p, q = p+weights[i]*a[i]/n[i], q+weights[i]*b[i]/m[i]
		rate := (a[i] + b[i] + 0.5) / (n[i] + m[i] + 1)
		chance += weights[i] * weights[i] * rate * (1 - rate) * (1/n[i] + 1/m[i])
		first, second = first+weights[i]*weights[i]/n[i], second+weights[i]*weights[i]/m[i]
	}
	variance := math.Max(chance, s.varies(weights, inertia)+before.varies(weights, inertia))
	days, _ := s.of.Dims()
	others, _ := before.of.Dims()
	free := math.Max(1, float64(days+others-2)*(1-inertia*inertia)/(1+inertia*inertia))
	law := distuv.StudentsT{Mu: 0, Sigma: math.Sqrt(variance), Nu: free}
	change.Difference, change.P = p-q, 2*law.Survival(math.Abs(p-q))
	wider := math.Pow(law.Quantile(0.975)/distuv.UnitNormal.Quantile(0.975), 2) / chance
	l1, u1 := scoreEnds(p, 1/first/wider)
	l2, u2 := scoreEnds(q, 1/second/wider)
	change.Points.Low = math.Max(-1, p-q-math.Sqrt(math.Pow(p-l1, 2)+math.Pow(u2-q, 2)))
	change.Points.High = math.Min(1, p-q+math.Sqrt(math.Pow(u1-p, 2)+math.Pow(q-l2, 2)))
	return change
}

// varies is the variance of the rate of a span between its days.
func (s span) varies(weights []float64, inertia float64) float64 {
	days, strata := s.of.Dims()
	taken, of := s.sums()
	moved, chance := mat.NewVecDense(days, nil), 0.0
	for day := range days {
		for i := range strata {
			rate := taken[i] / of[i]
			moved.SetVec(day, moved.AtVec(day)+weights[i]*(s.taken.At(day, i)-rate*s.of.At(day, i))/of[i])
			chance += weights[i] * weights[i] * rate * (1 - rate) * s.of.At(day, i) / of[i] / of[i]
		}
	}
	hang := mat.NewDense(days, days, nil)
	for i := range days {
		for j := range days {
			hang.Set(i, j, math.Pow(inertia, math.Abs(float64(i-j))))
		}
	}
	wider := mat.Sum(hang) / float64(days)
	return chance + math.Max(0, mat.Dot(moved, moved)-chance)*wider/(1-math.Min(0.8, wider/float64(days)))
}

// scoreEnds are the true rates from which p of so many is just as far off as 95 % allow, found by halving.
func scoreEnds(p, size float64) (low, high float64) {
	z := distuv.UnitNormal.Quantile(0.975)
	far := func(rate float64) bool { return math.Abs(p-rate) > z*math.Sqrt(rate*(1-rate)/size) }
	search := func(out, in float64) float64 {
		for range 60 {
			if middle := (out + in) / 2; far(middle) {
				out = middle
			} else {
				in = middle
			}
		}
		return in
	}
	return search(0, p), search(1, p)
}

// How counts fade, written a second time: the mean time is a covariance of counts with their days. Source as that of Fading.
func TestFadingAgreesWithACovarianceOnAThousandInputs(t *testing.T) {
	random := rand.New(rand.NewPCG(15, 28))
	for range 1000 {
		n := 10 + random.IntN(30)
		counts, times, steps := make([]int, n), mat.NewVecDense(n, nil), mat.NewVecDense(n, nil)
		values := mat.NewVecDense(n, nil)
		for i := range counts {
			counts[i] = 1 + random.IntN(40)
			values.SetVec(i, float64(counts[i]))
			times.SetVec(i, float64(i)-float64(n-1)/2)
			if i > 0 {
				steps.SetVec(i, float64(counts[i]-counts[i-1]))
			}
		}
		successive := mat.Dot(steps, steps) / float64(n-1)
		variance := math.Max(successive/1.4, mat.Sum(values)/float64(n)) * 1.3 / 0.7
		far := mat.Dot(values, times) / math.Sqrt(variance*mat.Dot(times, times))
		want := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(n - 2)}.CDF(far)
		require.InDelta(t, want, stats.Fading(daysOf(0, counts...)), 1e-6)
	}
}
