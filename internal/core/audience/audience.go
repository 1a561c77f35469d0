// Package audience says for whom a page or a short link is worked out: what is shown,
// and where it leads, are functions of a moment and a source.
package audience

import "time"

// Audience is who looks, and when.
type Audience struct {
	At time.Time
	// Source is the ID of the source somebody came from, empty where none is known.
	Source string
}
