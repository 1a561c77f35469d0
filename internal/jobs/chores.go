package jobs

import (
	"context"
	"fmt"
	"time"

	"github.com/riverqueue/river"

	"jundle/internal/app/destinations"
	"jundle/internal/app/feeds"
	"jundle/internal/app/pages"
	"jundle/internal/app/signups"
	"jundle/internal/app/webhooks"
	"jundle/internal/core/traffic"
	"jundle/internal/exports"
	"jundle/internal/rollup"
)

// chore is work that comes again and again.
type chore struct {
	name  string
	every time.Duration
	queue string
	do    func(ctx context.Context) error
}

// erased is how many deleted accounts, or pages and short links, are erased at most at a time.
const erased = 20

// settled is how many destinations are brought up to date at most at a time.
const settled = 100

// written is how many weekly letters are ordered at most at a time.
const written = 500

// told is how many workspaces at most are told at a time of times that were asked for.
const told = 200

// collected is how many destinations or steps are cleared away at most at a time.
const collected = 1000

// choresOf lists all chores. A new one is a line.
func choresOf(with Options) []chore {
	s, now := with.Store, with.Now
	kept := destinations.Destinations{Store: s, Now: now}
	hander := signups.Sender{Store: s, Outbound: with.Outbound, Now: now}
	taken := feeds.Feeds{Store: s, Files: with.Files, Outbound: with.Outbound, Now: now}
	sender := webhooks.Sender{Store: s, Outbound: with.Outbound, Now: now}
	chores := []chore{
		{"days to be summed up anew", 5 * time.Second, sumsQueue, func(ctx context.Context) error { return rollup.SumUpDue(ctx, s) }},
		{"busy visitors", 10 * time.Second, sumsQueue, func(ctx context.Context) error { return rollup.SumUpBusy(ctx, s) }},
		{"raw events that are over", time.Hour, choresQueue, func(ctx context.Context) error {
			_, err := s.Prune(ctx, now())
			return err
		}},
		{"salts", 10 * time.Minute, choresQueue, func(ctx context.Context) error {
			return s.DestroySalts(ctx, traffic.SaltsOver(now()))
		}},
		{"sessions", 10 * time.Minute, choresQueue, s.ForgetSessions},
		{"attempts", 10 * time.Minute, choresQueue, func(ctx context.Context) error { return s.ForgetAttempts(ctx, now()) }},
		{"answers to requests with a key", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetOnce(ctx, now()) }},
		{"who is present", 10 * time.Minute, choresQueue, func(ctx context.Context) error { return s.ForgetPresent(ctx, now()) }},
		{"journal", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetJournal(ctx, now()) }},
		{"deleted accounts", 10 * time.Minute, choresQueue, func(ctx context.Context) error { return s.EraseAccounts(ctx, erased, now()) }},
		{"letters that open something", 10 * time.Minute, choresQueue, func(ctx context.Context) error {
			return s.ForgetLetterTokens(ctx, now())
		}},
		{"withheld addresses", 10 * time.Minute, choresQueue, func(ctx context.Context) error { return s.ReleaseAddresses(ctx, now()) }},
		{"exports", 10 * time.Minute, choresQueue, func(ctx context.Context) error {
			return s.ForgetExports(ctx, now().Add(-exports.KeptFor))
		}},
		{"pages that go live as they are edited", 5 * time.Second, choresQueue, pages.Pages{Store: s, Now: now}.GoLiveDue},
		{"pages in order by pull", 10 * time.Minute, choresQueue, pages.Pages{Store: s, Now: now}.OrderDue},
		{"deleted pages and short links", 10 * time.Minute, choresQueue, func(ctx context.Context) error {
			_, err := s.EraseDeleted(ctx, erased, now())
			return err
		}},
		{"swaps of destinations", time.Minute, choresQueue, func(ctx context.Context) error { return s.SettleSwaps(ctx, settled, now()) }},
		{"steps", 10 * time.Minute, choresQueue, func(ctx context.Context) error { return s.ForgetSteps(ctx, collected, now()) }},
		{"files", 10 * time.Minute, choresQueue, with.Files.Collect},
		{"weekly letters", time.Minute, choresQueue, func(ctx context.Context) error { return s.OrderWeeklyLetters(ctx, written, now()) }},
		{"messages to webhooks", time.Second, webhooksQueue, sender.SendDue},
		{"sign-ups to hand on", time.Second, webhooksQueue, hander.SendDue},
		{"sign-ups that nobody confirms", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetSignUps(ctx, now()) }},
		{"payments that nobody paid", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetPayments(ctx, now()) }},
		{"times that were asked for", 15 * time.Second, choresQueue, func(ctx context.Context) error {
			return s.TellOfBookings(ctx, told, now())
		}},
		{"times that are long over", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetBookings(ctx, now()) }},
		{"clicks to tell webhooks of", 15 * time.Second, choresQueue, func(ctx context.Context) error { return s.TellOfClicks(ctx, now()) }},
		{"messages sent long ago", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetDeliveries(ctx, now()) }},
		{"tokens of programs", time.Hour, choresQueue, func(ctx context.Context) error { return s.ForgetAPITokens(ctx, now()) }},
		{"feeds to be asked", 30 * time.Second, feedsQueue, taken.AskDue},
		{"addresses to be asked", 15 * time.Second, checksQueue, func(ctx context.Context) error {
			return kept.CheckDue(ctx, with.Outbound)
		}},
		{"destinations", 10 * time.Minute, choresQueue, func(ctx context.Context) error {
			_, err := s.CollectDestinations(ctx, collected, now())
			return err
		}},
	}
	if with.Domains != nil {
		chores = append(chores, chore{"hosts to be looked at", 2 * time.Second, domainsQueue, with.Domains.CheckDue},
			chore{"certificates that are over", 6 * time.Hour, choresQueue, with.Domains.Clean})
	}
	return chores
}

// choreArgs name a chore that is to be done once.
type choreArgs struct {
	Name string `json:"name"`
}

// Kind implements river.JobArgs.
func (choreArgs) Kind() string { return "chore" }

type choreWorker struct {
	river.WorkerDefaults[choreArgs]
	chores []chore
}

// Work implements river.Worker.
func (w *choreWorker) Work(ctx context.Context, job *river.Job[choreArgs]) error {
	for _, each := range w.chores {
		if each.name == job.Args.Name {
			return each.do(ctx)
		}
	}
	return river.JobCancel(fmt.Errorf("there is no chore called %q", job.Args.Name))
}

// periodic has each chore done in its time, by whichever process comes first.
func periodic(chores []chore) []*river.PeriodicJob {
	var jobs []*river.PeriodicJob
	for _, each := range chores {
		jobs = append(jobs, river.NewPeriodicJob(
			river.PeriodicInterval(each.every),
			func() (river.JobArgs, *river.InsertOpts) {
				return choreArgs{each.name}, &river.InsertOpts{
					Queue: each.queue, UniqueOpts: river.UniqueOpts{ByArgs: true, ByPeriod: each.every},
				}
			},
			&river.PeriodicJobOpts{RunOnStart: true},
		))
	}
	return jobs
}
