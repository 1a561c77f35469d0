package figures

import (
	"context"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/alarm"
	"jundle/internal/core/daily"
	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// Off is what is off with a page, and why that may be.
type Off struct {
	alarm.Alarm
	// Block or Source is what it is about.
	Block, Source string
	// Since is the first day it was seen on, YYYY-MM-DD.
	Since string
	// From is the source that most of what is more came from; empty for silence.
	From string
	// Link is how the address answered when it was last asked, where that failed; nil otherwise.
	Link *linkcheck.Result
}

// FindOff looks for the most costly thing that is off with a page of a workspace, by days that are
// over; nil when nothing is.
func FindOff(ctx context.Context, s *store.Store, owner store.Page, live page.Document, now time.Time, zone *time.Location) (*Off, error) {
	last := now.In(zone).AddDate(0, 0, -1)
	text := last.AddDate(0, 0, 1-alarm.Days).Format(time.DateOnly) + ".." + last.Format(time.DateOnly)
	span, err := readings.ParseSpan(text, now, now, zone)
	if err != nil {
		return nil, err
	}
	figures, err := s.Figures(ctx, owner.WorkspaceID, []uuid.UUID{owner.ID}, span.From(), span.To())
	if err != nil {
		return nil, err
	}
	known := figures[owner.ID]
	if known.Due > 0 {
		return nil, nil // figures that are being counted anew would raise alarms of their own
	}
	shown := make(map[string]bool)
	for _, row := range live.Rows() {
		shown[row.Key] = true
	}
	listed, err := s.Attributable(ctx, owner.ID)
	if err != nil {
		return nil, err
	}
	sources := make(map[string]bool)
	for _, source := range listed {
		sources[source.ID] = source.Until.IsZero()
	}
	found := alarm.Find(seriesOf(span, known.Sums, shown, sources))
	if len(found) == 0 {
		return nil, nil
	}
	off := &Off{Alarm: found[0], Since: span.Date(span.Len() - found[0].Days)}
	if sources[off.Key] {
		off.Source = off.Key
	} else {
		off.Block = off.Key
	}
	return off, off.explain(ctx, s, owner.WorkspaceID, live, span, known.Sums)
}

// seriesOf are the clicks of what is on the page, for their reach, and the visits from sources that
// are in use, for the rhythm of the week.
func seriesOf(span readings.Span, sums daily.Sums, blocks, sources map[string]bool) []alarm.Series {
	var series []alarm.Series
	whole := readings.Read(span, sums)
	rhythm := weekRhythm(span, whole)
	for key, inUse := range sources {
		if inUse {
			series = append(series, alarm.Series{Key: key, Counts: visitsFrom(whole, key), Exposure: rhythm})
		}
	}
	for key := range blocks {
		detail := readings.OfBlock(span, sums, key, "")
		one := alarm.Series{Key: key}
		for _, day := range detail.Days {
			one.Counts, one.Exposure = append(one.Counts, day.Taken), append(one.Exposure, float64(day.Of))
		}
		series = append(series, one)
	}
	return series
}

func visitsFrom(whole readings.Reading, source string) (counts []int) {
	for _, day := range whole.Days {
		counts = append(counts, day.VisitsBySource[source])
	}
	return counts
}

// weekRhythm is what part of an average day each day of the week brings to the whole page, a little
// drawn to an even week.
func weekRhythm(span readings.Span, whole readings.Reading) []float64 {
	sums, n := [7]float64{}, [7]float64{}
	all := 0.0
	for i, day := range whole.Days {
		weekday := span.Days[i].Weekday()
		sums[weekday] += float64(day.Visits)
		n[weekday]++
		all += float64(day.Visits)
	}
	mean := all / float64(max(1, len(whole.Days)))
	rhythm := make([]float64, len(whole.Days))
	for i := range rhythm {
		weekday := span.Days[i].Weekday()
		rhythm[i] = (sums[weekday] + mean) / (n[weekday]*mean + mean)
		if mean == 0 {
			rhythm[i] = 1
		}
	}
	return rhythm
}

// explain looks for the likely reason.
func (o *Off) explain(
	ctx context.Context, s *store.Store, workspace uuid.UUID, live page.Document, span readings.Span, sums daily.Sums,
) error {
	if o.Block != "" && o.Kind == alarm.Spike {
		last := span.Date(span.Len() - 1)
		most := 0
		for _, row := range sums.Blocks {
			if row.Day == last && row.Block == o.Block && row.Clicks > most {
				most, o.From = row.Clicks, row.Source
			}
		}
	}
	if o.Block == "" || o.Kind != alarm.Silent {
		return nil
	}
	for _, target := range live.TargetsOf(o.Block) {
		if target.DestinationID == "" {
			continue
		}
		checks, err := s.LinkChecks(ctx, workspace, []string{target.DestinationID})
		if err != nil {
			return err
		}
		if check, asked := checks[target.DestinationID]; asked && check.Failures > 0 {
			o.Link = &check
		}
	}
	return nil
}
