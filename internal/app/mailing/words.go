package mailing

import (
	"cmp"
	"fmt"
	"math"
	"strings"
	"time"

	"golang.org/x/text/language"
	"golang.org/x/text/message"

	"jundle/internal/app/figures"
	"jundle/internal/core/alarm"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// english writes numbers as the studio does.
var english = message.NewPrinter(language.English)

func thousands(n int) string { return english.Sprintf("%d", n) }

func counted(n int, one, more string) string {
	if n == 1 {
		return "1 " + one
	}
	return thousands(n) + " " + more
}

func day(at time.Time) string { return at.Format("Monday, 2 January") }

// called is what a page is called.
func called(page store.Page) string {
	return cmp.Or(strings.TrimSpace(page.Draft.Header.Name), page.Address)
}

// change says what a count did against the week before.
func change(of readings.CountChange) string {
	if of.Before == 0 {
		return ""
	}
	share := math.Round(100 * of.Share)
	if share == 0 {
		return "as in the week before"
	}
	return fmt.Sprintf("%+.0f %% on the week before", share)
}

// visitsChange says it of visits, and whether that is more than weeks differ by themselves.
func visitsChange(of readings.VisitsChange) string {
	said := change(of.CountChange)
	switch {
	case said == "":
		return ""
	case of.Missing > 0:
		return said + fmt.Sprintf("; whether that is a change can be told in %s", counted(of.Missing, "day", "days"))
	case of.Called:
		said += "; more than weeks differ by themselves"
	case math.Round(100*of.Share) != 0:
		said += "; whether that is a change cannot be told"
	}
	if of.Close {
		said += ", but it is close"
	}
	return said
}

// offWords says what is off, in the words of the studio.
func offWords(off figures.Off, names readings.Names) string {
	title, times := "“"+names.Blocks[off.Block]+"” was pressed "+counted(off.Came, "time", "times"), ""
	if off.Source != "" {
		title = counted(off.Came, "visit", "visits") + " came from " + names.Sources[off.Source]
	}
	usual := thousands(int(math.Round(off.Expected)))
	if since, err := time.Parse(time.DateOnly, off.Since); err == nil {
		times = since.Format("Mon 2 Jan")
	}
	if off.Kind == alarm.Spike {
		sentence := fmt.Sprintf("%s on %s, where about %s would be usual.", title, times, usual)
		if from := names.Sources[off.From]; from != "" {
			sentence += " Most of it came from " + from + "."
		}
		return sentence
	}
	sentence := fmt.Sprintf("Since %s %s, where about %s would be usual.", times, title, usual)
	switch {
	case off.Source != "":
		sentence += " The address may have been taken out of the profile."
	case off.Link != nil && off.Link.Status != 0:
		sentence += fmt.Sprintf(" Its address answered %d when it was last asked.", off.Link.Status)
	case off.Link != nil:
		sentence += " Its address did not answer when it was last asked."
	}
	return sentence
}
