package studio_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"net/http"
	"strconv"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// table takes a table away and reads it.
func (b *browser) table(name, query string) [][]string {
	b.t.Helper()
	got := b.send("GET", b.page()+"/readings/tables/"+name+"?"+query, nil)
	require.Equal(b.t, http.StatusOK, got.status, "%s", got.raw)
	rows, err := csv.NewReader(bytes.NewReader(got.raw)).ReadAll()
	require.NoError(b.t, err)
	return rows
}

func TestTablesThatAreTakenAwaySayWhatTheScreenSays(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	require.Equal(t, http.StatusOK, ilse.send("PUT", ilse.page()+"/draft", draft(1, button("sale", "=Sale", "kiln.example/sale"))).status)
	require.Equal(t, http.StatusOK, ilse.send("POST", ilse.page()+"/publish", fields{"revision": 2}).status)
	page := uuid.MustParse(ilse.pageID())
	b.visits(page, b.now, 40, 10, "")
	b.visits(page, b.now.AddDate(0, 0, -1), 20, 5, "host:claynews.example")

	rows := ilse.table("buttons", "range=2026-05-26..2026-06-01")
	assert.Equal(t, []string{"button", "key", "source", "clicks", "takers", "reach", "rate", "rate_low", "rate_high"}, rows[0])
	assert.Equal(t, []string{"'=Sale", "sale", "Unlisted", "5", "5", "20", "0.25"}, rows[1][:7], "what a spreadsheet would run is defused")
	assert.Equal(t, []string{"'=Sale", "sale", "Untagged", "10", "10", "40", "0.25"}, rows[2][:7])
	days := ilse.table("days", "range=2026-05-26..2026-06-01")
	assert.Len(t, days, 8)
	assert.Equal(t, []string{"2026-06-01", "40", "40", "10", "0", "40"}, days[7])
	for _, name := range []string{
		"buttons-by-day", "links", "sources", "places", "evidence", "devices", "countries", "languages", "payment", "left-out",
	} {
		assert.NotEmpty(t, ilse.table(name, "range=2026-05-26..2026-06-01"), name)
	}
	assert.Equal(t, http.StatusNotFound, ilse.send("GET", ilse.page()+"/readings/tables/everything", nil).status)
	got := ilse.send("GET", ilse.page()+"/readings/tables/days?format=ndjson&range=2026-05-26..2026-06-01", nil)
	assert.Equal(t, 7, bytes.Count(got.raw, []byte("\n")))
	assert.Equal(t, `attachment; filename="quarrow-clay-days-2026-05-26-to-2026-06-01.ndjson"`, got.header.Get("Content-Disposition"))
}

func TestRawEventsAreTakenAwayAllAndInOrder(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	page := uuid.MustParse(ilse.pageID())
	b.visits(page, b.now.AddDate(0, 0, -2), 15_000, 7500, "") // more than are held at one time
	b.visits(page, b.now, 10, 10, "")
	got := ilse.send("GET", ilse.page()+"/events?range=2026-05-26..2026-06-01", nil)
	require.Equal(t, http.StatusOK, got.status)
	lines := bytes.Split(bytes.TrimSpace(got.raw), []byte("\n"))
	assert.Len(t, lines, 22_520)
	assert.Equal(t, "22520", got.header.Get("X-Total-Count"))
	seen, last := map[string]bool{}, ""
	for i, line := range lines {
		var event struct{ ID, At, Kind, Visitor string }
		require.NoError(t, json.Unmarshal(line, &event), "line %d", i)
		require.False(t, seen[event.ID], "each once")
		require.LessOrEqual(t, last[:min(19, len(last))], event.At[:19])
		seen[event.ID], last = true, event.At
	}
	rows, err := csv.NewReader(bytes.NewReader(ilse.send("GET", ilse.page()+"/events?range=2026-05-26..2026-06-01&format=csv", nil).raw)).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, 22_521)
	today := ilse.send("GET", ilse.page()+"/events?range=2026-06-01..2026-06-01", nil)
	assert.Equal(t, strconv.Itoa(20), today.header.Get("X-Total-Count"))
	assert.Equal(t, 20, bytes.Count(today.raw, []byte("\n")))
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", ilse.page()+"/events", nil).status)
}
