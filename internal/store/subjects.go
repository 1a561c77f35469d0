package store

import (
	"context"
	"errors"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// subjects are the queries that say in a word what something of a workspace ($1) is called, by its ID ($2). What visitors
// left is called after the block they left it at: the journal is no list of visitors.
var subjects = map[string]string{
	"apiToken":    "select name from api_tokens where workspace_id = $1 and id = $2",
	"booking":     "select block_title from bookings where workspace_id = $1 and id = $2",
	"destination": "select address from destinations where workspace_id = $1 and id = $2",
	"domain":      "select host from domains where workspace_id = $1 and id = $2",
	"invitation":  "select email from invitations where workspace_id = $1 and id = $2",
	"link": `select address from addresses join short_links on short_links.id = endpoint_id
		where workspace_id = $1 and short_links.id = $2 and present`,
	"member":  "select email from users join memberships on user_id = users.id where workspace_id = $1 and users.id = $2",
	"merged":  "select address from destinations where workspace_id = $1 and id = $2",
	"partner": "select name from partners join pages on pages.id = page_id where workspace_id = $1 and partners.id = $2",
	"payment": "select block_title from payments where workspace_id = $1 and id = $2",
	"shared": `select name from shared_figures join endpoints on endpoints.id = endpoint_id
		where workspace_id = $1 and shared_figures.id = $2`,
	"signUp":  "select block_title from sign_ups where workspace_id = $1 and id = $2",
	"source":  "select name from sources join pages on pages.id = page_id where workspace_id = $1 and sources.id = $2",
	"webhook": "select address from webhooks where workspace_id = $1 and id = $2",
}

// SubjectKinds are the kinds that Subject knows.
func SubjectKinds() (kinds []string) {
	for kind := range subjects {
		kinds = append(kinds, kind)
	}
	return kinds
}

// Subject says in a word what something of a workspace is called, for the journal; empty for what is not there.
func (s *Store) Subject(ctx context.Context, workspace uuid.UUID, kind string, id uuid.UUID) (name string, err error) {
	err = s.pool.QueryRow(ctx, subjects[kind], workspace, id).Scan(&name)
	if err != nil && !errors.Is(err, pgx.ErrNoRows) {
		return "", fmt.Errorf("name what is noted in the journal: %w", err)
	}
	return name, nil
}
