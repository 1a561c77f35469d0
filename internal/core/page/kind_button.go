package page

import "jundle/internal/core/invalid"

// Button leads to one destination.
type Button struct {
	Lead
	Title         string `json:"title" spoken:"line" doc:"At most 120 characters."`
	Line          string `json:"line,omitempty" spoken:"line" doc:"A second, quieter line; at most 160 characters."`
	Address       string `json:"address" doc:"Where it leads: https, http, mailto, tel or sms; at most 2,048 characters."`
	DestinationID string `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
	Shape         string `json:"shape,omitempty" enum:"beside,plain,card" doc:"A small picture, nothing, or a wide picture above."`
	Label         string `json:"label,omitempty" spoken:"line" doc:"A price or a short word at the end of the button; at most 24 characters."`
	Nofollow      bool   `json:"nofollow,omitempty" doc:"Tells search engines that the link is no recommendation."`
	Sponsored     bool   `json:"sponsored,omitempty" doc:"Tells search engines that the link is paid for."`
	NewWindow     bool   `json:"newWindow,omitempty"`
	Plain         bool   `json:"plain,omitempty" doc:"The page carries the address itself; clicks may be more than are counted."`
	Movement      string `json:"movement,omitempty" enum:"none,nudge,glow,sway" doc:"Now and then; none for who asked for less motion."`
}

func (b *Button) name() string { return b.Title }

func (b *Button) nameAfterTarget() { fill(&b.Title, nameOf(b.Address)) }

func (b *Button) tidy(problems *invalid.List, where string) {
	b.Lead.tidy(problems, where)
	b.Title = problems.Line(where+"/title", "The title", b.Title, MaxTitle)
	b.Line = problems.Line(where+"/line", "The second line", b.Line, MaxSecond)
	b.Address = tidyAddress(problems, where+"/address", b.Address, false)
	b.Plain = b.Plain && isWeb(b.Address)
	b.Shape = invalid.Choice(problems, where+"/shape", "shape of a button", b.Shape, "beside", "plain", "card")
	b.Label = problems.Line(where+"/label", "The label", b.Label, maxLabel)
	b.Movement = invalid.Choice(problems, where+"/movement", "movement", b.Movement, "none", "nudge", "glow", "sway")
}

func (b *Button) targets() []Target {
	return []Target{{Name: b.Title, Address: b.Address, DestinationID: b.DestinationID, Plain: b.Plain}}
}

func (b *Button) links(visit func(link Link)) { visit(Link{&b.Address, &b.DestinationID, b.Title}) }

// Texts implements Content.
func (b *Button) Texts(string) (headings, text string) { return "", b.Title + b.Line + b.Label }

func (b *Button) facts() []fact {
	return append(b.Lead.facts(),
		fact{"second line", b.Line}, fact{"shape", b.Shape}, fact{"label", b.Label}, fact{"movement", b.Movement},
		fact{"mark as no recommendation", yes(b.Nofollow)}, fact{"mark as paid for", yes(b.Sponsored)}, fact{
			"new window",
			yes(b.NewWindow),
		}, fact{"plain address", yes(b.Plain)},
	)
}
