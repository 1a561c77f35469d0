package studio_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"maps"
	"math/rand/v2"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/media"
)

// The bodies here are the largest that a member may send: what an operation makes of them has to cost little too,
// though it refuses most of them.

const (
	// longest is how long a text is at first whose length the contract leaves open, in characters. It is halved until
	// the operation takes the body.
	longest = 1 << 18
	// manyOf is how many of a list's items there are for each character that a text has.
	manyOf = 16
)

// most is the largest value that a schema lets through: every property, texts at their longest, lists at their fullest.
// Items differ by their number, for what compares them with each other.
func (c contract) most(of schema, name string, size, number int) any {
	if of.Ref != "" {
		return c.most(c.Components.Schemas[of.Ref[strings.LastIndexByte(of.Ref, '/')+1:]], name, size, number)
	}
	if len(of.Enum) > 0 {
		return of.Enum[len(of.Enum)-1]
	}
	switch of.kind() {
	case "object":
		body := map[string]any{}
		for property, inner := range of.Properties {
			if !inner.ReadOnly {
				body[property] = c.most(inner, property, size/max(1, len(of.Properties)), number)
			}
		}
		return body
	case "array":
		items := make([]any, min(atMost(of.MaxItems, size), max(1, size/manyOf)))
		for i := range items {
			items[i] = c.most(*of.Items, name, size/len(items), i)
		}
		return items
	case "integer", "number":
		return atMost(of.Maximum, 1<<30)
	case "boolean":
		return true
	}
	return of.longText(name, size, number)
}

// atMost is a limit of the contract, or a number where there is none.
func atMost(limit *float64, otherwise int) int {
	if limit == nil {
		return otherwise
	}
	return int(*limit)
}

// longText is a text of that size as its schema and name have it.
func (s schema) longText(name string, size, number int) string {
	switch {
	case s.Format == "uuid":
		return fmt.Sprintf("01a233cd-0000-7000-8000-%012d", number)
	case s.Format == "date-time":
		return "2026-06-10T10:00:00Z"
	case s.Format == "date":
		return "2026-06-10"
	}
	begins := fmt.Sprintf("%d ", number)
	if slices.Contains([]string{"address", "destination", "fallback", "passThrough", "feed"}, name) {
		begins = fmt.Sprintf("https://kiln%d.example/?", number)
	}
	// A letter, a mark and a space again and again are what lists, addresses and words in any script are made of.
	text := []rune(begins + strings.Repeat("a,é @.b\n", max(1, size/8)))
	return string(text[:min(len(text), max(1, size), atMost(s.MaxLength, size))])
}

// worst is the largest JSON that an operation takes, or nil where it takes none. What it is about stays what it was.
func (c contract) worst(o operation, who owner, path string, body any) any {
	of, ok := o.json()
	sent, isJSON := body.(map[string]any)
	if !ok || !isJSON {
		return nil
	}
	for size := longest; ; size /= 2 {
		most, _ := c.most(of, "", size, 0).(map[string]any)
		full := maps.Clone(most)
		for name, value := range sent {
			if _, text := value.(string); !text || slices.Contains([]string{"password", "token", "original", "into"}, name) {
				full[name] = value // proofs and what else is meant, so that the rest is looked at
			}
		}
		for name, value := range most {
			if _, list := value.([]any); list {
				full[name] = value
			}
		}
		if size < 64 || who.send(o.method, path, full).status != http.StatusRequestEntityTooLarge {
			return full
		}
	}
}

// largestFiles are the files that cost most to read, by the operations that take them.
func largestFiles(t *testing.T) map[string][]byte {
	report := &strings.Builder{}
	report.WriteString("Date,Orders,Revenue\n")
	for day := range 40_000 {
		fmt.Fprintf(report, "2026-%02d-%02d,%d,%d.50\n", day%12+1, day%28+1, day, day)
	}
	return map[string][]byte{
		"upload-picture":      transparentPicture(t, 2828, 2828),
		"upload-icon":         transparentPicture(t, 2828, 2828),
		"upload-film":         append([]byte("\x00\x00\x00\x18ftypisom"), make([]byte, 15<<20)...),
		"upload-file":         append([]byte("%PDF-1.7\n"), make([]byte, 15<<20)...),
		"read-partner-report": []byte(report.String()),
		"read-link-file":      []byte(strings.Repeat("https://kiln.example/a,Title\n", 10_000)),
	}
}

// transparentPicture is a PNG that everything shines through a little, in as many bytes as an upload may have.
func transparentPicture(t *testing.T, width, height int) []byte {
	t.Helper()
	picture, random := image.NewNRGBA(image.Rect(0, 0, width, height)), rand.New(rand.NewPCG(1, 2))
	for y := range height {
		grain := y % 2 * 60 // every other line, so that it is as many bytes as may be sent
		for x := range width {
			picture.SetNRGBA(x, y, color.NRGBA{R: uint8(x / 20), G: uint8(y / 20), B: uint8((x^y)/8 + random.IntN(1+grain)), A: uint8(200 + x/100)})
		}
	}
	var out bytes.Buffer
	require.NoError(t, (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&out, picture))
	require.Less(t, out.Len(), media.MaxBytes)
	require.Greater(t, out.Len(), media.MaxBytes*3/4)
	return out.Bytes()
}

func TestTheLargestBodyIsWhatTheContractLetsThrough(t *testing.T) {
	four, three := 4.0, 3.0
	c := contract{}
	list := schema{Type: []any{"array", "null"}, Items: &schema{Type: "string", MaxLength: &four}, MaxItems: &three}
	body := c.most(schema{Type: "object", Properties: map[string]schema{
		"labels": list, "on": {Type: "boolean"}, "id": {Type: "string", ReadOnly: true}, "state": {Enum: []any{"on", "off"}},
	}}, "", 1<<10, 0)
	assert.Equal(t, map[string]any{"labels": []any{"0 a,", "1 a,", "2 a,"}, "on": true, "state": "off"}, body)
}
