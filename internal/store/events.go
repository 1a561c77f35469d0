package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"jundle/internal/core/campaign"
	"jundle/internal/core/daily"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
)

// Event is an event as it came, with everything its flags and its source were
// decided from. It holds no address of a visitor.
type Event struct {
	ID      uuid.UUID    `json:"id"`
	At      time.Time    `json:"at"`
	PageID  uuid.UUID    `json:"page"`
	Edition int          `json:"edition"`
	Kind    traffic.Kind `json:"kind"`
	Block   string       `json:"block,omitempty"`
	Item    string       `json:"item,omitempty"`
	Place   int          `json:"place,omitempty"`
	source.Attribution
	Tag       string             `json:"tag,omitempty"`
	Campaign  campaign.Tags      `json:"campaign,omitzero"`
	Referrer  string             `json:"referrer,omitempty"`
	UserAgent string             `json:"agent"`
	Visitor   traffic.VisitorKey `json:"visitor"`
	Flags     traffic.Flags      `json:"flags,omitempty"`
	Rules     int                `json:"rules"`
}

// RecordEvents stores a batch of events, all or nothing. An event that is there
// already is left alone, so a batch may be delivered again; one of a page that is
// gone, or of a time whose raw events are deleted, is left out. The days it
// touches become due for summing up, and sources learn when they were last seen.
func (s *Store) RecordEvents(ctx context.Context, events []Event) error {
	if len(events) == 0 {
		return nil
	}
	if err := s.partitions.ensure(ctx, s.pool, events); err != nil {
		return err
	}
	err := s.recordEvents(ctx, events, copyEvents)
	if isDuplicate(err) {
		// Some were delivered before.
		err = s.recordEvents(ctx, events, insertNewEvents)
	}
	return err
}

// recordEvents stores events by copying, which is quick and fails when one is
// there already, or by inserting those that are not.
func (s *Store) recordEvents(ctx context.Context, events []Event, write func(context.Context, pgx.Tx, []Event) error) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		kept, err := wanted(ctx, tx, events)
		if err != nil || len(kept) == 0 {
			return err
		}
		if err := write(ctx, tx, kept); err != nil {
			return fmt.Errorf("store events: %w", err)
		}
		if err := markDue(ctx, tx, kept); err != nil {
			return err
		}
		return markSeen(ctx, tx, kept)
	})
}

func isDuplicate(err error) bool {
	var broken *pgconn.PgError
	return errors.As(err, &broken) && broken.Code == uniqueViolation
}

// uniqueViolation: PostgreSQL, Appendix A.
const uniqueViolation = "23505"

// wanted leaves out events of pages that are gone and of times that were pruned.
func wanted(ctx context.Context, tx pgx.Tx, events []Event) ([]Event, error) {
	var ids []uuid.UUID
	for _, event := range events {
		if !slices.Contains(ids, event.PageID) {
			ids = append(ids, event.PageID)
		}
	}
	// The lock keeps the pages, and what is pruned of them, as they are until the
	// events are stored.
	rows, err := tx.Query(ctx, "select id, nullif(pruned_before, '-infinity') from counted where id = any($1) for share", ids)
	if err != nil {
		return nil, err
	}
	pruned := make(map[uuid.UUID]*time.Time)
	var id uuid.UUID
	var before *time.Time
	if _, err := pgx.ForEachRow(rows, []any{&id, &before}, func() error { pruned[id] = before; return nil }); err != nil {
		return nil, err
	}
	var kept []Event
	for _, event := range events {
		if before, ok := pruned[event.PageID]; ok && (before == nil || !event.At.Before(*before)) {
			kept = append(kept, event)
		}
	}
	return kept, nil
}

var eventColumns = []string{
	"id", "at", "page_id", "edition", "kind", "block", "item", "place", "source", "evidence",
	"tag", "utm_source", "utm_medium", "utm_campaign", "utm_term", "utm_content", "referrer", "user_agent", "visitor", "flags", "rules",
}

func copyEvents(ctx context.Context, tx pgx.Tx, events []Event) error {
	row := make([]any, len(eventColumns))
	_, err := tx.CopyFrom(ctx, pgx.Identifier{"events"}, eventColumns, pgx.CopyFromSlice(len(events), func(i int) ([]any, error) {
		events[i].values(row)
		return row, nil
	}))
	return err
}

func insertNewEvents(ctx context.Context, tx pgx.Tx, events []Event) error {
	places := make([]string, len(eventColumns))
	for i := range places {
		places[i] = fmt.Sprintf("$%d", i+1)
	}
	statement := "insert into events (" + strings.Join(eventColumns, ", ") + ") values (" + strings.Join(places, ", ") + ") on conflict do nothing"
	var batch pgx.Batch
	for _, event := range events {
		row := make([]any, len(eventColumns))
		event.values(row)
		batch.Queue(statement, row...)
	}
	return tx.SendBatch(ctx, &batch).Close()
}

// values writes the event in the order of eventColumns, in the types that are
// quickest to hand over.
func (e *Event) values(row []any) {
	copy(row, []any{
		[16]byte(e.ID), e.At, [16]byte(e.PageID), int32(e.Edition), string(e.Kind), e.Block, e.Item, int32(e.Place), e.Source, string(e.By),
		e.Tag, e.Campaign.Source, e.Campaign.Medium, e.Campaign.Campaign, e.Campaign.Term, e.Campaign.Content, e.Referrer, e.UserAgent, e.Visitor[:], int32(e.Flags), int32(e.Rules),
	})
}

