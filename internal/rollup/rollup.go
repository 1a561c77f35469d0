// Package rollup keeps the sums of pages' days in step with their events, and
// reads figures out of the two: sums where they hold, events where they do not.
// Because both are made by the same rule, it makes no difference to a figure
// whether a day has been summed up.
package rollup

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

const (
	// every is how often it is looked for days that are due. One is summed up when
	// it has not changed since the look before: while a day is busy its sums would
	// not hold for long.
	every = 10 * time.Second
	// prune is how often raw events that are over are deleted.
	prune = time.Hour
	// mostDue bounds how many days are dealt with at one time.
	mostDue = 5000
)

// Roller sums up days that are due.
type Roller struct {
	store  *store.Store
	cancel context.CancelFunc
	done   chan struct{}
}

// Start begins to sum up in the background. Stop ends it.
func Start(ctx context.Context, s *store.Store) *Roller {
	ctx, cancel := context.WithCancel(ctx)
	r := &Roller{store: s, cancel: cancel, done: make(chan struct{})}
	go r.run(ctx)
	return r
}

// Stop ends it; a day that is being summed up stays due.
func (r *Roller) Stop() {
	r.cancel()
	<-r.done
}

func (r *Roller) run(ctx context.Context) {
	defer close(r.done)
	before := make(map[store.Due]bool)
	var pruned time.Time
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(every):
		}
		due, err := r.store.DueDays(ctx, mostDue)
		quiet := slices.DeleteFunc(slices.Clone(due), func(day store.Due) bool { return !before[day] })
		if err == nil {
			err = sumUpAll(ctx, r.store, quiet, func() {})
		}
		if err != nil && ctx.Err() == nil {
			slog.Error("days could not be summed up; readings use their events meanwhile", "error", err)
		}
		if time.Since(pruned) > prune {
			pruned = time.Now()
			if _, err := r.store.Prune(ctx, pruned); err != nil && ctx.Err() == nil {
				slog.Error("raw events that are over could not be deleted; tried again in an hour", "error", err)
			}
		}
		clear(before)
		for _, day := range due {
			before[day] = true
		}
	}
}

// All sums up every day that is due now, and returns how many those were. A day
// that changes meanwhile stays due. Progress, unless nil, hears of each.
func All(ctx context.Context, s *store.Store, progress func(done, of int)) (int, error) {
	due, err := s.DueDays(ctx, math.MaxInt32)
	if err != nil {
		return 0, err
	}
	done := 0
	return len(due), sumUpAll(ctx, s, due, func() {
		done++
		if progress != nil {
			progress(done, len(due))
		}
	})
}

// sumUpAll sums up days. One that cannot be does not keep back the others; the
// error names them all.
func sumUpAll(ctx context.Context, s *store.Store, due []store.Due, did func()) error {
	zones := make(map[uuid.UUID]*time.Location)
	var failed []error
	for _, day := range due {
		if ctx.Err() != nil {
			return errors.Join(append(failed, ctx.Err())...)
		}
		if err := sumUp(ctx, s, day, zones); err != nil {
			failed = append(failed, fmt.Errorf("sum up %s of page %s: %w", day.Unit.Format(time.DateOnly), day.PageID, err))
		}
		did()
	}
	return errors.Join(failed...)
}

func sumUp(ctx context.Context, s *store.Store, day store.Due, zones map[uuid.UUID]*time.Location) error {
	if zones[day.PageID] == nil {
		name, err := s.ZoneOf(ctx, day.PageID)
		if err != nil {
			return err
		}
		if zones[day.PageID], err = time.LoadLocation(name); err != nil {
			return err
		}
	}
	events, err := s.EventsOfDay(ctx, day.PageID, day.Unit)
	if err != nil {
		return err
	}
	sheet, err := sum(ctx, s, day.PageID, events, zones[day.PageID])
	if err != nil {
		return err
	}
	_, err = s.KeepDay(ctx, day, sheet)
	return err
}

// sum is daily.Sum for events of a page or a short link. It fails when an edition
// cannot be read: its visitors would count as having been shown nothing.
func sum(ctx context.Context, s *store.Store, id uuid.UUID, events []traffic.Event, zone *time.Location) (daily.Sheet, error) {
	var failed error
	sheet := daily.Sum(events, zone, func(edition int) []string {
		if edition == 0 {
			return nil // a short link has none
		}
		keys, err := s.EditionRows(ctx, id, edition)
		// An edition that is not there showed nothing.
		if err != nil && !errors.Is(err, store.ErrNotFound) && failed == nil {
			failed = fmt.Errorf("read edition %d: %w", edition, err)
		}
		return keys
	})
	return sheet, failed
}

// Read reads the figures of a page or a short link of a workspace in a span.
func Read(ctx context.Context, s *store.Store, workspace, id uuid.UUID, span readings.Span) (readings.Reading, error) {
	all, err := ReadAll(ctx, s, workspace, []uuid.UUID{id}, span)
	return all[id], err
}

// ReadAll reads the figures of several pages and short links of a workspace in a
// span, together.
func ReadAll(ctx context.Context, s *store.Store, workspace uuid.UUID, ids []uuid.UUID, span readings.Span) (map[uuid.UUID]readings.Reading, error) {
	sheets, err := sheetsOf(ctx, s, workspace, ids, span.From(), span.To())
	all := make(map[uuid.UUID]readings.Reading, len(ids))
	for id, sheet := range sheets {
		all[id] = readings.Read(span, sheet)
	}
	return all, err
}

// Sheet is everything that is summed up, or can be, of a page or a short link of
// a workspace.
func Sheet(ctx context.Context, s *store.Store, workspace, id uuid.UUID) (daily.Sheet, error) {
	year := func(n int) time.Time { return time.Date(n, 1, 1, 0, 0, 0, 0, time.UTC) }
	sheets, err := sheetsOf(ctx, s, workspace, []uuid.UUID{id}, year(1), year(9999))
	return sheets[id], err
}

func sheetsOf(ctx context.Context, s *store.Store, workspace uuid.UUID, ids []uuid.UUID, from, to time.Time) (map[uuid.UUID]daily.Sheet, error) {
	figures, err := s.Figures(ctx, workspace, ids, from, to)
	if err != nil {
		return nil, err
	}
	about, err := s.Workspace(ctx, workspace)
	if err != nil {
		return nil, err
	}
	zone, err := time.LoadLocation(about.Zone)
	if err != nil {
		return nil, err
	}
	sheets := make(map[uuid.UUID]daily.Sheet, len(ids))
	for id, known := range figures {
		for _, events := range known.Waiting {
			day, err := sum(ctx, s, id, events, zone)
			if err != nil {
				return nil, err
			}
			known.Sheet.Add(day)
		}
		sheets[id] = known.Sheet
	}
	return sheets, nil
}
