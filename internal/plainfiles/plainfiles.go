// Package plainfiles writes a page as a zip of plain files that any web host can
// serve, so that it goes on where its creator wants it. It is the page as it is at a
// moment for who comes from nowhere in particular: plain files know no time.
package plainfiles

import (
	"archive/zip"
	"context"
	"fmt"
	"io"
	"net/url"
	"path"
	"slices"
	"strings"
	"time"

	"jundle/internal/calendar"
	"jundle/internal/core/audience"
	"jundle/internal/core/page"
	"jundle/internal/files"
	"jundle/internal/fonts"
	"jundle/internal/pagefile"
	"jundle/internal/render"
)

// Site is a page as plain files.
type Site struct {
	Document page.Document
	// Address and Edition are those of the page, and Origin is where visitors reach it
	// now. They matter only where presses are counted.
	Origin, Address string
	Edition         int
	// Counted: what can be pressed leads through the page's address, where it is counted.
	Counted bool
	At      time.Time
}

const readme = `This page as plain files, as it was on %s.

Put everything in here into one folder of any web host; index.html is the page.
%s
Forms on which an address is left are not here unless presses are counted.
What asks for something first leads nowhere here unless presses are counted, and a
passcode before the whole page is not asked for. What shows at certain times, or to visitors from certain sources only, is as it
was for everybody at that moment: plain files know no time.
`

// Words of the readme on what is counted.
const (
	countedWords = `Its buttons lead through %s, where presses are counted as before. Visits of the
plain files themselves are not counted.
`
	plainWords = `Its buttons lead straight to where they lead. Nothing is counted.
`
)

// Write writes the zip. A reader of what was written before an error sees a broken zip.
func (s Site) Write(ctx context.Context, kept *files.Files, to io.Writer) error {
	w := &writer{Site: s, targets: s.Document.Targets(audience.Audience{At: s.At}), zip: zip.NewWriter(to), cards: map[string]string{}}
	visit := render.Visit{To: audience.Audience{At: s.At}, Origin: s.Origin, Address: s.Address, Edition: s.Edition}
	if !s.Counted {
		s.Document = withoutForms(s.Document)
	}
	index, needs, err := render.PlainFile(s.Document, visit, w.leads, s.Counted)
	if err != nil {
		return err
	}
	words := plainWords
	if s.Counted {
		words = fmt.Sprintf(countedWords, s.Origin+"/"+s.Address)
	}
	texts := map[string]string{
		"README.txt": fmt.Sprintf(readme, s.At.UTC().Format("2 January 2006 15:04 UTC"), words),
		"index.html": string(index),
	}
	for name, card := range w.cards {
		texts[name] = card
	}
	for name, text := range texts {
		if err := w.text(name, text); err != nil {
			return err
		}
	}
	slices.Sort(needs)
	for _, name := range needs {
		if err := w.need(ctx, kept, name); err != nil {
			return err
		}
	}
	for _, file := range w.files {
		create := func() (io.Writer, error) { return w.create(file.in) }
		if err := pagefile.CopyMedia(ctx, kept, file.media, create); err != nil {
			return err
		}
	}
	return w.zip.Close()
}

type writer struct {
	Site
	targets page.Targets
	zip     *zip.Writer
	cards   map[string]string // contact cards and calendars by their names in the zip
	files   []handedOut
}

// handedOut is a file to be downloaded: what it is kept as, and where it lies in the zip.
type handedOut struct{ media, in string }

// leads is where something leads from the plain files.
func (w *writer) leads(key, item string) string {
	target, found := w.targets.Find(key, item)
	switch {
	case !found:
		return ""
	case target.Gate != nil && !w.Counted:
		return "" // plain files ask nobody
	case w.Counted:
		return w.Origin + render.ClickPath(render.Visit{Address: w.Address, Edition: w.Edition}, key, item)
	case target.Card != nil:
		name := "cards/" + strings.Trim(key+"-"+item, "-") + ".vcf"
		w.cards[name] = target.Card.VCard()
		return name
	case target.Calendar != nil:
		name := "calendars/" + key + ".ics"
		w.cards[name] = calendar.Write(target.Calendar, w.host(), w.Address, w.At)
		return name
	case target.Venue != nil:
		return target.Venue.Point.URI()
	}
	media, name, isFile := strings.Cut(strings.TrimPrefix(target.Address, "/files/"), "/")
	if !isFile || !strings.HasPrefix(target.Address, "/files/") {
		return target.Address
	}
	if as, err := url.PathUnescape(name); err == nil && as != "." && as != ".." {
		file := handedOut{media, path.Join("files", media, as)}
		if !slices.Contains(w.files, file) {
			w.files = append(w.files, file)
		}
	}
	return strings.TrimPrefix(target.Address, "/")
}

// withoutForms is a page without what only a server can take in.
func withoutForms(doc page.Document) page.Document {
	doc.Blocks = slices.DeleteFunc(slices.Clone(doc.Blocks), func(block page.Block) bool {
		return block.SignUp != nil || block.Payment != nil || block.Booking != nil
	})
	return doc
}

// host is that of the page with us, by which calendars know its dates again.
func (w *writer) host() string {
	origin, err := url.Parse(w.Origin)
	if err != nil {
		return ""
	}
	return origin.Hostname()
}

// need copies what the page shows.
func (w *writer) need(ctx context.Context, kept *files.Files, name string) error {
	create := func() (io.Writer, error) { return w.create(strings.TrimPrefix(name, "/")) }
	if strings.HasPrefix(name, "/media/") {
		return pagefile.CopyMedia(ctx, kept, path.Base(name), create)
	}
	data, err := fonts.Bytes(path.Base(name))
	if err != nil {
		return fmt.Errorf("copy a font: %w", err)
	}
	out, err := create()
	if err == nil {
		_, err = out.Write(data)
	}
	return err
}

func (w *writer) text(name, text string) error {
	out, err := w.create(name)
	if err == nil {
		_, err = io.WriteString(out, text)
	}
	return err
}

func (w *writer) create(name string) (io.Writer, error) {
	return pagefile.CreateIn(w.zip, name, w.At)
}
