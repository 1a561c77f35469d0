package page

import (
	"reflect"
	"strings"

	"golang.org/x/text/cases"
	"golang.org/x/text/unicode/norm"

	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
)

// MaxGateText is how long what is said at a gate may be, in characters.
const MaxGateText = 300

// Gate stands before a page or a block: a notice that is read first, of age or of what is
// sensitive, or a question for a passcode.
type Gate struct {
	Kind       string `json:"kind" enum:"notice,passcode"`
	Text       string `json:"text,omitempty" spoken:"lines" doc:"What is said there; a sentence of ours if left out. At most 300 characters."`
	PasscodeID string `json:"passcodeId,omitempty" doc:"Of a passcode that was set; without one nobody gets through."`
}

func (g *Gate) tidy(problems *invalid.List, where string) {
	if g == nil {
		return
	}
	g.Kind = invalid.Choice(problems, where+"/kind", "kind of gate", g.Kind, "notice", "passcode")
	g.Text = problems.Lines(where+"/text", "What is said first", g.Text, MaxGateText)
	if g.Kind != "passcode" || g.PasscodeID != "" && !destination.IsID(g.PasscodeID) {
		g.PasscodeID = ""
	}
}

// FoldPasscode is a passcode as it is compared: guests type it off a card, on a phone that begins with a capital letter
// and ends with a blank.
func FoldPasscode(typed string) string {
	return strings.TrimSpace(cases.Fold().String(norm.NFKC.String(strings.ToValidUTF8(typed, ""))))
}

// hidden are the kinds of which a passcode keeps something: where they lead, or what they hand out. Of all others
// everything stands on the page itself.
var hidden = map[Kind]bool{"button": true, "contact": true, "file": true, "offer": true, "player": true, "booking": true}

// tidyGate puts the gate of a block in order, and refuses a passcode that would keep nothing.
func (b *Block) tidyGate(problems *invalid.List, where string) {
	b.Gate.tidy(problems, where)
	if b.Gate.asksPasscode() && !hidden[b.Kind] {
		problems.Add(where+"/kind", "A passcode cannot protect this block, because everything in it stands on the page. "+
			"Choose a notice, or ask for the passcode before the whole page opens.")
	}
}

func (g *Gate) asksPasscode() bool { return g != nil && g.Kind == "passcode" }

// AsksPasscode tells whether a passcode is asked for before the block leads anywhere: what it leads to is not to be read
// on the page.
func (b Block) AsksPasscode() bool { return b.Gate.asksPasscode() }

// AsksPasscode tells whether a passcode is asked for before the page opens.
func (d Document) AsksPasscode() bool { return d.Gate.asksPasscode() }

// gateChange puts into words what becomes of a gate; empty when nothing does.
func gateChange(what string, before, after *Gate) string {
	switch {
	case reflect.DeepEqual(before, after):
		return ""
	case after == nil:
		return what + " opens to everybody again."
	case after.Kind == "passcode" && (before == nil || before.PasscodeID != after.PasscodeID):
		return what + " asks for a passcode."
	case after.Kind == "passcode":
		return what + " says something else where it asks for the passcode."
	default:
		return what + " shows a notice first."
	}
}

// Gates visits every gate of the document.
func (d *Document) Gates(visit func(*Gate)) {
	if d.Gate != nil {
		visit(d.Gate)
	}
	for i := range d.Blocks {
		if gate := d.Blocks[i].Gate; gate != nil {
			visit(gate)
		}
	}
}

// PasscodeIDs are the passcodes the document names.
func (d *Document) PasscodeIDs() []string {
	var ids []string
	d.Gates(func(gate *Gate) {
		if gate.PasscodeID != "" {
			ids = append(ids, gate.PasscodeID)
		}
	})
	return ids
}
