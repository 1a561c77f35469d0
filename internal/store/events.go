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
	"github.com/jackc/pgx/v5/pgtype"

	"jundle/internal/core/campaign"
	"jundle/internal/core/destination"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/core/webhook"
)

// Event is an event as it came, with everything its flags and its source were
// decided from. It holds no address of a visitor.
type Event struct {
	ID         uuid.UUID
	At         time.Time
	EndpointID uuid.UUID // of a page or a short link
	Edition    int
	Kind       traffic.Kind
	Block      string
	Item       string
	Outcome    string // where a short link led
	// Led is the destination that a click led to, with its address at that moment.
	Led   destination.Target
	Place int
	source.Attribution
	Tag       string
	Campaign  campaign.Tags
	Referrer  string
	UserAgent string
	Visitor   traffic.VisitorKey
	Flags     traffic.Flags
	Rules     int
	traffic.Traits
	// target is the number of Led, where it is known.
	target int64
}

// RecordEvents stores a batch of events and adds them to the sums of their days,
// all or nothing. An event that is there already is left alone, so a batch may be
// delivered again; one of a page that is gone, or of a time whose raw events are
// deleted, is left out. Sources learn when they were last seen. What tells how far an
// opening of a page got is counted and not stored.
func (s *Store) RecordEvents(ctx context.Context, events []Event) error {
	if len(events) == 0 {
		return nil
	}
	events, scrolls := withoutScrolls(events)
	var err error
	deliveredBefore := false
	// What may be wrong is put right and it is done again: events that are there
	// already, a part of the table or a user agent that went meanwhile.
	for range 10 {
		userAgents, failed := s.userAgents.ids(ctx, s.pool, events)
		if failed == nil {
			failed = s.clickTargets.number(ctx, s.pool, events)
		}
		if failed == nil {
			failed = s.partitions.ensure(ctx, s.pool, events)
		}
		if failed != nil {
			return failed
		}
		err = s.recordEvents(ctx, events, scrolls, userAgents, deliveredBefore)
		switch {
		case isCode(err, uniqueViolation):
			deliveredBefore = true
		case isCode(err, checkViolation):
			s.partitions.forget()
		case errors.Is(err, errUserAgentGone):
		default:
			return err
		}
	}
	return err
}

// recordEvents stores events. It is quicker when none was delivered before, and
// fails when it is told so and one was.
func (s *Store) recordEvents(ctx context.Context, events, scrolls []Event, userAgents map[string]int64, deliveredBefore bool) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		// From here on no part of the table is dropped.
		if _, err := tx.Exec(ctx, "lock table events in access share mode"); err != nil {
			return err
		}
		if err := addScrolls(ctx, tx, scrolls); err != nil {
			return err
		}
		kept, err := wanted(ctx, tx, events)
		if err != nil || len(kept) == 0 {
			return err
		}
		if err := s.userAgents.hold(ctx, tx, userAgents); err != nil {
			return err
		}
		touched := make(map[Day]bool)
		for _, event := range kept {
			touched[dayOf(event)] = true
		}
		days, err := lockDays(ctx, tx, touched)
		if err != nil {
			return err
		}
		if deliveredBefore {
			if kept, err = withoutStored(ctx, tx, kept); err != nil {
				return err
			}
		}
		if err := withZones(ctx, tx, days); err != nil {
			return err
		}
		if err := s.sumUp(ctx, tx, days, kept); err != nil {
			return err
		}
		if err := copyEvents(ctx, tx, kept, userAgents); err != nil {
			return fmt.Errorf("store events: %w", err)
		}
		if err := markSeen(ctx, tx, kept); err != nil {
			return err
		}
		if err := markTags(ctx, tx, kept); err != nil {
			return err
		}
		return announceFigures(ctx, tx, touched)
	})
}

// announceFigures tells every process, once the transaction commits, what has new figures.
func announceFigures(ctx context.Context, tx pgx.Tx, touched map[Day]bool) error {
	var ids []uuid.UUID
	for day := range touched {
		if !slices.Contains(ids, day.EndpointID) {
			ids = append(ids, day.EndpointID)
		}
	}
	if _, err := tx.Exec(ctx, "select pg_notify($1, id::text) from unnest($2::uuid[]) id", figuresChannel, ids); err != nil {
		return fmt.Errorf("tell of new figures: %w", err)
	}
	return nil
}

