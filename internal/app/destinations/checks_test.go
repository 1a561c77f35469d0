package destinations_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/destinations"
	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/outbound"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func TestAddressesAreAskedWhenTheyAreDueAFewOfEachSiteAtATime(t *testing.T) {
	now := time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	s := storetest.New(t)
	member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	doc := page.New()
	for i := range 6 {
		doc.Blocks = append(doc.Blocks, page.Block{
			Key: fmt.Sprintf("b%03d", i), Kind: "button", Shown: true,
			Button: &page.Button{Title: "Pot", Address: fmt.Sprintf("https://kiln.example/%d", i)},
		})
	}
	doc.Blocks = append(doc.Blocks, page.Block{
		Key: "mail", Kind: "button", Shown: true, Button: &page.Button{Title: "Write", Address: "mailto:ilse@quarrow.example"},
	})
	saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, pages[0].ID, pages[0].Revision, doc)
	require.NoError(t, err)

	var asked atomic.Int32
	web := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked.Add(1)
		if r.URL.Path == "/0" {
			w.WriteHeader(http.StatusNotFound)
		}
	}))
	t.Cleanup(web.Close)
	base, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	client := outbound.New(outbound.Options{Reroute: func(to *url.URL) *url.URL { return base.JoinPath(to.Path) }})
	u := destinations.Destinations{Store: s, Now: func() time.Time { return now }}
	ids := saved.Draft.DestinationIDs()
	known := func() map[string]linkcheck.Result {
		checks, err := s.LinkChecks(t.Context(), member.WorkspaceID, ids)
		require.NoError(t, err)
		return checks
	}

	require.NoError(t, s.CheckSoon(t.Context(), member.WorkspaceID, ids, now))
	require.NoError(t, u.CheckDue(t.Context(), client))
	assert.Len(t, known(), 4, "four of a site in one round")
	require.NoError(t, u.CheckDue(t.Context(), client))
	require.Len(t, known(), 6, "the others in the next, but for a mailbox, which is not asked")
	for _, block := range saved.Draft.Blocks[:6] {
		result := known()[block.Button.DestinationID]
		assert.Equal(t, block.Button.Address, result.Address)
		assert.Equal(t, strings.HasSuffix(result.Address, "/0"), result.IsFailure(), result.Address)
	}

	before := asked.Load()
	now = now.Add(12 * time.Hour)
	require.NoError(t, u.CheckDue(t.Context(), client))
	assert.Equal(t, before+2, asked.Load(), "only what failed is asked again so soon, by HEAD and by GET")
	first := saved.Draft.Blocks[0].Button.DestinationID
	assert.Equal(t, linkcheck.Gone, known()[first].Verdict(), "it failed twice")
	require.NoError(t, s.CheckSoon(t.Context(), member.WorkspaceID, ids, now))
	require.NoError(t, u.CheckDue(t.Context(), client))
	require.NoError(t, u.CheckDue(t.Context(), client))
	assert.Equal(t, before+2+5, asked.Load(), "whoever asks for it has the others asked, and not again what was asked just now")

	rolf, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "rolf@iron.example", PageAddress: "rolf-iron", Zone: "UTC"}, now)
	require.NoError(t, err)
	checks, err := s.LinkChecks(t.Context(), rolf.WorkspaceID, ids)
	require.NoError(t, err)
	assert.Empty(t, checks, "they are not his")
	require.NoError(t, s.CheckSoon(t.Context(), rolf.WorkspaceID, ids, now.Add(time.Hour)))
	now = now.Add(time.Minute)
	before = asked.Load()
	require.NoError(t, u.CheckDue(t.Context(), client))
	assert.Equal(t, before, asked.Load())
}

func TestWhenNoSiteCanBeReachedNothingIsSaidOfAny(t *testing.T) {
	now := time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	s := storetest.New(t)
	member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	doc := page.New()
	for i, host := range []string{"kiln.example", "pots.example", "clay.example"} {
		doc.Blocks = append(doc.Blocks, page.Block{
			Key: fmt.Sprintf("b%03d", i), Kind: "button", Shown: true, Button: &page.Button{Title: "Pot", Address: "https://" + host + "/"},
		})
	}
	saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, pages[0].ID, pages[0].Revision, doc)
	require.NoError(t, err)
	web := httptest.NewServer(http.NotFoundHandler())
	closed, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	web.Close()
	client := outbound.New(outbound.Options{Reroute: func(*url.URL) *url.URL { return closed }})
	u := destinations.Destinations{Store: s, Now: func() time.Time { return now }}
	ids := saved.Draft.DestinationIDs()
	ask := func(ids []string) map[string]linkcheck.Result {
		require.NoError(t, s.CheckSoon(t.Context(), member.WorkspaceID, ids, now))
		require.NoError(t, u.CheckDue(t.Context(), client))
		checks, err := s.LinkChecks(t.Context(), member.WorkspaceID, ids)
		require.NoError(t, err)
		return checks
	}
	assert.Empty(t, ask(ids), "it may be our own line")
	assert.Len(t, ask(ids[:1]), 1, "one that is down by itself is down")
}
