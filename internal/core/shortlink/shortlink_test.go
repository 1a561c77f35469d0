package shortlink_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/address"
	"jundle/internal/core/audience"
	"jundle/internal/core/invalid"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/window"
	"jundle/internal/fuzzing"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func TestALinkLeadsWhereItsTimesSay(t *testing.T) {
	past, ahead := window.Window{To: noon}, window.Window{From: noon.Add(time.Hour)}
	for _, c := range []struct {
		name     string
		off      bool
		windows  []window.Window
		fallback string
		state    shortlink.State
		leads    string
		outcome  shortlink.Outcome
	}{
		{"no windows", false, nil, "", shortlink.InForce, "https://kiln.example/", shortlink.Destination},
		{"within one", false, []window.Window{past, {From: noon}}, "", shortlink.InForce, "https://kiln.example/", shortlink.Destination},
		{
			"over, with somewhere else to go", false,
			[]window.Window{past},
			"https://kiln.example/next", shortlink.Over,
			"https://kiln.example/next", shortlink.Fallback,
		},
		{"over", false, []window.Window{past}, "", shortlink.Over, "", shortlink.Nowhere},
		{"still to come", false, []window.Window{past, ahead}, "", shortlink.Before, "", shortlink.Nowhere},
		{"off", true, nil, "https://kiln.example/next", shortlink.Off, "https://kiln.example/next", shortlink.Fallback},
	} {
		t.Run(c.name, func(t *testing.T) {
			link := shortlink.New("https://kiln.example/")
			link.On, link.Windows, link.Fallback = !c.off, c.windows, c.fallback
			leads, outcome := link.Lead(audience.Audience{At: noon})
			assert.Equal(t, c.state, link.StateFor(audience.Audience{At: noon}))
			assert.Equal(t, c.leads, leads.Address)
			assert.Equal(t, c.outcome, outcome)
		})
	}
}

func TestALinkIsKeptOneWay(t *testing.T) {
	link := shortlink.New(" kiln.example/dates ")
	link.Labels = []string{"#Spring", "spring ", "", "letter"}
	tidied, err := link.Tidy()
	require.NoError(t, err)
	assert.Equal(t, "https://kiln.example/dates", tidied.Destination)
	assert.Equal(t, "kiln.example", tidied.Name, "named after where it leads until somebody says otherwise")
	assert.Equal(t, []string{"Spring", "letter"}, tidied.Labels)
	assert.Equal(t, 302, tidied.Redirect)
}

func TestEverythingThatIsWrongWithALinkIsSaidAtOnce(t *testing.T) {
	link := shortlink.New("mailto:ilse@quarrow.example")
	link.Redirect, link.Fallback, link.Note = 303, "javascript:alert(1)", strings.Repeat("x", 501)
	link.Preview.Text = "only a text"
	_, err := link.Tidy()
	var wrong *invalid.Error
	require.ErrorAs(t, err, &wrong)
	var where []string
	for _, problem := range wrong.Problems {
		where = append(where, problem.Where)
	}
	assert.Equal(t, []string{"destination", "fallback", "redirect", "note", "preview/title"}, where)
}

func TestMadeAddressesAreAddressesAndSpreadEvenly(t *testing.T) {
	random := rand.NewChaCha8([32]byte{1})
	seen := make(map[rune]int)
	for range 5000 {
		made, err := shortlink.MakeAddress(random)
		require.NoError(t, err)
		_, err = address.ParseShortAddress(made)
		require.NoError(t, err)
		for _, letter := range made {
			seen[letter]++
		}
	}
	// 30,000 letters, 27 of them: chi-squared with 26 degrees of freedom is above
	// 54.05 once in a thousand (NIST/SEMATECH e-Handbook, 1.3.6.7.4).
	require.Len(t, seen, 27)
	chi, expected := 0.0, 30000.0/27
	for _, n := range seen {
		chi += (float64(n) - expected) * (float64(n) - expected) / expected
	}
	assert.Less(t, chi, 54.05)
	_, err := shortlink.MakeAddress(bytes.NewReader(nil))
	assert.Error(t, err)
}

