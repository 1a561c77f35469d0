package traffic_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/traffic"
)

func TestAProgramThatNamesItselfOneIsKnown(t *testing.T) {
	for userAgent, want := range map[string]bool{
		"Mozilla/5.0 (compatible; MossCheckBot/1.0; +https://moss.example/bot)": true,
		"UptimeWatch/2.0; monitoring":                                           true,
		"SomeCrawler/1.0 (crawler)":                                             true,
		"MySpider/3.0":                                                          true,
		"LinkPreview":                                                           true,
		"kiln-fetch 2":                                                          true,
		"AssetScan/1.1":                                                         true,
		"Watcher/1.0 (+http://watch.example)":                                   true,
		"two robots":                                                            true,

		"Mozilla/5.0 (Linux; Android 13; CUBOT NOTE 21) AppleWebKit/537.36":                    false,
		"Mozilla/5.0 (Linux; Android 13; CUBOT_X18) Chrome/141":                                false,
		"Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) Mobile/15E148 QRScan/2.1":      false,
		"Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) Mobile/15E148 Photoloft/1":     false,
		"Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0 Botanica/1":    false,
		"Mozilla/5.0 (Linux; Android 14; Scandi Phone) AppleWebKit/537.36 Chrome/141 Safari/1": false,
		"": false,
	} {
		assert.Equal(t, want, traffic.NamesProgram(userAgent), userAgent)
	}
}
