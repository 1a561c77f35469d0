package store_test

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/core/readings"
	"jundle/internal/demo"
	"jundle/internal/files/filestest"
	"jundle/internal/rollup"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// beforeExactSums is the last version of the schema whose sums were made only once
// a day had been quiet.
const beforeExactSums = 9

// withoutHomes leaves out what older tables had no columns for.
func withoutHomes(read map[uuid.UUID]readings.Reading) map[uuid.UUID]readings.Reading {
	for id, reading := range read {
		reading.Countries, reading.Languages = nil, nil
		read[id] = reading
	}
	return read
}

// loadedDemo is the demo of so many days in a database of its own.
func loadedDemo(t *testing.T, now time.Time, days int) (address string, s *store.Store, loaded demo.Loaded) {
	t.Helper()
	address = storetest.URL(t)
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	list, err := agents.Load()
	require.NoError(t, err)
	loaded, _, err = demo.Load(t.Context(), s, filestest.New(t, s, time.Now), now, days)
	require.NoError(t, err)
	// Older versions know no payment services.
	require.NoError(t, s.DropPaymentService(t.Context(), loaded.Member.WorkspaceID, now))
	simulation := demo.Simulation{
		Store: s, Agents: list, Loaded: loaded, Address: demo.ClayPage, Begun: now.AddDate(0, 0, -days), Days: days, Seed: 7,
	}
	_, err = simulation.Run(t.Context())
	require.NoError(t, err)
	_, err = simulation.RunLinks(t.Context())
	require.NoError(t, err)
	return address, s, loaded
}

// upgraded opens a database of an older version and makes what sums are due.
func upgraded(t *testing.T, old string) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), old)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	_, err = rollup.All(t.Context(), s, nil)
	require.NoError(t, err)
	return s
}

// versionBefore is the version of the schema before hours were split and programs came.
const versionBefore = 34

func TestTheVersionBeforeIsUpgradedWithItsData(t *testing.T) {
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	const days = 10
	fresh, s, loaded := loadedDemo(t, now, days)
	page := loaded.Pages[demo.ClayPage].ID
	workspace := loaded.Member.WorkspaceID
	span, err := readings.ParseSpan("all", now, now.AddDate(0, 0, -days), time.UTC)
	require.NoError(t, err)
	want, err := rollup.Read(t.Context(), s, workspace, page, span)
	require.NoError(t, err)
	shares, err := s.HourShares(t.Context(), workspace, page, span.From(), span.To())
	require.NoError(t, err)
	require.NotEmpty(t, shares)

	after := upgraded(t, atVersion(t, fresh, versionBefore))
	got, err := rollup.Read(t.Context(), after, workspace, page, span)
	require.NoError(t, err)
	assert.Equal(t, want, got)
	sharesAfter, err := after.HourShares(t.Context(), workspace, page, span.From(), span.To())
	require.NoError(t, err)
	assert.ElementsMatch(t, shares, sharesAfter, "made of the events that were there")
	draft, err := s.Page(t.Context(), workspace, page)
	require.NoError(t, err)
	draftAfter, err := after.Page(t.Context(), workspace, page)
	require.NoError(t, err)
	assert.Equal(t, draft.Draft, draftAfter.Draft)
	live, err := s.LivePage(t.Context(), demo.ClayPage)
	require.NoError(t, err)
	liveAfter, err := after.LivePage(t.Context(), demo.ClayPage)
	require.NoError(t, err)
	assert.Equal(t, live, liveAfter)
	kept, err := s.Destinations(t.Context(), workspace, "", nil, 100)
	require.NoError(t, err)
	clicks := 0
	for _, each := range kept {
		led, err := s.ClicksOfDestination(t.Context(), workspace, each.ID, span.From(), span.To())
		require.NoError(t, err)
		ledAfter, err := after.ClicksOfDestination(t.Context(), workspace, each.ID, span.From(), span.To())
		require.NoError(t, err)
		assert.ElementsMatch(t, led, ledAfter, "where clicks led is found out of the editions: %s", each.Address)
		clicks += len(led)
	}
	assert.Positive(t, clicks)
}

