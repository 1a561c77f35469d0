package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"log/slog"

	"github.com/pressly/goose/v3"

	"jundle/internal/core/page"
)

// keepEither gives editions in which spans and weekly rules stand together the schema of today: what they showed, and so
// the figures made by it, stays what it was. It writes the editions' rows to match.
var keepEither = goose.NewGoMigration(48, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, `
		select page_id, number from editions where jsonb_path_exists(document, '$.** ? (@.spans.size() > 0 && @.weekly.size() > 0)')`)
	if err != nil {
		return err
	}
	defer rows.Close()
	var all []editionID
	for rows.Next() {
		var id editionID
		if err := rows.Scan(&id.page, &id.number); err != nil {
			return err
		}
		all = append(all, id)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, id := range all {
		if err := keepEitherOf(ctx, tx, id); err != nil {
			return err
		}
	}
	_, err = tx.ExecContext(ctx, `
		update edition_rows set showing = jsonb_set(showing, '{when,either}', 'true')
		where jsonb_path_exists(showing, '$.when ? (@.spans.size() > 0 && @.weekly.size() > 0)')`)
	return err
}}, nil)

func keepEitherOf(ctx context.Context, tx *sql.Tx, id editionID) error {
	var text []byte
	err := tx.QueryRowContext(ctx, "select document from editions where page_id = $1 and number = $2", id.page, id.number).Scan(&text)
	if err != nil {
		return err
	}
	var document page.Document
	if err := json.Unmarshal(text, &document); err != nil {
		slog.Error("an edition cannot be read; its times mean something else from now on", "page", id.page, "edition", id.number, "error", err)
		return nil
	}
	written, err := json.Marshal(document)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, "update editions set document = $3 where page_id = $1 and number = $2", id.page, id.number, written)
	return err
}
