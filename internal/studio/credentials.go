package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/passwords"
	"jundle/internal/store"
)

// AccountView is how somebody gets into their account.
type AccountView struct {
	Email         string        `json:"email"`
	SecondFactor  bool          `json:"secondFactor" doc:"Besides the password, a code is asked for."`
	RecoveryCodes int64         `json:"recoveryCodes" doc:"How many are left."`
	Passkeys      []PasskeyView `json:"passkeys" nullable:"false"`
	DeleteAt      *time.Time    `json:"deleteAt,omitempty" doc:"When it is erased for good, where that was asked for."`
}

// PasskeyView is a passkey somebody has.
type PasskeyView struct {
	ID        uuid.UUID  `json:"id"`
	Name      string     `json:"name"`
	CreatedAt time.Time  `json:"createdAt"`
	UsedAt    *time.Time `json:"usedAt,omitempty"`
}

// PasswordBody proves that it is really them.
type PasswordBody struct {
	Password string `json:"password" maxLength:"1000" doc:"Yours as it is now."`
}

func (s *Server) addCredentials() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-account", Method: http.MethodGet, Path: "/api/account", Summary: "How you get into your account",
	}), s.getAccount)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-password", Method: http.MethodPut, Path: "/api/account/password",
		Summary: "Change your password; every other session ends", DefaultStatus: http.StatusNoContent,
	}), s.changePassword)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-email", Method: http.MethodPut, Path: "/api/account/email",
		Summary:       "Ask to change your e-mail address: a letter to the new one has the way, and the old one is told",
		Description:   "The answer is the same where somebody else has the address.",
		DefaultStatus: http.StatusAccepted,
	}), s.changeEmail)
	huma.Register(s.api, huma.Operation{
		OperationID: "confirm-email", Method: http.MethodPost, Path: "/api/confirm-email", Summary: "Change to the e-mail address of a letter",
		DefaultStatus: http.StatusNoContent, MaxBodyBytes: credentialsBody,
	}, s.confirmEmail)
	huma.Register(s.api, huma.Operation{
		OperationID: "forgotten-password", Method: http.MethodPost, Path: "/api/forgotten-password",
		Summary:       "Have the way to a new password sent",
		Description:   "The answer is the same whoever has the e-mail address, or nobody.",
		DefaultStatus: http.StatusAccepted, MaxBodyBytes: credentialsBody,
	}, s.forgottenPassword)
	huma.Register(s.api, huma.Operation{
		OperationID: "set-new-password", Method: http.MethodPost, Path: "/api/new-password",
		Summary:       "Set the password of a letter; every session ends. Sign in next",
		DefaultStatus: http.StatusNoContent, MaxBodyBytes: credentialsBody,
	}, s.setNewPassword)
}

func (s *Server) getAccount(ctx context.Context, _ *struct{}) (*struct{ Body AccountView }, error) {
	member := memberOf(ctx)
	keys, err := s.Store.Passkeys(ctx, member.ID)
	if err != nil {
		return nil, problem(err)
	}
	left, err := s.Store.RecoveryCodesLeft(ctx, member.ID)
	if err != nil {
		return nil, problem(err)
	}
	view := AccountView{
		Email: member.Email, SecondFactor: member.TOTPSecret != nil, RecoveryCodes: left, Passkeys: []PasskeyView{}, DeleteAt: member.DeleteAt,
	}
	for _, key := range keys {
		view.Passkeys = append(view.Passkeys, PasskeyView{key.ID, key.Name, key.CreatedAt, key.UsedAt})
	}
	return &struct{ Body AccountView }{view}, nil
}

// provePassword tells whether it is really the member who asks, and not somebody at their screen.
func (s *Server) provePassword(ctx context.Context, password string) error {
	member := memberOf(ctx)
	err := s.takeAttempt(ctx, store.Attempt{Key: s.attemptKey("password", member.ID.String()), Budget: passwordsAsked})
	if err != nil {
		return err
	}
	if !passwords.Match(password, member.PasswordHash) {
		return refuse("password", "This is not your password. Nothing was changed.")
	}
	return nil
}

