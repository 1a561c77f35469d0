package page

import (
	"maps"
	"slices"
	"time"

	"jundle/internal/core/destination"
)

// Link is a place in a document that leads to a destination. What the place is
// called is what a destination made from it is called at first.
type Link struct {
	Address, DestinationID *string
	Title                  string
}

// Links visits every place of the document that leads to a destination and has an
// address, hidden blocks included, always in the same order. What the visitor writes
// into it before it returns is written into the document.
func (d *Document) Links(visit func(link Link)) {
	filled := func(link Link) {
		if *link.Address != "" {
			visit(link)
		}
	}
	for i := range d.Icons.Items {
		item := &d.Icons.Items[i]
		filled(Link{&item.Address, &item.DestinationID, item.Name})
	}
	for _, block := range d.Blocks {
		if content := block.Content(); content != nil {
			content.links(filled)
		}
	}
	for i := range d.Footer.Links {
		link := &d.Footer.Links[i]
		filled(Link{&link.Address, &link.DestinationID, link.Title})
	}
	for i := range d.Takeovers {
		if straight := d.Takeovers[i].PassThrough; straight != nil {
			filled(Link{&straight.Address, &straight.DestinationID, nameOf(straight.Address)})
		}
	}
}

// DestinationIDs are the destinations the document refers to, each once.
func (d *Document) DestinationIDs() []string {
	var ids []string
	seen := make(map[string]bool)
	d.Links(func(link Link) {
		if id := *link.DestinationID; id != "" && !seen[id] {
			seen[id] = true
			ids = append(ids, id)
		}
	})
	return ids
}

// Resolve writes into the document where its destinations lead, by their IDs, and keeps
// the windows in which they lead somewhere else (see LeadingAt). What refers to none of
// them keeps the address it was saved with.
func (d *Document) Resolve(leads map[string]destination.Lead) {
	d.swapped = nil
	d.Links(func(link Link) {
		lead, ok := leads[*link.DestinationID]
		if !ok {
			return
		}
		*link.Address, *link.DestinationID = lead.Address, lead.ID
		if len(lead.Swaps) > 0 {
			if d.swapped == nil {
				d.swapped = make(map[string]destination.Lead)
			}
			d.swapped[lead.ID] = lead
		}
	})
}

// LeadingAt is the document as it leads at a moment.
func (d Document) LeadingAt(at time.Time) Document {
	holds := func(lead destination.Lead) bool { return lead.At(at) != lead.Address }
	if !slices.ContainsFunc(slices.Collect(maps.Values(d.swapped)), holds) {
		return d
	}
	leading := d.clone()
	leading.Links(func(link Link) {
		if lead, ok := d.swapped[*link.DestinationID]; ok {
			*link.Address = lead.At(at)
		}
	})
	return leading
}

// clone copies what links are written into.
func (d Document) clone() Document {
	clone := d
	clone.Icons.Items = slices.Clone(d.Icons.Items)
	clone.Footer.Links = slices.Clone(d.Footer.Links)
	clone.Takeovers = slices.Clone(d.Takeovers)
	for i, t := range clone.Takeovers {
		if t.PassThrough != nil {
			straight := *t.PassThrough
			clone.Takeovers[i].PassThrough = &straight
		}
	}
	clone.Blocks = slices.Clone(d.Blocks)
	for i := range clone.Blocks {
		block := &clone.Blocks[i]
		for _, each := range kinds {
			each.own(block)
		}
		if block.Pictures != nil {
			block.Pictures.Items = slices.Clone(block.Pictures.Items)
		}
		if block.Dates != nil {
			block.Dates.Items = slices.Clone(block.Dates.Items)
		}
	}
	return clone
}
