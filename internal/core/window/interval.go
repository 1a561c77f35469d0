package window

import (
	"fmt"
	"strings"
	"time"
)

// openEnd stands for an end that is open. Source: ISO 8601-2:2019, 4.4 (from
// memory).
const openEnd = ".."

// Interval writes a window as a time interval of ISO 8601-1 in UTC, such as
// 2026-12-01T09:00:00Z/2026-12-02T00:00:00Z.
func (w Window) Interval() string { return end(w.From) + "/" + end(w.To) }

func end(at time.Time) string {
	if at.IsZero() {
		return openEnd
	}
	return at.UTC().Format(time.RFC3339)
}

// ParseInterval reads what Interval writes.
func ParseInterval(text string) (Window, error) {
	from, to, both := strings.Cut(strings.TrimSpace(text), "/")
	var w Window
	for _, one := range []struct {
		text string
		into *time.Time
	}{{from, &w.From}, {to, &w.To}} {
		if one.text == openEnd {
			continue
		}
		at, err := time.Parse(time.RFC3339, one.text)
		if err != nil || !both {
			return Window{}, fmt.Errorf("“%s” is no interval like 2026-12-01T09:00:00Z/2026-12-02T00:00:00Z", text)
		}
		*one.into = at
	}
	if !w.To.IsZero() && !w.From.Before(w.To) {
		return Window{}, fmt.Errorf("the interval “%s” ends before it begins", text)
	}
	return w, nil
}
