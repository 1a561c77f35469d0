package faults_test

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/freeport"
	"jundle/internal/ingest"
	"jundle/internal/store"
)

// program is the real program on a database with one page.
type program struct {
	t        *testing.T
	database string
	public   string
	studio   string
	media    string // folder of uploaded files
	env      []string
	process  *exec.Cmd
	said     *output
}

// output gathers what the program says, safely while it goes on.
type output struct {
	mu   sync.Mutex
	text bytes.Buffer
}

func (o *output) Write(text []byte) (int, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.text.Write(text)
}

func (o *output) String() string {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.text.String()
}

var built = sync.OnceValues(func() (string, error) {
	dir, err := os.MkdirTemp("", "jundle-faults-")
	if err != nil {
		return "", err
	}
	file := filepath.Join(dir, "jundle")
	out, err := exec.Command("go", "build", "-o", file, "jundle/cmd/jundle").CombinedOutput()
	if err != nil {
		return "", &exec.Error{Name: string(out), Err: err}
	}
	return file, nil
})

// newProgram makes the page and says how the program is to run; start starts it.
func newProgram(t *testing.T, database string, env ...string) *program {
	t.Helper()
	public := freeport.For(t)
	studio := freeport.For(t)
	p := &program{t: t, database: database, public: "http://" + public, studio: "http://" + studio, media: t.TempDir(), said: &output{}}
	p.env = append(os.Environ(), append([]string{
		"JUNDLE_DATABASE_URL=" + database, "JUNDLE_PUBLIC_LISTEN=" + public, "JUNDLE_STUDIO_LISTEN=" + studio, "JUNDLE_DATA_DIR=" + t.TempDir(),
		"JUNDLE_MEDIA=" + p.media,
	}, env...)...)
	s, err := store.Open(t.Context(), database)
	require.NoError(t, err)
	defer s.Close()
	now := time.Now()
	member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	doc := page.New()
	doc.Blocks = []page.Block{{Key: "kiln", Kind: "button", Shown: true, Button: &page.Button{
		Title:   "Kiln",
		Address: "https://kiln.example/",
	}}}
	saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, pages[0].ID, pages[0].Revision, doc)
	require.NoError(t, err)
	_, err = s.Publish(t.Context(), member.WorkspaceID, member.ID, saved.ID, store.Publishing{Revision: saved.Revision}, now)
	require.NoError(t, err)
	_, err = s.AddSource(t.Context(), member.WorkspaceID, saved.ID, store.NewSource{
		Name: "Photoloft", Tag: "loft",
		Place: source.Place{Kind: source.Profile},
	}, now)
	require.NoError(t, err)
	t.Cleanup(func() {
		if p.process != nil && p.process.ProcessState == nil {
			p.kill()
		}
		if t.Failed() {
			t.Log(p.said.String())
		}
	})
	return p
}

// on is the same program on another database and another folder of files, with all
// else new.
func (p *program) on(database, media string) *program {
	public, studio := freeport.For(p.t), freeport.For(p.t)
	other := &program{t: p.t, database: database, public: "http://" + public, studio: "http://" + studio, media: media, said: &output{}}
	other.env = append(append([]string(nil), p.env...),
		"JUNDLE_DATABASE_URL="+database, "JUNDLE_PUBLIC_LISTEN="+public, "JUNDLE_STUDIO_LISTEN="+strings.TrimPrefix(other.studio,
			"http://"), "JUNDLE_DATA_DIR="+p.t.TempDir(), "JUNDLE_MEDIA="+media)
	p.t.Cleanup(func() {
		if other.process != nil && other.process.ProcessState == nil {
			other.kill()
		}
	})
	return other
}

func (p *program) start() {
	p.t.Helper()
	file, err := built()
	require.NoError(p.t, err)
	p.process = exec.Command(file, "serve")
	p.process.Env, p.process.Stderr = p.env, p.said
	require.NoError(p.t, p.process.Start())
	require.Eventually(p.t, func() bool { return ask(p.public+"/readyz") == http.StatusOK }, 30*time.Second, 50*time.Millisecond,
		"the program is up")
	require.Equal(p.t, http.StatusOK, askUnder(p.host(), p.public+"/quarrow-clay"), "and knows the page")
	require.Equal(p.t, http.StatusFound, askUnder(p.host(), p.public+"/quarrow-clay/-/1/kiln/loft"))
}

// host is that of the pages, where the program was told another than that of where it listens; else empty.
func (p *program) host() (host string) {
	for _, setting := range p.env {
		if origin, isIt := strings.CutPrefix(setting, "JUNDLE_PUBLIC_URL="); isIt {
			_, host, _ = strings.Cut(origin, "://")
		}
	}
	return host
}

// kill is kill -9.
func (p *program) kill() {
	_ = p.process.Process.Signal(syscall.SIGKILL)
	_ = p.process.Wait()
}

// presses counts the presses in the table by their number.
func (p *program) presses(t *testing.T) map[string]int {
	t.Helper()
	conn, err := pgx.Connect(context.Background(), p.database)
	require.NoError(t, err)
	defer conn.Close(context.Background())
	rows, err := conn.Query(context.Background(), "select utm_content, count(*) from events where utm_content <> '' group by 1")
	require.NoError(t, err)
	stored := make(map[string]int)
	var number string
	var times int
	_, err = pgx.ForEachRow(rows, []any{&number, &times}, func() error { stored[number] = times; return nil })
	require.NoError(t, err)
	return stored
}

// health is what the program says of the way to the table.
func (p *program) health() (health ingest.Health) {
	answer, err := visitors.Get(p.public + "/readyz")
	if err != nil {
		return health
	}
	defer answer.Body.Close()
	var body struct{ Events ingest.Health }
	_ = json.NewDecoder(answer.Body).Decode(&body)
	return body.Events
}
