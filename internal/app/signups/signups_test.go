package signups_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/signups"
	"jundle/internal/core/webhook"
	"jundle/internal/outbound"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// service is a list service of another program: people by their IDs, and how often each was
// put on the list and taken off.
type service struct {
	mu      sync.Mutex
	down    bool // it answers 503, having done what was asked
	people  map[string]string
	puts    map[string]int
	refuses bool
}

func (s *service) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if r.Header.Get("Authorization") != "Bearer key-1" || s.refuses {
		w.WriteHeader(http.StatusUnauthorized)
		return
	}
	id := r.URL.Path[strings.LastIndexByte(r.URL.Path, '/')+1:]
	switch r.Method {
	case http.MethodPut:
		var member struct{ Email, Status, Source, Consent string }
		if json.NewDecoder(r.Body).Decode(&member) != nil || member.Status != "confirmed" {
			w.WriteHeader(http.StatusBadRequest)
			return
		}
		s.people[id] = member.Email
		s.puts[id]++
	case http.MethodDelete:
		if _, there := s.people[id]; !there {
			w.WriteHeader(http.StatusNotFound)
			return
		}
		delete(s.people, id)
	}
	if s.down {
		w.WriteHeader(http.StatusServiceUnavailable)
	}
}

type bench struct {
	*testing.T
	store   *store.Store
	member  store.Member
	service *service
	sender  signups.Sender
	now     time.Time
}

func open(t *testing.T) *bench {
	b := &bench{T: t, store: storetest.New(t), now: time.Now().UTC().Truncate(time.Second)}
	b.service = &service{people: map[string]string{}, puts: map[string]int{}}
	var err error
	account := store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}
	b.member, err = b.store.CreateAccount(t.Context(), account, b.now)
	require.NoError(t, err)
	web := httptest.NewServer(b.service)
	t.Cleanup(web.Close)
	base, err := url.Parse(web.URL + "/")
	require.NoError(t, err)
	client := outbound.New(outbound.Options{Reroute: func(to *url.URL) *url.URL { return base.JoinPath(to.Path) }})
	b.sender = signups.Sender{Store: b.store, Outbound: client, Now: func() time.Time { return b.now }}
	return b
}

func (b *bench) connect() {
	require.NoError(b, b.store.SetListService(b.Context(), store.ListService{
		WorkspaceID: b.member.WorkspaceID, Address: "https://lists.example/v1", List: "studio-letter", Token: "key-1", CreatedAt: b.now,
	}))
}

// confirmed has somebody sign up and confirm it.
func (b *bench) confirmed(address string) uuid.UUID {
	require.NoError(b, b.store.AskSignUp(b.Context(), store.SignUp{
		WorkspaceID: b.member.WorkspaceID, PageName: "Quarrow Clay", Block: "letter01", Address: address, AddressKey: address, Language: "en",
		Consent: "=HYPERLINK(1)", AskedAt: b.now,
	}))
	all, err := b.store.SignUps(b.Context(), b.member.WorkspaceID, store.SignUpFilter{Find: address}, nil, 1)
	require.NoError(b, err)
	_, err = b.store.TakeSignUp(b.Context(), all[0].ID, b.now)
	require.NoError(b, err)
	return all[0].ID
}

// rounds hands on for a while, by several processes at once.
func (b *bench) rounds(n int) {
	for range n {
		var group sync.WaitGroup
		for range 3 {
			group.Go(func() { assert.NoError(b, b.sender.SendDue(b.Context())) })
		}
		group.Wait()
		b.now = b.now.Add(time.Hour)
	}
}

func (b *bench) progress() store.ListProgress {
	_, progress, err := b.store.ListService(b.Context(), b.member.WorkspaceID)
	require.NoError(b, err)
	return progress
}

func TestEverybodyIsOnTheListOnceThoughItsServiceWasDown(t *testing.T) {
	b := open(t)
	before := b.confirmed("before@kiln.example")
	b.connect()
	b.service.down = true
	var ids []uuid.UUID
	for i := range 50 {
		ids = append(ids, b.confirmed(fmt.Sprintf("reader%d@kiln.example", i)))
	}
	b.rounds(2)
	assert.Equal(t, 51, b.progress().Waiting, "who was taken by a service that then failed is told of again")
	assert.Equal(t, http.StatusServiceUnavailable, b.progress().Status)
	b.service.down = false
	b.rounds(8)
	assert.Equal(t, store.ListProgress{Told: 51}, b.progress())
	assert.Len(t, b.service.people, 51, "each once, however often it was told")
	assert.Equal(t, "before@kiln.example", b.service.people[before.String()], "and who was there before")
	settled := b.service.puts[ids[0].String()]
	b.connect()
	b.rounds(2)
	assert.Equal(t, settled, b.service.puts[ids[0].String()], "what it knows is not said again")
}

