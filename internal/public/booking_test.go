package public_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/booking"
	"jundle/internal/core/page"
	"jundle/internal/core/payment"
	"jundle/internal/core/webhook"
	"jundle/internal/core/window"
	"jundle/internal/store"
)

// talk offers an hour from ten to one on Tuesdays and Thursdays; the tests begin on a Monday.
func talk(change ...func(*page.Booking)) page.Block {
	times := &page.Booking{
		Title: "A commission talk", Minutes: 60, Ahead: 7, Where: "At the kiln", Thanks: "Bring a drawing.", Hours: &window.Times{
			Zone: "Europe/Lisbon", Weekly: []window.Weekly{{Days: []window.Weekday{"TU", "TH"}, From: "10:00", To: "13:00"}},
		},
	}
	for _, each := range change {
		each(times)
	}
	return page.Block{Key: "talk01", Kind: "booking", Shown: true, Booking: times}
}

const talkPath = "/quarrow-clay/-/1/talk01"

func wish(at string, change ...string) url.Values {
	form := url.Values{"time": {at}, "name": {"Rolf"}, "address": {"rolf@kiln.example"}, "word": {"About a bowl"}, "website": {""}}
	for i := 0; i < len(change); i += 2 {
		form.Set(change[i], change[i+1])
	}
	return form
}

// tuesday is the first time there is: ten o'clock in Lisbon, in summer.
const tuesday = "2026-06-02T09:00Z"

// bookings are those that creators see in a list.
func (s *site) bookings(which store.BookingList) []store.ListedBooking {
	s.t.Helper()
	all, err := s.store.Bookings(s.t.Context(), s.member.WorkspaceID, which, nil, 500, s.now)
	require.NoError(s.t, err)
	return all
}

// asked sends a wish and answers where the visitor sees how it stands.
func (s *site) asked(form url.Values) string {
	s.t.Helper()
	sent := s.send(talkPath, "192.0.2.7", form)
	require.Equal(s.t, http.StatusSeeOther, sent.Code, sent.Body)
	return strings.TrimPrefix(sent.Header().Get("Location"), "https://pages.example")
}

// replies has the creator answer the one that waits.
func (s *site) replies(act booking.Act, reply string) store.Booking {
	s.t.Helper()
	all := append(s.bookings(store.WaitingBookings), s.bookings(store.ComingBookings)...)
	require.Len(s.t, all, 1)
	one, err := s.store.AnswerBooking(s.t.Context(), s.member.WorkspaceID, all[0].ID, store.Answer{Act: act, Reply: reply, At: s.now})
	require.NoError(s.t, err)
	return one
}

// lettersAbout is how many letters about something wait to be sent.
func (s *site) lettersAbout(about store.LetterKind) (waiting int) {
	s.t.Helper()
	require.NoError(s.t, s.store.Pool().QueryRow(s.t.Context(),
		"select count(*) from river_job where kind = 'letter' and args->>'about' = $1", string(about)).Scan(&waiting))
	return waiting
}

func offered(body string) []string {
	var times []string
	for _, found := range regexp.MustCompile(`name="time" value="([^"]+)"`).FindAllStringSubmatch(body, -1) {
		times = append(times, found[1])
	}
	return times
}

