package destinations

import (
	"context"
	"math/rand/v2"
	"time"

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
)

// CheckDue asks the addresses of destinations that are due, and keeps what comes of it.
func (u Destinations) CheckDue(ctx context.Context, client *outbound.Client) error {
	ctx, cancel := context.WithTimeout(ctx, roundTakes)
	defer cancel()
	due, err := u.Store.TakeDueLinks(ctx, u.Now(), takenAtOnce)
	if err != nil {
		return err
	}
	round, ctx := errgroup.WithContext(ctx)
	round.SetLimit(sitesAtOnce)
	for _, links := range bySite(due) {
		round.Go(func() error { return u.checkSite(ctx, client, links) })
	}
	return round.Wait()
}

// bySite chooses what is asked in one round, site by site. What is left out comes again.
func bySite(due []store.DueLink) map[string][]store.DueLink {
	sites := make(map[string][]store.DueLink)
	ofWorkspace := make(map[any]int)
	chosen := 0
	for _, link := range due {
		site := linkcheck.Domain(link.Address)
		if chosen == perRound || ofWorkspace[link.WorkspaceID] == perWorkspace || len(sites[site]) == perSite {
			continue
		}
		chosen++
		ofWorkspace[link.WorkspaceID]++
		sites[site] = append(sites[site], link)
	}
	return sites
}

// checkSite asks addresses of one site, one after the other.
func (u Destinations) checkSite(ctx context.Context, client *outbound.Client, links []store.DueLink) error {
	for i, link := range links {
		if i > 0 {
			select {
			case <-time.After(betweenAsks):
			case <-ctx.Done():
				return nil // the rest comes again
			}
		}
		result := client.Check(ctx, link.Address, u.Now)
		if ctx.Err() != nil {
			return nil // that it gave no answer says nothing of the address
		}
		if result.IsFailure() {
			result.Failures = link.Failures + 1
		}
		if err := u.Store.KeepLinkCheck(ctx, link.ID, result, result.Next(rand.Float64())); err != nil {
			return err
		}
	}
	return nil
}
