package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/mailing"
	"jundle/internal/store"
)

// lettersAsked is for weekly letters that a member has sent at once.
var lettersAsked = store.Budget{Burst: 3, Pause: 10 * time.Minute}

// WeeklyLetterView says whether a member is sent the figures of the week.
type WeeklyLetterView struct {
	On bool `json:"on"`
}

type weeklyLetterOutput struct{ Body WeeklyLetterView }

func (s *Server) addWeeklyLetter() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-weekly-letter", Method: http.MethodGet, Path: "/api/weekly-letter",
		Summary: "Whether you are sent the figures of the week, on Mondays at seven by the clocks of the workspace",
	}), func(ctx context.Context, _ *struct{}) (*weeklyLetterOutput, error) {
		member := memberOf(ctx)
		on, err := s.Store.HasWeeklyLetter(ctx, member.WorkspaceID, member.ID)
		if err != nil {
			return nil, problem(err)
		}
		return &weeklyLetterOutput{WeeklyLetterView{on}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "set-weekly-letter", Method: http.MethodPut, Path: "/api/weekly-letter", Summary: "Switch your weekly letter on or off",
	}), func(ctx context.Context, in *struct{ Body WeeklyLetterView }) (*weeklyLetterOutput, error) {
		member := memberOf(ctx)
		if err := s.Store.SetWeeklyLetter(ctx, member.WorkspaceID, member.ID, in.Body.On, s.Now()); err != nil {
			return nil, problem(err)
		}
		return &weeklyLetterOutput{in.Body}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "send-weekly-letter", Method: http.MethodPost, Path: "/api/weekly-letter/send",
		Summary:       "Have the letter about last week sent to you now",
		Description:   "None is sent of a week in which nobody came, nor in the week before.",
		DefaultStatus: http.StatusAccepted,
	}), s.sendWeeklyLetter)
	huma.Register(s.api, limited(huma.Operation{
		OperationID: "stop-weekly-letter", Method: http.MethodPost, Path: "/weekly-letter/{token}",
		Summary:       "Switch off the weekly letter that a link came in",
		Description:   "Mail programs do so by themselves, when the letter is unsubscribed from there (RFC 8058).",
		DefaultStatus: http.StatusNoContent,
	}), s.stopWeeklyLetter)
}

func (s *Server) sendWeeklyLetter(ctx context.Context, _ *struct{}) (*struct{}, error) {
	member := memberOf(ctx)
	if err := s.takeAttempt(ctx, store.Attempt{Key: s.attemptKey("weekly letter", member.ID.String()), Budget: lettersAsked}); err != nil {
		return nil, err
	}
	err := s.Store.OrderLetter(ctx, store.LetterOrder{About: store.WeeklyLetter, User: member.ID, Workspace: member.WorkspaceID})
	if err != nil {
		return nil, problem(err)
	}
	return nil, nil
}

func (s *Server) stopWeeklyLetter(ctx context.Context, in *struct {
	Token string `path:"token" maxLength:"200"`
},
) (*struct{}, error) {
	workspace, user, ok := mailing.ReadOffToken(s.LetterKey, in.Token)
	if !ok {
		return nil, huma.Error404NotFound("This link is not whole. Open it from the letter once more, or switch the letter off in Settings.")
	}
	err := s.Store.SetWeeklyLetter(ctx, workspace, user, false, s.Now())
	// Whoever is no member any more is sent none.
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, problem(err)
	}
	return nil, nil
}
