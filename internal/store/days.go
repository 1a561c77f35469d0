package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

// Day is a UTC day of a page or a short link.
type Day struct {
	EndpointID uuid.UUID
	UTCDay     time.Time
}

func dayOf(event Event) Day { return Day{event.EndpointID, daily.UTCDay(event.At)} }

// countedDay is the state of the sums of a day, locked for whoever changes them.
type countedDay struct {
	Day
	due     bool
	places  daily.Places
	crowded bool
	zone    *time.Location
	tally   *daily.Tally // of what changes
}

// lockDays locks the sums of days, in an order that is always the same, so that
// two processes do not wait for each other. They get another version.
func lockDays(ctx context.Context, tx pgx.Tx, days map[Day]bool) (map[Day]*countedDay, error) {
	var pages []uuid.UUID
	var utcDays []time.Time
	for day := range days {
		pages, utcDays = append(pages, day.EndpointID), append(utcDays, day.UTCDay)
	}
	rows, err := tx.Query(ctx, `
		insert into counted_days (endpoint_id, utc_day)
		select * from unnest($1::uuid[], $2::date[]) as t (endpoint_id, utc_day) order by endpoint_id, utc_day
		on conflict (endpoint_id, utc_day) do update set version = excluded.version
		returning endpoint_id, utc_day, due, places, crowded`, pages, utcDays)
	if err != nil {
		return nil, err
	}
	locked := make(map[Day]*countedDay, len(days))
	var day countedDay
	var places []string
	_, err = pgx.ForEachRow(rows, []any{&day.EndpointID, &day.UTCDay, &day.due, &places, &day.crowded}, func() error {
		one := day
		one.places = make(daily.Places, len(places))
		for _, place := range places {
			one.places[place] = true
		}
		locked[one.Day] = &one
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("lock the sums of days: %w", err)
	}
	return locked, nil
}

// withZones reads by which clock days are told apart.
func withZones(ctx context.Context, tx pgx.Tx, days map[Day]*countedDay) error {
	var pages []uuid.UUID
	for day := range days {
		pages = append(pages, day.EndpointID)
	}
	rows, err := tx.Query(ctx, `
		select endpoints.id, zone from endpoints join workspaces on workspaces.id = workspace_id where endpoints.id = any($1)`, pages)
	if err != nil {
		return err
	}
	names := make(map[uuid.UUID]string)
	var id uuid.UUID
	var name string
	if _, err := pgx.ForEachRow(rows, []any{&id, &name}, func() error { names[id] = name; return nil }); err != nil {
		return err
	}
	for key, day := range days {
		if day.zone, err = time.LoadLocation(names[key.EndpointID]); err != nil {
			return fmt.Errorf("the zone of a workspace: %w", err)
		}
	}
	return nil
}

// markDue notes days whose sums are to be made anew. Until they are, the sums
// stay as they are.
func markDue(ctx context.Context, tx pgx.Tx, days ...Day) error {
	wanted := make(map[Day]bool, len(days))
	for _, day := range days {
		wanted[day] = true
	}
	if _, err := lockDays(ctx, tx, wanted); err != nil {
		return err
	}
	for _, day := range days {
		_, err := tx.Exec(ctx, `
			update counted_days set due = true, due_from = now(), failures = 0 where endpoint_id = $1 and utc_day = $2`, day.EndpointID, day.UTCDay)
		if err != nil {
			return fmt.Errorf("note that a day is due: %w", err)
		}
	}
	return nil
}

// ofDay is a condition on events: they are of a page on a UTC day. It finds them by
// the index and looks into the part of the table for that month only.
const ofDay = `endpoint_id = $1 and (at at time zone 'UTC')::date = $2
	and at >= $2::date::timestamp at time zone 'UTC' and at < ($2::date + 1)::timestamp at time zone 'UTC'`

// isDue is a condition on counted_days: the sums do not hold, or, after the end of
// the day, tell apart the places that came first and not those most came from.
const isDue = "(due or crowded and utc_day < (now() at time zone 'UTC')::date)"

// DueDays lists at most limit days whose sums are to be made anew, oldest first.
// Unless all are asked for, one that failed is left out until it is time to try
// it again.
func (s *Store) DueDays(ctx context.Context, limit int, all bool) ([]Day, error) {
	rows, err := s.pool.Query(ctx, "select endpoint_id, utc_day from counted_days where "+isDue+
		" and ($2 or due_from <= now()) order by utc_day, endpoint_id limit $1", limit, all)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Day])
}

