package public

import (
	"bytes"
	"cmp"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"log/slog"
	"net/http"
	"net/url"
	"regexp"
	"time"

	"github.com/google/uuid"

	"jundle/internal/app/mailing"
	"jundle/internal/clients"
	"jundle/internal/core/booking"
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/signup"
	"jundle/internal/ingest"
	"jundle/internal/render"
	"jundle/internal/store"
)

// Budgets of times asked for: by one client, on one page by anybody, and with one address anywhere, which is written to
// once creators answer.
var (
	bookingsOfClient  = store.Budget{Burst: 10, Pause: 5 * time.Minute}
	bookingsOfPage    = store.Budget{Burst: 100, Pause: time.Minute}
	bookingsOfAddress = store.Budget{Burst: 10, Pause: 2 * time.Hour}
)

const (
	// timesShown is how many times are shown at once: those of a day at least.
	timesShown = 300
	// takenFor is for how long times that are taken are held: who asks for one is held against the present ones.
	takenFor = 10 * time.Second
	// takenHeld is of how many pages, timesHeld how many forms are that were drawn.
	takenHeld = 2000
	timesHeld = 500
)

// askedForTime answers the address of a block with times to ask for: with the form when it is opened and where
// something is wrong, and otherwise with the page that says how the time stands. To open it is a click.
func (s *Server) askedForTime(asked request, live *livePage, hit ingest.Hit, target page.Target, pressed press) answer {
	shown := s.bookingForm(asked, live, hit.Block, target, pressed)
	switch {
	case asked.method != http.MethodPost && shown.After == "":
		s.Recorder.Record(s.Recorder.Decide(hit))
		return s.timesAsked(live, hit, shown)
	case asked.method != http.MethodPost, pressed.form.Get("website") != "": // nobody sees that field: it was filled in by a program
		return s.timesAsked(live, hit, shown)
	}
	written, key, err := signup.Address(shown.Address)
	at, isChosen := shown.Time()
	wrong, status := "", http.StatusUnprocessableEntity
	switch {
	case !isChosen:
		wrong = "choose_time"
	case shown.Name == "":
		wrong = "say_name"
	case err != nil:
		wrong = "wrong_address"
	default:
		of, event := target.Book, s.Recorder.Decide(hit)
		span := of.Rules().Span(at)
		var kept store.Booking
		kept, wrong, status = s.askForTime(asked, live, of, store.Booking{
			WorkspaceID: live.WorkspaceID, PageID: &live.PageID, PageName: live.Document.Header.Name, Block: hit.Block, BlockTitle: of.Title,
			Edition: hit.Edition, Source: event.Source, Own: hit.Own, Language: shown.Language, Place: shown.Where, Zone: of.Zone(),
			StartsAt: span.From, EndsAt: span.To, Name: shown.Name, Address: written, AddressKey: key, Word: shown.Word, Price: of.Price,
			Currency: of.Currency, AskedAt: hit.At, Once: s.onceOf(shown.Once),
		})
		if wrong == "" {
			return answer{status: http.StatusSeeOther, header: s.headers.pressed, location: s.bookingAddress(s.origin(live), kept.ID)}
		}
	}
	shown.Wrong = locale.Of(shown.Language).Say(wrong)
	drawn := s.timesOffered(live, hit.Tag, shown)
	drawn.status = status
	return s.withOnce(drawn)
}

// bookingForm is the form of a block, with what was filled in.
func (s *Server) bookingForm(asked request, live *livePage, block string, target page.Target, pressed press) render.BookingForm {
	asks, err := url.ParseQuery(asked.query)
	if err != nil {
		asks = nil
	}
	form := pressed.form
	shown := render.BookingForm{
		Booking: *target.Book, Lang: live.reads(asked, cmp.Or(form.Get("lang"), asks.Get("lang"))),
		Chosen: form.Get("time"), Address: form.Get("address"), Name: invalid.Cut(invalid.OneLine(form.Get("name")), page.MaxBookingName),
		Word: invalid.Cut(invalid.KeepLines(form.Get("word")), page.MaxBookingWord),
	}
	if shown.Once = form.Get("once"); !isOnce.MatchString(shown.Once) {
		shown.Once = s.oncePlace
	}
	if target.Gate != nil {
		shown.Mark = asks.Get(markParameter)
	}
	shown.Language = cmp.Or(shown.Lang, live.Document.Language)
	live.Document.Speak(shown.Lang, "blocks/"+block+"/booking", &shown.Booking)
	shown.After = s.dayFrom(cmp.Or(asks.Get("after"), form.Get("after")), shown)
	return shown
}

// isOnce are keys of forms, as rand.Text makes them.
var isOnce = regexp.MustCompile(`^[A-Z2-7]{26}$`)

// onceOf is what is kept of the key of a form; empty for none.
func (s *Server) onceOf(key string) string {
	if !isOnce.MatchString(key) {
		return ""
	}
	return hex.EncodeToString(s.signed("booking once", key))
}

// withOnce gives a form that was drawn for everybody a key of its own.
func (s *Server) withOnce(drawn answer) answer {
	drawn.body = bytes.ReplaceAll(drawn.body, []byte(s.oncePlace), []byte(rand.Text()))
	return drawn
}

