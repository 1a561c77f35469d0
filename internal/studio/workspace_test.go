package studio_test

import (
	"archive/zip"
	"bytes"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAWorkspaceSetsItsRetentionTakesItsDataAndIsErasedByPasswordOnly(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	assert.EqualValues(t, 760, ilse.send("GET", "/api/workspace", nil).body["keepDays"])
	assert.Equal(t, 422, ilse.send("PUT", "/api/workspace", map[string]any{"keepDays": 0}).status)
	assert.Equal(t, 200, ilse.send("PUT", "/api/workspace", map[string]any{"keepDays": 90}).status)
	assert.EqualValues(t, 90, ilse.send("GET", "/api/workspace", nil).body["keepDays"])
	for _, wrong := range []string{"", "Local", "Quarrow/Nowhere"} {
		assert.Equal(t, 422, ilse.send("PUT", "/api/workspace/zone", map[string]any{"zone": wrong}).status, wrong)
	}
	assert.Equal(t, "Asia/Kolkata", ilse.send("PUT", "/api/workspace/zone", map[string]any{"zone": "Asia/Kolkata"}).body["zone"])

	assert.Equal(t, "none", ilse.send("GET", "/api/workspace/export", nil).body["state"])
	assert.Equal(t, 404, ilse.send("GET", "/api/workspace/export/file", nil).status)
	assert.Equal(t, 202, ilse.send("POST", "/api/workspace/export", nil).status)
	require.Eventually(t, func() bool { return ilse.send("GET", "/api/workspace/export", nil).body["state"] == "ready" }, 20*time.Second,
		20*time.Millisecond)
	exported := ilse.send("GET", "/api/workspace/export/file", nil)
	assert.Equal(t, "application/zip", exported.header.Get("Content-Type"))
	assert.Equal(t, `attachment; filename="jundle-2026-06-01.zip"`, exported.header.Get("Content-Disposition"))
	files, err := zip.NewReader(bytes.NewReader(exported.raw), int64(len(exported.raw)))
	require.NoError(t, err)
	assert.Greater(t, len(files.File), 5)
}

func TestAddressesAreTaggedAndWhatTheyKeptIsSaid(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	tagged := ilse.send("POST", "/api/tagged-address", map[string]any{
		"address": "kiln.example/dates?utm_medium=web#top", "tags": map[string]any{"source": "Studio  Letter", "medium": "email"},
	})
	assert.Equal(t, "https://kiln.example/dates?utm_medium=web&utm_source=studio_letter#top", tagged.body["address"])
	assert.Equal(t, []any{"utm_medium"}, tagged.body["kept"])
	assert.Empty(t, tagged.body["near"])
	assert.Equal(t, 204, ilse.send("POST", "/api/campaign-values", fields{"source": "Studio Letter", "campaign": "spring"}).status)
	assert.Equal(t, map[string]any{"utm_source": []any{"studio_letter"}, "utm_campaign": []any{"spring"}},
		ilse.send("GET", "/api/campaign-values", nil).body)
	slip := ilse.send("POST", "/api/tagged-address", fields{
		"address": "https://kiln.example/",
		"tags":    fields{"source": "studio-letters", "campaign": "spring"},
	})
	assert.Equal(t, []any{map[string]any{"tag": "utm_source", "value": "studio-letters", "known": "studio_letter"}}, slip.body["near"])
	rolf := b.browser()
	rolf.signUp("elsewhere")
	assert.Empty(t, rolf.send("GET", "/api/campaign-values", nil).body, "another workspace's values are its own")
	assert.Equal(t, 422, ilse.send("POST", "/api/tagged-address", map[string]any{
		"address": "tel:+442079460018",
		"tags":    map[string]any{},
	}).status)
}

func TestCodesAreDrawnForTheOwnersSourcesOnly(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	page := ilse.page()
	made := ilse.send("POST", page+"/sources", map[string]any{
		"name":  "Printed card",
		"place": map[string]any{"kind": "print", "medium": "", "profiles": []string{}, "names": []string{}, "networks": []string{}},
	})
	require.Equal(t, 201, made.status)
	code := page + "/sources/" + made.body["id"].(string) + "/code"
	drawn, err := ilse.client.Get(b.server.URL + code + "?format=png&ink=%230b5d6c&level=H")
	require.NoError(t, err)
	defer drawn.Body.Close()
	assert.Equal(t, "image/png", drawn.Header.Get("Content-Type"))
	assert.Equal(t, `inline; filename="quarrow-clay-printed-card.png"`, drawn.Header.Get("Content-Disposition"))
	assert.Equal(t, 422, ilse.send("GET", code+"?ink=%23eeeeee", nil).status)
	assert.Contains(t, ilse.send("GET", code+"?mark=true", nil).detail(), "The page has no picture")
	rolf := b.browser()
	rolf.signUp("elsewhere")
	assert.Equal(t, 404, rolf.send("GET", code, nil).status)
}

func TestFiguresAreSharedByAnAddressThatIsToldOnce(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	shared := "/api/shared-figures/" + ilse.pageID()
	assert.Equal(t, 422, ilse.send("POST", shared, fields{"name": " ", "days": 30}).status)
	assert.Equal(t, 422, ilse.send("POST", shared, fields{"name": "The gallery", "days": 0}).status)
	made := ilse.send("POST", shared, fields{"name": "The gallery", "days": 30})
	require.Equal(t, 201, made.status)
	assert.Regexp(t, `^https://pages\.example/-/figures/[A-Z2-7]{26}$`, made.body["address"])
	assert.Equal(t, "2026-07-01T12:00:00Z", made.body["until"])
	listed := ilse.send("GET", shared, nil).list
	require.Len(t, listed, 1)
	assert.Nil(t, listed[0]["address"])

	rolf := b.browser()
	rolf.signUp("elsewhere")
	assert.Equal(t, 404, rolf.send("GET", shared, nil).status)
	assert.Equal(t, 404, rolf.send("POST", shared, fields{"name": "Me", "days": 1}).status)
	assert.Equal(t, 404, rolf.send("DELETE", shared+"/"+made.body["id"].(string), nil).status)
	assert.Equal(t, 204, ilse.send("DELETE", shared+"/"+made.body["id"].(string), nil).status)
	assert.Empty(t, ilse.send("GET", shared, nil).list)
}
