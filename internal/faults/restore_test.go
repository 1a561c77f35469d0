package faults_test

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/files"
	"jundle/internal/media"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func fetch(t *testing.T, address string) (int, string) {
	t.Helper()
	answer, err := visitors.Get(address)
	require.NoError(t, err)
	defer answer.Body.Close()
	body, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	return answer.StatusCode, string(body)
}

// The commands of docs/running.md, really run.
func TestABackupIsRestoredAndServedFrom(t *testing.T) {
	t.Parallel()
	database := storetest.URL(t)
	p := newProgram(t, database)
	picture := p.addPicture(t, database)
	p.start()
	for i := range 50 {
		require.Equal(t, http.StatusFound, ask(fmt.Sprintf("%s/quarrow-clay/-/1/kiln/loft?utm_content=n%d", p.public, i)))
	}
	require.Eventually(t, func() bool { return len(p.presses(t)) == 50 }, 20*time.Second, 50*time.Millisecond)
	_, page := fetch(t, p.public+"/quarrow-clay")
	_, bytes := fetch(t, p.public+"/media/"+picture)

	backup := filepath.Join(t.TempDir(), "backup")
	out, err := p.command("backup", backup)
	require.NoError(t, err, "while it goes on: %s", out)
	out, err = p.command("backup", backup)
	require.Error(t, err)
	assert.Contains(t, out, "is there already")
	require.NoError(t, p.process.Process.Signal(syscall.SIGTERM))
	require.NoError(t, p.process.Wait())
	require.NoError(t, os.RemoveAll(p.media))

	restored := p.on(storetest.URL(t), filepath.Join(t.TempDir(), "media"))
	out, err = restored.command("restore", filepath.Dir(backup))
	require.Error(t, err)
	assert.Contains(t, out, "is no whole backup")
	out, err = restored.command("restore", backup)
	require.NoError(t, err, "%s", out)
	out, err = restored.command("restore", backup)
	require.Error(t, err)
	assert.Contains(t, out, "a backup is restored into an empty one")
	restored.start()
	status, again := fetch(t, restored.public+"/quarrow-clay")
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, strings.ReplaceAll(page, p.public, restored.public), again)
	status, same := fetch(t, restored.public+"/media/"+picture)
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, bytes, same)
	assert.Len(t, restored.presses(t), 50)
	require.Equal(t, http.StatusFound, ask(restored.public+"/quarrow-clay/-/1/kiln/loft?utm_content=after"))
	require.Eventually(t, func() bool { return len(restored.presses(t)) == 51 }, 20*time.Second, 50*time.Millisecond,
		"and it goes on from there")
}

func TestADamagedBackupIsNotRestored(t *testing.T) {
	t.Parallel()
	p := newProgram(t, storetest.URL(t))
	backup := filepath.Join(t.TempDir(), "backup")
	out, err := p.command("backup", backup)
	require.NoError(t, err, "%s", out)
	dump, err := os.ReadFile(filepath.Join(backup, "database.dump"))
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(backup, "database.dump"), dump[:len(dump)-10], 0o600))
	out, err = p.on(storetest.URL(t), t.TempDir()).command("restore", backup)
	require.Error(t, err)
	assert.Contains(t, out, "the backup is damaged")
}

// command runs a command of the program, and gives what it said.
func (p *program) command(args ...string) (string, error) {
	p.t.Helper()
	file, err := built()
	require.NoError(p.t, err)
	command := exec.Command(file, args...)
	command.Env = p.env
	out, err := command.CombinedOutput()
	return string(out), err
}

// addPicture keeps a picture of the page's workspace.
func (p *program) addPicture(t *testing.T, database string) string {
	t.Helper()
	s, err := store.Open(t.Context(), database)
	require.NoError(t, err)
	defer s.Close()
	member, err := s.MemberByEmail(t.Context(), "ilse@quarrow.example")
	require.NoError(t, err)
	kept, err := files.Open(t.Context(), p.media, s, time.Now)
	require.NoError(t, err)
	defer kept.Close()
	turn, err := media.TakeTurn(t.Context())
	require.NoError(t, err)
	defer turn.Done()
	var drawn bytes.Buffer
	require.NoError(t, png.Encode(&drawn, image.NewGray(image.Rect(0, 0, 40, 30))))
	original, err := turn.Original(drawn.Bytes())
	require.NoError(t, err)
	require.NoError(t, kept.Keep(t.Context(), member.WorkspaceID, original))
	return original.Name
}
