// Package bookings writes down times that visitors asked for.
package bookings

import (
	"context"
	"io"

	"github.com/google/uuid"

	"jundle/internal/core/payment"
	"jundle/internal/core/spreadsheet"
	"jundle/internal/store"
)

var heads = []string{
	"id", "from", "to", "zone", "state", "name", "address", "word", "reply", "for", "page", "source", "asked", "price", "paid", "currency",
	"own",
}

// WriteTable writes all times of a workspace that visitors asked for as a table (RFC 4180), in the order of time.
func WriteTable(ctx context.Context, from *store.Store, workspace uuid.UUID, to io.Writer) error {
	return spreadsheet.Write(to, heads, func(write func(...string) error) error {
		return from.EachBooking(ctx, workspace, func(one store.ListedBooking) error {
			price, paid := "", ""
			if one.Price > 0 {
				price, paid = one.Cost().Plain(), payment.Money{Minor: one.Paid, Currency: one.Currency}.Plain()
			}
			return write(one.ID.String(), spreadsheet.Moment(&one.StartsAt), spreadsheet.Moment(&one.EndsAt), one.Zone, string(one.State),
				one.Name, one.Address, one.Word, one.Reply, one.BlockTitle, one.PageName, one.From, spreadsheet.Moment(&one.AskedAt), price,
				paid, one.Currency, spreadsheet.Yes(one.Own))
		})
	})
}
