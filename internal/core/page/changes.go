package page

import (
	"fmt"
	"sort"
	"strings"
)

// Change is one thing that publishing would do to the page, in words.
type Change struct {
	Key   string `json:"key,omitempty" doc:"The block it is about; empty for the header."`
	Words string `json:"words" doc:"A sentence for the creator."`
}

// Changes puts into words how the page a visitor sees would differ between the
// live edition and next. live is nil when the page was never published. The
// result is empty exactly when visitors would see no difference.
func Changes(live *Document, next Document) []Change {
	if live == nil {
		return []Change{{Words: fmt.Sprintf("The page goes live for the first time, with %s.", count(len(next.Visible()), "button"))}}
	}
	changes := headerChanges(live.Header, next.Header)
	before, after := byKey(live.Visible()), byKey(next.Visible())
	for _, block := range next.Visible() {
		old, was := before[block.Key]
		if !was {
			verb := "is added"
			if _, hidden := live.Find(block.Key); hidden {
				verb = "is shown again"
			}
			changes = append(changes, Change{block.Key, fmt.Sprintf("%s %s at place %d.", quote(block.Title()), verb, block.Place)})
			continue
		}
		changes = append(changes, buttonChanges(old, block)...)
	}
	changes = append(changes, moves(live.Visible(), next.Visible())...)
	for _, block := range live.Visible() {
		if _, stays := after[block.Key]; stays {
			continue
		}
		verb := "is deleted"
		if _, hidden := next.Find(block.Key); hidden {
			verb = "is hidden"
		}
		changes = append(changes, Change{block.Key, fmt.Sprintf("%s %s; it was at place %d.", quote(block.Title()), verb, block.Place)})
	}
	return changes
}

func headerChanges(old, next Header) []Change {
	var changes []Change
	if old.Name != next.Name {
		changes = append(changes, Change{Words: fmt.Sprintf("The name becomes %s.", quote(next.Name))})
	}
	if old.Line != next.Line {
		changes = append(changes, Change{Words: fmt.Sprintf("The line below the name becomes %s.", quote(next.Line))})
	}
	if words := pictureWords("The picture at the top", old.Picture, next.Picture); words != "" {
		changes = append(changes, Change{Words: words})
	}
	return changes
}

func buttonChanges(old, next Placed) []Change {
	var changes []Change
	say := func(format string, args ...any) {
		changes = append(changes, Change{next.Key, fmt.Sprintf(format, args...)})
	}
	if old.Button.Title != next.Button.Title {
		say("%s is now called %s.", quote(old.Title()), quote(next.Title()))
	}
	if old.Button.Address != next.Button.Address {
		say("%s leads to %s instead of %s.", quote(next.Title()), next.Button.Address, old.Button.Address)
	}
	if words := pictureWords("The picture on "+quote(next.Title()), old.Button.Picture, next.Button.Picture); words != "" {
		say("%s", words)
	}
	return changes
}

func pictureWords(what string, old, next *Picture) string {
	switch {
	case old == nil && next != nil:
		return what + " is new."
	case old != nil && next == nil:
		return what + " is taken away."
	case old != nil && old.Media != next.Media:
		return what + " is another one."
	}
	return ""
}

// moves names the fewest blocks that have to move to get from one order to the
// other: all that are outside a longest run which keeps its order.
func moves(old, next []Placed) []Change {
	was := byKey(old)
	var common []Placed
	for _, block := range next {
		if _, ok := was[block.Key]; ok {
			common = append(common, block)
		}
	}
	stays := longestRising(common, func(block Placed) int { return was[block.Key].Place })
	var changes []Change
	for i, block := range common {
		if !stays[i] {
			changes = append(changes, Change{block.Key, fmt.Sprintf("%s moves from place %d to place %d.", quote(block.Title()), was[block.Key].Place, block.Place)})
		}
	}
	return changes
}

// longestRising marks a longest subsequence whose rank rises (patience sorting).
func longestRising(blocks []Placed, rank func(Placed) int) []bool {
	var tails, tailAt []int
	previous := make([]int, len(blocks))
	for i, block := range blocks {
		at := sort.SearchInts(tails, rank(block))
		if at == len(tails) {
			tails, tailAt = append(tails, 0), append(tailAt, 0)
		}
		tails[at], tailAt[at] = rank(block), i
		previous[i] = -1
		if at > 0 {
			previous[i] = tailAt[at-1]
		}
	}
	keep := make([]bool, len(blocks))
	if len(tailAt) > 0 {
		for i := tailAt[len(tailAt)-1]; i >= 0; i = previous[i] {
			keep[i] = true
		}
	}
	return keep
}

func byKey(blocks []Placed) map[string]Placed {
	keyed := make(map[string]Placed, len(blocks))
	for _, block := range blocks {
		keyed[block.Key] = block
	}
	return keyed
}

func quote(text string) string {
	if strings.TrimSpace(text) == "" {
		return "(empty)"
	}
	return "“" + text + "”"
}

func count(n int, noun string) string {
	switch n {
	case 0:
		return "no " + noun + "s"
	case 1:
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}
