package public_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/traffic"
)

func TestAClickOnAPlainAddressIsCountedByWhatTheBrowserTells(t *testing.T) {
	s := open(t)
	card := s.source("Card", "card")
	plain := button("aaaa", "https://partner.example/")
	plain.Button.Plain = true
	s.publish(plain, button("bbbb", "https://kiln.example/"))
	tell := func(r *http.Request) { r.Method = http.MethodPost }

	answer := s.get("/quarrow-clay/-/1/aaaa/card", tell)
	assert.Equal(t, http.StatusNoContent, answer.Code)
	assert.Empty(t, answer.Body.String())
	assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/1/bbbb/card", tell).Code, "others are counted on their way through")
	assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/7/aaaa", tell).Code)

	events := s.events()
	require.Len(t, events, 1)
	assert.Equal(t, traffic.Click, events[0].Kind)
	assert.Equal(t, "aaaa", events[0].Block)
	assert.Equal(t, card.ID.String(), events[0].Source)
}
