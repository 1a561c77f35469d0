// Command months fills a page with millions of events over thirteen months and measures what its readings
// cost: every query of Readings for each range, the same figures from the raw events, and how fast the
// sums are made anew. `make bench-months` runs it on a private PostgreSQL, with ten million events. With
// several numbers of events it fills a page with each, and asks them in turn, so that what it takes to
// read them can be compared.
package main

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strconv"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgxpool"

	"jundle/internal/app/figures"
	"jundle/internal/app/pages"
	"jundle/internal/core/alarm"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	place "jundle/internal/core/source"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

const (
	months  = 13
	buttons = 12
	sources = 8
	// times is how often each query is asked.
	times = 40
	// What each query has to keep to.
	medianWithin, p95Within = 100 * time.Millisecond, 250 * time.Millisecond
)

func main() {
	var events []int
	for _, arg := range os.Args[1:] {
		n, err := strconv.Atoi(arg)
		if err != nil || n < 1000 {
			fmt.Fprintln(os.Stderr, "months: how many events? Numbers from 1000 on")
			os.Exit(2)
		}
		events = append(events, n)
	}
	if len(events) == 0 {
		events = []int{10_000_000}
	}
	slices.Sort(events)
	if err := run(context.Background(), events); err != nil {
		fmt.Fprintln(os.Stderr, "months:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, events []int) error {
	url := os.Getenv("JUNDLE_DATABASE_URL")
	s, err := store.Open(ctx, url)
	if err != nil {
		return err
	}
	defer s.Close()
	pool, err := pgxpool.New(ctx, url)
	if err != nil {
		return err
	}
	defer pool.Close()
	var all []*bench
	for _, n := range events {
		b := &bench{ctx: ctx, store: s, pool: pool, now: time.Now().UTC(), events: n}
		all = append(all, b)
		if err := b.prepare(); err != nil {
			return err
		}
		if err := b.fill(); err != nil {
			return err
		}
		if err := b.sumUp(); err != nil {
			return err
		}
	}
	if err := all[len(all)-1].measure(); err != nil || len(all) == 1 {
		return err
	}
	return compare(all)
}

type bench struct {
	ctx    context.Context
	store  *store.Store
	pool   *pgxpool.Pool
	now    time.Time
	events int
	member store.Member
	page   store.Page
	ids    []string // of sources, and the two that are none
}

// prepare makes an account of its own with a page of twelve buttons and eight sources.
func (b *bench) prepare() error {
	name := fmt.Sprintf("months-%d", b.now.UnixNano())
	doc := page.New()
	for i := range buttons {
		doc.Blocks = append(doc.Blocks, page.Block{
			Key: fmt.Sprintf("button%02d", i), Kind: "button", Shown: true,
			Button: &page.Button{Title: fmt.Sprint("Button ", i), Address: fmt.Sprintf("https://kiln.example/%d", i)},
		})
	}
	began := b.now.AddDate(0, -months, 0)
	account := store.NewAccount{Email: name + "@quarrow.example", PageAddress: name, Zone: "Europe/Lisbon", Document: doc}
	var err error
	if b.member, err = b.store.CreateAccount(b.ctx, account, began); err != nil {
		return err
	}
	list, err := b.store.Pages(b.ctx, b.member.WorkspaceID)
	if err != nil {
		return err
	}
	if b.page, err = b.store.Publish(b.ctx, b.member.WorkspaceID, b.member.ID, list[0].ID, store.Publishing{Revision: 1}, began); err != nil {
		return err
	}
	for i := range sources {
		put := store.NewSource{Name: fmt.Sprint("Source ", i), Tag: fmt.Sprint("tag", i), Place: place.Place{Kind: place.Print}}
		source, err := b.store.AddSource(b.ctx, b.member.WorkspaceID, b.page.ID, put, began)
		if err != nil {
			return err
		}
		b.ids = append(b.ids, source.ID.String())
	}
	b.ids = append(b.ids, "", "host:claynews.example")
	return nil
}

// fill makes events in the database itself: visitors who open the page and press one or two buttons.
func (b *bench) fill() error {
	began := time.Now()
	first := b.now.AddDate(0, -months, 1).Truncate(24 * time.Hour)
	for month := first; month.Before(b.now.AddDate(0, 1, 0)); month = month.AddDate(0, 1, 0) {
		// A part of the table for each month is made as the first event of it is stored.
		event := store.Event{
			ID: uuid.New(), At: month, EndpointID: b.page.ID, Edition: 1, Kind: "view", UserAgent: "Mozilla/5.0 (Android 14) Mobile",
		}
		if err := b.store.RecordEvents(b.ctx, []store.Event{event}); err != nil {
			return err
		}
	}
	days := int(b.now.Sub(first).Hours() / 24)
	_, err := b.pool.Exec(b.ctx, `
		insert into events (id, at, endpoint_id, edition, kind, block, item, outcome, place, source, evidence, tag, utm_source, utm_medium,
			utm_campaign, utm_term, utm_content, referrer, user_agent_id, visitor, flags, rules, country, language, paid)
		select gen_random_uuid(), came + (n % 3) * interval '20 seconds', $1, 1, case n % 3 when 0 then 'view' else 'click' end,
			case n % 3 when 0 then '' else 'button' || lpad(((who * 7 + n % 3 + (who / 11) % 5) % $2)::text, 2, '0') end, '', '',
			case n % 3 when 0 then 0 else 1 end, ($3::text[])[1 + (who * 13 % array_length($3::text[], 1))],
			case n % 3 when 0 then 'tag' else 'untagged' end, '', '', '', '', '', '', '',
			(select min(id) from user_agents), decode(md5(who::text), 'hex'), 0, 3, case who % 3 when 0 then 'PT' else 'GB' end, 'en', false
		from (select n, n / 3 as who, $4::timestamptz + ((n / 3)::bigint * 7919 % $5) * interval '1 day'
			+ ((n / 3)::bigint * 104729 % 80000) * interval '1 second' as came from generate_series(0, $6 - 1) n) visits`,
		b.page.ID, buttons, b.ids, first, days, b.events)
	if err != nil {
		return fmt.Errorf("make events: %w", err)
	}
	if _, err := b.pool.Exec(b.ctx, `
		insert into counted_days (endpoint_id, utc_day, due)
		select distinct endpoint_id, (at at time zone 'UTC')::date, true from events where endpoint_id = $1
		on conflict (endpoint_id, utc_day) do update set due = true`, b.page.ID); err != nil {
		return err
	}
	if _, err := b.pool.Exec(b.ctx, "vacuum analyze events"); err != nil {
		return err
	}
	fmt.Printf("%d events over %d days made in %.0f s.\n", b.events, days, time.Since(began).Seconds())
	return nil
}

func (b *bench) sumUp() error {
	began := time.Now()
	days, err := rollup.All(b.ctx, b.store, nil)
	if err != nil {
		return err
	}
	took := time.Since(began)
	fmt.Printf("Sums of %d days made anew out of %d events in %.0f s: %.0f events a second.\n", days, b.events, took.Seconds(),
		float64(b.events)/took.Seconds())
	_, err = b.pool.Exec(b.ctx, "vacuum analyze daily_blocks, daily_pages, daily_traits, daily_hours, daily_hour_shares")
	if err != nil {
		return err
	}
	return b.weigh()
}

// weigh says what all events and all sums in the database take on the disk, indexes included.
func (b *bench) weigh() error {
	var events, raw, sums, rows int64
	err := b.pool.QueryRow(b.ctx, `
		select (select count(*) from events),
			(select sum(pg_total_relation_size(inhrelid)) from pg_inherits where inhparent = 'events'::regclass),
			sum(pg_total_relation_size(oid)), sum(reltuples)::bigint
		from pg_class where relkind = 'r' and relname like 'daily\_%'`).Scan(&events, &raw, &sums, &rows)
	if err != nil {
		return err
	}
	fmt.Printf("%d events take %d bytes each; %d rows of sums take %d bytes each.\n", events, raw/max(1, events), rows, sums/max(1, rows))
	return nil
}

func (b *bench) span(text string) (readings.Span, error) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		return readings.Span{}, err
	}
	return readings.ParseSpan(text, b.now, b.now.AddDate(0, -months, 0), zone)
}

