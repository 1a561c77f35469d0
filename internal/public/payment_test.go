package public_test

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	standardwebhooks "github.com/standard-webhooks/standard-webhooks/libraries/go"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/payments"
	"jundle/internal/core/page"
	"jundle/internal/core/payment"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

const tillSecret = "whsec_cXVhcnJvdyBjbGF5IHRpbGwgb2YgdGhlIHRlc3RzISE="

// till is a payment service as the tests need it.
type till struct {
	*site
	service store.PaymentService
	mu      sync.Mutex
	// asked are the payments that it was told of, by their IDs; answers is what it answers.
	asked   map[string]map[string]any
	answers func(w http.ResponseWriter)
}

// withTill connects a payment service, and publishes a tip.
func withTill(t *testing.T) *till {
	t.Helper()
	s := &till{site: open(t), asked: map[string]map[string]any{}}
	s.answers = func(w http.ResponseWriter) {
		w.WriteHeader(http.StatusCreated)
		_, _ = w.Write([]byte(`{"id":"checkout-1","url":"https://checkout.pay.example/1"}`))
	}
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		s.mu.Lock()
		defer s.mu.Unlock()
		var told map[string]any
		assert.NoError(t, json.NewDecoder(r.Body).Decode(&told))
		assert.Equal(t, "Bearer till-1", r.Header.Get("Authorization"))
		assert.Equal(t, told["reference"], r.Header.Get("Idempotency-Key"))
		s.asked[r.Header.Get("Idempotency-Key")] = told
		s.answers(w)
	}))
	t.Cleanup(server.Close)
	located, err := url.Parse(server.URL)
	require.NoError(t, err)
	s.server.Payments = payments.Payments{
		Store: s.store, PublicOrigin: "https://pages.example", Now: func() time.Time { return s.now },
		Outbound: outbound.New(outbound.Options{Reroute: func(address *url.URL) *url.URL {
			there := *located
			there.Path = address.Path
			return &there
		}}),
	}
	s.service, err = s.store.SetPaymentService(t.Context(), store.PaymentService{
		WorkspaceID: s.member.WorkspaceID, Address: "https://pay.example/v1", Token: "till-1", Secret: tillSecret, CreatedAt: now,
	})
	require.NoError(t, err)
	s.publish(page.Block{Key: "tip1", Kind: "payment", Shown: true, Payment: &page.Payment{
		Title: "A tip", Currency: "EUR", Amounts: []int64{300, 500}, Own: true, Word: true, Thanks: "The kiln thanks you.",
	}})
	return s
}

// pay sends the form of the tip.
func (s *till) pay(form url.Values, change ...func(*http.Request)) *httptest.ResponseRecorder {
	s.t.Helper()
	request := httptest.NewRequest(http.MethodPost, "/quarrow-clay/-/1/tip1", strings.NewReader(form.Encode()))
	request.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	request.Header.Set("User-Agent", phone)
	for _, each := range change {
		each(request)
	}
	return s.serve(request)
}

// begin begins a payment and answers its ID, and where its visitor comes back to.
func (s *till) begin() (id uuid.UUID, back string) {
	s.t.Helper()
	return s.beginAt("/quarrow-clay/-/1/tip1")
}

// beginAt begins one where its form is.
func (s *till) beginAt(path string) (id uuid.UUID, back string) {
	s.t.Helper()
	require.Equal(s.t, http.StatusSeeOther, s.send(path, "192.0.2.7", url.Values{"amount": {"500"}}).Code)
	s.mu.Lock()
	defer s.mu.Unlock()
	for reference, told := range s.asked {
		id, back = uuid.MustParse(reference), told["return_url"].(string)
	}
	return id, strings.TrimPrefix(back, "https://pages.example")
}

// notice is what the service says of a payment, signed with a secret at a time.
func (s *till) notice(secret string, at time.Time, happened payment.Happened, id uuid.UUID, minor int64) *http.Request {
	s.t.Helper()
	body, err := json.Marshal(map[string]any{
		"type": happened, "timestamp": now.Add(time.Minute), "data": map[string]any{"reference": id, "amount": minor, "currency": "EUR"},
	})
	require.NoError(s.t, err)
	signer, err := standardwebhooks.NewWebhook(secret)
	require.NoError(s.t, err)
	signature, err := signer.Sign("msg_1", at, body)
	require.NoError(s.t, err)
	request := httptest.NewRequest(http.MethodPost, payments.NoticePath+s.service.ID.String(), bytes.NewReader(body))
	request.Header.Set("webhook-id", "msg_1")
	request.Header.Set("webhook-timestamp", strconv.FormatInt(at.Unix(), 10))
	request.Header.Set("webhook-signature", signature)
	return request
}

