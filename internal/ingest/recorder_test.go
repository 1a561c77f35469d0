package ingest

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/core/campaign"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/eventlog"
	"jundle/internal/store"
)

// table stands in for the database where a test needs it to fail.
type table struct {
	mu       sync.Mutex
	failures int
	refuses  string // a block whose events are refused
	away     bool
	events   map[uuid.UUID]store.Event
}

func (t *table) RecordEvents(_ context.Context, events []store.Event) error {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.away {
		return errors.New("the database is away")
	}
	for _, event := range events {
		if t.refuses != "" && event.Block == t.refuses {
			return &pgconn.PgError{Code: "22021"}
		}
	}
	for _, event := range events {
		t.events[event.ID] = event
	}
	if t.failures > 0 {
		t.failures--
		return errors.New("connection lost after the rows were written")
	}
	return nil
}

func (t *table) Salt(context.Context, time.Time) ([]byte, error) { return []byte("salt"), nil }

func (t *table) set(change func()) {
	t.mu.Lock()
	defer t.mu.Unlock()
	change()
}

func (t *table) count() int {
	t.mu.Lock()
	defer t.mu.Unlock()
	return len(t.events)
}

type parts struct {
	table    *table
	log      *eventlog.Log
	recorder *Recorder
	spool    string
}

// begin starts a recorder whose log is in the folder logDir.
func begin(t *testing.T, logDir string) parts {
	t.Helper()
	list, err := agents.Load()
	require.NoError(t, err)
	log := eventlog.Open(t.Context(), eventlog.Options{Dir: logDir, MaxBytes: 16 << 20})
	t.Cleanup(log.Close)
	p := parts{table: &table{events: map[uuid.UUID]store.Event{}}, log: log, spool: filepath.Join(t.TempDir(), "spool")}
	p.recorder, err = NewRecorder(t.Context(), Options{Store: p.table, Agents: list, Log: log, SpoolDir: p.spool})
	require.NoError(t, err)
	return p
}

// slowLog takes long for every entry.
type slowLog struct {
	*eventlog.Log
	slow atomic.Bool
}

func (l *slowLog) Append(ctx context.Context, entry []byte) error {
	if l.slow.Load() {
		time.Sleep(3 * time.Second)
	}
	return l.Log.Append(ctx, entry)
}

// unusable is a folder that cannot be made: a file stands in its place.
func unusable(t *testing.T) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	return filepath.Join(file, "log")
}

func hit() Hit {
	return Hit{
		At: time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC), EndpointID: uuid.New(), Attributor: source.NewAttributor(nil,
			nil), PageHost: "pages.example", Edition: 1, Kind: traffic.View,
		Method: "GET", Client: "192.0.2.7", UserAgent: "Mozilla/5.0 (X11; Linux x86_64; rv:140.0)",
	}
}

func (p parts) record(t *testing.T, hits int) {
	t.Helper()
	var all sync.WaitGroup
	for range hits {
		all.Go(func() { assert.True(t, p.recorder.Record(p.recorder.Decide(hit()))) })
	}
	all.Wait()
}

func TestABatchThatFailsIsTriedAgainAndStoredOnce(t *testing.T) {
	p := begin(t, t.TempDir())
	p.table.failures = 1
	p.record(t, 1200)
	require.NoError(t, p.recorder.Close(t.Context()))
	assert.Len(t, p.table.events, 1200)
	assert.Zero(t, p.recorder.Health().Shed)
	assert.False(t, p.recorder.Record(p.recorder.Decide(hit())), "nothing is taken after the end")
	assert.EqualValues(t, 1, p.recorder.Health().Shed)
}

func TestNobodyWaitsForALogThatIsSlow(t *testing.T) {
	list, err := agents.Load()
	require.NoError(t, err)
	log := &slowLog{Log: eventlog.Open(t.Context(), eventlog.Options{Dir: t.TempDir(), MaxBytes: 16 << 20})}
	t.Cleanup(log.Close)
	p := parts{table: &table{events: map[uuid.UUID]store.Event{}}, spool: filepath.Join(t.TempDir(), "spool")}
	p.recorder, err = NewRecorder(t.Context(), Options{Store: p.table, Agents: list, Log: log, SpoolDir: p.spool})
	require.NoError(t, err)
	log.slow.Store(true)
	began := time.Now()
	p.record(t, 300)
	assert.Less(t, time.Since(began), 2*time.Second, "the log takes three seconds for each entry")
	noted, event := queue+3000, p.recorder.Decide(hit())
	for range noted {
		event.ID = uuid.New()
		assert.True(t, p.recorder.Note(event))
	}
	assert.Less(t, time.Since(began), 12*time.Second, "nor for room on the way to it, which the log makes in 17")
	log.slow.Store(false)
	require.NoError(t, p.recorder.Close(t.Context()))
	assert.Len(t, p.table.events, 300+noted, "each is in the table once")
	assert.Zero(t, p.recorder.Health().Shed)
}

