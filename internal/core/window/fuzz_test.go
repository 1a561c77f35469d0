package window_test

import (
	"testing"
	"time"

	"jundle/internal/core/invalid"
	"jundle/internal/core/window"
	"jundle/internal/fuzzing"
)

func FuzzParseInterval(f *testing.F) {
	f.Add("2026-06-01T10:00:00Z/2026-07-01T10:00:00Z")
	f.Add("../2026-07-01T10:00:00+02:00")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			parsed, err := window.ParseInterval(text)
			if err != nil {
				return
			}
			again, err := window.ParseInterval(parsed.Interval())
			if err != nil || again.Interval() != parsed.Interval() {
				t.Fatalf("%q is written as %q", text, parsed.Interval())
			}
		})
	})
}

func FuzzIn(f *testing.F) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		f.Fatal(err)
	}
	f.Add("2026-03-29T01:30", "2026-10-25T01:30")
	f.Fuzz(func(t *testing.T, from, to string) {
		fuzzing.Bounded(t, func() {
			var wrong invalid.List
			windows := window.In(zone, []window.Entered{{From: from, To: to}}, &wrong, "windows")
			window.Next(windows, time.Unix(0, 0))
			window.Shown(zone, windows)
		})
	})
}

func FuzzTimes(f *testing.F) {
	f.Add("Europe/Lisbon", "FR", "10:00", "18:00", "2026-12-01", "", int64(1_770_000_000))
	f.Add("America/Santiago", "SU", "23:30", "00:30", "", "2026-09-06", int64(1_770_000_000))
	f.Add("../etc/passwd", "XX", "25:00", "", "soon", "never", int64(-1))
	f.Fuzz(func(t *testing.T, zone, day, from, to, first, last string, at int64) {
		fuzzing.Bounded(t, func() {
			times := &window.Times{
				Zone:   zone,
				Weekly: []window.Weekly{{Days: []window.Weekday{window.Weekday(day)}, From: from, To: to, First: first, Last: last}},
			}
			var wrong invalid.List
			if times = times.Tidy(&wrong, "when"); times == nil || wrong.Err() != nil {
				return
			}
			now := time.Unix(at%4_000_000_000, 0)
			if next := times.Next(now); !next.IsZero() && (!next.After(now) || times.Holds(next) == times.Holds(now)) {
				t.Fatalf("%s changes nothing at %s", times, next)
			}
		})
	})
}
