package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// pagePreview is an address under which the working copy of a page can be looked at.
type pagePreview struct {
	Digest    []byte `gorm:"primaryKey"`
	PageID    uuid.UUID
	Until     time.Time
	CreatedAt time.Time
}

// PreviewPage lets whoever has a token look at the working copy of a page of a workspace,
// until a time. What was open before and is over goes.
func (s *Store) PreviewPage(ctx context.Context, workspace, id uuid.UUID, token string, until, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Select("id").Where("id = ? and workspace_id = ?", id, workspace).Take(&Page{}).Error; err != nil {
			return found(err)
		}
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := tx.Where("page_id = ? and until <= ?", id, now).Delete(&pagePreview{}).Error; err != nil {
			return err
		}
		full := &QuotaError{What: "This page has %d preview addresses", Instead: "Close them first, or wait until they are over."}
		if err := room(tx, s.quotas.SharesPerPage, full, "select count(*) from page_previews where page_id = ?", id); err != nil {
			return err
		}
		return tx.Create(&pagePreview{Digest: digestOf(token), PageID: id, Until: until, CreatedAt: now}).Error
	})
}

// ClosePreviews closes all preview addresses of a page of a workspace.
func (s *Store) ClosePreviews(ctx context.Context, workspace, id uuid.UUID) error {
	return s.db.WithContext(ctx).Where("page_id = (select id from pages where id = ? and workspace_id = ?)", id, workspace).
		Delete(&pagePreview{}).Error
}

// OpenPreview finds the page whose working copy a token shows at that time; ErrNotFound
// for none.
func (s *Store) OpenPreview(ctx context.Context, token string, now time.Time) (Page, error) {
	var one Page
	err := s.db.WithContext(ctx).Model(&Page{}).Select("pages.id", "pages.workspace_id").
		Joins("join page_previews on page_id = pages.id and digest = ? and until > ?", digestOf(token), now).Take(&one).Error
	if err != nil {
		return Page{}, found(err)
	}
	return s.Page(ctx, one.WorkspaceID, one.ID)
}
