package pagefile

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
	"jundle/internal/files"
	"jundle/internal/media"
	"jundle/internal/starters"
)

// Limits of what is taken in.
const (
	// MaxZip is how large a file may be, in bytes.
	MaxZip = 100 << 20
	// maxJSON is how large its JSON may be.
	maxJSON = 4 << 20
	// maxMedia is how many pictures and files it may have.
	maxMedia = 1000
	// headSize is within how many bytes of a picture its size stands.
	headSize = 256 << 10
	// maxPixels is how many pixels its pictures may have in all.
	maxPixels = 200_000_000
)

// ErrNoPage is answered for a file that is none of a page.
var ErrNoPage = invalid.One("file",
	"This is not a page file. Choose a .json or .zip file that was exported from a page here. Nothing was changed.")

// PlaceError says where in the JSON something is wrong.
type PlaceError struct {
	Line, Column int // both from 1; the column in characters
	Reason       string
}

func (e *PlaceError) Error() string {
	return fmt.Sprintf("Line %d, column %d: %s. Nothing was changed.", e.Line, e.Column, e.Reason)
}

// Parse reads the JSON of a page. The error is a *PlaceError or an *invalid.Error.
func Parse(text []byte) (Page, error) {
	if len(text) > maxJSON {
		return Page{}, invalid.One("file", "A page takes at most %d MB as JSON. Nothing was changed.", maxJSON>>20)
	}
	text = bytes.TrimPrefix(text, []byte("\ufeff"))
	if !bytes.HasPrefix(bytes.TrimSpace(text), []byte("{")) {
		return Page{}, ErrNoPage // a picture, say, of which a parser would only tell where it gave up
	}
	var file Page
	err := json.Unmarshal(text, &file)
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		return file, placeOf(text, syntax.Offset, syntax.Error())
	case errors.As(err, &kind):
		return file, placeOf(text, kind.Offset, fmt.Sprintf("a %s cannot stand at %s", kind.Value, invalid.OneLine(kind.Field)))
	case err != nil:
		return file, invalid.One("file", "This page cannot be read: %s. Nothing was changed.", invalid.OneLine(err.Error()))
	case file.Schema != SchemaName && file.Format == 0:
		return file, ErrNoPage
	case file.Format != Format:
		return file, invalid.One("file", "This page has format %d; this version of the program reads format %d. Nothing was changed.",
			file.Format, Format)
	}
	return file, nil
}

func placeOf(text []byte, offset int64, reason string) error {
	before := text[:min(max(int(offset)-1, 0), len(text))]
	line := bytes.Count(before, []byte("\n"))
	column := utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:])
	return &PlaceError{Line: line + 1, Column: column + 1, Reason: reason}
}

// Read reads a page from its JSON or its zip, and keeps the pictures and files of a zip
// for a workspace. Files that the page does not name are not looked at.
func Read(ctx context.Context, kept *files.Files, workspace uuid.UUID, from io.ReaderAt, size int64) (Page, error) {
	head := make([]byte, 4)
	if _, err := from.ReadAt(head, 0); err != nil && !errors.Is(err, io.EOF) {
		return Page{}, err
	}
	if !bytes.Equal(head, []byte("PK\x03\x04")) {
		text, err := io.ReadAll(io.NewSectionReader(from, 0, min(size, maxJSON+1)))
		if err != nil {
			return Page{}, err
		}
		return Parse(text)
	}
	archive, err := zip.NewReader(from, size)
	if err != nil {
		return Page{}, ErrNoPage
	}
	entries := make(map[string]*zip.File, len(archive.File))
	for _, entry := range archive.File {
		entries[entry.Name] = entry
	}
	if entries[pageName] == nil {
		return Page{}, ErrNoPage
	}
	text, err := unpack(entries[pageName], maxJSON)
	if err != nil {
		return Page{}, err
	}
	file, err := Parse(text)
	if err != nil {
		return Page{}, err
	}
	t := taking{ctx: ctx, kept: kept, workspace: workspace, renamed: make(map[string]string)}
	if err := t.take(file.media(), entries); err != nil || len(t.renamed) == 0 {
		return file, err
	}
	for before, after := range t.renamed {
		text = bytes.ReplaceAll(text, []byte(before), []byte(after)) // names are digests, and nothing else
	}
	return Parse(text)
}

