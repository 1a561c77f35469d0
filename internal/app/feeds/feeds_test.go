package feeds_test

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/feeds"
	"jundle/internal/core/feed"
	"jundle/internal/core/page"
	"jundle/internal/files/filestest"
	"jundle/internal/outbound"
	"jundle/internal/standin"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// notes is a made-up site with a feed.
type notes struct {
	mu      sync.Mutex
	entries []string
	header  map[string]string
	answer  func(w http.ResponseWriter, r *http.Request) bool // in place of all else
	asked   []string
}

func (n *notes) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	n.mu.Lock()
	defer n.mu.Unlock()
	n.asked = append(n.asked, r.URL.Path+" "+r.Header.Get("If-None-Match")+r.Header.Get("If-Modified-Since"))
	if n.answer != nil && n.answer(w, r) {
		return
	}
	switch {
	case r.URL.Path == "/":
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write([]byte(`<title>Notes</title><link rel="alternate" type="application/rss+xml" href="/feed.xml">`))
	case r.URL.Path == "/bare":
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
	case strings.HasPrefix(r.URL.Path, "/pot"):
		_, _ = w.Write(standin.DrawPot(r.URL.Path))
	case r.URL.Path == "/feed.xml":
		for name, value := range n.header {
			w.Header().Set(name, value)
		}
		if tag := n.header["ETag"]; tag != "" && r.Header.Get("If-None-Match") == tag {
			w.WriteHeader(http.StatusNotModified)
			return
		}
		w.Header().Set("Content-Type", "application/rss+xml")
		items := ""
		for i := range n.entries {
			name := n.entries[len(n.entries)-1-i]
			items += fmt.Sprintf(`<item><title>%s</title><link>/%s</link><guid>%s</guid><enclosure type="image/png" url="/pot-%s.png"/></item>`,
				name, name, name, name)
		}
		_, _ = w.Write([]byte(`<rss version="2.0"><channel><title>Notes</title>` + items + `</channel></rss>`))
	default:
		w.WriteHeader(http.StatusNotFound)
	}
}

type bench struct {
	t      *testing.T
	store  *store.Store
	feeds  feeds.Feeds
	site   *notes
	member store.Member
	now    time.Time
}

func newBench(t *testing.T) *bench {
	site := &notes{entries: []string{"ash", "celadon"}}
	b := &bench{t: t, store: storetest.New(t), site: site, now: time.Date(2026, 11, 3, 12, 0, 0, 0, time.UTC)}
	web := httptest.NewServer(b.site)
	t.Cleanup(web.Close)
	base, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	client := outbound.New(outbound.Options{Reroute: func(to *url.URL) *url.URL {
		if to.Hostname() != "notes.kiln.example" {
			return nil
		}
		return base.JoinPath(to.Path)
	}})
	clock := func() time.Time { return b.now }
	b.feeds = feeds.Feeds{Store: b.store, Files: filestest.New(t, b.store, clock), Outbound: client, Now: clock}
	b.member, err = b.store.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PasswordHash: "x", PageAddress: "quarrow-clay", Zone: "UTC", Document: page.New(),
	}, b.now)
	require.NoError(t, err)
	return b
}

func (b *bench) find(address string) store.Feed {
	b.t.Helper()
	found, err := b.feeds.Find(b.t.Context(), b.member.WorkspaceID, address)
	require.NoError(b.t, err)
	return found
}

// again asks what is due, and returns the feed as it then is.
func (b *bench) again(id uuid.UUID) store.Feed {
	b.t.Helper()
	require.NoError(b.t, b.feeds.AskDue(b.t.Context()))
	found, err := b.store.Feed(b.t.Context(), b.member.WorkspaceID, id)
	require.NoError(b.t, err)
	return found
}

// show puts the feed on the page, and publishes it.
func (b *bench) show(id uuid.UUID) store.Page {
	b.t.Helper()
	pages, err := b.store.Pages(b.t.Context(), b.member.WorkspaceID)
	require.NoError(b.t, err)
	doc := page.New()
	doc.Blocks = []page.Block{{Key: "journal1", Kind: "feed", Shown: true, Feed: &page.Feed{FeedID: id.String(), Most: 3, Shown: "cards"}}}
	doc, err = page.Tidy(doc)
	require.NoError(b.t, err)
	saved, err := b.store.SaveDraft(b.t.Context(), b.member.WorkspaceID, pages[0].ID, pages[0].Revision, doc)
	require.NoError(b.t, err)
	publishing := store.Publishing{Revision: saved.Revision}
	published, err := b.store.Publish(b.t.Context(), b.member.WorkspaceID, b.member.ID, saved.ID, publishing, b.now)
	require.NoError(b.t, err)
	return published
}

