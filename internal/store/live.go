package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/page"
	"jundle/internal/core/source"
)

// LivePage is what the public listener needs to know of a page.
type LivePage struct {
	PageID      uuid.UUID
	WorkspaceID uuid.UUID
	Address     string // the present one
	Edition     int    // 0 when the page was never published
	Document    page.Document
	Bytes       int // of the document as it is stored
	Sources     []source.Candidate
	// PaidAt is the address of the workspace's payment service; empty for none.
	PaidAt string
	// Deleted: it may still be taken back, and is not there for visitors.
	Deleted bool
	// TakenDown: whoever runs the service took it away from visitors.
	TakenDown bool
}

// LivePage finds the page that a present or past address leads to.
func (s *Store) LivePage(ctx context.Context, address string) (LivePage, error) {
	var row struct {
		ID          uuid.UUID
		WorkspaceID uuid.UUID
		LiveEdition int
		Address     string
		Document    *page.Document `gorm:"serializer:json"`
		Bytes       int
		PaidAt      string
		Deleted     bool
		TakenDown   bool
	}
	err := s.db.WithContext(ctx).Table("addresses asked").
		Joins("join pages on pages.id = asked.endpoint_id").
		Joins("join endpoints on endpoints.id = pages.id").
		Joins("join addresses present on present.endpoint_id = pages.id and present.present").
		Joins("left join editions on editions.page_id = pages.id and editions.number = pages.live_edition").
		Joins("left join payment_services on payment_services.workspace_id = pages.workspace_id and payment_services.ended_at is null").
		Select(`coalesce(payment_services.address, '') paid_at,
			pages.id, pages.workspace_id, pages.live_edition, present.address, editions.document, pages.delete_at is not null deleted,
			endpoints.taken_down_at is not null taken_down,
			coalesce(octet_length(editions.document::text), 0) bytes`).
		Where("asked.domain_id = ? and asked.address = ?", SharedDomain, address).Take(&row).Error
	if err != nil {
		return LivePage{}, found(err)
	}
	live := LivePage{
		PageID: row.ID, WorkspaceID: row.WorkspaceID, Address: row.Address, Edition: row.LiveEdition, Bytes: row.Bytes, Deleted: row.Deleted,
		TakenDown: row.TakenDown, PaidAt: row.PaidAt,
	}
	if row.Document != nil {
		live.Document = *row.Document
		if err := resolve(s.db.WithContext(ctx), row.WorkspaceID, &live.Document); err != nil {
			return LivePage{}, err
		}
	}
	live.Sources, err = s.Attributable(ctx, row.ID)
	return live, err
}

// PresentAddress is that of a page; ErrNotFound.
func (s *Store) PresentAddress(ctx context.Context, id uuid.UUID) (address string, err error) {
	err = s.db.WithContext(ctx).Raw("select address from addresses where endpoint_id = ? and present", id).Row().Scan(&address)
	if errors.Is(err, sql.ErrNoRows) {
		return "", ErrNotFound
	}
	return address, err
}

// Attributable lists the sources of a page as attribution needs them, retired
// ones included: their visits are still theirs.
func (s *Store) Attributable(ctx context.Context, pageID uuid.UUID) ([]source.Candidate, error) {
	var rows []Source
	err := s.db.WithContext(ctx).Where("page_id = ?", pageID).Preload("Tags", func(db *gorm.DB) *gorm.DB { return db.Order("tag") }).
		Order("created_at, id").Find(&rows).Error
	sources := make([]source.Candidate, len(rows))
	for i, row := range rows {
		sources[i] = source.Candidate{
			ID: row.ID.String(), Tag: row.Tag(), Medium: row.Medium, Names: row.Names,
			Hosts: source.HostsOf(row.Profiles), Networks: row.Networks,
		}
		if row.Since != nil {
			sources[i].Since = *row.Since
		}
		if row.RetiredAt != nil {
			sources[i].Until = *row.RetiredAt
		}
		for _, tag := range row.Tags {
			sources[i].Tags = append(sources[i].Tags, tag.Tag)
		}
	}
	return sources, err
}

