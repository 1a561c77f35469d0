package store

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"jundle/internal/core/daily"
)

// knownUserAgents is how many user agents are remembered. Visitors can invent
// them, so it is a bound; each is at most agents.MaxLength bytes.
const knownUserAgents = 10_000

// userAgents gives user agents the number they are kept under.
type userAgents struct {
	known *lru.Cache[string, numberedUserAgent]
}

type numberedUserAgent struct {
	id int64
	// lastDay is known to be noted; an event of a later day notes its own.
	lastDay time.Time
}

func newUserAgents() *userAgents {
	known, _ := lru.New[string, numberedUserAgent](knownUserAgents)
	return &userAgents{known}
}

// ids finds the numbers of the user agents of events, and makes those that are new.
func (u *userAgents) ids(ctx context.Context, pool *pgxpool.Pool, events []Event) (map[string]int64, error) {
	found := make(map[string]int64)
	missing := make(map[string]time.Time)
	for _, event := range events {
		day := daily.UTCDay(event.At)
		if known, ok := u.known.Get(event.UserAgent); ok && !day.After(known.lastDay) {
			found[event.UserAgent] = known.id
		} else if day.After(missing[event.UserAgent]) {
			missing[event.UserAgent] = day
		}
	}
	if len(missing) == 0 {
		return found, nil
	}
	var texts []string
	for text := range missing {
		texts = append(texts, text)
	}
	slices.Sort(texts) // two processes that note the same ones wait and do not lock each other out
	days := make([]time.Time, len(texts))
	for i, text := range texts {
		days[i] = missing[text]
	}
	rows, err := pool.Query(ctx, `
		insert into user_agents (text, last_day) select * from unnest($1::text[], $2::date[])
		on conflict (text) do update set last_day = greatest(user_agents.last_day, excluded.last_day)
		returning text, id, last_day`, texts, days)
	if err != nil {
		return nil, fmt.Errorf("number user agents: %w", err)
	}
	var text string
	var numbered numberedUserAgent
	_, err = pgx.ForEachRow(rows, []any{&text, &numbered.id, &numbered.lastDay}, func() error {
		found[text] = numbered.id
		u.known.Add(text, numbered)
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("number user agents: %w", err)
	}
	return found, nil
}

// errUserAgentGone: one that was thought known was deleted meanwhile.
var errUserAgentGone = errors.New("a user agent is no longer kept")

// hold sees that user agents are there, and stay until the transaction ends.
func (u *userAgents) hold(ctx context.Context, tx pgx.Tx, numbers map[string]int64) error {
	rows, err := tx.Query(ctx, "select id from user_agents where id = any($1) for key share", slices.Collect(maps.Values(numbers)))
	if err != nil {
		return err
	}
	there, err := pgx.CollectRows(rows, pgx.RowTo[int64])
	if err == nil && len(there) < len(numbers) {
		u.known.Purge()
		err = errUserAgentGone
	}
	return err
}

// forgetUserAgents deletes those that no event has any more: all events are in the
// parts of their table. No part is made meanwhile.
func (s *Store) forgetUserAgents(ctx context.Context, now time.Time) error {
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if err := lockPartitions(ctx, tx); err != nil {
			return err
		}
		months, err := partitionMonths(ctx, tx)
		if err != nil {
			return err
		}
		oldest := now
		if len(months) > 0 {
			oldest = months[0]
		}
		_, err = tx.Exec(ctx, "delete from user_agents where last_day < $1", daily.UTCDay(oldest))
		return err
	})
	if err != nil {
		return fmt.Errorf("forget user agents: %w", err)
	}
	return nil
}
