package public

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/app/mailing"
	"jundle/internal/calendar"
	"jundle/internal/core/booking"
	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/payment"
	"jundle/internal/core/window"
	"jundle/internal/filehandler"
	"jundle/internal/render"
	"jundle/internal/store"
)

// What is chosen on the page of a time that was asked for.
const (
	wantsToCallOff = "call off"
	callsOff       = "really call off"
	pays           = "pay"
)

// backFromPaying stands behind the address of such a page for who comes back from paying.
const backFromPaying = "paid="

// bookingPage is the page of a time that was asked for, of whom it is for.
type bookingPage struct {
	*Server
	store.Booking
	in   *locale.Locale
	live *livePage
	// says is what the page says of it now; its zero value where it is no longer there.
	says page.Booking
	now  time.Time
}

// bookingOf finds the page of a token, and answers where there is none.
func (s *Server) bookingOf(ctx context.Context, c *gin.Context) (*bookingPage, bool) {
	asked := s.requestOf(c)
	own := asked.locale()
	id, ok := mailing.ReadBookingToken(s.LetterKey, c.Param("token"))
	if !ok {
		s.say(c, http.StatusNotFound, spoken(own, "link_over"))
		return nil, false
	}
	one, err := s.Store.Booking(ctx, id)
	switch {
	case notFound(err):
		s.say(c, http.StatusNotFound, spoken(own, "link_over"))
		return nil, false
	case err != nil:
		s.failed(own, err).write(c)
		return nil, false
	}
	if s.standsElsewhere(c, asked, one.WorkspaceID) {
		return nil, false
	}
	b := &bookingPage{Server: s, Booking: one, in: locale.Of(one.Language), live: s.pageOf(ctx, one.PageID), now: s.Now()}
	if b.live != nil {
		if block, found := b.live.Document.Find(one.Block); found && block.Booking != nil {
			b.says = *block.Booking
			b.live.Document.Speak(one.Language, "blocks/"+one.Block+"/booking", &b.says)
		}
	}
	return b, true
}

// booking answers who asked for a time: with how it stands, and what was chosen about it when that is sent.
func (s *Server) booking(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	b, found := s.bookingOf(ctx, c)
	if !found {
		return
	}
	switch does := formIn(c).Get("do"); {
	case does == wantsToCallOff && b.canCallOff():
		b.draw(c, http.StatusOK, render.SignUpPage{
			Title: b.in.Say("call_off_sure"), Lines: []string{b.when()},
			Choices: []render.Choice{{Words: b.in.Say("call_off"), Does: callsOff}, {Words: b.in.Say("keep_time"), Plain: true}},
		})
		return
	case does == callsOff:
		_, err := s.Store.AnswerBooking(ctx, uuid.UUID{}, b.ID, store.Answer{Act: booking.Withdraw, At: b.now})
		if err != nil && !notFound(err) && !errors.Is(err, booking.ErrAnswered) && !errors.Is(err, booking.ErrOver) {
			s.failed(b.in, err).write(c)
			return
		}
		s.taken.Remove(b.pageID())
		answer{status: http.StatusSeeOther, header: s.headers.pressed, location: b.here()}.write(c)
		return
	case does == pays && b.State == booking.Agreed && b.Price > 0:
		b.pay(c)
		return
	}
	b.show(ctx, c, http.StatusOK)
}

func (b *bookingPage) pageID() (id uuid.UUID) {
	if b.PageID != nil {
		id = *b.PageID
	}
	return id
}

// here is the address of the page.
func (b *bookingPage) here() string { return b.bookingAddress(b.workspaceOrigin(b.WorkspaceID), b.ID) }

func (b *bookingPage) canCallOff() bool {
	_, err := b.State.After(booking.Withdraw, b.StartsAt, b.now)
	return err == nil && b.State != booking.Withdrawn
}

// when says when it is, and by whose clocks.
func (b *bookingPage) when() string {
	clocks := window.Times{Zone: b.Zone}
	return b.in.Moment(clocks.In(b.StartsAt)) + " (" + strings.ReplaceAll(b.Zone, "_", " ") + ")"
}

var bookingWords = map[booking.State]string{
	booking.Asked: "booking_asked", booking.Agreed: "booking_agreed", booking.Declined: "booking_declined",
	booking.CalledOff: "booking_off", booking.Withdrawn: "booking_withdrawn", booking.Lapsed: "booking_lapsed",
}

// show draws how it stands, and that it could not be paid where the status says that something is wrong.
func (b *bookingPage) show(ctx context.Context, c *gin.Context, status int) {
	state := b.StateNow(b.now)
	shown := render.SignUpPage{Title: b.in.Say(bookingWords[state]), Lines: []string{b.BlockTitle, b.when(), b.Place}}
	if status != http.StatusOK {
		shown.Wrong = b.in.Say("no_payments")
	}
	if state == booking.Agreed {
		shown.Lines = append(shown.Lines, b.says.Thanks)
		shown.Links = []render.Link{{Words: b.in.Say("in_calendar"), Address: c.Request.URL.Path + calendarPath}}
	} else {
		shown.Lines = append(shown.Lines, b.in.Say(bookingWords[state]+"_text", "Name", b.PageName, "Address", b.Address))
	}
	if b.Reply != "" {
		shown.Lines = append(shown.Lines, b.in.Say("they_write", "Name", b.PageName)+" "+b.Reply)
	}
	if err := b.showCost(ctx, c, state, &shown); err != nil {
		b.failed(b.in, err).write(c)
		return
	}
	if b.canCallOff() {
		shown.Choices = append(shown.Choices, render.Choice{Words: b.in.Say("call_off"), Does: wantsToCallOff, Plain: true})
	}
	b.draw(c, status, shown)
}

