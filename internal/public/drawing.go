package public

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"net/http"
	"strconv"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/render"
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
	serial uint64
	tag    string
}

// newDrawing makes the answers with a page beforehand.
func newDrawing(common http.Header, plain, packed []byte, policy string) *drawing {
	sum := sha256.Sum256(plain)
	etag := `"` + hex.EncodeToString(sum[:12]) + `"`
	// Asking again each time keeps the page fresh and the count whole.
	header := with(common, map[string]string{
		"Cache-Control": "private, no-cache", "ETag": etag, "Vary": "Accept-Encoding", "Content-Security-Policy": policy,
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
// source. A tag that is none of the page's
// is drawn as if there were none, so that nobody can fill the memory with made-up
// ones.
func (s *Server) drawn(live *livePage, tag string, at time.Time) (*drawing, error) {
	if live.tags[tag] == "" {
		tag = ""
	}
	key := drawingKey{live.serial, tag}
	if ready, ok := s.drawings.get(key); ok && ready.holds(at) {
		return ready, nil
	}
	made, err, _ := s.drawingNow.Do(strconv.FormatUint(live.serial, 10)+" "+tag, func() (any, error) {
		ready, err := live.draw(s.headers.common, render.Visit{
			To: audience.Audience{At: at, Source: live.tags[tag]}, Origin: s.Origin, Address: live.Address, Edition: live.Edition, Tag: tag,
		})
		if err == nil {
			ready.validity = validAt(at, live.Document.Next)
			s.drawings.add(key, ready, weightOfEntry+len(ready.uncompressed.body)+len(ready.compressed.body))
		}
		return ready, err
	})
	return made.(*drawing), err
}

func (p *livePage) draw(common http.Header, visit render.Visit) (*drawing, error) {
	plain, policy, err := render.Page(p.Document, visit)
	if err != nil {
		return nil, err
	}
	var packed bytes.Buffer
	writer, err := gzip.NewWriterLevel(&packed, gzip.BestCompression)
	if err != nil {
		return nil, err
	}
	if _, err := writer.Write(plain); err != nil {
		return nil, err
	}
	if err := writer.Close(); err != nil {
		return nil, err
	}
	return newDrawing(common, plain, packed.Bytes(), policy), nil
}
