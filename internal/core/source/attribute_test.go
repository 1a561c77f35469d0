package source_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/campaign"
	"jundle/internal/core/source"
)

var (
	june   = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	august = time.Date(2026, 8, 1, 12, 0, 0, 0, time.UTC)
)

var known = source.NewNetworks([]source.Network{
	{Name: "Photoloft", Medium: "social", Hosts: []string{"photoloft.example", "loft.example"}},
	{Name: "Reelpond", Medium: "social"},
	{Name: "Findwell", Medium: "search", Hosts: []string{"www.findwell.example"}},
})

var sources = []source.Candidate{
	{ID: "loft", Tags: []string{"loft", "old-loft"}, Hosts: []string{"photoloft.example"}},
	{ID: "reel", Tags: []string{"reel"}, Hosts: []string{"www.reelpond.example"}},
	{ID: "reel2", Tags: []string{"reel2"}, Hosts: []string{"reelpond.example", "clips.example"}, Since: august},
	{ID: "moss", Tags: []string{"moss"}, Hosts: []string{"ilse.pinmoss.example"}, Until: august},
	{ID: "pond", Networks: []string{"Chatpond"}},
	{ID: "letter", Tags: []string{"post"}, Names: []string{"studio_letter", "newsletter"}},
}

func from(name string) campaign.Tags { return campaign.Tags{Source: name} }

func TestTheFirstEvidenceThatAnswersNamesTheSource(t *testing.T) {
	is := func(by source.By, key string) source.Attribution { return source.Attribution{Source: key, By: by} }
	cases := []struct {
		name     string
		evidence source.Evidence
		want     source.Attribution
	}{
		{"a present tag", source.Evidence{Tag: "post"}, is(source.ByTag, "letter")},
		{"a past tag keeps working", source.Evidence{Tag: "old-loft"}, is(source.ByTag, "loft")},
		{"a tag nobody has says nothing", source.Evidence{Tag: "flyer"}, is(source.Untagged, "")},
		{"nothing at all", source.Evidence{}, is(source.Untagged, "")},

		{"a tag before a campaign", source.Evidence{Tag: "post", Campaign: from("reel")}, is(source.ByTag, "letter")},
		{"an unknown tag leaves the word to the campaign", source.Evidence{Tag: "flyer", Campaign: from("reel")}, is(source.ByCampaign, "reel")},
		{"a campaign by tag", source.Evidence{Campaign: from("old-loft")}, is(source.ByCampaign, "loft")},
		{"a campaign by another name", source.Evidence{Campaign: from("newsletter")}, is(source.ByCampaign, "letter")},
		{"a campaign by network", source.Evidence{Campaign: from("photoloft")}, is(source.ByCampaign, "loft")},
		{"a campaign by a network with two", source.Evidence{Campaign: from("reelpond")}, is(source.ByCampaign, "several:Reelpond")},
		{"a campaign nobody knows is unlisted", source.Evidence{Campaign: from("leaflet")}, is(source.ByCampaign, "campaign:leaflet")},
		{"a campaign without a source says nothing", source.Evidence{Campaign: campaign.Tags{Medium: "print"}}, is(source.Untagged, "")},

		{
			"a campaign before a referrer",
			source.Evidence{Campaign: from("leaflet"), Referrer: "photoloft.example"},
			is(source.ByCampaign, "campaign:leaflet"),
		},
		{"a referrer from a profile's host", source.Evidence{Referrer: "photoloft.example"}, is(source.ByReferrer, "loft")},
		{"a referrer from the same domain", source.Evidence{Referrer: "l.photoloft.example"}, is(source.ByReferrer, "loft")},
		{"a referrer from another host of the network", source.Evidence{Referrer: "go.loft.example"}, is(source.ByReferrer, "loft")},
		{"a referrer that only one of two profiles has", source.Evidence{Referrer: "clips.example"}, is(source.ByReferrer, "reel2")},
		{"a referrer that two profiles have", source.Evidence{Referrer: "reelpond.example"}, is(source.ByReferrer, "several:Reelpond")},
		{
			"a referrer from a listed network without a source",
			source.Evidence{Referrer: "findwell.example"},
			is(source.ByReferrer, "network:Findwell"),
		},
		{"a referrer no list knows", source.Evidence{Referrer: "blog.potters.example"}, is(source.ByReferrer, "host:potters.example")},
		{"our own host only says that", source.Evidence{Referrer: "pages.example"}, is(source.Onward, "")},
		{"a profile that was the last on its network", source.Evidence{Referrer: "pinmoss.example"}, is(source.ByReferrer, "moss")},

		{"a referrer before an app", source.Evidence{Referrer: "findwell.example", App: "Photoloft"}, is(source.ByReferrer, "network:Findwell")},
		{"an app before a referrer no list knows", source.Evidence{Referrer: "potters.example", App: "Photoloft"}, is(source.ByApp, "loft")},
		{"an app of a network with one", source.Evidence{App: "Photoloft"}, is(source.ByApp, "loft")},
		{"an app of a network with two", source.Evidence{App: "Reelpond"}, is(source.ByApp, "several:Reelpond")},
		{"an app of a network without a source", source.Evidence{App: "Findwell"}, is(source.ByApp, "network:Findwell")},
		{"an app of a network a source is on without a profile", source.Evidence{App: "Chatpond"}, is(source.ByApp, "pond")},
		{"an app that only the page's own profiles know", source.Evidence{Products: []string{"OS", "Pinmoss"}}, is(source.ByApp, "moss")},
		{"products that are no network's", source.Evidence{Products: []string{"OS", "Kiln"}}, is(source.Untagged, "")},
	}
	attributor := source.NewAttributor(sources, known, "pages.example", "studio.example")
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, attributor.Attribute(c.evidence, august.AddDate(0, 0, 1))) })
	}
}

