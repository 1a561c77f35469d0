package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/traffic"
)

// busyFrom is how many counted events of a visitor on one day are read again with
// every batch that brings more of them. Of visitors with more it is kept what they
// brought, and counted anew now and then.
const busyFrom = 500

// busyVisitor is a visitor with more than busyFrom events on a day.
type busyVisitor struct {
	visitorDay
	brought daily.Sums
	events  int
}

func newBusyVisitor(of visitorDay, zone *time.Location, shown daily.Editions, events []traffic.Event) busyVisitor {
	tally := daily.NewTally(zone, shown)
	tally.Add(events)
	return busyVisitor{of, tally.Sums(), len(events)}
}

// keepBusy keeps what a busy visitor brought to the sums so far.
func keepBusy(ctx context.Context, tx pgx.Tx, busy busyVisitor) error {
	brought, err := json.Marshal(busy.brought)
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, `
		insert into busy_visitors (endpoint_id, utc_day, visitor, brought, events) values ($1, $2, $3, $4, $5)
		on conflict (endpoint_id, utc_day, visitor) do update set brought = excluded.brought, events = excluded.events, due = null`,
		busy.EndpointID, busy.UTCDay, busy.visitor[:], brought, busy.events)
	if err != nil {
		return fmt.Errorf("keep what a busy visitor brought: %w", err)
	}
	return nil
}

// withoutBusy leaves out the busy ones among visitors and notes that they are to
// be counted anew: the later, the longer that takes, so that it costs little
// however many events one visitor has.
func withoutBusy(ctx context.Context, tx pgx.Tx, visitors []visitorDay) ([]visitorDay, error) {
	days, keys := apart(visitors)
	rows, err := tx.Query(ctx, `
		update busy_visitors busy set due = coalesce(due, now() + events * interval '5 milliseconds')
		from unnest($1::uuid[], $2::date[]) with ordinality as d (endpoint_id, utc_day, day)
		join unnest($3::int[], $4::bytea[]) as v (day, visitor) using (day)
		where busy.endpoint_id = d.endpoint_id and busy.utc_day = d.utc_day and busy.visitor = v.visitor
		returning busy.endpoint_id, busy.utc_day, busy.visitor`, days.pages, days.utcDays, days.of, keys)
	if err != nil {
		return nil, err
	}
	busy, err := pgx.CollectRows(rows, scanVisitorDay)
	if err != nil || len(busy) == 0 {
		return visitors, err
	}
	return slices.DeleteFunc(visitors, func(each visitorDay) bool { return slices.Contains(busy, each) }), nil
}

func scanVisitorDay(row pgx.CollectableRow) (each visitorDay, err error) {
	var key []byte
	err = row.Scan(&each.EndpointID, &each.UTCDay, &key)
	copy(each.visitor[:], key)
	return each, err
}

// SumUpBusyVisitor counts one busy visitor anew of whom more came, the one whose
// time came first. It reports false when there is none.
func (s *Store) SumUpBusyVisitor(ctx context.Context) (bool, error) {
	n, err := s.sumUpBusyVisitors(ctx, "due <= now() order by due limit 1")
	return n > 0, err
}

// SumUpBusyVisitors counts all busy visitors anew of whom more came. What fails for
// one does not keep back the others.
func (s *Store) SumUpBusyVisitors(ctx context.Context) error {
	_, err := s.sumUpBusyVisitors(ctx, "due is not null order by due")
	return err
}

func (s *Store) sumUpBusyVisitors(ctx context.Context, which string) (int, error) {
	rows, err := s.pool.Query(ctx, "select endpoint_id, utc_day, visitor from busy_visitors where "+which)
	if err != nil {
		return 0, err
	}
	due, err := pgx.CollectRows(rows, scanVisitorDay)
	if err != nil {
		return 0, err
	}
	var failed []error
	for _, visitor := range due {
		if err := s.sumUpBusyVisitor(ctx, visitor); err != nil {
			// It is tried again in a minute, after the others.
			_, noted := s.pool.Exec(ctx, `
				update busy_visitors set due = now() + interval '1 minute'
				where endpoint_id = $1 and utc_day = $2 and visitor = $3 and due is not null`,
				visitor.EndpointID, visitor.UTCDay, visitor.visitor[:])
			failed = append(failed, fmt.Errorf("sum up a busy visitor of %s: %w", visitor.EndpointID, errors.Join(err, noted)))
		}
	}
	return len(due), errors.Join(failed...)
}

func (s *Store) sumUpBusyVisitor(ctx context.Context, visitor visitorDay) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		days, err := lockDays(ctx, tx, map[Day]bool{visitor.Day: true})
		if err != nil {
			return err
		}
		var brought []byte
		err = tx.QueryRow(ctx, "select brought from busy_visitors where endpoint_id = $1 and utc_day = $2 and visitor = $3 and due is not null",
			visitor.EndpointID, visitor.UTCDay, visitor.visitor[:]).Scan(&brought)
		if errors.Is(err, pgx.ErrNoRows) {
			return nil // somebody else did it
		}
		var before daily.Sums
		if err := errors.Join(err, json.Unmarshal(brought, &before)); err != nil {
			return err
		}
		day := days[visitor.Day]
		if err := withZones(ctx, tx, days); err != nil {
			return err
		}
		shown, err := s.shownOn(ctx, tx, visitor.Day)
		if err != nil {
			return err
		}
		events, err := eventsOfVisitors(ctx, tx, []visitorDay{visitor}, 0)
		if err != nil {
			return err
		}
		if len(events[0]) == 0 {
			// Their events were deleted in time: what they brought stays.
			_, err := tx.Exec(ctx, "delete from busy_visitors where endpoint_id = $1 and utc_day = $2 and visitor = $3",
				visitor.EndpointID, visitor.UTCDay, visitor.visitor[:])
			return err
		}
		now := newBusyVisitor(visitor, day.zone, shown, events[0])
		if err := keepBusy(ctx, tx, now); err != nil || day.due {
			return err
		}
		day.tally = daily.NewTally(day.zone, nil)
		day.tally.SubtractSums(before)
		day.tally.AddSums(now.brought)
		return keepChanges(ctx, tx, days)
	})
}