// says has the service say it, and answers with which status it was taken.
func (s *till) says(happened payment.Happened, id uuid.UUID, minor int64) int {
	return s.serve(s.notice(tillSecret, time.Now(), happened, id, minor)).Code
}

func (s *till) kept(id uuid.UUID) store.Payment {
	s.t.Helper()
	one, err := s.store.Payment(s.t.Context(), id)
	require.NoError(s.t, err)
	return one
}

func TestAVisitorPaysOnThePageOfTheServiceAndComesBack(t *testing.T) {
	s := withTill(t)
	// Source: CSP 3 s6.4.2, by which browsers hold redirects of a form against the policy, too.
	assert.Contains(t, s.get("/quarrow-clay").Header().Get("Content-Security-Policy"),
		"form-action 'self' https://pay.example https://*.pay.example")
	paid := s.pay(url.Values{"amount": {"500"}, "own": {"7,50"}, "word": {"For the kiln\x00\n"}})
	assert.Equal(t, http.StatusSeeOther, paid.Code)
	assert.Equal(t, "https://checkout.pay.example/1", paid.Header().Get("Location"))
	require.Len(t, s.asked, 1)
	for reference, told := range s.asked {
		assert.Equal(t, 750.0, told["amount"], "in cents, and what was typed")
		assert.Equal(t, "EUR", told["currency"])
		assert.Equal(t, "https://pages.example"+payments.NoticePath+s.service.ID.String(), told["notice_url"])
		id := uuid.MustParse(reference)
		back := strings.TrimPrefix(told["return_url"].(string), "https://pages.example")
		assert.Contains(t, s.get(back).Body.String(), "on its way", "nobody has said yet")
		assert.Equal(t, http.StatusNoContent, s.says(payment.Paid, id, 750))
		assert.Contains(t, s.get(back).Body.String(), "The kiln thanks you.")
		assert.Equal(t, "For the kiln", s.kept(id).Word)
		assert.Equal(t, "checkout-1", s.kept(id).Checkout)
		assert.Equal(t, http.StatusNotFound, s.get(back[:len(back)-4]+"AAAA").Code)
	}
	assert.Len(t, s.events(), 2, "a view and a press of the block")
}

func TestNoticesAreTakenOnceWhateverTheirOrder(t *testing.T) {
	s := withTill(t)
	id, back := s.begin()
	for range 2 {
		require.Equal(t, http.StatusNoContent, s.says(payment.Refunded, id, 200), "of a payment of which nobody has said that it was paid")
	}
	assert.Contains(t, s.get(back).Body.String(), "on its way")
	for range 2 {
		require.Equal(t, http.StatusNoContent, s.says(payment.Paid, id, 500))
		require.Equal(t, http.StatusNoContent, s.says(payment.Failed, id, 500))
	}
	assert.Equal(t, int64(300), s.kept(id).Record().Kept())
	assert.Contains(t, s.get(back).Body.String(), "€2 was given back to you.")
}

func TestTwoHundredNoticesAtOnceAreOne(t *testing.T) {
	s := withTill(t)
	id, _ := s.begin()
	var all sync.WaitGroup
	for i := range 200 {
		all.Go(func() {
			happened, minor := payment.Paid, int64(500)
			if i%2 == 1 {
				happened, minor = payment.Refunded, int64(1+i%5*100)
			}
			assert.Equal(t, http.StatusNoContent, s.says(happened, id, minor))
		})
	}
	all.Wait()
	assert.Equal(t, int64(99), s.kept(id).Record().Kept(), "500 less the most that was given back")
}

