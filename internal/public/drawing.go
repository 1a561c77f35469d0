package public

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"jundle/internal/compress"
	"jundle/internal/core/audience"
	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/trial"
	"jundle/internal/render"
	"jundle/internal/store"
)

// drawing is a page drawn for one tag, in every form it is answered in, for as long as
// it looks like that.
type drawing struct {
	validity
	etag                                string
	uncompressed, compressed, unchanged answer
}

// drawingKey names a drawing of a page as it was read once.
type drawingKey struct {
	serial  uint64
	tag     string
	variant int // of the trial that runs
	// language is the one it is drawn in; empty for the page's own.
	language string
	// codes: its tracking codes run.
	codes bool
}

// varies says by which fields of a request the answer differs (RFC 9110 s12.5.5).
func varies(common http.Header) string {
	if more := common.Get("Vary"); more != "" {
		return "Accept-Encoding, " + more
	}
	return "Accept-Encoding"
}

// newDrawing makes the answers with a page beforehand.
func newDrawing(common http.Header, plain, packed []byte, policy string) *drawing {
	sum := sha256.Sum256(plain)
	etag := `"` + hex.EncodeToString(sum[:12]) + `"`
	// Asking again each time keeps the page fresh and the count whole.
	header := with(common, map[string]string{
		"Cache-Control": "private, no-cache", "ETag": etag, "Vary": varies(common), "Content-Security-Policy": policy,
	})
	whole := func(body []byte, more map[string]string) answer {
		more["Content-Type"], more["Content-Length"] = "text/html; charset=utf-8", strconv.Itoa(len(body))
		return answer{status: http.StatusOK, header: with(header, more), body: body}
	}
	return &drawing{
		etag: etag, uncompressed: whole(plain, map[string]string{}), compressed: whole(packed, map[string]string{"Content-Encoding": "gzip"}),
		unchanged: answer{status: http.StatusNotModified, header: header},
	}
}

// drawn returns a page as it is drawn at a moment for a tag, which stands for its
// source, in a language. A tag that is none of the page's is drawn as if there were none, so that
// nobody can fill the memory with made-up ones.
func (s *Server) drawn(live *livePage, key drawingKey, at time.Time) (*drawing, error) {
	if live.tags[key.tag] == "" {
		key.tag = ""
	}
	if ready, ok := s.drawings.get(key); ok && ready.holds(at) {
		return ready, nil
	}
	made, err, _ := s.drawingNow.Do(fmt.Sprint(key), func() (any, error) {
		ctx, cancel := context.WithTimeout(context.Background(), readWithin)
		defer cancel()
		done, err := s.drawTurns.Take(ctx, live.PageID)
		if err != nil {
			return (*drawing)(nil), fmt.Errorf("wait for a turn to draw a page: %w", err)
		}
		defer done()
		ready, err := s.draw(live, key, at)
		if err == nil {
			ready.validity = validAt(at, live.Document.Next)
			s.drawings.add(key, ready, weightOfEntry+len(ready.uncompressed.body)+len(ready.compressed.body))
		}
		return ready, err
	})
	return made.(*drawing), err
}

// base is a page drawn for all tags that are shown the same, with tagPlace where the tag is to stand.
type base struct {
	validity
	html   []byte
	policy string
}

// baseKey names it; source is one that the page's rules name.
type baseKey struct {
	drawingKey
	source string
}

// baseOf draws a page once for all tags: there may be a hundred, and each in nine languages.
func (s *Server) baseOf(live *livePage, key drawingKey, at time.Time) (base, error) {
	named := baseKey{key, ""}
	if from := live.tags[key.tag]; live.tellsApart[from] {
		named.source = from
	}
	if named.tag != "" {
		named.tag = s.tagPlace
	}
	if held, ok := s.bases.get(named); ok && held.holds(at) {
		return held, nil
	}
	html, policy, err := render.Page(live.Document.InVariant(key.variant, at), render.Visit{
		To: audience.Audience{At: at, Source: live.tags[key.tag]}, Origin: s.origin(live), Address: live.Address, Front: live.inFront(),
		Edition: live.Edition, Tag: named.tag, Language: key.language, Codes: key.codes, Pays: live.pays, Reroute: s.Reroute,
	})
	if err != nil {
		return base{}, err
	}
	drawn := base{validAt(at, live.Document.Next), html, policy}
	s.bases.add(named, drawn, weightOfEntry+len(html))
	return drawn, nil
}

// variantOf is the variant that a visitor is shown of the trial that runs; 0 where none does.
func (p *livePage) variantOf(event store.Event, at time.Time) int {
	if !p.Document.Trial.Holds(at) {
		return 0
	}
	shown := p.Document.Trial.Shown()
	return trial.Share(shown.ID, event.Visitor[:], shown.Variants)
}

func (s *Server) draw(p *livePage, key drawingKey, at time.Time) (*drawing, error) {
	common := s.headers.common
	if !p.Document.IsOpen(at) {
		return drawClosed(common, p.Document.In(key.language), at, s.AbuseLink)
	}
	drawn, err := s.baseOf(p, key, at)
	if err != nil {
		return nil, err
	}
	plain := bytes.ReplaceAll(drawn.html, []byte(s.tagPlace), []byte(key.tag))
	packed, err := compress.Gzip(plain)
	if p.offered != nil {
		common = with(common, map[string]string{"Content-Language": cmp.Or(key.language, p.Document.Language), "Vary": "Accept-Language"})
	}
	if p.runsCodes {
		common = with(common, map[string]string{"Vary": strings.TrimPrefix(common.Get("Vary")+", Sec-GPC", ", ")})
	}
	if p.Document.Sharing.Unlisted {
		common = with(common, map[string]string{"X-Robots-Tag": "noindex"})
	}
	return newDrawing(common, plain, packed, drawn.policy), err
}

// drawClosed draws what stands in place of a page that rests, or outside its times. It is
// no page that could be kept: it has no tag to ask by, and says when to come back where
// that is known (RFC 9110 s15.6.4).
func drawClosed(common http.Header, document page.Document, at time.Time, report string) (*drawing, error) {
	in := locale.Of(document.Language)
	notice := render.Notice{Language: in.Tag(), Title: document.Header.Name, Text: in.Say("not_open"), Report: report}
	header := with(common, map[string]string{"Cache-Control": "no-store", "Content-Type": "text/html; charset=utf-8"})
	if document.Resting != nil {
		notice.Text = cmp.Or(document.Resting.Notice, in.Say("resting"))
	} else if back := document.When.Next(at); !back.IsZero() {
		notice.Text = in.Say("opens_on", "When", fmt.Sprintf("%s (%s)", in.Moment(document.When.In(back)), document.When.Zone))
		header.Set("Retry-After", back.UTC().Format(http.TimeFormat))
	}
	plain, policy, err := render.Message(notice)
	if err != nil {
		return nil, err
	}
	header.Set("Content-Security-Policy", policy)
	closed := answer{status: http.StatusServiceUnavailable, header: header, body: plain}
	return &drawing{uncompressed: closed, compressed: closed}, nil
}
