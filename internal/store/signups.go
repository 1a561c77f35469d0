package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/source"
	"jundle/internal/core/webhook"
)

const (
	// SignUpsKept is how many people a workspace can have signed up.
	SignUpsKept = 100_000
	// waitingSignUps is how many at most wait to be confirmed: beyond, those that waited
	// longest give way, and where none waited for a day, nobody is taken.
	waitingSignUps = 10_000
	// ConfirmWithin is for how long the link of a letter holds.
	ConfirmWithin = 3 * 24 * time.Hour
	// unconfirmedKept is for how long an address is kept that nobody confirms.
	unconfirmedKept = 7 * 24 * time.Hour
	// lettersApart and lettersMost bound how often one address is written to.
	lettersApart = 10 * time.Minute
	lettersMost  = 5
)

// ErrManySignUps: a workspace has as many as it may.
var ErrManySignUps = errors.New("as many sign-ups as a workspace may have")

// ConfirmSignUp asks somebody whether they left their address on a page.
const ConfirmSignUp LetterKind = "confirm sign-up"

// SignUp is somebody who left an e-mail address on a page.
type SignUp struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	// PageID is nil once the page is gone; PageName and BlockTitle are what they were
	// called then.
	PageID     *uuid.UUID
	PageName   string
	Block      string
	BlockTitle string
	Edition    int
	Address    string
	AddressKey string
	// Source is where the visit came from, as figures name it.
	Source string
	// Own: by the browser of a member.
	Own      bool
	Language string
	// Consent is what was agreed to, word for word.
	Consent     string
	AskedAt     time.Time
	Letters     int
	LetterAt    time.Time
	ConfirmedAt *time.Time
}

// Holds tells whether the link of its letter still holds.
func (s SignUp) Holds(now time.Time) bool { return now.Before(s.LetterAt.Add(ConfirmWithin)) }

// AskSignUp keeps an address that somebody left, and has a letter sent that asks for
// confirmation. Who is there already is not kept twice; who has not confirmed yet is
// written to again, at most five times and never twice in ten minutes. ErrManySignUps.
func (s *Store) AskSignUp(ctx context.Context, asked SignUp) error {
	asked.ID, asked.Letters, asked.LetterAt = newID(), 1, asked.AskedAt
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := roomForSignUp(tx, asked.WorkspaceID, asked.AskedAt); err != nil {
			return err
		}
		var written []uuid.UUID
		err := tx.Raw(`
			insert into sign_ups (id, workspace_id, page_id, page_name, block, block_title, edition, address, address_key, source, own,
				language, consent, asked_at, letter_at)
			values (@id, @workspace, @page, @name, @block, @title, @edition, @address, @key, @source, @own, @language, @consent, @now, @now)
			on conflict (workspace_id, address_key) do update set letters = sign_ups.letters + 1, letter_at = excluded.letter_at
			where sign_ups.confirmed_at is null and sign_ups.letters < @most and sign_ups.letter_at <= @apart
			returning id`, map[string]any{
			"id": asked.ID, "workspace": asked.WorkspaceID, "page": asked.PageID, "name": asked.PageName, "block": asked.Block,
			"title": asked.BlockTitle, "edition": asked.Edition, "address": asked.Address, "key": asked.AddressKey, "source": asked.Source,
			"own": asked.Own, "language": asked.Language, "consent": asked.Consent, "now": asked.AskedAt, "most": lettersMost,
			"apart": asked.AskedAt.Add(-lettersApart),
		}).Scan(&written).Error
		if err != nil || len(written) == 0 {
			return err
		}
		return s.orderLetters(tx, LetterOrder{About: ConfirmSignUp, Workspace: asked.WorkspaceID, Subject: written[0]})
	})
}

// AddSignUps keeps people who signed up before, without writing to them. Who is there already
// stays as they are.
func (s *Store) AddSignUps(ctx context.Context, all []SignUp) error {
	for i := range all {
		all[i].ID = newID()
	}
	if len(all) == 0 {
		return nil
	}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(all, 500).Error
}

