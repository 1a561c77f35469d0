package main

import (
	"context"
	"fmt"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"time"
)

// contest is two servers asked the same thing, in turns.
type contest struct {
	name, script string
	ours, theirs string
	rounds       []round
}

type round struct{ ours, theirs measured }

// measured is what wrk tells of one run.
type measured struct {
	perSecond float64
	p99       time.Duration
	answered  int
}

func newContest(name, script, ours, theirs string) *contest {
	return &contest{name: name, script: script, ours: ours, theirs: theirs}
}

func (c *contest) round(ctx context.Context) error {
	theirs, err := wrk(ctx, c.script, c.theirs)
	if err != nil {
		return err
	}
	ours, err := wrk(ctx, c.script, c.ours)
	if err != nil {
		return err
	}
	c.rounds = append(c.rounds, round{ours, theirs})
	fmt.Printf("%s: %.0f/s, 99 %% within %s; nginx %.0f/s; ratio %.2f\n", c.name, ours.perSecond, ours.p99, theirs.perSecond,
		ours.perSecond/theirs.perSecond)
	return nil
}

func (c *contest) answered() int {
	n := 0
	for _, round := range c.rounds {
		n += round.ours.answered
	}
	return n
}

func (c *contest) print(what, floor string) {
	of := func(pick func(round) float64) float64 {
		var values []float64
		for _, round := range c.rounds {
			values = append(values, pick(round))
		}
		slices.Sort(values)
		return values[len(values)/2]
	}
	fmt.Printf("| %s | %.0f | %.0f | %.2f | %.1f ms | %s |\n", what,
		of(func(r round) float64 { return r.ours.perSecond }), of(func(r round) float64 { return r.theirs.perSecond }),
		of(func(r round) float64 { return r.ours.perSecond / r.theirs.perSecond }),
		of(func(r round) float64 { return float64(r.ours.p99.Microseconds()) / 1000 }), floor)
}

var (
	rateLine    = regexp.MustCompile(`Requests/sec:\s+([\d.]+)`)
	latencyLine = regexp.MustCompile(`(?m)^\s+99%\s+(\S+)$`)
	countLine   = regexp.MustCompile(`(\d+) requests in`)
	badLine     = regexp.MustCompile(`(?m)Socket errors.*|Non-2xx or 3xx responses.*`)
)

// visitors lets every third request come from another address, as each visitor of a
// page does a few things.
const visitors = `
local n = 0
request = function()
	n = n + 1
	local who = math.floor(n / 3) % 1000000
	wrk.headers["X-Forwarded-For"] = string.format("10.%d.%d.%d", who / 65536, who / 256 % 256, who % 256)
	return wrk.format()
end`

// wrk asks a server with 64 connections for a few seconds, by a script.
func wrk(ctx context.Context, script, address string) (measured, error) {
	out, err := exec.CommandContext(ctx, "wrk", "-t1", "-c64", "-d"+seconds.String(), "--latency", "-s", script,
		"-H", "User-Agent: "+phone, "-H", "Accept-Encoding: gzip", address).CombinedOutput()
	if err != nil {
		return measured{}, fmt.Errorf("wrk: %w: %s", err, out)
	}
	rate, latency, count := rateLine.FindSubmatch(out), latencyLine.FindSubmatch(out), countLine.FindSubmatch(out)
	if rate == nil || latency == nil || count == nil || badLine.Match(out) {
		return measured{}, fmt.Errorf("wrk said what we cannot use: %s", out)
	}
	perSecond, err := strconv.ParseFloat(string(rate[1]), 64)
	if err != nil {
		return measured{}, err
	}
	p99, err := time.ParseDuration(string(latency[1]))
	if err != nil {
		return measured{}, err
	}
	answered, err := strconv.Atoi(string(count[1]))
	return measured{perSecond, p99, answered}, err
}

// phone is a browser as it announces itself.
const phone = "Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.5 " +
	"Mobile/15E148 Safari/604.1"
