package faults_test

import (
	"fmt"
	"net/http"
	"os/exec"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/freeport"
	"jundle/internal/store/storetest"
)

// beside is the same program on the same folder and database, on ports of its own.
func (p *program) beside() *program {
	other := *p
	listen := freeport.For(p.t)
	other.public, other.said = "http://"+listen, &output{}
	other.env = append(append([]string(nil), p.env...), "JUNDLE_PUBLIC_LISTEN="+listen, "JUNDLE_STUDIO_LISTEN="+freeport.For(p.t))
	file, err := built()
	require.NoError(p.t, err)
	other.process = exec.Command(file, "serve")
	other.process.Env, other.process.Stderr = other.env, other.said
	require.NoError(p.t, other.process.Start())
	p.t.Cleanup(func() {
		if other.process.ProcessState == nil {
			other.kill()
		}
	})
	return &other
}

func TestASecondProcessOnTheSameFolderRefusesToStartAndSaysWhy(t *testing.T) {
	t.Parallel()
	p := newProgram(t, storetest.Migrated(t))
	p.start()
	second := p.beside()
	err := second.process.Wait()
	require.Error(t, err)
	assert.Contains(t, second.said.String(), "waiting for it to end")
	assert.Contains(t, second.said.String(), "another process uses the folder")
	assert.Contains(t, second.said.String(), "JUNDLE_DATA_DIR")
	for i := range 300 {
		require.Equal(t, http.StatusFound, ask(fmt.Sprintf("%s/quarrow-clay/-/1/kiln/loft?utm_content=n%d", p.public, i)))
	}
	require.Eventually(t, func() bool { return len(p.presses(t)) == 300 }, 20*time.Second, 100*time.Millisecond,
		"the first lost nothing by it")
}

func TestAnOverlappingRestartLosesNothing(t *testing.T) {
	t.Parallel()
	p := newProgram(t, storetest.Migrated(t))
	p.start()
	answered := map[string]bool{}
	press := func(at string) bool {
		number := fmt.Sprintf("n%d", len(answered))
		ok := ask(at+"/quarrow-clay/-/1/kiln/loft?utm_content="+number) == http.StatusFound
		answered[number] = ok
		return ok
	}
	for range 200 {
		require.True(t, press(p.public))
	}
	second := p.beside()
	require.Eventually(t, func() bool { return strings.Contains(second.said.String(), "waiting for it to end") }, 20*time.Second,
		20*time.Millisecond)
	for range 200 {
		require.True(t, press(p.public), "the first goes on")
	}
	require.NoError(t, p.process.Process.Signal(syscall.SIGTERM))
	for press(p.public) { // until it takes no more
	}
	require.Eventually(t, func() bool { return press(second.public) }, 30*time.Second, 10*time.Millisecond, "the second takes over")
	for range 200 {
		require.True(t, press(second.public))
	}
	require.NoError(t, p.process.Wait(), "the first ended in good order")
	want := 0
	for _, ok := range answered {
		if ok {
			want++
		}
	}
	var stored map[string]int
	assert.Eventually(t, func() bool {
		stored = second.presses(t)
		for number, ok := range answered {
			if ok && stored[number] != 1 {
				return false
			}
		}
		return true
	}, 30*time.Second, 100*time.Millisecond)
	t.Logf("overlapping restart: %d answered presses, %d in the table", want, len(stored))
}
