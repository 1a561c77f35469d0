package richtext_test

import (
	"fmt"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	xhtml "golang.org/x/net/html"

	"jundle/internal/core/invalid"
	"jundle/internal/core/richtext"
	"jundle/internal/fuzzing"
)

func TestOnlyBoldItalicLinksAndParagraphsAreKept(t *testing.T) {
	for name, c := range map[string]struct{ given, want string }{
		"plain text":             {"Two days at the wheel", "<p>Two days at the wheel</p>"},
		"bold and italic":        {"<b>Two</b> <i>days</i>", "<p><strong>Two</strong> <em>days</em></p>"},
		"both":                   {"<em><strong>Two</strong></em>", "<p><strong><em>Two</em></strong></p>"},
		"a link":                 {`<a href="kiln.example" onclick="x()">kiln</a>`, `<p><a href="https://kiln.example/">kiln</a></p>`},
		"paragraphs":             {"<p>One</p><div>Two<br>Three</div>", "<p>One</p><p>Two<br>Three</p>"},
		"a script":               {"<p>One<script>alert(1)</script></p>", "<p>One</p>"},
		"a handler":              {`<p onclick="alert(1)">One</p>`, "<p>One</p>"},
		"a picture with handler": {`<img src=x onerror=alert(1)>One`, "<p>One</p>"},
		"a style":                {`<style>p{color:red}</style><p style="color:red">One</p>`, "<p>One</p>"},
		"a form":                 {`<form><input value="x">One</form>`, "<p>One</p>"},
		"what looks like a tag":  {"1 &lt; 2 &amp; 3", "<p>1 &lt; 2 &amp; 3</p>"},
		"blanks":                 {"<p> One \n two </p><p> </p>", "<p>One two</p>"},
		"a drawing":              {`<svg><a href="javascript:alert(1)"><text>One</text></a></svg>Two`, "<p>Two</p>"},
		"headings":               {"<h1>One</h1>Two", "<p>One</p><p>Two</p>"},
		"empty":                  {"<p></p><br>", ""},
	} {
		parsed, _, err := richtext.Parse(c.given)
		require.NoError(t, err)
		assert.Equal(t, c.want, parsed.HTML(), name)
	}
}

func TestALinkThatMayNotBeLinkedIsRefusedWithItsReason(t *testing.T) {
	var problems invalid.List
	got := richtext.Tidy(&problems, "blocks/0/text/html", "The text", `<a href="javascript:alert(1)">press</a>`, 100)
	assert.Equal(t, "<p>press</p>", got)
	if assert.Len(t, problems, 1) {
		assert.Contains(t, problems[0].Message, "https, http, mailto, tel or sms")
	}
	problems = nil
	richtext.Tidy(&problems, "x", "The text", strings.Repeat("a", 101), 100)
	assert.Len(t, problems, 1)
}

func TestFormatsEndWhereTheyEndHoweverTheyAreNested(t *testing.T) {
	for given, want := range map[string]string{
		"<b>one <i>two</b> three</i> four": "<p><strong>one </strong><strong><em>two</em></strong><em> three</em> four</p>",
		`<a href="kiln.example">one<a href="clay.example">two</a>`: "" +
			`<p><a href="https://kiln.example/">one</a><a href="https://clay.example/">two</a></p>`,
		`<a href="kiln.example"><b>one</a> two</b>`: "" +
			`<p><a href="https://kiln.example/"><strong>one</strong></a><strong> two</strong></p>`,
		"<b>one<p>two</p></b>three":    "<p><strong>one</strong></p><p><strong>two</strong></p><p>three</p>",
		"</b></p>one</i>":              "<p>one</p>",
		"<svg><svg></svg>one</svg>two": "<p>two</p>",
	} {
		parsed, _, err := richtext.Parse(given)
		require.NoError(t, err)
		assert.Equal(t, want, parsed.HTML(), given)
	}
}

// Each of these took a parser that builds a tree seconds and gigabytes.
func TestMarkupThatExplodesIsReadOrRefusedInBoundedTime(t *testing.T) {
	for name, given := range map[string]string{
		"formats in formats":   strings.Repeat("<b><i><a href=x.example>", 2600) + "text",
		"tables in tables":     strings.Repeat("<table><tr><td>", 4000),
		"formats and blocks":   strings.Repeat("<b>", 60) + strings.Repeat("<p>x", 2500),
		"the longest there is": strings.Repeat("<b>x<p>", richtext.MaxBytes/7),
		"far too long":         strings.Repeat("<b><p>", 46_000),
		"one attribute":        "<a " + strings.Repeat("x=y ", 16_000) + ">",
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		var problems invalid.List
		begun := time.Now()
		stored := richtext.Tidy(&problems, "x", "The text", given, 3000)
		took := time.Since(begun)
		runtime.ReadMemStats(&after)
		t.Logf("%s, %d kB: %s, %d kB allocated", name, len(given)>>10, took.Round(100*time.Microsecond), (after.TotalAlloc-before.TotalAlloc)>>10)
		assert.Less(t, took, time.Second, name)
		assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(64<<20), name)
		if len(problems) == 0 {
			again := richtext.Tidy(&problems, "x", "The text", stored, 3000)
			assert.Equal(t, stored, again, name)
			assert.Empty(t, problems, name)
		}
	}
}

func ExampleParse() {
	text, _, _ := richtext.Parse(`Fired for <b>forty hours</b>, <a href="https://kiln.example/film">on film</a>.`)
	fmt.Println(text.PlainText())
	fmt.Println(text.Links()[0].Address)
	// Output:
	// Fired for forty hours, on film.
	// https://kiln.example/film
}

func FuzzParse(f *testing.F) {
	f.Add(`<p>One <b>two</b> <a href="https://kiln.example/">three</a></p>`)
	f.Add(`<svg><style><img src=x onerror=alert(1)></style></svg>`)
	f.Add(`<math><mtext><table><mglyph><style><!--</style><img title="--&gt;&lt;img src=1 onerror=alert(1)&gt;">`)
	f.Fuzz(func(t *testing.T, given string) {
		fuzzing.Bounded(t, func() {
			parsed, _, err := richtext.Parse(given)
			if err != nil {
				return
			}
			stored := parsed.HTML()
			again, refused, err := richtext.Parse(stored)
			if err != nil {
				return // Tidy refuses it
			}
			if again.HTML() != stored || len(refused) > 0 {
				t.Fatalf("%q is stored as %q and comes back as %q", given, stored, again.HTML())
			}
			root, err := xhtml.Parse(strings.NewReader(stored))
			if err != nil {
				t.Fatal(err)
			}
			for node := range root.Descendants() {
				if node.Type != xhtml.ElementNode {
					continue
				}
				if !strings.Contains(" html head body p br strong em a ", " "+node.Data+" ") {
					t.Fatalf("%q let a %s through", given, node.Data)
				}
				for _, attribute := range node.Attr {
					if attribute.Key != "href" || strings.HasPrefix(attribute.Val, "javascript") {
						t.Fatalf("%q let %s=%q through", given, attribute.Key, attribute.Val)
					}
				}
			}
		})
	})
}
