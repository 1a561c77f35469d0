package studio

import (
	"context"
	"errors"
	"image"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/media"
	"jundle/internal/ownmark"
	"jundle/internal/qr"
	"jundle/internal/store"
)

func (s *Server) addCodes() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "draw-source-code", Method: http.MethodGet, Path: "/api/pages/{page}/sources/{source}/code",
		Summary: "Draw the QR code of a source's entry address",
	}), s.drawSourceCode)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "draw-short-link-code", Method: http.MethodGet, Path: "/api/short-links/{link}/code",
		Summary: "Draw the QR code of a short link; a mark is no choice here",
	}), func(ctx context.Context, in *struct {
		ShortLinkPath
		CodeLook
	},
	) (*codeOutput, error) {
		workspace := memberOf(ctx).WorkspaceID
		row, err := s.Store.ShortLink(ctx, workspace, in.Link)
		if err != nil {
			return nil, problem(err)
		}
		origin, err := s.pageOrigin(ctx)
		if err != nil {
			return nil, problem(err)
		}
		return s.drawCode(ctx, workspace, origin+"/"+row.Address(), row.Address(), page.Document{}, in.CodeLook)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-own-phone", Method: http.MethodGet, Path: "/api/own-phone",
		Summary: "Make an address that keeps the phone it is opened on out of the figures",
	}), s.getOwnPhone)
}

// OwnPhone is the way to keep a phone on which nobody is signed in out of the
// figures.
type OwnPhone struct {
	Address string    `json:"address" doc:"Opened on the phone once, it marks its browser."`
	Until   time.Time `json:"until" doc:"The address works until then; the phone stays marked for 400 days."`
	Code    string    `json:"code" doc:"The address as a QR code, as SVG."`
}

// ownPhoneWithin is how long the address may wait to be opened.
const ownPhoneWithin = 30 * time.Minute

func (s *Server) getOwnPhone(ctx context.Context, _ *struct{}) (*struct{ Body OwnPhone }, error) {
	until := s.Now().Add(ownPhoneWithin)
	phone := OwnPhone{Until: until, Address: s.PublicOrigin + "/-/own/" + ownmark.Make(s.OwnKey, memberOf(ctx).WorkspaceID, until)}
	code, err := qr.New(phone.Address, qr.Options{})
	if err != nil {
		return nil, problem(err)
	}
	drawn, err := code.SVG()
	if err != nil {
		return nil, problem(err)
	}
	phone.Code = string(drawn)
	return &struct{ Body OwnPhone }{phone}, nil
}

// CodeLook is how a code is to look, in the query of its address.
type CodeLook struct {
	Format string   `query:"format" enum:"svg,png" default:"svg"`
	Level  qr.Level `query:"level" enum:"L,M,Q,H" default:"M" doc:"Error correction, from about 7 % to about 30 % (ISO/IEC 18004)."`
	Ink    string   `query:"ink" maxLength:"40" default:"#000000"`
	Ground string   `query:"ground" maxLength:"40" default:"#ffffff"`
	Mark   bool     `query:"mark" doc:"Put the page's picture in the middle. The level is then the highest the address allows."`
	Width  int      `query:"width" default:"1024" minimum:"64" maximum:"2048" doc:"Of a PNG, in pixels, to the next whole pixels a module."`
}

type codeOutput struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (s *Server) drawSourceCode(ctx context.Context, in *struct {
	PagePath
	Source uuid.UUID `path:"source"`
	CodeLook
},
) (*codeOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	owner, err := s.Store.Page(ctx, workspace, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	row, err := s.Store.Source(ctx, workspace, in.Page, in.Source)
	if err != nil {
		return nil, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return s.drawCode(ctx, workspace, s.source(origin, owner, row).EntryAddress, owner.Address+"-"+row.Tag(), owner.Draft, in.CodeLook)
}

// drawCode draws the code of an address, to be saved under a name.
func (s *Server) drawCode(ctx context.Context, workspace uuid.UUID, address, name string, doc page.Document, asked CodeLook) (*codeOutput,
	error,
) {
	done, err := s.costs.drawsCode(ctx)
	if err != nil {
		return nil, err
	}
	defer done()
	options := qr.Options{Level: asked.Level, Ink: asked.Ink, Ground: asked.Ground}
	if asked.Mark {
		mark, err := s.pagePicture(ctx, workspace, doc)
		if err != nil {
			return nil, err
		}
		options.Mark = mark
	}
	code, err := qr.New(address, options)
	if err != nil {
		return nil, problem(err)
	}
	out := &codeOutput{ContentType: "image/svg+xml", Disposition: `inline; filename="` + name + "." + asked.Format + `"`}
	if asked.Format == "png" {
		out.ContentType = "image/png"
		out.Body, err = code.PNG(asked.Width)
	} else {
		out.Body, err = code.SVG()
	}
	if err != nil {
		return nil, problem(err)
	}
	return out, nil
}

// pagePicture is the picture at the head of a page.
func (s *Server) pagePicture(ctx context.Context, workspace uuid.UUID, doc page.Document) (image.Image, error) {
	missing := refuse("mark", "The page has no picture of yours to put into the code. Give it one in Arrange, at the head of the page.")
	if doc.Header.Picture == nil {
		return nil, missing
	}
	turn, err := media.TakeTurn(ctx)
	if err != nil {
		return nil, problem(err)
	}
	defer turn.Done()
	file, err := s.Files.Read(ctx, workspace, doc.Header.Picture.Media)
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrGone) {
		return nil, missing
	}
	if err != nil {
		return nil, problem(err)
	}
	picture, err := turn.Decode(file.Bytes)
	if err != nil {
		return nil, missing // a drawing, which cannot be cut round
	}
	return picture, nil
}
