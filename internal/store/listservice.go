package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ListService is where a workspace's sign-ups are handed on to.
type ListService struct {
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	Address     string
	List        string
	Token       string
	CreatedAt   time.Time
	// OffAt is since when it is told nothing, and OffBecause why.
	OffAt      *time.Time
	OffBecause string
}

// ListProgress is how far it got.
type ListProgress struct {
	// Told are people it knows, Waiting those that it is still to be told of or to forget.
	Told, Waiting int
	// Status is of the last answer that was no success, 0 for none, and Failure why there
	// was none.
	Status  int
	Failure string
}

// ListService finds that of a workspace; ErrNotFound.
func (s *Store) ListService(ctx context.Context, workspace uuid.UUID) (one ListService, progress ListProgress, err error) {
	if err = s.db.WithContext(ctx).Where("workspace_id = ?", workspace).Take(&one).Error; err != nil {
		return one, progress, found(err)
	}
	err = s.pool.QueryRow(ctx, `
		select count(*) filter (where present and told_at is not null), count(*) filter (where next_at is not null),
			coalesce(max(status) filter (where next_at is not null), 0), coalesce(max(failure) filter (where next_at is not null), '')
		from list_members where workspace_id = $1`, workspace).
		Scan(&progress.Told, &progress.Waiting, &progress.Status, &progress.Failure)
	return one, progress, err
}

// SetListService has sign-ups of a workspace handed on to a service, those that are
// confirmed by now among them. Where it is another than before, it is told of all.
func (s *Store) SetListService(ctx context.Context, set ListService) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var before ListService
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("workspace_id = ?", set.WorkspaceID).Take(&before).Error
		if err != nil && !errors.Is(err, gorm.ErrRecordNotFound) {
			return err
		}
		if err == nil && (before.Address != set.Address || before.List != set.List) {
			if err := tx.Exec("delete from list_members where workspace_id = ?", set.WorkspaceID).Error; err != nil {
				return err
			}
		}
		if err := tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&set).Error; err != nil {
			return err
		}
		now := set.CreatedAt
		err = tx.Exec(`
			insert into list_members (sign_up_id, workspace_id, present, next_at)
			select id, workspace_id, true, ? from sign_ups where workspace_id = ? and confirmed_at is not null
			on conflict do nothing`, now, set.WorkspaceID).Error
		if err != nil {
			return err
		}
		// What it refused before is tried at once.
		return tx.Exec("update list_members set next_at = ?, attempts = 0 where workspace_id = ? and next_at is not null", now,
			set.WorkspaceID).Error
	})
}

// DropListService hands on nothing any more; ErrNotFound. What the service has stays there.
func (s *Store) DropListService(ctx context.Context, workspace uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Where("workspace_id = ?", workspace).Delete(&ListService{}))
}

// handOn notes what the list service of a workspace is to know of a sign-up, where there is
// one, in the transaction in which it comes to be so.
func handOn(tx *gorm.DB, workspace, id uuid.UUID, present bool, now time.Time) error {
	return tx.Exec(`
		insert into list_members (sign_up_id, workspace_id, present, next_at)
		select @id, workspace_id, @present, @now from list_services where workspace_id = @workspace
		on conflict (sign_up_id) do update set present = excluded.present, next_at = excluded.next_at, attempts = 0,
			version = list_members.version + 1`,
		map[string]any{"id": id, "workspace": workspace, "present": present, "now": now}).Error
}

// DueMember is somebody whom a list service is to be told of now.
type DueMember struct {
	ID, WorkspaceID      uuid.UUID
	Service, List, Token string
	Version, Attempts    int
	Present              bool
	// What it is told; empty for somebody it is to forget.
	Address, From, PageName, Consent, Language string
	ConfirmedAt                                *time.Time
}

// ofEachList is how many of one workspace are told in a round.
const ofEachList = 20

