package pages

import (
	"context"

	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/store"
)

// Rest puts a page of the member's workspace to rest at once: visitors read a notice in
// its place.
func (u Pages) Rest(ctx context.Context, member store.Member, id uuid.UUID, notice string) (store.Page, error) {
	resting, err := page.Rest(notice, u.Now())
	if err != nil {
		return store.Page{}, err
	}
	return u.Store.Rest(ctx, member.WorkspaceID, member.ID, id, resting, u.Now())
}

// Wake ends the rest of a page.
func (u Pages) Wake(ctx context.Context, member store.Member, id uuid.UUID) (store.Page, error) {
	return u.Store.Rest(ctx, member.WorkspaceID, member.ID, id, nil, u.Now())
}
