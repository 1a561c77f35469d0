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
	"github.com/google/uuid"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/ownmark"
	"jundle/internal/passwords"
	"jundle/internal/store"
)

// Me is who is signed in, and what the studio needs to know about where it runs.
type Me struct {
	Email        string `json:"email"`
	Zone         string `json:"zone" doc:"IANA time zone of the workspace; days are days of it."`
	PublicOrigin string `json:"publicOrigin" doc:"Where pages are, such as https://kiln.example."`
	OwnMark      string `json:"ownMark" doc:"Marks this browser as a member's when led through /-/own/{mark} on the public origin. Holds ten minutes."`
}

type meOutput struct{ Body Me }

type signUpInput struct {
	Client
	Body struct {
		Email       string `json:"email" maxLength:"254"`
		Password    string `json:"password" doc:"10 to 200 characters."`
		PageAddress string `json:"pageAddress" doc:"3 to 40 of a-z, 0-9 and hyphen."`
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

// Client resolves where a request came from.
type Client struct{ address string }

// Resolve implements huma.Resolver.
func (c *Client) Resolve(ctx huma.Context) []error {
	c.address = humagin.Unwrap(ctx).ClientIP()
	return nil
}

func (s *Server) addAccount() {
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-up", Method: http.MethodPost, Path: "/api/sign-up", Summary: "Open an account with its first page, unless the e-mail address has one",
		Description: "The answer is the same either way, so that it does not tell whether an address is registered. Sign in next.", DefaultStatus: http.StatusAccepted,
	}, s.signUp)
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-in", Method: http.MethodPost, Path: "/api/sign-in", Summary: "Sign in",
	}, s.signIn)
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-out", Method: http.MethodPost, Path: "/api/sign-out", Summary: "Sign out", DefaultStatus: http.StatusNoContent,
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
	if err := s.limits.take(email, in.address); err != nil {
		return nil, err
	}
	if n := len(in.Body.Password); n < passwords.Min || n > passwords.Max {
		return nil, refuse("password", "A password has 10 to 200 characters. A few words in a row are easy to remember.")
	}
	name, err := address.ParsePageAddress(in.Body.PageAddress)
	if err != nil {
		return nil, refuse("pageAddress", err.Error())
	}
	zone := in.Body.Zone
	if _, err := time.LoadLocation(zone); err != nil || zone == "" || zone == "Local" {
		zone = "UTC"
	}
	_, err = s.Store.CreateAccount(ctx, store.NewAccount{
		Email: email, PasswordHash: passwords.Hash(in.Body.Password), PageAddress: name, Zone: zone,
		Document: page.New(),
	}, s.Now())
	if err != nil && !errors.Is(err, store.ErrEmailTaken) {
		return nil, problem(err)
	}
	return nil, nil
}

func (s *Server) signIn(ctx context.Context, in *signInInput) (*meOutput, error) {
	email := strings.ToLower(strings.TrimSpace(in.Body.Email))
	if err := s.limits.take(email, in.address); err != nil {
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
	return s.enter(ctx, member)
}

// enter begins a session under a fresh token.
func (s *Server) enter(ctx context.Context, member store.Member) (*meOutput, error) {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, problem(err)
	}
	s.sessions.Put(ctx, sessionMember, member.ID.String())
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

const sessionMember = "member"

type memberKey struct{}

// memberOf is the member an operation made with forMember acts for.
func memberOf(ctx context.Context) store.Member { return ctx.Value(memberKey{}).(store.Member) }

// forMember lets an operation be used by signed-in members only.
func (s *Server) forMember(operation huma.Operation) huma.Operation {
	operation.Middlewares = append(operation.Middlewares, func(ctx huma.Context, next func(huma.Context)) {
		id, err := uuid.Parse(s.sessions.GetString(ctx.Context(), sessionMember))
		var member store.Member
		if err == nil {
			member, err = s.Store.MemberByID(ctx.Context(), id)
		}
		if err != nil {
			_ = huma.WriteErr(s.api, ctx, http.StatusUnauthorized, "You are signed out. Sign in to go on; nothing that was saved is lost.")
			return
		}
		next(huma.WithValue(ctx, memberKey{}, member))
	})
	return operation
}
