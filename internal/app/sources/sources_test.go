package sources_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/sources"
	"jundle/internal/core/invalid"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func open(t *testing.T) (u sources.Sources, workspace, page uuid.UUID) {
	t.Helper()
	s := storetest.New(t)
	member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	return sources.Sources{Store: s, Now: func() time.Time { return now }}, member.WorkspaceID, pages[0].ID
}

func TestASourceGetsATagOfItsOwnOutOfItsName(t *testing.T) {
	u, workspace, page := open(t)
	first, err := u.Add(t.Context(), workspace, page, sources.New{Name: "  Printed\tcard "})
	require.NoError(t, err)
	assert.Equal(t, "Printed card", first.Name)
	second, err := u.Add(t.Context(), workspace, page, sources.New{Name: "Printed card"})
	require.NoError(t, err)
	assert.NotEmpty(t, first.Tag())
	assert.NotEqual(t, first.Tag(), second.Tag())
	chosen := first.Tag()
	_, err = u.Add(t.Context(), workspace, page, sources.New{Name: "Another", Tag: &chosen})
	assert.ErrorIs(t, err, store.ErrTagTaken)
}

func TestASourceThatComesBackHasATagAgain(t *testing.T) {
	u, workspace, page := open(t)
	first, err := u.Add(t.Context(), workspace, page, sources.New{Name: "Card"})
	require.NoError(t, err)
	tag, yes, no := first.Tag(), true, false
	_, err = u.Change(t.Context(), workspace, page, first.ID, sources.Change{Retired: &yes})
	require.NoError(t, err)
	_, err = u.Add(t.Context(), workspace, page, sources.New{Name: "New card", Tag: &tag})
	require.NoError(t, err, "nobody ever came by it")
	back, err := u.Change(t.Context(), workspace, page, first.ID, sources.Change{Retired: &no})
	require.NoError(t, err)
	assert.NotEmpty(t, back.Tag())
	assert.NotEqual(t, tag, back.Tag())
}

func TestWhatIsWrongWithASourceIsSaidByItsField(t *testing.T) {
	u, workspace, page := open(t)
	tag := "no good!"
	for field, from := range map[string]sources.New{
		"name": {Name: "   "}, "tag": {Name: "Card", Tag: &tag}, "adopts": {Name: "Card", Adopts: "several:Photoloft"},
	} {
		_, err := u.Add(t.Context(), workspace, page, from)
		var wrong *invalid.Error
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong.Problems[0].Where)
	}
}
