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

	"jundle/internal/agents"
	"jundle/internal/clients"
	"jundle/internal/core/team"
	"jundle/internal/ownmark"
	"jundle/internal/passwords"
	"jundle/internal/store"
)

// Me is who is signed in, and what the studio needs to know about where it runs.
type Me struct {
	Email        string     `json:"email"`
	Zone         string     `json:"zone" doc:"IANA time zone of the workspace; days are days of it."`
	PublicOrigin string     `json:"publicOrigin" doc:"The host that all pages share, such as https://kiln.example."`
	PageOrigin   string     `json:"pageOrigin" doc:"Under which pages stand: the workspace's own host, or the one that all share."`
	Workspace    *uuid.UUID `json:"workspace,omitempty" doc:"The one they are in now; absent for whoever is a member of none."`
	Role         team.Role  `json:"role,omitempty" enum:"runs,edits,reads" doc:"What they may do in it."`
	Whole        bool       `json:"whole" doc:"Of the whole of it, and not of some pages."`
	OwnMark      string     `json:"ownMark" doc:"Led through /-/own/{mark} it marks a browser as a member's. Holds ten minutes."`
	// DeleteAt is there for a screen that offers to keep the account.
	DeleteAt *time.Time `json:"deleteAt,omitempty" doc:"When the account is erased for good, where that was asked for."`
}

type signInInput struct {
	Client
	Body struct {
		Email    string `json:"email" maxLength:"254"`
		Password string `json:"password" maxLength:"1000"`
		Code     string `json:"code,omitempty" maxLength:"40" doc:"Of the authenticator app, or a recovery code; asked for where there is one."`
	}
}

// SignedIn is who is signed in now, or what is wanted besides.
type SignedIn struct {
	Me    *Me    `json:"me,omitempty"`
	Wants string `json:"wants,omitempty" enum:"code" doc:"The password is right, and a code is wanted with it."`
}

type signedInOutput struct{ Body SignedIn }

// Client resolves where a request came from: an IPv4 address, or the network of an
// IPv6 address, since whoever has one of those has all the others in it; and with what.
type Client struct{ network, agent string }

// Resolve implements huma.Resolver.
func (c *Client) Resolve(ctx huma.Context) []error {
	c.network = clients.Network(humagin.Unwrap(ctx).ClientIP())
	c.agent = strings.ToValidUTF8(ctx.Header("User-Agent"), "")
	c.agent = strings.ToValidUTF8(c.agent[:min(len(c.agent), agents.MaxLength)], "")
	return nil
}

func (s *Server) addAccount() {
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-in", Method: http.MethodPost, Path: "/api/sign-in", Summary: "Sign in", MaxBodyBytes: credentialsBody,
		Description: "Where there is a second factor, the answer to a password that is right wants a code; send all three then.",
	}, s.signIn)
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-out", Method: http.MethodPost, Path: "/api/sign-out", Summary: "Sign out", DefaultStatus: http.StatusNoContent,
		MaxBodyBytes: credentialsBody,
	}, s.signOut)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "me", Method: http.MethodGet, Path: "/api/me", Summary: "Who is signed in",
	}), func(ctx context.Context, _ *struct{}) (*struct{ Body *Me }, error) {
		me, err := s.meOf(ctx, memberOf(ctx))
		if err != nil {
			return nil, err
		}
		return &struct{ Body *Me }{me}, nil
	})
}

func (s *Server) meOf(ctx context.Context, member store.Member) (*Me, error) {
	if member.WorkspaceID == (uuid.UUID{}) {
		return &Me{Email: member.Email, DeleteAt: member.DeleteAt, Zone: "UTC", PublicOrigin: s.PublicOrigin, PageOrigin: s.PublicOrigin}, nil
	}
	workspace, err := s.Store.Workspace(ctx, member.WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	origin, err := s.pageOriginOf(ctx, member.WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	return &Me{
		PageOrigin: origin, Workspace: &member.WorkspaceID, Role: member.Role, Whole: member.Whole,
		Email: member.Email, DeleteAt: member.DeleteAt, Zone: workspace.Zone, PublicOrigin: s.PublicOrigin,
		OwnMark: ownmark.Make(s.OwnKey, member.WorkspaceID, s.Now().Add(10*time.Minute)),
	}, nil
}

func (s *Server) signIn(ctx context.Context, in *signInInput) (*signedInOutput, error) {
	email := strings.ToLower(strings.TrimSpace(in.Body.Email))
	known, err := s.takeSignIn(ctx, email, in.network)
	if err != nil {
		return nil, err
	}
	user, err := s.Store.UserByEmail(ctx, email)
	hash := user.PasswordHash
	if errors.Is(err, store.ErrNotFound) {
		hash, err = passwords.Nobody(), nil
	}
	if err != nil {
		return nil, problem(err)
	}
	if !passwords.Match(in.Body.Password, hash) {
		return nil, huma.Error401Unauthorized("This e-mail address and password do not go together. Check both and try again.")
	}
	if user.TOTPSecret != nil {
		if in.Body.Code == "" {
			return &signedInOutput{SignedIn{Wants: "code"}}, nil
		}
		if err := s.takeCode(ctx, user, in.Body.Code); err != nil {
			return nil, err
		}
	}
	return s.enter(ctx, user, uuid.UUID{}, in.Client, known)
}

// enter begins a session under a fresh token, in a workspace or, where that is none, the one that
// somebody has been in for longest. It tells them when it is from where they had not been.
func (s *Server) enter(ctx context.Context, user store.User, workspace uuid.UUID, from Client, known bool) (*signedInOutput, error) {
	if user.SuspendedAt != nil {
		return nil, huma.Error403Forbidden("This account was suspended by whoever runs this service: " + user.SuspendedBecause +
			" Nothing of it was deleted. Write to them if you think that this is a mistake.")
	}
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, problem(err)
	}
	s.sessions.Put(ctx, store.SessionUser, user.ID.String())
	s.sessions.Put(ctx, store.SessionWorkspace, workspace.String())
	s.sessions.Put(ctx, store.SessionAgent, from.agent)
	if _, _, err := s.sessions.Commit(ctx); err != nil {
		return nil, problem(err)
	}
	if !known {
		if err := s.Store.TellOfSignIn(ctx, user.ID, s.sessionDigest(ctx)); err != nil {
			return nil, problem(err)
		}
	}
	s.noteSignIn(ctx, user.Email, from.network)
	member, err := s.Store.MemberIn(ctx, user.ID, workspace)
	if err != nil {
		return nil, problem(err)
	}
	me, err := s.meOf(ctx, member)
	if err != nil {
		return nil, err
	}
	return &signedInOutput{SignedIn{Me: me}}, nil
}

// sessionDigest is what the session of a request is kept under.
func (s *Server) sessionDigest(ctx context.Context) string {
	return store.SessionDigest(s.sessions.Token(ctx))
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

// limited bounds the body of an operation that says nothing of it.
func limited(operation huma.Operation) huma.Operation {
	if operation.MaxBodyBytes == 0 {
		operation.MaxBodyBytes = usualBody
	}
	return operation
}