func TestWhatIsInTheLogOutlivesTheProcess(t *testing.T) {
	dir := t.TempDir()
	first := begin(t, dir)
	first.table.set(func() { first.table.away = true })
	first.record(t, 50)
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	require.NoError(t, first.recorder.Close(gone))
	first.log.Close()
	assert.Zero(t, first.table.count())

	second := begin(t, dir)
	assert.Eventually(t, func() bool { return second.table.count() == 50 }, 10*time.Second, 20*time.Millisecond)
	require.NoError(t, second.recorder.Close(t.Context()))
}

func TestWithoutALogEventsTakeTheWayOverTheSpool(t *testing.T) {
	p := begin(t, unusable(t))
	p.record(t, 30)
	health := p.recorder.Health()
	assert.NotEmpty(t, health.Log, "health says why the log is closed")
	assert.Eventually(t, func() bool { return p.table.count() == 30 && p.recorder.Health().Spooled == 0 }, 10*time.Second, 20*time.Millisecond)
	require.NoError(t, p.recorder.Close(t.Context()))
	files, err := filepath.Glob(filepath.Join(p.spool, spoolFiles))
	require.NoError(t, err)
	assert.Empty(t, files, "what was dealt with is deleted")
}

func TestASpoolThatWasLeftBehindIsTakenUp(t *testing.T) {
	first := begin(t, unusable(t))
	first.table.set(func() { first.table.away = true })
	first.record(t, 10)
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	require.NoError(t, first.recorder.Close(gone))
	files, err := filepath.Glob(filepath.Join(first.spool, spoolFiles))
	require.NoError(t, err)
	require.NotEmpty(t, files)
	lines, err := os.ReadFile(files[0])
	require.NoError(t, err)
	cut := append(lines, []byte(`{"id":"0198c2a4-0000`)...) // the process was killed within a line
	second := begin(t, unusable(t))
	require.NoError(t, os.WriteFile(filepath.Join(second.spool, filepath.Base(files[0])), cut, 0o600))
	assert.Eventually(t, func() bool { return second.table.count() == 10 }, 10*time.Second, 20*time.Millisecond)
	require.NoError(t, second.recorder.Close(t.Context()))
}

func TestWithoutLogAndSpoolMemoryHoldsSoMuchAndTheRestIsCounted(t *testing.T) {
	p := begin(t, unusable(t))
	p.table.set(func() { p.table.away = true })
	require.NoError(t, os.RemoveAll(p.spool))
	batch := make([]waiting, 0, together)
	for range together {
		batch = append(batch, waiting{line: []byte(`{"id":"` + uuid.NewString() + `"}`)})
	}
	for range held/together + 2 {
		p.recorder.keep(batch)
	}
	health := p.recorder.Health()
	assert.LessOrEqual(t, health.Held, held)
	assert.Positive(t, health.Shed, "what is shed is counted")
	p.table.set(func() { p.table.away = false })
	assert.Eventually(t, func() bool { return p.recorder.Health().Held == 0 && p.table.count() == together }, 10*time.Second,
		20*time.Millisecond)
	require.NoError(t, p.recorder.Close(t.Context()))
}

func TestAnEventTheTableRefusesDoesNotKeepBackTheOthers(t *testing.T) {
	p := begin(t, t.TempDir())
	p.table.set(func() { p.table.refuses = "broken" })
	bad := hit()
	bad.Block = "broken"
	assert.True(t, p.recorder.Record(p.recorder.Decide(bad)))
	p.record(t, 20)
	require.NoError(t, p.recorder.Close(t.Context()))
	assert.Len(t, p.table.events, 20)
	assert.EqualValues(t, 1, p.recorder.Health().Refused)
	aside, err := os.ReadFile(filepath.Join(p.spool, refusedFile))
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(string(aside), `"block":"broken"`))
}

