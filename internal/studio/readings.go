package studio

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/rollup"
)

// ReadingsView is a reading with the names its keys stand for.
type ReadingsView struct {
	readings.Reading
	From    string         `json:"from" doc:"First day, YYYY-MM-DD."`
	To      string         `json:"to" doc:"Last day, YYYY-MM-DD."`
	Titles  []BlockTitle   `json:"titles" nullable:"false" doc:"The page's blocks in its present order, then those that are no longer on it."`
	Shed    int64          `json:"shed" doc:"Events of all workspaces that could not be kept since the process was started."`
	Sources []SourceColumn `json:"sources" nullable:"false" doc:"The page's sources in order; unlisted and untagged visits have no entry."`
}

// BlockTitle names a block in the readings.
type BlockTitle struct {
	Block string `json:"block"`
	Title string `json:"title"`
	Place int    `json:"place" doc:"Its place on the working copy's page, 0 when it is not shown there."`
	Plain bool   `json:"plain,omitempty" doc:"The page carries its plain address: its clicks may be more than were counted."`
}

// SourceColumn names a source in the readings.
type SourceColumn struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Retired bool   `json:"retired"`
}

func (s *Server) addReadings() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-readings", Method: http.MethodGet, Path: "/api/pages/{page}/readings", Summary: "Read a page's figures",
	}), s.getReadings)
}

func (s *Server) getReadings(ctx context.Context, in *struct {
	PagePath
	Range string `query:"range" maxLength:"40" default:"28d" doc:"7d, 28d, 90d, month, all, or YYYY-MM-DD..YYYY-MM-DD."`
},
) (*struct{ Body ReadingsView }, error) {
	workspaceID := memberOf(ctx).WorkspaceID
	owner, err := s.Store.Page(ctx, workspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	span, err := s.span(ctx, in.Page, owner.CreatedAt, in.Range)
	if err != nil {
		return nil, err
	}
	reading, err := rollup.Read(ctx, s.Store, workspaceID, in.Page, span)
	if err != nil {
		return nil, problem(err)
	}
	former, err := s.titles.of(ctx, workspaceID, in.Page, goneFrom(owner.Draft, reading.Blocks))
	if err != nil {
		return nil, problem(err)
	}
	sources, err := s.Store.Sources(ctx, workspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	view := ReadingsView{
		Reading: reading, From: span.Date(0), To: span.Date(span.Len() - 1), Sources: make([]SourceColumn, len(sources)),
	}
	if s.Shed != nil {
		view.Shed = s.Shed()
	}
	view.Titles = titles(owner.Draft, former, view.Blocks)
	for i, source := range sources {
		view.Sources[i] = SourceColumn{ID: source.ID.String(), Name: source.Name, Retired: source.RetiredAt != nil}
	}
	return &struct{ Body ReadingsView }{view}, nil
}

// span reads a range of a page or a short link in the workspace's zone.
func (s *Server) span(ctx context.Context, id uuid.UUID, created time.Time, text string) (readings.Span, error) {
	zone, err := s.zone(ctx)
	if err != nil {
		return readings.Span{}, problem(err)
	}
	first := created
	if text == "all" {
		if first, err = s.Store.FirstDay(ctx, memberOf(ctx).WorkspaceID, id, first); err != nil {
			return readings.Span{}, problem(err)
		}
	}
	span, err := readings.ParseSpan(text, s.Now(), first, zone)
	var bad *readings.SpanError
	if errors.As(err, &bad) {
		return span, refuse("range", bad.Reason)
	}
	return span, err
}

// titles names what can be pressed on the working copy, hidden blocks too, and
// what has figures and is gone by what it was called before.
func titles(draft page.Document, former map[string]string, blocks []readings.BlockReading) []BlockTitle {
	named, known := []BlockTitle{}, map[string]bool{}
	places, plain := map[string]int{}, map[string]bool{}
	for _, block := range draft.Blocks {
		plain[block.Key] = block.IsPlain()
	}
	add := func(key, title string, place int) {
		if !known[key] {
			known[key] = true
			named = append(named, BlockTitle{Block: key, Title: title, Place: place, Plain: plain[key]})
		}
	}
	for _, block := range draft.Visible() {
		places[block.Key] = block.Place
	}
	for _, row := range draft.Rows() {
		add(row.Key, row.Title, places[row.Key])
	}
	for _, block := range draft.Blocks {
		if len(block.Targets()) > 0 {
			add(block.Key, block.Title(), 0)
		}
	}
	for _, reading := range blocks {
		add(reading.Block, cmp.Or(former[reading.Block], "(deleted)"), 0)
	}
	return named
}
