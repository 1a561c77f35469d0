// Package payments has visitors pay by the service that a creator chose: it opens a page of that service for
// them, and takes in what the service says of it afterwards. Nothing about cards comes here.
//
// The service is told of a payment by POST with a key by which to be told twice is to be told once
// (draft-ietf-httpapi-idempotency-key-header); it answers with the page to go to. What it says later is signed
// as Standard Webhooks has it.
package payments

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/url"
	"time"

	"github.com/google/uuid"
	standardwebhooks "github.com/standard-webhooks/standard-webhooks/libraries/go"

	"jundle/internal/core/address"
	"jundle/internal/core/payment"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

const (
	// answerSize is how much of an answer of a service is read, in bytes.
	answerSize = 64 << 10
	// longestCheckout is how long it may be what a service calls a payment.
	longestCheckout = 200
)

// ErrForged is answered for a notice that nobody signed whom we know, or that is older than five minutes.
var ErrForged = errors.New("the notice is not signed by the payment service")

// Refused is why a service took nothing, in words for the creator.
type Refused struct {
	Reason string
	// Unsure: it may have taken it all the same, because its answer did not arrive or makes no sense.
	Unsure bool
}

func (e *Refused) Error() string { return e.Reason }

// Payments has visitors pay.
type Payments struct {
	Store    *store.Store
	Outbound *outbound.Client
	// PublicOrigin is below which notices come in.
	PublicOrigin string
	Now          func() time.Time
}

// NoticePath is below which notices come in, on the public listener.
const NoticePath = "/-/payments/"

// NoticeAddress is where a service sends its notices.
func (p Payments) NoticeAddress(service uuid.UUID) string {
	return p.PublicOrigin + NoticePath + service.String()
}

// checkout is a payment as the service reads it.
type checkout struct {
	Reference   string `json:"reference"`
	Amount      int64  `json:"amount"`
	Currency    string `json:"currency"`
	Description string `json:"description"`
	Language    string `json:"language"`
	ReturnURL   string `json:"return_url"`
	CancelURL   string `json:"cancel_url"`
	NoticeURL   string `json:"notice_url"`
}

// Begin keeps a payment and has its service open a page for it, whose address it answers. The visitor comes back to
// returns of the payment's ID, or to cancel. Errors: store.ErrNotFound where the workspace has no service,
// store.ErrManyPayments, and *Refused where the service took nothing.
func (p Payments) Begin(ctx context.Context, one store.Payment, returns func(id uuid.UUID) string, cancel string) (string, error) {
	service, err := p.Store.PaymentService(ctx, one.WorkspaceID)
	if err != nil {
		return "", err
	}
	one.ServiceID = service.ID
	if one, err = p.Store.BeginPayment(ctx, one); err != nil {
		return "", err
	}
	opened, err := p.open(ctx, service, checkout{
		one.ID.String(), one.Amount, one.Currency, one.BlockTitle, one.Language, returns(one.ID), cancel, p.NoticeAddress(service.ID),
	})
	var refused *Refused
	if errors.As(err, &refused) {
		slog.Warn("a payment was not begun", "workspace", one.WorkspaceID, "reason", refused.Reason)
	}
	p.noteFailure(ctx, service.ID, err)
	if err != nil {
		return "", err
	}
	return opened.URL, p.Store.PaymentBegun(ctx, one.ID, opened.ID)
}

// noteFailure keeps why a service took nothing, for the creator to see.
func (p Payments) noteFailure(ctx context.Context, service uuid.UUID, err error) {
	reason := ""
	if err != nil {
		reason = err.Error()
	}
	if err := p.Store.NotePaymentFailure(context.WithoutCancel(ctx), service, reason, p.Now()); err != nil {
		slog.Error("note why a payment service took nothing", "service", service, "error", err)
	}
}

// opened is what a service answers: what it calls the payment, and where to go.
type opened struct {
	ID  string `json:"id"`
	URL string `json:"url"`
}

