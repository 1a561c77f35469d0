package public

import (
	"log/slog"
	"net/http"
	"net/netip"
	"net/url"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/valyala/fasthttp"
	"github.com/valyala/fasthttp/fasthttpadaptor"

	"jundle/internal/core/source"
	"jundle/internal/ingest"
	"jundle/internal/ownmark"
	"jundle/internal/render"
)

// Front answers what is counted, and hands the rest to rest, which is Rest or
// something around it.
//
// What is counted comes a thousand times for each of the others, and net/http
// would be half of its cost: hence another server.
func (s *Server) Front(rest http.Handler) fasthttp.RequestHandler {
	others := fasthttpadaptor.NewFastHTTPHandler(rest)
	return func(ctx *fasthttp.RequestCtx) {
		defer s.recovered(ctx)
		defer s.onlySecure(ctx)
		parts := strings.Split(strings.TrimPrefix(string(ctx.Path()), "/"), "/")
		if isFile(parts) && (ctx.IsGet() || ctx.IsHead()) {
			s.file(ctx, parts[1], part(parts, 2))
			complete(&ctx.Response.Header)
			return
		}
		if !countedPath(parts) {
			others(ctx)
			return
		}
		told := ctx.IsPost() && len(parts) > 2
		if !ctx.IsGet() && !ctx.IsHead() && !told {
			ctx.Response.Header.Set("Allow", "GET, HEAD")
			ctx.SetStatusCode(http.StatusMethodNotAllowed)
		} else {
			s.answer(ctx, parts)
		}
		complete(&ctx.Response.Header)
	}
}

// onlySecure tells browsers to come by https from now on, where pages are served so
// (RFC 6797).
func (s *Server) onlySecure(ctx *fasthttp.RequestCtx) {
	if s.secure {
		ctx.Response.Header.Set("Strict-Transport-Security", "max-age=31536000")
	}
}

// complete adds what every answer says, unless it is there: pages come with all
// of it.
func complete(header *fasthttp.ResponseHeader) {
	if len(header.Peek("Permissions-Policy")) > 0 {
		return
	}
	for name, values := range everyAnswer {
		if len(header.Peek(name)) == 0 {
			header.Set(name, values[0])
		}
	}
}

// answer answers what is counted by the parts of its path.
func (s *Server) answer(ctx *fasthttp.RequestCtx, parts []string) {
	found, err := s.pages.find(strings.ToLower(parts[0]))
	switch {
	case notFound(err):
		s.nothingHere(ctx)
		return
	case err != nil:
		s.failed(ctx, err)
		return
	}
	switch {
	case found.link != nil && len(parts) == 1:
		s.follow(ctx, found.link)
	case found.link != nil:
		s.nothingHere(ctx)
	case len(parts) <= 2:
		s.page(ctx, found.page, parts[0], part(parts, 1))
	case parts[1] == "-" && len(parts) >= 4:
		s.click(ctx, found.page, press{edition: parts[2], block: parts[3], tag: part(parts, 4)})
	default:
		s.nothingHere(ctx)
	}
}

// part is a part of a path, empty when it is not there.
func part(parts []string, i int) string {
	if i < len(parts) {
		return parts[i]
	}
	return ""
}

// others are first parts of paths that lead to no page and no short link, and how
// many parts such a path has; 0 for any number. None can be the address of one:
// they are reserved, or not made of what addresses are.
var others = map[string]int{"": 0, "-": 0, "favicon.ico": 0, "robots.txt": 0, "healthz": 0, "readyz": 0, "metrics": 0, "media": 2, "fonts": 2, "files": 3}

// isFile tells whether a path is that of a file.
func isFile(parts []string) bool {
	return parts[0] == "media" && len(parts) == 2 || parts[0] == "files" && len(parts) == 3 && parts[2] != ""
}

// countedPath tells whether a path may be that of something that is counted.
func countedPath(parts []string) bool {
	if of, other := others[parts[0]]; other && (of == 0 || of == len(parts)) {
		return false
	}
	return len(parts) <= 5 && (len(parts) == 1 || parts[len(parts)-1] != "")
}

// recovered keeps a fault in answering one visitor from ending the program.
func (s *Server) recovered(ctx *fasthttp.RequestCtx) {
	if fault := recover(); fault != nil {
		slog.Error("answering a visitor failed", "fault", fault, "stack", string(debug.Stack()))
		ctx.Response.Reset()
		ctx.SetStatusCode(http.StatusInternalServerError)
	}
}

// hit is what a request shows of its visitor.
func (s *Server) hit(ctx *fasthttp.RequestCtx, id, workspace uuid.UUID, book *source.Book, tag string) ingest.Hit {
	header := &ctx.Request.Header
	return ingest.Hit{
		At: s.Now().UTC().Truncate(time.Microsecond), PageID: id, Book: book, PageHost: s.host,
		Tag: tagAsGiven(tag), Query: string(ctx.URI().QueryString()), Referrer: referrerHost(string(header.Referer())), Method: string(ctx.Method()),
		Purpose: purposes(header), Client: s.clientOf(ctx), UserAgent: string(header.UserAgent()), Own: s.isOwn(string(header.Cookie(ownmark.Cookie)), workspace),
	}
}