// TakeDueMembers takes at most so many that are due, the longest due first. Each comes again
// after five minutes unless KeepMember says otherwise, so that a process that ends loses
// none, and none is told twice at one time.
func (s *Store) TakeDueMembers(ctx context.Context, now time.Time, most int) ([]DueMember, error) {
	rows, err := s.pool.Query(ctx, `
		with due as (
			select sign_up_id, next_at, row_number() over (partition by workspace_id order by next_at, sign_up_id) as nth
			from (select * from list_members where next_at <= $1 and exists (
					select from list_services s where s.workspace_id = list_members.workspace_id and off_at is null)
				order by next_at limit $4) longest),
		taken as (
			select sign_up_id from list_members where next_at <= $1
				and sign_up_id in (select sign_up_id from due where nth <= $3 order by next_at limit $2)
			for update skip locked)
		update list_members set next_at = $1::timestamptz + interval '5 minutes'
		from taken, list_services service where list_members.sign_up_id = taken.sign_up_id and service.workspace_id = list_members.workspace_id
		returning list_members.sign_up_id, list_members.workspace_id, service.address, service.list, service.token, version, attempts, present`,
		now, most, ofEachList, looked)
	if err != nil {
		return nil, err
	}
	due, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (one DueMember, err error) {
		err = row.Scan(&one.ID, &one.WorkspaceID, &one.Service, &one.List, &one.Token, &one.Version, &one.Attempts, &one.Present)
		return one, err
	})
	if err != nil || len(due) == 0 {
		return due, err
	}
	return due, s.fillMembers(ctx, due)
}

// fillMembers reads what is told of those who are on the list.
func (s *Store) fillMembers(ctx context.Context, due []DueMember) error {
	byID := make(map[uuid.UUID]*DueMember, len(due))
	ids := make([]uuid.UUID, len(due))
	for i := range due {
		ids[i] = due[i].ID
		byID[due[i].ID] = &due[i]
	}
	rows, err := s.pool.Query(ctx, `
		select sign_ups.id, address, coalesce(sources.name, source), page_name, consent, language, confirmed_at
		from sign_ups `+sourceOfSignUp+` where sign_ups.id = any($1)`, ids)
	if err != nil {
		return err
	}
	var id uuid.UUID
	var read DueMember
	_, err = pgx.ForEachRow(rows, []any{&id, &read.Address, &read.From, &read.PageName, &read.Consent, &read.Language, &read.ConfirmedAt},
		func() error {
			one := byID[id]
			one.Address, one.From, one.PageName, one.Consent = read.Address, placeName(read.From), read.PageName, read.Consent
			one.Language, one.ConfirmedAt = read.Language, read.ConfirmedAt
			return nil
		})
	return err
}

// Handed is what came of telling a list service once.
type Handed struct {
	At time.Time
	// Done: it knows. Otherwise it is tried again at NextAt.
	Done    bool
	NextAt  time.Time
	Status  int
	Failure string
	// Off: the service is to be told nothing more, for this reason; empty for going on.
	Off string
}

// KeepMember keeps what came of it. What changed in the meantime is told anew.
func (s *Store) KeepMember(ctx context.Context, of DueMember, came Handed) error {
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var err error
		switch {
		case came.Done && !of.Present:
			_, err = tx.Exec(ctx, "delete from list_members where sign_up_id = $1 and version = $2", of.ID, of.Version)
		case came.Done:
			_, err = tx.Exec(ctx, `update list_members set next_at = null, told_at = $3, status = $4, failure = '', attempts = 0
				where sign_up_id = $1 and version = $2`, of.ID, of.Version, came.At, came.Status)
		default:
			_, err = tx.Exec(ctx, `update list_members set next_at = $3, status = $4, failure = $5, attempts = attempts + 1
				where sign_up_id = $1 and version = $2`, of.ID, of.Version, came.NextAt, came.Status, came.Failure)
		}
		if err != nil || came.Off == "" {
			return err
		}
		_, err = tx.Exec(ctx, "update list_services set off_at = $2, off_because = $3 where workspace_id = $1 and off_at is null",
			of.WorkspaceID, came.At, came.Off)
		return err
	})
	if err != nil {
		return fmt.Errorf("keep what came of handing on a sign-up: %w", err)
	}
	return nil
}
