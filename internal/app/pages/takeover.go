package pages

import (
	"context"
	"net/url"
	"slices"
	"strings"

	"github.com/google/uuid"

	"jundle/internal/core/address"
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
	if err := u.notInACircle(ctx, member.WorkspaceID, id, wanted.PassThrough); err != nil {
		return store.Page{}, err
	}
	now := u.Now()
	wanted.ID = NewKey()
	return u.Store.ChangeTakeovers(ctx, member.WorkspaceID, member.ID, id, now,
		func(on page.Document, there []page.Takeover) ([]page.Takeover, string, error) {
			if len(there) >= page.MaxTakeovers {
				return nil, "", invalid.One(
					"quota",
					"There can be %d of these on a page, on or to come. End one first.",
					page.MaxTakeovers,
				)
			}
			takeover, err := wanted.Tidy(on, now)
			return append(there, takeover), takeover.String(on, zone), err
		})
}

// notInACircle refuses to lead the address of a page to that page.
func (u Pages) notInACircle(ctx context.Context, workspace, id uuid.UUID, straight *page.PassThrough) error {
	if straight == nil {
		return nil
	}
	link, err := address.ParseLink(straight.Address)
	if err != nil {
		return nil //nolint:nilerr // what is no address is said of it later
	}
	leads, err := url.Parse(link.URL)
	if err != nil {
		return nil //nolint:nilerr // what is no address is said of it later
	}
	front, own, err := u.Store.FrontAt(ctx, workspace, leads.Hostname())
	if err != nil {
		return err
	}
	if !own && leads.Scheme+"://"+leads.Host != u.PublicOrigin {
		return nil
	}
	name, _, _ := strings.Cut(strings.Trim(leads.Path, "/"), "/")
	circle := own && name == "" && front != nil && *front == id
	if !circle {
		if circle, err = u.Store.HadAddress(ctx, workspace, id, strings.ToLower(name)); err != nil {
			return err
		}
	}
	if circle {
		return invalid.One("passThrough/address", "That is the address of this page: it would lead in a circle.")
	}
	return nil
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
