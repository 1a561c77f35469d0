package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Address is a present or past address of a page or a short link. A past one
// keeps leading there, and nobody else can take it.
type Address struct {
	DomainID   uuid.UUID `gorm:"primaryKey"`
	Address    string    `gorm:"primaryKey"`
	EndpointID uuid.UUID
	Present    bool
	Since      time.Time
}

// SharedDomain is the domain of the installation, which all workspaces share.
var SharedDomain = uuid.Nil

// endpoint is what stands at a public address, and what visits are counted of: a
// page or a short link.
type endpoint struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
}

// createEndpoint makes one with its first address.
func createEndpoint(tx *gorm.DB, workspace uuid.UUID, address string, now time.Time) (uuid.UUID, error) {
	made := endpoint{ID: newID(), WorkspaceID: workspace}
	if err := tx.Create(&made).Error; err != nil {
		return made.ID, err
	}
	if err := notWithheld(tx, address, now); err != nil {
		return made.ID, err
	}
	err := tx.Create(&Address{DomainID: SharedDomain, Address: address, EndpointID: made.ID, Present: true, Since: now}).Error
	if violates(err, "addresses_pkey") {
		err = ErrAddressTaken
	}
	return made.ID, err
}

// withheldFor is how long an address that led somewhere is nobody's after it was
// erased: whoever knew it is not to land with somebody else.
const withheldFor = 90 * 24 * time.Hour

// notWithheld answers ErrAddressTaken for an address that nobody may have yet.
func notWithheld(tx *gorm.DB, address string, now time.Time) error {
	var withheld bool
	if err := tx.Raw("select exists (select from withheld_addresses where domain_id = ? and address = ? and until > ?)",
		SharedDomain, address, now).Scan(&withheld).Error; err != nil {
		return err
	}
	if withheld {
		return ErrAddressTaken
	}
	return nil
}

// HadAddress tells whether an address of this installation is or was that of a page of a
// workspace.
func (s *Store) HadAddress(ctx context.Context, workspace, id uuid.UUID, address string) (had bool, err error) {
	err = s.pool.QueryRow(ctx, `
		select exists (select from addresses join endpoints on endpoints.id = endpoint_id
			where workspace_id = $1 and endpoint_id = $2 and address = $3)`, workspace, id, address).Scan(&had)
	return had, err
}

// AddressFree tells whether nobody has an address or ever had, and it is not
// withheld.
func (s *Store) AddressFree(ctx context.Context, address string, now time.Time) (free bool, err error) {
	err = s.pool.QueryRow(ctx, `select not exists (select from addresses where domain_id = $3 and address = $1)
		and not exists (select from withheld_addresses where domain_id = $3 and address = $1 and until > $2)`,
		address, now, SharedDomain).Scan(&free)
	return free, err
}

// ReleaseAddresses lets go of addresses that were withheld long enough.
func (s *Store) ReleaseAddresses(ctx context.Context, now time.Time) error {
	return s.db.WithContext(ctx).Exec("delete from withheld_addresses where until < ?", now).Error
}

// readdress gives a page or a short link of a workspace another address, and may
// give it one of its own old ones back.
func (s *Store) readdress(tx *gorm.DB, workspace, id uuid.UUID, address string, now time.Time) error {
	var owner endpoint
	// The lock keeps two changes at once from leaving two present addresses.
	err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? and workspace_id = ?", id, workspace).Take(&owner).Error
	if err != nil {
		return found(err)
	}
	var own int64
	if err := tx.Model(&Address{}).
		Where("endpoint_id = ? and domain_id = ? and address = ?", id, SharedDomain, address).
		Count(&own).
		Error; err != nil {
		return err
	}
	if own == 0 {
		if err := s.roomForAddress(tx, id); err != nil {
			return err
		}
		if err := notWithheld(tx, address, now); err != nil {
			return err
		}
	}
	if err := tx.Model(&Address{}).Where("endpoint_id = ?", id).Update("present", false).Error; err != nil {
		return err
	}
	done := tx.Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "domain_id"}, {Name: "address"}},
		DoUpdates: clause.Assignments(map[string]any{"present": true}),
		Where:     clause.Where{Exprs: []clause.Expression{gorm.Expr("addresses.endpoint_id = excluded.endpoint_id")}},
	}).Create(&Address{DomainID: SharedDomain, Address: address, EndpointID: id, Present: true, Since: now})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrAddressTaken
	}
	if done.Error != nil {
		return done.Error
	}
	// Hosts know the address of their front page.
	return announceDomains(tx, workspace)
}