func titles(of store.Feed) (titles []string) {
	for _, item := range of.Items {
		title := item.Title
		if item.Gone {
			title += " (gone)"
		}
		if item.Picture != nil {
			title += " with a picture"
		}
		titles = append(titles, title)
	}
	return titles
}

func TestAFeedIsFoundFromAPageAndAskedAgainOnConditionThatItChanged(t *testing.T) {
	b := newBench(t)
	b.site.header = map[string]string{"ETag": `"1"`, "Cache-Control": "max-age=1800"}
	one := b.find("https://notes.kiln.example/")
	assert.Equal(t, "https://notes.kiln.example/feed.xml", one.Address)
	assert.Equal(t, []string{"celadon with a picture", "ash with a picture"}, titles(one))
	b.show(one.ID)
	assert.WithinRange(t, one.DueAt, b.now.Add(30*time.Minute), b.now.Add(33*time.Minute), "as long as it says that it is good")

	b.site.asked = nil
	b.again(one.ID)
	assert.Empty(t, b.site.asked, "it is not due")
	b.now = b.now.Add(time.Hour)
	same := b.again(one.ID)
	assert.Equal(t, []string{`/feed.xml "1"`}, b.site.asked, "and nothing else was asked")
	assert.Equal(t, titles(one), titles(same))
	assert.Equal(t, b.now, same.ReadAt.UTC())

	b.site.entries, b.site.header["ETag"] = []string{"celadon", "tenmoku"}, `"2"`
	b.now, b.site.asked = b.now.Add(time.Hour), nil
	assert.Equal(t, []string{"tenmoku with a picture", "celadon with a picture", "ash (gone) with a picture"}, titles(b.again(one.ID)))
	assert.Equal(t, []string{`/feed.xml "1"`, "/pot-tenmoku.png "}, b.site.asked, "a picture is fetched once")
	again := b.find("https://notes.kiln.example/feed.xml")
	assert.Equal(t, one.ID, again.ID, "it is taken in once")
}

func TestThePageShowsWhatTheFeedHasAndWhatIsGoneStillLeadsOn(t *testing.T) {
	b := newBench(t)
	one := b.find("https://notes.kiln.example/feed.xml")
	published := b.show(one.ID)
	b.site.entries = []string{"tenmoku"}
	b.now = b.now.Add(2 * time.Hour)
	b.again(one.ID)
	live, err := b.store.LivePage(t.Context(), published.Address)
	require.NoError(t, err)
	block := live.Document.Blocks[0]
	require.Len(t, block.Feed.Newest(), 1)
	assert.Equal(t, "tenmoku", block.Feed.Newest()[0].Title)
	var names []string
	for _, target := range block.Targets() {
		names = append(names, target.Name+" "+target.Address)
	}
	assert.Equal(t, []string{
		"tenmoku https://notes.kiln.example/tenmoku", "celadon https://notes.kiln.example/celadon", "ash https://notes.kiln.example/ash",
	}, names)
	tidy, err := page.Tidy(published.Draft)
	require.NoError(t, err)
	assert.Empty(t, tidy.Blocks[0].Feed.Items, "what a feed has is not saved")
}

func TestTheLastGoodStateStaysWhereAFeedGivesNoAnswer(t *testing.T) {
	for name, c := range map[string]struct {
		answer  func(w http.ResponseWriter, r *http.Request) bool
		problem string
		next    time.Duration
	}{
		"an error":     {status(500, ""), "It answered 500.", 15 * time.Minute},
		"too often":    {status(429, "7200"), "It answered 429.", 2 * time.Hour},
		"gone":         {status(410, ""), "It answered 410.", 24 * time.Hour},
		"another page": {saying("<html>Sorry"), "What it answered is no feed.", 15 * time.Minute},
		"endless":      {saying(strings.Repeat("<rss>", 1<<20)), "It answered with more than is read.", 15 * time.Minute},
	} {
		b := newBench(t)
		one := b.find("https://notes.kiln.example/feed.xml")
		b.show(one.ID)
		b.now = b.now.Add(2 * time.Hour)
		b.site.answer = c.answer
		failed := b.again(one.ID)
		assert.Equal(t, c.problem, failed.Problem, name)
		assert.Equal(t, titles(one), titles(failed), name)
		assert.WithinRange(t, failed.DueAt, b.now.Add(c.next), b.now.Add(c.next+c.next/10), name)
		b.site.answer = nil
		b.now = failed.DueAt.Add(time.Second)
		mended := b.again(one.ID)
		assert.Empty(t, mended.Problem, name)
		assert.Zero(t, mended.Failures, name)
	}
}

