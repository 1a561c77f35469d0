package studio_test

import (
	"encoding/csv"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store"
)

// asked has somebody ask for an hour, from so long from now on, on a page of a workspace.
func (b *bench) asked(workspace, pageID uuid.UUID, in time.Duration) store.Booking {
	b.t.Helper()
	one, err := b.store.AskBooking(b.t.Context(), store.Booking{
		WorkspaceID: workspace, PageID: &pageID, PageName: "Quarrow Clay", Block: "talk01", BlockTitle: "A commission talk", Edition: 1,
		Source: "host:kiln.example", Language: "en", Place: "At the kiln", Zone: "Europe/Lisbon", StartsAt: b.now.Add(in).Truncate(time.Minute),
		EndsAt: b.now.Add(in + time.Hour).Truncate(time.Minute), Name: "=Rolf", Address: fmt.Sprintf("rolf+%d@kiln.example", int(in.Hours())),
		AddressKey: fmt.Sprintf("rolf+%d@kiln.example", int(in.Hours())), Word: "=HYPERLINK(1)", Price: 2500, Currency: "EUR", AskedAt: b.now,
	})
	require.NoError(b.t, err)
	return one
}

func (b *bench) workspaceOf(o owner) uuid.UUID {
	b.t.Helper()
	member, err := b.store.MemberByEmail(b.t.Context(), o.name+"@quarrow.example")
	require.NoError(b.t, err)
	return member.WorkspaceID
}

func TestTimesAreAnsweredAndListedByWhatIsToBeDone(t *testing.T) {
	b := open(t)
	ilse, jo := b.owner(), b.owner()
	workspace, page := b.workspaceOf(ilse), uuid.MustParse(ilse.ids["page"])
	late, early := b.asked(workspace, page, 72*time.Hour), b.asked(workspace, page, 48*time.Hour)
	alike := b.asked(workspace, page, 47*time.Hour+30*time.Minute)
	names := func(which string) (ids []any) {
		for _, one := range ilse.send("GET", "/api/bookings?which="+which, nil).list {
			ids = append(ids, one["id"])
		}
		return ids
	}
	own := ilse.ids["booking"]
	assert.Equal(t, []any{own, alike.ID.String(), early.ID.String(), late.ID.String()}, names("waiting"), "the soonest first")
	answer := func(o owner, id uuid.UUID, act string) answer {
		return o.send("POST", "/api/bookings/"+id.String()+"/answer", fields{"act": act, "reply": "The gate on the left."})
	}
	require.Equal(t, http.StatusNoContent, answer(ilse, early.ID, "agree").status)
	assert.Equal(t, http.StatusNoContent, answer(ilse, early.ID, "agree").status, "pressed twice")
	refused := answer(ilse, alike.ID, "agree")
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.body["detail"], "agreed to another at that time")
	assert.Equal(t, true, ilse.send("GET", "/api/bookings?which=waiting", nil).list[1]["clashes"])
	require.Equal(t, http.StatusNoContent, answer(ilse, alike.ID, "decline").status)
	assert.Contains(t, answer(ilse, alike.ID, "agree").body["detail"], "meanwhile")
	assert.Equal(t, http.StatusNotFound, answer(jo, late.ID, "agree").status)
	assert.Equal(t, http.StatusNotFound, jo.send("DELETE", "/api/bookings/"+late.ID.String(), nil).status)
	assert.Equal(t, http.StatusNotFound, jo.send("GET", "/api/bookings/"+late.ID.String()+"/calendar", nil).status)
	coming := ilse.send("GET", "/api/bookings?which=coming", nil).list
	require.Len(t, coming, 1)
	assert.Equal(t, []any{"agreed", "The gate on the left.", "kiln.example", "€25", false},
		[]any{coming[0]["state"], coming[0]["reply"], coming[0]["source"], coming[0]["shown"], coming[0]["paid"]})
	assert.Equal(t, []any{alike.ID.String()}, names("over"))
	counts := ilse.send("GET", "/api/bookings/count", nil).body
	assert.Equal(t, []any{2.0, 1.0}, []any{counts["waiting"], counts["coming"]})
	read := ilse.send("GET", "/api/pages/"+ilse.ids["page"]+"/readings?range=7d", nil).body["asked"].([]any)
	require.Len(t, read, 1)
	assert.Equal(t, map[string]any{"source": "host:kiln.example", "asked": 4.0, "agreed": 1.0}, read[0])

	b.now = late.StartsAt
	assert.Equal(t, "lapsed", ilse.send("GET", "/api/bookings?which=over", nil).list[0]["state"])
	assert.Contains(t, answer(ilse, late.ID, "agree").body["detail"], "nobody was written to")
	require.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/bookings/"+late.ID.String(), nil).status)
	assert.NotContains(t, names("over"), late.ID.String())
	long := ilse.send("POST", "/api/bookings/"+early.ID.String()+"/answer", fields{"act": "callOff", "reply": strings.Repeat("x", 501)})
	assert.Equal(t, http.StatusUnprocessableEntity, long.status)
}

func TestTheTableOfTimesIsNoProgram(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	rows, err := csv.NewReader(strings.NewReader(ilse.get("/api/bookings.csv"))).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, []string{"Europe/Lisbon", "asked", "'=Rolf"}, rows[1][3:6])
	assert.Equal(t, "'=HYPERLINK(1)", rows[1][7])
	assert.Equal(t, []string{"25.00", "0.00", "EUR"}, rows[1][13:16])
}

func TestACreatorTakesATimeIntoACalendar(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	read, err := ical.NewDecoder(strings.NewReader(ilse.get("/api/bookings/" + ilse.ids["booking"] + "/calendar"))).Decode()
	require.NoError(t, err)
	require.Len(t, read.Events(), 1)
	summary, err := read.Events()[0].Props.Text(ical.PropSummary)
	require.NoError(t, err)
	assert.Equal(t, "=Rolf · A commission talk", summary)
	assert.Equal(t, ilse.ids["booking"], read.Events()[0].Props.Get(ical.PropUID).Value)
}
