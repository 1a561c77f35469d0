package figurefile

import (
	"encoding/hex"
	"time"

	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// EventColumns are those of a raw event. The visitor is the key of one browser on one day and
// leads back to nobody. Source and evidence are what the event came with; visit_source and visit_evidence are those of the
// visit it belongs to, by which it is counted. Led_to is where a click led at that moment. Left_out says why an event is
// not counted, and is empty for one that is. docs/numbers.md says how figures are made of them.
var EventColumns = []string{
	"id", "at", "kind", "edition", "button", "key", "link_key", "place", "led_to", "source", "evidence", "visit_source", "visit_evidence",
	"tag",
	"utm_source", "utm_medium", "utm_campaign", "utm_term", "utm_content", "referrer", "user_agent", "visitor", "country", "language", "paid",
	"left_out", "rules",
}

// Event writes a raw event with the visit that it belongs to; button and the source names are what its keys stand for.
func (w *Writer) Event(e store.Event, visit store.Joined, button string, name func(source string) string) error {
	flags := e.Flags
	if visit.Repeat {
		flags |= traffic.Repeat
	}
	return w.Row(e.ID.String(), e.At.UTC().Format(time.RFC3339Nano), string(e.Kind), e.Edition, button, e.Block, e.Item, e.Place,
		e.Led.Address, name(e.Source), string(e.By), name(visit.Source), string(visit.By), e.Tag, e.Campaign.Source, e.Campaign.Medium,
		e.Campaign.Campaign, e.Campaign.Term, e.Campaign.Content, e.Referrer,
		e.UserAgent, hex.EncodeToString(e.Visitor[:]), e.Country, e.Language, e.Paid, flags.Reason(), e.Rules)
}
