package store_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func TestWeeklyLettersAreOrderedOnceOnMondaysAtSevenThere(t *testing.T) {
	s := storetest.New(t)
	made := time.Date(2026, 6, 3, 12, 0, 0, 0, time.UTC) // a Wednesday
	member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "clay", Zone: "Asia/Tokyo"}, made)
	require.NoError(t, err)
	ordered := func(at time.Time) (n int) {
		require.NoError(t, s.OrderWeeklyLetters(t.Context(), 10, at))
		require.NoError(t, s.Pool().QueryRow(t.Context(), "select count(*) from river_job where kind = 'letter'").Scan(&n))
		return n
	}
	due := time.Date(2026, 6, 7, 22, 0, 0, 0, time.UTC) // Monday, seven in Tokyo
	assert.Zero(t, ordered(due.Add(-time.Minute)))
	assert.Equal(t, 1, ordered(due))
	assert.Equal(t, 1, ordered(due.Add(time.Hour)), "not again")
	assert.Equal(t, 2, ordered(due.AddDate(0, 0, 7)))
	assert.Equal(t, 2, ordered(due.AddDate(0, 0, 17)), "one that is days late is left out")

	require.NoError(t, s.ChangeZone(t.Context(), member.WorkspaceID, "UTC"))
	assert.Equal(t, 2, ordered(due.AddDate(0, 0, 21).Add(time.Hour)))
	assert.Equal(t, 3, ordered(due.AddDate(0, 0, 21).Add(9*time.Hour)), "seven by the clocks of the new zone")

	require.NoError(t, s.SetWeeklyLetter(t.Context(), member.WorkspaceID, member.ID, false, due))
	on, err := s.HasWeeklyLetter(t.Context(), member.WorkspaceID, member.ID)
	require.NoError(t, err)
	assert.False(t, on)
	assert.Equal(t, 3, ordered(due.AddDate(0, 0, 35)))
	require.ErrorIs(t, s.SetWeeklyLetter(t.Context(), member.ID, member.ID, true, due), store.ErrNotFound)
}
