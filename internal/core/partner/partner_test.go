package partner_test

import (
	"math"
	"math/big"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"jundle/internal/core/linkfile"
	"jundle/internal/core/partner"
	"jundle/internal/fuzzing"
)

func table(t require.TestingT, text string) linkfile.Table {
	read, err := linkfile.ReadTable(text)
	require.NoError(t, err)
	return read
}

func TestTheColumnsOfAReportAreFoundByWhatStandsInThem(t *testing.T) {
	for text, mapping := range map[string]partner.ReportMapping{
		"day,destination,clicks\n2026-06-01,https://kiln.example/dates,12\n":          {Day: 0, Subject: 1, Clicks: 2, Days: partner.ISO},
		"Sub;Klicks;Tag\nfilm;1'204;30.06.2026\nsale;7;01.07.2026\n":                  {Day: 2, Subject: 0, Clicks: 1, Days: partner.DayFirst},
		"date\tcampaign\tclicks\n06/30/2026\tfilm\t3\n07/01/2026\tfilm\t4\n":          {Day: 0, Subject: 1, Clicks: 2, Days: partner.MonthFirst},
		"2026-06-01T10:00:00Z,https://a.example/,3\n2026-06-02,https://b.example,1\n": {Day: 0, Subject: 1, Clicks: 2, Days: partner.ISO},
		"what,ever\na,b\n": {Day: -1, Subject: 0, Clicks: -1, Days: partner.ISO},
	} {
		assert.Equal(t, mapping, partner.Guess(table(t, text)), text)
	}
}

func TestAReportIsAddedUpByDayAndRowsThatCannotBeReadAreNamed(t *testing.T) {
	read := table(t, "day,sub,clicks\n2026-06-01,film,12\n2026-06-01,film,3\n2026-06-31,film,1\n"+
		"2026-06-02,,1\n2026-06-02,sale,many\n2026-06-02,sale,4\n")
	counts, wrong := partner.Read(read, partner.ReportMapping{Day: 0, Subject: 1, Clicks: 2, Days: partner.ISO})
	assert.Equal(t, []partner.Count{{Day: "2026-06-01", Subject: "film", Clicks: 15}, {Day: "2026-06-02", Subject: "sale", Clicks: 4}}, counts)
	require.Len(t, wrong, 3)
	assert.Equal(t, []int{4, 5, 6}, []int{wrong[0].Line, wrong[1].Line, wrong[2].Line})
}

// Source: exact binomial test with one half: 40 of 100 has p = 0.0569, 9 of 10 has 0.0215 (from memory,
// as any statistics package says).
func TestTwoCountsAreOfOneLawAsTheExactTestSays(t *testing.T) {
	assert.InDelta(t, 0.0569, partner.SameLaw(40, 60), 0.0001)
	assert.InDelta(t, 0.0215, partner.SameLaw(1, 9), 0.0001)
	assert.Equal(t, 1.0, partner.SameLaw(0, 0))
	rapid.Check(t, func(t *rapid.T) {
		a, b := rapid.IntRange(0, 5000).Draw(t, "a"), rapid.IntRange(0, 5000).Draw(t, "b")
		p := partner.SameLaw(a, b)
		assert.Equal(t, p, partner.SameLaw(b, a))
		assert.True(t, p > 0 && p <= 1 || p == 0 && max(a, b) > 500, "%d %d %g", a, b, p)
	})
}

// The same in whole numbers of any size: twice the part of all 2^n ways in which no more fall on the smaller side.
func TestTheExactTestAgreesWithCountingOnAThousandInputs(t *testing.T) {
	random := rand.New(rand.NewPCG(13, 28))
	for range 1000 {
		a, b := random.IntN(300), 1+random.IntN(300)
		ways, one := new(big.Int), new(big.Int)
		for k := range min(a, b) + 1 {
			ways.Add(ways, one.Binomial(int64(a+b), int64(k)))
		}
		want, _ := new(big.Rat).SetFrac(ways.Lsh(ways, 1), one.Lsh(big.NewInt(1), uint(a+b))).Float64()
		require.InDelta(t, math.Min(1, want), partner.SameLaw(a, b), 1e-6, "%d and %d", a, b)
	}
}

func TestAGapIsMarkedWhenItIsLargeAndNoChance(t *testing.T) {
	for _, c := range []struct {
		ours, theirs int
		marked       bool
	}{
		{1000, 950, false}, // within the tolerance
		{10, 6, false},     // large, and chance
		{1000, 800, true},
		{800, 1000, true},
		{0, 12, true},
		{0, 0, false},
	} {
		counts := []partner.Count{{"2026-06-01", "film", c.theirs}}
		ours := partner.Ours{Clicks: map[string]map[string]int{"film": {"2026-06-01": c.ours}}}
		lines, _ := partner.Compare(counts, ours, partner.Tolerance)
		assert.Equal(t, c.marked, lines[0].Total.Marked, "%d against %d", c.ours, c.theirs)
		assert.Equal(t, c.marked, lines[0].Days[0].Marked, "%d against %d", c.ours, c.theirs)
	}
	assert.InDelta(t, -0.2, partner.NewPair(1000, 800).Share, 1e-9)
}

