package render_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/render"
)

func withCodes(t *testing.T, codes ...page.TrackingCode) (text, policy string) {
	t.Helper()
	doc := document("Dates")
	doc.Codes = codes
	doc, err := page.Tidy(doc)
	require.NoError(t, err)
	running := visit
	running.Codes = true
	drawn, policy, err := render.Page(doc, running)
	require.NoError(t, err)
	return string(drawn), policy
}

func TestAPolicyLetsInTheHostsOfATrackingCodeAndNoOthers(t *testing.T) {
	code := page.TrackingCode{
		Key: "stats1", Name: "Kiln statistics", On: true, Hosts: []string{"collect.stats.example"},
		Code: `<script src="https://stats.example/count.js"></script><script>window.q=["</p>"]</script>`,
	}
	text, policy := withCodes(t, code)
	const hosts = "https://collect.stats.example https://stats.example"
	assert.Contains(t, policy, "img-src 'self' data: "+hosts+";")
	assert.Contains(t, policy, "; connect-src "+hosts)
	assert.Regexp(t, `script-src 'sha256-[^ ]+' 'sha256-[^ ]+' `+hosts, policy, "ours, the code's own, and its hosts")
	for _, not := range []string{"unsafe", "*", "frame-src", "http:"} {
		assert.NotContains(t, policy, not)
	}
	assert.Contains(t, text, "Kiln statistics")
	assert.Contains(t, text, ".ask button{", "the question has its looks")
	assert.Contains(t, text, `<button type="button" value="yes">Allow</button><button type="button" value="no">Refuse</button>`)
	assert.NotContains(t, text, `src="https://stats.example`, "nothing of it stands on the page as it was pasted")
	assert.NotContains(t, text, `["</p>"]`)

	code.Unasked = true
	text, _ = withCodes(t, code)
	assert.NotContains(t, text, "Allow", "nobody is asked for what need not ask")
	code.On = false
	text, policy = withCodes(t, code)
	assert.NotContains(t, text, "stats.example")
	assert.NotContains(t, policy, "script-src")
}

func TestNoTrackingCodeRunsWhereCodesAreNotLetIn(t *testing.T) {
	doc := document("Dates")
	doc.Codes = []page.TrackingCode{{
		Key: "stats1", Name: "Kiln statistics", On: true, Code: `<script src="https://stats.example/count.js"></script>`,
		Hosts: []string{"stats.example"}, Where: "head",
	}}
	drawn, policy, err := render.Page(doc, visit)
	require.NoError(t, err)
	assert.False(t, strings.Contains(string(drawn)+policy, "stats.example"))
	plain, _, err := render.PlainFile(doc, visit, func(string, string) string { return "" }, false)
	require.NoError(t, err)
	assert.NotContains(t, string(plain), "stats.example")
}
