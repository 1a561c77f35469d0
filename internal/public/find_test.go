package public_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/page"
)

func (s *site) publishLong(search bool) {
	s.t.Helper()
	var blocks []page.Block
	for i := range 34 {
		blocks = append(blocks, button(fmt.Sprintf("b%03d", i), fmt.Sprintf("https://kiln.example/%d", i)))
		blocks[i].Button.Title = fmt.Sprintf("Töpfe %d", i)
	}
	blocks[7].Button.Title = `Kiln <dates>`
	doc := document(blocks)
	doc.Search = search
	s.publishDocument(doc)
}

func TestALongPageIsSearchedByAPlainForm(t *testing.T) {
	s := open(t)
	s.publishLong(true)
	whole := s.get("/quarrow-clay")
	assert.Contains(t, whole.Body.String(), `<form class="search" role="search" action="/quarrow-clay">`)
	assert.NotContains(t, whole.Body.String(), `role="status"`)
	assert.Contains(t, whole.Header().Get("Content-Security-Policy"), "form-action 'self'")

	found := s.get("/quarrow-clay?find=" + url.QueryEscape(`kiln <DATES>`))
	assert.Equal(t, http.StatusOK, found.Code)
	assert.Equal(t, "no-store", found.Header().Get("Cache-Control"))
	assert.Equal(t, "noindex", found.Header().Get("X-Robots-Tag"))
	body := found.Body.String()
	assert.Contains(t, body, "1 of 34 found.")
	assert.Contains(t, body, `value="kiln &lt;DATES&gt;"`)
	assert.Equal(t, 1, strings.Count(body, `class="title"`))
	assert.Contains(t, body, `/quarrow-clay/-/1/b007`, "what is found is counted as ever")
	assert.Contains(t, s.get("/quarrow-clay?find=topfe").Body.String(), "33 of 34 found.")
	assert.Contains(t, s.get("/quarrow-clay?find=glaze").Body.String(), "0 of 34 found.")
	assert.Equal(t, whole.Body.String(), s.get("/quarrow-clay?find=+").Body.String(), "nothing looked for is the whole page")
	long := s.get("/quarrow-clay?find=" + strings.Repeat("x", 5000))
	assert.NotContains(t, long.Body.String(), strings.Repeat("x", page.MaxFind+1))
}

func TestAPageIsNotSearchedUnlessItIsLongAndWantsIt(t *testing.T) {
	s := open(t)
	s.publishLong(false)
	whole := s.get("/quarrow-clay")
	assert.NotContains(t, whole.Body.String(), `role="search"`)
	assert.Contains(t, whole.Header().Get("Content-Security-Policy"), "form-action 'none'")
	assert.Equal(t, whole.Body.String(), s.get("/quarrow-clay?find=kiln").Body.String())
}
