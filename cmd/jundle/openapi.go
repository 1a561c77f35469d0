package main

import (
	"os"
	"time"

	"github.com/spf13/cobra"

	"jundle/internal/outbound"
	"jundle/internal/store"
	"jundle/internal/studio"
)

func openAPICommand() *cobra.Command {
	return &cobra.Command{
		Use: "openapi", Short: "Print the contract of the studio's API (OpenAPI 3.1), which the TypeScript types are made from",
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			// Nothing is asked of the store while the contract is drawn up.
			server, err := studio.New(studio.Options{Store: &store.Store{}, Outbound: outbound.New(outbound.Options{}), Now: time.Now})
			if err != nil {
				return err
			}
			contract, err := server.OpenAPI()
			if err != nil {
				return err
			}
			_, err = os.Stdout.Write(contract)
			return err
		},
	}
}
