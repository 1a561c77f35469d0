package studio

import (
	"context"
	"errors"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/destinations"
	"jundle/internal/core/linkfile"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/store"
)

// LinkFileReading is what a file of links was read as, and what keeping it would do or
// did.
type LinkFileReading struct {
	Encoding   string           `json:"encoding" doc:"As the Encoding standard names it."`
	Delimiter  string           `json:"delimiter,omitempty" doc:"What stands between values; absent for one column, and for bookmarks."`
	Quote      string           `json:"quote,omitempty"`
	Bookmarks  bool             `json:"bookmarks" doc:"It is a file of bookmarks, whose columns need not be told."`
	Columns    []string         `json:"columns" nullable:"false" doc:"What they are called, or the first value in each."`
	Mapping    linkfile.Mapping `json:"mapping"`
	Remembered bool             `json:"remembered" doc:"The mapping is that of a file with the same columns before."`
	New        int              `json:"new" doc:"Links that are kept, or would be."`
	There      int              `json:"there" doc:"Links that are kept already, and stay as they are."`
	Wrong      int              `json:"wrong" doc:"Rows of which no link can be made."`
	Rows       []LinkFileRow    `json:"rows" nullable:"false" doc:"Those that are wrong first; at most 200."`
	Import     *uuid.UUID       `json:"import,omitempty" doc:"By which it can be undone, once it was kept."`
}

// LinkFileRow is one row of a file of links.
type LinkFileRow struct {
	Line    int      `json:"line"`
	Address string   `json:"address"`
	Title   string   `json:"title"`
	Labels  []string `json:"labels" nullable:"false"`
	There   bool     `json:"there"`
	Wrong   string   `json:"wrong,omitempty" doc:"Why no link is made of it."`
}

// UndoneImport is what became of what was kept of a file.
type UndoneImport struct {
	Gone int `json:"gone"`
	Stay int `json:"stay" doc:"They were changed since, or something leads to them."`
}

// shownRows is how many rows of a file are shown.
const shownRows = 200

// ReadLinkFile is a file with what is said of it.
type ReadLinkFile struct {
	Upload
	Keep    bool   `query:"keep" doc:"Keep what is new as destinations, in one step."`
	Label   string `query:"label" maxLength:"200" doc:"All of them get it."`
	Address int    `query:"address" default:"-2" minimum:"-2" maximum:"99" doc:"Column of it, from 0; -2 to be found out."`
	Title   int    `query:"title" default:"-1" minimum:"-1" maximum:"99" doc:"-1 for none."`
	Note    int    `query:"note" default:"-1" minimum:"-1" maximum:"99"`
	Labels  int    `query:"labels" default:"-1" minimum:"-1" maximum:"99"`
	Head    bool   `query:"head" doc:"The first row names the columns."`
}

// mapping is what was said of the columns, nil for nothing.
func (r ReadLinkFile) mapping() *linkfile.Mapping {
	if r.Address == -2 {
		return nil
	}
	return &linkfile.Mapping{Address: r.Address, Title: r.Title, Note: r.Note, Labels: r.Labels, Head: r.Head}
}

