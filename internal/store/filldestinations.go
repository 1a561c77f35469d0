package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"log/slog"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
)

// fillDestinations keeps the addresses in documents and short links from before there
// were destinations as such, each as it stands: an older edition refers to what it led
// to. Documents get the schema of today on the way.
var fillDestinations = goose.NewGoMigration(14, &goose.GoFunc{RunTx: func(ctx context.Context, tx *sql.Tx) error {
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: tx}), &gorm.Config{
		Logger: logger.Discard, SkipDefaultTransaction: true, DisableAutomaticPing: true,
	})
	if err != nil {
		return err
	}
	// What keeps destinations asks for a column that comes later.
	if err := db.Exec("alter table destinations add column merged_into uuid references destinations on delete cascade").Error; err != nil {
		return err
	}
	unbounded := DefaultQuotas
	unbounded.Destinations = 1 << 40 // what is there is kept
	f := destinationFiller{&Store{quotas: unbounded}, db.WithContext(ctx)}
	for _, each := range []struct {
		list, read, write string
		fill              func(workspace uuid.UUID, text []byte) (any, error)
	}{
		{
			"select id, workspace_id, 0 from pages", "select draft from pages where id = ? and 0 = ?",
			"update pages set draft = ? where id = ? and 0 = ?", f.document,
		},
		{
			"select page_id, workspace_id, number from editions join pages on pages.id = page_id order by page_id, number desc",
			"select document from editions where page_id = ? and number = ?",
			"update editions set document = ? where page_id = ? and number = ?", f.document,
		},
		{
			"select id, workspace_id, 0 from short_links", "select link from short_links where id = ? and 0 = ?",
			"update short_links set link = ? where id = ? and 0 = ?", f.shortLink,
		},
	} {
		if err := f.each(each.list, each.read, each.write, each.fill); err != nil {
			return err
		}
	}
	return nil
}}, nil)

type destinationFiller struct {
	store *Store
	db    *gorm.DB
}

// each goes through rows one at a time: none but the IDs are held together.
func (f destinationFiller) each(list, read, write string, fill func(workspace uuid.UUID, text []byte) (any, error)) error {
	type stored struct {
		ID          uuid.UUID
		WorkspaceID uuid.UUID
		Number      int
	}
	var rows []stored
	found, err := f.db.Raw(list).Rows()
	if err != nil {
		return err
	}
	defer found.Close()
	for found.Next() {
		var row stored
		if err := found.Scan(&row.ID, &row.WorkspaceID, &row.Number); err != nil {
			return err
		}
		rows = append(rows, row)
	}
	if err := found.Err(); err != nil {
		return err
	}
	for _, row := range rows {
		var text []byte
		if err := f.db.Raw(read, row.ID, row.Number).Row().Scan(&text); err != nil {
			return err
		}
		filled, err := fill(row.WorkspaceID, text)
		if err != nil {
			return fmt.Errorf("destinations of %s %d: %w", row.ID, row.Number, err)
		}
		if filled == nil {
			slog.Error("something cannot be read and stays as it is", "id", row.ID, "edition", row.Number)
			continue
		}
		written, err := json.Marshal(filled)
		if err != nil {
			return err
		}
		if err := f.db.Exec(write, string(written), row.ID, row.Number).Error; err != nil {
			return err
		}
	}
	return nil
}

func (f destinationFiller) document(workspace uuid.UUID, text []byte) (any, error) {
	var document page.Document
	if json.Unmarshal(text, &document) != nil {
		return nil, nil
	}
	return document, f.store.keepDestinations(f.db, workspace, document.Links)
}

func (f destinationFiller) shortLink(workspace uuid.UUID, text []byte) (any, error) {
	var link shortlink.Link
	if json.Unmarshal(text, &link) != nil {
		return nil, nil
	}
	return link, f.store.keepDestinations(f.db, workspace, linksOfShortLink(&link))
}
