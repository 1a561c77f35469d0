package public_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
)

// at lets a request come from a client.
func at(client string) func(*http.Request) {
	return func(r *http.Request) { r.RemoteAddr = client + ":4000" }
}

// post sends the form of a gate.
func (s *site) post(path, passcode string, change ...func(*http.Request)) *httptest.ResponseRecorder {
	request := httptest.NewRequest(http.MethodPost, path, strings.NewReader(url.Values{"passcode": {passcode}, "on": {"1"}}.Encode()))
	request.Header.Set("User-Agent", phone)
	request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	for _, each := range change {
		each(request)
	}
	return s.serve(request)
}

// passcode sets one for the workspace.
func (s *site) passcode(text string) string {
	s.t.Helper()
	id, err := s.pages().SetPasscode(s.t.Context(), s.member.WorkspaceID, text)
	require.NoError(s.t, err)
	return id.String()
}

func gated(gate page.Gate) page.Document {
	doc := document([]page.Block{button("dates", "https://kiln.example/dates")})
	doc.Gate = &gate
	return doc
}

func TestANoticeIsReadBeforeThePageAndNotAgainForAWhile(t *testing.T) {
	s := open(t)
	s.publishDocument(gated(page.Gate{Kind: "notice", Text: "For those of age.\nGlazes are <not> food."}))
	stands := s.get("/quarrow-clay?utm_source=card")
	assert.Equal(t, http.StatusOK, stands.Code)
	assert.Contains(t, stands.Body.String(), "For those of age.")
	assert.Contains(t, stands.Body.String(), "&lt;not&gt;")
	assert.NotContains(t, stands.Body.String(), "dates")
	assert.Equal(t, "no-store", stands.Header().Get("Cache-Control"))
	assert.NotContains(t, stands.Header().Get("Content-Security-Policy"), "form-action")
	assert.Empty(t, stands.Header().Get("Set-Cookie"))

	on := s.post("/quarrow-clay?utm_source=card", "")
	require.Equal(t, http.StatusSeeOther, on.Code)
	through := on.Header().Get("Location")
	assert.Contains(t, through, "utm_source=card", "where the visit came from stays known")
	assert.Equal(t, "dates", s.shows(through))
	assert.Contains(t, s.get(through, at("198.51.100.7")).Body.String(), "For those of age", "the mark is good for its visitor alone")
	s.now = s.now.Add(29 * time.Minute)
	assert.Equal(t, "dates", s.shows(through))
	s.now = s.now.Add(time.Minute)
	assert.Contains(t, s.get(through).Body.String(), "For those of age", "and for a while")

	events := s.events()
	require.Len(t, events, 2, "who stands at the gate has not seen the page")
	assert.Equal(t, traffic.View, events[0].Kind)
}

func TestAPasscodeOpensAPageToWhoKnowsIt(t *testing.T) {
	s := open(t)
	s.publishDocument(gated(page.Gate{Kind: "passcode", PasscodeID: s.passcode(" celadon ")}))
	assert.Contains(t, s.get("/quarrow-clay").Body.String(), `type="password"`)
	wrong := s.post("/quarrow-clay", "tenmoku")
	assert.Equal(t, http.StatusForbidden, wrong.Code)
	assert.Contains(t, wrong.Body.String(), "That is not the passcode.")
	on := s.post("/quarrow-clay/card", "celadon")
	require.Equal(t, http.StatusSeeOther, on.Code)
	through := on.Header().Get("Location")
	assert.True(t, strings.HasPrefix(through, "/quarrow-clay/card?open="), through)
	assert.Equal(t, "dates", s.shows(through))
	for _, forged := range []string{"", "x", strings.Repeat("A", 54), through[strings.Index(through, "=")+1:][:40]} {
		assert.Contains(t, s.get("/quarrow-clay?open="+forged).Body.String(), "passcode", forged)
	}

	s.publishDocument(gated(page.Gate{Kind: "passcode", PasscodeID: s.passcode("tenmoku")}))
	assert.Contains(t, s.get(through).Body.String(), "passcode", "another passcode shuts it again")
	s.publishDocument(gated(page.Gate{Kind: "passcode"}))
	assert.Equal(t, http.StatusForbidden, s.post("/quarrow-clay", "").Code, "nobody gets through one that was never set")
	s.publishDocument(document([]page.Block{button("dates", "https://kiln.example/dates")}))
	assert.Equal(t, http.StatusSeeOther, s.post("/quarrow-clay", "x").Code, "a form that is late leads to the page")
}

