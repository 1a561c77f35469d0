// Package pages has what creators do with pages: adding one, saving the working copy,
// publishing it, and giving it another address.
package pages

import (
	"context"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"jundle/internal/app/library"
	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/passwords"
	"jundle/internal/store"
)

// Pages does it in a store. Errors are *invalid.Error under the names of fields, or
// the store's.
type Pages struct {
	Store *store.Store
	// PublicOrigin is where visitors reach pages.
	PublicOrigin string
	// NoMail: no letters are sent.
	NoMail bool
	// Passcodes is what hashes of passcodes cost; that of the zero value is the full cost.
	Passcodes passwords.Cost
	Now       func() time.Time
}

// Add adds an empty page to a workspace.
func (u Pages) Add(ctx context.Context, workspace uuid.UUID, at string) (store.Page, error) {
	name, err := addressOf(at)
	if err != nil {
		return store.Page{}, err
	}
	return u.Store.CreatePage(ctx, workspace, name, page.New(), u.Now())
}

// Readdress gives a page another address; old ones keep leading to it.
func (u Pages) Readdress(ctx context.Context, workspace, id uuid.UUID, to string) (store.Page, error) {
	name, err := addressOf(to)
	if err != nil {
		return store.Page{}, err
	}
	return u.Store.ChangeAddress(ctx, workspace, id, name, u.Now())
}

// Saving is a working copy that was changed.
type Saving struct {
	// Revision is the one it was made on.
	Revision int64
	Document page.Document
	// As is a name the client gives the save, and may be empty.
	As string
	// Steps are what it did, for Undo.
	Steps []store.StepTaken
}

// Save replaces the working copy of a page when it is still at the revision;
// otherwise it answers store.ErrStale with the page as it stands.
func (u Pages) Save(ctx context.Context, member store.Member, id uuid.UUID, saving Saving) (store.Page, error) {
	workspace := member.WorkspaceID
	// First what costs least: of a change that is too late nothing is read.
	if stale, err := u.Store.StalePage(ctx, workspace, id, saving.Revision); err != nil {
		return stale, err
	}
	document, err := page.Tidy(saving.Document)
	if err != nil {
		return store.Page{}, err
	}
	if err := library.Check(ctx, u.Store, workspace, document.Media()); err != nil {
		return store.Page{}, err
	}
	if err := u.ownPasscodes(ctx, workspace, document); err != nil {
		return store.Page{}, err
	}
	document.NewestFirst(u.Now())
	return u.Store.SaveDraftAs(ctx, workspace, id, saving.Revision, document,
		store.DraftSave{As: saving.As, Steps: saving.Steps, By: member.ID, At: u.Now()})
}

// Publish makes an edition out of the working copy when it is still at the revision
// whose changes were read; store.ErrStale with the page as it stands otherwise.
func (u Pages) Publish(ctx context.Context, member store.Member, id uuid.UUID, publishing store.Publishing) (store.Page, error) {
	return u.Store.Publish(ctx, member.WorkspaceID, member.ID, id, publishing, u.Now())
}

// ownPasscodes refuses passcodes that are none of the workspace.
func (u Pages) ownPasscodes(ctx context.Context, workspace uuid.UUID, document page.Document) error {
	ids := document.PasscodeIDs()
	if len(ids) == 0 {
		return nil
	}
	own, err := u.Store.HasPasscodes(ctx, workspace, ids)
	if err == nil && !own {
		err = invalid.One("gate/passcodeId", "This passcode was set elsewhere. Set it anew.")
	}
	return err
}

// SetPasscode keeps a passcode of a workspace and returns the ID by which gates name it.
func (u Pages) SetPasscode(ctx context.Context, workspace uuid.UUID, passcode string) (uuid.UUID, error) {
	passcode = page.FoldPasscode(passcode)
	if n := utf8.RuneCountInString(passcode); n < 4 || len(passcode) > passwords.Max {
		return uuid.Nil, invalid.One("passcode", "A passcode has at least 4 characters, and at most %d.", passwords.Max)
	}
	hash, err := u.Passcodes.Hash(passcode)
	if err != nil {
		return uuid.Nil, err
	}
	return u.Store.AddPasscode(ctx, workspace, hash, u.Now())
}

func addressOf(text string) (string, error) {
	name, err := address.ParsePageAddress(text)
	if err != nil {
		return "", invalid.One("pageAddress", "%s", err)
	}
	return name, nil
}
