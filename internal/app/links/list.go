package links

import (
	"context"
	"errors"
	"log/slog"

	"github.com/google/uuid"

	"jundle/internal/core/shortlink"
	"jundle/internal/store"
)

// Taken is why no link can be made under an address.
const Taken = "This short address is taken, by a page or another link."

// ReadList reads a list of short links (shortlink.ReadList), notes rows whose address
// leads somewhere already, and makes a link of each row that has nothing wrong with it
// where keep is set. A row that cannot be kept says why, and keeps no other back.
func (u Links) ReadList(ctx context.Context, workspace uuid.UUID, text string, keep bool) ([]shortlink.Entry, error) {
	entries, err := shortlink.ReadList(text)
	if err != nil {
		return nil, err
	}
	if err := u.noteTaken(ctx, entries); err != nil {
		return nil, err
	}
	if !keep {
		return entries, nil
	}
	for i := range entries {
		entry := &entries[i]
		if entry.Wrong != "" {
			continue
		}
		added, err := u.add(ctx, workspace, entry.Address, entry.Link)
		var full *store.QuotaError
		switch {
		case err == nil:
			entry.Address = added.Address()
		case errors.Is(err, store.ErrAddressTaken):
			entry.Wrong = Taken
		case errors.As(err, &full):
			entry.Wrong = full.Error()
		default:
			slog.Error("a row of a list of short links could not be kept", "row", entry.Row, "error", err)
			entry.Wrong = "Something went wrong on our side with this row. Try it again in a minute."
		}
	}
	return entries, nil
}

// noteTaken notes rows whose short address leads somewhere already.
func (u Links) noteTaken(ctx context.Context, entries []shortlink.Entry) error {
	var chosen []string
	for _, entry := range entries {
		if entry.Address != "" {
			chosen = append(chosen, entry.Address)
		}
	}
	taken, err := u.Store.TakenAddresses(ctx, chosen, u.Now())
	for i := range entries {
		if entries[i].Wrong == "" && taken[entries[i].Address] {
			entries[i].Wrong = Taken
		}
	}
	return err
}
