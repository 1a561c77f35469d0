// Package service puts the parts together into one running process: the studio,
// the public listener and, where asked for, the stand-ins. It starts them,
// watches their health, and stops them without losing what they hold.
package service

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"path/filepath"
	"strings"
	"sync/atomic"
	"time"

	"jundle/internal/agents"
	"jundle/internal/app/domains"
	"jundle/internal/app/mailing"
	"jundle/internal/app/payments"
	"jundle/internal/certificates"
	"jundle/internal/countries"
	"jundle/internal/eventlog"
	"jundle/internal/exports"
	"jundle/internal/files"
	"jundle/internal/folder"
	"jundle/internal/ingest"
	"jundle/internal/jobs"
	"jundle/internal/livefigures"
	"jundle/internal/metrics"
	"jundle/internal/networks"
	"jundle/internal/outbound"
	"jundle/internal/public"
	"jundle/internal/settings"
	"jundle/internal/standin"
	"jundle/internal/store"
	"jundle/internal/studio"
	"jundle/web"
)

const (
	// stopWithin is how long requests and waiting events have to finish.
	stopWithin = 15 * time.Second
	// folderWithin is how long is waited for the process before to leave the data
	// folder: longer than it has to finish.
	folderWithin = stopWithin + 5*time.Second
)

// Parts are what a process works with.
type Parts struct {
	Settings settings.Settings
	Stores   store.Stores
	Files    *files.Files
}

// Service is a running process.
type Service struct {
	Parts
	folders  []*folder.Lock
	log      *eventlog.Log
	recorder *ingest.Recorder
	jobs     *jobs.Jobs
	exporter *exports.Exporter
	// made are the stand-ins of the demo and of the tests: where letters go, who knows hosts, who issues
	// certificates.
	made standin.Parts
	// domains look after hosts of creators' own, certificates are theirs, and pages knows whose they are; nil
	// where there are none.
	domains      *domains.Domains
	certificates *certificates.Certificates
	pages        atomic.Pointer[public.Server]
	proxies      []netip.Prefix
	servers      []*http.Server
	failed       chan error
	unlisten     context.CancelFunc // stops hearing of changed pages
}

// Start takes the data folder, opens the listeners, so that a taken port is known
// before anything else, and begins to serve. profiles are the links in the
// stand-ins' profiles. The caller keeps the parts and closes them after Stop.
func Start(ctx context.Context, parts Parts, profiles map[string]string) (*Service, error) {
	list, err := agents.Load()
	if err != nil {
		return nil, err
	}
	table, err := countries.Load()
	if err != nil {
		return nil, err
	}
	folders, err := takeFolders(ctx, parts.Settings)
	if err != nil {
		return nil, err
	}
	ownKey, err := parts.Stores.Background.Key(ctx, "own-mark")
	if err != nil {
		return nil, errors.Join(fmt.Errorf("read the signing key: %w", err), release(folders))
	}
	letterKey, err := parts.Stores.Background.Key(ctx, "letters")
	if err != nil {
		return nil, errors.Join(fmt.Errorf("read the signing key: %w", err), release(folders))
	}
	hearing, unlisten := context.WithCancel(ctx)
	background := parts.Stores.Background
	service := &Service{
		Parts: parts, folders: folders, log: eventlog.Open(ctx, parts.Settings.EventLog()), failed: make(chan error, 6), unlisten: unlisten,
		made: standin.Parts{Mailbox: standin.NewMailbox()},
	}
	if err := service.readyDomains(); err != nil {
		return nil, errors.Join(err, service.Stop())
	}
	if err := service.startJobs(ctx, letterKey); err != nil {
		return nil, errors.Join(err, service.Stop())
	}
	service.recorder, err = ingest.NewRecorder(ctx, ingest.Options{
		Store: background, Agents: list, Countries: table, Log: service.log, SpoolDir: parts.Settings.Spool(),
		FloodBudget: parts.Settings.FloodBudget,
	})
	if err != nil {
		return nil, errors.Join(err, service.Stop())
	}
	listeners, err := service.listeners(hearing, ownKey, letterKey, profiles)
	if err == nil {
		err = service.listen(listeners)
	}
	if err == nil {
		err = service.takeMail()
	}
	if err != nil {
		return nil, errors.Join(err, service.Stop())
	}
	return service, nil
}

// located is where a stand-in answers for a made-up address; nil for any other, and where
// there are no stand-ins.
func (s *Service) located(address *url.URL) *url.URL {
	if s.Settings.StandinListen == "" {
		return nil
	}
	return standin.Locate("http://"+s.Settings.StandinListen, address)
}

// opened is the address to open in place of another: that of its stand-in, where it has
// one.
func (s *Service) opened(address string) string {
	if parsed, err := url.Parse(address); err == nil {
		if located := s.located(parsed); located != nil {
			return located.String()
		}
	}
	return address
}

