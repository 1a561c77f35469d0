package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
)

// ShortLink is a short link with its addresses.
type ShortLink struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Link        shortlink.Link `gorm:"serializer:json"`
	// Revision rises by one with every change.
	Revision int64
	// DeleteAt is when the link is gone for good, nil unless it was deleted.
	DeleteAt  *time.Time
	CreatedAt time.Time
	// TakenDownAt is when whoever runs the service took it away from visitors; LiveLink alone says so.
	TakenDownAt *time.Time `gorm:"-"`
	// Addresses are the present one and those before it, latest first.
	Addresses []Address `gorm:"foreignKey:EndpointID"`
}

// Address is the present one.
func (l ShortLink) Address() string {
	for _, address := range l.Addresses {
		if address.Present {
			return address.Address
		}
	}
	return ""
}

// NewShortLink is what a short link is made from.
type NewShortLink struct {
	Address string
	Link    shortlink.Link
}

// AddShortLink makes a short link; ErrAddressTaken when the address is or ever was
// somebody's, a *QuotaError when the workspace can hold no more.
func (s *Store) AddShortLink(ctx context.Context, workspace uuid.UUID, made NewShortLink, now time.Time) (ShortLink, error) {
	added := ShortLink{WorkspaceID: workspace, Link: made.Link, Revision: 1, CreatedAt: now}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) (err error) {
		if err := hold(tx, workspace); err != nil {
			return err
		}
		if err := s.roomForShortLink(tx, workspace); err != nil {
			return err
		}
		if err := s.keepDestinations(tx, workspace, linksOfShortLink(&added.Link)); err != nil {
			return err
		}
		if added.ID, err = createEndpoint(tx, workspace, made.Address, now); err != nil {
			return err
		}
		if err := tx.Omit("Addresses").Create(&added).Error; err != nil {
			return err
		}
		return announce(tx, added.ID)
	})
	if err != nil {
		return ShortLink{}, err
	}
	return s.ShortLink(ctx, workspace, added.ID)
}

// TakenAddresses tells which of these addresses lead somewhere already, or are withheld.
func (s *Store) TakenAddresses(ctx context.Context, addresses []string, now time.Time) (map[string]bool, error) {
	var rows []string
	err := s.db.WithContext(ctx).Raw(`select address from addresses where domain_id = ? and address in ?
		union select address from withheld_addresses where domain_id = ? and address in ? and until > ?`,
		SharedDomain, addresses, SharedDomain, addresses, now).Scan(&rows).Error
	taken := make(map[string]bool, len(rows))
	for _, address := range rows {
		taken[address] = true
	}
	return taken, err
}

func (s *Store) shortLinks(ctx context.Context, workspace uuid.UUID) *gorm.DB {
	return s.db.WithContext(ctx).Where("workspace_id = ?", workspace).
		Preload("Addresses", func(db *gorm.DB) *gorm.DB { return db.Order("present desc, since desc, address") })
}

// ShortLinks lists the short links of a workspace, latest first.
func (s *Store) ShortLinks(ctx context.Context, workspace uuid.UUID) ([]ShortLink, error) {
	var links []ShortLink
	err := s.shortLinks(ctx, workspace).Order("created_at desc, id desc").Find(&links).Error
	if err == nil {
		err = resolveShortLinks(s.db.WithContext(ctx), workspace, links)
	}
	return links, err
}

// ShortLinksPart is ShortLinks for at most so many, after a place.
func (s *Store) ShortLinksPart(ctx context.Context, workspace uuid.UUID, after *Place, most int) ([]ShortLink, error) {
	var links []ShortLink
	query := after.after(s.shortLinks(ctx, workspace), "created_at, id", "<")
	err := query.Order("created_at desc, id desc").Limit(most).Find(&links).Error
	if err == nil {
		err = resolveShortLinks(s.db.WithContext(ctx), workspace, links)
	}
	return links, err
}

