package studio_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
)

func TestTheWeeklyLetterIsSwitchedOffFromWithinItByAMailProgram(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	assert.Equal(t, true, ilse.send("GET", "/api/weekly-letter", nil).body["on"])
	member, err := b.store.MemberByEmail(t.Context(), "quarrow-clay@quarrow.example")
	require.NoError(t, err)

	// What a mail program sends: no cookie, no session, a form (RFC 8058, section 3.1).
	program := b.browser()
	off := "/weekly-letter/" + mailing.OffToken([]byte("letter key"), member.WorkspaceID, member.ID)
	form := func(r *http.Request) { r.Header.Set("Content-Type", "application/x-www-form-urlencoded") }
	assert.Equal(t, http.StatusNotFound, program.send("POST", off[:len(off)-2], nil, form).status)
	assert.Equal(t, http.StatusOK, program.send("GET", off, nil).status, "a look at it is a page")
	assert.Equal(t, true, ilse.send("GET", "/api/weekly-letter", nil).body["on"], "and switches nothing off")
	assert.Equal(t, http.StatusNoContent, program.send("POST", off, []byte("List-Unsubscribe=One-Click"), form).status)
	assert.Equal(t, http.StatusNoContent, program.send("POST", off, nil, form).status, "once more is no harm")
	assert.Equal(t, false, ilse.send("GET", "/api/weekly-letter", nil).body["on"])

	assert.Equal(t, true, ilse.send("PUT", "/api/weekly-letter", fields{"on": true}).body["on"])
	for range 3 {
		assert.Equal(t, http.StatusAccepted, ilse.send("POST", "/api/weekly-letter/send", nil).status)
	}
	assert.Equal(t, http.StatusTooManyRequests, ilse.send("POST", "/api/weekly-letter/send", nil).status)
}
