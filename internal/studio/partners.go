package studio

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/core/invalid"
	"jundle/internal/core/linkfile"
	"jundle/internal/core/page"
	"jundle/internal/core/partner"
	"jundle/internal/store"
)

// PartnerView is somebody whose counts are held against ours.
type PartnerView struct {
	ID        uuid.UUID             `json:"id"`
	Name      string                `json:"name"`
	Mapping   partner.ReportMapping `json:"mapping" doc:"Of the columns of their last report."`
	Tolerance float64               `json:"tolerance" doc:"By what share of the larger count the two may differ."`
}

// PartnerReading is what a report was read as, and what keeping it would do or did.
type PartnerReading struct {
	Columns []string              `json:"columns" nullable:"false" doc:"What they are called, or the first value in each."`
	Mapping partner.ReportMapping `json:"mapping"`
	Counts  int                   `json:"counts" doc:"Of one thing on one day each."`
	Clicks  int                   `json:"clicks"`
	From    string                `json:"from,omitempty" doc:"First day, YYYY-MM-DD."`
	To      string                `json:"to,omitempty"`
	Wrong   []partner.WrongRow    `json:"wrong" nullable:"false" doc:"Rows that cannot be read, at most 50 of them."`
	Wrongs  int                   `json:"wrongs" doc:"How many there are."`
	Kept    *uuid.UUID            `json:"kept,omitempty" doc:"The partner they were kept for, once they were."`
}

// PartnerComparison is a partner's counts against ours.
type PartnerComparison struct {
	PartnerView
	From  string               `json:"from" doc:"First day, YYYY-MM-DD."`
	To    string               `json:"to"`
	Lines []partner.ReportLine `json:"lines" nullable:"false" doc:"The largest gap first; 200 at most."`
	// HoursLater is by how many hours the partner's days seem to begin later than those of the workspace.
	HoursLater int `json:"hoursLater" doc:"By how many hours their days seem to begin later, below 0 for earlier; that is allowed for."`
}

// ReadPartnerReport is a report with what is said of it.
type ReadPartnerReport struct {
	Upload
	Page    uuid.UUID         `path:"page"`
	Name    string            `query:"name" maxLength:"80" doc:"Of the partner; its mapping is remembered by it."`
	Keep    bool              `query:"keep" doc:"Keep the counts. Those of the same days and things are replaced."`
	Day     int               `query:"day" default:"-1" minimum:"-1" maximum:"99" doc:"Column, from 0; -1 to be found out."`
	Subject int               `query:"subject" default:"-1" minimum:"-1" maximum:"99" doc:"Column of the destination or sub-id."`
	Clicks  int               `query:"clicks" default:"-1" minimum:"-1" maximum:"99"`
	Days    partner.DayFormat `query:"days" enum:"iso,dmy,mdy" default:"iso"`
}

// PartnerPath names a partner of a page.
type PartnerPath struct {
	PagePath
	Partner uuid.UUID `path:"partner"`
}

func (s *Server) addPartners() {
	huma.Register(s.api, s.uploading(huma.Operation{
		OperationID: "read-partner-report", Method: http.MethodPost, Path: "/api/pages/{page}/partner-reports",
		Summary: "Read a partner's report; keep its counts where asked to",
	}, linkfile.MaxBytes, "This file is larger than the 4 MB that can be read at once. Cut it in two."), s.readPartnerReport)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-partners", Method: http.MethodGet, Path: "/api/pages/{page}/partners", Summary: "List the partners of a page",
	}), func(ctx context.Context, in *PagePath) (*listOutput[PartnerView], error) {
		workspace := memberOf(ctx).WorkspaceID
		if _, err := s.Store.Page(ctx, workspace, in.Page); err != nil {
			return nil, problem(err)
		}
		partners, err := s.Store.Partners(ctx, workspace, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		views := make([]PartnerView, len(partners))
		for i, each := range partners {
			views[i] = partnerView(each)
		}
		return &listOutput[PartnerView]{views}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "compare-with-partner", Method: http.MethodGet, Path: "/api/pages/{page}/partners/{partner}",
		Summary: "Hold a partner's counts against ours",
	}), s.comparePartner)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-tolerance", Method: http.MethodPut, Path: "/api/pages/{page}/partners/{partner}/tolerance",
		DefaultStatus: http.StatusNoContent, Summary: "Say by how much counts may differ before that is said",
	}), func(ctx context.Context, in *struct {
		PartnerPath
		Body struct {
			Tolerance float64 `json:"tolerance" minimum:"0" maximum:"1" doc:"As a share of the larger count."`
		}
	},
	) (*struct{}, error) {
		return nil, orProblem(s.Store.ChangeTolerance(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Partner, in.Body.Tolerance))
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-partner", Method: http.MethodDelete, Path: "/api/pages/{page}/partners/{partner}",
		DefaultStatus: http.StatusNoContent, Summary: "Delete a partner and all its counts",
	}), func(ctx context.Context, in *PartnerPath) (*struct{}, error) {
		return nil, orProblem(s.Store.DeletePartner(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Partner))
	})
}

