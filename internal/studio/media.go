package studio

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/media"
	"jundle/internal/starters"
	"jundle/internal/store"
)

// Original is an uploaded picture, kept whole.
type Original struct {
	Media  string `json:"media" doc:"File name below /media/."`
	Width  int    `json:"width" doc:"In pixels."`
	Height int    `json:"height" doc:"In pixels."`
}

// KeptFile is an uploaded film or file.
type KeptFile struct {
	Media string `json:"media" doc:"Its name with us."`
	Bytes int    `json:"bytes"`
}

// Upload is a file as it comes.
type Upload struct {
	RawBody []byte `contentType:"application/octet-stream"`
}

func (s *Server) addMedia() {
	upload := func(id, path, summary string) huma.Operation {
		return s.forMember(huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, MaxBodyBytes: maxBody})
	}
	huma.Register(s.api, upload("upload-picture", "/api/pictures", "Upload a picture (PNG, JPEG, GIF or WebP; at most 8 MiB and 40 megapixels); it is encoded anew and kept whole"), s.uploadPicture)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "cut-picture", Method: http.MethodPost, Path: "/api/pictures/cut", Summary: "Cut an uploaded picture and keep it in the sizes it is shown in",
	}), s.cutPicture)
	huma.Register(s.api, upload("upload-icon", "/api/icons", "Upload an icon: an SVG (at most 128 KiB), of which only shapes are kept, or a picture, which is cut to a square"), s.uploadIcon)
	huma.Register(s.api, upload("upload-film", "/api/films", "Upload a film for a background (MP4 or WebM, at most 6 MiB)"), s.uploadFilm)
	huma.Register(s.api, upload("upload-file", "/api/files", "Upload a file to hand out (at most 15 MiB)"), s.uploadFile)
}

// unreadable words an error of package media for whoever uploaded something;
// nil for one that is not about what was uploaded.
func unreadable(err error) error {
	var tooMany *media.TooManyPixelsError
	for _, known := range []error{media.ErrNoPicture, media.ErrNoDrawing, media.ErrNoFilm, media.ErrEmptyFile, media.ErrNoCut} {
		if errors.Is(err, known) {
			return refuse("picture", strings.ToUpper(err.Error()[:1])+err.Error()[1:]+". Nothing was changed.")
		}
	}
	if errors.As(err, &tooMany) {
		return refuse("picture", strings.ToUpper(err.Error()[:1])+err.Error()[1:]+". The picture you had is still there.")
	}
	return problem(err)
}

func (s *Server) uploadPicture(ctx context.Context, in *Upload) (*struct{ Body Original }, error) {
	if err := s.mayUpload(ctx, in.RawBody, media.MaxBytes, "This file is larger than 8 MB. Save the picture smaller and try again."); err != nil {
		return nil, err
	}
	kept, err := media.Original(in.RawBody)
	if err != nil {
		return nil, unreadable(err)
	}
	if err := s.keep(ctx, kept); err != nil {
		return nil, problem(err)
	}
	return &struct{ Body Original }{Original{kept.Name, kept.Width, kept.Height}}, nil
}

func (s *Server) cutPicture(ctx context.Context, in *struct {
	Body struct {
		Original string       `json:"original" doc:"File name of the uploaded picture."`
		Cut      *picture.Cut `json:"cut,omitempty" doc:"All of it when left out."`
		Use      media.Use    `json:"use" enum:"portrait,small,column,ground" doc:"How large it will be shown."`
	}
},
) (*struct{ Body picture.Picture }, error) {
	row, err := s.Store.WorkspaceMedia(ctx, memberOf(ctx).WorkspaceID, in.Body.Original)
	if err != nil {
		return nil, problem(err)
	}
	original := media.File{Name: row.Name, Bytes: row.Bytes, Width: row.Width, Height: row.Height}
	how := media.Whole(original)
	if in.Body.Cut != nil {
		how = *in.Body.Cut
	}
	made, err := s.cut(ctx, original, how, in.Body.Use)
	if err != nil {
		return nil, unreadable(err)
	}
	return &struct{ Body picture.Picture }{made}, nil
}

// cut cuts an original and keeps what it was cut to.
func (s *Server) cut(ctx context.Context, original media.File, how picture.Cut, use media.Use) (picture.Picture, error) {
	made, files, err := media.Cut(original, how, use)
	if err != nil {
		return picture.Picture{}, err
	}
	return made, s.keep(ctx, files...)
}