// report is a month of clicks here by the hour, as a partner counts them whose days begin so many hours later and who loses
// all of one day.
func report(random *rand.Rand, hours, lost int) (counts []partner.Count, ours partner.Ours) {
	clicks, theirs := map[string]int{}, map[string]int{}
	start := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	for hour := range 28 * 24 {
		at := start.Add(time.Duration(hour) * time.Hour)
		mean := 8 + 8*math.Sin(float64(hour%24-9)*math.Pi/12) + 6*float64(at.Weekday()/6)
		n := int(distuv.Poisson{Lambda: max(0.2, mean), Src: random}.Rand())
		clicks[at.Format(time.DateOnly)] += n
		there := at.Add(-time.Duration(hours) * time.Hour)
		if day := there.Format(time.DateOnly); there.Before(start.AddDate(0, 0, 28)) && !there.Before(start) && there.Day() != lost {
			theirs[day] += int(distuv.Binomial{N: float64(n), P: 0.97, Src: random}.Rand())
		}
	}
	for day := range clicks {
		counts = append(counts, partner.Count{Day: day, Subject: "film", Clicks: theirs[day]})
	}
	return counts, partner.Ours{Clicks: map[string]map[string]int{"film": clicks}}
}

func TestDaysOfAnotherZoneAreNoGap(t *testing.T) {
	random := rand.New(rand.NewPCG(6, 6))
	marked, told := 0, 0
	for trial := range 60 {
		hours := []int{0, 5, -8, 10}[trial%4]
		counts, ours := report(random, hours, 0)
		lines, found := partner.Compare(counts, ours, partner.Tolerance)
		assert.GreaterOrEqual(t, found*hours, 0, "%d hours are told as %d", hours, found)
		if (hours == 10 || hours == -8) && found != 0 { // of five hours at night there is little to tell by
			told++
		}
		for i, day := range lines[0].Days {
			if day.Marked && i > 0 && i < len(lines[0].Days)-1 {
				marked++
			}
		}
	}
	assert.LessOrEqual(t, marked, 3)
	assert.GreaterOrEqual(t, told, 27, "of thirty")
	counts, ours := report(random, 5, 14)
	lines, _ := partner.Compare(counts, ours, partner.Tolerance)
	var lost []string
	for _, day := range lines[0].Days {
		if day.Marked {
			lost = append(lost, day.Date)
		}
	}
	assert.Equal(t, []string{"2026-06-14"}, lost, "a day that they lost is found all the same")
}

func TestAReportStandsBesideOurFiguresTheLargestGapFirst(t *testing.T) {
	counts := []partner.Count{{"2026-06-01", "film", 50}, {"2026-06-02", "film", 20}, {"2026-06-01", "gone", 300}}
	ours := partner.Ours{
		Clicks: map[string]map[string]int{"film": {"2026-06-01": 52, "2026-06-03": 5}}, Titles: map[string]string{"film": "The film"},
	}
	lines, _ := partner.Compare(counts, ours, partner.Tolerance)
	require.Len(t, lines, 2)
	assert.Equal(t, "gone", lines[0].Subject)
	assert.Empty(t, lines[0].Title)
	film := lines[1]
	assert.Equal(t, [2]int{57, 70}, [2]int{film.Total.Ours, film.Total.Theirs})
	require.Len(t, film.Days, 3)
	assert.Equal(t, "2026-06-03", film.Days[2].Date)
	assert.Equal(t, [2]int{5, 0}, [2]int{film.Days[2].Ours, film.Days[2].Theirs})
}

func FuzzRead(f *testing.F) {
	f.Add("day,sub,clicks\n2026-06-01,film,12\n", "iso")
	f.Add("1/2/2026;x;1'000", "dmy")
	f.Fuzz(func(t *testing.T, text, days string) {
		fuzzing.Bounded(t, func() {
			read, err := linkfile.ReadTable(text)
			if err != nil {
				return
			}
			m := partner.Guess(read)
			m.Days = partner.DayFormat(days)
			counts, _ := partner.Read(read, m)
			for _, count := range counts {
				if count.Clicks < 0 || len(count.Day) != 10 {
					t.Fatalf("%q gave %v", text, count)
				}
			}
		})
	})
}
