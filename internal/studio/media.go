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
	"jundle/internal/media"
	"jundle/internal/store"
)

func (s *Server) addMedia() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "upload-picture", Method: http.MethodPost, Path: "/api/pictures",
		Summary:      "Upload a picture for the header; it is cut to a square and encoded anew",
		MaxBodyBytes: maxBody,
	}), s.uploadPicture)
}

func (s *Server) uploadPicture(ctx context.Context, in *struct {
	RawBody []byte `contentType:"application/octet-stream" doc:"PNG, JPEG, GIF or WebP; at most 8 MiB and 40 megapixels."`
},
) (*struct{ Body page.Picture }, error) {
	if len(in.RawBody) > media.MaxBytes {
		return nil, huma.NewError(http.StatusRequestEntityTooLarge, "This file is larger than 8 MB. Save the picture smaller and try again; the one you had is still there.")
	}
	picture, err := media.Square(in.RawBody, media.Portrait)
	var tooMany *media.TooManyPixelsError
	if errors.Is(err, media.ErrNoPicture) || errors.As(err, &tooMany) {
		return nil, invalid("picture", strings.ToUpper(err.Error()[:1])+err.Error()[1:]+". The picture you had is still there.")
	}
	if err != nil {
		return nil, problem(err)
	}
	kept, err := s.keep(ctx, memberOf(ctx).WorkspaceID, picture)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body page.Picture }{kept}, nil
}

func (s *Server) keep(ctx context.Context, workspace uuid.UUID, picture media.Picture) (page.Picture, error) {
	err := s.Store.KeepMedia(ctx, store.Media{
		Name: picture.Name, WorkspaceID: workspace, Bytes: picture.Bytes, Width: picture.Width, Height: picture.Height, CreatedAt: s.Now(),
	})
	return page.Picture{Media: picture.Name, Width: picture.Width, Height: picture.Height}, err
}

// keepFetched keeps a picture that a site offered. One that cannot be read is
// left out: the button does without.
func (s *Server) keepFetched(ctx context.Context, original []byte) *page.Picture {
	picture, err := media.Square(original, media.Thumbnail)
	if err != nil {
		return nil
	}
	kept, err := s.keep(ctx, memberOf(ctx).WorkspaceID, picture)
	if err != nil {
		slog.Error("a fetched picture could not be kept", "error", err)
		return nil
	}
	return &kept
}

// checkPictures refuses a document that shows a picture which is not the
// workspace's own.
func (s *Server) checkPictures(ctx context.Context, workspace uuid.UUID, doc page.Document) error {
	pictures := doc.Pictures()
	if len(pictures) == 0 {
		return nil
	}
	var names []string
	for _, picture := range pictures {
		names = append(names, picture.Media)
	}
	kept, err := s.Store.HasMedia(ctx, workspace, names)
	if err != nil {
		return problem(err)
	}
	for where, picture := range pictures {
		if !kept[picture.Media] {
			return invalid(where, "This picture is no longer here. Choose it again.")
		}
	}
	return nil
}
