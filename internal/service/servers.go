package service

import (
	"context"
	"log/slog"
	"net"
	"net/http"
	"time"

	"github.com/valyala/fasthttp"
)

// server is what serves a listener: net/http, or fasthttp for what visitors
// touch.
type server interface {
	Serve(net.Listener) error
	// Shutdown takes no more requests and returns when those under way are answered
	// or ctx ends.
	Shutdown(ctx context.Context) error
}

func newServer(part string, handler http.Handler) server {
	return &http.Server{
		Handler: logged(part, handler), ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
	}
}

// visitorServer serves visitors.
type visitorServer struct{ *fasthttp.Server }

func newVisitorServer(handler fasthttp.RequestHandler) server {
	return visitorServer{&fasthttp.Server{
		Handler: loggedVisits(handler), ReadTimeout: 30 * time.Second, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute,
		// A whole page goes out in one write. Visitors send nothing but what a browser
		// says of itself.
		WriteBufferSize: 32 << 10, ReadBufferSize: 32 << 10, MaxRequestBodySize: 64 << 10,
		NoDefaultServerHeader: true, NoDefaultContentType: true, CloseOnShutdown: true, Logger: quiet{},
	}}
}

// Shutdown implements server.
func (s visitorServer) Shutdown(ctx context.Context) error { return s.ShutdownWithContext(ctx) }

// quiet leaves out what fasthttp has to say: it is of connections that broke off,
// and names visitors' addresses.
type quiet struct{}

// Printf implements fasthttp.Logger.
func (quiet) Printf(string, ...any) {}

// loggedVisits is logged for visitors.
func loggedVisits(next fasthttp.RequestHandler) fasthttp.RequestHandler {
	return func(ctx *fasthttp.RequestCtx) {
		if !slog.Default().Enabled(ctx, slog.LevelDebug) {
			next(ctx)
			return
		}
		next(ctx)
		slog.Debug("request", "part", "public", "method", string(ctx.Method()), "path", loggedPath(string(ctx.Path())), "status", ctx.Response.StatusCode(), "ms", time.Since(ctx.Time()).Milliseconds())
	}
}