func orProblem(err error) error {
	if err != nil {
		return problem(err)
	}
	return nil
}

func partnerView(of store.Partner) PartnerView {
	return PartnerView{ID: of.ID, Name: of.Name, Mapping: of.Mapping, Tolerance: of.Tolerance}
}

func (s *Server) readPartnerReport(ctx context.Context, in *ReadPartnerReport) (*struct{ Body PartnerReading }, error) {
	done, reading, err := s.takePacking(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	workspace := memberOf(ctx).WorkspaceID
	if _, err := s.Store.Page(reading, workspace, in.Page); err != nil {
		return nil, problem(err)
	}
	table, err := in.table()
	if err != nil {
		return nil, err
	}
	mapping, err := s.mappingOf(reading, in, table)
	if err != nil {
		return nil, problem(err)
	}
	answer := PartnerReading{Columns: columnsOf(table), Mapping: mapping, Wrong: []partner.WrongRow{}}
	var counts []partner.Count
	if mapping.Fits(table) {
		var wrong []partner.WrongRow
		counts, wrong = partner.Read(table, mapping)
		answer.Wrongs, answer.Wrong = len(wrong), append(answer.Wrong, wrong[:min(len(wrong), 50)]...)
	}
	for _, count := range counts {
		answer.Counts, answer.Clicks = answer.Counts+1, answer.Clicks+count.Clicks
		if answer.From == "" || count.Day < answer.From {
			answer.From = count.Day
		}
		answer.To = max(answer.To, count.Day)
	}
	if !in.Keep {
		return &struct{ Body PartnerReading }{answer}, nil
	}
	var wrong invalid.List
	name := wrong.Line("name", "The name", in.Name, 80)
	if name == "" {
		wrong.Add("name", "Say whose report it is.")
	}
	if len(counts) == 0 {
		wrong.Add("file", "There is nothing in this file that could be kept. Say which columns hold the day, the destination and the clicks.")
	}
	if err := wrong.Err(); err != nil {
		return nil, problem(err)
	}
	kept, err := s.Store.KeepReport(reading, workspace, in.Page, name, mapping, counts, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	answer.Kept = &kept.ID
	return &struct{ Body PartnerReading }{answer}, nil
}

func (r *ReadPartnerReport) table() (linkfile.Table, error) {
	data, err := r.all()
	if err != nil {
		return linkfile.Table{}, problem(err)
	}
	text, _, err := linkfile.Decode(data)
	if err != nil {
		return linkfile.Table{}, refuse("file", fmt.Sprintf("%s. Nothing was changed.", err))
	}
	table, err := linkfile.ReadTable(text)
	var place *linkfile.PlaceError
	switch {
	case errors.As(err, &place):
		return table, refuse("file", place.Error()+" Nothing was changed.")
	case err != nil:
		return table, refuse("file", fmt.Sprintf("%s. Nothing was changed.", err))
	}
	return table, nil
}

// mappingOf is what was said of the columns, or what was said of those of the partner's report before,
// or what they look like.
func (s *Server) mappingOf(ctx context.Context, in *ReadPartnerReport, table linkfile.Table) (partner.ReportMapping, error) {
	if max(in.Day, in.Subject, in.Clicks) >= 0 {
		return partner.ReportMapping{Day: in.Day, Subject: in.Subject, Clicks: in.Clicks, Days: in.Days}, nil
	}
	known, err := s.Store.Partners(ctx, memberOf(ctx).WorkspaceID, in.Page)
	at := slices.IndexFunc(known, func(p store.Partner) bool { return p.Name == in.Name })
	if err == nil && at >= 0 && known[at].Mapping.Fits(table) {
		if counts, _ := partner.Read(table, known[at].Mapping); len(counts) > 0 {
			return known[at].Mapping, nil
		}
	}
	return partner.Guess(table), err
}

func columnsOf(table linkfile.Table) []string {
	columns := []string{}
	if len(table.Rows) == 0 {
		return columns
	}
	for i, cell := range table.Rows[0].Cells {
		if cell == "" {
			cell = fmt.Sprint(i + 1)
		}
		columns = append(columns, firstOf(cell, page.MaxTitle))
	}
	return columns
}

// mostPartnerLines is how many things of a report are compared at one time.
const mostPartnerLines = 200

func (s *Server) comparePartner(ctx context.Context, in *struct {
	PartnerPath
	RangeQuery
},
) (*struct{ Body PartnerComparison }, error) {
	owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
	if err != nil {
		return nil, err
	}
	with, err := s.Store.Partner(ctx, owner.WorkspaceID, in.Page, in.Partner)
	if err != nil {
		return nil, problem(err)
	}
	lines, hours, err := figures.AgainstPartner(ctx, s.Store, owner, with, span)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body PartnerComparison }{PartnerComparison{
		PartnerView: partnerView(with), From: span.Date(0), To: span.Date(span.Len() - 1), Lines: lines[:min(len(lines), mostPartnerLines)],
		HoursLater: hours,
	}}, nil
}
