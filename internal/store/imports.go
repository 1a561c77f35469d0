package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"jundle/internal/core/destination"
	"jundle/internal/core/linkfile"
)

// importsKept is how many imports of a workspace can be undone, the latest; mappingsKept
// is how many kinds of files are remembered.
const (
	importsKept  = 20
	mappingsKept = 50
)

// Import is a file of links that was taken in.
type Import struct {
	ID uuid.UUID
	// Made is how many destinations it made; the others were there.
	Made int
}

// KeptAmong tells which of these addresses a workspace keeps as destinations.
func (s *Store) KeptAmong(ctx context.Context, workspace uuid.UUID, addresses []string) (map[string]bool, error) {
	rows, err := s.pool.Query(ctx, `
		select address from destinations
		where workspace_id = $1 and merged_into is null and md5(address) in (select md5(a) from unnest($2::text[]) a)`, workspace, addresses)
	if err != nil {
		return nil, err
	}
	found, err := pgx.CollectRows(rows, pgx.RowTo[string])
	kept := make(map[string]bool, len(found))
	for _, address := range found {
		kept[address] = true
	}
	return kept, err
}

// ImportDestinations keeps destinations of a file in one step, all or none. What is kept
// already is left as it is. A *QuotaError when there is no room.
func (s *Store) ImportDestinations(
	ctx context.Context, workspace, user uuid.UUID, all []destination.Destination, now time.Time,
) (Import, error) {
	type row struct {
		ID      uuid.UUID `json:"id"`
		Address string    `json:"address"`
		Title   string    `json:"title"`
		Note    string    `json:"note"`
		Labels  []string  `json:"labels"`
		Order   int       `json:"n"`
	}
	rows := make([]row, len(all))
	for i, each := range all {
		rows[i] = row{newID(), each.Address, each.Title, each.Note, append([]string{}, each.Labels...), i}
	}
	list, err := json.Marshal(rows)
	if err != nil {
		return Import{}, err
	}
	done := Import{ID: newID()}
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		var made []string
		// The first of the file comes first in the list, which has the latest first.
		err := tx.Raw(`
			insert into destinations (id, workspace_id, address, title, note, labels, created_at, edited_at, next_check_at)
			select id, ?, address, title, note, labels, ?::timestamptz - n * interval '1 microsecond', ?,
				?::timestamptz + n * interval '2 seconds'
			from jsonb_to_recordset(?::jsonb) as t (id uuid, address text, title text, note text, labels jsonb, n int)
			on conflict (workspace_id, md5(address)) where merged_into is null do nothing returning id::text`,
			workspace, now, now, now, string(list)).Scan(&made).Error
		if err != nil {
			return fmt.Errorf("import destinations: %w", err)
		}
		done.Made = len(made)
		// It is asked afterwards, when it is known how many there are.
		if err := s.roomForDestinations(tx, workspace, 0); err != nil {
			return err
		}
		if err := tx.Exec(`insert into destination_addresses (destination_id, address, user_id, since)
			select id, address, ?, ? from destinations where id = any(?::uuid[])`, user, now, uuidArray(made)).Error; err != nil {
			return fmt.Errorf("note where imported destinations lead: %w", err)
		}
		if err := tx.Exec("insert into imports (id, workspace_id, user_id, at, made) values (?, ?, ?, ?, ?::uuid[])",
			done.ID, workspace, user, now, uuidArray(made)).Error; err != nil {
			return fmt.Errorf("note an import: %w", err)
		}
		return tx.Exec(`delete from imports where workspace_id = ? and id not in (
			select id from imports where workspace_id = ? order by at desc, id desc limit ?)`, workspace, workspace, importsKept).Error
	})
	return done, err
}

// uuidArray writes IDs as an array of PostgreSQL.
func uuidArray(ids []string) string { return "{" + strings.Join(ids, ",") + "}" }

// UndoImport takes out again what an import of a workspace made, but for what was changed
// since or is led to by something. It returns how many went and how many stay;
// ErrNotFound for an import that was undone.
func (s *Store) UndoImport(ctx context.Context, workspace, id uuid.UUID, now time.Time) (gone, stay int, err error) {
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var made []uuid.UUID
		err := tx.QueryRow(ctx, `
			update imports set undone_at = $3 where id = $1 and workspace_id = $2 and undone_at is null returning made`,
			id, workspace, now).Scan(&made)
		if errors.Is(err, pgx.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		tag, err := tx.Exec(ctx, `
			delete from destinations where id = any($1) and workspace_id = $2 and revision = 1 and not `+destinationUsed, made, workspace)
		gone, stay = int(tag.RowsAffected()), len(made)-int(tag.RowsAffected())
		return err
	})
	return gone, stay, err
}

// RememberMapping keeps what the columns of a file were said to be.
func (s *Store) RememberMapping(ctx context.Context, workspace uuid.UUID, columns []byte, mapping linkfile.Mapping, now time.Time) error {
	_, err := s.pool.Exec(ctx, `
		insert into column_mappings (workspace_id, columns, mapping, used_at) values ($1, $2, $3, $4)
		on conflict (workspace_id, columns) do update set mapping = excluded.mapping, used_at = excluded.used_at`,
		workspace, columns, mapping, now)
	if err != nil {
		return fmt.Errorf("remember a mapping: %w", err)
	}
	_, err = s.pool.Exec(ctx, `
		delete from column_mappings where workspace_id = $1 and columns not in (
			select columns from column_mappings where workspace_id = $1 order by used_at desc limit $2)`, workspace, mappingsKept)
	return err
}

// RememberedMapping is what the columns of a file were said to be last, nil when none is
// known.
func (s *Store) RememberedMapping(ctx context.Context, workspace uuid.UUID, columns []byte) (*linkfile.Mapping, error) {
	var mapping linkfile.Mapping
	err := s.pool.QueryRow(ctx, "select mapping from column_mappings where workspace_id = $1 and columns = $2", workspace, columns).
		Scan(&mapping)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, nil
	}
	return &mapping, err
}
