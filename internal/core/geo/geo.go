// Package geo reads where something is out of what people paste (decimal degrees, degrees
// with minutes, a geo address, an address of a map, an Open Location Code) and writes it as
// the address that map programs open. It asks nobody.
package geo

import (
	"errors"
	"fmt"
	"math"
	"net/url"
	"regexp"
	"strconv"
	"strings"
)

// Point is a place on the earth in degrees of WGS 84: Lat from -90 (south) to 90, Lon from
// -180 (west) to 180.
type Point struct {
	Lat float64 `json:"lat" minimum:"-90" maximum:"90"`
	Lon float64 `json:"lon" minimum:"-180" maximum:"180"`
}

// ErrNoPlace is answered for a text in which no coordinates stand.
var ErrNoPlace = errors.New("there are no coordinates in this")

// digits is how many decimals are kept: five are about a metre.
const digits = 5

// How much of a text is read, in bytes: of an address, and of two numbers.
const (
	maxText    = 2048
	maxDegrees = 100
)

// Read finds the coordinates in a text; ErrNoPlace. Latitude comes first.
func Read(text string) (Point, error) {
	text = strings.TrimSpace(text)
	if len(text) > maxText {
		return Point{}, ErrNoPlace
	}
	for _, read := range []func(string) (Point, bool){readURI, readMapAddress, readCode, readDegrees} {
		if point, ok := read(text); ok && point.Valid() {
			return point.rounded(), nil
		}
	}
	return Point{}, ErrNoPlace
}

// Valid tells whether it is on the earth.
func (p Point) Valid() bool {
	return p.Lat >= -90 && p.Lat <= 90 && p.Lon >= -180 && p.Lon <= 180
}

func (p Point) rounded() Point {
	scale := math.Pow(10, digits)
	return Point{math.Round(p.Lat*scale) / scale, math.Round(p.Lon*scale) / scale}
}

// URI is the point as a geo address (RFC 5870).
func (p Point) URI() string { return "geo:" + p.String() }

// String is the point as two decimal numbers with a comma between, as RFC 5870 has them.
func (p Point) String() string {
	number := func(of float64) string { return strconv.FormatFloat(of, 'f', -1, 64) }
	return number(p.Lat) + "," + number(p.Lon)
}

// uri is a geo address. Source: RFC 5870 s3.3; parameters are read by crs alone.
var uri = regexp.MustCompile(
	`(?i)^geo:(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)(?:,-?\d+(?:\.\d+)?)?((?:;[a-z0-9-]+(?:=[^;?#\s]*)?)*)(?:[?#]\S*)?$`,
)

func readURI(text string) (Point, bool) {
	found := uri.FindStringSubmatch(text)
	if found == nil {
		return Point{}, false
	}
	for _, parameter := range strings.Split(found[3], ";") {
		name, value, _ := strings.Cut(parameter, "=")
		if strings.EqualFold(name, "crs") && !strings.EqualFold(value, "wgs84") {
			return Point{}, false // measured on another globe
		}
	}
	return pointOf(found[1], found[2])
}

func pointOf(lat, lon string) (Point, bool) {
	y, err := strconv.ParseFloat(lat, 64)
	if err != nil {
		return Point{}, false
	}
	x, err := strconv.ParseFloat(lon, 64)
	return Point{y, x}, err == nil
}

var (
	pair     = `(-?\d{1,3}(?:\.\d+)?)(?:,|%2C)\s*(-?\d{1,3}(?:\.\d+)?)`
	inPath   = regexp.MustCompile(`/@` + pair)
	inHash   = regexp.MustCompile(`#(?:map=)?\d{1,2}(?:\.\d+)?/(-?\d{1,3}(?:\.\d+)?)/(-?\d{1,3}(?:\.\d+)?)`)
	anywhere = regexp.MustCompile(`(?i)^(?:loc:)?` + pair + `$`)
)

