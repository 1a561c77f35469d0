// Package archive writes everything there is of a workspace into one zip of
// plain files, so that nobody can keep a creator's data from them: what was made
// as JSON, raw events as NDJSON, figures as CSV (RFC 4180), files as they are.
//
// README.txt in the zip says what is what.
package archive

import (
	"archive/zip"
	"cmp"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"strconv"
	"time"

	"github.com/google/uuid"

	"jundle/internal/app/bookings"
	"jundle/internal/app/payments"
	"jundle/internal/app/signups"
	"jundle/internal/core/daily"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/files"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

const readme = `Everything Jundle holds of this workspace.

workspace.json                 zone, members, how long raw events are kept, and the
                               version of these files (2)
pages/ADDRESS/page.json        the working copy of a page
pages/ADDRESS/editions.json    every published edition
pages/ADDRESS/sources.json     sources with their tags, present and past
pages/ADDRESS/trials.json      the latest trials, and what came of them
pages/ADDRESS/partners.json    what partners counted, as it was taken in
pages/ADDRESS/events.ndjson    raw events, one a line: kept for the time that is
                               set, flagged with why they do not count (bits: 1
                               crawler, 2 preview, 4 prefetch, 8 own, 32 flood)
pages/ADDRESS/figures.csv      views, visits, visitors and clicks by day, source,
                               evidence and device
pages/ADDRESS/buttons.csv      clicks, takers and reach by day, button, source
                               and device; the key is what names a button in
                               page.json and events.ndjson
short-links.csv                every short link, as a list that can be read again
short-links/ADDRESS/           a short link with everything that is kept of it,
                               and its events and figures, as for a page; what
                               stands for a button is where visitors were led
sign-ups.csv                   people who left their e-mail address, with what they
                               agreed to
payments.csv                   what visitors paid, with the word they wrote with it
bookings.csv                   times that visitors asked for, with the words they wrote with them
journal.ndjson                 who did what, and when, for a year
destinations.ndjson            addresses that buttons, icons and links lead to, one
                               a line: where each leads now and led before; the
                               other files name them by destinationId
media/                         pictures and files

No address of a visitor is in here, because none is stored.
`

// Write writes the zip. A reader of what it wrote before an error sees a broken
// zip and no half of one. Progress, unless nil, hears how many of its parts are
// written, and may end it.
func Write(ctx context.Context, s *store.Store, kept *files.Files, workspace uuid.UUID, to io.Writer,
	progress func(done, of int) error,
) error {
	if progress == nil {
		progress = func(int, int) error { return nil }
	}
	w := &writer{ctx: ctx, store: s, files: kept, workspace: workspace, zip: zip.NewWriter(to), progress: progress}
	if err := w.all(); err != nil {
		return fmt.Errorf("export the workspace: %w", err)
	}
	return w.zip.Close()
}

type writer struct {
	ctx       context.Context
	store     *store.Store
	files     *files.Files
	workspace uuid.UUID
	zip       *zip.Writer
	progress  func(done, of int) error
	done, of  int
}

// step says that one more part is written.
func (w *writer) step() error {
	w.done++
	return w.progress(w.done, w.of)
}

func (w *writer) all() error {
	if err := w.file("README.txt", []byte(readme)); err != nil {
		return err
	}
	about, err := w.store.Workspace(w.ctx, w.workspace)
	if err != nil {
		return err
	}
	members, err := w.store.MembersOf(w.ctx, w.workspace)
	if err != nil {
		return err
	}
	emails := make([]string, len(members))
	for i, member := range members {
		emails[i] = member.Email
	}
	if err := w.json("workspace.json", workspaceRecord{
		Version: version, Zone: about.Zone, CreatedAt: about.CreatedAt, KeepEventsDays: about.KeepDays, Members: emails,
	}); err != nil {
		return err
	}
	pages, err := w.store.Pages(w.ctx, w.workspace)
	if err != nil {
		return err
	}
	links, err := w.store.ShortLinks(w.ctx, w.workspace)
	if err != nil {
		return err
	}
	names, err := w.store.MediaNames(w.ctx, w.workspace)
	if err != nil {
		return err
	}
	w.of = len(pages) + len(links) + len(names)
	for _, page := range pages {
		if err := errors.Join(w.page(page), w.step()); err != nil {
			return err
		}
	}
	if err := errors.Join(w.links(links), w.destinations(), w.signUps(), w.payments(), w.bookings(), w.journal()); err != nil {
		return err
	}
	for _, name := range names {
		if err := errors.Join(w.media(name), w.step()); err != nil {
			return err
		}
	}
	return nil
}

// destinations writes every destination, one a line.
func (w *writer) destinations() error {
	out, err := w.create("destinations.ndjson")
	if err != nil {
		return err
	}
	lines := json.NewEncoder(out)
	return w.store.EachDestination(w.ctx, w.workspace, func(one store.Destination, led []store.FormerAddress) error {
		return lines.Encode(
			destinationRecord{one.ID, one.Address, one.Title, one.Note, one.Labels, one.CreatedAt, led, one.Swaps, one.MergedInto},
		)
	})
}

// signUps writes those who left their e-mail address.
func (w *writer) signUps() error {
	out, err := w.create("sign-ups.csv")
	if err != nil {
		return err
	}
	return signups.WriteTable(w.ctx, w.store, w.workspace, out)
}

// payments writes what visitors paid.
func (w *writer) payments() error {
	out, err := w.create("payments.csv")
	if err != nil {
		return err
	}
	return payments.WriteTable(w.ctx, w.store, w.workspace, out)
}

// bookings writes the times that visitors asked for.
func (w *writer) bookings() error {
	out, err := w.create("bookings.csv")
	if err != nil {
		return err
	}
	return bookings.WriteTable(w.ctx, w.store, w.workspace, out)
}

// journal writes who did what, one entry a line, the latest first.
func (w *writer) journal() error {
	out, err := w.create("journal.ndjson")
	if err != nil {
		return err
	}
	lines := json.NewEncoder(out)
	var last store.JournalEntry
	for {
		entries, err := w.store.Journal(w.ctx, w.workspace, last, journalAtOnce)
		if err != nil {
			return err
		}
		for _, one := range entries {
			record := journalRecord{one.Who, one.Did, one.PageID, one.Page, one.Subject, one.FirstAt, one.LastAt, one.Times}
			if err := lines.Encode(record); err != nil {
				return err
			}
			last = one
		}
		if len(entries) < journalAtOnce {
			return nil
		}
	}
}

// journalAtOnce is how many entries are held in memory.
const journalAtOnce = 500

// media copies a file as it is.
func (w *writer) media(name string) error {
	file, err := w.files.Find(w.ctx, name)
	if errors.Is(err, store.ErrGone) || errors.Is(err, store.ErrNotFound) {
		return nil // it was deleted a moment ago
	}
	if err != nil {
		return err
	}
	from, err := file.Open(w.ctx, 0, -1)
	if err != nil {
		return err
	}
	defer from.Close()
	to, err := w.create("media/" + name)
	if err != nil {
		return err
	}
	_, err = io.Copy(to, from)
	return err
}

// editions writes every edition of a page as one JSON object, by number, one at a
// time. It returns what each button was called at last.
func (w *writer) editions(name string, pageID uuid.UUID) (titles map[string]string, err error) {
	titles = make(map[string]string)
	to, err := w.create(name)
	if err != nil {
		return nil, err
	}
	before := "{"
	err = w.store.EachEdition(w.ctx, w.workspace, pageID, 0, func(edition store.Edition) error {
		text, err := json.MarshalIndent(recordOfEdition(edition), "  ", "  ")
		if err == nil {
			_, err = fmt.Fprintf(to, "%s\n  \"%d\": %s", before, edition.Number, text)
		}
		before = ","
		maps.Copy(titles, edition.Document.Titles())
		return err
	})
	if err == nil && before == "{" {
		_, err = io.WriteString(to, "{")
	}
	if err == nil {
		_, err = io.WriteString(to, "\n}\n")
	}
	return titles, err
}

func (w *writer) page(page store.Page) error {
	below := "pages/" + page.Address + "/"
	titles, err := w.editions(below+"editions.json", page.ID)
	if err != nil {
		return err
	}
	maps.Copy(titles, page.Draft.Titles())
	sources, err := w.store.Sources(w.ctx, w.workspace, page.ID)
	if err != nil {
		return err
	}
	for name, value := range map[string]any{"page.json": page.Draft, "sources.json": recordsOfSources(sources)} {
		if err := w.json(below+name, value); err != nil {
			return err
		}
	}
	if err := w.trials(below, page.ID); err != nil {
		return err
	}
	if err := w.partners(below, page.ID); err != nil {
		return err
	}
	if err := w.events(below+"events.ndjson", page.ID); err != nil {
		return err
	}
	sums, err := rollup.AllSums(w.ctx, w.store, w.workspace, page.ID)
	if err != nil {
		return err
	}
	names := map[string]string{"": "untagged"}
	for _, source := range sources {
		names[source.ID.String()] = source.Name
	}
	return w.figures(below, sums, names, titles)
}

func (w *writer) events(name string, pageID uuid.UUID) error {
	out, err := w.create(name)
	if err != nil {
		return err
	}
	lines := json.NewEncoder(out)
	return w.store.EachEvent(w.ctx, w.workspace, pageID, func(event store.Event) error { return lines.Encode(recordOfEvent(event)) })
}

// figures writes what was counted. Sources go by their names, and buttons by
// their titles, where they have any.
func (w *writer) figures(below string, sums daily.Sums, names, titles map[string]string) error {
	name := func(key string) string {
		if name, ok := names[key]; ok {
			return name
		}
		return key
	}
	pages := [][]string{{"day", "source", "evidence", "device", "views", "visits", "visitors", "clicks", "visits with a click"}}
	for _, r := range sums.Pages {
		pages = append(pages, row(r.Day, name(r.Source), string(r.Evidence), string(r.Device), r.Views, r.Visits, r.Visitors, r.Clicks,
			r.ClickedVisits))
	}
	if err := w.csv(below+"figures.csv", pages); err != nil {
		return err
	}
	blocks := [][]string{{"day", "button", "key", "source", "device", "clicks", "takers", "reach"}}
	for _, r := range sums.Blocks {
		blocks = append(
			blocks,
			row(r.Day, cmp.Or(titles[r.Block], r.Block), r.Block, name(r.Source), string(r.Device), r.Clicks, r.Takers, r.Reach),
		)
	}
	return w.csv(below+"buttons.csv", blocks)
}

func row(cells ...any) []string {
	texts := make([]string, len(cells))
	for i, cell := range cells {
		switch cell := cell.(type) {
		case int:
			texts[i] = strconv.Itoa(cell)
		case string:
			texts[i] = spreadsheet.Defuse(cell)
		}
	}
	return texts
}

func (w *writer) create(name string) (io.Writer, error) {
	return w.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: time.Now().UTC()})
}

func (w *writer) file(name string, data []byte) error {
	out, err := w.create(name)
	if err == nil {
		_, err = out.Write(data)
	}
	return err
}

func (w *writer) json(name string, value any) error {
	data, err := json.MarshalIndent(value, "", "  ")
	if err != nil {
		return err
	}
	return w.file(name, data)
}

func (w *writer) csv(name string, rows [][]string) error {
	out, err := w.create(name)
	if err != nil {
		return err
	}
	return writeCSV(out, rows)
}

func writeCSV(to io.Writer, rows [][]string) error {
	lines := csv.NewWriter(to)
	lines.UseCRLF = true
	return lines.WriteAll(rows)
}
