package studio_test

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/descope/virtualwebauthn"
	"github.com/google/uuid"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/team"
	"jundle/internal/store"
)

const ilses = "quarrow-clay@quarrow.example"

func codeOf(t *testing.T, secret string, at time.Time) string {
	t.Helper()
	code, err := totp.GenerateCode(secret, at)
	require.NoError(t, err)
	return code
}

// signIn is an attempt to, from a network of its own.
func (b *browser) signIn(email, password, code string) answer {
	sent := fields{"email": email, "password": password}
	if code != "" {
		sent["code"] = code
	}
	return b.send("POST", "/api/sign-in", sent, from("198.51.100.7"))
}

func from(address string) func(*http.Request) {
	return func(r *http.Request) { r.Header.Set("X-Forwarded-For", address) }
}

func TestAnAccountOpensOnlyForWhoeverReadsItsLetters(t *testing.T) {
	b := open(t)
	rolf := b.browser()
	asked := fields{"email": "rolf@quarrow.example", "pageAddress": "rolf-pots", "zone": "Europe/Lisbon"}
	require.Equal(t, http.StatusAccepted, rolf.send("POST", "/api/sign-up", asked).status)
	assert.Equal(t, http.StatusUnauthorized, rolf.signIn("rolf@quarrow.example", password, "").status, "there is no account yet")
	token := b.token("rolf@quarrow.example")
	look := rolf.send("POST", "/api/sign-up/look", fields{"token": token})
	assert.Equal(t, map[string]any{"email": "rolf@quarrow.example", "pageAddress": "rolf-pots", "free": true}, look.body)

	opened := func(with fields) answer {
		sent := fields{"token": token, "password": password, "pageAddress": "rolf-pots"}
		for name, value := range with {
			sent[name] = value
		}
		return rolf.send("POST", "/api/accounts", sent)
	}
	for field, wrong := range map[string]map[string]string{
		"password":    {"short": "12 to 128", strings.Repeat("x", 129): "12 to 128"},
		"pageAddress": {"admin": "kept for the service"},
	} {
		for value, says := range wrong {
			got := opened(fields{field: value})
			assert.Equal(t, http.StatusUnprocessableEntity, got.status, "%s %q", field, value)
			assert.Contains(t, got.detail(), says)
		}
	}
	b.browser().signUp("quarrow-clay")
	taken := opened(fields{"pageAddress": "quarrow-clay"})
	assert.Contains(t, taken.detail(), "is taken", "and the link still opens the account")
	assert.Equal(t, http.StatusNotFound, opened(fields{"token": token[1:]}).status)

	in := opened(nil)
	require.Equal(t, http.StatusOK, in.status, "%v", in.body)
	assert.Equal(t, "Europe/Lisbon", in.body["me"].(map[string]any)["zone"])
	assert.Equal(t, http.StatusOK, rolf.send("GET", "/api/me", nil).status)
	again := opened(nil)
	assert.Equal(t, http.StatusNotFound, again.status)
	assert.Contains(t, again.detail(), "over, or was used already")

	asked = fields{"email": "late@quarrow.example", "pageAddress": "late-pots", "zone": "UTC"}
	require.Equal(t, http.StatusAccepted, rolf.send("POST", "/api/sign-up", asked).status)
	late := b.token("late@quarrow.example")
	b.now = b.now.Add(25 * time.Hour)
	assert.Equal(t, http.StatusNotFound, rolf.send("POST", "/api/sign-up/look", fields{"token": late}).status)
}

