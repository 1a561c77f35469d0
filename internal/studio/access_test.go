package studio_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/team"
)

// person is somebody with a role in a workspace.
type person struct {
	*browser
	name string
	role team.Role
	// whole, or for the page of the test, or for another page.
	whole, thisPage bool
	nowhere         bool
}

// join makes somebody a member of the workspace of an owner, as invitations do, and lets them enter it.
func (b *bench) join(name string, into owner, role team.Role, pages ...string) *browser {
	b.t.Helper()
	one := b.browser()
	require.Equal(b.t, http.StatusOK, one.signUp(name).status)
	b.makeMember(name, into, role, pages...)
	me, err := b.store.MemberByEmail(b.t.Context(), into.name+"@quarrow.example")
	require.NoError(b.t, err)
	entered := one.send("POST", "/api/workspaces/"+me.WorkspaceID.String()+"/enter", nil)
	require.Equal(b.t, http.StatusNoContent, entered.status, "%v", entered.body)
	return one
}

func (b *bench) makeMember(name string, of owner, role team.Role, pages ...string) {
	b.t.Helper()
	sent := fields{"email": name + "@quarrow.example", "role": role, "whole": len(pages) == 0, "pages": append([]string{}, pages...)}
	require.Equal(b.t, http.StatusOK, of.send("POST", "/api/invitations", sent).status)
	token := b.token(name + "@quarrow.example")
	visitor := b.browser()
	in := visitor.signIn(name+"@quarrow.example", password, "")
	require.Equal(b.t, http.StatusOK, in.status, "%v", in.body)
	taken := visitor.send("POST", "/api/taken-invitations", fields{"token": token})
	require.Equal(b.t, http.StatusOK, taken.status, "%v", taken.body)
}

// may says by the contract whether somebody may use an operation on the page of the test, and how it is
// refused otherwise.
func (p person) may(role team.Role, scope string) int {
	const may = 0
	switch {
	case scope == "account":
		return may
	case p.nowhere || !p.role.May(role), scope == "workspace" && !p.whole:
		return http.StatusForbidden
	case scope == "page" && !p.whole && !p.thisPage:
		return http.StatusNotFound
	}
	return may
}

func TestWhoMayUseWhatIsAsTheContractSays(t *testing.T) {
	alone(t)
	b := open(t)
	b.live.End()
	_, operations := b.contract()
	ilse := b.owner()
	ilse.prepare("{session} {passkey}")
	second := ilse.send("GET", "/api/pages", nil).list[1]["id"].(string)
	here := ilse.ids["page"]
	adrift := b.browser()
	require.Equal(t, http.StatusOK, adrift.signUp("adrift").status)
	_, err := b.store.Pool().Exec(t.Context(),
		"delete from memberships using users where users.id = user_id and email = 'adrift@quarrow.example'")
	require.NoError(t, err)
	people := []person{
		{browser: ilse.browser, name: "runs it", role: team.Runs, whole: true},
		{browser: b.join("edits-all", ilse, team.Edits), name: "edits", role: team.Edits, whole: true},
		{browser: b.join("reads-all", ilse, team.Reads), name: "reads", role: team.Reads, whole: true},
		{browser: b.join("edits-this", ilse, team.Edits, here), name: "edits this page", role: team.Edits, thisPage: true},
		{browser: b.join("reads-this", ilse, team.Reads, here), name: "reads this page", role: team.Reads, thisPage: true},
		{browser: b.join("edits-other", ilse, team.Edits, second), name: "edits another page", role: team.Edits},
		{browser: b.join("reads-other", ilse, team.Reads, second), name: "reads another page", role: team.Reads},
		{browser: adrift, name: "is in no workspace", nowhere: true},
	}
	rolf := b.owner()
	elsewhere := []person{
		{browser: rolf.browser, name: "runs another", role: team.Runs, whole: true},
		{browser: b.join("edits-elsewhere", rolf, team.Edits), name: "edits another", role: team.Edits, whole: true},
		{browser: b.join("reads-elsewhere", rolf, team.Reads), name: "reads another", role: team.Reads, whole: true},
	}
	tried := 0
	for _, o := range operations {
		if !o.forMember() {
			continue
		}
		require.NotEmpty(t, o.Scope, "%s says who may use it", o.OperationID)
		for _, who := range people {
			tried++
			// Whoever may is told that this address is no text; nothing else of the request is looked at.
			got := who.send(o.method, o.at(ilse.ids)+"?%ff", nil)
			want := who.may(o.Role, o.Scope)
			if want == 0 {
				want = http.StatusBadRequest
			}
			assert.Equal(t, want, got.status, "whoever %s, %s: %s", who.name, o.OperationID, got.detail())
		}
		if !strings.Contains(o.path, "{") || o.Scope == "account" {
			continue
		}
		for _, who := range elsewhere {
			tried++
			got := who.send(o.method, o.at(ilse.ids), nil)
			if want := who.may(o.Role, o.Scope); want != 0 {
				assert.Equal(t, want, got.status, "whoever %s, %s: %s", who.name, o.OperationID, got.detail())
				continue
			}
			// Without a body some are refused for that before anything is looked for.
			assert.Contains(t, []int{http.StatusNotFound, http.StatusUnprocessableEntity, http.StatusBadRequest}, got.status,
				"whoever %s, %s: %s", who.name, o.OperationID, got.detail())
		}
	}
	t.Logf("%d combinations of operations, roles and workspaces", tried)
	require.Greater(t, tried, 1000)
}

