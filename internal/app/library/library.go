// Package library knows which pictures and files something of a workspace may show:
// its own, and those that ship with the program.
package library

import (
	"context"

	"github.com/google/uuid"

	"jundle/internal/core/invalid"
	"jundle/internal/starters"
	"jundle/internal/store"
)

// Check refuses files that are neither the workspace's own nor ship with the program.
// They are given by the place that names them; the error is an *invalid.Error.
func Check(ctx context.Context, s *store.Store, workspace uuid.UUID, files map[string][]string) error {
	var names []string
	for _, list := range files {
		for _, name := range list {
			if _, ships := starters.File(name); !ships {
				names = append(names, name)
			}
		}
	}
	if len(names) == 0 {
		return nil
	}
	kept, err := s.HasMedia(ctx, workspace, names)
	if err != nil {
		return err
	}
	for where, list := range files {
		for _, name := range list {
			if _, ships := starters.File(name); !ships && !kept[name] {
				return invalid.One(where, "This picture or file is no longer here. Choose it again.")
			}
		}
	}
	return nil
}
