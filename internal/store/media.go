package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Media is a picture, film or file of a workspace under the digest of its bytes,
// which are in the blob store. Width and height are 0 where it has none.
type Media struct {
	Name        string    `gorm:"primaryKey"`
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	Blob        string    // key in the blob store; empty where the bytes are still in the row
	Size        int64     // in bytes
	Width       int
	Height      int
	CreatedAt   time.Time
	// KeptAt is when it was last uploaded or made.
	KeptAt time.Time
	// DeletedAt is when it was deleted; its address says so from then on.
	DeletedAt *time.Time
}

// TableName keeps gorm from making a plural of a plural.
func (Media) TableName() string { return "media" }

// ErrGone is answered for a file that was there and was deleted.
var ErrGone = errors.New("deleted")

// HeldMedia tells which of these files a workspace has, and notes that they were
// kept again, so that none is collected while it is about to be used.
func (s *Store) HeldMedia(ctx context.Context, workspace uuid.UUID, names []string, now time.Time) (map[string]bool, error) {
	var held []string
	err := s.db.WithContext(ctx).Raw(`
		update media set kept_at = ? where workspace_id = ? and name in ? and deleted_at is null returning name`,
		now, workspace, names).Scan(&held).Error
	return set(held), err
}

func set(names []string) map[string]bool {
	has := make(map[string]bool, len(names))
	for _, name := range names {
		has[name] = true
	}
	return has
}

// RoomForMedia answers a *QuotaError when a workspace cannot hold so many bytes
// more.
func (s *Store) RoomForMedia(ctx context.Context, workspace uuid.UUID, bytes int64) error {
	return s.roomForMedia(s.db.WithContext(ctx), workspace, bytes)
}

func (s *Store) roomForMedia(tx *gorm.DB, workspace uuid.UUID, bytes int64) error {
	full := &QuotaError{What: "Your pictures and files take up %d MB", Instead: "Delete some that you no longer need, in Settings."}
	err := room(tx, s.quotas.MediaBytes+1, full,
		"select coalesce(sum(size), 0)::bigint + ? from media where workspace_id = ? and deleted_at is null", bytes, workspace)
	full.Most = s.quotas.MediaBytes >> 20
	return err
}

// LoosenBlob notes a blob that belongs to no row yet, before it is written.
func (s *Store) LoosenBlob(ctx context.Context, blob string, now time.Time) error {
	return s.db.WithContext(ctx).Exec("insert into loose_blobs (blob, since) values (?, ?) on conflict do nothing", blob, now).Error
}

