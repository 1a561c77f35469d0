package pages

import (
	"context"
	"errors"

	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/store"
)

// Copying is what a page is copied from, and whether with its sources.
type Copying struct {
	Of          uuid.UUID
	WithSources bool
}

// Copy makes a page out of the working copy of another of the workspace.
func (u Pages) Copy(ctx context.Context, workspace uuid.UUID, at string, copying Copying) (store.Page, error) {
	name, err := addressOf(at)
	if err != nil {
		return store.Page{}, err
	}
	return u.Store.CopyPage(ctx, workspace, copying.Of, name, copying.WithSources, u.Now())
}

// appendTries is how often blocks are added to a page that others are editing.
const appendTries = 5

// Append adds blocks of another page to the end of the working copy of this one, whatever
// revision that is at. Steps are what Undo is to know of it.
func (u Pages) Append(ctx context.Context, member store.Member, id uuid.UUID, blocks []page.Block, steps ...store.StepTaken,
) (saved store.Page, err error) {
	for range appendTries {
		there, err := u.Store.Page(ctx, member.WorkspaceID, id)
		if err != nil {
			return store.Page{}, err
		}
		there.Draft.Append(blocks, NewKey)
		saved, err = u.Save(ctx, member, id, Saving{Revision: there.Revision, Document: there.Draft, Steps: steps})
		if !errors.Is(err, store.ErrStale) {
			return saved, err
		}
	}
	return saved, store.ErrStale
}
