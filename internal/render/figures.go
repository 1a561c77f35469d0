package render

import (
	_ "embed"
	"fmt"
	"html/template"
	"strings"

	"jundle/internal/core/readings"
	"jundle/internal/core/stats"
)

//go:embed figures.css
var figuresSheet string

// FiguresPage is figures of a page or a short link as they are shown to somebody they are shared
// with: sums, and nothing about any person.
type FiguresPage struct {
	Name    string // of the page or the short link
	IsLink  bool   // a short link has clicks and no buttons
	For     string // whom they are shared with
	Until   string
	From    string
	To      string
	Ranges  []FiguresRange
	Reading readings.Reading
	Buttons []FiguresRow
	Sources []FiguresRow
}

// FiguresRange is a range that can be chosen.
type FiguresRange struct {
	Label, Address string
	Chosen         bool
}

// FiguresRow is one button or source.
type FiguresRow struct {
	Name  string
	Count int
	// AtLeast: there may be more, which nobody told us of.
	AtLeast bool
	Rate    readings.Rate
}

// Sure tells whether there are enough visits for rates to say anything.
func (p FiguresPage) Sure() bool { return p.Reading.Missing == 0 }

// Sure tells whether the rate of a row rests on enough visits to be shown.
func (r FiguresRow) Sure() bool { return r.Rate.Of >= readings.EnoughVisits }

// excludedWords say why something was not counted.
var excludedWords = map[string]string{
	"crawler": "by crawlers", "preview": "by previews of posts", "prefetch": "fetched ahead and never looked at",
	"own": "by the owner and their team", "flood": "beyond what one network may add in an hour", "repeat": "repeated within 30 seconds",
}

// Excluded lists what was not counted, with the reason of each.
func (p FiguresPage) Excluded() string {
	var parts []string
	for _, out := range p.Reading.LeftOut {
		if n := out.Views + out.Clicks; n > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", n, excludedWords[out.Reason]))
		}
	}
	return strings.Join(parts, ", ")
}

// Known is the share of visits of which it is known where they came from.
func (p FiguresPage) Known() string {
	known := 0
	for _, evidence := range p.Reading.Coverage {
		if evidence.By != readings.Untagged {
			known += evidence.Visits
		}
	}
	if p.Reading.Total.Visits == 0 {
		return stats.Percent(0)
	}
	return stats.Percent(float64(known) / float64(p.Reading.Total.Visits))
}

// Figures draws shared figures, and returns the policy to serve them with.
func Figures(figures FiguresPage) (html []byte, policy string, err error) {
	html, err = execute("figures", struct {
		FiguresPage
		Style template.CSS
	}{figures, template.CSS(figuresSheet)}) //nolint:gosec // our own style sheet
	return html, ContentSecurityPolicy(figuresSheet), err
}

// Shown is the rate in per cent, and Between its interval.
func (r FiguresRow) Shown() string { return stats.Percent(r.Rate.Rate) }

// Between is the interval of the rate in words.
func (r FiguresRow) Between() string {
	return fmt.Sprintf("%s to %s", stats.Percent(r.Rate.Interval.Low), stats.Percent(r.Rate.Interval.High))
}

// Headline is the click-through rate as a row.
func (p FiguresPage) Headline() FiguresRow { return FiguresRow{Rate: p.Reading.Total.ClickThrough} }
