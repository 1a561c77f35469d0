package media_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/fuzzing"
	"jundle/internal/media"
)

func TestADrawingKeepsItsShapesAndLosesAllElse(t *testing.T) {
	kept, err := media.Drawing(
		[]byte(
			`<?xml version="1.0"?><!DOCTYPE svg><svg xmlns="http://www.w3.org/2000/svg" xmlns:x="http://www.w3.org/1999/xlink"
	width="48" height="24" onload="alert(1)">
		<title>A bowl &amp; a lid</title><script>alert(1)</script><style>*{fill:url(https://evil.example/x)}</style>
		<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/></linearGradient></defs>
		<path d="M0 0h24v24z" fill="url(#g)" onclick="alert(1)" style="fill:red" stroke="url(https://evil.example/)"/>
		<foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><img src="x" onerror="alert(1)"/></body></foreignObject>
		<use x:href="https://evil.example/a.svg#b"/><image href="https://evil.example/a.png"/><a href="javascript:alert(1)"><circle r="4"/></a>
		<animate attributeName="href" values="javascript:alert(1)"/></svg>`,
		),
	)
	require.NoError(t, err)
	assert.Equal(t, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 48 24" width="48" height="24"><title>A bowl &amp; a lid</title>`+
		`<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"></stop></linearGradient></defs>`+
		`<path d="M0 0h24v24z" fill="red"></path></svg>`, string(kept.Bytes))
	assert.Equal(t, 48, kept.Width)
	assert.Regexp(t, `^[0-9a-f]{64}\.svg$`, kept.Name)
}

func TestADrawingIsColouredByItsStyleSheets(t *testing.T) {
	for name, c := range map[string]struct{ given, kept string }{
		"a class":               {`<style>.a,.b{fill:#f00}.b{stroke:blue}</style><path class="b"/>`, `<path fill="#f00" stroke="blue">`},
		"an element and a name": {`<style>path{fill:red}#x{fill:#0f0}</style><path id="x"/>`, `<path id="x" fill="#0f0">`},
		"its own style": {
			`<style>.a{fill:red}</style><path class="a" style="fill:#00f;opacity:.5" fill="#fff"/>`,
			`<path fill="#00f" opacity=".5">`,
		},
		"a sheet in a section":    {`<style><![CDATA[ .a { fill : #123456 } ]]></style><path class="a"/>`, `<path fill="#123456">`},
		"a sheet that comes last": {`<path class="a"/><style>.a{fill:#abc}</style>`, `<path fill="#abc">`},
		"rules for print only":    {`<style>@media print{.a{fill:red}}.a{stroke:#000}</style><path class="a"/>`, `<path stroke="#000">`},
		"another document":        {`<style>.a{fill:url(https://evil.example/#x);stroke:#000}</style><path class="a"/>`, `<path stroke="#000">`},
		"no attribute of ours":    {`<style>.a{behavior:url(x);background:red}</style><path class="a"/>`, `<path>`},
	} {
		kept, err := media.Drawing([]byte("<svg>" + c.given + "</svg>"))
		require.NoError(t, err, name)
		assert.Contains(t, string(kept.Bytes), c.kept, name)
		assert.Empty(t, kept.LeftOut, name)
	}
}

func TestPartsOfADrawingAreShownAgainAndNeverUnfold(t *testing.T) {
	kept, err := media.Drawing([]byte(`<svg xmlns:x="http://www.w3.org/1999/xlink"><defs><path id="a" d="M0 0"/></defs>` +
		`<use x:href="#a" x="5" id="again"/><use href="https://evil.example/#a"/></svg>`))
	require.NoError(t, err)
	assert.Contains(t, string(kept.Bytes), `<use href="#a" x="5"></use></svg>`)
	assert.Equal(t, []string{"use"}, kept.LeftOut)

	nested := `<svg id="all"><path id="a0"/>`
	for n := 1; n < 12; n++ {
		nested += fmt.Sprintf(`<g id="a%d">%s</g>`, n, strings.Repeat(fmt.Sprintf(`<use href="#a%d"/>`, n-1), 10))
	}
	kept, err = media.Drawing([]byte(nested + `<use href="#all"/></svg>`))
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(string(kept.Bytes), "<use"), "parts that are referred to refer to no others")
	assert.NotContains(t, string(kept.Bytes), `id="all"`)
}