func TestAVisitorAsksForATimeAndSeesWhatIsAnswered(t *testing.T) {
	s := open(t)
	s.source("Card", "card")
	s.publish(talk())
	drawn := s.get("/quarrow-clay/card").Body.String()
	assert.Contains(t, drawn, `href="/quarrow-clay/-/1/talk01/card"`)
	assert.Contains(t, drawn, "1 hour · At the kiln")
	form := s.get(talkPath + "/card")
	assert.Equal(t, []string{
		tuesday, "2026-06-02T10:00Z", "2026-06-02T11:00Z", "2026-06-04T09:00Z", "2026-06-04T10:00Z", "2026-06-04T11:00Z",
	}, offered(form.Body.String()))
	assert.Contains(t, form.Body.String(), `<details open><summary>Tuesday, June 2, 2026</summary>`)
	assert.Contains(t, form.Body.String(), "By the clocks of Europe/Lisbon.")
	assert.NotContains(t, form.Header().Get("Content-Security-Policy"), "script-src")

	key := onceIn(t, form)
	sent := s.send(talkPath+"/card", "192.0.2.7", wish(tuesday, "once", key))
	require.Equal(t, http.StatusSeeOther, sent.Code, sent.Body)
	here := strings.TrimPrefix(sent.Header().Get("Location"), "https://pages.example")
	shown := s.get(here)
	for _, says := range []string{
		"Asked for", "10:00", "(Europe/Lisbon)", "The answer comes to rolf@kiln.example", "Call this off", "At the kiln",
	} {
		assert.Contains(t, shown.Body.String(), says)
	}
	assert.NotContains(t, shown.Body.String(), "Bring a drawing.", "that is said once it is agreed to")
	assert.Equal(t, "no-referrer", shown.Header().Get("Referrer-Policy"))
	waiting := s.bookings(store.WaitingBookings)
	require.Len(t, waiting, 1)
	assert.Equal(t, []any{"Rolf", "rolf@kiln.example", "About a bowl", "Card", time.Hour},
		[]any{waiting[0].Name, waiting[0].Address, waiting[0].Word, waiting[0].From, waiting[0].EndsAt.Sub(waiting[0].StartsAt)})
	assert.Equal(t, here, s.asked(wish(tuesday, "once", key)), "sent twice it is one")
	assert.Zero(t, s.lettersAbout(store.BookingAnswered), "nobody is written to by a stranger's doing")

	s.replies(booking.Agree, "The gate on the left.")
	assert.Equal(t, 1, s.lettersAbout(store.BookingAnswered))
	agreed := s.get(here).Body.String()
	for _, says := range []string{"Agreed", "Bring a drawing.", "Quarrow Clay writes: The gate on the left.", "Put into calendar"} {
		assert.Contains(t, agreed, says)
	}
	bySource, err := s.store.BookingsBySource(t.Context(), s.member.WorkspaceID, s.page.ID, now.Add(-time.Hour), now.Add(time.Hour))
	require.NoError(t, err)
	assert.Equal(t, []store.AskedFrom{{Source: waiting[0].Source, Asked: 1, Agreed: 1}}, bySource)
	events := s.events()
	require.Len(t, events, 2, "the view, and the press that opened the form; what is sent is no second one")
	assert.Equal(t, "talk01", events[1].Block)
}

func TestAnAgreedTimeIsReadBackByACalendarLibrary(t *testing.T) {
	s := open(t)
	s.publish(talk())
	here := s.asked(wish(tuesday))
	assert.Equal(t, http.StatusNotFound, s.get(here+"/calendar").Code, "not before it is agreed to")
	s.replies(booking.Agree, "")
	got := s.get(here + "/calendar")
	require.Equal(t, http.StatusOK, got.Code)
	read, err := ical.NewDecoder(got.Body).Decode()
	require.NoError(t, err)
	require.Len(t, read.Events(), 1)
	event := read.Events()[0]
	begins, err := event.DateTimeStart(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, tuesday, begins.UTC().Format("2006-01-02T15:04Z07:00"))
	place, err := event.Props.Text(ical.PropLocation)
	require.NoError(t, err)
	assert.Equal(t, "At the kiln", place)
	s.replies(booking.CallOff, "")
	read, err = ical.NewDecoder(s.get(here + "/calendar").Body).Decode()
	require.NoError(t, err)
	assert.Equal(t, event.Props.Get(ical.PropUID).Value, read.Events()[0].Props.Get(ical.PropUID).Value)
	assert.Equal(t, "CANCELLED", read.Events()[0].Props.Get(ical.PropStatus).Value)
}

