package page_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/audience"
	"jundle/internal/core/page"
)

func TestRulesBySourceFollowABlockToAPageWithOtherSources(t *testing.T) {
	ids := map[string]string{"card": "card-2", "letter": "letter-2"}
	for _, c := range []struct {
		why       string
		rule      *page.SourceRule
		want      *page.SourceRule
		wantShown bool
	}{
		{"for all", nil, nil, true},
		{
			"by the IDs they have there", &page.SourceRule{Rule: "only", Sources: []string{"letter", "card"}},
			&page.SourceRule{Rule: "only", Sources: []string{"card-2", "letter-2"}}, true,
		},
		{
			"those that are not there are left out", &page.SourceRule{Rule: "but", Sources: []string{"card", "gone"}},
			&page.SourceRule{Rule: "but", Sources: []string{"card-2"}}, true,
		},
		{"what was for some only is hidden where none of them is", &page.SourceRule{Rule: "only", Sources: []string{"gone"}}, nil, false},
		{"what was for all but some is for all", &page.SourceRule{Rule: "but", Sources: []string{"gone"}}, nil, true},
	} {
		block := timed("sale", page.Showing{To: c.rule})
		block.WithSources(ids)
		assert.Equal(t, c.want, block.To, c.why)
		assert.Equal(t, c.wantShown, block.Shown, c.why)
	}
}

func TestBlocksOfAnotherPageComeLastUnderKeysOfTheirOwn(t *testing.T) {
	doc := ofButtons("dates", "sale")
	made := 0
	doc.Append(ofButtons("sale", "glaze", page.IconsKey).Blocks, func() string { made++; return fmt.Sprintf("made%d", made) })
	var keys []string
	for _, block := range doc.Blocks {
		keys = append(keys, block.Key)
	}
	assert.Equal(t, []string{"dates", "sale", "made1", "glaze", "made2"}, keys)
	_, err := page.Tidy(doc)
	require.NoError(t, err)
}

func TestAPageThatRestsShowsAndLeadsNothing(t *testing.T) {
	doc := ofButtons("dates", "sale")
	doc.Takeovers = []page.Takeover{{ID: "a", PassThrough: &page.PassThrough{Address: "https://kiln.example/"}, From: noon}}
	to := audience.Audience{At: noon.Add(time.Hour)}
	require.NotNil(t, doc.PassThrough(to))
	doc.Resting = &page.Resting{Since: noon}
	assert.False(t, doc.IsOpen(noon))
	assert.Nil(t, doc.PassThrough(to))
	assert.Empty(t, doc.Timetable().Keys(to), "it reaches nobody")
	assert.True(t, doc.Timetable().IsConstant())
	for _, c := range []struct {
		after time.Duration
		off   bool
	}{{page.LeadsOn - time.Second, false}, {page.LeadsOn, true}} {
		target, found := doc.Targets(audience.Audience{At: noon.Add(c.after)}).Find("sale", "")
		assert.True(t, found)
		assert.Equal(t, c.off, target.Off, "a tab that was open leads on for a day")
	}
	assert.Equal(t, noon.Add(page.LeadsOn), doc.NextTargets(noon.Add(time.Hour)))
	awake := ofButtons("dates", "sale")
	assert.True(t, page.SameAs(awake, doc), "it is no work on the page")
	tidied, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Nil(t, tidied.Resting, "nor is it saved with it")
}