// KeepMedia keeps files whose blobs are written; a *QuotaError when there is no
// room for them. A file that is there already keeps the blob it has, and the other
// stays loose. One that was deleted is there again.
func (s *Store) KeepMedia(ctx context.Context, files ...Media) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, files[0].WorkspaceID); err != nil {
			return err
		}
		var bytes int64
		for _, file := range files {
			bytes += file.Size
		}
		if err := s.roomForMedia(tx, files[0].WorkspaceID, bytes); err != nil {
			return err
		}
		for _, file := range files {
			done := tx.Clauses(clause.OnConflict{
				Columns:   []clause.Column{{Name: "name"}, {Name: "workspace_id"}},
				DoUpdates: clause.AssignmentColumns([]string{"blob", "size", "width", "height", "kept_at", "deleted_at"}),
				Where:     clause.Where{Exprs: []clause.Expression{gorm.Expr("media.deleted_at is not null")}},
			}).Create(&file)
			if done.Error != nil {
				return done.Error
			}
			if done.RowsAffected == 0 {
				continue
			}
			if err := tx.Exec("delete from loose_blobs where blob = ?", file.Blob).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

// WorkspaceMedia returns a file of a workspace by its name; ErrGone when it was
// deleted.
func (s *Store) WorkspaceMedia(ctx context.Context, workspace uuid.UUID, name string) (Media, error) {
	var file Media
	err := s.db.WithContext(ctx).Where("workspace_id = ? and name = ?", workspace, name).Take(&file).Error
	if err == nil && file.DeletedAt != nil {
		err = ErrGone
	}
	return file, found(err)
}

// HasMedia tells which of these files a workspace keeps.
func (s *Store) HasMedia(ctx context.Context, workspace uuid.UUID, names []string) (map[string]bool, error) {
	var kept []string
	err := s.db.WithContext(ctx).Model(&Media{}).Where("workspace_id = ? and name in ? and deleted_at is null", workspace,
		names).Pluck("name", &kept).Error
	return set(kept), err
}

// BytesOfMedia is how much files of a workspace take together.
func (s *Store) BytesOfMedia(ctx context.Context, workspace uuid.UUID, names []string) (bytes int64, err error) {
	err = s.pool.QueryRow(ctx, "select coalesce(sum(size), 0)::bigint from media where workspace_id = $1 and name = any($2)", workspace,
		names).Scan(&bytes)
	return bytes, err
}

// PublicMedia finds a file by its name alone: the name is a digest of what is in
// it, and pages show it to everybody. It answers ErrGone when all who had it
// deleted it.
func (s *Store) PublicMedia(ctx context.Context, name string) (Media, error) {
	var file Media
	err := s.db.WithContext(ctx).Where("name = ?", name).Order("deleted_at nulls first").Take(&file).Error
	if err == nil && file.DeletedAt != nil {
		err = ErrGone
	}
	return file, found(err)
}

// MediaPlace is a place in a list of files.
type MediaPlace struct {
	CreatedAt time.Time
	Name      string
}

// KeptMedia is a file with where it is used.
type KeptMedia struct {
	Media `gorm:"embedded"`
	// Used: a working copy, a live page, a theme, a feed, a destination or a short link shows it. Older
	// editions alone do not count.
	Used bool
}

const mediaUsed = `(
	exists (select from pages where pages.workspace_id = media.workspace_id and media.name = any(pages.media))
	or exists (select from editions join pages on pages.id = editions.page_id and pages.live_edition = editions.number
		where pages.workspace_id = media.workspace_id and media.name = any(editions.media))
	or exists (select from themes where themes.workspace_id = media.workspace_id and media.name = any(themes.media))
	or exists (select from feeds where feeds.workspace_id = media.workspace_id and media.name = any(feeds.media))
	or exists (select from destinations where destinations.workspace_id = media.workspace_id and media.name = any(destinations.media))
	or exists (select from short_links where short_links.workspace_id = media.workspace_id and media.name = any(short_links.media)))`

// mediaIdle: nothing refers to a file, no older edition or step either.
const mediaIdle = `not ` + mediaUsed + `
	and not exists (select from editions join pages on pages.id = editions.page_id
		where pages.workspace_id = media.workspace_id and editions.media @> array[media.name])
	and not exists (select from page_steps join pages on pages.id = page_steps.page_id
		where pages.workspace_id = media.workspace_id and page_steps.media @> array[media.name])`

// MediaOf lists files of a workspace, latest first, at most so many, after a place.
func (s *Store) MediaOf(ctx context.Context, workspace uuid.UUID, after *MediaPlace, most int) ([]KeptMedia, error) {
	var files []KeptMedia
	query := s.db.WithContext(ctx).Table("media").Select("media.*, "+mediaUsed+" used").Where("workspace_id = ? and deleted_at is null",
		workspace)
	if after != nil {
		query = query.Where("(created_at, name) < (?, ?)", after.CreatedAt, after.Name)
	}
	err := query.Order("created_at desc, name desc").Limit(most).Find(&files).Error
	return files, err
}

// ErrInUse is answered for a file that cannot be deleted because something shows
// it.
var ErrInUse = errors.New("in use")

// DeleteMedia deletes a file of a workspace that nothing shows now; ErrInUse
// otherwise. Its row stays, so that its address can say that it is gone.
func (s *Store) DeleteMedia(ctx context.Context, workspace uuid.UUID, name string, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var file KeptMedia
		err := tx.Table("media").Select("media.*, "+mediaUsed+" used").Where("workspace_id = ? and name = ? and deleted_at is null", workspace,
			name).
			Clauses(clause.Locking{Strength: "UPDATE", Table: clause.Table{Name: "media"}}).Take(&file).Error
		if err != nil {
			return found(err)
		}
		if file.Used {
			return ErrInUse
		}
		return bury(tx, workspace, []string{name}, now)
	})
}