func TestTimesOfOlderEditionsGoOnMeaningWhatTheyMeant(t *testing.T) {
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	fresh, _, loaded := loadedDemo(t, now, 1)
	old := atVersion(t, fresh, versionBefore)
	page := loaded.Pages[demo.ClayPage].ID
	to, err := pgxpool.New(t.Context(), old)
	require.NoError(t, err)
	defer to.Close()
	const times = `{"zone": "UTC", "spans": [{"from": "2026-06-01T00:00:00Z"}],
		"weekly": [{"days": ["FR"], "from": "10:00", "to": "18:00"}]}`
	execute(t, to, fmt.Sprintf(`update editions set document = document || '{"schema": 1, "when": %s}' where page_id = '%s'`, times, page))
	execute(t, to, fmt.Sprintf(`update edition_rows set showing = '{"when": %s}' where page_id = '%s' and position = 0`, times, page))

	after := upgraded(t, old)
	var editions, rows, without int
	require.NoError(t, after.Pool().QueryRow(t.Context(), `
		select count(*) filter (where (timetable->'open'->>'either')::bool), (
			select count(*) from edition_rows where page_id = $1 and (showing->'when'->>'either')::bool), count(*)
		from editions where page_id = $1`, page).Scan(&editions, &rows, &without))
	assert.Positive(t, editions)
	assert.Equal(t, without, editions, "every edition")
	assert.Equal(t, editions, rows, "and its rows")
}

// The demo, as a much older version had it, reads the same after the migration.
func TestTheDemoReadsTheSameAfterBeingMigrated(t *testing.T) {
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	const days = 20
	fresh, s, loaded := loadedDemo(t, now, days)
	migrated := upgraded(t, asBefore(t, fresh, beforeExactSums))

	workspace := loaded.Member.WorkspaceID
	page := loaded.Pages[demo.ClayPage].ID
	ids := []uuid.UUID{page}
	links, err := s.ShortLinks(t.Context(), workspace)
	require.NoError(t, err)
	for _, link := range links {
		ids = append(ids, link.ID)
	}
	span, err := readings.ParseSpan("all", now, now.AddDate(0, 0, -days), time.UTC)
	require.NoError(t, err)
	want, err := rollup.ReadAll(t.Context(), s, workspace, ids, span)
	require.NoError(t, err)
	got, err := rollup.ReadAll(t.Context(), migrated, workspace, ids, span)
	require.NoError(t, err)
	assert.Equal(t, withoutHomes(want), withoutHomes(got))
	assert.Greater(t, got[page].Total.Visits, 500)

	hours, err := s.Hours(t.Context(), workspace, page, span.From(), span.To())
	require.NoError(t, err)
	after, err := migrated.Hours(t.Context(), workspace, page, span.From(), span.To())
	require.NoError(t, err)
	assert.ElementsMatch(t, hours, after)
	shares, err := s.HourShares(t.Context(), workspace, page, span.From(), span.To())
	require.NoError(t, err)
	sharesAfter, err := migrated.HourShares(t.Context(), workspace, page, span.From(), span.To())
	require.NoError(t, err)
	assert.ElementsMatch(t, shares, sharesAfter)
	draft, err := s.Page(t.Context(), workspace, page)
	require.NoError(t, err)
	migratedDraft, err := migrated.Page(t.Context(), workspace, page)
	require.NoError(t, err)
	assert.Len(t, migratedDraft.Draft.DestinationIDs(), len(draft.Draft.DestinationIDs()))
	assert.Equal(t, withoutDestinations(draft.Draft), withoutDestinations(migratedDraft.Draft))
	migratedLinks, err := migrated.ShortLinks(t.Context(), workspace)
	require.NoError(t, err)
	for _, link := range migratedLinks {
		assert.NotEmpty(t, link.Link.DestinationID)
	}

	var keys []string
	for _, block := range got[page].Blocks {
		keys = append(keys, block.Block)
	}
	titles, err := s.FormerTitles(t.Context(), workspace, page, keys)
	require.NoError(t, err)
	migratedTitles, err := migrated.FormerTitles(t.Context(), workspace, page, keys)
	require.NoError(t, err)
	assert.Equal(t, titles, migratedTitles)
	assert.NotEmpty(t, titles)
}

