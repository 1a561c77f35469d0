package public

import (
	"context"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"jundle/internal/calendar"
	"jundle/internal/core/audience"
	"jundle/internal/core/contact"
	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/filehandler"
	"jundle/internal/render"
	"jundle/internal/store"
)

// press is what was pressed, as it stands in the address.
type press struct {
	edition, block, tag string
	// path is how it was asked for, and form what was sent there.
	path string
	form url.Values
}

// click answers /{page}/-/{edition}/{block} and the same with a tag: it sends
// the visitor on to where the block leads, or hands out what it holds. Where a
// block has several targets, the one pressed stands behind a point.
//
// A post is what a browser tells of a click on a plain address, by ping (HTML,
// hyperlink auditing) or beacon (W3C): it is counted, and there is nothing to say.
func (s *Server) click(asked request, live *livePage, pressed press) answer {
	number, err := strconv.ParseInt(pressed.edition, 10, 32)
	if err != nil {
		return s.notFound(live.locale())
	}
	hit := s.hit(asked, live.PageID, live.WorkspaceID, live.attributor, pressed.tag)
	hit.Kind, hit.Edition = traffic.Click, int(number)
	if pressed.block == render.ScrollKey && asked.isBeacon() {
		return s.scrolled(asked, live, hit, pressed.form.Get("block"))
	}
	to := audience.Audience{At: hit.At, Source: live.tags[hit.Tag]}
	targets, err := s.pages.targetsOf(live, int(number), to)
	if err != nil {
		return s.missing(live.locale(), err)
	}
	from := entry{live, hit.Tag, live.reads(asked, chosenIn(asked.query))}
	key, item, _ := strings.Cut(pressed.block, ".")
	target, found := targets.Find(key, item)
	if !found || !answers(target.Target, asked) {
		return s.notFound(live.locale())
	}
	place, leads := target.Place, target.Target
	// A tab opened before the last publishing shows an older edition. Where its
	// block is still on the page, it leads to where the block leads now.
	present := targets
	if int(number) != live.Edition {
		if present, err = s.pages.targetsOf(live, live.Edition, to); err != nil {
			return s.failed(live.locale(), err)
		}
	}
	if now, ok := present.Find(key, item); ok {
		target = now
		if !asked.isBeacon() { // else the browser went to the address that its page had
			leads = now.Target
		}
	} else if off, err := s.pages.takenOff(live, key, item); err != nil {
		return s.failed(live.locale(), err)
	} else if !s.leadsOn(off) {
		return s.notice(http.StatusGone, from.spoken("off_page"))
	}
	if target.Off {
		return s.notice(http.StatusGone, from.spoken("off_now"))
	}
	if target.Gate != nil {
		at := s.gateOf(asked, live, target.Gate, key, target.Name)
		switch {
		case target.Book != nil && s.passed(asked, at): // its form is sent with the mark
		case asked.isBeacon():
			if refused, opens := s.opens(context.Background(), asked, at, passcodeIn(pressed.form)); !opens {
				return refused
			}
			return s.through(asked, at, pressed.path)
		case !s.passed(asked, at):
			return s.stand(http.StatusOK, at, "")
		}
	}
	hit.Block, hit.Item, hit.Place = key, item, place
	hit.Led = ledTo(leads)
	if target.SignUp != nil {
		return s.askedToSignUp(asked, live, hit, target.SignUp, pressed)
	}
	if target.Pay != nil {
		return s.askedToPay(asked, live, hit, target.Pay, pressed)
	}
	if target.Book != nil {
		return s.askedForTime(asked, live, hit, target.Target, pressed)
	}
	event := s.Recorder.Decide(hit)
	s.Recorder.Record(event)
	if asked.isBeacon() {
		return answer{status: http.StatusNoContent, header: s.headers.common}
	}
	known, _ := live.attributor.Find(event.Source)
	if target.Calendar != nil {
		return s.calendar(target.Target, live, hit.At)
	}
	target.Address = live.Document.Tagging.Tag(target.Address, known.Tag, known.Medium, key)
	return s.lead(asked, from, target.Target)
}

// ledTo is the destination that a target leads to, if any.
func ledTo(target page.Target) destination.Target {
	if target.DestinationID == "" {
		return destination.Target{}
	}
	return destination.Target{ID: target.DestinationID, Address: target.Address}
}

// answers tells whether something is pressed in the way a request came: what is told only is
// told by a post, and what only leads somewhere is asked for.
func answers(target page.Target, asked request) bool {
	if asked.isBeacon() {
		return target.Plain || target.Told || target.Frame != "" || target.Gate != nil || target.SignUp != nil || target.Pay != nil ||
			target.Book != nil
	}
	return !target.Told
}

// leadsOn tells whether something that was taken off the page still leads to where
// it led.
func (s *Server) leadsOn(off store.TakenOff) bool {
	return !off.Immediate && s.Now().Before(off.At.Add(page.LeadsOn))
}

// lead takes the visitor to a target.
func (s *Server) lead(asked request, from entry, target page.Target) answer {
	if target.Card != nil {
		return s.card(*target.Card)
	}
	in := from.locale()
	if target.Venue != nil {
		return s.notice(http.StatusOK, render.Notice{
			Language: in.Tag(), Title: target.Name, Text: in.Say("directions_text"), Value: target.Venue.Point.Shown(),
			Link: target.Venue.Point.URI(), Back: from.back(),
		})
	}
	parsed, err := url.Parse(target.Address)
	if err == nil && (parsed.Scheme == "tel" || parsed.Scheme == "sms") && !isPhone(asked.userAgent) {
		does := "call"
		if parsed.Scheme == "sms" {
			does = "text_message"
		}
		return s.notice(http.StatusOK, render.Notice{
			Language: in.Tag(), Title: target.Name, Text: in.Say(does), Value: contact.Shown(target.Address), Link: target.Address,
			Back: from.back(),
		})
	}
	return answer{status: http.StatusFound, header: s.headers.pressed, location: s.leadsTo(target.Address)}
}

// leadsTo is where a browser is sent for an address: a file is named by a key, so that nobody else names it.
func (s *Server) leadsTo(address string) string {
	if strings.HasPrefix(address, "/") {
		return filehandler.WithKey(s.OwnKey, address)
	}
	return s.rerouted(address)
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

// calendar answers with dates to be taken into a calendar (RFC 5545).
func (s *Server) calendar(of page.Target, live *livePage, at time.Time) answer {
	return answer{status: http.StatusOK, header: with(s.headers.pressed, map[string]string{
		"Content-Disposition": filehandler.Attachment(of.Name + ".ics"), "Content-Type": "text/calendar; charset=utf-8",
	}), body: []byte(calendar.Write(of.Calendar, s.host, live.Address, at))}
}

// card answers with a contact card to be saved (RFC 6350).
func (s *Server) card(card contact.Card) answer {
	return answer{status: http.StatusOK, header: with(s.headers.pressed, map[string]string{
		"Content-Disposition": filehandler.Attachment(card.Name + ".vcf"), "Content-Type": "text/vcard; charset=utf-8",
	}), body: []byte(card.VCard())}
}
