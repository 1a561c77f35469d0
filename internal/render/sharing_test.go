package render_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/render"
)

// head reads back what a page says of itself: meta elements by their name or property, links by
// rel, and data for search engines by type.
func head(t *testing.T, doc page.Document) (said map[string]string, data map[string]map[string]any) {
	t.Helper()
	root, err := html.Parse(strings.NewReader(draw(t, doc)))
	require.NoError(t, err)
	said, data = map[string]string{}, map[string]map[string]any{}
	for node := range root.Descendants() {
		if node.Type != html.ElementNode {
			continue
		}
		of := map[string]string{}
		for _, attribute := range node.Attr {
			of[attribute.Key] = attribute.Val
		}
		switch node.Data {
		case "meta":
			said[of["name"]+of["property"]] = of["content"]
		case "link":
			said[of["rel"]] = of["href"]
		case "title":
			said["title"] = node.FirstChild.Data
		case "script":
			var read any
			if of["type"] != "application/ld+json" {
				continue
			}
			require.NoError(t, json.Unmarshal([]byte(node.FirstChild.Data), &read))
			if list, several := read.([]any); several {
				read = list[0]
			}
			data[read.(map[string]any)["@type"].(string)] = read.(map[string]any)
		}
	}
	return said, data
}

// The properties are those of the Open Graph protocol (ogp.me): title, type, image and url are
// required; width and height are structured properties of the image.
func TestAPageSaysWhatItIsToWhoeverDrawsACardForIt(t *testing.T) {
	said, _ := head(t, pagetest.Everything())
	assert.Equal(t, "Quarrow Clay, potter", said["title"])
	assert.Equal(t, "Pots, fired with wood", said["description"])
	for property, want := range map[string]string{
		"og:type": "profile", "og:title": "Quarrow Clay, potter", "og:description": "Pots, fired with wood",
		"og:url": visit.Origin + "/quarrow-clay", "og:image": visit.Origin + "/media/" + strings.Repeat("6", 64) + ".jpg",
		"og:image:width": "720", "og:image:height": "480", "canonical": visit.Origin + "/quarrow-clay",
		"icon": "/media/" + strings.Repeat("a", 63) + "0.jpg",
	} {
		assert.Equal(t, want, said[property], property)
	}
	assert.NotContains(t, said, "robots")

	bare := pagetest.Everything()
	bare.Sharing = page.Sharing{}
	said, _ = head(t, bare)
	assert.Equal(t, "Quarrow Clay", said["og:title"])
	assert.Equal(t, visit.Origin+render.SharingPath+"quarrow-clay/3.png", said["og:image"])
	assert.Equal(t, "1200", said["og:image:width"])
}

// Terms are those of schema.org: ProfilePage with its mainEntity, a Person or an Organization;
// Event with name, startDate, endDate and location; Place with GeoCoordinates and
// OpeningHoursSpecification.
func TestSearchEnginesReadWhosePageItIsAndWhenSomethingIsOn(t *testing.T) {
	_, data := head(t, pagetest.Everything())
	assert.Equal(t, map[string]any{
		"@context": "https://schema.org", "@type": "ProfilePage", "url": visit.Origin + "/quarrow-clay", "inLanguage": "en",
		"mainEntity": map[string]any{
			"@type": "Organization", "name": "Quarrow Clay, potter", "url": visit.Origin + "/quarrow-clay", "description": "Pots, fired with wood",
			"image":  visit.Origin + "/media/" + strings.Repeat("a", 64) + ".jpg",
			"sameAs": []any{"https://photoloft.example/quarrowclay", "https://pinmoss.example/quarrowclay"},
		},
	}, data["ProfilePage"])
	assert.Equal(t, map[string]any{
		"@context": "https://schema.org", "@type": "Event", "name": "Winter opening", "startDate": "2026-12-04T18:00:00Z",
		"endDate": "2026-12-04T21:00:00Z", "location": map[string]any{"@type": "Place", "name": "The old mill"},
	}, data["Event"])
	assert.Equal(t, map[string]any{
		"@context": "https://schema.org", "@type": "Place", "name": "The studio", "address": "Mill Lane 4\nQuarrow",
		"geo": map[string]any{"@type": "GeoCoordinates", "latitude": 51.5, "longitude": -0.12},
		"openingHoursSpecification": []any{map[string]any{
			"@type": "OpeningHoursSpecification", "dayOfWeek": []any{"Wednesday", "Saturday"}, "opens": "10:00", "closes": "18:00",
		}},
	}, data["Place"])
}

func TestAPageThatIsNotToBeListedSaysSoAndTellsSearchEnginesNothing(t *testing.T) {
	doc := pagetest.Without(pagetest.Everything(), "dates", "place")
	doc.Sharing.Unlisted = true
	said, data := head(t, doc)
	assert.Equal(t, "noindex", said["robots"])
	assert.Empty(t, data)
	assert.Equal(t, "Quarrow Clay, potter", said["og:title"], "a post with it has its card all the same")
}
