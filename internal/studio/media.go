package studio

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/media"
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

func (s *Server) addMedia() {
	upload := func(id, path, summary string, most int64, says string) huma.Operation {
		return s.uploading(huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary}, most, says)
	}
	huma.Register(s.api, upload("upload-picture", "/api/pictures",
		"Upload a picture (PNG, JPEG, GIF or WebP; at most 8 MiB and 8 megapixels); it is encoded anew and kept whole",
		media.MaxBytes, "This file is larger than 8 MB. Save the picture smaller and try again."), s.uploadPicture)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "cut-picture", Method: http.MethodPost, Path: "/api/pictures/cut",
		Summary: "Cut an uploaded picture and keep it in the sizes it is shown in",
	}), s.cutPicture)
	huma.Register(s.api, upload("upload-icon", "/api/icons",
		"Upload an icon: an SVG (at most 128 KiB), of which only shapes are kept, or a picture, which is cut to a square",
		media.MaxBytes, "This file is larger than 8 MB. An icon needs far less."), s.uploadIcon)
	huma.Register(s.api, upload(
		"upload-film",
		"/api/films",
		"Upload a film for a background (MP4 or WebM, at most 6 MiB)",
		media.MaxFilm,
		"This film is larger than 6 MB, too much to play behind a page on a phone. Cut it to a few seconds and save it smaller.",
	), s.uploadFilm)
	huma.Register(s.api, upload("upload-file", "/api/files", "Upload a file to hand out (at most 15 MiB)",
		media.MaxDownload, "This file is larger than 15 MB. Put it where large files are kept, and paste its address."), s.uploadFile)
	s.addKeptFiles()
}

// unreadable words an error of package media for whoever uploaded something;
// nil for one that is not about what was uploaded.
func unreadable(err error) error {
	var tooMany *media.TooManyPixelsError
	for _, known := range []error{media.ErrNoPicture, media.ErrNoDrawing, media.ErrNoFilm, media.ErrEmptyFile, media.ErrNoCut} {
		if errors.Is(err, known) {
			return refuse("picture", sentence(err)+" Nothing was changed.")
		}
	}
	if errors.As(err, &tooMany) {
		return refuse("picture", sentence(err)+" The picture you had is still there.")
	}
	return problem(err)
}

func (s *Server) uploadPicture(ctx context.Context, in *Upload) (*struct{ Body Original }, error) {
	kept, err := s.original(ctx, in)
	if err != nil {
		return nil, unreadable(err)
	}
	return &struct{ Body Original }{Original{kept.Name, kept.Width, kept.Height}}, nil
}

// inTurn reads what was uploaded once there is a turn to unpack it, which the caller
// ends.
func inTurn(ctx context.Context, upload *Upload) (media.Turn, []byte, error) {
	turn, err := media.TakeTurn(ctx)
	if err != nil {
		return turn, nil, err
	}
	data, err := upload.all()
	if err != nil {
		turn.Done()
	}
	return turn, data, err
}

// original keeps an uploaded picture whole, when its turn comes.
func (s *Server) original(ctx context.Context, upload *Upload) (media.File, error) {
	turn, data, err := inTurn(ctx, upload)
	if err != nil {
		return media.File{}, err
	}
	defer turn.Done()
	kept, err := turn.Original(data)
	if err != nil {
		return media.File{}, err
	}
	return kept, s.keep(ctx, kept)
}

func (s *Server) cutPicture(ctx context.Context, in *struct {
	Body struct {
		Original string       `json:"original" maxLength:"80" doc:"File name of the uploaded picture."`
		Cut      *picture.Cut `json:"cut,omitempty" doc:"All of it when left out."`
		Use      media.Use    `json:"use" enum:"portrait,small,column,ground" doc:"How large it will be shown."`
	}
},
) (*struct{ Body picture.Picture }, error) {
	workspace := memberOf(ctx).WorkspaceID
	if err := s.limits.takeCut(workspace.String()); err != nil {
		return nil, err
	}
	turn, err := media.TakeTurn(ctx)
	if err != nil {
		return nil, problem(err)
	}
	defer turn.Done()
	original, err := s.Files.Read(ctx, workspace, in.Body.Original)
	if err != nil {
		return nil, problem(err)
	}
	how := media.Whole(original)
	if in.Body.Cut != nil {
		how = *in.Body.Cut
	}
	made, err := s.cut(ctx, turn, original, how, in.Body.Use)
	if err != nil {
		return nil, unreadable(err)
	}
	return &struct{ Body picture.Picture }{made}, nil
}

