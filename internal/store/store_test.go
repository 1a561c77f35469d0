package store_test

import (
	"errors"
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/campaign"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

// account signs somebody up and returns the workspace and its only page.
func account(t *testing.T, s *store.Store, email, address string) (store.Member, store.Page) {
	t.Helper()
	member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: email, PasswordHash: "x", PageAddress: address, Zone: "UTC"}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	require.Len(t, pages, 1)
	return member, pages[0]
}

func put(name, tag string) store.NewSource {
	return store.NewSource{Name: name, Tag: tag, Place: source.Place{Kind: source.Print, Medium: "print"}}
}

func doc(name string) page.Document {
	return page.Document{Header: page.Header{Name: name}, Blocks: []page.Block{}}
}

func TestASignUpIsAllOrNothing(t *testing.T) {
	s := storetest.New(t)
	account(t, s, "ilse@quarrow.example", "quarrow-clay")

	_, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "other", Zone: "UTC"}, now)
	require.ErrorIs(t, err, store.ErrEmailTaken)
	_, err = s.CreateAccount(t.Context(), store.NewAccount{Email: "rolf@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}, now)
	require.ErrorIs(t, err, store.ErrAddressTaken)
	_, err = s.MemberByEmail(t.Context(), "rolf@quarrow.example")
	require.ErrorIs(t, err, store.ErrNotFound, "nothing of the refused sign-up stays")
	_, err = s.LivePage(t.Context(), "other")
	require.ErrorIs(t, err, store.ErrNotFound)
}

func TestAStaleWriteIsRefusedAndShownWhatStands(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	first, err := s.SaveDraft(t.Context(), member.WorkspaceID, p.ID, p.Revision, doc("first"))
	require.NoError(t, err)
	assert.Equal(t, p.Revision+1, first.Revision)

	stands, err := s.SaveDraft(t.Context(), member.WorkspaceID, p.ID, p.Revision, doc("second"))
	require.ErrorIs(t, err, store.ErrStale)
	assert.Equal(t, "first", stands.Draft.Header.Name)
	_, err = s.Publish(t.Context(), member.WorkspaceID, member.ID, p.ID, store.Publishing{Revision: p.Revision}, now)
	require.ErrorIs(t, err, store.ErrStale, "nobody publishes what they have not seen")
}

func TestEditionsAreNumberedAndNeverChange(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	for n, name := range []string{"one", "two"} {
		saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, p.ID, int64(n+1), doc(name))
		require.NoError(t, err)
		published, err := s.Publish(t.Context(), member.WorkspaceID, member.ID, p.ID, store.Publishing{Revision: saved.Revision}, now)
		require.NoError(t, err)
		assert.Equal(t, n+1, published.LiveEdition)
	}
	names := map[int]string{}
	require.NoError(t, s.EachEdition(t.Context(), member.WorkspaceID, p.ID, 0,
		func(e store.Edition) error { names[e.Number] = e.Document.Header.Name; return nil }))
	assert.Equal(t, map[int]string{1: "one", 2: "two"}, names)
	live, err := s.LivePage(t.Context(), "quarrow-clay")
	require.NoError(t, err)
	assert.Equal(t, "two", live.Document.Header.Name)
}

