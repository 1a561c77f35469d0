// Package mailing sends the letters that were ordered: it looks up what each is about, has it
// written, and hands it to the mail server. What opens anything is made here, at the last moment,
// so that it stands in no queue and in no log.
package mailing

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"jundle/internal/letters"
	"jundle/internal/mail"
	"jundle/internal/store"
)

// Mailing sends letters.
type Mailing struct {
	Store *store.Store
	// Send hands a letter to the mail server; nil where there is none.
	Send func(ctx context.Context, message mail.Message) error
	// Origin is where creators reach the studio.
	Origin string
	// PublicOrigin is where visitors reach pages.
	PublicOrigin string
	// Key signs what switches letters off.
	Key []byte
	Now func() time.Time
}

// writer writes a letter and says where it goes; nil for one that there is no reason for any more.
type writer func(m Mailing, ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error)

// writers write letters by what they are about.
var writers = map[store.LetterKind]writer{
	store.WeeklyLetter:   Mailing.weekly,
	store.ConfirmAccount: Mailing.confirmAccount,
	store.AlreadyRegistered: notice(letters.Letter{
		Subject: "You have an account already",
		Paragraphs: []string{
			"Somebody, most likely you, wanted to open an account with this e-mail address, or to move one to it. It has one: sign in with it.",
			"If you do not remember your password, choose a new one where you sign in.",
		},
		Action: &letters.Link{Label: "Sign in", Address: "/sign-in"},
		Small:  []string{"If it was not you, do nothing. Nothing was changed, and nobody was told that you have an account."},
	}),
	store.Invited:     Mailing.invited,
	store.NewPassword: Mailing.newPassword,
	store.PasswordChanged: notice(letters.Letter{
		Subject: "Your password was changed",
		Paragraphs: []string{
			"You have a new password. You were signed out everywhere else, and your API tokens were ended: make new ones for the programs " +
				"that still need them.",
		},
	}),
	store.ConfirmEmail:  Mailing.confirmEmail,
	store.EmailChanging: Mailing.emailChanging,
	store.EmailChanged:  Mailing.emailChanged,
	store.NewSignIn:     Mailing.newSignIn,
	store.SecondFactorOn: notice(letters.Letter{
		Subject:    "Signing in wants a code now",
		Paragraphs: []string{"Besides your password, a code of your authenticator app is asked for. You were signed out everywhere else."},
	}),
	store.SecondFactorOff: notice(letters.Letter{
		Subject:    "Signing in wants no code any more",
		Paragraphs: []string{"Your password alone is enough again to sign in as you."},
	}),
	store.RecoveryUsed: notice(letters.Letter{
		Subject:    "A recovery code was used",
		Paragraphs: []string{"Somebody signed in as you with your password and one of your recovery codes. That code is used up."},
	}),
	store.PasskeyAdded: notice(letters.Letter{
		Subject:    "A passkey was added to your account",
		Paragraphs: []string{"A device can sign in as you with it, without your password."},
	}),
	store.PasskeyRemoved: notice(letters.Letter{
		Subject:    "A passkey was removed from your account",
		Paragraphs: []string{"The device that has it cannot sign in with it any more."},
	}),
	store.ConfirmSignUp:   Mailing.confirmSignUp,
	store.DomainLost:      Mailing.domainLost,
	store.BookingAnswered: Mailing.bookingAnswered,
	store.BookingsAsked:   Mailing.bookingsAsked,
	store.PaymentMade:     Mailing.paymentMade,
	store.DeletionBegun:   Mailing.deletionBegun,
	store.DeletionTakenBack: notice(letters.Letter{
		Subject:    "Your account stays",
		Paragraphs: []string{"The deletion of your account was taken back. Everything is as it was."},
	}),
}

// Deliver sends what was ordered. What it is about may be gone by then; so is the letter.
func (m Mailing) Deliver(ctx context.Context, order store.LetterOrder) error {
	write, known := writers[order.About]
	if !known {
		return &mail.RefusedError{Err: fmt.Errorf("nobody writes letters about %q", order.About)}
	}
	letter, to, err := write(m, ctx, order)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return nil
	case err != nil:
		return fmt.Errorf("write a letter about %s: %w", order.About, err)
	case letter == nil:
		return nil
	}
	message, err := letter.To(to)
	if err != nil {
		return err
	}
	if m.Send == nil {
		slog.Warn("a letter was not sent, because there is no mail server: set JUNDLE_MAIL_URL", "about", string(order.About))
		return nil
	}
	return m.Send(ctx, message)
}
