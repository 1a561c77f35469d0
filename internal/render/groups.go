package render

import (
	"html/template"

	"jundle/internal/core/locale"
	"jundle/internal/core/page"
)

// piece is a drawn block in its place, or several that are folded away together: under
// a heading, which is its HTML then, or behind a press that shows them.
type piece struct {
	HTML template.HTML
	Half bool
	// Key is that of the block, where it is measured whether it was on screen; empty elsewhere.
	Key string
	// ID is the anchor of a heading that can be jumped to; empty for all else.
	ID     string
	Folded []piece
	// More says how many are behind the press; empty for those under a heading.
	More string
}

// jump leads to a heading of the page.
type jump struct{ ID, Text string }

// fewHeadings is how many headings need no list of them.
const fewHeadings = 3

func headingOf(block page.Placed) *page.Heading {
	heading, _ := block.Content().(*page.Heading)
	return heading
}

// jumps lists the headings of a page that wants it and has several.
func (p *painter) jumps(visible []page.Placed) []jump {
	var found []jump
	for _, block := range visible {
		if heading := headingOf(block); heading != nil && p.doc.Jump {
			found = append(found, jump{anchor(block), heading.Text})
		}
	}
	if len(found) <= fewHeadings {
		return nil
	}
	return found
}

func anchor(block page.Placed) string { return "at-" + block.Key }

// grouped draws blocks in their order; what a heading folds away comes with it.
func (p *painter) grouped(visible []page.Placed) []piece {
	var drawn []piece
	for len(visible) > 0 {
		block := visible[0]
		visible = visible[1:]
		made := p.piece(block)
		heading := headingOf(block)
		if heading == nil {
			drawn = append(drawn, made)
			continue
		}
		if p.doc.Jump {
			made.ID = anchor(block)
		}
		below := 0
		for below < len(visible) && headingOf(visible[below]) == nil {
			below++
		}
		under := p.firstOf(visible[:below], heading.First)
		visible = visible[below:]
		if heading.Folds {
			made.Folded = under
			drawn = append(drawn, made)
		} else {
			drawn = append(append(drawn, made), under...)
		}
	}
	return drawn
}

func (p *painter) piece(block page.Placed) piece {
	made := piece{HTML: p.block(block), Half: halved(block.Block)}
	if p.measures && len(block.Targets()) > 0 {
		made.Key = block.Key
	}
	return made
}

// firstOf draws blocks, and puts those after the first so many behind a press; all of
// them are there for 0.
func (p *painter) firstOf(blocks []page.Placed, first int) []piece {
	var drawn []piece
	for _, block := range blocks {
		drawn = append(drawn, p.piece(block))
	}
	if first == 0 || len(drawn) <= first {
		return drawn
	}
	rest := piece{Folded: drawn[first:], More: locale.Of(p.doc.Language).Count("show_more", len(drawn)-first)}
	return append(drawn[:first:first], rest)
}
