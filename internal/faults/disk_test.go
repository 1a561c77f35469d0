package faults_test

import (
	"bytes"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWithTheDatabasesDiskFullVisitorsGoOnAndCreatorsAreTold(t *testing.T) {
	t.Parallel()
	disk, err := os.MkdirTemp("", "jundle-faults-disk-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(disk) })
	require.NoError(t, os.Chmod(disk, 0o755))
	smallDisk(t, disk, "220m")
	database, options := databaseIn(t, disk)
	p := newProgram(t, database.URL("jundle"))
	p.start()
	visiting := p.load(t)
	time.Sleep(time.Second)
	filler := filepath.Join(disk, "filler")
	fill(t, filler)
	// Events go on to be answered while the table takes no more of them.
	var said string
	assert.Eventually(t, func() bool {
		said = p.signIn(t)
		return !strings.Contains(said, "do not go together")
	}, 40*time.Second, 100*time.Millisecond)
	t.Logf("what a creator reads while the disk is full: %s", said)
	assert.Contains(t, said, "nothing was changed")
	time.Sleep(5 * time.Second)
	fill(t, filler+"2") // what was freed meanwhile
	require.NoError(t, os.Remove(filler))
	_ = os.Remove(filler + "2")
	// PostgreSQL ends itself when it cannot write its log; whoever runs it starts it
	// again.
	if !database.Running() {
		t.Log("PostgreSQL had ended itself")
		startDatabase(t, options)
	}
	assert.Eventually(t, func() bool { return ask(p.public+"/readyz") == http.StatusOK }, 30*time.Second, 100*time.Millisecond)
	assert.Eventually(t, func() bool { return strings.Contains(p.signIn(t), "do not go together") }, 30*time.Second, 200*time.Millisecond,
		"creators can go on")
	time.Sleep(time.Second)
	visiting.end()
	visiting.account("disk of the database full")
	assert.Zero(t, visiting.noPage.Load(), "every page was served")
	for number, ok := range visiting.answered {
		assert.True(t, ok, "press %s was answered", number)
	}
	assert.Zero(t, p.health().Shed)
}

// signIn tries a wrong password, and returns what was said.
func (p *program) signIn(t *testing.T) string {
	t.Helper()
	answer, err := visitors.Post(p.studio+"/api/sign-in", "application/json",
		bytes.NewReader([]byte(`{"email":"nobody@quarrow.example","password":"a guess or two"}`)))
	if err != nil {
		return err.Error()
	}
	defer answer.Body.Close()
	var body bytes.Buffer
	_, _ = body.ReadFrom(answer.Body)
	return body.String()
}
