// Command soak serves the demo's visitors at a third of the rate that `make bench`
// reaches, for a while, and lets a second account do meanwhile everything that once
// hurt: see docs/security.md. It fails when a page failed, when memory grew, or when
// pages or the first account's readings took longer than they may. `make soak` runs it on a
// private PostgreSQL.
package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"jundle/internal/freeport"
)

// What has to hold.
const (
	readingsWithin = 2 * time.Second // 95 of 100
	// pagesWithin is within how many milliseconds 99 of 100 page views are answered.
	pagesWithin = 100
	// mayGrow is how much more memory the process may have in the last third than in
	// the middle third, on average.
	mayGrow = 1.15
	// enough is which share of the visitors that were to come have to have been
	// answered.
	enough = 0.97
)

func main() {
	duration := 15 * time.Minute
	if len(os.Args) > 1 {
		var err error
		if duration, err = time.ParseDuration(os.Args[1]); err != nil {
			fmt.Fprintln(os.Stderr, "soak: how long? Like 15m:", err)
			os.Exit(2)
		}
	}
	if err := run(context.Background(), duration); err != nil {
		fmt.Fprintln(os.Stderr, "soak:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, duration time.Duration) error {
	dir, err := os.MkdirTemp("", "jundle-soak-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	p, err := start(dir)
	if err != nil {
		return err
	}
	defer p.stop()
	first, second := newCreator(p, "ilse@quarrow.example", "forty hours of fire"), newCreator(p, "rolf@elsewhere.example", "a kiln of his own")
	if err := errors.Join(first.signIn(), second.openAccount(p, "elsewhere-pots")); err != nil {
		return err
	}
	// The page that the visitors come to.
	workshops, err := first.page("quarrow-workshops")
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, duration)
	defer cancel()
	load := newLoad(p.public)
	go load.run(ctx)
	abuse := newAbuse(second)
	go abuse.run(ctx)
	memory, readings := watch(ctx, p, first, workshops, load, abuse)
	load.done.Wait()
	wanted := duration.Seconds() * (pressesPerSecond + viewsPerSecond)
	fmt.Printf("\n%.1f %% of %.0f visits and presses were answered.", 100*float64(load.answered.Load())/wanted, wanted)
	if float64(load.answered.Load()) < enough*wanted {
		err = errors.New("the machine is too slow for a third of the rate")
	}
	return errors.Join(err, verdict(memory, readings, load, abuse))
}

// program is the real program with the demo in it.
type program struct {
	process        *exec.Cmd
	env            []string
	studio, public string
}

// command runs another command of the program, and returns what it prints.
func (p *program) command(args ...string) (string, error) {
	command := exec.Command("bin/jundle", args...)
	command.Env, command.Stderr = p.env, os.Stderr
	printed, err := command.Output()
	return string(printed), err
}

func start(dir string) (*program, error) {
	studio, err := freeport.Find()
	if err != nil {
		return nil, err
	}
	public, err := freeport.Find()
	if err != nil {
		return nil, err
	}
	p := &program{studio: studio.String(), public: public.String()}
	env := append(os.Environ(), "JUNDLE_PUBLIC_LISTEN="+p.public, "JUNDLE_STUDIO_LISTEN="+p.studio, "JUNDLE_FLOOD_BUDGET=1000000000",
		"JUNDLE_DATA_DIR="+filepath.Join(dir, "events"), "JUNDLE_MEDIA="+filepath.Join(dir, "media"))
	p.env = env
	load := exec.Command("bin/jundle", "simulate")
	load.Env, load.Stderr = env, os.Stderr
	if err := load.Run(); err != nil {
		return nil, fmt.Errorf("load the demo: %w", err)
	}
	p.process = exec.Command("bin/jundle", "serve")
	p.process.Env, p.process.Stderr = env, os.Stderr
	if err := p.process.Start(); err != nil {
		return nil, err
	}
	for range 200 {
		if conn, err := net.Dial("tcp", p.public); err == nil {
			return p, conn.Close()
		}
		time.Sleep(50 * time.Millisecond)
	}
	return nil, errors.New("the program does not start")
}

func (p *program) stop() {
	_ = p.process.Process.Signal(syscall.SIGTERM)
	_ = p.process.Wait()
}

// memory is how much of it the process has now, in bytes (Linux, proc(5)).
func (p *program) memory() int {
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.process.Process.Pid))
	if err != nil {
		return 0
	}
	for line := range strings.Lines(string(status)) {
		if rest, found := strings.CutPrefix(line, "VmRSS:"); found {
			kilobytes, _ := strconv.Atoi(strings.TrimSuffix(strings.TrimSpace(rest), " kB"))
			return kilobytes << 10
		}
	}
	return 0
}

