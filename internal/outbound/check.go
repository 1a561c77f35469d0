package outbound

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"io"
	"net"
	"net/http"
	"net/url"
	"time"

	"jundle/internal/core/address"
	"jundle/internal/core/linkcheck"
)

const (
	// checkRedirects is how many redirects a check follows: as many as browsers put up
	// with is 20 (Fetch standard), and who needs half of it is lost.
	checkRedirects = 10
	// checkReads is how much of an answer a check reads, so that the connection can be
	// closed in order.
	checkReads = 4 << 10
)

var errCircle = errors.New("too many redirects")

// Check asks an address whether it answers: by HEAD, and by GET where that is refused or
// fails. What comes of it is a result and never an error; ctx bounds it all.
func (c *Client) Check(ctx context.Context, link string, now func() time.Time) linkcheck.Result {
	select {
	case c.turns <- struct{}{}:
		defer func() { <-c.turns }()
	case <-ctx.Done():
		return linkcheck.Result{Address: link, At: now(), Failure: linkcheck.NoAnswer}
	}
	result := c.ask(ctx, http.MethodHead, link, now)
	if result.Status >= 400 || result.Failure == linkcheck.NoAnswer {
		// Many a site knows no HEAD.
		result = c.ask(ctx, http.MethodGet, link, now)
	}
	return result
}

func (c *Client) ask(ctx context.Context, method, link string, now func() time.Time) linkcheck.Result {
	begun := now()
	result := linkcheck.Result{Address: link, Method: method, At: begun, Permanent: true}
	request, err := http.NewRequestWithContext(ctx, method, link, nil)
	if err != nil {
		result.Failure = linkcheck.NoHost
		return result
	}
	request.Header.Set("User-Agent", "Jundle link check")
	request.Header.Set("Accept", "*/*")
	request.Header.Set("Range", "bytes=0-0") // a film need not be sent
	client := *c.http
	client.CheckRedirect = func(next *http.Request, via []*http.Request) error {
		result.Redirects = len(via)
		status := next.Response.StatusCode
		result.Permanent = result.Permanent && (status == http.StatusMovedPermanently || status == http.StatusPermanentRedirect)
		if len(via) > checkRedirects {
			return errCircle
		}
		return nil
	}
	response, err := client.Do(request)
	result.Took = now().Sub(begun)
	result.Permanent = result.Permanent && result.Redirects > 0
	if err != nil {
		result.Failure = failureOf(err)
		return result
	}
	defer response.Body.Close()
	_, _ = io.CopyN(io.Discard, response.Body, checkReads)
	result.Status, result.Arrived = response.StatusCode, response.Request.URL.String()
	if len(result.Arrived) > address.MaxLinkLength {
		result.Arrived, result.Permanent = "", false // nothing could lead there
	}
	if response.StatusCode == http.StatusRequestedRangeNotSatisfiable {
		result.Status = http.StatusOK // there is something, of no bytes
	}
	if state := response.TLS; state != nil && len(state.PeerCertificates) > 0 {
		result.CertificateUntil = state.PeerCertificates[0].NotAfter
	}
	return result
}

// failureOf names why there was no answer.
func failureOf(err error) linkcheck.Failure {
	var noHost *net.DNSError
	var untrusted *tls.CertificateVerificationError
	var invalid x509.CertificateInvalidError
	var misnamed x509.HostnameError
	var unknown x509.UnknownAuthorityError
	var unread *url.EscapeError
	switch {
	case errors.Is(err, errCircle):
		return linkcheck.Circle
	case errors.Is(err, ErrForbidden):
		return linkcheck.Forbidden
	case errors.As(err, &noHost) && noHost.IsNotFound, errors.As(err, &unread):
		return linkcheck.NoHost
	case errors.As(err, &untrusted), errors.As(err, &invalid), errors.As(err, &misnamed), errors.As(err, &unknown):
		return linkcheck.Certificate
	}
	return linkcheck.NoAnswer
}
