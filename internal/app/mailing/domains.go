package mailing

import (
	"context"

	"jundle/internal/core/domain"
	"jundle/internal/letters"
	"jundle/internal/store"
)

// domainLost tells somebody who runs a workspace that a host of its own does not lead here any more, unless
// it does again by now.
func (m Mailing) domainLost(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	member, err := m.Store.MemberOf(ctx, order.Workspace, order.User)
	if err != nil {
		return nil, "", err
	}
	one, err := m.Store.Domain(ctx, order.Workspace, order.Subject)
	if err != nil {
		return nil, "", err
	}
	why := "It was found pointing elsewhere, or nobody could say where it points."
	switch state := one.StateAt(m.Now()); {
	case state == domain.InUse || state == domain.Certifying:
		return nil, "", nil
	case state == domain.Unproven:
		why = "Another workspace proved that the domain is theirs, and the entry that proved that it is yours no longer stands in the DNS."
	case one.Found.Points == domain.Yes:
		why = "It points here, but its certificate ran out and no other was issued."
	}
	return &letters.Letter{
		Subject: "Your domain no longer leads to your pages",
		Lead:    "Your domain " + quiet(one.Host) + " no longer leads to your pages.",
		Paragraphs: []string{
			why, "Your pages and short links go on under their old addresses. Addresses under the domain itself that you handed out " +
				"do not work until it points here again.",
		},
		Action: &letters.Link{Label: "See what is to be set", Address: m.Origin + "/settings/domains"},
		Small:  []string{"Your visitors are told nothing of it."},
	}, member.Email, nil
}