// watch looks at memory and the first account's readings until ctx ends, and says
// once a minute how things stand.
func watch(ctx context.Context, p *program, first *creator, page string, load *load, abuse *abuse) (memory []int,
	readings []time.Duration,
) {
	fmt.Println("| minute | visitors a second | failed | memory, MB | readings, median | readings, slowest | requests of the second account |")
	fmt.Println("|---|---|---|---|---|---|---|")
	minute, since, answered, begun := 0, 0, int64(0), time.Now()
	for {
		select {
		case <-ctx.Done():
			return memory, readings
		case <-time.After(3 * time.Second):
		}
		memory = append(memory, p.memory())
		if took, err := first.readings(ctx, page); err == nil {
			readings = append(readings, took)
		} else if ctx.Err() == nil {
			fmt.Fprintln(os.Stderr, "readings:", err)
			readings = append(readings, time.Minute)
		}
		if len(memory)%20 == 0 {
			minute++
			now := load.answered.Load()
			part := slices.Clone(readings[since:])
			slices.Sort(part)
			fmt.Printf("| %d | %d | %d | %d | %d ms | %d ms | %d |\n", minute, int(float64(now-answered)/time.Since(begun).Seconds()),
				load.failed.Load(), average(memory[since:])>>20,
				part[len(part)/2].Milliseconds(), part[len(part)-1].Milliseconds(), abuse.made.Load())
			since, answered, begun = len(memory), now, time.Now()
		}
	}
}

func average(values []int) int {
	sum := 0
	for _, value := range values {
		sum += value
	}
	return sum / max(1, len(values))
}

func verdict(memory []int, readings []time.Duration, load *load, abuse *abuse) error {
	slices.Sort(readings)
	third := len(memory) / 3
	middle, last := average(memory[third:2*third]), average(memory[2*third:])
	p95 := readings[len(readings)*95/100]
	fmt.Printf(
		"\n%d answers to visitors, %d failed. Memory on average %d MB in the middle third, %d MB in the last, %d MB at most. Readings: "+
			"median %d ms, 95 of 100 within %d ms.\n",
		load.answered.Load(),
		load.failed.Load(),
		middle>>20,
		last>>20,
		slices.Max(memory)>>20,
		readings[len(readings)/2].Milliseconds(),
		p95.Milliseconds(),
	)
	p99 := load.within(990)
	fmt.Printf("Page views: median %d ms, 95 of 100 within %d ms, 99 within %d ms.\n", load.within(500), load.within(950), p99)
	fmt.Println("The second account: " + abuse.words())
	var wrong []error
	if n := load.failed.Load(); n > 0 {
		wrong = append(wrong, fmt.Errorf("%d pages or presses failed", n))
	}
	if float64(last) > mayGrow*float64(middle) {
		wrong = append(wrong, fmt.Errorf("memory grew from %d to %d MB", middle>>20, last>>20))
	}
	if p99 >= pagesWithin {
		wrong = append(wrong, fmt.Errorf("1 of 100 page views took more than %d ms", p99))
	}
	if p95 > readingsWithin {
		wrong = append(wrong, fmt.Errorf("readings took %s", p95))
	}
	return errors.Join(wrong...)
}
