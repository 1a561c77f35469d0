package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/booking"
	"jundle/internal/core/payment"
	"jundle/internal/core/webhook"
)

const (
	// waitingBookings is how many times of a workspace can wait for an answer, waitingOfOne how many of those are
	// asked for by one address.
	waitingBookings = 1000
	waitingOfOne    = 5
	// takenMost is how many times that are taken are left out of what is offered; to agree is held against all.
	takenMost = 5000
	// toldApart is how far apart at least those who run a workspace are told of what visitors did.
	toldApart = 15 * time.Minute
	// agreedKept is for how long a time that was agreed to is kept once it is over, otherKept any other.
	agreedKept = 365 * 24 * time.Hour
	otherKept  = 30 * 24 * time.Hour
)

// ErrManyBookings: as many times wait for an answer as may.
var ErrManyBookings = errors.New("as many times asked for as may wait for an answer")

// Letters about times that were asked for: to who asked, once it was answered, and to those who run the workspace.
const (
	BookingAnswered LetterKind = "booking answered"
	BookingsAsked   LetterKind = "bookings asked"
)

// Booking is a time that a visitor asked for.
type Booking struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	// PageID is nil once the page is gone; PageName, BlockTitle and Place are what they were called then.
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
	Place    string
	// Zone is by whose clocks it was asked for.
	Zone       string
	StartsAt   time.Time
	EndsAt     time.Time
	Name       string
	Address    string
	AddressKey string
	// Word is what the visitor wrote with it, Reply what the creator did with the answer.
	Word     string
	Price    int64
	Currency string
	AskedAt  time.Time
	State    booking.State
	StateAt  time.Time
	AgreedAt *time.Time
	Reply    string
	// ToldAt is when the creator was last told of what the visitor did; nil for not yet.
	ToldAt *time.Time
	// Once is a digest of the key that its form carried, so that a form sent twice is one; empty for none.
	Once string
}

// Cost is what is to be paid once it is agreed to; zero for nothing.
func (b Booking) Cost() payment.Money { return payment.Money{Minor: b.Price, Currency: b.Currency} }

// StateNow is how it stands at a moment.
func (b Booking) StateNow(now time.Time) booking.State { return b.State.StateAt(b.StartsAt, now) }

// AskBooking keeps a time that somebody asks for. What is sent once more with the same key is the same one.
// ErrManyBookings.
func (s *Store) AskBooking(ctx context.Context, asked Booking) (Booking, error) {
	asked.ID, asked.State, asked.StateAt = newID(), booking.Asked, asked.AskedAt
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, asked.WorkspaceID); err != nil {
			return err
		}
		var waiting, ofOne int64
		err := tx.Raw(`
			select count(*), count(*) filter (where address_key = @key) from (
				select address_key from bookings where workspace_id = @workspace and state = 'asked' and starts_at > @now limit @most) waiting`,
			map[string]any{"workspace": asked.WorkspaceID, "now": asked.AskedAt, "key": asked.AddressKey, "most": waitingBookings}).
			Row().Scan(&waiting, &ofOne)
		if err != nil {
			return err
		}
		made := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&asked)
		switch {
		case made.Error != nil:
			return made.Error
		case made.RowsAffected == 0:
			sent := map[string]any{"page_id": asked.PageID, "once": asked.Once}
			asked = Booking{}
			return tx.Where(sent).Take(&asked).Error
		case waiting >= waitingBookings || ofOne >= waitingOfOne:
			return ErrManyBookings
		}
		return tellOfBooking(tx, webhook.BookingAsked, asked, asked.AskedAt)
	})
	return asked, err
}

