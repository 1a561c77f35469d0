package studio

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/links"
	"jundle/internal/core/audience"
	"jundle/internal/core/readings"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/window"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// ShortLinkContent is what a creator says of a short link, with its windows as they
// are entered in the workspace's zone.
type ShortLinkContent struct {
	shortlink.Link
	Windows []window.Entered `json:"windows" nullable:"false" doc:"When it is in force; always when there are none."`
}

// ShortLink is a short link on the Shelf.
type ShortLink struct {
	ID            uuid.UUID        `json:"id"`
	Revision      int64            `json:"revision"`
	Name          string           `json:"address" doc:"What stands behind the host."`
	ShortAddress  string           `json:"shortAddress" doc:"The whole address, to be handed out."`
	PastAddresses []string         `json:"pastAddresses" nullable:"false" doc:"Those it had before; they still lead where it leads."`
	Link          ShortLinkContent `json:"link"`
	State         shortlink.State  `json:"state" enum:"in force,off,before,over"`
	ChangesAt     *time.Time       `json:"changesAt,omitempty" doc:"When a window begins or ends next."`
	DeleteAt      *time.Time       `json:"deleteAt,omitempty" doc:"When it is gone for good, of a link that was deleted."`
	CreatedAt     time.Time        `json:"createdAt"`
}

// ListedLink is a short link with its clicks of late.
type ListedLink struct {
	ShortLink
	Clicks    int    `json:"clicks" doc:"Counted clicks of 28 days and of today."`
	Daily     []int  `json:"daily" nullable:"false" doc:"Counted clicks on each of these days."`
	TakenDown string `json:"takenDown,omitempty" doc:"Why whoever runs the service keeps it from visitors, while they do."`
}

// StaleShortLink is the answer to a change that was made on an older revision.
type StaleShortLink struct {
	huma.ErrorModel
	Current ShortLink `json:"current"`
}

// ShortLinkPath names a short link.
type ShortLinkPath struct {
	Link uuid.UUID `path:"link"`
}

type shortLinkOutput struct{ Body ShortLink }

func (s *Server) addShortLinks() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-short-links", Method: http.MethodGet, Path: "/api/short-links",
		Summary: "List the workspace's short links, latest first",
	}), s.listShortLinks)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-short-link", Method: http.MethodPost, Path: "/api/short-links", Summary: "Make a short link",
		DefaultStatus: http.StatusCreated,
	}), s.addShortLink)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-short-link", Method: http.MethodPut, Path: "/api/short-links/{link}",
		Summary: "Change what a short link is and where it leads",
	}), s.changeShortLink)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "readdress-short-link", Method: http.MethodPut, Path: "/api/short-links/{link}/address",
		Summary: "Give a short link another address; the old one keeps leading there",
	}), s.readdressShortLink)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-short-link-readings", Method: http.MethodGet, Path: "/api/short-links/{link}/readings",
		Summary: "Read a short link's figures",
	}), s.getShortLinkReadings)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "delete-short-link", Method: http.MethodDelete, Path: "/api/short-links/{link}", DefaultStatus: http.StatusOK,
		Summary: "Let a short link lead nowhere at once; for 14 days it can be kept after all",
	}), func(ctx context.Context, in *ShortLinkPath) (*shortLinkOutput, error) {
		deleted, err := s.Store.DeleteShortLink(ctx, memberOf(ctx).WorkspaceID, in.Link, s.Now())
		if err != nil {
			return nil, problem(err)
		}
		return s.shortLinkOutput(ctx, deleted)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "keep-short-link", Method: http.MethodPost, Path: "/api/short-links/{link}/keep",
		Summary: "Keep a short link that was deleted",
	}), func(ctx context.Context, in *ShortLinkPath) (*shortLinkOutput, error) {
		kept, err := s.Store.KeepShortLink(ctx, memberOf(ctx).WorkspaceID, in.Link)
		if err != nil {
			return nil, problem(err)
		}
		return s.shortLinkOutput(ctx, kept)
	})
	s.addShortLinkLists()
}

func (s *Server) zone(ctx context.Context) (*time.Location, error) {
	return s.Store.Location(ctx, memberOf(ctx).WorkspaceID)
}

func (s *Server) shortLink(row store.ShortLink, origin string, zone *time.Location) ShortLink {
	shown := ShortLink{
		ID:            row.ID,
		Revision:      row.Revision,
		Name:          row.Address(),
		ShortAddress:  origin + "/" + row.Address(),
		PastAddresses: []string{},
		Link: ShortLinkContent{
			row.Link,
			window.Shown(zone, row.Link.Windows),
		},
		State:     row.Link.StateFor(audience.Audience{At: s.Now()}),
		DeleteAt:  row.DeleteAt,
		CreatedAt: row.CreatedAt,
	}
	if next := window.Next(row.Link.Windows, s.Now()); row.Link.On && !next.IsZero() {
		shown.ChangesAt = &next
	}
	for _, address := range row.Addresses {
		if !address.Present {
			shown.PastAddresses = append(shown.PastAddresses, address.Address)
		}
	}
	return shown
}

