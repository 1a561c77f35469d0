package page

import (
	"fmt"
	"strings"

	"jundle/internal/core/booking"
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/payment"
	"jundle/internal/core/window"
)

// Booking offers times that visitors can ask for. Nothing is booked before the creator agrees.
type Booking struct {
	nothingElse
	Title   string `json:"title" spoken:"line" doc:"At most 120 characters."`
	Text    string `json:"text,omitempty" spoken:"lines" doc:"What for; at most 300 characters."`
	Where   string `json:"where,omitempty" spoken:"line" doc:"At most 160 characters."`
	Minutes int    `json:"minutes" doc:"How long one takes: 5 to 720."`
	// Hours have weekly rules only; nil for no time at all.
	Hours  *window.Times `json:"hours,omitempty" doc:"Within which one lies: what repeats every week, by the clocks of its zone."`
	Notice int           `json:"notice,omitempty" doc:"How many hours before it begins at the latest: 0 to 336."`
	Ahead  int           `json:"ahead" doc:"How many days before it begins at the earliest: 1 to 90."`
	// Price is what one costs once it is agreed to, in the smallest unit of Currency; 0 for nothing.
	Price    int64  `json:"price,omitempty" doc:"To be paid once it is agreed to, in the smallest unit of the currency; left out for nothing."`
	Currency string `json:"currency,omitempty" doc:"ISO 4217 code; left out where nothing is to be paid."`
	Button   string `json:"button,omitempty" spoken:"line" doc:"On the button; words of ours when left out. At most 40 characters."`
	Thanks   string `json:"thanks,omitempty" spoken:"lines" doc:"Said once one is agreed to; at most 300 characters."`
}

// Limits of what visitors write with a time they ask for, in characters.
const (
	MaxBookingName = 80
	MaxBookingWord = 300
)

func (b *Booking) name() string { return b.Title }

func (b *Booking) tidy(problems *invalid.List, where string) {
	b.Title = problems.Line(where+"/title", "The title", b.Title, MaxTitle)
	b.Text = problems.Lines(where+"/text", "The text", b.Text, 300)
	b.Where = problems.Line(where+"/where", "The place", b.Where, MaxSecond)
	b.Button = problems.Line(where+"/button", "What stands on the button", b.Button, 40)
	b.Thanks = problems.Lines(where+"/thanks", "What is said once it is agreed to", b.Thanks, 300)
	problems.Range(where+"/minutes", "How long it takes, in minutes,", b.Minutes, booking.MinMinutes, booking.MaxMinutes)
	problems.Range(where+"/notice", "How long before, in hours,", b.Notice, 0, booking.MaxNoticeHours)
	problems.Range(where+"/ahead", "How far ahead, in days,", b.Ahead, 1, booking.MaxAheadDays)
	if b.Hours != nil {
		b.Hours.Spans = nil
	}
	b.Hours = b.Hours.Tidy(problems, where+"/hours")
	if b.Price == 0 {
		b.Currency = ""
		return
	}
	b.Currency = strings.ToUpper(problems.Line(where+"/currency", "The currency", b.Currency, 3))
	if _, known := payment.Digits(b.Currency); !known {
		problems.Add(where+"/currency", "“%s” is no currency code of ISO 4217. One looks like EUR.", b.Currency)
	} else if err := b.Cost().Check(); err != nil {
		problems.Add(where+"/price", "The price cannot be paid: %s.", err)
	}
}

// Cost is what is to be paid once one is agreed to; zero for nothing.
func (b *Booking) Cost() payment.Money { return payment.Money{Minor: b.Price, Currency: b.Currency} }

// Rules say which times can be asked for.
func (b *Booking) Rules() booking.Rules {
	rules := booking.Rules{Minutes: b.Minutes, NoticeHours: b.Notice, AheadDays: b.Ahead}
	if b.Hours != nil {
		rules.Hours = *b.Hours
	}
	return rules
}

// Zone is by whose clocks times are written.
func (b *Booking) Zone() string {
	if b.Hours == nil {
		return "UTC"
	}
	return b.Hours.Zone
}

// Terms say how long one takes, what it costs and where it is, as a language writes it.
func (b *Booking) Terms(language string) string {
	in := locale.Of(language)
	var terms []string
	if hours := b.Minutes / 60; hours > 0 {
		terms = append(terms, in.Count("hours", hours))
	}
	if minutes := b.Minutes % 60; minutes > 0 {
		terms = append(terms, in.Count("minutes", minutes))
	}
	terms = []string{strings.Join(terms, " ")}
	if b.Price > 0 {
		terms = append(terms, b.Cost().In(language))
	}
	if b.Where != "" {
		terms = append(terms, b.Where)
	}
	return strings.Join(terms, " · ")
}

func (b *Booking) targets() []Target { return []Target{{Name: b.Title, Book: b}} }

// Texts implements Content.
func (b *Booking) Texts(language string) (headings, text string) {
	return b.Title, b.Text + b.Terms(language) + b.Button + locale.Of(language).Letters("ask_time")
}

func (b *Booking) facts() []fact {
	hours, price := "", ""
	if b.Hours != nil {
		hours = b.Hours.String()
	}
	if b.Price > 0 {
		price = b.Cost().Plain() + " " + b.Currency
	}
	return []fact{
		{"text", b.Text},
		{"place", b.Where},
		{"minutes that it takes", fmt.Sprint(b.Minutes)},
		{"hours", hours},
		{"hours before", fmt.Sprint(b.Notice)},
		{"days ahead", fmt.Sprint(b.Ahead)},
		{"price", price},
		{"words on the button", b.Button},
		{"words once it is agreed to", b.Thanks},
	}
}