// tellOfBooking tells webhooks of a time that was asked for or answered, in the transaction in which it is.
func tellOfBooking(tx *gorm.DB, kind webhook.Kind, one Booking, now time.Time) error {
	data := webhook.BookingData{
		Booking: one.ID.String(), State: string(one.State), PageName: one.PageName, Block: one.BlockTitle, From: one.StartsAt.UTC(),
		To: one.EndsAt.UTC(), Zone: one.Zone, Name: one.Name, Address: one.Address, Word: one.Word, Language: one.Language,
		AskedAt: one.AskedAt.UTC(),
	}
	if one.PageID != nil {
		data.Page = one.PageID.String()
	}
	var err error
	if data.Source, err = nameOfSource(tx, one.Source); err != nil {
		return err
	}
	return tellIn(tx, one.WorkspaceID, kind, now, data)
}

// Booking finds one by its ID; ErrNotFound.
func (s *Store) Booking(ctx context.Context, id uuid.UUID) (one Booking, err error) {
	err = s.db.WithContext(ctx).Where("id = ?", id).Take(&one).Error
	return one, found(err)
}

// BookingOf finds one of a workspace; ErrNotFound.
func (s *Store) BookingOf(ctx context.Context, workspace, id uuid.UUID) (one Booking, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Take(&one).Error
	return one, found(err)
}

// TakenTimes lists what was agreed to on a page and is not over at a moment.
func (s *Store) TakenTimes(ctx context.Context, pageID uuid.UUID, now time.Time) ([]booking.Span, error) {
	rows, err := s.pool.Query(ctx, `select starts_at, ends_at from bookings where page_id = $1 and state = 'agreed' and ends_at > $2
		order by ends_at limit $3`, pageID, now, takenMost)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[booking.Span])
}

// Answer is what somebody does about a time that was asked for.
type Answer struct {
	Act booking.Act
	// Reply is what a creator writes with it.
	Reply string
	At    time.Time
}

// AnswerBooking has a time stand otherwise, and tells who is to know: a creator in a workspace, or the visitor where
// that is zero. Errors: ErrNotFound, and those of booking: ErrAnswered, ErrOver, and ErrTaken where another was agreed
// to on the page at that time.
func (s *Store) AnswerBooking(ctx context.Context, workspace, id uuid.UUID, answer Answer) (one Booking, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		query := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", id)
		if workspace != (uuid.UUID{}) {
			query = query.Where("workspace_id = ?", workspace)
			// Of two that overlap one is agreed to at a time.
			if err := hold(tx, workspace); err != nil {
				return err
			}
		}
		if err := query.Take(&one).Error; err != nil {
			return found(err)
		}
		then, err := one.State.After(answer.Act, one.StartsAt, answer.At)
		if err != nil || then == one.State {
			return err
		}
		if then == booking.Agreed {
			if err := isStillFree(tx, one); err != nil {
				return err
			}
			one.AgreedAt = &answer.At
		}
		return s.keepAnswer(tx, one.State, &one, then, answer)
	})
	return one, err
}

// isStillFree answers booking.ErrTaken where another was agreed to on the page at that time.
func isStillFree(tx *gorm.DB, one Booking) error {
	var taken bool
	err := tx.Raw(`select exists (select from bookings where page_id = ? and state = 'agreed' and ends_at > ? and starts_at < ?)`,
		one.PageID, one.StartsAt, one.EndsAt).Scan(&taken).Error
	if err == nil && taken {
		return booking.ErrTaken
	}
	return err
}

// keepAnswer keeps how one stands then, and tells who is to know.
func (s *Store) keepAnswer(tx *gorm.DB, before booking.State, one *Booking, then booking.State, answer Answer) error {
	one.State, one.StateAt = then, answer.At
	switch {
	case answer.Act != booking.Withdraw:
		one.Reply = answer.Reply
		err := s.orderLetters(tx, LetterOrder{About: BookingAnswered, Workspace: one.WorkspaceID, Subject: one.ID})
		if err != nil {
			return err
		}
	case before == booking.Agreed:
		one.ToldAt = nil // somebody waits for them
	case one.ToldAt == nil:
		one.ToldAt = &answer.At // nobody needs to know of it any more
	}
	err := tx.Model(one).Select("state", "state_at", "agreed_at", "reply", "told_at").Updates(one).Error
	if err != nil {
		return err
	}
	return tellOfBooking(tx, webhook.BookingChanged, *one, answer.At)
}

