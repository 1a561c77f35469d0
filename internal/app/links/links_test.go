package links_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/links"
	"jundle/internal/core/invalid"
	"jundle/internal/core/picture"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/window"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func open(t *testing.T, quotas store.Quotas) (links.Links, uuid.UUID) {
	t.Helper()
	s := storetest.With(t, store.Options{Quotas: quotas})
	member, err := s.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "Europe/Lisbon",
	}, now)
	require.NoError(t, err)
	return links.Links{Store: s, Origin: "https://pages.example", Now: func() time.Time { return now }}, member.WorkspaceID
}

func to(address string) links.Content { return links.Content{Link: shortlink.New(address)} }

// about says which field an error is about.
func about(t *testing.T, err error) string {
	t.Helper()
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	require.Len(t, wrong.Problems, 1)
	return wrong.Problems[0].Where
}

func TestALinkIsMadeUnderAChosenAddressOrAMadeOne(t *testing.T) {
	u, workspace := open(t, store.DefaultQuotas)
	chosen, err := u.Add(t.Context(), workspace, " Spring ", to("kiln.example/spring"))
	require.NoError(t, err)
	assert.Equal(t, "spring", chosen.Address())
	assert.Equal(t, "https://kiln.example/spring", chosen.Link.Destination)
	made, err := u.Add(t.Context(), workspace, "", to("kiln.example/spring"))
	require.NoError(t, err)
	assert.NotEmpty(t, made.Address())
	assert.Equal(t, chosen.Link.DestinationID, made.Link.DestinationID, "where they lead is kept once")
	_, err = u.Add(t.Context(), workspace, "quarrow-clay", to("kiln.example"))
	assert.ErrorIs(t, err, store.ErrAddressTaken)
	_, err = u.Add(t.Context(), workspace, "no good!", to("kiln.example"))
	assert.Equal(t, "address", about(t, err))
}

func TestALinkKeepsTheZoneItsWindowsWereEnteredIn(t *testing.T) {
	u, workspace := open(t, store.DefaultQuotas)
	content := to("kiln.example")
	content.Windows = []window.Entered{{From: "2026-07-01T09:00"}}
	added, err := u.Add(t.Context(), workspace, "", content)
	require.NoError(t, err)
	require.Len(t, added.Link.Windows, 1)
	assert.Equal(t, "Europe/Lisbon", added.Link.Windows[0].Zone)
	assert.Equal(t, time.Date(2026, 7, 1, 8, 0, 0, 0, time.UTC), added.Link.Windows[0].From.UTC())
}

func TestALinkThatWouldLeadToItselfOrShowsWhatIsNotThereIsRefused(t *testing.T) {
	u, workspace := open(t, store.DefaultQuotas)
	added, err := u.Add(t.Context(), workspace, "spring", to("kiln.example"))
	require.NoError(t, err)
	_, err = u.Change(t.Context(), workspace, added.ID, added.Revision, to("https://pages.example/SPRING"))
	assert.Equal(t, "destination", about(t, err))
	shown := to("kiln.example")
	shown.Preview = shortlink.Preview{Title: "Spring", Picture: &picture.Picture{
		Media: "0000000000000000000000000000000000000000000000000000000000000000.png", Width: 10, Height: 10,
	}}
	_, err = u.Change(t.Context(), workspace, added.ID, added.Revision, shown)
	assert.Equal(t, "preview/picture", about(t, err))
}

func TestARowOfAListThatCannotBeKeptKeepsNoOtherBack(t *testing.T) {
	quotas := store.DefaultQuotas
	quotas.ShortLinks = 2
	u, workspace := open(t, quotas)
	const list = "kiln.example/a,spring\nkiln.example/b,quarrow-clay\nfile:///etc\nkiln.example/c\nkiln.example/d"
	looked, err := u.ReadList(t.Context(), workspace, list, false)
	require.NoError(t, err)
	assert.Equal(t, links.Taken, looked[1].Wrong)
	none, err := u.Store.ShortLinks(t.Context(), workspace)
	require.NoError(t, err)
	assert.Empty(t, none, "looking makes none")

	kept, err := u.ReadList(t.Context(), workspace, list, true)
	require.NoError(t, err)
	var wrong []bool
	for _, row := range kept {
		wrong = append(wrong, row.Wrong != "")
	}
	assert.Equal(t, []bool{false, true, true, false, true}, wrong)
	assert.Contains(t, kept[4].Wrong, "You have 2 short links")
}
