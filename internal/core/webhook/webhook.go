// Package webhook says of what a workspace can tell other programs, what such a message holds, and
// when it is tried again. It sends nothing.
//
// Messages follow Standard Webhooks (standardwebhooks.com, specification 1.0): a body of type,
// timestamp and data, sent again at growing pauses until it is answered with a status of 2xx.
package webhook

import (
	"encoding/json"
	"fmt"
	"net/url"
	"slices"
	"time"

	"jundle/internal/core/address"
)

// Kind is what a message is about.
type Kind string

// Kinds of message.
const (
	// Published: a page has another edition.
	Published Kind = "page.published"
	// ClicksReached: a page was clicked so often on one day.
	ClicksReached Kind = "clicks.reached"
	// SourceFirstSeen: the first visit from a source was counted.
	SourceFirstSeen Kind = "source.first_seen"
	// AddressBroken: where something leads there is nothing, or no answer.
	AddressBroken Kind = "address.broken"
	// SignUpConfirmed: somebody left an e-mail address on a page and confirmed it.
	SignUpConfirmed Kind = "sign_up.confirmed"
	// SignUpRemoved: the address of somebody who had confirmed it was erased.
	SignUpRemoved Kind = "sign_up.removed"
	// BookingAsked: a visitor asked for a time.
	BookingAsked Kind = "booking.asked"
	// BookingChanged: it was agreed to, declined, called off or taken back.
	BookingChanged Kind = "booking.changed"
	// PaymentMade: a visitor paid.
	PaymentMade Kind = "payment.made"
	// PaymentRefunded: money was given back, all of it or a part.
	PaymentRefunded Kind = "payment.refunded"
	// Trial is sent when somebody wants to see whether a message arrives.
	Trial Kind = "trial"
)

// Kinds are all that can be asked for.
var Kinds = []Kind{
	Published, ClicksReached, SourceFirstSeen, AddressBroken, SignUpConfirmed, SignUpRemoved, BookingAsked, BookingChanged, PaymentMade,
	PaymentRefunded,
}

// MostClicks is the largest number of clicks on a day that can be asked for.
const MostClicks = 10_000_000

// Wish is what somebody wants to be told, and where.
type Wish struct {
	Address string
	Kinds   []Kind
	// Clicks is on how many clicks of a day to tell of them; 0 unless ClicksReached is among Kinds.
	Clicks int
}

// Error says in words what is wrong with a field of a wish.
type Error struct{ Field, Reason string }

func (e *Error) Error() string { return e.Reason }

// Clean holds a wish against the rules; *Error.
func (w Wish) Clean() (Wish, error) {
	link, err := address.ParseLink(w.Address)
	if err != nil {
		return Wish{}, &Error{"address", err.Error()}
	}
	parsed, err := url.Parse(link.URL)
	if err != nil || parsed.Scheme != "https" || parsed.User != nil {
		return Wish{}, &Error{"address", "A message can be sent to an address that begins with https:// and has no name or password in it."}
	}
	clean := Wish{Address: link.URL}
	for _, kind := range Kinds {
		if slices.Contains(w.Kinds, kind) {
			clean.Kinds = append(clean.Kinds, kind)
		}
	}
	if len(clean.Kinds) == 0 {
		return Wish{}, &Error{"kinds", "Choose at least one thing to be told of."}
	}
	if slices.Contains(clean.Kinds, ClicksReached) {
		if w.Clicks < 1 || w.Clicks > MostClicks {
			return Wish{}, &Error{"clicks", fmt.Sprintf("Say from how many clicks on a day on: 1 to %d.", MostClicks)}
		}
		clean.Clicks = w.Clicks
	}
	return clean, nil
}

// message is the body of a message, as Standard Webhooks has it.
type message struct {
	Type      Kind      `json:"type"`
	Timestamp time.Time `json:"timestamp"`
	Data      any       `json:"data"`
}

