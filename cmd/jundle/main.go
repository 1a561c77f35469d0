// Command jundle serves pages and the studio they are made in.
package main

import (
	"context"
	"fmt"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"

	"github.com/gin-gonic/gin"
	"github.com/spf13/cobra"

	// Time zones come with the program: the machine may have none.
	_ "time/tzdata"

	// JUNDLE_MEDIA may name a store that speaks S3. It stands here, and not where files
	// are kept, because it is the largest of all that is compiled.
	_ "gocloud.dev/blob/s3blob"

	"jundle/internal/store"
)

// version is set when a package is made.
var version = "development"

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	gin.SetMode(gin.ReleaseMode)
	tuneMemory()
	root := &cobra.Command{
		Use:           "jundle",
		Short:         "One small page, one address, and the numbers behind it",
		Version:       version,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.PersistentFlags().StringVar(&settingsFile, "settings", "", "a file of settings, where they are not all in the environment")
	root.AddCommand(serveCommand(), demoCommand(), simulateCommand(), migrateCommand(), recountCommand(), accountCommand(),
		endpointCommand("page", store.PageKind, "page"), endpointCommand("link", store.LinkKind, "short link"), journalCommand(),
		backupCommand(), restoreCommand(), openAPICommand(), withPostgresCommand())
	if err := root.ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "jundle: "+err.Error())
		os.Exit(1)
	}
}

// tuneMemory lets the garbage of many small requests gather before it is cleared
// away, as long as that stays far below what a small machine has. GOGC and
// GOMEMLIMIT still have the last word.
func tuneMemory() {
	const clearAt, stayBelow = 400, 300 << 20
	if os.Getenv("GOGC") == "" && os.Getenv("GOMEMLIMIT") == "" {
		debug.SetGCPercent(clearAt)
		debug.SetMemoryLimit(stayBelow)
	}
}

// say prints a line about what is being done.
func say(format string, args ...any) { fmt.Fprintf(os.Stderr, format+"\n", args...) }
