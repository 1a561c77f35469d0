package pages_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/pages"
	"jundle/internal/core/page"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

func keysOf(doc page.Document) (keys []string) {
	for _, block := range doc.Blocks {
		keys = append(keys, block.Key)
	}
	return keys
}

// A weak button on top and a strong one below, whole days of sixty visits each.
func TestAPageKeepsItselfInOrderByPullOnceADay(t *testing.T) {
	made := time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)
	now := made
	s := storetest.New(t)
	member, err := s.CreateAccount(
		t.Context(),
		store.NewAccount{Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC"},
		now,
	)
	require.NoError(t, err)
	all, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	u := pages.Pages{Store: s, Now: func() time.Time { return now }}
	doc := page.New()
	button := func(key string) page.Block {
		return page.Block{Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: key, Address: "https://kiln.example/" + key}}
	}
	doc.Blocks = []page.Block{
		{
			Key:     "films",
			Kind:    "heading",
			Shown:   true,
			Heading: &page.Heading{Text: "Films", Order: "pull"},
		}, button("weak"), button("strong"),
	}
	save := func(doc page.Document, revision int64) store.Page {
		saved, err := u.Save(t.Context(), member, all[0].ID, pages.Saving{Revision: revision, Document: doc})
		require.NoError(t, err)
		saved, err = u.Publish(t.Context(), member, saved.ID, store.Publishing{Revision: saved.Revision})
		require.NoError(t, err)
		return saved
	}
	saved := save(doc, all[0].Revision)

	// For six days the order is another one every day: the strong one draws wherever it stands.
	for edition := 1; edition <= 7; edition++ {
		day := made.AddDate(0, 0, 2*edition-1)
		var events []store.Event
		for i := range 60 {
			event := store.Event{
				ID: uuid.New(), At: day.Add(time.Duration(i) * time.Minute), EndpointID: saved.ID, Edition: edition, Kind: traffic.View,
				Visitor:   traffic.VisitorKey{byte(i), byte(edition)},
				UserAgent: "Mozilla/5.0",
			}
			events = append(events, event)
			if i%2 == 0 {
				event.ID, event.At, event.Kind, event.Block, event.Place = uuid.New(), event.At.Add(time.Second), traffic.Click, "strong", 3
				events = append(events, event)
			}
		}
		require.NoError(t, s.RecordEvents(t.Context(), events))
		now = made.AddDate(0, 0, 2*edition)
		if edition == 7 {
			break
		}
		if edition == 1 {
			require.NoError(t, u.OrderDue(t.Context()))
			still, err := s.LiveEdition(t.Context(), member.WorkspaceID, saved.ID)
			require.NoError(t, err)
			assert.Equal(t, 1, still.Number, "it may draw because of where it stands")
		}
		doc.Blocks[1], doc.Blocks[2] = doc.Blocks[2], doc.Blocks[1]
		saved = save(doc, saved.Revision)
	}

	saved.Draft.Header.Line = "waits in the working copy"
	saved, err = u.Save(t.Context(), member, saved.ID, pages.Saving{Revision: saved.Revision, Document: saved.Draft})
	require.NoError(t, err)
	require.NoError(t, u.OrderDue(t.Context()))
	ordered, err := s.Page(t.Context(), member.WorkspaceID, saved.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"films", "strong", "weak"}, keysOf(ordered.Draft))
	assert.Equal(t, saved.Revision+1, ordered.Revision, "whoever is editing it is told")
	live, err := s.LiveEdition(t.Context(), member.WorkspaceID, saved.ID)
	require.NoError(t, err)
	assert.Equal(t, 8, live.Number)
	assert.Equal(t, []string{"films", "strong", "weak"}, keysOf(live.Document))
	assert.Empty(t, live.Document.Header.Line, "what waits goes on waiting")
	assert.Equal(t, "What stands under “Films” is in order by pull: “strong” comes first.", live.Changes[0].Sentence)
	assert.Nil(t, live.UserID)

	require.NoError(t, u.OrderDue(t.Context()))
	now = now.Add(25 * time.Hour)
	require.NoError(t, u.OrderDue(t.Context()))
	live, err = s.LiveEdition(t.Context(), member.WorkspaceID, saved.ID)
	require.NoError(t, err)
	assert.Equal(t, 8, live.Number, fmt.Sprint("what is in order stays: ", keysOf(live.Document)))
}
