package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/qr"
	"jundle/internal/secondfactor"
	"jundle/internal/store"
)

// SecretView is what an authenticator app needs to know.
type SecretView struct {
	Secret string `json:"secret" doc:"To be typed in, base32."`
	Code   string `json:"code" doc:"The same as a QR code, SVG."`
}

// RecoveryCodesView has codes of which each lets in once, instead of one of the app.
type RecoveryCodesView struct {
	Codes []string `json:"codes" nullable:"false"`
}

type recoveryCodesOutput struct{ Body RecoveryCodesView }

func (s *Server) addSecondFactor() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "new-secret", Method: http.MethodPost, Path: "/api/account/second-factor/secret",
		Summary: "Make a secret for an authenticator app; nothing is switched on yet",
	}), s.newSecret)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "set-second-factor", Method: http.MethodPut, Path: "/api/account/second-factor",
		Summary: "Have a code of an app asked for at sign-in (TOTP, RFC 6238); every other session ends",
	}), s.setSecondFactor)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "clear-second-factor", Method: http.MethodPost, Path: "/api/account/second-factor/off",
		Summary: "Have no code asked for any more", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct{ Body PasswordBody }) (*struct{}, error) {
		if err := s.provePassword(ctx, in.Body.Password); err != nil {
			return nil, err
		}
		return nil, problemOrNil(s.Store.ClearSecondFactor(ctx, memberOf(ctx).ID))
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "renew-recovery-codes", Method: http.MethodPost, Path: "/api/account/recovery-codes",
		Summary: "Make new recovery codes; the old ones let nobody in any more",
	}), s.renewRecoveryCodes)
}

func (s *Server) newSecret(ctx context.Context, _ *struct{}) (*struct{ Body SecretView }, error) {
	secret, err := secondfactor.NewSecret()
	if err != nil {
		return nil, problem(err)
	}
	drawn, err := qr.New(secondfactor.Address(secret, memberOf(ctx).Email, "Jundle"), qr.Options{})
	if err != nil {
		return nil, problem(err)
	}
	code, err := drawn.SVG()
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body SecretView }{SecretView{secret, string(code)}}, nil
}

func (s *Server) setSecondFactor(ctx context.Context, in *struct {
	Body struct {
		PasswordBody
		Secret string `json:"secret" minLength:"26" maxLength:"64" pattern:"^[A-Z2-7]+$" doc:"The one the app has."`
		Code   string `json:"code" maxLength:"40" doc:"That the app shows now."`
	}
},
) (*recoveryCodesOutput, error) {
	member := memberOf(ctx)
	if err := s.provePassword(ctx, in.Body.Password); err != nil {
		return nil, err
	}
	step, ok := secondfactor.Match(in.Body.Secret, in.Body.Code, s.Now())
	if !ok {
		return nil, refuse("code", "This is not the code. See whether the clock of the phone is right, and type the code it shows now.")
	}
	codes := secondfactor.NewRecoveryCodes()
	err := s.Store.SetSecondFactor(ctx, member.ID, in.Body.Secret, step, codes, s.sessionDigest(ctx))
	if err != nil {
		return nil, problem(err)
	}
	return &recoveryCodesOutput{RecoveryCodesView{codes}}, nil
}

func (s *Server) renewRecoveryCodes(ctx context.Context, in *struct{ Body PasswordBody }) (*recoveryCodesOutput, error) {
	if err := s.provePassword(ctx, in.Body.Password); err != nil {
		return nil, err
	}
	if memberOf(ctx).TOTPSecret == nil {
		return nil, refuse("secondFactor", "There is no second factor that they could stand in for. Set one up first.")
	}
	codes := secondfactor.NewRecoveryCodes()
	if err := s.Store.SetRecoveryCodes(ctx, memberOf(ctx).ID, codes); err != nil {
		return nil, problem(err)
	}
	return &recoveryCodesOutput{RecoveryCodesView{codes}}, nil
}

// takeCode uses up a code of the second factor, of the app or a recovery code.
func (s *Server) takeCode(ctx context.Context, user store.User, code string) error {
	if err := s.takeAttempt(ctx, store.Attempt{Key: s.attemptKey("code", user.ID.String()), Budget: codesAsked}); err != nil {
		return err
	}
	var taken bool
	var err error
	if recovery := secondfactor.RecoveryCode(code); recovery != "" {
		taken, err = s.Store.TakeRecoveryCode(ctx, user.ID, recovery)
	} else if step, ok := secondfactor.Match(*user.TOTPSecret, code, s.Now()); ok {
		// One that was used is not used again.
		taken, err = s.Store.TakeStep(ctx, user.ID, step)
	}
	if err != nil {
		return problem(err)
	}
	if !taken {
		return huma.Error401Unauthorized("This is not the code, or it was used already. Type the one that the app shows now, or a recovery code.")
	}
	return nil
}
