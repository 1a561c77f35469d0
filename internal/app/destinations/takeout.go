package destinations

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"jundle/internal/core/linkfile"
	"jundle/internal/store"
)

// LabelsInOne writes labels into one value, as files of links are read.
func LabelsInOne(labels []string) string { return strings.Join(labels, "; ") }

// Folders are the destinations of a workspace as bookmarks, in a folder by their first
// label; those without one come last.
func (u Destinations) Folders(ctx context.Context, workspace uuid.UUID) ([]linkfile.Folder, error) {
	var folders []linkfile.Folder
	rest := linkfile.Folder{Name: "Shelf"}
	at := make(map[string]int)
	err := u.Store.EachDestination(ctx, workspace, func(one store.Destination, _ []store.FormerAddress) error {
		if one.MergedInto != nil {
			return nil // another stands for it
		}
		link := linkfile.Bookmark{
			Address: one.Address, Title: one.Title, Note: strings.Join(strings.Fields(one.Note), " "), Added: one.CreatedAt,
		}
		if len(one.Labels) == 0 {
			rest.Links = append(rest.Links, link)
			return nil
		}
		label := one.Labels[0]
		if _, known := at[label]; !known {
			at[label] = len(folders)
			folders = append(folders, linkfile.Folder{Name: label})
		}
		folders[at[label]].Links = append(folders[at[label]].Links, link)
		return nil
	})
	if len(rest.Links) > 0 {
		folders = append(folders, rest)
	}
	return folders, err
}