func TestAWishThatIsWrongSaysSoAndKeepsWhatWasWritten(t *testing.T) {
	s := open(t)
	s.publish(talk())
	for name, c := range map[string]struct {
		form url.Values
		says string
	}{
		"no time":            {wish(""), "choose a time"},
		"made up":            {wish("soon"), "choose a time"},
		"outside the hours":  {wish("2026-06-02T08:00Z"), "not free any more"},
		"between the times":  {wish("2026-06-02T09:10Z"), "not free any more"},
		"too far ahead":      {wish("2026-06-09T09:00Z"), "not free any more"},
		"over":               {wish("2026-05-28T09:00Z"), "not free any more"},
		"no name":            {wish(tuesday, "name", " \n"), "say your name"},
		"no address":         {wish(tuesday, "address", "rolf at kiln"), "not an e-mail address"},
		"letters for others": {wish(tuesday, "address", "a@b.example\r\nBcc: c@d.example"), "not an e-mail address"},
	} {
		answer := s.send(talkPath, "192.0.2."+fmt.Sprint(len(name)), c.form)
		assert.Equal(t, http.StatusUnprocessableEntity, answer.Code, name)
		assert.Contains(t, answer.Body.String(), c.says, name)
		assert.Contains(t, answer.Body.String(), ">About a bowl</textarea>", name)
	}
	assert.Contains(t, s.send(talkPath, "192.0.2.99", wish(tuesday, "name", "")).Body.String(), `value="`+tuesday+`" checked`)
	assert.Equal(t, http.StatusOK, s.send(talkPath, "192.0.2.7", wish(tuesday, "website", "https://spam.example")).Code)
	assert.Equal(t, http.StatusUnprocessableEntity, s.send(talkPath, "192.0.2.8", wish(tuesday, "word", strings.Repeat("x", 9000))).Code)
	assert.Empty(t, s.bookings(store.WaitingBookings))
	long := s.asked(wish(tuesday, "word", strings.Repeat("語", 290)))
	assert.NotEmpty(t, long)
	assert.Len(t, []rune(s.bookings(store.WaitingBookings)[0].Word), 290, "the longest word there can be arrives in any script")
}

func TestWhatIsAgreedToIsTaken(t *testing.T) {
	s := open(t)
	other := talk(func(b *page.Booking) { b.Minutes = 30 })
	other.Key = "talk02"
	s.publish(talk(), other)
	s.asked(wish(tuesday))
	assert.Contains(t, offered(s.get(talkPath).Body.String()), tuesday, "what is asked for is still free for others")
	second := s.asked(wish("2026-06-02T09:00Z", "address", "marta@kiln.example"))
	waiting := s.bookings(store.WaitingBookings)
	require.Len(t, waiting, 2)
	agree := func(one store.ListedBooking) error {
		_, err := s.store.AnswerBooking(t.Context(), s.member.WorkspaceID, one.ID, store.Answer{Act: booking.Agree, At: s.now})
		return err
	}
	require.NoError(t, agree(waiting[0]))
	assert.ErrorIs(t, agree(waiting[1]), booking.ErrTaken)
	assert.True(t, s.bookings(store.WaitingBookings)[0].Clashes)
	refused := s.send(talkPath, "192.0.2.7", wish(tuesday, "address", "ada@kiln.example"))
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code, "whatever was held a moment ago")
	assert.NotContains(t, offered(refused.Body.String()), tuesday)
	assert.NotContains(t, offered(s.get("/quarrow-clay/-/1/talk02").Body.String()), "2026-06-02T09:30Z", "for all that a page offers")

	// The visitor calls it off, and another can have it.
	first := s.bookings(store.ComingBookings)[0]
	_, err := s.store.AnswerBooking(t.Context(), uuid.UUID{}, first.ID, store.Answer{Act: booking.Withdraw, At: s.now})
	require.NoError(t, err)
	require.NoError(t, agree(waiting[1]))
	assert.Contains(t, s.get(second).Body.String(), "Agreed")
	var told *time.Time
	require.NoError(t, s.store.Pool().QueryRow(t.Context(), "select told_at from bookings where id = $1", first.ID).Scan(&told))
	assert.Nil(t, told, "who waits for somebody is told that they do not come")
}

func TestOfThoseWhoAreAgreedToAtOnceOneIs(t *testing.T) {
	s := open(t)
	s.publish(talk())
	for i := range 5 {
		s.asked(wish(tuesday, "address", fmt.Sprintf("visitor%d@kiln.example", i)))
	}
	var all sync.WaitGroup
	for _, one := range s.bookings(store.WaitingBookings) {
		all.Go(func() {
			_, err := s.store.AnswerBooking(t.Context(), s.member.WorkspaceID, one.ID, store.Answer{Act: booking.Agree, At: s.now})
			if err != nil {
				assert.ErrorIs(t, err, booking.ErrTaken)
			}
		})
	}
	all.Wait()
	assert.Len(t, s.bookings(store.ComingBookings), 1)
	assert.Len(t, s.bookings(store.WaitingBookings), 4)
}

