package page

import (
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"jundle/internal/core/invalid"
	"jundle/internal/core/trial"
)

// TrialKind is what differs between the variants of a trial.
type TrialKind string

// Kinds of trial.
const (
	TitleTrial   TrialKind = "title"
	PictureTrial TrialKind = "picture"
	PlaceTrial   TrialKind = "place"
	// OrderTrial tries the order of several blocks.
	OrderTrial TrialKind = "order"
)

// Trial is variants of one thing that are shown to fair shares of visitors. The page as it is is
// the first variant, and is not listed.
type Trial struct {
	ID       string    `json:"id"`
	Kind     TrialKind `json:"kind" enum:"title,picture,place,order"`
	Block    string    `json:"block,omitempty" doc:"Key of the button; of an order, empty."`
	Variants []Variant `json:"variants" nullable:"false" doc:"One or two beside the page as it is."`
	From     time.Time `json:"from"`
	Until    time.Time `json:"until" doc:"When it is over by itself."`
	// Keys are the blocks whose clicks are compared.
	Keys []string `json:"keys" nullable:"false"`
	// Subject is what is tried, as it was when the trial began.
	Subject string `json:"subject"`
}

// Variant is what a visitor sees in place of the thing as it is; one field is set, by the kind.
type Variant struct {
	Title string   `json:"title,omitempty" maxLength:"200"`
	Lead  *Lead    `json:"lead,omitempty" doc:"Picture, icon or emoji."`
	Place int      `json:"place,omitempty" doc:"From 1, among the blocks that are switched on."`
	Order []string `json:"order,omitempty" maxItems:"100" doc:"Keys of blocks, in the order in which they take the places they have now."`
}

// Shown is the trial as visitors have it before them; nil for none.
func (t *Trial) Shown() *trial.Shown {
	if t == nil {
		return nil
	}
	return &trial.Shown{ID: t.ID, Variants: len(t.Variants) + 1, Keys: t.Keys, From: t.From, Until: t.Until}
}

// Holds tells whether a trial runs at a moment; none never does.
func (t *Trial) Holds(at time.Time) bool { return t != nil && t.Shown().Holds(at) }

// Tidy puts a trial of a page in order. An *invalid.Error names all that is wrong.
func (t Trial) Tidy(on Document) (Trial, error) {
	var wrong invalid.List
	if len(t.Variants) < 1 || len(t.Variants) >= trial.MostVariants {
		wrong.Add("variants", "Try one or two beside the page as it is.")
		return t, wrong.Err()
	}
	shown := on.SwitchedOn()
	at := slices.IndexFunc(shown, func(block Placed) bool { return block.Key == t.Block && block.Button != nil })
	if t.Kind != OrderTrial && at < 0 {
		wrong.Add("block", "Choose a button that is switched on.")
		return t, wrong.Err()
	}
	t.Variants = slices.Clone(t.Variants)
	for i := range t.Variants {
		t.Variants[i] = t.Variants[i].tidy(t.Kind, shown, fmt.Sprintf("variants/%d", i), &wrong)
	}
	if err := wrong.Err(); err != nil {
		return t, err
	}
	t.Keys = t.compared(on)
	t.Subject = t.subject(on)
	seen := map[string]bool{t.Subject: true}
	for i := range t.Variants {
		looks := t.subject(on.inVariant(t, i+1))
		if seen[looks] {
			wrong.Add(fmt.Sprintf("variants/%d", i), "This is the same as another, or as the page is: there would be nothing to find out.")
		}
		seen[looks] = true
	}
	return t, wrong.Err()
}

func (v Variant) tidy(kind TrialKind, shown []Placed, where string, wrong *invalid.List) Variant {
	switch kind {
	case TitleTrial:
		v = Variant{Title: wrong.Line(where+"/title", "The title", v.Title, MaxTitle)}
		if v.Title == "" {
			wrong.Add(where+"/title", "Write the title that is to be tried.")
		}
	case PictureTrial:
		if v = (Variant{Lead: v.Lead}); v.Lead == nil {
			v.Lead = &Lead{}
		}
		v.Lead.tidy(wrong, where+"/lead")
	case PlaceTrial:
		if v = (Variant{Place: v.Place}); v.Place < 1 || v.Place > len(shown) {
			wrong.Add(where+"/place", "The page has places 1 to %d.", len(shown))
		}
	case OrderTrial:
		v = Variant{Order: v.Order}
		known := make(map[string]bool, len(v.Order))
		for _, key := range v.Order {
			if known[key] || !slices.ContainsFunc(shown, func(block Placed) bool { return block.Key == key }) {
				wrong.Add(where+"/order", "An order is of blocks that are switched on, each once.")
				break
			}
			known[key] = true
		}
		if len(v.Order) < 2 {
			wrong.Add(where+"/order", "An order is of two blocks at least.")
		}
	default:
		wrong.Add("kind", "A title, a picture, a place or an order can be tried.")
	}
	return v
}

