package mailing

import (
	"context"
	"strings"
	"unicode"

	"github.com/google/uuid"

	"jundle/internal/core/locale"
	"jundle/internal/core/readings"
	"jundle/internal/letters"
	"jundle/internal/store"
)

// confirmSignUp asks somebody who left their address on a page whether it is theirs, in the
// language of the page.
func (m Mailing) confirmSignUp(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	one, err := m.Store.SignUp(ctx, order.Subject)
	if err != nil {
		return nil, "", err
	}
	if one.ConfirmedAt != nil || !one.Holds(m.Now()) {
		return nil, "", nil
	}
	in := locale.Of(one.Language)
	link := m.PublicOrigin + SignUpPath + SignUpToken(m.Key, one.ID)
	name := quiet(one.PageName)
	return &letters.Letter{
		Language: one.Language, Subject: in.Say("letter_confirm_subject"), Lead: in.Say("letter_subject", "Name", name),
		From: name + " (Jundle)", Paragraphs: []string{in.Say("letter_why", "Page", name)},
		Action: &letters.Link{Label: in.Say("letter_confirm"), Address: link}, Small: []string{in.Say("letter_nothing")},
	}, one.Address, nil
}

// quiet is a name of which no mail program makes a link. Names of pages, workspaces, buttons and places that visitors
// came from are chosen by people whom the reader may not know, and anybody can have emails sent to anybody: they are
// never in a subject, and elsewhere carry no address of the sender's choice.
func quiet(name string) string {
	return strings.Join(strings.FieldsFunc(name, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune("./:@<>。．｡", r) }), " ")
}

// quietNames are names of blocks and sources, each quiet.
func quietNames(names readings.Names) readings.Names {
	made := readings.Names{Blocks: make(map[string]string), Sources: make(map[string]string)}
	for key, name := range names.Blocks {
		made.Blocks[key] = quiet(name)
	}
	for key, name := range names.Sources {
		made.Sources[key] = quiet(name)
	}
	return made
}

// SignUpPath is below which the links of such letters lead, on the public listener.
const SignUpPath = "/-/sign-up/"

// SignUpToken is what confirms or takes off one sign-up, and nothing else.
func SignUpToken(key []byte, id uuid.UUID) string { return token(key, "sign-up", id[:]) }

// ReadSignUpToken says which sign-up a token is of; false for one that we did not make.
func ReadSignUpToken(key []byte, given string) (id uuid.UUID, ok bool) {
	body, ok := readToken(key, "sign-up", given, len(id))
	if !ok {
		return id, false
	}
	return uuid.UUID(body), true
}