func TestAVisitorCallsATimeOffOnceAsked(t *testing.T) {
	s := open(t)
	s.publish(talk())
	here := s.asked(wish(tuesday))
	s.replies(booking.Agree, "")
	question := s.send(here, "192.0.2.7", url.Values{"do": {"call off"}})
	assert.Contains(t, question.Body.String(), "Really call it off?")
	assert.Len(t, s.bookings(store.ComingBookings), 1, "nothing is called off by one press")
	for range 2 {
		assert.Equal(t, http.StatusSeeOther, s.send(here, "192.0.2.7", url.Values{"do": {"really call off"}}).Code)
	}
	assert.Contains(t, s.get(here).Body.String(), "You called this off")
	require.NoError(t, s.store.TellOfBookings(t.Context(), 10, s.now))
	assert.Equal(t, 1, s.lettersAbout(store.BookingsAsked))

	s.now = s.now.Add(time.Hour)
	late := s.asked(wish("2026-06-04T09:00Z"))
	s.now = time.Date(2026, 6, 4, 9, 0, 0, 0, time.UTC)
	shown := s.get(late).Body.String()
	assert.Contains(t, shown, "Nobody answered before the time came.")
	assert.NotContains(t, shown, "Call this off")
	s.send(late, "192.0.2.7", url.Values{"do": {"really call off"}})
	assert.Len(t, s.bookings(store.OverBookings), 2)
}

func TestNobodySeesWhatIsNotTheirs(t *testing.T) {
	s := open(t)
	s.publish(talk())
	here := s.asked(wish(tuesday))
	for _, forged := range []string{here[:len(here)-2] + "AA", "/-/booking/" + uuid.NewString(), "/-/booking/x", here + "x/calendar"} {
		assert.Equal(t, http.StatusNotFound, s.get(forged).Code, forged)
	}
	id := s.bookings(store.WaitingBookings)[0].ID
	_, err := s.store.AnswerBooking(t.Context(), uuid.New(), id, store.Answer{Act: booking.Agree, At: s.now})
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.store.RemoveBooking(t.Context(), uuid.New(), id), store.ErrNotFound)
	require.NoError(t, s.store.RemoveBooking(t.Context(), s.member.WorkspaceID, id))
	assert.Equal(t, http.StatusNotFound, s.get(here).Code)
}

func TestStrangersCannotAskWithoutEnd(t *testing.T) {
	s := open(t)
	s.publish(talk(func(b *page.Booking) { b.Ahead = 90 }))
	times := offered(s.get(talkPath).Body.String())
	taken := 0
	for i, at := range times[:20] {
		sent := s.send(talkPath, "192.0.2.7", wish(at, "address", fmt.Sprintf("visitor%d@kiln.example", i)))
		if sent.Code == http.StatusSeeOther {
			taken++
			continue
		}
		assert.Equal(t, http.StatusTooManyRequests, sent.Code)
		assert.Contains(t, sent.Body.String(), "Too many people are asking")
	}
	assert.Equal(t, 10, taken, "of one client")
	for i, at := range times[20:30] {
		sent := s.send(talkPath, fmt.Sprintf("192.0.3.%d", i), wish(at))
		assert.Equal(t, i >= 5, sent.Code == http.StatusTooManyRequests, "five wait for one address, however many clients they are")
	}
	for _, one := range s.bookings(store.WaitingBookings) { // a creator who has others written to
		_, err := s.store.AnswerBooking(t.Context(), s.member.WorkspaceID, one.ID, store.Answer{Act: booking.Decline, At: s.now})
		require.NoError(t, err)
	}
	for i, at := range times[:3] {
		sent := s.send(talkPath, fmt.Sprintf("192.0.4.%d", i), wish(at))
		assert.Equal(t, http.StatusTooManyRequests, sent.Code, "ten a day with one address, whoever answers them")
	}
	var all sync.WaitGroup
	for i := range 200 {
		all.Go(func() {
			s.send(talkPath, fmt.Sprintf("198.51.%d.9", i), wish(times[i%20], "address", fmt.Sprintf("crowd%d@kiln.example", i)))
		})
	}
	all.Wait()
	kept := s.bookings(store.WaitingBookings)
	assert.NotEmpty(t, kept)
	assert.LessOrEqual(t, len(kept), 100, "of all on one page")
}

