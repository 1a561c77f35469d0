package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/destination"
)

// ErrManyMerged: as many as can be were merged with one destination.
var ErrManyMerged = errors.New("as many destinations as can be are merged with this one")

// mostMerged is with how many others one destination can be merged.
const mostMerged = 50

// MergeDestinations has one destination of a workspace stand for another: all that leads
// to the other leads where it does from then on. Documents go on naming the other, so
// that it can be taken apart again. ErrNotWeb where a short link leads to the other and
// the one is no web page; ErrManyMerged.
func (s *Store) MergeDestinations(ctx context.Context, workspace, other, into uuid.UUID) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var both []Destination
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("workspace_id = ? and merged_into is null and id in ?", workspace,
			[]uuid.UUID{other, into}).Order("id").Find(&both).Error
		if err != nil {
			return err
		}
		if len(both) != 2 {
			return ErrNotFound
		}
		kept := both[0]
		if kept.ID != into {
			kept = both[1]
		}
		if err := mayLead(tx, workspace, other, destination.Destination{Address: kept.Address, Swaps: kept.Swaps}); err != nil {
			return err
		}
		var together int64
		if err := tx.Model(&Destination{}).Where("merged_into in ?", []uuid.UUID{other, into}).Count(&together).Error; err != nil {
			return err
		}
		if together >= mostMerged {
			return ErrManyMerged
		}
		var moved []uuid.UUID
		err = tx.Raw("update destinations set merged_into = ? where workspace_id = ? and (id = ? or merged_into = ?) returning id", into,
			workspace, other, other).Scan(&moved).Error
		if err != nil {
			return fmt.Errorf("merge destinations: %w", err)
		}
		for _, id := range append(moved, into) {
			if err := announce(tx, id); err != nil {
				return err
			}
		}
		return nil
	})
}

// TakeApart has a destination of a workspace that was merged with another stand for
// itself again. What was saved meanwhile stays with the other. ErrDestinationTaken where
// its address was kept once more.
func (s *Store) TakeApart(ctx context.Context, workspace, id uuid.UUID) error {
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var merged Destination
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("workspace_id = ? and id = ? and merged_into is not null", workspace, id).
			Take(&merged).Error
		if err != nil {
			return found(err)
		}
		if err := mayLead(tx, workspace, id, destination.Destination{Address: merged.Address, Swaps: merged.Swaps}); err != nil {
			return err
		}
		with := *merged.MergedInto
		if err := tx.Model(&merged).Update("merged_into", nil).Error; err != nil {
			return err
		}
		for _, each := range []uuid.UUID{id, with} {
			if err := announce(tx, each); err != nil {
				return err
			}
		}
		return nil
	})
	if violates(err, "destinations_address") {
		return ErrDestinationTaken
	}
	return err
}

// SettleSwaps takes up what swaps of destinations have come to, of at most so many of
// them: where each leads does not change by it.
func (s *Store) SettleSwaps(ctx context.Context, most int, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var due []Destination
		err := tx.Clauses(clause.Locking{Strength: "UPDATE", Options: "SKIP LOCKED"}).
			Where("swap_at <= ?", now).Order("swap_at").Limit(most).Find(&due).Error
		if err != nil {
			return err
		}
		for _, one := range due {
			if err := settle(tx, one, now); err != nil {
				return fmt.Errorf("settle the swaps of %s: %w", one.ID, err)
			}
		}
		return nil
	})
}

func settle(tx *gorm.DB, one Destination, now time.Time) error {
	settled, led := destination.Lead{Address: one.Address, Swaps: one.Swaps}.Settle(now)
	moved := settled.Address != one.Address
	if moved && one.MergedInto == nil {
		var taken bool
		err := tx.Raw(`select exists (select from destinations
			where workspace_id = ? and merged_into is null and md5(address) = md5(?) and id <> ?)`, one.WorkspaceID, settled.Address, one.ID).
			Scan(&taken).Error
		if err != nil {
			return err
		}
		if taken {
			// The address is kept as another destination: this one leads there by its swap.
			return tx.Model(&one).Update("swap_at", nil).Error
		}
	}
	for _, each := range led {
		err := tx.Exec(`insert into destination_addresses (destination_id, address, since) values (?, ?, ?)
			on conflict (destination_id, since) do nothing`, one.ID, each.Address, each.Since).Error
		if err != nil {
			return err
		}
	}
	one.Address, one.Swaps, one.SwapAt = settled.Address, append(destination.Swaps{}, settled.Swaps...), nil
	if at := settled.Swaps.NextSettled(); !at.IsZero() {
		one.SwapAt = &at
	}
	if moved {
		if err := tx.Exec("update destinations set next_check_at = ? where id = ?", now, one.ID).Error; err != nil {
			return err
		}
	}
	// Whoever is editing it is told that it has changed.
	one.Revision++
	if err := tx.Select("address", "swaps", "swap_at", "revision").Save(&one).Error; err != nil {
		return err
	}
	return announce(tx, one.ID)
}
