package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/campaign"
)

// CampaignValue is a value of a campaign tag that a workspace has used.
type CampaignValue struct {
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	Tag         string    `gorm:"primaryKey"` // such as utm_source
	Value       string    `gorm:"primaryKey"`
	UsedAt      time.Time
}

// rememberedValues is how many values of each tag are kept, to be offered again.
const rememberedValues = 50

// RememberCampaign notes the values of tags as used, and forgets those that were
// not for the longest time.
func (s *Store) RememberCampaign(ctx context.Context, workspace uuid.UUID, tags campaign.Tags, now time.Time) error {
	var values []CampaignValue
	for tag, value := range tags.ByName() {
		values = append(values, CampaignValue{WorkspaceID: workspace, Tag: tag, Value: value, UsedAt: now})
	}
	if len(values) == 0 {
		return nil
	}
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil { // what one notes another may be forgetting
			return err
		}
		err := tx.Clauses(clause.OnConflict{
			Columns:   []clause.Column{{Name: "workspace_id"}, {Name: "tag"}, {Name: "value"}},
			DoUpdates: clause.AssignmentColumns([]string{"used_at"}),
		}).Create(&values).Error
		if err != nil {
			return err
		}
		return tx.Exec(`delete from campaign_values using (
			select tag, value, row_number() over (partition by tag order by used_at desc, value) as place
			from campaign_values where workspace_id = @workspace
		) as ranked
		where workspace_id = @workspace and campaign_values.tag = ranked.tag and campaign_values.value = ranked.value and place > @most`,
			map[string]any{"workspace": workspace, "most": rememberedValues}).Error
	})
}

// CampaignValues lists the values a workspace has used by tag, latest first.
func (s *Store) CampaignValues(ctx context.Context, workspace uuid.UUID) (map[string][]string, error) {
	var rows []CampaignValue
	err := s.db.WithContext(ctx).Where("workspace_id = ?", workspace).Order("used_at desc, value").Find(&rows).Error
	values := make(map[string][]string)
	for _, row := range rows {
		values[row.Tag] = append(values[row.Tag], row.Value)
	}
	return values, err
}
