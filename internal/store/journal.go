package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// JournalKept is how long it is known who did what.
const JournalKept = 365 * 24 * time.Hour

// JournalEntry says who did what, and when.
type JournalEntry struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	// Who is an e-mail address, as it was then.
	Who string
	Did string
	// PageID is of the page it was about, which may be gone; nil for what is about none. Page is what
	// that was called then.
	PageID *uuid.UUID
	Page   string
	// Subject is what else it was about, in a word.
	Subject         string
	FirstAt, LastAt time.Time
	// Times is how often, within an hour.
	Times int
}

// TableName implements schema.Tabler.
func (JournalEntry) TableName() string { return "journal" }

// WriteJournal notes that somebody did something.
func (s *Store) WriteJournal(ctx context.Context, entry JournalEntry, now time.Time) error {
	_, err := s.pool.Exec(ctx, `
		insert into journal (id, workspace_id, who, did, page_id, page, subject, hour, first_at, last_at, times)
		select $1, $2, $3, $4, $5, coalesce((
			select `+nameOfPage+` from pages
			left join addresses on endpoint_id = pages.id and present where pages.id = $5 and pages.workspace_id = $2), ''),
			$6, date_trunc('hour', $7::timestamptz), $7, $7, 1
		where exists (select from workspaces where id = $2)
		on conflict (workspace_id, hour, who, did, page_id, subject) do update set last_at = excluded.last_at, times = journal.times + 1`,
		newID(), entry.WorkspaceID, entry.Who, entry.Did, entry.PageID, entry.Subject, now)
	return err
}

// Journal reads who did what in a workspace, the latest first, after an entry; zero for the first.
func (s *Store) Journal(ctx context.Context, workspace uuid.UUID, after JournalEntry, most int) (entries []JournalEntry, err error) {
	query := s.db.WithContext(ctx).Where("workspace_id = ?", workspace)
	if after.ID != (uuid.UUID{}) {
		query = query.Where("(last_at, id) < (?, ?)", after.LastAt, after.ID)
	}
	err = query.Order("last_at desc, id desc").Limit(most).Find(&entries).Error
	return entries, err
}

// ForgetJournal removes entries that are too old.
func (s *Store) ForgetJournal(ctx context.Context, now time.Time) error {
	return s.db.WithContext(ctx).Exec("delete from journal where last_at < ?", now.Add(-JournalKept)).Error
}
