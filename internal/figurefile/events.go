package figurefile

import (
	"encoding/hex"
	"time"

	"jundle/internal/store"
)

// EventColumns are those of a raw event. The visitor is the key of one browser on one day and
// leads back to nobody; left_out says why an event is not counted, and is empty for one that is.
// Repeats are told apart when figures are made, and are not marked here.
var EventColumns = []string{
	"id", "at", "kind", "edition", "button", "key", "link_key", "place", "source", "evidence", "tag",
	"utm_source", "utm_medium", "utm_campaign", "utm_term", "utm_content", "referrer", "user_agent", "visitor", "country", "language", "paid",
	"left_out", "rules",
}

// Event writes a raw event; button and source are what its keys stand for.
func (w *Writer) Event(e store.Event, button, source string) error {
	return w.Row(e.ID.String(), e.At.UTC().Format(time.RFC3339Nano), string(e.Kind), e.Edition, button, e.Block, e.Item, e.Place, source,
		string(e.By), e.Tag, e.Campaign.Source, e.Campaign.Medium, e.Campaign.Campaign, e.Campaign.Term, e.Campaign.Content, e.Referrer,
		e.UserAgent, hex.EncodeToString(e.Visitor[:]), e.Country, e.Language, e.Paid, e.Flags.Reason(), e.Rules)
}
