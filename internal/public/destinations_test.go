package public_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
	"jundle/internal/store"
)

// find finds the destination that leads to an address.
func (s *site) find(address string) store.Destination {
	s.t.Helper()
	all, err := s.store.Destinations(s.t.Context(), s.member.WorkspaceID, address, nil, 100)
	require.NoError(s.t, err)
	for _, one := range all {
		if one.Address == address {
			return one
		}
	}
	require.Fail(s.t, "no destination leads there", address)
	return store.Destination{}
}

// lead changes where a destination leads, as one process hears of it from another.
func (s *site) lead(from store.Destination, to string) store.Destination {
	s.t.Helper()
	changed, err := s.store.SaveDestination(s.t.Context(), s.member.WorkspaceID, s.member.ID, from.ID, from.Revision,
		destination.Destination{Address: to, Title: from.Title}, s.now)
	require.NoError(s.t, err)
	s.server.Forget(from.ID)
	return changed
}

func (s *site) leadsTo(path, address string) {
	s.t.Helper()
	answer := s.get(path)
	assert.Equal(s.t, http.StatusFound, answer.Code, path)
	assert.Equal(s.t, address, answer.Header().Get("Location"), path)
}

func TestADestinationChangedOnceIsFollowedByAllThatLeadsThere(t *testing.T) {
	s := open(t)
	const dates, moved = "https://kiln.example/dates", "https://kiln.example/moved"
	// On one page as a button, an icon, a small link, in a text and as a plain address…
	doc := document([]page.Block{
		button("bbbb", dates),
		{Key: "tttt", Kind: "text", Shown: true, Text: &page.Text{HTML: `<p>See <a href="` + dates + `">the dates</a>.</p>`}},
		button("pppp", dates),
	})
	doc.Blocks[2].Button.Plain = true
	doc.Icons.Items = []page.IconLink{{Key: "iiii", Icon: page.Icon{Set: "signs", Name: "flame"}, Name: "Kiln", Address: dates}}
	doc.Footer.Links = []page.FooterLink{{Key: "ffff", Title: "Dates", Address: dates}}
	s.publishDocument(doc)
	// …which a later edition has no more of…
	old := s.page.LiveEdition
	s.publishDocument(document([]page.Block{button("cccc", "https://kiln.example/other")}))
	// …on another page, and behind a short link, once where it leads and once instead.
	other, err := s.store.CreatePage(
		t.Context(),
		s.member.WorkspaceID,
		"quarrow-workshops",
		document([]page.Block{button("wwww", dates)}),
		now,
	)
	require.NoError(t, err)
	_, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, other.ID, store.Publishing{Revision: other.Revision}, now)
	require.NoError(t, err)
	link, instead := shortlink.New(dates), shortlink.New("https://kiln.example/sale")
	instead.On, instead.Fallback = false, dates
	for address, each := range map[string]shortlink.Link{"kiln-dates": link, "kiln-sale": instead} {
		_, err = s.store.AddShortLink(t.Context(), s.member.WorkspaceID, store.NewShortLink{Address: address, Link: each}, now)
		require.NoError(t, err)
	}

	paths := []string{
		"/quarrow-clay/-/1/bbbb", "/quarrow-clay/-/1/tttt.1", "/quarrow-clay/-/1/icons.iiii", "/quarrow-clay/-/1/footer.ffff",
		"/quarrow-workshops/-/1/wwww", "/kiln-dates", "/kiln-sale",
	}
	for _, path := range paths {
		s.leadsTo(path, dates)
	}
	kept := s.find(dates)
	changed := s.lead(kept, moved)
	for _, path := range paths {
		s.leadsTo(path, moved)
	}
	assert.Equal(t, 1, old)
	s.leadsTo("/quarrow-clay/-/2/cccc", "https://kiln.example/other")

	// What is on the page itself follows, too, and so does whatever is published next.
	s.publishDocument(doc)
	assert.Contains(t, s.get("/quarrow-clay").Body.String(), `href="`+moved+`"`)
	assert.NotContains(t, s.get("/quarrow-clay").Body.String(), `href="`+dates)
	s.lead(changed, dates)
	assert.Contains(t, s.get("/quarrow-clay").Body.String(), `href="`+dates+`"`)

	history, err := s.store.HistoryOf(t.Context(), s.member.WorkspaceID, kept.ID)
	require.NoError(t, err)
	var led []string
	for _, each := range history {
		led = append(led, each.Address)
	}
	assert.Equal(t, []string{dates, moved, dates}, led)
}