func (s *Server) addLinkFiles() {
	huma.Register(s.api, s.uploading(huma.Operation{
		OperationID: "read-link-file", Method: http.MethodPost, Path: "/api/link-files",
		Summary: "Read a file of links, a table or bookmarks; keep them as destinations where asked to",
	}, linkfile.MaxBytes, "This file is larger than the 4 MB that can be read at once. Cut it in two."), s.readLinkFile)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "undo-import", Method: http.MethodPost, Path: "/api/imports/{import}/undo",
		Summary: "Take out again what was kept of a file, but for what was changed or is in use since",
	}), func(ctx context.Context, in *struct {
		Import uuid.UUID `path:"import"`
	},
	) (*struct{ Body UndoneImport }, error) {
		gone, stay, err := s.Store.UndoImport(ctx, memberOf(ctx).WorkspaceID, in.Import, s.Now())
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body UndoneImport }{UndoneImport{gone, stay}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-destinations", Method: http.MethodGet, Path: "/api/destinations.csv",
		Summary: "The workspace's destinations as a table (RFC 4180) that can be read again",
	}), func(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
		workspace := memberOf(ctx).WorkspaceID
		return s.packed(ctx, "destinations.csv", "text/csv; charset=utf-8", func(ctx context.Context, to io.Writer) error {
			return s.writeDestinations(ctx, workspace, to)
		})
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-bookmarks", Method: http.MethodGet, Path: "/api/bookmarks.html",
		Summary: "The workspace's destinations in the Netscape bookmark file format, in a folder by their first label",
	}), func(ctx context.Context, _ *struct{}) (*huma.StreamResponse, error) {
		workspace := memberOf(ctx).WorkspaceID
		return s.packed(ctx, "bookmarks.html", "text/html; charset=utf-8", func(ctx context.Context, to io.Writer) error {
			folders, err := s.destinations.Folders(ctx, workspace)
			if err != nil {
				return err
			}
			return linkfile.WriteBookmarks(to, "Bookmarks", folders)
		})
	})
}

func (s *Server) writeDestinations(ctx context.Context, workspace uuid.UUID, to io.Writer) error {
	return spreadsheet.Write(to, []string{"address", "title", "note", "labels"}, func(write func(...string) error) error {
		return s.Store.EachDestination(ctx, workspace, func(one store.Destination, _ []store.FormerAddress) error {
			if one.MergedInto != nil {
				return nil // another stands for it
			}
			return write(one.Address, one.Title, one.Note, destinations.LabelsInOne(one.Labels))
		})
	})
}

func (s *Server) readLinkFile(ctx context.Context, in *ReadLinkFile) (*struct{ Body LinkFileReading }, error) {
	done, reading, err := s.takePacking(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	data, err := in.all()
	if err != nil {
		return nil, problem(err)
	}
	member := memberOf(ctx)
	file, err := s.destinations.ReadFile(reading, member, data, in.mapping(), in.Label)
	var place *linkfile.PlaceError
	if errors.As(err, &place) {
		return nil, refuse("file", place.Error()+" Nothing was changed.")
	}
	if err != nil {
		return nil, problem(err)
	}
	answer := readingOf(file)
	if in.Keep {
		kept, err := s.destinations.TakeIn(reading, member, file)
		if err != nil {
			return nil, problem(err)
		}
		answer.Import, answer.New = &kept.ID, kept.Made
	}
	return &struct{ Body LinkFileReading }{answer}, nil
}

func readingOf(file destinations.LinkFile) LinkFileReading {
	answer := LinkFileReading{
		Encoding: file.Encoding, Bookmarks: file.Table == nil, Columns: []string{}, Mapping: file.Mapping, Remembered: file.Remembered,
		Rows: []LinkFileRow{},
	}
	if table := file.Table; table != nil {
		if table.Delimiter != 0 {
			answer.Delimiter, answer.Quote = string(table.Delimiter), string(table.Quote)
		}
		answer.Columns = columnsOf(*table)
	}
	var good []LinkFileRow
	for _, entry := range file.Entries {
		row := LinkFileRow{
			Line: entry.Line, Address: cutBytes(entry.Address, 300), Title: entry.Title, Labels: append([]string{}, entry.Labels...),
			There: file.There[entry.Address] && entry.Wrong == "", Wrong: entry.Wrong,
		}
		switch {
		case row.Wrong != "":
			answer.Wrong++
			if len(answer.Rows) < shownRows {
				answer.Rows = append(answer.Rows, row)
			}
			continue
		case row.There:
			answer.There++
		default:
			answer.New++
		}
		if len(good) < shownRows {
			good = append(good, row)
		}
	}
	answer.Rows = append(answer.Rows, good[:min(len(good), shownRows-len(answer.Rows))]...)
	return answer
}
