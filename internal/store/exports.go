package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// ExportState is how an export stands.
type ExportState string

// The states of an export.
const (
	ExportRunning ExportState = "running"
	ExportReady   ExportState = "ready"
	ExportFailed  ExportState = "failed"
	ExportStopped ExportState = "stopped"
)

// Export is the export of a workspace: the one under way, or the latest.
type Export struct {
	WorkspaceID uuid.UUID `gorm:"primaryKey"`
	ID          uuid.UUID
	State       ExportState
	Done, Parts int
	Blob        string
	Size        int64
	StartedAt   time.Time
	// AliveAt is when whoever writes it last said so.
	AliveAt time.Time
	EndedAt *time.Time
}

// ErrRunning is answered when a workspace has an export under way.
var ErrRunning = errors.New("under way")

// exportSilent is after how much silence an export counts as broken off: whoever
// wrote it is gone.
const exportSilent = time.Minute

// BeginExport notes that an export is under way. It answers ErrRunning with the
// one that is, when there is one.
func (s *Store) BeginExport(ctx context.Context, workspace uuid.UUID, now time.Time) (Export, error) {
	begun := Export{WorkspaceID: workspace, ID: newID(), State: ExportRunning, StartedAt: now, AliveAt: now}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		before, err := latestExport(tx, workspace, now)
		switch {
		case err == nil && before.State == ExportRunning:
			begun = before
			return ErrRunning
		case err != nil && !errors.Is(err, ErrNotFound):
			return err
		}
		// Its file goes with it.
		if err := tx.Delete(&Export{WorkspaceID: workspace}).Error; err != nil {
			return err
		}
		return tx.Create(&begun).Error
	})
	return begun, err
}

// LatestExport finds the export of a workspace; ErrNotFound when it never made
// one, or it is over.
func (s *Store) LatestExport(ctx context.Context, workspace uuid.UUID, now time.Time) (Export, error) {
	return latestExport(s.db.WithContext(ctx), workspace, now)
}

func latestExport(tx *gorm.DB, workspace uuid.UUID, now time.Time) (Export, error) {
	var latest Export
	err := tx.Where("workspace_id = ?", workspace).Take(&latest).Error
	if err == nil && latest.State == ExportRunning && latest.AliveAt.Before(now.Add(-exportSilent)) {
		latest.State = ExportFailed
	}
	return latest, found(err)
}

// ExportGoesOn notes how far an export is; ErrNotFound when it was stopped or is
// another's by now.
func (s *Store) ExportGoesOn(ctx context.Context, export Export, now time.Time) error {
	return s.changeExport(ctx, export, map[string]any{"done": export.Done, "parts": export.Parts, "alive_at": now})
}

// EndExport notes how an export that was under way ended. When it is ready, its
// blob is loose no longer.
func (s *Store) EndExport(ctx context.Context, export Export, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if export.State == ExportReady {
			if err := tx.Exec("delete from loose_blobs where blob = ?", export.Blob).Error; err != nil {
				return err
			}
		}
		inner := &Store{db: tx}
		return inner.changeExport(ctx, export, map[string]any{
			"state": export.State, "blob": export.Blob, "size": export.Size,
			"done": export.Done, "alive_at": now, "ended_at": now,
		})
	})
}

func (s *Store) changeExport(ctx context.Context, export Export, values map[string]any) error {
	return foundRow(s.db.WithContext(ctx).Model(&Export{}).Where("workspace_id = ? and id = ? and state = ?", export.WorkspaceID, export.ID,
		ExportRunning).Updates(values))
}

// StopExport asks whoever writes the export of a workspace to stop.
func (s *Store) StopExport(ctx context.Context, workspace uuid.UUID, now time.Time) error {
	return foundRow(s.db.WithContext(ctx).Model(&Export{}).Where("workspace_id = ? and state = ?", workspace, ExportRunning).
		Updates(map[string]any{"state": ExportStopped, "ended_at": now}))
}

// ForgetExports removes exports that ended before a time, with their files.
func (s *Store) ForgetExports(ctx context.Context, before time.Time) error {
	return s.db.WithContext(ctx).Where("alive_at < ?", before).Delete(&Export{}).Error
}
