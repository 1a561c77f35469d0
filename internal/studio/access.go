package studio

import (
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/team"
	"jundle/internal/store"
)

// scope is what an operation is about, and so what somebody has to be a member for.
type scope string

const (
	ownAccount scope = "account"   // their own account, whatever workspace they are in
	ofAny      scope = "any page"  // of a workspace, for one page of it at least
	ofPage     scope = "page"      // the page in its path
	ofWhole    scope = "workspace" // the whole of a workspace
)

// access is who may use an operation.
type access struct {
	// Role is needed at least; empty for what is about one's own account.
	Role team.Role
	Of   scope
}

// accesses say of every operation for which somebody has to be signed in who may use it. It is a
// mistake that the program does not start with to leave one out, or to name one that is not there.
var accesses = []struct {
	role       team.Role
	of         scope
	operations string
}{
	// Whoever is signed in, about their own account.
	{"", ownAccount, `
		get-account keep-account delete-account change-email add-passkey ask-for-passkey remove-passkey change-password
		renew-recovery-codes set-second-factor clear-second-factor new-secret end-other-sessions list-sessions
		end-session me list-workspaces enter-workspace open-workspace list-api-tokens add-api-token end-api-token
		get-own-phone get-weekly-letter set-weekly-letter send-weekly-letter leave-workspace`},
	// Figures of a page.
	{team.Reads, ofPage, `
		take-events list-left-out follow-figures get-off get-order-advice list-partners compare-with-partner
		get-readings get-block-readings get-source-readings take-table list-trials`},
	// What every member may.
	{team.Reads, ofAny, `
		list-pages`},
	// Building a page.
	{team.Edits, ofPage, `
		get-page be-present leave-page change-address set-as-edited append-blocks check-page check-addresses save-draft list-editions
		compare-edition label-page take-out-page take-out-page-with-files read-partner-report delete-partner
		change-tolerance read-paste write-plain-files close-previews preview-page publish wake-page rest-page get-ribbon
		see-page draw-sharing-picture list-sources add-source change-source draw-source-code list-starters list-wordings list-steps get-step
		begin-takeover end-takeover list-themes plan-trial begin-trial end-trial choose-variant undo-choice list-shared-figures share-figures
		close-shared-figures include-flood`},
	// What building a page takes from what all share.
	{team.Edits, ofAny, `
		read-address read-place draw-map find-feed get-feed weigh-tracking-code list-campaign-values remember-campaign-values describe upload-file
		upload-film search-icons upload-icon list-choices set-passcode upload-picture cut-picture tag-address add-theme get-workspace get-usage`},
	// What all pages share.
	{team.Edits, ofWhole, `
		write-bookmarks list-destination-changes change-many-destinations undo-destination-change list-destinations
		write-destinations get-destination change-destination merge-destination get-destination-readings list-files
		delete-file undo-import read-link-file write-link-list read-link-list take-destination-apart list-journal take-in-page
		add-page list-short-links add-short-link delete-short-link change-short-link readdress-short-link
		draw-short-link-code keep-short-link get-short-link-readings delete-theme
		list-sign-ups count-sign-ups remove-sign-up write-sign-ups
		get-income list-payments write-payments
		list-bookings count-bookings answer-booking remove-booking write-booking write-bookings`},
	// Taking a page down.
	{team.Runs, ofPage, `
		delete-page keep-page`},
	// The workspace itself.
	{team.Runs, ofWhole, `
		change-workspace stop-export get-export begin-export download-export change-zone list-members change-member
		remove-member invite-member take-invitation-back list-invitations
		list-webhooks add-webhook change-webhook delete-webhook renew-webhook-secret try-webhook list-deliveries send-again
		get-list-service set-list-service drop-list-service
		set-payment-service drop-payment-service give-back-payment
		list-domains add-domain change-domain check-domain remove-domain`},
}

// accessTo is accesses by operation.
var accessTo = func() map[string]access {
	all := make(map[string]access)
	for _, some := range accesses {
		for id := range strings.FieldsSeq(some.operations) {
			if _, twice := all[id]; twice {
				panic("studio: who may use " + id + " is said twice")
			}
			all[id] = access{some.role, some.of}
		}
	}
	return all
}()

// forMember lets an operation be used by signed-in members only, and by those who may: admit asks.
// The contract says who that is.
func (s *Server) forMember(operation huma.Operation) huma.Operation {
	needed, said := accessTo[operation.OperationID]
	if !said {
		panic("studio: nobody said who may use " + operation.OperationID)
	}
	s.registered[operation.OperationID] = true
	operation.Security = []map[string][]string{{memberSession: {}}}
	if needed.Of != ownAccount {
		operation.Security = append(operation.Security, map[string][]string{programToken: {}})
	}
	operation.Extensions = map[string]any{"x-role": needed.Role, "x-scope": needed.Of}
	return limited(operation)
}

// allRegistered tells whether what accesses names is there.
func (s *Server) allRegistered() {
	for id := range accessTo {
		if !s.registered[id] {
			panic("studio: there is no operation " + id)
		}
	}
}

// permit tells whether a member may use an operation, in words.
func permit(member store.Member, ctx huma.Context) error {
	needed := accessTo[ctx.Operation().OperationID]
	if needed.Of == ownAccount {
		if member.Program != "" {
			return huma.Error403Forbidden("A program may do nothing about your account. Sign in yourself for this. Nothing was changed.")
		}
		return nil
	}
	switch {
	case member.WorkspaceID == uuid.UUID{}:
		return huma.Error403Forbidden("You are a member of no workspace. Open one of your own, or have somebody invite you.")
	case !member.Role.May(needed.Role):
		return huma.NewError(http.StatusForbidden, refusals[needed.Role])
	case needed.Of == ofWhole && !member.Whole:
		return huma.Error403Forbidden("You are a member for some pages only, and this is about the whole workspace. Nothing was changed.")
	case needed.Of == ofPage && !member.Whole:
		// Pages of others are not there, as those of other workspaces are not. What is no ID is refused
		// as it is for everybody.
		for _, name := range []string{"page", "of"} {
			if id, err := uuid.Parse(ctx.Param(name)); err == nil && !member.Reach().Covers(id) {
				return problem(store.ErrNotFound)
			}
		}
	}
	return nil
}

// refusals say what a role is missing for.
var refusals = map[team.Role]string{
	team.Edits: "You may look at figures here, and change nothing. Ask whoever runs the workspace. Nothing was changed.",
	team.Runs:  "Only whoever runs the workspace may do this. Nothing was changed.",
}
