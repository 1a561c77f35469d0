package figures

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// Shared is what somebody sees whom figures are shared with: sums with their labels.
type Shared struct {
	Name    string // of the page or the short link
	IsLink  bool   // a short link has clicks and no buttons
	Reading readings.Reading
	Buttons []Labelled
	Sources []Labelled
}

// Labelled is the figure of a button or a source.
type Labelled struct {
	Name  string
	Count int
	// AtLeast: there may be more, which nobody told us of.
	AtLeast bool
	Rate    readings.Rate
}

// Share makes a read-only address of the figures of a page or a short link, open for
// so many days, and answers the secret it is opened with: only its digest is kept.
func Share(ctx context.Context, s *store.Store, workspace, of uuid.UUID, forWhom string, days int, now time.Time) (
	store.SharedFigures, string, error,
) {
	var wrong invalid.List
	name := wrong.Line("name", "The name", forWhom, 60)
	if name == "" {
		wrong.Add("name", "Say whom it is for, so that you know later which to close.")
	}
	if err := wrong.Err(); err != nil {
		return store.SharedFigures{}, "", err
	}
	token := rand.Text()
	row, err := s.ShareFigures(ctx, workspace, of, name, token, now.AddDate(0, 0, days), now)
	return row, token, err
}

// ReadShared reads what is shared of a page or a short link of a workspace.
func ReadShared(ctx context.Context, s *store.Store, workspace, of uuid.UUID, span readings.Span) (Shared, error) {
	reading, err := rollup.Read(ctx, s, workspace, of, span)
	if err != nil {
		return Shared{}, err
	}
	shared, err := sharedOfPage(ctx, s, workspace, of, reading)
	if errors.Is(err, store.ErrNotFound) {
		return sharedOfLink(ctx, s, workspace, of, reading)
	}
	return shared, err
}

func sharedOfPage(ctx context.Context, s *store.Store, workspace, id uuid.UUID, reading readings.Reading) (Shared, error) {
	owner, err := s.Page(ctx, workspace, id)
	if err != nil {
		return Shared{}, err
	}
	sources, err := s.Sources(ctx, workspace, id)
	if err != nil {
		return Shared{}, err
	}
	edition, err := s.LiveEdition(ctx, workspace, id)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return Shared{}, err
	}
	return Shared{
		Name: cmp.Or(owner.Draft.Header.Name, owner.Address), Reading: reading,
		Buttons: sharedButtons(edition.Document, reading), Sources: sharedSources(sources, reading),
	}, nil
}

func sharedOfLink(ctx context.Context, s *store.Store, workspace, id uuid.UUID, reading readings.Reading) (Shared, error) {
	link, err := s.ShortLink(ctx, workspace, id)
	if err != nil {
		return Shared{}, err
	}
	shared := Shared{Name: link.Link.Name, IsLink: true, Reading: reading}
	for _, place := range reading.Unlisted {
		shared.Sources = append(shared.Sources, Labelled{Name: place.Name, Count: place.Figures.Clicks})
	}
	if untagged := reading.BySource[readings.Untagged]; untagged.Clicks > 0 {
		shared.Sources = append(shared.Sources, Labelled{Name: "Untagged", Count: untagged.Clicks})
	}
	return shared, nil
}

// sharedButtons are the buttons of the published page, and in one row what was hidden
// or deleted since: its clicks are in the total.
func sharedButtons(live page.Document, reading readings.Reading) []Labelled {
	byKey := make(map[string]readings.BlockFigures)
	for _, block := range reading.Blocks {
		byKey[block.Block] = block.Total
	}
	var rows []Labelled
	gone := 0
	for _, row := range Rows(live, nil, reading.Blocks) {
		if total := byKey[row.Key]; row.OnPage {
			rows = append(rows, Labelled{Name: row.Title, Count: total.Clicks, AtLeast: row.Plain, Rate: total.Rate})
		} else {
			gone += total.Clicks
		}
	}
	if gone > 0 {
		rows = append(rows, Labelled{Name: "No longer on the page", Count: gone})
	}
	return rows
}

func sharedSources(sources []store.Source, reading readings.Reading) []Labelled {
	var rows []Labelled
	add := func(key, name string) {
		if figures := reading.BySource[key]; figures.Visits > 0 {
			rows = append(rows, Labelled{Name: name, Count: figures.Visits, Rate: figures.ClickThrough})
		}
	}
	for _, source := range sources {
		add(source.ID.String(), source.Name)
	}
	add(readings.Unlisted, "Other places")
	add(readings.Untagged, "Untagged")
	return rows
}