func TestMembersAreInvitedChangedAndRemoved(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	here := ilse.pageID()
	require.Less(t, ilse.send("POST", "/api/pages", fields{"address": "quarrow-workshops"}).status, 300)
	invite := func(role team.Role, pages ...string) answer {
		return ilse.send("POST", "/api/invitations", fields{
			"email": "rolf@quarrow.example", "role": role, "whole": false, "pages": append([]string{}, pages...),
		})
	}
	assert.Contains(t, invite(team.Runs, here).detail(), "a member for all of it")
	assert.Contains(t, invite(team.Reads).detail(), "Choose a page at least")

	// Somebody without an account opens one by taking it.
	require.Equal(t, http.StatusOK, invite(team.Edits, here).status)
	token := b.token("rolf@quarrow.example")
	rolf := b.browser()
	look := rolf.send("POST", "/api/taken-invitations/look", fields{"token": token})
	assert.Equal(t, ilses, look.body["invitedBy"])
	assert.Equal(t, false, look.body["hasAccount"])
	assert.Contains(t, rolf.send("POST", "/api/taken-invitations", fields{"token": token, "password": "short"}).detail(), "12 to 128")
	taken := rolf.send("POST", "/api/taken-invitations", fields{"token": token, "password": password})
	require.Equal(t, http.StatusOK, taken.status, "%v", taken.body)
	again := b.browser().send("POST", "/api/taken-invitations", fields{"token": token, "password": password})
	assert.Equal(t, http.StatusNotFound, again.status)
	assert.Len(t, rolf.send("GET", "/api/pages", nil).list, 1, "the one page, of two")
	assert.Contains(t, invite(team.Edits, here).detail(), "a member already")

	// Whoever has an account signs in first, with whichever account.
	b.browser().signUp("anna")
	b.now = b.now.Add(time.Hour)
	require.Equal(t, http.StatusOK, ilse.send("POST", "/api/invitations", fields{
		"email": "anna@quarrow.example", "role": "reads", "whole": true, "pages": []string{},
	}).status)
	annas := b.token("anna@quarrow.example")
	anna := b.browser()
	assert.Equal(t, http.StatusUnauthorized, anna.send("POST", "/api/taken-invitations", fields{"token": annas, "password": password}).status)
	anna.signIn("anna@quarrow.example", password, "")
	joined := anna.send("POST", "/api/taken-invitations", fields{"token": annas})
	assert.Equal(t, "reads", joined.body["me"].(map[string]any)["role"])
	spaces := anna.send("GET", "/api/workspaces", nil).list
	require.Len(t, spaces, 2)
	assert.Equal(t, []any{false, true}, []any{spaces[0]["current"], spaces[1]["current"]})
	saved := anna.send("PUT", "/api/pages/"+here+"/draft", draft(1))
	assert.Equal(t, http.StatusForbidden, saved.status)
	assert.Contains(t, saved.detail(), "look at figures here, and change nothing")
	assert.Equal(t, http.StatusOK, anna.send("GET", "/api/pages/"+here+"/readings", nil).status)

	members := ilse.send("GET", "/api/members", nil).list
	require.Len(t, members, 3)
	path := func(i int) string { return "/api/members/" + members[i]["id"].(string) }
	last := ilse.send("PUT", path(0), fields{"role": "edits", "whole": true, "pages": []string{}})
	assert.Contains(t, last.detail(), "Nobody would run this workspace")
	assert.Contains(t, ilse.send("DELETE", "/api/workspace/membership", nil).detail(), "Nobody would run this workspace")
	assert.Equal(t, http.StatusNoContent, ilse.send("PUT", path(1), fields{"role": "runs", "whole": true, "pages": []string{}}).status)
	assert.Equal(t, http.StatusNoContent, rolf.send("DELETE", path(2), nil).status)
	assert.Equal(t, http.StatusNotFound, anna.send("GET", "/api/pages/"+here+"/readings", nil).status, "at once, and back in her own")
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/workspace/membership", nil).status)
	assert.Equal(t, http.StatusForbidden, ilse.send("GET", "/api/pages", nil).status)
	me := ilse.send("GET", "/api/me", nil)
	assert.Nil(t, me.body["workspace"])
	assert.Equal(t, http.StatusNoContent, ilse.send("POST", "/api/workspaces", fields{"pageAddress": "anew-pots", "zone": "UTC"}).status)
	assert.Len(t, ilse.send("GET", "/api/pages", nil).list, 1)
	assert.Equal(t, http.StatusNotFound, ilse.send("POST", "/api/workspaces/"+uuid.NewString()+"/enter", nil).status)
}
