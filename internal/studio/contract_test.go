package studio_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/team"
	"jundle/internal/pagefile"
	"jundle/internal/store"
)

// contract is the part of the OpenAPI document that the tests below are made from:
// an operation that is added is tested without anybody remembering.
type contract struct {
	Paths      map[string]map[string]operation
	Components struct{ Schemas map[string]schema }
}

type operation struct {
	OperationID string    `json:"operationId"`
	Role        team.Role `json:"x-role"`
	Scope       string    `json:"x-scope"`
	Security    []any
	Parameters  []struct {
		Name, In string
		Schema   schema
	}
	RequestBody *struct {
		Content map[string]struct{ Schema schema }
	} `json:"requestBody"`

	method, path string
}

type schema struct {
	Ref        string `json:"$ref"`
	Type       any
	Format     string
	Enum       []any
	Default    any
	Required   []string
	Properties map[string]schema
	Items      *schema
	Minimum    *float64
	Maximum    *float64
	MaxLength  *float64 `json:"maxLength"`
	MaxItems   *float64 `json:"maxItems"`
	ReadOnly   bool     `json:"readOnly"`
}

// kind is the type of a value, where it may be null too.
func (s schema) kind() string {
	if kinds, ok := s.Type.([]any); ok {
		kind, _ := kinds[0].(string)
		return kind
	}
	kind, _ := s.Type.(string)
	return kind
}

func (b *bench) contract() (contract, []operation) {
	b.t.Helper()
	text, err := b.studio.OpenAPI()
	require.NoError(b.t, err)
	var c contract
	require.NoError(b.t, json.Unmarshal(text, &c))
	var all []operation
	for path, methods := range c.Paths {
		for method, one := range methods {
			one.method, one.path = strings.ToUpper(method), path
			all = append(all, one)
		}
	}
	slices.SortFunc(all, func(a, b operation) int { return strings.Compare(a.OperationID, b.OperationID) })
	return c, all
}

func (o operation) json() (schema, bool) {
	if o.RequestBody == nil {
		return schema{}, false
	}
	body, ok := o.RequestBody.Content["application/json"]
	return body.Schema, ok
}

func (o operation) forMember() bool { return len(o.Security) > 0 }

// owner is somebody with one of everything that operations are about.
type owner struct {
	*browser
	name string
	ids  map[string]string // by name of the path parameter
}

var ownersMade int

