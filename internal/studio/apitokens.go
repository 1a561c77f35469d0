package studio

import (
	"context"
	"crypto/rand"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/team"
	"jundle/internal/store"
)

// apiTokenBegins marks a token, so that people and programs that look for secrets know it.
const apiTokenBegins = "jundle_"

// APITokenView is what a program of yours gets in with.
type APITokenView struct {
	ID        uuid.UUID  `json:"id"`
	Name      string     `json:"name"`
	Role      team.Role  `json:"role" enum:"edits,reads" doc:"What it may do at most; less where you may less."`
	CreatedAt time.Time  `json:"createdAt"`
	UsedAt    *time.Time `json:"usedAt,omitempty" doc:"When it was used last, to the minute."`
	Until     time.Time  `json:"until"`
}

// NewAPIToken is a token that was made, with what is shown once.
type NewAPIToken struct {
	APITokenView
	Token string `json:"token" doc:"Sent as Authorization: Bearer. It is kept nowhere and not shown again."`
}

func (s *Server) addAPITokens() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-api-tokens", Method: http.MethodGet, Path: "/api/api-tokens",
		Summary: "Tokens of your programs in this workspace, the latest first",
	}), func(ctx context.Context, _ *struct{}) (*listOutput[APITokenView], error) {
		member := memberOf(ctx)
		tokens, err := s.Store.APITokens(ctx, member.WorkspaceID, member.ID)
		if err != nil {
			return nil, problem(err)
		}
		list := make([]APITokenView, len(tokens))
		for i, one := range tokens {
			list[i] = viewOfToken(one)
		}
		return &listOutput[APITokenView]{list}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-api-token", Method: http.MethodPost, Path: "/api/api-tokens",
		Summary:     "Make a token for a program; it is shown once",
		Description: "It acts for you in this workspace, within its role, and never on your account. Twenty at most.",
	}), s.addAPIToken)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "end-api-token", Method: http.MethodDelete, Path: "/api/api-tokens/{apiToken}", Summary: "End a token at once",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *struct {
		Token uuid.UUID `path:"apiToken"`
	},
	) (*struct{}, error) {
		member := memberOf(ctx)
		return nil, problemOrNil(s.Store.EndAPIToken(ctx, member.WorkspaceID, member.ID, in.Token))
	})
}

func viewOfToken(one store.APIToken) APITokenView {
	return APITokenView{one.ID, one.Name, one.Role, one.CreatedAt, one.UsedAt, one.Until}
}

func (s *Server) addAPIToken(ctx context.Context, in *struct {
	Body struct {
		PasswordBody
		Name string    `json:"name" maxLength:"60"`
		Role team.Role `json:"role" enum:"edits,reads"`
		Days int       `json:"days" minimum:"1" maximum:"366" doc:"For how long it holds."`
	}
},
) (*struct{ Body NewAPIToken }, error) {
	member := memberOf(ctx)
	name := strings.TrimSpace(in.Body.Name)
	if name == "" {
		return nil, refuse("name", "Give it a name, such as that of the program.")
	}
	if member.WorkspaceID == (uuid.UUID{}) {
		return nil, huma.Error403Forbidden("You are a member of no workspace, so there is nothing for a program to do.")
	}
	if err := s.provePassword(ctx, in.Body.Password); err != nil {
		return nil, err
	}
	token := apiTokenBegins + rand.Text() + rand.Text() // 256 bits
	made, err := s.Store.AddAPIToken(ctx, store.APIToken{
		WorkspaceID: member.WorkspaceID, UserID: member.ID, Name: name, Role: in.Body.Role, CreatedAt: s.Now(),
		Until: s.Now().AddDate(0, 0, in.Body.Days),
	}, token)
	if errors.Is(err, store.ErrManyTokens) {
		return nil, huma.Error409Conflict("You have twenty tokens here, which is as many as there can be. End one that is no longer used.")
	}
	if err != nil {
		return nil, problem(err)
	}
	about(ctx, name)
	return &struct{ Body NewAPIToken }{NewAPIToken{viewOfToken(made), token}}, nil
}

// bearer is the token a request brings, and whether it brings any.
func bearer(ctx huma.Context) (string, bool) {
	scheme, token, _ := strings.Cut(ctx.Header("Authorization"), " ")
	return strings.TrimSpace(token), strings.EqualFold(scheme, "Bearer")
}

// memberOfToken finds whom a program acts for, with no more than the role of its token; store.ErrNotFound
// for a token that does not hold.
func (s *Server) memberOfToken(ctx context.Context, token string) (store.Member, error) {
	if !strings.HasPrefix(token, apiTokenBegins) {
		return store.Member{}, store.ErrNotFound
	}
	member, kept, err := s.Store.MemberOfToken(ctx, token, s.Now())
	if err != nil {
		return member, err
	}
	if member.Role.May(kept.Role) {
		member.Role = kept.Role
	}
	member.Program = kept.Name
	return member, nil
}
