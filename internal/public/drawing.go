package public

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"strconv"

	"github.com/valyala/fasthttp"

	"jundle/internal/render"
)

// drawing is a page drawn for one tag, ready to be sent.
type drawing struct {
	plain, packed []byte
	etag          string
	// header and packedHeader are those of the page, and of its packed form, whole.
	header, packedHeader fasthttp.ResponseHeader
}

// drawingKey names a drawing of a page as it was read once.
type drawingKey struct {
	serial uint64
	tag    string
}

// fill sets what is said of a page in every answer with it.
func (d *drawing) fill(header *fasthttp.ResponseHeader, policy string, packed bool) {
	// Asking again each time keeps the page fresh and the count whole.
	header.Set("Cache-Control", "private, no-cache")
	header.Set("ETag", d.etag)
	header.Set("Vary", "Accept-Encoding")
	header.Set("Content-Security-Policy", policy)
	header.SetContentType("text/html; charset=utf-8")
	if packed {
		header.SetContentEncoding("gzip")
	}
	complete(header)
}

// drawn returns a page as it is drawn for a tag. A tag that is none of the page's
// is drawn as if there were none, so that nobody can fill the memory with made-up
// ones.
func (s *Server) drawn(live *livePage, tag string) (*drawing, error) {
	if !live.tags[tag] {
		tag = ""
	}
	key := drawingKey{live.serial, tag}
	if ready, ok := s.drawings.get(key); ok {
		return ready, nil
	}
	made, err, _ := s.drawingNow.Do(strconv.FormatUint(live.serial, 10)+" "+tag, func() (any, error) {
		ready, err := live.draw(s.Origin, tag)
		if err == nil {
			s.drawings.add(key, ready, weightOfEntry+len(ready.plain)+len(ready.packed))
		}
		return ready, err
	})
	return made.(*drawing), err
}

func (p *livePage) draw(origin, tag string) (*drawing, error) {
	plain, policy, err := render.Page(p.Document, render.Visit{Origin: origin, Address: p.Address, Edition: p.Edition, Tag: tag})
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
	sum := sha256.Sum256(plain)
	ready := &drawing{plain: plain, packed: packed.Bytes(), etag: `"` + hex.EncodeToString(sum[:12]) + `"`}
	ready.fill(&ready.header, policy, false)
	ready.fill(&ready.packedHeader, policy, true)
	return ready, nil
}