// roomForSignUp answers ErrManySignUps where a workspace has no room for one more.
func roomForSignUp(tx *gorm.DB, workspace uuid.UUID, now time.Time) error {
	var confirmed, waiting int64
	err := tx.Raw(`
		select (select count(*) from (select from sign_ups where workspace_id = @workspace and confirmed_at is not null limit @most) c),
			(select count(*) from (select from sign_ups where workspace_id = @workspace and confirmed_at is null limit @waiting) w)`,
		map[string]any{"workspace": workspace, "most": SignUpsKept, "waiting": waitingSignUps}).Row().Scan(&confirmed, &waiting)
	if err != nil {
		return err
	}
	if confirmed >= SignUpsKept {
		return ErrManySignUps
	}
	if waiting < waitingSignUps {
		return nil
	}
	gone := tx.Exec(`
		delete from sign_ups where id in (
			select id from sign_ups where workspace_id = ? and confirmed_at is null and letter_at < ? order by letter_at limit 100
			for update skip locked)`, workspace, now.Add(-24*time.Hour))
	if gone.Error == nil && gone.RowsAffected == 0 {
		return ErrManySignUps
	}
	return gone.Error
}

// SignUp finds one by its ID; ErrNotFound.
func (s *Store) SignUp(ctx context.Context, id uuid.UUID) (one SignUp, err error) {
	err = s.db.WithContext(ctx).Where("id = ?", id).Take(&one).Error
	return one, found(err)
}

// TakeSignUp confirms somebody's address, once, while the link of their letter holds;
// ErrNotFound.
func (s *Store) TakeSignUp(ctx context.Context, id uuid.UUID, now time.Time) (one SignUp, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		done := tx.Model(&SignUp{}).Where("id = ? and confirmed_at is null and letter_at > ?", id, now.Add(-ConfirmWithin)).
			Update("confirmed_at", now)
		if done.Error != nil {
			return done.Error
		}
		if err := tx.Where("id = ?", id).Take(&one).Error; err != nil {
			return found(err)
		}
		switch {
		case one.ConfirmedAt == nil:
			return ErrNotFound // the link is over
		case done.RowsAffected == 0:
			return nil // confirmed before
		}
		if err := tellOfSignUp(tx, webhook.SignUpConfirmed, one, now); err != nil {
			return err
		}
		return handOn(tx, one.WorkspaceID, one.ID, true, now)
	})
	return one, err
}

// RemoveSignUp erases somebody's address, in a workspace unless that is zero, and has it
// erased where it was handed on to; ErrNotFound.
func (s *Store) RemoveSignUp(ctx context.Context, workspace, id uuid.UUID, now time.Time) (one SignUp, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		query := tx.Where("id = ?", id)
		if workspace != (uuid.UUID{}) {
			query = query.Where("workspace_id = ?", workspace)
		}
		if err := query.Take(&one).Error; err != nil {
			return found(err)
		}
		// Of two at once, one finds it gone.
		if err := foundRow(tx.Where("id = ?", id).Delete(&SignUp{})); err != nil {
			return err
		}
		if one.ConfirmedAt == nil {
			return nil // nobody was told of it
		}
		if err := tellOfSignUp(tx, webhook.SignUpRemoved, one, now); err != nil {
			return err
		}
		return handOn(tx, one.WorkspaceID, one.ID, false, now)
	})
	return one, err
}

// tellOfSignUp tells webhooks of a sign-up, in the transaction in which it is confirmed or
// removed.
func tellOfSignUp(tx *gorm.DB, kind webhook.Kind, one SignUp, now time.Time) error {
	data := webhook.SignUpData{
		SignUp: one.ID.String(), Address: one.Address, PageName: one.PageName, Block: one.BlockTitle, Consent: one.Consent,
		AskedAt: one.AskedAt.UTC(), Language: one.Language,
	}
	if one.PageID != nil {
		data.Page = one.PageID.String()
	}
	if one.ConfirmedAt != nil {
		data.ConfirmedAt = one.ConfirmedAt.UTC()
	}
	var err error
	if data.Source, err = nameOfSource(tx, one.Source); err != nil {
		return err
	}
	return tellIn(tx, one.WorkspaceID, kind, now, data)
}

// ListedSignUp is a sign-up as creators see it.
type ListedSignUp struct {
	SignUp
	// From is what the source is called; empty for untagged.
	From string
	// ToldAt is when the list service took it; nil for not yet, or where there is none.
	ToldAt *time.Time
}

// SignUpFilter says which sign-ups are listed.
type SignUpFilter struct {
	// Confirmed: those that are, or those that are not; nil for all.
	Confirmed *bool
	// Find is part of the address, in small letters.
	Find string
}

