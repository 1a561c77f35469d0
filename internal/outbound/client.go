// Package outbound is the only way out: every request to an address a creator
// typed goes through its client, which connects to public addresses only, on the
// web's ports, within limits of time, size and redirects.
package outbound

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"syscall"
	"time"
)

// ErrForbidden is answered for a target inside a private or special network.
var ErrForbidden = errors.New("this address is not on the public internet")

// ErrTooLarge is answered when there is more to read than was allowed for.
var ErrTooLarge = errors.New("the answer is too large")

const (
	timeout      = 6 * time.Second
	maxRedirects = 4
	// atOnce is how many answers are read at one time in the process; the others
	// wait as long as they may.
	atOnce = 8
)

// Client fetches from the public web. It is safe for concurrent use.
type Client struct {
	http    *http.Client
	reroute func(*url.URL) *url.URL
	turns   chan struct{}
}

// Options say what a client may reach.
type Options struct {
	// Reroute names, for an address on a made-up host, where the stand-in of
	// that host answers, and nil for any other. Only the demo and the tests set
	// it. What it names is reached without the check for public addresses.
	Reroute func(*url.URL) *url.URL
	// AtOnce is how many answers are read at one time; 8 where it is 0.
	AtOnce int
}

// New makes a client.
func New(options Options) *Client {
	dialer := &net.Dialer{Timeout: timeout, Control: onlyPublic}
	web := &http.Transport{
		DialContext: dialer.DialContext, TLSHandshakeTimeout: timeout, ResponseHeaderTimeout: timeout,
		MaxResponseHeaderBytes: 64 << 10,
	}
	return &Client{
		reroute: options.Reroute,
		turns:   make(chan struct{}, cmp.Or(options.AtOnce, atOnce)),
		http: &http.Client{
			Timeout:   timeout,
			Transport: &split{web: web, standin: &http.Transport{}, reroute: options.Reroute},
			CheckRedirect: func(_ *http.Request, via []*http.Request) error {
				if len(via) > maxRedirects {
					return errors.New("too many redirects")
				}
				return nil
			},
		},
	}
}

// split sends requests for made-up hosts to their stand-in and all others out.
type split struct {
	web, standin http.RoundTripper
	reroute      func(*url.URL) *url.URL
}

func (s *split) RoundTrip(request *http.Request) (*http.Response, error) {
	if s.reroute != nil {
		if target := s.reroute(request.URL); target != nil {
			inside := request.Clone(request.Context())
			inside.URL, inside.Host = target, target.Host
			response, err := s.standin.RoundTrip(inside)
			if response != nil {
				// Relative references belong to the made-up address.
				response.Request = request
			}
			return response, err
		}
	}
	if scheme := request.URL.Scheme; scheme != "http" && scheme != "https" {
		return nil, fmt.Errorf("%s: %w", scheme, ErrForbidden)
	}
	return s.web.RoundTrip(request)
}

// Get reads at most limit bytes from an address and says what type they are
// declared to be. The address read from in the end, after redirects, is
// returned too.
func (c *Client) Get(ctx context.Context, address, accept string, limit int64) (body []byte, contentType string, from *url.URL, err error) {
	answer, err := c.Fetch(ctx, address, map[string]string{"Accept": accept}, limit)
	if err != nil {
		return nil, "", nil, err
	}
	if answer.Status != http.StatusOK {
		return nil, "", nil, fmt.Errorf("the site answered %d %s", answer.Status, http.StatusText(answer.Status))
	}
	return answer.Body, answer.Header.Get("Content-Type"), answer.From, nil
}

// Fetch asks an address with header fields and reads at most limit bytes of the answer,
// whatever its status; ErrTooLarge beyond.
func (c *Client) Fetch(ctx context.Context, address string, header map[string]string, limit int64) (Answer, error) {
	select {
	case c.turns <- struct{}{}:
		defer func() { <-c.turns }()
	case <-ctx.Done():
		return Answer{}, ctx.Err()
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return Answer{}, err
	}
	request.Header.Set("User-Agent", "Jundle title fetcher")
	for name, value := range header {
		if value != "" {
			request.Header.Set(name, value)
		}
	}
	response, err := c.http.Do(request)
	if err != nil {
		return Answer{}, err
	}
	defer response.Body.Close()
	body, err := io.ReadAll(io.LimitReader(response.Body, limit+1))
	if err == nil && int64(len(body)) > limit {
		err = ErrTooLarge
	}
	return Answer{response.StatusCode, response.Header, body, response.Request.URL}, err
}

// Send sends a body to an address, with header fields, and says with which status it was answered.
// It follows no redirect: what was to be sent to one place is not sent to another.
func (c *Client) Send(ctx context.Context, method, address string, header map[string]string, body []byte) (status int, err error) {
	response, leave, err := c.send(ctx, method, address, header, body)
	if err != nil {
		return 0, err
	}
	defer leave()
	_, _ = io.CopyN(io.Discard, response.Body, checkReads)
	return response.StatusCode, nil
}

// send sends a body and answers with what came, and what to call once it is read.
func (c *Client) send(ctx context.Context, method, address string, header map[string]string, body []byte) (*http.Response, func(), error) {
	select {
	case c.turns <- struct{}{}:
	case <-ctx.Done():
		return nil, nil, ctx.Err()
	}
	request, err := http.NewRequestWithContext(ctx, method, address, bytes.NewReader(body))
	if err != nil {
		<-c.turns
		return nil, nil, err
	}
	for name, value := range header {
		request.Header.Set(name, value)
	}
	client := *c.http
	client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	response, err := client.Do(request)
	if err != nil {
		<-c.turns
		return nil, nil, err
	}
	return response, func() {
		_ = response.Body.Close()
		<-c.turns
	}, nil
}

// Post sends a body to an address, with header fields, and reads at most limit bytes of the answer, whatever its status;
// ErrTooLarge beyond. It follows no redirect.
func (c *Client) Post(ctx context.Context, address string, header map[string]string, body []byte, limit int64) (Answer, error) {
	response, leave, err := c.send(ctx, http.MethodPost, address, header, body)
	if err != nil {
		return Answer{}, err
	}
	defer leave()
	read, err := io.ReadAll(io.LimitReader(response.Body, limit+1))
	if err == nil && int64(len(read)) > limit {
		err = ErrTooLarge
	}
	return Answer{response.StatusCode, response.Header, read, response.Request.URL}, err
}

// Reason says why there was no answer, without what only the server knows of its network.
func Reason(err error) string {
	var slow interface{ Timeout() bool }
	switch {
	case errors.Is(err, ErrForbidden):
		return "This address is not on the public internet."
	case errors.Is(err, ErrTooLarge):
		return "It answered with more than is read."
	case errors.As(err, &slow) && slow.Timeout():
		return "It did not answer in time."
	}
	return "It could not be reached."
}

// onlyPublic is asked for every connection, after the name was resolved, so
// that no name can lead inside.
func onlyPublic(_, address string, _ syscall.RawConn) error {
	target, err := netip.ParseAddrPort(address)
	if err != nil {
		return err
	}
	if port := target.Port(); port != 80 && port != 443 {
		return fmt.Errorf("port %d: %w", port, ErrForbidden)
	}
	if !isPublic(target.Addr()) {
		return ErrForbidden
	}
	return nil
}
