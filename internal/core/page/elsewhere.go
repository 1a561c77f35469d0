package page

import "slices"

// WithSources writes rules by source for a page whose sources are others: by the IDs that
// its sources have there, those that are not found left out. A block that was shown to
// such sources only is hidden, so that nobody sees what was not meant for them.
func (b *Block) WithSources(ids map[string]string) {
	if b.To == nil {
		return
	}
	there := []string{}
	for _, id := range b.To.Sources {
		if other, found := ids[id]; found {
			there = append(there, other)
		}
	}
	slices.Sort(there)
	switch {
	case len(there) > 0:
		b.To = &SourceRule{Rule: b.To.Rule, Sources: there}
	default:
		b.Shown = b.Shown && b.To.Rule != "only"
		b.To = nil
	}
}

// Append puts blocks of another page at the end of this one. Keys that are taken here are
// made anew, so that figures stay apart; rules by source are left behind.
func (d *Document) Append(blocks []Block, newKey func() string) {
	taken := map[string]bool{IconsKey: true, FooterKey: true, PassThroughKey: true}
	for _, block := range d.Blocks {
		taken[block.Key] = true
	}
	for _, block := range blocks {
		for taken[block.Key] {
			block.Key = newKey()
		}
		taken[block.Key] = true
		block.WithSources(nil)
		d.Blocks = append(d.Blocks, block)
	}
}
