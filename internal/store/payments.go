package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/payment"
	"jundle/internal/core/webhook"
)

const (
	// unpaidKept is for how long a payment is kept that nobody paid: longer than any service goes on
	// telling of what happened.
	unpaidKept = 60 * 24 * time.Hour
	// unpaidMost is how many of those a workspace can have.
	unpaidMost = 10_000
	// servicesKept is how many services of a workspace are known, those that were ended among them.
	servicesKept = 20
	// samePayment is for how long a payment that was begun for a time is gone on with.
	samePayment = 30 * time.Minute
)

// ErrManyPayments: a workspace has as many payments that nobody paid as it may.
var ErrManyPayments = errors.New("as many payments begun as a workspace may have")

// ErrPaid: a time was paid for.
var ErrPaid = errors.New("this is paid for")

// PaymentService is by which visitors pay a workspace.
type PaymentService struct {
	// ID stands in the address that notices come to.
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Address     string
	Token       string
	Secret      string
	CreatedAt   time.Time
	// EndedAt is since when nobody is led to it any more. It still tells of what was paid by it.
	EndedAt *time.Time
	// FailedAt is when it last took nothing, and Failure why.
	FailedAt *time.Time
	Failure  string
}

// Payment is what a visitor pays, or began to.
type Payment struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	ServiceID   uuid.UUID
	// BookingID is the time it is for; nil for none.
	BookingID *uuid.UUID
	// PageID is nil once the page is gone; PageName and BlockTitle are what they were called then.
	PageID     *uuid.UUID
	PageName   string
	Block      string
	BlockTitle string
	Edition    int
	// Source is where the visit came from, as figures name it.
	Source string
	// Own: by the browser of a member.
	Own      bool
	Language string
	Amount   int64
	Currency string
	// Word is what the visitor wrote with it.
	Word    string
	BegunAt time.Time
	// Checkout is what the service calls it.
	Checkout   string
	PaidAt     *time.Time
	FailedAt   *time.Time
	Refunded   int64
	RefundedAt *time.Time
	// Refunding is how much the service was asked to give back, and has not confirmed yet; 0 for nothing.
	Refunding   int64
	RefundingAt *time.Time
}

// Money is what was asked for.
func (p Payment) Money() payment.Money { return payment.Money{Minor: p.Amount, Currency: p.Currency} }

// Record is what is known of it.
func (p Payment) Record() payment.Record {
	return payment.Record{Asked: p.Money(), PaidAt: p.PaidAt, FailedAt: p.FailedAt, Refunded: p.Refunded, RefundedAt: p.RefundedAt}
}

// PaymentService finds that of a workspace; ErrNotFound.
func (s *Store) PaymentService(ctx context.Context, workspace uuid.UUID) (one PaymentService, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and ended_at is null", workspace).Take(&one).Error
	return one, found(err)
}

// PaymentServiceByID finds one, also of those that were ended, by what stands in the address that its notices come to;
// ErrNotFound.
func (s *Store) PaymentServiceByID(ctx context.Context, id uuid.UUID) (one PaymentService, err error) {
	err = s.db.WithContext(ctx).Where("id = ?", id).Take(&one).Error
	return one, found(err)
}

// SetPaymentService has visitors pay a workspace by a service, and ends the one before. At the same address it is the
// same one again.
func (s *Store) SetPaymentService(ctx context.Context, set PaymentService) (PaymentService, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, set.WorkspaceID); err != nil {
			return err
		}
		if err := endPaymentServices(tx, set.WorkspaceID, set.CreatedAt); err != nil {
			return err
		}
		var before PaymentService
		err := tx.Where("workspace_id = ? and address = ?", set.WorkspaceID, set.Address).Order("ended_at desc").Limit(1).Find(&before).Error
		if err != nil {
			return err
		}
		set.ID = before.ID
		if set.ID == uuid.Nil {
			set.ID = newID()
		}
		if err := tx.Save(&set).Error; err != nil {
			return err
		}
		return announceDomains(tx, set.WorkspaceID) // pages know where their visitors pay
	})
	return set, err
}

