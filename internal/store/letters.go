package store

import (
	"context"
	"database/sql"
	"fmt"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gorm.io/gorm"

	"jundle/internal/core/team"
)

// LettersQueue is the queue of letters that are to be sent.
const LettersQueue = "letters"

// lettersTried is how often a letter is tried to be sent: for a day and a half, at growing pauses
// (river: the fourth power of the attempt, in seconds).
const lettersTried = 15

// LetterKind is what a letter is about.
type LetterKind string

// priority is river's, from 1: those that strangers have sent wait for those that somebody needs to
// get in.
func (k LetterKind) priority() int {
	switch k {
	case ConfirmSignUp, BookingAnswered, BookingsAsked, PaymentMade:
		return 3
	}
	return 1
}

// LetterOrder has a letter written and sent. It names what the letter is about and carries nothing
// of it: what opens anything is made when the letter is written.
type LetterOrder struct {
	About LetterKind `json:"about"`
	// User is whom it goes to, unless what it is about says so.
	User      uuid.UUID `json:"user,omitzero"`
	Workspace uuid.UUID `json:"workspace,omitzero"`
	// Subject is the row it is about, where there is one.
	Subject uuid.UUID `json:"subject,omitzero"`
}

// Kind implements river.JobArgs.
func (LetterOrder) Kind() string { return "letter" }

// OrderLetter has a letter sent.
func (s *Store) OrderLetter(ctx context.Context, letter LetterOrder) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return s.orderLetters(tx, letter) })
}

// orderLetters has letters sent if and only if a transaction succeeds.
func (s *Store) orderLetters(tx *gorm.DB, letters ...LetterOrder) error {
	conn, ok := tx.Statement.ConnPool.(*sql.Tx)
	if !ok {
		return fmt.Errorf("order a letter: %T is no transaction", tx.Statement.ConnPool)
	}
	for _, letter := range letters {
		_, err := s.orders.InsertTx(tx.Statement.Context, conn, letter, &river.InsertOpts{
			Queue: LettersQueue, MaxAttempts: lettersTried, Priority: letter.About.priority(),
		})
		if err != nil {
			return fmt.Errorf("order a letter: %w", err)
		}
	}
	return nil
}

// orderToRunners has a letter sent to all who run a workspace.
func (s *Store) orderToRunners(tx *gorm.DB, letter LetterOrder) error {
	var users []uuid.UUID
	err := tx.Raw("select user_id from memberships where workspace_id = ? and role = ? and whole", letter.Workspace, team.Runs).
		Scan(&users).Error
	if err != nil {
		return err
	}
	orders := make([]LetterOrder, len(users))
	for i, user := range users {
		orders[i] = letter
		orders[i].User = user
	}
	return s.orderLetters(tx, orders...)
}
