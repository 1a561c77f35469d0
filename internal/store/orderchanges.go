package store

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// OrderChange is when an edition went live on which blocks stand in another order than before.
type OrderChange struct {
	Edition int
	At      time.Time
}

// ordersRead is of how many editions the order is read.
const ordersRead = 100

// OrderChanges are those of a page of a workspace since a time, latest first. What was added or taken away
// is no change of order.
func (s *Store) OrderChanges(ctx context.Context, workspace, pageID uuid.UUID, since time.Time) ([]OrderChange, error) {
	rows, err := s.pool.Query(ctx, `
		select number, published_at, coalesce(array_agg(key order by place) filter (where place > 0), '{}') from (
			select editions.page_id, number, published_at from editions join pages on pages.id = page_id
			where workspace_id = $1 and page_id = $2 order by published_at desc, number desc limit $3) latest
		left join edition_rows on edition_rows.page_id = latest.page_id and edition = number
		group by number, published_at order by published_at, number`, workspace, pageID, ordersRead)
	if err != nil {
		return nil, err
	}
	var changes []OrderChange
	var one OrderChange
	var keys, before []string
	_, err = pgx.ForEachRow(rows, []any{&one.Edition, &one.At, &keys}, func() error {
		if !one.At.Before(since) && !slices.Equal(among(before, keys), among(keys, before)) {
			changes = append(changes, one)
		}
		before, keys = keys, nil
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("read when the order changed: %w", err)
	}
	slices.Reverse(changes)
	return changes, nil
}

// among are those keys that others are among too, in their order.
func among(keys, others []string) []string {
	there := make(map[string]bool, len(others))
	for _, key := range others {
		there[key] = true
	}
	return slices.DeleteFunc(slices.Clone(keys), func(key string) bool { return !there[key] })
}
