package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/figures"
	"jundle/internal/core/alarm"
	"jundle/internal/core/page"
	"jundle/internal/store"
)

// OffView is the one thing to be told of a page without being asked; at most one.
type OffView struct {
	Kind     alarm.Kind `json:"kind,omitempty" enum:"silent,spike" doc:"Absent when nothing is off."`
	Block    string     `json:"block,omitempty"`
	Source   string     `json:"source,omitempty"`
	Title    string     `json:"title,omitempty" doc:"Of the button, or the source."`
	Since    string     `json:"since,omitempty" doc:"The first day it was seen on, YYYY-MM-DD."`
	Days     int        `json:"days" doc:"Over how many days, up to yesterday."`
	Came     int        `json:"came"`
	Expected float64    `json:"expected" doc:"By the eight weeks before and the day of the week."`
	From     string     `json:"from,omitempty" doc:"Name of the source that most of what is more came from."`
	Status   int        `json:"status,omitempty" doc:"What its address answered when it was last asked, where that failed."`
	Asked    *time.Time `json:"asked,omitempty" doc:"When that was."`
	Failed   bool       `json:"failed" doc:"Its address failed when it was last asked."`
}

func (s *Server) addOff() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-off", Method: http.MethodGet, Path: "/api/pages/{page}/off",
		Summary: "Say what is off with a page: a button or a source that fell silent, or one that took off",
		Description: "By days that are over, against the eight weeks before. On a quiet page it is wrong on at most one day in a hundred. " +
			"The most costly comes first, and alone.",
	}), func(ctx context.Context, in *PagePath) (*struct{ Body OffView }, error) {
		owner, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		view, err := s.offOf(ctx, owner)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body OffView }{view}, nil
	})
}

func (s *Server) offOf(ctx context.Context, owner store.Page) (OffView, error) {
	edition, err := s.Store.LiveEdition(ctx, owner.WorkspaceID, owner.ID)
	if errors.Is(err, store.ErrNotFound) {
		return OffView{}, nil // it was never live
	}
	if err != nil {
		return OffView{}, err
	}
	zone, err := s.Store.Location(ctx, owner.WorkspaceID)
	if err != nil {
		return OffView{}, err
	}
	off, err := figures.FindOff(ctx, s.Store, owner, edition.Document, s.Now(), zone)
	if err != nil || off == nil {
		return OffView{}, err
	}
	names, err := figures.NamesOf(ctx, s.Store, owner, nil)
	if err != nil {
		return OffView{}, err
	}
	view := OffView{
		Kind: off.Kind, Block: off.Block, Source: off.Source, Title: titleOf(edition.Document, off, names.Sources),
		Since: off.Since, Days: off.Days, Came: off.Came, Expected: off.Expected, From: names.Sources[off.From],
	}
	if off.Link != nil {
		view.Failed, view.Status, view.Asked = true, off.Link.Status, &off.Link.At
	}
	return view, nil
}

func titleOf(live page.Document, off *figures.Off, sources map[string]string) string {
	for _, row := range live.Rows() {
		if row.Key == off.Block {
			return row.Title
		}
	}
	return sources[off.Source]
}
