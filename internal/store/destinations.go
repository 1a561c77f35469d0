package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/address"
	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/picture"
)

// Destination is an address that a workspace keeps once.
type Destination struct {
	ID          uuid.UUID `gorm:"primaryKey"`
	WorkspaceID uuid.UUID
	Address     string
	Title       string
	Note        string
	Labels      []string         `gorm:"serializer:json"`
	Picture     *picture.Picture `gorm:"serializer:json"`
	// Swaps are windows in which it leads somewhere else; SwapAt is when one is over, or
	// has begun for good.
	Swaps  destination.Swaps `gorm:"serializer:json"`
	SwapAt *time.Time
	// MergedInto is the destination that stands for it; nil for one that stands for
	// itself.
	MergedInto *uuid.UUID
	// Revision rises by one with every change.
	Revision  int64
	CreatedAt time.Time
	// EditedAt is when a creator last said something of it, nil for one that was made
	// quietly.
	EditedAt *time.Time
}

// FormerAddress is where a destination led from a moment on.
type FormerAddress struct {
	Address string    `json:"address"`
	Since   time.Time `json:"since"`
}

// DestinationUses are what leads to a destination: pages by their working copies or
// what visitors see of them, and short links.
type DestinationUses struct {
	Pages      []DestinationUse
	ShortLinks []DestinationUse
}

// DestinationUse is a page or a short link that leads to a destination, in so many
// places: of a page those of its working copy.
type DestinationUse struct {
	ID     uuid.UUID
	Name   string
	Places int
}

// Errors of changing a destination.
var (
	// ErrDestinationTaken: the workspace keeps that address already.
	ErrDestinationTaken = errors.New("address already kept as another destination")
	// ErrNotWeb: something that has to lead to a web page refers to it.
	ErrNotWeb = errors.New("not the address of a web page")
)

// Destinations lists destinations of a workspace, latest first, at most so many,
// after a place: all, or those with a text in what is said of them.
func (s *Store) Destinations(ctx context.Context, workspace uuid.UUID, search string, after *Place, most int) ([]Destination, error) {
	var all []Destination
	query := after.after(s.db.WithContext(ctx).Where("workspace_id = ? and merged_into is null", workspace), "created_at, id", "<")
	if search != "" {
		like := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(search) + "%"
		query = query.Where("address ilike ? or title ilike ? or note ilike ? or labels::text ilike ?", like, like, like, like)
	}
	err := query.Order("created_at desc, id desc").Limit(most).Find(&all).Error
	return all, err
}

// Destination finds one destination of a workspace.
func (s *Store) Destination(ctx context.Context, workspace, id uuid.UUID) (Destination, error) {
	var one Destination
	err := s.db.WithContext(ctx).Where("workspace_id = ? and id = ? and merged_into is null", workspace, id).Take(&one).Error
	return one, found(err)
}

// MergedInto lists the destinations of a workspace that were merged with one, latest
// first.
func (s *Store) MergedInto(ctx context.Context, workspace, id uuid.UUID) ([]Destination, error) {
	var all []Destination
	err := s.db.WithContext(ctx).Where("workspace_id = ? and merged_into = ?", workspace, id).Order("created_at desc, id").Find(&all).Error
	return all, err
}

// HistoryOf lists where a destination of a workspace led, latest first.
func (s *Store) HistoryOf(ctx context.Context, workspace, id uuid.UUID) ([]FormerAddress, error) {
	var all []FormerAddress
	err := s.db.WithContext(ctx).Table("destination_addresses").Joins("join destinations on destinations.id = destination_id").
		Where("workspace_id = ? and destination_id = ?", workspace, id).
		Select("destination_addresses.address, since").Order("since desc").Find(&all).Error
	return all, err
}

