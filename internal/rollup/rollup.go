// Package rollup keeps the sums of pages' days, and reads figures out of them. Sums
// are added to as events are stored; what is left to do in the background is to
// make those anew that no longer hold: after a recount, an adoption, a migration.
package rollup

import (
	"context"
	"errors"
	"math"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

const (
	// mostDue bounds how many days are dealt with at one time.
	mostDue = 1000
	// busyFor is for how long busy visitors are dealt with at one time.
	busyFor = time.Minute
)

// SumUpDue sums up some of what is due. What cannot be does not keep back the rest.
func SumUpDue(ctx context.Context, s *store.Store) error {
	due, err := s.DueDays(ctx, mostDue, false)
	failed := []error{err}
	for _, day := range due {
		_, err := s.SumUpDay(ctx, day)
		failed = append(failed, err)
	}
	return errors.Join(failed...)
}

// SumUpBusy sums up busy visitors whose time has come. It rests ten times as long as
// it works: whoever makes many of them makes their figures late, and nobody else's.
func SumUpBusy(ctx context.Context, s *store.Store) error {
	for end := time.Now().Add(busyFor); time.Now().Before(end); {
		began := time.Now()
		some, err := s.SumUpBusyVisitor(ctx)
		if err != nil || !some {
			return err
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(10 * time.Since(began)):
		}
	}
	return nil
}

// All sums up everything that is due now, and returns how many days that were. A
// day that cannot be does not keep back the others; the error names them all.
// Progress, unless nil, hears of each.
func All(ctx context.Context, s *store.Store, progress func(done, of int)) (int, error) {
	due, err := s.DueDays(ctx, math.MaxInt32, true)
	if err != nil {
		return 0, err
	}
	var failed []error
	for i, day := range due {
		if ctx.Err() != nil {
			return i, errors.Join(append(failed, ctx.Err())...)
		}
		_, err := s.SumUpDay(ctx, day)
		failed = append(failed, err)
		if progress != nil {
			progress(i+1, len(due))
		}
	}
	return len(due), errors.Join(append(failed, s.SumUpBusyVisitors(ctx))...)
}

// Read reads the figures of a page or a short link of a workspace in a span.
func Read(ctx context.Context, s *store.Store, workspace, id uuid.UUID, span readings.Span) (readings.Reading, error) {
	all, err := ReadAll(ctx, s, workspace, []uuid.UUID{id}, span)
	return all[id], err
}

// ReadAll reads the figures of several pages and short links of a workspace in a
// span, together.
func ReadAll(ctx context.Context, s *store.Store, workspace uuid.UUID, ids []uuid.UUID,
	span readings.Span,
) (map[uuid.UUID]readings.Reading, error) {
	figures, err := s.Figures(ctx, workspace, ids, span.From(), span.To())
	all := make(map[uuid.UUID]readings.Reading, len(ids))
	for id, known := range figures {
		reading := readings.Read(span, known.Sums)
		reading.Recounting = known.Due
		all[id] = reading
	}
	return all, err
}

// Look is a reading of a span with what is said of it.
type Look struct {
	readings.Reading
	// Changes are from the span that it is compared with; nil where no day of it is over, or it is compared with none.
	Changes     *readings.Changes
	Association readings.Association
	// Today is of the day that is not over, where the span ends just before it; nil otherwise.
	Today *readings.Reading
}

// LookAt reads the figures of a page of a workspace in a span and holds those of its days that are over against the span it
// is compared with; with nothing where that is empty.
func LookAt(
	ctx context.Context, s *store.Store, workspace, id uuid.UUID, span readings.Span, with readings.Comparison, now time.Time,
) (look Look, err error) {
	over, compares := span.Finished(now)
	compares = compares && with != ""
	ids, to := []uuid.UUID{id}, span.To()
	today, apart := span.Next(now)
	if apart {
		to = today.To()
	}
	var figures map[uuid.UUID]*store.Figures
	if compares {
		figures, err = FiguresToCompare(ctx, s, workspace, ids, over.Compared(with), to)
	} else {
		figures, err = s.Figures(ctx, workspace, ids, span.From(), to)
	}
	if err != nil {
		return look, err
	}
	known := figures[id]
	look.Reading, look.Association = readings.Read(span, known.Sums), readings.Associate(span, known.Sums)
	look.Recounting = known.Due
	if apart {
		soFar := readings.Read(today, known.Sums)
		look.Today = &soFar
	}
	if compares {
		before := over.Compared(with)
		marks, err := s.EditionMarks(ctx, workspace, id, before.History().From(), over.To())
		if err != nil {
			return look, err
		}
		edited := make([]time.Time, len(marks))
		for i, mark := range marks {
			edited[i] = mark.At
		}
		changes := readings.Compare(over, before, known.Sums, edited)
		changes.WithoutToday = over.Len() < span.Len()
		look.Changes = &changes
	}
	return look, nil
}

// FiguresToCompare reads the sums of pages and short links of a workspace from the span before on, with the visits of
// the days of its history.
func FiguresToCompare(ctx context.Context, s *store.Store, workspace uuid.UUID, ids []uuid.UUID, before readings.Span, to time.Time) (
	map[uuid.UUID]*store.Figures, error,
) {
	figures, err := s.Figures(ctx, workspace, ids, before.From(), to)
	if err != nil {
		return nil, err
	}
	history, err := s.VisitsByDay(ctx, workspace, ids, before.DayEarlier().History().From(), before.From())
	for id, days := range history {
		figures[id].Sums.Pages = append(figures[id].Sums.Pages, days...)
	}
	return figures, err
}

// AllSums is everything that is summed up, or can be, of a page or a short link of
// a workspace.
func AllSums(ctx context.Context, s *store.Store, workspace, id uuid.UUID) (daily.Sums, error) {
	year := func(n int) time.Time { return time.Date(n, 1, 1, 0, 0, 0, 0, time.UTC) }
	figures, err := s.Figures(ctx, workspace, []uuid.UUID{id}, year(1), year(9999))
	if err != nil {
		return daily.Sums{}, err
	}
	sums := figures[id].Sums
	if sums.Hours, err = s.Hours(ctx, workspace, id, year(1), year(9999)); err != nil {
		return daily.Sums{}, err
	}
	sums.HourShares, err = s.HourShares(ctx, workspace, id, year(1), year(9999))
	return sums, err
}