// owner opens an account. The clock goes on, so that no limit is in the way.
func (b *bench) owner() owner {
	b.t.Helper()
	ownersMade++
	b.now = b.now.Add(2 * time.Hour)
	o := owner{b.browser(), fmt.Sprintf("potter-%d", ownersMade), map[string]string{}}
	require.Equal(b.t, http.StatusOK, o.signUp(o.name).status)
	o.ids["page"] = o.pageID()
	o.ids["of"] = o.ids["page"]
	made := func(got answer) answer {
		b.t.Helper()
		require.Less(b.t, got.status, 300, "%v", got.body)
		return got
	}
	o.ids["step"] = "a-step"
	o.ids["block"] = "film"
	first := draft(1, button(o.ids["block"], "The film", "https://film.example/"))
	made(o.send("PUT", o.page()+"/draft", with(first, "steps", []fields{step(o.ids["step"], "Rename", "done")})))
	made(o.send("POST", "/api/pages/"+o.ids["page"]+"/publish", fields{"revision": 2}))
	o.ids["edition"], o.ids["table"] = "1", "days"
	tried := made(o.send("POST", "/api/pages/"+o.ids["page"]+"/trials", newTrial(o.ids["block"])))
	o.ids["trial"] = tried.list[0]["id"].(string)
	o.ids["partner"] = made(o.send("POST", "/api/pages/"+o.ids["page"]+"/partner-reports?keep=true&name=Wavecastle", []byte(partnerReport))).
		body["kept"].(string)
	made(o.send("POST", "/api/pages", fields{"address": o.name + "-second"})) // one can be deleted
	straight := made(o.send("POST", "/api/pages/"+o.ids["page"]+"/takeovers", fields{"passThrough": "https://kiln.example/film"}))
	o.ids["takeover"] = straight.body["takeovers"].([]any)[0].(map[string]any)["id"].(string)
	o.ids["source"] = made(o.send("POST", "/api/pages/"+o.ids["page"]+"/sources", fields{"name": "Printed card"})).body["id"].(string)
	link := fields{
		"destination": "https://kiln.example/", "name": "", "labels": []string{}, "note": "", "on": true, "redirect": 302,
		"fallback": "", "preview": fields{"title": "", "text": ""}, "windows": []any{},
	}
	o.ids["link"] = made(o.send("POST", "/api/short-links", fields{"link": link})).body["id"].(string)
	o.ids["destination"] = made(o.send("GET", "/api/destinations", nil)).list[0]["id"].(string)
	many := fields{"search": o.name, "change": fields{"addLabels": []string{"Ours"}}}
	made(o.send("POST", "/api/link-files?keep=true", []byte("address,title\nhttps://kiln.example/a,"+o.name+
		"\nhttps://kiln.example/b,Merged\nhttps://kiln.example/c,Kept")))
	o.ids["merged"] = o.kept("Merged")[0]["id"].(string)
	o.ids["into"] = o.kept("Kept")[0]["id"].(string)
	made(o.send("PUT", "/api/destinations/"+o.ids["merged"]+"/merged", fields{"into": o.ids["into"]}))
	plan := made(o.send("POST", "/api/destination-changes", many))
	o.ids["change"] = made(o.send("POST", "/api/destination-changes", with(many, "digest", plan.body["digest"]))).
		body["changed"].(map[string]any)["id"].(string)
	o.ids["import"] = made(o.send("POST", "/api/link-files?keep=true", []byte("https://kiln.example/"+o.name))).body["import"].(string)
	o.ids["theme"] = made(o.send("POST", "/api/themes", fields{"name": "Ours", "look": look.Default()})).body["id"].(string)
	o.ids["shared"] = made(o.send("POST", "/api/shared-figures/"+o.ids["page"], fields{"name": "The gallery", "days": 3})).body["id"].(string)
	o.ids["name"] = made(o.send("POST", "/api/pictures", pngFile(b.t, 60, 40+ownersMade))).body["media"].(string)
	member, err := b.store.MemberByEmail(b.t.Context(), o.name+"@quarrow.example")
	require.NoError(b.t, err)
	o.ids["token"] = mailing.OffToken([]byte("letter key"), member.WorkspaceID, member.ID)
	o.ids["apiToken"] = made(o.send("POST", "/api/api-tokens", fields{"password": password, "name": "Shop", "role": "reads", "days": 30})).
		body["id"].(string)
	o.ids["webhook"] = made(o.send("POST", "/api/webhooks", newWebhook())).body["id"].(string)
	made(o.send("POST", "/api/webhooks/"+o.ids["webhook"]+"/trial", nil))
	o.ids["domain"] = made(o.send("POST", "/api/domains", fields{"host": o.name + ".quarrow.example"})).body["id"].(string)
	made(o.send("PUT", "/api/payment-service", newPaymentService()))
	o.ids["payment"] = b.paid(member.WorkspaceID, uuid.MustParse(o.ids["page"]), 500).ID.String()
	o.ids["booking"] = b.asked(member.WorkspaceID, uuid.MustParse(o.ids["page"]), 24*time.Hour).ID.String()
	o.ids["message"] = made(o.send("GET", "/api/webhooks/"+o.ids["webhook"]+"/messages", nil)).list[0]["id"].(string)
	require.NoError(b.t, b.store.AskSignUp(b.t.Context(), store.SignUp{
		WorkspaceID: member.WorkspaceID, Address: o.name + "@reader.example", AddressKey: o.name + "@reader.example", Block: "letter01",
		Language: "en", AskedAt: b.now,
	}))
	o.ids["signUp"] = made(o.send("GET", "/api/sign-ups", nil)).list[0]["id"].(string)
	taken, err := b.store.AddFeed(b.t.Context(), store.Feed{WorkspaceID: member.WorkspaceID, Address: "https://notes.kiln.example/"})
	require.NoError(b.t, err)
	o.ids["feed"] = taken.ID.String()
	made(o.send("PUT", "/api/list-service", newListService()))
	space := o.send("GET", "/api/workspaces", nil).list[0]["id"].(string)
	o.ids["workspace"] = space
	invited := made(o.send("POST", "/api/invitations", fields{
		"email": o.name + "-invited@quarrow.example", "role": "reads", "whole": true, "pages": []string{},
	}))
	o.ids["invitation"] = invited.body["id"].(string)
	helper := uuid.New()
	_, err = b.store.Pool().Exec(b.t.Context(), "insert into users (id, email, password_hash, created_at) values ($1, $2, '', now())",
		helper, o.name+"-helper@quarrow.example")
	require.NoError(b.t, err)
	_, err = b.store.Pool().Exec(b.t.Context(),
		"insert into memberships (workspace_id, user_id, role, created_at) values ($1, $2, 'runs', now())", space, helper)
	require.NoError(b.t, err)
	o.ids["member"] = helper.String()
	made(o.send("POST", "/api/workspace/export", nil))
	require.Eventually(b.t, func() bool { return o.send("GET", "/api/workspace/export", nil).body["state"] == "ready" }, 20*time.Second,
		10*time.Millisecond)
	return o
}

