package faults_test

import (
	"fmt"
	"io"
	"net/http"
	"regexp"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var (
	// titled is what the buttons of an edition are called, and leads where they lead.
	titled = regexp.MustCompile(`Edition (\d+), button`)
	leads  = regexp.MustCompile(`href="(/quarrow-clay/-/(\d+)/[a-z0-9]+)"`)
)

// read opens the page and says which edition it is; it fails when parts of it are of
// another.
func read(t *testing.T, origin string) (number string, press string) {
	request, err := http.NewRequest(http.MethodGet, origin+"/quarrow-clay", nil)
	require.NoError(t, err)
	request.Header.Set("User-Agent", "Mozilla/5.0 (Linux; Android 15; K) Mobile")
	answer, err := visitors.Do(request)
	if !assert.NoError(t, err) {
		return "", ""
	}
	defer answer.Body.Close()
	body, err := io.ReadAll(answer.Body)
	assert.NoError(t, err)
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	titles, addresses := titled.FindAllSubmatch(body, -1), leads.FindAllSubmatch(body, -1)
	if !assert.Len(t, titles, 12) || !assert.Len(t, addresses, 12) {
		return "", ""
	}
	number = string(titles[0][1])
	for i := range titles {
		assert.Equal(t, number, string(titles[i][1]), "no mixture of two editions")
		assert.Equal(t, number, string(addresses[i][2]), "and what is pressed is of the same")
	}
	return number, string(addresses[0][1])
}

// Fifty visitors a second read a page on two processes, and press a button of it, while
// it is published five times a second.
func TestNobodyGetsAMixtureOfEditionsWhileAPageIsPublished(t *testing.T) {
	t.Parallel()
	database := storetest.Migrated(t)
	first := newProgram(t, database)
	second := first.on(database, first.media)
	s, err := store.Open(t.Context(), database)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	member, err := s.MemberByEmail(t.Context(), "ilse@quarrow.example")
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	first.start()
	second.start()
	revision := pages[0].Revision
	publish := func(number int) {
		doc := page.New()
		for i := range 12 {
			doc.Blocks = append(doc.Blocks, page.Block{Key: fmt.Sprintf("kiln%02d", i), Kind: "button", Shown: true, Button: &page.Button{
				Title: fmt.Sprintf("Edition %d, button %d", number, i), Address: fmt.Sprintf("https://kiln.example/%d/%d", number, i),
			}})
		}
		saved, err := s.SaveDraft(t.Context(), member.WorkspaceID, pages[0].ID, revision, doc)
		require.NoError(t, err)
		revision = saved.Revision
		published, err := s.Publish(t.Context(), member.WorkspaceID, member.ID, saved.ID, store.Publishing{Revision: revision}, time.Now())
		require.NoError(t, err)
		require.Equal(t, number, published.LiveEdition)
	}
	publish(2)

	var readers sync.WaitGroup
	var pagesRead, presses atomic.Int64
	ended := make(chan struct{})
	for _, origin := range []string{first.public, second.public} {
		readers.Go(func() {
			visit := time.NewTicker(time.Second / 25)
			defer visit.Stop()
			var each sync.WaitGroup
			defer each.Wait()
			for {
				select {
				case <-ended:
					return
				case <-visit.C:
					each.Go(func() {
						if number, press := read(t, origin); number != "" {
							pagesRead.Add(1)
							assert.Equal(t, http.StatusFound, ask(origin+press), "a press of an edition that is no longer the present one leads, too")
							presses.Add(1)
						}
					})
				}
			}
		})
	}
	const last = 32
	for number := 3; number <= last; number++ {
		publish(number)
		time.Sleep(200 * time.Millisecond)
	}
	close(ended)
	readers.Wait()
	for _, origin := range []string{first.public, second.public} {
		require.Eventually(t, func() bool { number, _ := read(t, origin); return number == fmt.Sprint(last) }, 2*time.Second, 20*time.Millisecond)
	}
	t.Logf("%d pages read and %d presses, while %d editions were published", pagesRead.Load(), presses.Load(), last-2)
	assert.Greater(t, pagesRead.Load(), int64(150))
	first.kill()
	second.kill()
}
