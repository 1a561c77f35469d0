package studio_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// step is what a save tells of a step.
func step(key, name, way string) fields { return fields{"key": key, "name": name, "way": way} }

// with adds to what is sent.
func with(body fields, name string, value any) fields {
	body[name] = value
	return body
}

func TestWhatWasDoneCanBeUndoneFromAnotherDevice(t *testing.T) {
	b := open(t)
	laptop, rolf := b.browser(), b.browser()
	laptop.signUp("quarrow-clay")
	rolf.signUp("rolf-iron")
	at := laptop.page()
	save := func(revision int, title string, steps ...fields) {
		t.Helper()
		body := draft(revision, button("sale", title, "kiln.example/sale"))
		saved := laptop.send("PUT", at+"/draft", with(body, "steps", steps))
		require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	}
	save(1, "Sale", step("add", "Add a button", "done"))
	save(2, "Sal", step("type", "Rename", "done"))
	save(3, "Seconds", step("type", "Rename", "done"))

	phone := b.browser()
	in := phone.send("POST", "/api/sign-in", fields{"email": "quarrow-clay@quarrow.example", "password": "clay and water"})
	require.Equal(t, http.StatusOK, in.status, "%v", in.body)
	steps := phone.send("GET", at+"/steps", nil).list
	require.Len(t, steps, 2, "typing is one step: %v", steps)
	assert.Equal(t, map[string]any{"key": "type", "name": "Rename", "undone": false}, steps[1])
	rename := phone.send("GET", at+"/steps/type", nil)
	require.Equal(t, http.StatusOK, rename.status)
	assert.Equal(t, "Sale", titleIn(rename.body["before"]))
	assert.Equal(t, "Seconds", titleIn(rename.body["after"]))
	assert.Empty(t, rolf.send("GET", at+"/steps", nil).list, "they are another's")
	assert.Equal(t, http.StatusNotFound, rolf.send("GET", at+"/steps/type", nil).status)

	save(4, "Sale", step("type", "Rename", "undone"))
	assert.Equal(t, true, phone.send("GET", at+"/steps", nil).list[1]["undone"])
	save(5, "Seconds", step("type", "Rename", "redone"))
	assert.Equal(t, false, phone.send("GET", at+"/steps", nil).list[1]["undone"])
	save(6, "Sale", step("type", "Rename", "undone"))
	save(7, "Half price", step("other", "Rename", "done"))
	keys := []any{}
	for _, each := range phone.send("GET", at+"/steps", nil).list {
		keys = append(keys, each["key"])
	}
	assert.Equal(t, []any{"add", "other"}, keys, "what was undone cannot be done again after something else")
}

func TestStepsThatComeTogetherStayApartWhereItIsKnownHowEachBegan(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	between := draft(1, button("sale", "Sale", "kiln.example/sale"))["document"]
	second := with(step("rename", "Rename", "done"), "before", between)
	// The answer is lost, and it is told once more.
	for revision := 1; revision <= 2; revision++ {
		saved := ilse.send("PUT", at+"/draft", with(draft(revision, button("sale", "Seconds", "kiln.example/sale")), "steps", []fields{
			step("add", "Add a button", "done"), second,
		}))
		require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	}
	require.Len(t, ilse.send("GET", at+"/steps", nil).list, 2)
	added := ilse.send("GET", at+"/steps/add", nil).body
	assert.Empty(t, added["before"].(map[string]any)["blocks"])
	assert.Equal(t, "Sale", titleIn(added["after"]))
	renamed := ilse.send("GET", at+"/steps/rename", nil).body
	assert.Equal(t, []string{"Sale", "Seconds"}, []string{titleIn(renamed["before"]), titleIn(renamed["after"])})

	saved := ilse.send("PUT", at+"/draft", with(draft(3, button("sale", "Last", "kiln.example/sale")), "steps", []fields{
		step("a", "A", "done"), step("b", "B", "done"), with(step("c", "C", "done"), "before", "nothing of the kind"),
	}))
	require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	steps := ilse.send("GET", at+"/steps", nil).list
	require.Len(t, steps, 3)
	assert.Equal(t, "C", steps[2]["name"], "without, they are one")
}

func TestStepsHaveLimits(t *testing.T) {
	b := open(t)
	ilse := b.browser()
	ilse.signUp("quarrow-clay")
	at := ilse.page()
	long := func(n int) fields {
		text := fields{"key": "text", "kind": "text", "shown": true, "text": fields{"html": "<p>" + strings.Repeat("x", 2900) + "</p>"}}
		blocks := []any{button("sale", fmt.Sprint(n), "kiln.example/sale")}
		for i := range 80 {
			next := fields{}
			for name, value := range text {
				next[name] = value
			}
			next["key"] = fmt.Sprintf("text%d", i)
			blocks = append(blocks, next)
		}
		return draft(n, blocks...)
	}
	for n := 1; n <= 12; n++ {
		saved := ilse.send("PUT", at+"/draft", with(long(n), "steps", []fields{step(fmt.Sprint(n), "Rename", "done")}))
		require.Equal(t, http.StatusOK, saved.status, "%v", saved.body)
	}
	steps := ilse.send("GET", at+"/steps", nil).list
	assert.Less(t, len(steps), 10, "all of them are not above 4 MB")
	assert.Greater(t, len(steps), 3)
	assert.Equal(t, "12", steps[len(steps)-1]["key"], "the latest stays")

	many := make([]fields, 201)
	for i := range many {
		many[i] = step(fmt.Sprint(i), "Rename", "done")
	}
	assert.Equal(t, http.StatusUnprocessableEntity, ilse.send("PUT", at+"/draft", with(draft(13), "steps", many)).status)
	require.NoError(t, b.store.ForgetSteps(t.Context(), 100, b.now.Add(31*24*time.Hour)))
	assert.Empty(t, ilse.send("GET", at+"/steps", nil).list)
}

// titleIn is the title of the only button of a document.
func titleIn(document any) string {
	return document.(map[string]any)["blocks"].([]any)[0].(map[string]any)["button"].(map[string]any)["title"].(string)
}