// markDue notes the days whose sums no longer hold.
func markDue(ctx context.Context, tx pgx.Tx, events []Event) error {
	type unit struct {
		page uuid.UUID
		day  time.Time
	}
	days := make(map[unit]bool)
	for _, event := range events {
		days[unit{event.PageID, daily.UTCDay(event.At)}] = true
	}
	var pages []uuid.UUID
	var units []time.Time
	for day := range days {
		pages, units = append(pages, day.page), append(units, day.day)
	}
	// Always in the same order, so that two processes do not wait for each other.
	_, err := tx.Exec(ctx, `
		insert into daily_due (page_id, unit)
		select * from unnest($1::uuid[], $2::date[]) as t (page_id, unit) order by page_id, unit
		on conflict (page_id, unit) do update set version = excluded.version`, pages, units)
	if err != nil {
		return fmt.Errorf("note which days are due: %w", err)
	}
	return nil
}

// markSeen tells sources of the latest counted view in a batch.
func markSeen(ctx context.Context, tx pgx.Tx, events []Event) error {
	latest := make(map[string]time.Time)
	for _, event := range events {
		if event.Kind == traffic.View && event.Flags == 0 && event.At.After(latest[event.Source]) {
			latest[event.Source] = event.At
		}
	}
	var ids []uuid.UUID
	var ats []time.Time
	for key, at := range latest {
		if id, err := uuid.Parse(key); err == nil {
			ids, ats = append(ids, id), append(ats, at)
		}
	}
	if len(ids) == 0 {
		return nil
	}
	_, err := tx.Exec(ctx, `
		update sources set seen_at = greatest(seen_at, seen.at)
		from (select * from unnest($1::uuid[], $2::timestamptz[]) as t (id, at) order by id) seen
		where sources.id = seen.id`, ids, ats)
	if err != nil {
		return fmt.Errorf("note when sources were seen: %w", err)
	}
	return nil
}

// Events returns the events of a page of a workspace from one moment up to
// another, as they came: repeats are not marked.
func (s *Store) Events(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) ([]traffic.Event, error) {
	rows, err := s.pool.Query(ctx, selectEvents+`
		join counted on counted.id = events.page_id
		where counted.workspace_id = $1 and counted.id = $2 and at >= $3 and at < $4
		order by at, events.id`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	return collectEvents(rows)
}

const selectEvents = `select events.page_id, events.id::text, at, kind, edition, block, item, place, source, evidence, user_agent, visitor, flags from events `

// collectEvents reads the rows of selectEvents.
func collectEvents(rows pgx.Rows) ([]traffic.Event, error) {
	var all []traffic.Event
	err := eachEvent(rows, func(_ uuid.UUID, event traffic.Event) { all = append(all, event) })
	return all, err
}

// collectEventsByID is collectEvents for several pages and short links.
func collectEventsByID(rows pgx.Rows) (map[uuid.UUID][]traffic.Event, error) {
	byID := make(map[uuid.UUID][]traffic.Event)
	err := eachEvent(rows, func(id uuid.UUID, event traffic.Event) { byID[id] = append(byID[id], event) })
	return byID, err
}

// eachEvent reads the rows of selectEvents one by one. Texts that many rows share
// are held once: a busy day has hundreds of thousands.
func eachEvent(rows pgx.Rows, take func(id uuid.UUID, event traffic.Event)) error {
	texts := make(map[string]string)
	once := func(text *string) {
		if held, ok := texts[*text]; ok {
			*text = held
		} else {
			texts[*text] = *text
		}
	}
	var id uuid.UUID
	var event traffic.Event
	var userAgent string
	var visitor []byte
	_, err := pgx.ForEachRow(rows, []any{
		&id, &event.ID, &event.At, &event.Kind, &event.Edition, &event.Block, &event.Item, &event.Place, &event.Source, &event.Evidence, &userAgent, &visitor, &event.Flags,
	}, func() error {
		copy(event.Visitor[:], visitor)
		event.Device = traffic.DeviceOf(userAgent)
		for _, text := range []*string{(*string)(&event.Kind), &event.Block, &event.Item, &event.Source, (*string)(&event.Evidence)} {
			once(text)
		}
		take(id, event)
		return nil
	})
	return err
}

// CountEvents is how many events of a page are in the table.
func (s *Store) CountEvents(ctx context.Context, pageID uuid.UUID) (int64, error) {
	var n int64
	err := s.pool.QueryRow(ctx, "select count(*) from events where page_id = $1", pageID).Scan(&n)
	return n, err
}

// FirstDay is the time of the earliest event of a page of a workspace, or the
// earliest day with figures where the events are deleted, or fallback when there
// is neither.
func (s *Store) FirstDay(ctx context.Context, workspace, pageID uuid.UUID, fallback time.Time) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select least(
			(select min(at) from events where page_id = counted.id),
			(select min(day)::timestamp at time zone workspaces.zone from daily_pages where page_id = counted.id))
		from counted join workspaces on workspaces.id = counted.workspace_id
		where counted.workspace_id = $1 and counted.id = $2`, workspace, pageID).Scan(&first)
	if err != nil || first == nil {
		return fallback, err
	}
	return *first, nil
}
