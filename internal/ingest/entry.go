package ingest

import (
	"slices"
	"time"

	"github.com/bytedance/sonic"
	"github.com/google/uuid"

	"jundle/internal/core/campaign"
	"jundle/internal/core/destination"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// entryVersion is written into every entry. Entries that an older version of the
// program left in the log or the spool are read for good:
//
//	0: has no version; what a short link led to stands in block.
//	2: it stands in outcome.
const entryVersion = 2

// entry is an event as it stands in the log and in the spool: one line of JSON. Its
// names never change their meaning; a new meaning is a new name and a new version.
type entry struct {
	Version   int                `json:"v"`
	ID        uuid.UUID          `json:"id"`
	At        time.Time          `json:"at"`
	Endpoint  uuid.UUID          `json:"page"` // or short link
	Edition   int                `json:"edition"`
	Kind      traffic.Kind       `json:"kind"`
	Block     string             `json:"block,omitempty"`
	Item      string             `json:"item,omitempty"`
	Outcome   string             `json:"outcome,omitempty"`
	Led       string             `json:"led,omitempty"`    // to that destination
	LedTo     string             `json:"led_to,omitempty"` // by that address
	Place     int                `json:"place,omitempty"`
	Source    string             `json:"source,omitempty"`
	Evidence  source.By          `json:"by"`
	Tag       string             `json:"tag,omitempty"`
	Campaign  campaign.Tags      `json:"campaign,omitzero"`
	Referrer  string             `json:"referrer,omitempty"`
	UserAgent string             `json:"agent"`
	Visitor   traffic.VisitorKey `json:"visitor"`
	Flags     traffic.Flags      `json:"flags,omitempty"`
	Rules     int                `json:"rules"`
	Country   string             `json:"country,omitempty"`
	Language  string             `json:"language,omitempty"`
	Paid      bool               `json:"paid,omitempty"`
}

func newEntry(event store.Event) entry {
	return entry{
		Version: entryVersion, ID: event.ID, At: event.At, Endpoint: event.EndpointID, Edition: event.Edition, Kind: event.Kind,
		Block: event.Block, Item: event.Item, Outcome: event.Outcome, Led: event.Led.ID, LedTo: event.Led.Address,
		Place: event.Place, Source: event.Source, Evidence: event.By, Tag: event.Tag, Campaign: event.Campaign, Referrer: event.Referrer,
		UserAgent: event.UserAgent, Visitor: event.Visitor,
		Flags: event.Flags, Rules: event.Rules, Country: event.Country, Language: event.Language, Paid: event.Paid,
	}
}

// Encode writes an event as an entry of the log.
func Encode(event store.Event) ([]byte, error) { return sonic.ConfigStd.Marshal(newEntry(event)) }

func decodeLine(line []byte) (store.Event, error) {
	var read entry
	err := sonic.ConfigStd.Unmarshal(line, &read)
	return read.event(), err
}

// event reads an entry of any version.
func (e entry) event() store.Event {
	if e.Version == 0 && e.Edition == 0 && slices.Contains(shortlink.Outcomes, shortlink.Outcome(e.Block)) {
		e.Outcome, e.Block = e.Block, ""
	}
	return store.Event{
		ID: e.ID, At: e.At, EndpointID: e.Endpoint, Edition: e.Edition, Kind: e.Kind, Block: e.Block, Item: e.Item, Outcome: e.Outcome,
		Led:   destination.Target{ID: e.Led, Address: e.LedTo},
		Place: e.Place, Attribution: source.Attribution{Source: e.Source, By: e.Evidence}, Tag: e.Tag, Campaign: e.Campaign,
		Referrer: e.Referrer, UserAgent: e.UserAgent, Visitor: e.Visitor, Flags: e.Flags, Rules: e.Rules,
		Traits: traffic.Traits{Country: e.Country, Language: e.Language, Paid: e.Paid},
	}
}
