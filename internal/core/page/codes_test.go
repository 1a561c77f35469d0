package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
)

func statistics() page.TrackingCode {
	return page.TrackingCode{
		Key: "stats1", Name: "Kiln statistics", Code: `<script async src="https://stats.example/count.js"></script>`, Where: "head",
		Hosts: []string{"stats.example"}, On: true,
	}
}

func TestATrackingCodeNamesEveryHostItTalksTo(t *testing.T) {
	doc := page.New()
	doc.Codes = []page.TrackingCode{statistics()}
	doc.Codes[0].Hosts = []string{" https://Collect.stats.example/in "}
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Equal(t, []string{"collect.stats.example", "stats.example"}, tidy.Codes[0].Hosts, "those in the code are among them")
	again, err := page.Tidy(tidy)
	require.NoError(t, err)
	assert.Equal(t, tidy, again)
	for name, change := range map[string]func(*page.TrackingCode){
		"Say whose code this is":     func(c *page.TrackingCode) { c.Name = " " },
		"is no host":                 func(c *page.TrackingCode) { c.Hosts = []string{"*"} },
		"In the code of":             func(c *page.TrackingCode) { c.Code = "<form>" },
		"has no key of its own":      func(c *page.TrackingCode) { c.Key = "" },
		"is no place for a code we ": func(c *page.TrackingCode) { c.Where = "middle" },
	} {
		doc.Codes = []page.TrackingCode{statistics()}
		change(&doc.Codes[0])
		_, err := page.Tidy(doc)
		assert.ErrorContains(t, err, name)
	}
}

func TestWhatBecomesOfTrackingCodesIsSaidBeforePublishing(t *testing.T) {
	with := func(codes ...page.TrackingCode) page.Document {
		doc := page.New()
		doc.Codes = codes
		return doc
	}
	on, off, other := statistics(), statistics(), statistics()
	off.On, other.Unasked = false, true
	for _, c := range []struct {
		before, after page.Document
		says          string
	}{
		{with(), with(on), "The tracking code “Kiln statistics” runs on the page."},
		{with(on), with(off), "The tracking code “Kiln statistics” runs on the page no longer."},
		{with(on), with(), "The tracking code “Kiln statistics” runs on the page no longer."},
		{with(on), with(other), "The tracking code “Kiln statistics” changed."},
	} {
		changes := page.Changes(&c.before, c.after)
		require.Len(t, changes, 1, c.says)
		assert.Equal(t, c.says, changes[0].Sentence)
	}
	assert.Empty(t, page.Changes(&[]page.Document{with()}[0], with(off)), "one that is off is nothing to visitors")
}
