package public

import (
	"net/http"

	"jundle/internal/core/audience"
	"jundle/internal/core/traffic"
	"jundle/internal/ingest"
)

// scrolled takes in how far a visit got, as the script of a page that measures it tells: the key of the furthest block
// down that was on screen. Nothing joins it to the visit. Of those who ask not to be watched (Global Privacy Control, W3C)
// nothing is kept.
func (s *Server) scrolled(asked request, live *livePage, hit ingest.Hit, block string) answer {
	done := answer{status: http.StatusNoContent, header: s.headers.common}
	if !live.Document.Scrolls || asked.unsold {
		return done
	}
	targets, err := s.pages.targetsOf(live, hit.Edition, audience.Audience{At: hit.At, Source: live.tags[hit.Tag]})
	if err != nil {
		return s.missing(live.locale(), err)
	}
	if placed, found := targets[block]; !found || len(placed) == 0 {
		return s.notFound(live.locale())
	}
	hit.Kind, hit.Block = traffic.Scroll, block
	if event := s.Recorder.Decide(hit); event.Flags == 0 {
		s.Recorder.Note(event)
	}
	return done
}
