package page

import (
	"reflect"

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
