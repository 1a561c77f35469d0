package mailing

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"jundle/internal/clients"
	"jundle/internal/core/team"
	"jundle/internal/letters"
	"jundle/internal/store"
)

// How long what letters carry opens anything.
const (
	passwordLinkHolds = time.Hour
	emailLinkHolds    = 24 * time.Hour
)

// unasked is what to do about a letter that nobody asked for.
const unasked = "If you did not ask for it, do nothing: without the link nothing happens."

// link is an address of the studio that carries a token behind a #, where no server and no log sees
// it.
func (m Mailing) link(label, path, token string) *letters.Link {
	return &letters.Link{Label: label, Address: m.Origin + path + "#" + token}
}

func (m Mailing) confirmAccount(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	pending, err := m.Store.PendingAccount(ctx, order.Subject, m.Now())
	if err != nil {
		return nil, "", err
	}
	token, err := m.Store.NewLetterToken(ctx, store.OpensAccount, pending.ID, pending.Until)
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject: "Open your account",
		Lead:    "One step is left.",
		Paragraphs: []string{
			"Somebody, most likely you, asked for an account with the page address " + pending.PageAddress + ". Choose a password, and it is open.",
		},
		Action: m.link("Open the account", "/open-account", token),
		Small:  []string{"The link holds for a day, and opens one account.", unasked},
	}, pending.Email, nil
}

// rolesInWords say what somebody is asked to do.
var rolesInWords = map[team.Role]string{
	team.Runs:  "run the workspace with them",
	team.Edits: "edit pages with them",
	team.Reads: "look at figures with them",
}

func (m Mailing) invited(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	invitation, err := m.Store.Invitation(ctx, order.Subject, m.Now())
	if err != nil {
		return nil, "", err
	}
	names, err := m.Store.NamesOfWorkspaces(ctx, []uuid.UUID{invitation.WorkspaceID})
	if err != nil {
		return nil, "", err
	}
	token, err := m.Store.NewLetterToken(ctx, store.TakesInvitation, invitation.ID, invitation.Until)
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject: "You are invited to a workspace",
		Lead:    "You are invited to " + quiet(names[invitation.WorkspaceID]) + ".",
		Paragraphs: []string{
			invitation.InvitedBy + " asks you to " + rolesInWords[invitation.Role] + ". Take the invitation, and you are a member.",
		},
		Action: m.link("Look at the invitation", "/invitation", token),
		Small:  []string{"The link holds for a week.", "If you do not know who that is, do nothing: without the link nothing happens."},
	}, invitation.Email, nil
}

func (m Mailing) newPassword(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	user, err := m.Store.UserByID(ctx, order.User)
	if err != nil {
		return nil, "", err
	}
	token, err := m.Store.NewLetterToken(ctx, store.SetsPassword, user.ID, m.Now().Add(passwordLinkHolds))
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject: "Choose a new password",
		Lead:    "Choose a new password.",
		Paragraphs: []string{
			"Somebody, most likely you, asked for a new password for " + user.Email + ". With the new one you are signed out everywhere else.",
		},
		Action: m.link("Choose a new password", "/new-password", token),
		Small:  []string{"The link holds for an hour, and once.", unasked},
	}, user.Email, nil
}

func (m Mailing) confirmEmail(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	change, err := m.Store.EmailChange(ctx, order.Subject)
	if err != nil || change.DoneAt != nil {
		return nil, "", err
	}
	token, err := m.Store.NewLetterToken(ctx, store.ConfirmsEmail, change.ID, change.CreatedAt.Add(emailLinkHolds))
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject: "Confirm your e-mail address",
		Lead:    "Is this your e-mail address?",
		Paragraphs: []string{
			"You are to sign in with " + change.Email + " from now on. Confirm that you can read letters sent there.",
		},
		Action: m.link("Confirm the address", "/confirm-email", token),
		Small:  []string{"The link holds for a day.", unasked},
	}, change.Email, nil
}

func (m Mailing) emailChanging(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	change, err := m.Store.EmailChange(ctx, order.Subject)
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject: "Your e-mail address is to be changed",
		Lead:    "Your e-mail address is to be changed.",
		Paragraphs: []string{
			"Somebody who is signed in as you, and knows your password, asked to change your e-mail address to " + change.Email + ".",
			"It changes once that address is confirmed. If that was not you, choose a new password now: then nothing is changed.",
		},
		Action: &letters.Link{Label: "Choose a new password", Address: m.Origin + "/forgotten-password"},
	}, change.OldEmail, nil
}

func (m Mailing) emailChanged(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	change, err := m.Store.EmailChange(ctx, order.Subject)
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject:    "Your e-mail address was changed",
		Lead:       "You sign in with another e-mail address now.",
		Paragraphs: []string{"From now on you sign in with " + change.Email + ", and letters go there. This is the last one to this address."},
		Small:      []string{"If that was not you, write to whoever runs this studio at once."},
	}, change.OldEmail, nil
}

func (m Mailing) newSignIn(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	user, err := m.Store.UserByID(ctx, order.User)
	if err != nil {
		return nil, "", err
	}
	session, err := m.Store.SessionByID(ctx, order.User, order.Subject)
	if err != nil {
		return nil, "", err
	}
	return &letters.Letter{
		Subject: "A new sign-in",
		Lead:    "Somebody signed in as you.",
		Paragraphs: []string{
			fmt.Sprintf("With %s, on %s (UTC), from a network you had not signed in from before.", clients.Device(session.UserAgent),
				session.CreatedAt.UTC().Format("Monday, 2 January 2006, 15:04")),
			"If it was you, there is nothing to do. If not, end that session and choose a new password.",
		},
		Action: &letters.Link{Label: "See where you are signed in", Address: m.Origin + "/settings/account"},
	}, user.Email, nil
}

// notice is a letter to a user that carries nothing but what happened.
func notice(letter letters.Letter) writer {
	return func(m Mailing, ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
		user, err := m.Store.UserByID(ctx, order.User)
		if err != nil {
			return nil, "", err
		}
		written := letter
		if written.Lead == "" {
			written.Lead = written.Subject + "."
		}
		if written.Action == nil {
			written.Action = &letters.Link{Label: "See to your account", Address: "/settings/account"}
			written.Small = append([]string{
				"If that was not you, choose a new password at once, by “Forgotten your password?” where you sign in.",
			}, written.Small...)
		}
		action := *written.Action
		action.Address = m.Origin + action.Address
		written.Action = &action
		return &written, user.Email, nil
	}
}

// deletionBegun says until when a deletion can be taken back.
func (m Mailing) deletionBegun(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	user, err := m.Store.UserByID(ctx, order.User)
	if err != nil || user.DeleteAt == nil {
		return nil, "", err
	}
	return notice(letters.Letter{
		Subject: "Your account is to be erased",
		Paragraphs: []string{
			"On " + user.DeleteAt.UTC().Format("Monday, 2 January 2006") + " your account is erased for good, with every page, address, " +
				"picture and figure that is yours alone. Until then all of it goes on.",
			"To keep it, sign in and take it back.",
		},
		Action: &letters.Link{Label: "Keep the account", Address: "/settings/account"},
	})(m, ctx, order)
}
