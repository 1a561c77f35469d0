package destinations

import (
	"context"
	"log/slog"
	"math/rand/v2"
	"sync"
	"time"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"jundle/internal/core/linkcheck"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

// How addresses are asked in one round: politely, and so that no workspace and no site
// holds up the others.
const (
	takenAtOnce  = 200
	perRound     = 80
	perWorkspace = 20
	perSite      = 4
	sitesAtOnce  = 8
	betweenAsks  = time.Second // of one site
	roundTakes   = 90 * time.Second
	// severalSites are not all down at once.
	severalSites = 3
)

// asked is a destination that was asked, and what came of it.
type asked struct {
	store.DueLink
	linkcheck.Result
}

// CheckDue asks the addresses of destinations that are due, and keeps what comes of it.
func (u Destinations) CheckDue(ctx context.Context, client *outbound.Client) error {
	due, err := u.Store.TakeDueLinks(ctx, u.Now(), takenAtOnce)
	if err != nil {
		return err
	}
	sites, left := bySite(due)
	if err := u.Store.LeaveDue(ctx, left, u.Now()); err != nil {
		return err
	}
	within, cancel := context.WithTimeout(ctx, roundTakes)
	defer cancel()
	var round errgroup.Group
	round.SetLimit(sitesAtOnce)
	var mu sync.Mutex
	var all []asked
	for _, links := range sites {
		round.Go(func() error {
			done := u.askSite(within, client, links)
			mu.Lock()
			defer mu.Unlock()
			all = append(all, done...)
			return nil
		})
	}
	_ = round.Wait() // none of them fails
	if lineIsDown(all) {
		slog.Warn("no address could be reached; nothing is said of them, because it may be the line of this server", "addresses", len(all))
		return nil
	}
	for _, each := range all {
		if err := u.Store.KeepLinkCheck(ctx, each.ID, each.Result, each.Next(rand.Float64())); err != nil {
			return err
		}
	}
	return nil
}

// lineIsDown tells whether of several sites none could be reached.
func lineIsDown(all []asked) bool {
	sites := make(map[string]bool)
	for _, each := range all {
		if each.Failure != linkcheck.NoHost && each.Failure != linkcheck.NoAnswer {
			return false
		}
		sites[linkcheck.Domain(each.DueLink.Address)] = true
	}
	return len(sites) >= severalSites
}

// bySite chooses what is asked in one round, site by site, and tells what is left for the
// next.
func bySite(due []store.DueLink) (sites map[string][]store.DueLink, left []uuid.UUID) {
	sites = make(map[string][]store.DueLink)
	ofWorkspace := make(map[uuid.UUID]int)
	chosen := 0
	for _, link := range due {
		site := linkcheck.Domain(link.Address)
		if chosen == perRound || ofWorkspace[link.WorkspaceID] == perWorkspace || len(sites[site]) == perSite {
			left = append(left, link.ID)
			continue
		}
		chosen++
		ofWorkspace[link.WorkspaceID]++
		sites[site] = append(sites[site], link)
	}
	return sites, left
}

// askSite asks addresses of one site, one after the other. What it does not get to comes
// again.
func (u Destinations) askSite(ctx context.Context, client *outbound.Client, links []store.DueLink) (done []asked) {
	for i, link := range links {
		if i > 0 {
			select {
			case <-time.After(betweenAsks):
			case <-ctx.Done():
				return done
			}
		}
		result := client.Check(ctx, link.Address, u.Now)
		if ctx.Err() != nil {
			return done // that it gave no answer says nothing of the address
		}
		if result.IsFailure() {
			result.Failures = link.Failures + 1
		}
		done = append(done, asked{link, result})
	}
	return done
}
