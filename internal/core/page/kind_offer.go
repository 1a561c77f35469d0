package page

import (
	"strings"

	"github.com/bojanz/currency"

	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
)

// Offer is something to buy or book.
type Offer struct {
	Name          string           `json:"name" spoken:"line" doc:"At most 120 characters."`
	Text          string           `json:"text,omitempty" spoken:"lines" doc:"At most 300 characters."`
	Picture       *picture.Picture `json:"picture,omitempty"`
	Amount        string           `json:"amount,omitempty" doc:"The price in figures with a point, such as 24.50; empty for none."`
	Currency      string           `json:"currency,omitempty" doc:"ISO 4217 code."`
	Address       string           `json:"address"`
	DestinationID string           `json:"destinationId,omitempty" doc:"The destination it leads to; found or made when the page is saved."`
	Plain         bool             `json:"plain,omitempty" doc:"The page carries the address itself; clicks may be more than are counted."`
	Shown         string           `json:"shown,omitempty" enum:"row,catalogue" doc:"As a row, or beside the offer next to it."`
}

func (o *Offer) name() string { return o.Name }

func (o *Offer) nameAfterTarget() { fill(&o.Name, nameOf(o.Address)) }

// IsHalfWide implements HalfWide.
func (o *Offer) IsHalfWide() bool { return o.Shown == "catalogue" }

func (o *Offer) tidy(problems *invalid.List, where string) {
	o.Name = problems.Line(where+"/name", "The name", o.Name, MaxTitle)
	o.Text = problems.Line(where+"/text", "The text", o.Text, 300)
	o.Picture.Tidy(problems, where+"/picture")
	o.Address = tidyAddress(problems, where+"/address", o.Address, false)
	o.Plain = o.Plain && isWeb(o.Address)
	o.Shown = invalid.Choice(problems, where+"/shown", "way to show an offer", o.Shown, "row", "catalogue")
	o.Amount = strings.ReplaceAll(problems.Line(where+"/amount", "The price", o.Amount, 20), ",", ".")
	o.Currency = strings.ToUpper(problems.Line(where+"/currency", "The currency", o.Currency, 3))
	if o.Currency != "" && !currency.IsValid(o.Currency) {
		problems.Add(where+"/currency", "“%s” is no currency code of ISO 4217. One looks like EUR.", o.Currency)
		return
	}
	if o.Amount == "" {
		return
	}
	if o.Currency == "" {
		problems.Add(where+"/currency", "A price needs a currency, such as EUR.")
		return
	}
	if amount, err := currency.NewAmount(o.Amount, o.Currency); err != nil || amount.IsNegative() {
		problems.Add(where+"/amount", "“%s” is not a price. Write it in figures, like 24.50.", o.Amount)
	}
}

// Price is the price as a language writes it, empty when there is none. A round
// price is written without its zeros.
func (o *Offer) Price(language string) string {
	amount, err := currency.NewAmount(o.Amount, o.Currency)
	if err != nil {
		return ""
	}
	formatter := currency.NewFormatter(currency.NewLocale(language))
	if amount.RoundTo(0, currency.RoundDown).Equal(amount) {
		formatter.MinDigits = 0
	}
	return formatter.Format(amount)
}

func (o *Offer) targets() []Target {
	return []Target{{Name: o.Name, Address: o.Address, DestinationID: o.DestinationID, Plain: o.Plain}}
}

func (o *Offer) links(visit func(link Link)) { visit(Link{&o.Address, &o.DestinationID, o.Name}) }

func (o *Offer) pictures(visit func(where string, p *picture.Picture)) { visit("picture", o.Picture) }

func (o *Offer) files() map[string]string { return nil }

// Texts implements Content.
func (o *Offer) Texts(language string) (headings, text string) {
	return "", o.Name + o.Text + o.Price(language)
}

func (o *Offer) facts() []fact {
	return []fact{
		{"text", o.Text}, {"price", strings.TrimSpace(o.Amount + " " + o.Currency)}, {
			"picture",
			pictureValue(o.Picture),
		}, {"place in the catalogue", o.Shown}, {"plain address", yes(o.Plain)},
	}
}
