// Package linkcheck judges what came of asking an address whether it still answers, and
// says when to ask again. It asks nothing itself.
package linkcheck

import (
	"fmt"
	"net/url"
	"time"

	"jundle/internal/core/source"
)

// Failure is why an address gave no answer; empty for one that did.
type Failure string

// The failures.
const (
	NoHost      Failure = "no host"     // its name is in no DNS
	NoAnswer    Failure = "no answer"   // refused, reset, or too slow
	Certificate Failure = "certificate" // its certificate is not valid for it
	Circle      Failure = "circle"      // redirected too often
	Forbidden   Failure = "forbidden"   // not on the public internet
)

// Result is what came of asking an address.
type Result struct {
	// Address is the one that was asked, Arrived the one that answered in the end.
	Address, Arrived string
	Method           string
	// Status is that of the last answer (RFC 9110, 15); 0 when there was none.
	Status    int
	Took      time.Duration
	Redirects int
	// Permanent: every redirect on the way was a permanent one (301 or 308).
	Permanent bool
	Failure   Failure
	// CertificateUntil is when the certificate of the host asked ends; zero without one.
	CertificateUntil time.Time
	At               time.Time
	// Failures is how often in a row it failed, this time included.
	Failures int
}

// Verdict is what a result means for a visitor.
type Verdict string

// The verdicts.
const (
	Fine    Verdict = "fine"
	Gone    Verdict = "gone"    // there is nothing there, or no such host
	Failing Verdict = "failing" // it does not answer, or answers with an error
	Unsure  Verdict = "unsure"  // it turns away whoever is no browser, or failed once only
)

// certain is how often in a row an address fails before it is said to fail: once is a
// site that is being restarted.
const certain = 2

// Verdict says what the result means.
func (r Result) Verdict() Verdict {
	switch {
	case r.Failure == Certificate || r.Failure == Circle || r.Failure == Forbidden:
		return Failing
	case r.Failure == NoHost, r.Status == 404, r.Status == 410:
		if r.Failures < certain && r.Status != 410 {
			return Unsure
		}
		return Gone
	case r.Failure != "", r.Status >= 500:
		if r.Failures < certain {
			return Unsure
		}
		return Failing
	case r.Status >= 400: // 401, 403, 405, 429, 451: for us, and perhaps not for people
		return Unsure
	}
	return Fine
}

// Broken tells whether a visitor is led to nothing.
func (r Result) Broken() bool { return r.Verdict() == Gone || r.Verdict() == Failing }

// IsFailure tells whether a result counts as one in a row.
func (r Result) IsFailure() bool {
	return r.Failure != "" || r.Status >= 500 || r.Status == 404 || r.Status == 410
}

// How long an address rests before it is asked again.
const (
	restsFine    = 24 * time.Hour
	restsFailing = 20 * time.Minute // doubled with each failure, up to restsFine
)

// Next is when to ask again: a day later, sooner after a failure. Spread is from 0 to 1
// and keeps addresses that came together from being asked together.
func (r Result) Next(spread float64) time.Time {
	rests := restsFine
	if r.IsFailure() {
		rests = min(restsFailing<<min(r.Failures-1, 10), restsFine)
	}
	return r.At.Add(rests + time.Duration(spread*float64(rests)/4))
}

// certificateEnds is how long before its end a certificate is said to be about to end:
// whoever renews by itself has done so by then (common practice for certificates of 90
// days is a third of that time; of what is left then, two weeks are late).
const certificateEnds = 14 * 24 * time.Hour

// CertificateEnds tells whether the certificate ends soon, as of a moment.
func (r Result) CertificateEnds(now time.Time) bool {
	return !r.CertificateUntil.IsZero() && r.CertificateUntil.Before(now.Add(certificateEnds))
}

// Elsewhere is the registrable domain (Public Suffix List) that answered in the end,
// where it is another than the one asked; empty for the same.
func (r Result) Elsewhere() string {
	asked, arrived := Domain(r.Address), Domain(r.Arrived)
	if r.Arrived == "" || asked == arrived {
		return ""
	}
	return arrived
}

// Domain is the registrable domain of an address, or its host where it has none.
func Domain(address string) string {
	parsed, err := url.Parse(address)
	if err != nil {
		return ""
	}
	return source.Domain(parsed.Hostname())
}

// String says what came of it, for a creator.
func (r Result) String() string {
	switch r.Failure {
	case NoHost:
		return "There is no such host."
	case NoAnswer:
		return "It did not answer in time."
	case Certificate:
		return "Its certificate is not valid, so browsers warn of it."
	case Circle:
		return "It leads from one address to the next and never arrives."
	case Forbidden:
		return "It is not on the public internet."
	}
	switch r.Status {
	case 404, 410:
		return fmt.Sprintf("There is nothing there any more (%d).", r.Status)
	case 401, 403, 405, 429, 451:
		return fmt.Sprintf("It does not let us look (%d). Open it yourself once.", r.Status)
	}
	if r.Status >= 400 {
		return fmt.Sprintf("It answers with an error (%d).", r.Status)
	}
	return "It answers."
}