// readMapAddress reads an address of a map: with its centre in the path or behind the #, or
// with a place in its query. Common practice of maps on the web; no single source.
func readMapAddress(text string) (Point, bool) {
	address, err := url.Parse(text)
	if err != nil || address.Scheme != "http" && address.Scheme != "https" {
		return Point{}, false
	}
	query := address.Query()
	for _, name := range []string{"q", "query", "ll", "daddr", "destination", "center", "cp", "sll"} {
		if found := anywhere.FindStringSubmatch(strings.ReplaceAll(strings.TrimSpace(query.Get(name)), "~", ",")); found != nil {
			return pointOf(found[1], found[2])
		}
	}
	for _, names := range [][2]string{{"mlat", "mlon"}, {"lat", "lon"}, {"lat", "lng"}, {"latitude", "longitude"}} {
		if point, ok := pointOf(query.Get(names[0]), query.Get(names[1])); ok {
			return point, true
		}
	}
	for _, pattern := range []*regexp.Regexp{inPath, inHash} {
		if found := pattern.FindStringSubmatch(text); found != nil {
			return pointOf(found[1], found[2])
		}
	}
	return Point{}, false
}

// number is one coordinate as people write it: degrees, with minutes and seconds or without,
// with the side of the world before or behind it.
var number = regexp.MustCompile(`(?i)^\s*([NSEWO])?\s*([-+−]?\d{1,3}(?:[.,]\d+)?)\s*(?:°|deg|º)?\s*` +
	`(?:(\d{1,2}(?:[.,]\d+)?)\s*(?:['′’]|min)\s*(?:(\d{1,2}(?:[.,]\d+)?)\s*(?:["″”]|''|sec)?)?)?\s*([NSEWO])?\s*$`)

// between is what stands between two coordinates.
var between = regexp.MustCompile(`\s*[,;/]\s+|\s*;\s*|\s*/\s*|,`)

func readDegrees(text string) (Point, bool) {
	if len(text) > maxDegrees {
		return Point{}, false
	}
	for _, halves := range splits(text) {
		lat, first, ok := coordinate(halves[0])
		if !ok {
			continue
		}
		lon, second, ok := coordinate(halves[1])
		if !ok {
			continue
		}
		switch {
		case first == "EW" && (second == "NS" || second == ""):
			return Point{lon, lat}, true
		case first != "EW" && second != "NS":
			return Point{lat, lon}, true
		}
	}
	return Point{}, false
}

// splits are the ways to part a text into two coordinates.
func splits(text string) (found [][2]string) {
	for _, at := range between.FindAllStringIndex(text, -1) {
		found = append(found, [2]string{text[:at[0]], text[at[1]:]})
	}
	for i, r := range text {
		if r == ' ' || i > 0 && strings.ContainsRune("NSEWOnsewo", r) {
			found = append(found, [2]string{text[:i], text[i:]}, [2]string{text[:i+1], text[i+1:]})
		}
	}
	return found
}

// coordinate reads one, and on which axis it is: NS, EW, or empty where that is not said.
func coordinate(text string) (degrees float64, axis string, ok bool) {
	found := number.FindStringSubmatch(text)
	if found == nil {
		return 0, "", false
	}
	parts := [3]float64{}
	for i, part := range found[2:5] {
		if part == "" {
			continue
		}
		read, err := strconv.ParseFloat(strings.NewReplacer(",", ".", "−", "-", "+", "").Replace(part), 64)
		if err != nil || i > 0 && read >= 60 {
			return 0, "", false
		}
		parts[i] = read
	}
	degrees = math.Abs(parts[0]) + parts[1]/60 + parts[2]/3600
	if math.Signbit(parts[0]) {
		degrees = -degrees
	}
	side := strings.ToUpper(found[1] + found[5])
	switch side {
	case "":
	case "N":
		axis = "NS"
	case "S":
		axis, degrees = "NS", -degrees
	case "E":
		axis = "EW"
	case "W", "O": // ouest, oeste, ovest
		axis, degrees = "EW", -degrees
	default:
		return 0, "", false
	}
	return degrees, axis, true
}

// Directions fills a pattern of an address with where something is: {lat}, {lon} and {name}.
func Directions(pattern string, to Point, name string) string {
	number := func(of float64) string { return strconv.FormatFloat(of, 'f', -1, 64) }
	return strings.NewReplacer("{lat}", number(to.Lat), "{lon}", number(to.Lon), "{name}", url.QueryEscape(name)).Replace(pattern)
}

// Shown is the point for people: degrees with their sides, like "51.50074° N, 0.12462° W".
func (p Point) Shown() string {
	side := func(of float64, plus, minus string) string {
		if of < 0 {
			plus = minus
		}
		return fmt.Sprintf("%s° %s", strconv.FormatFloat(math.Abs(of), 'f', -1, 64), plus)
	}
	return side(p.Lat, "N", "S") + ", " + side(p.Lon, "E", "W")
}
