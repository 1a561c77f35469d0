package page

import (
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"jundle/internal/core/invalid"
)

// MaxTranslations is how many other languages a page is offered in.
const MaxTranslations = 8

// Translation is what a page says in another language. What is left out is said as it is.
type Translation struct {
	Language string            `json:"language" doc:"BCP 47 tag, another than the page's."`
	Texts    map[string]string `json:"texts" doc:"By where they stand in the document, such as blocks/KEY/button/title."`
}

// Wording is a text of a page that its visitors read.
type Wording struct {
	At   string `json:"at" doc:"Where it stands in the document; what stands in a list, by its key."`
	Text string `json:"text"`
	Form string `json:"form" enum:"line,lines,html" doc:"On one line, on several, or with markup."`
}

// Wordings are all that visitors read of what the creator wrote, in the order of the document.
func (d Document) Wordings() []Wording {
	texts := []Wording{}
	d.speak(func(at, form string, text *string) {
		if *text != "" {
			texts = append(texts, Wording{at, *text, form})
		}
	})
	return texts
}

// speak visits every text that visitors read: every field with the tag spoken, which says
// how it is written.
func (d *Document) speak(visit func(at, form string, text *string)) {
	for _, part := range []struct {
		at string
		of any
	}{
		{"header", &d.Header}, {"icons", &d.Icons}, {"blocks", &d.Blocks}, {"footer", &d.Footer}, {"sharing", &d.Sharing}, {"gate", &d.Gate},
	} {
		speakIn(reflect.ValueOf(part.of), part.at, visit)
	}
}

func speakIn(value reflect.Value, at string, visit func(at, form string, text *string)) {
	switch value.Kind() {
	case reflect.Pointer:
		if !value.IsNil() {
			speakIn(value.Elem(), at, visit)
		}
	case reflect.Slice:
		for i := range value.Len() {
			speakIn(value.Index(i), at+"/"+nameOfItem(value.Index(i), i), visit)
		}
	case reflect.Struct:
		for i := range value.NumField() {
			field := value.Type().Field(i)
			if !field.IsExported() {
				continue
			}
			name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			if form, spoken := field.Tag.Lookup("spoken"); spoken {
				visit(at+"/"+name, form, value.Field(i).Addr().Interface().(*string))
				continue
			}
			within := at
			if !field.Anonymous {
				within += "/" + name
			}
			speakIn(value.Field(i), within, visit)
		}
	}
}

// nameOfItem is the key of something in a list, or its number where it has none.
func nameOfItem(item reflect.Value, i int) string {
	if item.Kind() == reflect.Struct {
		if key := item.FieldByName("Key"); key.IsValid() && key.Kind() == reflect.String && key.String() != "" {
			return key.String()
		}
	}
	return strconv.Itoa(i)
}

// Languages are those the page is offered in, its own first.
func (d Document) Languages() []string {
	languages := []string{d.Language}
	for _, each := range d.Translations {
		languages = append(languages, each.Language)
	}
	return languages
}

// In is the document in one of its languages: its own where it is offered in none such.
func (d Document) In(language string) Document {
	at := slices.IndexFunc(d.Translations, func(each Translation) bool { return each.Language == language })
	if at < 0 {
		return d
	}
	return d.saying(d.Translations[at])
}

// Speak says a part of the document in one of its languages. part points to a copy of what
// stands at a place in it.
func (d Document) Speak(language, at string, part any) {
	for _, each := range d.Translations {
		if each.Language == language {
			speakIn(reflect.ValueOf(part), at, each.say)
		}
	}
}

// say puts what is said in the language in place of a text.
func (t Translation) say(at, _ string, text *string) {
	if said := t.Texts[at]; said != "" && *text != "" {
		*text = said
	}
}

func (d Document) saying(translation Translation) Document {
	spoken, err := d.Clone()
	if err != nil {
		return d // it came out of JSON and goes there again
	}
	spoken.swapped, spoken.Language = d.swapped, translation.Language
	spoken.speak(translation.say)
	return spoken
}

// tidyTranslations puts them into the form they are stored in: each text as its field has
// it. Those of what is no longer on the page are left out.
func (d *Document) tidyTranslations(problems *invalid.List) {
	if len(d.Translations) > MaxTranslations {
		problems.Add("translations", "A page is offered in at most %d other languages; these are %d.", MaxTranslations, len(d.Translations))
		return
	}
	seen := map[string]bool{d.Language: true}
	for i := range d.Translations {
		translation, where := &d.Translations[i], "translations/"+strconv.Itoa(i)
		translation.Language = tidyLanguage(problems, translation.Language)
		if seen[translation.Language] {
			problems.Add(where+"/language", "The page is in this language already (%s).", translation.Language)
		}
		seen[translation.Language] = true
		bare := *d
		bare.Translations = nil
		tidy, err := bare.saying(*translation).tidied()
		if err != nil {
			problems.Add(where, "In the language %s: %s", translation.Language, err.Error())
			continue
		}
		for at, block := range d.Blocks {
			// Their presses are told apart by their order, in every language.
			if here, there := len(block.Targets()), len(tidy.Blocks[at].Targets()); here != there {
				problems.Add(where, "In the language %s: a text has as many links as it has in the page's own, in the same order. "+
					"Here %d became %d.", translation.Language, here, there)
			}
		}
		texts := make(map[string]string, len(translation.Texts))
		tidy.speak(func(at, _ string, text *string) {
			if strings.TrimSpace(translation.Texts[at]) != "" && *text != "" {
				texts[at] = *text
			}
		})
		translation.Texts = texts
	}
	if len(d.Translations) == 0 {
		d.Translations = nil
	}
}

// translationChanges put into words what becomes of the languages a page is offered in.
func translationChanges(before, after []Translation) (says []string) {
	of := func(all []Translation, language string) map[string]string {
		for _, each := range all {
			if each.Language == language {
				return each.Texts
			}
		}
		return nil
	}
	for _, each := range after {
		switch had := of(before, each.Language); {
		case had == nil:
			says = append(says, "The page is offered in another language: "+each.Language+".")
		case !maps.Equal(had, each.Texts):
			says = append(says, "What the page says in the language "+each.Language+" changed.")
		}
	}
	for _, each := range before {
		if of(after, each.Language) == nil {
			says = append(says, "The page is no longer offered in the language "+each.Language+".")
		}
	}
	return says
}