// prepare makes what few operations are about, and takes its time.
func (o owner) prepare(path string) {
	o.t.Helper()
	if strings.Contains(path, "{session}") {
		signedIn := o.bench.browser().send("POST", "/api/sign-in", fields{"email": o.name + "@quarrow.example", "password": password})
		require.Equal(o.t, http.StatusOK, signedIn.status, "%v", signedIn.body)
		o.ids["session"] = o.send("GET", "/api/account/sessions", nil).list[1]["id"].(string)
	}
	if strings.Contains(path, "{passkey}") {
		o.ids["passkey"] = o.addPasskey(newCredential(o.t)).body["id"].(string)
	}
}

// chooseAVariant has a trial of its own end with a choice, which can be undone.
func (o owner) chooseAVariant() {
	at := "/api/pages/" + o.ids["page"] + "/trials"
	for _, each := range o.send("GET", at, nil).list {
		o.send("DELETE", at+"/"+each["id"].(string), nil)
	}
	o.ids["trial"] = o.send("POST", at, newTrial(o.ids["block"])).list[0]["id"].(string)
	o.send("POST", at+"/"+o.ids["trial"]+"/choice", fields{"variant": 0})
}

// runningTrial is the trial that runs on the owner's page.
func (o owner) runningTrial() string {
	return o.send("GET", "/api/pages/"+o.ids["page"]+"/trials", nil).list[0]["id"].(string)
}

// path fills in the path of an operation with IDs of an owner.
func (o operation) at(ids map[string]string) string {
	path := o.path
	for name, id := range ids {
		path = strings.ReplaceAll(path, "{"+name+"}", url.PathEscape(id))
	}
	return path
}

// sample makes a body that fits a schema; known values go before made-up ones.
func (c contract) sample(of schema, name string, known map[string]any) any {
	if value, ok := known[name]; ok {
		return value
	}
	if of.Ref != "" {
		return c.sample(c.Components.Schemas[of.Ref[strings.LastIndexByte(of.Ref, '/')+1:]], name, known)
	}
	if len(of.Enum) > 0 {
		return of.Enum[0]
	}
	switch of.kind() {
	case "object":
		body := map[string]any{}
		for property, inner := range of.Properties {
			if slices.Contains(of.Required, property) && !inner.ReadOnly {
				body[property] = c.sample(inner, property, known)
			}
		}
		return body
	case "array":
		return []any{}
	case "integer", "number":
		if of.Minimum != nil {
			return *of.Minimum
		}
		return 1
	case "boolean":
		return false
	}
	return "kiln"
}