func TestWhoeverHasAnAccountIsToldSoInALetterAndNobodyElseIs(t *testing.T) {
	b := open(t)
	b.browser().signUp("quarrow-clay")
	b.lettersTo(ilses)
	stranger := b.browser()
	ask := func(email string) answer {
		return stranger.send("POST", "/api/sign-up", fields{"email": email, "pageAddress": "some-pots", "zone": "UTC"})
	}
	assert.Equal(t, ask("nobody@quarrow.example").raw, ask(ilses).raw)
	assert.Equal(t, []string{"You have an account already"}, b.lettersTo(ilses))
	assert.Equal(t, []string{"Open your account"}, b.lettersTo("nobody@quarrow.example"))

	forgotten := func(email string) answer {
		return stranger.send("POST", "/api/forgotten-password", fields{"email": email})
	}
	assert.Equal(t, forgotten("who@quarrow.example").raw, forgotten(ilses).raw)
	assert.Empty(t, b.lettersTo("who@quarrow.example"))
	for range 2 {
		forgotten(ilses)
	}
	assert.Equal(t, http.StatusTooManyRequests, forgotten(ilses).status, "a mailbox is not filled by strangers")
}

func TestAForgottenPasswordIsSetByALetterAndEndsEverySession(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	require.Equal(t, http.StatusAccepted, b.browser().send("POST", "/api/forgotten-password", fields{"email": ilses}).status)
	token := b.token(ilses)
	set := func(token, password string) answer {
		return b.browser().send("POST", "/api/new-password", fields{"token": token, "password": password})
	}
	assert.Contains(t, set(token, "short").detail(), "12 to 128")
	assert.Equal(t, http.StatusNoContent, set(token, "ash and celadon").status)
	assert.Equal(t, http.StatusNotFound, set(token, "ash and tenmoku").status, "once")
	assert.Equal(t, http.StatusUnauthorized, ilse.send("GET", "/api/me", nil).status)
	assert.Equal(t, http.StatusUnauthorized, ilse.signIn(ilses, password, "").status)
	assert.Equal(t, http.StatusOK, ilse.signIn(ilses, "ash and celadon", "").status)
	assert.Contains(t, b.lettersTo(ilses), "Your password was changed")

	require.Equal(t, http.StatusAccepted, b.browser().send("POST", "/api/forgotten-password", fields{"email": ilses}).status)
	late := b.token(ilses)
	b.now = b.now.Add(61 * time.Minute)
	assert.Equal(t, http.StatusNotFound, set(late, "ash and tenmoku").status)
}

func TestAChangedPasswordEndsOtherSessionsAndWhatOthersBegan(t *testing.T) {
	b := open(t)
	ilse, elsewhere := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	require.Equal(t, http.StatusOK, elsewhere.signIn(ilses, password, "").status)
	require.Equal(t, http.StatusAccepted,
		elsewhere.send("PUT", "/api/account/email", fields{"password": password, "email": "thief@quarrow.example"}).status)
	stolen := b.token("thief@quarrow.example")
	assert.Contains(t, b.lettersTo(ilses), "Your e-mail address is to be changed")

	change := func(old, next string) answer {
		return ilse.send("PUT", "/api/account/password", fields{"password": old, "newPassword": next})
	}
	assert.Contains(t, change("not hers at all", "ash and celadon").detail(), "This is not your password")
	assert.Contains(t, change(password, "Dragon123456").detail(), "Many people have this password")
	assert.Equal(t, http.StatusNoContent, change(password, "ash and celadon").status)
	assert.Equal(t, http.StatusOK, ilse.send("GET", "/api/me", nil).status)
	assert.Equal(t, http.StatusUnauthorized, elsewhere.send("GET", "/api/me", nil).status)
	assert.Equal(t, http.StatusNotFound, b.browser().send("POST", "/api/confirm-email", fields{"token": stolen}).status)
}

func TestAnEmailAddressChangesOnceTheNewOneIsConfirmed(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	b.browser().signUp("rolf")
	b.lettersTo(ilses)
	change := func(email string) answer {
		return ilse.send("PUT", "/api/account/email", fields{"password": password, "email": email})
	}
	assert.Equal(t, change("rolf@quarrow.example").raw, change("ilse@quarrow.example").raw, "nobody learns who has an account")
	assert.Contains(t, b.lettersTo("rolf@quarrow.example"), "You have an account already")
	assert.Equal(t, ilses, ilse.send("GET", "/api/account", nil).body["email"])
	token := b.token("ilse@quarrow.example")
	assert.Equal(t, http.StatusNoContent, b.browser().send("POST", "/api/confirm-email", fields{"token": token}).status)
	assert.Equal(t, "ilse@quarrow.example", ilse.send("GET", "/api/account", nil).body["email"])
	assert.Equal(t, []string{"Your e-mail address is to be changed", "Your e-mail address was changed"}, b.lettersTo(ilses))
	assert.Equal(t, http.StatusOK, b.browser().signIn("ilse@quarrow.example", password, "").status)
}

