package alarm

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat/distuv"
)

// By the definition of the law (from memory): the chance of at most n failures before the
// r-th success of chance p is I_p(r, n+1); r = 3, p = 1/2 gives 1/8, 5/16, 1/2 for n = 0, 1, 2.
func TestTheLawIsTheNegativeBinomial(t *testing.T) {
	law := negativeBinomial{mean: 3, spread: 1.0 / 3} // r = 3, p = r / (r + mean) = 1/2
	for n, chance := range []float64{0.125, 0.3125, 0.5} {
		assert.InDelta(t, chance, law.atMost(n), 1e-9)
	}
	// Without spread it is Poisson's: held against gonum's.
	poisson := distuv.Poisson{Lambda: 4.2}
	for n := range 9 {
		assert.InDelta(t, poisson.CDF(float64(n)), negativeBinomial{mean: 4.2}.atMost(n), 1e-9)
	}
	assert.Zero(t, law.atMost(-1))
}

// The same as the sum of its terms, each from the one before.
func TestTheLawAgreesWithTheSumOfItsTermsOnAThousandInputs(t *testing.T) {
	random := rand.New(rand.NewPCG(31, 28))
	for range 1000 {
		mean, spread, most := 0.1+30*random.Float64(), 0.01+2*random.Float64(), random.IntN(60)
		size := 1 / spread
		success := size / (size + mean)
		term, sum := math.Pow(success, size), 0.0
		for n := range most + 1 {
			sum += term
			term *= (size + float64(n)) / float64(n+1) * (1 - success)
		}
		require.InDelta(t, sum, negativeBinomial{mean: mean, spread: spread}.atMost(most), 1e-6)
	}
}

// rhythm is that of the week, with mean 1.
var rhythm = [7]float64{0.85, 0.80, 0.90, 0.95, 1.05, 1.20, 1.25}

// drawn is a count of a mean that varies from day to day.
func drawn(random *rand.Rand, mean, spread float64) int {
	if spread > 0 {
		mean = distuv.Gamma{Alpha: 1 / spread, Beta: 1 / (spread * mean), Src: random}.Rand()
	}
	return int(distuv.Poisson{Lambda: math.Max(mean, 1e-9), Src: random}.Rand())
}

// days are counts of so many days.
func days(random *rand.Rand, n int, mean, spread float64) (counts []int, exposure []float64) {
	for i := range n {
		exposure = append(exposure, rhythm[i%7])
		counts = append(counts, drawn(random, mean*rhythm[i%7], spread))
	}
	return counts, exposure
}

func TestAButtonWhoseClicksFellToNothingIsNoticed(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	counts, exposure := days(random, Days, 13, 0.05)
	quiet, rhythms := days(random, Days, 20, 0.05)
	for i := range 2 {
		counts[Days-1-i] = 0
	}
	found := Find([]Series{{"film", counts, exposure}, {"dates", quiet, rhythms}})
	require.Len(t, found, 1)
	assert.Equal(t, "film", found[0].Key)
	assert.Equal(t, Silent, found[0].Kind)
	assert.Zero(t, found[0].Came)

	rare, exposed := days(random, Days, 1.5, 0)
	for i := range Judged {
		rare[Days-1-i] = 0
	}
	assert.Len(t, Find([]Series{{"tip", rare, exposed}}), 1, "of what is rare it takes a week")
	rare[Days-3] = 2
	assert.Empty(t, Find([]Series{{"tip", rare, exposed}}))
}

func TestWhatTookOffIsNoticedAndTheMostCostlySilenceComesFirst(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	reel, rhythms := days(random, Days, 13, 0.05)
	reel[Days-1] = 90
	large, exposure := days(random, Days, 40, 0.05)
	small, exposed := days(random, Days, 15, 0.05)
	large[Days-1], large[Days-2], small[Days-1], small[Days-2] = 0, 0, 0, 0
	var keys []string
	for _, each := range Find([]Series{{"reel", reel, rhythms}, {"small", small, exposed}, {"large", large, exposure}}) {
		keys = append(keys, each.Key)
	}
	assert.Equal(t, []string{"large", "small", "reel"}, keys)
}

func TestWhatWasNotShownIsNotMissed(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	counts, exposure := days(random, Days, 13, 0)
	for i := range Judged {
		counts[Days-1-i], exposure[Days-1-i] = 0, 0
	}
	assert.Empty(t, Find([]Series{{"hidden", counts, exposure}}))
	assert.Empty(t, Find([]Series{{"new", make([]int, 5), make([]float64, 5)}}))
	assert.Empty(t, Find([]Series{{"never", make([]int, Days), exposure}}))
}