func (s *Server) changePassword(ctx context.Context, in *struct {
	Body struct {
		PasswordBody
		NewPassword string `json:"newPassword" maxLength:"1000" doc:"12 to 128 characters, and none that many people have."`
	}
},
) (*struct{}, error) {
	member := memberOf(ctx)
	if err := s.provePassword(ctx, in.Body.Password); err != nil {
		return nil, err
	}
	hash, err := s.newHash(in.Body.NewPassword, member.Email, "newPassword")
	if err != nil {
		return nil, err
	}
	return nil, problemOrNil(s.Store.ChangePassword(ctx, member.ID, hash, s.sessionDigest(ctx)))
}

// newHash is the hash of a password that somebody chose; it refuses the field otherwise.
func (s *Server) newHash(password, email, field string) (string, error) {
	if err := passwords.Check(password, email, ""); err != nil {
		return "", refuse(field, err.Error())
	}
	hash, err := s.Passwords.Hash(password)
	return hash, problemOrNil(err)
}

func (s *Server) changeEmail(ctx context.Context, in *struct {
	Client
	Body struct {
		PasswordBody
		Email string `json:"email" maxLength:"254"`
	}
},
) (*struct{}, error) {
	if !s.HasMail {
		return nil, errNoMail()
	}
	email, err := parseEmail(in.Body.Email)
	if err != nil {
		return nil, err
	}
	if email == memberOf(ctx).Email {
		return nil, refuse("email", "This is your e-mail address already.")
	}
	if err := s.provePassword(ctx, in.Body.Password); err != nil {
		return nil, err
	}
	if err := s.takeLetter(ctx, email, in.network); err != nil {
		return nil, err
	}
	return nil, problemOrNil(s.Store.ChangeEmail(ctx, memberOf(ctx).ID, email, s.Now()))
}

func (s *Server) confirmEmail(ctx context.Context, in *struct {
	Client
	Body TokenBody
},
) (*struct{}, error) {
	if err := s.takeToken(ctx, in.network); err != nil {
		return nil, err
	}
	_, err := s.Store.ConfirmEmailChange(ctx, in.Body.Token, s.Now())
	if errors.Is(err, store.ErrEmailTaken) {
		return nil, huma.Error409Conflict("Somebody else has this e-mail address by now. Nothing was changed.")
	}
	return nil, oldLinkOr(err)
}

func (s *Server) forgottenPassword(ctx context.Context, in *struct {
	Client
	Body struct {
		Email string `json:"email" maxLength:"254"`
	}
},
) (*struct{}, error) {
	if !s.HasMail {
		return nil, errNoMail()
	}
	email, err := parseEmail(in.Body.Email)
	if err != nil {
		return nil, err
	}
	if err := s.takeLetter(ctx, email, in.network); err != nil {
		return nil, err
	}
	return nil, problemOrNil(s.Store.AskNewPassword(ctx, email))
}

func (s *Server) setNewPassword(ctx context.Context, in *struct {
	Client
	Body struct {
		TokenBody
		Password string `json:"password" maxLength:"1000" doc:"12 to 128 characters, and none that many people have."`
	}
},
) (*struct{}, error) {
	if err := s.takeToken(ctx, in.network); err != nil {
		return nil, err
	}
	subject, err := s.Store.SubjectOfToken(ctx, store.SetsPassword, in.Body.Token, s.Now())
	if err != nil {
		return nil, oldLinkOr(err)
	}
	user, err := s.Store.UserByID(ctx, subject)
	if err != nil {
		return nil, oldLinkOr(err)
	}
	hash, err := s.newHash(in.Body.Password, user.Email, "password")
	if err != nil {
		return nil, err
	}
	return nil, oldLinkOr(s.Store.ResetPassword(ctx, in.Body.Token, hash, s.Now()))
}
