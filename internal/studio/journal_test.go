package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

// entries are those of the journal that somebody reads: who did what to what, and how often.
func (b *browser) entries() (all [][]any) {
	b.t.Helper()
	got := b.send("GET", "/api/journal", nil)
	require.Equal(b.t, http.StatusOK, got.status, "%v", got.body)
	for _, one := range got.list {
		all = append(all, []any{one["who"], one["did"], one["page"], one["subject"], one["times"]})
	}
	return all
}

func TestTheJournalSaysWhoDidWhat(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	for revision := 1; revision <= 3; revision++ {
		require.Equal(t, http.StatusOK, ilse.send("PUT", at+"/draft", draft(revision, button("film", "The film", "film.example"))).status)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("PUT", at+"/address", fields{"address": "admin"}).status)
	b.now = b.now.Add(time.Second)
	require.Equal(t, http.StatusOK, ilse.send("POST", at+"/publish", fields{"revision": ilse.revision()}).status)
	b.now = b.now.Add(time.Second)
	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/invitations", fields{
		"email": "rolf@quarrow.example", "role": "edits", "whole": true, "pages": []string{},
	}).status)
	b.now = b.now.Add(time.Second)
	rolf := b.browser()
	taken := rolf.send("POST", "/api/taken-invitations", fields{"token": b.token("rolf@quarrow.example"), "password": password})
	require.Equal(t, http.StatusOK, taken.status)
	b.now = b.now.Add(time.Second)
	require.Equal(t, http.StatusOK, rolf.send("GET", at+"/page.json", nil).status)
	want := [][]any{
		{"rolf@quarrow.example", "take-out-page", "Quarrow Clay", nil, 1.0},
		{"rolf@quarrow.example", "take-invitation", nil, nil, 1.0},
		{ilses, "invite-member", nil, "rolf@quarrow.example", 1.0},
		{ilses, "publish", "Quarrow Clay", "1", 1.0},
		{ilses, "save-draft", "Quarrow Clay", nil, 3.0},
	}
	assert.Equal(t, want, ilse.entries(), "what was refused is not there, and what was saved three times is there once")
	assert.Equal(t, want, rolf.entries())

	stranger := b.browser()
	stranger.signUp("elsewhere")
	assert.Empty(t, stranger.entries())
	require.NoError(t, b.store.ForgetJournal(t.Context(), b.now.Add(store.JournalKept-time.Second)))
	assert.Len(t, ilse.entries(), 2, "for a year")
}
