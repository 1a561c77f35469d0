package main

import (
	"errors"
	"fmt"
	"net/mail"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"jundle/internal/core/address"
	"jundle/internal/core/window"
	"jundle/internal/service"
	"jundle/internal/store"
)

func accountCommand() *cobra.Command {
	command := &cobra.Command{Use: "account", Short: "List, open, suspend and restore accounts"}
	command.AddCommand(accountListCommand(), accountOpenCommand(), accountPasswordCommand(), accountSuspendCommand(), accountRestoreCommand())
	return command
}

func accountOpenCommand() *cobra.Command {
	var zone string
	command := &cobra.Command{
		Use: "open EMAIL PAGE-ADDRESS", Short: "Print a link with which somebody opens an account, for a day", Args: cobra.ExactArgs(2),
	}
	command.Flags().StringVar(&zone, "zone", "UTC", "IANA time zone of its days, such as Europe/Lisbon")
	command.RunE = withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
		email, err := plainEmail(args[0])
		if err != nil {
			return err
		}
		name, err := address.ParsePageAddress(args[1])
		if err != nil {
			return fmt.Errorf("page address: %w", err)
		}
		if !window.IsZone(zone) {
			return fmt.Errorf("%q is no time zone; one is called like Europe/Lisbon", zone)
		}
		s, now := parts.Stores.Background, time.Now()
		pending, err := s.KeepPending(cmd.Context(), email, name, zone, now)
		if err != nil {
			return err
		}
		token, err := s.NewLetterToken(cmd.Context(), store.OpensAccount, pending.ID, pending.Until)
		if err != nil {
			return err
		}
		fmt.Printf("%s/open-account#%s\n", parts.Settings.StudioURL, token)
		return nil
	})
	return command
}

func accountPasswordCommand() *cobra.Command {
	return &cobra.Command{
		Use: "password EMAIL", Short: "Print a link with which somebody chooses a new password, for an hour", Args: cobra.ExactArgs(1),
		RunE: withParts(func(cmd *cobra.Command, args []string, parts service.Parts) error {
			email, err := plainEmail(args[0])
			if err != nil {
				return err
			}
			s := parts.Stores.Background
			member, err := s.MemberByEmail(cmd.Context(), email)
			if errors.Is(err, store.ErrNotFound) {
				return fmt.Errorf("nobody has the e-mail address %s", email)
			}
			if err != nil {
				return err
			}
			token, err := s.NewLetterToken(cmd.Context(), store.SetsPassword, member.ID, time.Now().Add(time.Hour))
			if err != nil {
				return err
			}
			fmt.Printf("%s/new-password#%s\n", parts.Settings.StudioURL, token)
			return nil
		}),
	}
}

func plainEmail(text string) (string, error) {
	email := strings.ToLower(text)
	parsed, err := mail.ParseAddress(email)
	if err != nil || parsed.Address != email {
		return "", fmt.Errorf("%q is no e-mail address", text)
	}
	return email, nil
}

// withParts opens the database and the files for a command, and closes them after it.
func withParts(do func(cmd *cobra.Command, args []string, parts service.Parts) error) func(*cobra.Command, []string) error {
	return func(cmd *cobra.Command, args []string) (err error) {
		parts, err := open(cmd.Context())
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, closeParts(parts)) }()
		return do(cmd, args, parts)
	}
}
