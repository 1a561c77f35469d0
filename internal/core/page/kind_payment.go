package page

import (
	"fmt"
	"slices"
	"strings"

	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/payment"
)

// Payment is a form by which visitors pay: one of a few amounts, or one of their own. With one amount alone it has a
// price.
type Payment struct {
	nothingElse
	Title    string  `json:"title" spoken:"line" doc:"At most 120 characters."`
	Text     string  `json:"text,omitempty" spoken:"lines" doc:"What for; at most 300 characters."`
	Currency string  `json:"currency" doc:"ISO 4217 code."`
	Amounts  []int64 `json:"amounts" nullable:"false" maxItems:"6" doc:"To choose from, in the smallest unit of the currency."`
	Own      bool    `json:"own,omitempty" doc:"Visitors may choose an amount of their own."`
	Word     bool    `json:"word,omitempty" doc:"Visitors may write a word with it."`
	Button   string  `json:"button,omitempty" spoken:"line" doc:"On the button; words of ours when left out. At most 40 characters."`
	Thanks   string  `json:"thanks,omitempty" spoken:"lines" doc:"Said once it is paid; at most 300 characters."`
}

// MaxAmounts is how many amounts there are to choose from.
const MaxAmounts = 6

// MaxWord is how long it may be what a visitor writes with a payment, in characters.
const MaxWord = 200

func (p *Payment) name() string { return p.Title }

func (p *Payment) tidy(problems *invalid.List, where string) {
	p.Title = problems.Line(where+"/title", "The title", p.Title, MaxTitle)
	p.Text = problems.Lines(where+"/text", "The text", p.Text, 300)
	p.Button = problems.Line(where+"/button", "What stands on the button", p.Button, 40)
	p.Thanks = problems.Lines(where+"/thanks", "What is said at the end", p.Thanks, 300)
	p.Currency = strings.ToUpper(problems.Line(where+"/currency", "The currency", p.Currency, 3))
	if _, known := payment.Digits(p.Currency); !known {
		problems.Add(where+"/currency", "“%s” is no currency code of ISO 4217. One looks like EUR.", p.Currency)
		return
	}
	if len(p.Amounts) > MaxAmounts {
		problems.Add(where+"/amounts", "There can be %d amounts to choose from. Take some out.", MaxAmounts)
	}
	if len(p.Amounts) == 0 && !p.Own {
		problems.Add(where+"/amounts", "Give an amount, or let visitors choose one of their own.")
	}
	slices.Sort(p.Amounts)
	p.Amounts = slices.Compact(p.Amounts)
	for _, minor := range p.Amounts {
		if err := (payment.Money{Minor: minor, Currency: p.Currency}).Check(); err != nil {
			problems.Add(where+"/amounts", "One of the amounts cannot be paid: %s.", err)
			return
		}
	}
}

// Price is what is paid where there is nothing to choose.
func (p *Payment) Price() (payment.Money, bool) {
	if len(p.Amounts) == 1 && !p.Own {
		return payment.Money{Minor: p.Amounts[0], Currency: p.Currency}, true
	}
	return payment.Money{}, false
}

// Choices are the amounts there are to choose from.
func (p *Payment) Choices() []payment.Money {
	all := make([]payment.Money, len(p.Amounts))
	for i, minor := range p.Amounts {
		all[i] = payment.Money{Minor: minor, Currency: p.Currency}
	}
	return all
}

// Chosen is what a visitor chose on a page in a language: an amount of their own as they typed it, whatever else is chosen, or one of those
// there are by its number. Errors are those of payment.Parse.
func (p *Payment) Chosen(choice, own, language string) (payment.Money, error) {
	if p.Own && strings.TrimSpace(own) != "" {
		return payment.Parse(own, p.Currency, language)
	}
	for _, each := range p.Choices() {
		if choice == fmt.Sprint(each.Minor) {
			return each, nil
		}
	}
	return payment.Money{}, payment.ErrAmount
}

func (p *Payment) targets() []Target { return []Target{{Name: p.Title, Pay: p}} }

// Texts implements Content.
func (p *Payment) Texts(language string) (headings, text string) {
	text = p.Text + p.Button + locale.Of(language).Letters("pay", "amount", "own_amount", "your_word")
	for _, each := range p.Choices() {
		text += each.In(language)
	}
	return p.Title, text
}

func (p *Payment) facts() []fact {
	var amounts []string
	for _, each := range p.Choices() {
		amounts = append(amounts, each.Plain())
	}
	return []fact{
		{"text", p.Text},
		{"currency", p.Currency},
		{"amounts", strings.Join(amounts, ", ")},
		{"own amounts", yes(p.Own)},
		{"a word with it", yes(p.Word)},
		{"words on the button", p.Button},
		{"words at the end", p.Thanks},
	}
}
