package livefigures_test

import (
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"jundle/internal/livefigures"
)

func TestWhoFollowsAPageHearsOfItsFiguresAndNoOthers(t *testing.T) {
	hub := livefigures.NewHub()
	page, other := uuid.New(), uuid.New()
	first, second := hub.Follow(page), hub.Follow(other)
	hub.Changed(page)
	hub.Changed(page)
	assert.Len(t, first.New, 1, "what was not read yet is said once")
	assert.Empty(t, second.New)
	<-first.New
	hub.AllChanged()
	assert.Len(t, first.New, 1)
	assert.Len(t, second.New, 1)
	hub.Leave(first)
	<-first.New
	hub.Changed(page)
	assert.Empty(t, first.New)
}

func TestNobodyFollowsAHubThatHasEnded(t *testing.T) {
	hub := livefigures.NewHub()
	page := uuid.New()
	before := hub.Follow(page)
	hub.End()
	_, more := <-before.New
	assert.False(t, more)
	after := hub.Follow(page)
	_, more = <-after.New
	assert.False(t, more)
	hub.Changed(page)
	hub.Leave(before)
}

func TestManyMayComeAndGoAtOnce(t *testing.T) {
	hub := livefigures.NewHub()
	page := uuid.New()
	var all sync.WaitGroup
	for range 50 {
		all.Go(func() {
			follower := hub.Follow(page)
			hub.Changed(page)
			<-follower.New
			hub.Leave(follower)
		})
	}
	all.Wait()
	hub.End()
}
