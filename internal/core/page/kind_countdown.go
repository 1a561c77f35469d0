package page

import (
	"time"

	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/window"
)

// Countdown says how long it is until a moment.
type Countdown struct {
	nothingElse
	Title string    `json:"title" spoken:"line" doc:"What begins then; at most 120 characters."`
	Until time.Time `json:"until"`
	Zone  string    `json:"zone" doc:"IANA name of the zone it was entered in, by whose clocks it is written."`
	After string    `json:"after,omitempty" spoken:"line" doc:"Said from then on; at most 120 characters."`
}

func (c *Countdown) name() string { return c.Title }

func (c *Countdown) tidy(problems *invalid.List, where string) {
	c.Title = problems.Line(where+"/title", "The title", c.Title, MaxTitle)
	c.After = problems.Line(where+"/after", "What is said from then on", c.After, MaxTitle)
	c.Until = tidyMoment(problems, where+"/until", c.Until)
	tidyZone(problems, where+"/zone", c.Zone)
}

// Written is the moment by the clocks of its zone, as a language writes it.
func (c *Countdown) Written(language string) string {
	return locale.Of(language).Moment(inZone(c.Until, c.Zone))
}

// Left says how long it is from a moment, in the two largest units; what is said
// afterwards once it is over.
func (c *Countdown) Left(language string, at time.Time) string {
	left := c.Until.Sub(at)
	in := locale.Of(language)
	minutes := int((left + time.Minute - 1) / time.Minute) // a minute that has begun is one
	days, hours := minutes/(24*60), minutes/60%24
	switch {
	case left <= 0:
		return c.After
	case days > 0 && hours > 0:
		return in.Count("days", days) + " " + in.Count("hours", hours)
	case days > 0:
		return in.Count("days", days)
	case hours > 0 && minutes%60 > 0:
		return in.Count("hours", hours) + " " + in.Count("minutes", minutes%60)
	case hours > 0:
		return in.Count("hours", hours)
	}
	return in.Count("minutes", minutes)
}

// IsOver tells whether the moment has come.
func (c *Countdown) IsOver(at time.Time) bool { return !c.Until.After(at) }

// next implements changes: while days are left, it says something else each hour, and
// each minute on the last day.
func (c *Countdown) next(at time.Time) time.Time {
	left := c.Until.Sub(at)
	step := time.Hour
	if left <= 24*time.Hour {
		step = time.Minute
	}
	if left <= 0 {
		return time.Time{}
	}
	return c.Until.Add(-(left - 1) / step * step)
}

// Texts implements Content.
func (c *Countdown) Texts(language string) (headings, text string) {
	digits := ""
	for n := range 10 {
		digits += locale.Of(language).Number(n)
	}
	return c.Title + c.After + digits + locale.Of(language).Letters("days", "hours", "minutes"), c.Written(language)
}

func (c *Countdown) facts() []fact {
	return []fact{{"moment", inZone(c.Until, c.Zone).Format("2 Jan 2006 15:04")}, {"words from then on", c.After}}
}

// tidyMoment notes a moment that is none somebody means.
func tidyMoment(problems *invalid.List, where string, at time.Time) time.Time {
	if at.Year() < 2000 || at.Year() > 2200 {
		problems.Add(where, "Say when: a day and a time, such as 4 December 2026, 18:00.")
	}
	return at.UTC().Truncate(time.Minute)
}

func tidyZone(problems *invalid.List, where, zone string) {
	if !window.IsZone(zone) {
		problems.Add(where, "“%s” is no time zone. One looks like Europe/Lisbon.", invalid.OneLine(zone))
	}
}

// inZone is a moment by the clocks of a zone.
func inZone(at time.Time, zone string) time.Time {
	location, err := time.LoadLocation(zone)
	if err != nil {
		return at.UTC()
	}
	return at.In(location)
}