func status(code int, later string) func(http.ResponseWriter, *http.Request) bool {
	return func(w http.ResponseWriter, _ *http.Request) bool {
		if later != "" {
			w.Header().Set("Retry-After", later)
		}
		w.WriteHeader(code)
		return true
	}
}

func saying(text string) func(http.ResponseWriter, *http.Request) bool {
	return func(w http.ResponseWriter, _ *http.Request) bool {
		_, _ = w.Write([]byte(text))
		return true
	}
}

func TestWhereThereIsNoFeedThatIsSaidAndNothingIsKept(t *testing.T) {
	b := newBench(t)
	for _, path := range []string{"bare", "nothing"} {
		_, err := b.feeds.Find(t.Context(), b.member.WorkspaceID, "https://notes.kiln.example/"+path)
		assert.ErrorIs(t, err, feeds.ErrNoFeed, path)
	}
	_, err := b.feeds.Find(t.Context(), b.member.WorkspaceID, "http://127.0.0.1:5432/")
	assert.ErrorIs(t, err, outbound.ErrForbidden)
	for i := range store.FeedsKept {
		_, err := b.store.AddFeed(t.Context(), store.Feed{WorkspaceID: b.member.WorkspaceID, Address: fmt.Sprint("https://kiln.example/", i)})
		require.NoError(t, err)
	}
	_, err = b.feeds.Find(t.Context(), b.member.WorkspaceID, "https://notes.kiln.example/feed.xml")
	var full *store.QuotaError
	assert.ErrorAs(t, err, &full, "a workspace takes in so many")
}

func TestAFeedThatNoPageShowsIsNotAskedAndForgottenInTheEnd(t *testing.T) {
	b := newBench(t)
	one := b.find("https://notes.kiln.example/feed.xml")
	b.site.asked = nil
	b.now = b.now.Add(3 * 24 * time.Hour)
	b.again(one.ID)
	assert.Empty(t, b.site.asked)
	b.now = b.now.Add(40 * 24 * time.Hour)
	require.NoError(t, b.feeds.AskDue(t.Context()))
	_, err := b.store.Feed(t.Context(), b.member.WorkspaceID, one.ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestTwoProcessesAskAFeedOnce(t *testing.T) {
	b := newBench(t)
	one := b.find("https://notes.kiln.example/feed.xml")
	b.show(one.ID)
	b.now, b.site.asked = b.now.Add(2*time.Hour), nil
	var both sync.WaitGroup
	for range 2 {
		both.Go(func() { assert.NoError(t, b.feeds.AskDue(context.WithoutCancel(t.Context()))) })
	}
	both.Wait()
	assert.Equal(t, []string{"/feed.xml "}, b.site.asked)
}

func TestPicturesThatAFeedNoLongerShowsAreDeletedUnlessSomethingElseDoes(t *testing.T) {
	b := newBench(t)
	one := b.find("https://notes.kiln.example/feed.xml")
	pinned := one.Items[0].Picture
	published := b.show(one.ID)
	doc := published.Draft
	doc.Blocks = append(doc.Blocks, page.Block{Key: "pinned01", Kind: "button", Shown: true, Button: &page.Button{
		Lead: page.Lead{Picture: pinned}, Title: "Celadon", Address: "https://notes.kiln.example/celadon", Shape: "card", Movement: "none",
	}})
	doc, err := page.Tidy(doc)
	require.NoError(t, err)
	_, err = b.store.SaveDraft(t.Context(), b.member.WorkspaceID, published.ID, published.Revision, doc)
	require.NoError(t, err)
	kept := func() int {
		names := append(pinned.Names(), one.Items[1].Picture.Names()...)
		has, err := b.store.HasMedia(t.Context(), b.member.WorkspaceID, names)
		require.NoError(t, err)
		return len(has)
	}
	before := kept()
	// Nothing of what an edition showed is deleted; the feed showed more than that.
	b.site.entries = nil
	for i := range feed.Kept + 10 {
		b.site.entries = append(b.site.entries, fmt.Sprint("entry-", i))
	}
	b.now = b.now.Add(2 * time.Hour)
	changed := b.again(one.ID)
	assert.Equal(t, before, kept(), "an edition and a block show them")
	shown := changed.Items[0].Picture.Names()
	for i := range b.site.entries {
		b.site.entries[i] = fmt.Sprint("later-", i)
	}
	b.now = b.now.Add(2 * time.Hour)
	b.again(one.ID)
	has, err := b.store.HasMedia(t.Context(), b.member.WorkspaceID, shown)
	require.NoError(t, err)
	assert.Empty(t, has, "what only the feed showed is gone with it")
}