// body is what an operation is sent by its owner.
func (c contract) body(o operation, who owner) any {
	of, ok := o.json()
	if !ok {
		if o.RequestBody == nil {
			return nil
		}
		taken, _ := pagefile.Of(store.Page{Address: who.name + "-taken", Draft: page.New()}, nil).JSON()
		return map[string][]byte{
			"upload-film":    append([]byte("\x00\x00\x00\x18ftypisom"), make([]byte, 100)...),
			"read-link-file": []byte("https://kiln.example/"), "read-partner-report": []byte(partnerReport),
			"take-in-page": taken,
		}[o.OperationID]
	}
	if o.OperationID == "begin-takeover" {
		return fields{"passThrough": "https://kiln.example/film"} // nothing of it is required by itself
	}
	if o.OperationID == "plan-trial" || o.OperationID == "begin-trial" {
		who.send("DELETE", "/api/pages/"+who.ids["page"]+"/trials/"+who.ids["trial"], nil)
		return newTrial(who.ids["block"])
	}
	if o.OperationID == "change-many-destinations" {
		return fields{"search": "", "change": fields{"addLabels": []string{"Ours"}}} // the same
	}
	if body, ok := who.accountBody(o.OperationID); ok {
		return body
	}
	doc := page.New()
	revision := 1
	switch o.OperationID {
	case "save-draft", "publish":
		revision = 2
	case "change-short-link":
		revision = int(who.send("GET", "/api/short-links", nil).list[0]["revision"].(float64))
	}
	known := map[string]any{
		"document": doc, "look": look.Default(), "revision": revision, "email": who.name + "-new@quarrow.example", "password": "clay and water",
		"original": who.ids["name"], "into": who.ids["into"],
		"destination": "https://kiln.example/", "redirect": 302, "text": "https://kiln.example/", "keepDays": 90, "cut": nil,
		"address": "https://kiln.example/", "zone": "UTC",
		"blocks":      []any{button("sale", "Seconds sale", "https://kiln.example/")},
		"pageAddress": who.name + "-new", "tags": fields{"source": "letter"}, "on": true,
	}
	switch o.OperationID {
	case "add-page", "change-address", "readdress-short-link":
		known["address"] = who.name + "-other"
	case "sign-in":
		known["email"] = who.name + "@quarrow.example"
	}
	delete(known, "cut")
	return c.sample(of, "", known)
}

// provesPassword are operations that few tries are let through to, each with what they are sent.
var provesPassword = map[string]fields{
	"change-password":      {"password": password, "newPassword": "glaze and ash"},
	"change-email":         {"password": password, "email": ""},
	"set-second-factor":    {"password": password, "secret": "", "code": ""},
	"clear-second-factor":  {"password": password},
	"renew-recovery-codes": {"password": password},
	"ask-for-passkey":      {"password": password},
	"remove-passkey":       {"password": password},
	"delete-account":       {"password": password},
	"add-api-token":        {"password": password, "name": "Shop", "role": "reads", "days": 30},
}

func newListService() fields {
	return fields{"address": "https://lists.example/v1", "list": "studio-letter", "token": "key-1"}
}

func newWebhook() fields {
	return fields{"address": "https://hooks.example/shop", "kinds": []string{"page.published"}, "clicks": 0}
}

// triesComeBack is after how long there are as many as before.
const triesComeBack = 30 * time.Minute