func TestADayWithManyTimesIsShownWhole(t *testing.T) {
	s := open(t)
	s.publish(talk(func(b *page.Booking) {
		b.Minutes, b.Ahead = 5, 90
		b.Hours.Weekly = []window.Weekly{{Days: []window.Weekday{"MO", "TU", "WE", "TH", "FR", "SA", "SU"}, From: "00:00", To: "00:00"}}
	}))
	first := s.get(talkPath).Body.String()
	later := regexp.MustCompile(`href="([^"]+after=[^"]+)"`).FindStringSubmatch(first)
	require.NotNil(t, later)
	second := offered(s.get(talkPath + later[1]).Body.String())
	assert.Len(t, second, 288, "a whole day")
	last := offered(first)[len(offered(first))-1]
	assert.Less(t, last, second[0], "nothing is left out between")
	assert.Empty(t, offered(s.get(talkPath+"?after=2199-01-01").Body.String()))
	assert.Equal(t, offered(first), offered(s.get(talkPath+"?after=now").Body.String()))
}

func TestTimesBehindAGateAreAskedForByWhoCameThrough(t *testing.T) {
	s := open(t)
	gated := talk(func(b *page.Booking) { b.Minutes, b.Ahead = 5, 90 })
	gated.Booking.Hours.Weekly[0].From, gated.Booking.Hours.Weekly[0].To = "00:00", "00:00"
	gated.Gate = &page.Gate{Kind: "notice", Text: "For those who ordered before."}
	s.publish(gated)
	assert.Contains(t, s.get(talkPath).Body.String(), "For those who ordered before.")
	assert.Zero(t, s.bookingsAfter(wish(tuesday), talkPath), "nor is what is sent past it taken")
	through := s.send(talkPath, "192.0.2.7", url.Values{}).Header().Get("Location")
	behindProxy := func(r *http.Request) { r.RemoteAddr = "10.0.0.1:999"; r.Header.Set("X-Forwarded-For", "192.0.2.7") }
	form := s.get(through, behindProxy).Body.String()
	later := regexp.MustCompile(`href="([^"]+after=[^"]+)"`).FindStringSubmatch(form)
	require.NotNil(t, later)
	assert.NotEmpty(t, offered(s.get(talkPath+strings.ReplaceAll(later[1], "&amp;", "&"), behindProxy).Body.String()), "further days too")
	assert.NotContains(t, s.get(talkPath).Body.String(), `name="time"`, "others stand before it still")
	assert.Equal(t, 1, s.bookingsAfter(wish(offered(form)[0]), through))
}

// bookingsAfter is how many times wait once a form was sent.
func (s *site) bookingsAfter(form url.Values, path string) int {
	s.t.Helper()
	s.send(path, "192.0.2.7", form)
	return len(s.bookings(store.WaitingBookings))
}

func TestATimeIsPaidForOnceItIsAgreedTo(t *testing.T) {
	s := withTill(t)
	s.publish(talk(func(b *page.Booking) { b.Price, b.Currency = 2500, "EUR" }))
	sent := s.send("/quarrow-clay/-/2/talk01", "192.0.2.7", wish(tuesday))
	require.Equal(t, http.StatusSeeOther, sent.Code, sent.Body)
	here := strings.TrimPrefix(sent.Header().Get("Location"), "https://pages.example")
	pay := func() *httptest.ResponseRecorder { return s.send(here, "192.0.2.7", url.Values{"do": {"pay"}}) }
	assert.Contains(t, s.get(here).Body.String(), "€25 is to be paid.")
	assert.Equal(t, http.StatusOK, pay().Code, "not before it is agreed to")
	assert.Empty(t, s.asked)
	s.replies(booking.Agree, "")
	shown := s.get(here)
	assert.Contains(t, shown.Body.String(), "<span class=\"words\">Pay</span>")
	assert.Contains(t, shown.Header().Get("Content-Security-Policy"), "https://pay.example")

	var all sync.WaitGroup
	for range 10 {
		all.Go(func() { assert.Equal(t, "https://checkout.pay.example/1", pay().Header().Get("Location")) })
	}
	all.Wait()
	require.Len(t, s.asked, 1, "pressed at once it is one payment")
	for reference, told := range s.asked {
		id := uuid.MustParse(reference)
		assert.Equal(t, 2500.0, told["amount"])
		back := strings.TrimPrefix(told["return_url"].(string), "https://pages.example")
		assert.Contains(t, s.get(back).Body.String(), "on its way")
		assert.Equal(t, http.StatusNoContent, s.says(payment.Paid, id, 2500))
		assert.Contains(t, s.get(back).Body.String(), "€25 has arrived.")
		assert.Equal(t, "", s.kept(id).Word)
	}
	assert.Equal(t, http.StatusOK, pay().Code)
	assert.Len(t, s.asked, 1, "what is paid is not paid again")
	assert.Equal(t, int64(2500), s.bookings(store.ComingBookings)[0].Paid)
}

