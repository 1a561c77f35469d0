package main

import (
	"errors"
	"fmt"
	"os"
	"os/user"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"jundle/internal/service"
	"jundle/internal/store"
)

// listedAtMost is how many lines a list has.
const listedAtMost = 200

// note is an entry of the journal of those who run the service.
func note(because string) store.OperatorEntry {
	who := os.Getenv("SUDO_USER")
	if who == "" {
		if current, err := user.Current(); err == nil {
			who = current.Username
		}
	}
	return store.OperatorEntry{At: time.Now(), Who: who, Because: because}
}

// becauseFlag has a command say why, which those concerned read.
func becauseFlag(command *cobra.Command) *string {
	because := command.Flags().String("because", "", "why, in a sentence that those concerned read")
	_ = command.MarkFlagRequired("because")
	return because
}

// done says in words what came of something that was asked for by name.
func done(err error, what, name string) error {
	switch {
	case errors.Is(err, store.ErrNotFound):
		return fmt.Errorf("there is no %s %s", what, name)
	case errors.Is(err, store.ErrAlready):
		return fmt.Errorf("the %s %s is so already; nothing was changed", what, name)
	}
	return err
}

func accountListCommand() *cobra.Command {
	return listCommand("list [PART]", "List accounts with a part in their e-mail address, the latest first", func(
		cmd *cobra.Command, parts service.Parts, part string, out *tabwriter.Writer,
	) (int, error) {
		accounts, err := parts.Stores.Background.Accounts(cmd.Context(), part, listedAtMost)
		for _, one := range accounts {
			_, _ = fmt.Fprintf(out, "%s\tsince %s\t%d workspaces\t%d pages\t%s\n", one.Email, one.CreatedAt.UTC().Format(time.DateOnly),
				one.Workspaces, one.Pages, state("suspended", one.SuspendedAt, one.Because))
		}
		return len(accounts), err
	})
}

func listCommand(use, short string, list func(*cobra.Command, service.Parts, string, *tabwriter.Writer) (int, error)) *cobra.Command {
	return &cobra.Command{
		Use: use, Short: short, Args: cobra.MaximumNArgs(1),
		RunE: withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
			out := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 0, 2, ' ', 0)
			n, err := list(cmd, parts, strings.Join(args, ""), out)
			if err != nil {
				return err
			}
			if n == listedAtMost {
				say("These are the first %d; name a part to see fewer.", n)
			}
			return out.Flush()
		}),
	}
}

func state(word string, at *time.Time, because string) string {
	if at == nil {
		return ""
	}
	return fmt.Sprintf("%s since %s: %s", word, at.UTC().Format(time.DateOnly), because)
}

func accountSuspendCommand() *cobra.Command {
	command := &cobra.Command{Use: "suspend EMAIL", Short: "Keep somebody and their programs out; their pages go on", Args: cobra.ExactArgs(1)}
	because := becauseFlag(command)
	command.RunE = withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
		email := strings.ToLower(args[0])
		return done(parts.Stores.Background.SuspendAccount(cmd.Context(), email, note(*because)), "account", email)
	})
	return command
}

func accountRestoreCommand() *cobra.Command {
	return &cobra.Command{
		Use: "restore EMAIL", Short: "Let somebody who was suspended in again", Args: cobra.ExactArgs(1),
		RunE: withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
			email := strings.ToLower(args[0])
			return done(parts.Stores.Background.RestoreAccount(cmd.Context(), email, note("")), "account", email)
		}),
	}
}

// endpointCommand is for pages, or for short links.
func endpointCommand(use string, kind store.EndpointKind, what string) *cobra.Command {
	command := &cobra.Command{Use: use, Short: "List, take down and restore " + what + "s"}
	list := listCommand("list [PART]", "List "+what+"s with a part in their address, and who runs them", func(
		cmd *cobra.Command, parts service.Parts, part string, out *tabwriter.Writer,
	) (int, error) {
		all, err := parts.Stores.Background.Endpoints(cmd.Context(), kind, part, listedAtMost)
		for _, one := range all {
			_, _ = fmt.Fprintf(out, "%s\t%s\t%s\n", one.Address, strings.Join(one.Runners, ", "), state("taken down", one.TakenDownAt, one.Because))
		}
		return len(all), err
	})
	down := &cobra.Command{Use: "take-down ADDRESS", Short: "Keep a " + what + " from visitors at once", Args: cobra.ExactArgs(1)}
	because := becauseFlag(down)
	down.RunE = withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
		return done(parts.Stores.Background.TakeDown(cmd.Context(), kind, args[0], note(*because)), what, args[0])
	})
	back := &cobra.Command{
		Use: "restore ADDRESS", Short: "Show a " + what + " that was taken down to visitors again", Args: cobra.ExactArgs(1),
		RunE: withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
			return done(parts.Stores.Background.PutBack(cmd.Context(), kind, args[0], note("")), what, args[0])
		}),
	}
	command.AddCommand(list, down, back)
	return command
}

func journalCommand() *cobra.Command {
	return &cobra.Command{
		Use: "journal", Short: "List what those who run the service did, and why, the latest first", Args: cobra.NoArgs,
		RunE: withParts(func(cmd *cobra.Command, _ []string, parts service.Parts) error {
			entries, err := parts.Stores.Background.OperatorJournal(cmd.Context(), listedAtMost)
			out := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 0, 2, ' ', 0)
			for _, one := range entries {
				_, _ = fmt.Fprintf(out, "%s\t%s\t%s\t%s\t%s\n", one.At.UTC().Format(time.RFC3339), one.Who, one.Did, one.Subject, one.Because)
			}
			return errors.Join(err, out.Flush())
		}),
	}
}
