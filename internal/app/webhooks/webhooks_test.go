package webhooks_test

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	standardwebhooks "github.com/standard-webhooks/standard-webhooks/libraries/go"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/webhooks"
	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/core/webhook"
	"jundle/internal/outbound"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// The scheme's own example: Standard Webhooks, libraries/go/webhook_test.go v0.0.1, TestWebhookSign.
func TestASignatureIsThatOfTheSchemesOwnExample(t *testing.T) {
	got, err := webhooks.Signatures("msg_p5jXN8AQM9LWM0D4loKWxJek", time.Unix(1614265330, 0), `{"test": 2432232314}`,
		"whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw", "")
	require.NoError(t, err)
	assert.Equal(t, "v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=", got)
}

// Specification 1.0, "Signature scheme": HMAC-SHA256 over id, timestamp and body with dots between, and
// a signature for each secret while one takes the place of another.
func TestAMessageIsSignedWithBothSecretsWhileOneReplacesTheOther(t *testing.T) {
	one := store.DueDelivery{
		ID: uuid.New(), Secret: webhooks.NewSecret(), OldSecret: webhooks.NewSecret(), Body: `{"type":"trial"}`,
		Address: "https://hooks.example/",
	}
	at := time.Now()
	header, err := webhooks.Header(one, at)
	require.NoError(t, err)
	sent := http.Header{}
	for name, value := range header {
		sent.Set(name, value)
	}
	signatures := strings.Fields(sent.Get("webhook-signature"))
	require.Len(t, signatures, 2)
	for i, secret := range []string{one.Secret, one.OldSecret} {
		key, err := base64.StdEncoding.DecodeString(strings.TrimPrefix(secret, "whsec_"))
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(key), 24)
		mac := hmac.New(sha256.New, key)
		_, _ = fmt.Fprintf(mac, "%s.%d.%s", sent.Get("webhook-id"), at.Unix(), one.Body)
		assert.Equal(t, "v1,"+base64.StdEncoding.EncodeToString(mac.Sum(nil)), signatures[i])
		verifier, err := standardwebhooks.NewWebhook(secret)
		require.NoError(t, err)
		assert.NoError(t, verifier.Verify([]byte(one.Body), sent), "by the reference library")
	}
	verifier, err := standardwebhooks.NewWebhook(webhooks.NewSecret())
	require.NoError(t, err)
	assert.Error(t, verifier.Verify([]byte(one.Body), sent))
}

// site is a workspace with a webhook that is told of everything, and whoever takes it.
type site struct {
	*testing.T
	store     *store.Store
	sender    webhooks.Sender
	workspace uuid.UUID
	member    store.Member
	page      store.Page
	hook      store.Webhook
	now       time.Time

	mu       sync.Mutex
	status   int
	received []received
}

type received struct {
	id, body string
	valid    bool
}

func open(t *testing.T) *site {
	s := &site{T: t, store: storetest.New(t), now: time.Now().UTC().Truncate(time.Second), status: http.StatusNoContent}
	var err error
	account := store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}
	s.member, err = s.store.CreateAccount(t.Context(), account, s.now)
	require.NoError(t, err)
	s.workspace = s.member.WorkspaceID
	pages, err := s.store.Pages(t.Context(), s.workspace)
	require.NoError(t, err)
	s.page = pages[0]
	s.hook, err = s.store.AddWebhook(t.Context(), store.Webhook{
		WorkspaceID: s.workspace, Address: "https://hooks.example/shop", Kinds: webhook.Kinds, Clicks: 3, Secret: webhooks.NewSecret(),
		CreatedAt: s.now,
	})
	require.NoError(t, err)
	verifier, err := standardwebhooks.NewWebhook(s.hook.Secret)
	require.NoError(t, err)
	web := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		body, _ := io.ReadAll(r.Body)
		s.mu.Lock()
		defer s.mu.Unlock()
		valid := verifier.VerifyIgnoringTimestamp(body, r.Header) == nil
		s.received = append(s.received, received{r.Header.Get("webhook-id"), string(body), valid})
		if s.status == http.StatusFound {
			w.Header().Set("Location", "https://hooks.example/elsewhere")
		}
		w.WriteHeader(s.status)
	}))
	t.Cleanup(web.Close)
	base, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	client := outbound.New(outbound.Options{Reroute: func(to *url.URL) *url.URL { return base.JoinPath(to.Path) }})
	s.sender = webhooks.Sender{Store: s.store, Outbound: client, Now: func() time.Time { return s.now }}
	return s
}

