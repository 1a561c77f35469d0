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

	"jundle/internal/app/bookings"
	"jundle/internal/calendar"
	"jundle/internal/core/booking"
	"jundle/internal/core/invalid"
	"jundle/internal/core/payment"
	"jundle/internal/core/readings"
	"jundle/internal/filehandler"
	"jundle/internal/store"
)

// longestReply is how long it may be what a creator writes with an answer, in characters.
const longestReply = 500

// BookingCounts is how many times wait for an answer, and how many that were agreed to are to come.
type BookingCounts struct {
	Waiting int `json:"waiting"`
	Coming  int `json:"coming"`
}

// BookingView is a time that a visitor asked for.
type BookingView struct {
	ID       uuid.UUID      `json:"id"`
	State    booking.State  `json:"state" enum:"asked,agreed,declined,calledOff,withdrawn,lapsed"`
	StateAt  time.Time      `json:"stateAt"`
	From     time.Time      `json:"from"`
	To       time.Time      `json:"to"`
	Zone     string         `json:"zone" doc:"By whose clocks it was asked for."`
	Name     string         `json:"name"`
	Address  string         `json:"address" doc:"E-mail address."`
	Word     string         `json:"word" doc:"What the visitor wrote with it."`
	Reply    string         `json:"reply" doc:"What was written with the answer."`
	Place    string         `json:"place"`
	Page     *uuid.UUID     `json:"page,omitempty" doc:"Absent once the page is gone."`
	PageName string         `json:"pageName" doc:"As it was called then."`
	Block    string         `json:"block" doc:"What it is for, as that was called then."`
	Source   string         `json:"source" doc:"Where the visit came from; empty for untagged."`
	Own      bool           `json:"own" doc:"By a browser of a member: in no figures."`
	AskedAt  time.Time      `json:"askedAt"`
	Cost     *payment.Money `json:"cost,omitempty" doc:"What is to be paid once it is agreed to; absent for nothing."`
	Shown    string         `json:"shown,omitempty" doc:"The same as it is written in English."`
	Paid     bool           `json:"paid" doc:"It was paid, and not wholly given back."`
	Clashes  bool           `json:"clashes" doc:"Another was agreed to on the page at that time."`
}

// AskedFromView is how many times those asked for who came from one source.
type AskedFromView struct {
	Source string `json:"source" doc:"As in the columns of sources and places."`
	Asked  int    `json:"asked"`
	Agreed int    `json:"agreed" doc:"How many of them were agreed to."`
}

func (s *Server) addBookings() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-bookings", Method: http.MethodGet, Path: "/api/bookings", Summary: "Times that visitors asked for",
		Description: "Those that are over come the latest first, all others the soonest first.",
	}), s.listBookings)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "count-bookings", Method: http.MethodGet, Path: "/api/bookings/count", Summary: "How many wait and are to come",
	}), func(ctx context.Context, _ *struct{}) (*struct{ Body BookingCounts }, error) {
		waiting, coming, err := s.Store.CountBookings(ctx, memberOf(ctx).WorkspaceID, s.Now())
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body BookingCounts }{BookingCounts{waiting, coming}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "answer-booking", Method: http.MethodPost, Path: "/api/bookings/{booking}/answer",
		Summary: "Agree to a time, decline it or call it off; its visitor gets a letter", DefaultStatus: http.StatusNoContent,
	}), s.answerBooking)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "remove-booking", Method: http.MethodDelete, Path: "/api/bookings/{booking}",
		Summary: "Erase one, with what its visitor gave; nobody is told", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		Booking uuid.UUID `path:"booking"`
	},
	) (*struct{}, error) {
		return nil, problemOrNil(s.Store.RemoveBooking(ctx, memberOf(ctx).WorkspaceID, in.Booking))
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-booking", Method: http.MethodGet, Path: "/api/bookings/{booking}/calendar",
		Summary: "One for a calendar (RFC 5545)",
	}), s.writeBooking)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-bookings", Method: http.MethodGet, Path: "/api/bookings.csv",
		Summary: "All of them as a table (RFC 4180), in the order of time",
	}), func(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
		workspace := memberOf(ctx).WorkspaceID
		return s.packed(ctx, "bookings.csv", "text/csv; charset=utf-8", func(ctx context.Context, to io.Writer) error {
			return bookings.WriteTable(ctx, s.Store, workspace, to)
		})
	})
}

