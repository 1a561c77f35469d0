package archive

import (
	"errors"
	"io"

	"jundle/internal/core/shortlink"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// WriteLinks writes short links as a list that can be read again
// (shortlink.ReadList).
func WriteLinks(to io.Writer, links []store.ShortLink) error {
	rows := [][]string{shortlink.Columns}
	for _, link := range links {
		rows = append(rows, shortlink.WriteRow(link.Address(), link.Link))
	}
	return writeCSV(to, rows)
}

// links writes every short link as it is kept, and each with its events and
// figures.
func (w *writer) links(links []store.ShortLink) error {
	out, err := w.create("short-links.csv")
	if err != nil {
		return err
	}
	if err := WriteLinks(out, links); err != nil {
		return err
	}
	for _, link := range links {
		if err := errors.Join(w.link(link), w.step()); err != nil {
			return err
		}
	}
	return nil
}

func (w *writer) link(link store.ShortLink) error {
	below := "short-links/" + link.Address() + "/"
	if err := w.json(below+"link.json", recordOfLink(link)); err != nil {
		return err
	}
	if err := w.events(below+"events.ndjson", link.ID); err != nil {
		return err
	}
	sums, err := rollup.AllSums(w.ctx, w.store, w.workspace, link.ID)
	if err != nil {
		return err
	}
	return w.figures(below, sums, map[string]string{"": "untagged"}, nil)
}