func TestSessionsAreSeenAndEndedFromAnother(t *testing.T) {
	b := open(t)
	ilse, phone, stranger := b.browser(), b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	stranger.signUp("rolf")
	b.lettersTo(ilses)
	in := phone.send("POST", "/api/sign-in", fields{"email": ilses, "password": password}, from("203.0.113.9"), func(r *http.Request) {
		r.Header.Set("User-Agent", "Mozilla/5.0 (Android 14; Mobile; rv:128.0) Gecko/128.0 Firefox/128.0")
	})
	require.Equal(t, http.StatusOK, in.status)
	assert.Equal(t, []string{"A new sign-in"}, b.lettersTo(ilses))
	sessions := ilse.send("GET", "/api/account/sessions", nil).list
	require.Len(t, sessions, 2)
	assert.Equal(t, true, sessions[0]["current"])
	assert.Equal(t, "Firefox on Android", sessions[1]["device"])
	path := "/api/account/sessions/" + sessions[1]["id"].(string)
	assert.Equal(t, http.StatusNotFound, stranger.send("DELETE", path, nil).status)
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", path, nil).status)
	assert.Equal(t, http.StatusUnauthorized, phone.send("GET", "/api/me", nil).status)

	again := phone.send("POST", "/api/sign-in", fields{"email": ilses, "password": password}, from("203.0.113.9"))
	require.Equal(t, http.StatusOK, again.status)
	assert.Empty(t, b.lettersTo(ilses), "the network is known by now")
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/account/sessions", nil).status)
	assert.Equal(t, http.StatusUnauthorized, phone.send("GET", "/api/me", nil).status)
	assert.Len(t, ilse.send("GET", "/api/account/sessions", nil).list, 1)
	assert.Equal(t, http.StatusOK, stranger.send("GET", "/api/me", nil).status)
}

func TestACodeIsAskedForBesidesThePasswordAndTakenOnce(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	secret := ilse.send("POST", "/api/account/second-factor/secret", nil).body["secret"].(string)
	set := func(code string) answer {
		return ilse.send("PUT", "/api/account/second-factor", fields{"password": password, "secret": secret, "code": code})
	}
	assert.Contains(t, set("000000").detail(), "This is not the code")
	on := set(codeOf(t, secret, b.now))
	require.Equal(t, http.StatusOK, on.status, "%v", on.body)
	recovery := on.body["codes"].([]any)[3].(string)
	assert.Contains(t, b.lettersTo(ilses), "Signing in wants a code now")

	phone := b.browser()
	wants := phone.signIn(ilses, password, "")
	assert.Equal(t, "code", wants.body["wants"])
	assert.Equal(t, http.StatusUnauthorized, phone.send("GET", "/api/me", nil).status, "a password alone lets nobody in")
	assert.Equal(t, http.StatusUnauthorized, phone.signIn(ilses, "a guess or two", codeOf(t, secret, b.now)).status)
	assert.Equal(t, http.StatusUnauthorized, phone.signIn(ilses, password, codeOf(t, secret, b.now)).status, "it was used to switch it on")
	b.now = b.now.Add(time.Minute)
	next := codeOf(t, secret, b.now)
	assert.Equal(t, http.StatusOK, phone.signIn(ilses, password, next).status)
	b.now = b.now.Add(10 * time.Second)
	assert.Equal(t, http.StatusUnauthorized, b.browser().signIn(ilses, password, next).status, "a code is taken once")

	b.now = b.now.Add(time.Hour)
	assert.Equal(t, http.StatusOK, b.browser().signIn(ilses, password, strings.ToUpper(recovery)).status)
	assert.Equal(t, http.StatusUnauthorized, b.browser().signIn(ilses, password, recovery).status, "so is a recovery code")
	assert.Contains(t, b.lettersTo(ilses), "A recovery code was used")
	assert.EqualValues(t, 9, ilse.send("GET", "/api/account", nil).body["recoveryCodes"])
	renewed := ilse.send("POST", "/api/account/recovery-codes", fields{"password": password})
	require.Len(t, renewed.body["codes"], 10)
	assert.Equal(t, http.StatusUnauthorized, b.browser().signIn(ilses, password, on.body["codes"].([]any)[0].(string)).status)

	b.now = b.now.Add(time.Hour)
	assert.Equal(t, http.StatusNoContent, ilse.send("POST", "/api/account/second-factor/off", fields{"password": password}).status)
	assert.NotNil(t, b.browser().signIn(ilses, password, "").body["me"])
}

