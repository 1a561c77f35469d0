package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/demo"
	"jundle/internal/eventlog"
	"jundle/internal/ingest"
	"jundle/internal/store"
)

const (
	ingestEntries = 1200
	ingestEach    = 250
)

// ingestRate fills a log and measures how fast a recorder empties it into the
// table, in events a second.
func ingestRate(ctx context.Context, dir string) (float64, error) {
	s, err := store.Open(ctx, os.Getenv("JUNDLE_DATABASE_URL"))
	if err != nil {
		return 0, err
	}
	defer s.Close()
	live, err := s.LivePage(ctx, demo.WorkshopsPage)
	if err != nil {
		return 0, err
	}
	list, err := agents.Load()
	if err != nil {
		return 0, err
	}
	log := eventlog.Open(ctx, eventlog.Options{Dir: filepath.Join(dir, "ingest"), MaxBytes: 1 << 30})
	defer log.Close()
	if err := fill(ctx, log, live, list); err != nil {
		return 0, err
	}
	before, err := s.CountEvents(ctx, live.PageID)
	if err != nil {
		return 0, err
	}
	began := time.Now()
	recorder, err := ingest.NewRecorder(ctx, ingest.Options{Store: s, Agents: list, Log: log, SpoolDir: filepath.Join(dir, "spool")})
	if err != nil {
		return 0, err
	}
	if err := recorder.Close(ctx); err != nil {
		return 0, err
	}
	took := time.Since(began)
	after, err := s.CountEvents(ctx, live.PageID)
	if err == nil && after-before != ingestEntries*ingestEach {
		err = fmt.Errorf("%d events arrived of %d", after-before, ingestEntries*ingestEach)
	}
	return ingestEntries * ingestEach / took.Seconds(), err
}

func fill(ctx context.Context, log *eventlog.Log, live store.LivePage, list *agents.List) error {
	hit := ingest.Hit{
		EndpointID: live.PageID, Attributor: source.NewAttributor(live.Sources, nil), PageHost: "pages.example", Edition: 1, Kind: traffic.View,
		Tag: "loft", Method: "GET", UserAgent: phone,
	}
	for n := range ingestEntries {
		var entry []byte
		for i := range ingestEach {
			// Each visitor does three things, in different batches.
			hit.At, hit.Client = time.Now().UTC(), fmt.Sprint(n/3, i)
			line, err := ingest.Encode(ingest.NewEvent(uuid.Must(uuid.NewV7()), hit, traffic.NewSalt([]byte("salt")), list))
			if err != nil {
				return err
			}
			entry = append(append(entry, line...), '\n')
		}
		if err := log.Append(ctx, entry); err != nil {
			return err
		}
	}
	return nil
}
