package public_test

import (
	"net/http"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

func TestAWorkingCopyIsPreviewedAsOfAnyMomentAndFromAnySource(t *testing.T) {
	s := open(t)
	card := s.source("Printed card", "karte")
	sale, only := button("sale", "https://kiln.example/sale"), button("card", "https://kiln.example/card")
	friday := now.AddDate(0, 0, 4)
	sale.When = &window.Times{Zone: "UTC", Spans: []window.Span{{From: friday}}}
	only.To = &page.SourceRule{Rule: "only", Sources: []string{card.ID.String()}}
	only.Button.Plain = true
	saved, err := s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, s.page.Revision,
		document([]page.Block{button("dates", "https://rerouted.example/dates"), sale, only}))
	require.NoError(t, err)
	s.page = saved
	require.NoError(t, s.store.PreviewPage(t.Context(), s.member.WorkspaceID, s.page.ID, "secret", now.Add(time.Hour), now))

	look := func(query string) string {
		t.Helper()
		answer := s.get("/-/preview/secret" + query)
		require.Equal(t, http.StatusOK, answer.Code)
		assert.Equal(t, "no-referrer", answer.Header().Get("Referrer-Policy"))
		assert.Contains(t, answer.Header().Get("X-Robots-Tag"), "noindex")
		return answer.Body.String()
	}
	body := look("")
	assert.Contains(t, body, "Preview, not published: as of Mon 1 Jun 2026 12:00.")
	assert.Contains(t, body, `href="http://127.0.0.1/dates"`, "what is pressed leads straight on")
	assert.NotContains(t, body, "https://kiln.example/sale")
	body = look("?at=" + url.QueryEscape(friday.Format(time.RFC3339)) + "&from=" + card.ID.String())
	assert.Contains(t, body, "as of Fri 5 Jun 2026 12:00, from Printed card.")
	assert.Contains(t, body, "https://kiln.example/sale")
	assert.Contains(t, body, "https://kiln.example/card")
	assert.NotContains(t, body, "<script", "nothing is counted")
	s.begin(page.Takeover{PassThrough: &page.PassThrough{Address: "https://kiln.example/film"}, From: friday})
	assert.Contains(t, look("?at="+friday.Format(time.RFC3339)), "leads straight on then")
	assert.Contains(t, look(""), "http://127.0.0.1/dates")
	assert.Equal(t, http.StatusBadRequest, s.get("/-/preview/secret?at=soon").Code)

	assert.Equal(t, http.StatusNotFound, s.get("/-/preview/guess").Code)
	s.now = now.Add(time.Hour)
	assert.Equal(t, http.StatusNotFound, s.get("/-/preview/secret").Code, "its time is over")
	s.now = now
	require.NoError(t, s.store.ClosePreviews(t.Context(), s.member.WorkspaceID, s.page.ID))
	assert.Equal(t, http.StatusNotFound, s.get("/-/preview/secret").Code, "closed")
	assert.Empty(t, s.events(), "looking is no visit")
}
