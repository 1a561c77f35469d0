package public

import (
	"net"
	"net/netip"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/valyala/fasthttp"

	"jundle/internal/fuzzing"
)

// FuzzRequest reads everything of a request that the listener reads.
func FuzzRequest(f *testing.F) {
	f.Add("/quarrow-clay/-/1/aaaa.b/loft?utm_source=x", "https://l.photoloft.example/out?u=1", "203.0.113.7, 10.0.0.1", "bytes=2-4", "prefetch;prerender")
	f.Add("/%00/..//-", "android-app://com.a.b/", "::1%a,,", "bytes=-", "\xff")
	s := &Server{Options: Options{TrustedProxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.0/8")}}}
	f.Fuzz(func(t *testing.T, target, referrer, forwarded, part, purpose string) {
		fuzzing.Bounded(t, func() {
			var asked fasthttp.Request
			asked.SetRequestURI(target)
			for name, value := range map[string]string{"Referer": referrer, "X-Forwarded-For": forwarded, "Range": part, "Sec-Purpose": purpose} {
				asked.Header.Set(name, value)
			}
			var ctx fasthttp.RequestCtx
			ctx.Init(&asked, &net.TCPAddr{IP: net.IPv4(127, 0, 0, 1)}, nil)
			parts := strings.Split(strings.TrimPrefix(string(ctx.Path()), "/"), "/")
			countedPath(parts)
			isFile(parts)
			s.clientOf(&ctx)
			purposes(&ctx.Request.Header)
			for _, text := range []string{referrerHost(string(ctx.Request.Header.Referer())), tagAsGiven(parts[len(parts)-1])} {
				if !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
					t.Fatalf("%q is no text that can be kept", text)
				}
			}
			if from, length, ok := askedRange(&ctx, "x", 1000); ok && (from < 0 || length < 0 || from+length > 1000) {
				t.Fatalf("%d bytes from %d on, of 1000", length, from)
			}
		})
	})
}
