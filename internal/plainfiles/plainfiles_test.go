package plainfiles_test

import (
	"archive/zip"
	"bytes"
	"io"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/plainfiles"
)

func TestDatesAndPlacesGoOnInPlainFilesAndFormsStayBehind(t *testing.T) {
	doc := page.New()
	doc.Header.Name, doc.Blocks = "Quarrow Clay", pagetest.Only(pagetest.Everything(), "signup", "place", "dates").Blocks
	place, _ := doc.Find("place")
	place.Place.Map = nil // there are no files here to take along
	written := func(counted bool) map[string]string {
		var out bytes.Buffer
		site := plainfiles.Site{
			Document: doc, Origin: "https://pages.example", Address: "quarrow-clay", Edition: 3, At: pagetest.Moment, Counted: counted,
		}
		require.NoError(t, site.Write(t.Context(), nil, &out))
		archive, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
		require.NoError(t, err)
		files := make(map[string]string)
		for _, entry := range archive.File {
			from, err := entry.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(from)
			require.NoError(t, err)
			files[entry.Name] = string(text)
		}
		return files
	}
	alone := written(false)
	assert.Contains(t, alone["calendars/dates.ics"], "Winter opening")
	assert.Contains(t, alone["index.html"], `href="calendars/dates.ics"`)
	assert.Contains(t, alone["index.html"], `href="geo:51.5,-0.12"`)
	assert.NotContains(t, alone["index.html"], "<form")
	assert.Contains(t, written(true)["index.html"], `action="https://pages.example/quarrow-clay/-/3/signup"`)
}