// SumUpDay makes the sums of a day anew from its events, read one visitor at a
// time. It reports false when there is nothing to do, or somebody else is at it.
func (s *Store) SumUpDay(ctx context.Context, day Day) (done bool, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var zoneName string
		err := tx.QueryRow(ctx, `
			select zone from counted_days join endpoints on id = endpoint_id join workspaces on workspaces.id = workspace_id
			where endpoint_id = $1 and utc_day = $2 and `+isDue+` for update of counted_days skip locked`,
			day.EndpointID, day.UTCDay).Scan(&zoneName)
		if errors.Is(err, pgx.ErrNoRows) {
			return nil
		}
		if err != nil {
			return err
		}
		zone, err := time.LoadLocation(zoneName)
		if err != nil {
			return err
		}
		sums, busy, err := s.countDay(ctx, tx, day, zone)
		if err != nil {
			return err
		}
		done = true
		return replaceDay(ctx, tx, day, sums, busy)
	})
	if err == nil || ctx.Err() != nil {
		return done && err == nil, err
	}
	if _, noted := s.pool.Exec(ctx, `
		update counted_days set failures = failures + 1,
			due_from = now() + least(interval '1 hour', interval '10 seconds' * 2 ^ least(failures, 12))
		where endpoint_id = $1 and utc_day = $2`, day.EndpointID, day.UTCDay); noted != nil {
		err = errors.Join(err, noted)
	}
	return false, fmt.Errorf("sum up %s of %s: %w", day.UTCDay.Format(time.DateOnly), day.EndpointID, err)
}

// countDay counts the events of a day. It holds those of one visitor at a time.
func (s *Store) countDay(ctx context.Context, tx pgx.Tx, day Day, zone *time.Location) (daily.Sums, []busyVisitor, error) {
	var busy []busyVisitor
	shown, err := s.shownOn(ctx, tx, day)
	if err != nil {
		return daily.Sums{}, nil, err
	}
	tally := daily.NewTally(zone, shown)
	rows, err := tx.Query(ctx, selectEvents+"where "+ofDay+" order by visitor", day.EndpointID, day.UTCDay)
	if err != nil {
		return daily.Sums{}, nil, err
	}
	err = eachVisitor(rows, func(events []traffic.Event) {
		if len(events) > busyFrom {
			busy = append(busy, newBusyVisitor(visitorDay{day, events[0].Visitor}, zone, shown, slices.Clone(events)))
		}
		tally.Add(events)
	})
	return tally.Sums(), busy, err
}

// eachVisitor reads the rows of selectEvents in the order of visitors, and hands out the counted events of one at a time,
// and what is flagged one by one. The slice is used again.
func eachVisitor(rows pgx.Rows, take func([]traffic.Event)) error {
	var events []traffic.Event
	finish := func() {
		if len(events) > 0 {
			take(events)
		}
		events = events[:0]
	}
	err := eachEvent(rows, func(_ uuid.UUID, event traffic.Event) {
		if !event.Counted() {
			take([]traffic.Event{event})
			return
		}
		if len(events) > 0 && events[0].Visitor != event.Visitor {
			finish()
		}
		events = append(events, event)
	})
	finish()
	return err
}

// Joined is what is found out of an event beside others of its visitor: whether it was repeated, and which source its
// visit is of.
type Joined struct {
	Repeat bool
	source.Attribution
}

