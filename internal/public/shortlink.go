package public

import (
	"net/http"

	"jundle/internal/core/audience"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/traffic"
	"jundle/internal/render"
)

// follow leads the visitor where a short link leads at the moment. A network that
// fetches a preview for a post is shown the link's own, where it has one.
func (s *Server) follow(asked request, live *liveLink) answer {
	hit := s.hit(asked, live.ID, live.WorkspaceID, live.attributor, "")
	to := audience.Audience{At: hit.At}
	led, outcome := live.Link.Lead(to)
	hit.Kind, hit.Outcome, hit.Led = traffic.Click, string(outcome), led
	event := s.Recorder.Decide(hit)
	s.Recorder.Record(event)
	switch {
	case outcome == shortlink.Nowhere:
		return s.notice(http.StatusNotFound, spoken(asked.locale(), leadsNowhere[live.Link.StateFor(to)]))
	case event.Flags&traffic.Preview != 0 && live.Link.Preview.IsSet():
		return s.preview(asked, live, led.Address)
	default:
		return answer{status: live.Link.Redirect, header: s.headers.pressed, location: s.rerouted(led.Address)}
	}
}

// leadsNowhere is the ID of the words that say why a link leads nowhere.
var leadsNowhere = map[shortlink.State]string{
	shortlink.Off: "link_off", shortlink.Before: "link_before", shortlink.Over: "link_over",
}

func (s *Server) preview(asked request, live *liveLink, leads string) answer {
	body, policy, err := render.Preview(live.Link.Preview, s.linkOrigin(live), live.Address(), leads)
	if err != nil {
		return s.failed(asked.locale(), err)
	}
	return s.html(body, policy)
}
