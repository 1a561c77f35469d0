package page

import (
	"fmt"
	"regexp"
	"strconv"

	"jundle/internal/core/invalid"
)

// MaxQuestions is how many questions one block holds.
const MaxQuestions = 30

// Questions are questions whose answers fold out.
type Questions struct {
	nothingElse
	Title string     `json:"title,omitempty" spoken:"line" doc:"At most 120 characters."`
	Items []Question `json:"items" nullable:"false" doc:"At most 30."`
}

// Question is one of them.
type Question struct {
	Asked  string `json:"asked" spoken:"line" doc:"At most 200 characters."`
	Answer string `json:"answer" spoken:"lines" doc:"Lines are kept; at most 1,500 characters."`
}

// Part is a part of a text, between two stars on either side or not.
type Part struct {
	Text   string
	Strong bool
}

var strong = regexp.MustCompile(`\*\*([^*\s](?:[^*\n]*[^*\s])?)\*\*`)

// Answered is the answer in its parts: what is typed as **dates** is strong.
func (q Question) Answered() (parts []Part) {
	from := 0
	for _, at := range strong.FindAllStringSubmatchIndex(q.Answer, -1) {
		if at[0] > from {
			parts = append(parts, Part{Text: q.Answer[from:at[0]]})
		}
		parts = append(parts, Part{Text: q.Answer[at[2]:at[3]], Strong: true})
		from = at[1]
	}
	if from < len(q.Answer) {
		parts = append(parts, Part{Text: q.Answer[from:]})
	}
	return parts
}

func (q *Questions) name() string {
	if q.Title == "" && len(q.Items) > 0 {
		return q.Items[0].Asked
	}
	return q.Title
}

func (q *Questions) tidy(problems *invalid.List, where string) {
	q.Title = problems.Line(where+"/title", "The title", q.Title, MaxTitle)
	if len(q.Items) > MaxQuestions {
		problems.Add(where+"/items", "There can be at most %d questions; these are %d. Nothing was added.", MaxQuestions, len(q.Items))
	}
	for i := range q.Items {
		item, at := &q.Items[i], fmt.Sprintf("%s/items/%d", where, i)
		item.Asked = problems.Line(at+"/asked", "A question", item.Asked, 200)
		item.Answer = problems.Lines(at+"/answer", "An answer", item.Answer, 1500)
	}
}

// Texts implements Content.
func (q *Questions) Texts(string) (headings, text string) {
	for _, item := range q.Items {
		text += item.Asked + item.Answer
	}
	return q.Title, text
}

func (q *Questions) facts() []fact {
	facts := []fact{{"title", q.Title}, {"number of questions", strconv.Itoa(len(q.Items))}}
	for i, item := range q.Items {
		facts = append(facts, fact{fmt.Sprintf("question %d", i+1), item.Asked}, fact{fmt.Sprintf("answer %d", i+1), item.Answer})
	}
	return facts
}