func (s *Service) outbound() *outbound.Client {
	return outbound.New(outbound.Options{Reroute: s.located})
}

// payments has visitors pay; each has turns of its own to speak to payment services.
func (s *Service) payments(with *store.Store) payments.Payments {
	return payments.Payments{
		Store: with, PublicOrigin: s.Settings.PublicURL, Now: time.Now,
		Outbound: outbound.New(outbound.Options{Reroute: s.located, AtOnce: public.PaymentsAtOnce}),
	}
}

// startJobs begins the work in the background.
func (s *Service) startJobs(ctx context.Context, letterKey []byte) error {
	sender, err := s.Settings.MailSender()
	if err != nil {
		return err
	}
	background := s.Stores.Background
	letters := mailing.Mailing{
		Store: background, Origin: s.Settings.StudioURL, PublicOrigin: s.Settings.PublicURL, Key: letterKey, Now: time.Now,
	}
	if sender != nil {
		letters.Send = sender.Send
	} else {
		slog.Warn("no letters are sent, because JUNDLE_MAIL_URL names no mail server")
	}
	s.jobs, err = jobs.New(jobs.Options{
		Store: background, Files: s.Files.Through(background), Outbound: s.outbound(), Now: time.Now,
		WriteExport: func(ctx context.Context, export store.Export) error { return s.exporter.Write(ctx, export) },
		Deliver:     letters.Deliver, Domains: s.domains,
	})
	if err != nil {
		return err
	}
	s.exporter = exports.New(background, s.Files, time.Now, s.jobs.Export)
	return s.jobs.Start(ctx)
}

// takeFolders takes the folders that only one process can use, waiting a while for
// the one before to end: started over the end of another, it loses nothing.
func takeFolders(ctx context.Context, set settings.Settings) ([]*folder.Lock, error) {
	dirs := []string{set.DataDir}
	if within, err := filepath.Rel(set.DataDir, set.Spool()); err != nil || strings.HasPrefix(within, "..") {
		dirs = append(dirs, set.Spool())
	}
	var taken []*folder.Lock
	for _, dir := range dirs {
		lock, err := folder.Await(ctx, dir, folderWithin, func() {
			slog.Warn("another process uses the data folder; waiting for it to end", "folder", dir, "for", folderWithin)
		})
		if err != nil {
			return nil, errors.Join(
				fmt.Errorf(
					"%w. Two in one folder would lose each other's events: stop the other, or give this one a JUNDLE_DATA_DIR (and "+
						"JUNDLE_SPOOL_DIR) of its own",
					err,
				),
				release(taken),
			)
		}
		taken = append(taken, lock)
	}
	return taken, nil
}

func release(folders []*folder.Lock) error {
	var errs []error
	for _, lock := range folders {
		errs = append(errs, lock.Release())
	}
	return errors.Join(errs...)
}

// listener is a server and where it listens.
type listener struct {
	name, address, setting string
	server                 *http.Server
}

