// Package demo is the scenario that Jundle is shown and tried with: Ilse
// Quarrow's two pages, their sources, and ninety days of visits made from a
// fixed seed by a simulator whose true values are written down in truth.go.
//
// Everybody and everything in it is invented.
package demo

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	place "jundle/internal/core/source"
	"jundle/internal/files"
	"jundle/internal/media"
	"jundle/internal/passwords"
	"jundle/internal/standin"
	"jundle/internal/store"
)

// What the demo is signed in to with.
const (
	Email    = "ilse@quarrow.example"
	Password = "forty hours of fire"
	Zone     = "Europe/Lisbon"
)

// Addresses of the two pages.
const (
	ClayPage      = "quarrow-clay"
	WorkshopsPage = "quarrow-workshops"
)

// Loaded is the scenario as it stands in a database.
type Loaded struct {
	Member store.Member
	Pages  map[string]store.Page // by address
}

// Load puts the scenario into a database, without visits, as if it had been
// begun so many days before now. It does nothing when it is there already and
// says so with fresh.
func Load(ctx context.Context, s *store.Store, kept *files.Files, now time.Time, days int) (loaded Loaded, fresh bool, err error) {
	loaded.Member, err = s.MemberByEmail(ctx, Email)
	if errors.Is(err, store.ErrNotFound) {
		fresh = true
		loaded.Member, err = create(ctx, s, kept, now.AddDate(0, 0, -days))
	}
	if err != nil {
		return loaded, false, fmt.Errorf("load the demo: %w", err)
	}
	pages, err := s.Pages(ctx, loaded.Member.WorkspaceID)
	loaded.Pages = make(map[string]store.Page, len(pages))
	for _, one := range pages {
		loaded.Pages[one.Address] = one
	}
	return loaded, fresh, err
}

func create(ctx context.Context, s *store.Store, kept *files.Files, begun time.Time) (store.Member, error) {
	hash, err := passwords.Hash(Password)
	if err != nil {
		return store.Member{}, err
	}
	member, err := s.CreateAccount(ctx, store.NewAccount{
		Email: Email, PasswordHash: hash, PageAddress: ClayPage, Zone: Zone, Document: page.New(),
	}, begun)
	if err != nil {
		return member, err
	}
	pages, err := s.Pages(ctx, member.WorkspaceID)
	if err != nil {
		return member, err
	}
	workshops, err := s.CreatePage(ctx, member.WorkspaceID, WorkshopsPage, page.New(), begun.Add(time.Minute))
	if err != nil {
		return member, err
	}
	t := teller{store: s, files: kept, member: member, begun: begun, pots: map[string]picture.Picture{}}
	if err := t.tell(ctx, pages[0].ID, clay); err != nil {
		return member, err
	}
	if err := t.tell(ctx, workshops.ID, workshop); err != nil {
		return member, err
	}
	// Visitors of the demo can pay at the made-up till.
	_, err = s.SetPaymentService(ctx, store.PaymentService{
		WorkspaceID: member.WorkspaceID, Address: "https://" + standin.PayHost + "/v1", Token: standin.PayToken, Secret: standin.PaySecret,
		CreatedAt: begun,
	})
	if err != nil {
		return member, err
	}
	return member, t.addLinks(ctx)
}

// pageStory is how a page came to be what it is.
type pageStory struct {
	header   page.Header
	portrait string
	theme    string
	// cover is the name of a drawing at the top; empty for none.
	cover   string
	icons   []page.IconLink
	footer  page.Footer
	sources []sourceTruth
	// editions are orders of block keys; each was published on a day counted
	// from the beginning.
	editions []editionStory
	// waiting is the working copy's order, not published yet, with one block
	// hidden in it.
	waiting []string
	hidden  string
}

type editionStory struct {
	day  int
	keys []string
}

// teller plays stories into the database.
type teller struct {
	store  *store.Store
	files  *files.Files
	member store.Member
	begun  time.Time
	pots   map[string]picture.Picture // drawn already, by name
}

func (t *teller) addSource(ctx context.Context, target uuid.UUID, from sourceTruth, at time.Time) error {
	put := place.Place{Kind: from.kind}
	if from.network != "" {
		put.Profiles = []string{"https://" + from.network + ".example/quarrowclay"}
	}
	put, err := put.Clean()
	if err != nil {
		return err
	}
	_, err = t.store.AddSource(ctx, t.member.WorkspaceID, target, store.NewSource{Name: from.name, Tag: from.tag, Place: put}, at)
	return err
}

