package studio_test

import (
	"math/rand/v2"
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAButtonThatFellSilentIsToldWithoutBeingAsked(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	ilse.published("The film")
	off := func() map[string]any { return ilse.send("GET", ilse.page()+"/off", nil).body }
	assert.Nil(t, off()["kind"], "of a new page there is nothing to tell")
	page, random := uuid.MustParse(ilse.pageID()), rand.New(rand.NewPCG(1, 2))
	today := b.now
	for back := 63; back > 0; back-- {
		presses := 8 + random.IntN(8)
		if back <= 2 {
			presses = 0
		}
		b.visits(page, today.AddDate(0, 0, -back), 50+random.IntN(20), presses, "")
	}
	got := off()
	assert.Equal(t, "silent", got["kind"])
	assert.Equal(t, "sale", got["block"])
	assert.Equal(t, "Sale", got["title"])
	assert.EqualValues(t, 0, got["came"])
	assert.InDelta(t, 23, got["expected"], 6)
	assert.Equal(t, today.AddDate(0, 0, -int(got["days"].(float64))).Format(time.DateOnly), got["since"])

	b.visits(page, today.AddDate(0, 0, -1).Add(time.Hour), 60, 14, "")
	assert.Nil(t, off()["kind"], "it is pressed again")
	rolf := b.browser()
	rolf.signUp("rolf-pots")
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", ilse.page()+"/off", nil).status)
	require.Equal(t, http.StatusOK, ilse.send("GET", ilse.page()+"/off", nil).status)
}
