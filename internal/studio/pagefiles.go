package studio

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"os"
	"reflect"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jundle/internal/core/page"
	"jundle/internal/filehandler"
	"jundle/internal/files"
	"jundle/internal/pagefile"
	"jundle/internal/plainfiles"
	"jundle/internal/store"
)

const (
	// packedAtOnce is how many zips are packed or unpacked at once in this process.
	packedAtOnce = 2
	// packedWithin is how long that may take, waiting for a turn included.
	packedWithin = 2 * time.Minute
)

func (s *Server) addPageFiles() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "take-out-page", Method: http.MethodGet, Path: "/api/pages/{page}/page.json",
		Summary: "The page's working copy and sources as JSON of a published shape",
	}), s.takeOutJSON)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "take-out-page-with-files", Method: http.MethodGet, Path: "/api/pages/{page}/page.zip",
		Summary: "The same in a zip, with the pictures and files it shows",
	}), s.takeOutZip)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "write-plain-files", Method: http.MethodGet, Path: "/api/pages/{page}/plain-files.zip",
		Summary: "The page as visitors see it, as plain files for any web host",
	}), s.writePlainFiles)
	huma.Register(s.api, s.uploading(huma.Operation{
		OperationID: "take-in-page", Method: http.MethodPost, Path: "/api/page-files", DefaultStatus: http.StatusCreated,
		Summary: "Make a page of one that was taken out, JSON or zip; it is not published",
	}, pagefile.MaxZip, "This file is larger than the 100 MB a page can be taken in with."), s.takeInPage)
	schema := pageSchema()
	huma.Register(s.api, huma.Operation{
		OperationID: "get-page-schema", Method: http.MethodGet, Path: "/api/page-schema",
		Summary: "JSON Schema (2020-12) of a page that was taken out",
	}, func(context.Context, *struct{}) (*fileOutput, error) {
		return &fileOutput{"application/schema+json", `inline; filename="page.schema.json"`, schema}, nil
	})
}

// fileOutput is an answer to be saved.
type fileOutput struct {
	ContentType        string `header:"Content-Type"`
	ContentDisposition string `header:"Content-Disposition"`
	Body               []byte
}

// pageSchema is the JSON Schema of what is taken out, made of the Go types as the API's
// contract is.
func pageSchema() []byte {
	registry := huma.NewMapRegistry("#/$defs/", huma.DefaultSchemaNamer)
	top := registry.Schema(reflect.TypeFor[pagefile.Page](), true, "Page")
	text, err := json.MarshalIndent(map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": pagefile.SchemaName, "title": "A page that was taken out",
		"$ref": top.Ref, "$defs": registry.Map(),
	}, "", "  ")
	if err != nil {
		panic(err) // it is made of our own types
	}
	return text
}

