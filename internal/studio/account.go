package studio

import (
	"context"
	"errors"
	"net/http"
	"net/mail"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"jundle/internal/clients"
	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/window"
	"jundle/internal/ownmark"
	"jundle/internal/passwords"
	"jundle/internal/store"
)

// Me is who is signed in, and what the studio needs to know about where it runs.
type Me struct {
	Email        string `json:"email"`
	Zone         string `json:"zone" doc:"IANA time zone of the workspace; days are days of it."`
	PublicOrigin string `json:"publicOrigin" doc:"Where pages are, such as https://kiln.example."`
	OwnMark      string `json:"ownMark" doc:"Led through /-/own/{mark} it marks a browser as a member's. Holds ten minutes."`
}

type meOutput struct{ Body Me }

type signUpInput struct {
	Client
	Body struct {
		Email       string `json:"email" maxLength:"254"`
		Password    string `json:"password" maxLength:"1000" doc:"12 to 128 characters, and none that many people have."`
		PageAddress string `json:"pageAddress" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen."`
		Zone        string `json:"zone" maxLength:"64" doc:"IANA time zone of the browser."`
	}
}

type signInInput struct {
	Client
	Body struct {
		Email    string `json:"email" maxLength:"254"`
		Password string `json:"password" maxLength:"1000"`
	}
}

// Client resolves where a request came from: an IPv4 address, or the network of an
// IPv6 address, since whoever has one of those has all the others in it.
type Client struct{ network string }

// Resolve implements huma.Resolver.
func (c *Client) Resolve(ctx huma.Context) []error {
	c.network = clients.Network(humagin.Unwrap(ctx).ClientIP())
	return nil
}

func (s *Server) addAccount() {
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-up", Method: http.MethodPost, Path: "/api/sign-up",
		Summary:       "Open an account with its first page, unless the e-mail address has one",
		Description:   "The answer is the same either way, so that it does not tell whether an address is registered. Sign in next.",
		DefaultStatus: http.StatusAccepted,
		MaxBodyBytes:  credentialsBody,
	}, s.signUp)
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-in", Method: http.MethodPost, Path: "/api/sign-in", Summary: "Sign in", MaxBodyBytes: credentialsBody,
	}, s.signIn)
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-out", Method: http.MethodPost, Path: "/api/sign-out", Summary: "Sign out", DefaultStatus: http.StatusNoContent,
		MaxBodyBytes: credentialsBody,
	}, s.signOut)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "me", Method: http.MethodGet, Path: "/api/me", Summary: "Who is signed in",
	}), func(ctx context.Context, _ *struct{}) (*meOutput, error) { return s.me(ctx, memberOf(ctx)) })
}

func (s *Server) me(ctx context.Context, member store.Member) (*meOutput, error) {
	workspace, err := s.Store.Workspace(ctx, member.WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	return &meOutput{Me{
		Email: member.Email, Zone: workspace.Zone, PublicOrigin: s.PublicOrigin,
		OwnMark: ownmark.Make(s.OwnKey, member.WorkspaceID, s.Now().Add(10*time.Minute)),
	}}, nil
}

func (s *Server) signUp(ctx context.Context, in *signUpInput) (*struct{}, error) {
	email, err := parseEmail(in.Body.Email)
	if err != nil {
		return nil, err
	}
	if err := s.takeAttempt(ctx, store.Attempt{Key: s.attemptKey("sign-up", in.network), Budget: signUps}); err != nil {
		return nil, err
	}
	if err := passwords.Check(in.Body.Password, email, in.Body.PageAddress); err != nil {
		return nil, refuse("password", err.Error())
	}
	name, err := address.ParsePageAddress(in.Body.PageAddress)
	if err != nil {
		return nil, refuse("pageAddress", err.Error())
	}
	// Asked before anything else, whoever's e-mail address it is.
	free, err := s.Store.AddressFree(ctx, name, s.Now())
	switch {
	case err != nil:
		return nil, problem(err)
	case !free:
		return nil, problem(store.ErrAddressTaken)
	}
	hash, err := passwords.Hash(in.Body.Password)
	if err != nil {
		return nil, problem(err)
	}
	zone := in.Body.Zone
	if !window.IsZone(zone) {
		zone = "UTC"
	}
	_, err = s.Store.CreateAccount(ctx, store.NewAccount{
		Email: email, PasswordHash: hash, PageAddress: name, Zone: zone,
		Document: page.New(),
	}, s.Now())
	if errors.Is(err, store.ErrEmailTaken) {
		// The page address is taken from now on, as it would be had an account been
		// opened: trying it again tells nothing.
		err = s.Store.WithholdAddress(ctx, name, s.Now())
	}
	if err != nil {
		return nil, problem(err)
	}
	return nil, nil
}

func (s *Server) signIn(ctx context.Context, in *signInInput) (*meOutput, error) {
	email := strings.ToLower(strings.TrimSpace(in.Body.Email))
	if err := s.takeSignIn(ctx, email, in.network); err != nil {
		return nil, err
	}
	member, err := s.Store.MemberByEmail(ctx, email)
	hash := member.PasswordHash
	if errors.Is(err, store.ErrNotFound) {
		hash, err = passwords.Nobody, nil
	}
	if err != nil {
		return nil, problem(err)
	}
	if !passwords.Match(in.Body.Password, hash) {
		return nil, huma.Error401Unauthorized("This e-mail address and password do not go together. Check both and try again.")
	}
	s.noteSignIn(ctx, email, in.network)
	return s.enter(ctx, member)
}

// enter begins a session under a fresh token.
func (s *Server) enter(ctx context.Context, member store.Member) (*meOutput, error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, problem(err)
	}
	s.sessions.Put(ctx, store.SessionUser, member.ID.String())
	return s.me(ctx, member)
}

func (s *Server) signOut(ctx context.Context, _ *struct{}) (*struct{}, error) {
	if err := s.sessions.Destroy(ctx); err != nil {
		return nil, problem(err)
	}
	return nil, nil
}

func parseEmail(text string) (string, error) {
	email := strings.ToLower(strings.TrimSpace(text))
	parsed, err := mail.ParseAddress(email)
	if err != nil || parsed.Address != email || !strings.Contains(email[strings.LastIndex(email, "@"):], ".") {
		return "", refuse("email", "This is not an e-mail address. It looks like ilse@quarrow.example.")
	}
	return email, nil
}

type memberKey struct{}

// memberOf is the member an operation made with forMember acts for.
func memberOf(ctx context.Context) store.Member { return ctx.Value(memberKey{}).(store.Member) }

// forMember lets an operation be used by signed-in members only: admit asks.
func (s *Server) forMember(operation huma.Operation) huma.Operation {
	operation.Security = []map[string][]string{{memberSession: {}}}
	return limited(operation)
}

// limited bounds the body of an operation that says nothing of it.
func limited(operation huma.Operation) huma.Operation {
	if operation.MaxBodyBytes == 0 {
		operation.MaxBodyBytes = usualBody
	}
	return operation
}
