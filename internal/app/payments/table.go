package payments

import (
	"context"
	"encoding/csv"
	"errors"
	"io"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/payment"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/store"
)

// WriteTable writes all payments of a workspace that were made or failed as a table (RFC 4180), the oldest first.
func WriteTable(ctx context.Context, from *store.Store, workspace uuid.UUID, to io.Writer) error {
	lines := csv.NewWriter(to)
	lines.UseCRLF = true
	err := lines.Write([]string{"id", "begun", "paid", "state", "amount", "given_back", "currency", "for", "page", "source", "word", "own"})
	if err != nil {
		return err
	}
	err = from.EachPayment(ctx, workspace, func(one store.ListedPayment) error {
		paid, own := "", ""
		if one.PaidAt != nil {
			paid = one.PaidAt.UTC().Format(time.RFC3339)
		}
		if one.Own {
			own = "yes"
		}
		back := payment.Money{Minor: one.Refunded, Currency: one.Currency}
		cells := []string{
			one.ID.String(), one.BegunAt.UTC().Format(time.RFC3339), paid, string(one.Record().State()), one.Money().Plain(), back.Plain(),
			one.Currency, one.BlockTitle, one.PageName, one.From, one.Word, own,
		}
		for i := range cells {
			cells[i] = spreadsheet.Defuse(cells[i])
		}
		return lines.Write(cells)
	})
	lines.Flush()
	return errors.Join(err, lines.Error())
}
