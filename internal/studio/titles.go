package studio

import (
	"context"
	"sync"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/store"
)

// titleBook remembers what the blocks of pages were called on their editions, so
// that figures of what is gone have a name. An edition never changes, so each is
// read once.
type titleBook struct {
	store *store.Store
	pages *lru.Cache[uuid.UUID, *pageTitles]
}

// pageTitles are those of one page, up to an edition.
type pageTitles struct {
	mu     sync.Mutex
	upTo   int
	titles map[string]string
}

func newTitleBook(s *store.Store) *titleBook {
	const pages = 2000
	book, _ := lru.New[uuid.UUID, *pageTitles](pages)
	return &titleBook{s, book}
}

// of names blocks of a page by what the last edition with them called them.
func (b *titleBook) of(ctx context.Context, workspace, pageID uuid.UUID, keys []string) (map[string]string, error) {
	if len(keys) == 0 {
		return nil, nil
	}
	known, ok := b.pages.Get(pageID)
	if !ok {
		known = &pageTitles{titles: make(map[string]string)}
		b.pages.Add(pageID, known)
	}
	known.mu.Lock()
	defer known.mu.Unlock()
	err := b.store.EachEdition(ctx, workspace, pageID, known.upTo, func(edition store.Edition) error {
		for _, row := range edition.Document.Rows() {
			known.titles[row.Key] = row.Title
		}
		known.upTo = edition.Number
		return nil
	})
	named := make(map[string]string, len(keys))
	for _, key := range keys {
		named[key] = known.titles[key]
	}
	return named, err
}

// goneFrom lists the blocks with figures that are not on a working copy.
func goneFrom(draft page.Document, blocks []readings.BlockReading) []string {
	there := map[string]bool{}
	for _, row := range draft.Rows() {
		there[row.Key] = true
	}
	for _, block := range draft.Blocks {
		there[block.Key] = true
	}
	var gone []string
	for _, block := range blocks {
		if !there[block.Block] {
			gone = append(gone, block.Block)
		}
	}
	return gone
}
