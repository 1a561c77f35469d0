package domain_test

import (
	"net/netip"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/domain"
)

func TestAHostIsReadAsPeopleGiveIt(t *testing.T) {
	for given, host := range map[string]string{
		"links.quarrow.example":               "links.quarrow.example",
		"  Links.Quarrow.Example. ":           "links.quarrow.example",
		"https://links.quarrow.example/a?b=c": "links.quarrow.example",
		"quarrow.example":                     "quarrow.example",
		// IDNA 2008 (RFC 5891) by Punycode (RFC 3492); the value is from memory.
		"töpferei.example": "xn--tpferei-90a.example",
		// Source: the Public Suffix List, of which co.uk is one.
		"quarrow.co.uk": "quarrow.co.uk",
	} {
		read, err := domain.ParseHost(given, "kiln.example")
		require.NoError(t, err, given)
		assert.Equal(t, host, read)
	}
}

func TestWhatIsNobodysOwnHostIsRefused(t *testing.T) {
	for given, want := range map[string]error{
		"": domain.ErrNoHost, "quarrow": domain.ErrNoHost, "localhost": domain.ErrNoHost, "two words.example": domain.ErrNoHost,
		"192.0.2.1": domain.ErrNoHost, "[2001:db8::1]": domain.ErrNoHost, "host.example:8080": domain.ErrNoHost,
		"_dmarc.quarrow.example": domain.ErrNoHost, "-a.example": domain.ErrNoHost, "a..example": domain.ErrNoHost,
		"*.quarrow.example": domain.ErrNoHost, "1.2.3.999": domain.ErrNoHost,
		strings.Repeat("a", 64) + ".example": domain.ErrNoHost, strings.Repeat("ab.", 90) + "example": domain.ErrNoHost,
		"co.uk": domain.ErrSuffix, "kiln.example": domain.ErrOurs, "https://Kiln.Example/": domain.ErrOurs,
	} {
		_, err := domain.ParseHost(given, "kiln.example")
		assert.ErrorIs(t, err, want, given)
	}
}

func FuzzParseHost(f *testing.F) {
	for _, seed := range []string{"links.quarrow.example", "https://töpferei.example/", "xn--a.example", "1.2.3.4", "a.b.c.", "\x87.A"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		host, err := domain.ParseHost(text)
		if err != nil {
			return
		}
		assert.LessOrEqual(t, len(host), domain.MaxHost)
		again, err := domain.ParseHost(host)
		require.NoError(t, err, "what was read can be read again: %q", host)
		assert.Equal(t, host, again)
	})
}

func TestEntriesOfAHostBelowANameLeadByAnAlias(t *testing.T) {
	assert.Equal(t, []domain.DNSEntry{
		{"proof", "TXT", "_jundle.links.quarrow.example", "_jundle.links", "jundle-host=abc"},
		{"points", "CNAME", "links.quarrow.example", "links", "pages.kiln.example"},
	}, domain.Entries("links.quarrow.example", "abc", "pages.kiln.example", []netip.Addr{netip.MustParseAddr("192.0.2.7")}))
}

func TestEntriesOfANameItselfAreAddresses(t *testing.T) {
	// Source: RFC 1034 s3.6.2, by which a name with other entries has no CNAME. Addresses are of RFC 5737 and
	// RFC 3849.
	addresses := []netip.Addr{netip.MustParseAddr("192.0.2.7"), netip.MustParseAddr("2001:db8::7")}
	assert.Equal(t, []domain.DNSEntry{
		{"proof", "TXT", "_jundle.quarrow.example", "_jundle", "jundle-host=abc"},
		{"points", "A", "quarrow.example", "@", "192.0.2.7"},
		{"points", "AAAA", "quarrow.example", "@", "2001:db8::7"},
	}, domain.Entries("quarrow.example", "abc", "pages.kiln.example", addresses))
}

var begun = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func found(proof, points domain.Answer) domain.DNSFound {
	return domain.DNSFound{Proof: proof, Points: points}
}

// used is a host in use, with a certificate for ninety days.
func used() domain.Standing {
	return domain.Standing{WantedAt: begun}.After(found(domain.Yes, domain.Yes), begun).Certified(begun.AddDate(0, 0, 90), begun)
}

func TestAHostComesIntoUseStepByStep(t *testing.T) {
	s := domain.Standing{WantedAt: begun}
	assert.Equal(t, domain.Unproven, s.StateAt(begun))
	s = s.After(found(domain.No, domain.Yes), begun)
	assert.Equal(t, domain.Unproven, s.StateAt(begun), "that it points here proves nothing")
	s = s.After(found(domain.Yes, domain.No), begun)
	assert.Equal(t, domain.Elsewhere, s.StateAt(begun))
	s = s.After(found(domain.No, domain.Yes), begun)
	assert.Equal(t, domain.Certifying, s.StateAt(begun), "what was proven once is proven")
	assert.False(t, s.LeadsAt(begun))
	s = s.Certified(begun.AddDate(0, 0, 90), begun)
	assert.Equal(t, domain.InUse, s.StateAt(begun))
	assert.True(t, s.LeadsAt(begun))
}

