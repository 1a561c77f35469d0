package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/linkcheck"
	"jundle/internal/core/webhook"
)

// DueDelivery is a message that is to be sent now.
type DueDelivery struct {
	ID, WebhookID   uuid.UUID
	Address, Secret string
	// OldSecret signs too; empty for none.
	OldSecret string
	Body      string
	CreatedAt time.Time
	// Attempts is how often it was tried before.
	Attempts int
}

// looked is among how many of the messages that are due longest those of a round are chosen.
const looked = 5000

// ofEachWebhook is how many messages of one webhook are sent in a round: one that answers slowly
// does not keep back the others.
const ofEachWebhook = 4

// TakeDueDeliveries takes at most so many messages that are due, the longest due first. Each comes
// again after five minutes unless KeepDelivery says otherwise, so that a process that ends loses none:
// longer than a round takes in which nobody answers, so that none is sent by two.
func (s *Store) TakeDueDeliveries(ctx context.Context, now time.Time, most int) ([]DueDelivery, error) {
	rows, err := s.pool.Query(ctx, `
		with due as (
			select id, next_at, row_number() over (partition by webhook_id order by next_at, id) as nth
			from (select id, webhook_id, next_at from webhook_deliveries where state = 'waiting' and next_at <= $1
				and exists (select from webhooks where webhooks.id = webhook_id and off_at is null)
				order by next_at limit $4) longest),
		taken as (
			select id from webhook_deliveries where state = 'waiting' and next_at <= $1
				and id in (select id from due where nth <= $3 order by next_at limit $2)
			for update skip locked)
		update webhook_deliveries set next_at = $1::timestamptz + interval '5 minutes'
		from taken, webhooks where webhook_deliveries.id = taken.id and webhooks.id = webhook_id
		returning webhook_deliveries.id, webhook_id, address, secret, case when old_secret_until > $1 then old_secret else '' end,
			body, webhook_deliveries.created_at, attempts`, now, most, ofEachWebhook, looked)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[DueDelivery])
}

// Sent is what came of sending a message once.
type Sent struct {
	At      time.Time
	State   DeliveryState
	NextAt  time.Time // of one that still waits
	Status  int
	Failure string
	// Off: the webhook is to be told nothing more, for this reason; empty for going on.
	Off string
}

// KeepDelivery keeps what came of sending a message.
func (s *Store) KeepDelivery(ctx context.Context, of DueDelivery, sent Sent) error {
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `
			update webhook_deliveries set state = $2, attempts = attempts + 1, next_at = $3, last_at = $4, status = $5, failure = $6
			where id = $1`, of.ID, sent.State, sent.NextAt, sent.At, sent.Status, sent.Failure)
		if err != nil || sent.Off == "" {
			return err
		}
		_, err = tx.Exec(ctx, "update webhooks set off_at = $2, off_because = $3 where id = $1 and off_at is null",
			of.WebhookID, sent.At, sent.Off)
		return err
	})
	if err != nil {
		return fmt.Errorf("keep what came of a message to a webhook: %w", err)
	}
	return nil
}

// TellOfClicks tells webhooks of pages that were clicked as often as they ask for today, by the
// clocks of the workspace: once a day and page.
func (s *Store) TellOfClicks(ctx context.Context, now time.Time) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		rows, err := tx.Query(ctx, `
			with reached as (
				select webhooks.id, pages.id as page, day, webhooks.clicks as wanted, sum(daily_pages.clicks)::int as clicks
				from webhooks join workspaces on workspaces.id = webhooks.workspace_id
				join pages on pages.workspace_id = workspaces.id
				join daily_pages on endpoint_id = pages.id and day = ($1::timestamptz at time zone workspaces.zone)::date
					and utc_day between ($1::timestamptz at time zone 'UTC')::date - 1 and ($1::timestamptz at time zone 'UTC')::date + 1
				where off_at is null and webhooks.clicks > 0 and not exists (
					select from webhook_clicks_told told where told.webhook_id = webhooks.id and told.page_id = pages.id
						and told.day = ($1::timestamptz at time zone workspaces.zone)::date)
				group by 1, 2, 3, 4 having sum(daily_pages.clicks) >= webhooks.clicks),
			new as (
				insert into webhook_clicks_told (webhook_id, page_id, day) select id, page, day from reached
				on conflict do nothing returning webhook_id, page_id, day)
			select reached.id, page, reached.day::text, wanted, clicks from reached
			join new on webhook_id = reached.id and page_id = page and new.day = reached.day`, now)
		if err != nil {
			return err
		}
		reached, err := pgx.CollectRows(rows, pgx.RowToStructByPos[struct {
			Webhook, Page  uuid.UUID
			Day            string
			Wanted, Clicks int
		}])
		if err != nil {
			return err
		}
		for _, one := range reached {
			data := webhook.ClicksData{Page: one.Page.String(), Day: one.Day, Clicks: one.Clicks, From: one.Wanted}
			body, err := webhook.Message(webhook.ClicksReached, now, data)
			if err != nil {
				return err
			}
			_, err = tx.Exec(ctx, `insert into webhook_deliveries (id, webhook_id, kind, body, created_at, state, next_at)
				values (gen_random_uuid(), $1, $2, $3, $4, 'waiting', $4)`, one.Webhook, webhook.ClicksReached, body, now)
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// tellOfBroken tells webhooks of an address that has just come to be found broken.
func tellOfBroken(ctx context.Context, tx pgx.Tx, destination uuid.UUID, before, after linkcheck.Result) error {
	if !after.Broken() || before.Broken() && before.Address == after.Address {
		return nil
	}
	var workspace uuid.UUID
	err := tx.QueryRow(ctx, "select workspace_id from destinations where id = $1", destination).Scan(&workspace)
	if err != nil {
		return err
	}
	data := webhook.BrokenData{Destination: destination.String(), Address: after.Address, Says: after.String()}
	return tell(ctx, tx, workspace, webhook.AddressBroken, after.At, data)
}

// ForgetDeliveries deletes what was sent long ago, and what is not needed to tell of clicks once.
func (s *Store) ForgetDeliveries(ctx context.Context, now time.Time) error {
	long := now.Add(-DeliveriesKept)
	if _, err := s.pool.Exec(ctx, "delete from webhook_deliveries where created_at < $1", long); err != nil {
		return err
	}
	// Those with an address are not kept longer than it takes to look into what did not arrive.
	if _, err := s.pool.Exec(ctx, "delete from webhook_deliveries where kind = any($1) and state <> 'waiting' and created_at < $2",
		[]webhook.Kind{webhook.SignUpConfirmed, webhook.SignUpRemoved}, now.Add(-personalKept)); err != nil {
		return err
	}
	_, err := s.pool.Exec(ctx, "delete from webhook_clicks_told where day < $1", long)
	return err
}
