package source_test

import (
	"testing"
	"time"

	"jundle/internal/core/campaign"
	"jundle/internal/core/source"
	"jundle/internal/fuzzing"
)

func FuzzAttribute(f *testing.F) {
	attributor := source.NewAttributor([]source.Candidate{{
		ID: "loft", Tag: "loft", Tags: []string{"loft"}, Hosts: []string{"photoloft.example"},
	}},
		source.NewNetworks([]source.Network{{Name: "Pinmoss", Medium: "social", Hosts: []string{"pinmoss.example"}}}), "pages.example")
	f.Add("loft", "utm", "l.photoloft.example", "Pinmoss/1.0")
	f.Add("", "", "com.a.b", "")
	f.Fuzz(func(t *testing.T, tag, from, referrer, product string) {
		fuzzing.Bounded(t, func() {
			got := attributor.Attribute(source.Evidence{
				Tag: tag, Campaign: campaign.Tags{Source: campaign.Normalise(from)}, Referrer: referrer,
				Products: []string{product},
			}, time.Unix(1, 0))
			if got.By == source.Untagged && got.Source != "" {
				t.Fatalf("%v", got)
			}
		})
	})
}

func FuzzClean(f *testing.F) {
	f.Add("https://photoloft.example/ilse", "letter", "Photoloft")
	f.Fuzz(func(t *testing.T, profile, name, network string) {
		fuzzing.Bounded(t, func() {
			clean, err := source.Place{Kind: source.Profile, Profiles: []string{profile}, Names: []string{name}, Networks: []string{network}}.Clean()
			if err != nil {
				return
			}
			if _, err := clean.Clean(); err != nil {
				t.Fatalf("%v is clean and is not: %v", clean, err)
			}
			source.HostsOf(clean.Profiles)
		})
	})
}
