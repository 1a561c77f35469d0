package studio

import (
	"encoding/base64"
	"strings"
	"time"

	"github.com/google/uuid"

	"jundle/internal/store"
)

// listOutput is an answer that is a list, and never null.
type listOutput[T any] struct {
	Body []T `nullable:"false"`
}

// partOutput is a part of a list, with the way to the next.
type partOutput[T any] struct {
	Next string `header:"Next-Cursor" doc:"Sent as after, it brings what follows; absent at the end of the list."`
	Body []T    `nullable:"false"`
}

// ListPart asks for a part of a list.
type ListPart struct {
	After string `query:"after" maxLength:"200" doc:"Next-Cursor of the part before; the beginning when left out."`
	Limit int    `query:"limit" minimum:"1" maximum:"200" default:"100"`
}

// cursor is a place in a list that is in the order of time.
type cursor struct {
	at  time.Time
	key string
}

func (c cursor) String() string {
	return base64.RawURLEncoding.EncodeToString([]byte(c.at.UTC().Format(time.RFC3339Nano) + " " + c.key))
}

var errNoPlace = refuse("after", "This place in the list is none that we gave out. Begin at the beginning.")

// read returns the place after which the part begins, nil for the beginning, and
// how many entries it has.
func (p ListPart) read() (*cursor, int, error) {
	if p.After == "" {
		return nil, p.Limit, nil
	}
	text, err := base64.RawURLEncoding.DecodeString(p.After)
	if err != nil {
		return nil, 0, errNoPlace
	}
	before, key, found := strings.Cut(string(text), " ")
	at, err := time.Parse(time.RFC3339Nano, before)
	if err != nil || !found || strings.ContainsRune(key, 0) || at.Year() < 2000 || at.Year() > 9000 {
		return nil, 0, errNoPlace
	}
	return &cursor{at, key}, p.Limit, nil
}

// place is read for lists whose keys are IDs.
func (p ListPart) place() (*store.Place, int, error) {
	after, most, err := p.read()
	if after == nil || err != nil {
		return nil, most, err
	}
	id, err := uuid.Parse(after.key)
	if err != nil {
		return nil, 0, errNoPlace
	}
	return &store.Place{At: after.at, ID: id}, most, nil
}

// listed is a part of a list: most of the rows, and where the next part begins
// when there are more.
func listed[R, T any](rows []R, most int, show func(R) T, place func(R) cursor) *partOutput[T] {
	out := &partOutput[T]{Body: []T{}}
	if len(rows) > most {
		rows = rows[:most]
		out.Next = place(rows[most-1]).String()
	}
	for _, row := range rows {
		out.Body = append(out.Body, show(row))
	}
	return out
}