func TestASecondProfileCastsNoDoubtOnVisitsBeforeIt(t *testing.T) {
	attributor := source.NewAttributor(sources, known)
	assert.Equal(t, "reel", attributor.Attribute(source.Evidence{Referrer: "reelpond.example"}, june).Source)
	assert.Equal(t, "several:Reelpond", attributor.Attribute(source.Evidence{Referrer: "reelpond.example"}, august).Source)
}

func TestAnUnlistedSourceIsTakenApart(t *testing.T) {
	for _, kind := range []source.Unlisted{source.UnlistedCampaign, source.UnlistedNetwork, source.UnlistedHost, source.Several} {
		for _, name := range []string{"leaflet", "a:b", ""} {
			gotKind, gotName, ok := source.ParseUnlisted(kind.Key(name))
			assert.True(t, ok)
			assert.Equal(t, kind, gotKind)
			assert.Equal(t, name, gotName)
		}
	}
	for _, key := range []string{"", "0198c2a4", "tag:x", "campaign"} {
		_, _, ok := source.ParseUnlisted(key)
		assert.False(t, ok, key)
	}
}

// Whatever a visit brings, the answer is one of the page's sources, an unlisted
// one or untagged, and its evidence says which.
func TestEveryVisitHasAnAnswer(t *testing.T) {
	attributor := source.NewAttributor(sources, known, "pages.example")
	ids := map[string]bool{}
	for _, each := range sources {
		ids[each.ID] = true
	}
	word := rapid.OneOf(rapid.String(), rapid.SampledFrom([]string{
		"loft", "reel", "photoloft.example", "reelpond.example", "Reelpond", "..",
		"a.b",
	}))
	rapid.Check(t, func(t *rapid.T) {
		evidence := source.Evidence{
			Tag: word.Draw(t, "tag"), Campaign: campaign.Tags{Source: campaign.Normalise(word.Draw(t, "campaign"))},
			Referrer: word.Draw(t, "referrer"), App: word.Draw(t, "app"), Products: []string{word.Draw(t, "product")},
		}
		got := attributor.Attribute(evidence, june)
		_, _, unlisted := source.ParseUnlisted(got.Source)
		if !ids[got.Source] && !unlisted && got.Source != "" || (got.Source == "") != (got.By == source.Untagged) {
			t.Fatalf("%+v gave %+v", evidence, got)
		}
	})
}

// Source of the domains: the Public Suffix List, its rules for uk and ck.
func TestADomainIsTheOneThatWasRegistered(t *testing.T) {
	for host, domain := range map[string]string{
		"a.b.kiln.co.uk": "kiln.co.uk", "WWW.Kiln.example.": "kiln.example", "www.ck": "www.ck", "192.0.2.1": "192.0.2.1",
		"localhost": "localhost", "": "",
	} {
		assert.Equal(t, domain, source.Domain(host), host)
	}
}

func ExampleAttributor_Attribute() {
	attributor := source.NewAttributor([]source.Candidate{
		{ID: "card", Tags: []string{"card"}},
		{ID: "loft", Tags: []string{"loft"}, Hosts: []string{"photoloft.example"}},
	}, nil)
	for _, evidence := range []source.Evidence{{Tag: "card"}, {Referrer: "m.photoloft.example"}, {}} {
		found := attributor.Attribute(evidence, time.Time{})
		fmt.Printf("%q by %s\n", found.Source, found.By)
	}
	// Output:
	// "card" by tag
	// "loft" by referrer
	// "" by untagged
}