func TestWhoseAddressIsErasedIsTakenOffTheListToo(t *testing.T) {
	b := open(t)
	b.connect()
	told, never := b.confirmed("told@kiln.example"), uuid.UUID{}
	b.rounds(1)
	never = b.confirmed("never@kiln.example")
	for _, id := range []uuid.UUID{told, never} {
		_, err := b.store.RemoveSignUp(t.Context(), b.member.WorkspaceID, id, b.now)
		require.NoError(t, err)
		_, err = b.store.RemoveSignUp(t.Context(), b.member.WorkspaceID, id, b.now)
		assert.ErrorIs(t, err, store.ErrNotFound)
	}
	b.rounds(1)
	assert.Empty(t, b.service.people)
	assert.Equal(t, store.ListProgress{}, b.progress(), "nothing of them is kept")
	_, err := b.store.RemoveSignUp(t.Context(), uuid.New(), b.confirmed("other@kiln.example"), b.now)
	assert.ErrorIs(t, err, store.ErrNotFound, "of another workspace")
}

func TestAServiceThatRefusesForThreeDaysIsTurnedOffAndAnotherTokenTurnsItOn(t *testing.T) {
	b := open(t)
	b.connect()
	b.service.refuses = true
	b.confirmed("rolf@kiln.example")
	b.rounds(24 * 5)
	one, progress, err := b.store.ListService(t.Context(), b.member.WorkspaceID)
	require.NoError(t, err)
	require.NotNil(t, one.OffAt)
	assert.Contains(t, one.OffBecause, "its last answer was 401")
	assert.Equal(t, 1, progress.Waiting, "nothing is lost meanwhile")
	b.service.refuses = false
	b.connect()
	b.rounds(1)
	assert.Equal(t, store.ListProgress{Told: 1}, b.progress())
}

func TestWebhooksAreToldOfWhoConfirmedAndWhoWasErased(t *testing.T) {
	b := open(t)
	_, err := b.store.AddWebhook(t.Context(), store.Webhook{
		WorkspaceID: b.member.WorkspaceID, Address: "https://hooks.example/", Kinds: webhook.Kinds, Clicks: 1, Secret: "whsec_x",
		CreatedAt: b.now,
	})
	require.NoError(t, err)
	id := b.confirmed("rolf@kiln.example")
	_, err = b.store.TakeSignUp(t.Context(), id, b.now)
	require.NoError(t, err, "who presses again is confirmed as before")
	_, err = b.store.RemoveSignUp(t.Context(), b.member.WorkspaceID, id, b.now)
	require.NoError(t, err)
	due, err := b.store.TakeDueDeliveries(t.Context(), b.now.Add(time.Second), 10)
	require.NoError(t, err)
	require.Len(t, due, 2)
	bodies := due[0].Body + due[1].Body
	for _, want := range []string{`"type":"sign_up.confirmed"`, `"type":"sign_up.removed"`, `"address":"rolf@kiln.example"`} {
		assert.Contains(t, bodies, want)
	}
}

func TestTheTableHasEverybodyAndNothingThatASpreadsheetWouldRun(t *testing.T) {
	b := open(t)
	for i := range 3 {
		b.confirmed(fmt.Sprintf("=reader%d@kiln.example", i))
	}
	var out bytes.Buffer
	require.NoError(t, signups.WriteTable(t.Context(), b.store, b.member.WorkspaceID, &out))
	rows, err := csv.NewReader(&out).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 4)
	assert.Equal(t, "'=reader0@kiln.example", rows[1][0])
	assert.Equal(t, "'=HYPERLINK(1)", rows[1][7])
}

func TestStrangersWhoNeverConfirmKeepNobodyOut(t *testing.T) {
	b := open(t)
	waiting := make([]store.SignUp, 10_000)
	for i := range waiting {
		address := fmt.Sprintf("made-up%d@spam.example", i)
		at := b.now.Add(-time.Hour)
		waiting[i] = store.SignUp{
			WorkspaceID: b.member.WorkspaceID, Address: address, AddressKey: address, Language: "en", AskedAt: at, LetterAt: at, Letters: 1,
		}
	}
	require.NoError(t, b.store.AddSignUps(t.Context(), waiting))
	ask := func() error {
		return b.store.AskSignUp(t.Context(), store.SignUp{
			WorkspaceID: b.member.WorkspaceID, Address: "rolf@kiln.example", AddressKey: "rolf@kiln.example", Language: "en", AskedAt: b.now,
		})
	}
	assert.ErrorIs(t, ask(), store.ErrManySignUps)
	b.now = b.now.Add(24 * time.Hour)
	require.NoError(t, ask(), "those that waited for a day give way")
	confirmed, still, err := b.store.CountSignUps(t.Context(), b.member.WorkspaceID)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 9901}, []int{confirmed, still})
}