func TestOneDoubtStopsLeadingThereAndTwoLoseAHost(t *testing.T) {
	s := used().After(found(domain.Yes, domain.No), begun)
	assert.Equal(t, domain.InUse, s.StateAt(begun))
	assert.False(t, s.LeadsAt(begun), "old addresses take no risk")
	assert.Equal(t, time.Minute, s.CheckAt.Sub(begun), "and it is soon looked at again")
	back := s.After(found(domain.Yes, domain.Yes), begun)
	assert.True(t, back.LeadsAt(begun))
	lost := s.After(found(domain.Yes, domain.No), begun)
	assert.Equal(t, domain.Lost, lost.StateAt(begun))
	assert.Equal(t, domain.InUse, lost.After(found(domain.Yes, domain.Yes), begun).StateAt(begun), "until it points here again")
}

func TestThatNobodyKnowsLosesAHostAfterADayOnly(t *testing.T) {
	s := used()
	for at := begun; at.Before(begun.Add(24 * time.Hour)); at = at.Add(10 * time.Minute) {
		s = s.After(found(domain.Unknown, domain.Unknown), at)
		require.Equal(t, domain.InUse, s.StateAt(at), "at %s", at)
		require.False(t, s.LeadsAt(at))
	}
	s = s.After(found(domain.Unknown, domain.Unknown), begun.Add(24*time.Hour))
	assert.Equal(t, domain.Lost, s.StateAt(begun.Add(24*time.Hour)))
}

func TestACertificateThatRanOutLosesAHost(t *testing.T) {
	s, over := used(), begun.AddDate(0, 0, 90)
	assert.Equal(t, domain.InUse, s.StateAt(over.Add(-time.Second)))
	assert.Equal(t, domain.Lost, s.StateAt(over))
	s = s.After(found(domain.Yes, domain.Yes), over)
	assert.NotNil(t, s.LostAt, "which is noted")
	assert.Equal(t, s.LostAt, s.After(found(domain.Yes, domain.Yes), over.AddDate(0, 0, 1)).LostAt, "and since when stays known")
	assert.Equal(t, domain.InUse, s.Certified(over.AddDate(0, 0, 90), over).StateAt(over), "another one brings it back")
}

func TestLooksGrowRareAndEnd(t *testing.T) {
	for _, row := range []struct {
		name  string
		of    domain.Standing
		after time.Duration
		pause time.Duration // 0 for never
	}{
		{"just added", domain.Standing{WantedAt: begun}, 0, time.Minute},
		{"an hour later", domain.Standing{WantedAt: begun}, time.Hour, 10 * time.Minute},
		{"a day later", domain.Standing{WantedAt: begun}, 24 * time.Hour, time.Hour},
		{"two weeks later", domain.Standing{WantedAt: begun}, 14 * 24 * time.Hour, 0},
	} {
		s := row.of.After(found(domain.No, domain.No), begun.Add(row.after))
		if row.pause == 0 {
			assert.Nil(t, s.CheckAt, row.name)
			continue
		}
		assert.Equal(t, row.pause, s.CheckAt.Sub(begun.Add(row.after)), row.name)
	}
	lost := used().After(found(domain.Yes, domain.No), begun).After(found(domain.Yes, domain.No), begun)
	assert.Equal(t, 10*time.Minute, lost.CheckAt.Sub(begun))
	later := begun.AddDate(0, 0, 2)
	assert.Equal(t, time.Hour, lost.After(found(domain.Yes, domain.No), later).CheckAt.Sub(later))
	assert.Nil(t, lost.After(found(domain.Yes, domain.No), begun.AddDate(0, 7, 0)).CheckAt)
}

func TestAHostLeadsOnlyWhileAllIsWell(t *testing.T) {
	answers := rapid.SampledFrom([]domain.Answer{domain.Yes, domain.No, domain.Unknown})
	rapid.Check(t, func(t *rapid.T) {
		s, at := domain.Standing{WantedAt: begun}, begun
		for range rapid.IntRange(1, 30).Draw(t, "looks") {
			at = at.Add(time.Duration(rapid.IntRange(1, 100_000).Draw(t, "seconds")) * time.Second)
			look := found(answers.Draw(t, "proof"), answers.Draw(t, "points"))
			s = s.After(look, at)
			if s.StateAt(at) == domain.Certifying {
				s = s.Certified(at.AddDate(0, 0, 90), at)
			}
			if s.LeadsAt(at) && (look.Points != domain.Yes || s.ProvenAt == nil || !at.Before(*s.CertificateUntil)) {
				t.Fatalf("it leads there after %+v: %+v", look, s)
			}
		}
	})
}

func TestRefusedCertificatesAreAskedForMoreAndMoreRarely(t *testing.T) {
	var before time.Duration
	for refusals := 1; refusals < 40; refusals++ {
		pause := domain.CertificatePause(refusals)
		assert.GreaterOrEqual(t, pause, before)
		assert.LessOrEqual(t, pause, 12*time.Hour)
		before = pause
	}
	assert.Equal(t, 5*time.Minute, domain.CertificatePause(1))
	assert.Equal(t, begun.AddDate(0, 0, 60), domain.RenewFrom(begun, begun.AddDate(0, 0, 90)))
}