// compared are the blocks whose clicks tell variants apart: the one that is changed, or all that
// change places.
func (t Trial) compared(on Document) []string {
	if t.Kind == TitleTrial || t.Kind == PictureTrial {
		return []string{t.Block}
	}
	var keys []string
	now := on.SwitchedOn()
	for i := range t.Variants {
		for at, block := range on.inVariant(t, i+1).SwitchedOn() {
			moved := block.Key != now[at].Key
			if moved && len(block.Targets()) > 0 && !slices.Contains(keys, block.Key) {
				keys = append(keys, block.Key)
			}
		}
	}
	slices.Sort(keys)
	return keys
}

// subject is what is tried, as text, to see whether it is still the same.
func (t Trial) subject(on Document) string {
	block, _ := on.Find(t.Block)
	var of any
	switch {
	case t.Kind == PlaceTrial || t.Kind == OrderTrial:
		var order []string
		for _, each := range on.SwitchedOn() {
			order = append(order, each.Key)
		}
		of = order
	case block.Button == nil || !block.Shown:
		of = nil // it is gone
	case t.Kind == TitleTrial:
		of = block.Button.Title
	default:
		of = block.Button.Lead
	}
	text, err := json.Marshal(of)
	if err != nil {
		return ""
	}
	return string(text)
}

// Fits tells whether what is tried is on a page as it was when the trial began. What was changed
// since spoils it: it would be compared with something else.
func (t Trial) Fits(on Document) bool { return t.subject(on) == t.Subject }

// InVariant is the page as a visitor sees it who has a variant of the trial that runs at a moment;
// 0 is the page as it is.
func (d Document) InVariant(variant int, at time.Time) Document {
	if variant < 1 || !d.Trial.Holds(at) || variant > len(d.Trial.Variants) {
		return d
	}
	return d.inVariant(*d.Trial, variant)
}

// WithVariant is the page with a variant of a trial put in place for good.
func (d Document) WithVariant(t Trial, variant int) Document {
	if variant < 1 || variant > len(t.Variants) {
		return d
	}
	return d.inVariant(t, variant)
}

func (d Document) inVariant(t Trial, variant int) Document {
	v := t.Variants[variant-1]
	d.Blocks = slices.Clone(d.Blocks)
	at := slices.IndexFunc(d.Blocks, func(block Block) bool { return block.Key == t.Block })
	switch {
	case t.Kind == OrderTrial:
		d.Blocks = reordered(d.Blocks, v.Order)
	case at < 0:
	case t.Kind == PlaceTrial:
		d.Blocks = replaced(d.Blocks, at, v.Place)
	case d.Blocks[at].Button != nil:
		button := *d.Blocks[at].Button
		if t.Kind == TitleTrial {
			button.Title = v.Title
		} else if v.Lead != nil {
			button.Lead = *v.Lead
		}
		d.Blocks[at].Button = &button
	}
	return d
}

// reordered puts the blocks of some keys in their order, in the places they have together.
func reordered(blocks []Block, order []string) []Block {
	rank := make(map[string]int, len(order))
	for i, key := range order {
		rank[key] = i
	}
	var moving []Block
	for _, block := range blocks {
		if _, moves := rank[block.Key]; moves {
			moving = append(moving, block)
		}
	}
	slices.SortStableFunc(moving, func(a, b Block) int { return rank[a.Key] - rank[b.Key] })
	for i, block := range blocks {
		if _, moves := rank[block.Key]; moves {
			blocks[i], moving = moving[0], moving[1:]
		}
	}
	return blocks
}

// replaced moves a block to a place among those that are switched on.
func replaced(blocks []Block, from, place int) []Block {
	block := blocks[from]
	blocks = slices.Delete(blocks, from, from+1)
	seen := 0
	for i, each := range blocks {
		if each.Shown {
			if seen++; seen == place {
				return slices.Insert(blocks, i, block)
			}
		}
	}
	return append(blocks, block)
}

// String says what a trial tries on a page.
func (t Trial) String(on Document) string {
	block, _ := on.Find(t.Block)
	switch t.Kind {
	case TitleTrial:
		return fmt.Sprintf("%s is tried with %s.", quote(block.Title()), count(len(t.Variants), "other title"))
	case PictureTrial:
		return fmt.Sprintf("%s is tried with %s.", quote(block.Title()), count(len(t.Variants), "other picture"))
	case PlaceTrial:
		return fmt.Sprintf("%s is tried at %s.", quote(block.Title()), count(len(t.Variants), "other place"))
	default:
		return fmt.Sprintf("The page is tried in %s.", count(len(t.Variants), "other order"))
	}
}

// Put says that a variant was put in place.
func (t Trial) Put(variant int) string {
	switch v := t.Variants[variant-1]; t.Kind {
	case TitleTrial:
		return fmt.Sprintf("the title is %s.", quote(v.Title))
	case PictureTrial:
		return "the other picture is put in place."
	case PlaceTrial:
		return fmt.Sprintf("the button stands at place %d.", v.Place)
	default:
		return "the other order is put in place."
	}
}
