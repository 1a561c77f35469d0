package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/page"
)

// TakenOff is when something that could be pressed was taken off a page.
type TakenOff struct {
	At time.Time
	// Immediate: what it led to stopped then, and not a day after.
	Immediate bool
}

// TakenOff tells when what can be pressed under a key and an item was taken off a
// page, or hidden: with the first edition after the last that showed it.
func (s *Store) TakenOff(ctx context.Context, pageID uuid.UUID, key, item string) (TakenOff, error) {
	pattern, err := json.Marshal(shown(key, item))
	if err != nil {
		return TakenOff{}, err
	}
	var off TakenOff
	err = s.pool.QueryRow(ctx, `
		select published_at, ends_links from editions
		where page_id = $1 and number > coalesce((select max(number) from editions where page_id = $1 and document @> $2::jsonb), 0)
		order by number limit 1`, pageID, string(pattern)).Scan(&off.At, &off.Immediate)
	if errors.Is(err, pgx.ErrNoRows) {
		// It is a part of a text that is numbered anew with each edition: it goes with
		// the live one.
		err = s.pool.QueryRow(ctx, "select published_at, ends_links from editions where page_id = $1 order by number desc limit 1",
			pageID).Scan(&off.At, &off.Immediate)
	}
	if err != nil {
		return TakenOff{}, fmt.Errorf("find out when something was taken off a page: %w", err)
	}
	return off, nil
}

// shown is what a document contains that shows something (jsonb containment).
func shown(key, item string) map[string]any {
	type entry = map[string]any
	switch key {
	case page.IconsKey:
		return entry{"icons": entry{"items": []entry{{"key": item}}}}
	case page.FooterKey:
		return entry{"footer": entry{"links": []entry{{"key": item}}}}
	}
	block := entry{"key": key, "shown": true}
	return entry{"blocks": []entry{block}}
}
