package studio

import (
	"context"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/geo"
	"jundle/internal/core/picture"
	"jundle/internal/staticmap"
)

// mapWithin is how long a map may take to be drawn.
const mapWithin = 15 * time.Second

// DrawnMap is the picture of a map, and whose it is.
type DrawnMap struct {
	Map   picture.Picture `json:"map"`
	MapBy string          `json:"mapBy" doc:"To be shown with it."`
}

func (s *Server) addMaps() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "draw-map", Method: http.MethodPost, Path: "/api/places/map",
		Summary:     "Draw the map around a place, and keep it as a picture",
		Description: "Tiles come from the server that whoever runs this service has set; visitors ask nobody for them.",
	}), s.drawMap)
}

func (s *Server) drawMap(ctx context.Context, in *struct {
	Body struct {
		geo.Point
		Zoom int `json:"zoom" minimum:"1" maximum:"18"`
	}
},
) (*struct{ Body DrawnMap }, error) {
	if s.Tiles == "" {
		return nil, refuse("zoom", "Whoever runs this service has set up no maps. Directions work all the same.")
	}
	if !s.limits.mayFetch(memberOf(ctx).WorkspaceID.String()) {
		return nil, tooMany("These were many maps in a short time. Wait a few seconds and try again; nothing was changed.", fetchPause)
	}
	ctx, cancel := context.WithTimeout(ctx, mapWithin)
	defer cancel()
	const busy = "The map could not be drawn: its server does not answer as it should. Nothing was changed; try again later."
	done, err := s.describing.Take(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, huma.Error503ServiceUnavailable(busy)
	}
	defer done()
	drawn, err := staticmap.Draw(ctx, in.Body.Point, in.Body.Zoom, func(ctx context.Context, tile geo.Tile) ([]byte, error) {
		data, _, _, err := s.Outbound.Get(ctx, geo.TileAddress(s.Tiles, tile), "image/*", staticmap.MaxTile)
		return data, err
	})
	if err != nil {
		slog.Warn("a map could not be drawn", "error", err)
		return nil, huma.Error503ServiceUnavailable(busy)
	}
	kept := s.keepFetched(ctx, drawn)
	if kept == nil {
		return nil, huma.Error503ServiceUnavailable("The map could not be kept. Nothing was changed; there may be no room left for pictures.")
	}
	return &struct{ Body DrawnMap }{DrawnMap{*kept, s.TilesBy}}, nil
}