// showCost says what is to be paid or was, and lets it be paid where it can be.
func (b *bookingPage) showCost(ctx context.Context, c *gin.Context, state booking.State, shown *render.SignUpPage) error {
	if b.Price == 0 {
		return nil
	}
	paid, err := b.Store.PaymentFor(ctx, b.ID)
	switch {
	case notFound(err):
	case err != nil:
		return err
	case paid.Record().State() == payment.IsPaid, paid.Record().State() == payment.PartGivenBack:
		shown.Lines = append(shown.Lines, b.in.Say("paid_text", "Amount", paid.Money().In(b.Language)))
		if state == booking.Declined || state == booking.CalledOff || state == booking.Withdrawn {
			shown.Lines = append(shown.Lines, b.in.Say("to_be_refunded", "Name", b.PageName))
		}
		return nil
	case paid.Refunded > 0:
		back := payment.Money{Minor: paid.Refunded, Currency: paid.Currency}
		shown.Lines = append(shown.Lines, b.in.Say("given_back_text", "Amount", back.In(b.Language)))
	case !strings.HasPrefix(c.Request.URL.RawQuery, backFromPaying):
	case paid.FailedAt != nil:
		shown.Lines = append(shown.Lines, b.in.Say("pay_failed")+".")
	default:
		shown.Lines = append(shown.Lines, b.in.Say("pay_waiting")+". "+b.in.Say("pay_waiting_text"))
	}
	if state != booking.Agreed && state != booking.Asked {
		return nil
	}
	shown.Lines = append(shown.Lines, b.in.Say("to_pay", "Amount", b.Cost().In(b.Language)))
	if state != booking.Agreed {
		return nil
	}
	service, err := b.Store.PaymentService(ctx, b.WorkspaceID)
	switch {
	case notFound(err):
		return nil
	case err != nil:
		return err
	}
	shown.Leads = render.PayHosts(payment.Site(service.Address), b.Reroute)
	shown.Choices = append(shown.Choices, render.Choice{Words: b.in.Say("pay"), Does: pays})
	return nil
}

// pay leads to where it is paid for.
func (b *bookingPage) pay(c *gin.Context) {
	here := b.here()
	leads, status, err := b.begin(b.requestOf(c), b.ID.String(), store.Payment{
		WorkspaceID: b.WorkspaceID, PageID: b.PageID, PageName: b.PageName, Block: b.Block, BlockTitle: b.BlockTitle, Edition: b.Edition,
		Source: b.Source, Own: b.Own, Language: b.Language, Amount: b.Price, Currency: b.Currency, BegunAt: b.now, BookingID: &b.ID,
	}, func(uuid.UUID) string { return here + "?" + backFromPaying }, here)
	// The service may have taken longer than there is for reading.
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	switch {
	case errors.Is(err, store.ErrPaid): // meanwhile
		b.show(ctx, c, http.StatusOK)
	case leads == "":
		b.show(ctx, c, status)
	default:
		answer{status: http.StatusSeeOther, header: b.headers.pressed, location: b.rerouted(leads)}.write(c)
	}
}

// calendarPath is behind such a page: the time as calendars take it in.
const calendarPath = "/calendar"

// bookingCalendar hands out a time that was agreed to (RFC 5545).
func (s *Server) bookingCalendar(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	b, found := s.bookingOf(ctx, c)
	if !found {
		return
	}
	if b.State != booking.Agreed && b.State != booking.CalledOff {
		s.notFound(b.in).write(c)
		return
	}
	answer{status: http.StatusOK, header: with(s.headers.pressed, map[string]string{
		"Content-Disposition": filehandler.Attachment(cmp.Or(b.BlockTitle, b.PageName) + ".ics"), "Content-Type": "text/calendar; charset=utf-8",
	}), body: []byte(calendar.Appointment{
		ID: b.ID.String(), Title: b.BlockTitle + " · " + b.PageName, Place: b.Place, From: b.StartsAt, To: b.EndsAt,
		Notes: strings.TrimSpace(b.says.Thanks + "\n" + b.Reply), ChangedAt: b.StateAt, CalledOff: b.State == booking.CalledOff,
	}.Write())}.write(c)
}

func (b *bookingPage) draw(c *gin.Context, status int, shown render.SignUpPage) {
	shown.Language, shown.Back = b.Language, b.live.backOf(b.Source, b.Language)
	b.drawFor(c, status, b.in, b.live, shown)
}