// unpack reads an entry whole, whatever it says of its size.
func unpack(entry *zip.File, most int64) ([]byte, error) {
	from, err := entry.Open()
	if err != nil {
		return nil, ErrNoPage
	}
	defer from.Close()
	data, err := io.ReadAll(io.LimitReader(from, most+1))
	switch {
	case err != nil:
		return nil, invalid.One("file", "%s in the zip is broken. Nothing was changed.", invalid.OneLine(entry.Name))
	case int64(len(data)) > most:
		return nil, invalid.One("file", "%s in the zip is larger than the %d MB it may have. Nothing was changed.",
			invalid.OneLine(entry.Name), most>>20)
	}
	return data, nil
}

// taking takes in the pictures and files of one page.
type taking struct {
	ctx       context.Context
	kept      *files.Files
	workspace uuid.UUID
	pixels    int
	// renamed are pictures that had to be encoded anew, by their names before.
	renamed map[string]string
}

func (t *taking) take(names []string, entries map[string]*zip.File) error {
	if len(names) > maxMedia {
		return invalid.One(
			"file",
			"A page has at most %d pictures and files; this one names %d. Nothing was changed.",
			maxMedia,
			len(names),
		)
	}
	if err := measured(names, entries); err != nil {
		return err
	}
	for _, name := range names {
		entry := entries[mediaFolder+name]
		if _, ships := starters.File(name); ships || entry == nil {
			continue // it is here already, or is missed when the page is checked
		}
		if !picture.IsFileName(name) {
			return ErrNoPage
		}
		if err := t.one(name, entry); err != nil {
			return err
		}
	}
	return nil
}

// measured refuses pictures with more pixels in all than may be, by what their heads say: a small zip may hold very
// many large ones, and nothing of them is unpacked before.
func measured(names []string, entries map[string]*zip.File) error {
	pixels := 0
	for _, name := range names {
		entry := entries[mediaFolder+name]
		if entry == nil || !picture.IsName(name) {
			continue
		}
		from, err := entry.Open()
		if err != nil {
			return ErrNoPage
		}
		pixels += media.Pixels(io.LimitReader(from, headSize))
		_ = from.Close()
		if pixels > maxPixels {
			return tooManyPixels()
		}
	}
	return nil
}

func tooManyPixels() error {
	return invalid.One("file", "The pictures in the zip have more than %d million pixels in all. Nothing was changed.", maxPixels/1_000_000)
}

func (t *taking) one(name string, entry *zip.File) error {
	data, err := unpack(entry, media.MaxDownload)
	if err != nil {
		return err
	}
	ending := path.Ext(name)
	if !picture.IsName(name) {
		if err := media.CheckUpload(data, ending); err != nil {
			return invalid.One("file", "%s in the zip: %s. Nothing was changed.", invalid.OneLine(entry.Name), err)
		}
		stored, err := t.kept.KeepUpload(t.ctx, t.workspace, bytes.NewReader(data), ending)
		t.rename(name, stored.Name)
		return err
	}
	turn, err := media.TakeTurn(t.ctx)
	if err != nil {
		return err
	}
	defer turn.Done()
	file, err := turn.Again(data)
	if err != nil {
		return invalid.One("file", "%s in the zip: %s. Nothing was changed.", invalid.OneLine(entry.Name), err)
	}
	if t.pixels += file.Width * file.Height; t.pixels > maxPixels {
		return tooManyPixels()
	}
	t.rename(name, file.Name)
	return t.kept.Keep(t.ctx, t.workspace, file)
}

func (t *taking) rename(before, after string) {
	if after != "" && !strings.EqualFold(before, after) {
		t.renamed[before] = after
	}
}
