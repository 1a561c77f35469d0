package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/pages"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/store"
)

// PageSummary is one page in the page switcher.
type PageSummary struct {
	ID          uuid.UUID        `json:"id"`
	Address     string           `json:"address"`
	Name        string           `json:"name" doc:"The name in the header; may be empty."`
	Empty       bool             `json:"empty" doc:"Whether it has no block yet and was never published."`
	Picture     *picture.Picture `json:"picture,omitempty" doc:"The one in the header."`
	Labels      []string         `json:"labels" nullable:"false"`
	State       pages.State      `json:"state" enum:"deleted,draft,resting,pass-through,closed,solo,live" doc:"How it stands for visitors."`
	LiveEdition int              `json:"liveEdition" doc:"Number of the published edition, 0 before the first."`
	Edited      bool             `json:"edited" doc:"Whether it was edited since it was published."`
	DeleteAt    *time.Time       `json:"deleteAt,omitempty" doc:"When a deleted one is gone for good."`
	Visits      int              `json:"visits" doc:"Counted in seven days and today."`
	Clicks      int              `json:"clicks" doc:"Counted in seven days and today."`
}

// NewPage is what a page is made from.
type NewPage struct {
	Address     string    `json:"address" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen."`
	CopyOf      uuid.UUID `json:"copyOf,omitzero" required:"false" doc:"The page whose working copy it begins as; empty when left out."`
	WithSources bool      `json:"withSources,omitempty" doc:"The copy gets the sources of that page, by the same tags."`
}

func (s *Server) addPageList() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-pages", Method: http.MethodGet, Path: "/api/pages", Summary: "List the workspace's pages",
	}), s.listPages)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-page", Method: http.MethodPost, Path: "/api/pages", Summary: "Add an empty page, or a copy of another",
		DefaultStatus: http.StatusCreated,
	}), func(ctx context.Context, in *struct{ Body NewPage }) (*pageOutput, error) {
		make := func() (store.Page, error) { return s.pages.Add(ctx, memberOf(ctx).WorkspaceID, in.Body.Address) }
		if in.Body.CopyOf != uuid.Nil {
			copying := pages.Copying{Of: in.Body.CopyOf, WithSources: in.Body.WithSources}
			make = func() (store.Page, error) {
				return s.pages.Copy(ctx, memberOf(ctx).WorkspaceID, in.Body.Address, copying)
			}
		}
		made, err := make()
		about(ctx, made.Address)
		return s.pageOutput(ctx, made, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "label-page", Method: http.MethodPut, Path: "/api/pages/{page}/labels", Summary: "Give the page labels to be grouped by",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		PagePath
		Body struct {
			Labels []string `json:"labels" nullable:"false" maxItems:"40" doc:"At most 10, each of at most 24 characters."`
		}
	},
	) (*struct{}, error) {
		return nil, problemOrNil(s.pages.Label(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Body.Labels))
	})
	s.addPageStates()
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "append-blocks", Method: http.MethodPost, Path: "/api/pages/{page}/blocks", MaxBodyBytes: draftBody,
		Summary: "Put blocks of another page at the end of this one's working copy",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body struct {
			Blocks []page.Block `json:"blocks" nullable:"false" minItems:"1" maxItems:"100"`
			Step   string       `json:"step,omitempty" maxLength:"40" doc:"Key of the step for Undo; the same as on the page they are moved from."`
			Name   string       `json:"name,omitempty" maxLength:"200" doc:"What the step is called; nothing is kept without a key."`
		}
	},
	) (*pageOutput, error) {
		var steps []store.StepTaken
		if in.Body.Step != "" {
			steps = []store.StepTaken{{Key: in.Body.Step, Name: in.Body.Name, Way: store.StepDone}}
		}
		changed, err := s.pages.Append(ctx, memberOf(ctx), in.Page, in.Body.Blocks, steps...)
		return s.pageOutput(ctx, changed, err)
	})
}

// addPageStates adds what puts a page to rest, or takes it down.
func (s *Server) addPageStates() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "rest-page", Method: http.MethodPut, Path: "/api/pages/{page}/rest",
		Summary: "Put the page to rest at once; visitors read a notice in its place",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body struct {
			Notice string `json:"notice,omitempty" maxLength:"2000" doc:"What visitors read: 300 characters at most, or a sentence of ours."`
		}
	},
	) (*pageOutput, error) {
		changed, err := s.pages.Rest(ctx, memberOf(ctx), in.Page, in.Body.Notice)
		return s.restOutput(ctx, changed, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "wake-page", Method: http.MethodDelete, Path: "/api/pages/{page}/rest", DefaultStatus: http.StatusOK,
		Summary: "Wake the page; it shows what it did before",
	}), func(ctx context.Context, in *PagePath) (*pageOutput, error) {
		changed, err := s.pages.Wake(ctx, memberOf(ctx), in.Page)
		return s.restOutput(ctx, changed, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-page", Method: http.MethodDelete, Path: "/api/pages/{page}",
		Summary: "Take the page down at once; for 14 days it can be kept after all", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *PagePath) (*struct{}, error) {
		err := s.Store.DeletePage(ctx, memberOf(ctx).WorkspaceID, in.Page, s.Now())
		if errors.Is(err, store.ErrLastPage) {
			return nil, refuse("page", "This is your only page. Make another first, or erase the whole account in the settings.")
		}
		return nil, problemOrNil(err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "keep-page", Method: http.MethodPost, Path: "/api/pages/{page}/keep",
		Summary: "Keep a page that was deleted", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *PagePath) (*struct{}, error) {
		return nil, problemOrNil(s.Store.KeepPage(ctx, memberOf(ctx).WorkspaceID, in.Page))
	})
}

func (s *Server) restOutput(ctx context.Context, changed store.Page, err error) (*pageOutput, error) {
	if errors.Is(err, store.ErrNeverPublished) {
		return nil, refuse("page", "This page was never published: visitors see nothing of it yet.")
	}
	return s.pageOutput(ctx, changed, err)
}

func (s *Server) listPages(ctx context.Context, _ *struct{}) (*listOutput[PageSummary], error) {
	listed, err := s.pages.List(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	reach, summaries := memberOf(ctx).Reach(), []PageSummary{}
	for _, one := range listed {
		if !reach.Covers(one.ID) {
			continue
		}
		summaries = append(summaries, PageSummary{
			ID: one.ID, Address: one.Address, Name: one.Name, Empty: one.Empty, Picture: one.Picture, Labels: one.Labels, State: one.State,
			LiveEdition: one.LiveEdition, Edited: one.Edited && one.LiveEdition > 0, DeleteAt: one.DeleteAt, Visits: one.Visits,
			Clicks: one.Clicks,
		})
	}
	return &listOutput[PageSummary]{summaries}, nil
}
