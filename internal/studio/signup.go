package studio

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/address"
	"jundle/internal/core/page"
	"jundle/internal/core/window"
	"jundle/internal/passwords"
	"jundle/internal/store"
)

type signUpInput struct {
	Client
	Body struct {
		Email       string `json:"email" maxLength:"254"`
		PageAddress string `json:"pageAddress" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen."`
		Zone        string `json:"zone" maxLength:"64" doc:"IANA time zone of the browser."`
	}
}

type openAccountInput struct {
	Client
	Body struct {
		Token       string `json:"token" maxLength:"100" doc:"From the letter."`
		Password    string `json:"password" maxLength:"1000" doc:"12 to 128 characters, and none that many people have."`
		PageAddress string `json:"pageAddress" maxLength:"200" doc:"That which was asked for, or another."`
	}
}

// TokenBody has what came in a letter.
type TokenBody struct {
	Token string `json:"token" maxLength:"100" doc:"From the letter."`
}

// PendingAccountView is an account that can be opened.
type PendingAccountView struct {
	Email       string `json:"email"`
	PageAddress string `json:"pageAddress"`
	Free        bool   `json:"free" doc:"Nobody took the page address in the meantime."`
}

func (s *Server) addSignUp() {
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-up", Method: http.MethodPost, Path: "/api/sign-up",
		Summary:       "Ask for an account: a letter has the way to open it",
		Description:   "The answer is the same where the e-mail address has an account; the letter says so.",
		DefaultStatus: http.StatusAccepted, MaxBodyBytes: credentialsBody,
	}, s.signUp)
	huma.Register(s.api, huma.Operation{
		OperationID: "look-at-sign-up", Method: http.MethodPost, Path: "/api/sign-up/look", Summary: "What a letter's token opens",
		MaxBodyBytes: credentialsBody,
	}, s.lookAtSignUp)
	huma.Register(s.api, huma.Operation{
		OperationID: "open-account", Method: http.MethodPost, Path: "/api/accounts",
		Summary: "Open the account of a letter with its first page, and sign in", MaxBodyBytes: credentialsBody,
	}, s.openAccount)
}

// errNoMail is said where letters are needed and there is no mail server.
func errNoMail() error {
	return huma.Error503ServiceUnavailable("This studio has no mail server and cannot send you a letter. Ask whoever runs it.")
}

func errOldLink() error {
	return huma.Error404NotFound("This link is over, or was used already. Nothing was changed. Have a new letter sent.")
}

func (s *Server) signUp(ctx context.Context, in *signUpInput) (*struct{}, error) {
	if !s.HasMail {
		return nil, errNoMail()
	}
	email, err := parseEmail(in.Body.Email)
	if err != nil {
		return nil, err
	}
	name, err := address.ParsePageAddress(in.Body.PageAddress)
	if err != nil {
		return nil, refuse("pageAddress", err.Error())
	}
	if err := s.takeLetter(ctx, email, in.network); err != nil {
		return nil, err
	}
	// Asked before anything else, whoever's e-mail address it is.
	free, err := s.Store.AddressFree(ctx, name, s.Now())
	switch {
	case err != nil:
		return nil, problem(err)
	case !free:
		return nil, problem(store.ErrAddressTaken)
	}
	zone := in.Body.Zone
	if !window.IsZone(zone) {
		zone = "UTC"
	}
	return nil, problemOrNil(s.Store.BeginAccount(ctx, email, name, zone, s.Now()))
}

// takeToken uses up one attempt of a network to open something with what came in a letter.
func (s *Server) takeToken(ctx context.Context, network string) error {
	return s.takeAttempt(ctx, store.Attempt{Key: s.attemptKey("token", network), Budget: tokensTried})
}

// pendingOf is the account that a token opens.
func (s *Server) pendingOf(ctx context.Context, token, network string) (store.PendingAccount, error) {
	if err := s.takeToken(ctx, network); err != nil {
		return store.PendingAccount{}, err
	}
	subject, err := s.Store.SubjectOfToken(ctx, store.OpensAccount, token, s.Now())
	if err != nil {
		return store.PendingAccount{}, oldLinkOr(err)
	}
	pending, err := s.Store.PendingAccount(ctx, subject, s.Now())
	return pending, oldLinkOr(err)
}

// oldLinkOr says of what is not found that its link is over.
func oldLinkOr(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return errOldLink()
	}
	return problemOrNil(err)
}

func (s *Server) lookAtSignUp(ctx context.Context, in *struct {
	Client
	Body TokenBody
},
) (*struct{ Body PendingAccountView }, error) {
	pending, err := s.pendingOf(ctx, in.Body.Token, in.network)
	if err != nil {
		return nil, err
	}
	free, err := s.Store.AddressFree(ctx, pending.PageAddress, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body PendingAccountView }{PendingAccountView{pending.Email, pending.PageAddress, free}}, nil
}

func (s *Server) openAccount(ctx context.Context, in *openAccountInput) (*signedInOutput, error) {
	pending, err := s.pendingOf(ctx, in.Body.Token, in.network)
	if err != nil {
		return nil, err
	}
	name, err := address.ParsePageAddress(in.Body.PageAddress)
	if err != nil {
		return nil, refuse("pageAddress", err.Error())
	}
	if err := passwords.Check(in.Body.Password, pending.Email, name); err != nil {
		return nil, refuse("password", err.Error())
	}
	hash, err := s.Passwords.Hash(in.Body.Password)
	if err != nil {
		return nil, problem(err)
	}
	member, err := s.Store.OpenAccount(ctx, in.Body.Token, store.NewAccount{
		PasswordHash: hash, PageAddress: name, Document: page.New(),
	}, s.Now())
	switch {
	case errors.Is(err, store.ErrEmailTaken):
		return nil, huma.Error409Conflict("This e-mail address has an account by now. Sign in with it.")
	case err != nil:
		return nil, oldLinkOr(err)
	}
	return s.enter(ctx, member.User, member.WorkspaceID, in.Client, true)
}