// accountBody is what operations on accounts are sent, with what came in a letter or from a device.
func (o owner) accountBody(operation string) (fields, bool) {
	o.t.Helper()
	email, other := o.name+"@quarrow.example", o.name+"-new@quarrow.example"
	body := fields{}
	for name, value := range provesPassword[operation] {
		body[name] = value
	}
	secret := "JBSWY3DPEHPK3PXPJBSWY3DPEHPK3PXP"
	switch operation {
	case "look-at-sign-up", "open-account":
		o.send("POST", "/api/sign-up", fields{"email": other, "pageAddress": o.name + "-new", "zone": "UTC"})
		body["token"] = o.bench.token(other)
		if operation == "open-account" {
			body["password"], body["pageAddress"] = password, o.name+"-new"
		}
	case "confirm-email":
		o.send("PUT", "/api/account/email", fields{"password": password, "email": other})
		body["token"] = o.bench.token(other)
	case "set-new-password":
		o.send("POST", "/api/forgotten-password", fields{"email": email})
		body["token"], body["password"] = o.bench.token(email), "glaze and ash"
	case "change-email":
		body["email"] = other
	case "look-at-invitation", "take-invitation":
		o.send("POST", "/api/invitations", fields{"email": other, "role": "reads", "whole": true, "pages": []string{}})
		body["token"] = o.bench.token(other)
		if operation == "take-invitation" {
			o.send("POST", "/api/sign-out", nil)
			body["password"] = password
		}
	case "set-payment-service":
		return newPaymentService(), true
	case "answer-booking":
		return fields{"act": "agree", "reply": ""}, true
	case "give-back-payment":
		return fields{"minor": 200}, true
	case "add-domain":
		return fields{"host": "new-" + o.name + ".quarrow.example"}, true
	case "add-webhook":
		return newWebhook(), true
	case "set-list-service":
		return newListService(), true
	case "change-webhook":
		return with(newWebhook(), "on", true), true
	case "change-member", "invite-member":
		body["role"], body["whole"], body["pages"] = "edits", true, []string{}
		if operation == "invite-member" {
			body["email"] = other
		}
	case "set-second-factor":
		body["secret"], body["code"] = secret, codeOf(o.t, secret, o.now.Add(triesComeBack))
	case "renew-recovery-codes":
		on := o.send("PUT", "/api/account/second-factor", fields{"password": password, "secret": secret, "code": codeOf(o.t, secret, o.now)})
		require.Equal(o.t, http.StatusOK, on.status, "%v", on.body)
	case "add-passkey":
		return o.passkeyBody(newCredential(o.t)), true
	case "sign-in-with-passkey":
		device := newDevice(o.browser)
		require.Equal(o.t, http.StatusOK, o.addPasskey(device.credential).status)
		return device.answer(o.browser), true
	}
	return body, len(body) > 0
}

// upload is what operations that take a file are sent.
func (o operation) upload(t *testing.T, body any) any {
	if _, ok := o.json(); o.RequestBody == nil || ok {
		return body
	}
	if data, _ := body.([]byte); data != nil {
		return data
	}
	return pngFile(t, 40, 30)
}

// tally counts what was tried and held, by what was tried.
type tally struct {
	t     *testing.T
	tried map[string]int
}

func (c *tally) hold(what string, o operation, ok bool, says string, args ...any) {
	c.t.Helper()
	c.tried[what]++
	assert.True(c.t, ok, "%s %s (%s): %s", o.method, o.path, what, fmt.Sprintf(says, args...))
}

func TestEveryOperationHoldsAgainstEveryKindOfAbuse(t *testing.T) {
	alone(t) // one request after the other has no races to show
	b := open(t)
	b.live.End() // a stream is over at once
	c, operations := b.contract()
	require.Greater(t, len(operations), 40)
	held := &tally{t, map[string]int{}}
	stranger := b.owner()
	for _, o := range operations {
		who := b.owner()
		who.prepare(o.path)
		body := o.upload(t, c.body(o, who))
		held.signedOut(b, o, who, body)
		held.otherWorkspace(o, who, stranger, body)
		held.otherOrigin(o, who, body)
		held.tooLarge(b, o, who)
		held.strangeFields(o, who, body)
		held.strangeValues(o, who, body)
		// Last, because it may be the end of the account.
		got := who.send(o.method, b.meant(o, who), body)
		if !slices.Contains(askNobody, o.OperationID) {
			held.hold("meant as it should be", o, got.status < 300, "%d %v; the test needs a value for something in it", got.status, got.body)
		}
	}
	sum := 0
	for what, n := range held.tried {
		sum += n
		t.Logf("%-28s %4d", what, n)
	}
	t.Logf("%d operations, %d combinations held", len(operations), sum)
}

