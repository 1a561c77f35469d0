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
	// Key signs what switches letters off.
	Key []byte
	Now func() time.Time
}

// writers write letters by what they are about. They answer nil for one that there is no reason
// for any more, and the address it goes to.
var writers = map[store.LetterKind]func(m Mailing, ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error){
	store.WeeklyLetter: Mailing.weekly,
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