func TestNobodyReachesIntoAnotherWorkspace(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	other, _ := account(t, s, "rolf@elsewhere.example", "elsewhere")
	added, err := s.AddSource(t.Context(), member.WorkspaceID, p.ID, put("Card", "card"), now)
	require.NoError(t, err)
	_, err = s.Publish(t.Context(), member.WorkspaceID, member.ID, p.ID, store.Publishing{Revision: p.Revision}, now)
	require.NoError(t, err)
	ctx, ws, name := t.Context(), other.WorkspaceID, "x"

	attempts := map[string]func() error{
		"page": func() error { _, err := s.Page(ctx, ws, p.ID); return err },
		"save": func() error { _, err := s.SaveDraft(ctx, ws, p.ID, p.Revision, doc("mine")); return err },
		"publish": func() error {
			_, err := s.Publish(ctx, ws, other.ID, p.ID, store.Publishing{Revision: p.Revision}, now)
			return err
		},
		"live":    func() error { _, err := s.LiveEdition(ctx, ws, p.ID); return err },
		"address": func() error { _, err := s.ChangeAddress(ctx, ws, p.ID, "stolen", now); return err },
		"source":  func() error { _, err := s.AddSource(ctx, ws, p.ID, put("Mine", "mine"), now); return err },
		"change":  func() error { return s.ChangeSource(ctx, ws, p.ID, added.ID, store.SourceChange{Name: &name}, now) },
	}
	for what, attempt := range attempts {
		assert.ErrorIs(t, attempt(), store.ErrNotFound, what)
	}
	sources, err := s.Sources(ctx, ws, p.ID)
	require.NoError(t, err)
	assert.Empty(t, sources)
	require.NoError(t, s.EachEdition(ctx, ws, p.ID, 0, func(store.Edition) error { t.Fatal("somebody else's edition"); return nil }))
	events, err := s.Events(ctx, ws, p.ID, now, now.Add(time.Hour))
	require.NoError(t, err)
	assert.Empty(t, events)
}

func TestAChangedAddressKeepsLeadingToThePageAndNobodyElseCanTakeIt(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	other, q := account(t, s, "rolf@elsewhere.example", "elsewhere")
	changed, err := s.ChangeAddress(t.Context(), member.WorkspaceID, p.ID, "quarrow", now)
	require.NoError(t, err)
	assert.Equal(t, "quarrow", changed.Address)

	live, err := s.LivePage(t.Context(), "quarrow-clay")
	require.NoError(t, err)
	assert.Equal(t, p.ID, live.PageID)
	assert.Equal(t, "quarrow", live.Address)
	_, err = s.ChangeAddress(t.Context(), other.WorkspaceID, q.ID, "quarrow-clay", now)
	require.ErrorIs(t, err, store.ErrAddressTaken)
	same, err := s.Page(t.Context(), other.WorkspaceID, q.ID)
	require.NoError(t, err)
	assert.Equal(t, "elsewhere", same.Address, "a refused change leaves the address as it was")

	back, err := s.ChangeAddress(t.Context(), member.WorkspaceID, p.ID, "quarrow-clay", now)
	require.NoError(t, err)
	assert.Equal(t, "quarrow-clay", back.Address)
}

func TestAChangedTagStaysWithItsSource(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	card, err := s.AddSource(t.Context(), member.WorkspaceID, p.ID, put("Card", "card"), now)
	require.NoError(t, err)
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{came(p, card, "Card", 0)}))
	tag, retired := "card-2", true
	require.NoError(t, s.ChangeSource(t.Context(), member.WorkspaceID, p.ID, card.ID, store.SourceChange{Tag: &tag, Retired: &retired}, now))

	_, err = s.AddSource(t.Context(), member.WorkspaceID, p.ID, put("Other card", "card"), now)
	require.ErrorIs(t, err, store.ErrTagTaken)
	sources, err := s.Sources(t.Context(), member.WorkspaceID, p.ID)
	require.NoError(t, err)
	require.Len(t, sources, 1)
	assert.Equal(t, "card-2", sources[0].Tag())
	assert.NotNil(t, sources[0].RetiredAt)
	live, err := s.LivePage(t.Context(), "quarrow-clay")
	require.NoError(t, err)
	assert.Equal(t, []string{"card", "card-2"}, live.Sources[0].Tags, "a retired source and a past tag still attribute")
}

// came is a visit by a source's tag.
func came(p store.Page, by store.Source, tag string, flags traffic.Flags) store.Event {
	return store.Event{
		ID: uuid.New(), At: now, EndpointID: p.ID, Edition: 1, Kind: traffic.View, Tag: tag, Flags: flags,
		Attribution: source.Attribution{Source: by.ID.String(), By: source.ByTag},
	}
}

