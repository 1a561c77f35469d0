package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/invalid"
	"jundle/internal/core/partner"
)

// Partner is somebody whose counts are held against ours, of one page.
type Partner struct {
	ID        uuid.UUID `gorm:"primaryKey"`
	PageID    uuid.UUID
	Name      string
	Mapping   partner.ReportMapping `gorm:"serializer:json"`
	Tolerance float64
	CreatedAt time.Time
}

const (
	// mostPartners is how many a page may have.
	mostPartners = 10
	// mostPartnerCounts is how many counts of one partner are kept: of 15 things over four years.
	mostPartnerCounts = 20_000
	// mostSubjects is how many things a partner may count.
	mostSubjects = 200
)

// Partners lists those of a page of a workspace, by name.
func (s *Store) Partners(ctx context.Context, workspace, pageID uuid.UUID) ([]Partner, error) {
	var all []Partner
	err := s.db.WithContext(ctx).Joins("join pages on pages.id = page_id").
		Where("workspace_id = ? and page_id = ?", workspace, pageID).Order("name").Find(&all).Error
	return all, err
}

// Partner is one of a page of a workspace.
func (s *Store) Partner(ctx context.Context, workspace, pageID, id uuid.UUID) (Partner, error) {
	var one Partner
	err := s.db.WithContext(ctx).Joins("join pages on pages.id = page_id").
		Where("workspace_id = ? and page_id = ? and partners.id = ?", workspace, pageID, id).Take(&one).Error
	return one, found(err)
}

// KeepReport keeps the counts of a report of a partner of a page of a workspace, who is known by
// name, and how its columns were read. Counts of a day and a thing that were kept before are
// replaced.
func (s *Store) KeepReport(
	ctx context.Context, workspace, pageID uuid.UUID, name string, mapping partner.ReportMapping, counts []partner.Count, now time.Time,
) (Partner, error) {
	var kept Partner
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var owner Page
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id").Where("id = ? and workspace_id = ?", pageID, workspace).
			Take(&owner).Error
		if err != nil {
			return found(err)
		}
		err = tx.Where("page_id = ? and name = ?", pageID, name).Take(&kept).Error
		switch {
		case errors.Is(err, gorm.ErrRecordNotFound):
			var there int64
			if err := tx.Model(&Partner{}).Where("page_id = ?", pageID).Count(&there).Error; err != nil {
				return err
			}
			if there >= mostPartners {
				return invalid.One("quota", "A page has at most %d partners. Delete one you no longer compare with.", mostPartners)
			}
			kept = Partner{
				ID: uuid.Must(uuid.NewV7()), PageID: pageID, Name: name, Mapping: mapping, Tolerance: partner.Tolerance, CreatedAt: now,
			}
			if err := tx.Create(&kept).Error; err != nil {
				return err
			}
		case err != nil:
			return err
		default:
			kept.Mapping = mapping
			if err := tx.Select("mapping").Updates(&kept).Error; err != nil {
				return err
			}
		}
		return keepCounts(tx, kept.ID, counts)
	})
	return kept, err
}

func keepCounts(tx *gorm.DB, id uuid.UUID, counts []partner.Count) error {
	rows, err := json.Marshal(counts)
	if err != nil {
		return err
	}
	err = tx.Exec(`
		insert into partner_counts (partner_id, day, subject, clicks)
		select ?, t."Day", t."Subject", t."Clicks" from jsonb_to_recordset(?::jsonb) as t ("Day" date, "Subject" text, "Clicks" int)
		on conflict (partner_id, day, subject) do update set clicks = excluded.clicks`, id, string(rows)).Error
	if err != nil {
		return fmt.Errorf("keep the counts of a partner: %w", err)
	}
	var there struct{ Counts, Subjects int }
	err = tx.Table("partner_counts").Where("partner_id = ?", id).Select("count(*) counts, count(distinct subject) subjects").Take(&there).Error
	switch {
	case err != nil:
		return err
	case there.Counts > mostPartnerCounts:
		return invalid.One("quota", "Of one partner %d counts are kept at most. Delete it and take in what you still need.", mostPartnerCounts)
	case there.Subjects > mostSubjects:
		return invalid.One("quota", "Of one partner %d destinations or sub-ids are kept at most; with this file there would be %d.",
			mostSubjects, there.Subjects)
	}
	return nil
}

// PartnerCounts are what a partner counted from one day to another, both included.
func (s *Store) PartnerCounts(ctx context.Context, id uuid.UUID, first, last string) ([]partner.Count, error) {
	rows, err := s.pool.Query(ctx, `
		select day::text, subject, clicks from partner_counts
		where partner_id = $1 and day between $2::text::date and $3::text::date order by day, subject`, id, first, last)
	if err != nil {
		return nil, err
	}
	counts, err := pgx.CollectRows(rows, pgx.RowToStructByPos[partner.Count])
	if err != nil {
		return nil, fmt.Errorf("read the counts of a partner: %w", err)
	}
	return counts, nil
}

// ChangeTolerance says by what share the counts of a partner of a page of a workspace may differ.
func (s *Store) ChangeTolerance(ctx context.Context, workspace, pageID, id uuid.UUID, tolerance float64) error {
	return foundRow(s.db.WithContext(ctx).Exec(`
		update partners set tolerance = ? from pages where pages.id = page_id and workspace_id = ? and page_id = ? and partners.id = ?`,
		tolerance, workspace, pageID, id))
}

// DeletePartner deletes a partner of a page of a workspace with all counts.
func (s *Store) DeletePartner(ctx context.Context, workspace, pageID, id uuid.UUID) error {
	return foundRow(s.db.WithContext(ctx).Exec(`
		delete from partners using pages where pages.id = page_id and workspace_id = ? and page_id = ? and partners.id = ?`,
		workspace, pageID, id))
}
