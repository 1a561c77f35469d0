package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/destination"
)

// DestinationState is what of a destination can be changed for many at once.
type DestinationState struct {
	Address string            `json:"address"`
	Swaps   destination.Swaps `json:"swaps"`
	Labels  []string          `json:"labels"`
}

// Bytes is about how much it takes.
func (d DestinationState) Bytes() int {
	bytes := len(d.Address)
	for _, swap := range d.Swaps {
		bytes += len(swap.Address) + 64
	}
	for _, label := range d.Labels {
		bytes += len(label) + 4
	}
	return bytes
}

// DestinationChange is what becomes of one of many destinations.
type DestinationChange struct {
	ID     uuid.UUID        `json:"id"`
	Before DestinationState `json:"before"`
	After  DestinationState `json:"after"`
}

// ManyChanged is a change of many destinations that was made.
type ManyChanged struct {
	ID       uuid.UUID
	At       time.Time
	Count    int
	UndoneAt *time.Time
}

// changesKept is how many changes of many destinations of a workspace can be undone.
const changesKept = 20

// ChangeMany changes destinations of a workspace in one step, all or none: ErrStale when
// one of them is no longer as it was, ErrDestinationTaken when an address is kept as
// another destination.
func (s *Store) ChangeMany(ctx context.Context, workspace, user uuid.UUID, all []DestinationChange, now time.Time) (ManyChanged, error) {
	changed := ManyChanged{ID: newID(), At: now, Count: len(all)}
	list, err := json.Marshal(all)
	if err != nil {
		return ManyChanged{}, err
	}
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		done, err := become(ctx, tx, workspace, user, list, "before", "after", now)
		if err != nil {
			return err
		}
		if done != len(all) {
			return ErrStale
		}
		_, err = tx.Exec(ctx, "insert into destination_changes (id, workspace_id, user_id, at, changed) values ($1, $2, $3, $4, $5)",
			changed.ID, workspace, user, now, list)
		if err != nil {
			return fmt.Errorf("keep a change of many destinations: %w", err)
		}
		_, err = tx.Exec(ctx, `delete from destination_changes where workspace_id = $1 and id not in (
			select id from destination_changes where workspace_id = $1 order by at desc, id desc limit $2)`, workspace, changesKept)
		return err
	})
	if violates(err, "destinations_address") {
		err = ErrDestinationTaken
	}
	return changed, err
}

// UndoMany puts back what a change of many destinations of a workspace made of them, but
// for what was changed since. It returns how many went back and how many stay;
// ErrNotFound for a change that was undone.
func (s *Store) UndoMany(ctx context.Context, workspace, user, id uuid.UUID, now time.Time) (back, stay int, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var list []byte
		var count int
		err := tx.QueryRow(ctx, `
			update destination_changes set undone_at = $3 where id = $1 and workspace_id = $2 and undone_at is null
			returning changed, jsonb_array_length(changed)`, id, workspace, now).Scan(&list, &count)
		if errors.Is(err, pgx.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		back, err = become(ctx, tx, workspace, user, list, "after", "before", now)
		stay = count - back
		return err
	})
	if violates(err, "destinations_address") {
		err = ErrDestinationTaken
	}
	return back, stay, err
}

// become makes destinations that are as one part of a list of changes says what the other
// part says, and returns how many there were.
func become(ctx context.Context, tx pgx.Tx, workspace, user uuid.UUID, list []byte, from, to string, now time.Time) (int, error) {
	rows, err := tx.Query(ctx, `
		with changes as (
			select (c->>'id')::uuid as id, c->$3 as was, c->$4 as becomes, n
			from jsonb_array_elements($2::jsonb) with ordinality as t (c, n)),
		locked as (
			select destinations.id, was, becomes, destinations.address from destinations join changes using (id)
			where workspace_id = $1 and merged_into is null and destinations.address = was->>'address' and swaps = was->'swaps'
				and labels = was->'labels'
			order by destinations.id for update of destinations),
		changed as (
			update destinations set address = becomes->>'address', swaps = becomes->'swaps', labels = becomes->'labels',
				revision = revision + 1, edited_at = $5,
				next_check_at = case when destinations.address = becomes->>'address' then next_check_at
					else $5::timestamptz + random() * interval '5 minutes' end
			from locked where destinations.id = locked.id returning destinations.id, locked.address as was, destinations.address),
		led as (
			insert into destination_addresses (destination_id, address, user_id, since)
			select id, address, $6, clock_timestamp() from changed where was <> address)
		select id from changed`, workspace, list, from, to, now, user)
	if err != nil {
		return 0, err
	}
	ids, err := pgx.CollectRows(rows, pgx.RowTo[uuid.UUID])
	if err != nil {
		return 0, fmt.Errorf("change many destinations: %w", err)
	}
	_, err = tx.Exec(ctx, "select pg_notify($1, id::text) from unnest($2::uuid[]) id", pageChannel, ids)
	return len(ids), err
}

// ManyChanges lists the latest changes of many destinations of a workspace, latest first.
func (s *Store) ManyChanges(ctx context.Context, workspace uuid.UUID, since time.Time) ([]ManyChanged, error) {
	rows, err := s.pool.Query(ctx, `
		select id, at, jsonb_array_length(changed), undone_at from destination_changes
		where workspace_id = $1 and at > $2 order by at desc, id desc`, workspace, since)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[ManyChanged])
}
