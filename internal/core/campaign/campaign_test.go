package campaign_test

import (
	"net/url"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/campaign"
	"jundle/internal/fuzzing"
)

func TestAValueIsWrittenOneWay(t *testing.T) {
	for given, kept := range map[string]string{
		"Letter": "letter", " letter ": "letter", "Kiln  Opening\tJune": "kiln_opening_june", "Töpfe & Co": "töpfe_&_co", "a\x00b": "ab",
		"\xff": "", "": "",
		strings.Repeat("é", 150): strings.Repeat("é", 100),
	} {
		assert.Equal(t, kept, campaign.Normalise(given), "%q", given)
	}
}

func TestTagsAreReadOutOfAnAddress(t *testing.T) {
	for query, tags := range map[string]campaign.Tags{
		"":    {},
		"a=b": {},
		"utm_source=Studio+Letter&utm_medium=e-mail&utm_campaign=Spring%20Firing&utm_term=bowls&utm_content=top": {
			Source: "studio_letter", Medium: "e-mail", Campaign: "spring_firing", Term: "bowls", Content: "top",
		},
		"utm_source=first&utm_source=second":     {Source: "first"},
		"utm_source=a&%zz=broken&utm_medium=b;c": {Source: "a"},
	} {
		assert.Equal(t, tags, campaign.Read(query), query)
	}
}

func FuzzRead(f *testing.F) {
	f.Add("utm_source=a%20b&utm_term=%ff")
	f.Fuzz(func(t *testing.T, query string) {
		fuzzing.Bounded(t, func() {
			tags := campaign.Read(query)
			for _, value := range []string{tags.Source, tags.Medium, tags.Campaign, tags.Term, tags.Content} {
				if !utf8.ValidString(value) || campaign.Normalise(value) != value {
					t.Fatalf("%q gave %q", query, value)
				}
			}
		})
	})
}

func TestTagsGoBehindWhatIsThereAndBeforeTheFragment(t *testing.T) {
	tags := campaign.Tags{Source: "loft", Medium: "social", Campaign: "spring_firing", Content: "dates"}
	cases := []struct {
		name, address, finished string
		kept                    []string
	}{
		{
			"nothing there", "https://kiln.example/",
			"https://kiln.example/?utm_source=loft&utm_medium=social&utm_campaign=spring_firing&utm_content=dates", nil,
		},
		{
			"a query and a fragment", "https://kiln.example/a?b=c&b=d#now",
			"https://kiln.example/a?b=c&b=d&utm_source=loft&utm_medium=social&utm_campaign=spring_firing&utm_content=dates#now", nil,
		},
		{
			"tags of the destination's own", "https://kiln.example/?utm_campaign=theirs&UTM_Source=x",
			"https://kiln.example/?utm_campaign=theirs&UTM_Source=x&utm_medium=social&utm_content=dates",
			[]string{"utm_source", "utm_campaign"},
		},
		{
			"an empty query", "https://kiln.example/?",
			"https://kiln.example/?utm_source=loft&utm_medium=social&utm_campaign=spring_firing&utm_content=dates", nil,
		},
		{
			"a question mark in the fragment", "https://kiln.example/#/a?b",
			"https://kiln.example/?utm_source=loft&utm_medium=social&utm_campaign=spring_firing&utm_content=dates#/a?b", nil,
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			finished, kept := campaign.Add(c.address, tags, false)
			assert.Equal(t, c.finished, finished)
			assert.Equal(t, c.kept, kept)
		})
	}
	replaced, kept := campaign.Add("https://kiln.example/?utm_source=theirs&a=b", campaign.Tags{Source: "loft"}, true)
	assert.Equal(t, "https://kiln.example/?a=b&utm_source=loft", replaced)
	assert.Empty(t, kept)
}

// Source: WHATWG URL, 5.2, the application/x-www-form-urlencoded percent-encode
// set: everything but ASCII letters and digits and * - . _, with + for a space.
func TestValuesAreEncodedAsTheStandardSays(t *testing.T) {
	finished, _ := campaign.Add("https://kiln.example/", campaign.Tags{Source: "a b*-._~é&=+#%/ö"}, false)
	assert.Equal(t, "https://kiln.example/?utm_source=a+b*-._%7E%C3%A9%26%3D%2B%23%25%2F%C3%B6", finished)
}

func TestWhatIsAddedIsReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		value := func(name string) string { return campaign.Normalise(rapid.String().Draw(t, name)) }
		tags := campaign.Tags{
			Source: value("source"), Medium: value("medium"), Campaign: value("campaign"), Term: value("term"),
			Content: value("content"),
		}
		address, _ := campaign.Add("https://kiln.example/?a=1#b", tags, false)
		parsed, err := url.Parse(address)
		if err != nil || campaign.Read(parsed.RawQuery) != tags || parsed.Fragment != "b" || parsed.Query().Get("a") != "1" {
			t.Fatalf("%+v became %s", tags, address)
		}
	})
}

func TestAValueThatIsNearlyAKnownOneIsNoticed(t *testing.T) {
	known := []string{"letter", "studio_letter", "spring_2026", "card"}
	for value, near := range map[string]string{
		"letter": "", "letters": "letter", "leter": "letter", "lettre": "letter", "letterx": "letter", "studioletter": "studio_letter",
		"studio-letter": "studio_letter",
		"spring_2027":   "spring_2026", "film": "", "car": "", "cards": "card", "cart": "card", "": "",
	} {
		assert.Equal(t, near, campaign.Near(value, known), value)
	}
	assert.Empty(t, campaign.Near("letter", []string{"letters", "letter"}), "a value that is known is no slip")
}

func TestPaidVisitsAreKnownByTheMediumTheTradeWrites(t *testing.T) {
	for medium, paid := range map[string]bool{
		"cpc": true, "ppc": true, "cpm": true, "paid": true, "paid_social": true, "paidsearch": true,
		"social": false, "email": false, "": false, "unpaid": false, "cpcs": false,
	} {
		assert.Equal(t, paid, campaign.IsPaid(medium), medium)
	}
}
