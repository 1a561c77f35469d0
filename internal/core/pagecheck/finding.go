// Package pagecheck finds what is wrong or weak about a page before visitors do. It
// knows the page and the facts about it that it is handed, and asks nothing itself.
package pagecheck

import (
	"jundle/internal/core/look"
	"jundle/internal/core/page"
)

// Weight tells a fault from what could be better.
type Weight string

// The weights.
const (
	Wrong Weight = "wrong" // visitors meet a fault
	Weak  Weight = "weak"  // it could be better
)

// Finding is one thing that the check found.
type Finding struct {
	Kind   string  `json:"kind" doc:"What it is about, such as nowhere, gone, twice or vague."`
	Weight Weight  `json:"weight" enum:"wrong,weak" doc:"Visitors meet a fault, or it could be better."`
	Row    string  `json:"row" doc:"Key of the block it is about, or header, icons, footer, page or look."`
	Name   string  `json:"name" doc:"What the row or the thing in it is called."`
	Says   string  `json:"says" doc:"What was found, in a sentence."`
	Why    string  `json:"why" doc:"Why it matters."`
	Repair *Repair `json:"repair,omitempty"`
}

// Repair is a change that would mend what was found.
type Repair struct {
	Label string      `json:"label" doc:"What it does."`
	Block *page.Block `json:"block,omitempty" doc:"The block as it would be; absent where the look is changed."`
	Look  *look.Look  `json:"look,omitempty" doc:"The look as it would be."`
}

// repairOf is a repair that changes a block.
func repairOf(label string, block page.Block) *Repair { return &Repair{Label: label, Block: &block} }

// list gathers findings about one row.
type list struct {
	found []Finding
	row   string
	name  string
}

func (l *list) add(kind string, weight Weight, says, why string, repair *Repair) {
	l.found = append(l.found, Finding{Kind: kind, Weight: weight, Row: l.row, Name: l.name, Says: says, Why: why, Repair: repair})
}
