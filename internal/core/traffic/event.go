// Package traffic holds the rules for what counts: the flags an event gets, who
// counts as one visitor, and what counts as one visit.
//
// Events are kept as they came and flagged; nothing is dropped. An event counts
// when it has no flag.
package traffic

import (
	"crypto/hmac"
	"crypto/sha256"
	"time"

	"jundle/internal/core/source"
)

// RulesVersion is stored with every event. It rises when a rule of this package
// changes, so that events flagged under older rules can be found and run again.
const RulesVersion = 3

// Kind tells a page view from a click.
type Kind string

// The two kinds of event.
const (
	View  Kind = "view"
	Click Kind = "click"
)

// VisitorKey stands for one browser on one UTC day, or for nobody when zero.
type VisitorKey [16]byte

// Event is one view of a page or one click on a block of it.
type Event struct {
	ID      string
	At      time.Time
	Kind    Kind
	Edition int
	// Block, Item and Place are set for clicks only. Item tells apart what can be
	// pressed on one block. Place counts from 1; it is 0 off the blocks.
	Block string
	Item  string
	Place int
	// Source is the ID of the attributed source or the key of an unlisted one,
	// empty for untagged; Evidence is what names it.
	Source   string
	Evidence source.By
	Device   Device
	Visitor  VisitorKey
	Flags    Flags
}

// Counted tells whether the event goes into the figures.
func (e Event) Counted() bool { return e.Flags == 0 }

// NewVisitorKey derives the key of a visitor from what a request shows of them,
// under the random salt of that UTC day. Salts are destroyed after 48 hours, so
// the key cannot be led back to an address and two days cannot be joined.
func NewVisitorKey(salt []byte, clientAddress, userAgent, pageHost string) VisitorKey {
	mac := hmac.New(sha256.New, salt)
	for _, part := range []string{clientAddress, userAgent, pageHost} {
		// A length before each part keeps ("ab","c") and ("a","bc") apart.
		n := len(part)
		mac.Write([]byte{byte(n >> 24), byte(n >> 16), byte(n >> 8), byte(n)})
		mac.Write([]byte(part))
	}
	var key VisitorKey
	copy(key[:], mac.Sum(nil))
	return key
}
