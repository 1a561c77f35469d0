package geo

import (
	"math"
	"strings"
)

// alphabet is that of Open Location Code: twenty digits that are hard to mistake. Source: the
// Open Location Code specification.
const alphabet = "23456789CFGHJMPQRVWX"

// readCode reads a full Open Location Code, and answers with the middle of its area. Short
// codes name a town besides, which would have to be looked up.
func readCode(text string) (Point, bool) {
	code := strings.ToUpper(strings.TrimSpace(text))
	plus := strings.IndexByte(code, '+')
	digits := strings.Replace(code, "+", "", 1)
	if plus != 8 || len(digits) < 8 || len(digits) == 9 || len(digits) > 15 {
		return Point{}, false
	}
	padded := strings.TrimRight(digits, "0")
	if len(padded) < len(digits) && (len(digits) > 8 || len(padded)%2 != 0) || padded == "" {
		return Point{}, false
	}
	lat, lon := -90.0, -180.0
	high, wide := 400.0, 400.0 // of the area so far; the first digit parts it by twenty
	for i := 0; i < len(padded); i++ {
		value := strings.IndexByte(alphabet, padded[i])
		if value < 0 || i == 0 && value > 8 || i == 1 && value > 17 {
			return Point{}, false
		}
		switch {
		case i >= 10: // beyond ten digits each parts its area into five rows of four
			high, wide = high/5, wide/4
			lat += float64(value/4) * high
			lon += float64(value%4) * wide
		case i%2 == 0:
			high /= 20
			lat += float64(value) * high
		default:
			wide /= 20
			lon += float64(value) * wide
		}
	}
	return Point{math.Min(lat+high/2, 90), lon + wide/2}, true
}
