package linkfile

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

// Table is a table as it was found.
type Table struct {
	// Delimiter stands between values, Quote around those that need it.
	Delimiter, Quote rune
	Rows             []Row
}

// Row is one row; Line is the one it begins on, from 1.
type Row struct {
	Line  int
	Cells []string
}

var delimiters = []rune{',', ';', '\t', '|'}

// ErrTooMany is answered for a file with more rows than are read.
var ErrTooMany = fmt.Errorf("a file has at most %d rows", MaxRows)

// sampled is how many rows tell what a table is like.
const sampled = 100

// ReadTable reads a table whose delimiter and quotation mark are found out: those by which
// most rows have as many values as each other, and more than one. A file with one value a
// line is a table of one column. The error is a *PlaceError.
func ReadTable(text string) (Table, error) {
	best := Table{Delimiter: ',', Quote: quoteOf(text)}
	bestScore := 0
	for _, delimiter := range delimiters {
		rows, err := read(text, delimiter, best.Quote, sampled)
		score := likeness(rows)
		if err != nil && score == 0 {
			score = 1 // it is a table, and a broken one
		}
		if score > bestScore {
			best.Delimiter, bestScore = delimiter, score
		}
	}
	if bestScore == 0 {
		best.Delimiter = 0 // one column: a comma in an address is part of it
	}
	var err error
	best.Rows, err = Read(text, best.Delimiter, best.Quote)
	if err == nil && len(best.Rows) > MaxRows+1 {
		err = ErrTooMany
	}
	return best, err
}

// quoteOf is the mark that stands beside delimiters more often; apostrophes are
// everywhere else.
func quoteOf(text string) rune {
	sample := "\n" + text[:min(len(text), 50_000)] + "\n"
	double, single := 0, 0
	for _, beside := range append(delimiters, '\n') {
		double += strings.Count(sample, string(beside)+`"`) + strings.Count(sample, `"`+string(beside))
		single += strings.Count(sample, string(beside)+`'`) + strings.Count(sample, `'`+string(beside))
	}
	if single > double && single > 3 {
		return '\''
	}
	return '"'
}

// likeness is how much rows look like those of a table; 0 for none at all.
func likeness(rows []Row) int {
	columns := make(map[int]int)
	most, width := 0, 0
	for _, row := range rows {
		n := len(row.Cells)
		columns[n]++
		if n > 1 && columns[n] > most {
			most, width = columns[n], n
		}
	}
	if most*2 <= len(rows) {
		return 0 // what is in some lines only is no delimiter
	}
	return most*1000/len(rows) + width
}

// Read reads a table whose delimiter and quotation mark are known. The error is a
// *PlaceError.
func Read(text string, delimiter, quote rune) ([]Row, error) {
	return read(text, delimiter, quote, MaxRows+2)
}

// read reads rows, at most so many; those that are empty are passed over.
func read(text string, delimiter, quote rune, most int) ([]Row, error) {
	r := &reader{text: text, delimiter: delimiter, quote: quote, line: 1, column: 1}
	var rows []Row
	for len(rows) < most {
		row, more, err := r.row()
		if err != nil || !more {
			return rows, err
		}
		if len(row.Cells) > 1 || row.Cells[0] != "" {
			rows = append(rows, row)
		}
	}
	return rows, nil
}

// reader reads a table character by character and knows where it is.
type reader struct {
	text             string
	delimiter, quote rune
	line, column     int
}

const end = rune(-1)

func (r *reader) peek() rune {
	if r.text == "" {
		return end
	}
	c, _ := utf8.DecodeRuneInString(r.text)
	return c
}

func (r *reader) next() rune {
	c, size := utf8.DecodeRuneInString(r.text)
	r.text = r.text[size:]
	r.column++
	if c == '\n' {
		r.line, r.column = r.line+1, 1
	}
	return c
}

func (r *reader) row() (row Row, more bool, err error) {
	if r.peek() == end {
		return row, false, nil
	}
	row.Line = r.line
	for {
		if len(row.Cells) == MaxColumns {
			return row, false, r.wrong("there are more than 100 columns")
		}
		cell, err := r.cell()
		if err != nil {
			return row, false, err
		}
		row.Cells = append(row.Cells, cell)
		switch r.peek() {
		case end:
			return row, true, nil
		case '\n':
			r.next()
			return row, true, nil
		}
		r.next() // the delimiter
	}
}

func (r *reader) wrong(reason string) error { return &PlaceError{r.line, r.column, reason} }

// cell reads one value, and stops before what ends it.
func (r *reader) cell() (string, error) {
	if r.peek() == r.quote {
		return r.quoted()
	}
	var out strings.Builder
	for c := r.peek(); c != end && c != '\n' && c != r.delimiter; c = r.peek() {
		out.WriteRune(r.next())
	}
	return strings.TrimSpace(out.String()), nil
}

// quoted reads a value between quotation marks, in which a doubled one is one (RFC 4180,
// section 2, 7).
func (r *reader) quoted() (string, error) {
	opened := r.wrong("the quotation mark that opens here is not closed")
	r.next()
	var out strings.Builder
	for {
		switch c := r.peek(); {
		case c == end:
			return "", opened
		case c != r.quote:
			out.WriteRune(r.next())
			continue
		}
		r.next()
		if r.peek() != r.quote {
			break
		}
		out.WriteRune(r.next())
	}
	for r.peek() == ' ' {
		r.next()
	}
	if c := r.peek(); c != end && c != '\n' && c != r.delimiter {
		return "", r.wrong("a value goes on behind the quotation mark that closes it")
	}
	return out.String(), nil
}
