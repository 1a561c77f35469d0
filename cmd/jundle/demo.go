package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/schollz/progressbar/v3"
	"github.com/spf13/cobra"
	"golang.org/x/term"

	"jundle/internal/agents"
	"jundle/internal/cluster"
	"jundle/internal/demo"
	"jundle/internal/service"
	"jundle/internal/settings"
	"jundle/internal/standin"
)

const (
	demoDays = 90
	demoSeed = 20260601
)

func demoCommand() *cobra.Command {
	var dir string
	command := &cobra.Command{
		Use: "demo", Short: "Serve the demo on a private PostgreSQL, with made-up visits and a made-up web", Args: cobra.NoArgs,
	}
	command.Flags().StringVar(&dir, "data", ".data/demo", "where the demo keeps its data")
	command.RunE = func(cmd *cobra.Command, _ []string) (err error) {
		ctx := cmd.Context()
		server, err := cluster.Start(ctx, cluster.Options{Dir: dir, Say: say})
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, server.Stop()) }()
		if err := server.CreateDatabase(ctx, "jundle"); err != nil {
			return err
		}
		parts, err := openDemo(ctx, server.URL("jundle"), dir)
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, closeParts(parts)) }()
		if err := fill(ctx, parts, false); err != nil {
			return err
		}
		return run(ctx, parts, demo.ProfileLinks(parts.Settings.PublicURL), func() { announce(parts.Settings) })
	}
	return command
}

// openDemo is open with the demo's database and files, and the stand-ins on.
func openDemo(ctx context.Context, databaseURL, dir string) (service.Parts, error) {
	for name, value := range map[string]string{
		"JUNDLE_DATABASE_URL": databaseURL, "JUNDLE_STANDIN_LISTEN": "127.0.0.1:8099",
		"JUNDLE_STANDIN_MAIL_LISTEN": "127.0.0.1:8025", "JUNDLE_MAIL_URL": "smtp://127.0.0.1:8025",
		"JUNDLE_TILES_URL": standin.Tiles, "JUNDLE_TILES_ATTRIBUTION": standin.TilesBy,
		"JUNDLE_TRACKING_CODES": "true",
		"JUNDLE_DOMAIN_TARGET":  standin.DomainTarget, "JUNDLE_TLS_LISTEN": "127.0.0.1:8443", "JUNDLE_TLS_PORT": "8443",
		"JUNDLE_STANDIN_DNS_LISTEN": "127.0.0.1:8053", "JUNDLE_RESOLVER": "127.0.0.1:8053",
		"JUNDLE_STANDIN_ACME_LISTEN": "127.0.0.1:8014", "JUNDLE_ACME_URL": "https://127.0.0.1:8014/dir",
		"JUNDLE_ACME_EMAIL": "letters@jundle.example",
		"JUNDLE_MEDIA":      filepath.Join(dir, "media"), "JUNDLE_DATA_DIR": filepath.Join(dir, "events"),
	} {
		if _, set := os.LookupEnv(name); !set || name == "JUNDLE_DATABASE_URL" {
			if err := os.Setenv(name, value); err != nil {
				return service.Parts{}, err
			}
		}
	}
	return open(ctx)
}

func announce(set settings.Settings) {
	say("")
	say("  Studio      %s", set.StudioURL)
	say("              sign in as %s with the password  %s", demo.Email, demo.Password)
	say("  Page        %s/%s", set.PublicURL, demo.ClayPage)
	say("  Profiles    http://%s/profile/photoloft/quarrowclay  (and reelpond, wavecastle, pinmoss)", set.StandinListen)
	say("  Names       http://%s/names  (what stands in the made-up DNS, for hosts of your own)", set.StandinListen)
	say("  Mailbox     http://%s/mail  (every letter that is sent)", set.StandinListen)
	say("")
	say("  Ctrl-C stops everything that was started.")
	say("")
}

func simulateCommand() *cobra.Command {
	return &cobra.Command{
		Use: "simulate", Short: "Load the demo scenario with its visits into the database in JUNDLE_DATABASE_URL", Args: cobra.NoArgs,
		Long: "Loads the demo scenario unless it is there, and makes its ninety days of visits from a fixed seed.\n" +
			"Run again, it adds nothing. Ctrl-C stops it; what was made so far stays.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			parts, err := open(cmd.Context())
			if err != nil {
				return err
			}
			return errors.Join(fill(cmd.Context(), parts, true), closeParts(parts))
		},
	}
}

// fill loads the scenario and, when it is new, its visits.
func fill(ctx context.Context, parts service.Parts, report bool) error {
	now, s := time.Now(), parts.Stores.Background
	loaded, fresh, err := demo.Load(ctx, s, parts.Files, now, demoDays)
	if err != nil {
		return err
	}
	if !fresh {
		if report {
			say("The scenario is loaded already; nothing was added.")
		}
		return nil
	}
	list, err := agents.Load()
	if err != nil {
		return err
	}
	for _, address := range []string{demo.ClayPage, demo.WorkshopsPage} {
		made, err := demo.Simulation{
			Store: s, Agents: list, Loaded: loaded, Address: address, Begun: now.AddDate(0, 0, -demoDays), Days: demoDays, Seed: demoSeed,
			Progress: showProgress(fmt.Sprintf("Making visits to %s, %d days", address, demoDays)),
		}.Run(ctx)
		if err != nil {
			return err
		}
		say("%d visits, %d clicks; kept and not counted: %d crawlers, %d previews, %d own, %d repeats",
			made.Visits, made.Clicks, made.Crawlers, made.Previews, made.Own, made.Repeats)
	}
	_, err = demo.Simulation{
		Store: s, Agents: list, Loaded: loaded, Begun: now.AddDate(0, 0, -demoDays), Days: demoDays,
		Seed: demoSeed,
	}.RunLinks(ctx)
	return err
}

// showProgress draws a bar on a terminal; into a log it writes one line.
func showProgress(what string) func(done, of int) {
	if !term.IsTerminal(int(os.Stderr.Fd())) {
		said := sync.OnceFunc(func() { say("%s", what) })
		return func(int, int) { said() }
	}
	var bar *progressbar.ProgressBar
	return func(done, of int) {
		if bar == nil || bar.GetMax() != of {
			bar = progressbar.NewOptions(of, progressbar.OptionSetWriter(os.Stderr), progressbar.OptionSetWidth(30),
				progressbar.OptionSetDescription(fmt.Sprintf("%-36s", what)), progressbar.OptionOnCompletion(func() { say("") }))
		}
		_ = bar.Set(done)
	}
}