// UsesOf lists what leads to a destination of a workspace.
func (s *Store) UsesOf(ctx context.Context, workspace, id uuid.UUID) (uses DestinationUses, err error) {
	pages, err := s.pool.Query(ctx, `
		select pages.id, coalesce(nullif(draft->'header'->>'name', ''), address),
			regexp_count(draft::text, array_to_string(ids_of_destination($2), '|'))
		from pages join addresses on endpoint_id = pages.id and present
		where workspace_id = $1 and (pages.destinations && ids_of_destination($2) or exists (
			select from editions where page_id = pages.id and number = live_edition and editions.destinations && ids_of_destination($2)))
		order by created_at, pages.id`, workspace, id)
	if err != nil {
		return uses, err
	}
	if uses.Pages, err = pgx.CollectRows(pages, pgx.RowToStructByPos[DestinationUse]); err != nil {
		return uses, fmt.Errorf("find the pages that lead to a destination: %w", err)
	}
	links, err := s.pool.Query(ctx, `
		select id, link->>'name', 1 from short_links where workspace_id = $1 and destinations && ids_of_destination($2)
		order by created_at, id limit 500`, workspace, id)
	if err != nil {
		return uses, err
	}
	if uses.ShortLinks, err = pgx.CollectRows(links, pgx.RowToStructByPos[DestinationUse]); err != nil {
		return uses, fmt.Errorf("find the short links that lead to a destination: %w", err)
	}
	return uses, nil
}

// EachDestination hands out every destination of a workspace with where it led, latest
// first, one at a time.
func (s *Store) EachDestination(ctx context.Context, workspace uuid.UUID, take func(Destination, []FormerAddress) error) error {
	rows, err := s.pool.Query(ctx, `
		select id, address, title, note, labels, created_at, swaps, merged_into, (
			select json_agg(json_build_object('address', led.address, 'since', led.since) order by led.since desc)
			from destination_addresses led where destination_id = destinations.id)
		from destinations where workspace_id = $1 order by created_at desc, id desc`, workspace)
	if err != nil {
		return err
	}
	one := Destination{WorkspaceID: workspace}
	var labels, swaps, history []byte
	_, err = pgx.ForEachRow(rows, []any{
		&one.ID, &one.Address, &one.Title, &one.Note, &labels, &one.CreatedAt, &swaps, &one.MergedInto, &history,
	}, func() error {
		var led []FormerAddress
		one.Labels, one.Swaps = nil, nil
		err := errors.Join(json.Unmarshal(labels, &one.Labels), json.Unmarshal(swaps, &one.Swaps), json.Unmarshal(history, &led))
		if err != nil {
			return err
		}
		return take(one, led)
	})
	return err
}

// historyKept is how many addresses of a destination are kept.
const historyKept = 200

// SaveDestination replaces what is said of a destination when it is still at
// revision, and returns it as it then is; otherwise it answers ErrStale with the
// destination as it stands. All that refers to it leads to its address from then on.
// It answers ErrDestinationTaken, and ErrNotWeb for an address that a short link
// cannot lead to.
func (s *Store) SaveDestination(
	ctx context.Context,
	workspace, user, id uuid.UUID,
	revision int64,
	said destination.Destination,
	now time.Time,
) (
	Destination, error,
) {
	var one Destination
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("workspace_id = ? and id = ? and merged_into is null", workspace, id).
			Take(&one).Error
		if err != nil {
			return found(err)
		}
		if one.Revision != revision {
			return ErrStale
		}
		moved, swapped := one.Address != said.Address, !one.Swaps.Equal(said.Swaps)
		if moved || swapped {
			if err := mayLead(tx, workspace, id, said); err != nil {
				return err
			}
		}
		said = said.Following(one.Address, one.Title, one.EditedAt == nil)
		one.Address, one.Title, one.Note, one.Picture = said.Address, said.Title, said.Note, said.Picture
		one.Labels = append([]string{}, said.Labels...)
		one.Swaps, one.SwapAt = append(destination.Swaps{}, said.Swaps...), nil
		if at := said.Swaps.NextSettled(); !at.IsZero() {
			one.SwapAt = &at
		}
		one.Revision, one.EditedAt = revision+1, &now
		if err := tx.Save(&one).Error; err != nil {
			return err
		}
		if !moved && !swapped {
			return nil
		}
		if moved {
			if err := addHistory(tx, id, user, said.Address); err != nil {
				return err
			}
		}
		if err := tx.Exec("update destinations set next_check_at = ? where id = ?", now, id).Error; err != nil {
			return err
		}
		return announce(tx, id)
	})
	switch {
	case violates(err, "destinations_address"):
		return Destination{}, ErrDestinationTaken
	case errors.Is(err, ErrStale):
		return one, err
	}
	return one, err
}

