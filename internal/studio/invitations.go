package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/team"
	"jundle/internal/store"
)

// InvitationView is an invitation that nobody took yet.
type InvitationView struct {
	ID    uuid.UUID   `json:"id"`
	Email string      `json:"email"`
	Role  team.Role   `json:"role" enum:"runs,edits,reads"`
	Whole bool        `json:"whole"`
	Pages []uuid.UUID `json:"pages" nullable:"false"`
	Until time.Time   `json:"until" doc:"It can be taken until then."`
}

// InvitedView is what a letter invites somebody to.
type InvitedView struct {
	Email      string    `json:"email"`
	InvitedBy  string    `json:"invitedBy"`
	Workspace  string    `json:"workspace" doc:"What it is called."`
	Role       team.Role `json:"role" enum:"runs,edits,reads"`
	Whole      bool      `json:"whole"`
	HasAccount bool      `json:"hasAccount" doc:"The e-mail address has an account; sign in with it first."`
	SignedInAs string    `json:"signedInAs,omitempty" doc:"Who takes it, when they are signed in."`
}

func viewOf(one store.Invitation) InvitationView {
	return InvitationView{one.ID, one.Email, one.Role, one.Whole, append([]uuid.UUID{}, one.Pages...), one.Until}
}

func (s *Server) addInvitations() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-invitations", Method: http.MethodGet, Path: "/api/invitations", Summary: "Invitations that nobody took yet",
	}), func(ctx context.Context, _ *struct{}) (*listOutput[InvitationView], error) {
		open, err := s.Store.Invitations(ctx, memberOf(ctx).WorkspaceID, s.Now())
		if err != nil {
			return nil, problem(err)
		}
		list := make([]InvitationView, len(open))
		for i, one := range open {
			list[i] = viewOf(one)
		}
		return &listOutput[InvitationView]{list}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "invite-member", Method: http.MethodPost, Path: "/api/invitations",
		Summary: "Invite somebody by a letter that holds for a week, in place of one that they have",
	}), s.inviteMember)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "take-invitation-back", Method: http.MethodDelete, Path: "/api/invitations/{invitation}",
		Summary: "Take an invitation back", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		Invitation uuid.UUID `path:"invitation"`
	},
	) (*struct{}, error) {
		return nil, problemOrNil(s.Store.TakeInvitationBack(ctx, memberOf(ctx).WorkspaceID, in.Invitation))
	})
	huma.Register(s.api, huma.Operation{
		OperationID: "look-at-invitation", Method: http.MethodPost, Path: "/api/taken-invitations/look",
		Summary: "What a letter invites to", MaxBodyBytes: credentialsBody,
	}, s.lookAtInvitation)
	huma.Register(s.api, huma.Operation{
		OperationID: "take-invitation", Method: http.MethodPost, Path: "/api/taken-invitations",
		Summary:      "Become a member: as whoever is signed in or, with a password, in a new account",
		MaxBodyBytes: credentialsBody,
	}, s.takeInvitation)
}

func (s *Server) inviteMember(ctx context.Context, in *struct {
	Client
	Body struct {
		RoleBody
		Email string `json:"email" maxLength:"254"`
	}
},
) (*struct{ Body InvitationView }, error) {
	if !s.HasMail {
		return nil, errNoMail()
	}
	email, err := parseEmail(in.Body.Email)
	if err != nil {
		return nil, err
	}
	reach, err := in.Body.reach()
	if err != nil {
		return nil, err
	}
	self := memberOf(ctx)
	sent := store.Attempt{Key: s.attemptKey("invitations", self.WorkspaceID.String()), Budget: invitationsSent}
	if err := s.takeAttempt(ctx, sent); err != nil {
		return nil, err
	}
	if err := s.takeLetter(ctx, email, in.network); err != nil {
		return nil, err
	}
	made, err := s.Store.Invite(ctx, store.Invitation{
		WorkspaceID: self.WorkspaceID, Email: email, Role: in.Body.Role, Whole: reach.Whole, Pages: reach.Pages, InvitedBy: self.Email,
	}, s.Now())
	if errors.Is(err, store.ErrAlreadyMember) {
		return nil, refuse("email", "Whoever has this e-mail address is a member already.")
	}
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, email)
	return &struct{ Body InvitationView }{viewOf(made)}, nil
}