// Message writes the body of a message.
func Message(kind Kind, at time.Time, data any) (string, error) {
	text, err := json.Marshal(message{kind, at.UTC(), data})
	return string(text), err
}

// pauses are those between tries, as Standard Webhooks advises ("Deliverability and reliability"): a
// message is given up after some three days.
var pauses = []time.Duration{
	5 * time.Second, 5 * time.Minute, 30 * time.Minute, 2 * time.Hour, 5 * time.Hour, 10 * time.Hour, 14 * time.Hour, 20 * time.Hour,
	24 * time.Hour,
}

// Next is after how long a message that was tried so often, 1 and up, is tried again. It reports
// false when it is given up. Spread is from 0 to 1 and keeps messages that failed together from being
// tried together.
func Next(attempts int, spread float64) (pause time.Duration, again bool) {
	if attempts < 1 || attempts > len(pauses) {
		return 0, false
	}
	pause = pauses[attempts-1]
	return pause + time.Duration(spread*float64(pause)/10), true
}

// PublishedData is what Published tells.
type PublishedData struct {
	Page    string `json:"page"`
	Edition int    `json:"edition"`
	// Changes are sentences.
	Changes []string `json:"changes"`
}

// ClicksData is what ClicksReached tells.
type ClicksData struct {
	Page   string `json:"page"`
	Day    string `json:"day"` // YYYY-MM-DD by the clocks of the workspace
	Clicks int    `json:"clicks"`
	From   int    `json:"from"` // how many were asked for
}

// SourceData is what SourceFirstSeen tells.
type SourceData struct {
	Page   string    `json:"page"`
	Source string    `json:"source"`
	Name   string    `json:"name"`
	Seen   time.Time `json:"seen"`
}

// BrokenData is what AddressBroken tells.
type BrokenData struct {
	Destination string `json:"destination"`
	Address     string `json:"address"`
	Says        string `json:"says"`
}

// SignUpData is what SignUpConfirmed and SignUpRemoved tell.
type SignUpData struct {
	SignUp   string `json:"signUp"`
	Address  string `json:"address"`
	Page     string `json:"page,omitempty"`
	PageName string `json:"pageName"`
	Block    string `json:"block"`
	// Source is what the source is called; empty for untagged.
	Source      string    `json:"source"`
	Language    string    `json:"language"`
	Consent     string    `json:"consent"`
	AskedAt     time.Time `json:"askedAt"`
	ConfirmedAt time.Time `json:"confirmedAt"`
}

// BookingData is what BookingAsked and BookingChanged tell.
type BookingData struct {
	Booking  string `json:"booking"`
	State    string `json:"state"`
	Page     string `json:"page,omitempty"`
	PageName string `json:"pageName"`
	Block    string `json:"block"`
	// Source is what the source is called; empty for untagged.
	Source   string    `json:"source"`
	From     time.Time `json:"from"`
	To       time.Time `json:"to"`
	Zone     string    `json:"zone"` // by whose clocks it was asked for
	Name     string    `json:"name"`
	Address  string    `json:"address"`
	Word     string    `json:"word"`
	Language string    `json:"language"`
	AskedAt  time.Time `json:"askedAt"`
}

// PaymentData is what PaymentMade and PaymentRefunded tell.
type PaymentData struct {
	Payment  string `json:"payment"`
	Booking  string `json:"booking,omitempty"` // the time it is for
	Page     string `json:"page,omitempty"`
	PageName string `json:"pageName"`
	Block    string `json:"block"`
	// Source is what the source is called; empty for untagged.
	Source string `json:"source"`
	// Amount and Refunded are in the smallest units of the currency (ISO 4217).
	Amount   int64      `json:"amount"`
	Refunded int64      `json:"refunded"`
	Currency string     `json:"currency"`
	Word     string     `json:"word"`
	PaidAt   *time.Time `json:"paidAt,omitempty"`
}

// TrialData is what Trial tells.
type TrialData struct {
	Says string `json:"says"`
}
