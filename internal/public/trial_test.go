package public_test

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/agents"
	"jundle/internal/app/pages"
	"jundle/internal/core/page"
	"jundle/internal/core/trial"
	"jundle/internal/rollup"
)

// from is a request out of a household of its own.
func from(n int) func(*http.Request) {
	return func(r *http.Request) { r.RemoteAddr = fmt.Sprintf("198.51.%d.%d:4000", n/250, n%250+1) }
}

// try begins a trial on the page, as one process hears of it from another.
func (s *site) try(wanted pages.NewTrial) {
	s.t.Helper()
	wanted.Days, wanted.Worth = 14, 0.02
	require.NoError(s.t, s.pages().BeginTrial(s.t.Context(), s.member, s.page.ID, wanted))
	s.server.Forget(s.page.ID)
}

func TestATrialShowsEachVisitorOneVariantAndCountsThemApart(t *testing.T) {
	s := open(t)
	s.publish(button("dates", "https://kiln.example/dates"), button("sale", "https://kiln.example/sale"))
	others := []page.Variant{{Title: "When it opens"}, {Title: "Come to the kiln"}}
	s.try(pages.NewTrial{Kind: page.TitleTrial, Block: "dates", Variants: others})

	titles := []string{"To https://kiln.example/dates", "When it opens", "Come to the kiln"}
	var seen [3]trial.Arm
	random := rand.New(rand.NewPCG(4, 2))
	for visitor := range 240 {
		answer := s.get("/quarrow-clay", from(visitor))
		require.Equal(t, http.StatusOK, answer.Code)
		assert.Empty(t, answer.Header().Get("Set-Cookie"))
		variant := -1
		for i, title := range titles {
			if strings.Contains(answer.Body.String(), title) {
				require.Equal(t, -1, variant, "one of them")
				variant = i
			}
		}
		require.NotEqual(t, -1, variant)
		again := s.get("/quarrow-clay", from(visitor), func(r *http.Request) { r.Header.Set("If-None-Match", answer.Header().Get("ETag")) })
		assert.Equal(t, http.StatusNotModified, again.Code, "the same visitor sees the same")
		pressed := 0
		if random.Float64() < 0.3 {
			assert.Equal(t, "https://kiln.example/dates", s.get("/quarrow-clay/-/2/dates", from(visitor)).Header().Get("Location"))
			pressed = 1
		}
		seen[variant].Visited(1, pressed)
		s.get("/quarrow-clay/-/2/sale", from(visitor)) // it is not what is compared
	}
	for _, arm := range seen {
		assert.Greater(t, arm.Reach, 50, "fair shares")
	}
	s.now = now.AddDate(0, 0, 14)
	for visitor := range 20 {
		assert.Contains(t, s.get("/quarrow-clay", from(visitor)).Body.String(), titles[0], "it is over by itself")
	}
	s.events()
	counted := func() []trial.Arm {
		list, err := s.store.Trials(t.Context(), s.member.WorkspaceID, s.page.ID)
		require.NoError(t, err)
		return list[0].Arms
	}
	assert.Equal(t, seen[:], counted())
	list, err := agents.Load()
	require.NoError(t, err)
	_, err = rollup.Recount(t.Context(), s.store, list, nil, nil, func(int, int) {})
	require.NoError(t, err)
	assert.Equal(t, seen[:], counted(), "summed up anew out of the events, they are the same")
}

// keysIn are the buttons of a page in their order.
func keysIn(body string) string {
	var keys []string
	for _, found := range regexp.MustCompile(`/-/\d+/([a-z]+)"`).FindAllStringSubmatch(body, -1) {
		keys = append(keys, found[1])
	}
	return strings.Join(keys, " ")
}

func TestATrialOfAnOrderAndAPlaceMovesButtonsForSome(t *testing.T) {
	s := open(t)
	link := func(key string) page.Block { return button(key, "https://kiln.example/"+key) }
	s.publish(link("dates"), link("sale"), link("seat"))
	orders := func() map[string]bool {
		found := map[string]bool{}
		for visitor := range 40 {
			found[keysIn(s.get("/quarrow-clay", from(visitor)).Body.String())] = true
		}
		return found
	}
	s.try(pages.NewTrial{Kind: page.OrderTrial, Variants: []page.Variant{{Order: []string{"seat", "dates"}}}})
	assert.Equal(t, map[string]bool{"dates sale seat": true, "seat sale dates": true}, orders())
	list, err := s.store.Trials(t.Context(), s.member.WorkspaceID, s.page.ID)
	require.NoError(t, err)
	require.NoError(t, s.store.EndTrial(t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, list[0].ID, nil, s.now))
	s.server.Forget(s.page.ID)
	assert.Equal(t, map[string]bool{"dates sale seat": true}, orders())
	s.try(pages.NewTrial{Kind: page.PlaceTrial, Block: "seat", Variants: []page.Variant{{Place: 1}, {Place: 2}}})
	assert.Equal(t, map[string]bool{"dates sale seat": true, "seat dates sale": true, "dates seat sale": true}, orders())
}
