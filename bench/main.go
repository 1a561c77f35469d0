// Command bench measures what has to be quick beside nginx in the same run on
// the same machine, and prints the ratios: a counted redirect against a bare one,
// a counted page view against a static file of the same size. It measures how fast
// events get from the log to the table, and what a reading costs on a busy day. `make bench` runs it on a private
// PostgreSQL.
package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"jundle/internal/demo"
)

func main() {
	if err := run(context.Background()); err != nil {
		fmt.Fprintln(os.Stderr, "bench:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context) error {
	dir, err := os.MkdirTemp("", "jundle-bench-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	subject, err := prepare(ctx, dir)
	if err != nil {
		return err
	}
	defer subject.stop()
	stopNginx, err := startNginx(dir, subject.pageBytes)
	if err != nil {
		return err
	}
	defer stopNginx()

	// Taking turns, so that what else the machine does falls on both alike.
	script := filepath.Join(dir, "visitors.lua")
	if err := os.WriteFile(script, []byte(visitors), 0o600); err != nil {
		return err
	}
	redirects := newContest("redirect", script, subject.click, nginx+"/redirect")
	views := newContest("page view", script, subject.page, nginx+"/page.html")
	for range rounds {
		for _, contest := range []*contest{redirects, views} {
			if err := contest.round(ctx); err != nil {
				return err
			}
		}
	}
	peak, err := subject.memory("VmHWM")
	if err != nil {
		return err
	}
	fmt.Println("| | Jundle | nginx | ratio, median of rounds | 99th percentile, median | floor |")
	fmt.Println("|---|---|---|---|---|---|")
	redirects.print("a counted redirect, per second", "0.20, under 15 ms")
	views.print("a counted page view, per second", "0.35")
	fmt.Printf("\nMost memory the process had: %d MB (under 400).\n", peak>>20)
	if err := subject.complete(ctx, redirects.answered()+views.answered()); err != nil {
		return err
	}
	if err := readings(ctx, subject); err != nil {
		return err
	}
	live, err := subject.store.LivePage(ctx, demo.WorkshopsPage)
	if err != nil {
		return err
	}
	if err := busyVisitor(ctx, subject.store, live); err != nil {
		return err
	}
	rate, err := ingestRate(ctx, dir)
	if err != nil {
		return err
	}
	fmt.Printf("From the log to the table: %.0f events a second (at least 20,000).\n", rate)
	return nil
}

const (
	rounds  = 5
	seconds = 4 * time.Second
)
