package page_test

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
)

// As the first version of the program stored a page.
const firstDocument = `{"header":{"name":"Quarrow Clay","line":"Wood-fired pots"},"blocks":[
	{"key":"kiln","kind":"button","shown":true,"button":{"title":"Kiln dates","address":"https://kiln.example/"}}]}`

func TestADocumentWithoutASchemaNumberGoesOnLookingAsItDid(t *testing.T) {
	var read page.Document
	require.NoError(t, json.Unmarshal([]byte(firstDocument), &read))
	assert.Equal(t, page.Schema, read.Schema)
	assert.Equal(
		t,
		page.Header{Name: "Quarrow Clay", Line: "Wood-fired pots", Shape: "circle", CoverHeight: "medium", Align: "centre"},
		read.Header,
	)
	assert.Equal(t, "above medium page", read.Icons.Place+" "+read.Icons.Size+" "+read.Icons.Colour)
	assert.Equal(t, "Kiln dates", read.Blocks[0].Button.Title)
	assert.NotEmpty(t, read.Look.Text)

	// What it meant then is written down once and for all, whatever the program begins
	// new pages with one day.
	defaults, err := os.ReadFile("schema/defaults_0.json")
	require.NoError(t, err)
	digest := sha256.Sum256(defaults)
	assert.Equal(t, "6f7595947e439866be3f888a0f80d74813b593e700674fb731aff47fc6762886", hex.EncodeToString(digest[:]))
}

func TestDatesAndWeeklyHoursOfAnOlderDocumentGoOnMeaningEither(t *testing.T) {
	const times = `{"zone":"UTC","spans":[{"from":"2026-12-07T00:00:00Z"}],"weekly":[{"days":["FR"],"from":"10:00","to":"18:00"}]}`
	const weekly = `{"zone":"UTC","weekly":[{"days":["FR"],"from":"10:00","to":"18:00"}]}`
	document := func(schema int) (read page.Document) {
		text := fmt.Sprintf(`{"schema":%d,"when":%s,"blocks":[{"key":"kiln","kind":"button","when":%s,"button":{}},
			{"key":"sale","kind":"button","when":%s,"button":{}}]}`, schema, times, times, weekly)
		require.NoError(t, json.Unmarshal([]byte(text), &read))
		return read
	}
	old, now := document(1), document(2)
	assert.True(t, old.When.Either)
	assert.True(t, old.Blocks[0].When.Either)
	assert.False(t, old.Blocks[1].When.Either, "there is but one of them")
	assert.False(t, now.When.Either)
	assert.False(t, now.Blocks[0].When.Either)
	assert.Equal(t, page.Schema, old.Schema)
}

func TestADocumentOfTodayIsReadAsItWasWritten(t *testing.T) {
	written, err := json.Marshal(pagetest.Everything())
	require.NoError(t, err)
	var read page.Document
	require.NoError(t, json.Unmarshal(written, &read))
	assert.Equal(t, pagetest.Everything(), read)
}

func TestADocumentOfANewerVersionIsNotMisread(t *testing.T) {
	var read page.Document
	require.ErrorContains(t, json.Unmarshal([]byte(`{"schema":99}`), &read), "schema 99")
	require.Error(t, json.Unmarshal([]byte(`{"schema":-1}`), &read))
	require.NoError(t, json.Unmarshal([]byte(`null`), &read))
}