func TestAnEditionRecordsWhatItLedToWhenItWasPublished(t *testing.T) {
	s := open(t)
	s.publish(button("bbbb", "https://kiln.example/dates"))
	s.lead(s.find("https://kiln.example/dates"), "https://kiln.example/moved")
	var recorded []string
	require.NoError(t, s.store.EachEdition(t.Context(), s.member.WorkspaceID, s.page.ID, 0, func(edition store.Edition) error {
		recorded = append(recorded, edition.Document.Blocks[0].Button.Address)
		return nil
	}))
	assert.Equal(t, []string{"https://kiln.example/dates"}, recorded)

	// Nothing waits to be published for it: visitors are led there already.
	saved, err := s.store.Page(t.Context(), s.member.WorkspaceID, s.page.ID)
	require.NoError(t, err)
	assert.Equal(t, "https://kiln.example/moved", saved.Draft.Blocks[0].Button.Address)
	again, err := s.store.Publish(
		t.Context(),
		s.member.WorkspaceID,
		s.member.ID,
		s.page.ID,
		store.Publishing{Revision: saved.Revision},
		now,
	)
	require.NoError(t, err)
	assert.Equal(t, 1, again.LiveEdition)
}

func TestAnAddressTypedOverAnotherLeadsElsewhereAndChangesNoDestination(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/dates"), button("bbbb", "https://kiln.example/dates"))
	saved, err := s.store.Page(t.Context(), s.member.WorkspaceID, s.page.ID)
	require.NoError(t, err)
	typed := saved.Draft
	assert.Equal(t, typed.Blocks[0].Button.DestinationID, typed.Blocks[1].Button.DestinationID, "it is kept once")
	typed.Blocks[0].Button.Address = "https://kiln.example/typed"
	s.publishDocument(typed)
	s.leadsTo("/quarrow-clay/-/2/aaaa", "https://kiln.example/typed")
	s.leadsTo("/quarrow-clay/-/2/bbbb", "https://kiln.example/dates")
	assert.Equal(t, "https://kiln.example/dates", s.find("https://kiln.example/dates").Address)
}

func TestADestinationOfAnotherWorkspaceIsNotFollowed(t *testing.T) {
	s := open(t)
	other, err := s.store.CreateAccount(t.Context(), store.NewAccount{
		Email:       "rolf@elsewhere.example",
		PageAddress: "elsewhere",
		Zone:        "UTC",
		Document:    document([]page.Block{button("eeee", "https://elsewhere.example/")}),
	}, now)
	require.NoError(t, err)
	theirs, err := s.store.Destinations(t.Context(), other.WorkspaceID, "", nil, 10)
	require.NoError(t, err)
	require.Len(t, theirs, 1)

	taken := button("bbbb", "https://kiln.example/dates")
	taken.Button.DestinationID = theirs[0].ID.String()
	s.publish(taken)
	_, err = s.store.SaveDestination(t.Context(), other.WorkspaceID, other.ID, theirs[0].ID, 1,
		destination.Destination{Address: "https://elsewhere.example/moved"}, now)
	require.NoError(t, err)
	s.server.Forget(theirs[0].ID)
	s.leadsTo("/quarrow-clay/-/1/bbbb", "https://kiln.example/dates")

	_, err = s.store.Destination(t.Context(), s.member.WorkspaceID, theirs[0].ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.store.SaveDestination(t.Context(), s.member.WorkspaceID, s.member.ID, theirs[0].ID, 2,
		destination.Destination{Address: "https://kiln.example/"}, now)
	assert.ErrorIs(t, err, store.ErrNotFound)
	history, err := s.store.HistoryOf(t.Context(), s.member.WorkspaceID, theirs[0].ID)
	require.NoError(t, err)
	assert.Empty(t, history)
}

func TestWhatWasMadeQuietlyAndLeadsNowhereAnyMoreIsCollected(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/published"))
	doc := document([]page.Block{button("aaaa", "https://kiln.example/half-ty")})
	saved, err := s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision, doc)
	require.NoError(t, err)
	doc.Blocks[0].Button.Address = "https://kiln.example/typed"
	_, err = s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, saved.Revision, doc)
	require.NoError(t, err)
	collect := func(after time.Duration) int64 {
		n, err := s.store.CollectDestinations(t.Context(), 100, time.Now().Add(after))
		require.NoError(t, err)
		return n
	}
	assert.Zero(t, collect(time.Hour), "an edit may be undone")
	assert.EqualValues(t, 1, collect(8*24*time.Hour))
	for _, address := range []string{"https://kiln.example/published", "https://kiln.example/typed"} {
		assert.NotEqual(t, uuid.Nil, s.find(address).ID)
	}
}

