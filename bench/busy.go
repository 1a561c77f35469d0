package main

import (
	"context"
	"encoding/binary"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

const (
	busyEvents  = 100_000
	busyBatches = 40
	batchEvents = 500
)

// busyVisitor measures how long a batch takes that brings an event of a visitor with a
// hundred thousand of them today, beside the same batch without.
func busyVisitor(ctx context.Context, s *store.Store, live store.LivePage) error {
	const busy, first = 1, 1 << 40 // visitors nobody else is
	if err := s.RecordEvents(ctx, viewsOf(live, busyEvents, func(int) uint64 { return busy })); err != nil {
		return err
	}
	took := map[bool][]time.Duration{}
	for n := range 2 * busyBatches {
		with := n%2 == 0
		batch := viewsOf(live, batchEvents, func(i int) uint64 {
			if with && i == 0 {
				return busy
			}
			return uint64(first + n*batchEvents + i)
		})
		began := time.Now()
		if err := s.RecordEvents(ctx, batch); err != nil {
			return err
		}
		took[with] = append(took[with], time.Since(began))
	}
	median := func(of []time.Duration) time.Duration {
		slices.Sort(of)
		return of[len(of)/2]
	}
	with, without := median(took[true]), median(took[false])
	fmt.Printf("A batch of %d events with one of a visitor who has %d today: %.1f ms, without: %.1f ms, ratio %.2f (at most 1.5).\n",
		batchEvents, busyEvents, with.Seconds()*1000, without.Seconds()*1000, float64(with)/float64(without))
	return nil
}

// viewsOf are so many views of a page today, each of the visitor who is said for it.
func viewsOf(live store.LivePage, events int, who func(int) uint64) []store.Event {
	today := time.Now().UTC().Truncate(24 * time.Hour)
	batch := make([]store.Event, events)
	for i := range batch {
		batch[i] = store.Event{
			ID: uuid.Must(uuid.NewV7()), At: today.Add(time.Duration(i) * 800 * time.Millisecond), EndpointID: live.PageID, Edition: 1,
			Kind: traffic.View, UserAgent: phone, Rules: traffic.RulesVersion,
			Attribution: source.Attribution{Source: live.Sources[0].ID, By: source.ByTag},
		}
		binary.BigEndian.PutUint64(batch[i].Visitor[:], who(i))
	}
	return batch
}
