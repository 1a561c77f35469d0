package domains_test

import (
	"context"
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/domains"
	"jundle/internal/core/domain"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// bench looks after hosts with a DNS and an issuer of its own.
type bench struct {
	t      *testing.T
	store  *store.Store
	member store.Member
	now    time.Time
	found  domain.DNSFound
	// refuses is why no certificate is issued; asked how often one was asked for.
	refuses error
	asked   int
	// looking is called during a look.
	looking func()
}

func open(t *testing.T) (*bench, domains.Domains) {
	t.Helper()
	b := &bench{t: t, store: storetest.New(t), now: time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC), looking: func() {}}
	b.found = domain.DNSFound{Proof: domain.Yes, Points: domain.Yes, Texts: []string{}, Elsewhere: []string{}}
	b.member = b.account("ilse")
	return b, domains.Domains{
		Store: b.store, Now: func() time.Time { return b.now },
		Look: func(context.Context, string, string) domain.DNSFound {
			b.looking()
			return b.found
		},
		Obtain: func(context.Context, string) (from, until time.Time, err error) {
			b.asked++
			return b.now, b.now.AddDate(0, 0, 90), b.refuses
		},
	}
}

func (b *bench) account(name string) store.Member {
	b.t.Helper()
	member, err := b.store.CreateAccount(b.t.Context(), store.NewAccount{
		Email: name + "@quarrow.example", PageAddress: name, Zone: "UTC",
	}, b.now)
	require.NoError(b.t, err)
	return member
}

// after moves on and looks at what is due.
func (b *bench) after(u domains.Domains, pause time.Duration) {
	b.t.Helper()
	b.now = b.now.Add(pause)
	require.NoError(b.t, u.CheckDue(b.t.Context()))
}

func (b *bench) kept(one store.Domain) store.Domain {
	b.t.Helper()
	kept, err := b.store.Domain(b.t.Context(), b.member.WorkspaceID, one.ID)
	require.NoError(b.t, err)
	return kept
}

func (b *bench) letters() (orders int) {
	b.t.Helper()
	require.NoError(b.t, b.store.Pool().QueryRow(b.t.Context(),
		"select count(*) from river_job where kind = 'letter' and args->>'about' = $1", store.DomainLost).Scan(&orders))
	return orders
}

func TestARefusedCertificateIsAskedForAgainAfterGrowingPauses(t *testing.T) {
	b, u := open(t)
	b.refuses = errors.New("too many certificates of this name \xff" + strings.Repeat("x", 1000))
	one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	var at []time.Duration
	begun := b.now
	for b.now.Before(begun.Add(3 * time.Hour)) {
		before := b.asked
		b.after(u, time.Minute)
		if b.asked > before {
			at = append(at, b.now.Sub(begun))
		}
	}
	assert.Equal(t, []time.Duration{
		time.Minute, 6 * time.Minute, 16 * time.Minute, 36 * time.Minute, 80 * time.Minute, 160 * time.Minute,
	}, at, "some issuers let nobody fail more than five times an hour")
	kept := b.kept(one)
	assert.Equal(t, domain.Certifying, kept.StateAt(b.now))
	assert.LessOrEqual(t, len(kept.RefusedBecause), 300)
	b.refuses = nil
	b.after(u, 12*time.Hour)
	kept = b.kept(one)
	assert.Equal(t, domain.InUse, kept.StateAt(b.now))
	assert.Empty(t, kept.RefusedBecause)
}

func TestACertificateIsRenewedInItsTime(t *testing.T) {
	b, u := open(t)
	one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	b.after(u, 0)
	require.Equal(t, 1, b.asked)
	b.after(u, 59*24*time.Hour)
	assert.Equal(t, 1, b.asked, "before that it is left alone")
	b.after(u, 24*time.Hour)
	assert.Equal(t, 2, b.asked)
	assert.Equal(t, b.now.AddDate(0, 0, 90), b.kept(one).CertificateUntil.UTC())
	assert.Zero(t, b.letters())
}

