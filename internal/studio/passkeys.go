package studio

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/clients"
	"jundle/internal/passkeys"
	"jundle/internal/store"
)

// passkeyBody is enough for what a device answers.
const passkeyBody = 24 << 10

// PasskeyQuestion is what a device is asked.
type PasskeyQuestion struct {
	Options any    `json:"options" doc:"For navigator.credentials, as JSON (Web Authentication, level 3)."`
	State   string `json:"state" doc:"Goes back with the answer, within five minutes."`
}

type passkeyQuestionOutput struct{ Body PasskeyQuestion }

// PasskeyAnswer is what a device answered.
type PasskeyAnswer struct {
	State  string         `json:"state" maxLength:"8000"`
	Answer map[string]any `json:"answer" doc:"The credential, as JSON."`
}

func (s *Server) addPasskeys() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "ask-for-passkey", Method: http.MethodPost, Path: "/api/account/passkeys/question",
		Summary: "What to ask a device to make a passkey",
	}), s.askForPasskey)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-passkey", Method: http.MethodPost, Path: "/api/account/passkeys", Summary: "Keep a passkey that a device made",
		MaxBodyBytes: passkeyBody,
	}), s.addPasskey)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "remove-passkey", Method: http.MethodPost, Path: "/api/account/passkeys/{passkey}/removal", Summary: "Remove a passkey",
		DefaultStatus: http.StatusNoContent, MaxBodyBytes: credentialsBody,
	}), func(ctx context.Context, in *struct {
		Passkey uuid.UUID `path:"passkey"`
		Body    PasswordBody
	},
	) (*struct{}, error) {
		if err := s.provePassword(ctx, in.Body.Password); err != nil {
			return nil, err
		}
		return nil, problemOrNil(s.Store.RemovePasskey(ctx, memberOf(ctx).ID, in.Passkey))
	})
	huma.Register(s.api, limited(huma.Operation{
		OperationID: "ask-to-sign-in", Method: http.MethodPost, Path: "/api/passkey-sign-in/question",
		Summary: "What to ask a device to sign in with any passkey",
	}), func(context.Context, *struct{}) (*passkeyQuestionOutput, error) {
		question, err := s.passkeys.AskToSignIn()
		return &passkeyQuestionOutput{PasskeyQuestion(question)}, problemOrNil(err)
	})
	huma.Register(s.api, huma.Operation{
		OperationID: "sign-in-with-passkey", Method: http.MethodPost, Path: "/api/passkey-sign-in", Summary: "Sign in with a passkey",
		MaxBodyBytes: passkeyBody,
	}, s.signInWithPasskey)
}

func (s *Server) passkeyOwner(ctx context.Context, user store.User) (passkeys.Owner, error) {
	keys, err := s.Store.Passkeys(ctx, user.ID)
	owner := passkeys.Owner{ID: user.ID, Email: user.Email}
	for _, key := range keys {
		owner.Credentials = append(owner.Credentials, key.Credential)
	}
	return owner, err
}

func (s *Server) askForPasskey(ctx context.Context, in *struct{ Body PasswordBody }) (*passkeyQuestionOutput, error) {
	if err := s.provePassword(ctx, in.Body.Password); err != nil {
		return nil, err
	}
	owner, err := s.passkeyOwner(ctx, memberOf(ctx).User)
	if err != nil {
		return nil, problem(err)
	}
	question, err := s.passkeys.AskToMake(owner)
	return &passkeyQuestionOutput{PasskeyQuestion(question)}, problemOrNil(err)
}

func (s *Server) addPasskey(ctx context.Context, in *struct {
	Client
	Body struct {
		PasskeyAnswer
		Name string `json:"name" maxLength:"60" doc:"What it is called; by its browser, when empty."`
	}
},
) (*struct{ Body PasskeyView }, error) {
	owner, err := s.passkeyOwner(ctx, memberOf(ctx).User)
	if err != nil {
		return nil, problem(err)
	}
	answer, err := json.Marshal(in.Body.Answer)
	if err != nil {
		return nil, problem(err)
	}
	made, err := s.passkeys.Make(owner, in.Body.State, answer)
	if errors.Is(err, passkeys.ErrRefused) {
		return nil, refuse("passkey", "The device did not make a passkey for this studio. Nothing was changed; try again.")
	}
	if err != nil {
		return nil, problem(err)
	}
	// What a device was asked makes one passkey.
	if used, err := s.usedOnce(ctx, in.Body.State); err != nil {
		return nil, problem(err)
	} else if used {
		return nil, huma.Error409Conflict("This answer made a passkey already. Ask the device once more for another.")
	}
	name := strings.TrimSpace(in.Body.Name)
	if name == "" {
		name = clients.Device(in.agent)
	}
	key, err := s.Store.AddPasskey(ctx, store.Passkey{
		UserID: owner.ID, Name: name, Handle: made.Handle, Credential: made.Credential, CreatedAt: s.Now(),
	})
	switch {
	case errors.Is(err, store.ErrPasskeyKnown):
		return nil, huma.Error409Conflict("This passkey is kept already. Nothing was changed.")
	case err != nil:
		return nil, problem(err)
	}
	return &struct{ Body PasskeyView }{PasskeyView{key.ID, key.Name, key.CreatedAt, key.UsedAt}}, nil
}

func (s *Server) signInWithPasskey(ctx context.Context, in *struct {
	Client
	Body PasskeyAnswer
},
) (*signedInOutput, error) {
	if err := s.takeAttempt(ctx, store.Attempt{Key: s.attemptKey("network", in.network), Budget: oneNetwork}); err != nil {
		return nil, err
	}
	answer, err := json.Marshal(in.Body.Answer)
	if err != nil {
		return nil, problem(err)
	}
	user, made, err := s.passkeys.SignIn(in.Body.State, answer, func(owner uuid.UUID) (passkeys.Owner, error) {
		user, err := s.Store.UserByID(ctx, owner)
		if err != nil {
			return passkeys.Owner{}, err
		}
		return s.passkeyOwner(ctx, user)
	})
	if errors.Is(err, passkeys.ErrRefused) || errors.Is(err, store.ErrNotFound) {
		return nil, huma.Error401Unauthorized(
			"Nobody signs in here with this passkey. Sign in with your password, and see which passkeys you have.")
	}
	if err != nil {
		return nil, problem(err)
	}
	// What a device answered signs in once.
	used, err := s.usedOnce(ctx, in.Body.State)
	if err != nil {
		return nil, problem(err)
	}
	if used {
		return nil, huma.Error401Unauthorized("This answer signed in already. Ask the device once more.")
	}
	if err := s.Store.UsePasskey(ctx, user, made.Handle, made.Credential, s.Now()); err != nil {
		return nil, problem(err)
	}
	owner, err := s.Store.UserByID(ctx, user)
	if err != nil {
		return nil, problem(err)
	}
	known, err := s.Store.Known(ctx, s.attemptKey("known", owner.Email, in.network), s.Now())
	if err != nil {
		return nil, problem(err)
	}
	return s.enter(ctx, owner, uuid.UUID{}, in.Client, known)
}

// usedOnce tells whether what a device was asked was answered and taken before, and notes that it is now.
func (s *Server) usedOnce(ctx context.Context, state string) (bool, error) {
	once := store.Attempt{Key: s.attemptKey("passkey question", state), Budget: store.Budget{Burst: 1, Pause: time.Hour}}
	wait, err := s.Store.TakeAttempt(ctx, once, s.Now())
	return wait > 0, err
}
