package page

import (
	"fmt"
	"reflect"
	"sort"
	"strings"

	"jundle/internal/core/look"
	"jundle/internal/core/picture"
)

// Change is one thing that publishing would do to the page, in words.
type Change struct {
	Key   string `json:"key,omitempty" doc:"The block it is about; empty for the header."`
	Words string `json:"words" doc:"A sentence for the creator."`
	Ends  bool   `json:"ends,omitempty" doc:"Something that leads somewhere is taken off the page."`
}

// Changes puts into words how the page a visitor sees would differ between the
// live edition and next. live is nil when the page was never published. The
// result is empty exactly when visitors would see no difference.
func Changes(live *Document, next Document) []Change {
	if live == nil {
		return []Change{{Words: fmt.Sprintf("The page goes live for the first time, with %s.", count(len(next.Visible()), "block"))}}
	}
	changes := pageChanges(*live, next)
	before, after := byKey(live.Visible()), byKey(next.Visible())
	for _, block := range next.Visible() {
		old, was := before[block.Key]
		if !was {
			verb := "is added"
			if _, hidden := live.Find(block.Key); hidden {
				verb = "is shown again"
			}
			changes = append(changes, Change{Key: block.Key, Words: fmt.Sprintf("%s %s at place %d.", quote(block.Title()), verb, block.Place)})
			continue
		}
		changes = append(changes, blockChanges(old, block)...)
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
		words := fmt.Sprintf("%s %s; it was at place %d.", quote(block.Title()), verb, block.Place)
		changes = append(changes, Change{Key: block.Key, Words: words, Ends: len(block.Targets()) > 0})
	}
	return changes
}

// pageChanges are those that are about no block.
func pageChanges(live, next Document) []Change {
	var changes []Change
	all := func(doc Document) []fact {
		facts := append(doc.Header.facts(), doc.Icons.facts()...)
		return append(append(append(facts, doc.Footer.facts()...), doc.Tagging.facts()...), fact{"language", doc.Language})
	}
	for _, words := range differences(all(live), all(next), "") {
		changes = append(changes, Change{Words: words})
	}
	if !reflect.DeepEqual(live.Look, next.Look) {
		words := "The look of the page changes."
		if theme, ok := look.FindTheme(next.Look.Theme); ok && live.Look.Theme != next.Look.Theme {
			words = fmt.Sprintf("The look of the page becomes “%s”.", theme.Name)
		}
		changes = append(changes, Change{Words: words})
	}
	return changes
}

// blockChanges are those of one block that was there before.
func blockChanges(old, next Placed) []Change {
	var changes []Change
	say := func(format string, args ...any) {
		changes = append(changes, Change{Key: next.Key, Words: fmt.Sprintf(format, args...)})
	}
	if old.Kind != next.Kind {
		say("%s becomes a %s; it was a %s.", quote(next.Title()), next.Kind, old.Kind)
		return changes
	}
	was, is := old.Content(), next.Content()
	if was == nil || is == nil {
		return nil
	}
	if _, derived := is.(derivesName); !derived && was.name() != is.name() {
		say("%s is now called %s.", quote(old.Title()), quote(next.Title()))
	}
	if before, after := old.Targets(), next.Targets(); len(before) == 1 && len(after) == 1 && before[0].Address != after[0].Address && after[0].Address != "" {
		say("%s leads to %s instead of %s.", quote(next.Title()), after[0].Address, before[0].Address)
	}
	for _, words := range differences(was.facts(), is.facts(), " of "+quote(next.Title())) {
		say("%s", words)
	}
	if !reflect.DeepEqual(old.Style, next.Style) {
		if next.Style == nil {
			say("%s looks as the page does again.", quote(next.Title()))
		} else {
			say("%s has looks of its own that change.", quote(next.Title()))
		}
	}
	return changes
}

// differences puts into words which facts are no longer what they were.
func differences(old, next []fact, of string) []string {
	before := make(map[string]string, len(old))
	for _, each := range old {
		before[each.name] = each.value
	}
	var words []string
	for _, each := range next {
		was, known := before[each.name]
		delete(before, each.name)
		if known && was == each.value || !known && each.value == "" {
			continue
		}
		what := "The " + each.name + of
		switch {
		case was == "":
			words = append(words, what+" is new"+said(each.value)+".")
		case each.value == "":
			words = append(words, what+" is taken away.")
		default:
			words = append(words, what+" becomes"+saidOr(each.value, " another one")+".")
		}
	}
	for _, each := range old {
		if was, left := before[each.name]; left && was != "" {
			words = append(words, "The "+each.name+of+" is taken away.")
		}
	}
	return words
}

// said quotes a value that a creator would recognise, and nothing longer.
func said(value string) string {
	if value == "" || value == yes(true) || len(value) > 200 || strings.ContainsAny(value, "\x00\r<") || picture.IsFileName(value) {
		return ""
	}
	return ": " + quote(value)
}

func saidOr(value, otherwise string) string {
	if words := said(value); words != "" {
		return strings.TrimPrefix(words, ":")
	}
	return otherwise
}

// yes is the value of a setting that is on.
func yes(on bool) string {
	if on {
		return "on"
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
			changes = append(changes, Change{Key: block.Key, Words: fmt.Sprintf("%s moves from place %d to place %d.", quote(block.Title()), was[block.Key].Place, block.Place)})
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