// askNobody are operations that ask a site that is not there.
var askNobody = []string{"describe", "draw-map", "find-feed", "weigh-tracking-code", "give-back-payment"}

// meant makes an owner ready for an operation as it is meant, and returns its path.
func (b *bench) meant(o operation, who owner) string {
	switch o.OperationID {
	case "undo-choice":
		who.chooseAVariant()
	case "begin-trial":
		who.send("DELETE", "/api/pages/"+who.ids["page"]+"/trials/"+who.runningTrial(), nil)
	case "read-address":
		return o.at(who.ids) + "?address=kiln.example"
	case "read-place":
		return o.at(who.ids) + "?text=51.5,-0.12"
	}
	if provesPassword[o.OperationID] != nil {
		b.now = b.now.Add(triesComeBack)
	}
	return o.at(who.ids)
}

func (c *tally) signedOut(b *bench, o operation, who owner, body any) {
	if !o.forMember() {
		return
	}
	got := b.browser().send(o.method, o.at(who.ids), body)
	c.hold("not signed in", o, got.status == http.StatusUnauthorized, "%d", got.status)
}

func (c *tally) otherWorkspace(o operation, who, stranger owner, body any) {
	if !o.forMember() || !strings.Contains(o.path, "{") {
		return
	}
	got := stranger.send(o.method, o.at(who.ids), body)
	c.hold("another workspace's IDs", o, got.status == http.StatusNotFound, "%d %v", got.status, got.body)
	// One of its own, with one of somebody else's within.
	for name, id := range who.ids {
		// Numbers of editions are the same for everybody.
		if !strings.Contains(o.path, "{"+name+"}") || strings.Count(o.path, "{") < 2 || id == stranger.ids[name] {
			continue
		}
		mixed := map[string]string{}
		for each, own := range stranger.ids {
			mixed[each] = own
		}
		mixed[name] = id
		got := stranger.send(o.method, o.at(mixed), body)
		c.hold("another workspace's IDs", o, got.status == http.StatusNotFound, "%d %v with %s", got.status, got.body, name)
	}
}

func (c *tally) otherOrigin(o operation, who owner, body any) {
	if o.method == http.MethodGet {
		return
	}
	got := who.send(o.method, o.at(who.ids), body, func(r *http.Request) {
		r.Header.Set("Origin", "https://evil.example")
		r.Header.Set("Sec-Fetch-Site", "cross-site")
	})
	c.hold("another origin", o, got.status == http.StatusForbidden, "%d", got.status)
}

// tooLarge sends more than any operation takes: once said beforehand, once not.
func (c *tally) tooLarge(b *bench, o operation, who owner) {
	if o.RequestBody == nil {
		return
	}
	ask := func(body io.Reader, length int64) int {
		request, err := http.NewRequestWithContext(c.t.Context(), o.method, b.server.URL+o.at(who.ids), body)
		require.NoError(c.t, err)
		request.ContentLength = length
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("Expect", "100-continue")
		response, err := who.client.Do(request)
		require.NoError(c.t, err)
		defer response.Body.Close()
		return response.StatusCode
	}
	large := int64(18 << 20)
	if o.OperationID == "take-in-page" {
		large = pagefile.MaxZip + 1<<20 // it may bring its pictures
	}
	got := ask(bytes.NewReader(make([]byte, large)), large)
	c.hold("a body too large", o, got == http.StatusRequestEntityTooLarge, "%d", got)
	if _, isJSON := o.json(); isJSON {
		// A little more than each of the limits there are, because who sends much more
		// may find the connection closed before the answer is read.
		for _, bytes := range []int{5 << 10, 17 << 10, 98 << 10, 650 << 10, 780 << 10} {
			got = ask(io.LimitReader(strings.NewReader(`{"a":"`+strings.Repeat(" ", bytes)), int64(bytes)), -1)
			if got == http.StatusRequestEntityTooLarge {
				break
			}
		}
		c.hold("a body too large", o, got == http.StatusRequestEntityTooLarge, "%d of unknown length", got)
	}
}

