package page

import (
	"cmp"
	"fmt"
	"slices"
	"time"
)

// group is what stands under a heading, up to the next: blocks from one index up to, but
// not including, another.
type group struct {
	heading  *Heading
	from, to int
}

// groups lists what stands under headings that keep it in an order.
func (d Document) groups(order string) []group {
	var found []group
	for i, block := range d.Blocks {
		if block.Heading == nil || block.Heading.Order != order {
			continue
		}
		end := i + 1
		for end < len(d.Blocks) && d.Blocks[end].Kind != "heading" {
			end++
		}
		found = append(found, group{block.Heading, i + 1, end})
	}
	return found
}

// NewestFirst puts what stands under headings that want it in order: what was added last
// comes first. What has no time yet is added now; among those of one time the order stays.
func (d *Document) NewestFirst(now time.Time) {
	for _, group := range d.groups("newest") {
		blocks := d.Blocks[group.from:group.to]
		for i := range blocks {
			if blocks[i].Added.IsZero() {
				blocks[i].Added = now.UTC().Truncate(time.Millisecond)
			}
		}
		slices.SortStableFunc(blocks, func(a, b Block) int { return b.Added.Compare(a.Added) })
	}
}

// WantsPull tells whether a heading of the page keeps what stands under it in order by
// pull.
func (d Document) WantsPull() bool { return len(d.groups("pull")) > 0 }

// ByPull puts what stands under headings that want it in order by how much it pulls, and
// says in words what that changed. What has no pull yet, because too few have seen it,
// comes first, so that it is seen.
func (d *Document) ByPull(pull map[string]float64) []string {
	d.Blocks = slices.Clone(d.Blocks)
	var changed []string
	for _, group := range d.groups("pull") {
		blocks := d.Blocks[group.from:group.to]
		before := slices.Clone(blocks)
		slices.SortStableFunc(blocks, func(a, b Block) int {
			first, known := pull[a.Key]
			second, knownToo := pull[b.Key]
			switch {
			case known != knownToo && known:
				return 1
			case known != knownToo:
				return -1
			}
			return cmp.Compare(second, first)
		})
		if !slices.EqualFunc(before, blocks, func(a, b Block) bool { return a.Key == b.Key }) {
			changed = append(changed, fmt.Sprintf("What stands under %s is in order by pull: %s comes first.", quote(group.heading.Text),
				quote(blocks[0].Title())))
		}
	}
	return changed
}
