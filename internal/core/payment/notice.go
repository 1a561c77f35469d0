package payment

import (
	"errors"
	"time"
)

// Happened is what a payment service says of a payment.
type Happened string

// What happens to payments.
const (
	Paid     Happened = "payment.paid"
	Failed   Happened = "payment.failed"
	Refunded Happened = "payment.refunded"
)

// Notice is what a payment service says once.
type Notice struct {
	Happened Happened
	At       time.Time
	// Money is what was paid or, of a refund, all that was given back until then.
	Money Money
}

// ErrOther is answered for a notice about other money than was asked for.
var ErrOther = errors.New("the notice is about other money than was asked for")

// ErrNotice is answered for what is no notice.
var ErrNotice = errors.New("this is no notice of a payment")

// Record is what is known of a payment. What follows from notices is the same in whatever order they
// come, and however often each does.
type Record struct {
	Asked Money
	// PaidAt is when it was first paid, FailedAt when it last failed.
	PaidAt, FailedAt *time.Time
	// Refunded is how much was given back, RefundedAt when that came to be so.
	Refunded   int64
	RefundedAt *time.Time
}

// State is how a payment stands.
type State string

// States of payments.
const (
	Begun         State = "begun" // nobody has said yet
	IsPaid        State = "paid"
	IsFailed      State = "failed"
	GivenBack     State = "given_back"
	PartGivenBack State = "part_given_back"
)

// State is how it stands. One that was paid in the end is not one that failed.
func (r Record) State() State {
	switch {
	case r.PaidAt != nil && r.Refunded >= r.Asked.Minor:
		return GivenBack
	case r.PaidAt != nil && r.Refunded > 0:
		return PartGivenBack
	case r.PaidAt != nil:
		return IsPaid
	case r.FailedAt != nil:
		return IsFailed
	default:
		return Begun
	}
}

// Kept is what of it stays with the creator: nothing until it was paid.
func (r Record) Kept() int64 {
	if r.PaidAt == nil {
		return 0
	}
	return max(r.Asked.Minor-r.Refunded, 0)
}

// After is what is known after a notice. Errors: ErrOther and ErrNotice; nothing changes by those.
func (r Record) After(notice Notice) (Record, error) {
	if notice.At.IsZero() || notice.Money.Currency != r.Asked.Currency {
		return r, ErrOther
	}
	at := notice.At
	switch notice.Happened {
	case Paid:
		if notice.Money.Minor != r.Asked.Minor {
			return r, ErrOther
		}
		if r.PaidAt == nil || at.Before(*r.PaidAt) {
			r.PaidAt = &at
		}
	case Failed:
		if r.FailedAt == nil || at.After(*r.FailedAt) {
			r.FailedAt = &at
		}
	case Refunded:
		if notice.Money.Minor <= 0 || notice.Money.Minor > r.Asked.Minor {
			return r, ErrOther
		}
		switch {
		case notice.Money.Minor > r.Refunded:
			r.Refunded, r.RefundedAt = notice.Money.Minor, &at
		case notice.Money.Minor == r.Refunded && at.Before(*r.RefundedAt):
			r.RefundedAt = &at
		}
	default:
		return r, ErrNotice
	}
	return r, nil
}
