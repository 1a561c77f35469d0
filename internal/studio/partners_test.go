package studio_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// partnerReport is one of two days, one of them by the key of a button and one by where it leads.
const partnerReport = "date,sub_id,clicks\n2026-05-31,sale,20\n2026-06-01,https://kiln.example/sale,2\n"

func TestAPartnersReportIsHeldAgainstOurFigures(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-pots")
	ilse.published("The film")
	page := uuid.MustParse(ilse.pageID())
	b.visits(page, b.now, 60, 40, "")
	b.visits(page, b.now.AddDate(0, 0, -1), 40, 21, "")
	at := ilse.page() + "/partner-reports"

	read := ilse.send("POST", at, []byte(partnerReport))
	require.Equal(t, http.StatusOK, read.status, read.detail())
	assert.Equal(t, "[date sub_id clicks]", fmt.Sprint(read.body["columns"]))
	assert.EqualValues(t, 22, read.body["clicks"])
	assert.Nil(t, read.body["kept"], "it was read only")
	assert.Empty(t, ilse.send("GET", ilse.page()+"/partners", nil).list)
	assert.Contains(t, ilse.send("POST", at+"?keep=true", []byte(partnerReport)).detail(), "whose report")
	kept := ilse.send("POST", at+"?keep=true&name=Wavecastle", []byte(partnerReport)).body["kept"].(string)

	compared := ilse.send("GET", ilse.page()+"/partners/"+kept+"?range=28d-today", nil)
	lines := compared.body["lines"].([]any)
	require.Len(t, lines, 2)
	first, second := lines[0].(map[string]any), lines[1].(map[string]any)
	assert.Equal(t, "https://kiln.example/sale", first["subject"], "the largest gap comes first")
	assert.Equal(t, "Sale", first["title"])
	days := second["days"].([]any)
	assert.EqualValues(t, []any{21.0, 20.0, false}, pair(days[0]), "a small gap is normal")
	assert.EqualValues(t, []any{40.0, 2.0, true}, pair(first["days"].([]any)[1]))

	// Later reports of the partner are read as the one before, though they look otherwise.
	later := "date,note,clicks\n2026-06-02,sale,7\n"
	again := ilse.send("POST", at+"?keep=true&name=Wavecastle", []byte(later))
	assert.Equal(t, kept, again.body["kept"])
	swapped := ilse.send("POST", at+"?name=Wavecastle&day=2&subject=1&clicks=0", []byte(later))
	assert.EqualValues(t, 1, swapped.body["wrongs"], "what was said of the columns holds")
	require.Equal(t, http.StatusNoContent, ilse.send("PUT", ilse.page()+"/partners/"+kept+"/tolerance", fields{"tolerance": 0.97}).status)
	lines = ilse.send("GET", ilse.page()+"/partners/"+kept+"?range=28d-today", nil).body["lines"].([]any)
	assert.Equal(t, false, lines[0].(map[string]any)["days"].([]any)[1].(map[string]any)["marked"])

	assert.Equal(t, http.StatusNotFound, rolf.send("GET", rolf.page()+"/partners/"+kept, nil).status)
	assert.Equal(t, http.StatusNotFound, rolf.send("DELETE", rolf.page()+"/partners/"+kept, nil).status)
	require.Equal(t, http.StatusNoContent, ilse.send("DELETE", ilse.page()+"/partners/"+kept, nil).status)
	assert.Empty(t, ilse.send("GET", ilse.page()+"/partners", nil).list)
}

func pair(day any) []any {
	of := day.(map[string]any)
	return []any{of["ours"], of["theirs"], of["marked"]}
}

func TestAReportOfMoreThingsThanCanBeComparedIsRefusedWhole(t *testing.T) {
	ilse := open(t).browser()
	ilse.signUp("quarrow-clay")
	var report strings.Builder
	report.WriteString("date,sub_id,clicks\n")
	for i := range 201 {
		fmt.Fprintf(&report, "2026-06-01,thing%d,1\n", i)
	}
	refused := ilse.send("POST", ilse.page()+"/partner-reports?keep=true&name=Wavecastle", []byte(report.String()))
	assert.Contains(t, refused.detail(), "200 destinations or sub-ids are kept at most; with this file there would be 201")
	assert.Empty(t, ilse.send("GET", ilse.page()+"/partners", nil).list, "nothing of it was kept")
}
