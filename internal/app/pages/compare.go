package pages

import (
	"context"

	"github.com/google/uuid"

	"jundle/internal/core/page"
)

// Comparison is an edition beside another, or beside the working copy.
type Comparison struct {
	First, Second page.Document
	Rows          []page.ComparedRow
	// Changes is what becomes of the first in the second, in words.
	Changes []page.Change
}

// Compare puts an edition of a page of a workspace beside another, as they lead now;
// beside the working copy for 0.
func (u Pages) Compare(ctx context.Context, workspace, id uuid.UUID, number, with int) (Comparison, error) {
	first, err := u.Store.PublishedEdition(ctx, workspace, id, number)
	if err != nil {
		return Comparison{}, err
	}
	var second page.Document
	if with == 0 {
		found, err := u.Store.Page(ctx, workspace, id)
		if err != nil {
			return Comparison{}, err
		}
		second = page.Named(found.Draft, found.Address)
	} else {
		edition, err := u.Store.PublishedEdition(ctx, workspace, id, with)
		if err != nil {
			return Comparison{}, err
		}
		second = edition.Document
	}
	return Comparison{
		First: first.Document, Second: second,
		Rows: page.Compare(first.Document, second), Changes: page.Changes(&first.Document, second),
	}, nil
}
