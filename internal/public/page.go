package public

import (
	"bytes"
	"net/http"

	"github.com/valyala/fasthttp"

	"jundle/internal/core/traffic"
)

// page answers /{page} and /{page}/{tag}, for an address as it was asked for.
func (s *Server) page(ctx *fasthttp.RequestCtx, live *livePage, asked, given string) {
	tag := tagAsGiven(given)
	if asked != live.Address {
		s.moved(ctx, live, tag)
		return
	}
	hit := s.hit(ctx, live.PageID, live.WorkspaceID, live.book, given)
	hit.Kind, hit.Edition = traffic.View, live.Edition
	event := s.Recorder.Decide(hit)
	if from, known := live.book.Find(event.Source); known && !live.tags[tag] {
		// However it was found out where the visit came from: what is pressed on the
		// page carries it on.
		tag = from.Tag
	}
	drawn, err := s.drawn(live, tag)
	if err != nil {
		s.failed(ctx, err)
		return
	}
	s.Recorder.Note(event)

	body, header := drawn.plain, &drawn.header
	if bytes.Contains(ctx.Request.Header.Peek("Accept-Encoding"), []byte("gzip")) {
		body, header = drawn.packed, &drawn.packedHeader
	}
	header.CopyTo(&ctx.Response.Header)
	if string(ctx.Request.Header.Peek("If-None-Match")) == drawn.etag {
		ctx.SetStatusCode(http.StatusNotModified)
		return
	}
	ctx.Response.SetBodyRaw(body)
}

// moved sends a past address, or one in capitals, to the present one for good
// (RFC 9110 s15.4.9). The visit is counted where it arrives.
func (s *Server) moved(ctx *fasthttp.RequestCtx, live *livePage, tag string) {
	path := "/" + live.Address
	if live.tags[tag] {
		path += "/" + tag
	}
	if query := ctx.URI().QueryString(); len(query) > 0 {
		path += "?" + string(query) // campaign tags are counted where the visit arrives
	}
	redirect(ctx, http.StatusPermanentRedirect, path)
}

// redirect sends the visitor to an address as it stands, in full or of this host.
func redirect(ctx *fasthttp.RequestCtx, status int, address string) {
	ctx.Response.Header.Set("Location", address)
	ctx.SetStatusCode(status)
}
