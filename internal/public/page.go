package public

import (
	"net/http"

	"jundle/internal/core/audience"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/ingest"
)

// page answers /{page} and /{page}/{tag}, for an address as it was asked for.
func (s *Server) page(asked request, live *livePage, name, given string) answer {
	tag := tagAsGiven(given)
	switch {
	case s.isElsewhere(asked, live):
		return s.ledOn(asked, live, tag)
	case name != live.Address:
		return s.moved(asked, live, tag)
	}
	hit := s.hit(asked, live.PageID, live.WorkspaceID, live.attributor, given)
	hit.Kind, hit.Edition = traffic.View, live.Edition
	language := live.languageOf(asked, chosenIn(asked.query))
	if gate := live.Document.Gate; gate != nil && live.Document.IsOpen(hit.At) {
		if at := s.gateOf(asked, live, gate, "", live.Document.Header.Name); !s.passed(asked, at) {
			return s.stand(http.StatusOK, at, "") // whoever stands there has not seen the page
		}
	}
	event := s.Recorder.Decide(hit)
	if from, known := live.attributor.Find(event.Source); known && live.tags[tag] == "" {
		// However it was found out where the visit came from: what is pressed on the
		// page carries it on.
		tag = from.Tag
	}
	if straight := live.Document.PassThrough(audience.Audience{At: hit.At, Source: live.tags[tag]}); straight != nil {
		return s.passThrough(asked, live, hit, straight)
	}
	drawn, err := s.drawn(live, drawingKey{
		live.serial, tag, live.variantOf(event, hit.At), language, s.letsCodes(asked, live, hit),
	}, hit.At)
	if err != nil {
		return s.failed(live.locale(), err)
	}
	s.Recorder.Note(event)
	if find := findIn(asked.query); find != "" {
		if found, ok := s.found(live, tag, language, find, hit.At); ok {
			return found
		}
	}
	switch {
	case drawn.etag != "" && asked.has == drawn.etag:
		return drawn.unchanged
	case asked.gzip:
		return drawn.compressed
	default:
		return drawn.uncompressed
	}
}

// passThrough sends the visitor straight on while the page's address leads elsewhere. It
// is a visit of the page, and a press.
func (s *Server) passThrough(asked request, live *livePage, hit ingest.Hit, to *page.PassThrough) answer {
	view := s.Recorder.Decide(hit)
	s.Recorder.Note(view)
	hit.Kind, hit.Block = traffic.Click, page.PassThroughKey
	hit.Led = ledTo(page.Target{DestinationID: to.DestinationID, Address: to.Address})
	s.Recorder.Record(s.Recorder.Decide(hit))
	from, _ := live.attributor.Find(view.Source)
	as := entry{live, from.Tag, live.reads(asked, chosenIn(asked.query))}
	return s.lead(asked, as, page.Target{Address: live.Document.Tagging.Tag(to.Address, from.Tag, from.Medium, page.PassThroughKey)})
}

// moved sends a past address, or one in capitals, to the present one for good
// (RFC 9110 s15.4.9). The visit is counted where it arrives.
func (s *Server) moved(asked request, live *livePage, tag string) answer {
	path := "/" + live.Address
	if live.tags[tag] != "" {
		path += "/" + tag
	}
	if asked.query != "" {
		path += "?" + asked.query // campaign tags are counted where the visit arrives
	}
	return answer{status: http.StatusPermanentRedirect, header: s.headers.moved, location: path}
}

// letsCodes tells whether tracking codes run on a page for whoever asks: on the host that all pages
// share only where that is let, and never for its own members, nor where the browser asks that
// nothing is shared.
func (s *Server) letsCodes(asked request, live *livePage, hit ingest.Hit) bool {
	return (s.TrackingCodes || asked.host != nil) && live.runsCodes && !hit.Own && !asked.unsold
}
