// Package pagefile takes a page out and in again: as JSON of a published shape, or
// as a zip of that with the pictures and files it shows. What was taken in and is
// taken out again is the same, byte for byte.
//
//	page.json    what Page is
//	media/NAME   pictures and files by their names, which are digests of their bytes
//
// Figures, editions and takeovers are no part of it.
package pagefile

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"io"
	"maps"
	"path"
	"slices"
	"sort"
	"time"

	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/files"
	"jundle/internal/store"
)

// Format is the number of the shape.
const Format = 1

// SchemaName names the shape; its JSON Schema has it as $id.
const SchemaName = "urn:jundle:page:1"

// Page is a page as it is taken along.
type Page struct {
	Schema   string        `json:"$schema" const:"urn:jundle:page:1"`
	Format   int           `json:"format" doc:"Number of the shape."`
	Address  string        `json:"address" doc:"Where the page was."`
	Labels   []string      `json:"labels" nullable:"false"`
	Sources  []Source      `json:"sources" nullable:"false" doc:"Where its address has been put."`
	Document page.Document `json:"document" doc:"The working copy. Sources are named by their tags, destinations by their addresses."`
}

// Source is a place where the page's address has been put.
type Source struct {
	Tag      string      `json:"tag" doc:"The present one, by which rules name the source."`
	PastTags []string    `json:"pastTags,omitempty" doc:"Those that still name it."`
	Name     string      `json:"name"`
	Kind     source.Kind `json:"kind"`
	Medium   string      `json:"medium"`
	Profiles []string    `json:"profiles" nullable:"false" doc:"Addresses of the profile, the main one first."`
	Names    []string    `json:"names" nullable:"false" doc:"Other names in utm_source."`
	Networks []string    `json:"networks" nullable:"false" doc:"Besides those of the profiles."`
	Retired  bool        `json:"retired,omitempty"`
}

// Of is a page with its sources as a file.
func Of(one store.Page, sources []store.Source) Page {
	file := Page{
		Schema: SchemaName, Format: Format, Address: one.Address, Labels: append([]string{}, one.Labels...), Sources: []Source{},
		Document: one.Draft,
	}
	tags := make(map[string]string, len(sources))
	for _, each := range sources {
		tags[each.ID.String()] = each.Tag()
		file.Sources = append(file.Sources, sourceOf(each))
	}
	sort.SliceStable(file.Sources, func(i, j int) bool { return file.Sources[i].Tag < file.Sources[j].Tag })
	for i := range file.Document.Blocks {
		file.Document.Blocks[i].WithSources(tags)
	}
	// They are ours, and mean nothing elsewhere; nobody gets through a gate whose passcode
	// is not set anew.
	file.Document.Links(func(link page.Link) { *link.DestinationID = "" })
	file.Document.Gates(func(gate *page.Gate) { gate.PasscodeID = "" })
	return file
}

func sourceOf(row store.Source) Source {
	made := Source{
		Tag: row.Tag(), Name: row.Name, Kind: row.Kind, Medium: row.Medium, Profiles: row.Profiles, Names: row.Names,
		Networks: row.Networks, Retired: row.RetiredAt != nil,
	}
	for _, tag := range row.Tags {
		if !tag.Present {
			made.PastTags = append(made.PastTags, tag.Tag)
		}
	}
	slices.Sort(made.PastTags)
	return made
}

// JSON is the file as it is written.
func (f Page) JSON() ([]byte, error) {
	text, err := json.MarshalIndent(f, "", "  ")
	return append(text, '\n'), err
}

// media are the names of all files the document shows or hands out, in order.
func (f Page) media() []string {
	names := make(map[string]bool)
	for _, list := range f.Document.Media() {
		for _, name := range list {
			names[name] = true
		}
	}
	return slices.Sorted(maps.Keys(names))
}

// WriteZip writes the file with the pictures and files it names. What was deleted
// meanwhile is left out. A reader of what was written before an error sees a broken
// zip.
func (f Page) WriteZip(ctx context.Context, kept *files.Files, to io.Writer, now time.Time) error {
	out := zip.NewWriter(to)
	text, err := f.JSON()
	if err != nil {
		return err
	}
	create := func(name string) (io.Writer, error) { return CreateIn(out, name, now) }
	entry, err := create(pageName)
	if err == nil {
		_, err = entry.Write(text)
	}
	if err != nil {
		return err
	}
	for _, name := range f.media() {
		if err := CopyMedia(ctx, kept, name, func() (io.Writer, error) { return create(mediaFolder + name) }); err != nil {
			return err
		}
	}
	return out.Close()
}

// CreateIn begins an entry of a zip. Pictures and films are packed already, and are stored
// as they are.
func CreateIn(out *zip.Writer, name string, now time.Time) (io.Writer, error) {
	method := zip.Deflate
	switch path.Ext(name) {
	case ".jpg", ".png", ".mp4", ".webm", ".woff2":
		method = zip.Store
	}
	return out.CreateHeader(&zip.FileHeader{Name: name, Method: method, Modified: now.UTC()})
}

const (
	pageName    = "page.json"
	mediaFolder = "media/"
)

// CopyMedia copies a file to where to opens a place for it; one that was deleted
// meanwhile is left out.
func CopyMedia(ctx context.Context, kept *files.Files, name string, to func() (io.Writer, error)) error {
	file, err := kept.Find(ctx, name)
	if errors.Is(err, store.ErrGone) || errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	from, err := file.Open(ctx, 0, -1)
	if err != nil {
		return err
	}
	defer from.Close()
	entry, err := to()
	if err == nil {
		_, err = io.Copy(entry, from)
	}
	return err
}