func TestCodesAreNotGuessed(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	secret := ilse.send("POST", "/api/account/second-factor/secret", nil).body["secret"].(string)
	on := fields{"password": password, "secret": secret, "code": codeOf(t, secret, b.now)}
	require.Equal(t, http.StatusOK, ilse.send("PUT", "/api/account/second-factor", on).status)
	tried := 0
	for i := range 40 {
		network := from("198.51.100." + string(rune('0'+i%10)) + string(rune('0'+i/10)))
		got := b.browser().send("POST", "/api/sign-in", fields{"email": ilses, "password": password, "code": "000000"}, network)
		if got.status == http.StatusUnauthorized {
			tried++
		}
	}
	assert.Equal(t, 10, tried, "from however many networks")
}

// device keeps a passkey.
type device struct {
	virtualwebauthn.Authenticator
	credential virtualwebauthn.Credential
}

var studioOrigin = virtualwebauthn.RelyingParty{Name: "Jundle", ID: "studio.example", Origin: "http://studio.example"}

// newCredential is a passkey to be made. Its key is one whose coordinates need all their bytes: the
// library drops leading zeros of others.
func newCredential(t *testing.T) virtualwebauthn.Credential {
	t.Helper()
	for {
		key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
		require.NoError(t, err)
		if public, err := key.PublicKey.Bytes(); err != nil || public[1] == 0 || public[33] == 0 {
			continue
		}
		data, err := x509.MarshalPKCS8PrivateKey(key)
		require.NoError(t, err)
		return virtualwebauthn.NewCredentialWithImportedKey(virtualwebauthn.KeyTypeEC2, data)
	}
}

// newDevice is a device of whoever is signed in, with a passkey to be made.
func newDevice(b *browser) device {
	b.t.Helper()
	member, err := b.store.MemberByEmail(b.t.Context(), b.send("GET", "/api/me", nil).body["email"].(string))
	require.NoError(b.t, err)
	made := device{virtualwebauthn.NewAuthenticator(), newCredential(b.t)}
	made.Options.UserHandle = member.ID[:]
	made.AddCredential(made.credential)
	return made
}

// passkeyBody is what a device sends that makes a passkey.
func (b *browser) passkeyBody(credential virtualwebauthn.Credential) fields {
	b.t.Helper()
	question := b.send("POST", "/api/account/passkeys/question", fields{"password": password})
	require.Equal(b.t, http.StatusOK, question.status, "%v", question.body)
	options, err := json.Marshal(fields{"publicKey": question.body["options"]})
	require.NoError(b.t, err)
	parsed, err := virtualwebauthn.ParseAttestationOptions(string(options))
	require.NoError(b.t, err)
	answer := fields{}
	response := virtualwebauthn.CreateAttestationResponse(studioOrigin, virtualwebauthn.NewAuthenticator(), credential, *parsed)
	require.NoError(b.t, json.Unmarshal([]byte(response), &answer))
	return fields{"state": question.body["state"], "answer": answer, "name": ""}
}

func (b *browser) addPasskey(credential virtualwebauthn.Credential) answer {
	b.t.Helper()
	return b.send("POST", "/api/account/passkeys", b.passkeyBody(credential))
}

