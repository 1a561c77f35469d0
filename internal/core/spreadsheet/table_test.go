package spreadsheet_test

import (
	"bytes"
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/spreadsheet"
)

// RFC 4180 s2: lines end with CRLF, and a cell with a line break or a comma stands in quotation marks.
func TestATableIsWrittenAsTheStandardHasIt(t *testing.T) {
	at := time.Date(2026, 6, 2, 11, 0, 0, 0, time.FixedZone("", 3600))
	var out bytes.Buffer
	err := spreadsheet.Write(&out, []string{"when", "who", "own"}, func(write func(...string) error) error {
		return errors.Join(
			write(spreadsheet.Moment(&at), "Rolf, of the mill\nand son", spreadsheet.Yes(true)),
			write(spreadsheet.Moment(nil), "=1+1", spreadsheet.Yes(false)),
		)
	})
	require.NoError(t, err)
	assert.Equal(t, "when,who,own\r\n2026-06-02T10:00:00Z,\"Rolf, of the mill\r\nand son\",yes\r\n,'=1+1,\r\n", out.String())
}

func TestATableThatCannotBeFinishedSaysSo(t *testing.T) {
	gone := errors.New("the database is away")
	err := spreadsheet.Write(new(bytes.Buffer), []string{"who"}, func(func(...string) error) error { return gone })
	assert.ErrorIs(t, err, gone)
}
