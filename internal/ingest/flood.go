package ingest

import (
	"hash/maphash"
	"sync"
	"time"

	"github.com/google/uuid"

	"jundle/internal/clients"
	"jundle/internal/core/traffic"
)

const (
	// floodShards keep those who count at the same time out of each other's way.
	floodShards = 32
	// perShard bounds how many budgets are remembered. When there are more, those
	// that are whole again are forgotten, and then all: nobody is refused anything.
	perShard = 8192
)

// floodGate remembers how much of its budget each client address has used on each
// page. What it holds of them are hashes under a seed of this process: no address,
// and nothing an address can be found from.
type floodGate struct {
	budget traffic.FloodBudget
	seed   maphash.Seed
	shards [floodShards]floodShard
}

type floodShard struct {
	mu    sync.Mutex
	whole map[uint64]time.Time // when a budget is whole again
}

func newFloodGate(perHour int) *floodGate {
	g := &floodGate{budget: traffic.FloodBudget{PerHour: perHour}, seed: maphash.MakeSeed()}
	for i := range g.shards {
		g.shards[i].whole = make(map[uint64]time.Time)
	}
	return g
}

// within uses up one event of a client's budget for a page, and tells whether there
// was one left.
func (g *floodGate) within(client string, page uuid.UUID, at time.Time) bool {
	var hash maphash.Hash
	hash.SetSeed(g.seed)
	_, _ = hash.Write(page[:])
	_, _ = hash.WriteString(clients.Network(client))
	key := hash.Sum64()
	shard := &g.shards[key%floodShards]
	shard.mu.Lock()
	defer shard.mu.Unlock()
	whole, known := shard.whole[key]
	if !known && len(shard.whole) >= perShard {
		shard.forget(at)
	}
	next, within := g.budget.Take(whole, at)
	shard.whole[key] = next
	return within
}

func (s *floodShard) forget(now time.Time) {
	for key, whole := range s.whole {
		if !whole.After(now) {
			delete(s.whole, key)
		}
	}
	if len(s.whole) >= perShard {
		clear(s.whole)
	}
}
