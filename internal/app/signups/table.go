package signups

import (
	"context"
	"io"

	"github.com/google/uuid"

	"jundle/internal/core/spreadsheet"
	"jundle/internal/store"
)

// WriteTable writes all sign-ups of a workspace as a table (RFC 4180).
func WriteTable(ctx context.Context, from *store.Store, workspace uuid.UUID, to io.Writer) error {
	heads := []string{"address", "confirmed", "asked", "source", "page", "form", "language", "consent", "own"}
	return spreadsheet.Write(to, heads, func(write func(...string) error) error {
		return from.EachSignUp(ctx, workspace, func(one store.ListedSignUp) error {
			return write(one.Address, spreadsheet.Moment(one.ConfirmedAt), spreadsheet.Moment(&one.AskedAt), one.From, one.PageName,
				one.BlockTitle, one.Language, one.Consent, spreadsheet.Yes(one.Own))
		})
	})
}