// sent sends what is due and gives the bodies that arrived.
func (s *site) sent() []received {
	s.Helper()
	s.received = nil
	require.NoError(s, s.sender.SendDue(s.Context()))
	return s.received
}

// kinds are those of messages, which all are signed.
func (s *site) kinds(of []received) (kinds []string) {
	s.Helper()
	for _, one := range of {
		var body struct{ Type string }
		require.NoError(s, json.Unmarshal([]byte(one.body), &body))
		assert.True(s, one.valid, "its signature")
		kinds = append(kinds, body.Type)
	}
	return kinds
}

func (s *site) publish() {
	s.Helper()
	doc := page.New()
	doc.Header.Name = s.now.String()
	current, err := s.store.Page(s.Context(), s.workspace, s.page.ID)
	require.NoError(s, err)
	saved, err := s.store.SaveDraft(s.Context(), s.workspace, s.page.ID, current.Revision, doc)
	require.NoError(s, err)
	s.page, err = s.store.Publish(s.Context(), s.workspace, s.member.ID, s.page.ID, store.Publishing{Revision: saved.Revision}, s.now)
	require.NoError(s, err)
}

func (s *site) event(kind traffic.Kind, from string) store.Event {
	event := store.Event{
		ID: uuid.New(), At: s.now, EndpointID: s.page.ID, Edition: 1, Kind: kind, UserAgent: "Mobile",
		Attribution: source.Attribution{Source: from, By: source.ByTag},
	}
	id := uuid.New()
	copy(event.Visitor[:], id[:])
	return event
}

func TestWhatHappensIsToldOnceAndSigned(t *testing.T) {
	s := open(t)
	card, err := s.store.AddSource(t.Context(), s.workspace, s.page.ID, store.NewSource{
		Name: "Printed card", Tag: "card", Place: source.Place{Kind: source.Print},
	}, s.now)
	require.NoError(t, err)
	s.publish()
	assert.Equal(t, []string{"page.published"}, s.kinds(s.sent()))
	assert.Empty(t, s.sent(), "once")

	visit := s.event(traffic.View, card.ID.String())
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{visit, s.event(traffic.View, card.ID.String())}))
	require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{s.event(traffic.View, card.ID.String())}))
	seen := s.sent()
	assert.Equal(t, []string{"source.first_seen"}, s.kinds(seen), "of the first visit only")
	assert.Contains(t, seen[0].body, `"name":"Printed card"`)

	press := func(times int) {
		for range times {
			click := s.event(traffic.Click, "")
			click.Block, click.Place = "sale", 1
			require.NoError(t, s.store.RecordEvents(t.Context(), []store.Event{click}))
		}
		require.NoError(t, s.store.TellOfClicks(t.Context(), s.now))
	}
	press(2)
	assert.Empty(t, s.sent())
	press(2)
	reached := s.sent()
	assert.Equal(t, []string{"clicks.reached"}, s.kinds(reached))
	assert.Contains(t, reached[0].body, `"clicks":4,"from":3`)
	press(2)
	assert.Empty(t, s.sent(), "once a day")
}

func TestAnAddressIsToldToBeBrokenWhenThatIsCertain(t *testing.T) {
	s := open(t)
	doc := page.New()
	doc.Blocks = append(doc.Blocks, page.Block{
		Key: "sale", Kind: "button", Shown: true, Button: &page.Button{Title: "Sale", Address: "https://kiln.example/sale"},
	})
	saved, err := s.store.SaveDraft(t.Context(), s.workspace, s.page.ID, s.page.Revision, doc)
	require.NoError(t, err)
	id := uuid.MustParse(saved.Draft.DestinationIDs()[0])
	for i, c := range []struct {
		status, failures int
		told             bool
	}{{200, 0, false}, {404, 1, false}, {404, 2, true}, {404, 3, false}, {200, 0, false}, {410, 1, true}} {
		result := linkcheck.Result{Address: "https://kiln.example/sale", Status: c.status, Failures: c.failures, At: s.now}
		require.NoError(t, s.store.KeepLinkCheck(t.Context(), id, result, s.now))
		if got := s.sent(); c.told {
			assert.Equal(t, []string{"address.broken"}, s.kinds(got), "check %d", i)
		} else {
			assert.Empty(t, got, "check %d", i)
		}
	}
}

