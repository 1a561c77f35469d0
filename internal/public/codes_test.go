package public_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
	"jundle/internal/ownmark"
)

func TestTrackingCodesRunForVisitorsWhoMayBeLookedAt(t *testing.T) {
	s := open(t)
	doc := document([]page.Block{button("dates", "https://kiln.example/dates")})
	doc.Codes = []page.TrackingCode{{
		Key: "stats1", Name: "Kiln statistics", On: true, Code: `<script src="https://stats.example/count.js"></script>`,
		Hosts: []string{"stats.example"}, Where: "head",
	}}
	s.publishDocument(doc)
	runs := func(change ...func(*http.Request)) bool {
		got := s.get("/quarrow-clay", change...)
		assert.Contains(t, got.Header().Get("Vary"), "Sec-GPC")
		inPolicy := strings.Contains(got.Header().Get("Content-Security-Policy"), "stats.example")
		assert.Equal(t, inPolicy, strings.Contains(got.Body.String(), "stats.example"), "page and policy agree")
		return inPolicy
	}
	assert.True(t, runs())
	assert.False(t, runs(func(r *http.Request) { r.Header.Set("Sec-GPC", "1") }))
	own := &http.Cookie{Name: ownmark.Cookie, Value: ownmark.Make([]byte("key"), s.member.WorkspaceID, now.Add(time.Hour))}
	assert.False(t, runs(func(r *http.Request) { r.AddCookie(own) }))
	assert.True(t, runs(), "what was drawn for one is not shown to another")
}
