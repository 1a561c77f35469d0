package traffic_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/traffic"
)

func TestTheLanguageIsTheOneABrowserAsksForFirst(t *testing.T) {
	for header, language := range map[string]string{
		// RFC 9110 s12.5.4, the example, and RFC 5646, appendix A.
		"da, en-gb;q=0.8, en;q=0.7": "da", "de-CH-1996": "de", "zh-Hant": "zh", "sr-Latn-RS": "sr",
		"EN-us": "en", " fr ; q=1": "fr", "*": "", "": "", "x-whine": "", "qq": "", "en_US": "", "tlh": "", ";;;": "",
	} {
		assert.Equal(t, language, traffic.LanguageOf(header), header)
	}
}

func FuzzLanguageOf(f *testing.F) {
	f.Add("da, en-gb;q=0.8")
	f.Fuzz(func(t *testing.T, header string) {
		if code := traffic.LanguageOf(header); code != "" && len(code) != 2 {
			t.Fatalf("%q gave %q", header, code)
		}
	})
}
