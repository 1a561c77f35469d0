package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"time"

	"github.com/spf13/cobra"

	"jundle/internal/files"
	"jundle/internal/service"
	"jundle/internal/settings"
	"jundle/internal/store"
)

func serveCommand() *cobra.Command {
	return &cobra.Command{
		Use: "serve", Short: "Serve the studio and the pages on the database in JUNDLE_DATABASE_URL", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			parts, err := open(cmd.Context())
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, closeParts(parts)) }()
			return run(cmd.Context(), parts, nil, func() {})
		},
	}
}

func migrateCommand() *cobra.Command {
	return &cobra.Command{
		Use: "migrate", Short: "Bring the database in JUNDLE_DATABASE_URL up to date and end", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			parts, err := open(cmd.Context())
			if err != nil {
				return err
			}
			return closeParts(parts)
		},
	}
}

// open reads the settings, opens the database, migrated, and the store of files.
// Files whose bytes are still in the database are moved; that can be interrupted,
// and goes on when it is opened again.
func open(ctx context.Context) (parts service.Parts, err error) {
	if parts.Settings, err = readSettings(); err != nil {
		return parts, err
	}
	startLog(parts.Settings)
	if parts.Stores, err = store.OpenAll(ctx, parts.Settings.DatabaseURL, parts.Settings.Pools(), parts.Settings.Quotas()); err != nil {
		return parts, err
	}
	if parts.Files, err = files.Open(ctx, parts.Settings.Media, parts.Stores.Background, time.Now); err != nil {
		parts.Stores.Close()
		return parts, err
	}
	if err = parts.Files.MoveOutOfRows(ctx, showProgress("Moving files out of the database")); err != nil {
		err = errors.Join(fmt.Errorf("move files out of the database: %w", err), closeParts(parts))
	}
	return parts, err
}

// settingsFile is a file of settings; empty for none.
var settingsFile string

func readSettings() (settings.Settings, error) {
	if settingsFile != "" {
		return settings.ReadFile(settingsFile)
	}
	return settings.Read()
}

func closeParts(parts service.Parts) error {
	err := parts.Files.Close()
	parts.Stores.Close()
	return err
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
func run(ctx context.Context, parts service.Parts, profiles map[string]string, ready func()) error {
	running, err := service.Start(ctx, parts, profiles)
	if err != nil {
		return err
	}
	ready()
	err = running.Wait(ctx)
	say("Stopping: finishing requests and storing what is waiting")
	return errors.Join(err, running.Stop())
}
