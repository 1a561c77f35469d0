// Package sharedpicture draws the picture that is shown with a post that leads to a page, out
// of the page and the pictures on it.
package sharedpicture

import (
	"context"
	"fmt"
	"image"
	_ "image/jpeg" // what pictures are kept as
	_ "image/png"
	"io"
	"log/slog"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/files"
	"jundle/internal/sharing"
)

// largest is how many bytes of a picture are read, and pixels how many it may have: as many
// as those we make ourselves have at most.
const (
	largest = 8 << 20
	pixels  = 1680 * 4000
)

// Draw draws that of a page. A picture that cannot be read is left out.
func Draw(ctx context.Context, kept *files.Files, doc page.Document) ([]byte, error) {
	if doc.AsksPasscode() { // whoever has it is shown no more than stands at the gate
		doc.Header, doc.Sharing = page.Header{Name: doc.Header.Name, Align: doc.Header.Align}, page.Sharing{}
	}
	card := sharing.Card{
		Look: doc.Look, Name: doc.SharedTitle(), Line: doc.SharedDescription(), Shape: doc.Header.Shape, Left: doc.Header.Align == "left",
		Portrait: read(ctx, kept, doc.Header.Picture),
	}
	switch ground := doc.Look.Sound().Ground; {
	case ground.Kind == look.PictureGround && ground.Picture != nil:
		card.Ground = read(ctx, kept, ground.Picture.Picture)
	case ground.Kind == look.FilmGround && ground.Film != nil:
		card.Ground = read(ctx, kept, ground.Film.Poster)
	}
	drawn, err := sharing.PNG(card)
	if err != nil {
		return nil, fmt.Errorf("draw a picture for posts: %w", err)
	}
	return drawn, nil
}

func read(ctx context.Context, kept *files.Files, of *picture.Picture) image.Image {
	if of == nil {
		return nil
	}
	decoded, err := decode(ctx, kept, of.Media)
	if err != nil {
		slog.Warn("a picture is left out of that for posts", "media", of.Media, "error", err)
		return nil
	}
	return decoded
}

func decode(ctx context.Context, kept *files.Files, name string) (image.Image, error) {
	file, err := kept.Find(ctx, name)
	if err != nil {
		return nil, err
	}
	if file.Size > largest {
		return nil, fmt.Errorf("it has %d bytes", file.Size)
	}
	open := func() (io.ReadCloser, error) { return file.Open(ctx, 0, -1) }
	head, err := open()
	if err != nil {
		return nil, err
	}
	size, _, err := image.DecodeConfig(head)
	_ = head.Close()
	if err != nil {
		return nil, err
	}
	if size.Width*size.Height > pixels {
		return nil, fmt.Errorf("it has %d times %d pixels", size.Width, size.Height)
	}
	body, err := open()
	if err != nil {
		return nil, err
	}
	defer body.Close()
	decoded, _, err := image.Decode(body)
	return decoded, err
}
