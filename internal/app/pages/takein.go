package pages

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"jundle/internal/app/library"
	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/pagefile"
	"jundle/internal/store"
)

// TakeOut is a page with its sources as a file.
func (u Pages) TakeOut(ctx context.Context, workspace, id uuid.UUID) (pagefile.Page, error) {
	one, err := u.Store.Page(ctx, workspace, id)
	if err != nil {
		return pagefile.Page{}, err
	}
	sources, err := u.Store.Sources(ctx, workspace, id)
	return pagefile.Of(one, sources), err
}

// TakeIn makes a page of a file, under the address it had or another where at is not
// empty. Its pictures and files are the workspace's already. It is not published.
func (u Pages) TakeIn(ctx context.Context, workspace uuid.UUID, file pagefile.Page, at string) (store.Page, error) {
	if at == "" {
		at = file.Address
	}
	name, err := addressOf(at)
	if err != nil {
		return store.Page{}, err
	}
	var wrong invalid.List
	whole := store.WholePage{Address: name, Labels: invalid.Labels(&wrong, "labels", file.Labels)}
	ids := make(map[string]string, len(file.Sources))
	for i, each := range file.Sources {
		row, problem := rowOf(each, u.Now())
		if problem != nil {
			wrong.Add(fmt.Sprintf("sources/%d", i), "%s", problem)
			continue
		}
		ids[each.Tag] = row.ID.String()
		whole.Sources = append(whole.Sources, row)
	}
	for i := range file.Document.Blocks {
		file.Document.Blocks[i].WithSources(ids)
	}
	for i := range file.Document.Codes {
		file.Document.Codes[i].On = false // what comes in with a file runs once somebody here says so
	}
	if err := u.ownPasscodes(ctx, workspace, file.Document); err != nil {
		return store.Page{}, err
	}
	if whole.Document, err = page.Tidy(file.Document); err != nil {
		return store.Page{}, err
	}
	if err := wrong.Err(); err != nil {
		return store.Page{}, err
	}
	if err := library.Check(ctx, u.Store, workspace, whole.Document.Media()); err != nil {
		return store.Page{}, err
	}
	return u.Store.AddWholePage(ctx, workspace, whole, u.Now())
}

// maxPastTags is how many past tags a source may bring.
const maxPastTags = 100

// rowOf is a source of a file as it is kept.
func rowOf(from pagefile.Source, now time.Time) (store.Source, error) {
	var wrong invalid.List
	place, err := source.Place{
		Kind: from.Kind, Medium: from.Medium, Profiles: from.Profiles, Names: from.Names, Networks: from.Networks,
	}.Clean()
	if err != nil {
		return store.Source{}, err
	}
	row := store.Source{
		ID: uuid.Must(uuid.NewV7()), Name: wrong.Line("name", "The name of a source", from.Name, 60), Kind: place.Kind,
		Medium: place.Medium, Profiles: place.Profiles, Names: place.Names, Networks: place.Networks,
	}
	if from.Retired {
		row.RetiredAt = &now
	}
	if len(from.PastTags) > maxPastTags {
		wrong.Add(
			"pastTags",
			"A source has at most %d past tags; “%s” has %d.",
			maxPastTags,
			invalid.OneLine(from.Name),
			len(from.PastTags),
		)
		return row, wrong.Err()
	}
	for i, given := range append([]string{from.Tag}, from.PastTags...) {
		if given == "" && i == 0 && from.Retired {
			continue // another source has it by now
		}
		tag, err := address.ParseTag(given)
		if err != nil {
			return store.Source{}, err
		}
		row.Tags = append(row.Tags, store.SourceTag{Tag: tag, Present: i == 0})
	}
	return row, wrong.Err()
}