// answer is what a device sends that is asked to sign in.
func (d device) answer(b *browser) fields {
	b.t.Helper()
	question := b.send("POST", "/api/passkey-sign-in/question", nil)
	require.Equal(b.t, http.StatusOK, question.status)
	options, err := json.Marshal(fields{"publicKey": question.body["options"]})
	require.NoError(b.t, err)
	parsed, err := virtualwebauthn.ParseAssertionOptions(string(options))
	require.NoError(b.t, err)
	answer := fields{}
	response := virtualwebauthn.CreateAssertionResponse(studioOrigin, d.Authenticator, d.credential, *parsed)
	require.NoError(b.t, json.Unmarshal([]byte(response), &answer))
	return fields{"state": question.body["state"], "answer": answer}
}

func TestAPasskeySignsInWithoutAPassword(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	phone := newDevice(ilse)
	added := ilse.addPasskey(phone.credential)
	require.Equal(t, http.StatusOK, added.status, "%v", added.body)
	assert.Contains(t, b.lettersTo(ilses), "A passkey was added to your account")

	elsewhere := b.browser()
	sent := phone.answer(elsewhere)
	in := elsewhere.send("POST", "/api/passkey-sign-in", sent)
	require.Equal(t, http.StatusOK, in.status, "%v", in.body)
	assert.Equal(t, ilses, elsewhere.send("GET", "/api/me", nil).body["email"])
	assert.Equal(t, http.StatusUnauthorized, b.browser().send("POST", "/api/passkey-sign-in", sent).status, "an answer signs in once")

	late := phone.answer(elsewhere)
	b.now = b.now.Add(6 * time.Minute)
	assert.Equal(t, http.StatusUnauthorized, b.browser().send("POST", "/api/passkey-sign-in", late).status)
	unknown := newDevice(ilse)
	assert.Equal(t, http.StatusUnauthorized, b.browser().send("POST", "/api/passkey-sign-in", unknown.answer(elsewhere)).status)

	path := "/api/account/passkeys/" + added.body["id"].(string) + "/removal"
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("POST", path, fields{"password": "a guess or two"}).status)
	assert.Equal(t, http.StatusNoContent, ilse.send("POST", path, fields{"password": password}).status)
	assert.Equal(t, http.StatusUnauthorized, b.browser().send("POST", "/api/passkey-sign-in", phone.answer(elsewhere)).status)
	assert.Equal(t, http.StatusNotFound, ilse.send("POST", "/api/account/passkeys/"+uuid.NewString()+"/removal",
		fields{"password": password}).status)
}

func TestOneChallengeMakesOnePasskeyAndAKnownOneIsNotKeptTwice(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	credential := newCredential(t)
	body := ilse.passkeyBody(credential)
	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/account/passkeys", body).status)
	again := ilse.send("POST", "/api/account/passkeys", body)
	assert.Equal(t, http.StatusConflict, again.status)
	assert.Contains(t, again.detail(), "made a passkey already")
	known := ilse.send("POST", "/api/account/passkeys", ilse.passkeyBody(credential))
	assert.Equal(t, http.StatusConflict, known.status, "%v", known.body)
}

func TestAForgottenPasswordIsAskedForTheSameWayWhoeverItIs(t *testing.T) {
	b := open(t)
	who := b.browser()
	who.signUp("quarrow-clay")
	orders := func() (n int) {
		require.NoError(t, b.store.Pool().QueryRow(t.Context(),
			"select count(*) from river_job where kind = 'letter' and args->>'about' = 'new password'").Scan(&n))
		return n
	}
	for i, email := range []string{ilses, "nobody@kiln.example"} {
		require.Less(t, b.browser().send("POST", "/api/forgotten-password", fields{"email": email}).status, 300)
		assert.Equal(t, i+1, orders(), "as much is done for %s", email)
	}
}

