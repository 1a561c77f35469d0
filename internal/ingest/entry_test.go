package ingest

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/campaign"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

func TestAnEntryIsReadAsItWasWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := func(name string) string { return rapid.StringMatching(`[a-z0-9]{0,6}`).Draw(t, name) }
		number := func(name string) int { return rapid.IntRange(0, 99).Draw(t, name) }
		event := store.Event{
			ID: uuid.New(), At: time.Unix(int64(number("at")), 0).UTC(), EndpointID: uuid.New(), Edition: number("edition"),
			Kind: traffic.Click, Block: text("block"), Item: text("item"), Outcome: text("outcome"), Place: number("place"),
			Attribution: source.Attribution{Source: text("source"), By: source.ByTag}, Tag: text("tag"),
			Campaign: campaign.Tags{Source: text("utm_source"), Content: text("utm_content")}, Referrer: text("referrer"),
			UserAgent: text("agent"), Visitor: traffic.VisitorKey{byte(number("visitor"))}, Flags: traffic.Flags(number("flags")),
			Rules: number("rules"),
		}
		line, err := Encode(event)
		require.NoError(t, err)
		read, err := decodeLine(line)
		require.NoError(t, err)
		assert.Equal(t, event, read)
	})
}

// A line as the version before wrote it, taken from its log.
func TestAnEntryOfTheVersionBeforeIsRead(t *testing.T) {
	read, err := decodeLine([]byte(`{"id":"0197a000-0000-7000-8000-000000000001","at":"2026-06-01T12:00:00Z",` +
		`"page":"0197a000-0000-7000-8000-000000000002","edition":0,"kind":"click","block":"fallback","by":"none","agent":"Mobile",` +
		`"visitor":[1,2,3,4,5,6,7,8,9,10,11,12,13,14,15,16],"rules":3}`))
	require.NoError(t, err)
	assert.Equal(t, "fallback", read.Outcome)
	assert.Empty(t, read.Block)
	assert.Equal(t, uuid.MustParse("0197a000-0000-7000-8000-000000000002"), read.EndpointID)
	assert.Equal(t, byte(16), read.Visitor[15])

	read, err = decodeLine([]byte(`{"id":"0197a000-0000-7000-8000-000000000001","at":"2026-06-01T12:00:00Z",` +
		`"page":"0197a000-0000-7000-8000-000000000002","edition":4,"kind":"click","block":"fallback","by":"tag","agent":"Mobile",` +
		`"visitor":[1,2,3,4,5,6,7,8,9,10,11,12,13,14,15,16],"rules":3}`))
	require.NoError(t, err)
	assert.Equal(t, "fallback", read.Block, "a block of a page may be called so")
}
