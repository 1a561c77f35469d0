package campaign_test

import (
	"net/url"
	"testing"

	"jundle/internal/core/campaign"
	"jundle/internal/fuzzing"
)

func FuzzAdd(f *testing.F) {
	f.Add("https://kiln.example/a?utm_source=x&b=c#top", "Studio  Letter", "spring", true)
	f.Add("https://kiln.example/?%zz&&=&a", "\xff", "a&b=c#d", false)
	f.Fuzz(func(t *testing.T, address, source, name string, overwrite bool) {
		fuzzing.Bounded(t, func() {
			before, err := url.Parse(address)
			if err != nil {
				return
			}
			finished, _ := campaign.Add(address, campaign.Tags{Source: source, Campaign: name}, overwrite)
			after, err := url.Parse(finished)
			if err != nil || after.Host != before.Host || after.Path != before.Path {
				t.Fatalf("%q became %q", address, finished)
			}
			campaign.Near(source, []string{name, source + "s"})
		})
	})
}
