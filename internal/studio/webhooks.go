package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/webhooks"
	"jundle/internal/core/webhook"
	"jundle/internal/store"
)

// WebhookBody is what somebody wants to be told, and where.
type WebhookBody struct {
	Address string         `json:"address" maxLength:"2000" doc:"Where messages are posted to; https only."`
	Kinds   []webhook.Kind `json:"kinds" nullable:"false" maxItems:"10" enum:"page.published,clicks.reached,source.first_seen,address.broken,sign_up.confirmed,sign_up.removed,booking.asked,booking.changed,payment.made,payment.refunded"` //nolint:lll // a tag cannot be broken
	Clicks  int            `json:"clicks" doc:"From how many clicks on a page on one day on to tell of them, where that is among kinds."`
}

// WebhookView is an address that is told of what happens in the workspace.
type WebhookView struct {
	ID uuid.UUID `json:"id"`
	WebhookBody
	Secret     string     `json:"secret" doc:"What messages are signed with (Standard Webhooks)."`
	OldUntil   *time.Time `json:"oldUntil,omitempty" doc:"The secret before this one signs too until then."`
	CreatedAt  time.Time  `json:"createdAt"`
	OffAt      *time.Time `json:"offAt,omitempty" doc:"Since when it is told nothing."`
	OffBecause string     `json:"offBecause,omitempty"`
}

// DeliveryView is a message to a webhook, and what came of it.
type DeliveryView struct {
	ID        uuid.UUID           `json:"id"`
	MessageID string              `json:"messageId" doc:"webhook-id, the same however often it is sent."`
	Kind      webhook.Kind        `json:"kind"`
	Body      string              `json:"body"`
	CreatedAt time.Time           `json:"createdAt"`
	State     store.DeliveryState `json:"state" enum:"waiting,delivered,failed"`
	Attempts  int                 `json:"attempts"`
	LastAt    *time.Time          `json:"lastAt,omitempty"`
	NextAt    *time.Time          `json:"nextAt,omitempty" doc:"When it is tried next, while it waits."`
	Status    int                 `json:"status,omitempty" doc:"Of the last answer."`
	Failure   string              `json:"failure,omitempty" doc:"Why there was none."`
}

// WebhookPath names a webhook.
type WebhookPath struct {
	Webhook uuid.UUID `path:"webhook"`
}

type webhookOutput struct{ Body WebhookView }

func (s *Server) addWebhooks() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-webhooks", Method: http.MethodGet, Path: "/api/webhooks", Summary: "Addresses that are told of what happens",
	}), func(ctx context.Context, _ *struct{}) (*listOutput[WebhookView], error) {
		all, err := s.Store.Webhooks(ctx, memberOf(ctx).WorkspaceID)
		if err != nil {
			return nil, problem(err)
		}
		list := make([]WebhookView, len(all))
		for i, one := range all {
			list[i] = s.viewOfWebhook(one)
		}
		return &listOutput[WebhookView]{list}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-webhook", Method: http.MethodPost, Path: "/api/webhooks", Summary: "Have an address told; ten at most",
	}), s.addWebhook)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-webhook", Method: http.MethodPut, Path: "/api/webhooks/{webhook}",
		Summary: "Change what an address is told, or turn it off and on",
	}), s.changeWebhook)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-webhook", Method: http.MethodDelete, Path: "/api/webhooks/{webhook}", Summary: "Delete it, with its messages",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *WebhookPath) (*struct{}, error) {
		return nil, problemOrNil(s.Store.DeleteWebhook(ctx, memberOf(ctx).WorkspaceID, in.Webhook))
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "renew-webhook-secret", Method: http.MethodPost, Path: "/api/webhooks/{webhook}/secret",
		Summary: "Give it another secret; the one before signs too for a day",
	}), func(ctx context.Context, in *WebhookPath) (*webhookOutput, error) {
		one, err := s.Store.RenewWebhookSecret(ctx, memberOf(ctx).WorkspaceID, in.Webhook, webhooks.NewSecret(), s.Now())
		if err != nil {
			return nil, problem(err)
		}
		return &webhookOutput{s.viewOfWebhook(one)}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "try-webhook", Method: http.MethodPost, Path: "/api/webhooks/{webhook}/trial",
		Summary: "Send it a message to see whether that arrives", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *WebhookPath) (*struct{}, error) {
		return nil, s.mayTell(ctx, func(workspace uuid.UUID) error { return s.Store.TryWebhook(ctx, workspace, in.Webhook, s.Now()) })
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-deliveries", Method: http.MethodGet, Path: "/api/webhooks/{webhook}/messages",
		Summary: "What it was sent in the last thirty days, the latest first",
	}), s.listDeliveries)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "send-again", Method: http.MethodPost, Path: "/api/webhooks/{webhook}/messages/{message}/again",
		Summary: "Send a message once more, under the same ID", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		WebhookPath
		Message uuid.UUID `path:"message"`
	},
	) (*struct{}, error) {
		return nil, s.mayTell(ctx, func(workspace uuid.UUID) error {
			return s.Store.SendAgain(ctx, workspace, in.Webhook, in.Message, s.Now())
		})
	})
}