func TestAForgedNoticeIsTurnedAway(t *testing.T) {
	s := withTill(t)
	id, _ := s.begin()
	other := "whsec_" + strings.Repeat("QUFB", 10)
	for name, request := range map[string]*http.Request{
		"signed with another secret": s.notice(other, time.Now(), payment.Paid, id, 500),
		"an old one, sent again":     s.notice(tillSecret, time.Now().Add(-time.Hour), payment.Paid, id, 500),
		"of tomorrow":                s.notice(tillSecret, time.Now().Add(time.Hour), payment.Paid, id, 500),
	} {
		assert.Equal(t, http.StatusUnauthorized, s.serve(request).Code, name)
	}
	changed := s.notice(tillSecret, time.Now(), payment.Paid, id, 500)
	changed.Body = http.NoBody
	assert.Equal(t, http.StatusUnauthorized, s.serve(changed).Code)
	unsigned := s.notice(tillSecret, time.Now(), payment.Paid, id, 500)
	unsigned.Header.Del("webhook-signature")
	assert.Equal(t, http.StatusUnauthorized, s.serve(unsigned).Code)
	nobody := s.notice(tillSecret, time.Now(), payment.Paid, id, 500)
	nobody.URL.Path = payments.NoticePath + uuid.NewString()
	assert.Equal(t, http.StatusNotFound, s.serve(nobody).Code)
	large := httptest.NewRequest(http.MethodPost, payments.NoticePath+s.service.ID.String(), strings.NewReader(strings.Repeat("x", 1<<20)))
	assert.Equal(t, http.StatusRequestEntityTooLarge, s.serve(large).Code)
	assert.Equal(t, payment.Begun, s.kept(id).Record().State(), "and nothing changed")
	assert.Equal(t, http.StatusUnprocessableEntity, s.says(payment.Paid, id, 5), "nor by a notice of other money")
	assert.Equal(t, payment.Begun, s.kept(id).Record().State())
}

func TestALateNoticeIsTakenThoughTheBlockIsGone(t *testing.T) {
	s := withTill(t)
	id, back := s.begin()
	s.publish(button("dates", "https://kiln.example/dates"))
	s.now = s.now.AddDate(0, 0, 30)
	require.NoError(t, s.store.ForgetPayments(t.Context(), s.now))
	require.Equal(t, http.StatusNoContent, s.says(payment.Paid, id, 500))
	assert.Contains(t, s.get(back).Body.String(), "€5 has arrived.")
	s.now = s.now.AddDate(0, 1, 1)
	require.NoError(t, s.store.ForgetPayments(t.Context(), s.now))
	assert.Equal(t, payment.IsPaid, s.kept(id).Record().State(), "what was paid is never forgotten")
}

