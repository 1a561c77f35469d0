package public

import (
	"log/slog"
	"maps"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"jundle/internal/core/locale"
	"jundle/internal/render"
)

// answer is what a visitor is answered. Its headers may be shared between answers:
// they are copied, and never changed.
type answer struct {
	status   int
	header   http.Header
	location string // where to, for a redirect
	body     []byte
}

// write sends the answer.
func (a answer) write(c *gin.Context) {
	header := c.Writer.Header()
	maps.Copy(header, a.header)
	if a.location != "" {
		header["Location"] = []string{a.location}
	}
	c.Status(a.status)
	if len(a.body) > 0 {
		_, _ = c.Writer.Write(a.body) // a visitor who has left is nobody's fault
		return
	}
	c.Writer.WriteHeaderNow()
}

// headers are those that answers begin with, made beforehand.
type headers struct {
	// common are in every answer.
	common http.Header
	// moved are those of a page that has another address by now. No browser is to keep
	// the answer: a kept one would lead in a circle once the address is changed back.
	moved http.Header
	// pressed are those of an answer to a press. A kept one would freeze where it
	// leads, and stop the count.
	pressed http.Header
}

func newHeaders() headers {
	common := http.Header{
		"Content-Security-Policy":    {"default-src 'none'; frame-ancestors 'none'"},
		"X-Content-Type-Options":     {"nosniff"},
		"Referrer-Policy":            {"strict-origin-when-cross-origin"},
		"Cross-Origin-Opener-Policy": {"same-origin"},
		"Permissions-Policy":         {"camera=(), geolocation=(), microphone=(), browsing-topics=()"},
	}
	moved := with(common, map[string]string{"Cache-Control": "no-store"})
	return headers{common, moved, with(moved, map[string]string{"X-Robots-Tag": "noindex, nofollow"})}
}

// with is a header with more of it. It is for what is made beforehand.
func with(header http.Header, more map[string]string) http.Header {
	header = maps.Clone(header)
	for name, value := range more {
		header.Set(name, value)
	}
	return header
}

// spoken is a notice in a language: its heading stands under an ID of words, its sentence
// under the same with _text.
func spoken(in *locale.Locale, id string) render.Notice {
	return render.Notice{Language: in.Tag(), Title: in.Say(id), Text: in.Say(id + "_text")}
}

// failed answers when we could not do what was asked.
func (s *Server) failed(in *locale.Locale, err error) answer {
	slog.Error("public request failed", "error", err)
	return s.notice(http.StatusServiceUnavailable, spoken(in, "not_right_now"))
}

// missing answers an address that leads nowhere, or a failure to find out.
func (s *Server) missing(in *locale.Locale, err error) answer {
	if notFound(err) {
		return s.notFound(in)
	}
	return s.failed(in, err)
}

// notFound answers an address that leads nowhere.
func (s *Server) notFound(in *locale.Locale) answer {
	return s.notice(http.StatusNotFound, spoken(in, "nothing_here"))
}

// notice answers with a notice. It is drawn once: whoever tries out addresses is not
// to be more work than whoever opens a page.
func (s *Server) notice(status int, notice render.Notice) answer {
	notice.Report = s.AbuseLink
	drawn, ok := s.notices.Get(notice)
	if !ok {
		html, policy, err := render.Message(notice)
		if err != nil {
			slog.Error("draw a notice", "title", notice.Title, "error", err)
			return answer{status: http.StatusInternalServerError, header: s.headers.common}
		}
		drawn = s.html(html, policy)
		s.notices.Add(notice, drawn)
	}
	drawn.status = status
	return drawn
}

// html answers with HTML that is asked for each time.
func (s *Server) html(html []byte, policy string) answer {
	return answer{http.StatusOK, with(s.headers.common, map[string]string{
		"Cache-Control": "no-store", "Content-Security-Policy": policy, "Content-Type": "text/html; charset=utf-8",
		"Content-Length": strconv.Itoa(len(html)),
	}), "", html}
}
