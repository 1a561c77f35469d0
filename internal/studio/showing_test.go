package studio_test

import (
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

func TestAPageSaysHowItsTimedBlocksStandAndWhatIsWrongWithTheirTimes(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	save := func(revision int, spans ...window.Span) answer {
		return ilse.send("PUT", at+"/draft", withDocument(revision, func(doc *page.Document) {
			doc.Blocks = []page.Block{{
				Key: "sale", Kind: "button", Shown: true, Button: &page.Button{Title: "Seconds sale", Address: "https://kiln.example/"},
				Showing: page.Showing{When: &window.Times{Zone: "Europe/Lisbon", Spans: spans}},
			}}
		}))
	}
	soon := b.now.Add(48 * time.Hour)
	saved := save(1, window.Span{From: soon, To: soon.Add(time.Hour)})
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	part := saved.body["ribbon"].(map[string]any)["blocks"].(map[string]any)["sale"].(map[string]any)
	assert.Equal(t, "before", part["state"])
	assert.Equal(t, soon.Format(time.RFC3339), part["next"])
	assert.Equal(t, []any{map[string]any{"from": soon.Format(time.RFC3339), "to": soon.Add(time.Hour).Format(time.RFC3339)}}, part["spans"])

	refused := save(2, window.Span{From: soon, To: soon})
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "ends before it begins")
	over := save(2, window.Span{To: b.now.Add(-time.Hour)})
	part = over.body["ribbon"].(map[string]any)["blocks"].(map[string]any)["sale"].(map[string]any)
	assert.Equal(t, "over", part["state"])
	assert.NotContains(t, part, "next")
}

func TestAPageIsSeenAsOfAMomentAndFromASource(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := ilse.page()
	button := func(key string, showing page.Showing) page.Block {
		return page.Block{
			Key: key, Kind: "button", Shown: true, Showing: showing, Button: &page.Button{Title: key, Address: "https://kiln.example/" + key},
		}
	}
	friday := b.now.AddDate(0, 0, 4)
	saved := ilse.send("PUT", at+"/draft", withDocument(1, func(doc *page.Document) {
		doc.Blocks = []page.Block{
			button("dates", page.Showing{}), button("sale", page.Showing{When: &window.Times{Zone: "UTC", Spans: []window.Span{{From: friday}}}}),
			button("card", page.Showing{To: &page.SourceRule{Rule: "only", Sources: []string{"printed"}}}),
		}
	}))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	for query, want := range map[string][]any{
		"":                                   {"dates"},
		"?source=printed":                    {"dates", "card"},
		"?at=" + friday.Format(time.RFC3339): {"dates", "sale"},
		"?source=printed&at=" + friday.Format(time.RFC3339): {"dates", "sale", "card"},
	} {
		assert.Equal(t, want, ilse.send("GET", at+"/seen"+query, nil).body["blocks"], query)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("GET", at+"/seen?at=soon", nil).status)
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+"/seen", nil).status, "of another workspace")
}
