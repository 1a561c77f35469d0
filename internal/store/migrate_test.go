package store_test

import (
	"os"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// before short links: a page with two addresses, a source, figures and figures
// that are shared.
const beforeShortLinks = `
insert into workspaces (id, zone, created_at) values ('00000000-0000-7000-8000-000000000001', 'UTC', now());
insert into pages (id, workspace_id, draft, live_edition, created_at, pruned_before)
	values ('00000000-0000-7000-8000-000000000002', '00000000-0000-7000-8000-000000000001', '{}', 1, now(), '2026-01-01Z');
insert into editions (page_id, number, document, published_at) values ('00000000-0000-7000-8000-000000000002', 1, '{}', now());
insert into page_addresses values ('old-name', '00000000-0000-7000-8000-000000000002', false, now()),
	('new-name', '00000000-0000-7000-8000-000000000002', true, now());
insert into daily_pages values ('00000000-0000-7000-8000-000000000002', '2026-06-01', '2026-06-01', '', 'untagged', 'phone', 5, 4, 3, 2, 1);
insert into daily_due (page_id, unit) values ('00000000-0000-7000-8000-000000000002', '2026-06-02');
insert into shared_figures values ('00000000-0000-7000-8000-000000000003',
	'00000000-0000-7000-8000-000000000002', '\x00', 'The gallery', now() + interval '1 day', now());
`

func TestWhatWasThereBeforeShortLinksIsThereAfterThem(t *testing.T) {
	address := storetest.URL(t)
	pool, err := pgxpool.New(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(pool.Close)
	provider, err := goose.NewProvider(goose.DialectPostgres, stdlib.OpenDBFromPool(pool), os.DirFS("migrations"))
	require.NoError(t, err)
	_, err = provider.UpTo(t.Context(), 5)
	require.NoError(t, err)
	_, err = pool.Exec(t.Context(), beforeShortLinks)
	require.NoError(t, err)

	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	for _, name := range []string{"old-name", "new-name"} {
		live, err := s.LivePage(t.Context(), name)
		require.NoError(t, err)
		assert.Equal(t, "new-name", live.Address)
	}
	live, err := s.LivePage(t.Context(), "new-name")
	require.NoError(t, err)
	day := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
	figures, err := s.Figures(t.Context(), live.WorkspaceID, []uuid.UUID{live.PageID}, day, day)
	require.NoError(t, err)
	require.Len(t, figures[live.PageID].Sums.Pages, 1)
	assert.Equal(t, 5, figures[live.PageID].Sums.Pages[0].Views)
	shared, err := s.ListShared(t.Context(), live.WorkspaceID, live.PageID, nil, 10)
	require.NoError(t, err)
	assert.Len(t, shared, 1)
	due, err := s.DueDays(t.Context(), 10, true)
	require.NoError(t, err)
	assert.Len(t, due, 1)

	// Events of a time that was pruned stay out.
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{
		{ID: uuid.New(), At: day.AddDate(-1, 0, 0), EndpointID: live.PageID},
		{ID: uuid.New(), At: day, EndpointID: live.PageID},
	}))
	n, err := s.CountEvents(t.Context(), live.PageID)
	require.NoError(t, err)
	assert.Equal(t, int64(1), n)
	require.NoError(t, s.EraseWorkspace(t.Context(), live.WorkspaceID, day))
}
