package page

import (
	"time"

	"jundle/internal/core/invalid"
)

// MaxRestNotice is how long what visitors of a resting page read may be, in characters.
const MaxRestNotice = 300

// Resting is a page whose creator has put it away for a while: visitors read a notice in
// its place, and nothing of it is lost.
type Resting struct {
	Since  time.Time `json:"since"`
	Notice string    `json:"notice,omitempty" doc:"What visitors read; a sentence of ours when left out. At most 300 characters."`
}

// Rest puts a page to rest at a moment. An *invalid.Error says what is wrong.
func Rest(notice string, now time.Time) (*Resting, error) {
	var wrong invalid.List
	resting := &Resting{Since: now.UTC().Truncate(time.Second), Notice: wrong.Lines("notice", "The notice", notice, MaxRestNotice)}
	return resting, wrong.Err()
}

// lately tells whether the page is awake, or was within LeadsOn.
func (r *Resting) lately(at time.Time) bool { return r == nil || at.Before(r.Since.Add(LeadsOn)) }

// Changes says what resting, or nil for waking, does.
func (r *Resting) Changes() []Change {
	if r == nil {
		return []Change{{Sentence: "The page is awake again."}}
	}
	return []Change{{Sentence: "The page rests."}}
}
