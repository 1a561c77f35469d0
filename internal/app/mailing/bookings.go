package mailing

import (
	"context"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"jundle/internal/core/booking"
	"jundle/internal/core/locale"
	"jundle/internal/core/window"
	"jundle/internal/letters"
	"jundle/internal/store"
)

// BookingPath is below which visitors see how times stand that they asked for, on the public listener.
const BookingPath = "/-/booking/"

// BookingToken is what shows one time to who asked for it, and nothing else.
func BookingToken(key []byte, id uuid.UUID) string { return token(key, "booking", id[:]) }

// ReadBookingToken says which time a token is of; false for one that we did not make.
func ReadBookingToken(key []byte, given string) (id uuid.UUID, ok bool) {
	body, ok := readToken(key, "booking", given, len(id))
	if !ok {
		return id, false
	}
	return uuid.UUID(body), true
}

// answered are the words for how a time stands after an answer.
var answered = map[booking.State]string{
	booking.Agreed: "booking_agreed", booking.Declined: "booking_declined", booking.CalledOff: "booking_off",
}

// bookingAnswered tells who asked for a time what the creator answered, in the language of the page. What the creator wrote
// stands on the page that it leads to: whoever asks can have such a letter sent to anybody.
func (m Mailing) bookingAnswered(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	one, err := m.Store.Booking(ctx, order.Subject)
	if err != nil {
		return nil, "", err
	}
	words, told := answered[one.State]
	if !told {
		return nil, "", nil // taken back meanwhile
	}
	in, name := locale.Of(one.Language), quiet(one.PageName)
	subject := in.Say(words) + ": " + in.Moment(window.Times{Zone: one.Zone}.In(one.StartsAt))
	letter := &letters.Letter{
		Language: one.Language, Subject: subject, Lead: subject, From: name + " (Jundle)",
		Action: &letters.Link{Label: in.Say("letter_see"), Address: m.PublicOrigin + BookingPath + BookingToken(m.Key, one.ID)},
		Small:  []string{in.Say("letter_booking_why", "Page", name)},
	}
	switch {
	case one.State != booking.Agreed:
		letter.Paragraphs = []string{in.Say(words+"_text", "Name", name)}
	case one.Price > 0:
		letter.Paragraphs = []string{in.Say("letter_pay", "Amount", one.Cost().In(one.Language))}
	}
	return letter, one.Address, nil
}

// bookingsListed is how many times a letter lists.
const bookingsListed = 10

// bookingsAsked tells somebody who runs a workspace of times that visitors asked for or took back.
func (m Mailing) bookingsAsked(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	member, err := m.Store.MemberOf(ctx, order.Workspace, order.User)
	if err != nil {
		return nil, "", err
	}
	all, count, err := m.Store.ToldTogether(ctx, order.Workspace, order.Subject, bookingsListed, m.Now())
	if err != nil || count == 0 {
		return nil, "", err
	}
	in := locale.Of("en")
	letter := &letters.Letter{
		Subject: "Somebody asked for a time, or took one back", Action: &letters.Link{Label: "Answer", Address: m.Origin + "/bookings"},
		Small: []string{"More that come in within a quarter of an hour are told of together."},
	}
	if count == 1 {
		letter.Subject = "Somebody asked for a time"
		if all[0].State == booking.Withdrawn {
			letter.Subject = "A time that you agreed to was called off"
		}
	}
	letter.Lead = letter.Subject
	for _, one := range all {
		does := "asks for"
		if one.State == booking.Withdrawn {
			does = "called off"
		}
		letter.Paragraphs = append(letter.Paragraphs, fmt.Sprintf("%s %s %s (%s): %s", quiet(one.Name), does,
			in.Moment(window.Times{Zone: one.Zone}.In(one.StartsAt)), strings.ReplaceAll(one.Zone, "_", " "), quiet(one.BlockTitle)))
	}
	if more := count - int64(len(all)); more > 0 {
		letter.Paragraphs = append(letter.Paragraphs, fmt.Sprintf("And %d more.", more))
	}
	return letter, member.Email, nil
}