// PublishedEdition returns an edition of a page of a workspace by number, leading
// where its destinations lead now, for clicks out of a page that was opened before the
// present one went live.
func (s *Store) PublishedEdition(ctx context.Context, workspace, pageID uuid.UUID, number int) (Edition, error) {
	var edition Edition
	err := s.db.WithContext(ctx).Joins("join pages on pages.id = page_id").
		Where("workspace_id = ? and page_id = ? and number = ?", workspace, pageID, number).Take(&edition).Error
	if err == nil {
		err = resolve(s.db.WithContext(ctx), workspace, &edition.Document)
	}
	return edition, found(err)
}

// pageChannel carries the ID of everything whose public face has changed: a page, a
// short link, or a destination with all that leads there.
const pageChannel = "jundle_page"

// figuresChannel carries the ID of everything that has new figures.
const figuresChannel = "jundle_figures"

// announce tells every process, once the transaction commits, that something has
// changed for its visitors.
func announce(tx *gorm.DB, id uuid.UUID) error {
	return tx.Exec("select pg_notify(?, ?)", pageChannel, id.String()).Error
}

// Listener is told of pages that change for their visitors.
type Listener struct {
	// Began is called each time listening has begun. What was announced before
	// went by unheard.
	Began func()
	// Changed is called with the ID of every page that is announced.
	Changed func(page uuid.UUID)
	// Moved is called with the ID of every workspace whose hosts have changed; it may
	// be nil.
	Moved func(workspace uuid.UUID)
	// Counted is called with the ID of every page and short link that has new figures; it
	// may be nil.
	Counted func(endpoint uuid.UUID)
	// Lost is called when the connection is gone; listening begins again.
	Lost func(err error)
}

// Listen tells a listener of announcements until ctx ends.
func (s *Store) Listen(ctx context.Context, to Listener) {
	for ctx.Err() == nil {
		err := s.listenOnce(ctx, to)
		if ctx.Err() != nil {
			return
		}
		to.Lost(err)
		select {
		case <-ctx.Done():
		case <-time.After(time.Second):
		}
	}
}

func (s *Store) listenOnce(ctx context.Context, to Listener) error {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return fmt.Errorf("listen: %w", err)
	}
	// A connection that listens is not to be used for anything else again.
	raw := conn.Hijack()
	defer raw.Close(context.WithoutCancel(ctx))
	if _, err := raw.Exec(ctx, "listen "+pageChannel+"; listen "+domainChannel+"; listen "+figuresChannel); err != nil {
		return fmt.Errorf("listen: %w", err)
	}
	to.Began()
	for {
		notice, err := raw.WaitForNotification(ctx)
		if err != nil {
			return fmt.Errorf("listen: %w", err)
		}
		id, err := uuid.Parse(notice.Payload)
		switch {
		case err != nil: // nobody of ours says such a thing
		case notice.Channel == pageChannel:
			to.Changed(id)
		case notice.Channel == domainChannel:
			if to.Moved != nil {
				to.Moved(id)
			}
		case to.Counted != nil:
			to.Counted(id)
		}
	}
}

// PublishedPage is a published page as a list of them needs it.
type PublishedPage struct {
	Address     string
	PublishedAt time.Time
	// Document has what the page says of itself, and none of its blocks.
	Document page.Document `gorm:"serializer:json"`
}

// PublishedPages are the published pages of a workspace that are there for visitors, by address.
func (s *Store) PublishedPages(ctx context.Context, workspace uuid.UUID) (all []PublishedPage, err error) {
	err = s.db.WithContext(ctx).Raw(`
		select present.address, editions.published_at,
			editions.document - array['blocks', 'look', 'takeovers', 'trial', 'icons', 'codes'] document
		from pages join endpoints on endpoints.id = pages.id
			join addresses present on present.endpoint_id = pages.id and present.present
			join editions on editions.page_id = pages.id and editions.number = pages.live_edition
		where pages.workspace_id = ? and pages.delete_at is null and endpoints.taken_down_at is null
		order by present.address limit 1000`, workspace).Scan(&all).Error
	return all, err
}