func TestWhoRunsTheWorkspaceIsToldOnceThatADomainIsLost(t *testing.T) {
	b, u := open(t)
	_, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	b.after(u, 0)
	b.found.Points = domain.No
	for range 50 {
		b.after(u, 10*time.Minute)
	}
	assert.Equal(t, 1, b.letters())
	b.found.Points = domain.Yes
	b.after(u, time.Hour)
	b.found.Points = domain.No
	b.after(u, time.Hour)
	b.after(u, time.Hour)
	assert.Equal(t, 2, b.letters(), "and again when it is lost again")
}

func TestADomainThatIsRemovedDuringALookStaysRemoved(t *testing.T) {
	b, u := open(t)
	one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	b.looking = func() { require.NoError(t, b.store.RemoveDomain(t.Context(), b.member.WorkspaceID, one.ID, b.now)) }
	b.after(u, 0)
	all, err := b.store.Domains(t.Context(), b.member.WorkspaceID)
	require.NoError(t, err)
	assert.Empty(t, all)
	assert.Zero(t, b.asked)
}

func TestTwoWhoLookAtOnceLoseNothingOfEachOther(t *testing.T) {
	b, u := open(t)
	one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	first := true
	b.looking = func() {
		if first {
			first = false
			b.after(u, 0) // another process finds all well, and has a certificate issued
		}
	}
	_, err = u.LookNow(t.Context(), one)
	require.NoError(t, err)
	assert.Equal(t, domain.InUse, b.kept(one).StateAt(b.now), "a look on what was read before takes nothing back")
}

func TestAnotherTakesADomainOnlyOnceTheProofOfWhoHasItIsGone(t *testing.T) {
	b, u := open(t)
	one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	b.after(u, 0)
	jo := b.account("jo")
	other, err := u.Add(t.Context(), jo.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	b.found.Texts = []string{domain.ProofText(one.Token), domain.ProofText(other.Token)}
	_, err = u.LookNow(t.Context(), other)
	require.ErrorIs(t, err, store.ErrHostTaken)
	assert.Equal(t, domain.InUse, b.kept(one).StateAt(b.now))
	b.found.Texts = []string{domain.ProofText(other.Token)}
	_, err = u.LookNow(t.Context(), other)
	require.NoError(t, err)
	assert.Equal(t, domain.Unproven, b.kept(one).StateAt(b.now))
	assert.Equal(t, 1, b.letters(), "who had it is told")
}

func TestOfSeveralWhoProveADomainAtOnceOneHasIt(t *testing.T) {
	b, u := open(t)
	members := []store.Member{b.member}
	for _, name := range []string{"jo", "ada", "kim"} {
		members = append(members, b.account(name))
	}
	for _, each := range members {
		_, err := u.Add(t.Context(), each.WorkspaceID, "links.quarrow.example", nil)
		require.NoError(t, err)
	}
	b.after(u, 0)
	proven := 0
	for _, each := range members {
		all, err := b.store.Domains(t.Context(), each.WorkspaceID)
		require.NoError(t, err)
		if all[0].ProvenAt != nil {
			proven++
		}
	}
	assert.Equal(t, 1, proven)
}

func TestSomebodyWhoAddsAndRemovesHasADaysWorthOfThem(t *testing.T) {
	b, u := open(t)
	for range 20 {
		one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
		require.NoError(t, err)
		require.NoError(t, b.store.RemoveDomain(t.Context(), b.member.WorkspaceID, one.ID, b.now))
	}
	var full *store.QuotaError
	_, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.ErrorAs(t, err, &full)
	b.now = b.now.Add(25 * time.Hour)
	_, err = u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	assert.NoError(t, err)
}

func TestDomainsInUseAreLookedAtBeforeThoseThatNobodyProves(t *testing.T) {
	b, u := open(t)
	one, err := u.Add(t.Context(), b.member.WorkspaceID, "links.quarrow.example", nil)
	require.NoError(t, err)
	b.after(u, 0)
	b.found = domain.DNSFound{Proof: domain.No, Points: domain.No}
	for i := range 8 {
		other := b.account("somebody-" + string(rune('a'+i)))
		for j := range 5 {
			_, err := u.Add(t.Context(), other.WorkspaceID, strings.Repeat("x", j+1)+".example", nil)
			require.NoError(t, err)
		}
	}
	b.found = domain.DNSFound{Proof: domain.Yes, Points: domain.No}
	b.after(u, 11*time.Minute)
	assert.Equal(t, 1, b.kept(one).Doubts, "in the first round, though forty were due before")
}