// mayLead answers ErrNotWeb where a short link leads to a destination that is to lead to
// something else than a web page at any time.
func mayLead(tx *gorm.DB, workspace, id uuid.UUID, said destination.Destination) error {
	web := destination.IsWeb(said.Address)
	for _, swap := range said.Swaps {
		web = web && destination.IsWeb(swap.Address)
	}
	if web {
		return nil
	}
	var linked bool
	err := tx.Raw("select exists (select from short_links where workspace_id = ? and destinations && ids_of_destination(?))", workspace, id).
		Scan(&linked).Error
	if err == nil && linked {
		err = ErrNotWeb
	}
	return err
}

func addHistory(tx *gorm.DB, id, user uuid.UUID, address string) error {
	err := tx.Exec("insert into destination_addresses (destination_id, address, user_id, since) values (?, ?, ?, clock_timestamp())",
		id, address, user).Error
	if err != nil {
		return fmt.Errorf("note where a destination led: %w", err)
	}
	return tx.Exec(`delete from destination_addresses where destination_id = ? and since <= (
		select since from destination_addresses where destination_id = ? order by since desc offset ? limit 1)`, id, id, historyKept).Error
}

// resolve writes into documents of a workspace where their destinations lead now, and what
// their feeds have.
func resolve(tx *gorm.DB, workspace uuid.UUID, documents ...*page.Document) error {
	var ids []string
	for _, document := range documents {
		ids = append(ids, document.DestinationIDs()...)
	}
	leads, err := addressesOf(tx, workspace, ids)
	if err != nil {
		return err
	}
	for _, document := range documents {
		document.Resolve(leads)
	}
	return fillFeeds(tx, workspace, documents...)
}

// addressesOf finds where destinations of a workspace lead, by their IDs. Those of
// another workspace are not found; of those that were merged with another it is that
// one's.
func addressesOf(tx *gorm.DB, workspace uuid.UUID, ids []string) (map[string]destination.Lead, error) {
	leads := make(map[string]destination.Lead, len(ids))
	if len(ids) == 0 {
		return leads, nil
	}
	var rows []struct {
		Asked   string
		ID      string
		Address string
		Swaps   destination.Swaps `gorm:"serializer:json"`
	}
	err := tx.Table("destinations asked").Joins("join destinations kept on kept.id = coalesce(asked.merged_into, asked.id)").
		Where("asked.workspace_id = ? and asked.id in ?", workspace, ids).
		Select("asked.id::text asked, kept.id::text, kept.address, kept.swaps").Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("find where destinations lead: %w", err)
	}
	for _, row := range rows {
		leads[row.Asked] = destination.Lead{ID: row.ID, Address: row.Address, Swaps: row.Swaps}
	}
	return leads, nil
}

// reference is a place that leads to a destination.
type reference struct {
	destination.Reference
	title string
}

