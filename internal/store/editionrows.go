package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/pressly/goose/v3"
	"gorm.io/gorm"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/page"
	"jundle/internal/core/trial"
	"jundle/internal/core/window"
)

// EditionRow is something that visitors of an edition could press.
type EditionRow struct {
	PageID   uuid.UUID
	Edition  int
	Position int
	Key      string
	Title    string
	Kind     string
	Place    int
	// Showing is nil for what everybody is shown at any time.
	Showing *page.Showing `gorm:"serializer:json"`
}

func rowsOfEdition(pageID uuid.UUID, number int, document page.Document) []EditionRow {
	rows, timed := document.Rows(), document.Timetable().Rows
	kept := make([]EditionRow, len(rows))
	for i, row := range rows {
		kept[i] = EditionRow{
			PageID: pageID, Edition: number, Position: i, Key: row.Key, Title: row.Title, Kind: row.Kind, Place: row.Place,
			Showing: timed[i].Showing,
		}
	}
	return kept
}

// keepEdition stores an edition and its rows.
func keepEdition(tx *gorm.DB, edition *Edition) error {
	if err := tx.Create(edition).Error; err != nil {
		return err
	}
	rows := rowsOfEdition(edition.PageID, edition.Number, edition.Document)
	if len(rows) == 0 {
		return nil
	}
	return tx.Create(&rows).Error
}

// FormerTitles says what the last edition with them called rows of a page of a
// workspace.
func (s *Store) FormerTitles(ctx context.Context, workspace, pageID uuid.UUID, keys []string) (map[string]string, error) {
	titles := make(map[string]string, len(keys))
	if len(keys) == 0 {
		return titles, nil
	}
	rows, err := s.pool.Query(ctx, `
		select distinct on (key) key, title from edition_rows join pages on pages.id = page_id
		where workspace_id = $1 and page_id = $2 and key = any($3) order by key, edition desc`, workspace, pageID, keys)
	if err != nil {
		return nil, err
	}
	var key, title string
	_, err = pgx.ForEachRow(rows, []any{&key, &title}, func() error { titles[key] = title; return nil })
	return titles, err
}

// editionID names one edition of one page.
type editionID struct {
	page   uuid.UUID
	number int
}

// knownEditions is of how many editions the store remembers what could be pressed
// on them.
const knownEditions = 10_000

// editionsShown is what editions showed, as far as it was read.
type editionsShown map[editionID]*shownEdition

// on is what was shown on the editions of a page.
func (e editionsShown) on(pageID uuid.UUID) daily.Editions { return pageEditions{e, pageID} }

// pageEditions are those of one page.
type pageEditions struct {
	all  editionsShown
	page uuid.UUID
}

// Shown implements daily.Editions.
func (e pageEditions) Shown(number int, to audience.Audience) []string {
	if edition := e.all[editionID{e.page, number}]; edition != nil {
		return edition.keys(to)
	}
	return nil
}

// Trial implements daily.Editions.
func (e pageEditions) Trial(number int) *trial.Shown {
	if edition := e.all[editionID{e.page, number}]; edition != nil {
		return edition.Timetable.Trial
	}
	return nil
}

// shownEdition is what one edition showed, for one transaction. It remembers what it
// worked out last for each source: events of one time come together.
type shownEdition struct {
	page.Timetable
	// always are the keys of an edition on which everybody is shown the same at any
	// time; nil for any other.
	always []string
	latest map[string]shownFor
}

// shownFor is what could be pressed in a span of time.
type shownFor struct {
	from, until time.Time
	keys        []string
}

func newShownEdition(table page.Timetable) *shownEdition {
	if table.IsConstant() {
		return &shownEdition{Timetable: table, always: table.Keys(audience.Audience{})}
	}
	return &shownEdition{Timetable: table, latest: make(map[string]shownFor)}
}

func (e *shownEdition) keys(to audience.Audience) []string {
	if e.always != nil {
		return e.always
	}
	if known, ok := e.latest[to.Source]; ok && !to.At.Before(known.from) && to.At.Before(known.until) {
		return known.keys
	}
	shown := shownFor{to.At, e.Next(to.At), e.Keys(to)}
	e.latest[to.Source] = shown
	return shown.keys
}

