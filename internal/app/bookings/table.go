// Package bookings writes down times that visitors asked for.
package bookings

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

// WriteTable writes all times of a workspace that visitors asked for as a table (RFC 4180), in the order of time.
func WriteTable(ctx context.Context, from *store.Store, workspace uuid.UUID, to io.Writer) error {
	lines := csv.NewWriter(to)
	lines.UseCRLF = true
	err := lines.Write([]string{
		"id", "from", "to", "zone", "state", "name", "address", "word", "reply", "for", "page", "source", "asked", "price", "paid", "currency",
		"own",
	})
	if err != nil {
		return err
	}
	err = from.EachBooking(ctx, workspace, func(one store.ListedBooking) error {
		price, paid, own := "", "", ""
		if one.Price > 0 {
			price, paid = one.Cost().Plain(), payment.Money{Minor: one.Paid, Currency: one.Currency}.Plain()
		}
		if one.Own {
			own = "yes"
		}
		cells := []string{
			one.ID.String(), one.StartsAt.UTC().Format(time.RFC3339), one.EndsAt.UTC().Format(time.RFC3339), one.Zone,
			string(one.State), one.Name, one.Address, one.Word, one.Reply, one.BlockTitle, one.PageName, one.From,
			one.AskedAt.UTC().Format(time.RFC3339), price, paid, one.Currency, own,
		}
		for i := range cells {
			cells[i] = spreadsheet.Defuse(cells[i])
		}
		return lines.Write(cells)
	})
	lines.Flush()
	return errors.Join(err, lines.Error())
}
