package stats

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// daysToFade is how many days there must be before it is said that counts fade.
const daysToFade = 10

// Fading is the one-sided p-value of counts of days one after the other coming no earlier than if they were the same at all
// times: 1 where nothing can be said. It holds the mean time of what came against the middle. How far days differ is taken
// from how far each differs from the next, which a slow change leaves as it is; they are taken to hang together as days
// usually do.
//
// Source: von Neumann, Kent, Bellinson, Hart, Annals of Mathematical Statistics 12 (1941) 153-162, the mean square
// successive difference (from memory).
func Fading(days []Daily) float64 {
	n, sum := float64(len(days)), float64(total(days))
	if len(days) < daysToFade || sum == 0 {
		return 1
	}
	middle, mean, successive := (n-1)/2, 0.0, 0.0
	for i, day := range days {
		mean += float64(i) * float64(day.Count) / sum
		if i > 0 {
			successive += math.Pow(float64(day.Count-days[i-1].Count), 2)
		}
	}
	// Of an autoregression the mean square successive difference is 2 (1 - inertia) of the variance.
	variance := math.Max(successive/(n-1)/2/(1-usualInertia), sum/n) * (1 + usualInertia) / (1 - usualInertia)
	spread := math.Sqrt(variance*n*(n*n-1)/12) / sum
	law := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: n - 2}
	return law.CDF((mean - middle) / spread)
}
