package page

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

// Resolve writes into the document where its destinations lead now, by their IDs.
// What refers to none of them keeps the address it was saved with.
func (d *Document) Resolve(leads map[string]string) {
	d.Links(func(link Link) {
		if address, ok := leads[*link.DestinationID]; ok {
			*link.Address = address
		}
	})
}