func TestADeletedAccountCanBeKeptForTwoWeeks(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	assert.Contains(t, ilse.send("POST", "/api/account/deletion", fields{"password": "a guess or two"}).detail(), "Nothing was changed")
	gone := ilse.send("POST", "/api/account/deletion", fields{"password": password})
	require.Equal(t, http.StatusOK, gone.status)
	assert.Equal(t, b.now.Add(store.DeletionWait).Format(time.RFC3339), gone.body["deleteAt"])
	assert.Equal(t, gone.body["deleteAt"], ilse.send("GET", "/api/me", nil).body["deleteAt"])
	assert.Contains(t, b.lettersTo(ilses), "Your account is to be erased")
	require.NoError(t, b.store.EraseAccounts(t.Context(), 10, b.now.Add(store.DeletionWait-time.Minute)))
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/account/deletion", nil).status)
	assert.Contains(t, b.lettersTo(ilses), "Your account stays")
	require.NoError(t, b.store.EraseAccounts(t.Context(), 10, b.now.Add(2*store.DeletionWait)))
	assert.Equal(t, http.StatusOK, ilse.send("GET", "/api/me", nil).status)

	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/account/deletion", fields{"password": password}).status)
	require.NoError(t, b.store.EraseAccounts(t.Context(), 10, b.now.Add(store.DeletionWait)))
	assert.Equal(t, http.StatusUnauthorized, ilse.send("GET", "/api/me", nil).status)
	b.browser().signUp("quarrow-clay") // never published, so the page address is free again
}

func TestWhoeverIsSuspendedIsKeptOutWithTheirProgramsAndNothingIsLost(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	program := ilse.program(team.Reads, 30)
	page := ilse.pageID()
	note := store.OperatorEntry{At: b.now, Who: "root", Because: "Somebody complained."}
	require.NoError(t, b.store.SuspendAccount(t.Context(), ilses, note))
	assert.ErrorIs(t, b.store.SuspendAccount(t.Context(), ilses, note), store.ErrAlready)
	assert.ErrorIs(t, b.store.SuspendAccount(t.Context(), "nobody@quarrow.example", note), store.ErrNotFound)

	assert.Equal(t, http.StatusUnauthorized, ilse.send("GET", "/api/pages", nil).status, "the session is over")
	assert.Equal(t, http.StatusUnauthorized, program.send("GET", "/api/pages", nil).status)
	refused := b.browser().signIn(ilses, password, "")
	assert.Equal(t, http.StatusForbidden, refused.status)
	assert.Contains(t, refused.detail(), "Somebody complained.")
	wrong := b.browser().signIn(ilses, "glaze and ash", "")
	assert.Equal(t, http.StatusUnauthorized, wrong.status, "without the password nobody learns of it")

	require.NoError(t, b.store.RestoreAccount(t.Context(), ilses, note))
	again := b.browser()
	require.Equal(t, http.StatusOK, again.signIn(ilses, password, "").status)
	assert.Equal(t, page, again.pageID())
	assert.Equal(t, http.StatusOK, program.send("GET", "/api/pages", nil).status)
	known, err := b.store.Accounts(t.Context(), "QUARROW-CLAY", 10)
	require.NoError(t, err)
	require.Len(t, known, 1)
	assert.Nil(t, known[0].SuspendedAt)
}

func TestWhatWasTakenDownSaysSoToWhoeverKeepsIt(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	link := ilse.send("GET", "/api/short-links", nil).list[0]["address"].(string)
	note := store.OperatorEntry{At: b.now, Who: "root", Because: "Somebody complained."}
	require.NoError(t, b.store.TakeDown(t.Context(), store.PageKind, ilse.name, note))
	require.NoError(t, b.store.TakeDown(t.Context(), store.LinkKind, link, note))
	taken := ilse.send("GET", "/api/pages/"+ilse.ids["page"], nil).body["takenDown"].(map[string]any)
	assert.Equal(t, "Somebody complained.", taken["because"])
	assert.Equal(t, "Somebody complained.", ilse.send("GET", "/api/short-links", nil).list[0]["takenDown"])
	listed, err := b.store.Endpoints(t.Context(), store.PageKind, ilse.name, 10)
	require.NoError(t, err)
	assert.Equal(t, []string{ilse.name + "-helper@quarrow.example", ilse.name + "@quarrow.example"}, listed[0].Runners)
}
