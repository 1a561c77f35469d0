// Package domains looks after hosts of creators' own: whether they are theirs, whether they point
// here, and that they have a certificate. A host that stops pointing here is told to those who run
// the workspace; visitors of the old addresses are no longer led to it.
package domains

import (
	"context"
	"crypto/rand"
	"encoding/base32"
	"errors"
	"fmt"
	"log/slog"
	"net/netip"
	"strings"
	"time"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"jundle/internal/core/domain"
	"jundle/internal/store"
)

const (
	// perRound is how many hosts are looked at in one round, and atOnce how many at one time.
	perRound = 12
	atOnce   = 6
	// longestReason is how much of why there was no certificate is kept, in bytes.
	longestReason = 300
)

// orderOfAll is an order of a certificate by this installation's one ACME account: issuers limit those of an account
// (300 in three hours are usual, from memory), and whoever adds host after host is not to use up everybody's.
var orderOfAll = store.Attempt{Key: []byte("certificate orders of the ACME account"), Budget: store.Budget{Burst: 40, Pause: time.Minute}}

// Domains looks after hosts.
type Domains struct {
	Store *store.Store
	// Look asks the DNS about a host and its proof.
	Look func(ctx context.Context, host, token string) domain.DNSFound
	// Target is the host that they are to point to, and Addresses asks for its addresses.
	Target    string
	Addresses func(ctx context.Context) ([]netip.Addr, error)
	// Obtain has a certificate issued or renewed, and says for which time it holds; nil where nobody issues
	// any.
	Obtain func(ctx context.Context, host string) (from, until time.Time, err error)
	// Clean deletes certificates that are over.
	Clean func(ctx context.Context) error
	Now   func() time.Time
}

// Add adds a host to a workspace, with a page to stand at it.
func (u Domains) Add(ctx context.Context, workspace uuid.UUID, host string, front *uuid.UUID) (store.Domain, error) {
	token := make([]byte, 20)
	_, _ = rand.Read(token) // it never fails
	now := u.Now()
	return u.Store.AddDomain(ctx, store.Domain{
		WorkspaceID: workspace, Host: host, Token: strings.ToLower(base32.StdEncoding.EncodeToString(token)), FrontPage: front,
		CreatedAt: now, Standing: domain.Standing{
			WantedAt: now, CheckAt: &now,
			Found: domain.DNSFound{Proof: domain.Unknown, Points: domain.Unknown, Texts: []string{}, Elsewhere: []string{}},
		},
	})
}

// CheckDue looks at a round of the hosts that are due, and has certificates issued for those that lack
// one.
func (u Domains) CheckDue(ctx context.Context) error {
	due, err := u.Store.TakeDueDomains(ctx, u.Now(), perRound)
	if err != nil {
		return err
	}
	var round errgroup.Group
	round.SetLimit(atOnce)
	for _, one := range due {
		round.Go(func() error { return u.again(ctx, one) })
	}
	return round.Wait()
}

// again looks at one host that is due. One that cannot be kept keeps none of the others.
func (u Domains) again(ctx context.Context, one store.Domain) error {
	one, err := u.look(ctx, one, false)
	switch {
	case ctx.Err() != nil || errors.Is(err, store.ErrNotFound):
		return nil // it comes again, or was removed
	case errors.Is(err, store.ErrHostTaken):
		return nil // its owner reads it by what was found
	case err != nil:
		return fmt.Errorf("look at %s: %w", one.Host, err)
	case u.Obtain == nil || !one.WantsCertificate(u.Now()):
		return nil
	}
	if wait, err := u.Store.TakeAttempt(ctx, orderOfAll, u.Now()); err != nil || wait > 0 {
		return err // it comes again with the next round
	}
	err = u.certify(ctx, one)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}

// LookNow looks at a host that somebody waits for, and keeps what was found. Where it only lacks a certificate, one is
// asked for in a moment. store.ErrHostTaken, and store.ErrNotFound where it was removed in the meantime.
func (u Domains) LookNow(ctx context.Context, one store.Domain) (store.Domain, error) {
	return u.look(ctx, one, true)
}

func (u Domains) look(ctx context.Context, one store.Domain, waits bool) (store.Domain, error) {
	found := u.Look(ctx, one.Host, one.Token)
	if ctx.Err() != nil {
		return one, ctx.Err() // that it was broken off says nothing
	}
	now := u.Now()
	return u.Store.KeepDomain(ctx, one.ID, now, func(one store.Domain) store.Domain {
		one.Standing = one.After(found, now)
		if waits && one.WantsCertificate(now) {
			one.CheckAt = &now
		}
		return one
	})
}

// certify has a certificate issued for a host, or notes why there was none.
func (u Domains) certify(ctx context.Context, one store.Domain) error {
	from, until, failed := u.Obtain(ctx, one.Host)
	if ctx.Err() != nil {
		return nil // that it was broken off says nothing
	}
	now := u.Now()
	if failed != nil {
		slog.Warn("no certificate was issued", "host", one.Host, "error", failed)
	}
	_, err := u.Store.KeepDomain(ctx, one.ID, now, func(one store.Domain) store.Domain {
		if failed != nil {
			reason := strings.ToValidUTF8(failed.Error(), "")
			one.Refusals, one.RefusedAt = one.Refusals+1, &now
			one.RefusedBecause = strings.ToValidUTF8(reason[:min(len(reason), longestReason)], "")
			return one
		}
		renew := domain.RenewFrom(from, until)
		one.Standing = one.Certified(until, now)
		one.RenewAt, one.Refusals, one.RefusedAt, one.RefusedBecause = &renew, 0, nil, ""
		return one
	})
	return err
}
