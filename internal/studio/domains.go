package studio

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"net/netip"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/domains"
	"jundle/internal/core/address"
	"jundle/internal/core/domain"
	"jundle/internal/store"
)

const (
	// lookWithin is how long somebody waits for a look into the DNS.
	lookWithin = 15 * time.Second
	// targetKept is for how long it is taken for granted where our own host points.
	targetKept = time.Minute
)

// DomainView is a host of the workspace's own: what has to be set for it, and how far it is.
type DomainView struct {
	ID               uuid.UUID         `json:"id"`
	Host             string            `json:"host" doc:"As it stands in the DNS."`
	Shown            string            `json:"shown" doc:"The same in its own letters."`
	Origin           string            `json:"origin" doc:"Where visitors reach it."`
	Main             bool              `json:"main" doc:"Pages and short links stand under it, of those that are in use."`
	FrontPage        *uuid.UUID        `json:"frontPage,omitempty" doc:"The page at the host itself."`
	State            domain.State      `json:"state" enum:"unproven,elsewhere,certifying,in_use,lost"`
	Doubted          bool              `json:"doubted" doc:"The last look did not find it pointing here; old addresses stand for themselves."`
	Taken            bool              `json:"taken" doc:"Its proof stands, and that of another workspace that has it does, too."`
	Entries          []domain.DNSEntry `json:"entries" nullable:"false" doc:"What has to be set in the DNS."`
	Found            domain.DNSFound   `json:"found" doc:"What the last look showed."`
	CheckAt          *time.Time        `json:"checkAt,omitempty" doc:"When it is looked at next by itself."`
	UsedSince        *time.Time        `json:"usedSince,omitempty"`
	LostAt           *time.Time        `json:"lostAt,omitempty"`
	CertificateUntil *time.Time        `json:"certificateUntil,omitempty"`
	RefusedBecause   string            `json:"refusedBecause,omitempty" doc:"Why no certificate was issued when one was asked for last."`
	CreatedAt        time.Time         `json:"createdAt"`
}

// DomainList are the hosts of a workspace.
type DomainList struct {
	// Offered: whoever runs the service offers hosts of their own.
	Offered bool         `json:"offered" doc:"Whether whoever runs the service has set it up."`
	Target  string       `json:"target,omitempty" doc:"The host that they point to."`
	Most    int64        `json:"most" doc:"How many there can be."`
	Domains []DomainView `json:"domains" nullable:"false"`
}

// DomainPath names a host of the workspace's own.
type DomainPath struct {
	Domain uuid.UUID `path:"domain"`
}

type domainOutput struct{ Body DomainView }

func (s *Server) addDomains() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-domains", Method: http.MethodGet, Path: "/api/domains", Summary: "Hosts of the workspace's own",
	}), s.listDomains)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "add-domain", Method: http.MethodPost, Path: "/api/domains", Summary: "Add a host of one's own",
		Description: "What has to be set in the DNS for it is in the answer. It is looked at by itself from then on.",
	}), s.addDomain)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-domain", Method: http.MethodPut, Path: "/api/domains/{domain}",
		Summary: "Say which page stands at a host, and whether pages stand under it",
	}), s.changeDomain)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "check-domain", Method: http.MethodPost, Path: "/api/domains/{domain}/check",
		Summary: "Look now whether what has to be set for a host is",
	}), s.checkDomain)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "remove-domain", Method: http.MethodDelete, Path: "/api/domains/{domain}",
		Summary: "Remove a host: nothing is reached under it any more", DefaultStatus: http.StatusNoContent,
	}), func(ctx context.Context, in *DomainPath) (*struct{}, error) {
		one, err := s.Store.Domain(ctx, memberOf(ctx).WorkspaceID, in.Domain)
		if err == nil {
			about(ctx, one.Host)
			err = s.Store.RemoveDomain(ctx, memberOf(ctx).WorkspaceID, in.Domain, s.Now())
		}
		return nil, problemOrNil(err)
	})
}

// domains look after hosts, where whoever runs the service offers them.
func (s *Server) domains() domains.Domains {
	own := *s.Options.Domains
	own.Store, own.Now = s.Store, s.Now
	return own
}

var errNoDomains = refuse("host", "Whoever runs this service offers no domains of your own. Nothing was changed.")

func (s *Server) listDomains(ctx context.Context, _ *struct{}) (*struct{ Body DomainList }, error) {
	list := DomainList{Domains: []DomainView{}, Most: s.Store.MostDomains()}
	if s.Options.Domains == nil {
		return &struct{ Body DomainList }{list}, nil
	}
	list.Offered, list.Target = true, s.Options.Domains.Target
	all, err := s.Store.Domains(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return nil, problem(err)
	}
	for _, one := range all {
		list.Domains = append(list.Domains, s.viewOfDomain(ctx, one))
	}
	return &struct{ Body DomainList }{list}, nil
}

