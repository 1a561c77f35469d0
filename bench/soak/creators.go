package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"time"
)

// creator is somebody's browser.
type creator struct {
	program         *program
	client          *http.Client
	email, password string
}

func newCreator(p *program, email, password string) *creator {
	jar, _ := cookiejar.New(nil)
	return &creator{p, &http.Client{Jar: jar, Timeout: time.Minute}, email, password}
}

// send asks for something and returns the status and the answer, at most a
// megabyte of it.
func (c *creator) send(ctx context.Context, method, path string, body any) (int, []byte, error) {
	var data []byte
	kind := "application/json"
	switch body := body.(type) {
	case nil:
	case []byte:
		data, kind = body, "application/octet-stream"
	case json.RawMessage:
		data = body
	default:
		var err error
		if data, err = json.Marshal(body); err != nil {
			return 0, nil, err
		}
	}
	request, err := http.NewRequestWithContext(ctx, method, "http://"+c.program.studio+path, bytes.NewReader(data))
	if err != nil {
		return 0, nil, err
	}
	request.Header.Set("Content-Type", kind)
	answer, err := c.client.Do(request)
	if err != nil {
		return 0, nil, err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(io.LimitReader(answer.Body, 1<<20))
	return answer.StatusCode, text, err
}

func (c *creator) signIn() error {
	status, text, err := c.send(context.Background(), "POST", "/api/sign-in", map[string]string{"email": c.email, "password": c.password})
	if err == nil && status != http.StatusOK {
		err = fmt.Errorf("sign in: %d %s", status, text)
	}
	return err
}

// openAccount opens an account by a link from whoever runs the program.
func (c *creator) openAccount(p *program, address string) error {
	link, err := p.command("account", "open", c.email, address)
	if err != nil {
		return err
	}
	_, token, _ := strings.Cut(strings.TrimSpace(link), "#")
	status, text, err := c.send(context.Background(), "POST", "/api/accounts", map[string]string{
		"token": token, "password": c.password, "pageAddress": address,
	})
	if err == nil && status != http.StatusOK {
		err = fmt.Errorf("open an account: %d %s", status, text)
	}
	return err
}

// page returns the ID of the page at an address.
func (c *creator) page(address string) (string, error) {
	_, text, err := c.send(context.Background(), "GET", "/api/pages", nil)
	if err != nil {
		return "", err
	}
	var pages []struct{ ID, Address string }
	if err := json.Unmarshal(text, &pages); err != nil {
		return "", err
	}
	for _, page := range pages {
		if page.Address == address {
			return page.ID, nil
		}
	}
	return "", fmt.Errorf("there is no page at %s: %s", address, text)
}

// readings is how long the readings of a page take.
func (c *creator) readings(ctx context.Context, page string) (time.Duration, error) {
	begun := time.Now()
	status, text, err := c.send(ctx, "GET", "/api/pages/"+page+"/readings?range=28d", nil)
	if err == nil && status != http.StatusOK {
		err = fmt.Errorf("%d %s", status, text)
	}
	return time.Since(begun), err
}