// query is one of those that Readings is made of.
type query struct {
	name string
	ask  func(span readings.Span) (any, error)
}

func (b *bench) queries() []query {
	workspace, id := b.member.WorkspaceID, b.page.ID
	use := pages.Pages{Store: b.store, Now: func() time.Time { return b.now }}
	return []query{
		{"a reading", func(span readings.Span) (any, error) { return rollup.Read(b.ctx, b.store, workspace, id, span) }},
		{"compared with before", func(span readings.Span) (any, error) {
			return rollup.LookAt(b.ctx, b.store, workspace, id, span, readings.Before, b.now)
		}},
		{"hours of the week", func(span readings.Span) (any, error) {
			hours, err := b.store.Hours(b.ctx, workspace, id, span.From(), span.To())
			return readings.ByWeekHour(span, hours), err
		}},
		{"one button", func(span readings.Span) (any, error) {
			return figures.Block(b.ctx, b.store, workspace, id, "button03", "", span, b.now)
		}},
		{"one source", func(span readings.Span) (any, error) {
			return figures.Source(b.ctx, b.store, workspace, id, b.ids[0], span)
		}},
		{"pull and order (eight weeks)", func(readings.Span) (any, error) {
			advice, err := use.Advice(b.ctx, workspace, id)
			advice.Seen = nil // places that cannot be told are NaN, which JSON does not have
			return advice, err
		}},
		{fmt.Sprintf("what is off (%d days)", alarm.Days), func(span readings.Span) (any, error) {
			return figures.FindOff(b.ctx, b.store, b.page, b.page.Draft, b.now, span.From().Location())
		}},
	}
}