func TestATagThatNobodyEverCameByIsFreeAgain(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	add := func(name, tag string) (store.Source, error) {
		return s.AddSource(t.Context(), member.WorkspaceID, p.ID, put(name, tag), now)
	}
	card, err := add("Card", "card")
	require.NoError(t, err)
	_, err = add("Other", "card")
	require.ErrorIs(t, err, store.ErrTagTaken, "it is in use, visited or not")
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{came(p, card, "card", traffic.Own)}))
	tag := "small-card"
	require.NoError(t, s.ChangeSource(t.Context(), member.WorkspaceID, p.ID, card.ID, store.SourceChange{Tag: &tag}, now))
	other, err := add("Other", "card")
	require.NoError(t, err, "only the creator ever came by it")
	retired := true
	require.NoError(t, s.ChangeSource(t.Context(), member.WorkspaceID, p.ID, other.ID, store.SourceChange{Retired: &retired}, now))
	third, err := add("Third", "card")
	require.NoError(t, err, "so is the tag of a retired source")
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{came(p, third, "CARD", 0)}))
	require.NoError(t, s.ChangeSource(t.Context(), member.WorkspaceID, p.ID, third.ID, store.SourceChange{Retired: &retired}, now))
	_, err = add("Fourth", "card")
	require.ErrorIs(t, err, store.ErrTagTaken, "somebody came by it")
	sources, err := s.Sources(t.Context(), member.WorkspaceID, p.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"small-card", "", "card"}, []string{sources[0].Tag(), sources[1].Tag(), sources[2].Tag()})
}

func TestASaltIsTheSameForAllWhoAskAndGoneAfterwards(t *testing.T) {
	s := storetest.New(t)
	first, err := s.Salt(t.Context(), now)
	require.NoError(t, err)
	again, err := s.Salt(t.Context(), now.Add(time.Hour))
	require.NoError(t, err)
	assert.Equal(t, first, again)
	require.NoError(t, s.DestroySalts(t.Context(), now.Add(48*time.Hour)))
	other, err := s.Salt(t.Context(), now)
	require.NoError(t, err)
	assert.NotEqual(t, first, other)
}

func TestEveryProcessHearsOfAPublishedPage(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	began, heard := make(chan struct{}, 1), make(chan uuid.UUID, 1)
	go s.Listen(t.Context(), store.Listener{
		Began: func() { began <- struct{}{} }, Changed: func(id uuid.UUID) { heard <- id }, Lost: func(error) {},
	})
	<-began
	_, err := s.Publish(t.Context(), member.WorkspaceID, member.ID, p.ID, store.Publishing{Revision: p.Revision}, now)
	require.NoError(t, err)
	assert.Equal(t, p.ID, <-heard)
}

func TestASourceIsSeenByItsFirstCountedVisitOnly(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	card, err := s.AddSource(t.Context(), member.WorkspaceID, p.ID, put("Card", "card"), now)
	require.NoError(t, err)
	view := store.Event{
		ID: uuid.New(), At: now, EndpointID: p.ID, Edition: 1, Kind: traffic.View,
		Attribution: source.Attribution{Source: card.ID.String(), By: source.ByTag}, Flags: traffic.Own,
	}
	seen := func() *time.Time {
		sources, err := s.Sources(t.Context(), member.WorkspaceID, p.ID)
		require.NoError(t, err)
		return sources[0].SeenAt
	}
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{view}))
	assert.Nil(t, seen(), "the owner's own test is no visit")
	view.ID, view.Flags = uuid.New(), 0
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{view}))
	require.NotNil(t, seen())
	assert.True(t, seen().Equal(now))
}

func TestThemesBelongToTheirWorkspace(t *testing.T) {
	s := storetest.New(t)
	mine, _ := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	theirs, _ := account(t, s, "rolf@quarrow.example", "rolf-pots")
	theme, err := s.AddTheme(t.Context(), mine.WorkspaceID, "Mine", look.Default(), now)
	require.NoError(t, err)
	themes, err := s.Themes(t.Context(), mine.WorkspaceID)
	require.NoError(t, err)
	require.Len(t, themes, 1)
	assert.Equal(t, look.Default(), themes[0].Look)
	others, err := s.Themes(t.Context(), theirs.WorkspaceID)
	require.NoError(t, err)
	assert.Empty(t, others)
	assert.ErrorIs(t, s.DeleteTheme(t.Context(), theirs.WorkspaceID, theme.ID), store.ErrNotFound)
	require.NoError(t, s.DeleteTheme(t.Context(), mine.WorkspaceID, theme.ID))
}

