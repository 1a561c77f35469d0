package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/linkcheck"
)

// DueLink is a destination whose address is to be asked.
type DueLink struct {
	ID          uuid.UUID
	WorkspaceID uuid.UUID
	Address     string
	// Failures is how often in a row that address has failed.
	Failures int
}

// putOff is for how long a destination that was taken to be asked, and was not, is left
// alone: others are asked meanwhile.
const putOff = 5 * time.Minute

// leadsNow is a condition on destinations: a working copy, a live edition or a short link
// leads there.
const leadsNow = `(
	exists (select from pages
		where pages.workspace_id = destinations.workspace_id and pages.destinations && ids_of_destination(destinations.id))
	or exists (select from editions join pages on pages.id = page_id and number = live_edition
		where pages.workspace_id = destinations.workspace_id and editions.destinations && ids_of_destination(destinations.id))
	or exists (select from short_links where short_links.workspace_id = destinations.workspace_id
		and short_links.destinations && ids_of_destination(destinations.id)))`

// TakeDueLinks takes at most so many destinations that are due to be asked, and of these
// hands out those that something leads to, longest due first. Each comes again after a
// while unless KeepLinkCheck or LeaveDue says otherwise, so that a process that ends loses
// none of them.
func (s *Store) TakeDueLinks(ctx context.Context, now time.Time, most int) ([]DueLink, error) {
	rows, err := s.pool.Query(ctx, `
		with due as (
			select id, next_check_at as due_at from destinations where next_check_at <= $1 and address like 'http%' and merged_into is null
			order by next_check_at limit $2 for update skip locked),
		known as (select due.id, due_at, `+leadsNow+` as leads from due join destinations using (id)),
		taken as (
			update destinations set next_check_at = $3::timestamptz + random() * interval '5 minutes'
				+ case when leads then interval '0' else interval '1 day' end
			from known where destinations.id = known.id returning destinations.*, leads, due_at)
		select id, workspace_id, address, coalesce((
			select failures from link_checks where destination_id = taken.id and link_checks.address = taken.address), 0)
		from taken where leads order by due_at, id`, now, most, now.Add(putOff))
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[DueLink])
}

// LeaveDue has destinations that were taken and not asked come again with the next ones
// that are taken, after all that were due before.
func (s *Store) LeaveDue(ctx context.Context, ids []uuid.UUID, now time.Time) error {
	_, err := s.pool.Exec(ctx, `update destinations set next_check_at = $2 where id = any($1)`, ids, now)
	return err
}

// KeepLinkCheck keeps what came of asking a destination, and when to ask again. It does
// nothing when the destination is gone.
func (s *Store) KeepLinkCheck(ctx context.Context, id uuid.UUID, result linkcheck.Result, next time.Time) error {
	var certificate *time.Time
	if !result.CertificateUntil.IsZero() {
		certificate = &result.CertificateUntil
	}
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		before, err := lastLinkCheck(ctx, tx, id)
		if err != nil {
			return err
		}
		done, err := tx.Exec(ctx, `
		with there as (update destinations set next_check_at = $12 where id = $1 returning id)
		insert into link_checks (destination_id, address, arrived, method, status, took_ms, redirects, permanent, failure,
			certificate_until, at, failures)
		select id, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $13 from there
		on conflict (destination_id) do update set address = excluded.address, arrived = excluded.arrived, method = excluded.method,
			status = excluded.status, took_ms = excluded.took_ms, redirects = excluded.redirects, permanent = excluded.permanent,
			failure = excluded.failure, certificate_until = excluded.certificate_until, at = excluded.at, failures = excluded.failures`,
			id, result.Address, result.Arrived, result.Method, result.Status, result.Took.Milliseconds(), result.Redirects, result.Permanent,
			result.Failure, certificate, result.At, next, result.Failures)
		if err != nil || done.RowsAffected() == 0 {
			return err
		}
		return tellOfBroken(ctx, tx, id, before, result)
	})
	if err != nil {
		return fmt.Errorf("keep what came of asking an address: %w", err)
	}
	return nil
}

// lastLinkCheck is what came of asking a destination before, as far as it is needed to tell whether
// it was broken; locked, and nothing where it was never asked.
func lastLinkCheck(ctx context.Context, tx pgx.Tx, id uuid.UUID) (before linkcheck.Result, err error) {
	err = tx.QueryRow(ctx, "select address, status, failure, failures from link_checks where destination_id = $1 for update", id).
		Scan(&before.Address, &before.Status, &before.Failure, &before.Failures)
	if errors.Is(err, pgx.ErrNoRows) {
		return linkcheck.Result{}, nil
	}
	return before, err
}

// LinkChecks finds what came of asking destinations of a workspace last, by their IDs.
// Those that were never asked are not among them.
func (s *Store) LinkChecks(ctx context.Context, workspace uuid.UUID, ids []string) (map[string]linkcheck.Result, error) {
	checks := make(map[string]linkcheck.Result, len(ids))
	if len(ids) == 0 {
		return checks, nil
	}
	rows, err := s.pool.Query(ctx, `
		select destination_id::text, link_checks.address, arrived, method, status, took_ms, redirects, permanent, failure,
			certificate_until, at, failures
		from link_checks join destinations on destinations.id = destination_id
		where workspace_id = $1 and destination_id = any($2::uuid[])`, workspace, ids)
	if err != nil {
		return nil, err
	}
	var id string
	var one linkcheck.Result
	var took int64
	var certificate *time.Time
	_, err = pgx.ForEachRow(rows, []any{
		&id, &one.Address, &one.Arrived, &one.Method, &one.Status, &took, &one.Redirects, &one.Permanent, &one.Failure,
		&certificate, &one.At, &one.Failures,
	}, func() error {
		one.Took, one.CertificateUntil = time.Duration(took)*time.Millisecond, time.Time{}
		if certificate != nil {
			one.CertificateUntil = *certificate
		}
		checks[id] = one
		return nil
	})
	return checks, err
}

// restsAfterAsking is for how long an address that was asked is not asked again because
// somebody wants it.
const restsAfterAsking = time.Minute

// CheckSoon has destinations of a workspace asked before all others, unless they were
// within a minute.
func (s *Store) CheckSoon(ctx context.Context, workspace uuid.UUID, ids []string, now time.Time) error {
	_, err := s.pool.Exec(ctx, `
		update destinations set next_check_at = $3::timestamptz - interval '1 day'
		where workspace_id = $1 and id = any($2::uuid[]) and address like 'http%' and not exists (
			select from link_checks where destination_id = destinations.id and link_checks.address = destinations.address and at > $4)`,
		workspace, ids, now, now.Add(-restsAfterAsking))
	return err
}
