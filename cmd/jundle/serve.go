package main

import (
	"context"
	"errors"
	"log/slog"
	"os"

	"github.com/spf13/cobra"

	"jundle/internal/service"
	"jundle/internal/settings"
	"jundle/internal/store"
)

func serveCommand() *cobra.Command {
	return &cobra.Command{
		Use: "serve", Short: "Serve the studio and the pages on the database in JUNDLE_DATABASE_URL", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			set, s, err := open(cmd.Context())
			if err != nil {
				return err
			}
			defer s.Close()
			return run(cmd.Context(), set, s, nil, func() {})
		},
	}
}

func migrateCommand() *cobra.Command {
	return &cobra.Command{
		Use: "migrate", Short: "Bring the database in JUNDLE_DATABASE_URL up to date and end", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, s, err := open(cmd.Context())
			if err == nil {
				s.Close()
			}
			return err
		},
	}
}

// open reads the settings and opens the database, migrated.
func open(ctx context.Context) (settings.Settings, *store.Store, error) {
	set, err := settings.Read()
	if err != nil {
		return set, nil, err
	}
	startLog(set)
	s, err := store.Open(ctx, set.DatabaseURL)
	return set, s, err
}

func startLog(set settings.Settings) {
	options := &slog.HandlerOptions{Level: set.LogLevel}
	var handler slog.Handler = slog.NewTextHandler(os.Stderr, options)
	if set.LogFormat == "json" {
		handler = slog.NewJSONHandler(os.Stderr, options)
	}
	slog.SetDefault(slog.New(handler))
}

// run serves until ctx ends and then stops in good order. It calls ready once
// everything listens.
func run(ctx context.Context, set settings.Settings, s *store.Store, profiles map[string]string, ready func()) error {
	running, err := service.Start(ctx, set, s, profiles)
	if err != nil {
		return err
	}
	ready()
	err = running.Wait(ctx)
	say("Stopping: finishing requests and storing what is waiting")
	return errors.Join(err, running.Stop())
}
