package public

import (
	"mime"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/valyala/fasthttp"

	"jundle/internal/core/contact"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/render"
)

// press is what was pressed, as it stands in the address.
type press struct{ edition, block, tag string }

// click answers /{page}/-/{edition}/{block} and the same with a tag: it sends
// the visitor on to where the block leads, or hands out what it holds. Where a
// block has several targets, the one pressed stands behind a point.
//
// A post is what a browser tells of a click on a plain address, by ping (HTML,
// hyperlink auditing) or beacon (W3C): it is counted, and there is nothing to say.
func (s *Server) click(ctx *fasthttp.RequestCtx, live *livePage, pressed press) {
	number, err := strconv.ParseInt(pressed.edition, 10, 32)
	if err != nil {
		s.nothingHere(ctx)
		return
	}
	targets, err := s.pages.targetsOf(live, int(number))
	switch {
	case notFound(err):
		s.nothingHere(ctx)
		return
	case err != nil:
		s.failed(ctx, err)
		return
	}
	key, item, _ := strings.Cut(pressed.block, ".")
	target, place, found := targets.Find(key, item)
	if !found || ctx.IsPost() && !target.Plain {
		s.nothingHere(ctx)
		return
	}
	// A tab opened before the last publishing shows an older edition. Where its
	// block is still on the page, it leads to where the block leads now.
	if now, _, ok := live.targets.Find(key, item); ok {
		target = now
	} else if !s.leadsOn(ctx, live, key, item) {
		return
	}
	hit := s.hit(ctx, live.PageID, live.WorkspaceID, live.book, pressed.tag)
	hit.Kind, hit.Edition, hit.Block, hit.Item, hit.Place = traffic.Click, int(number), key, item, place
	event := s.Recorder.Decide(hit)
	s.Recorder.Record(event)
	if ctx.IsPost() {
		ctx.SetStatusCode(http.StatusNoContent)
		return
	}
	from, _ := live.book.Find(event.Source)
	target.Address = live.Document.Tagging.Tag(target.Address, from.Tag, from.Medium, key)
	notStored(ctx)
	s.lead(ctx, target)
}

// leadsOnFor is how long what was taken off a page goes on leading for tabs that
// still show it, unless the creator chose otherwise.
const leadsOnFor = 24 * time.Hour

// leadsOn tells whether something that is no longer on the page still leads to
// where it led, and answers the visitor when not.
func (s *Server) leadsOn(ctx *fasthttp.RequestCtx, live *livePage, key, item string) bool {
	off, err := s.pages.takenOff(live, key, item)
	switch {
	case err != nil:
		s.failed(ctx, err)
	case off.AtOnce || !s.Now().Before(off.At.Add(leadsOnFor)):
		s.message(ctx, http.StatusGone, takenOff)
	default:
		return true
	}
	return false
}

var takenOff = render.Notice{Title: "No longer on the page", Says: "This was taken off the page. Go back and open the page anew to see what is there now."}

// lead takes the visitor to a target.
func (s *Server) lead(ctx *fasthttp.RequestCtx, target page.Target) {
	if target.Card != nil {
		handOutCard(ctx, *target.Card)
		return
	}
	parsed, err := url.Parse(target.Address)
	if err == nil && (parsed.Scheme == "tel" || parsed.Scheme == "sms") && !isPhone(string(ctx.UserAgent())) {
		does := "Call"
		if parsed.Scheme == "sms" {
			does = "Send a text message to"
		}
		s.message(ctx, http.StatusOK, render.Notice{
			Title: target.Name, Says: does + " this number from your phone:", Told: contact.Shown(target.Address), Link: target.Address,
		})
		return
	}
	redirect(ctx, http.StatusFound, s.rerouted(target.Address))
}

func (s *Server) rerouted(destination string) string {
	if s.Reroute != nil {
		return s.Reroute(destination)
	}
	return destination
}

// isPhone tells whether a browser says that it runs on a phone. Source: MDN's
// guide to browser detection by user agent, which recommends this one mark.
func isPhone(userAgent string) bool { return strings.Contains(userAgent, "Mobi") }

func handOutCard(ctx *fasthttp.RequestCtx, card contact.Card) {
	ctx.Response.Header.Set("Content-Disposition", attachment(card.Name+".vcf"))
	ctx.SetContentType("text/vcard; charset=utf-8")
	ctx.SetBodyString(card.VCard())
}

// attachment is the header that saves an answer under a name (RFC 6266).
func attachment(name string) string {
	if value := mime.FormatMediaType("attachment", map[string]string{"filename": name}); value != "" {
		return value
	}
	return "attachment"
}