func (s *Server) uploadIcon(ctx context.Context, in *Upload) (*struct{ Body page.Icon }, error) {
	if err := s.mayUpload(ctx, in.RawBody, media.MaxBytes, "This file is larger than 8 MB. An icon needs far less."); err != nil {
		return nil, err
	}
	drawing, err := media.Drawing(in.RawBody)
	if errors.Is(err, media.ErrNoDrawing) {
		if strings.Contains(string(in.RawBody[:min(len(in.RawBody), 1000)]), "<svg") {
			return nil, unreadable(err)
		}
		var original media.File
		if original, err = media.Original(in.RawBody); err != nil {
			return nil, unreadable(err)
		}
		var files []media.File
		if _, files, err = media.Cut(original, media.Middle(original), "small"); err != nil {
			return nil, unreadable(err)
		}
		drawing = files[0]
	}
	if err := s.keep(ctx, drawing); err != nil {
		return nil, problem(err)
	}
	return &struct{ Body page.Icon }{page.Icon{Set: "own", Name: drawing.Name}}, nil
}

func (s *Server) uploadFilm(ctx context.Context, in *Upload) (*struct{ Body KeptFile }, error) {
	if err := s.mayUpload(ctx, in.RawBody, media.MaxFilm, "This film is larger than 6 MB, too much to play behind a page on a phone. Cut it to a few seconds and save it smaller."); err != nil {
		return nil, err
	}
	return s.keepFile(ctx, in.RawBody, media.Film)
}

func (s *Server) uploadFile(ctx context.Context, in *Upload) (*struct{ Body KeptFile }, error) {
	if err := s.mayUpload(ctx, in.RawBody, media.MaxDownload, "This file is larger than 15 MB. Put it where large files are kept, and paste its address."); err != nil {
		return nil, err
	}
	return s.keepFile(ctx, in.RawBody, media.Download)
}

func (s *Server) keepFile(ctx context.Context, upload []byte, read func([]byte) (media.File, error)) (*struct{ Body KeptFile }, error) {
	kept, err := read(upload)
	if err != nil {
		return nil, unreadable(err)
	}
	if err := s.keep(ctx, kept); err != nil {
		return nil, problem(err)
	}
	return &struct{ Body KeptFile }{KeptFile{kept.Name, len(kept.Bytes)}}, nil
}

// mayUpload refuses an upload that is too large, or one too many in a short
// time.
func (s *Server) mayUpload(ctx context.Context, upload []byte, most int, says string) error {
	if len(upload) > most {
		return huma.NewError(http.StatusRequestEntityTooLarge, says+" Nothing was changed.")
	}
	return s.limits.takeUpload(memberOf(ctx).WorkspaceID.String())
}

// keep stores files for the workspace of whoever is signed in.
func (s *Server) keep(ctx context.Context, files ...media.File) error {
	rows := make([]store.Media, len(files))
	for i, file := range files {
		rows[i] = store.Media{Name: file.Name, WorkspaceID: memberOf(ctx).WorkspaceID, Bytes: file.Bytes, Width: file.Width, Height: file.Height, CreatedAt: s.Now()}
	}
	return s.Store.KeepMedia(ctx, rows...)
}

// keepFetched keeps a picture that a site offered. One that cannot be read is
// left out: the button does without.
func (s *Server) keepFetched(ctx context.Context, fetched []byte) *picture.Picture {
	original, err := media.Original(fetched)
	if err != nil {
		return nil
	}
	made, err := s.cut(ctx, original, media.Whole(original), "column")
	if err == nil {
		err = s.keep(ctx, original)
	}
	if err != nil {
		slog.Error("a fetched picture could not be kept", "error", err)
		return nil
	}
	return &made
}

// checkMedia refuses a page or a short link that shows or hands out a file, by the
// place in it that names it, which is neither the workspace's own nor one
// that ships with the application.
func (s *Server) checkMedia(ctx context.Context, workspace uuid.UUID, files map[string][]string) error {
	var names []string
	for _, list := range files {
		for _, name := range list {
			if _, ours := starters.File(name); !ours {
				names = append(names, name)
			}
		}
	}
	if len(names) == 0 {
		return nil
	}
	kept, err := s.Store.HasMedia(ctx, workspace, names)
	if err != nil {
		return problem(err)
	}
	for where, list := range files {
		for _, name := range list {
			if _, ours := starters.File(name); !ours && !kept[name] {
				return refuse(where, "This picture or file is no longer here. Choose it again.")
			}
		}
	}
	return nil
}
