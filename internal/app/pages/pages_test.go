package pages_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/pages"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func TestASoloCanBeEndedHoweverOftenThePageWasPublished(t *testing.T) {
	now := time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	quotas := store.DefaultQuotas
	quotas.EditionsPerDay = 2
	s := storetest.With(t, store.Options{Quotas: quotas})
	member, err := s.CreateAccount(
		t.Context(),
		store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"},
		now,
	)
	require.NoError(t, err)
	all, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	u := pages.Pages{Store: s, Now: func() time.Time { return now }}
	doc := page.New()
	doc.Blocks = []page.Block{{
		Key: "sale", Kind: "button", Shown: true, Button: &page.Button{Title: "Seconds sale", Address: "https://kiln.example/"},
	}}
	saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, all[0].ID, all[0].Revision, doc)
	require.NoError(t, err)
	_, err = u.Publish(t.Context(), member, saved.ID, store.Publishing{Revision: saved.Revision})
	require.NoError(t, err)
	begun, err := u.Begin(t.Context(), member, saved.ID, page.Takeover{Solo: "sale"})
	require.NoError(t, err)
	_, err = u.Begin(t.Context(), member, saved.ID, page.Takeover{Solo: "sale"})
	var full *store.QuotaError
	require.ErrorAs(t, err, &full)
	ended, err := u.End(t.Context(), member, saved.ID, begun.Takeovers[0].ID)
	require.NoError(t, err)
	assert.Empty(t, ended.Takeovers)
	assert.Equal(t, 3, ended.LiveEdition)
}

func TestAPageIsAddedSavedPublishedAndGivenAnotherAddress(t *testing.T) {
	now := time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	s := storetest.New(t)
	member, err := s.CreateAccount(
		t.Context(),
		store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"},
		now,
	)
	require.NoError(t, err)
	u := pages.Pages{Store: s, Now: func() time.Time { return now }}
	field := func(err error) string {
		var wrong *invalid.Error
		require.ErrorAs(t, err, &wrong)
		return wrong.Problems[0].Where
	}

	_, err = u.Add(t.Context(), member.WorkspaceID, "no good!")
	assert.Equal(t, "pageAddress", field(err))
	added, err := u.Add(t.Context(), member.WorkspaceID, "Quarrow-Workshops")
	require.NoError(t, err)
	assert.Equal(t, "quarrow-workshops", added.Address)

	document := page.New()
	document.Header.Name = "  Quarrow Workshops "
	document.Header.Picture = &picture.Picture{Media: strings.Repeat("0", 64) + ".png", Width: 10, Height: 10}
	save := func() (store.Page, error) {
		return u.Save(t.Context(), member, added.ID, pages.Saving{Revision: added.Revision, Document: document, As: "a save"})
	}
	_, err = save()
	assert.Equal(t, "header/picture", field(err), "a picture that is nobody's")
	document.Header.Picture = nil
	saved, err := save()
	require.NoError(t, err)
	assert.Equal(t, "Quarrow Workshops", saved.Draft.Header.Name)
	again, err := save()
	require.ErrorIs(t, err, store.ErrStale)
	assert.Equal(t, "a save", again.SavedAs)

	published, err := u.Publish(t.Context(), member, added.ID, store.Publishing{Revision: saved.Revision})
	require.NoError(t, err)
	assert.Equal(t, 1, published.LiveEdition)
	moved, err := u.Readdress(t.Context(), member.WorkspaceID, added.ID, "workshops")
	require.NoError(t, err)
	assert.Equal(t, "workshops", moved.Address)
}
