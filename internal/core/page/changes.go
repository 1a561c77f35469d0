package page

import (
	"fmt"
	"reflect"
	"slices"
	"sort"
	"strings"

	"jundle/internal/core/address"
	"jundle/internal/core/look"
	"jundle/internal/core/picture"
)

// Change is one thing that publishing would do to the page, in words.
type Change struct {
	Key      string `json:"key,omitempty" doc:"The block it is about; empty for the header."`
	Sentence string `json:"sentence" doc:"A sentence for the creator."`
	Ends     bool   `json:"ends,omitempty" doc:"Something that leads somewhere is taken off the page."`
}

// Changes puts into words how the page a visitor sees would differ between the
// live edition and next. live is nil when the page was never published. The
// result is empty exactly when visitors would see no difference.
func Changes(live *Document, next Document) []Change {
	if live == nil {
		return []Change{{Sentence: fmt.Sprintf("The page goes live for the first time, with %s.", count(len(next.SwitchedOn()), "block"))}}
	}
	changes := pageChanges(*live, next)
	before, after := byKey(live.SwitchedOn()), byKey(next.SwitchedOn())
	for _, block := range next.SwitchedOn() {
		old, was := before[block.Key]
		if !was {
			verb := "is added"
			if _, hidden := live.Find(block.Key); hidden {
				verb = "is shown again"
			}
			changes = append(changes, Change{Key: block.Key, Sentence: fmt.Sprintf("%s %s at place %d.", quote(block.Title()), verb, block.Place)})
			for _, words := range (Showing{}).changes(block.Showing, block.Title()) {
				changes = append(changes, Change{Key: block.Key, Sentence: words})
			}
			continue
		}
		changes = append(changes, blockChanges(old, block)...)
	}
	changes = append(changes, moves(live.SwitchedOn(), next.SwitchedOn())...)
	for _, block := range live.SwitchedOn() {
		if _, stays := after[block.Key]; stays {
			continue
		}
		verb := "is deleted"
		if _, hidden := next.Find(block.Key); hidden {
			verb = "is hidden"
		}
		words := fmt.Sprintf("%s %s; it was at place %d.", quote(block.Title()), verb, block.Place)
		changes = append(changes, Change{Key: block.Key, Sentence: words, Ends: len(block.Targets()) > 0})
	}
	return changes
}

// pageChanges are those that are about no block.
func pageChanges(live, next Document) []Change {
	var changes []Change
	all := func(doc Document) []fact {
		facts := append(doc.Header.facts(), doc.Icons.facts()...)
		jump, search, scrolls := "", "", ""
		if doc.Scrolls {
			scrolls = "measured"
		}
		if doc.Jump {
			jump = "shown"
		}
		if doc.Search {
			search = "shown"
		}
		facts = append(append(facts, doc.Footer.facts()...), doc.Tagging.facts()...)
		facts = append(facts, doc.Sharing.facts()...)
		return append(facts, fact{"language", doc.Language}, fact{"list of its headings", jump}, fact{"search field", search},
			fact{"how far visits get", scrolls})
	}
	for _, words := range differences(all(live), all(next), "") {
		changes = append(changes, Change{Sentence: words})
	}
	for _, words := range timesChange("The page", live.When, next.When) {
		changes = append(changes, Change{Sentence: words})
	}
	for _, words := range codeChanges(live.Codes, next.Codes) {
		changes = append(changes, Change{Sentence: words})
	}
	for _, words := range translationChanges(live.Translations, next.Translations) {
		changes = append(changes, Change{Sentence: words})
	}
	if words := live.Sharing.change(next.Sharing); words != "" {
		changes = append(changes, Change{Sentence: words})
	}
	if words := gateChange("The page", live.Gate, next.Gate); words != "" {
		changes = append(changes, Change{Sentence: words})
	}
	changes = append(changes, linkChanges("The icon for", "profile icons", live.Icons.links(), next.Icons.links())...)
	changes = append(changes, linkChanges("The link", "links at the end", live.Footer.links(), next.Footer.links())...)
	if !reflect.DeepEqual(live.Look.Seen(), next.Look.Seen()) {
		words := "The look of the page changes."
		if theme, ok := look.FindTheme(next.Look.Theme); ok && live.Look.Theme != next.Look.Theme {
			words = fmt.Sprintf("The look of the page becomes “%s”.", theme.Name)
		}
		changes = append(changes, Change{Sentence: words})
	}
	return changes
}

// smallLink is one of a row of links without a place of its own: a profile icon, or
// a link at the end of the page.
type smallLink struct{ key, name, address, drawing string }

