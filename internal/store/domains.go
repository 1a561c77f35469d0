package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/domain"
	"jundle/internal/core/source"
)

const (
	// domainTaken is for how long a host is left to who took it to be looked at.
	domainTaken = 10 * time.Minute
	// addedPerDay is how many hosts a workspace may add in a day.
	addedPerDay = 20
	// domainsRemembered is how many hosts of a workspace are known after they were removed.
	domainsRemembered = 50
)

// ErrHostWanted: the workspace has that host already.
var ErrHostWanted = errors.New("this domain is among yours already")

// ErrHostTaken: another workspace proved that a host is theirs, and its proof still stands.
var ErrHostTaken = errors.New("another workspace has this domain")

// Domain is a host of a workspace's own.
type Domain struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Host        string
	// Token is the text by which it is proven.
	Token string
	// Main is the one that pages stand under, of those that are in use.
	Main bool
	// FrontPage stands at the host itself.
	FrontPage *uuid.UUID
	CreatedAt time.Time
	RemovedAt *time.Time
	domain.Standing
	// RenewAt is when its certificate is to be renewed. It was refused so many times in a row.
	RenewAt        *time.Time
	Refusals       int
	RefusedAt      *time.Time
	RefusedBecause string
}

// WantsCertificate tells whether one is to be asked for at a moment.
func (d Domain) WantsCertificate(at time.Time) bool {
	if d.ProvenAt == nil || d.Found.Points != domain.Yes {
		return false
	}
	if d.RefusedAt != nil && at.Before(d.RefusedAt.Add(domain.CertificatePause(d.Refusals))) {
		return false
	}
	return d.RenewAt == nil || !at.Before(*d.RenewAt)
}

// AddDomain adds a host to a workspace; ErrHostWanted, and a *QuotaError where it has as many as it may.
func (s *Store) AddDomain(ctx context.Context, one Domain) (Domain, error) {
	one.ID = newID()
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, one.WorkspaceID); err != nil {
			return err
		}
		full := &QuotaError{What: "You have %d domains of your own", Instead: "Remove one that you do not use."}
		err := room(tx, s.quotas.Domains, full, "select count(*) from domains where workspace_id = ? and removed_at is null", one.WorkspaceID)
		if err != nil {
			return err
		}
		// What was removed counts, so that nobody has certificates issued without end.
		many := &QuotaError{What: "You added %d domains since yesterday", Instead: "Go on tomorrow."}
		err = room(tx, addedPerDay, many, "select count(*) from domains where workspace_id = ? and created_at > ?", one.WorkspaceID,
			one.CreatedAt.AddDate(0, 0, -1))
		if err != nil {
			return err
		}
		one.Main = false
		if err := tx.Create(&one).Error; err != nil {
			return err
		}
		return setMain(tx, one.WorkspaceID)
	})
	if violates(err, "domains_wanted") {
		err = ErrHostWanted
	}
	return one, err
}

// setMain makes the oldest host of a workspace the main one, where none is.
func setMain(tx *gorm.DB, workspace uuid.UUID) error {
	return tx.Exec(`
		update domains set main = true
		where id = (select id from domains where workspace_id = @workspace and removed_at is null order by created_at, id limit 1)
			and not exists (select from domains where workspace_id = @workspace and removed_at is null and main)`,
		map[string]any{"workspace": workspace}).Error
}

// Domains lists the hosts of a workspace, the main one first and then the oldest.
func (s *Store) Domains(ctx context.Context, workspace uuid.UUID) (all []Domain, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and removed_at is null", workspace).Order("main desc, created_at, id").Find(&all).Error
	return all, err
}

// Domain is a host of a workspace; ErrNotFound.
func (s *Store) Domain(ctx context.Context, workspace, id uuid.UUID) (one Domain, err error) {
	err = s.db.WithContext(ctx).Where("workspace_id = ? and id = ? and removed_at is null", workspace, id).Take(&one).Error
	return one, found(err)
}