func TestASwapLeadsElsewhereWithinItsWindowOnThePageAndBehindShortLinks(t *testing.T) {
	s := open(t)
	const shop, sale, next = "https://kiln.example/shop", "https://kiln.example/sale", "https://kiln.example/next"
	doc := document([]page.Block{button("bbbb", shop), button("pppp", shop)})
	doc.Blocks[1].Button.Plain = true
	s.publishDocument(doc)
	_, err := s.store.AddShortLink(
		t.Context(),
		s.member.WorkspaceID,
		store.NewShortLink{Address: "kiln-shop", Link: shortlink.New(shop)},
		s.now,
	)
	require.NoError(t, err)
	begun := s.now
	leads := func(to string) {
		t.Helper()
		s.leadsTo("/quarrow-clay/-/1/bbbb", to)
		s.leadsTo("/kiln-shop", to)
		assert.Contains(t, s.get("/quarrow-clay").Body.String(), `href="`+to+`"`)
	}
	leads(shop)
	kept := s.find(shop)
	changed, err := s.store.SaveDestination(t.Context(), s.member.WorkspaceID, s.member.ID, kept.ID, kept.Revision,
		destination.Destination{Address: shop, Title: kept.Title, Swaps: destination.Swaps{
			{From: begun.Add(time.Hour), To: begun.Add(2 * time.Hour), Address: sale}, {From: begun.Add(26 * time.Hour), Address: next},
		}}, s.now)
	require.NoError(t, err)
	s.server.Forget(kept.ID)
	for after, to := range []string{shop, sale, shop} {
		s.now = begun.Add(time.Duration(after) * time.Hour)
		leads(to) // nobody tells the server: it knows when
	}
	s.now = begun.Add(26 * time.Hour)
	leads(next)

	// Settling it changes nothing for visitors; what it came to is its history.
	require.NoError(t, s.store.SettleSwaps(t.Context(), 10, s.now))
	s.server.Forget(kept.ID)
	leads(next)
	settled := s.find(next)
	assert.Empty(t, settled.Swaps)
	assert.Nil(t, settled.SwapAt)
	assert.Equal(t, changed.Revision+1, settled.Revision)
	history, err := s.store.HistoryOf(t.Context(), s.member.WorkspaceID, kept.ID)
	require.NoError(t, err)
	since := make(map[string]string)
	for _, each := range history {
		since[each.Since.UTC().Format(time.RFC3339)] = each.Address
	}
	assert.Equal(t, sale, since[begun.Add(time.Hour).UTC().Format(time.RFC3339)])
	assert.Equal(t, shop, since[begun.Add(2*time.Hour).UTC().Format(time.RFC3339)])
	assert.Equal(t, next, since[begun.Add(26*time.Hour).UTC().Format(time.RFC3339)])

	_, err = s.store.SaveDestination(t.Context(), s.member.WorkspaceID, s.member.ID, kept.ID, settled.Revision, destination.Destination{
		Address: next, Swaps: destination.Swaps{{From: s.now, Address: "mailto:ilse@quarrow.example"}},
	}, s.now)
	require.ErrorIs(t, err, store.ErrNotWeb, "a short link leads there")
}