// keepDestinations finds or makes the destination of every link of a workspace, and
// writes into the link its ID and where it leads now. A *QuotaError when the
// workspace can keep no more of them.
func (s *Store) keepDestinations(tx *gorm.DB, workspace uuid.UUID, links func(visit func(page.Link))) error {
	var all []reference
	links(func(link page.Link) {
		all = append(all, reference{destination.Reference{Address: *link.Address, ID: *link.DestinationID}, link.Title})
	})
	known, err := knownDestinations(tx, workspace, all)
	if err != nil {
		return err
	}
	var typed []*reference
	for i := range all {
		if named, ok := known[all[i].ID]; ok && all[i].Meant(named) {
			all[i].Address, all[i].ID = named.Address, named.Kept
		} else {
			typed = append(typed, &all[i])
		}
	}
	if err := s.keepTyped(tx, workspace, typed); err != nil {
		return err
	}
	if err := nameAfter(tx, workspace, all); err != nil {
		return err
	}
	next := 0
	links(func(link page.Link) {
		*link.Address, *link.DestinationID = all[next].Address, all[next].ID
		next++
	})
	return nil
}

// nameAfter calls destinations that have no name but that of their host after the first
// place that leads there: what a site says of itself comes a moment after its address.
func nameAfter(tx *gorm.DB, workspace uuid.UUID, all []reference) error {
	type name struct {
		ID    string `json:"id"`
		Title string `json:"title"`
		Host  string `json:"host"`
	}
	var names []name
	seen := make(map[string]bool)
	for _, each := range all {
		link, err := address.ParseLink(each.Address)
		if err != nil || !destination.IsID(each.ID) || each.title == "" || each.title == link.Name() || seen[each.ID] {
			continue
		}
		seen[each.ID] = true
		names = append(names, name{each.ID, each.title, link.Name()})
	}
	if len(names) == 0 {
		return nil
	}
	given, err := json.Marshal(names)
	if err != nil {
		return err
	}
	err = tx.Exec(`
		update destinations set title = named.title
		from jsonb_to_recordset(?::jsonb) as named (id uuid, title text, host text)
		where workspace_id = ? and destinations.id = named.id and edited_at is null and destinations.title = named.host`,
		string(given), workspace).Error
	if err != nil {
		return fmt.Errorf("name destinations: %w", err)
	}
	return nil
}

// knownDestinations reads the destinations that references name, with the addresses
// they had.
func knownDestinations(tx *gorm.DB, workspace uuid.UUID, all []reference) (map[string]destination.Known, error) {
	var ids []string
	for _, each := range all {
		if destination.IsID(each.ID) {
			ids = append(ids, each.ID)
		}
	}
	known := make(map[string]destination.Known, len(ids))
	leads, err := addressesOf(tx, workspace, ids)
	if err != nil || len(leads) == 0 {
		return known, err
	}
	for id, lead := range leads {
		known[id] = destination.Known{ID: id, Address: lead.Address, Kept: lead.ID}
	}
	// Their history is asked for only where an address is not the present one.
	var changed []string
	for _, each := range all {
		if named, ok := known[each.ID]; ok && named.Address != each.Address {
			changed = append(changed, each.ID)
		}
	}
	if len(changed) == 0 {
		return known, nil
	}
	var former []struct{ DestinationID, Address string }
	err = tx.Raw("select destination_id::text, address from destination_addresses where destination_id in ?", changed).Scan(&former).Error
	for _, row := range former {
		named := known[row.DestinationID]
		named.Former = append(named.Former, row.Address)
		known[row.DestinationID] = named
	}
	return known, err
}

// keepTyped finds or makes the destinations of references by their addresses.
func (s *Store) keepTyped(tx *gorm.DB, workspace uuid.UUID, typed []*reference) error {
	if len(typed) == 0 {
		return nil
	}
	ids, err := destinationsAt(tx, workspace, typed)
	if err != nil {
		return err
	}
	if missing := withoutDestination(typed, ids); len(missing) > 0 {
		if err := s.addDestinations(tx, workspace, missing); err != nil {
			return err
		}
		if ids, err = destinationsAt(tx, workspace, typed); err != nil {
			return err
		}
	}
	for _, each := range typed {
		each.ID = ids[each.Address]
	}
	return nil
}