// sourceOfSignUp joins the source that somebody came from, which is none where that is the name
// of a place on no list.
const sourceOfSignUp = `left join sources on sources.id =
	case when sign_ups.source ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' then sign_ups.source::uuid end`

const listedSignUps = `
	select sign_ups.*, coalesce(sources.name, sign_ups.source) as "from", list_members.told_at
	from sign_ups ` + sourceOfSignUp + `
	left join list_members on sign_up_id = sign_ups.id and present
	where sign_ups.workspace_id = @workspace`

// SignUps lists those of a workspace, the latest first, after a place; nil for the first.
func (s *Store) SignUps(ctx context.Context, workspace uuid.UUID, which SignUpFilter, after *Place, most int) (
	all []ListedSignUp, err error,
) {
	query, args := listedSignUps, map[string]any{"workspace": workspace, "most": most}
	if which.Confirmed != nil {
		query += " and (confirmed_at is not null) = @confirmed"
		args["confirmed"] = *which.Confirmed
	}
	if which.Find != "" {
		query += " and strpos(address_key, @find) > 0"
		args["find"] = which.Find
	}
	if after != nil {
		query += " and (asked_at, sign_ups.id) < (@at, cast(@id as uuid))"
		args["at"], args["id"] = after.At, after.ID
	}
	err = s.db.WithContext(ctx).Raw(query+" order by asked_at desc, sign_ups.id desc limit @most", args).Scan(&all).Error
	for i := range all {
		all[i].From = placeName(all[i].From)
	}
	return all, err
}

// nameOfSource is what a source or a place is called, out of how events name it.
func nameOfSource(tx *gorm.DB, from string) (name string, err error) {
	id, err := uuid.Parse(from)
	if err != nil {
		return placeName(from), nil
	}
	return name, tx.Raw("select name from sources where id = ?", id).Scan(&name).Error
}

// placeName is what a place that is on no list of sources is called, out of how events name
// it; the name of a source stays what it is.
func placeName(from string) string {
	if _, name, unlisted := source.ParseUnlisted(from); unlisted {
		return name
	}
	return from
}

// EachSignUp goes through all of a workspace, the oldest first, a part at a time.
func (s *Store) EachSignUp(ctx context.Context, workspace uuid.UUID, visit func(ListedSignUp) error) error {
	return eachPart(func(last ListedSignUp) (part []ListedSignUp, err error) {
		err = s.db.WithContext(ctx).Raw(listedSignUps+` and (asked_at, sign_ups.id) > (@at, cast(@id as uuid))
			order by asked_at, sign_ups.id limit 1000`, map[string]any{"workspace": workspace, "at": last.AskedAt, "id": last.ID}).
			Scan(&part).Error
		for i := range part {
			part[i].From = placeName(part[i].From)
		}
		return part, err
	}, visit)
}

// CountSignUps counts those of a workspace.
func (s *Store) CountSignUps(ctx context.Context, workspace uuid.UUID) (confirmed, waiting int, err error) {
	err = s.pool.QueryRow(ctx, `
		select count(*) filter (where confirmed_at is not null), count(*) filter (where confirmed_at is null)
		from sign_ups where workspace_id = $1`, workspace).Scan(&confirmed, &waiting)
	return confirmed, waiting, err
}

// SignUpsBySource counts those who left their address on a page of a workspace in a span,
// confirmed it and are still there, by where they came from. Members' own are left out.
func (s *Store) SignUpsBySource(ctx context.Context, workspace, pageID uuid.UUID, from, to time.Time) (map[string]int, error) {
	rows, err := s.pool.Query(ctx, `
		select source, count(*)::int from sign_ups
		where workspace_id = $1 and page_id = $2 and confirmed_at is not null and asked_at >= $3 and asked_at < $4 and not own
		group by source`, workspace, pageID, from, to)
	if err != nil {
		return nil, err
	}
	counts := make(map[string]int)
	var source string
	var count int
	_, err = pgx.ForEachRow(rows, []any{&source, &count}, func() error { counts[source] = count; return nil })
	return counts, err
}

// ForgetSignUps erases addresses that nobody confirmed.
func (s *Store) ForgetSignUps(ctx context.Context, now time.Time) error {
	_, err := s.pool.Exec(ctx, "delete from sign_ups where confirmed_at is null and letter_at < $1", now.Add(-unconfirmedKept))
	return err
}
