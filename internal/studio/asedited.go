package studio

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/pages"
	"jundle/internal/store"
)

// liveAfter is how long a saved change waits for others to be one edition with. It is
// live within two seconds.
const liveAfter = 1200 * time.Millisecond

// goingLive lets saved changes go live after a moment, each page once at a time. What it
// does not come to, because the process ends, a chore does.
type goingLive struct {
	pages   pages.Pages
	mu      sync.Mutex
	waiting map[uuid.UUID]bool
}

// soon lets a page go live in a moment, unless it will already.
func (g *goingLive) soon(workspace, id uuid.UUID) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.waiting[id] {
		return
	}
	g.waiting[id] = true
	time.AfterFunc(liveAfter, func() { g.now(workspace, id) })
}

func (g *goingLive) now(workspace, id uuid.UUID) {
	g.mu.Lock()
	delete(g.waiting, id)
	g.mu.Unlock()
	ctx, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	var full *store.QuotaError
	_, err := g.pages.GoLive(ctx, workspace, id)
	if err != nil && !errors.As(err, &full) && !errors.Is(err, store.ErrNotFound) {
		slog.Error("a page that goes live as it is edited did not", "page", id, "error", err)
	}
}

func (s *Server) addAsEdited() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "set-as-edited", Method: http.MethodPut, Path: "/api/pages/{page}/as-edited",
		Summary: "Let each saved change go live by itself within two seconds, or no longer",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body struct {
			On bool `json:"on"`
		}
	},
	) (*pageOutput, error) {
		changed, err := s.pages.SetAsEdited(ctx, memberOf(ctx), in.Page, in.Body.On)
		return s.pageOutput(ctx, changed, err)
	})
}
