package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/traffic"
)

// Event is an event as it came, with everything its flags and its source were
// decided from. It holds no address of a visitor.
type Event struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	At        time.Time
	PageID    uuid.UUID
	Edition   int
	Kind      traffic.Kind
	Block     string
	Item      string
	Place     int
	SourceID  *uuid.UUID
	Evidence  string
	Tag       string
	Referrer  string
	UserAgent string
	Visitor   []byte
	Flags     traffic.Flags
	Rules     int
}

// RecordEvents stores a batch of events, all or nothing. An event that is there
// already is left alone, so a batch may be delivered again. Repeats are marked
// across batches, and sources learn when they were last seen.
func (s *Store) RecordEvents(ctx context.Context, events []Event) error {
	if len(events) == 0 {
		return nil
	}
	visitors := make([][]byte, len(events))
	pages := make(map[uuid.UUID]bool)
	first, last := events[0].At, events[0].At
	for i, event := range events {
		visitors[i] = event.Visitor
		pages[event.PageID] = true
		if event.At.Before(first) {
			first = event.At
		}
		if event.At.After(last) {
			last = event.At
		}
	}
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&events, 1000).Error; err != nil {
			return err
		}
		if err := markRepeats(tx, visitors, first, last); err != nil {
			return err
		}
		return markSeen(tx, pages, first, last)
	})
}

// markRepeats is traffic.MarkRepeats for what a batch touches: an event is
// flagged when the same visitor did the same on the same page within
// RepeatWithin after it, events with another flag taking no part. A test holds
// the two against each other.
func markRepeats(tx *gorm.DB, visitors [][]byte, first, last time.Time) error {
	return tx.Exec(`
		update events set flags = flags | @repeat
		where visitor in @visitors and at between @from and @to and flags = 0
		  and exists (
			select from events later
			where later.visitor = events.visitor and later.page_id = events.page_id
			  and later.kind = events.kind and later.block = events.block and later.item = events.item
			  and later.flags in (0, @repeat)
			  and (later.at, later.id) > (events.at, events.id)
			  and later.at <= events.at + @within * interval '1 second')`,
		map[string]any{
			"repeat": traffic.Repeat, "visitors": visitors, "within": traffic.RepeatWithin.Seconds(),
			"from": first.Add(-traffic.RepeatWithin), "to": last,
		}).Error
}

func markSeen(tx *gorm.DB, pages map[uuid.UUID]bool, first, last time.Time) error {
	ids := make([]uuid.UUID, 0, len(pages))
	for id := range pages {
		ids = append(ids, id)
	}
	return tx.Exec(`
		update sources set seen_at = greatest(seen_at, seen.at)
		from (select source_id, max(at) as at from events
		      where page_id in @pages and at between @first and @last and kind = 'view' and flags = 0
		      group by source_id) seen
		where sources.id = seen.source_id`,
		map[string]any{"pages": ids, "first": first, "last": last}).Error
}

// Events returns the events of a page of a workspace from one moment up to
// another, in the order the rules want them in.
func (s *Store) Events(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) ([]traffic.Event, error) {
	rows, err := s.pool.Query(ctx, `
		select events.id, at, kind, edition, block, item, place, coalesce(source_id::text, ''), visitor, flags
		from events join pages on pages.id = events.page_id
		where pages.workspace_id = $1 and pages.id = $2 and at >= $3 and at < $4
		order by at, events.id`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (traffic.Event, error) {
		var event traffic.Event
		var visitor []byte
		err := row.Scan(&event.ID, &event.At, &event.Kind, &event.Edition, &event.Block, &event.Item, &event.Place, &event.Source, &visitor, &event.Flags)
		copy(event.Visitor[:], visitor)
		return event, err
	})
}

// FirstEvent is the time of the earliest event of a page of a workspace, or
// fallback when there is none.
func (s *Store) FirstEvent(ctx context.Context, workspace, pageID uuid.UUID, fallback time.Time) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select min(at) from events join pages on pages.id = events.page_id
		where pages.workspace_id = $1 and pages.id = $2`, workspace, pageID).Scan(&first)
	if err != nil || first == nil {
		return fallback, err
	}
	return *first, nil
}
