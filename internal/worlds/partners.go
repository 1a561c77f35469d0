package worlds

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"jundle/internal/core/partner"
)

// Partners holds what is marked of a partner's month against what the partner lost.
func Partners(n int) []Finding {
	var found []Finding
	for _, hours := range []int{0, 6, -8, 10} {
		quiet := Finding{What: fmt.Sprintf("a report of a quiet month has a marked day; their days begin %+d hours later", hours), Most: 0.05}
		for seed := range n {
			quiet.count(len(marked(seed, hours, 0)) > 0)
		}
		found = append(found, quiet)
	}
	lost := Finding{What: "a day that they lost, of 190 clicks, is marked; their days begin 6 hours later", Least: 0.9, Most: 1}
	for seed := range n {
		for _, day := range marked(seed, 6, 14) {
			if day == "2026-06-14" {
				lost.Held++
			}
		}
		lost.Of++
	}
	return append(found, lost)
}

// marked are the days of four weeks that are marked, where the partner counts 97 of 100 clicks and nothing on a lost day.
func marked(seed, hours, lost int) (days []string) {
	random := rand.New(rand.NewPCG(uint64(seed), 51))
	ours, theirs := map[string]int{}, map[string]int{}
	start := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	end := start.AddDate(0, 0, 28)
	for at := start.AddDate(0, 0, -1); at.Before(end.AddDate(0, 0, 1)); at = at.Add(time.Hour) {
		week := rhythm[(int(at.Weekday())+6)%7]
		n := drawn(random, week*(8+7*math.Sin(float64(at.Hour()-9)*math.Pi/12)), 0.05)
		if !at.Before(start) && at.Before(end) {
			ours[at.Format(time.DateOnly)] += n
		}
		there := at.Add(-time.Duration(hours) * time.Hour)
		if there.Before(start) || !there.Before(end) || there.Day() == lost {
			continue
		}
		theirs[there.Format(time.DateOnly)] += int(distuv.Binomial{N: float64(n), P: 0.97, Src: random}.Rand())
	}
	var counts []partner.Count
	for day := range ours {
		counts = append(counts, partner.Count{Day: day, Subject: "film", Clicks: theirs[day]})
	}
	lines, _ := partner.Compare(counts, partner.Ours{Clicks: map[string]map[string]int{"film": ours}}, partner.Tolerance)
	for _, day := range lines[0].Days {
		if day.Marked {
			days = append(days, day.Date)
		}
	}
	return days
}
