package rollup

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

// spoilt is two pages with visits on two days each, and what of them can be made
// unreadable.
type spoilt struct {
	t     *testing.T
	url   string
	store *store.Store
	pages []store.Page
}

func open(t *testing.T) *spoilt {
	t.Helper()
	s := &spoilt{t: t, url: storetest.Migrated(t)}
	var err error
	s.store, err = store.Open(t.Context(), s.url)
	require.NoError(t, err)
	t.Cleanup(s.store.Close)
	doc := page.New()
	doc.Blocks = []page.Block{{Key: "kiln", Kind: "button", Shown: true, Button: &page.Button{
		Title:   "Kiln",
		Address: "https://kiln.example/",
	}}}
	for _, name := range []string{"first-pots", "second-pots"} {
		member, err := s.store.CreateAccount(t.Context(), store.NewAccount{
			Email: name + "@quarrow.example", PageAddress: name, Zone: "UTC",
			Document: doc,
		}, noon)
		require.NoError(t, err)
		pages, err := s.store.Pages(t.Context(), member.WorkspaceID)
		require.NoError(t, err)
		published, err := s.store.Publish(t.Context(), member.WorkspaceID, member.ID, pages[0].ID, store.Publishing{Revision: 1}, noon)
		require.NoError(t, err)
		s.pages = append(s.pages, published)
		for day := range 2 {
			require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{{
				ID: uuid.New(), At: noon.AddDate(0, 0,
					day), EndpointID: published.ID, Edition: 1, Kind: traffic.View, UserAgent: "Mobile", Visitor: traffic.VisitorKey{1},
			}}))
		}
	}
	return s
}

func (s *spoilt) exec(statement string, args ...any) {
	s.t.Helper()
	conn, err := pgx.Connect(s.t.Context(), s.url)
	require.NoError(s.t, err)
	defer conn.Close(context.Background())
	_, err = conn.Exec(s.t.Context(), statement, args...)
	require.NoError(s.t, err)
}

func (s *spoilt) due() (n int) {
	s.t.Helper()
	due, err := s.store.DueDays(s.t.Context(), 100, true)
	require.NoError(s.t, err)
	return len(due)
}

// spoil makes the days of the first page uncountable, and has all days counted anew.
func (s *spoilt) spoil() {
	s.t.Helper()
	s.exec(`update workspaces set zone = 'Quarrow/Nowhere' where id = $1`, s.pages[0].WorkspaceID)
	s.exec(`update counted_days set due = true`)
}

func TestADayThatCannotBeSummedUpFailsAlone(t *testing.T) {
	s := open(t)
	before, err := AllSums(t.Context(), s.store, s.pages[0].WorkspaceID, s.pages[0].ID)
	require.NoError(t, err)
	s.spoil()
	_, err = All(t.Context(), s.store, nil)
	require.Error(t, err)
	assert.Equal(t, 2, s.due(), "its days stay due, and those of the other page are summed up")
	figures, err := AllSums(t.Context(), s.store, s.pages[0].WorkspaceID, s.pages[0].ID)
	require.NoError(t, err)
	assert.Equal(t, before, figures, "and have the figures they had")
	waiting, err := s.store.DueDays(t.Context(), 100, false)
	require.NoError(t, err)
	assert.Empty(t, waiting, "they are not tried again at once")

	s.exec(`update workspaces set zone = 'UTC' where id = $1`, s.pages[0].WorkspaceID)
	_, err = All(t.Context(), s.store, nil)
	require.NoError(t, err)
	assert.Zero(t, s.due())
}

func TestAnEditionThatIsNotThereShowedNothing(t *testing.T) {
	s := open(t)
	s.exec(`delete from editions where page_id = $1`, s.pages[0].ID)
	s.exec(`update counted_days set due = true`)
	fresh, err := store.Open(t.Context(), s.url) // the other one remembers it
	require.NoError(t, err)
	t.Cleanup(fresh.Close)
	_, err = All(t.Context(), fresh, nil)
	require.NoError(t, err)
	assert.Zero(t, s.due())
	figures, err := AllSums(t.Context(), fresh, s.pages[0].WorkspaceID, s.pages[0].ID)
	require.NoError(t, err)
	assert.Empty(t, figures.Blocks)
}

func TestADayThatFailsKeepsNobodysEventsFromBeingDeletedInTime(t *testing.T) {
	s := open(t)
	s.spoil()
	_, err := All(t.Context(), s.store, nil)
	require.Error(t, err)
	deleted, err := s.store.Prune(t.Context(), noon.AddDate(3, 0, 0))
	require.NoError(t, err)
	assert.EqualValues(t, 2, deleted, "those of the page that could be summed up")
	left, err := s.store.CountEvents(t.Context(), s.pages[0].ID)
	require.NoError(t, err)
	assert.EqualValues(t, 2, left, "those that could not wait until they are")
}
