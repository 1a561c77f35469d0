package public_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/store"
)

func signUp(consent string) page.Block {
	return page.Block{Key: "letter01", Kind: "signup", Shown: true, SignUp: &page.SignUp{
		Title: "The studio letter", Consent: consent, Thanks: "See you in spring.",
	}}
}

// send sends a form as a browser does, from a client behind the proxy.
func (s *site) send(path, client string, form url.Values) *httptest.ResponseRecorder {
	request := httptest.NewRequest(http.MethodPost, path, strings.NewReader(form.Encode()))
	request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	request.Header.Set("User-Agent", phone)
	request.RemoteAddr = "10.0.0.1:999"
	request.Header.Set("X-Forwarded-For", client)
	return s.serve(request)
}

func left(address string) url.Values {
	return url.Values{"address": {address}, "agree": {"1"}, "website": {""}}
}

func (s *site) signUps() []store.ListedSignUp {
	s.t.Helper()
	all, err := s.store.SignUps(s.t.Context(), s.member.WorkspaceID, store.SignUpFilter{}, nil, 500)
	require.NoError(s.t, err)
	return all
}

// letters is how many letters to confirm an address wait to be sent.
func (s *site) letters() (waiting int) {
	s.t.Helper()
	require.NoError(s.t, s.store.Pool().QueryRow(s.t.Context(),
		"select count(*) from river_job where kind = 'letter' and args->>'about' = 'confirm sign-up'").Scan(&waiting))
	return waiting
}