// mayTell has a message sent because somebody pressed for it, which costs what a fetch costs.
func (s *Server) mayTell(ctx context.Context, send func(workspace uuid.UUID) error) error {
	workspace := memberOf(ctx).WorkspaceID
	if !s.limits.mayFetch(workspace.String()) {
		return tooMany("These were many messages in a short time. Wait a few seconds and try again.", fetchPause)
	}
	return problemOrNil(send(workspace))
}

func (s *Server) viewOfWebhook(one store.Webhook) WebhookView {
	view := WebhookView{
		one.ID, WebhookBody{one.Address, one.Kinds, one.Clicks}, one.Secret, one.OldSecretUntil, one.CreatedAt, one.OffAt, one.OffBecause,
	}
	if view.OldUntil != nil && view.OldUntil.Before(s.Now()) {
		view.OldUntil = nil
	}
	return view
}

// wish is what a body asks for, held against the rules.
func (b WebhookBody) wish() (webhook.Wish, error) {
	clean, err := webhook.Wish{Address: b.Address, Kinds: b.Kinds, Clicks: b.Clicks}.Clean()
	var wrong *webhook.Error
	if errors.As(err, &wrong) {
		return clean, refuse(wrong.Field, wrong.Reason)
	}
	return clean, err
}

func (s *Server) addWebhook(ctx context.Context, in *struct{ Body WebhookBody }) (*webhookOutput, error) {
	wish, err := in.Body.wish()
	if err != nil {
		return nil, err
	}
	made, err := s.Store.AddWebhook(ctx, store.Webhook{
		WorkspaceID: memberOf(ctx).WorkspaceID, Address: wish.Address, Kinds: wish.Kinds, Clicks: wish.Clicks, Secret: webhooks.NewSecret(),
		CreatedAt: s.Now(),
	})
	if errors.Is(err, store.ErrManyWebhooks) {
		return nil, huma.Error409Conflict("There are ten webhooks, which is as many as there can be. Delete one that is no longer used.")
	}
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, made.Address)
	return &webhookOutput{s.viewOfWebhook(made)}, nil
}

func (s *Server) changeWebhook(ctx context.Context, in *struct {
	WebhookPath
	Body struct {
		WebhookBody
		On bool `json:"on"`
	}
},
) (*webhookOutput, error) {
	wish, err := in.Body.wish()
	if err != nil {
		return nil, err
	}
	changed, err := s.Store.ChangeWebhook(ctx, memberOf(ctx).WorkspaceID, in.Webhook, wish, in.Body.On, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, changed.Address)
	return &webhookOutput{s.viewOfWebhook(changed)}, nil
}

func (s *Server) listDeliveries(ctx context.Context, in *struct {
	WebhookPath
	ListPart
},
) (*partOutput[DeliveryView], error) {
	place, most, err := in.place()
	if err != nil {
		return nil, err
	}
	var after store.Delivery
	if place != nil {
		after.ID, after.CreatedAt = place.ID, place.At
	}
	workspace := memberOf(ctx).WorkspaceID
	if _, err := s.Store.Webhook(ctx, workspace, in.Webhook); err != nil {
		return nil, problem(err)
	}
	all, err := s.Store.Deliveries(ctx, workspace, in.Webhook, after, most+1)
	if err != nil {
		return nil, problem(err)
	}
	return listed(all, most, viewOfDelivery, func(one store.Delivery) cursor { return cursor{one.CreatedAt, one.ID.String()} }), nil
}

func viewOfDelivery(one store.Delivery) DeliveryView {
	view := DeliveryView{
		ID: one.ID, MessageID: webhooks.MessageID(one.ID.String()), Kind: one.Kind, Body: one.Body, CreatedAt: one.CreatedAt, State: one.State,
		Attempts: one.Attempts, LastAt: one.LastAt, Status: one.Status, Failure: one.Failure,
	}
	if one.State == store.Waiting {
		view.NextAt = &one.NextAt
	}
	return view
}
