package main

import (
	"errors"
	"fmt"
	"os"
	"os/exec"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"jundle/internal/cluster"
)

func withPostgresCommand() *cobra.Command {
	var dir string
	command := &cobra.Command{
		Use:   "with-postgres -- COMMAND [ARGUMENTS]",
		Short: "Run a command beside a private PostgreSQL that ends with it (for the tests)",
		Long: "Starts a private PostgreSQL on loopback, runs the command with JUNDLE_TEST_DATABASE_URL\n" +
			"and JUNDLE_DATABASE_URL set to an empty database on it, and stops the server when the\n" +
			"command ends.",
		Args: cobra.MinimumNArgs(1),
	}
	command.Flags().StringVar(&dir, "data", ".data/test", "where the server keeps its data")
	command.RunE = func(cmd *cobra.Command, args []string) (err error) {
		server, err := cluster.Start(cmd.Context(), cluster.Options{Dir: dir, Throwaway: true, Say: say})
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, server.Stop()) }()
		const database = "scratch"
		if err := errors.Join(server.DropDatabase(cmd.Context(), database), server.CreateDatabase(cmd.Context(), database)); err != nil {
			return err
		}
		inner := exec.CommandContext(cmd.Context(), args[0], args[1:]...)
		inner.Stdin, inner.Stdout, inner.Stderr = os.Stdin, os.Stdout, os.Stderr
		inner.Env = append(os.Environ(), "JUNDLE_TEST_DATABASE_URL="+server.URL(database), "JUNDLE_DATABASE_URL="+server.URL(database))
		inner.Cancel = func() error { return inner.Process.Signal(syscall.SIGTERM) }
		inner.WaitDelay = 20 * time.Second
		if err := inner.Run(); err != nil {
			return fmt.Errorf("%s: %w", args[0], err)
		}
		return nil
	}
	return command
}