func (b *bench) measure() error {
	fmt.Println("\n| query | range | median | 95th percentile | from raw events | ratio |")
	fmt.Println("|---|---|---|---|---|---|")
	slow := false
	for _, text := range []string{"7d", "28d", "90d", "all"} {
		span, err := b.span(text)
		if err != nil {
			return err
		}
		raw, err := b.raw(span)
		if err != nil {
			return err
		}
		for _, each := range b.queries() {
			median, p95, err := b.timed(each, span)
			if err != nil {
				return err
			}
			slow = slow || median > medianWithin || p95 > p95Within
			beside := "| |"
			if each.name == "a reading" {
				beside = fmt.Sprintf("| %.0f ms | %.0f |", ms(raw), raw.Seconds()/median.Seconds())
			}
			fmt.Printf("| %s | %s | %.1f ms | %.1f ms %s\n", each.name, text, ms(median), ms(p95), beside)
		}
	}
	if slow {
		return fmt.Errorf("a query took longer than %s at the median or %s at the 95th percentile", medianWithin, p95Within)
	}
	return nil
}

func (b *bench) timed(of query, span readings.Span) (median, p95 time.Duration, err error) {
	var took []time.Duration
	for range times {
		began := time.Now()
		answer, err := of.ask(span)
		if err != nil {
			return 0, 0, fmt.Errorf("%s: %w", of.name, err)
		}
		if _, err := json.Marshal(answer); err != nil {
			return 0, 0, err
		}
		took = append(took, time.Since(began))
	}
	slices.Sort(took)
	return took[len(took)/2], took[len(took)*95/100], nil
}

// raw asks the raw events for the figures of a reading: visits, clicks, and clicks by button, source and
// day. It leaves out what takes a program: reach, repeats, and what belongs to which visit.
func (b *bench) raw(span readings.Span) (time.Duration, error) {
	began := time.Now()
	rows, err := b.pool.Query(b.ctx, `
		select (at at time zone 'Europe/Lisbon')::date, block, source, kind, count(*), count(distinct visitor) from events
		where endpoint_id = $1 and at >= $2 and at < $3 and (at at time zone 'UTC')::date between $4 and $5 and flags = 0
		group by 1, 2, 3, 4`, b.page.ID, span.From(), span.To(), span.From(), span.To())
	if err != nil {
		return 0, err
	}
	for rows.Next() {
	}
	return time.Since(began), rows.Err()
}

func ms(d time.Duration) float64 { return d.Seconds() * 1000 }