func TestAnAddressIsLeftOnAPageAndConfirmedByALetter(t *testing.T) {
	s := open(t)
	s.source("Card", "card")
	s.publish(signUp("Quarrow Clay may write to me."))
	drawn := s.get("/quarrow-clay/card")
	assert.Contains(t, drawn.Body.String(), `method="post" action="/quarrow-clay/-/1/letter01/card"`)
	assert.Contains(t, drawn.Header().Get("Content-Security-Policy"), "form-action 'self'")
	assert.NotContains(t, drawn.Header().Get("Content-Security-Policy"), "script-src")

	sent := s.send("/quarrow-clay/-/1/letter01/card", "192.0.2.7", left("Rolf@kiln.example"))
	require.Equal(t, http.StatusSeeOther, sent.Code, sent.Body)
	assert.Contains(t, s.get(sent.Header().Get("Location")).Body.String(), "Look in your mailbox")
	all := s.signUps()
	require.Len(t, all, 1)
	assert.Equal(t, []any{"Rolf@kiln.example", "Card", "Quarrow Clay may write to me.", "The studio letter", (*time.Time)(nil)},
		[]any{all[0].Address, all[0].From, all[0].Consent, all[0].BlockTitle, all[0].ConfirmedAt})
	assert.Equal(t, 1, s.letters())

	link := mailing.SignUpPath + mailing.SignUpToken([]byte("letter key"), all[0].ID)
	opened := s.get(link)
	assert.Contains(t, opened.Body.String(), "Is this your address?")
	assert.Nil(t, s.signUps()[0].ConfirmedAt, "a mail program that opens the link confirms nothing")
	assert.Equal(t, "no-referrer", opened.Header().Get("Referrer-Policy"))
	assert.Contains(t, s.send(link, "192.0.2.7", url.Values{"do": {"confirm"}}).Body.String(), "See you in spring.")
	require.NotNil(t, s.signUps()[0].ConfirmedAt)
	counts, err := s.store.SignUpsBySource(t.Context(), s.member.WorkspaceID, s.page.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	assert.Equal(t, map[string]int{all[0].Source: 1}, counts)

	assert.Contains(t, s.send(link, "192.0.2.7", url.Values{"do": {"remove"}}).Body.String(), "Your address was taken off")
	assert.Empty(t, s.signUps())
	assert.Equal(t, http.StatusNotFound, s.get(link).Code)
	events := s.events()
	require.Len(t, events, 2, "the view, and the press for the form that was sent")
	assert.Equal(t, "letter01", events[1].Block)
}

func TestAFormThatIsWrongSaysSoAndKeepsWhatWasFilledIn(t *testing.T) {
	s := open(t)
	s.publish(signUp("I agree."))
	const path = "/quarrow-clay/-/1/letter01"
	for name, c := range map[string]struct {
		form url.Values
		says string
	}{
		"no address": {url.Values{"address": {"rolf at kiln"}, "agree": {"1"}}, "not an e-mail address"},
		"no consent": {url.Values{"address": {"rolf@kiln.example"}}, "tick the box"},
	} {
		answer := s.send(path, "192.0.2.7", c.form)
		assert.Equal(t, http.StatusUnprocessableEntity, answer.Code, name)
		assert.Contains(t, answer.Body.String(), c.says, name)
		assert.Contains(t, answer.Body.String(), `value="`+c.form.Get("address")+`"`, name)
	}
	assert.Contains(t, s.get(path).Body.String(), `type="email"`, "whoever opens the address of the form finds it")
	trap := left("program@kiln.example")
	trap.Set("website", "https://spam.example")
	assert.Equal(t, http.StatusSeeOther, s.send(path, "192.0.2.7", trap).Code, "a program is told nothing")
	large := left(strings.Repeat("x", 9000) + "@kiln.example")
	assert.Equal(t, http.StatusUnprocessableEntity, s.send(path, "192.0.2.7", large).Code)
	assert.Empty(t, s.signUps())
	assert.Zero(t, s.letters())
}

func TestTwoHundredAtOnceWithHalfOfThemRepeatedAreThereOnceEach(t *testing.T) {
	s := open(t)
	s.publish(signUp(""))
	var group sync.WaitGroup
	statuses := make([]int, 200)
	for i := range statuses {
		group.Go(func() {
			statuses[i] = s.send("/quarrow-clay/-/1/letter01", fmt.Sprintf("192.0.2.%d", i), left(fmt.Sprintf("reader%d@kiln.example", i%100))).Code
		})
	}
	group.Wait()
	for i, status := range statuses {
		assert.Equal(t, http.StatusSeeOther, status, i)
	}
	assert.Len(t, s.signUps(), 100)
	assert.Equal(t, 100, s.letters(), "one letter each")
}

func TestWhoSignsUpAgainIsWrittenToAgainAFewTimes(t *testing.T) {
	s := open(t)
	s.publish(signUp(""))
	for range 10 {
		assert.Equal(t, http.StatusSeeOther, s.send("/quarrow-clay/-/1/letter01", "192.0.2.7", left("ROLF@kiln.example")).Code)
		s.now = s.now.Add(11 * time.Minute)
	}
	assert.Equal(t, 5, s.letters())
	one := s.signUps()[0]
	token := mailing.SignUpPath + mailing.SignUpToken([]byte("letter key"), one.ID)
	s.now = s.now.Add(store.ConfirmWithin)
	assert.Equal(t, http.StatusNotFound, s.send(token, "192.0.2.7", url.Values{"do": {"confirm"}}).Code,
		"a link that is over confirms nothing")
	require.NoError(t, s.store.ForgetSignUps(t.Context(), s.now.Add(7*24*time.Hour)))
	assert.Empty(t, s.signUps(), "what nobody confirms is erased by itself")
}

func TestOneClientSignsUpThirtyTimesAndTheOthersAreNotKeptBack(t *testing.T) {
	s := open(t)
	s.publish(signUp(""))
	send := func(client string, i int) *httptest.ResponseRecorder {
		return s.send("/quarrow-clay/-/1/letter01", client, left(fmt.Sprintf("reader%d@kiln.example", i)))
	}
	for i := range 30 {
		require.Equal(t, http.StatusSeeOther, send("192.0.2.7", i).Code)
	}
	refused := send("192.0.2.7", 30)
	assert.Equal(t, http.StatusTooManyRequests, refused.Code)
	assert.Contains(t, refused.Body.String(), "Nothing was kept")
	assert.Equal(t, http.StatusSeeOther, send("192.0.2.8", 30).Code)
	assert.Len(t, s.signUps(), 31)
}

func TestLinksOfLettersThatWeDidNotWriteOpenNothing(t *testing.T) {
	s := open(t)
	s.publish(signUp(""))
	require.Equal(t, http.StatusSeeOther, s.send("/quarrow-clay/-/1/letter01", "192.0.2.7", left("rolf@kiln.example")).Code)
	one := s.signUps()[0]
	for _, token := range []string{
		"x", mailing.SignUpToken([]byte("another key"), one.ID), mailing.OffToken([]byte("letter key"), one.WorkspaceID, one.ID),
		mailing.SignUpToken([]byte("letter key"), uuid.New()), strings.Repeat("A", 5000),
	} {
		assert.Equal(t, http.StatusNotFound, s.send(mailing.SignUpPath+token, "192.0.2.7", url.Values{"do": {"confirm"}}).Code)
	}
	assert.Nil(t, s.signUps()[0].ConfirmedAt)
}

func TestDatesAreHandedOutForCalendarsAndCopiedCodesAreTold(t *testing.T) {
	s := open(t)
	doc := pagetest.Everything()
	doc.Blocks = doc.Blocks[12:] // those of dates, and after
	s.publishDocument(document(doc.Blocks))
	file := s.get("/quarrow-clay/-/1/dates.calendar")
	assert.Equal(t, "text/calendar; charset=utf-8", file.Header().Get("Content-Type"))
	read, err := ical.NewDecoder(file.Body).Decode()
	require.NoError(t, err)
	assert.Len(t, read.Events(), 2)
	assert.Equal(t, "https://quarrow.example/tickets", s.get("/quarrow-clay/-/1/dates.winter").Header().Get("Location"))
	assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/1/code.copied").Code, "nothing leads there")
	assert.Equal(t, http.StatusNoContent, s.send("/quarrow-clay/-/1/code.copied", "192.0.2.7", nil).Code)
	assert.Equal(t, http.StatusNotFound, s.send("/quarrow-clay/-/1/code", "192.0.2.7", nil).Code,
		"and nothing is told of what leads somewhere")
	drawn := s.get("/quarrow-clay")
	assert.Contains(t, drawn.Header().Get("Content-Security-Policy"), "script-src 'sha256-")
	assert.Contains(t, drawn.Header().Get("Content-Security-Policy"), "connect-src 'self'")
	items := map[string]int{}
	for _, event := range s.events() {
		items[event.Block+"."+event.Item]++
	}
	assert.Equal(t, map[string]int{"dates.calendar": 1, "dates.winter": 1, "code.copied": 1, ".": 1}, items)
}