func TestAServiceThatWasReplacedStillTellsOfWhatWasPaidByIt(t *testing.T) {
	s := withTill(t)
	id, _ := s.begin()
	other, err := s.store.SetPaymentService(t.Context(), store.PaymentService{
		WorkspaceID: s.member.WorkspaceID, Address: "https://other.example/v1", Token: "t", Secret: "whsec_" + strings.Repeat("QUFB", 10),
		CreatedAt: now,
	})
	require.NoError(t, err)
	assert.NotEqual(t, s.service.ID, other.ID)
	require.Equal(t, http.StatusNoContent, s.says(payment.Paid, id, 500))
	assert.Equal(t, payment.IsPaid, s.kept(id).Record().State())
	again, err := s.store.SetPaymentService(t.Context(), store.PaymentService{
		WorkspaceID: s.member.WorkspaceID, Address: "https://pay.example/v1", Token: "till-2", Secret: tillSecret, CreatedAt: now,
	})
	require.NoError(t, err)
	assert.Equal(t, s.service.ID, again.ID, "at the same address it is the same one again, with its address for notices")
	present, err := s.store.PaymentService(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	assert.Equal(t, "till-2", present.Token)
	for range 30 {
		_, err := s.store.SetPaymentService(t.Context(), store.PaymentService{
			WorkspaceID: s.member.WorkspaceID, Address: "https://" + uuid.NewString() + ".example", Token: "t", Secret: tillSecret, CreatedAt: now,
		})
		require.NoError(t, err)
	}
	var known int
	require.NoError(t, s.store.Pool().QueryRow(t.Context(), "select count(*) from payment_services").Scan(&known))
	assert.LessOrEqual(t, known, 21)
}

func TestAServicesNoticesAreOfItsOwnPaymentsOnly(t *testing.T) {
	s := withTill(t)
	id, _ := s.begin()
	other, err := s.store.CreateAccount(t.Context(), store.NewAccount{Email: "jo@other.example", PageAddress: "other-page", Zone: "UTC"}, now)
	require.NoError(t, err)
	s.service, err = s.store.SetPaymentService(t.Context(), store.PaymentService{
		WorkspaceID: other.WorkspaceID, Address: "https://pay.example/v1", Token: "till-1", Secret: tillSecret, CreatedAt: now,
	})
	require.NoError(t, err)
	assert.Equal(t, http.StatusNotFound, s.says(payment.Paid, id, 500))
	assert.Equal(t, payment.Begun, s.kept(id).Record().State())
}

func TestWhatIsNoAmountIsSaidAndNobodyIsAsked(t *testing.T) {
	s := withTill(t)
	for own, says := range map[string]string{"much": "no amount", "0": "no amount", "9999999": "more than can be paid", "-5": "no amount"} {
		got := s.pay(url.Values{"amount": {"own"}, "own": {own}, "word": {"Kept <b>word"}})
		assert.Equal(t, http.StatusUnprocessableEntity, got.Code, own)
		assert.Contains(t, got.Body.String(), says)
		assert.Contains(t, got.Body.String(), "Kept &lt;b&gt;word", "what was written is not lost")
	}
	assert.Equal(t, http.StatusOK, s.pay(url.Values{"amount": {"500"}, "website": {"https://spam.example"}}).Code)
	assert.Empty(t, s.asked)
}

func TestWhileTheServiceTakesNothingNobodyIsCharged(t *testing.T) {
	s := withTill(t)
	for name, answers := range map[string]func(http.ResponseWriter){
		"down":               func(w http.ResponseWriter) { w.WriteHeader(http.StatusServiceUnavailable) },
		"no token of its":    func(w http.ResponseWriter) { w.WriteHeader(http.StatusUnauthorized) },
		"no JSON":            func(w http.ResponseWriter) { _, _ = w.Write([]byte("<html>")) },
		"a page without TLS": func(w http.ResponseWriter) { _, _ = w.Write([]byte(`{"id":"1","url":"http://pay.example/1"}`)) },
		"a script":           func(w http.ResponseWriter) { _, _ = w.Write([]byte(`{"id":"1","url":"javascript:alert(1)"}`)) },
		"another site":       func(w http.ResponseWriter) { _, _ = w.Write([]byte(`{"id":"1","url":"https://elsewhere.example/1"}`)) },
		"a look-alike":       func(w http.ResponseWriter) { _, _ = w.Write([]byte(`{"id":"1","url":"https://evilpay.example/1"}`)) },
		"endless":            func(w http.ResponseWriter) { _, _ = w.Write(bytes.Repeat([]byte("x"), 1<<20)) },
		"a long name": func(w http.ResponseWriter) {
			_, _ = w.Write([]byte(`{"id":"` + strings.Repeat("1", 999) + `","url":"https://pay.example/1"}`))
		},
	} {
		s.answers = answers
		got := s.pay(url.Values{"amount": {"500"}})
		assert.Equal(t, http.StatusServiceUnavailable, got.Code, name)
		assert.Contains(t, got.Body.String(), "Nothing was charged", name)
	}
	service, err := s.store.PaymentService(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	assert.NotEmpty(t, service.Failure, "the creator reads why")
	require.NoError(t, s.store.DropPaymentService(t.Context(), s.member.WorkspaceID, s.now))
	assert.Equal(t, http.StatusServiceUnavailable, s.pay(url.Values{"amount": {"500"}}).Code)
}

func TestOneClientBeginsOnlySoManyPayments(t *testing.T) {
	s := withTill(t)
	codes := map[int]int{}
	for range 25 {
		codes[s.pay(url.Values{"amount": {"500"}}).Code]++
	}
	assert.Equal(t, 20, codes[http.StatusSeeOther], codes)
	assert.Equal(t, 5, codes[http.StatusTooManyRequests])
}

func TestAWorkspaceWithASlowServiceLeavesTurnsToOthers(t *testing.T) {
	s := withTill(t)
	waiting, slow := make(chan struct{}), make(chan struct{})
	s.answers = func(w http.ResponseWriter) {
		s.mu.Unlock()
		defer s.mu.Lock()
		waiting <- struct{}{}
		<-slow
		_, _ = w.Write([]byte(`{"id":"checkout-1","url":"https://pay.example/1"}`))
	}
	var all sync.WaitGroup
	for range 6 {
		all.Go(func() { assert.Equal(t, http.StatusSeeOther, s.pay(url.Values{"amount": {"500"}}).Code) })
	}
	for range 4 {
		<-waiting
	}
	select {
	case <-waiting:
		assert.Fail(t, "the fifth of one workspace waits for a turn")
	case <-time.After(300 * time.Millisecond):
	}
	close(slow)
	for range 2 {
		<-waiting
	}
	all.Wait()
}
