package tracking

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/fuzzing"
)

func TestTheScriptsOfACodeAreTakenOutOfIt(t *testing.T) {
	elements, err := Read(`<!-- Statistics -->
		<script async defer data-site="quarrow" class="x" src="https://stats.example/count.js?id=1&amp;v=2"></script>
		<script>window.q = window.q || []; q.push("a" < 1 ? "</b>" : 2)</script>
		<noscript><p>No script</p><img src="https://stats.example/pixel.gif"></noscript>
		<img src="//pixel.stats.example/p.gif" width="1">`)
	require.NoError(t, err)
	assert.Equal(t, []Element{
		{
			Kind: "script", Src: "https://stats.example/count.js?id=1&v=2",
			Attributes: [][2]string{{"async", ""}, {"defer", ""}, {"data-site", "quarrow"}},
		},
		{Kind: "script", Text: `window.q = window.q || []; q.push("a" < 1 ? "</b>" : 2)`},
		{Kind: "img", Src: "https://pixel.stats.example/p.gif"},
	}, elements)
	assert.Equal(t, []string{"stats.example", "pixel.stats.example"}, HostsOf(elements))
}

// The example of CSP Level 3, section 8.2 is of alert('Hello, world.'); from memory.
func TestAScriptIsNamedByItsDigestAsPoliciesDo(t *testing.T) {
	assert.Equal(t, "'sha256-qznLcsROx4GACP2dm0UCKCzCG+HiZ1guq6ZZDob/Tng='", Element{Text: "alert('Hello, world.');"}.Digest())
}

func TestWhatIsNoCodeIsRefusedWithWhatToDo(t *testing.T) {
	for code, says := range map[string]string{
		"":      "there is no script in this",
		"hello": "“hello” is none",
		`<form action="https://evil.example"><input></form>`: "take <form> out",
		`<a href="https://evil.example">Win</a>`:             "take <a> out",
		`<style>body{display:none}</style>`:                  "take <style> out",
		`<base href="https://evil.example/">`:                "take <base> out",
		`<meta http-equiv="refresh" content="0">`:            "take <meta> out",
		`<iframe src="https://evil.example"></iframe>`:       "take <iframe> out",
		`<script src="http://stats.example/x.js"></script>`:  "no address with https",
		`<script src="/media/x.js"></script>`:                "no address with https",
		`<script src="https://127.0.0.1/x.js"></script>`:     "no address with https",
		`<script src="https://localhost/x.js"></script>`:     "no address with https",
		`<script src="https://a.example:8080/x"></script>`:   "no address with https",
		`<script src="data:text/javascript,1"></script>`:     "no address with https",
		`<img src="https://stats.example/p" onload="x()">`:   "“onload” runs a script",
		`<img>`:                        "has no address",
		strings.Repeat("x", MaxCode+1): "at most 8,192 bytes",
	} {
		_, err := Read(code)
		assert.ErrorContains(t, err, says, code)
	}
}

func TestOnlyNamesOfHostsAreHosts(t *testing.T) {
	for text, want := range map[string]string{
		"stats.example": "stats.example", " https://Stats.Example/x ": "stats.example", "localhost": "", "10.0.0.1": "", "*.example": "",
		"a.example; script-src *": "", "'unsafe-inline'": "", "https://a:b@stats.example": "", "": "", "example": "", "a..example": "",
	} {
		assert.Equal(t, want, HostOf(text), text)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(`<script async src="https://stats.example/x.js"></script><script>a<!--b</script>`)
	f.Add(`<noscript><noscript></noscript><script>`)
	f.Fuzz(func(t *testing.T, code string) {
		fuzzing.Bounded(t, func() {
			elements, err := Read(code)
			if err != nil {
				return
			}
			for _, each := range elements {
				if each.Src != "" && HostOf(each.Src) == "" {
					t.Fatalf("%q comes from nowhere", each.Src)
				}
			}
		})
	})
}