// FrontAt tells whether a host is one of a workspace's own, and which page stands there.
func (s *Store) FrontAt(ctx context.Context, workspace uuid.UUID, host string) (front *uuid.UUID, own bool, err error) {
	var hosts []Domain
	err = s.db.WithContext(ctx).Select("front_page").
		Where("workspace_id = ? and host = ? and removed_at is null", workspace, strings.ToLower(host)).Limit(1).Find(&hosts).Error
	if err != nil || len(hosts) == 0 {
		return nil, false, err
	}
	return hosts[0].FrontPage, true, nil
}

// ChangeDomain says which page of the workspace stands at a host, and may make it the main one;
// ErrNotFound.
func (s *Store) ChangeDomain(ctx context.Context, workspace, id uuid.UUID, front *uuid.UUID, main bool) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := foundRow(tx.Exec(`
			update domains set front_page = (select id from pages where id = ? and workspace_id = ?)
			where workspace_id = ? and id = ? and removed_at is null`, front, workspace, workspace, id))
		if err != nil {
			return err
		}
		if main {
			err := tx.Exec("update domains set main = (id = ?) where workspace_id = ? and removed_at is null", id, workspace).Error
			if err != nil {
				return err
			}
		}
		return announceDomains(tx, workspace)
	})
}

// RemoveDomain takes a host off a workspace; ErrNotFound. One that was in use stays known as one that
// was.
func (s *Store) RemoveDomain(ctx context.Context, workspace, id uuid.UUID, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := foundRow(tx.Exec(`update domains set removed_at = ?, main = false, check_at = null
			where workspace_id = ? and id = ? and removed_at is null`, now, workspace, id))
		if err != nil {
			return err
		}
		err = tx.Exec(`
			delete from domains where workspace_id = @workspace and removed_at is not null and created_at < @yesterday
				and (proven_at is null or id not in (
				select id from domains where workspace_id = @workspace and removed_at is not null and proven_at is not null
				order by removed_at desc limit @most))`,
			map[string]any{"workspace": workspace, "most": domainsRemembered, "yesterday": now.AddDate(0, 0, -1)}).Error
		if err != nil {
			return err
		}
		if err := setMain(tx, workspace); err != nil {
			return err
		}
		return announceDomains(tx, workspace)
	})
}

// TakeDueDomains takes at most so many hosts to be looked at: those in use first, and then the longest due.
// Each comes again after ten minutes unless KeepDomain says otherwise.
func (s *Store) TakeDueDomains(ctx context.Context, now time.Time, most int) (due []Domain, err error) {
	err = s.db.WithContext(ctx).Raw(`
		with due as (
			select id from domains where check_at <= @now and removed_at is null
			order by used_since is null, check_at limit @most for update skip locked
		)
		update domains set check_at = @again from due where domains.id = due.id returning domains.*`,
		map[string]any{"now": now, "most": most, "again": now.Add(domainTaken)}).Scan(&due).Error
	if err != nil {
		return nil, fmt.Errorf("take hosts to be looked at: %w", err)
	}
	return due, nil
}

// KeepDomain changes what is known of a host by what was found, and has those who run the workspace written to
// when it is lost. It answers the host as it is kept. ErrHostTaken where another workspace has it; what was found is
// kept all the same. ErrNotFound when it was removed in the meantime.
func (s *Store) KeepDomain(ctx context.Context, id uuid.UUID, now time.Time, change func(Domain) Domain) (Domain, error) {
	var one Domain
	taken := false
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var before Domain
		err := tx.Raw("select * from domains where id = ? and removed_at is null for update", id).Take(&before).Error
		if err != nil {
			return found(err)
		}
		one = change(before)
		if before.ProvenAt == nil && one.ProvenAt != nil {
			if taken, err = s.takeHost(tx, one); err != nil {
				return err
			}
			if taken {
				one.ProvenAt = nil
			}
		}
		err = tx.Model(&one).Select("proven_at", "used_since", "lost_at", "certificate_until", "doubts", "doubted_at", "check_at", "found",
			"renew_at", "refusals", "refused_at", "refused_because").Updates(&one).Error
		if err != nil {
			return err
		}
		if before.LostAt == nil && one.LostAt != nil {
			if err := s.tellOfLostDomain(tx, one); err != nil {
				return err
			}
		}
		if before.StateAt(now) == one.StateAt(now) && before.LeadsAt(now) == one.LeadsAt(now) {
			return nil
		}
		return announceDomains(tx, one.WorkspaceID)
	})
	// Two may prove it at the same moment.
	if err == nil && taken || violates(err, "domains_proven") {
		err = ErrHostTaken
	}
	return one, err
}

