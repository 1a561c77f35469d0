package linkfile

import (
	"slices"
	"strings"

	"jundle/internal/core/address"
	"jundle/internal/core/destination"
	"jundle/internal/core/spreadsheet"
)

// None stands for a column that there is not.
const None = -1

// Mapping says which column of a table is what, from 0; None for what it has not.
type Mapping struct {
	Address int `json:"address"`
	Title   int `json:"title"`
	Note    int `json:"note"`
	Labels  int `json:"labels"`
	// Head: the first row names the columns.
	Head bool `json:"head"`
}

// Entry is one link of a file. Wrong says what is wrong with it, and is empty when
// nothing is.
type Entry struct {
	Line int
	destination.Destination
	Wrong string
}

// names are what columns are called in files that are around, by common practice.
var names = map[string][]string{
	"address": {"address", "url", "link", "href", "destination", "target", "website", "uri", "adresse", "lien", "enlace"},
	"title":   {"title", "name", "text", "button", "titel", "titre", "nom", "título", "nombre"},
	"note":    {"note", "notes", "description", "comment", "beschreibung", "notiz", "descripción"},
	"labels":  {"labels", "label", "tags", "tag", "category", "categories", "folder", "group"},
}

// Guess says what the columns of a table are by their names, and by what is in them.
func (t Table) Guess() Mapping {
	m := Mapping{None, None, None, None, false}
	if len(t.Rows) == 0 {
		return m
	}
	first := t.Rows[0].Cells
	named := func(what string) int {
		return slices.IndexFunc(first, func(cell string) bool {
			return slices.Contains(names[what], strings.ToLower(strings.TrimSpace(cell)))
		})
	}
	m.Head = !slices.ContainsFunc(first, looksLikeAddress) && (len(t.Rows) > 1 || named("address") >= 0)
	body := t.Rows
	if m.Head {
		body = t.Rows[1:]
		m.Address, m.Title, m.Note, m.Labels = named("address"), named("title"), named("note"), named("labels")
	}
	body = body[:min(len(body), sampled)]
	if m.Address == None {
		m.Address = most(body, len(first), looksLikeAddress)
	}
	if m.Title == None {
		free := func(column int) bool { return column != m.Address && column != m.Note && column != m.Labels }
		for column := range first {
			if free(column) && m.Address != None {
				m.Title = column
				break
			}
		}
	}
	return m
}

// most is the column in which most cells are like something; None when fewer than half.
func most(rows []Row, columns int, like func(string) bool) int {
	best, found := None, len(rows)/2
	for column := range columns {
		n := 0
		for _, row := range rows {
			if column < len(row.Cells) && like(row.Cells[column]) {
				n++
			}
		}
		if n > found {
			best, found = column, n
		}
	}
	return best
}

// looksLikeAddress tells addresses from words: those have a scheme, or a point and no blank.
func looksLikeAddress(cell string) bool {
	cell = strings.TrimSpace(cell)
	if !strings.Contains(cell, ".") && !strings.Contains(cell, ":") || strings.ContainsAny(cell, " \n") {
		return false
	}
	_, err := address.ParseTyped(cell)
	return err == nil
}

// Fits tells whether a table has the columns of a mapping.
func (m Mapping) Fits(t Table) bool {
	columns := 0
	for _, row := range t.Rows {
		columns = max(columns, len(row.Cells))
	}
	for _, column := range []int{m.Address, m.Title, m.Note, m.Labels} {
		if column < None || column >= columns {
			return false
		}
	}
	return m.Address != None
}

// Links reads the rows of a table as links.
func (t Table) Links(m Mapping) []Entry {
	rows := t.Rows
	if m.Head && len(rows) > 0 {
		rows = rows[1:]
	}
	entries := make([]Entry, 0, len(rows))
	for _, row := range rows {
		cell := func(column int) string {
			if column < 0 || column >= len(row.Cells) {
				return ""
			}
			return spreadsheet.Undefuse(strings.TrimSpace(row.Cells[column]))
		}
		labels := strings.FieldsFunc(cell(m.Labels), func(r rune) bool { return strings.ContainsRune(";,|", r) })
		entries = append(entries, entry(row.Line, cell(m.Address), cell(m.Title), cell(m.Note), labels))
	}
	return distinct(entries)
}

// entry is a link as it would be kept. What is too long of what is only said of it is cut.
func entry(line int, leads, title, note string, labels []string) Entry {
	made := Entry{Line: line, Destination: destination.Destination{
		Address: leads, Title: cut(title, destination.MaxTitle), Note: cut(note, destination.MaxNote), Labels: labels[:min(len(labels), 10)],
	}}
	for i := range made.Labels {
		made.Labels[i] = cut(strings.TrimSpace(made.Labels[i]), 24)
	}
	tidied, err := made.Tidy()
	if err != nil {
		made.Wrong = err.Error()
		return made
	}
	if tidied.Title == "" {
		if link, err := address.ParseLink(tidied.Address); err == nil {
			tidied.Title = cut(link.Name(), destination.MaxTitle)
		}
	}
	made.Destination = tidied
	return made
}

func cut(text string, most int) string {
	runes := []rune(text)
	return string(runes[:min(len(runes), most)])
}

// distinct notes links that are in a file twice.
func distinct(entries []Entry) []Entry {
	seen := make(map[string]bool, len(entries))
	for i := range entries {
		if entries[i].Wrong != "" {
			continue
		}
		if seen[entries[i].Address] {
			entries[i].Wrong = "This address is in the file before."
		}
		seen[entries[i].Address] = true
	}
	return entries
}
