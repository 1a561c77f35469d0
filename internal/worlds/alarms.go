package worlds

import (
	"math"
	"math/rand/v2"
	"slices"
	"strconv"

	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/alarm"
)

// looked is for how many days each world is looked at.
const looked = 100

// Alarms looks at quiet pages day by day, and at pages on which a button fell silent.
func Alarms(n int) []Finding {
	quiet := Finding{What: "a day of a quiet page has an alarm", Most: 0.01}
	silent := Finding{What: "a button with 13 clicks a day that fell silent is told of within two days", Least: 0.9, Most: 1}
	spike := Finding{What: "a button that is pressed six times as often as usual is told of", Least: 0.9, Most: 1}
	means := []float64{40, 24, 13, 7, 6, 5, 3, 3, 2, 1, 0.5, 0.2}
	for seed := range n {
		random := rand.New(rand.NewPCG(uint64(seed), 77))
		spread := []float64{0, 0.05, 0.15}[seed%3]
		all := make([]alarm.Series, len(means))
		for i, mean := range means {
			all[i] = days(random, strconv.Itoa(i), alarm.Days+looked, mean, spread)
		}
		for day := range looked {
			quiet.count(len(alarm.Find(window(all, day))) > 0)
		}
		last := window(all, looked)
		fell := &last[2]
		fell.Counts = append([]int{}, fell.Counts...)
		fell.Counts[alarm.Days-1], fell.Counts[alarm.Days-2] = 0, 0
		found := alarm.Find(last)
		silent.count(len(found) > 0 && found[0].Key == fell.Key)
		last = window(all, looked-1)
		rose := &last[2]
		rose.Counts = append([]int{}, rose.Counts...)
		rose.Counts[alarm.Days-1] = 6 * int(means[2])
		found = alarm.Find(last)
		spike.count(slices.ContainsFunc(found, func(a alarm.Alarm) bool { return a.Key == rose.Key && a.Kind == alarm.Spike }))
	}
	return []Finding{quiet, silent, spike}
}

// HeavyTails looks at quiet pages whose days differ by much now and then: by a logarithm of Student's law of three degrees.
func HeavyTails(n int) []Finding {
	quiet := Finding{What: "a day of a quiet page with heavy-tailed days has an alarm", Most: 0.01}
	means := []float64{40, 24, 13, 7, 6, 5, 3, 2, 1, 0.5}
	for seed := range n {
		random := rand.New(rand.NewPCG(uint64(seed), 78))
		tail := distuv.StudentsT{Mu: 0, Sigma: 0.2, Nu: 3, Src: random}
		all := make([]alarm.Series, len(means))
		for i, mean := range means {
			all[i] = alarm.Series{Key: strconv.Itoa(i)}
			for day := range alarm.Days + looked {
				all[i].Exposure = append(all[i].Exposure, rhythm[day%7])
				all[i].Counts = append(all[i].Counts, drawn(random, mean*rhythm[day%7]*math.Exp(min(4, max(-4, tail.Rand()))), 0))
			}
		}
		for day := range looked {
			quiet.count(len(alarm.Find(window(all, day))) > 0)
		}
	}
	return []Finding{quiet}
}

// window is what is known of series on a day.
func window(all []alarm.Series, day int) []alarm.Series {
	part := make([]alarm.Series, len(all))
	for i, each := range all {
		part[i] = alarm.Series{Key: each.Key, Counts: each.Counts[day : day+alarm.Days], Exposure: each.Exposure[day : day+alarm.Days]}
	}
	return part
}

// rhythm is that of the week, with mean 1.
var rhythm = [7]float64{0.85, 0.80, 0.90, 0.95, 1.05, 1.20, 1.25}

// days are counts of so many days.
func days(random *rand.Rand, key string, n int, mean, spread float64) alarm.Series {
	series := alarm.Series{Key: key}
	for i := range n {
		series.Exposure = append(series.Exposure, rhythm[i%7])
		series.Counts = append(series.Counts, drawn(random, mean*rhythm[i%7], spread))
	}
	return series
}

// drawn is a count of a mean that itself varies from day to day.
func drawn(random *rand.Rand, mean, spread float64) int {
	if spread > 0 {
		mean = distuv.Gamma{Alpha: 1 / spread, Beta: 1 / (spread * mean), Src: random}.Rand()
	}
	return int(distuv.Poisson{Lambda: math.Max(mean, 1e-9), Src: random}.Rand())
}
