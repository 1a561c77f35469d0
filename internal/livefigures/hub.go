// Package livefigures tells those who look at figures that there are new ones. It knows
// nothing of the figures themselves.
package livefigures

import (
	"sync"

	"github.com/google/uuid"
)

// Hub passes on which page or short link has new figures. It is safe for concurrent use.
type Hub struct {
	mu     sync.Mutex
	follow map[uuid.UUID]map[*Follower]bool
	ended  bool
}

// Follower hears of one page or short link.
type Follower struct {
	// New has something in it when there are new figures since it was last read; it is closed
	// when there will be no more.
	New chan struct{}
	of  uuid.UUID
}

// NewHub makes one that nobody follows yet.
func NewHub() *Hub { return &Hub{follow: make(map[uuid.UUID]map[*Follower]bool)} }

// Follow begins to hear of something. Whoever follows says Leave in the end.
func (h *Hub) Follow(of uuid.UUID) *Follower {
	follower := &Follower{New: make(chan struct{}, 1), of: of}
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.ended {
		close(follower.New)
		return follower
	}
	if h.follow[of] == nil {
		h.follow[of] = make(map[*Follower]bool)
	}
	h.follow[of][follower] = true
	return follower
}

// Leave ends that somebody follows.
func (h *Hub) Leave(follower *Follower) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.follow[follower.of], follower)
	if len(h.follow[follower.of]) == 0 {
		delete(h.follow, follower.of)
	}
}

// Changed says that something has new figures.
func (h *Hub) Changed(of uuid.UUID) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for follower := range h.follow[of] {
		follower.tell()
	}
}

// AllChanged says that everything may have new figures: what was said meanwhile went unheard.
func (h *Hub) AllChanged() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, followers := range h.follow {
		for follower := range followers {
			follower.tell()
		}
	}
}

// End tells all who follow that there will be no more.
func (h *Hub) End() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, followers := range h.follow {
		for follower := range followers {
			close(follower.New)
		}
	}
	h.follow, h.ended = make(map[uuid.UUID]map[*Follower]bool), true
}

// tell leaves word, unless there is some that was not read yet.
func (f *Follower) tell() {
	select {
	case f.New <- struct{}{}:
	default:
	}
}