func TestPasscodesCanBeTriedAFewTimesOnly(t *testing.T) {
	s := open(t)
	s.publishDocument(gated(page.Gate{Kind: "passcode", PasscodeID: s.passcode("celadon")}))
	for range 8 {
		require.Equal(t, http.StatusForbidden, s.post("/quarrow-clay", "guess", at("198.51.100.7")).Code)
	}
	held := s.post("/quarrow-clay", "celadon", at("198.51.100.7"))
	assert.Equal(t, http.StatusTooManyRequests, held.Code)
	assert.Contains(t, held.Body.String(), "Wait a minute")
	assert.Equal(t, http.StatusSeeOther, s.post("/quarrow-clay", "celadon", at("198.51.100.8")).Code, "others are not held by it")
	s.now = s.now.Add(time.Minute)
	assert.Equal(t, http.StatusSeeOther, s.post("/quarrow-clay", "celadon", at("198.51.100.7")).Code)
}

func TestABlockAsksBeforeItLeads(t *testing.T) {
	s := open(t)
	plain := button("sale", "https://kiln.example/sale")
	plain.Button.Plain, plain.Button.Title = true, "Sale"
	plain.Gate = &page.Gate{Kind: "passcode", PasscodeID: s.passcode("celadon"), Text: "For friends."}
	s.publish(button("dates", "https://kiln.example/dates"), plain)
	assert.NotContains(t, s.get("/quarrow-clay").Body.String(), "kiln.example/sale", "its address cannot be read")
	assert.Equal(t, http.StatusFound, s.get("/quarrow-clay/-/1/dates").Code)
	stands := s.get("/quarrow-clay/-/1/sale/card")
	assert.Equal(t, http.StatusOK, stands.Code)
	assert.Contains(t, stands.Body.String(), "For friends.")
	assert.Equal(t, http.StatusForbidden, s.post("/quarrow-clay/-/1/sale/card", "x").Code)
	assert.Equal(t, http.StatusNotFound, s.post("/quarrow-clay/-/1/dates", "x").Code, "nothing is asked there")
	on := s.post("/quarrow-clay/-/1/sale/card", "celadon")
	require.Equal(t, http.StatusSeeOther, on.Code)
	leads := s.get(on.Header().Get("Location"))
	assert.Equal(t, http.StatusFound, leads.Code)
	assert.Equal(t, "https://kiln.example/sale", leads.Header().Get("Location"))
	clicks := 0
	for _, event := range s.events() {
		if event.Kind == traffic.Click && event.Block == "sale" {
			clicks++
		}
	}
	assert.Equal(t, 1, clicks, "counted once it leads")
}

func TestAPasscodeIsTypedInAnyCaseAndGuestsAreNotLockedOutByOthers(t *testing.T) {
	s := open(t)
	s.publishDocument(gated(page.Gate{Kind: "passcode", PasscodeID: s.passcode("Ash Glaze")}))
	for _, typed := range []string{"ash glaze", " ASH GLAZE "} {
		assert.Equal(t, http.StatusSeeOther, s.post("/quarrow-clay", typed, at("192.0.2.1")).Code, typed)
	}
	for i := range 80 {
		s.post("/quarrow-clay", "a guess", at(fmt.Sprintf("198.51.100.%d", i)))
	}
	assert.Equal(t, http.StatusTooManyRequests, s.post("/quarrow-clay", "ash glaze", at("198.51.100.99")).Code, "strangers wait")
	assert.Equal(t, http.StatusSeeOther, s.post("/quarrow-clay", "ash glaze", at("192.0.2.1")).Code, "who came through before does not")
}

func TestWhatAPasscodeProtectsIsNotToBeReadOnThePage(t *testing.T) {
	s := open(t)
	behind := &page.Gate{Kind: "passcode", PasscodeID: s.passcode("ash glaze")}
	s.publish(page.Block{Key: "call01", Kind: "contact", Shown: true, Gate: behind, Contact: &page.Contact{
		Way: "call", Number: "+351210000001", Title: "Call the studio",
	}})
	body := s.get("/quarrow-clay").Body.String()
	assert.Contains(t, body, "Call the studio")
	assert.NotContains(t, body, "0000 001")
	assert.NotContains(t, body, "210000001")
}