// endPaymentServices ends the one of a workspace, and forgets those that were ended long before others.
func endPaymentServices(tx *gorm.DB, workspace uuid.UUID, now time.Time) error {
	err := tx.Exec("update payment_services set ended_at = ? where workspace_id = ? and ended_at is null", now, workspace).Error
	if err != nil {
		return err
	}
	return tx.Exec(`delete from payment_services where workspace_id = @workspace and id not in (
		select id from payment_services where workspace_id = @workspace order by ended_at desc limit @most)`,
		map[string]any{"workspace": workspace, "most": servicesKept}).Error
}

// DropPaymentService takes it off a workspace: nobody can pay any more; ErrNotFound.
func (s *Store) DropPaymentService(ctx context.Context, workspace uuid.UUID, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := foundRow(tx.Exec("update payment_services set ended_at = ? where workspace_id = ? and ended_at is null", now, workspace))
		if err != nil {
			return err
		}
		return announceDomains(tx, workspace)
	})
}

// NotePaymentFailure notes that a service took nothing, and why; empty for that it did.
func (s *Store) NotePaymentFailure(ctx context.Context, service uuid.UUID, failure string, now time.Time) error {
	if failure == "" {
		return s.db.WithContext(ctx).
			Exec("update payment_services set failed_at = null, failure = '' where id = ? and failed_at is not null", service).Error
	}
	return s.db.WithContext(ctx).Exec("update payment_services set failed_at = ?, failure = ? where id = ?", now, failure, service).Error
}

// BeginPayment keeps a payment before anybody is asked for money. For a time that was begun to be paid for a moment
// ago it is that one again. Errors: ErrManyPayments, and ErrPaid for a time that was paid for.
func (s *Store) BeginPayment(ctx context.Context, one Payment) (Payment, error) {
	one.ID = newID()
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if one.BookingID != nil {
			if again, err := begunFor(tx, one); err != nil || again.ID != uuid.Nil {
				one = again
				return err
			}
		}
		var unpaid int64
		err := tx.Raw("select count(*) from (select from payments where workspace_id = ? and paid_at is null limit ?) unpaid",
			one.WorkspaceID, unpaidMost).Scan(&unpaid).Error
		if err != nil {
			return err
		}
		if unpaid >= unpaidMost {
			return ErrManyPayments
		}
		return tx.Create(&one).Error
	})
	return one, err
}

// begunFor is what was begun a moment ago for the time of a payment by the same service; a zero Payment for nothing. The
// time is held, so that two cannot be begun at once. ErrPaid.
func begunFor(tx *gorm.DB, one Payment) (again Payment, err error) {
	if err := tx.Exec("select from bookings where id = ? for update", one.BookingID).Error; err != nil {
		return again, err
	}
	var paid bool
	err = tx.Raw("select exists (select from payments where booking_id = ? and paid_at is not null and refunded < amount)", one.BookingID).
		Scan(&paid).Error
	if err != nil {
		return again, err
	}
	if paid {
		return again, ErrPaid
	}
	err = tx.Where("booking_id = ? and service_id = ? and paid_at is null and failed_at is null and begun_at > ?",
		one.BookingID, one.ServiceID, one.BegunAt.Add(-samePayment)).Order("begun_at desc").Limit(1).Find(&again).Error
	return again, err
}

// PaymentFor finds the payment that says how a time was paid for: one that was paid before one that was not, and the
// latest of those; ErrNotFound.
func (s *Store) PaymentFor(ctx context.Context, booking uuid.UUID) (one Payment, err error) {
	err = s.db.WithContext(ctx).Where("booking_id = ?", booking).
		Order("(paid_at is not null and refunded < amount) desc, begun_at desc").Limit(1).Take(&one).Error
	return one, found(err)
}

// PaymentBegun keeps what the service calls a payment.
func (s *Store) PaymentBegun(ctx context.Context, id uuid.UUID, checkout string) error {
	return s.db.WithContext(ctx).Exec("update payments set checkout = ? where id = ?", checkout, id).Error
}

