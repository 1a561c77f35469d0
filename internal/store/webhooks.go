package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"jundle/internal/core/webhook"
)

const (
	// WebhooksKept is how many a workspace may have.
	WebhooksKept = 10
	// waitingKept is how many messages of one webhook wait at most; what comes while there are as many
	// is not sent.
	waitingKept = 1000
	// DeliveriesKept is for how long it is known what was sent.
	DeliveriesKept = 30 * 24 * time.Hour
	// personalKept is for how long it is known of messages with an e-mail address in them: as long as
	// they are tried.
	personalKept = 4 * 24 * time.Hour
	// oldSecretSigns is for how long the secret before signs too.
	oldSecretSigns = 24 * time.Hour
)

// ErrManyWebhooks: a workspace has as many as it may.
var ErrManyWebhooks = errors.New("as many webhooks as a workspace may have")

// Webhook is an address that is told of what happens in a workspace.
type Webhook struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Address     string
	Kinds       []webhook.Kind `gorm:"serializer:json"`
	Clicks      int
	// Secret signs messages, and OldSecret too until OldSecretUntil.
	Secret, OldSecret string
	OldSecretUntil    *time.Time
	CreatedAt         time.Time
	// OffAt is since when it is told nothing, and OffBecause why.
	OffAt      *time.Time
	OffBecause string
}

// DeliveryState is how far a message got.
type DeliveryState string

// States of messages.
const (
	Waiting   DeliveryState = "waiting"
	Delivered DeliveryState = "delivered"
	Failed    DeliveryState = "failed" // it was tried for the last time
)

// Delivery is a message to a webhook, and what came of it.
type Delivery struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	WebhookID uuid.UUID
	Kind      webhook.Kind
	Body      string
	CreatedAt time.Time
	State     DeliveryState
	Attempts  int
	NextAt    time.Time
	LastAt    *time.Time
	// Status is of the last answer, 0 for none, and Failure why there was none.
	Status  int
	Failure string
}

// TableName implements schema.Tabler.
func (Delivery) TableName() string { return "webhook_deliveries" }

// AddWebhook keeps a webhook; ErrManyWebhooks.
func (s *Store) AddWebhook(ctx context.Context, made Webhook) (Webhook, error) {
	made.ID = newID()
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("select from workspaces where id = ? for update", made.WorkspaceID).Error; err != nil {
			return err
		}
		var have int64
		if err := tx.Model(&Webhook{}).Where("workspace_id = ?", made.WorkspaceID).Count(&have).Error; err != nil {
			return err
		}
		if have >= WebhooksKept {
			return ErrManyWebhooks
		}
		return tx.Create(&made).Error
	})
	return made, err
}

// Webhooks lists those of a workspace, the oldest first.
func (s *Store) Webhooks(ctx context.Context, workspace uuid.UUID) (all []Webhook, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ?", workspace).Order("created_at, id").Find(&all).Error
	return all, err
}

// Webhook finds one of a workspace; ErrNotFound.
func (s *Store) Webhook(ctx context.Context, workspace, id uuid.UUID) (one Webhook, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Take(&one).Error
	return one, found(err)
}

// ChangeWebhook changes what a webhook of a workspace is told, and where, and turns it on or off;
// ErrNotFound. Turned on, it is told what comes from then on.
func (s *Store) ChangeWebhook(ctx context.Context, workspace, id uuid.UUID, wish webhook.Wish, on bool, now time.Time) (Webhook, error) {
	changed := Webhook{Address: wish.Address, Kinds: wish.Kinds, Clicks: wish.Clicks}
	if !on {
		changed.OffAt, changed.OffBecause = &now, "It was turned off."
	}
	done := s.db.WithContext(ctx).Model(&Webhook{}).Where("workspace_id = ? and id = ?", workspace, id).
		Select("address", "kinds", "clicks", "off_at", "off_because").Updates(&changed)
	if done.Error != nil {
		return Webhook{}, done.Error
	}
	return s.Webhook(ctx, workspace, id)
}

// RenewWebhookSecret gives a webhook another secret. The one before signs too for a day; ErrNotFound.
func (s *Store) RenewWebhookSecret(ctx context.Context, workspace, id uuid.UUID, secret string, now time.Time) (Webhook, error) {
	done := s.db.WithContext(ctx).Model(&Webhook{}).Where("workspace_id = ? and id = ?", workspace, id).Updates(map[string]any{
		"old_secret": gorm.Expr("secret"), "old_secret_until": now.Add(oldSecretSigns), "secret": secret,
	})
	if done.Error != nil {
		return Webhook{}, done.Error
	}
	return s.Webhook(ctx, workspace, id)
}

