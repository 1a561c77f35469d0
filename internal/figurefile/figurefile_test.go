package figurefile_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/readings"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/figurefile"
)

func ExampleWriteTable() {
	table := readings.Table{Columns: []string{"button", "clicks", "rate"}, Rows: [][]any{
		{"Kiln opening dates", 12, 0.25}, {"=cmd(\"x\"), and more", 3, 0.0625},
	}}
	_ = figurefile.WriteTable(os.Stdout, figurefile.NDJSON, table)
	// Output:
	// {"button":"Kiln opening dates","clicks":12,"rate":0.25}
	// {"button":"=cmd(\"x\"), and more","clicks":3,"rate":0.0625}
}

// Source: RFC 4180, sections 2.1, 2.5 to 2.7: lines end in CRLF, fields with a comma, a quotation
// mark or a break of line are quoted, and quotation marks in them doubled.
func TestValuesAreWrittenAsRFC4180Says(t *testing.T) {
	var file bytes.Buffer
	table := readings.Table{Columns: []string{"a", "b"}, Rows: [][]any{{"x, \"y\"\nz", 1}, {"=1+1", 2}}}
	require.NoError(t, figurefile.WriteTable(&file, figurefile.CSV, table))
	assert.Equal(t, "a,b\r\n\"x, \"\"y\"\"\r\nz\",1\r\n'=1+1,2\r\n", file.String())
}

func TestWhatIsWrittenReadsTheSameAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := strings.ReplaceAll(rapid.String().Draw(t, "text"), "\r", "")
		n := rapid.Int().Draw(t, "number")
		table := readings.Table{Columns: []string{"text", "n"}, Rows: [][]any{{text, n}}}
		var values, objects bytes.Buffer
		require.NoError(t, figurefile.WriteTable(&values, figurefile.CSV, table))
		require.NoError(t, figurefile.WriteTable(&objects, figurefile.NDJSON, table))
		rows, err := csv.NewReader(&values).ReadAll()
		require.NoError(t, err)
		assert.Equal(t, text, spreadsheet.Undefuse(rows[1][0]))
		var read struct {
			Text string
			N    int
		}
		require.NoError(t, json.Unmarshal(objects.Bytes(), &read))
		assert.Equal(t, strings.ToValidUTF8(text, "\ufffd"), read.Text)
		assert.Equal(t, n, read.N)
		assert.Equal(t, 1, strings.Count(objects.String(), "\n"), "one object is one line")
	})
}
