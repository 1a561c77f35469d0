package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/feeds"
	"jundle/internal/core/address"
	"jundle/internal/core/feed"
	"jundle/internal/feedfile"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

// feedWithin is how long somebody waits for a feed; pictures that are not there by then come
// when it is asked again.
const feedWithin = 15 * time.Second

// FeedView is a feed as it was read last.
type FeedView struct {
	ID      string      `json:"id"`
	Address string      `json:"address"`
	Title   string      `json:"title"`
	Items   []feed.Item `json:"items" nullable:"false" doc:"The newest first; behind them those that are no longer in it."`
	AskedAt time.Time   `json:"askedAt"`
	ReadAt  time.Time   `json:"readAt" doc:"When it last answered with a feed."`
	DueAt   time.Time   `json:"dueAt" doc:"When it is asked again."`
	Problem string      `json:"problem,omitempty" doc:"Why it gave no answer when it was asked last."`
}

func (s *Server) addFeeds() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "find-feed", Method: http.MethodPost, Path: "/api/feeds",
		Summary:     "Take in the feed at an address, or the one that a page names; one that is there is asked again",
		Description: "RSS 2.0, Atom (RFC 4287) or JSON Feed 1.1. It is asked again by itself while a page shows it. At most 20 of a workspace.",
	}), s.findFeed)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-feed", Method: http.MethodGet, Path: "/api/feeds/{feed}", Summary: "Read what a feed had when it was asked last",
	}), s.getFeed)
}

func (s *Server) feeds() feeds.Feeds {
	return feeds.Feeds{Store: s.Store, Files: s.Files, Outbound: s.Outbound, Now: s.Now}
}

func (s *Server) findFeed(ctx context.Context, in *struct {
	Body struct {
		Address string `json:"address" maxLength:"2048"`
	}
},
) (*struct{ Body FeedView }, error) {
	link, err := address.ParseLink(in.Body.Address)
	switch {
	case err != nil:
		return nil, refuse("address", err.Error())
	case !link.IsWeb():
		return nil, refuse("address", "A feed has an address of the web, beginning with https.")
	}
	workspace := memberOf(ctx).WorkspaceID
	if !s.limits.mayFetch(workspace.String()) {
		return nil, tooMany("These were many feeds in a short time. Wait a few seconds and try again; nothing was changed.", fetchPause)
	}
	done, err := s.describing.Take(ctx, workspace)
	if err != nil {
		return nil, noTurn(err)
	}
	defer done()
	ctx, cancel := context.WithTimeout(ctx, feedWithin)
	defer cancel()
	found, err := s.feeds().Find(ctx, workspace, link.URL)
	var full *store.QuotaError
	switch {
	case errors.As(err, &full):
		return nil, problem(err)
	case errors.Is(err, feedfile.ErrTooBig):
		return nil, refuse("address", "This feed has more in it than is read: at most 2 MB and 50,000 elements. Nothing was changed.")
	case errors.Is(err, feeds.ErrNoFeed):
		return nil, refuse("address", "There is no feed here, and no page that names one. Nothing was changed.")
	case err != nil:
		return nil, refuse("address", outbound.Reason(err)+" Nothing was changed.")
	}
	return &struct{ Body FeedView }{feedView(found)}, nil
}

func (s *Server) getFeed(ctx context.Context, in *struct {
	Feed uuid.UUID `path:"feed"`
},
) (*struct{ Body FeedView }, error) {
	found, err := s.Store.Feed(ctx, memberOf(ctx).WorkspaceID, in.Feed)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body FeedView }{feedView(found)}, nil
}

func feedView(of store.Feed) FeedView {
	return FeedView{
		ID: of.ID.String(), Address: of.Address, Title: of.Title, Items: append([]feed.Item{}, of.Items...), AskedAt: of.AskedAt,
		ReadAt: of.ReadAt, DueAt: of.DueAt, Problem: of.Problem,
	}
}