// signedIn is who is signed in, if somebody is.
func (s *Server) signedIn(ctx context.Context) (*store.User, error) {
	id, err := uuid.Parse(s.sessions.GetString(ctx, store.SessionUser))
	if err != nil {
		return nil, nil
	}
	user, err := s.Store.UserByID(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	return &user, err
}

// invitationOf is what a token invites to.
func (s *Server) invitationOf(ctx context.Context, token, network string) (store.Invitation, error) {
	if err := s.takeToken(ctx, network); err != nil {
		return store.Invitation{}, err
	}
	subject, err := s.Store.SubjectOfToken(ctx, store.TakesInvitation, token, s.Now())
	if err != nil {
		return store.Invitation{}, oldLinkOr(err)
	}
	invitation, err := s.Store.Invitation(ctx, subject, s.Now())
	return invitation, oldLinkOr(err)
}

// hasAccount tells whether an e-mail address has one.
func (s *Server) hasAccount(ctx context.Context, email string) (bool, error) {
	_, err := s.Store.UserByEmail(ctx, email)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	return err == nil, err
}

func (s *Server) lookAtInvitation(ctx context.Context, in *struct {
	Client
	Body TokenBody
},
) (*struct{ Body InvitedView }, error) {
	invitation, err := s.invitationOf(ctx, in.Body.Token, in.network)
	if err != nil {
		return nil, err
	}
	names, err := s.Store.NamesOfWorkspaces(ctx, []uuid.UUID{invitation.WorkspaceID})
	if err != nil {
		return nil, problem(err)
	}
	view := InvitedView{
		Email: invitation.Email, InvitedBy: invitation.InvitedBy, Workspace: names[invitation.WorkspaceID], Role: invitation.Role,
		Whole: invitation.Whole,
	}
	if view.HasAccount, err = s.hasAccount(ctx, invitation.Email); err != nil {
		return nil, problem(err)
	}
	user, err := s.signedIn(ctx)
	if err != nil {
		return nil, problem(err)
	}
	if user != nil {
		view.SignedInAs = user.Email
	}
	return &struct{ Body InvitedView }{view}, nil
}

func (s *Server) takeInvitation(ctx context.Context, in *struct {
	Client
	Body struct {
		TokenBody
		Password string `json:"password,omitempty" maxLength:"1000" doc:"Of a new account: 12 to 128 characters, and none that many people have."`
	}
},
) (*signedInOutput, error) {
	invitation, err := s.invitationOf(ctx, in.Body.Token, in.network)
	if err != nil {
		return nil, err
	}
	user, err := s.signedIn(ctx)
	if err != nil {
		return nil, problem(err)
	}
	if user != nil {
		member, err := s.Store.TakeInvitation(ctx, in.Body.Token, &user.ID, "", s.Now())
		if err != nil {
			return nil, oldLinkOr(err)
		}
		s.sessions.Put(ctx, store.SessionWorkspace, member.WorkspaceID.String())
		s.write(ctx, store.JournalEntry{WorkspaceID: member.WorkspaceID, Who: member.Email, Did: "take-invitation"})
		if member, err = s.Store.MemberOf(ctx, member.WorkspaceID, user.ID); err != nil {
			return nil, problem(err)
		}
		me, err := s.meOf(ctx, member)
		return &signedInOutput{SignedIn{Me: me}}, err
	}
	has, err := s.hasAccount(ctx, invitation.Email)
	switch {
	case err != nil:
		return nil, problem(err)
	case has:
		return nil, huma.Error401Unauthorized("This e-mail address has an account. Sign in with it, and open the link once more.")
	}
	hash, err := s.newHash(in.Body.Password, invitation.Email, "password")
	if err != nil {
		return nil, err
	}
	member, err := s.Store.TakeInvitation(ctx, in.Body.Token, nil, hash, s.Now())
	if errors.Is(err, store.ErrEmailTaken) {
		return nil, huma.Error401Unauthorized("This e-mail address has an account by now. Sign in with it, and open the link once more.")
	}
	if err != nil {
		return nil, oldLinkOr(err)
	}
	s.write(ctx, store.JournalEntry{WorkspaceID: member.WorkspaceID, Who: member.Email, Did: "take-invitation"})
	return s.enter(ctx, member.User, member.WorkspaceID, in.Client, true)
}