func TestAListIsReadHoweverItWasWritten(t *testing.T) {
	for name, text := range map[string]string{
		"with commas":    "https://kiln.example/a,spring,Spring firing,sale; letter,\"a note, with a comma\"",
		"out of a sheet": "https://kiln.example/a\tspring\tSpring firing\tsale; letter\ta note, with a comma\r\n",
		"with its own head": "\ufeffName,Destination,Note,Short address,Labels\r\nSpring firing,kiln.example/a,\"a note, with a " +
			"comma\",https://jundle.example/spring,sale;letter",
	} {
		t.Run(name, func(t *testing.T) {
			entries, err := shortlink.ReadList(text)
			require.NoError(t, err)
			require.Len(t, entries, 1)
			assert.Empty(t, entries[0].Wrong)
			assert.Equal(t, "spring", entries[0].Address)
			link := entries[0].Link
			assert.Equal(t, []any{"https://kiln.example/a", "Spring firing", []string{"sale", "letter"}, "a note, with a comma"},
				[]any{link.Destination, link.Name, link.Labels, link.Note})
		})
	}
}

func TestAnEmptyCellOfASheetStaysEmpty(t *testing.T) {
	entries, err := shortlink.ReadList("https://kiln.example/a\t\tSpring firing\t\ta note")
	require.NoError(t, err)
	require.Len(t, entries, 1)
	assert.Empty(t, entries[0].Wrong)
	assert.Empty(t, entries[0].Address)
	assert.Equal(t, []string{"Spring firing", "a note"}, []string{entries[0].Link.Name, entries[0].Link.Note})
}

func TestARowThatIsWrongLeavesTheOthersAlone(t *testing.T) {
	entries, err := shortlink.ReadList("kiln.example/a\n\nfile:///etc\nkiln.example/b,ab\nkiln.example/c,dates\nkiln.example/d,DATES\n")
	require.NoError(t, err)
	var rows []string
	for _, entry := range entries {
		rows = append(rows, fmt.Sprint(entry.Row, " ", entry.Wrong == ""))
	}
	assert.Equal(t, []string{"1 true", "3 false", "4 false", "5 true", "6 false"}, rows)
	assert.Equal(t, "Row 5 has this short address already.", entries[4].Wrong)

	entries, err = shortlink.ReadList(
		"destination,on,redirect,windows\nkiln.example/a,perhaps,,\nkiln.example/b,,303,\nkiln.example/c,no,301,2026-12-01/..\n" +
			"kiln.example/d,no,301,../2026-12-01T00:00:00Z\n",
	)
	require.NoError(t, err)
	var wrong []bool
	for _, entry := range entries {
		wrong = append(wrong, entry.Wrong != "")
	}
	assert.Equal(t, []bool{true, true, true, false}, wrong)

	_, err = shortlink.ReadList(strings.Repeat("kiln.example\n", shortlink.MaxListed+1))
	assert.ErrorIs(t, err, shortlink.ErrTooLong)
}

func TestAListWithSemicolonsIsReadAsASpreadsheetWritesIt(t *testing.T) {
	entries, err := shortlink.ReadList("destination;short address;name\nhttps://kiln.example/a;dates;Kiln dates\n" +
		"https://kiln.example/b;;Sale, seconds\n")
	require.NoError(t, err)
	require.Len(t, entries, 2)
	assert.Equal(t, []string{"https://kiln.example/a", "dates", "Kiln dates"},
		[]string{entries[0].Link.Destination, entries[0].Address, entries[0].Link.Name})
	assert.Equal(t, "Sale, seconds", entries[1].Link.Name)

	entries, err = shortlink.ReadList("Ziel;Kurz;Titel\nhttps://kiln.example/a;dates;Kiln dates\n")
	require.NoError(t, err)
	require.Len(t, entries, 2)
	assert.NotEmpty(t, entries[0].Wrong, "a head in other words is no address")
	assert.Equal(t, "dates", entries[1].Address)

	entries, err = shortlink.ReadList("https://kiln.example/a;b\nhttps://kiln.example/c\n")
	require.NoError(t, err)
	assert.Equal(t, "https://kiln.example/a;b", entries[0].Link.Destination, "a semicolon in an address stays in it")
}

func TestWhatIsWrittenAsAListIsReadAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		link := shortlink.New("https://kiln.example/" + rapid.StringMatching(`[a-z]{0,8}`).Draw(t, "path"))
		link.Name = rapid.StringMatching(`[A-Za-z ,"'=+@-]{1,20}`).Draw(t, "name")
		link.Note = rapid.StringMatching(`[a-z ,"]{0,20}`).Draw(t, "note")
		link.On = rapid.Bool().Draw(t, "on")
		link.Redirect = rapid.SampledFrom(shortlink.Redirects).Draw(t, "redirect")
		link.Fallback = rapid.SampledFrom([]string{"", "https://kiln.example/next"}).Draw(t, "fallback")
		if link.Preview.Title = rapid.StringMatching(`[a-z ]{0,9}`).Draw(t, "title"); strings.TrimSpace(link.Preview.Title) != "" {
			link.Preview.Text = rapid.StringMatching(`[a-z, ]{0,9}`).Draw(t, "text")
		}
		for range rapid.IntRange(0, 3).Draw(t, "windows") {
			from := noon.Add(time.Duration(rapid.IntRange(0, 9999).Draw(t, "from")) * time.Minute)
			link.Windows = append(link.Windows, rapid.SampledFrom([]window.Window{
				{From: from},
				{To: from},
				{From: from, To: from.Add(time.Hour)},
			}).Draw(t, "window"))
		}
		link.Labels = rapid.SliceOfN(rapid.StringMatching(`[a-z]{1,8}`), 0, 4).Draw(t, "labels")
		link, err := link.Tidy()
		require.NoError(t, err)
		var text strings.Builder
		writer := csv.NewWriter(&text)
		require.NoError(t, writer.WriteAll([][]string{shortlink.Columns, shortlink.WriteRow("spring", link)}))
		entries, err := shortlink.ReadList(text.String())
		require.NoError(t, err)
		require.Len(t, entries, 1)
		require.Empty(t, entries[0].Wrong)
		require.Equal(t, link, entries[0].Link)
	})
}

func FuzzReadList(f *testing.F) {
	f.Add("destination\thttps://kiln.example\n\"")
	f.Add("https://kiln.example,a b,\xff\n'=1,2")
	f.Fuzz(func(t *testing.T, text string) {
		fuzzing.Bounded(t, func() {
			entries, _ := shortlink.ReadList(text)
			for _, entry := range entries {
				if entry.Wrong == "" && !strings.HasPrefix(entry.Link.Destination, "http") {
					t.Fatalf("row %d leads to %q", entry.Row, entry.Link.Destination)
				}
			}
		})
	})
}

func TestANameThatWasTheAddressesFollowsTheAddress(t *testing.T) {
	before, after := shortlink.New("https://alder.example/kiln"), shortlink.New("https://birch.example/kiln")
	before.Name, after.Name = "alder.example", "alder.example"
	assert.Equal(t, "birch.example", after.Following(before).Name)
	before.Name, after.Name = "Kiln", "Kiln"
	assert.Equal(t, "Kiln", after.Following(before).Name, "a name that was given stays")
	before.Name, after.Name = "alder.example", "Kiln"
	assert.Equal(t, "Kiln", after.Following(before).Name)
}

func ExampleLink_Lead() {
	sale := shortlink.New("https://kiln.example/seconds")
	sale.Windows = []window.Window{{To: noon}}
	sale.Fallback = "https://kiln.example/next"
	for _, at := range []time.Time{noon.Add(-time.Minute), noon} {
		led, outcome := sale.Lead(audience.Audience{At: at})
		fmt.Println(led.Address, outcome)
	}
	// Output:
	// https://kiln.example/seconds destination
	// https://kiln.example/next fallback
}
