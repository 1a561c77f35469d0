package destination_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
)

var noon = time.Date(2026, 12, 1, 12, 0, 0, 0, time.UTC)

func hour(n int) time.Time { return noon.Add(time.Duration(n) * time.Hour) }

func TestASwapLeadsSomewhereElseWithinItsWindowAndBackAfterwards(t *testing.T) {
	lead := destination.Lead{Address: "https://quarrow.example/shop", Swaps: destination.Swaps{
		{From: hour(1), To: hour(5), Address: "https://quarrow.example/sale"},
		{From: hour(2), To: hour(3), Address: "https://quarrow.example/first-hour"},
		{From: hour(8), Address: "https://quarrow.example/new-shop"},
	}}
	for at, leads := range map[int]string{
		0: "shop", 1: "sale", 2: "first-hour", 3: "sale", 4: "sale", 5: "shop", 7: "shop", 8: "new-shop", 1000: "new-shop",
	} {
		assert.Equal(t, "https://quarrow.example/"+leads, lead.At(hour(at)), "after %d hours", at)
	}
	assert.Equal(t, hour(1), lead.Swaps.Next(noon))
	assert.Equal(t, hour(8), lead.Swaps.Next(hour(5)))
	assert.Zero(t, lead.Swaps.Next(hour(8)))

	settled, led := lead.Settle(hour(9))
	assert.Equal(t, "https://quarrow.example/new-shop", settled.Address)
	assert.Empty(t, settled.Swaps)
	assert.Equal(t, []destination.Led{
		{"https://quarrow.example/sale", hour(1)},
		{"https://quarrow.example/first-hour", hour(2)},
		{"https://quarrow.example/sale", hour(3)},
		{"https://quarrow.example/shop", hour(5)},
		{"https://quarrow.example/new-shop", hour(8)},
	}, led)
}

func TestSettlingSwapsChangesNothingOfWhereADestinationLeads(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		swap := rapid.Custom(func(t *rapid.T) destination.Swap {
			from := rapid.IntRange(0, 20).Draw(t, "from")
			swap := destination.Swap{From: hour(from), Address: "https://quarrow.example/" + rapid.StringMatching("[a-d]").Draw(t, "to")}
			if rapid.Bool().Draw(t, "ends") {
				swap.To = hour(from + rapid.IntRange(1, 10).Draw(t, "for"))
			}
			return swap
		})
		given := destination.Destination{Address: "https://quarrow.example/own", Swaps: rapid.SliceOfN(swap, 0, 6).Draw(t, "swaps")}
		tidied, err := given.Tidy()
		require.NoError(t, err)
		lead := destination.Lead{Address: tidied.Address, Swaps: tidied.Swaps}
		now := rapid.IntRange(0, 30).Draw(t, "now")
		settled, _ := lead.Settle(hour(now))
		for at := now; at < 35; at++ {
			require.Equal(t, lead.At(hour(at)), settled.At(hour(at)), "after %d hours, settled after %d", at, now)
		}
		if next := lead.Swaps.Next(hour(now)); !next.IsZero() {
			require.Equal(t, lead.At(hour(now)), lead.At(next.Add(-time.Second)), "nothing changes before it is foreseen")
		}
		if next := lead.Swaps.NextSettled(); next.IsZero() || next.After(hour(now)) {
			require.True(t, lead.Swaps.Equal(settled.Swaps), "there was nothing to be settled")
		}
	})
}

func TestWhatIsWrongWithASwapIsSaidAtItsPlace(t *testing.T) {
	_, err := destination.Destination{Address: "https://quarrow.example/", Swaps: destination.Swaps{
		{Address: "https://quarrow.example/"}, {From: hour(2), To: hour(1), Address: "javascript:alert(1)"},
	}}.Tidy()
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	var where []string
	for _, problem := range wrong.Problems {
		where = append(where, problem.Where)
	}
	assert.Equal(t, []string{"swaps/0/from", "swaps/1/address", "swaps/1/to"}, where)
}

func TestManyAddressesAreChangedWhereTheySaySo(t *testing.T) {
	host := destination.Many{Host: &destination.HostSwap{From: "https://Partner.example/", To: "new.example:8443"}}
	partner := destination.Many{Parameter: &destination.ParameterSwap{Name: "partner", From: "12", To: "a b"}}
	without := destination.Many{Parameter: &destination.ParameterSwap{Name: "partner"}}
	for _, c := range []struct {
		name          string
		change        destination.Many
		before, after string
	}{
		{"a host", host, "https://partner.example/x?y=%2F#z", "https://new.example:8443/x?y=%2F#z"},
		{"not a host below it", host, "https://shop.partner.example/x", "https://shop.partner.example/x"},
		{
			"not what is named elsewhere", host,
			"https://kiln.example/?to=https://partner.example/", "https://kiln.example/?to=https://partner.example/",
		},
		{"no mailbox", host, "mailto:ilse@partner.example", "mailto:ilse@partner.example"},
		{"a parameter", partner, "https://kiln.example/?B=1&partner=12&a=%c3%a9#x", "https://kiln.example/?B=1&partner=a+b&a=%c3%a9#x"},
		{"of that value only", partner, "https://kiln.example/?partner=13", "https://kiln.example/?partner=13"},
		{"of that case only", partner, "https://kiln.example/?Partner=12", "https://kiln.example/?Partner=12"},
		{"taken out", without, "https://kiln.example/?partner=12", "https://kiln.example/"},
		{"nothing to take out", without, "https://kiln.example/a?b=#partner=12", "https://kiln.example/a?b=#partner=12"},
	} {
		t.Run(c.name, func(t *testing.T) {
			change, err := c.change.Tidy()
			require.NoError(t, err)
			changed, err := change.Apply(destination.Destination{Address: c.before})
			require.NoError(t, err)
			assert.Equal(t, c.after, changed.Address)
		})
	}
	labels, err := destination.Many{AddLabels: []string{"#Spring", "shop"}, RemoveLabels: []string{"winter"}}.Tidy()
	require.NoError(t, err)
	changed, err := labels.Apply(destination.Destination{Address: "https://kiln.example/", Labels: []string{"Winter", "Shop"}})
	require.NoError(t, err)
	assert.Equal(t, []string{"Shop", "Spring"}, changed.Labels)
	_, err = destination.Many{}.Tidy()
	require.Error(t, err)
	_, err = destination.Many{Host: &destination.HostSwap{From: "%%", To: " "}}.Tidy()
	require.ErrorContains(t, err, "partner.example")
}
