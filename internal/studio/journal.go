package studio

import (
	"context"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/store"
)

// JournalView is what somebody did.
type JournalView struct {
	ID      uuid.UUID  `json:"id"`
	Who     string     `json:"who" doc:"E-mail address, as it was then, and the name of the program that acted for them, if one did."`
	Did     string     `json:"did" doc:"The operation, by its ID in this document; take-invitation for whoever came."`
	PageID  *uuid.UUID `json:"pageId,omitempty" doc:"Of the page it was about, which may be gone."`
	Page    string     `json:"page,omitempty" doc:"What that was called then."`
	Subject string     `json:"subject,omitempty" doc:"What else it was about, in a word."`
	First   time.Time  `json:"first"`
	Last    time.Time  `json:"last"`
	Times   int        `json:"times" doc:"How often, within an hour."`
}

// journaled are the operations that are noted. What only reads or looks is not; what takes data away
// is.
var journaled = func() map[string]bool {
	all := make(map[string]bool)
	for id := range strings.FieldsSeq(`
		save-draft append-blocks publish set-as-edited change-address rest-page wake-page delete-page keep-page label-page
		begin-takeover end-takeover add-page take-in-page add-source change-source preview-page close-previews
		share-figures close-shared-figures begin-trial end-trial choose-variant undo-choice include-flood read-partner-report delete-partner
		add-short-link change-short-link delete-short-link keep-short-link readdress-short-link
		change-destination merge-destination take-destination-apart change-many-destinations undo-destination-change
		read-link-file read-link-list undo-import delete-file set-passcode
		begin-export download-export take-out-page take-out-page-with-files write-plain-files take-events
		invite-member take-invitation-back change-member remove-member leave-workspace change-workspace change-zone
		add-api-token end-api-token add-webhook change-webhook delete-webhook renew-webhook-secret
		remove-sign-up write-sign-ups set-list-service drop-list-service
		add-domain change-domain remove-domain
		set-payment-service drop-payment-service give-back-payment write-payments
		answer-booking remove-booking write-bookings`) {
		all[id] = true
	}
	return all
}()

// tried are operations that look what would come of something unless keep is true.
var tried = map[string]bool{"read-partner-report": true, "read-link-file": true, "read-link-list": true}

type subjectKey struct{}

// about says what an operation was about, for the journal: in a word, such as an address.
func about(ctx context.Context, subject string) {
	if kept, there := ctx.Value(subjectKey{}).(*string); there {
		*kept = subject
	}
}

// withJournal does an operation, and notes who did it when it went well.
func (s *Server) withJournal(ctx huma.Context, member store.Member, next func(huma.Context)) {
	id := ctx.Operation().OperationID
	if !journaled[id] || tried[id] && ctx.Query("keep") != "true" {
		next(ctx)
		return
	}
	subject := new(string)
	*subject = s.subjectOf(ctx, member.WorkspaceID)
	next(huma.WithValue(ctx, subjectKey{}, subject))
	if status := ctx.Status(); status >= http.StatusMultipleChoices {
		return
	}
	entry := store.JournalEntry{WorkspaceID: member.WorkspaceID, Who: member.Email, Did: id, Subject: *subject}
	if member.Program != "" {
		entry.Who += ", by “" + member.Program + "”"
	}
	for _, name := range []string{"page", "of"} {
		if page, err := uuid.Parse(ctx.Param(name)); err == nil {
			entry.PageID = &page
		}
	}
	s.write(ctx.Context(), entry)
}

// subjectOf says what an operation is about by its path, before it may be gone; an operation can say it better by about.
func (s *Server) subjectOf(ctx huma.Context, workspace uuid.UUID) string {
	if name := ctx.Param("name"); name != "" {
		return name // of a file
	}
	for _, kind := range store.SubjectKinds() {
		id, err := uuid.Parse(ctx.Param(kind))
		if err != nil {
			continue
		}
		name, err := s.Store.Subject(ctx.Context(), workspace, kind, id)
		if err != nil {
			slog.Error("what somebody did could not be named", "did", ctx.Operation().OperationID, "error", err)
		}
		return name
	}
	return ""
}

// write keeps an entry of the journal. What was done is done: it is not undone where that fails.
func (s *Server) write(ctx context.Context, entry store.JournalEntry) {
	if err := s.Store.WriteJournal(context.WithoutCancel(ctx), entry, s.Now()); err != nil {
		slog.Error("what somebody did could not be noted", "did", entry.Did, "error", err)
	}
}

func (s *Server) addJournal() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-journal", Method: http.MethodGet, Path: "/api/journal",
		Summary:     "Who did what in the workspace, the latest first",
		Description: "For a year. What somebody does again and again within an hour is one entry.",
	}), func(ctx context.Context, in *ListPart) (*partOutput[JournalView], error) {
		place, most, err := in.place()
		if err != nil {
			return nil, err
		}
		var after store.JournalEntry
		if place != nil {
			after.ID, after.LastAt = place.ID, place.At
		}
		entries, err := s.Store.Journal(ctx, memberOf(ctx).WorkspaceID, after, most+1)
		if err != nil {
			return nil, problem(err)
		}
		return listed(entries, most, func(one store.JournalEntry) JournalView {
			return JournalView{one.ID, one.Who, one.Did, one.PageID, one.Page, one.Subject, one.FirstAt, one.LastAt, one.Times}
		}, func(one store.JournalEntry) cursor { return cursor{one.LastAt, one.ID.String()} }), nil
	})
}
