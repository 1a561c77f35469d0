package mailing

import (
	"context"

	"jundle/internal/letters"
	"jundle/internal/store"
)

// paymentMade tells somebody who runs a workspace that a visitor paid. What the visitor wrote stands under Income: whoever
// pays can have such a letter sent.
func (m Mailing) paymentMade(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	member, err := m.Store.MemberOf(ctx, order.Workspace, order.User)
	if err != nil {
		return nil, "", err
	}
	one, err := m.Store.PaymentOf(ctx, order.Workspace, order.Subject)
	if err != nil {
		return nil, "", err
	}
	amount := one.Money().In("en")
	letter := &letters.Letter{
		Subject: "You were paid " + amount, Lead: "You were paid " + amount,
		Paragraphs: []string{"A visitor of " + quiet(one.PageName) + " paid for: " + quiet(one.BlockTitle) + "."},
		Action:     &letters.Link{Label: "See it under Income", Address: m.Origin + "/income"},
	}
	if one.BookingID != nil {
		letter.Paragraphs = append(letter.Paragraphs, "It pays for a booking.")
	}
	return letter, member.Email, nil
}
