package spreadsheet

import (
	"encoding/csv"
	"errors"
	"io"
	"time"
)

// Write writes a table as RFC 4180 has it: a line of heads, and a line for each call of write, its cells defused.
func Write(to io.Writer, heads []string, each func(write func(cells ...string) error) error) error {
	lines := csv.NewWriter(to)
	lines.UseCRLF = true
	if err := lines.Write(heads); err != nil {
		return err
	}
	err := each(func(cells ...string) error {
		for i := range cells {
			cells[i] = Defuse(cells[i])
		}
		return lines.Write(cells)
	})
	lines.Flush()
	return errors.Join(err, lines.Error())
}

// Moment is a moment in a cell (RFC 3339, in UTC); empty for none.
func Moment(at *time.Time) string {
	if at == nil {
		return ""
	}
	return at.UTC().Format(time.RFC3339)
}

// Yes is whether something is so in a cell; empty for no.
func Yes(is bool) string {
	if is {
		return "yes"
	}
	return ""
}
