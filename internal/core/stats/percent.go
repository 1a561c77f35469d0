package stats

import (
	"fmt"
	"math"
)

// next is how near a share is to none or to all that it is called that: nearer than any count makes it.
const next = 1e-9

// Percent writes a share of 0 or more in per cent, the same everywhere: one decimal below ten and above 99.5, none
// between. Only what is none is 0 %, and only what is all is 100 %. Halves are rounded up. The sign stands behind a
// space at which no line breaks. The studio's own is figures.ts, held to the same table.
func Percent(share float64) string {
	tenths, whole := math.Floor(share*1000+0.5), math.Floor(share*100+0.5)
	switch {
	case share <= next:
		return "0\u00a0%"
	case tenths < 1:
		return "<0.1\u00a0%"
	case tenths < 100:
		return fmt.Sprintf("%.1f\u00a0%%", tenths/10)
	case whole < 100 || share >= 1-next:
		return fmt.Sprintf("%.0f\u00a0%%", whole)
	case tenths < 1000:
		return fmt.Sprintf("%.1f\u00a0%%", tenths/10)
	default:
		return ">99.9\u00a0%"
	}
}