func TestWhileTheServiceTakesNothingATimeIsNotPaidFor(t *testing.T) {
	s := withTill(t)
	s.publish(talk(func(b *page.Booking) { b.Price, b.Currency = 2500, "EUR" }))
	sent := s.send("/quarrow-clay/-/2/talk01", "192.0.2.7", wish(tuesday))
	here := strings.TrimPrefix(sent.Header().Get("Location"), "https://pages.example")
	s.replies(booking.Agree, "")
	s.answers = func(w http.ResponseWriter) { w.WriteHeader(http.StatusInternalServerError) }
	refused := s.send(here, "192.0.2.7", url.Values{"do": {"pay"}})
	assert.Equal(t, http.StatusServiceUnavailable, refused.Code)
	assert.Contains(t, refused.Body.String(), "Nothing was charged")
	require.NoError(t, s.store.DropPaymentService(t.Context(), s.member.WorkspaceID, now))
	assert.NotContains(t, s.get(here).Body.String(), "<span class=\"words\">Pay</span>")
}

func TestCreatorsAreToldTogetherAndNotMoreThanEveryQuarterOfAnHour(t *testing.T) {
	s := open(t)
	s.publish(talk())
	tell := func() { require.NoError(t, s.store.TellOfBookings(t.Context(), 10, s.now)) }
	tell()
	assert.Zero(t, s.lettersAbout(store.BookingsAsked))
	s.asked(wish(tuesday))
	s.asked(wish("2026-06-02T10:00Z"))
	tell()
	assert.Equal(t, 1, s.lettersAbout(store.BookingsAsked))
	s.now = s.now.Add(14 * time.Minute)
	s.asked(wish("2026-06-02T11:00Z"))
	tell()
	assert.Equal(t, 1, s.lettersAbout(store.BookingsAsked), "not yet")
	s.now = s.now.Add(2 * time.Minute)
	tell()
	tell()
	assert.Equal(t, 2, s.lettersAbout(store.BookingsAsked))
	var first uuid.UUID
	require.NoError(t, s.store.Pool().QueryRow(t.Context(),
		"select (args->>'subject')::uuid from river_job where kind = 'letter' order by id").Scan(&first))
	together, count, err := s.store.ToldTogether(t.Context(), s.member.WorkspaceID, first, 10, s.now)
	require.NoError(t, err)
	assert.Equal(t, int64(2), count)
	assert.Len(t, together, 2)
}

func TestTimesAreForgottenOnceTheyAreLongOver(t *testing.T) {
	s := open(t)
	s.publish(talk())
	s.asked(wish(tuesday))
	s.replies(booking.Agree, "")
	s.asked(wish("2026-06-02T10:00Z"))
	counts := func() int {
		require.NoError(t, s.store.ForgetBookings(t.Context(), s.now))
		return len(s.bookings(store.OverBookings))
	}
	s.now = s.now.AddDate(0, 0, 30)
	assert.Equal(t, 2, counts())
	s.now = s.now.AddDate(0, 0, 2)
	assert.Equal(t, 1, counts(), "what was never agreed to is kept for a month")
	s.now = s.now.AddDate(1, 0, 0)
	assert.Zero(t, counts(), "and anything for a year")
}

// onceIn is the key of a form that was drawn.
func onceIn(t *testing.T, form *httptest.ResponseRecorder) string {
	t.Helper()
	found := regexp.MustCompile(`name="once" value="([A-Z2-7]{26})"`).FindStringSubmatch(form.Body.String())
	require.NotNil(t, found, form.Body)
	return found[1]
}

func TestWhoeverRepeatsARequestOfSomebodyElseSeesNothingOfIt(t *testing.T) {
	s := open(t)
	s.publish(talk())
	key := onceIn(t, s.get(talkPath))
	assert.NotEqual(t, key, onceIn(t, s.get(talkPath)), "each form has a key of its own")
	first := s.asked(wish(tuesday, "once", key))
	for _, guess := range []string{"", "x", onceIn(t, s.get(talkPath)), strings.ToLower(key)} {
		theirs := s.asked(wish(tuesday, "once", guess))
		assert.NotEqual(t, first, theirs, "the link of the first is never given away: %q", guess)
	}
	assert.Len(t, s.bookings(store.WaitingBookings), 5, "those are requests of their own, within the limit of one address")
	again := s.send(talkPath, "192.0.2.7", wish(tuesday))
	assert.Equal(t, http.StatusTooManyRequests, again.Code)
}

