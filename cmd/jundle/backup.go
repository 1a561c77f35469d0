package main

import (
	"context"
	"time"

	"github.com/spf13/cobra"

	"jundle/internal/backup"
)

func backupCommand() *cobra.Command {
	return &cobra.Command{
		Use: "backup FOLDER", Short: "Write database, keys and files into a new folder, while everything goes on", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withBackup(cmd.Context(), "Backed up", backup.Write, args[0])
		},
	}
}

func restoreCommand() *cobra.Command {
	return &cobra.Command{
		Use: "restore FOLDER", Short: "Bring a backup back, into an empty database", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withBackup(cmd.Context(), "Restored", backup.Read, args[0])
		},
	}
}

func withBackup(
	ctx context.Context, did string, do func(context.Context, backup.Parts, string) (backup.Manifest, error), dir string,
) error {
	set, err := readSettings()
	if err != nil {
		return err
	}
	startLog(set)
	const shown = 500 // one line for so many files
	made, err := do(ctx, backup.Parts{DatabaseURL: set.DatabaseURL, Media: set.Media, Now: time.Now, Progress: func(files int) {
		if files%shown == 0 {
			say("%d files copied", files)
		}
	}}, dir)
	if err == nil {
		say("%s the database and %d files of %d bytes, as of %s.", did, made.Files, made.Bytes, made.At.Format(time.RFC3339))
	}
	return err
}
