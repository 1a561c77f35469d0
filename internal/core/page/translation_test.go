package page_test

import (
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
)

// inGerman is the page that has everything, offered in German, too: each text with “(de)”.
func inGerman(t *testing.T) page.Document {
	t.Helper()
	doc := pagetest.Everything()
	texts := make(map[string]string)
	for _, each := range doc.Wordings() {
		texts[each.At] = each.Text + " (de)"
		if each.Form == "html" {
			texts[each.At] = strings.Replace(each.Text, "</p>", " (de)</p>", 1)
		}
	}
	doc.Translations = []page.Translation{{Language: "de", Texts: texts}}
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	require.Equal(t, doc, tidy, "what is in the form it is stored in stays as it is")
	return tidy
}

func TestEveryKindThatSaysSomethingCanSayItInAnotherLanguage(t *testing.T) {
	spoken := make(map[string]bool)
	for _, each := range pagetest.Everything().Wordings() {
		parts := strings.Split(each.At, "/")
		if parts[0] == "blocks" {
			spoken[parts[1]] = true
		} else {
			spoken[parts[0]] = true
		}
	}
	for _, kind := range page.Kinds() {
		if kind != "divider" && kind != "space" {
			assert.True(t, spoken[string(kind)], "%s; a field without the tag spoken stays as it is in every language", kind)
		}
	}
	for _, part := range []string{"header", "footer", "sharing"} {
		assert.True(t, spoken[part], part)
	}
}

func TestAPageSaysInAnotherLanguageWhatIsTranslatedAndTheRestAsItIs(t *testing.T) {
	doc := inGerman(t)
	assert.Equal(t, []string{"en", "de"}, doc.Languages())
	german := doc.In("de")
	assert.Equal(t, "de", german.Language)
	for i, each := range german.Wordings() {
		assert.Contains(t, each.Text, "(de)", each.At)
		assert.Equal(t, doc.Wordings()[i].At, each.At)
	}
	assert.Equal(t, doc.Blocks[0].Button.Address, german.Blocks[0].Button.Address)
	assert.Equal(t, doc.Rows()[1].Key, german.Rows()[1].Key, "figures are those of the same page")
	assert.Equal(t, doc, doc.In("fr"), "what it is not offered in it is not in")

	delete(doc.Translations[0].Texts, "blocks/button/button/title")
	assert.Equal(t, "Kiln dates", doc.In("de").Blocks[0].Button.Title)
	assert.Equal(t, "Kiln dates", doc.Blocks[0].Button.Title, "the page itself stays as it is")
	gate := page.Gate{Kind: "notice", Text: "Hot"}
	doc.Translations[0].Texts["gate/text"] = "Heiß"
	doc.Speak("de", "gate", &gate)
	assert.Equal(t, "Heiß", gate.Text)
}

func TestATranslationKeepsTheRulesOfTheFieldsItIsFor(t *testing.T) {
	doc := inGerman(t)
	texts := doc.Translations[0].Texts
	for at, long := range map[string]string{"blocks/button/button/title": strings.Repeat("x", 121), "header/name": strings.Repeat("x", 61)} {
		was := texts[at]
		texts[at] = long
		_, err := page.Tidy(doc)
		assert.ErrorContains(t, err, "In the language de", at)
		texts[at] = was
	}
	texts["blocks/text/text/html"] = "<p>Gebrannt</p>"
	_, err := page.Tidy(doc)
	assert.ErrorContains(t, err, "Here 1 became 0.", "a press on a link is known by its place in the text")
	texts["blocks/text/text/html"] = `<p onclick="x">Gebrannt<script>alert(1)</script> <a href="https://quarrow.example/film">im Film</a></p>`
	texts["blocks/nobody/button/title"], texts["look/ground"], texts["header/line"] = "x", "x", "  "
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	kept := tidy.Translations[0].Texts
	assert.Equal(t, `<p>Gebrannt <a href="https://quarrow.example/film">im Film</a></p>`, kept["blocks/text/text/html"])
	for _, at := range []string{"blocks/nobody/button/title", "look/ground", "header/line"} {
		assert.NotContains(t, kept, at, "of what is not on the page nothing is kept")
	}
	for name, languages := range map[string][]string{
		"its own": {"en"}, "one twice": {"de", "de"}, "none": {"no such language"},
		"too many": {"ar", "de", "es", "fr", "he", "it", "ja", "nl", "pl"},
	} {
		doc.Translations = nil
		for _, language := range languages {
			doc.Translations = append(doc.Translations, page.Translation{Language: language})
		}
		_, err := page.Tidy(doc)
		assert.Error(t, err, name)
	}
}

func TestAPageLeadsInEveryLanguageWhereItLeadsNow(t *testing.T) {
	doc := inGerman(t)
	id := uuid.NewString()
	doc.Blocks[0].Button.DestinationID = id
	at := pagetest.Moment
	doc.Resolve(map[string]destination.Lead{id: {ID: id, Address: "https://kiln.example/now", Swaps: destination.Swaps{
		{From: at.Add(-time.Hour), To: at.Add(time.Hour), Address: "https://kiln.example/for-an-hour"},
	}}})
	assert.Equal(t, "https://kiln.example/for-an-hour", doc.In("de").LeadingAt(at).Blocks[0].Button.Address)
}

func TestWhatBecomesOfLanguagesIsSaidBeforePublishing(t *testing.T) {
	doc := inGerman(t)
	says := func(before, after page.Document) (says []string) {
		for _, change := range page.Changes(&before, after) {
			says = append(says, change.Sentence)
		}
		return says
	}
	assert.Equal(t, []string{"The page is offered in another language: de."}, says(pagetest.Everything(), doc))
	assert.Equal(t, []string{"The page is no longer offered in the language de."}, says(doc, pagetest.Everything()))
	changed := inGerman(t)
	changed.Translations[0].Texts["header/name"] = "Quarrow Ton"
	assert.Equal(t, []string{"What the page says in the language de changed."}, says(doc, changed))
	assert.False(t, page.SameAs(doc, changed))
}