// Codes of errors: PostgreSQL, Appendix A.
const (
	uniqueViolation = "23505"
	checkViolation  = "23514" // no part of the table takes the row
)

func isCode(err error, code string) bool {
	var broken *pgconn.PgError
	return errors.As(err, &broken) && broken.Code == code
}

// wanted leaves out events of pages that are gone and of times that were pruned.
func wanted(ctx context.Context, tx pgx.Tx, events []Event) ([]Event, error) {
	var ids []uuid.UUID
	for _, event := range events {
		if !slices.Contains(ids, event.EndpointID) {
			ids = append(ids, event.EndpointID)
		}
	}
	// The lock keeps the pages, and what is pruned of them, as they are until the
	// events are stored.
	rows, err := tx.Query(ctx, "select id, nullif(pruned_before, '-infinity') from endpoints where id = any($1) for share", ids)
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
		if before, ok := pruned[event.EndpointID]; ok && (before == nil || !event.At.Before(*before)) {
			kept = append(kept, event)
		}
	}
	return kept, nil
}

var eventColumns = []string{
	"id", "at", "endpoint_id", "edition", "kind", "block", "item", "outcome", "place", "source",
	"evidence", "tag", "utm_source", "utm_medium", "utm_campaign", "utm_term", "utm_content", "referrer", "user_agent_id", "visitor",
	"flags", "rules", "country", "language", "paid", "click_target_id",
}

func copyEvents(ctx context.Context, tx pgx.Tx, events []Event, userAgents map[string]int64) error {
	row := make([]any, len(eventColumns))
	_, err := tx.CopyFrom(ctx, pgx.Identifier{"events"}, eventColumns, pgx.CopyFromSlice(len(events), func(i int) ([]any, error) {
		events[i].values(row, userAgents)
		return row, nil
	}))
	return err
}

// withoutStored leaves out what is in the table, and what is among the events
// twice. The days are locked, so nobody else stores any meanwhile.
func withoutStored(ctx context.Context, tx pgx.Tx, events []Event) ([]Event, error) {
	ids, ats := make([]uuid.UUID, len(events)), make([]time.Time, len(events))
	for i, event := range events {
		ids[i], ats[i] = event.ID, event.At
	}
	rows, err := tx.Query(ctx, `
		select events.id from events join unnest($1::uuid[], $2::timestamptz[]) as t (id, at) using (id, at)`, ids, ats)
	if err != nil {
		return nil, err
	}
	stored := make(map[uuid.UUID]bool)
	var id uuid.UUID
	if _, err := pgx.ForEachRow(rows, []any{&id}, func() error { stored[id] = true; return nil }); err != nil {
		return nil, fmt.Errorf("see which events are stored: %w", err)
	}
	return slices.DeleteFunc(events, func(event Event) bool {
		known := stored[event.ID]
		stored[event.ID] = true
		return known
	}), nil
}

// values writes the event in the order of eventColumns, in the types that are
// quickest to hand over.
func (e *Event) values(row []any, userAgents map[string]int64) {
	copy(row, []any{
		[16]byte(e.ID), e.At, [16]byte(e.EndpointID), int32(e.Edition), string(e.Kind), e.Block, e.Item, e.Outcome, int32(e.Place),
		e.Source, string(e.By), e.Tag, e.Campaign.Source, e.Campaign.Medium, e.Campaign.Campaign, e.Campaign.Term, e.Campaign.Content, e.Referrer,
		userAgents[e.UserAgent], e.Visitor[:], int32(e.Flags), int32(e.Rules), e.Country, e.Language, e.Paid,
		pgtype.Int8{Int64: e.target, Valid: e.target != 0},
	})
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
	rows, err := tx.Query(ctx, `
		with before as (select id, seen_at from sources where id = any($1) order by id for update)
		update sources set seen_at = greatest(sources.seen_at, seen.at)
		from unnest($1::uuid[], $2::timestamptz[]) as seen (id, at) join before using (id)
		where sources.id = seen.id
		returning sources.id, sources.page_id, sources.name, sources.seen_at, before.seen_at is null,
			(select workspace_id from pages where pages.id = sources.page_id)`, ids, ats)
	if err != nil {
		return fmt.Errorf("note when sources were seen: %w", err)
	}
	seen, err := pgx.CollectRows(rows, pgx.RowToStructByPos[seenSource])
	if err != nil {
		return fmt.Errorf("note when sources were seen: %w", err)
	}
	for _, one := range seen {
		if !one.First {
			continue
		}
		data := webhook.SourceData{Page: one.Page.String(), Source: one.ID.String(), Name: one.Name, Seen: one.Seen.UTC()}
		if err := tell(ctx, tx, one.Workspace, webhook.SourceFirstSeen, one.Seen, data); err != nil {
			return err
		}
	}
	return nil
}