func TestSixtyRequestsAtOnceFindRoomForFortyThemes(t *testing.T) {
	s := storetest.New(t)
	member, _ := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	var all sync.WaitGroup
	var refused atomic.Int32
	for range 60 {
		all.Go(func() {
			_, err := s.AddTheme(t.Context(), member.WorkspaceID, "Ash", look.Default(), now)
			var full *store.QuotaError
			if errors.As(err, &full) {
				refused.Add(1)
			}
		})
	}
	all.Wait()
	assert.EqualValues(t, 20, refused.Load())
}

func TestAPageWithEverythingOnItComesBackAsItWasStored(t *testing.T) {
	s := storetest.New(t)
	member, opened := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, opened.ID, 1, pagetest.Everything())
	require.NoError(t, err)
	assert.Equal(t, pagetest.Everything(), withoutDestinations(saved.Draft))
	published, err := s.Publish(t.Context(), member.WorkspaceID, member.ID, opened.ID, store.Publishing{Revision: saved.Revision}, now)
	require.NoError(t, err)
	edition, err := s.LiveEdition(t.Context(), member.WorkspaceID, published.ID)
	require.NoError(t, err)
	assert.Equal(t, pagetest.Everything(), withoutDestinations(edition.Document))
}

// withoutDestinations takes out of a document what saving it put in.
func withoutDestinations(document page.Document) page.Document {
	document.Links(func(link page.Link) { *link.DestinationID = "" })
	return document
}

func TestAFileIsFoundInItsOwnWorkspaceOnly(t *testing.T) {
	s := storetest.New(t)
	mine, _ := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	name := strings.Repeat("a", 64) + ".png"
	file := store.Media{Name: name, WorkspaceID: mine.WorkspaceID, Blob: "first", Size: 4, Width: 4, Height: 3, CreatedAt: now, KeptAt: now}
	again := file
	again.Blob = "second"
	require.NoError(t, s.KeepMedia(t.Context(), file, again))
	require.NoError(t, s.KeepMedia(t.Context(), again), "the same again changes nothing")
	kept, err := s.WorkspaceMedia(t.Context(), mine.WorkspaceID, name)
	require.NoError(t, err)
	assert.Equal(t, "first", kept.Blob)
	_, err = s.WorkspaceMedia(t.Context(), uuid.New(), name)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestOfCampaignTagsTheLatestFiftyValuesAreKept(t *testing.T) {
	s := storetest.New(t)
	member, _ := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	for i := range 60 {
		used := campaign.Tags{Source: fmt.Sprintf("letter-%02d", i), Medium: "email"}
		require.NoError(t, s.RememberCampaign(t.Context(), member.WorkspaceID, used, now.Add(time.Duration(i)*time.Minute)))
	}
	kept, err := s.CampaignValues(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	assert.Len(t, kept["utm_source"], 50)
	assert.Equal(t, "letter-59", kept["utm_source"][0])
	assert.Equal(t, []string{"email"}, kept["utm_medium"])
}

func TestCampaignTagsOfManyRequestsAtOnceAreAllRemembered(t *testing.T) {
	s := storetest.New(t)
	member, _ := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	var all sync.WaitGroup
	for range 40 {
		all.Go(func() {
			used := campaign.Tags{Source: "letter", Medium: "email", Campaign: "spring", Term: "clay", Content: "first"}
			assert.NoError(t, s.RememberCampaign(t.Context(), member.WorkspaceID, used, now))
		})
	}
	all.Wait()
	kept, err := s.CampaignValues(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	assert.Len(t, kept, 5)
}

func TestASecondPressOfPublishMakesNoSecondEdition(t *testing.T) {
	s := storetest.New(t)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	for range 2 {
		published, err := s.Publish(t.Context(), member.WorkspaceID, member.ID, p.ID, store.Publishing{Revision: p.Revision}, now)
		require.NoError(t, err)
		assert.Equal(t, 1, published.LiveEdition)
	}
	live, err := s.LiveEdition(t.Context(), member.WorkspaceID, p.ID)
	require.NoError(t, err)
	assert.Equal(t, p.Address, live.Document.Header.Name, "a page without a name is called after its address")
}
