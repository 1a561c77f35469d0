package studio

import (
	"cmp"
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/figures"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// BlockDetailView is one block of a page, day by day, with its history.
type BlockDetailView struct {
	readings.Detail
	Block      string                           `json:"block"`
	Title      string                           `json:"title"`
	From       string                           `json:"from" doc:"First day, YYYY-MM-DD."`
	To         string                           `json:"to"`
	BySource   map[string]readings.BlockFigures `json:"bySource" doc:"Of all sources, whichever is asked for."`
	FirstDays  readings.FirstDays               `json:"firstDays"`
	Placements []PlacementView                  `json:"placements" nullable:"false" doc:"Where it stood, from the beginning of the range on."`
	Windows    []page.OpenWindow                `json:"windows" nullable:"false" doc:"When it was to show by its windows."`
	Edits      []EditView                       `json:"edits" nullable:"false" doc:"What changed for it in the range, latest first."`
	OnScreen   *readings.OnScreen               `json:"onScreen,omitempty" doc:"Where the page measures how far down visits get, and 30 told."`
}

// PlacementView is where a block stood from a time on.
type PlacementView struct {
	Edition int       `json:"edition"`
	At      time.Time `json:"at"`
	Place   int       `json:"place" doc:"0 for what stands beside the blocks, or is not on the page."`
	OnPage  bool      `json:"onPage"`
}

// EditView is what changed for a block with an edition, and its rate around that.
type EditView struct {
	Edition   int             `json:"edition"`
	At        time.Time       `json:"at"`
	Sentences []string        `json:"sentences" nullable:"false"`
	Around    readings.Around `json:"around"`
}

// SourceDetailView is one source of a page, day by day.
type SourceDetailView struct {
	readings.Detail
	From       string                     `json:"from" doc:"First day, YYYY-MM-DD."`
	To         string                     `json:"to"`
	Figures    readings.Figures           `json:"figures"`
	Blocks     []SourceBlock              `json:"blocks" nullable:"false" doc:"What its visitors press, most clicks first."`
	Evidence   []readings.Evidence        `json:"evidence" nullable:"false"`
	Neighbours []readings.UnlistedReading `json:"neighbours" nullable:"false" doc:"Places off the list on a network the source is on."`
}

// SourceBlock is what visitors of a source did with a block.
type SourceBlock struct {
	Block   string                `json:"block"`
	Title   string                `json:"title"`
	Figures readings.BlockFigures `json:"figures"`
	// All is the rate from everywhere, to hold that of the source against.
	All readings.Rate `json:"all"`
}

// RangeQuery is the time that is read.
type RangeQuery struct {
	Range string `query:"range" maxLength:"40" default:"28d" doc:"today, yesterday, 7d, 28d, 90d, 28d-today, month, last-month, all, or two dates: 2026-09-01..2026-09-30."`
}

func (s *Server) addDetails() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-block-readings", Method: http.MethodGet, Path: "/api/pages/{page}/readings/blocks/{block}",
		Summary: "Read one button day by day, and what happened to it",
	}), s.getBlockReadings)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-source-readings", Method: http.MethodGet, Path: "/api/pages/{page}/readings/sources/{source}",
		Summary: "Read one source day by day, and what its visitors press",
	}), s.getSourceReadings)
}

func (s *Server) getBlockReadings(ctx context.Context, in *struct {
	PagePath
	RangeQuery
	Block  string `path:"block" maxLength:"40"`
	Source string `query:"source" maxLength:"60" doc:"Its visits alone: the ID of a source, unlisted or untagged."`
},
) (*struct{ Body BlockDetailView }, error) {
	owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
	if err != nil {
		return nil, err
	}
	rows, err := figures.RowsOf(ctx, s.Store, owner, []readings.BlockReading{{Block: in.Block}})
	if err != nil {
		return nil, problem(err)
	}
	found, err := figures.Block(ctx, s.Store, owner.WorkspaceID, in.Page, in.Block, in.Source, span, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	view := BlockDetailView{
		Detail: found.Detail, Block: in.Block, From: span.Date(0), To: span.Date(span.Len() - 1), FirstDays: found.FirstDays,
		BySource: found.BySource, Placements: []PlacementView{}, Edits: []EditView{},
	}
	for _, row := range rows {
		if row.Key == in.Block {
			view.Title = row.Title
		}
	}
	if !found.Known() && view.Title == figures.Gone {
		return nil, problem(store.ErrNotFound)
	}
	if in.Source == "" { // what was on screen is known of all sources together
		shares, err := s.Store.ScreenShares(ctx, owner.WorkspaceID, in.Page, span)
		if err != nil {
			return nil, problem(err)
		}
		view.OnScreen = readings.ScreenRate(shares[in.Block], found.Detail.Total.Rate)
	}
	for _, placement := range found.Placements {
		view.Placements = append(view.Placements, placementView(placement))
	}
	for _, edit := range found.Edits {
		view.Edits = append(view.Edits, editView(edit))
	}
	until := earlier(span.To(), s.Now())
	showings, err := s.Store.LiveShowings(ctx, owner.WorkspaceID, owner.ID, span.From(), until)
	if err != nil {
		return nil, problem(err)
	}
	view.Windows = page.OpenWindows(showings, in.Block, span.From(), until)
	return &struct{ Body BlockDetailView }{view}, nil
}

func placementView(of store.Placement) PlacementView {
	return PlacementView{Edition: of.Edition, At: of.At, Place: of.Place, OnPage: of.OnPage}
}

func editView(of figures.Edit) EditView {
	view := EditView{Edition: of.Edition, At: of.At, Sentences: []string{}, Around: of.Around}
	for _, change := range of.Changes {
		view.Sentences = append(view.Sentences, change.Sentence)
	}
	return view
}

func (s *Server) getSourceReadings(ctx context.Context, in *struct {
	PagePath
	RangeQuery
	Source string `path:"source" maxLength:"60" doc:"The ID of a source, unlisted or untagged."`
},
) (*struct{ Body SourceDetailView }, error) {
	owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
	if err != nil {
		return nil, err
	}
	found, err := figures.Source(ctx, s.Store, owner.WorkspaceID, in.Page, in.Source, span)
	if err != nil {
		return nil, problem(err)
	}
	rows, err := figures.RowsOf(ctx, s.Store, owner, found.Reading.Blocks)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body SourceDetailView }{sourceDetailView(found, rows, in.Source, span)}, nil
}

func sourceDetailView(found figures.SourceDetail, rows []figures.Row, from string, span readings.Span) SourceDetailView {
	view := SourceDetailView{
		Detail: found.Detail, From: span.Date(0), To: span.Date(span.Len() - 1), Figures: found.Reading.BySource[from],
		Blocks: []SourceBlock{}, Evidence: found.Evidence, Neighbours: append([]readings.UnlistedReading{}, found.Neighbours...),
	}
	byKey := make(map[string]readings.BlockReading, len(found.Reading.Blocks))
	for _, block := range found.Reading.Blocks {
		byKey[block.Block] = block
	}
	for _, row := range rows {
		block := byKey[row.Key]
		if of, came := block.BySource[from]; came {
			view.Blocks = append(view.Blocks, SourceBlock{Block: row.Key, Title: row.Title, Figures: of, All: block.Total.Rate})
		}
	}
	slices.SortStableFunc(view.Blocks, func(a, b SourceBlock) int { return cmp.Compare(b.Figures.Clicks, a.Figures.Clicks) })
	return view
}