func TestAFormThatIsSentTenTimesAtOnceIsOneBooking(t *testing.T) {
	s := open(t)
	s.publish(talk())
	form := wish(tuesday, "once", onceIn(t, s.get(talkPath)))
	var mu sync.Mutex
	var sending sync.WaitGroup
	led := map[string]bool{}
	for range 10 {
		sending.Go(func() {
			sent := s.send(talkPath, "192.0.2.7", form)
			mu.Lock()
			defer mu.Unlock()
			led[sent.Header().Get("Location")] = true
		})
	}
	sending.Wait()
	assert.Len(t, led, 1)
	assert.Len(t, s.bookings(store.WaitingBookings), 1)
}

func TestWhatWasPaidForATimeThatIsCalledOffIsToBeRefunded(t *testing.T) {
	s := withTill(t)
	_, err := s.store.AddWebhook(t.Context(), store.Webhook{
		WorkspaceID: s.member.WorkspaceID, Address: "https://hooks.quarrow.example/", CreatedAt: now, Secret: "whsec_c2VjcmV0",
		Kinds: []webhook.Kind{webhook.PaymentMade, webhook.PaymentRefunded},
	})
	require.NoError(t, err)
	told := func() (bodies []string) {
		rows, err := s.store.Pool().Query(t.Context(), "select body from webhook_deliveries order by kind")
		require.NoError(t, err)
		bodies, err = pgx.CollectRows(rows, pgx.RowTo[string])
		require.NoError(t, err)
		return bodies
	}
	s.publish(talk(func(b *page.Booking) { b.Price, b.Currency = 2500, "EUR" }))
	sent := s.send("/quarrow-clay/-/2/talk01", "192.0.2.7", wish(tuesday))
	here := strings.TrimPrefix(sent.Header().Get("Location"), "https://pages.example")
	s.replies(booking.Agree, "")
	s.send(here, "192.0.2.7", url.Values{"do": {"pay"}})
	var id uuid.UUID
	for reference := range s.asked {
		id = uuid.MustParse(reference)
	}
	for range 2 {
		require.Equal(t, http.StatusNoContent, s.says(payment.Paid, id, 2500))
	}
	assert.Equal(t, 1, s.lettersAbout(store.PaymentMade), "those who run the workspace are told once")
	require.Len(t, told(), 1)
	assert.Contains(t, told()[0], `"type":"payment.made"`)
	assert.Contains(t, told()[0], `"amount":2500`)
	taken := func() (minor int64) {
		all, err := s.store.TakenBySource(t.Context(), s.member.WorkspaceID, s.page.ID, now.AddDate(0, 0, -1), now.AddDate(0, 0, 1))
		require.NoError(t, err)
		for _, each := range all {
			minor += each.Minor
		}
		return minor
	}
	assert.EqualValues(t, 2500, taken())

	s.replies(booking.CallOff, "")
	shown := s.get(here).Body.String()
	assert.Contains(t, shown, "€25 has arrived.")
	assert.Contains(t, shown, "has been told to refund it")
	assert.Zero(t, taken(), "it is no income")
	owed := s.bookings(store.WaitingBookings)
	require.Len(t, owed, 1, "it stands among what is to be done")
	assert.Equal(t, int64(2500), owed[0].Paid)
	assert.Empty(t, s.bookings(store.OverBookings))

	require.Equal(t, http.StatusNoContent, s.says(payment.Refunded, id, 2500))
	assert.Contains(t, s.get(here).Body.String(), "€25 was given back to you.")
	assert.NotContains(t, s.get(here).Body.String(), "has been told to refund it")
	assert.Empty(t, s.bookings(store.WaitingBookings))
	assert.Len(t, s.bookings(store.OverBookings), 1)
	require.Len(t, told(), 2)
	assert.Contains(t, told()[1], `"type":"payment.refunded"`)
	assert.Equal(t, 1, s.lettersAbout(store.PaymentMade))
}