// takeHost takes a host that was proven from a workspace whose proof no longer stands; taken is
// answered where it does.
func (s *Store) takeHost(tx *gorm.DB, one Domain) (taken bool, err error) {
	var other Domain
	err = tx.Raw(`select * from domains where host = ? and id <> ? and proven_at is not null and removed_at is null for update`,
		one.Host, one.ID).Limit(1).Scan(&other).Error
	if err != nil || other.ID == uuid.Nil {
		return false, err
	}
	if slices.Contains(one.Found.Texts, domain.ProofText(other.Token)) {
		return true, nil
	}
	err = tx.Exec(`update domains set proven_at = null, used_since = null, lost_at = null, certificate_until = null, renew_at = null
		where id = ?`, other.ID).Error
	if err != nil {
		return false, err
	}
	if err := s.tellOfLostDomain(tx, other); err != nil {
		return false, err
	}
	return false, announceDomains(tx, other.WorkspaceID)
}

// DomainLost tells those who run a workspace that a host of theirs does not lead here any more.
const DomainLost LetterKind = "domain lost"

func (s *Store) tellOfLostDomain(tx *gorm.DB, one Domain) error {
	return s.orderToRunners(tx, LetterOrder{About: DomainLost, Workspace: one.WorkspaceID, Subject: one.ID})
}

// WantDomain has a host of a workspace looked at as one that somebody waits for; ErrNotFound.
func (s *Store) WantDomain(ctx context.Context, workspace, id uuid.UUID, now time.Time) (one Domain, err error) {
	done := s.db.WithContext(ctx).Raw(`update domains set wanted_at = ? where workspace_id = ? and id = ? and removed_at is null returning *`,
		now, workspace, id).Scan(&one)
	return one, foundRow(done)
}

// OwnHost is a host of a workspace's own as the public listener needs to know it.
type OwnHost struct {
	Domain
	// Front is the address of its front page; empty for none.
	Front string
}

// OwnHosts lists the hosts that workspaces proved to be theirs, those that were removed too; of one
// workspace where one is given.
func (s *Store) OwnHosts(ctx context.Context, workspace *uuid.UUID) (all []OwnHost, err error) {
	query := s.db.WithContext(ctx).Table("domains").
		Joins("left join addresses on addresses.endpoint_id = domains.front_page and addresses.present").
		Select("domains.*, coalesce(addresses.address, '') front").Where("domains.proven_at is not null")
	if workspace != nil {
		query = query.Where("domains.workspace_id = ?", *workspace)
	}
	err = query.Order("main desc, domains.created_at, domains.id").Scan(&all).Error
	return all, err
}

// HostsOfEndpoint lists the hosts that a workspace has or had, of the workspace of a page or a short link.
func (s *Store) HostsOfEndpoint(ctx context.Context, endpoint uuid.UUID) (all []Domain, err error) {
	err = s.db.WithContext(ctx).
		Where("proven_at is not null and workspace_id = (select workspace_id from endpoints where id = ?)", endpoint).Find(&all).Error
	return all, err
}

// AddOurs adds hosts of a workspace to those that a visit of its pages cannot come from, for the time
// in which they were theirs.
func AddOurs(to *source.Attributor, hosts []Domain) {
	for _, each := range hosts {
		var removed time.Time
		if each.RemovedAt != nil {
			removed = *each.RemovedAt
		}
		to.AddOurs(each.Host, *each.ProvenAt, removed)
	}
}

// domainChannel carries the ID of every workspace whose hosts have changed for visitors.
const domainChannel = "jundle_domains"

func announceDomains(tx *gorm.DB, workspace uuid.UUID) error {
	return tx.Exec("select pg_notify(?, ?)", domainChannel, workspace.String()).Error
}