func TestAnEventKeepsItsEvidenceAndNoAddress(t *testing.T) {
	list, err := agents.Load()
	require.NoError(t, err)
	seen := hit()
	seen.Tag, seen.Referrer, seen.Own, seen.Query = "card", "photoloft.example", true, "utm_source=Letter&utm_term=bowls"
	seen.Attributor = source.NewAttributor([]source.Candidate{{ID: "card-id", Tags: []string{"card"}}}, nil)
	event := NewEvent(uuid.New(), seen, traffic.NewSalt([]byte("salt")), list)
	assert.Equal(t, source.Attribution{Source: "card-id", By: source.ByTag}, event.Attribution)
	assert.Equal(t, "photoloft.example", event.Referrer, "evidence that was not needed is kept too")
	assert.Equal(t, campaign.Tags{Source: "letter", Term: "bowls"}, event.Campaign)
	assert.Equal(t, traffic.Own, event.Flags)
	assert.NotContains(t, string(event.Visitor[:]), "192.0.2.7")

	seen.Tag, seen.Query, seen.Referrer = "unknown", "", ""
	event = NewEvent(uuid.New(), seen, traffic.NewSalt([]byte("salt")), list)
	assert.Equal(t, source.Attribution{By: source.Untagged}, event.Attribution)
	assert.Equal(t, "unknown", event.Tag, "what stood in the address is kept")
}

func TestSaltsAreThereForTomorrowAndDestroyedAfterTwoDays(t *testing.T) {
	destroyed := &saltTable{}
	now := time.Date(2026, 6, 1, 23, 59, 0, 0, time.UTC)
	cache := &saltCache{store: destroyed, salts: map[int64]*traffic.Salt{}}
	require.NoError(t, cache.fetch(t.Context(), now))
	destroyed.away = true
	tomorrow := cache.of(now.Add(2 * time.Minute))
	key := func(salt *traffic.Salt) traffic.VisitorKey {
		return salt.VisitorKey("192.0.2.1", "agent", "pages.example")
	}
	assert.Equal(t, key(traffic.NewSalt([]byte("salt of 2026-06-02"))), key(tomorrow), "midnight passes without the database")
	local := cache.of(now.AddDate(0, 0, 5))
	require.NotNil(t, local, "and a day nobody foresaw has a salt all the same")
	assert.Same(t, local, cache.of(now.AddDate(0, 0, 5)))

	destroyed.away = false
	require.NoError(t, cache.fetch(t.Context(), now.AddDate(0, 0, 3)))
	assert.Equal(t, "2026-06-03", traffic.SaltsOver(now.AddDate(0, 0, 3)).Format(time.DateOnly),
		"the second of June began more than 48 hours before")
	assert.NotSame(t, tomorrow, cache.of(now.Add(2*time.Minute)), "it is gone from memory as well")
}

type saltTable struct {
	table
	away bool
}

func (t *saltTable) Salt(_ context.Context, day time.Time) ([]byte, error) {
	if t.away {
		return nil, errors.New("away")
	}
	return []byte("salt of " + day.Format(time.DateOnly)), nil
}

func TestWhatNobodyWaitsForArrivesToo(t *testing.T) {
	p := begin(t, t.TempDir())
	for range 500 {
		require.True(t, p.recorder.Note(p.recorder.Decide(hit())))
	}
	require.NoError(t, p.recorder.Close(t.Context()))
	assert.Equal(t, 500, p.table.count())
	assert.False(t, p.recorder.Note(p.recorder.Decide(hit())), "after the end nothing is taken")
	assert.Equal(t, int64(1), p.recorder.Health().Shed)
}

func TestNobodyWaitsForeverForARecorderThatEnds(t *testing.T) {
	p := begin(t, t.TempDir())
	var kept atomic.Int64
	var all sync.WaitGroup
	for range 200 {
		all.Go(func() {
			if p.recorder.Record(p.recorder.Decide(hit())) {
				kept.Add(1)
			}
		})
	}
	require.NoError(t, p.recorder.Close(t.Context()))
	all.Wait()
	assert.Equal(t, int(kept.Load()), p.table.count(), "who was told that their event is kept finds it in the table")
}