// seenSource is a source somebody came from.
type seenSource struct {
	ID, Page  uuid.UUID
	Name      string
	Seen      time.Time
	First     bool
	Workspace uuid.UUID
}

// markTags notes the tags by which somebody but the creator came in a batch.
func markTags(ctx context.Context, tx pgx.Tx, events []Event) error {
	type entry struct {
		page uuid.UUID
		tag  string
	}
	came := make(map[entry]bool)
	for _, event := range events {
		if event.Kind == traffic.View && event.Tag != "" && event.Flags&traffic.Own == 0 {
			came[entry{event.EndpointID, strings.ToLower(event.Tag)}] = true
		}
	}
	if len(came) == 0 {
		return nil
	}
	var pages []uuid.UUID
	var tags []string
	for by := range came {
		pages, tags = append(pages, by.page), append(tags, by.tag)
	}
	_, err := tx.Exec(ctx, `
		update source_tags set visited = true
		from (select * from unnest($1::uuid[], $2::text[]) as t (page_id, tag) order by page_id, tag) came
		where source_tags.page_id = came.page_id and source_tags.tag = came.tag and not visited`, pages, tags)
	if err != nil {
		return fmt.Errorf("note which tags were visited: %w", err)
	}
	return nil
}

// Events returns the events of a page of a workspace from one moment up to
// another, as they came: repeats are not marked.
func (s *Store) Events(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) ([]traffic.Event, error) {
	rows, err := s.pool.Query(ctx, selectEvents+`
		join endpoints on endpoints.id = events.endpoint_id
		where endpoints.workspace_id = $1 and endpoints.id = $2 and at >= $3 and at < $4
		order by at, events.id`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	return collectEvents(rows)
}

const selectEvents = `
	select events.endpoint_id, events.id::text, at, kind, edition, ` + pressed + `, item, place, source, evidence,
		coalesce(user_agents.text, ''), visitor, flags, country, language, paid, coalesce(click_target_id, 0)
	from events left join user_agents on user_agents.id = user_agent_id `

// pressed is what a click is summed up under: the block that was pressed, or where a
// short link led.
const pressed = "coalesce(nullif(outcome, ''), block)"

// collectEvents reads the rows of selectEvents.
func collectEvents(rows pgx.Rows) ([]traffic.Event, error) {
	var all []traffic.Event
	err := eachEvent(rows, func(_ uuid.UUID, event traffic.Event) { all = append(all, event) })
	return all, err
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
		&id, &event.ID, &event.At, &event.Kind, &event.Edition, &event.Block, &event.Item, &event.Place, &event.Source, &event.Evidence,
		&userAgent, &visitor, &event.Flags, &event.Country, &event.Language, &event.Paid, &event.Target,
	}, func() error {
		copy(event.Visitor[:], visitor)
		event.Device = traffic.DeviceOf(userAgent)
		for _, text := range []*string{
			(*string)(&event.Kind), &event.Block, &event.Item, &event.Source, (*string)(&event.Evidence), &event.Country, &event.Language,
		} {
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
	err := s.pool.QueryRow(ctx, "select count(*) from events where endpoint_id = $1", pageID).Scan(&n)
	return n, err
}

// FirstDay is the beginning of the earliest day with figures of a page of a
// workspace, in its zone, or fallback when there is none.
func (s *Store) FirstDay(ctx context.Context, workspace, pageID uuid.UUID, fallback time.Time) (time.Time, error) {
	var first *time.Time
	err := s.pool.QueryRow(ctx, `
		select least(
			(select day from daily_pages where endpoint_id = endpoints.id order by utc_day, day limit 1),
			(select day from daily_left_out where endpoint_id = endpoints.id order by utc_day, day limit 1))::timestamp
			at time zone workspaces.zone
		from endpoints join workspaces on workspaces.id = endpoints.workspace_id
		where endpoints.workspace_id = $1 and endpoints.id = $2`, workspace, pageID).Scan(&first)
	if err != nil || first == nil {
		return fallback, err
	}
	return *first, nil
}
