package ingest

import (
	"fmt"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func TestABudgetIsThatOfOneHouseholdOnOnePage(t *testing.T) {
	gate := newFloodGate(10)
	page, other := uuid.New(), uuid.New()
	within := func(client string, page uuid.UUID) (n int) {
		for range 30 {
			if gate.within(client, page, noon) {
				n++
			}
		}
		return n
	}
	assert.Equal(t, 10, within("2001:db8::1", page))
	assert.Zero(t, within("2001:db8::2", page), "another address of the same household")
	assert.Equal(t, 10, within("2001:db8:0:1::1", page))
	assert.Equal(t, 10, within("192.0.2.1", page))
	assert.Equal(t, 10, within("192.0.2.1", other))
	assert.Zero(t, within("::ffff:192.0.2.1", page), "the same in another writing")
}

func TestWhoeverComesFromEverywhereFillsNoMemory(t *testing.T) {
	gate := newFloodGate(80)
	page := uuid.New()
	for i := range 2 * floodShards * perShard {
		gate.within(fmt.Sprintf("2001:db8:%x:%x::1", i>>16, i&0xffff), page, noon)
	}
	held := 0
	for i := range gate.shards {
		held += len(gate.shards[i].whole)
	}
	assert.LessOrEqual(t, held, floodShards*perShard)
}
