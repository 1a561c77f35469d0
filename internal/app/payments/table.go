package payments

import (
	"context"
	"io"

	"github.com/google/uuid"

	"jundle/internal/core/payment"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/store"
)

// WriteTable writes all payments of a workspace that were made or failed as a table (RFC 4180), the oldest first.
func WriteTable(ctx context.Context, from *store.Store, workspace uuid.UUID, to io.Writer) error {
	heads := []string{"id", "begun", "paid", "state", "amount", "given_back", "currency", "for", "page", "source", "word", "own"}
	return spreadsheet.Write(to, heads, func(write func(...string) error) error {
		return from.EachPayment(ctx, workspace, func(one store.ListedPayment) error {
			back := payment.Money{Minor: one.Refunded, Currency: one.Currency}
			return write(one.ID.String(), spreadsheet.Moment(&one.BegunAt), spreadsheet.Moment(one.PaidAt), string(one.Record().State()),
				one.Money().Plain(), back.Plain(), one.Currency, one.BlockTitle, one.PageName, one.From, one.Word, spreadsheet.Yes(one.Own))
		})
	})
}