func (t *teller) tell(ctx context.Context, target uuid.UUID, story pageStory) error {
	base, err := t.frame(ctx, story)
	if err != nil {
		return err
	}
	for i, source := range story.sources {
		if err := t.addSource(ctx, target, source, t.begun.Add(time.Duration(i)*time.Second)); err != nil {
			return err
		}
	}
	revision := int64(1)
	save := func(keys []string, hidden string) error {
		doc := base
		doc.Blocks = []page.Block{}
		for _, key := range keys {
			block, err := t.block(ctx, key)
			if err != nil {
				return err
			}
			block.Shown = key != hidden
			doc.Blocks = append(doc.Blocks, block)
		}
		doc, err := page.Tidy(doc)
		if err != nil {
			return err
		}
		saved, err := t.store.SaveDraft(ctx, t.member.WorkspaceID, target, revision, doc)
		revision = saved.Revision
		return err
	}
	for _, edition := range story.editions {
		if err := save(edition.keys, ""); err != nil {
			return err
		}
		if _, err := t.store.Publish(ctx, t.member.WorkspaceID, t.member.ID, target, store.Publishing{Revision: revision},
			t.begun.AddDate(0, 0, edition.day)); err != nil {
			return err
		}
	}
	if last := story.editions[len(story.editions)-1]; story.hidden == "" && slices.Equal(last.keys, story.waiting) {
		return nil // nothing waits
	}
	return save(story.waiting, story.hidden)
}

// frame is all of a page but its blocks.
func (t *teller) frame(ctx context.Context, story pageStory) (page.Document, error) {
	doc := page.New()
	portrait, err := t.pot(ctx, story.portrait, "portrait")
	if err != nil {
		return doc, err
	}
	doc.Header.Name, doc.Header.Line, doc.Header.Picture = story.header.Name, story.header.Line, &portrait
	if story.cover != "" {
		cover, err := t.shelf(ctx, story.cover)
		if err != nil {
			return doc, err
		}
		doc.Header.Cover, doc.Header.CoverHeight, doc.Header.Shadow = &cover, "low", true
	}
	if theme, ok := look.FindTheme(story.theme); ok {
		doc.Look = theme.Look
	}
	doc.Icons.Items = append(doc.Icons.Items, story.icons...)
	doc.Footer.Text, doc.Footer.Links = story.footer.Text, append(doc.Footer.Links, story.footer.Links...)
	return doc, nil
}

func (t *teller) block(ctx context.Context, key string) (page.Block, error) {
	truth := blocks[key]
	block := truth.block
	block.Key, block.Shown = key, true
	if !truth.pictured {
		return block, nil
	}
	if block.Player != nil {
		still, err := t.keep(ctx, key, standin.DrawFire(), "column")
		copied := *block.Player
		copied.Still, block.Player = &still, &copied
		return block, err
	}
	pot, err := t.pot(ctx, key, "small")
	// The truth is shared by all editions; a picture goes onto a copy of it.
	switch {
	case block.Button != nil:
		copied := *block.Button
		copied.Picture, block.Button = &pot, &copied
	case block.File != nil:
		copied := *block.File
		copied.Picture, block.File = &pot, &copied
	}
	return block, err
}

// pot keeps the drawing of a vessel and returns it as a picture of a page.
func (t *teller) pot(ctx context.Context, name string, use media.Use) (picture.Picture, error) {
	return t.keep(ctx, name, standin.DrawPot(name), use)
}

// shelf keeps the drawing of a row of vessels, for a cover.
func (t *teller) shelf(ctx context.Context, name string) (picture.Picture, error) {
	return t.keep(ctx, name, standin.DrawShelf(name), "column")
}

func (t *teller) keep(ctx context.Context, name string, drawn []byte, use media.Use) (picture.Picture, error) {
	if kept, ok := t.pots[name]; ok {
		return kept, nil
	}
	turn, err := media.TakeTurn(ctx)
	if err != nil {
		return picture.Picture{}, err
	}
	defer turn.Done()
	original, err := turn.Original(drawn)
	if err != nil {
		return picture.Picture{}, err
	}
	made, cut, err := turn.Cut(ctx, original, media.Whole(original), use)
	if err != nil {
		return picture.Picture{}, err
	}
	t.pots[name] = made
	return made, t.files.Keep(ctx, t.member.WorkspaceID, append(cut, original)...)
}

// ProfileLinks are the links in the made-up profiles of the scenario, keyed as
// the stand-ins want them. The tag of one was left out, as people do.
func ProfileLinks(publicOrigin string) map[string]string {
	links := map[string]string{}
	for _, source := range clay.sources {
		if source.network == "" {
			continue
		}
		link := publicOrigin + "/" + ClayPage
		if !source.tagLeftOut {
			link += "/" + source.tag
		}
		links[source.network+"/quarrowclay"] = link
	}
	return links
}
