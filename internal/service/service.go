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
	"net/url"
	"time"

	"jundle/internal/agents"
	"jundle/internal/eventlog"
	"jundle/internal/ingest"
	"jundle/internal/networks"
	"jundle/internal/outbound"
	"jundle/internal/public"
	"jundle/internal/rollup"
	"jundle/internal/settings"
	"jundle/internal/standin"
	"jundle/internal/store"
	"jundle/internal/studio"
	"jundle/web"
)

// stopWithin is how long requests and waiting events have to finish.
const stopWithin = 15 * time.Second

// Service is a running process.
type Service struct {
	settings settings.Settings
	store    *store.Store
	log      *eventlog.Log
	recorder *ingest.Recorder
	roller   *rollup.Roller
	servers  []server
	failed   chan error
	unlisten context.CancelFunc // stops hearing of changed pages
}

// Start opens the listeners, so that a taken port is known before anything
// else, and begins to serve. profiles are the links in the stand-ins' profiles.
// The caller keeps the store and closes it after Stop.
func Start(ctx context.Context, set settings.Settings, s *store.Store, profiles map[string]string) (*Service, error) {
	list, err := agents.Load()
	if err != nil {
		return nil, err
	}
	ownKey, err := s.Key(ctx, "own-mark")
	if err != nil {
		return nil, fmt.Errorf("read the signing key: %w", err)
	}
	hearing, unlisten := context.WithCancel(ctx)
	service := &Service{settings: set, store: s, log: eventlog.Open(ctx, set.EventLog()), roller: rollup.Start(ctx, s), failed: make(chan error, 3), unlisten: unlisten}
	service.recorder, err = ingest.NewRecorder(ctx, ingest.Options{Store: s, Agents: list, Log: service.log, SpoolDir: set.Spool()})
	if err != nil {
		return nil, errors.Join(err, service.Stop())
	}
	parts, err := service.parts(hearing, ownKey, profiles)
	if err == nil {
		err = service.listen(parts)
	}
	if err != nil {
		return nil, errors.Join(err, service.Stop())
	}
	return service, nil
}

// listener is a server and where it listens.
type listener struct {
	name, address, setting string
	server                 server
}

func (s *Service) parts(ctx context.Context, ownKey []byte, profiles map[string]string) ([]listener, error) {
	proxies, err := s.settings.Proxies()
	if err != nil {
		return nil, err
	}
	known, err := networks.Load()
	if err != nil {
		return nil, err
	}
	reroute := func(*url.URL) *url.URL { return nil }
	if s.settings.StandinListen != "" {
		origin := "http://" + s.settings.StandinListen
		reroute = func(address *url.URL) *url.URL { return standin.Locate(origin, address) }
	}
	pages, err := public.New(public.Options{
		Store: s.store, Recorder: s.recorder, Networks: known, Origin: s.settings.PublicURL, StudioOrigin: s.settings.StudioURL, OwnKey: ownKey, TrustedProxies: proxies, Now: time.Now,
		Reroute: func(address string) string {
			if parsed, err := url.Parse(address); err == nil {
				if located := reroute(parsed); located != nil {
					return located.String()
				}
			}
			return address
		},
	})
	if err != nil {
		return nil, err
	}
	go s.store.Listen(ctx, store.Listener{
		Began:   pages.ForgetAll,
		Changed: pages.Forget,
		Lost: func(err error) {
			slog.Warn("changes of pages go unheard for a moment; listening begins again", "error", err)
		},
	})
	creators, err := studio.New(studio.Options{
		Store: s.store, Outbound: outbound.New(outbound.Options{Reroute: reroute}), Origin: s.settings.StudioURL, PublicOrigin: s.settings.PublicURL,
		OwnKey: ownKey, TrustedProxies: proxies, Application: web.Application(), Now: time.Now,
		Shed: func() int64 { return s.recorder.Health().Shed },
	})
	if err != nil {
		return nil, err
	}
	listeners := []listener{
		{"studio", s.settings.StudioListen, "JUNDLE_STUDIO_LISTEN", newServer("studio", s.withHealth(creators))},
		{"public", s.settings.PublicListen, "JUNDLE_PUBLIC_LISTEN", newVisitorServer(pages.Front(s.withHealth(pages.Rest())))},
	}
	if s.settings.StandinListen != "" {
		listeners = append(listeners, listener{"stand-ins", s.settings.StandinListen, "JUNDLE_STANDIN_LISTEN", newServer("stand-ins", standin.New(profiles))})
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
			return fmt.Errorf("the %s listener cannot listen on %s: %w. If another program has the port, set %s to a free one, like %s=127.0.0.1:9%03d, and the matching JUNDLE_..._URL",
				one.name, one.address, err, one.setting, one.setting, 80+i*10)
		}
		opened[i] = socket
	}
	for i, one := range listeners {
		s.servers = append(s.servers, one.server)
		go func() {
			if err := one.server.Serve(opened[i]); err != nil && !errors.Is(err, http.ErrServerClosed) {
				s.failed <- fmt.Errorf("%s: %w", one.name, err)
			}
		}()
		slog.Info("listening", "part", one.name, "address", one.address)
	}
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
	s.roller.Stop()
	s.log.Close()
	return errors.Join(errs...)
}