// linkChanges are those of a row of small links, each of which is known by its key.
func linkChanges(one, row string, old, next []smallLink) []Change {
	var changes []Change
	say := func(format string, args ...any) {
		changes = append(changes, Change{Sentence: fmt.Sprintf(format, args...)})
	}
	before := make(map[string]smallLink, len(old))
	for _, link := range old {
		before[link.key] = link
	}
	var stay []string
	for _, link := range next {
		was, known := before[link.key]
		name := one + " " + quote(link.name)
		if !known {
			say("%s is added; it leads to %s.", name, address.Readable(link.address))
			continue
		}
		stay = append(stay, link.key)
		delete(before, link.key)
		if was.name != link.name {
			say("%s %s is now called %s.", one, quote(was.name), quote(link.name))
		}
		if was.address != link.address {
			say("%s leads to %s instead of %s.", name, address.Readable(link.address), address.Readable(was.address))
		}
		if was.drawing != link.drawing {
			say("%s is drawn otherwise.", name)
		}
	}
	var stayed []string
	for _, link := range old {
		if _, gone := before[link.key]; gone {
			changes = append(changes, Change{Sentence: fmt.Sprintf("%s %s is taken away.", one, quote(link.name)), Ends: true})
			continue
		}
		stayed = append(stayed, link.key)
	}
	if !slices.Equal(stayed, stay) {
		say("The order of the %s changes.", row)
	}
	return changes
}

// blockChanges are those of one block that was there before.
func blockChanges(old, next Placed) []Change {
	var changes []Change
	say := func(format string, args ...any) {
		changes = append(changes, Change{Key: next.Key, Sentence: fmt.Sprintf(format, args...)})
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
	if before, after := old.Targets(), next.Targets(); len(before) == 1 && len(after) == 1 && before[0].Address != after[0].Address &&
		after[0].Address != "" {
		say("%s leads to %s instead of %s.", quote(next.Title()), address.Readable(after[0].Address), address.Readable(before[0].Address))
	}
	of := quote(next.Title())
	if strings.EqualFold(next.Title(), string(next.Kind)) {
		of = "the " + string(next.Kind) // it has no name of its own
	}
	for _, words := range differences(was.facts(), is.facts(), " of "+of) {
		say("%s", words)
	}
	for _, words := range old.Showing.changes(next.Showing, next.Title()) {
		say("%s", words)
	}
	if words := gateChange(quote(next.Title()), old.Gate, next.Gate); words != "" {
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
			words = append(words, what+" "+verb(each.name, "is", "are")+" new"+said(each.value)+".")
		case each.value == "":
			words = append(words, what+" "+verb(each.name, "is", "are")+" taken away.")
		default:
			words = append(words, what+" "+verb(each.name, "becomes", "become")+saidOr(each.value, " another one")+".")
		}
	}
	for _, each := range old {
		if was, left := before[each.name]; left && was != "" {
			words = append(words, "The "+each.name+of+" "+verb(each.name, "is", "are")+" taken away.")
		}
	}
	return words
}

// verb is the form that goes with the name of a fact, which may be of one thing or of several.
func verb(name, one, several string) string {
	first, _, _ := strings.Cut(name, " of ")
	if strings.HasSuffix(first, "s") && !strings.HasSuffix(first, "ss") {
		return several
	}
	return one
}

// said quotes a value that a creator would recognise, and nothing longer.
func said(value string) string {
	if value == "" || value == yes(true) || len(value) > 200 || strings.ContainsAny(value, "\r<") || picture.IsFileName(value) {
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
			changes = append(changes, Change{Key: block.Key, Sentence: moved(was[block.Key].Place, block.Place, block.Title(), next)})
		}
	}
	return changes
}

// moved says where a block goes. Where others come or go around it, its place may stay the same number: then it is said
// by what stands above it.
func moved(from, to int, title string, next []Placed) string {
	switch {
	case from != to:
		return fmt.Sprintf("%s moves from place %d to place %d.", quote(title), from, to)
	case to == 1:
		return quote(title) + " moves to the top."
	}
	above := next[slices.IndexFunc(next, func(block Placed) bool { return block.Place == to-1 })]
	return fmt.Sprintf("%s moves below %s.", quote(title), quote(above.Title()))
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

// Limits of changes in brief.
const (
	briefChanges  = 30
	briefSentence = 240
)

// Brief is changes as they are kept with an edition: the first thirty, none of them
// long, and how many more there were.
func Brief(changes []Change) []Change {
	brief := slices.Clone(changes[:min(len(changes), briefChanges)])
	for i, change := range brief {
		if sentence := []rune(change.Sentence); len(sentence) > briefSentence {
			brief[i].Sentence = string(sentence[:briefSentence-1]) + "…"
		}
	}
	if more := len(changes) - len(brief); more > 0 {
		brief = append(brief, Change{Sentence: fmt.Sprintf("And %d more.", more)})
	}
	return brief
}
