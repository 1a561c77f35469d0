package public

import (
	"cmp"
	"context"
	"errors"
	"log/slog"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/app/mailing"
	"jundle/internal/clients"
	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/signup"
	"jundle/internal/ingest"
	"jundle/internal/render"
	"jundle/internal/store"
)

// Budgets of sign-ups: of one client, and on one page by anybody. A stall at a festival,
// where all are behind one router, stays below the first.
var (
	signUpsOfClient = store.Budget{Burst: 30, Pause: time.Minute}
	signUpsOfPage   = store.Budget{Burst: 300, Pause: 3 * time.Second}
)

// askedToSignUp answers the form of a block on which an address is left: with the form
// once more where something is wrong, and otherwise with what comes next. Nothing tells
// whether an address was there before.
func (s *Server) askedToSignUp(asked request, live *livePage, hit ingest.Hit, of *page.SignUp, pressed press) answer {
	reads := live.reads(asked, cmp.Or(pressed.form.Get("lang"), chosenIn(asked.query)))
	shown := render.SignUpForm{
		SignUp: *of, ID: "address", Corners: "rounded", Action: render.WithLanguage(pressed.path, reads), Lang: reads,
		Address: pressed.form.Get("address"), Agreed: pressed.form.Get("agree") != "",
	}
	shown.Language = cmp.Or(shown.Lang, live.Document.Language)
	live.Document.Speak(shown.Lang, "blocks/"+hit.Block+"/signup", &shown.SignUp)
	in := locale.Of(shown.Language)
	if asked.method != http.MethodPost {
		return s.signUpAsked(asked, live, hit.Tag, shown)
	}
	wrong := func(status int, id string) answer {
		shown.Wrong = in.Say(id)
		return s.formPage(status, live, hit.Tag, shown.Lang, render.SignUpPage{Language: shown.Language, Title: shown.Title, Form: &shown})
	}
	written, key, err := signup.Address(pressed.form.Get("address"))
	switch {
	case pressed.form.Get("website") != "":
		return s.sentSignUp(pressed, shown.Lang) // nobody sees that field: it was filled in by a program
	case err != nil:
		return wrong(http.StatusUnprocessableEntity, "wrong_address")
	case of.Consent != "" && !shown.Agreed:
		return wrong(http.StatusUnprocessableEntity, "tick_first")
	}
	ctx, cancel := context.WithTimeout(context.Background(), readWithin)
	defer cancel()
	client, here := clients.Network(asked.client), live.PageID.String()
	for _, attempt := range []store.Attempt{
		{Key: s.signed("sign-up", client), Budget: signUpsOfClient}, {Key: s.signed("sign-up at", here), Budget: signUpsOfPage},
	} {
		wait, err := s.Store.TakeAttempt(ctx, attempt, s.Now())
		if err != nil {
			slog.Error("a sign-up was not kept", "error", err)
			return wrong(http.StatusServiceUnavailable, "not_kept")
		}
		if wait > 0 {
			return wrong(http.StatusTooManyRequests, "too_many_now")
		}
	}
	event := s.Recorder.Decide(hit)
	err = s.Store.AskSignUp(ctx, store.SignUp{
		WorkspaceID: live.WorkspaceID, PageID: &live.PageID, PageName: live.Document.Header.Name, Block: hit.Block, BlockTitle: of.Title,
		Edition: hit.Edition, Address: written, AddressKey: key, Source: event.Source, Own: hit.Own, Language: shown.Language,
		Consent: shown.Consent, AskedAt: hit.At,
	})
	switch {
	case errors.Is(err, store.ErrManySignUps):
		return wrong(http.StatusTooManyRequests, "too_many_now")
	case err != nil:
		slog.Error("a sign-up was not kept", "error", err)
		return wrong(http.StatusServiceUnavailable, "not_kept")
	}
	s.Recorder.Record(event)
	return s.sentSignUp(pressed, shown.Lang)
}

// signUpKey names a page about a sign-up as it was drawn for whoever opens its address.
type signUpKey struct {
	editionKey
	action   string
	language string
	sent     bool
}

// signUpAsked answers whoever opens the address of a form: with the form alone, or with what
// comes next once it was sent. It is drawn once.
func (s *Server) signUpAsked(asked request, live *livePage, tag string, form render.SignUpForm) answer {
	key := signUpKey{editionKey{live.PageID, live.Edition}, form.Action, form.Lang, strings.HasPrefix(asked.query, sentQuery)}
	if drawn, known := s.signUps.Get(key); known {
		return drawn
	}
	shown := render.SignUpPage{Title: form.Title, Form: &form}
	if key.sent {
		in := locale.Of(form.Language)
		shown = render.SignUpPage{Title: in.Say("look_in_mailbox"), Text: in.Say("look_in_mailbox_text")}
	}
	shown.Language = form.Language
	drawn := s.formPage(http.StatusOK, live, tag, form.Lang, shown)
	s.signUps.Add(key, drawn)
	return drawn
}

// sentQuery is what stands behind the address of a form once it was sent.
const sentQuery = "sent="