// dayFrom is the first day that a form is to show, out of how it was asked for: one of those on which times can be
// asked for, or empty for the first of them.
func (s *Server) dayFrom(wanted string, of render.BookingForm) string {
	today := s.Now().In(of.Clocks())
	if _, err := time.Parse(time.DateOnly, wanted); err != nil || wanted <= today.Format(time.DateOnly) {
		return ""
	}
	return min(wanted, today.AddDate(0, 0, of.Ahead+1).Format(time.DateOnly))
}

// askForTime keeps a time that is asked for, or says what is wrong: the ID of words of ours, and a status.
func (s *Server) askForTime(asked request, live *livePage, of *page.Booking, one store.Booking) (
	kept store.Booking, wrong string, status int,
) {
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	for _, attempt := range []store.Attempt{
		{Key: s.signed("booking", clients.Network(asked.client)), Budget: bookingsOfClient},
		{Key: s.signed("booking at", live.PageID.String()), Budget: bookingsOfPage},
		{Key: s.signed("booking of", one.AddressKey), Budget: bookingsOfAddress},
	} {
		wait, err := s.Store.TakeAttempt(ctx, attempt, s.Now())
		if err != nil {
			slog.Error("a time that was asked for was not kept", "error", err)
			return kept, "not_kept", http.StatusServiceUnavailable
		}
		if wait > 0 {
			return kept, "many_asked", http.StatusTooManyRequests
		}
	}
	taken, err := s.Store.TakenTimes(ctx, live.PageID, one.AskedAt)
	if err == nil {
		s.taken.Add(live.PageID, taken)
		if !of.Rules().Offers(taken, one.AskedAt, one.StartsAt) {
			return kept, "time_taken", http.StatusUnprocessableEntity
		}
		kept, err = s.Store.AskBooking(ctx, one)
	}
	switch {
	case errors.Is(err, store.ErrManyBookings):
		return kept, "many_asked", http.StatusTooManyRequests
	case err != nil:
		slog.Error("a time that was asked for was not kept", "error", err)
		return kept, "not_kept", http.StatusServiceUnavailable
	}
	return kept, "", http.StatusSeeOther
}

// timesKey names a form as it was drawn for whoever opens it.
type timesKey struct {
	editionKey
	block, tag, language, after string
}

// timesAsked answers whoever opens a form with the times that were free a moment ago.
func (s *Server) timesAsked(live *livePage, hit ingest.Hit, shown render.BookingForm) answer {
	tag := hit.Tag
	if live.tags[tag] == "" {
		tag = "" // nobody is to fill the memory with made-up ones
	}
	key := timesKey{editionKey{live.PageID, live.Edition}, hit.Block, tag, shown.Lang, shown.After}
	if shown.Mark != "" {
		return s.withOnce(s.timesOffered(live, tag, shown)) // it is one visitor's
	}
	if drawn, known := s.times.Get(key); known {
		return s.withOnce(drawn)
	}
	drawn := s.timesOffered(live, tag, shown)
	if drawn.status == http.StatusOK {
		s.times.Add(key, drawn)
	}
	return s.withOnce(drawn)
}

// timesOffered answers with the times that are free.
func (s *Server) timesOffered(live *livePage, tag string, shown render.BookingForm) answer {
	taken, err := s.takenOn(live.PageID)
	if err != nil {
		return s.failed(live.locale(), err)
	}
	clocks := shown.Clocks()
	from, _ := time.ParseInLocation(time.DateOnly, shown.After, clocks)
	free := shown.Rules().Free(taken, s.Now(), from, timesShown+1)
	if len(free) > timesShown {
		next := free[timesShown].In(clocks).Format(time.DateOnly)
		for len(free) > 0 && free[len(free)-1].In(clocks).Format(time.DateOnly) == next {
			free = free[:len(free)-1]
		}
		later := url.Values{"after": {next}}
		for name, value := range map[string]string{"lang": shown.Lang, markParameter: shown.Mark} {
			if value != "" {
				later.Set(name, value)
			}
		}
		shown.Later = "?" + later.Encode()
	}
	shown.Offer(free)
	return s.formPage(http.StatusOK, live, tag, shown.Lang, render.SignUpPage{
		Language: shown.Language, Title: shown.Title, Book: &shown, Leads: []string{s.Origin},
	})
}

// takenOn lists the times that are taken on a page, as they were a moment ago.
func (s *Server) takenOn(pageID uuid.UUID) ([]booking.Span, error) {
	if taken, held := s.taken.Get(pageID); held {
		return taken, nil
	}
	read, err, _ := s.takenNow.Do(pageID.String(), func() (any, error) {
		ctx, cancel := context.WithTimeout(context.Background(), readWithin)
		defer cancel()
		taken, err := s.Store.TakenTimes(ctx, pageID, s.Now())
		if err == nil {
			s.taken.Add(pageID, taken)
		}
		return taken, err
	})
	taken, _ := read.([]booking.Span)
	return taken, err
}

// bookingAddress is where a visitor sees how a time stands that they asked for. Nobody else finds it.
func (s *Server) bookingAddress(origin string, id uuid.UUID) string {
	return origin + mailing.BookingPath + mailing.BookingToken(s.LetterKey, id)
}