// RemoveBooking erases one of a workspace, with what its visitor gave; ErrNotFound.
func (s *Store) RemoveBooking(ctx context.Context, workspace, id uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Exec("delete from bookings where workspace_id = ? and id = ?", workspace, id))
}

// BookingList says which times are listed.
type BookingList string

// Lists of times: those that wait for an answer, those that were agreed to, and both, the soonest first, and all others,
// the latest first.
const (
	BookingsAhead   BookingList = "ahead"
	WaitingBookings BookingList = "waiting"
	ComingBookings  BookingList = "coming"
	OverBookings    BookingList = "over"
)

const (
	// isOwed: it does not take place, and was paid for.
	isOwed = `(bookings.state in ('declined', 'calledOff', 'withdrawn') and exists (
		select from payments where booking_id = bookings.id and paid_at is not null and refunded < amount))`
	isWaiting = "(bookings.state = 'asked' and starts_at > @now)"
	isComing  = "(bookings.state = 'agreed' and ends_at > @now)"
)

var whichBookings = map[BookingList]string{
	BookingsAhead:   "(" + isWaiting + " or " + isComing + " or " + isOwed + ")",
	WaitingBookings: "(" + isWaiting + " or " + isOwed + ")", ComingBookings: isComing,
	OverBookings: "not " + isWaiting + " and not " + isComing + " and not " + isOwed,
}

// ListedBooking is a time that was asked for as creators see it.
type ListedBooking struct {
	Booking
	// From is what the source is called; empty for untagged.
	From string
	// Paid is what was paid for it, less what was given back.
	Paid int64
	// Clashes: another was agreed to on the page at that time.
	Clashes bool
}

const listedBookings = `
	select bookings.*, coalesce(sources.name, bookings.source) as "from",
		(select coalesce(sum(greatest(amount - refunded, 0)), 0)::bigint from payments
			where booking_id = bookings.id and paid_at is not null) as paid,
		bookings.state = 'asked' and exists (
			select from bookings other where other.page_id = bookings.page_id and other.state = 'agreed'
				and other.ends_at > bookings.starts_at and other.starts_at < bookings.ends_at) as clashes
	from bookings left join sources on sources.id =
		case when bookings.source ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' then bookings.source::uuid end
	where bookings.workspace_id = @workspace`

// Bookings lists those of a workspace after a place; nil for the first.
func (s *Store) Bookings(ctx context.Context, workspace uuid.UUID, which BookingList, after *Place, most int, now time.Time) (
	all []ListedBooking, err error,
) {
	query, args := listedBookings+" and "+whichBookings[which], map[string]any{"workspace": workspace, "most": most, "now": now}
	order, comes := "starts_at, bookings.id", ">"
	if which == OverBookings {
		order, comes = "starts_at desc, bookings.id desc", "<"
	}
	if after != nil {
		query += " and (starts_at, bookings.id) " + comes + " (@at, cast(@id as uuid))"
		args["at"], args["id"] = after.At, after.ID
	}
	err = s.db.WithContext(ctx).Raw(query+" order by "+order+" limit @most", args).Scan(&all).Error
	for i := range all {
		all[i].From = placeName(all[i].From)
	}
	return all, err
}

// EachBooking goes through all of a workspace in the order of time, a part at a time.
func (s *Store) EachBooking(ctx context.Context, workspace uuid.UUID, visit func(ListedBooking) error) error {
	return eachPart(func(last ListedBooking) (part []ListedBooking, err error) {
		err = s.db.WithContext(ctx).Raw(listedBookings+` and (starts_at, bookings.id) > (@at, cast(@id as uuid))
			order by starts_at, bookings.id limit 1000`, map[string]any{"workspace": workspace, "at": last.StartsAt, "id": last.ID}).
			Scan(&part).Error
		for i := range part {
			part[i].From = placeName(part[i].From)
		}
		return part, err
	}, visit)
}

