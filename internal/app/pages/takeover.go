package pages

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/store"
)

// Begin lets something take the place of a page of the member's workspace, now or later.
// It is live at once, and what waits in the working copy goes on waiting.
func (u Pages) Begin(ctx context.Context, member store.Member, id uuid.UUID, wanted page.Takeover) (store.Page, error) {
	zone, err := u.Store.Location(ctx, member.WorkspaceID)
	if err != nil {
		return store.Page{}, err
	}
	now := u.Now()
	wanted.ID = NewKey()
	return u.Store.ChangeTakeovers(ctx, member.WorkspaceID, member.ID, id, now,
		func(on page.Document, there []page.Takeover) ([]page.Takeover, string, error) {
			if len(there) >= page.MaxTakeovers {
				return nil, "", invalid.One("quota", "There can be %d of these on a page, on or to come. End one first.", page.MaxTakeovers)
			}
			takeover, err := wanted.Tidy(on, now)
			return append(there, takeover), takeover.String(on, zone), err
		})
}

// End ends what takes the place of a page, or calls it off; store.ErrNotFound when it is
// over already.
func (u Pages) End(ctx context.Context, member store.Member, id uuid.UUID, takeover string) (store.Page, error) {
	return u.Store.ChangeTakeovers(ctx, member.WorkspaceID, member.ID, id, u.Now(),
		func(on page.Document, there []page.Takeover) ([]page.Takeover, string, error) {
			at := slices.IndexFunc(there, func(t page.Takeover) bool { return t.ID == takeover })
			if at < 0 {
				return nil, "", store.ErrNotFound
			}
			ended := there[at]
			return slices.Delete(there, at, at+1), ended.Ended(on), nil
		})
}
