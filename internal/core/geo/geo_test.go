package geo_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/geo"
)

// RFC 5870: the examples of sections 1, 6.1, 6.2 and 6.3 (geo URIs with altitude, uncertainty,
// crs, and of the poles), and of section 3.4.4, where the order and case of parameters change
// nothing.
func TestGeoAddressesAreReadAsTheRFCWritesThem(t *testing.T) {
	for text, want := range map[string]geo.Point{
		"geo:13.4125,103.8667":                          {Lat: 13.4125, Lon: 103.8667},
		"geo:48.2010,16.3695,183":                       {Lat: 48.201, Lon: 16.3695},
		"geo:48.198634,16.371648;crs=wgs84;u=40":        {Lat: 48.19863, Lon: 16.37165},
		"geo:90,-22.43;crs=WGS84":                       {Lat: 90, Lon: -22.43},
		"geo:90,46":                                     {Lat: 90, Lon: 46},
		"geo:22.300,-118.44":                            {Lat: 22.3, Lon: -118.44},
		"geo:22.3,-118.4400":                            {Lat: 22.3, Lon: -118.44},
		"geo:66,30;u=6.500;FOo=this%2dthat":             {Lat: 66, Lon: 30},
		"geo:66.0,30;u=6.5;foo=this-that":               {Lat: 66, Lon: 30},
		"GEO:47,11;foo=blue;bar=white":                  {Lat: 47, Lon: 11},
		"geo:51.5,-0.12?q=51.5,-0.12(The%20old%20mill)": {Lat: 51.5, Lon: -0.12},
	} {
		got, err := geo.Read(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"geo:91,0", "geo:1", "geo:1,2;crs=Moon-2011", "geo:a,b"} {
		_, err := geo.Read(text)
		assert.ErrorIs(t, err, geo.ErrNoPlace, text)
	}
	assert.Equal(t, "geo:48.201,16.3695", geo.Point{Lat: 48.201, Lon: 16.3695}.URI())
}

func TestCoordinatesAreReadAsPeopleCopyThem(t *testing.T) {
	parliament := geo.Point{Lat: 51.50074, Lon: -0.12462}
	for _, text := range []string{
		"51.50074, -0.12462", "51.50074,-0.12462", "51.50074 -0.12462", "51.50074° N, 0.12462° W", "51.50074N 0.12462W",
		"N 51.50074, W 0.12462", "0.12462 W, 51.50074 N", "51,50074; −0,12462", " 51.50074 / -0.12462 ",
		"https://maps.example/@51.50074,-0.12462,17z", "https://maps.example/?q=51.50074,-0.12462",
		"https://maps.example/search?api=1&query=51.50074%2C-0.12462", "https://maps.example/#map=17/51.50074/-0.12462",
		"https://maps.example/?mlat=51.50074&mlon=-0.12462#map=9/1/2",
		"https://maps.example/?ll=51.50074,-0.12462&q=The+old+mill",
	} {
		got, err := geo.Read(text)
		require.NoError(t, err, text)
		assert.Equal(t, parliament, got, text)
	}
	for _, text := range []string{
		`51°30′2.664″N 0°7′28.632″W`, `51° 30' 2.664" N, 0° 7' 28.632" W`, `51°30.0444'N, 0°7.4772'W`,
	} {
		got, err := geo.Read(text)
		require.NoError(t, err, text)
		assert.InDelta(t, parliament.Lat, got.Lat, 0.00002, text)
		assert.InDelta(t, parliament.Lon, got.Lon, 0.00002, text)
	}
	for _, text := range []string{
		"", "Mill Lane 4", "51.5", "200, 300", "51°70′N 0°W", "51.5 N, 0.1 N", "https://maps.example/", "javascript:1,2",
		strings.Repeat("1,", 3000), "4 December 2026",
	} {
		_, err := geo.Read(text)
		assert.ErrorIs(t, err, geo.ErrNoPlace, text)
	}
}

// Codes and the middles of their areas were worked out with the package open-location-code 1.0.3
// of npm, to five decimals.
func TestOpenLocationCodesAreReadAsTheLibraryReadsThem(t *testing.T) {
	for code, want := range map[string]geo.Point{
		"9C3XGV2G+": {Lat: 51.50125, Lon: -0.12375}, "9C3XGV2G+75": {Lat: 51.50069, Lon: -0.12456},
		"9C3XGV2G+75R": {Lat: 51.50074, Lon: -0.12461},
		"4RRH46V8+74":  {Lat: -33.85681, Lon: 151.21531}, "4RRH46V8+74M": {Lat: -33.85679, Lon: 151.2153},
		"8Q7XMP5W+C5R": {Lat: 35.65861, Lon: 139.74539},
		"CVXXXXXX+":    {Lat: 89.99875, Lon: 179.99875}, "222233XX+": {Lat: -89.90125, Lon: -179.90125},
		"8fvc9g8f+6xq": {Lat: 47.36559, Lon: 8.52498},
		"7FG40000+":    {Lat: 20.5, Lon: 2.5},
	} {
		got, err := geo.Read(code)
		require.NoError(t, err, code)
		assert.InDelta(t, want.Lat, got.Lat, 0.00001, code)
		assert.InDelta(t, want.Lon, got.Lon, 0.00001, code)
	}
	for _, code := range []string{"GV2G+75", "9C3XGV2G+7", "9C3XGV2A+75", "9C3XGV2G75", "XC3XGV2G+75", "00000000+"} {
		_, err := geo.Read(code)
		assert.ErrorIs(t, err, geo.ErrNoPlace, code)
	}
}

func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		point := geo.Point{
			Lat: float64(rapid.IntRange(-90e5, 90e5).Draw(t, "lat")) / 1e5, Lon: float64(rapid.IntRange(-180e5, 180e5).Draw(t, "lon")) / 1e5,
		}
		for _, text := range []string{point.URI(), point.String(), point.Shown()} {
			if again, err := geo.Read(text); err != nil || again != point {
				t.Fatalf("%s is read as %v, %v", text, again, err)
			}
		}
	})
}

func FuzzRead(f *testing.F) {
	f.Add("51°30′2.664″N 0°7′28.632″W")
	f.Add("https://maps.example/@51.5,-0.1")
	f.Fuzz(func(t *testing.T, text string) {
		if point, err := geo.Read(text); err == nil && !point.Valid() {
			t.Fatalf("%q is read as %v", text, point)
		}
	})
}
