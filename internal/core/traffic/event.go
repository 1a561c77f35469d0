// Package traffic holds the rules for what counts: the flags an event gets, who
// counts as one visitor, and what counts as one visit.
//
// Events are kept as they came and flagged; nothing is dropped. An event counts
// when it has no flag.
package traffic

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/binary"
	"hash"
	"sync"
	"time"

	"jundle/internal/core/source"
)

// RulesVersion is stored with every event. It rises when a rule of this package
// changes, so that events flagged under older rules can be found and run again.
const RulesVersion = 4

// Kind tells a page view from a click.
type Kind string

// The kinds of event.
const (
	View  Kind = "view"
	Click Kind = "click"
	// Scroll tells how far down an opening of the page got. It is summed up at once and kept in no other way.
	Scroll Kind = "scroll"
)

// VisitorKey stands for one browser on one UTC day, or for nobody when zero.
type VisitorKey [16]byte

// Event is one view of a page or one click on a block of it.
type Event struct {
	ID      string
	At      time.Time
	Kind    Kind
	Edition int
	// Block, Item and Place are set for clicks only. Block is the key of what was
	// pressed, or where a short link led (shortlink.Outcome). Item tells apart what can
	// be pressed on one block. Place counts from 1; it is 0 off the blocks.
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
	// Target is the number of where a click led to at that moment; 0 for what is no destination.
	Target int64
	Traits
}

// Traits are what else is known of who came.
type Traits struct {
	// Country is where their address belongs (ISO 3166-1 alpha-2); empty when that is
	// not known.
	Country string
	// Language is the one their browser asks for first (ISO 639-1); empty when it does
	// not say.
	Language string
	// Paid: an advertisement brought them.
	Paid bool
}

// Counted tells whether the event goes into the figures.
func (e Event) Counted() bool { return e.Flags == 0 }

// Salt makes the keys of visitors on a UTC day. Salts are random and destroyed after
// 48 hours, so that no key can be led back to an address, and two days cannot be
// joined. It may be used by several goroutines.
type Salt struct{ keyed sync.Pool }

// saltsLastFor is how long a salt is kept after its day began; then keys made under
// it can no longer be led back to anybody.
const saltsLastFor = 48 * time.Hour

// SaltsOver is the first UTC day whose salt is still kept at a time: those of the days
// before are to be destroyed.
func SaltsOver(now time.Time) time.Time {
	return now.UTC().Add(-saltsLastFor).Truncate(24*time.Hour).AddDate(0, 0, 1)
}

// keyedHash is a hash under a salt, with room for what goes in and comes out.
type keyedHash struct {
	hash.Hash
	text, sum []byte
}

// NewSalt makes one of random bytes, best 32.
func NewSalt(random []byte) *Salt {
	return &Salt{sync.Pool{New: func() any { return &keyedHash{Hash: hmac.New(sha256.New, random)} }}}
}

// VisitorKey derives the key of a visitor from what a request shows of them.
func (s *Salt) VisitorKey(clientAddress, userAgent, pageHost string) VisitorKey {
	mac := s.keyed.Get().(*keyedHash)
	defer s.keyed.Put(mac)
	mac.Reset()
	mac.text = mac.text[:0]
	for _, part := range [...]string{clientAddress, userAgent, pageHost} {
		// A length before each part keeps ("ab","c") and ("a","bc") apart.
		mac.text = append(binary.BigEndian.AppendUint32(mac.text, uint32(len(part))), part...)
	}
	mac.Write(mac.text)
	mac.sum = mac.Sum(mac.sum[:0])
	var key VisitorKey
	copy(key[:], mac.sum)
	return key
}
