package shortlink

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/core/window"
)

// MaxListed is how many links can be made from one list.
const MaxListed = 1000

// Columns of a list. A list with a first row of these names may have them in any
// order; without one they come in this order, and those at the end may be left
// out. A link that is written and read again is the same but for the picture of
// its preview.
var Columns = []string{
	"destination", "short address", "name", "labels", "note", "fallback", "redirect", "on", "windows", "preview title",
	"preview text",
}

// several separates what there may be several of in one cell.
const several = "; "

// Entry is one row of a list. Wrong says what is wrong with it, and is empty when
// nothing is.
type Entry struct {
	Row     int // counted from 1, as a spreadsheet counts rows
	Address string
	Link    Link
	Wrong   string
}

// ErrTooLong is answered to a list of more than MaxListed rows.
var ErrTooLong = fmt.Errorf("a list has at most %d rows", MaxListed)

// ReadList reads a list of links to be made: comma-separated values (RFC 4180),
// or with tabs or semicolons, as spreadsheets copy and write them. One address a line is such a list
// too. A row that is wrong keeps none of the others from being read; one that
// cannot be told apart from the next ends the reading with a *csv.ParseError.
func ReadList(text string) ([]Entry, error) {
	reader := csv.NewReader(strings.NewReader(strings.TrimPrefix(text, "\ufeff")))
	reader.FieldsPerRecord, reader.TrimLeadingSpace = -1, true
	switch first, _, _ := strings.Cut(text, "\n"); {
	case strings.Contains(first, "\t"):
		// A tab is white space, and an empty cell is not to be taken for it.
		reader.Comma, reader.TrimLeadingSpace = '\t', false
	case hasSemicolons(text):
		reader.Comma = ';'
	}
	var entries []Entry
	order := Columns
	taken := make(map[string]int)
	for {
		cells, err := reader.Read()
		if errors.Is(err, io.EOF) {
			return entries, nil
		}
		if err != nil {
			return entries, err
		}
		row, _ := reader.FieldPos(0)
		if len(entries) == 0 && isHead(cells) {
			order = head(cells)
			continue
		}
		if len(entries) == MaxListed {
			return entries, ErrTooLong
		}
		entry := readEntry(row, order, cells)
		if entry.Wrong == "" && entry.Address != "" {
			if before, twice := taken[entry.Address]; twice {
				entry.Wrong = fmt.Sprintf("Row %d has this short address already.", before)
			}
			taken[entry.Address] = row
		}
		entries = append(entries, entry)
	}
}

// looksAt is how many rows are looked at to tell what stands between values.
const looksAt = 20

// hasSemicolons tells whether semicolons stand between the values of a list, as spreadsheets write them where a comma
// stands in numbers: as many in each of the first rows, and no comma in the first.
func hasSemicolons(text string) bool {
	rows := strings.SplitN(text, "\n", looksAt+1)
	if len(rows) > looksAt {
		rows = rows[:looksAt]
	}
	each := strings.Count(rows[0], ";")
	if each == 0 || strings.Contains(rows[0], ",") {
		return false
	}
	for _, row := range rows {
		if strings.TrimSpace(row) != "" && strings.Count(row, ";") != each {
			return false
		}
	}
	return len(rows) > 1 || isHead(strings.Split(rows[0], ";"))
}

// isHead tells a row of names from one of values: no destination is called like
// its column.
func isHead(cells []string) bool {
	for _, cell := range cells {
		if strings.EqualFold(strings.TrimSpace(cell), Columns[0]) {
			return true
		}
	}
	return false
}

func head(cells []string) []string {
	order := make([]string, len(cells))
	for i, cell := range cells {
		order[i] = strings.ToLower(strings.TrimSpace(cell))
	}
	return order
}

func readEntry(row int, order, cells []string) Entry {
	values := make(map[string]string)
	for i, cell := range cells {
		if i < len(order) {
			values[order[i]] = strings.TrimSpace(spreadsheet.Undefuse(strings.TrimSpace(cell)))
		}
	}
	entry := Entry{Row: row, Link: New(values["destination"])}
	entry.Link.Name, entry.Link.Note, entry.Link.Fallback = values["name"], values["note"], values["fallback"]
	entry.Link.Preview.Title, entry.Link.Preview.Text = values["preview title"], values["preview text"]
	if labels := values["labels"]; labels != "" {
		entry.Link.Labels = strings.FieldsFunc(labels, func(r rune) bool { return r == ';' || r == ',' })
	}
	var wrong invalid.List
	if short := values["short address"]; short != "" {
		// What was exported is a whole address; its last part is meant.
		short = short[strings.LastIndex(short, "/")+1:]
		var err error
		if entry.Address, err = address.ParseShortAddress(short); err != nil {
			wrong.Add("address", "%s", err)
		}
	}
	readFurther(values, &entry.Link, &wrong)
	link, err := entry.Link.Tidy()
	entry.Link = link
	if err != nil {
		wrong.Add("", "%s", err)
	}
	if err := wrong.Err(); err != nil {
		entry.Wrong = err.Error()
	}
	return entry
}

// readFurther reads the columns that are more than words.
func readFurther(values map[string]string, link *Link, wrong *invalid.List) {
	if code := values["redirect"]; code != "" {
		link.Redirect, _ = strconv.Atoi(code)
		if link.Redirect == 0 {
			link.Redirect = -1 // refused with the others that are none
		}
	}
	switch on := strings.ToLower(values["on"]); on {
	case "", "yes":
	case "no":
		link.On = false
	default:
		wrong.Add("on", "“%s” is neither yes nor no.", invalid.OneLine(on))
	}
	for text := range strings.SplitSeq(values["windows"], strings.TrimSpace(several)) {
		if strings.TrimSpace(text) == "" {
			continue
		}
		w, err := window.ParseInterval(text)
		if err != nil {
			wrong.Add("windows", "%s.", err)
			continue
		}
		link.Windows = append(link.Windows, w)
	}
}

// WriteRow writes a link as a row of a list under Columns, with texts that a
// spreadsheet would run defused.
func WriteRow(short string, link Link) []string {
	on := "yes"
	if !link.On {
		on = "no"
	}
	var windows []string
	for _, w := range link.Windows {
		windows = append(windows, w.Interval())
	}
	row := []string{
		link.Destination, short, link.Name, strings.Join(link.Labels, several), link.Note, link.Fallback,
		strconv.Itoa(link.Redirect), on, strings.Join(windows, several), link.Preview.Title, link.Preview.Text,
	}
	for i := range row {
		row[i] = spreadsheet.Defuse(row[i])
	}
	return row
}
