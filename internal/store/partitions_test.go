package store_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func TestThePartForAMonthGoesOnceNobodyKeepsItAndComesBack(t *testing.T) {
	address := storetest.Migrated(t)
	s, err := store.Open(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	pool, err := pgxpool.New(t.Context(), address)
	require.NoError(t, err)
	t.Cleanup(pool.Close)
	there := func(part string) (is bool) {
		require.NoError(t, pool.QueryRow(t.Context(), "select to_regclass($1) is not null", part).Scan(&is))
		return is
	}
	june := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	record := func(name string, keepDays int) {
		member, err := s.CreateAccount(t.Context(), store.NewAccount{Email: name + "@quarrow.example", PageAddress: name, Zone: "UTC"}, june)
		require.NoError(t, err)
		require.NoError(t, s.KeepDays(t.Context(), member.WorkspaceID, keepDays))
		pages, err := s.Pages(t.Context(), member.WorkspaceID)
		require.NoError(t, err)
		require.NoError(t, s.RecordEvents(t.Context(), []store.Event{{ID: uuid.New(), At: june, EndpointID: pages[0].ID, Kind: traffic.View}}))
	}
	record("kept-short", 30)
	require.True(t, there("events_2026_06"))
	_, err = s.Prune(t.Context(), june.AddDate(0, 2, 0))
	require.NoError(t, err)
	assert.True(t, there("events_2026_06"), "events may still be on their way")
	_, err = s.Prune(t.Context(), june.AddDate(0, 3, 0))
	require.NoError(t, err)
	assert.False(t, there("events_2026_06"))

	record("kept-long", 3650)
	assert.True(t, there("events_2026_06"))
	_, err = s.Prune(t.Context(), june.AddDate(0, 3, 0))
	require.NoError(t, err)
	assert.True(t, there("events_2026_06"), "somebody keeps it")
}