// sentSignUp leads to what is said next, so that to load that again sends nothing again.
func (s *Server) sentSignUp(pressed press, lang string) answer {
	next := pressed.path + "?" + sentQuery
	if lang != "" {
		next += "&lang=" + url.QueryEscape(lang)
	}
	return answer{status: http.StatusSeeOther, header: s.headers.pressed, location: next}
}

// formPage answers with a page about a form in the looks of its page, with a link back to it as the visitor opened it.
func (s *Server) formPage(status int, live *livePage, tag, reads string, shown render.SignUpPage) answer {
	shown.Back = live.backTo(tag, reads)
	html, policy, err := render.SignUp(live.Document.Look, shown)
	if err != nil {
		return s.failed(live.locale(), err)
	}
	answered := s.html(html, policy)
	answered.status = status
	return answered
}

// letterLink answers a link of a letter to somebody who left their address: what it is about
// when it is opened, which mail programs do by themselves, and what was chosen when that is
// sent.
func (s *Server) letterLink(c *gin.Context) {
	asked := s.requestOf(c)
	own := asked.locale()
	id, ok := mailing.ReadSignUpToken(s.LetterKey, c.Param("token"))
	if !ok {
		s.sayOver(c, own)
		return
	}
	ctx, cancel := context.WithTimeout(c.Request.Context(), readWithin)
	defer cancel()
	one, err := s.Store.SignUp(ctx, id)
	switch {
	case notFound(err):
		s.sayOver(c, own)
		return
	case err != nil:
		s.failed(own, err).write(c)
		return
	}
	in, live := locale.Of(one.Language), s.pageOf(ctx, one.PageID)
	if s.standsElsewhere(c, asked, one.WorkspaceID) {
		return
	}
	does := formIn(c).Get("do")
	shown := render.SignUpPage{Language: one.Language, Back: live.backOf(one.Source, one.Language)}
	named := []string{"Name", one.PageName, "Address", one.Address}
	switch {
	case does == "remove":
		if _, err = s.Store.RemoveSignUp(ctx, [16]byte{}, id, s.Now()); err == nil || notFound(err) {
			shown.Title, shown.Text, err = in.Say("taken_off"), in.Say("taken_off_text", named...), nil
		}
	case does == "confirm" || one.ConfirmedAt != nil:
		if one.ConfirmedAt == nil {
			one, err = s.Store.TakeSignUp(ctx, id, s.Now())
		}
		shown.Title, shown.Text = in.Say("signed_up"), cmp.Or(thanksOf(live, one), in.Say("signed_up_text", named...))
		shown.Choices = []render.Choice{{Words: in.Say("take_off"), Does: "remove"}}
	case one.Holds(s.Now()):
		shown.Title, shown.Text = in.Say("confirm_address"), in.Say("confirm_address_text", named...)
		shown.Choices = []render.Choice{{Words: in.Say("confirm"), Does: "confirm"}, {Words: in.Say("take_off"), Does: "remove", Plain: true}}
	default:
		err = store.ErrNotFound
	}
	s.drawLetterLink(c, in, live, shown, err)
}

func (s *Server) drawLetterLink(c *gin.Context, in *locale.Locale, live *livePage, shown render.SignUpPage, err error) {
	switch {
	case notFound(err):
		s.sayOver(c, in)
	case err != nil:
		s.failed(in, err).write(c)
	default:
		s.drawFor(c, http.StatusOK, in, live, shown)
	}
}

// drawFor answers whoever something is about with a page in the looks of the one it began on; nil where that is gone.
func (s *Server) drawFor(c *gin.Context, status int, in *locale.Locale, live *livePage, shown render.SignUpPage) {
	looks := page.New().Look
	if live != nil {
		looks = live.Document.Look
	}
	html, policy, err := render.SignUp(looks, shown)
	if err != nil {
		s.failed(in, err).write(c)
		return
	}
	drawnHTML{html, policy}.handWith(c, status)
}

func (s *Server) sayOver(c *gin.Context, in *locale.Locale) {
	s.say(c, http.StatusNotFound, spoken(in, "link_used"))
}

// pageOf is the page that somebody signed up or paid on, as it is held or read now; nil where it is
// no longer there.
func (s *Server) pageOf(ctx context.Context, id *uuid.UUID) *livePage {
	if id == nil {
		return nil
	}
	address, err := s.Store.PresentAddress(ctx, *id)
	if err != nil {
		return nil
	}
	found, err := s.pages.find(address)
	if err != nil || found.page == nil || found.isDeleted() || found.isTakenDown() {
		return nil
	}
	return found.page
}

// thanksOf is what the creator says at the end; empty for nothing.
func thanksOf(live *livePage, one store.SignUp) string {
	if live == nil {
		return ""
	}
	if block, found := live.Document.Find(one.Block); found && block.SignUp != nil {
		said := *block.SignUp
		live.Document.Speak(one.Language, "blocks/"+one.Block+"/signup", &said)
		return said.Thanks
	}
	return ""
}