// CountBookings counts those of a workspace that wait for an answer, and those agreed to that are to come.
func (s *Store) CountBookings(ctx context.Context, workspace uuid.UUID, now time.Time) (waiting, coming int, err error) {
	err = s.pool.QueryRow(ctx, `
		select count(*) filter (where state = 'asked' and starts_at > $2), count(*) filter (where state = 'agreed' and ends_at > $2)
		from bookings where workspace_id = $1 and starts_at > $2 - interval '1 day'`, workspace, now).Scan(&waiting, &coming)
	return waiting, coming, err
}

// AskedFrom is how many times those asked for who came from one source, and how many of them were agreed to.
type AskedFrom struct {
	Source        string
	Asked, Agreed int
}

// BookingsBySource counts the times that were asked for on a page of a workspace in a span, by where it came from.
// Members' own are left out.
func (s *Store) BookingsBySource(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) ([]AskedFrom, error) {
	rows, err := s.pool.Query(ctx, `
		select source, count(*)::int, count(agreed_at)::int from bookings
		where workspace_id = $1 and page_id = $2 and asked_at >= $3 and asked_at < $4 and not own
		group by source order by 2 desc, source limit 2000`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[AskedFrom])
}

// TellOfBookings orders letters to those who run workspaces of what visitors did: at most so many workspaces at a time,
// and each again after a quarter of an hour at the earliest.
func (s *Store) TellOfBookings(ctx context.Context, most int, now time.Time) error {
	var workspaces []uuid.UUID
	err := s.db.WithContext(ctx).Raw(`
		select distinct workspace_id from bookings where told_at is null
			and not exists (select from bookings told where told.workspace_id = bookings.workspace_id and told.told_at > ?)
		limit ?`, now.Add(-toldApart), most).Scan(&workspaces).Error
	for _, workspace := range workspaces {
		err = errors.Join(err, s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error { return s.tellOfBookings(tx, workspace, now) }))
	}
	return err
}

func (s *Store) tellOfBookings(tx *gorm.DB, workspace uuid.UUID, now time.Time) error {
	var told []uuid.UUID
	err := tx.Raw("update bookings set told_at = ? where workspace_id = ? and told_at is null returning id", now, workspace).Scan(&told).Error
	if err != nil || len(told) == 0 {
		return err
	}
	return s.orderToRunners(tx, LetterOrder{About: BookingsAsked, Workspace: workspace, Subject: told[0]})
}

// ToldTogether lists the times of a workspace that were told of together with one, the soonest first: those that wait
// for an answer and those that visitors took back after they were agreed to. The count is of all there are.
func (s *Store) ToldTogether(ctx context.Context, workspace, with uuid.UUID, most int, now time.Time) (
	all []Booking, count int64, err error,
) {
	query := s.db.WithContext(ctx).Model(&Booking{}).
		Where("workspace_id = @workspace and told_at = (select told_at from bookings where id = @with and workspace_id = @workspace)",
			map[string]any{"workspace": workspace, "with": with}).
		Where("starts_at > ? and (state = ? or state = ? and agreed_at is not null)", now, booking.Asked, booking.Withdrawn)
	if err := query.Session(&gorm.Session{}).Count(&count).Error; err != nil {
		return nil, 0, err
	}
	err = query.Order("starts_at, id").Limit(most).Find(&all).Error
	return all, count, err
}

// ForgetBookings erases what is long over.
func (s *Store) ForgetBookings(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from bookings where ends_at < $1 or ends_at < $2 and state <> 'agreed'",
		now.Add(-agreedKept), now.Add(-otherKept))
	return err
}