func (c *tally) strangeFields(o operation, who owner, body any) {
	of, isJSON := o.json()
	if !isJSON || (of.Ref == "" && of.Properties == nil) {
		return
	}
	with := asObject(c.t, body)
	with["stranger"] = "a secret that is not repeated"
	got := who.send(o.method, o.at(who.ids), with)
	c.hold("unknown fields", o, got.status == http.StatusUnprocessableEntity &&
		!bytes.Contains(got.raw, []byte("a secret")), "%d %s", got.status, got.raw)
	many := asObject(c.t, body)
	for i := range 250 {
		many[fmt.Sprintf("x%d", i)] = 1
	}
	got = who.send(o.method, o.at(who.ids), many)
	errors, _ := got.body["errors"].([]any)
	c.hold("unknown fields", o, got.status >= 400 && got.status < 500 && len(errors) <= 20 &&
		len(got.raw) < 16<<10, "%d, %d errors, %d bytes", got.status, len(errors), len(got.raw))
}

// strangeValues puts what PostgreSQL cannot keep, and numbers beyond all, wherever
// something can be put.
func (c *tally) strangeValues(o operation, who owner, body any) {
	refused := func(what, where string, got answer) {
		c.t.Helper()
		c.hold(what, o, got.status < 500 && !bytes.Contains(got.raw, []byte("a\\u0000b")), "%d with %s", got.status, where)
	}
	if _, isJSON := o.json(); isJSON {
		whole := asObject(c.t, body)
		for _, place := range places(whole, nil) {
			nul := asObject(c.t, body)
			put(nul, place, "a\x00b")
			got := who.send(o.method, o.at(who.ids), nul)
			c.hold("NUL", o, got.status >= 400 && got.status < 500, "%d with %v", got.status, place)
			for _, number := range []json.Number{"1e308", "99999999999999999999", "9223372036854775807", "-2147483649", "4294967296", "0.1"} {
				huge := asObject(c.t, body)
				put(huge, place, number)
				if provesPassword[o.OperationID] != nil {
					continue // tries are few
				}
				refused("numbers beyond all", fmt.Sprint(place, number), who.send(o.method, o.at(who.ids), huge))
			}
		}
	}
	for _, parameter := range o.Parameters {
		for _, value := range []string{"%00", "%ff%fe", "99999999999999999999", "-1", strings.Repeat("9", 400), "..%2f..", "'--"} {
			switch parameter.In {
			case "query":
				refused("strange parameters", parameter.Name+"="+value, who.send(o.method, o.at(who.ids)+"?"+parameter.Name+"="+value, body))
			case "path":
				path := strings.ReplaceAll(o.path, "{"+parameter.Name+"}", value)
				got := who.send(o.method, operation{path: path}.at(who.ids), body)
				c.hold("strange parameters", o, got.status >= 400 && got.status < 500, "%d with %s=%s", got.status, parameter.Name, value)
			}
		}
	}
}

func asObject(t *testing.T, body any) map[string]any {
	t.Helper()
	text, err := json.Marshal(body)
	require.NoError(t, err)
	object := map[string]any{}
	require.NoError(t, json.Unmarshal(text, &object))
	return object
}

// places lists where values stand in an object, two levels deep.
func places(object map[string]any, before []string) [][]string {
	var all [][]string
	for key, value := range object {
		place := append(slices.Clone(before), key)
		if inner, ok := value.(map[string]any); ok && len(before) < 1 {
			all = append(all, places(inner, place)...)
			continue
		}
		all = append(all, place)
	}
	return all
}

func put(object map[string]any, place []string, value any) {
	for _, key := range place[:len(place)-1] {
		object, _ = object[key].(map[string]any)
	}
	object[place[len(place)-1]] = value
}
