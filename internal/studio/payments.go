package studio

import (
	"context"
	"errors"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/payments"
	"jundle/internal/core/payment"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// giveBackWithin is how long a payment service has to answer.
const giveBackWithin = 12 * time.Second

// PaymentServiceBody is by which service visitors are to pay.
type PaymentServiceBody struct {
	Address string `json:"address" maxLength:"2000" doc:"Of the service's interface; https only."`
	Token   string `json:"token" maxLength:"1000" doc:"What it lets in by; left empty, the one before stays."`
	Secret  string `json:"secret" maxLength:"1000" doc:"Its notices are signed with it (Standard Webhooks); left empty, the one before stays."`
}

// PaymentServiceView is by which service visitors pay.
type PaymentServiceView struct {
	Address   string     `json:"address"`
	Notices   string     `json:"notices" doc:"Where it sends its notices."`
	CreatedAt time.Time  `json:"createdAt"`
	FailedAt  *time.Time `json:"failedAt,omitempty" doc:"When it last took nothing."`
	Failure   string     `json:"failure,omitempty" doc:"Why."`
}

// TakenView is what was paid in one currency, less what was given back.
type TakenView struct {
	payment.Money
	Shown string `json:"shown" doc:"As it is written in English."`
	Times int    `json:"times" doc:"How often somebody paid."`
}

// TakenFrom is what was paid by those who came from one source.
type TakenFrom struct {
	Source string `json:"source" doc:"As in the columns of sources and places."`
	TakenView
}

// IncomeView is what was ever paid, and by which service.
type IncomeView struct {
	Service *PaymentServiceView `json:"service,omitempty" doc:"Absent where there is none."`
	Taken   []TakenView         `json:"taken" nullable:"false" doc:"By currency."`
}

// PaymentView is a payment that was made, or failed.
type PaymentView struct {
	ID         uuid.UUID     `json:"id"`
	Money      payment.Money `json:"money"`
	Shown      string        `json:"shown"`
	Kept       payment.Money `json:"kept" doc:"What of it was not given back."`
	State      payment.State `json:"state" enum:"begun,paid,failed,given_back,part_given_back"`
	Page       *uuid.UUID    `json:"page,omitempty" doc:"Absent once the page is gone."`
	PageName   string        `json:"pageName" doc:"As it was called then."`
	Block      string        `json:"block" doc:"What it was for, as that was called then."`
	Source     string        `json:"source" doc:"Where the visit came from; empty for untagged."`
	Own        bool          `json:"own" doc:"By a browser of a member: in no figures."`
	Word       string        `json:"word" doc:"What the visitor wrote with it."`
	BegunAt    time.Time     `json:"begunAt"`
	PaidAt     *time.Time    `json:"paidAt,omitempty"`
	RefundedAt *time.Time    `json:"refundedAt,omitempty"`
}

type incomeOutput struct{ Body IncomeView }

func (s *Server) addPayments() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-income", Method: http.MethodGet, Path: "/api/income", Summary: "What visitors paid, and by which service",
	}), s.getIncome)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-payments", Method: http.MethodGet, Path: "/api/payments",
		Summary: "Payments that were made or failed, the latest first",
	}), s.listPayments)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-payments", Method: http.MethodGet, Path: "/api/payments.csv",
		Summary: "All of them as a table (RFC 4180), the oldest first",
	}), func(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
		workspace := memberOf(ctx).WorkspaceID
		return s.packed(ctx, "payments.csv", "text/csv; charset=utf-8", func(ctx context.Context, to io.Writer) error {
			return payments.WriteTable(ctx, s.Store, workspace, to)
		})
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "give-back-payment", Method: http.MethodPost, Path: "/api/payments/{payment}/back",
		Summary: "Have the payment service give a payment back, or part of it", DefaultStatus: http.StatusAccepted,
		Description: "That it was given back is known once the service says so.",
	}), s.giveBackPayment)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "set-payment-service", Method: http.MethodPut, Path: "/api/payment-service", Summary: "Say by which service visitors pay",
	}), s.setPaymentService)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "drop-payment-service", Method: http.MethodDelete, Path: "/api/payment-service",
		Summary: "Let nobody pay any more; what was paid stays known", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, problemOrNil(s.Store.DropPaymentService(ctx, memberOf(ctx).WorkspaceID, s.Now()))
	})
}

func (s *Server) payments() payments.Payments {
	return payments.Payments{Store: s.Store, Outbound: s.Outbound, PublicOrigin: s.PublicOrigin, Now: s.Now}
}

func (s *Server) getIncome(ctx context.Context, _ *struct{}) (*incomeOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	out := &incomeOutput{IncomeView{Taken: []TakenView{}}}
	one, err := s.Store.PaymentService(ctx, workspace)
	switch {
	case err == nil:
		out.Body.Service = &PaymentServiceView{one.Address, s.payments().NoticeAddress(one.ID), one.CreatedAt, one.FailedAt, one.Failure}
	case !errors.Is(err, store.ErrNotFound):
		return nil, problem(err)
	}
	taken, err := s.Store.TakenInAll(ctx, workspace)
	if err != nil {
		return nil, problem(err)
	}
	for _, each := range taken {
		out.Body.Taken = append(out.Body.Taken, viewOfTaken(each))
	}
	return out, nil
}