// cut cuts an original and keeps what it was cut to.
func (s *Server) cut(ctx context.Context, turn media.Turn, original media.File, how picture.Cut, use media.Use) (picture.Picture, error) {
	made, files, err := turn.Cut(ctx, original, how, use)
	if err != nil {
		return picture.Picture{}, err
	}
	return made, s.keep(ctx, files...)
}

func (s *Server) uploadIcon(ctx context.Context, in *Upload) (*struct{ Body KeptIcon }, error) {
	icon, err := s.icon(ctx, in)
	if err != nil {
		return nil, unreadable(err)
	}
	if err := s.keep(ctx, icon); err != nil {
		return nil, problem(err)
	}
	kept := KeptIcon{Icon: page.Icon{Set: "own", Name: icon.Name}, LeftOut: icon.LeftOut}
	if kept.LeftOut == nil {
		kept.LeftOut = []string{}
	}
	return &struct{ Body KeptIcon }{kept}, nil
}

// KeptIcon is an icon out of an uploaded drawing or picture.
type KeptIcon struct {
	Icon    page.Icon `json:"icon"`
	LeftOut []string  `json:"leftOut" nullable:"false" doc:"Names of elements of the drawing that could not be kept, such as text."`
}

// icon makes a drawing or a small square picture out of what was uploaded.
func (s *Server) icon(ctx context.Context, upload *Upload) (media.File, error) {
	turn, data, err := inTurn(ctx, upload)
	if err != nil {
		return media.File{}, err
	}
	defer turn.Done()
	drawing, err := media.Drawing(data)
	if !errors.Is(err, media.ErrNoDrawing) || bytes.Contains(data[:min(len(data), 1000)], []byte("<svg")) {
		return drawing, err
	}
	return turn.Square(data, "small")
}

func (s *Server) uploadFilm(ctx context.Context, in *Upload) (*struct{ Body KeptFile }, error) {
	head, err := in.head(media.HeadBytes)
	if err != nil {
		return nil, problem(err)
	}
	ending, err := media.FilmEnding(head)
	if err != nil {
		return nil, unreadable(err)
	}
	return s.keepUpload(ctx, in, ending)
}

func (s *Server) uploadFile(ctx context.Context, in *Upload) (*struct{ Body KeptFile }, error) {
	head, err := in.head(1)
	if err != nil {
		return nil, problem(err)
	}
	if len(head) == 0 {
		return nil, unreadable(media.ErrEmptyFile)
	}
	return s.keepUpload(ctx, in, media.DownloadEnding)
}

func (s *Server) keepUpload(ctx context.Context, upload *Upload, ending string) (*struct{ Body KeptFile }, error) {
	kept, err := s.Files.KeepUpload(ctx, memberOf(ctx).WorkspaceID, upload.file, ending)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body KeptFile }{KeptFile{kept.Name, int(kept.Size)}}, nil
}

// keep stores files for the workspace of whoever is signed in.
func (s *Server) keep(ctx context.Context, files ...media.File) error {
	return s.Files.Keep(ctx, memberOf(ctx).WorkspaceID, files...)
}

// keepFetched keeps a picture that a site offered. One that cannot be read is
// left out: the button does without.
func (s *Server) keepFetched(ctx context.Context, fetched []byte) *picture.Picture {
	turn, err := media.TakeTurn(ctx)
	if err != nil {
		return nil
	}
	defer turn.Done()
	original, err := turn.Original(fetched)
	if err != nil {
		return nil
	}
	made, err := s.cut(ctx, turn, original, media.Whole(original), "column")
	if err == nil {
		err = s.keep(ctx, original)
	}
	if err != nil {
		slog.Error("a fetched picture could not be kept", "error", err)
		return nil
	}
	return &made
}