func (p Payments) open(ctx context.Context, service store.PaymentService, wanted checkout) (opened, error) {
	var answer opened
	if err := p.post(ctx, service, "/checkouts", wanted.Reference, wanted, &answer); err != nil {
		return answer, err
	}
	link, err := address.ParseLink(answer.URL)
	if err != nil || link.Scheme != "https" || answer.ID == "" || len(answer.ID) > longestCheckout {
		return answer, &Refused{Reason: "The payment service named no page to pay on."}
	}
	// The page lets its form lead to that site and no other.
	if !payment.IsOn(payment.Site(service.Address), link.URL) {
		return answer, &Refused{Reason: "The payment service named a page to pay on that is on another site than itself."}
	}
	answer.URL = link.URL
	return answer, nil
}

// post tells a service something and reads its answer.
func (p Payments) post(ctx context.Context, service store.PaymentService, path, key string, body, answer any) error {
	said, err := json.Marshal(body)
	if err != nil {
		return err
	}
	got, err := p.Outbound.Post(ctx, service.Address+path, map[string]string{
		"Authorization": "Bearer " + service.Token, "Content-Type": "application/json", "Accept": "application/json",
		"Idempotency-Key": key, "User-Agent": "Jundle payments",
	}, said, answerSize)
	switch {
	case err != nil:
		return &Refused{Reason: outbound.Reason(err), Unsure: true}
	case got.Status == 401 || got.Status == 403:
		return &Refused{Reason: "The payment service does not take the token."}
	case got.Status < 200 || got.Status > 299:
		return &Refused{Reason: fmt.Sprintf("The payment service answered %d.", got.Status), Unsure: got.Status >= 500}
	}
	if err := json.Unmarshal(got.Body, answer); err != nil {
		return &Refused{Reason: "The payment service answered what cannot be read.", Unsure: true}
	}
	return nil
}

// notice is what a service says, as it is sent.
type notice struct {
	Type      payment.Happened `json:"type"`
	Timestamp time.Time        `json:"timestamp"`
	Data      struct {
		Reference uuid.UUID `json:"reference"`
		Amount    int64     `json:"amount"`
		Currency  string    `json:"currency"`
	} `json:"data"`
}

// Take takes in what a service says of a payment, with the header fields it came with. Errors: store.ErrNotFound,
// ErrForged, payment.ErrOther and payment.ErrNotice.
func (p Payments) Take(ctx context.Context, service uuid.UUID, header map[string][]string, body []byte) error {
	from, err := p.Store.PaymentServiceByID(ctx, service)
	if err != nil {
		return err
	}
	signed, err := standardwebhooks.NewWebhook(from.Secret)
	if err != nil {
		return ErrForged
	}
	if err := signed.Verify(body, header); err != nil {
		return ErrForged
	}
	var said notice
	if err := json.Unmarshal(body, &said); err != nil {
		return payment.ErrNotice
	}
	_, err = p.Store.TakePaymentNotice(ctx, service, said.Data.Reference, payment.Notice{
		Happened: said.Type, At: said.Timestamp.UTC(), Money: payment.Money{Minor: said.Data.Amount, Currency: said.Data.Currency},
	})
	return err
}

// GiveBack asks the service of a payment of a workspace to give so much of it back, beside what was given back before.
// That it was is what the service says afterwards. Errors: store.ErrNotFound where that service is no longer known,
// store.ErrRefunding, payment.ErrTooMuch and payment.ErrTooLittle, and *Refused.
func (p Payments) GiveBack(ctx context.Context, one store.Payment, minor int64) error {
	service, err := p.Store.PaymentServiceByID(ctx, one.ServiceID)
	if err != nil {
		return err
	}
	if one, err = p.Store.BeginRefund(ctx, one.WorkspaceID, one.ID, minor, p.Now()); err != nil {
		return err
	}
	// Pressed twice it is one: the key says how much is given back in all.
	key := fmt.Sprintf("%s-%d", one.ID, one.Refunded+minor)
	var answer struct{}
	err = p.post(ctx, service, "/checkouts/"+url.PathEscape(one.Checkout)+"/refunds", key, map[string]any{
		"amount": minor, "currency": one.Currency,
	}, &answer)
	// A service whose answer did not arrive may have taken it: until it says so, or a while is over, only the same amount
	// can be asked for again, under the same key.
	if refused := (*Refused)(nil); errors.As(err, &refused) && !refused.Unsure {
		if ended := p.Store.EndRefund(context.WithoutCancel(ctx), one.ID); ended != nil {
			slog.Error("a refund that failed is still noted as on its way", "payment", one.ID, "error", ended)
		}
	}
	return err
}
