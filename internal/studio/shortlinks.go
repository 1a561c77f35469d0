package studio

import (
	"context"
	"crypto/rand"
	"errors"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/readings"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/window"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// ShortLinkWords is what a creator says of a short link, with its windows as they
// are entered in the workspace's zone.
type ShortLinkWords struct {
	shortlink.Link
	Windows []window.Entered `json:"windows" nullable:"false" doc:"When it is in force; always when there are none."`
}

// ShortLink is a short link on the Shelf.
type ShortLink struct {
	ID            uuid.UUID       `json:"id"`
	Revision      int64           `json:"revision"`
	Name          string          `json:"address" doc:"What stands behind the host."`
	ShortAddress  string          `json:"shortAddress" doc:"The whole address, to be handed out."`
	PastAddresses []string        `json:"pastAddresses" nullable:"false" doc:"Those it had before; they still lead where it leads."`
	Link          ShortLinkWords  `json:"link"`
	State         shortlink.State `json:"state" enum:"in force,off,before,over"`
	ChangesAt     *time.Time      `json:"changesAt,omitempty" doc:"When a window begins or ends next."`
	CreatedAt     time.Time       `json:"createdAt"`
}

// ListedLink is a short link with its clicks of late.
type ListedLink struct {
	ShortLink
	Clicks int   `json:"clicks" doc:"Counted clicks of the last 28 days, today included."`
	Daily  []int `json:"daily" nullable:"false" doc:"Counted clicks on each of these days."`
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
		OperationID: "list-short-links", Method: http.MethodGet, Path: "/api/short-links", Summary: "List the workspace's short links, latest first",
	}), s.listShortLinks)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-short-link", Method: http.MethodPost, Path: "/api/short-links", Summary: "Make a short link", DefaultStatus: http.StatusCreated,
	}), s.addShortLink)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-short-link", Method: http.MethodPut, Path: "/api/short-links/{link}", Summary: "Change what a short link is and where it leads",
	}), s.changeShortLink)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "readdress-short-link", Method: http.MethodPut, Path: "/api/short-links/{link}/address", Summary: "Give a short link another address; the old one keeps leading there",
	}), s.readdressShortLink)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-short-link-readings", Method: http.MethodGet, Path: "/api/short-links/{link}/readings", Summary: "Read a short link's figures",
	}), s.getShortLinkReadings)
	s.addShortLinkLists()
}

func (s *Server) zone(ctx context.Context) (*time.Location, error) {
	workspace, err := s.Store.Workspace(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, err
	}
	return time.LoadLocation(workspace.Zone)
}