func TestAMessageThatFailsIsTriedAgainAndTurnsTheWebhookOffInTheEnd(t *testing.T) {
	s := open(t)
	s.status = http.StatusServiceUnavailable
	s.publish()
	ids := map[string]bool{}
	tries := 0
	for range 200 {
		for _, one := range s.sent() {
			ids[one.id] = true
			tries++
		}
		s.now = s.now.Add(time.Hour)
	}
	assert.Equal(t, 10, tries)
	assert.Len(t, ids, 1, "the same ID each time")
	hook, err := s.store.Webhook(t.Context(), s.workspace, s.hook.ID)
	require.NoError(t, err)
	assert.Contains(t, hook.OffBecause, "could not be delivered for three days")
	s.publish()
	assert.Empty(t, s.sent(), "it is told nothing more")

	s.status = http.StatusNoContent
	_, err = s.store.ChangeWebhook(t.Context(), s.workspace, s.hook.ID, webhook.Wish{
		Address: hook.Address, Kinds: hook.Kinds, Clicks: hook.Clicks,
	}, true, s.now)
	require.NoError(t, err)
	messages, err := s.store.Deliveries(t.Context(), s.workspace, s.hook.ID, store.Delivery{}, 10)
	require.NoError(t, err)
	require.Len(t, messages, 1)
	require.NoError(t, s.store.SendAgain(t.Context(), s.workspace, s.hook.ID, messages[0].ID, s.now))
	again := s.sent()
	require.Len(t, again, 1)
	assert.True(t, ids[again[0].id], "sent again, it is the same message")
	messages, err = s.store.Deliveries(t.Context(), s.workspace, s.hook.ID, store.Delivery{}, 10)
	require.NoError(t, err)
	assert.Equal(t, []any{store.Delivered, 204, 1}, []any{messages[0].State, messages[0].Status, messages[0].Attempts})
}

func TestWhatIsGoneIsToldNothingAndNoRedirectIsFollowed(t *testing.T) {
	s := open(t)
	s.status = http.StatusFound
	s.publish()
	assert.Len(t, s.sent(), 1, "what was to be sent to one place is not sent to another")
	s.status = http.StatusGone
	s.now = s.now.Add(time.Hour)
	assert.Len(t, s.sent(), 1)
	hook, err := s.store.Webhook(t.Context(), s.workspace, s.hook.ID)
	require.NoError(t, err)
	assert.NotNil(t, hook.OffAt)
}

func TestTwoProcessesSendEachMessageOnce(t *testing.T) {
	s := open(t)
	for range 12 {
		require.NoError(t, s.store.TryWebhook(t.Context(), s.workspace, s.hook.ID, s.now))
	}
	var both sync.WaitGroup
	for range 8 {
		both.Go(func() { assert.NoError(t, s.sender.SendDue(t.Context())) })
	}
	both.Wait()
	ids := map[string]int{}
	for _, one := range s.received {
		ids[one.id]++
	}
	assert.Len(t, ids, len(s.received), "none twice")
}

func TestWhatIsNotOnThePublicInternetIsNotReached(t *testing.T) {
	s := open(t)
	s.sender.Outbound = outbound.New(outbound.Options{})
	_, err := s.store.ChangeWebhook(t.Context(), s.workspace, s.hook.ID, webhook.Wish{
		Address: "https://127.0.0.1/", Kinds: webhook.Kinds, Clicks: 1,
	}, true, s.now)
	require.NoError(t, err)
	s.publish()
	require.NoError(t, s.sender.SendDue(context.WithoutCancel(t.Context())))
	messages, err := s.store.Deliveries(t.Context(), s.workspace, s.hook.ID, store.Delivery{}, 10)
	require.NoError(t, err)
	assert.Equal(t, "This address is not on the public internet.", messages[0].Failure)
}
