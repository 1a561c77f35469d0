package studio

import (
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/google/uuid"

	"jundle/internal/livefigures"
)

const (
	// toldAtMost is how often a follower is told of new figures at most.
	toldAtMost = 700 * time.Millisecond
	// stillThere is how often a follower hears that the line holds, so that no proxy takes it
	// for dead.
	stillThere = 20 * time.Second
	// followedFor is for how long a follower is told; then they ask again, as who they are by then.
	followedFor = 15 * time.Minute
	// followedAtOnce is how many a member may follow at once: views in tabs of their browsers.
	followedAtOnce = 12
)

// memberTurns bounds what a member may do at once.
type memberTurns struct {
	most     int
	mu       sync.Mutex
	byMember map[uuid.UUID]int
}

func newMemberTurns(most int) *memberTurns {
	return &memberTurns{most: most, byMember: make(map[uuid.UUID]int)}
}

// take takes one of the turns of a member, and reports false when there is none.
func (t *memberTurns) take(member uuid.UUID) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.byMember[member] >= t.most {
		return false
	}
	t.byMember[member]++
	return true
}

// give gives it back.
func (t *memberTurns) give(member uuid.UUID) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.byMember[member]--; t.byMember[member] == 0 {
		delete(t.byMember, member)
	}
}

func (s *Server) addLive() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "follow-figures", Method: http.MethodGet, Path: "/api/pages/{page}/live",
		Summary: "Hear of new figures of a page, as server-sent events",
		Description: "An event named figures whenever there are new ones, every 0.7 s at most (WHATWG HTML, Server-sent events). " +
			"The line is closed after a quarter of an hour.",
		Responses: map[string]*huma.Response{"200": {
			Description: "A stream that goes on.",
			Content:     map[string]*huma.MediaType{"text/event-stream": {Schema: &huma.Schema{Type: "string"}}},
		}},
	}), func(ctx context.Context, in *PagePath) (*huma.StreamResponse, error) {
		member := memberOf(ctx)
		if _, err := s.Store.Page(ctx, member.WorkspaceID, in.Page); err != nil {
			return nil, problem(err)
		}
		if !s.following.take(member.ID) {
			return nil, huma.Error429TooManyRequests("This is open in too many tabs for all of them to follow new clicks. The others do.")
		}
		return &huma.StreamResponse{Body: func(c huma.Context) {
			defer s.following.give(member.ID)
			follower := s.Live.Follow(in.Page)
			defer s.Live.Leave(follower)
			c.SetHeader("Content-Type", "text/event-stream")
			c.SetHeader("Cache-Control", "no-store")
			// What is packed waits until there is enough of it.
			c.SetHeader("No-Gzip-Compression", "1")
			c.SetHeader("X-Accel-Buffering", "no") // nginx too would gather them
			stream(c.Context(), humagin.Unwrap(c).Writer, follower)
		}}, nil
	})
}

// stream writes events until whoever reads them goes.
func stream(ctx context.Context, to http.ResponseWriter, follower *livefigures.Follower) {
	line := http.NewResponseController(to)
	// Gin's own Flush gives up at a writer that wraps another; the controller goes on to it.
	if gins, wraps := to.(interface{ Unwrap() http.ResponseWriter }); wraps {
		line = http.NewResponseController(gins.Unwrap())
	}
	ctx, cancel := context.WithTimeout(ctx, followedFor)
	defer cancel()
	beat := time.NewTicker(stillThere)
	defer beat.Stop()
	say := func(text string) bool {
		// The server's limits are for answers that end.
		_ = line.SetWriteDeadline(time.Now().Add(2 * stillThere))
		if _, err := to.Write([]byte(text)); err != nil {
			return false
		}
		return line.Flush() == nil
	}
	for more := say("retry: 2000\n\n: following\n\n"); more; {
		select {
		case <-ctx.Done():
			return
		case <-beat.C:
			more = say(": still there\n\n")
		case _, open := <-follower.New:
			more = open && say("event: figures\ndata: new\n\n") && pause(ctx, toldAtMost)
		}
	}
}

// pause reports false when ctx ends first.
func pause(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}
