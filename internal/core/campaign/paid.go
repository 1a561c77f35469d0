package campaign

import (
	"slices"
	"strings"
)

// paidMedia are what the trade writes as the medium of an advertisement that is paid for by
// the click, the view or the sale (common practice, no single source).
var paidMedia = []string{"cpc", "ppc", "cpm", "cpv", "cpa"}

// IsPaid tells whether a medium, normalised, is that of an advertisement.
func IsPaid(medium string) bool {
	return slices.Contains(paidMedia, medium) || strings.HasPrefix(medium, "paid")
}