func (s *Server) addDomain(ctx context.Context, in *struct {
	Body struct {
		Host      string     `json:"host" maxLength:"1000" doc:"Such as links.quarrow.example."`
		FrontPage *uuid.UUID `json:"frontPage,omitempty" doc:"The page at the host itself."`
	}
},
) (*domainOutput, error) {
	if s.Options.Domains == nil {
		return nil, errNoDomains
	}
	host, err := domain.ParseHost(in.Body.Host, s.ServiceHosts...)
	if err != nil {
		return nil, refuse("host", sentence(err))
	}
	about(ctx, host)
	if in.Body.FrontPage != nil {
		if _, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, *in.Body.FrontPage); err != nil {
			return nil, problem(err)
		}
	}
	one, err := s.domains().Add(ctx, memberOf(ctx).WorkspaceID, host, in.Body.FrontPage)
	if errors.Is(err, store.ErrHostWanted) {
		return nil, refuse("host", sentence(err))
	}
	return s.domainOutput(ctx, one, err)
}

func (s *Server) changeDomain(ctx context.Context, in *struct {
	DomainPath
	Body struct {
		FrontPage *uuid.UUID `json:"frontPage,omitempty" doc:"The page at the host itself; none when left out."`
		Main      bool       `json:"main" doc:"Pages and short links stand under it. There is always one such; false changes nothing."`
	}
},
) (*domainOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	if in.Body.FrontPage != nil {
		if _, err := s.Store.Page(ctx, workspace, *in.Body.FrontPage); err != nil {
			return nil, problem(err)
		}
	}
	err := s.Store.ChangeDomain(ctx, workspace, in.Domain, in.Body.FrontPage, in.Body.Main)
	if err != nil {
		return nil, problem(err)
	}
	one, err := s.Store.Domain(ctx, workspace, in.Domain)
	about(ctx, one.Host)
	return s.domainOutput(ctx, one, err)
}

func (s *Server) checkDomain(ctx context.Context, in *DomainPath) (*domainOutput, error) {
	if s.Options.Domains == nil {
		return nil, errNoDomains
	}
	workspace := memberOf(ctx).WorkspaceID
	if !s.limits.mayFetch(workspace.String()) {
		return nil, tooMany("This was looked at often in a short time. Wait a few seconds and try again.", fetchPause)
	}
	one, err := s.Store.WantDomain(ctx, workspace, in.Domain, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	looking, cancel := context.WithTimeout(ctx, lookWithin)
	defer cancel()
	one, err = s.domains().LookNow(looking, one)
	if errors.Is(err, store.ErrHostTaken) {
		err = nil // it is in what is answered
	}
	return s.domainOutput(ctx, one, err)
}

func (s *Server) domainOutput(ctx context.Context, one store.Domain, err error) (*domainOutput, error) {
	if err != nil {
		return nil, problem(err)
	}
	return &domainOutput{s.viewOfDomain(ctx, one)}, nil
}

func (s *Server) viewOfDomain(ctx context.Context, one store.Domain) DomainView {
	view := DomainView{
		ID: one.ID, Host: one.Host, Shown: address.ReadableHost(one.Host), Origin: s.OwnOrigin(one.Host), Main: one.Main,
		FrontPage: one.FrontPage, State: one.StateAt(s.Now()), Doubted: one.Doubts > 0,
		Taken: one.ProvenAt == nil && one.Found.Proof == domain.Yes, Found: one.Found, CheckAt: one.CheckAt, UsedSince: one.UsedSince,
		LostAt: one.LostAt, CertificateUntil: one.CertificateUntil, RefusedBecause: one.RefusedBecause, CreatedAt: one.CreatedAt,
		Entries: []domain.DNSEntry{},
	}
	if s.Options.Domains != nil {
		view.Entries = domain.Entries(one.Host, one.Token, s.Options.Domains.Target, s.targetAddresses(ctx))
	}
	return view
}

// targetAddresses are those that hosts point to; none while the name servers do not say.
func (s *Server) targetAddresses(ctx context.Context) []netip.Addr {
	if held, known := s.target.Get(s.Options.Domains.Target); known {
		return held
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), lookWithin)
	defer cancel()
	found, err := s.Options.Domains.Addresses(ctx)
	if err != nil {
		slog.Warn("where hosts of creators are to point is not known", "error", err)
	}
	// That nobody said is kept as well: not every host of a list is to wait for it.
	s.target.Add(s.Options.Domains.Target, found)
	return found
}

// pageOrigin is under which the pages and short links of the member's workspace stand: its own host, as long
// as that is in use, or the one that all share.
func (s *Server) pageOrigin(ctx context.Context) (string, error) {
	return s.pageOriginOf(ctx, memberOf(ctx).WorkspaceID)
}

func (s *Server) pageOriginOf(ctx context.Context, workspace uuid.UUID) (string, error) {
	if s.Options.Domains == nil {
		return s.PublicOrigin, nil
	}
	all, err := s.Store.Domains(ctx, workspace)
	if err != nil {
		return "", err
	}
	for _, each := range all {
		if each.StateAt(s.Now()) == domain.InUse {
			return s.OwnOrigin(each.Host), nil
		}
	}
	return s.PublicOrigin, nil
}