func (s *Server) shortLink(row store.ShortLink, zone *time.Location) ShortLink {
	shown := ShortLink{
		ID: row.ID, Revision: row.Revision, Name: row.Address(), ShortAddress: s.PublicOrigin + "/" + row.Address(), PastAddresses: []string{},
		Link: ShortLinkWords{row.Link, window.Shown(zone, row.Link.Windows)}, State: row.Link.StateAt(s.Now()), CreatedAt: row.CreatedAt,
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
	zone, err := s.zone(ctx)
	if err != nil {
		return nil, problem(err)
	}
	return &shortLinkOutput{s.shortLink(row, zone)}, nil
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
	span, err := readings.ParseSpan("28d", s.Now(), s.Now(), zone)
	if err != nil {
		return nil, problem(err)
	}
	ids := make([]uuid.UUID, len(rows))
	for i, row := range rows {
		ids[i] = row.ID
	}
	read, err := rollup.ReadAll(ctx, s.Store, workspace, ids, span)
	if err != nil {
		return nil, problem(err)
	}
	show := func(row store.ShortLink) ListedLink {
		shown := ListedLink{ShortLink: s.shortLink(row, zone), Clicks: read[row.ID].Total.Clicks, Daily: []int{}}
		for _, day := range read[row.ID].Days {
			shown.Daily = append(shown.Daily, day.Clicks)
		}
		return shown
	}
	return listed(rows, most, show, func(row store.ShortLink) cursor { return cursor{row.CreatedAt, row.ID.String()} }), nil
}

// read checks what a creator said of a link.
func (s *Server) readShortLink(ctx context.Context, words ShortLinkWords, addresses ...string) (shortlink.Link, error) {
	zone, err := s.zone(ctx)
	if err != nil {
		return shortlink.Link{}, problem(err)
	}
	var wrong invalid.List
	words.Link.Windows = window.In(zone, words.Windows, &wrong, "windows")
	link, err := words.Link.Tidy()
	var also *invalid.Error
	if errors.As(err, &also) {
		wrong = append(wrong, also.Problems...)
	} else if s.leadsToItself(link, addresses) {
		wrong.Add("destination", "This is the short link's own address. It would lead its visitors round in a circle.")
	}
	if err := wrong.Err(); err != nil {
		return link, problem(err)
	}
	return link, s.checkMedia(ctx, memberOf(ctx).WorkspaceID, map[string][]string{"preview/picture": link.Preview.Picture.Names()})
}

func (s *Server) leadsToItself(link shortlink.Link, addresses []string) bool {
	for _, address := range []string{link.Destination, link.Fallback} {
		parsed, err := url.Parse(address)
		if err != nil || parsed.Scheme+"://"+parsed.Host != s.PublicOrigin {
			continue
		}
		if slices.Contains(addresses, strings.ToLower(strings.Trim(parsed.Path, "/"))) {
			return true
		}
	}
	return false
}

func (s *Server) addShortLink(ctx context.Context, in *struct {
	Body struct {
		Address string         `json:"address,omitempty" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen; made when empty."`
		Link    ShortLinkWords `json:"link"`
	}
},
) (*shortLinkOutput, error) {
	chosen := in.Body.Address
	if strings.TrimSpace(chosen) != "" {
		var err error
		if chosen, err = address.ParseShortAddress(chosen); err != nil {
			return nil, refuse("address", err.Error())
		}
	}
	link, err := s.readShortLink(ctx, in.Body.Link, chosen)
	if err != nil {
		return nil, err
	}
	added, err := s.addLink(ctx, chosen, link)
	if err != nil {
		return nil, shortLinkProblem(err)
	}
	return s.shortLinkOutput(ctx, added)
}

// addLink makes a short link under an address that was chosen, or made when empty.
func (s *Server) addLink(ctx context.Context, chosen string, link shortlink.Link) (store.ShortLink, error) {
	workspace := memberOf(ctx).WorkspaceID
	for attempt := 0; ; attempt++ {
		name := chosen
		if name == "" {
			var err error
			if name, err = shortlink.MakeAddress(rand.Reader); err != nil {
				return store.ShortLink{}, err
			}
		}
		added, err := s.Store.AddShortLink(ctx, workspace, store.NewShortLink{Address: name, Link: link}, s.Now())
		// One that was made may be taken; five in a row are not.
		if errors.Is(err, store.ErrAddressTaken) && chosen == "" && attempt < 5 {
			continue
		}
		return added, err
	}
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
		Revision int64          `json:"revision" doc:"The revision the change was made on."`
		Link     ShortLinkWords `json:"link"`
	}
},
) (*shortLinkOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	before, err := s.Store.ShortLink(ctx, workspace, in.Link)
	if err != nil {
		return nil, problem(err)
	}
	var addresses []string
	for _, address := range before.Addresses {
		addresses = append(addresses, address.Address)
	}
	link, err := s.readShortLink(ctx, in.Body.Link, addresses...)
	if err != nil {
		return nil, err
	}
	saved, err := s.Store.SaveShortLink(ctx, workspace, in.Link, in.Body.Revision, link)
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
	name, err := address.ParseShortAddress(in.Body.Address)
	if err != nil {
		return nil, refuse("address", err.Error())
	}
	changed, err := s.Store.ReaddressShortLink(ctx, memberOf(ctx).WorkspaceID, in.Link, name, s.Now())
	if err != nil {
		return nil, shortLinkProblem(err)
	}
	return s.shortLinkOutput(ctx, changed)
}

func (s *Server) getShortLinkReadings(ctx context.Context, in *struct {
	ShortLinkPath
	Range string `query:"range" maxLength:"40" default:"28d" doc:"7d, 28d, 90d, month, all, or YYYY-MM-DD..YYYY-MM-DD."`
},
) (*struct{ Body readings.Reading }, error) {
	workspace := memberOf(ctx).WorkspaceID
	link, err := s.Store.ShortLink(ctx, workspace, in.Link)
	if err != nil {
		return nil, problem(err)
	}
	span, err := s.span(ctx, in.Link, link.CreatedAt, in.Range)
	if err != nil {
		return nil, err
	}
	reading, err := rollup.Read(ctx, s.Store, workspace, in.Link, span)
	if err != nil {
		return nil, problem(err)
	}
	return &struct{ Body readings.Reading }{reading}, nil
}
