package destinations

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"

	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
	"jundle/internal/core/linkfile"
	"jundle/internal/store"
)

// LinkFile is a file of links as it was read, before anything is kept.
type LinkFile struct {
	Encoding string
	// Table is nil for a file of bookmarks.
	Table   *linkfile.Table
	Mapping linkfile.Mapping
	// Remembered: the mapping is that of a file with the same columns before.
	Remembered bool
	Entries    []linkfile.Entry
	// There are addresses that are kept already.
	There map[string]bool
	// columns stand for the names of the columns; nil where none has a name.
	columns []byte
}

// ReadFile reads a file of links, with its columns as they are said to be, or as they were
// said to be last, or as they are guessed to be. All its links get a label unless it is
// empty. The error is an *invalid.Error or a *linkfile.PlaceError.
func (u Destinations) ReadFile(
	ctx context.Context, member store.Member, data []byte, said *linkfile.Mapping, label string,
) (LinkFile, error) {
	text, encoding, err := linkfile.Decode(data)
	if err != nil {
		return LinkFile{}, invalid.One("file", "This file is no text, so it holds no links that could be read. Nothing was changed.")
	}
	file := LinkFile{Encoding: encoding, Mapping: linkfile.Mapping{Address: linkfile.None}}
	if linkfile.IsBookmarks(text) {
		file.Entries = linkfile.ReadBookmarks(text, linkfile.MaxRows+1)
	} else if err := file.readTable(ctx, u.Store, member, text, said); err != nil {
		return file, err
	}
	if len(file.Entries) > linkfile.MaxRows {
		return file, invalid.One("file", "A file has at most %d links. Cut it in two; nothing was changed.", linkfile.MaxRows)
	}
	var addresses []string
	for i := range file.Entries {
		entry := &file.Entries[i]
		if entry.Wrong != "" {
			continue
		}
		if label != "" {
			entry.Labels = append([]string{label}, entry.Labels...)
			entry.Labels = entry.Labels[:min(len(entry.Labels), invalid.MaxLabels)]
			if entry.Destination, err = entry.Tidy(); err != nil {
				return file, err
			}
		}
		addresses = append(addresses, entry.Address)
	}
	file.There, err = u.Store.KeptAmong(ctx, member.WorkspaceID, addresses)
	return file, err
}

func (f *LinkFile) readTable(ctx context.Context, s *store.Store, member store.Member, text string, said *linkfile.Mapping) error {
	table, err := linkfile.ReadTable(text)
	if errors.Is(err, linkfile.ErrTooMany) {
		return invalid.One("file", "A file has at most %d rows. Cut it in two; nothing was changed.", linkfile.MaxRows)
	}
	if err != nil {
		return err
	}
	f.Table, f.Mapping = &table, table.Guess()
	if f.Mapping.Head {
		names, err := json.Marshal(table.Rows[0].Cells)
		if err != nil {
			return err
		}
		sum := sha256.Sum256(names)
		f.columns = sum[:]
		before, err := s.RememberedMapping(ctx, member.WorkspaceID, f.columns)
		if err != nil {
			return err
		}
		if before != nil && before.Fits(table) {
			f.Mapping, f.Remembered = *before, true
		}
	}
	if said != nil {
		f.Mapping = *said
	}
	if f.Mapping.Fits(table) {
		f.Entries = table.Links(f.Mapping)
	}
	return nil
}

// New are the links that would be kept.
func (f LinkFile) New() []destination.Destination {
	var all []destination.Destination
	for _, entry := range f.Entries {
		if entry.Wrong == "" && !f.There[entry.Address] {
			all = append(all, entry.Destination)
		}
	}
	return all
}

// TakeIn keeps the links of a file as destinations in one step, and remembers what its
// columns are.
func (u Destinations) TakeIn(ctx context.Context, member store.Member, file LinkFile) (store.Import, error) {
	if file.columns != nil {
		if err := u.Store.RememberMapping(ctx, member.WorkspaceID, file.columns, file.Mapping, u.Now()); err != nil {
			return store.Import{}, err
		}
	}
	all := file.New()
	if len(all) == 0 {
		return store.Import{}, invalid.One("file", "There is no link in this file that you do not have. Nothing was changed.")
	}
	done, err := u.Store.ImportDestinations(ctx, member.WorkspaceID, member.ID, all, u.Now())
	if err != nil {
		return done, fmt.Errorf("take in %d links: %w", len(all), err)
	}
	return done, nil
}