// bury takes the bytes of files away and leaves their rows.
func bury(tx *gorm.DB, workspace uuid.UUID, names []string, now time.Time) error {
	err := tx.Exec(`
		insert into loose_blobs (blob, since) select blob, ? from media where workspace_id = ? and name in ? and blob <> ''
		on conflict do nothing`, now, workspace, names).Error
	if err != nil {
		return err
	}
	return tx.Exec("update media set blob = '', size = 0, bytes = null, deleted_at = ? where workspace_id = ? and name in ?", now, workspace,
		names).Error
}

// mediaGrace is for how long a file that nothing refers to is kept: an edit may be
// undone, and a dialog may stay open over night.
const mediaGrace = 7 * 24 * time.Hour

// CollectMedia deletes files that nothing refers to, no older edition or step either, and
// that were last kept a while ago. It returns how many; at most so many at a time.
func (s *Store) CollectMedia(ctx context.Context, most int, now time.Time) (int64, error) {
	done := s.db.WithContext(ctx).Exec(`
		delete from media where (name, workspace_id) in (
			select name, workspace_id from media
			where kept_at < ? and deleted_at is null and `+mediaIdle+`
			order by kept_at limit ? for update skip locked)`, now.Add(-mediaGrace), most)
	if done.Error != nil {
		return 0, fmt.Errorf("collect files that nothing refers to: %w", done.Error)
	}
	return done.RowsAffected, nil
}

// LooseBlobs lists blobs that have belonged to no row since a time.
func (s *Store) LooseBlobs(ctx context.Context, before time.Time, most int) ([]string, error) {
	rows, err := s.pool.Query(ctx, "select blob from loose_blobs where since < $1 order by since limit $2", before, most)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowTo[string])
}

// ForgetBlob removes the note of a blob that is no more.
func (s *Store) ForgetBlob(ctx context.Context, blob string) error {
	_, err := s.pool.Exec(ctx, "delete from loose_blobs where blob = $1", blob)
	return err
}

// Unmoved is a file whose bytes are still in its row.
type Unmoved struct {
	Name        string
	WorkspaceID uuid.UUID
	Bytes       []byte
}

// CountUnmoved is how many files have their bytes in their rows.
func (s *Store) CountUnmoved(ctx context.Context) (n int, err error) {
	err = s.pool.QueryRow(ctx, "select count(*) from media where blob = '' and deleted_at is null").Scan(&n)
	return n, err
}

// NextUnmoved returns a file whose bytes are in its row; ErrNotFound when there is
// none.
func (s *Store) NextUnmoved(ctx context.Context) (file Unmoved, err error) {
	err = s.pool.QueryRow(ctx, `
		select name, workspace_id, bytes from media where blob = '' and deleted_at is null order by workspace_id, name limit 1`).
		Scan(&file.Name, &file.WorkspaceID, &file.Bytes)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return file, err
}

// Moved notes where the bytes of a file are now, and takes them out of its row.
func (s *Store) Moved(ctx context.Context, file Unmoved, blob string) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "delete from loose_blobs where blob = $1", blob); err != nil {
			return err
		}
		done, err := tx.Exec(ctx, `
			update media set blob = $3, bytes = null where name = $1 and workspace_id = $2 and blob = '' and deleted_at is null`,
			file.Name, file.WorkspaceID, blob)
		if err == nil && done.RowsAffected() == 0 {
			// Somebody else moved it, or it is gone.
			_, err = tx.Exec(ctx, "insert into loose_blobs (blob, since) values ($1, now())", blob)
		}
		return err
	})
}
