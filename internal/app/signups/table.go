package signups

import (
	"context"
	"encoding/csv"
	"errors"
	"io"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/spreadsheet"
	"jundle/internal/store"
)

// WriteTable writes all sign-ups of a workspace as a table (RFC 4180).
func WriteTable(ctx context.Context, from *store.Store, workspace uuid.UUID, to io.Writer) error {
	lines := csv.NewWriter(to)
	lines.UseCRLF = true
	err := lines.Write([]string{"address", "confirmed", "asked", "source", "page", "form", "language", "consent", "own"})
	if err != nil {
		return err
	}
	err = from.EachSignUp(ctx, workspace, func(one store.ListedSignUp) error {
		confirmed, own := "", ""
		if one.ConfirmedAt != nil {
			confirmed = one.ConfirmedAt.UTC().Format(time.RFC3339)
		}
		if one.Own {
			own = "yes"
		}
		cells := []string{
			one.Address, confirmed, one.AskedAt.UTC().Format(time.RFC3339), one.From, one.PageName, one.BlockTitle, one.Language, one.Consent, own,
		}
		for i := range cells {
			cells[i] = spreadsheet.Defuse(cells[i])
		}
		return lines.Write(cells)
	})
	lines.Flush()
	return errors.Join(err, lines.Error())
}