// ShortLink finds one short link of a workspace.
func (s *Store) ShortLink(ctx context.Context, workspace, id uuid.UUID) (ShortLink, error) {
	var one ShortLink
	err := s.shortLinks(ctx, workspace).Where("id = ?", id).Take(&one).Error
	return s.resolved(ctx, one, err)
}

// SaveShortLink replaces what a short link is when it is still at revision, and
// returns it as it then is. Otherwise it answers ErrStale with the link as it
// stands.
func (s *Store) SaveShortLink(ctx context.Context, workspace, id uuid.UUID, revision int64, link shortlink.Link) (ShortLink, error) {
	stale := false
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := s.keepDestinations(tx, workspace, linksOfShortLink(&link)); err != nil {
			return err
		}
		done := tx.Model(&ShortLink{}).Where("id = ? and workspace_id = ? and revision = ?", id, workspace, revision).
			Select("link", "revision").Updates(&ShortLink{Link: link, Revision: revision + 1})
		if done.Error != nil {
			return done.Error
		}
		if stale = done.RowsAffected == 0; stale {
			return ErrStale
		}
		return announce(tx, id)
	})
	if err != nil && !stale {
		return ShortLink{}, err
	}
	saved, err := s.ShortLink(ctx, workspace, id)
	if err == nil && stale {
		err = ErrStale
	}
	return saved, err
}

// ReaddressShortLink gives a short link another address; the old one keeps leading
// there. It answers ErrAddressTaken when the address is or ever was another's.
func (s *Store) ReaddressShortLink(ctx context.Context, workspace, id uuid.UUID, address string, now time.Time) (ShortLink, error) {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Select("id").Where("id = ? and workspace_id = ?", id, workspace).Take(&ShortLink{}).Error; err != nil {
			return found(err)
		}
		if err := s.readdress(tx, workspace, id, address, now); err != nil {
			return err
		}
		return announce(tx, id)
	})
	if err != nil {
		return ShortLink{}, err
	}
	return s.ShortLink(ctx, workspace, id)
}

// LiveLink finds the short link that a present or past address leads to.
func (s *Store) LiveLink(ctx context.Context, address string) (ShortLink, error) {
	var live ShortLink
	err := s.db.WithContext(ctx).Preload("Addresses", "present").Joins("join addresses on addresses.endpoint_id = short_links.id").
		Where("addresses.domain_id = ? and addresses.address = ?", SharedDomain, address).Take(&live).Error
	if err == nil {
		live.TakenDownAt, _, err = s.TakenDown(ctx, live.WorkspaceID, live.ID)
	}
	return s.resolved(ctx, live, err)
}

// resolved is a short link that was read, leading where its destinations lead now.
func (s *Store) resolved(ctx context.Context, link ShortLink, err error) (ShortLink, error) {
	one := []ShortLink{link}
	if err == nil {
		err = resolveShortLinks(s.db.WithContext(ctx), link.WorkspaceID, one)
	}
	return one[0], found(err)
}

// linksOfShortLink are the places of a short link that lead to a destination.
func linksOfShortLink(link *shortlink.Link) func(visit func(page.Link)) {
	return func(visit func(page.Link)) {
		visit(page.Link{Address: &link.Destination, DestinationID: &link.DestinationID, Title: link.Name})
		if link.Fallback == "" {
			link.FallbackID = ""
			return
		}
		visit(page.Link{Address: &link.Fallback, DestinationID: &link.FallbackID, Title: link.Name})
	}
}

// resolveShortLinks writes into short links of a workspace where their destinations
// lead now.
func resolveShortLinks(tx *gorm.DB, workspace uuid.UUID, links []ShortLink) error {
	var ids []string
	for i := range links {
		for _, id := range []string{links[i].Link.DestinationID, links[i].Link.FallbackID} {
			if destination.IsID(id) {
				ids = append(ids, id)
			}
		}
	}
	leads, err := addressesOf(tx, workspace, ids)
	if err != nil {
		return err
	}
	for i := range links {
		links[i].Link.Resolve(leads)
	}
	return nil
}
