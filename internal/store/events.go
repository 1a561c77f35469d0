package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/campaign"
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
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, insertEvents, columns(events)...); err != nil {
			return fmt.Errorf("store events: %w", err)
		}
		return markSeen(ctx, tx, events)
	})
}

const insertEvents = `
	with given as (
		select * from unnest($1::uuid[], $2::timestamptz[], $3::uuid[], $4::int[], $5::text[], $6::text[], $7::text[], $8::int[], $9::text[], $10::text[],
			$11::text[], $12::text[], $13::text[], $14::text[], $15::text[], $16::text[], $17::text[], $18::text[], $19::bytea[], $20::int[], $21::int[])
			as e (id, at, page_id, edition, kind, block, item, place, source, evidence,
				tag, utm_source, utm_medium, utm_campaign, utm_term, utm_content, referrer, user_agent, visitor, flags, rules)
	), stored as (
		insert into events
		select given.* from given join pages on pages.id = given.page_id and given.at >= pages.pruned_before
		on conflict do nothing
		returning page_id, at
	)
	insert into daily_due (page_id, unit)
	select distinct page_id, (at at time zone 'UTC')::date as unit from stored order by page_id, unit
	on conflict (page_id, unit) do update set version = excluded.version`

// columns turns rows into the columns that insertEvents takes.
func columns(events []Event) []any {
	n := len(events)
	var (
		ids, pages                              = make([]uuid.UUID, n), make([]uuid.UUID, n)
		ats                                     = make([]time.Time, n)
		editions, places, flags, rules          = make([]int, n), make([]int, n), make([]int, n), make([]int, n)
		kinds, blocks, items, sources, evidence = make([]string, n), make([]string, n), make([]string, n), make([]string, n), make([]string, n)
		tags, referrers, agents                 = make([]string, n), make([]string, n), make([]string, n)
		utm                                     [5][]string
		visitors                                = make([][]byte, n)
	)
	for i := range utm {
		utm[i] = make([]string, n)
	}
	for i, e := range events {
		ids[i], ats[i], pages[i], editions[i], places[i] = e.ID, e.At, e.PageID, e.Edition, e.Place
		kinds[i], blocks[i], items[i] = string(e.Kind), e.Block, e.Item
		sources[i], evidence[i] = e.Source, string(e.By)
		tags[i], referrers[i], agents[i], visitors[i] = e.Tag, e.Referrer, e.UserAgent, e.Visitor[:]
		utm[0][i], utm[1][i], utm[2][i], utm[3][i], utm[4][i] = e.Campaign.Source, e.Campaign.Medium, e.Campaign.Campaign, e.Campaign.Term, e.Campaign.Content
		flags[i], rules[i] = int(e.Flags), e.Rules
	}
	return []any{
		ids, ats, pages, editions, kinds, blocks, items, places, sources, evidence,
		tags, utm[0], utm[1], utm[2], utm[3], utm[4], referrers, agents, visitors, flags, rules,
	}
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
		join pages on pages.id = events.page_id
		where pages.workspace_id = $1 and pages.id = $2 and at >= $3 and at < $4
		order by at, events.id`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, scanEvent)
}

const selectEvents = `select events.id::text, at, kind, edition, block, item, place, source, evidence, user_agent, visitor, flags from events `

func scanEvent(row pgx.CollectableRow) (traffic.Event, error) {
	var event traffic.Event
	var visitor []byte
	var userAgent string
	err := row.Scan(&event.ID, &event.At, &event.Kind, &event.Edition, &event.Block, &event.Item, &event.Place, &event.Source, &event.Evidence, &userAgent, &visitor, &event.Flags)
	copy(event.Visitor[:], visitor)
	event.Device = traffic.DeviceOf(userAgent)
	return event, err
}

// FirstDay is the time of the earliest event of a page of a workspace, or the
// earliest day with figures where the events are deleted, or fallback when there
// is neither.
func (s *Store) FirstDay(ctx context.Context, workspace, pageID uuid.UUID, fallback time.Time) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select least(
			(select min(at) from events where page_id = pages.id),
			(select min(day)::timestamp at time zone workspaces.zone from daily_pages where page_id = pages.id))
		from pages join workspaces on workspaces.id = pages.workspace_id
		where pages.workspace_id = $1 and pages.id = $2`, workspace, pageID).Scan(&first)
	if err != nil || first == nil {
		return fallback, err
	}
	return *first, nil
}
