package public

import (
	"net/netip"
	"strings"
	"testing"
	"unicode/utf8"

	"jundle/internal/fuzzing"
)

// FuzzRequest reads every text of a request that the listener reads.
func FuzzRequest(f *testing.F) {
	f.Add("loft", "https://l.photoloft.example/out?u=1", "203.0.113.7, 10.0.0.1", "127.0.0.1:4000")
	f.Add("\xff\x00", "android-app://com.a.b/", "::1%a,,", "[::1%eth0]:1")
	s := &Server{Options: Options{TrustedProxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")}}}
	f.Fuzz(func(t *testing.T, tag, referrer, forwarded, connection string) {
		fuzzing.Bounded(t, func() {
			for _, text := range []string{referrerHost(referrer), tagAsGiven(tag), s.clientOf(connection, []string{forwarded})} {
				if !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
					t.Fatalf("%q is no text that can be kept", text)
				}
			}
		})
	})
}
