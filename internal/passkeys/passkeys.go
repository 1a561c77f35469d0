// Package passkeys lets people sign in with what their device keeps for them instead of a password
// (W3C Web Authentication, level 3). A passkey is bound to the studio's host, so that no other site
// can ask for it, and the device asks for a finger, a face or a PIN before it is used: it is two
// factors at once.
package passkeys

import (
	"bytes"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"time"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"
	"github.com/google/uuid"
)

// AskedFor is how long the device may take to answer.
const AskedFor = 5 * time.Minute

// ErrRefused: what came back is no answer to what was asked, or is too late.
var ErrRefused = errors.New("the passkey is not the one that was asked for")

// Keys makes and checks passkeys of one studio.
type Keys struct {
	web *webauthn.WebAuthn
	key []byte
	now func() time.Time
}

// Owner is whose passkeys they are.
type Owner struct {
	ID    uuid.UUID
	Email string
	// Credentials are those they have, as Made returned them.
	Credentials [][]byte
}

// Made is a passkey as it is kept.
type Made struct {
	// Handle is what the device calls it.
	Handle []byte
	// Credential is its public half, as JSON.
	Credential []byte
}

// Question is what a device is asked. State comes back with the answer: nothing is kept meanwhile.
type Question struct {
	Options any
	State   string
}

// New makes keys for a studio at an origin. Questions are signed with key.
func New(origin string, key []byte, now func() time.Time) (*Keys, error) {
	address, err := url.Parse(origin)
	if err != nil {
		return nil, fmt.Errorf("passkeys: %w", err)
	}
	web, err := webauthn.New(&webauthn.Config{RPID: address.Hostname(), RPDisplayName: "Jundle", RPOrigins: []string{origin}})
	if err != nil {
		return nil, fmt.Errorf("passkeys: %w", err)
	}
	return &Keys{web, key, now}, nil
}

// AskToMake asks a device to make a passkey for somebody.
func (k *Keys) AskToMake(owner Owner) (Question, error) {
	who, err := personOf(owner)
	if err != nil {
		return Question{}, err
	}
	options, session, err := k.web.BeginRegistration(who,
		webauthn.WithResidentKeyRequirement(protocol.ResidentKeyRequirementRequired),
		webauthn.WithAuthenticatorSelection(protocol.AuthenticatorSelection{
			ResidentKey: protocol.ResidentKeyRequirementRequired, UserVerification: protocol.VerificationRequired,
		}),
		webauthn.WithExclusions(webauthn.Credentials(who.credentials).CredentialDescriptors()))
	if err != nil {
		return Question{}, fmt.Errorf("ask for a passkey: %w", err)
	}
	state, err := k.seal("make", session)
	return Question{options.Response, state}, err
}

// Make takes the passkey that a device made. It answers ErrRefused.
func (k *Keys) Make(owner Owner, state string, answer []byte) (Made, error) {
	session, err := k.open("make", state)
	if err != nil {
		return Made{}, err
	}
	who, err := personOf(owner)
	if err != nil {
		return Made{}, err
	}
	parsed, err := protocol.ParseCredentialCreationResponseBody(bytes.NewReader(answer))
	if err != nil {
		return Made{}, fmt.Errorf("%w: %w", ErrRefused, err)
	}
	credential, err := k.web.CreateCredential(who, session, parsed)
	if err != nil {
		return Made{}, fmt.Errorf("%w: %w", ErrRefused, err)
	}
	return madeOf(credential)
}

// AskToSignIn asks a device for any passkey of this studio.
func (k *Keys) AskToSignIn() (Question, error) {
	options, session, err := k.web.BeginDiscoverableLogin(webauthn.WithUserVerification(protocol.VerificationRequired))
	if err != nil {
		return Question{}, fmt.Errorf("ask for a passkey: %w", err)
	}
	state, err := k.seal("sign in", session)
	return Question{options.Response, state}, err
}

// SignIn says whose passkey signed the answer, and how it is to be kept from now on. find looks up
// an owner; its error is returned. It answers ErrRefused.
func (k *Keys) SignIn(state string, answer []byte, find func(owner uuid.UUID) (Owner, error)) (uuid.UUID, Made, error) {
	session, err := k.open("sign in", state)
	if err != nil {
		return uuid.UUID{}, Made{}, err
	}
	parsed, err := protocol.ParseCredentialRequestResponseBody(bytes.NewReader(answer))
	if err != nil {
		return uuid.UUID{}, Made{}, fmt.Errorf("%w: %w", ErrRefused, err)
	}
	var notFound error
	user, credential, err := k.web.ValidatePasskeyLogin(func(_, handle []byte) (webauthn.User, error) {
		id, err := uuid.FromBytes(handle)
		if err != nil {
			return nil, err
		}
		owner, err := find(id)
		if err != nil {
			notFound = err
			return nil, err
		}
		return personOf(owner)
	}, session, parsed)
	switch {
	case notFound != nil:
		return uuid.UUID{}, Made{}, notFound
	case err != nil:
		return uuid.UUID{}, Made{}, fmt.Errorf("%w: %w", ErrRefused, err)
	case credential.Authenticator.CloneWarning:
		return uuid.UUID{}, Made{}, fmt.Errorf("%w: it may be a copy", ErrRefused)
	}
	made, err := madeOf(credential)
	return user.(person).id, made, err
}

func madeOf(credential *webauthn.Credential) (Made, error) {
	kept, err := json.Marshal(credential)
	if err != nil {
		return Made{}, fmt.Errorf("keep a passkey: %w", err)
	}
	return Made{credential.ID, kept}, nil
}

// asked is what was asked, of whom, and until when.
type asked struct {
	What    string
	Session webauthn.SessionData
	Until   time.Time
}

func (k *Keys) seal(what string, session *webauthn.SessionData) (string, error) {
	body, err := json.Marshal(asked{what, *session, k.now().Add(AskedFor)})
	if err != nil {
		return "", fmt.Errorf("ask for a passkey: %w", err)
	}
	return base64.RawURLEncoding.EncodeToString(append(k.sign(body), body...)), nil
}

func (k *Keys) open(what, state string) (webauthn.SessionData, error) {
	raw, err := base64.RawURLEncoding.DecodeString(state)
	if err != nil || len(raw) < sha256.Size || !hmac.Equal(raw[:sha256.Size], k.sign(raw[sha256.Size:])) {
		return webauthn.SessionData{}, ErrRefused
	}
	var was asked
	if err := json.Unmarshal(raw[sha256.Size:], &was); err != nil || was.What != what || !k.now().Before(was.Until) {
		return webauthn.SessionData{}, ErrRefused
	}
	return was.Session, nil
}

func (k *Keys) sign(body []byte) []byte {
	mac := hmac.New(sha256.New, k.key)
	mac.Write([]byte("passkey question:"))
	mac.Write(body)
	return mac.Sum(nil)
}

// person is an owner as the library wants one.
type person struct {
	id          uuid.UUID
	email       string
	credentials []webauthn.Credential
}

func personOf(owner Owner) (person, error) {
	who := person{id: owner.ID, email: owner.Email}
	for _, kept := range owner.Credentials {
		var credential webauthn.Credential
		if err := json.Unmarshal(kept, &credential); err != nil {
			return who, fmt.Errorf("read a passkey: %w", err)
		}
		who.credentials = append(who.credentials, credential)
	}
	return who, nil
}

func (p person) WebAuthnID() []byte                         { return p.id[:] }
func (p person) WebAuthnName() string                       { return p.email }
func (p person) WebAuthnDisplayName() string                { return p.email }
func (p person) WebAuthnCredentials() []webauthn.Credential { return p.credentials }