func TestWhatWasMergedLeadsWhereTheOtherDoes(t *testing.T) {
	s := open(t)
	const old, shop = "https://kiln.example/old", "https://kiln.example/shop"
	s.publishDocument(document([]page.Block{button("bbbb", old), button("cccc", shop)}))
	_, err := s.store.AddShortLink(
		t.Context(),
		s.member.WorkspaceID,
		store.NewShortLink{Address: "kiln-old", Link: shortlink.New(old)},
		s.now,
	)
	require.NoError(t, err)
	other, into := s.find(old), s.find(shop)
	s.leadsTo("/kiln-old", old)
	require.NoError(t, s.store.MergeDestinations(t.Context(), s.member.WorkspaceID, other.ID, into.ID))
	s.server.Forget(other.ID)
	s.leadsTo("/quarrow-clay/-/1/bbbb", shop)
	s.leadsTo("/kiln-old", shop)
	s.lead(into, "https://kiln.example/new")
	s.leadsTo("/quarrow-clay/-/1/bbbb", "https://kiln.example/new")
	s.leadsTo("/kiln-old", "https://kiln.example/new")
	gone, err := s.store.CollectDestinations(t.Context(), 100, s.now.Add(1000*time.Hour))
	require.NoError(t, err)
	assert.Zero(t, gone)
	require.NoError(t, s.store.TakeApart(t.Context(), s.member.WorkspaceID, other.ID))
	s.server.Forget(into.ID)
	s.leadsTo("/quarrow-clay/-/1/bbbb", old)
	s.leadsTo("/kiln-old", old)
}

func TestAClickStaysWithTheAddressItLedToWhenThatIsChanged(t *testing.T) {
	s := open(t)
	const dates, moved = "https://kiln.example/dates", "https://kiln.example/moved"
	doc := document([]page.Block{
		button("bbbb", dates),
		{Key: "tttt", Kind: "text", Shown: true, Text: &page.Text{HTML: `<p>See <a href="` + dates + `">the dates</a>.</p>`}},
	})
	doc.Icons.Items = []page.IconLink{{Key: "iiii", Icon: page.Icon{Set: "signs", Name: "flame"}, Name: "Kiln", Address: dates}}
	s.publishDocument(doc)
	s.shorten("kiln-dates", shortlink.New(dates))
	instead := shortlink.New("https://kiln.example/sale")
	instead.On, instead.Fallback = false, dates
	s.shorten("kiln-sale", instead)
	paths := []string{"/quarrow-clay/-/1/bbbb", "/quarrow-clay/-/1/tttt.1", "/quarrow-clay/-/1/icons.iiii", "/kiln-dates", "/kiln-sale"}
	press := func(client string) {
		for _, path := range paths {
			s.get(path, func(r *http.Request) { r.RemoteAddr = client + ":1234" })
		}
	}
	press("192.0.2.1")
	press("192.0.2.2")
	kept := s.find(dates)
	s.lead(kept, moved)
	press("192.0.2.3")
	s.events()

	clicks, err := s.store.ClicksOfDestination(t.Context(), s.member.WorkspaceID, kept.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	led := map[string]int{}
	for _, each := range clicks {
		led[each.Address] += each.Clicks
	}
	assert.Equal(t, map[string]int{dates: 2 * len(paths), moved: len(paths)}, led)
	nobodys, err := s.store.ClicksOfDestination(t.Context(), uuid.New(), kept.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	assert.Empty(t, nobodys, "for another workspace")
}
