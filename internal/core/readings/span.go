// Package readings turns the daily changed of a page into the figures a creator reads:
// headline figures, a line over days, the buttons x sources table, and what was
// left out and why.
//
// Every split adds up to its total; a test says so.
package readings

import (
	"fmt"
	"time"
)

// Span is the time a reading covers: whole days of one time zone.
type Span struct {
	// Days holds the start of every day in the span and, last, the end of the
	// span, so that day i runs from Days[i] to Days[i+1]. A day of 23 or 25
	// hours is one day.
	Days []time.Time
}

// From is the first moment in the span.
func (s Span) From() time.Time { return s.Days[0] }

// To is the first moment after the span.
func (s Span) To() time.Time { return s.Days[len(s.Days)-1] }

// Len is the number of days.
func (s Span) Len() int { return len(s.Days) - 1 }

// Next is the day after a span. It is apart where it is the one that is not over: today, shown beside the span.
func (s Span) Next(now time.Time) (day Span, apart bool) {
	next := Span{Days: []time.Time{s.To(), s.To().AddDate(0, 0, 1)}}
	return next, !now.Before(next.From()) && now.Before(next.To())
}

// Date is the calendar date of day i, as YYYY-MM-DD.
func (s Span) Date(i int) string { return s.Days[i].Format(time.DateOnly) }

// maxDays bounds a span, so that a typing slip in a date cannot ask for
// centuries.
const maxDays = 3700

// SpanError says why a range cannot be read.
type SpanError struct{ Reason string }

func (e *SpanError) Error() string { return e.Reason }

// Ranges are the names of the ranges that ParseSpan reads, beside two dates.
const Ranges = "today, yesterday, 7d, 28d, 90d, 28d-today, month, last-month, all"

// ParseSpan reads a range: "today", "yesterday", "7d", "28d" or "90d" (the last so many
// days that are over, so that 7 and 28 hold each weekday as often as any other),
// "28d-today" (those and today), "month" (this month so far), "last-month", "all" (from the day of first on), or
// "YYYY-MM-DD..YYYY-MM-DD" with both days included. Days are days of zone. Where first
// is today, no day is over, and "7d", "28d" and "90d" are today. A range that cannot be
// read gives a *SpanError.
func ParseSpan(text string, now, first time.Time, zone *time.Location) (Span, error) {
	today := startOfDay(now, zone)
	tomorrow := today.AddDate(0, 0, 1)
	switch text {
	case "today":
		return wholeDays(today, tomorrow)
	case "yesterday":
		return wholeDays(today.AddDate(0, 0, -1), today)
	case "7d", "28d", "90d":
		if !first.Before(today) {
			return wholeDays(today, tomorrow)
		}
		var days int
		_, _ = fmt.Sscanf(text, "%dd", &days)
		return wholeDays(today.AddDate(0, 0, -days), today)
	case "28d-today":
		return WithToday(28, now, zone), nil
	case "month":
		return wholeDays(startOfMonth(today, 0), tomorrow)
	case "last-month":
		return wholeDays(startOfMonth(today, -1), startOfMonth(today, 0))
	case "all":
		return wholeDays(startOfDay(first, zone), tomorrow)
	}
	var fromText, toText string
	if len(text) == 22 && text[10:12] == ".." {
		fromText, toText = text[:10], text[12:]
	}
	from, errFrom := time.ParseInLocation(time.DateOnly, fromText, zone)
	to, errTo := time.ParseInLocation(time.DateOnly, toText, zone)
	if errFrom != nil || errTo != nil {
		return Span{}, &SpanError{fmt.Sprintf("“%s” is not a range. Use %s, or two dates like 2026-09-01..2026-09-30.", text, Ranges)}
	}
	if to.Before(from) {
		return Span{}, &SpanError{"The range ends before it begins. Swap the two dates."}
	}
	return wholeDays(from, to.AddDate(0, 0, 1))
}

// LastDays tells whether a range is of the last so many days that are over, so that today comes next.
func LastDays(text string) bool { return text == "7d" || text == "28d" || text == "90d" }

// WithToday is so many days that are over, and today so far: for counts that no verdict is drawn from.
func WithToday(days int, now time.Time, zone *time.Location) Span {
	today := startOfDay(now, zone)
	span, _ := wholeDays(today.AddDate(0, 0, -days), today.AddDate(0, 0, 1)) // so few days are no error
	return span
}

func wholeDays(from, to time.Time) (Span, error) {
	var span Span
	for i := 0; ; i++ {
		day := from.AddDate(0, 0, i)
		span.Days = append(span.Days, day)
		if !day.Before(to) {
			return span, nil
		}
		if i >= maxDays {
			return Span{}, &SpanError{"A range covers at most ten years. Choose a shorter one."}
		}
	}
}

// startOfMonth is the first moment of the month of a day, or of so many months later.
func startOfMonth(day time.Time, later int) time.Time {
	return time.Date(day.Year(), day.Month()+time.Month(later), 1, 0, 0, 0, 0, day.Location())
}

func startOfDay(at time.Time, zone *time.Location) time.Time {
	at = at.In(zone)
	return time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, zone)
}

// Comparison says with what a span is compared.
type Comparison string

// Comparisons.
const (
	// Before is the same length just before.
	Before Comparison = "before"
	// SameWeekdays is the same length a whole number of weeks before, so that each day is
	// held against one of the same name.
	SameWeekdays Comparison = "weekdays"
)

// Compared is the span that this one is compared with. Of a span that is not over, only as
// many days count as have passed: today is left out of both.
func (s Span) Compared(with Comparison) Span {
	back := s.Len()
	if with == SameWeekdays {
		back = (s.Len() + 6) / 7 * 7
	}
	earlier := Span{Days: make([]time.Time, len(s.Days))}
	for i, day := range s.Days {
		earlier.Days[i] = day.AddDate(0, 0, -back)
	}
	return earlier
}

// Finished is the span without the day that is not over yet. It reports false where there is no other day in it: hours
// of a day are not held against a whole one.
func (s Span) Finished(now time.Time) (over Span, compares bool) {
	last := s.Len() - 1
	switch {
	case !s.Days[last+1].After(now):
		return s, true
	case last < 1 || s.Days[last].After(now):
		return s, false
	}
	return Span{Days: s.Days[:last+1]}, true
}

// DayEarlier is the span of the same length that begins a day before.
func (s Span) DayEarlier() Span {
	earlier := Span{Days: make([]time.Time, len(s.Days))}
	for i, day := range s.Days {
		earlier.Days[i] = day.AddDate(0, 0, -1)
	}
	return earlier
}
