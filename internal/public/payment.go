package public

import (
	"cmp"
	"context"
	"encoding/base64"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/app/payments"
	"jundle/internal/clients"
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/payment"
	"jundle/internal/ingest"
	"jundle/internal/render"
	"jundle/internal/store"
)

// Budgets of payments begun: by one client, and on one page by anybody.
var (
	paymentsOfClient = store.Budget{Burst: 20, Pause: time.Minute}
	paymentsOfPage   = store.Budget{Burst: 300, Pause: 3 * time.Second}
)

const (
	// paidPath is below which visitors come back to after they paid.
	paidPath = "/-/paid/"
	// paysWithin is how long a payment service has to open a page.
	paysWithin = 12 * time.Second
	// noticeSize is how much of a notice is read, in bytes.
	noticeSize = 64 << 10
	// PaymentsAtOnce is how many payments are begun at the same time: each waits for somebody else's server.
	PaymentsAtOnce = 48
	// paymentsOfOne is how many of those are of one workspace, whose service may be slow.
	paymentsOfOne = 4
	// paymentsWaiting is how many of one workspace wait for a turn.
	paymentsWaiting = 200
)

// askedToPay answers the form of a block by which visitors pay: with the form once more where something is wrong, and
// otherwise with the page of the payment service.
func (s *Server) askedToPay(asked request, live *livePage, hit ingest.Hit, of *page.Payment, pressed press) answer {
	reads := live.reads(asked, cmp.Or(pressed.form.Get("lang"), chosenIn(asked.query)))
	shown := render.PaymentForm{
		Payment: *of, ID: "pay", Corners: "rounded", Action: render.WithLanguage(pressed.path, reads), Lang: reads,
		Choice: pressed.form.Get("amount"), Typed: pressed.form.Get("own"), Said: invalid.OneLine(pressed.form.Get("word")),
	}
	shown.Language = cmp.Or(shown.Lang, live.Document.Language)
	live.Document.Speak(shown.Lang, "blocks/"+hit.Block+"/payment", &shown.Payment)
	answered := func(status int) answer {
		return s.formPage(status, live, hit.Tag, shown.Lang, render.SignUpPage{
			Language: shown.Language, Title: shown.Title, Pay: &shown, Leads: live.pays,
		})
	}
	if asked.method != http.MethodPost || pressed.form.Get("website") != "" {
		return answered(http.StatusOK) // nobody sees that field: it was filled in by a program
	}
	in := locale.Of(shown.Language)
	money, err := of.Chosen(shown.Choice, shown.Typed, shown.Language)
	switch {
	case errors.Is(err, payment.ErrTooMuch):
		shown.Wrong = in.Say("amount_too_much")
	case err != nil:
		shown.Wrong = in.Say("wrong_amount", "Like", payment.Money{Minor: 1250, Currency: of.Currency}.Written(shown.Language))
	}
	if err != nil {
		return answered(http.StatusUnprocessableEntity)
	}
	leads, status := s.beginPayment(asked, live, hit, of, shown, money)
	if leads == "" {
		shown.Wrong = in.Say("no_payments")
		return answered(status)
	}
	return answer{status: http.StatusSeeOther, header: s.headers.pressed, location: s.rerouted(leads)}
}

// beginPayment has a payment service open a page, and says where that is; empty, with a status, where nobody can pay.
func (s *Server) beginPayment(
	asked request, live *livePage, hit ingest.Hit, of *page.Payment, shown render.PaymentForm, money payment.Money,
) (string, int) {
	event := s.Recorder.Decide(hit)
	word := ""
	if of.Word {
		word = invalid.Cut(shown.Said, page.MaxWord)
	}
	leads, status, _ := s.begin(asked, live.PageID.String(), store.Payment{
		WorkspaceID: live.WorkspaceID, PageID: &live.PageID, PageName: live.Document.Header.Name, Block: hit.Block, BlockTitle: of.Title,
		Edition: hit.Edition, Source: event.Source, Own: hit.Own, Language: shown.Language, Amount: money.Minor, Currency: money.Currency,
		Word: word, BegunAt: hit.At,
	}, func(id uuid.UUID) string { return s.paidAddress(s.origin(live), id) }, s.origin(live)+live.backTo(hit.Tag, shown.Lang))
	if leads != "" {
		s.Recorder.Record(event)
	}
	return leads, status
}

