package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
)

// DeletionView says when an account is gone for good.
type DeletionView struct {
	DeleteAt time.Time `json:"deleteAt"`
}

func (s *Server) addAccountDeletion() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-account", Method: http.MethodPost, Path: "/api/account/deletion",
		Summary:     "Have your account erased in 14 days, with everything that is yours alone",
		Description: "Until then all of it goes on, and it can be taken back. Every other session ends.",
	}), func(ctx context.Context, in *struct{ Body PasswordBody }) (*struct{ Body DeletionView }, error) {
		if err := s.provePassword(ctx, in.Body.Password); err != nil {
			return nil, err
		}
		at, err := s.Store.DeleteAccount(ctx, memberOf(ctx).ID, s.sessionDigest(ctx), s.Now())
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body DeletionView }{DeletionView{at}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "keep-account", Method: http.MethodDelete, Path: "/api/account/deletion", Summary: "Keep your account after all",
		DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, problemOrNil(s.Store.KeepAccount(ctx, memberOf(ctx).ID))
	})
}