// atVersion makes a database of an older version of the schema that holds what a database of today
// holds, as far as there were tables and columns for it.
func atVersion(t *testing.T, fresh string, version int64) (address string) {
	t.Helper()
	address, from, to := emptyAt(t, fresh, version)
	for _, table := range tablesOf(t, to) {
		execute(t, to, "delete from "+table) // what a migration put there
		copyTable(t, from, to, table, nil)
	}
	// These two fill in data, which came with the copy.
	execute(t, to, "insert into goose_db_version (version_id, is_applied) values (11, true), (14, true)")
	referencesAgain(t, to)
	return address
}

// emptyAt makes an empty database of an older version of the schema, in which no foreign key is looked at.
func emptyAt(t *testing.T, fresh string, version int64) (address string, from, to *pgxpool.Pool) {
	t.Helper()
	address = storetest.URL(t)
	from, to = poolOf(t, fresh), poolOf(t, address)
	provider, err := goose.NewProvider(goose.DialectPostgres, stdlib.OpenDBFromPool(to), os.DirFS("migrations"))
	require.NoError(t, err)
	_, err = provider.UpTo(t.Context(), version)
	require.NoError(t, err)
	execute(t, to, "alter database "+pgx.Identifier{to.Config().ConnConfig.Database}.Sanitize()+" set session_replication_role = replica")
	to.Reset() // no foreign key is looked at from here on
	for _, month := range texts(t, from, "select inhrelid::regclass::text from pg_inherits where inhparent = 'events'::regclass") {
		at, err := time.Parse("events_2006_01", month)
		require.NoError(t, err)
		execute(t, to, fmt.Sprintf("create table %s partition of events for values from ('%s') to ('%s')", month,
			at.Format(time.RFC3339), at.AddDate(0, 1, 0).Format(time.RFC3339)))
	}
	return address, from, to
}

func tablesOf(t *testing.T, of *pgxpool.Pool) []string {
	return texts(t, of, `select relname from pg_class where relnamespace = 'public'::regnamespace
		and relkind in ('r', 'p') and not relispartition and relname not like 'goose%'`)
}

func referencesAgain(t *testing.T, of *pgxpool.Pool) {
	t.Helper()
	execute(t, of, "alter database "+pgx.Identifier{of.Config().ConnConfig.Database}.Sanitize()+" reset session_replication_role")
	of.Reset()
}

// asBefore is atVersion for one whose tables were called otherwise, and whose sums were made later.
func asBefore(t *testing.T, fresh string, version int64) (address string) {
	t.Helper()
	address, from, to := emptyAt(t, fresh, version)
	execute(t, from, makeFormerDocument)
	for _, table := range tablesOf(t, to) {
		copyTable(t, from, to, table, formerly)
	}
	// Of its last two days the sums were not made yet.
	execute(t, to, `insert into daily_due (page_id, unit) select distinct page_id, unit from daily_pages
		where unit >= (select max(unit) - 1 from daily_pages)`)
	for _, table := range []string{"daily_pages", "daily_blocks", "daily_left_out"} {
		execute(
			t,
			to,
			"delete from "+table+" using daily_due where daily_due.page_id = "+table+".page_id and daily_due.unit = "+table+".unit",
		)
	}
	referencesAgain(t, to)
	return address
}

