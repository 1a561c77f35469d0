package studio

import (
	"bytes"
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/archive"
	"jundle/internal/core/shortlink"
)

// LinkRow is one row of a list of short links to be made.
type LinkRow struct {
	Row          int    `json:"row" doc:"Counted from 1."`
	Destination  string `json:"destination"`
	Name         string `json:"name"`
	ShortAddress string `json:"shortAddress,omitempty" doc:"The whole address; empty where one will be made."`
	Wrong        string `json:"wrong,omitempty" doc:"Why no link is made of this row."`
}

func (s *Server) addShortLinkLists() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "read-link-list", Method: http.MethodPost, Path: "/api/link-list",
		Summary: "Read a list of short links; make them where asked to", MaxBodyBytes: listBody,
	}), s.readLinkList)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-link-list", Method: http.MethodGet, Path: "/api/link-list",
		Summary: "The workspace's short links as a list (RFC 4180) that can be read again",
	}), s.writeLinkList)
}

func (s *Server) readLinkList(ctx context.Context, in *struct {
	Body struct {
		Text string `json:"text" maxLength:"600000" doc:"Values with commas or tabs between; see the export for the columns."`
		Keep bool   `json:"keep,omitempty" doc:"Make a link of each row that has nothing wrong with it."`
	}
},
) (*listOutput[LinkRow], error) {
	entries, err := s.links.ReadList(ctx, memberOf(ctx).WorkspaceID, in.Body.Text, in.Body.Keep)
	var broken *csv.ParseError
	switch {
	case errors.As(err, &broken):
		return nil, refuse(
			"text",
			fmt.Sprintf(
				"Row %d cannot be read: a quotation mark in it is not closed, or stands in the middle of a value. No link was made.",
				broken.StartLine,
			),
		)
	case errors.Is(err, shortlink.ErrTooLong):
		return nil, refuse("text", fmt.Sprintf("A list has at most %d rows. Take some out; no link was made.", shortlink.MaxListed))
	case err != nil:
		return nil, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return nil, problem(err)
	}
	rows := make([]LinkRow, len(entries))
	for i, entry := range entries {
		rows[i] = LinkRow{Row: entry.Row, Destination: entry.Link.Destination, Name: entry.Link.Name, Wrong: entry.Wrong}
		if entry.Address != "" {
			rows[i].ShortAddress = origin + "/" + entry.Address
		}
	}
	return &listOutput[LinkRow]{rows}, nil
}

func (s *Server) writeLinkList(ctx context.Context, _ *struct{}) (*struct {
	ContentType        string `header:"Content-Type"`
	ContentDisposition string `header:"Content-Disposition"`
	Body               []byte
}, error,
) {
	links, err := s.Store.ShortLinks(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	var text bytes.Buffer
	if err := archive.WriteLinks(&text, links); err != nil {
		return nil, problem(err)
	}
	return &struct {
		ContentType        string `header:"Content-Type"`
		ContentDisposition string `header:"Content-Disposition"`
		Body               []byte
	}{"text/csv; charset=utf-8", `attachment; filename="short-links.csv"`, text.Bytes()}, nil
}