// destinationsAt finds the destinations that lead where references lead: IDs by
// address.
func destinationsAt(tx *gorm.DB, workspace uuid.UUID, typed []*reference) (map[string]string, error) {
	addresses := make([]string, len(typed))
	for i, each := range typed {
		addresses[i] = each.Address
	}
	var rows []struct{ ID, Address string }
	err := tx.Raw(`
		select id::text, address from destinations
		where workspace_id = ? and merged_into is null and md5(address) in (select md5(a) from unnest(string_to_array(?, E'\n')) as a)`,
		workspace, strings.Join(addresses, "\n")).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("find destinations by address: %w", err)
	}
	ids := make(map[string]string, len(rows))
	for _, row := range rows {
		ids[row.Address] = row.ID
	}
	return ids, nil
}

// withoutDestination are references whose address is not among those found, each
// address once and in order, so that two saves at once do not lock each other out.
func withoutDestination(typed []*reference, found map[string]string) []*reference {
	var missing []*reference
	for _, each := range typed {
		if found[each.Address] == "" {
			missing = append(missing, each)
		}
	}
	slices.SortStableFunc(missing, func(a, b *reference) int { return strings.Compare(a.Address, b.Address) })
	return slices.CompactFunc(missing, func(a, b *reference) bool { return a.Address == b.Address })
}

// addDestinations makes destinations quietly, called after what leads there.
func (s *Store) addDestinations(tx *gorm.DB, workspace uuid.UUID, typed []*reference) error {
	if err := hold(tx, workspace); err != nil {
		return err
	}
	if err := s.roomForDestinations(tx, workspace, len(typed)); err != nil {
		return err
	}
	type made struct {
		ID      uuid.UUID `json:"id"`
		Address string    `json:"address"`
		Title   string    `json:"title"`
	}
	all := make([]made, len(typed))
	for i, each := range typed {
		title := []rune(strings.TrimSpace(each.title))
		all[i] = made{newID(), each.Address, string(title[:min(len(title), destination.MaxTitle)])}
	}
	list, err := json.Marshal(all)
	if err != nil {
		return err
	}
	err = tx.Exec(`
		with made as (
			insert into destinations (id, workspace_id, address, title)
			select id, ?, address, title from jsonb_to_recordset(?) as t (id uuid, address text, title text)
			on conflict (workspace_id, md5(address)) where merged_into is null do nothing returning id, address
		)
		insert into destination_addresses (destination_id, address) select id, address from made`, workspace, string(list)).Error
	if err != nil {
		return fmt.Errorf("keep destinations: %w", err)
	}
	return nil
}

// destinationGrace is for how long a destination that was made quietly and that
// nothing refers to is kept: an edit may be undone.
const destinationGrace = 7 * 24 * time.Hour

const destinationUsed = `(
	exists (select from pages
		where pages.workspace_id = destinations.workspace_id and pages.destinations && ids_of_destination(destinations.id))
	or exists (select from editions where editions.destinations && ids_of_destination(destinations.id))
	or exists (select from short_links where short_links.workspace_id = destinations.workspace_id
		and short_links.destinations && ids_of_destination(destinations.id)))`

// CollectDestinations deletes destinations that were made quietly a while ago and
// that nothing refers to, no older edition either. It returns how many; at most so
// many at a time.
func (s *Store) CollectDestinations(ctx context.Context, most int, now time.Time) (int64, error) {
	done := s.db.WithContext(ctx).Exec(`
		delete from destinations where id in (
			select id from destinations where edited_at is null and created_at < ? and not `+destinationUsed+`
			order by created_at limit ? for update skip locked)`, now.Add(-destinationGrace), most)
	if done.Error != nil {
		return 0, fmt.Errorf("collect destinations that nothing refers to: %w", done.Error)
	}
	return done.RowsAffected, nil
}