// timetable is how a timetable is stored.
type timetable struct {
	Rows []struct {
		Key     string        `json:"key"`
		Showing *page.Showing `json:"showing"`
	} `json:"rows"`
	Trial *page.Trial `json:"trial"`
	Times *struct {
		Open      *window.Times   `json:"open"`
		Takeovers []page.Takeover `json:"takeovers"`
		Resting   *page.Resting   `json:"resting"`
	} `json:"times"`
}

func readTimetable(text []byte) (page.Timetable, error) {
	var read timetable
	if err := json.Unmarshal(text, &read); err != nil {
		return page.Timetable{}, err
	}
	table := page.Timetable{Rows: make([]page.TimedRow, len(read.Rows))}
	for i, row := range read.Rows {
		table.Rows[i] = page.TimedRow(row)
	}
	table.Trial = read.Trial.Shown()
	if read.Times != nil {
		table.Open, table.Takeovers, table.Resting = read.Times.Open, read.Times.Takeovers, read.Times.Resting != nil
	}
	return table, nil
}

// editionRows reads what editions of pages showed. One that is not there showed
// nothing. An edition never changes, so each is read once.
func (s *Store) editionRows(ctx context.Context, tx pgx.Tx, wanted map[editionID]bool) (editionsShown, error) {
	shown := make(editionsShown, len(wanted))
	var pages []uuid.UUID
	var numbers []int32
	for id := range wanted {
		if id.number == 0 {
			continue // a short link has none
		}
		if known, ok := s.timetables.Get(id); ok {
			shown[id] = newShownEdition(known)
			continue
		}
		pages, numbers = append(pages, id.page), append(numbers, int32(id.number))
	}
	if len(pages) == 0 {
		return shown, nil
	}
	rows, err := tx.Query(ctx, `
		select page_id, number, json_build_object('times', timetable, 'trial', trial, 'rows', (
			select coalesce(json_agg(json_build_object('key', key, 'showing', showing) order by position), '[]')
			from edition_rows where edition_rows.page_id = editions.page_id and edition = number))
		from editions where (page_id, number) in (select * from unnest($1::uuid[], $2::int[]))`, pages, numbers)
	if err != nil {
		return nil, err
	}
	var id editionID
	var text []byte
	_, err = pgx.ForEachRow(rows, []any{&id.page, &id.number, &text}, func() error {
		table, err := readTimetable(text)
		if err != nil {
			return err
		}
		shown[id] = newShownEdition(table)
		s.timetables.Add(id, table)
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("read what editions showed: %w", err)
	}
	return shown, nil
}

// fillEditionRows keeps the rows of editions from before there were any.
var fillEditionRows = goose.NewGoMigration(11, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, "select page_id, number from editions")
	if err != nil {
		return err
	}
	var all []editionID
	for rows.Next() {
		var id editionID
		if err := rows.Scan(&id.page, &id.number); err != nil {
			return err
		}
		all = append(all, id)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, id := range all {
		if err := fillEdition(ctx, tx, id); err != nil {
			return fmt.Errorf("edition %d of page %s: %w", id.number, id.page, err)
		}
	}
	return nil
}}, nil)

func fillEdition(ctx context.Context, tx *sql.Tx, id editionID) error {
	var text []byte
	err := tx.QueryRowContext(ctx, "select document from editions where page_id = $1 and number = $2", id.page, id.number).Scan(&text)
	if err != nil {
		return err
	}
	var document page.Document
	if err := json.Unmarshal(text, &document); err != nil {
		slog.Error("an edition cannot be read; it counts as having shown nothing", "page", id.page, "edition", id.number, "error", err)
		return nil
	}
	for _, row := range rowsOfEdition(id.page, id.number, document) {
		_, err := tx.ExecContext(ctx, `
			insert into edition_rows (page_id, edition, position, key, title, kind, place) values ($1, $2, $3, $4, $5, $6, $7)`,
			row.PageID, row.Edition, row.Position, row.Key, row.Title, row.Kind, row.Place)
		if err != nil {
			return err
		}
	}
	return nil
}