func purposes(header *fasthttp.RequestHeader) []string {
	var purposes []string
	for _, name := range []string{"Sec-Purpose", "Purpose"} {
		for _, value := range header.PeekAll(name) {
			purposes = append(purposes, string(value))
		}
	}
	return purposes
}

// clientOf is the address of the visitor: that of the connection, or, behind
// trusted proxies, the last one in X-Forwarded-For that is none of theirs.
func (s *Server) clientOf(ctx *fasthttp.RequestCtx) string {
	client, ok := netip.AddrFromSlice(ctx.RemoteIP())
	client = client.Unmap()
	if !ok || !s.trusted(client) {
		return client.String()
	}
	var forwarded []string
	for _, line := range ctx.Request.Header.PeekAll("X-Forwarded-For") {
		forwarded = append(forwarded, strings.Split(string(line), ",")...)
	}
	for _, text := range slices.Backward(forwarded) {
		address, err := netip.ParseAddr(strings.TrimSpace(text))
		if err != nil {
			break // whatever stands before it is nobody's word
		}
		client = address.Unmap()
		if !s.trusted(client) {
			break
		}
	}
	return client.String()
}

func (s *Server) trusted(client netip.Addr) bool {
	return slices.ContainsFunc(s.TrustedProxies, func(proxies netip.Prefix) bool { return proxies.Contains(client) })
}

// tagAsGiven is what stood in the address as the tag, within reason.
func tagAsGiven(tag string) string {
	const limit = 64
	tag = strings.ToLower(strings.ToValidUTF8(tag, ""))
	if len(tag) > limit {
		tag = strings.ToValidUTF8(tag[:limit], "")
	}
	return strings.ReplaceAll(tag, "\x00", "")
}

func referrerHost(referrer string) string {
	if referrer == "" {
		return ""
	}
	parsed, err := url.Parse(referrer)
	if err != nil || len(parsed.Host) > 255 {
		return ""
	}
	host := strings.ToLower(strings.ReplaceAll(strings.ToValidUTF8(parsed.Hostname(), ""), "\x00", ""))
	if parsed.Scheme == "android-app" {
		return hostOfPackage(host)
	}
	return host
}

// hostOfPackage is the host that the name of an Android app stands for. Such names
// are hosts of their makers from behind. Source: The Java Language Specification,
// section 6.1, unique package names.
func hostOfPackage(name string) string {
	labels := strings.Split(name, ".")
	slices.Reverse(labels)
	return strings.Join(labels, ".")
}

// nothingHere answers an address that leads nowhere.
func (s *Server) nothingHere(ctx *fasthttp.RequestCtx) {
	s.message(ctx, http.StatusNotFound, nothingHere)
}

var nothingHere = render.Notice{Title: "Nothing here", Says: "This address leads nowhere. Check it for a slip of the finger."}

// failed answers when we could not do what was asked.
func (s *Server) failed(ctx *fasthttp.RequestCtx, err error) {
	slog.Error("public request failed", "error", err)
	s.message(ctx, http.StatusServiceUnavailable, notRightNow)
}

var notRightNow = render.Notice{Title: "Not right now", Says: "The page could not be loaded. Please try again in a minute."}

func (s *Server) message(ctx *fasthttp.RequestCtx, status int, notice render.Notice) {
	drawn, err := s.drawNotice(notice)
	if err != nil {
		ctx.SetStatusCode(http.StatusInternalServerError)
		return
	}
	ctx.Response.Header.Set("Cache-Control", "no-store")
	s.html(ctx, status, drawn.html, drawn.policy)
}

// drawNotice draws a notice once: whoever tries out addresses is not to be more
// work than whoever opens a page.
func (s *Server) drawNotice(notice render.Notice) (drawnHTML, error) {
	if drawn, ok := s.notices.Get(notice); ok {
		return drawn, nil
	}
	html, policy, err := render.Message(notice)
	if err == nil {
		s.notices.Add(notice, drawnHTML{html, policy})
	}
	return drawnHTML{html, policy}, err
}

func (s *Server) html(ctx *fasthttp.RequestCtx, status int, body []byte, policy string) {
	ctx.Response.Header.Set("Content-Security-Policy", policy)
	ctx.SetContentType("text/html; charset=utf-8")
	ctx.SetStatusCode(status)
	ctx.Response.SetBodyRaw(body)
}

// notStored begins an answer that is to be asked for each time: a stored one would
// freeze the destination and stop the count.
func notStored(ctx *fasthttp.RequestCtx) { pressedHeader.CopyTo(&ctx.Response.Header) }

// pressedHeader is what every answer to a press begins with, made beforehand.
var pressedHeader = func() *fasthttp.ResponseHeader {
	var header fasthttp.ResponseHeader
	header.SetNoDefaultContentType(true)
	header.Set("Cache-Control", "no-store")
	header.Set("X-Robots-Tag", "noindex, nofollow")
	complete(&header)
	return &header
}()
