package store

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"jundle/internal/core/address"
	"jundle/internal/core/destination"
)

// knownClickTargets is how many are remembered.
const knownClickTargets = 10_000

// clickTargets gives what clicks led to the number it is counted by. None is ever deleted but with its workspace.
type clickTargets struct {
	known *lru.Cache[clickTarget, int64]
}

// clickTarget is a destination by one of its addresses, as clicks of an endpoint led there: the workspace is the
// endpoint's.
type clickTarget struct {
	endpoint uuid.UUID
	destination.Target
}

func newClickTargets() *clickTargets {
	known, _ := lru.New[clickTarget, int64](knownClickTargets)
	return &clickTargets{known}
}

// number writes into events the numbers of what they led to, and makes those that are new.
func (c *clickTargets) number(ctx context.Context, pool *pgxpool.Pool, events []Event) error {
	var missing []clickTarget
	for i, event := range events {
		led := clickTarget{event.EndpointID, event.Led}
		if !destination.IsID(led.ID) {
			continue
		}
		number, known := c.known.Get(led)
		if events[i].target = number; !known && !slices.Contains(missing, led) {
			missing = append(missing, led)
		}
	}
	if len(missing) == 0 {
		return nil
	}
	found, err := c.find(ctx, pool, missing)
	if err != nil {
		return fmt.Errorf("number what clicks led to: %w", err)
	}
	for i, event := range events {
		if number := found[clickTarget{event.EndpointID, event.Led}]; number != 0 {
			events[i].target = number
		}
	}
	return nil
}

// find finds or makes the numbers of targets. Those of an endpoint that is gone have none.
func (c *clickTargets) find(ctx context.Context, pool *pgxpool.Pool, missing []clickTarget) (map[clickTarget]int64, error) {
	// Two processes that note the same ones wait and do not lock each other out.
	slices.SortFunc(missing, func(a, b clickTarget) int { return strings.Compare(a.ID+a.Address, b.ID+b.Address) })
	endpoints, ids := make([]uuid.UUID, len(missing)), make([]string, len(missing))
	addresses, keys := make([]string, len(missing)), make([]string, len(missing))
	for i, one := range missing {
		endpoints[i], ids[i], addresses[i], keys[i] = one.endpoint, one.ID, one.Address, address.Key(one.Address)
	}
	rows, err := pool.Query(ctx, `
		with asked as (
			select workspace_id, endpoint_id, destination_id, address, address_key
			from unnest($1::uuid[], $2::uuid[], $3::text[], $4::text[]) as t (endpoint_id, destination_id, address, address_key)
			join endpoints on endpoints.id = endpoint_id),
		made as (
			insert into click_targets (workspace_id, destination_id, address, address_key)
			select distinct workspace_id, destination_id, address, address_key from asked order by 2, 3
			on conflict (workspace_id, destination_id, md5(address)) do update set address = excluded.address
			returning workspace_id, destination_id, address, id)
		select endpoint_id, destination_id::text, address, id from asked join made using (workspace_id, destination_id, address)`,
		endpoints, ids, addresses, keys)
	if err != nil {
		return nil, err
	}
	found := make(map[clickTarget]int64, len(missing))
	var one clickTarget
	var number int64
	_, err = pgx.ForEachRow(rows, []any{&one.endpoint, &one.ID, &one.Address, &number}, func() error {
		found[one] = number
		c.known.Add(one, number)
		return nil
	})
	return found, err
}
