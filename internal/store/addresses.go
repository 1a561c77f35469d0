package store

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Address is a present or past address of a page or a short link. A past one
// keeps leading there, and nobody else can take it.
type Address struct {
	Address   string `gorm:"primaryKey"`
	CountedID uuid.UUID
	Present   bool
	Since     time.Time
}

// counted is whatever visits are counted of: a page or a short link.
type counted struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
}

// TableName implements gorm's Tabler.
func (counted) TableName() string { return "counted" }

// addressed makes something that is counted, with its first address.
func addressed(tx *gorm.DB, workspace uuid.UUID, address string, now time.Time) (uuid.UUID, error) {
	made := counted{ID: newID(), WorkspaceID: workspace}
	if err := tx.Create(&made).Error; err != nil {
		return made.ID, err
	}
	err := tx.Create(&Address{Address: address, CountedID: made.ID, Present: true, Since: now}).Error
	if violates(err, "addresses_pkey") {
		err = ErrAddressTaken
	}
	return made.ID, err
}

// readdress gives a page or a short link of a workspace another address, and may
// give it one of its own old ones back.
func readdress(tx *gorm.DB, workspace, id uuid.UUID, address string, now time.Time) error {
	var owner counted
	// The lock keeps two changes at once from leaving two present addresses.
	err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? and workspace_id = ?", id, workspace).Take(&owner).Error
	if err != nil {
		return found(err)
	}
	if err := tx.Model(&Address{}).Where("counted_id = ?", id).Update("present", false).Error; err != nil {
		return err
	}
	done := tx.Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "address"}},
		DoUpdates: clause.Assignments(map[string]any{"present": true}),
		Where:     clause.Where{Exprs: []clause.Expression{gorm.Expr("addresses.counted_id = excluded.counted_id")}},
	}).Create(&Address{Address: address, CountedID: id, Present: true, Since: now})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrAddressTaken
	}
	return done.Error
}
