package page_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/window"
)

func TestACountdownSaysItsTwoLargestUnits(t *testing.T) {
	until := time.Date(2026, 12, 4, 18, 0, 0, 0, time.UTC)
	c := page.Countdown{Until: until, Zone: "Europe/London", After: "It is open"}
	for before, want := range map[time.Duration]string{
		51 * time.Hour: "2 days 3 hours", 48 * time.Hour: "2 days", 25*time.Hour + time.Minute: "1 day 1 hour", 24 * time.Hour: "1 day",
		3*time.Hour + 5*time.Minute: "3 hours 5 minutes", time.Hour: "1 hour", 61 * time.Second: "2 minutes", time.Second: "1 minute",
		0: "It is open", -time.Hour: "It is open",
	} {
		assert.Equal(t, want, c.Left("en", until.Add(-before)), before)
	}
	assert.Equal(t, "2 Tage 3 Stunden", c.Left("de", until.Add(-51*time.Hour)))
	assert.Equal(t, "Freitag, 4. Dezember 2026 um 18:00", c.Written("de"))
}

// What is held until then says the same all the time, and something else after it.
func TestAPageWithACountdownIsDrawnAnewWhenItSaysSomethingElse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := &page.Countdown{Until: pagetest.Moment, Zone: "Europe/London", After: "Open"}
		doc := page.New()
		doc.Blocks = []page.Block{{Key: "countdown", Kind: "countdown", Shown: true, Countdown: c}}
		at := pagetest.Moment.Add(-time.Duration(rapid.Int64Range(1, int64(80*time.Hour)).Draw(t, "before")))
		next := doc.Next(at)
		if !next.After(at) || next.Sub(at) > time.Hour {
			t.Fatalf("%v after %v", next, at)
		}
		between := at.Add(time.Duration(rapid.Int64Range(0, int64(next.Sub(at))-1).Draw(t, "between")))
		if left := at.Sub(pagetest.Moment); left > -24*time.Hour && c.Left("en", between) != c.Left("en", at) {
			t.Fatalf("%q, then %q before %v", c.Left("en", at), c.Left("en", between), next)
		}
	})
}

func TestDatesThatAreOverLeaveThePageByThemselves(t *testing.T) {
	doc := pagetest.Everything()
	var dates *page.Dates
	for _, block := range doc.Blocks {
		if block.Dates != nil {
			dates = block.Dates
		}
	}
	names := func(at time.Time) (names []string) {
		for _, item := range dates.Shown(at) {
			names = append(names, item.What)
		}
		return names
	}
	winter := pagetest.Moment.Add(51 * time.Hour)
	assert.Equal(t, []string{"Winter opening", "Spring opening"}, names(winter.Add(-time.Minute)))
	assert.Equal(t, []string{"Spring opening"}, names(winter))
	assert.Equal(t, winter, pagetest.Without(doc, "countdown", "place").Next(winter.Add(-time.Minute)))
	spring := time.Date(2027, 3, 13, 0, 0, 0, 0, time.UTC) // its day is over
	assert.Equal(t, []string{"Spring opening"}, names(spring.Add(-time.Minute)))
	assert.Empty(t, names(spring))
	dates.Past = true
	assert.Len(t, names(spring), 2)
}

func TestDatesAreWrittenWithTheirEndAsTheLanguageWritesThem(t *testing.T) {
	at := func(day, hour int) time.Time { return time.Date(2026, 12, day, hour, 0, 0, 0, time.UTC) }
	d := page.Dates{Zone: "Europe/Berlin"}
	for want, item := range map[string]page.DateItem{
		"Freitag, 4. Dezember 2026 um 19:00":                                      {From: at(4, 18)},
		"Freitag, 4. Dezember 2026 um 19:00 – 21:00":                              {From: at(4, 18), To: at(4, 20)},
		"Freitag, 4. Dezember 2026 um 19:00 – Samstag, 5. Dezember 2026 um 00:00": {From: at(4, 18), To: at(4, 23)},
		"Freitag, 4. Dezember 2026":                                               {From: at(4, 11), WholeDay: true},
		"Freitag, 4. Dezember 2026 – Sonntag, 6. Dezember 2026":                   {From: at(4, 11), To: at(6, 11), WholeDay: true},
	} {
		assert.Equal(t, want, d.Written(item, "de"))
	}
}

func TestAPlaceSaysWhetherItIsOpenByItsOwnClocks(t *testing.T) {
	p := page.Venue{Hours: &window.Times{Zone: "Europe/Berlin", Weekly: []window.Weekly{
		{Days: []window.Weekday{"TU", "WE"}, From: "10:00", To: "13:00"},
		{Days: []window.Weekday{"TU"}, From: "14:30", To: "18:00"},
		{Days: []window.Weekday{"FR"}, From: "22:00", To: "02:00"},
	}}}
	berlin, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	at := func(day, hour, minute int) time.Time { return time.Date(2026, 12, day, hour, minute, 0, 0, berlin) }
	for moment, want := range map[time.Time]string{
		at(1, 9, 59): "Jetzt geschlossen, öffnet 10:00", at(1, 10, 0): "Jetzt geöffnet, bis 13:00",
		at(1, 13, 0): "Jetzt geschlossen, öffnet 14:30",
		at(1, 18, 0): "Jetzt geschlossen, öffnet Mittwoch 10:00", at(5, 1, 59): "Jetzt geöffnet, bis 02:00",
		at(4, 23, 0): "Jetzt geöffnet, bis Samstag 02:00", at(5, 2, 0): "Jetzt geschlossen, öffnet Dienstag 10:00",
	} {
		assert.Equal(t, want, p.Now("de", moment.UTC()), moment)
	}
	doc := page.New()
	doc.Blocks = []page.Block{{Key: "place", Kind: "place", Shown: true, Place: &p}}
	assert.True(t, doc.Next(at(1, 10, 0)).Equal(at(1, 13, 0)), "a page is drawn anew when it closes")
	assert.Equal(t, page.OpenDay{Day: "Dienstag", Hours: "10:00 – 13:00, 14:30 – 18:00"}, p.Week("de")[1])
	assert.Equal(t, page.OpenDay{Day: "Montag"}, p.Week("de")[0])
}