func (s *Server) shortLinkOutput(ctx context.Context, row store.ShortLink) (*shortLinkOutput, error) {
	about(ctx, row.Address())
	zone, err := s.zone(ctx)
	if err != nil {
		return nil, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &shortLinkOutput{s.shortLink(row, origin, zone)}, nil
}

func (s *Server) listShortLinks(ctx context.Context, in *ListPart) (*partOutput[ListedLink], error) {
	after, most, err := in.place()
	if err != nil {
		return nil, err
	}
	workspace := memberOf(ctx).WorkspaceID
	rows, err := s.Store.ShortLinksPart(ctx, workspace, after, most+1)
	if err != nil {
		return nil, problem(err)
	}
	zone, err := s.zone(ctx)
	if err != nil {
		return nil, problem(err)
	}
	span := readings.WithToday(28, s.Now(), zone)
	ids := make([]uuid.UUID, len(rows))
	for i, row := range rows {
		ids[i] = row.ID
	}
	read, err := rollup.ReadAll(ctx, s.Store, workspace, ids, span)
	if err != nil {
		return nil, problem(err)
	}
	takenDown, err := s.Store.TakenDownLinks(ctx, workspace)
	if err != nil {
		return nil, problem(err)
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return nil, problem(err)
	}
	show := func(row store.ShortLink) ListedLink {
		shown := ListedLink{
			ShortLink: s.shortLink(row, origin, zone), Clicks: read[row.ID].Total.Clicks, Daily: []int{}, TakenDown: takenDown[row.ID],
		}
		for _, day := range read[row.ID].Days {
			shown.Daily = append(shown.Daily, day.Clicks)
		}
		return shown
	}
	return listed(rows, most, show, func(row store.ShortLink) cursor { return cursor{row.CreatedAt, row.ID.String()} }), nil
}

func (s *Server) addShortLink(ctx context.Context, in *struct {
	Body struct {
		Address string           `json:"address,omitempty" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen; made when empty."`
		Link    ShortLinkContent `json:"link"`
	}
},
) (*shortLinkOutput, error) {
	added, err := s.links.Add(ctx, memberOf(ctx).WorkspaceID, in.Body.Address, links.Content(in.Body.Link))
	if err != nil {
		return nil, shortLinkProblem(err)
	}
	return s.shortLinkOutput(ctx, added)
}

func shortLinkProblem(err error) error {
	if errors.Is(err, store.ErrAddressTaken) {
		return refuse("address", "This short address is taken, by a page or another link. Try another.")
	}
	return problem(err)
}

func (s *Server) changeShortLink(ctx context.Context, in *struct {
	ShortLinkPath
	Body struct {
		Revision int64            `json:"revision" doc:"The revision the change was made on."`
		Link     ShortLinkContent `json:"link"`
	}
},
) (*shortLinkOutput, error) {
	saved, err := s.links.Change(ctx, memberOf(ctx).WorkspaceID, in.Link, in.Body.Revision, links.Content(in.Body.Link))
	if err != nil && !errors.Is(err, store.ErrStale) {
		return nil, problem(err)
	}
	out, outErr := s.shortLinkOutput(ctx, saved)
	if outErr == nil && err != nil {
		return nil, &StaleShortLink{
			ErrorModel: huma.ErrorModel{
				Title: http.StatusText(http.StatusConflict), Status: http.StatusConflict,
				Detail: "This link was changed elsewhere in the meantime. It is shown as it stands now; your last change was not saved over it.",
			},
			Current: out.Body,
		}
	}
	return out, outErr
}

func (s *Server) readdressShortLink(ctx context.Context, in *struct {
	ShortLinkPath
	AddressInput
},
) (*shortLinkOutput, error) {
	changed, err := s.links.Readdress(ctx, memberOf(ctx).WorkspaceID, in.Link, in.Body.Address)
	if err != nil {
		return nil, shortLinkProblem(err)
	}
	return s.shortLinkOutput(ctx, changed)
}

type linkReadingsOutput struct {
	ETag string `header:"ETag"`
	Body readings.Reading
}

func (s *Server) getShortLinkReadings(ctx context.Context, in *struct {
	ShortLinkPath
	Conditional
	RangeQuery
},
) (*linkReadingsOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	if _, err := s.Store.ShortLink(ctx, workspace, in.Link); err != nil {
		return nil, problem(err)
	}
	span, err := s.span(ctx, in.Link, in.Range)
	if err != nil {
		return nil, err
	}
	version, err := s.Store.FiguresVersion(ctx, workspace, in.Link, span.From(), span.To())
	if err != nil {
		return nil, problem(err)
	}
	tag, err := in.tag(version, span.Date(0), span.Date(span.Len()-1))
	if err != nil {
		return nil, err
	}
	reading, err := rollup.Read(ctx, s.Store, workspace, in.Link, span)
	if err != nil {
		return nil, problem(err)
	}
	return &linkReadingsOutput{tag, reading}, nil
}
