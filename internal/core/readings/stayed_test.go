package readings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/core/readings"
)

func TestWhoStayedIsARateOfTheVisitsFromEachSource(t *testing.T) {
	const card, film = "0b8ab0f0-5f0c-4d3f-9e3f-3f1f0d7f0a01", "0b8ab0f0-5f0c-4d3f-9e3f-3f1f0d7f0a02"
	reading := readings.Reading{BySource: map[string]readings.Figures{
		card: {Visits: 120}, film: {Visits: 300}, readings.Untagged: {Visits: 2}, readings.Unlisted: {Visits: 40},
	}}
	stayed := readings.StayedBySource(reading, map[string]int{card: 12, "": 3, "host:kiln.example": 1, "campaign:letter": 1})
	assert.Equal(t, []readings.Stayed{
		{Source: card, Rate: readings.NewRate(12, 120)},
		{Source: readings.Unlisted, Rate: readings.NewRate(2, 40)},
		{Source: readings.Untagged, Rate: readings.NewRate(2, 2)},
		{Source: film, Rate: readings.NewRate(0, 300)},
	}, stayed, "no more people than visits, and places on no list together")
}