// Payment finds one by its ID; ErrNotFound.
func (s *Store) Payment(ctx context.Context, id uuid.UUID) (one Payment, err error) {
	err = s.db.WithContext(ctx).Where("id = ?", id).Take(&one).Error
	return one, found(err)
}

// PaymentOf finds one of a workspace; ErrNotFound.
func (s *Store) PaymentOf(ctx context.Context, workspace, id uuid.UUID) (one Payment, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Take(&one).Error
	return one, found(err)
}

// TakePaymentNotice keeps what a service says of one of its payments. What was said before changes nothing.
// Errors: ErrNotFound for a payment that is not by that service, payment.ErrOther and payment.ErrNotice.
func (s *Store) TakePaymentNotice(ctx context.Context, service, id uuid.UUID, notice payment.Notice) (one Payment, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? and service_id = ?", id, service).Take(&one).Error
		if err != nil {
			return found(err)
		}
		record, err := one.Record().After(notice)
		if err != nil {
			return err
		}
		paid, refunded := one.PaidAt == nil && record.PaidAt != nil, record.Refunded > one.Refunded
		if record.Refunded != one.Refunded {
			one.Refunding, one.RefundingAt = 0, nil
		}
		one.PaidAt, one.FailedAt, one.Refunded, one.RefundedAt = record.PaidAt, record.FailedAt, record.Refunded, record.RefundedAt
		err = tx.Model(&one).Select("paid_at", "failed_at", "refunded", "refunded_at", "refunding", "refunding_at").Updates(&one).Error
		if err != nil {
			return err
		}
		if paid {
			if err := s.tellOfPayment(tx, webhook.PaymentMade, one, *one.PaidAt); err != nil {
				return err
			}
		}
		if refunded {
			return s.tellOfPayment(tx, webhook.PaymentRefunded, one, *one.RefundedAt)
		}
		return nil
	})
	return one, err
}

// PaymentMade tells those who run a workspace that a visitor paid.
const PaymentMade LetterKind = "payment made"

// tellOfPayment tells webhooks of a payment, and, of one that was made, those who run the workspace by a letter.
func (s *Store) tellOfPayment(tx *gorm.DB, kind webhook.Kind, one Payment, at time.Time) error {
	data := webhook.PaymentData{
		Payment: one.ID.String(), PageName: one.PageName, Block: one.BlockTitle, Amount: one.Amount, Refunded: one.Refunded,
		Currency: one.Currency, Word: one.Word, PaidAt: one.PaidAt,
	}
	if one.PageID != nil {
		data.Page = one.PageID.String()
	}
	if one.BookingID != nil {
		data.Booking = one.BookingID.String()
	}
	var err error
	if data.Source, err = nameOfSource(tx, one.Source); err != nil {
		return err
	}
	if err := tellIn(tx, one.WorkspaceID, kind, at, data); err != nil || kind != webhook.PaymentMade {
		return err
	}
	return s.orderToRunners(tx, LetterOrder{About: PaymentMade, Workspace: one.WorkspaceID, Subject: one.ID})
}

// refundWaits is for how long a refund that was asked for keeps others of its payment waiting, unless it is confirmed.
const refundWaits = 10 * time.Minute

// ErrRefunding: another refund of the payment was asked for and is not confirmed yet.
var ErrRefunding = errors.New("another refund of this payment is on its way")

// BeginRefund notes that so much of a payment of a workspace is to be refunded, and answers the payment as it stands.
// The same once more is no other. Errors: ErrNotFound, ErrRefunding, payment.ErrTooMuch and payment.ErrTooLittle.
func (s *Store) BeginRefund(ctx context.Context, workspace, id uuid.UUID, minor int64, now time.Time) (one Payment, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? and workspace_id = ?", id, workspace).Take(&one).Error
		switch {
		case err != nil:
			return found(err)
		case minor <= 0:
			return payment.ErrTooLittle
		case minor > one.Record().Kept():
			return payment.ErrTooMuch
		case one.Refunding != 0 && one.Refunding != minor && now.Before(one.RefundingAt.Add(refundWaits)):
			return ErrRefunding
		}
		one.Refunding, one.RefundingAt = minor, &now
		return tx.Model(&one).Select("refunding", "refunding_at").Updates(&one).Error
	})
	return one, err
}