func (s *Server) listBookings(ctx context.Context, in *struct {
	ListPart
	Which store.BookingList `query:"which" enum:"ahead,waiting,coming,over" default:"ahead" doc:"Ahead are those waiting and those coming."`
},
) (*partOutput[BookingView], error) {
	place, most, err := in.place()
	if err != nil {
		return nil, err
	}
	now := s.Now()
	all, err := s.Store.Bookings(ctx, memberOf(ctx).WorkspaceID, in.Which, place, most+1, now)
	if err != nil {
		return nil, problem(err)
	}
	view := func(one store.ListedBooking) BookingView { return viewOfBooking(one, now) }
	return listed(all, most, view, func(one store.ListedBooking) cursor { return cursor{one.StartsAt, one.ID.String()} }), nil
}

func viewOfBooking(one store.ListedBooking, now time.Time) BookingView {
	view := BookingView{
		ID: one.ID, State: one.StateNow(now), StateAt: one.StateAt, From: one.StartsAt, To: one.EndsAt, Zone: one.Zone, Name: one.Name,
		Address: one.Address, Word: one.Word, Reply: one.Reply, Place: one.Place, Page: one.PageID, PageName: one.PageName,
		Block: one.BlockTitle, Source: one.From, Own: one.Own, AskedAt: one.AskedAt, Paid: one.Paid > 0, Clashes: one.Clashes,
	}
	if one.Price > 0 {
		cost := one.Cost()
		view.Cost, view.Shown = &cost, cost.In("en")
	}
	return view
}

func (s *Server) answerBooking(ctx context.Context, in *struct {
	Booking uuid.UUID `path:"booking"`
	Body    struct {
		Act   booking.Act `json:"act" enum:"agree,decline,callOff"`
		Reply string      `json:"reply,omitempty" doc:"Shown to the visitor; at most 500 characters."`
	}
},
) (*struct{}, error) {
	var wrong invalid.List
	reply := wrong.Lines("reply", "What you write", in.Body.Reply, longestReply)
	if err := wrong.Err(); err != nil {
		return nil, problem(err)
	}
	one, err := s.Store.AnswerBooking(ctx, memberOf(ctx).WorkspaceID, in.Booking, store.Answer{
		Act: in.Body.Act, Reply: reply, At: s.Now(),
	})
	switch {
	case errors.Is(err, booking.ErrTaken):
		return nil, refuse("act", "You agreed to another at that time. Call that one off first, or decline this one. Nothing was changed.")
	case errors.Is(err, booking.ErrOver):
		return nil, refuse("act", "That time has come. Nothing was changed, and nobody was written to.")
	case errors.Is(err, booking.ErrAnswered):
		return nil, refuse("act", "It was answered or taken back meanwhile. Nothing was changed; load the list anew.")
	case err != nil:
		return nil, problem(err)
	}
	about(ctx, one.BlockTitle)
	return nil, nil
}

func (s *Server) writeBooking(ctx context.Context, in *struct {
	Booking uuid.UUID `path:"booking"`
},
) (*fileOutput, error) {
	one, err := s.Store.BookingOf(ctx, memberOf(ctx).WorkspaceID, in.Booking)
	if err != nil {
		return nil, problem(err)
	}
	text := calendar.Appointment{
		ID: one.ID.String(), Title: one.Name + " · " + one.BlockTitle, Place: one.Place, From: one.StartsAt, To: one.EndsAt,
		Notes: strings.TrimSpace(one.Address + "\n" + one.Word), ChangedAt: one.StateAt,
		CalledOff: one.State == booking.CalledOff || one.State == booking.Withdrawn,
	}.Write()
	return &fileOutput{"text/calendar; charset=utf-8", filehandler.Attachment(one.Name + ".ics"), []byte(text)}, nil
}

// askedBySource is how many times were asked for on a page in a span, by where it came from.
func (s *Server) askedBySource(ctx context.Context, workspace, pageID uuid.UUID, span readings.Span) ([]AskedFromView, error) {
	all, err := s.Store.BookingsBySource(ctx, workspace, pageID, span.From(), span.To())
	if err != nil {
		return nil, err
	}
	views := make([]AskedFromView, len(all))
	for i, one := range all {
		views[i] = AskedFromView(one)
	}
	return views, nil
}