// begin begins a payment where there is room for one, of who asks and at a place, and says where it is paid; nowhere, with
// a status and why, where it cannot be.
func (s *Server) begin(
	asked request, at string, one store.Payment, returns func(id uuid.UUID) string, cancelled string,
) (leads string, status int, err error) {
	ctx, cancel := context.WithTimeout(context.Background(), paysWithin)
	defer cancel()
	client := clients.Network(asked.client)
	for _, attempt := range []store.Attempt{
		{Key: s.signed("payment", client), Budget: paymentsOfClient}, {Key: s.signed("payment at", at), Budget: paymentsOfPage},
	} {
		wait, err := s.Store.TakeAttempt(ctx, attempt, s.Now())
		if err != nil {
			slog.Error("a payment was not begun", "error", err)
			return "", http.StatusServiceUnavailable, err
		}
		if wait > 0 {
			return "", http.StatusTooManyRequests, nil
		}
	}
	done, err := s.paying.Take(ctx, one.WorkspaceID)
	if err != nil {
		return "", http.StatusServiceUnavailable, nil //nolint:nilerr // nobody's fault: there was no turn in time
	}
	defer done()
	leads, err = s.Payments.Begin(ctx, one, returns, cancelled)
	var refused *payments.Refused
	switch {
	case err == nil:
		return leads, http.StatusSeeOther, nil
	case errors.As(err, &refused), errors.Is(err, store.ErrNotFound), errors.Is(err, store.ErrManyPayments), errors.Is(err, store.ErrPaid):
	default:
		slog.Error("a payment was not begun", "error", err)
	}
	return "", http.StatusServiceUnavailable, err
}

// paidAddress is where a visitor comes back to after a payment. Nobody else finds it.
func (s *Server) paidAddress(origin string, id uuid.UUID) string {
	return origin + paidPath + base64.RawURLEncoding.EncodeToString(append(id[:], s.signed("paid", id.String())...))
}

// paid answers who comes back from a payment: with how it stands.
func (s *Server) paid(c *gin.Context) {
	asked := s.requestOf(c)
	own := asked.locale()
	raw, err := base64.RawURLEncoding.DecodeString(c.Param("token"))
	var id uuid.UUID
	if err == nil && len(raw) > len(id) {
		copy(id[:], raw)
	}
	if id == (uuid.UUID{}) || s.paidAddress("", id) != paidPath+c.Param("token") {
		s.notFound(own).write(c)
		return
	}
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	one, err := s.Store.Payment(ctx, id)
	if err != nil {
		s.missing(own, err).write(c)
		return
	}
	if s.standsElsewhere(c, asked, one.WorkspaceID) {
		return
	}
	in, live := locale.Of(one.Language), s.pageOf(ctx, one.PageID)
	shown := render.SignUpPage{Language: one.Language, Back: live.backOf(one.Source, one.Language)}
	money := []string{"Amount", one.Money().In(one.Language)}
	switch one.Record().State() {
	case payment.IsPaid:
		shown.Title, shown.Text = in.Say("paid"), cmp.Or(paymentThanks(live, one), in.Say("paid_text", money...))
	case payment.GivenBack, payment.PartGivenBack:
		back := payment.Money{Minor: one.Refunded, Currency: one.Currency}
		shown.Title, shown.Text = in.Say("given_back"), in.Say("given_back_text", "Amount", back.In(one.Language))
	case payment.IsFailed:
		shown.Title, shown.Text = in.Say("pay_failed"), in.Say("pay_failed_text")
	default:
		shown.Title, shown.Text = in.Say("pay_waiting"), in.Say("pay_waiting_text")
	}
	s.drawLetterLink(c, in, live, shown, nil)
}

// paymentThanks is what the creator says once something is paid; empty for nothing.
func paymentThanks(live *livePage, one store.Payment) string {
	if live == nil {
		return ""
	}
	if block, found := live.Document.Find(one.Block); found && block.Payment != nil {
		said := *block.Payment
		live.Document.Speak(one.Language, "blocks/"+one.Block+"/payment", &said)
		return said.Thanks
	}
	return ""
}

// paymentNotice takes in what a payment service says. Whatever is wrong with it, nobody is told more than that: who sends
// it is anybody until it is read.
func (s *Server) paymentNotice(c *gin.Context) {
	service, err := uuid.Parse(c.Param("service"))
	if err != nil {
		c.Status(http.StatusNotFound)
		return
	}
	body, err := io.ReadAll(http.MaxBytesReader(c.Writer, c.Request.Body, noticeSize))
	if err != nil {
		c.Status(http.StatusRequestEntityTooLarge)
		return
	}
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	switch err := s.Payments.Take(ctx, service, c.Request.Header, body); {
	case err == nil:
		c.Status(http.StatusNoContent)
	case errors.Is(err, store.ErrNotFound):
		c.Status(http.StatusNotFound)
	case errors.Is(err, payments.ErrForged):
		c.Status(http.StatusUnauthorized)
	case errors.Is(err, payment.ErrOther), errors.Is(err, payment.ErrNotice):
		slog.Warn("a notice of a payment was not taken", "service", service, "error", err)
		c.Status(http.StatusUnprocessableEntity)
	default:
		slog.Error("a notice of a payment was not kept", "service", service, "error", err)
		c.Status(http.StatusServiceUnavailable) // it is sent again
	}
}