// EndRefund notes that a refund did not come about.
func (s *Store) EndRefund(ctx context.Context, id uuid.UUID) error {
	return s.db.WithContext(ctx).Exec("update payments set refunding = 0, refunding_at = null where id = ?", id).Error
}

// ListedPayment is a payment as creators see it.
type ListedPayment struct {
	Payment
	// From is what the source is called; empty for untagged.
	From string
}

const listedPayments = `
	select payments.*, coalesce(sources.name, payments.source) as "from" from payments left join sources on sources.id =
		case when payments.source ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' then payments.source::uuid end
	where payments.workspace_id = @workspace and (payments.paid_at is not null or payments.failed_at is not null)`

// Payments lists those of a workspace that were paid or failed, the latest first, after a place; nil for the first.
func (s *Store) Payments(ctx context.Context, workspace uuid.UUID, after *Place, most int) (all []ListedPayment, err error) {
	query, args := listedPayments, map[string]any{"workspace": workspace, "most": most}
	if after != nil {
		query += " and (begun_at, payments.id) < (@at, cast(@id as uuid))"
		args["at"], args["id"] = after.At, after.ID
	}
	err = s.db.WithContext(ctx).Raw(query+" order by begun_at desc, payments.id desc limit @most", args).Scan(&all).Error
	for i := range all {
		all[i].From = placeName(all[i].From)
	}
	return all, err
}

// EachPayment goes through all of a workspace that were paid or failed, the oldest first, a part at a time.
func (s *Store) EachPayment(ctx context.Context, workspace uuid.UUID, visit func(ListedPayment) error) error {
	return eachPart(func(last ListedPayment) (part []ListedPayment, err error) {
		err = s.db.WithContext(ctx).Raw(listedPayments+` and (begun_at, payments.id) > (@at, cast(@id as uuid))
			order by begun_at, payments.id limit 1000`, map[string]any{"workspace": workspace, "at": last.BegunAt, "id": last.ID}).
			Scan(&part).Error
		for i := range part {
			part[i].From = placeName(part[i].From)
		}
		return part, err
	}, visit)
}

// Taken is what came in one currency: what was paid less what was given back, and how often somebody paid.
type Taken struct {
	Source   string
	Currency string
	Minor    int64
	Times    int
}

// TakenBySource sums up what was paid on a page of a workspace in a span, by where it came from. Members' own is
// left out, and so is what was paid for times that do not take place: it is to be given back.
func (s *Store) TakenBySource(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) ([]Taken, error) {
	rows, err := s.pool.Query(ctx, `
		select source, currency, sum(greatest(amount - refunded, 0))::bigint, count(*)::int from payments
		where workspace_id = $1 and page_id = $2 and paid_at >= $3 and paid_at < $4 and not own and not exists (
			select from bookings where bookings.id = booking_id and bookings.state in ('declined', 'calledOff', 'withdrawn'))
		group by source, currency order by currency, 3 desc, source limit 2000`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Taken])
}

// TakenInAll sums up what was ever paid to a workspace, by currency.
func (s *Store) TakenInAll(ctx context.Context, workspace uuid.UUID) ([]Taken, error) {
	rows, err := s.pool.Query(ctx, `
		select '', currency, sum(greatest(amount - refunded, 0))::bigint, count(*)::int from payments
		where workspace_id = $1 and paid_at is not null and not own group by currency order by 3 desc limit 200`, workspace)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Taken])
}

// ForgetPayments erases payments that nobody paid.
func (s *Store) ForgetPayments(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from payments where paid_at is null and begun_at < $1", now.Add(-unpaidKept))
	return err
}
