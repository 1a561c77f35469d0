package studio_test

import (
	"bufio"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// follow opens the stream of new figures of a page.
func (b *browser) follow(page string) *http.Response {
	b.t.Helper()
	request, err := http.NewRequestWithContext(b.t.Context(), "GET", b.server.URL+"/api/pages/"+page+"/live", nil)
	require.NoError(b.t, err)
	request.Header.Set("Accept-Encoding", "gzip") // as browsers do
	answer, err := b.client.Do(request)
	require.NoError(b.t, err)
	b.t.Cleanup(func() { _ = answer.Body.Close() })
	return answer
}

// until reads a stream up to a line.
func until(t *testing.T, lines *bufio.Scanner, line string) {
	t.Helper()
	for lines.Scan() {
		if lines.Text() == line {
			return
		}
	}
	t.Fatalf("the stream ended before %q: %v", line, lines.Err())
}

func TestNewFiguresAreHeardOfByWhoFollowsThePage(t *testing.T) {
	ilse := open(t).browser()
	ilse.signUp("quarrow-clay")
	stream := ilse.follow(ilse.pageID())
	require.Equal(t, http.StatusOK, stream.StatusCode)
	assert.Equal(t, "text/event-stream", stream.Header.Get("Content-Type"))
	assert.Empty(t, stream.Header.Get("Content-Encoding"), "packed, it would wait until there is enough of it")
	assert.Equal(t, "no", stream.Header.Get("X-Accel-Buffering"))
	lines := bufio.NewScanner(stream.Body)
	until(t, lines, ": following")
	ilse.live.Changed(uuid.New())
	ilse.live.Changed(uuid.MustParse(ilse.pageID()))
	until(t, lines, "event: figures")
	ilse.live.End()
	until(t, lines, "data: new")
	for lines.Scan() {
		assert.False(t, strings.HasPrefix(lines.Text(), "event"), "of other pages nothing is said")
	}
}

func TestAMemberFollowsNoMoreThanTheirTabsWouldAndNobodyElsesPage(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	assert.Equal(t, http.StatusNotFound, rolf.follow(ilse.pageID()).StatusCode)
	var last *http.Response
	for range 12 {
		last = ilse.follow(ilse.pageID())
		require.Equal(t, http.StatusOK, last.StatusCode)
	}
	assert.Equal(t, http.StatusTooManyRequests, ilse.follow(ilse.pageID()).StatusCode)
	assert.Equal(t, http.StatusOK, rolf.follow(rolf.pageID()).StatusCode, "others go on")
	require.NoError(t, last.Body.Close())
	again := func() bool { return ilse.follow(ilse.pageID()).StatusCode == http.StatusOK }
	require.Eventually(t, again, 5*time.Second, 20*time.Millisecond, "a tab that is closed makes room")
}