func (s *Server) takeOutJSON(ctx context.Context, in *PagePath) (*fileOutput, error) {
	file, err := s.pages.TakeOut(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	text, err := file.JSON()
	if err != nil {
		return nil, problem(err)
	}
	return &fileOutput{"application/json", filehandler.Attachment(file.Address + ".page.json"), text}, nil
}

func (s *Server) takeOutZip(ctx context.Context, in *PagePath) (*huma.StreamResponse, error) {
	file, err := s.pages.TakeOut(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	return s.packed(ctx, file.Address+".page.zip", "application/zip", func(ctx context.Context, to io.Writer) error {
		return file.WriteZip(ctx, s.Files, to, s.Now())
	})
}

func (s *Server) writePlainFiles(ctx context.Context, in *struct {
	PagePath
	Counted bool `query:"counted" doc:"Buttons lead through the page's address, where presses are counted; straight on otherwise."`
},
) (*huma.StreamResponse, error) {
	site, err := s.siteOf(ctx, in.PagePath, in.Counted)
	if err != nil {
		return nil, err
	}
	return s.packed(ctx, site.Address+"-plain-files.zip", "application/zip", func(ctx context.Context, to io.Writer) error {
		return site.Write(ctx, s.Files, to)
	})
}

// siteOf is what visitors see of a page, or its working copy before it was published.
func (s *Server) siteOf(ctx context.Context, in PagePath, counted bool) (plainfiles.Site, error) {
	workspace := memberOf(ctx).WorkspaceID
	one, err := s.Store.Page(ctx, workspace, in.Page)
	if err != nil {
		return plainfiles.Site{}, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return plainfiles.Site{}, problem(err)
	}
	site := plainfiles.Site{
		Document: page.Named(one.Draft, one.Address), Origin: origin, Address: one.Address, Edition: one.LiveEdition,
		Counted: counted, At: s.Now(),
	}
	live, err := s.Store.LiveEdition(ctx, workspace, in.Page)
	switch {
	case errors.Is(err, store.ErrNotFound) && counted:
		return site, refuse(
			"counted",
			"Presses can be counted once the page was published. Publish it first, or let buttons lead straight on.",
		)
	case errors.Is(err, store.ErrNotFound):
		return site, nil
	case err != nil:
		return site, problem(err)
	}
	// What takes its place for a while is over some day, and the files stay.
	site.Document, site.Document.Takeovers, site.Document.Resting, site.Document.When = live.Document, nil, nil, nil
	site.Document.Trial = nil
	return site, nil
}

// packed answers with a file that is written first, so that a reader who is slow holds
// nothing but a file, and nobody gets half of one.
func (s *Server) packed(
	ctx context.Context, name, contentType string, write func(context.Context, io.Writer) error,
) (*huma.StreamResponse, error) {
	if err := s.limits.takeZip(memberOf(ctx).WorkspaceID.String()); err != nil {
		return nil, err
	}
	done, packing, err := s.takePacking(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	file, err := os.CreateTemp("", "jundle-packed-*")
	if err != nil {
		return nil, problem(err)
	}
	_ = os.Remove(file.Name()) // it goes with whoever holds it
	size := int64(0)
	if err = write(packing, file); err == nil {
		size, err = file.Seek(0, io.SeekEnd)
	}
	if err != nil {
		_ = file.Close()
		return nil, problem(err)
	}
	return &huma.StreamResponse{Body: func(stream huma.Context) {
		defer file.Close()
		stream.SetHeader("Content-Type", contentType)
		stream.SetHeader("Content-Disposition", filehandler.Attachment(name))
		filehandler.ServeStream(humagin.Unwrap(stream), files.OnDisk(name, file, size))
	}}, nil
}

// takePacking waits for a turn to pack or unpack a zip.
func (s *Server) takePacking(ctx context.Context) (done func(), packing context.Context, err error) {
	packing, cancel := context.WithTimeout(ctx, packedWithin)
	select {
	case s.packing <- struct{}{}:
		return func() { <-s.packing; cancel() }, packing, nil
	case <-packing.Done():
		cancel()
		return nil, nil, huma.Error503ServiceUnavailable("Others are packing files just now. Try again in a minute; nothing was changed.")
	}
}

func (s *Server) takeInPage(ctx context.Context, in *struct {
	Upload
	Address string `query:"address" maxLength:"200" doc:"Where the page is to be; where it was when left out."`
},
) (*pageOutput, error) {
	if err := s.limits.takeZip(memberOf(ctx).WorkspaceID.String()); err != nil {
		return nil, err
	}
	done, packing, err := s.takePacking(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	size, err := in.file.Seek(0, io.SeekEnd)
	if err != nil {
		return nil, problem(err)
	}
	workspace := memberOf(ctx).WorkspaceID
	file, err := pagefile.Read(packing, s.Files, workspace, in.file, size)
	var place *pagefile.PlaceError
	switch {
	case errors.As(err, &place):
		return nil, refuse("file", place.Error())
	case err != nil:
		return nil, problem(err)
	}
	made, err := s.pages.TakeIn(ctx, workspace, file, in.Address)
	if errors.Is(err, store.ErrTagTaken) {
		return nil, refuse("file", "Two sources in this file have one tag. Give one of them another; nothing was changed.")
	}
	return s.pageOutput(ctx, made, err)
}
