package ingest

import (
	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// NewEvent decides everything about a hit that the rules decide from the hit
// itself: source, visitor key and flags.
func NewEvent(id uuid.UUID, hit Hit, salt []byte, list *agents.List) store.Event {
	userAgent := agents.Cut(hit.UserAgent)
	from := source.Attribute(source.Evidence{Tag: hit.Tag}, hit.Sources)
	visitor := traffic.NewVisitorKey(salt, hit.Client, userAgent, hit.PageHost)
	event := store.Event{
		ID: id, At: hit.At, PageID: hit.PageID, Edition: hit.Edition, Kind: hit.Kind, Block: hit.Block, Item: hit.Item, Place: hit.Place,
		Evidence: string(from.By), Tag: hit.Tag, Referrer: hit.Referrer, UserAgent: userAgent, Visitor: visitor[:], Rules: traffic.RulesVersion,
		Flags: traffic.Flag(traffic.Signals{
			Method: hit.Method, UserAgent: userAgent, Agent: list.Agent(userAgent), Purpose: hit.Purpose, Own: hit.Own,
		}),
	}
	if sourceID, err := uuid.Parse(from.SourceID); err == nil {
		event.SourceID = &sourceID
	}
	return event
}
