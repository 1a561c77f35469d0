package studio

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/geo"
)

func (s *Server) addPlaces() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "read-place", Method: http.MethodGet, Path: "/api/places",
		Summary:     "Find the coordinates in a text",
		Description: "Decimal degrees, degrees with minutes, a geo address (RFC 5870), an address of a map, a full Open Location Code.",
	}), func(_ context.Context, in *struct {
		Text string `query:"text" maxLength:"2048"`
	},
	) (*struct{ Body geo.Point }, error) {
		point, err := geo.Read(in.Text)
		if err != nil {
			return nil, refuse("text", "There are no coordinates in this. They look like 51.5007, -0.1246, or are in the address of a map.")
		}
		return &struct{ Body geo.Point }{point}, nil
	})
}
