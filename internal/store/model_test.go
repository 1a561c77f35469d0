package store_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func TestNoPageCanBelongToAnotherWorkspaceThanItsEndpoint(t *testing.T) {
	address := storetest.Migrated(t)
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	_, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	other, _ := account(t, s, "rolf@elsewhere.example", "elsewhere")
	_, err = poolOf(t, address).Exec(t.Context(), "update pages set workspace_id = $1 where id = $2", other.WorkspaceID, p.ID)
	assert.ErrorContains(t, err, "pages_endpoint")
}

func TestAUserWhoIsAMemberElsewhereOutlivesAWorkspace(t *testing.T) {
	address := storetest.Migrated(t)
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	ilse, _ := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	rolf, _ := account(t, s, "rolf@elsewhere.example", "elsewhere")
	execute(t, poolOf(t, address), `insert into memberships (workspace_id, user_id, role, created_at)
		values ('`+rolf.WorkspaceID.String()+`', '`+ilse.ID.String()+`', 'edits', now())`)
	members, err := s.MembersOf(t.Context(), rolf.WorkspaceID)
	require.NoError(t, err)
	assert.Len(t, members, 2)

	require.NoError(t, s.EraseWorkspace(t.Context(), ilse.WorkspaceID, now))
	still, err := s.MemberByEmail(t.Context(), "ilse@quarrow.example")
	require.NoError(t, err)
	assert.Equal(t, rolf.WorkspaceID, still.WorkspaceID)
	require.NoError(t, s.EraseWorkspace(t.Context(), rolf.WorkspaceID, now))
	for _, email := range []string{"ilse@quarrow.example", "rolf@elsewhere.example"} {
		user, err := s.UserByEmail(t.Context(), email)
		require.NoError(t, err, "accounts are not a workspace's")
		nowhere, err := s.MemberIn(t.Context(), user.ID, rolf.WorkspaceID)
		require.NoError(t, err)
		assert.Equal(t, uuid.UUID{}, nowhere.WorkspaceID)
	}
}

func TestAUserAgentIsKeptOnceAndGoesWithTheLastOfItsEvents(t *testing.T) {
	address := storetest.Migrated(t)
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	pool := poolOf(t, address)
	member, p := account(t, s, "ilse@quarrow.example", "quarrow-clay")
	require.NoError(t, s.KeepDays(t.Context(), member.WorkspaceID, 30))
	record := func(months int, userAgent string) {
		require.NoError(t, s.RecordEvents(t.Context(), []store.Event{{
			ID: uuid.New(), At: now.AddDate(0, months, 0), EndpointID: p.ID, Kind: traffic.View, UserAgent: userAgent,
		}}))
	}
	record(0, "Mobile A")
	record(0, "Mobile A")
	record(0, "Mobile B")
	record(6, "Mobile B")
	kept := func() []string { return texts(t, pool, "select text from user_agents order by text") }
	assert.Equal(t, []string{"Mobile A", "Mobile B"}, kept())

	_, err = s.Prune(t.Context(), now.AddDate(0, 6, 0))
	require.NoError(t, err)
	assert.Equal(t, []string{"Mobile B"}, kept())
	record(6, "Mobile A")
	assert.Equal(t, []string{"Mobile A", "Mobile B"}, kept(), "one that was remembered and deleted is kept again")
	seen := 0
	require.NoError(t, s.EachEvent(t.Context(), member.WorkspaceID, p.ID, func(event store.Event) error {
		seen++
		assert.Contains(t, event.UserAgent, "Mobile")
		return nil
	}))
	assert.Equal(t, 2, seen)
}
