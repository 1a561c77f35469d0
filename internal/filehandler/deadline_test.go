package filehandler

import (
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestWhoeverGoesOnTakingAFileIsWaitedForAndWhoeverStopsIsNot(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var until time.Time
		times := 0
		d := deadline{set: func(next time.Time) error { until = next; times++; return nil }}
		begun := time.Now()
		for range 600 { // ten minutes, a piece a second
			d.renew()
			d.renew() // pieces that come quickly cost nothing
			assert.True(t, until.After(time.Now().Add(patience-time.Second)))
			time.Sleep(time.Second)
		}
		assert.Equal(t, 600, times)
		assert.Equal(t, begun.Add(599*time.Second+patience), until)
	})
}