// takenBySource is what was paid on a page in a span, by where it came from.
func (s *Server) takenBySource(ctx context.Context, workspace, pageID uuid.UUID, span readings.Span) ([]TakenFrom, error) {
	all, err := s.Store.TakenBySource(ctx, workspace, pageID, span.From(), span.To())
	if err != nil {
		return nil, err
	}
	views := make([]TakenFrom, len(all))
	for i, one := range all {
		views[i] = TakenFrom{one.Source, viewOfTaken(one)}
	}
	return views, nil
}

func viewOfTaken(one store.Taken) TakenView {
	money := payment.Money{Minor: one.Minor, Currency: one.Currency}
	return TakenView{money, money.In("en"), one.Times}
}

func (s *Server) listPayments(ctx context.Context, in *struct{ ListPart }) (*partOutput[PaymentView], error) {
	place, most, err := in.place()
	if err != nil {
		return nil, err
	}
	all, err := s.Store.Payments(ctx, memberOf(ctx).WorkspaceID, place, most+1)
	if err != nil {
		return nil, problem(err)
	}
	return listed(all, most, viewOfPayment, func(one store.ListedPayment) cursor { return cursor{one.BegunAt, one.ID.String()} }), nil
}

func viewOfPayment(one store.ListedPayment) PaymentView {
	record := one.Record()
	return PaymentView{
		ID: one.ID, Money: one.Money(), Shown: one.Money().In("en"), Kept: payment.Money{Minor: record.Kept(), Currency: one.Currency},
		State: record.State(), Page: one.PageID, PageName: one.PageName, Block: one.BlockTitle, Source: one.From, Own: one.Own, Word: one.Word,
		BegunAt: one.BegunAt, PaidAt: one.PaidAt, RefundedAt: one.RefundedAt,
	}
}

func (s *Server) giveBackPayment(ctx context.Context, in *struct {
	Payment uuid.UUID `path:"payment"`
	Body    struct {
		Minor int64 `json:"minor" minimum:"1" doc:"How much, in the smallest unit of its currency."`
	}
},
) (*struct{}, error) {
	workspace := memberOf(ctx).WorkspaceID
	if !s.limits.mayFetch(workspace.String()) {
		return nil, tooMany("These were many in a short time. Wait a few seconds and try again; nothing was given back.", fetchPause)
	}
	one, err := s.Store.PaymentOf(ctx, workspace, in.Payment)
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, payment.Money{Minor: in.Body.Minor, Currency: one.Currency}.Plain()+" "+one.Currency)
	ctx, cancel := context.WithTimeout(ctx, giveBackWithin)
	defer cancel()
	err = s.payments().GiveBack(ctx, one, in.Body.Minor)
	var refused *payments.Refused
	switch {
	case errors.As(err, &refused):
		return nil, refuse("minor", refused.Reason+" Nothing was given back.")
	case errors.Is(err, payment.ErrTooMuch):
		return nil, refuse("minor", "That is more than is left of it. Nothing was given back.")
	case errors.Is(err, store.ErrRefunding):
		return nil, refuse("minor", "Another refund of this payment is on its way. Wait until it is confirmed; nothing more was given back.")
	case errors.Is(err, store.ErrNotFound):
		return nil, refuse("minor", "The service it was paid by is no longer known here. Give it back there.")
	}
	return nil, problemOrNil(err)
}

func (s *Server) setPaymentService(ctx context.Context, in *struct{ Body PaymentServiceBody }) (*incomeOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	wish := payment.ServiceWish{Address: in.Body.Address, Token: in.Body.Token, Secret: in.Body.Secret}
	before, err := s.Store.PaymentService(ctx, workspace)
	switch {
	case err == nil && strings.TrimRight(strings.TrimSpace(wish.Address), "/") == before.Address:
		if strings.TrimSpace(wish.Token) == "" {
			wish.Token = before.Token
		}
		if strings.TrimSpace(wish.Secret) == "" {
			wish.Secret = before.Secret
		}
	case err != nil && !errors.Is(err, store.ErrNotFound):
		return nil, problem(err)
	}
	clean, err := wish.Clean()
	var wrong *payment.WishError
	if errors.As(err, &wrong) {
		return nil, refuse(wrong.Field, wrong.Reason)
	}
	if err != nil {
		return nil, problem(err)
	}
	_, err = s.Store.SetPaymentService(ctx, store.PaymentService{
		WorkspaceID: workspace, Address: clean.Address, Token: clean.Token, Secret: clean.Secret, CreatedAt: s.Now(),
	})
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, clean.Address)
	return s.getIncome(ctx, nil)
}