func TestWhatSomebodyMightMissOfADrawingIsNamed(t *testing.T) {
	kept, err := media.Drawing([]byte(`<svg><metadata/><path/><text>Quarrow</text><g><image href="a.png"/><text/></g></svg>`))
	require.NoError(t, err)
	assert.Equal(t, []string{"text", "image"}, kept.LeftOut)
}

func TestWhatIsNoDrawingIsRefused(t *testing.T) {
	for name, upload := range map[string]string{
		"nothing": "", "text": "a <svg", "no shape": "<svg></svg>", "not closed": "<svg><path d='M0 0'/>",
		"a page": "<html><svg><path/></svg></html>",
		"two":    "<svg><path/></svg><svg/>", "unfolding": `<!DOCTYPE s [<!ENTITY a "aaaa">]><svg><title>&a;</title><path/></svg>`,
		"too large": "<svg><path/></svg>" + strings.Repeat(" ", 200<<10),
	} {
		_, err := media.Drawing([]byte(upload))
		assert.ErrorIs(t, err, media.ErrNoDrawing, name)
	}
}

func FuzzDrawing(f *testing.F) {
	f.Add([]byte(`<svg viewBox="0 0 24 24"><path d="M0 0h24v24z" fill="url(#a)"/><script>x</script></svg>`))
	f.Add([]byte(`<svg xmlns:a="javascript:x"><g fill="&#117;rl(http://x)"><circle r="1" a:href="b"/></g></svg>`))
	f.Fuzz(func(t *testing.T, upload []byte) {
		fuzzing.Bounded(t, func() {
			kept, err := media.Drawing(upload)
			if err != nil {
				return
			}
			again, err := media.Drawing(kept.Bytes)
			if err != nil || !bytes.Equal(again.Bytes, kept.Bytes) {
				t.Fatalf("%q comes back as %q (%v)", kept.Bytes, again.Bytes, err)
			}
			decoder := xml.NewDecoder(bytes.NewReader(kept.Bytes))
			for {
				token, err := decoder.Token()
				if errors.Is(err, io.EOF) {
					return
				}
				if err != nil {
					t.Fatal(err)
				}
				element, ok := token.(xml.StartElement)
				if !ok {
					continue
				}
				if slices.Contains([]string{"script", "style", "foreignObject", "image", "a", "animate"}, element.Name.Local) {
					t.Fatalf("%q let %s through", upload, element.Name.Local)
				}
				for _, attribute := range element.Attr {
					if strings.HasPrefix(attribute.Name.Local, "on") || strings.Contains(attribute.Name.Local,
						"href") || strings.Contains(attribute.Value, "//") && attribute.Name.Local != "xmlns" {
						t.Fatalf("%q let %s=%q through", upload, attribute.Name.Local, attribute.Value)
					}
				}
			}
		})
	})
}

func TestAFilmIsTakenByItsFirstBytesAlone(t *testing.T) {
	for want, upload := range map[string][]byte{
		".mp4":  append([]byte("\x00\x00\x00\x18ftypisom"), make([]byte, 100)...),
		".webm": append([]byte("\x1a\x45\xdf\xa3\x9fB\x86\x81\x01B\x82\x84webm"), make([]byte, 100)...),
	} {
		ending, err := media.FilmEnding(upload)
		require.NoError(t, err)
		assert.Equal(t, want, ending)
	}
	for _, upload := range []string{"", "<html><script>alert(1)</script>", "GIF89a", "\x00\x00\x00\x18moov"} {
		_, err := media.FilmEnding([]byte(upload))
		assert.ErrorIs(t, err, media.ErrNoFilm, upload)
	}
	for name, want := range map[string]string{
		"a.mp4": "video/mp4", "a.webm": "video/webm", "a.svg": "image/svg+xml",
		"a.bin": "application/octet-stream", "a.html": "application/octet-stream",
	} {
		assert.Equal(t, want, media.ContentType(name))
	}
}
