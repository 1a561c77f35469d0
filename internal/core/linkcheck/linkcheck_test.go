package linkcheck_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"jundle/internal/core/linkcheck"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

// Status codes mean what RFC 9110, section 15, says: 404 and 410 that there is nothing,
// 401, 403 and 429 (RFC 6585) that whoever asked is not let in, 5xx that the server failed.
func TestAResultMeansWhatItsStatusSays(t *testing.T) {
	for _, c := range []struct {
		result linkcheck.Result
		want   linkcheck.Verdict
		says   string
	}{
		{linkcheck.Result{Status: 200}, linkcheck.Fine, "It answers."},
		{linkcheck.Result{Status: 204}, linkcheck.Fine, "It answers."},
		{linkcheck.Result{Status: 404, Failures: 1}, linkcheck.Unsure, "nothing there any more (404)"},
		{linkcheck.Result{Status: 404, Failures: 2}, linkcheck.Gone, "nothing there any more (404)"},
		{linkcheck.Result{Status: 410, Failures: 1}, linkcheck.Gone, "nothing there any more (410)"},
		{linkcheck.Result{Status: 403}, linkcheck.Unsure, "does not let us look (403)"},
		{linkcheck.Result{Status: 429}, linkcheck.Unsure, "does not let us look (429)"},
		{linkcheck.Result{Status: 418}, linkcheck.Unsure, "an error (418)"},
		{linkcheck.Result{Status: 503, Failures: 1}, linkcheck.Unsure, "an error (503)"},
		{linkcheck.Result{Status: 503, Failures: 2}, linkcheck.Failing, "an error (503)"},
		{linkcheck.Result{Failure: linkcheck.NoHost, Failures: 1}, linkcheck.Unsure, "no such host"},
		{linkcheck.Result{Failure: linkcheck.NoHost, Failures: 2}, linkcheck.Gone, "no such host"},
		{linkcheck.Result{Failure: linkcheck.NoAnswer, Failures: 2}, linkcheck.Failing, "did not answer"},
		{linkcheck.Result{Failure: linkcheck.Certificate, Failures: 1}, linkcheck.Failing, "certificate"},
		{linkcheck.Result{Failure: linkcheck.Circle, Failures: 1}, linkcheck.Failing, "never arrives"},
		{linkcheck.Result{Failure: linkcheck.Forbidden, Failures: 1}, linkcheck.Failing, "public internet"},
	} {
		assert.Equal(t, c.want, c.result.Verdict(), "%+v", c.result)
		assert.Contains(t, c.result.String(), c.says)
	}
}

func TestAFailureIsAskedAgainSoonerAndNothingAtOnce(t *testing.T) {
	assert.Equal(t, noon.Add(24*time.Hour), linkcheck.Result{At: noon, Status: 200}.Next(0))
	assert.Equal(t, noon.Add(30*time.Hour), linkcheck.Result{At: noon, Status: 200}.Next(1))
	assert.Equal(t, noon.Add(20*time.Minute), linkcheck.Result{At: noon, Status: 500, Failures: 1}.Next(0))
	assert.Equal(t, noon.Add(40*time.Minute), linkcheck.Result{At: noon, Status: 500, Failures: 2}.Next(0))
	rapid.Check(t, func(t *rapid.T) {
		result := linkcheck.Result{At: noon, Status: rapid.SampledFrom([]int{0, 200, 404, 500}).Draw(t, "status")}
		if result.Status == 0 {
			result.Failure = linkcheck.NoAnswer
		}
		result.Failures = rapid.IntRange(0, 1000).Draw(t, "failures")
		if result.IsFailure() {
			result.Failures++
		}
		rests := result.Next(rapid.Float64Range(0, 1).Draw(t, "spread")).Sub(noon)
		assert.GreaterOrEqual(t, rests, 20*time.Minute)
		assert.LessOrEqual(t, rests, 30*time.Hour)
	})
}

// Registrable domains are those of the Public Suffix List, in which co.uk is a suffix.
func TestElsewhereIsAnotherRegistrableDomain(t *testing.T) {
	for _, c := range []struct{ asked, arrived, want string }{
		{"https://shop.quarrow.example/a", "https://www.quarrow.example/b", ""},
		{"http://quarrow.example", "https://quarrow.example/", ""},
		{"https://quarrow.example/", "https://parked.example/quarrow", "parked.example"},
		{"https://a.co.uk/", "https://b.co.uk/", "b.co.uk"},
		{"https://quarrow.example/", "", ""},
	} {
		assert.Equal(t, c.want, linkcheck.Result{Address: c.asked, Arrived: c.arrived}.Elsewhere(), "%s to %s", c.asked, c.arrived)
	}
}

func TestACertificateThatEndsWithinTwoWeeksIsSaidToEnd(t *testing.T) {
	ends := func(in time.Duration) bool {
		return linkcheck.Result{CertificateUntil: noon.Add(in)}.CertificateEnds(noon)
	}
	assert.True(t, ends(13*24*time.Hour))
	assert.False(t, ends(15*24*time.Hour))
	assert.False(t, linkcheck.Result{}.CertificateEnds(noon), "without one")
}
