package page_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/audience"
	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
)

func TestEveryPlaceThatLeadsSomewhereFollowsItsDestination(t *testing.T) {
	doc := pagetest.Everything()
	leads := make(map[string]destination.Lead)
	places := 0
	doc.Links(func(link page.Link) {
		places++
		*link.DestinationID = uuid.NewString()
		leads[*link.DestinationID] = destination.Lead{
			ID: *link.DestinationID, Address: "https://kiln.example/moved/" + *link.DestinationID, Swaps: destination.Swaps{
				{From: noon, To: noon.Add(time.Hour), Address: "https://kiln.example/for-an-hour/" + *link.DestinationID},
			},
		}
	})
	assert.Equal(t, 10, places,
		"two icons, a button, a link in a text, a picture, an offer, a film, tickets, where a code is good and a small link")
	assert.Len(t, doc.DestinationIDs(), places)
	doc.Resolve(leads)
	led := func(doc page.Document, to string) {
		t.Helper()
		doc.Links(func(link page.Link) {
			assert.Equal(t, "https://kiln.example/"+to+"/"+*link.DestinationID, *link.Address)
		})
	}
	led(doc, "moved")
	led(doc.LeadingAt(noon), "for-an-hour")
	led(doc, "moved")
	led(doc.LeadingAt(noon.Add(time.Hour)), "moved")
	assert.Equal(t, noon, doc.Next(noon.Add(-time.Minute)), "what is held until then is drawn anew")
	assert.Equal(t, noon.Add(time.Hour), doc.Next(noon))
	for key, items := range doc.Targets(audience.Audience{At: noon}) {
		for _, target := range items {
			if target.DestinationID != "" {
				assert.Contains(t, target.Address, "/for-an-hour/", key)
			}
		}
	}
	assert.Contains(t, doc.Blocks[3].Text.HTML, ` data-destination="`)
}

func TestWhatIsNoDestinationsIDIsTakenOut(t *testing.T) {
	doc := document(button("aaaa", "A"))
	doc.Blocks[0].Button.DestinationID = "' or 1=1"
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Empty(t, tidy.Blocks[0].Button.DestinationID)
}

func TestAFullPageCanBeSavedAgainOnceItsDestinationsAreKnown(t *testing.T) {
	doc := document()
	for i := range 28 {
		doc.Blocks = append(doc.Blocks, page.Block{Key: fmt.Sprintf("text%d", i), Kind: "text", Shown: true, Text: &page.Text{
			HTML: "<p>" + strings.Repeat("€", 3000) + "</p>",
		}})
	}
	full := doc
	for i := 0; ; i++ {
		next := button(fmt.Sprintf("button%d", i), "A")
		next.Button.Address = "https://kiln.example/" + strings.Repeat("x", 2000)
		doc.Blocks = append(doc.Blocks, next)
		tidy, err := page.Tidy(doc)
		if err != nil {
			require.ErrorContains(t, err, "A page takes at most")
			break
		}
		full = tidy
	}
	full.Links(func(link page.Link) { *link.DestinationID = uuid.NewString() })
	_, err := page.Tidy(full)
	assert.NoError(t, err)
}
