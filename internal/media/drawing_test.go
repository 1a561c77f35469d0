package media_test

import (
	"bytes"
	"encoding/xml"
	"errors"
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
	kept, err := media.Drawing([]byte(`<?xml version="1.0"?><!DOCTYPE svg><svg xmlns="http://www.w3.org/2000/svg" xmlns:x="http://www.w3.org/1999/xlink" width="48" height="24" onload="alert(1)">
		<title>A bowl &amp; a lid</title><script>alert(1)</script><style>*{fill:url(https://evil.example/x)}</style>
		<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/></linearGradient></defs>
		<path d="M0 0h24v24z" fill="url(#g)" onclick="alert(1)" style="fill:red" stroke="url(https://evil.example/)"/>
		<foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><img src="x" onerror="alert(1)"/></body></foreignObject>
		<use x:href="https://evil.example/a.svg#b"/><image href="https://evil.example/a.png"/><a href="javascript:alert(1)"><circle r="4"/></a>
		<animate attributeName="href" values="javascript:alert(1)"/></svg>`))
	require.NoError(t, err)
	assert.Equal(t, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 48 24" width="48" height="24"><title>A bowl &amp; a lid</title>`+
		`<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"></stop></linearGradient></defs><path d="M0 0h24v24z" fill="url(#g)"></path></svg>`, string(kept.Bytes))
	assert.Equal(t, 48, kept.Width)
	assert.Regexp(t, `^[0-9a-f]{64}\.svg$`, kept.Name)
}

func TestWhatIsNoDrawingIsRefused(t *testing.T) {
	for name, upload := range map[string]string{
		"nothing": "", "text": "a <svg", "no shape": "<svg></svg>", "not closed": "<svg><path d='M0 0'/>", "a page": "<html><svg><path/></svg></html>",
		"two": "<svg><path/></svg><svg/>", "unfolding": `<!DOCTYPE s [<!ENTITY a "aaaa">]><svg><title>&a;</title><path/></svg>`, "too large": "<svg><path/></svg>" + strings.Repeat(" ", 200<<10),
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
				if slices.Contains([]string{"script", "style", "foreignObject", "image", "use", "a", "animate"}, element.Name.Local) {
					t.Fatalf("%q let %s through", upload, element.Name.Local)
				}
				for _, attribute := range element.Attr {
					if strings.HasPrefix(attribute.Name.Local, "on") || strings.Contains(attribute.Name.Local, "href") || strings.Contains(attribute.Value, "//") && attribute.Name.Local != "xmlns" {
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
	for name, want := range map[string]string{"a.mp4": "video/mp4", "a.webm": "video/webm", "a.svg": "image/svg+xml", "a.bin": "application/octet-stream", "a.html": "application/octet-stream"} {
		assert.Equal(t, want, media.ContentType(name))
	}
}