// formerly are the tables of then that are called otherwise today, or are made of
// several.
var formerly = map[string]string{
	"members": "select users.*, workspace_id from users join memberships on user_id = users.id",
	"counted": "select * from endpoints",
	"pages": "select id, workspace_id, " + withoutDestination + "(draft) as draft, revision, live_edition, created_at, saved_as " +
		"from pages",
	"short_links": "select id, workspace_id, " + withoutDestination + "(link) as link, revision, created_at from short_links",
	"addresses":   "select *, endpoint_id as counted_id from addresses",
	"editions": "select page_id, number, " + withoutDestination + "(document) as document, published_at, user_id as member_id, " +
		"ends_links from editions",
	"events": `select events.id, at, endpoint_id, edition, kind, coalesce(nullif(outcome, ''), block) as block, item, place, source,
		evidence, tag, utm_source, utm_medium, utm_campaign, utm_term, utm_content, referrer,
		user_agents.text as user_agent, visitor, flags, rules
		from events join user_agents on user_agents.id = user_agent_id`,
}

// withoutDestination is what documents were like: without schema numbers, and without
// IDs of destinations.
const withoutDestination = "former_document"

const makeFormerDocument = `create function former_document(document jsonb) returns jsonb language sql immutable as $$
	select regexp_replace(regexp_replace(regexp_replace(document::text,
		', "(destinationId|fallbackId)": "[^"]*"', '', 'g'),
		'"(destinationId|fallbackId)": "[^"]*", ', '', 'g'),
		' data-destination=[^>]*', '', 'g')::jsonb - 'schema'
$$`

// formerColumns are the names of today's columns that were called otherwise.
var formerColumns = map[string]string{"page_id": "endpoint_id", "unit": "utc_day"}

// copyTable copies what both versions of a table have.
func copyTable(t *testing.T, from, to *pgxpool.Pool, table string, formerly map[string]string) {
	t.Helper()
	const columnsOf = `select column_name::text from information_schema.columns
		where table_schema = 'public' and table_name = $1 and is_generated = 'NEVER'`
	kept := table
	if query, ok := formerly[table]; ok {
		kept = "former_" + table
		execute(t, from, "create view "+kept+" as "+query)
	}
	known := texts(t, from, columnsOf, kept)
	var columns, values []string
	for _, column := range texts(t, to, columnsOf, table) {
		value := column
		if !slices.Contains(known, value) {
			value = formerColumns[column]
		}
		if slices.Contains(known, value) {
			columns = append(columns, pgx.Identifier{column}.Sanitize())
			values = append(values, pgx.Identifier{value}.Sanitize())
		}
	}
	if len(columns) == 0 {
		return // there is none today
	}
	var data bytes.Buffer
	reading, err := from.Acquire(t.Context())
	require.NoError(t, err)
	defer reading.Release()
	_, err = reading.Conn().PgConn().CopyTo(t.Context(), &data, "copy (select "+strings.Join(values, ", ")+" from "+kept+") to stdout")
	require.NoError(t, err, table)
	writing, err := to.Acquire(t.Context())
	require.NoError(t, err)
	defer writing.Release()
	_, err = writing.Conn().PgConn().CopyFrom(t.Context(), &data, "copy "+table+" ("+strings.Join(columns, ", ")+") from stdin")
	require.NoError(t, err, table)
}

func poolOf(t *testing.T, address string) *pgxpool.Pool {
	t.Helper()
	pool, err := pgxpool.New(context.Background(), address)
	require.NoError(t, err)
	t.Cleanup(pool.Close)
	return pool
}

func execute(t *testing.T, pool *pgxpool.Pool, statement string) {
	t.Helper()
	_, err := pool.Exec(t.Context(), statement)
	require.NoError(t, err)
}

func texts(t *testing.T, pool *pgxpool.Pool, query string, args ...any) []string {
	t.Helper()
	rows, err := pool.Query(t.Context(), query, args...)
	require.NoError(t, err)
	found, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	return found
}
