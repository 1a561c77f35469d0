package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
)

// MediaNames lists the files of a workspace.
func (s *Store) MediaNames(ctx context.Context, workspace uuid.UUID) ([]string, error) {
	rows, err := s.pool.Query(ctx, "select name from media where workspace_id = $1 and deleted_at is null order by name", workspace)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// EachEvent hands out every raw event of a page or a short link of a workspace in the order of
// time, one at a time.
func (s *Store) EachEvent(ctx context.Context, workspace, pageID uuid.UUID, take func(Event) error) error {
	rows, err := s.pool.Query(ctx, `
		select `+wholeEvent+`
		from events join endpoints on endpoints.id = events.endpoint_id `+withTexts+`
		where endpoints.workspace_id = $1 and endpoints.id = $2 order by (at at time zone 'UTC')::date, at, events.id`, workspace, pageID)
	if err != nil {
		return err
	}
	return eachWholeEvent(rows, take)
}

// wholeEvent are the columns that eachWholeEvent reads.
const wholeEvent = `events.id, at, endpoint_id, edition, kind, block, item, outcome, place, source, evidence, tag, utm_source, utm_medium,
	utm_campaign, utm_term, utm_content, referrer, coalesce(user_agents.text, ''), visitor, flags, rules, country, language, paid,
	coalesce(click_targets.destination_id::text, ''), coalesce(click_targets.address, '')`

// withTexts joins to events the texts that they name by number.
const withTexts = `left join user_agents on user_agents.id = user_agent_id left join click_targets on click_targets.id = click_target_id`

func eachWholeEvent(rows pgx.Rows, take func(Event) error) error {
	var e Event
	var visitor []byte
	_, err := pgx.ForEachRow(rows, []any{
		&e.ID, &e.At, &e.EndpointID, &e.Edition, (*string)(&e.Kind), &e.Block, &e.Item, &e.Outcome, &e.Place, &e.Source, (*string)(&e.By),
		&e.Tag, &e.Campaign.Source, &e.Campaign.Medium, &e.Campaign.Campaign, &e.Campaign.Term, &e.Campaign.Content, &e.Referrer,
		&e.UserAgent, &visitor, &e.Flags, &e.Rules, &e.Country, &e.Language, &e.Paid, &e.Led.ID, &e.Led.Address,
	}, func() error {
		copy(e.Visitor[:], visitor)
		return take(e)
	})
	return err
}

// EventsAfter reads some raw events of one UTC day of a page of a workspace, within a span of
// time, in the order of time, after one; zero for the first.
func (s *Store) EventsAfter(ctx context.Context, workspace uuid.UUID, day Day, from, to time.Time, after Event, most int) ([]Event, error) {
	rows, err := s.pool.Query(ctx, `
		select `+wholeEvent+` from events join endpoints on endpoints.id = events.endpoint_id
		`+withTexts+`
		where `+ofDay+` and endpoints.workspace_id = $3 and at >= $4 and at < $5 and (at, events.id) > ($6, $7) order by at, events.id limit $8`,
		day.EndpointID, day.UTCDay, workspace, from, to, after.At, after.ID, most)
	if err != nil {
		return nil, err
	}
	var all []Event
	err = eachWholeEvent(rows, func(e Event) error { all = append(all, e); return nil })
	return all, err
}

// EraseWorkspace deletes a workspace with everything in it: memberships, pages, short links,
// addresses, sources, pictures, events and sums. Accounts of its members stay. Addresses that led
// somewhere are withheld before anybody else may have them. What still waits in the log of its
// events is left out when it arrives.
func (s *Store) EraseWorkspace(ctx context.Context, workspace uuid.UUID, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var ids []uuid.UUID
		// Nothing is recorded of them from here on.
		err := tx.Raw("select id from endpoints where workspace_id = ? for update", workspace).Scan(&ids).Error
		if err != nil {
			return err
		}
		if err := eraseCounted(tx, ids, now); err != nil {
			return err
		}
		if err := announceDomains(tx, workspace); err != nil {
			return err
		}
		done := tx.Exec("delete from workspaces where id = ?", workspace)
		if done.Error == nil && done.RowsAffected == 0 {
			return ErrNotFound
		}
		return done.Error
	})
}
