package main

import (
	"errors"
	"net/url"

	"github.com/spf13/cobra"

	"jundle/internal/agents"
	"jundle/internal/networks"
	"jundle/internal/rollup"
)

func recountCommand() *cobra.Command {
	return &cobra.Command{
		Use: "recount", Short: "Put stored events through the rules of today and make every figure anew", Args: cobra.NoArgs,
		Long: "Decides every stored event again, by the rules and lists this program carries, and makes every\n" +
			"figure anew. Pages are served meanwhile. Ctrl-C stops it; run again, it begins anew.",
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			parts, err := open(cmd.Context())
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, closeParts(parts)) }()
			list, err := agents.Load()
			if err != nil {
				return err
			}
			known, err := networks.Load()
			if err != nil {
				return err
			}
			did, err := rollup.Recount(cmd.Context(), parts.Stores.Background, list, known,
				hosts(parts.Settings.PublicURL, parts.Settings.StudioURL), showProgress("Recounting"))
			if err == nil {
				say("%d days of pages recounted; %d events are decided anew.", did.Days, did.Changed)
			}
			return err
		},
	}
}

func hosts(addresses ...string) []string {
	var names []string
	for _, address := range addresses {
		if parsed, err := url.Parse(address); err == nil {
			names = append(names, parsed.Hostname())
		}
	}
	return names
}
