// Package partner holds what a partner counted against what we did: it reads a partner's report, day by
// day and by destination or sub-id, and says where the two differ by more than is normal.
package partner

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"jundle/internal/core/linkfile"
	"jundle/internal/core/spreadsheet"
)

// DayFormat is how a report writes days.
type DayFormat string

// Formats of days.
const (
	ISO        DayFormat = "iso" // 2026-06-30, ISO 8601, also 20260630 and with a time after it
	DayFirst   DayFormat = "dmy" // 30/06/2026, 30.6.2026
	MonthFirst DayFormat = "mdy" // 06/30/2026
)

// ReportMapping says which columns of a report are which, from 0.
type ReportMapping struct {
	Day     int       `json:"day"`
	Subject int       `json:"subject" doc:"Destination, or sub-id."`
	Clicks  int       `json:"clicks"`
	Days    DayFormat `json:"days" enum:"iso,dmy,mdy" doc:"How days are written."`
}

// Count is how often a partner saw a click on something on a day.
type Count struct {
	Day     string // YYYY-MM-DD
	Subject string // as it stands in the report, an address or a sub-id
	Clicks  int
}

// WrongRow is a row of a report that cannot be read.
type WrongRow struct {
	Line   int    `json:"line"`
	Reason string `json:"reason"`
}

// maxSubject is how long what is counted may be called, in bytes.
const maxSubject = 2048

// maxClicks is how many clicks of one day are believed.
const maxClicks = 100_000_000

// Guess says what the columns of a report are, by what stands in them; -1 for what is not found.
func Guess(table linkfile.Table) ReportMapping {
	m := ReportMapping{-1, -1, -1, ISO}
	rows := body(table)
	rows = rows[:min(len(rows), 100)]
	columns := 0
	for _, row := range rows {
		columns = max(columns, len(row.Cells))
	}
	all := func(column int, is func(string) bool) bool {
		isNot := func(row linkfile.Row) bool { return column >= len(row.Cells) || !is(row.Cells[column]) }
		return len(rows) > 0 && !slices.ContainsFunc(rows, isNot)
	}
	for column := range columns {
		switch {
		case m.Day < 0 && slices.ContainsFunc([]DayFormat{ISO, DayFirst, MonthFirst}, func(format DayFormat) bool {
			m.Days = format
			return all(column, func(cell string) bool { _, err := ParseDay(cell, format); return err == nil })
		}):
			m.Day = column
		case m.Clicks < 0 && all(column, func(cell string) bool { _, err := parseClicks(cell); return err == nil }):
			m.Clicks = column
		case m.Subject < 0:
			m.Subject = column
		}
	}
	if m.Day < 0 {
		m.Days = ISO
	}
	return m
}

// HasHead tells whether the first row of a table names its columns: there is no number in it.
func HasHead(table linkfile.Table) bool {
	return len(table.Rows) > 0 && !slices.ContainsFunc(table.Rows[0].Cells, func(cell string) bool {
		_, err := parseClicks(cell)
		return err == nil
	})
}

func body(table linkfile.Table) []linkfile.Row {
	if HasHead(table) {
		return table.Rows[1:]
	}
	return table.Rows
}

// Fits tells whether a table has the columns of a mapping, each for one thing.
func (m ReportMapping) Fits(table linkfile.Table) bool {
	columns := 0
	for _, row := range table.Rows {
		columns = max(columns, len(row.Cells))
	}
	for _, column := range []int{m.Day, m.Subject, m.Clicks} {
		if column < 0 || column >= columns {
			return false
		}
	}
	return m.Day != m.Subject && m.Day != m.Clicks && m.Subject != m.Clicks
}

// Read reads the counts of a report; several of one thing on one day are added up. Rows that cannot be
// read are named, and take no part.
func Read(table linkfile.Table, m ReportMapping) (counts []Count, wrong []WrongRow) {
	type of struct{ day, subject string }
	at := make(map[of]int)
	for _, row := range body(table) {
		cell := func(column int) string {
			if column < 0 || column >= len(row.Cells) {
				return ""
			}
			return spreadsheet.Undefuse(strings.TrimSpace(row.Cells[column]))
		}
		day, err := ParseDay(cell(m.Day), m.Days)
		if err != nil {
			wrong = append(wrong, WrongRow{row.Line, err.Error()})
			continue
		}
		clicks, err := parseClicks(cell(m.Clicks))
		if err != nil {
			wrong = append(wrong, WrongRow{row.Line, err.Error()})
			continue
		}
		subject := cell(m.Subject)
		if subject == "" || len(subject) > maxSubject {
			wrong = append(wrong, WrongRow{row.Line, "There is no destination or sub-id in it, or one that is too long."})
			continue
		}
		key := of{day, subject}
		if i, there := at[key]; there {
			counts[i].Clicks += clicks
			continue
		}
		at[key] = len(counts)
		counts = append(counts, Count{day, subject, clicks})
	}
	return counts, wrong
}

// ParseDay reads a day and writes it as YYYY-MM-DD.
func ParseDay(text string, format DayFormat) (string, error) {
	text, _, _ = strings.Cut(strings.TrimSpace(text), " ")
	text, _, _ = strings.Cut(text, "T")
	layouts := map[DayFormat][]string{
		ISO: {"2006-01-02", "20060102", "2006/01/02"}, DayFirst: {"2/1/2006", "2.1.2006", "2-1-2006", "2/1/06", "2.1.06"},
		MonthFirst: {"1/2/2006", "1-2-2006", "1/2/06"},
	}[format]
	for _, layout := range layouts {
		if day, err := time.Parse(layout, text); err == nil && day.Year() >= 2000 && day.Year() < 2100 {
			return day.Format(time.DateOnly), nil
		}
	}
	return "", fmt.Errorf("“%s” is no day as they are written in this report", cut(text))
}

// parseClicks reads a whole number, with marks between thousands.
func parseClicks(text string) (int, error) {
	plain := strings.NewReplacer(",", "", "'", "", "\u2019", "", " ", "", "\u00a0", "", "\u202f", "").Replace(strings.TrimSpace(text))
	plain = strings.TrimSuffix(plain, ".0")
	n, err := strconv.Atoi(plain)
	if err != nil || n < 0 || n > maxClicks {
		return 0, fmt.Errorf("“%s” is no number of clicks", cut(text))
	}
	return n, nil
}

// cut keeps a message short, whatever stands in a file.
func cut(text string) string {
	if runes := []rune(strings.ToValidUTF8(text, "\ufffd")); len(runes) > 40 {
		return string(runes[:40]) + "…"
	}
	return strings.ToValidUTF8(text, "\ufffd")
}
