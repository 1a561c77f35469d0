package public_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/costs"
)

// What a request without an account may cost: the processor's time and the memory it takes, whatever page the
// limits allow.
var publicBound = costs.Bound{Milliseconds: 100, Megabytes: 50}

func TestNoRequestOfAVisitorCostsMoreThanItMay(t *testing.T) {
	if testing.Short() {
		t.Skip("it measures")
	}
	s := withTill(t)
	doc, err := page.Tidy(pagetest.Costliest())
	require.NoError(t, err)
	doc.Blocks = append(doc.Blocks, signUp("You may write."), page.Block{Key: "tip1", Kind: "payment", Shown: true, Payment: &page.Payment{
		Title: "A tip", Currency: "EUR", Amounts: []int64{300, 500},
	}})
	doc.Blocks = doc.Blocks[2:]
	doc.Blocks = append(doc.Blocks, talk(func(b *page.Booking) { b.Minutes, b.Ahead = 15, 365 }))[1:]
	s.source("Card", "card")
	s.publishDocument(doc)
	edition := s.page.LiveEdition
	_, err = s.store.ShareFigures(t.Context(), s.member.WorkspaceID, s.page.ID, "The gallery", "shared", now.AddDate(0, 0, 30), now)
	require.NoError(t, err)
	require.NoError(t, s.store.PreviewPage(t.Context(), s.member.WorkspaceID, s.page.ID, "secret", now.Add(time.Hour), now))

	requests := map[string]func(){}
	get := func(path string) {
		requests["GET "+path] = func() {
			s.server.Forget(s.page.ID) // as whoever comes first after a change
			assert.Less(t, s.get(path).Code, 500, path)
		}
	}
	for _, path := range []string{
		"/quarrow-clay", "/quarrow-clay/card", "/quarrow-clay?lang=de", "/quarrow-clay/card?lang=fr", "/quarrow-clay/unknown",
		"/quarrow-clay?find=glazes", "/quarrow-clay?find=zzz&lang=pl", "/nobody", "/robots.txt", "/sitemap.xml", "/favicon.ico",
		fmt.Sprintf("/quarrow-clay/-/%d/text0050.1", edition), fmt.Sprintf("/quarrow-clay/-/%d/letter01", edition),
		fmt.Sprintf("/quarrow-clay/-/%d/letter01?lang=it", edition), fmt.Sprintf("/quarrow-clay/-/%d/tip1", edition),
		fmt.Sprintf("/quarrow-clay/-/%d/talk01", edition), fmt.Sprintf("/quarrow-clay/-/%d/talk01?after=2026-09-01", edition),
		fmt.Sprintf("/-/sharing/quarrow-clay/%d.png", edition), "/-/figures/shared", "/-/figures/shared?range=90d",
		"/-/preview/secret", "/-/preview/secret?lang=de&at=2026-12-24T00:00:00Z",
		"/-/paid/" + strings.Repeat("A", 200), "/-/booking/" + strings.Repeat("A", 200), "/-/sign-up/" + strings.Repeat("A", 200),
	} {
		get(path)
	}
	post := func(key string, form url.Values) {
		path := fmt.Sprintf("/quarrow-clay/-/%d/%s", edition, key)
		requests["POST "+path+" "+form.Encode()[:min(40, len(form.Encode()))]] = func() { s.send(path, "192.0.2.7", form) }
	}
	post("letter01", left("rolf@kiln.example"))
	post("letter01", url.Values{"address": {strings.Repeat("x", 8000)}})
	post("tip1", url.Values{"amount": {"500"}})
	post("talk01", wish(tuesday))
	post("talk01", url.Values{"word": {strings.Repeat("x", 8000)}})

	costs.Hold(t, publicBound, requests)
}

func TestDrawingEveryTagInEveryLanguageLeavesAProcessorToOthers(t *testing.T) {
	s := open(t)
	doc, err := page.Tidy(pagetest.Costliest())
	require.NoError(t, err)
	tags := []string{""}
	for i := range 8 {
		tags = append(tags, s.source(fmt.Sprint("Source ", i), fmt.Sprint("source-", i)).Tags[0].Tag)
	}
	s.publishDocument(doc)
	var visitors sync.WaitGroup
	for _, tag := range tags {
		for _, lang := range []string{"en", "de", "fr"} {
			visitors.Go(func() {
				path := strings.TrimSuffix("/quarrow-clay/"+tag, "/") + "?lang=" + lang
				answer := s.get(path)
				assert.Equal(t, http.StatusOK, answer.Code, path)
				want := "/text0050.1?"
				if tag != "" {
					want = "/text0050.1/" + tag + "?"
				}
				assert.Contains(t, answer.Body.String(), want+"lang="+lang, path)
				assert.Equal(t, tag != "", strings.Contains(answer.Body.String(), "/"+firstOf(tag, "source-")), path)
			})
		}
	}
	visitors.Wait()
}
