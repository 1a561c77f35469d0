package studio_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAPasscodeIsOfItsWorkspaceAndNeverToldAgain(t *testing.T) {
	b := open(t)
	ilse, rolf := b.browser(), b.browser()
	ilse.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	set := ilse.send("POST", "/api/passcodes", fields{"passcode": "celadon"})
	require.Equal(t, http.StatusCreated, set.status, "%v", set.body)
	gated := button("sale", "Seconds sale", "kiln.example/sale")
	gated["gate"] = fields{"kind": "passcode", "passcodeId": set.body["id"], "text": " For friends. "}
	saved := ilse.send("PUT", ilse.page()+"/draft", draft(1, gated))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	assert.NotContains(t, string(saved.raw), "celadon")
	assert.NotContains(t, string(ilse.send("GET", ilse.page()+"/page.json", nil).raw), set.body["id"], "nor is it taken along")
	refused := rolf.send("PUT", rolf.page()+"/draft", draft(1, gated))
	assert.Equal(t, http.StatusUnprocessableEntity, refused.status)
	assert.Contains(t, refused.detail(), "Set it anew")
	assert.Contains(t, ilse.send("POST", "/api/passcodes", fields{"passcode": "abc"}).detail(), "at least 4 characters")
}