// DeleteWebhook deletes a webhook of a workspace with what it was sent; ErrNotFound.
func (s *Store) DeleteWebhook(ctx context.Context, workspace, id uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Where("workspace_id = ? and id = ?", workspace, id).Delete(&Webhook{}))
}

// Deliveries lists what a webhook of a workspace was sent, the latest first, after one; zero for the
// first.
func (s *Store) Deliveries(ctx context.Context, workspace, hook uuid.UUID, after Delivery, most int) (all []Delivery, err error) {
	query := s.db.WithContext(ctx).Where("webhook_id = (select id from webhooks where workspace_id = ? and id = ?)", workspace, hook)
	if after.ID != (uuid.UUID{}) {
		query = query.Where("(created_at, id) < (?, ?)", after.CreatedAt, after.ID)
	}
	err = query.Order("created_at desc, id desc").Limit(most).Find(&all).Error
	return all, err
}

// SendAgain has a message to a webhook of a workspace sent once more, as the message it was;
// ErrNotFound. Nothing changes while it waits already, or while the webhook is off.
func (s *Store) SendAgain(ctx context.Context, workspace, hook, id uuid.UUID, now time.Time) error {
	return foundRow(s.db.WithContext(ctx).Exec(`
		update webhook_deliveries set state = case when off_at is null then 'waiting' else state end, attempts = 0,
			next_at = case when state = 'waiting' then next_at else @now end
		from webhooks where webhooks.id = webhook_id and workspace_id = @workspace and webhook_id = @hook and webhook_deliveries.id = @id`,
		map[string]any{"now": now, "workspace": workspace, "hook": hook, "id": id}))
}

// tellWebhooks keeps a message for those webhooks of a workspace that are told of it.
var tellWebhooks = fmt.Sprintf(`
	insert into webhook_deliveries (id, webhook_id, kind, body, created_at, state, next_at)
	select gen_random_uuid(), webhooks.id, @kind, @body, cast(@now as timestamptz), 'waiting', cast(@now as timestamptz) from webhooks
	where workspace_id = @workspace and kinds @> to_jsonb(cast(@kind as text)) and off_at is null
		and (select count(*) from webhook_deliveries waiting where webhook_id = webhooks.id and state = 'waiting') < %d`, waitingKept)

// tellIn is tell in a transaction of gorm.
func tellIn(tx *gorm.DB, workspace uuid.UUID, kind webhook.Kind, now time.Time, data any) error {
	body, err := webhook.Message(kind, now, data)
	if err != nil {
		return err
	}
	err = tx.Exec(tellWebhooks, map[string]any{"workspace": workspace, "kind": string(kind), "body": body, "now": now}).Error
	if err != nil {
		return fmt.Errorf("tell webhooks of %s: %w", kind, err)
	}
	return nil
}

// tell tells webhooks of a workspace of something, in the transaction in which it happens.
func tell(ctx context.Context, tx pgx.Tx, workspace uuid.UUID, kind webhook.Kind, now time.Time, data any) error {
	body, err := webhook.Message(kind, now, data)
	if err != nil {
		return err
	}
	_, err = tx.Exec(ctx, tellWebhooks, pgx.NamedArgs{"workspace": workspace, "kind": string(kind), "body": body, "now": now})
	if err != nil {
		return fmt.Errorf("tell webhooks of %s: %w", kind, err)
	}
	return nil
}

// tellOfEdition tells webhooks that a page has another edition, in the transaction that made it.
func tellOfEdition(tx *gorm.DB, edition Edition) error {
	var of Page
	if err := tx.Select("workspace_id").Where("id = ?", edition.PageID).Take(&of).Error; err != nil {
		return err
	}
	data := webhook.PublishedData{Page: edition.PageID.String(), Edition: edition.Number, Changes: []string{}}
	for _, change := range edition.Changes {
		data.Changes = append(data.Changes, change.Sentence)
	}
	return tellIn(tx, of.WorkspaceID, webhook.Published, edition.PublishedAt, data)
}

// TryWebhook sends a webhook of a workspace a message that it arrives; ErrNotFound.
func (s *Store) TryWebhook(ctx context.Context, workspace, hook uuid.UUID, now time.Time) error {
	body, err := webhook.Message(webhook.Trial, now, webhook.TrialData{Says: "This webhook works."})
	if err != nil {
		return err
	}
	return foundRow(s.db.WithContext(ctx).Exec(`
		insert into webhook_deliveries (id, webhook_id, kind, body, created_at, state, next_at)
		select gen_random_uuid(), id, @kind, @body, @now, 'waiting', @now from webhooks where workspace_id = @workspace and id = @hook`,
		map[string]any{"kind": webhook.Trial, "body": body, "now": now, "workspace": workspace, "hook": hook}))
}
