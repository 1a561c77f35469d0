package figures

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/source"
	"jundle/internal/store"
)

// BlockDetail is one block of a page with its history.
type BlockDetail struct {
	readings.Detail
	BySource   map[string]readings.BlockFigures // whichever source is asked for
	FirstDays  readings.FirstDays
	Placements []store.Placement
	Edits      []Edit
}

// Known tells whether it was ever on the page, or has figures.
func (d BlockDetail) Known() bool { return d.FirstDays.Since != "" || len(d.BySource) > 0 }

// Edit is what changed for a block, and its rate before and after.
type Edit struct {
	store.Edit
	readings.Around
}

// editSpan is how far before and after a span rates around edits are looked at.
const editSpan = 35 * 24 * time.Hour

// Block reads one block of a page of a workspace in a span, from one source unless that is empty.
func Block(ctx context.Context, s *store.Store, workspace, pageID uuid.UUID, block, from string, span readings.Span, now time.Time) (
	BlockDetail, error,
) {
	var d BlockDetail
	zone := span.From().Location()
	rows, err := s.BlockRows(ctx, workspace, pageID, block, span.From().Add(-editSpan), span.To().Add(editSpan))
	if err != nil {
		return d, err
	}
	sums := daily.Sums{Blocks: rows}
	d.Detail, d.BySource = readings.OfBlock(span, sums, block, from), map[string]readings.BlockFigures{}
	for _, one := range readings.Read(span, sums).Blocks {
		d.BySource = one.BySource
	}
	if d.Placements, err = s.Placements(ctx, workspace, pageID, block, span.From()); err != nil {
		return d, err
	}
	if d.FirstDays, err = firstDays(ctx, s, workspace, pageID, block, now, zone); err != nil {
		return d, err
	}
	edits, err := s.Edits(ctx, workspace, pageID, block)
	var next time.Time
	for i, edit := range edits {
		var last time.Time
		if i+1 < len(edits) {
			last = edits[i+1].At
		}
		if !edit.At.Before(span.From()) && edit.At.Before(span.To()) {
			d.Edits = append(d.Edits, Edit{edit, readings.AroundEdit(sums, block, readings.Edited{
				At: edit.At, Last: last, Next: next, Now: now, Zone: zone,
			})})
		}
		next = edit.At
	}
	arounds := make([]*readings.Around, len(d.Edits))
	for i := range d.Edits {
		arounds[i] = &d.Edits[i].Around
	}
	readings.Together(arounds)
	return d, err
}

// firstDays reads no further than what is looked at of the beginning of a block.
func firstDays(ctx context.Context, s *store.Store, workspace, pageID uuid.UUID, block string, now time.Time, zone *time.Location) (
	readings.FirstDays, error,
) {
	since, err := s.FirstShown(ctx, workspace, pageID, block)
	if err != nil || since.IsZero() {
		return readings.FirstDays{Shares: []float64{}}, err
	}
	rows, err := s.BlockRows(ctx, workspace, pageID, block, since.AddDate(0, 0, -1), since.AddDate(0, 0, readings.FirstDaysShown+1))
	return readings.FirstDaysOf(daily.Sums{Blocks: rows}, block, since, now, zone), err
}

// SourceDetail is one source of a page.
type SourceDetail struct {
	readings.Detail
	// Reading is everything of the page in that span.
	Reading readings.Reading
	// Evidence is what its visits rest on.
	Evidence []readings.Evidence
	// Neighbours are places off the list on a network the source is on.
	Neighbours []readings.UnlistedReading
}

// Source reads one source of a page of a workspace in a span: its ID, or one of the keys of visits
// that came from none.
func Source(ctx context.Context, s *store.Store, workspace, pageID uuid.UUID, from string, span readings.Span) (SourceDetail, error) {
	var d SourceDetail
	listed, err := s.Attributable(ctx, pageID)
	if err != nil {
		return d, err
	}
	at := slices.IndexFunc(listed, func(candidate source.Candidate) bool { return candidate.ID == from })
	if at < 0 && from != readings.Unlisted && from != readings.Untagged {
		return d, store.ErrNotFound
	}
	known, err := s.Figures(ctx, workspace, []uuid.UUID{pageID}, span.From(), span.To())
	if err != nil {
		return d, err
	}
	sums := known[pageID].Sums
	d.Detail, d.Reading = readings.OfSource(span, sums, from), readings.Read(span, sums)
	d.Reading.Recounting = known[pageID].Due
	d.Evidence = readings.EvidenceOf(span, sums, from)
	if at >= 0 {
		d.Neighbours = neighbours(listed[at], d.Reading.Unlisted)
	}
	return d, nil
}

func neighbours(of source.Candidate, unlisted []readings.UnlistedReading) (list []readings.UnlistedReading) {
	on := make(map[string]bool)
	for _, network := range of.Networks {
		on[network] = true
	}
	for _, host := range of.Hosts {
		on[host] = true
	}
	for _, place := range unlisted {
		if on[place.Name] {
			list = append(list, place)
		}
	}
	return list
}
