package public

import (
	"context"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"jundle/internal/core/audience"
	"jundle/internal/core/contact"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/filehandler"
	"jundle/internal/render"
	"jundle/internal/store"
)

// press is what was pressed, as it stands in the address.
type press struct {
	edition, block, tag string
	// path is how it was asked for, and passcode what was sent at its gate.
	path, passcode string
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
		return s.notice(http.StatusNotFound, nothingHere)
	}
	hit := s.hit(asked, live.PageID, live.WorkspaceID, live.attributor, pressed.tag)
	hit.Kind, hit.Edition = traffic.Click, int(number)
	to := audience.Audience{At: hit.At, Source: live.tags[hit.Tag]}
	targets, err := s.pages.targetsOf(live, int(number), to)
	if err != nil {
		return s.missing(err)
	}
	key, item, _ := strings.Cut(pressed.block, ".")
	target, found := targets.Find(key, item)
	if !found || asked.isBeacon() && !target.Plain && target.Gate == nil {
		return s.notice(http.StatusNotFound, nothingHere)
	}
	place := target.Place
	// A tab opened before the last publishing shows an older edition. Where its
	// block is still on the page, it leads to where the block leads now.
	present := targets
	if int(number) != live.Edition {
		if present, err = s.pages.targetsOf(live, live.Edition, to); err != nil {
			return s.failed(err)
		}
	}
	if now, ok := present.Find(key, item); ok {
		target = now
	} else if off, err := s.pages.takenOff(live, key, item); err != nil {
		return s.failed(err)
	} else if !s.leadsOn(off) {
		return s.notice(http.StatusGone, takenOff)
	}
	if target.Off {
		return s.notice(http.StatusGone, offNow)
	}
	if target.Gate != nil {
		at := s.gateOf(live, target.Gate, key, target.Name)
		switch {
		case asked.isBeacon():
			if refused, opens := s.opens(context.Background(), asked, at, pressed.passcode); !opens {
				return refused
			}
			return s.through(asked, at, pressed.path)
		case !s.passed(asked, at):
			return s.stand(http.StatusOK, at, "")
		}
	}
	hit.Block, hit.Item, hit.Place = key, item, place
	event := s.Recorder.Decide(hit)
	s.Recorder.Record(event)
	if asked.isBeacon() {
		return answer{status: http.StatusNoContent, header: s.headers.common}
	}
	from, _ := live.attributor.Find(event.Source)
	target.Address = live.Document.Tagging.Tag(target.Address, from.Tag, from.Medium, key)
	return s.lead(asked, target.Target)
}

// leadsOn tells whether something that was taken off the page still leads to where
// it led.
func (s *Server) leadsOn(off store.TakenOff) bool {
	return !off.Immediate && s.Now().Before(off.At.Add(page.LeadsOn))
}

var takenOff = render.Notice{
	Title: "No longer on the page",
	Text:  "This was taken off the page. Go back and open the page anew to see what is there now.",
}

var offNow = render.Notice{
	Title: "Not on the page now",
	Text:  "This shows on the page at certain times, and now is none of them. Go back and open the page anew to see what is there.",
}

// lead takes the visitor to a target.
func (s *Server) lead(asked request, target page.Target) answer {
	if target.Card != nil {
		return s.card(*target.Card)
	}
	parsed, err := url.Parse(target.Address)
	if err == nil && (parsed.Scheme == "tel" || parsed.Scheme == "sms") && !isPhone(asked.userAgent) {
		does := "Call"
		if parsed.Scheme == "sms" {
			does = "Send a text message to"
		}
		return s.notice(http.StatusOK, render.Notice{
			Title: target.Name, Text: does + " this number from your phone:", Value: contact.Shown(target.Address), Link: target.Address,
		})
	}
	return answer{status: http.StatusFound, header: s.headers.pressed, location: s.rerouted(target.Address)}
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

// card answers with a contact card to be saved (RFC 6350).
func (s *Server) card(card contact.Card) answer {
	return answer{status: http.StatusOK, header: with(s.headers.pressed, map[string]string{
		"Content-Disposition": filehandler.Attachment(card.Name + ".vcf"), "Content-Type": "text/vcard; charset=utf-8",
	}), body: []byte(card.VCard())}
}