// JoinedEvents finds out for the events of a day of a page of a workspace what is found out of each beside others. Those
// that stay as they are stored are left out.
func (s *Store) JoinedEvents(ctx context.Context, workspace uuid.UUID, day Day) (map[uuid.UUID]Joined, error) {
	rows, err := s.pool.Query(ctx, selectEvents+"join endpoints on endpoints.id = events.endpoint_id where "+ofDay+
		" and workspace_id = $3 and flags = 0 order by visitor", day.EndpointID, day.UTCDay, workspace)
	if err != nil {
		return nil, err
	}
	joined := make(map[uuid.UUID]Joined)
	err = eachVisitor(rows, func(events []traffic.Event) {
		traffic.InOrder(events)
		stored := slices.Clone(events)
		traffic.MarkRepeats(events)
		traffic.JoinVisits(events)
		for i, event := range events {
			if event != stored[i] {
				joined[uuid.MustParse(event.ID)] = Joined{event.Flags != 0, source.Attribution{Source: event.Source, By: event.Evidence}}
			}
		}
	})
	if err != nil {
		return nil, fmt.Errorf("join the events of a day: %w", err)
	}
	return joined, nil
}

// shownOn says what could be pressed on the editions that visitors had open on a
// day.
func (s *Store) shownOn(ctx context.Context, tx pgx.Tx, day Day) (daily.Editions, error) {
	rows, err := tx.Query(ctx, "select distinct edition from events where "+ofDay, day.EndpointID, day.UTCDay)
	if err != nil {
		return nil, err
	}
	editions := make(map[editionID]bool)
	var number int
	_, err = pgx.ForEachRow(rows, []any{&number}, func() error {
		editions[editionID{day.EndpointID, number}] = true
		return nil
	})
	if err != nil {
		return nil, err
	}
	shown, err := s.editionRows(ctx, tx, editions)
	return shown.on(day.EndpointID), err
}

// replaceDay keeps the sums of a whole day in place of those before.
func replaceDay(ctx context.Context, tx pgx.Tx, day Day, sums daily.Sums, busy []busyVisitor) error {
	places := daily.MostVisited(sums)
	var batch pgx.Batch
	for _, table := range []string{
		"daily_pages", "daily_blocks", "daily_hours", "daily_hour_shares", "daily_left_out", "daily_items", "daily_targets",
		"daily_traits", "daily_trials", "busy_visitors",
	} {
		batch.Queue("delete from "+table+" where endpoint_id = $1 and utc_day = $2", day.EndpointID, day.UTCDay)
	}
	batch.Queue(`update counted_days set due = false, failures = 0, crowded = false, places = $3, version = nextval('daily_versions')
		where endpoint_id = $1 and utc_day = $2`, day.EndpointID, day.UTCDay, places.Keys())
	if err := tx.SendBatch(ctx, &batch).Close(); err != nil {
		return err
	}
	for _, visitor := range busy {
		if err := keepBusy(ctx, tx, visitor); err != nil {
			return err
		}
	}
	if err := addSums(ctx, tx, []daySums{{day, sums.Join(places)}}); err != nil {
		return err
	}
	return announceFigures(ctx, tx, map[Day]bool{day: true})
}

// daysDue notes how many days of a span wait to be summed up anew.
func daysDue(ctx context.Context, tx pgx.Tx, figures map[uuid.UUID]*Figures, ids []uuid.UUID, first, last time.Time) error {
	rows, err := tx.Query(ctx, `
		select endpoint_id, count(*) from counted_days where due and endpoint_id = any($1) and utc_day between $2 and $3 group by endpoint_id`,
		ids, first, last)
	if err != nil {
		return err
	}
	var id uuid.UUID
	var due int
	_, err = pgx.ForEachRow(rows, []any{&id, &due}, func() error { figures[id].Due = due; return nil })
	return err
}
