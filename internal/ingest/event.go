package ingest

import (
	"time"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/campaign"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// Hit is one view or click as the public listener saw it.
type Hit struct {
	At     time.Time
	PageID uuid.UUID
	// Book holds the sources of the page.
	Book     *source.Book
	PageHost string
	Edition  int
	Kind     traffic.Kind
	Block    string
	Item     string
	Place    int
	Tag      string
	// Query is that of the address; campaign tags are read from it.
	Query string
	// Referrer is the host of the Referer, without path and query.
	Referrer string
	Method   string
	Purpose  []string
	// Client is the visitor's address. It goes into the visitor key and no
	// further.
	Client    string
	UserAgent string
	Own       bool
}

// NewEvent decides everything about a hit that the rules decide from the hit
// itself: source, visitor key and flags.
func NewEvent(id uuid.UUID, hit Hit, salt []byte, list *agents.List) store.Event {
	userAgent := agents.Cut(hit.UserAgent)
	known := list.Know(userAgent)
	tags := campaign.Read(hit.Query)
	return store.Event{
		ID: id, At: hit.At, PageID: hit.PageID, Edition: hit.Edition, Kind: hit.Kind, Block: hit.Block, Item: hit.Item, Place: hit.Place,
		Attribution: hit.Book.Attribute(source.Evidence{Tag: hit.Tag, Campaign: tags, Referrer: hit.Referrer, App: known.App, Products: known.Products}, hit.At),
		Tag:         hit.Tag, Campaign: tags, Referrer: hit.Referrer, UserAgent: userAgent,
		Visitor: traffic.NewVisitorKey(salt, hit.Client, userAgent, hit.PageHost), Rules: traffic.RulesVersion,
		Flags: traffic.Flag(traffic.Signals{
			Method: hit.Method, UserAgent: userAgent, Agent: known.Agent, Purpose: hit.Purpose, Own: hit.Own,
		}),
	}
}