func (s *Service) listeners(ctx context.Context, ownKey, letterKey []byte, profiles map[string]string) ([]listener, error) {
	proxies, err := s.Settings.Proxies()
	if err != nil {
		return nil, err
	}
	s.proxies = proxies
	known, err := networks.Load()
	if err != nil {
		return nil, err
	}
	abuse, err := s.Settings.AbuseLink()
	if err != nil {
		return nil, err
	}
	pages, err := public.New(public.Options{
		Store: s.Stores.Visitors, Files: s.Files.Through(s.Stores.Visitors), Recorder: s.recorder, Networks: known, Origin: s.Settings.PublicURL,
		StudioOrigin: s.Settings.StudioURL, OwnKey: ownKey, LetterKey: letterKey, TrustedProxies: proxies, Now: time.Now,
		TrackingCodes: s.Settings.TrackingCodes, OwnOrigin: s.Settings.OwnOrigin, Payments: s.payments(s.Stores.Visitors),
		Reroute: s.opened, AbuseLink: abuse,
	})
	if err != nil {
		return nil, err
	}
	s.pages.Store(pages)
	live := livefigures.NewHub()
	context.AfterFunc(ctx, live.End)
	go s.Stores.Background.Listen(ctx, store.Listener{
		Began: func() {
			pages.ForgetAll()
			live.AllChanged()
		},
		Changed: pages.Forget,
		Moved:   pages.HostsChanged,
		Counted: live.Changed,
		Lost: func(err error) {
			slog.Warn("changes of pages go unheard for a moment; listening begins again", "error", err)
		},
	})
	creators, err := studio.New(studio.Options{
		Store: s.Stores.Studio, Files: s.Files.Through(s.Stores.Studio), Exporter: s.exporter, CutsPerMinute: s.Settings.QuotaCutsPerMinute,
		Live: live, Outbound: s.outbound(), Origin: s.Settings.StudioURL, PublicOrigin: s.Settings.PublicURL,
		OwnKey: ownKey, LetterKey: letterKey, HasMail: s.Settings.MailURL != "",
		TrackingCodes: s.Settings.TrackingCodes, OwnOrigin: s.Settings.OwnOrigin, Domains: s.domains, ServiceHosts: s.Settings.ServiceHosts(),
		Tiles: s.Settings.Tiles, TilesBy: s.Settings.TilesBy,
		TrustedProxies: proxies, Application: web.Application(), Now: time.Now,
		Reroute: s.opened,
		Shed:    func() int64 { return s.recorder.Health().Shed },
	})
	if err != nil {
		return nil, err
	}
	counted := metrics.New(metrics.Sources{Stores: s.Stores, Events: s.recorder.Health, Waiting: s.log.Waiting})
	listeners := []listener{
		{"studio", s.Settings.StudioListen, "JUNDLE_STUDIO_LISTEN", newServer("studio", s.withHealth(counted.Count("studio", creators)))},
		{"public", s.Settings.PublicListen, "JUNDLE_PUBLIC_LISTEN", newVisitorServer(s.withHealth(counted.Count("public", pages)))},
	}
	if s.certificates != nil {
		listeners = append(listeners, listener{
			"hosts of creators", s.Settings.TLSListen, "JUNDLE_TLS_LISTEN",
			newTLSServer(s.withHealth(counted.Count("public", pages)), s.certificates.TLS()),
		})
	}
	if s.Settings.MetricsListen != "" {
		listeners = append(listeners, listener{
			"metrics", s.Settings.MetricsListen, "JUNDLE_METRICS_LISTEN", newServer("metrics", onlyMetrics(counted)),
		})
	}
	if s.Settings.StandinListen != "" {
		listeners = append(listeners, listener{
			"stand-ins", s.Settings.StandinListen, "JUNDLE_STANDIN_LISTEN",
			newServer("stand-ins", standin.New(profiles, s.made)),
		})
	}
	return listeners, nil
}

func (s *Service) listen(listeners []listener) error {
	opened := make([]net.Listener, len(listeners))
	for i, one := range listeners {
		socket, err := net.Listen("tcp", one.address)
		if err != nil {
			for _, before := range opened[:i] {
				_ = before.Close()
			}
			return fmt.Errorf(
				"the %s listener cannot listen on %s: %w. If another program has the port, set %s to a free one, like %s=127.0.0.1:9%03d, and "+
					"the matching JUNDLE_..._URL",
				one.name,
				one.address,
				err,
				one.setting,
				one.setting,
				80+i*10,
			)
		}
		opened[i] = socket
	}
	for i, one := range listeners {
		s.servers = append(s.servers, one.server)
		go func() {
			serve := one.server.Serve
			if one.server.TLSConfig != nil {
				serve = func(socket net.Listener) error { return one.server.ServeTLS(behindProxies(socket, s.proxies), "", "") }
			}
			if err := serve(opened[i]); err != nil && !errors.Is(err, http.ErrServerClosed) {
				s.failed <- fmt.Errorf("%s: %w", one.name, err)
			}
		}()
		slog.Info("listening", "part", one.name, "address", one.address)
	}
	return nil
}

// takeMail opens the made-up mail server, where there is to be one.
func (s *Service) takeMail() error {
	if s.Settings.StandinMail == "" {
		return nil
	}
	socket, err := net.Listen("tcp", s.Settings.StandinMail)
	if err != nil {
		return fmt.Errorf("the made-up mail server cannot listen: %w. Set JUNDLE_STANDIN_MAIL_LISTEN to a free port", err)
	}
	go func() {
		if err := s.made.Mailbox.Serve(socket); err != nil {
			s.failed <- fmt.Errorf("made-up mail server: %w", err)
		}
	}()
	return nil
}

// Wait returns when ctx ends or a listener fails.
func (s *Service) Wait(ctx context.Context) error {
	select {
	case <-ctx.Done():
		return nil
	case err := <-s.failed:
		return err
	}
}

// Stop lets requests finish, stores the events that are waiting, and returns.
func (s *Service) Stop() error {
	ctx, cancel := context.WithTimeout(context.Background(), stopWithin)
	defer cancel()
	s.unlisten()
	var errs []error
	for _, server := range s.servers {
		errs = append(errs, server.Shutdown(ctx))
	}
	if s.recorder != nil {
		errs = append(errs, s.recorder.Close(ctx))
	}
	if s.jobs != nil {
		errs = append(errs, s.jobs.Stop(ctx))
	}
	errs = append(errs, s.made.Mailbox.Close(), s.endDomains())
	s.log.Close()
	return errors.Join(append(errs, release(s.folders))...)
}
