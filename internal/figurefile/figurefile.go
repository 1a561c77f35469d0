// Package figurefile writes figures and raw events as files that anybody can read: as values
// separated by commas (RFC 4180, UTF-8, texts defused as OWASP advises against CSV injection),
// and as one JSON object a line (NDJSON).
package figurefile

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"strconv"

	"jundle/internal/core/readings"
	"jundle/internal/core/spreadsheet"
)

// Format is how a file is written.
type Format string

// The formats.
const (
	CSV    Format = "csv"
	NDJSON Format = "ndjson"
)

// MediaType is that of the format.
func (f Format) MediaType() string {
	if f == CSV {
		return "text/csv; charset=utf-8"
	}
	return "application/x-ndjson"
}

// Writer writes rows under named columns.
type Writer struct {
	columns []string
	lines   *csv.Writer // of CSV
	out     io.Writer   // of NDJSON
}

// NewWriter begins a file.
func NewWriter(to io.Writer, format Format, columns []string) (*Writer, error) {
	w := &Writer{columns: columns, out: to}
	if format == CSV {
		w.lines = csv.NewWriter(to)
		w.lines.UseCRLF = true
		return w, w.lines.Write(columns)
	}
	return w, nil
}

// Row writes a row: of every column a string, an int, a float64 or a bool.
func (w *Writer) Row(cells ...any) error {
	if w.lines == nil {
		return w.object(cells)
	}
	texts := make([]string, len(cells))
	for i, cell := range cells {
		switch cell := cell.(type) {
		case string:
			texts[i] = spreadsheet.Defuse(cell)
		case int:
			texts[i] = strconv.Itoa(cell)
		case float64:
			texts[i] = strconv.FormatFloat(cell, 'f', -1, 64)
		case bool:
			texts[i] = strconv.FormatBool(cell)
		default:
			return fmt.Errorf("write a row: %T is no cell", cell)
		}
	}
	return w.lines.Write(texts)
}

// object writes a row with its columns in order.
func (w *Writer) object(cells []any) error {
	var line bytes.Buffer
	for i, cell := range cells {
		name, err := json.Marshal(w.columns[i])
		if err != nil {
			return err
		}
		value, err := json.Marshal(cell)
		if err != nil {
			return err
		}
		if i == 0 {
			line.WriteByte('{')
		} else {
			line.WriteByte(',')
		}
		line.Write(name)
		line.WriteByte(':')
		line.Write(value)
	}
	line.WriteString("}\n")
	_, err := w.out.Write(line.Bytes())
	return err
}

// Close writes what is not written yet.
func (w *Writer) Close() error {
	if w.lines == nil {
		return nil
	}
	w.lines.Flush()
	return w.lines.Error()
}

// WriteTable writes a whole table.
func WriteTable(to io.Writer, format Format, table readings.Table) error {
	w, err := NewWriter(to, format, table.Columns)
	if err != nil {
		return err
	}
	for _, row := range table.Rows {
		if err := w.Row(row...); err != nil {
			return err
		}
	}
	return w.Close()
}
