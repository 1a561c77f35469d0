package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Quotas are how much one workspace may hold.
type Quotas struct {
	MediaBytes int64
	Pages      int64
	// SourcesPerPage and AddressesPerPage count retired sources and past addresses
	// too: both keep leading to the page. Addresses are bounded for a short link as
	// well.
	SourcesPerPage   int64
	AddressesPerPage int64
	ShortLinks       int64
	Destinations     int64
	EditionsPerDay   int64 // of one page
	// AsEditedPerDay are editions of one page that went live by themselves.
	AsEditedPerDay int64
	SharesPerPage  int64 // open ones, of one page or short link
	Domains        int64 // hosts of a workspace's own
}

// DefaultQuotas are those where nothing is set.
var DefaultQuotas = Quotas{
	MediaBytes:       500 << 20,
	Pages:            50,
	SourcesPerPage:   100,
	AddressesPerPage: 30,
	ShortLinks:       5000,
	Destinations:     20_000,
	EditionsPerDay:   100,
	AsEditedPerDay:   500,
	SharesPerPage:    50,
	Domains:          5,
}

// MostDomains is how many hosts of its own a workspace may have.
func (s *Store) MostDomains() int64 { return s.quotas.Domains }

// QuotaError is answered when a workspace holds as much as it may. Its text is for
// the creator.
type QuotaError struct {
	// What names it in a sentence: "You have 50 pages".
	What string
	Most int64
	// Instead is what can be done.
	Instead string
}

func (e *QuotaError) Error() string {
	return fmt.Sprintf("%s, and that is as many as there can be. %s Nothing was changed.", fmt.Sprintf(e.What, e.Most), e.Instead)
}

// hold keeps two requests of a workspace from counting at the same time and both
// finding room.
func hold(tx *gorm.DB, workspace uuid.UUID) error {
	return tx.Exec("select pg_advisory_xact_lock(hashtextextended(?, 0))", "quota "+workspace.String()).Error
}

// room answers full when a count has come to most; whoever asks holds the
// workspace.
func room(tx *gorm.DB, most int64, full *QuotaError, count string, args ...any) error {
	var there int64
	if err := tx.Raw(count, args...).Scan(&there).Error; err != nil {
		return fmt.Errorf("count for a quota: %w", err)
	}
	if there >= most {
		full.Most = most
		return full
	}
	return nil
}

func (s *Store) roomForPage(tx *gorm.DB, workspace uuid.UUID) error {
	return room(tx, s.quotas.Pages, &QuotaError{What: "You have %d pages", Instead: "Use one that you no longer need for something else."},
		"select count(*) from pages where workspace_id = ?", workspace)
}

func (s *Store) roomForShortLink(tx *gorm.DB, workspace uuid.UUID) error {
	return room(tx, s.quotas.ShortLinks, &QuotaError{
		What:    "You have %d short links",
		Instead: "Use one that you no longer need for something else.",
	},
		"select count(*) from short_links where workspace_id = ?", workspace)
}

// roomForDestinations answers a *QuotaError unless so many more fit.
func (s *Store) roomForDestinations(tx *gorm.DB, workspace uuid.UUID, more int) error {
	full := &QuotaError{
		What:    "You have led to %d different addresses",
		Instead: "Those that nothing leads to any more go after a week; use one of the others until then.",
	}
	err := room(tx, s.quotas.Destinations-int64(more)+1, full, "select count(*) from destinations where workspace_id = ?", workspace)
	full.Most = s.quotas.Destinations
	return err
}

func (s *Store) roomForAddress(tx *gorm.DB, id uuid.UUID) error {
	return room(tx, s.quotas.AddressesPerPage, &QuotaError{
		What:    "This has had %d addresses, which all keep leading here",
		Instead: "Go back to one of them instead.",
	},
		"select count(*) from addresses where endpoint_id = ?", id)
}

func (s *Store) roomForSource(tx *gorm.DB, pageID uuid.UUID) error {
	return room(tx, s.quotas.SourcesPerPage, &QuotaError{
		What:    "This page has %d sources, retired ones included",
		Instead: "Take a retired one back and give it another name.",
	},
		"select count(*) from sources where page_id = ?", pageID)
}

func (s *Store) roomForEdition(tx *gorm.DB, pageID uuid.UUID, asEdited bool, now time.Time) error {
	most := s.quotas.EditionsPerDay
	if asEdited {
		most = s.quotas.AsEditedPerDay
	}
	return room(tx, most, &QuotaError{
		What:    "This page was published %d times within a day",
		Instead: "Your working copy is kept. Publish it again in a few hours.",
	},
		"select count(*) from editions where page_id = ? and as_edited = ? and published_at > ?", pageID, asEdited, now.Add(-24*time.Hour))
}

func (s *Store) roomForShare(tx *gorm.DB, of uuid.UUID, now time.Time) error {
	return room(tx, s.quotas.SharesPerPage, &QuotaError{
		What:    "These figures are shared with %d people",
		Instead: "Close an address that is no longer needed first.",
	},
		"select count(*) from shared_figures where endpoint_id = ? and until > ?", of, now)
}

// Use is how much of a quota is used.
type Use struct {
	Name string // bytes of media, pages, ...: a key of the API
	Used int64
	Of   int64
}

// Usage tells what a workspace uses of its quotas; of those of a page, what the
// fullest page uses.
func (s *Store) Usage(ctx context.Context, workspace uuid.UUID, now time.Time) ([]Use, error) {
	const perPage = "select coalesce(max(n), 0) from (select count(*) n from "
	uses := []struct {
		name  string
		of    int64
		query string
	}{
		{"media", s.quotas.MediaBytes, `select coalesce(sum(size), 0)::bigint from media
			where workspace_id = $1 and deleted_at is null and $2::timestamptz is not null`},
		{"pages", s.quotas.Pages, "select count(*) from pages where workspace_id = $1 and $2::timestamptz is not null"},
		{"shortLinks", s.quotas.ShortLinks, "select count(*) from short_links where workspace_id = $1 and $2::timestamptz is not null"},
		{
			"destinations", s.quotas.Destinations,
			"select count(*) from destinations where workspace_id = $1 and $2::timestamptz is not null",
		},
		{
			"sources", s.quotas.SourcesPerPage,
			perPage + "sources join pages on pages.id = page_id where workspace_id = $1 and $2::timestamptz is not null group by page_id) t",
		},
		{
			"addresses", s.quotas.AddressesPerPage,
			perPage + `addresses join endpoints on endpoints.id = endpoint_id
				where workspace_id = $1 and $2::timestamptz is not null group by endpoint_id) t`,
		},
		{
			"editions", s.quotas.EditionsPerDay,
			perPage + `editions join pages on pages.id = page_id
				where workspace_id = $1 and published_at > $2::timestamptz - interval '1 day' group by page_id) t`,
		},
		{
			"shares",
			s.quotas.SharesPerPage,
			perPage + "shared_figures join endpoints on endpoints.id = endpoint_id where workspace_id = $1 and until > $2::timestamptz group " +
				"by endpoint_id) t",
		},
	}
	used := make([]Use, len(uses))
	for i, use := range uses {
		used[i] = Use{Name: use.name, Of: use.of}
		if err := s.pool.QueryRow(ctx, use.query, workspace, now).Scan(&used[i].Used); err != nil {
			return nil, fmt.Errorf("count %s: %w", use.name, err)
		}
	}
	return used, nil
}
