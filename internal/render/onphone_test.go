package render_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"jundle/internal/render"
)

// The widths are what browsers choose by: 390 pixels of CSS at three dots each.
func TestAPhoneFetchesOfEachPictureTheSizeItShows(t *testing.T) {
	name := func(letter string) string { return strings.Repeat(letter, 64) + ".jpg" }
	set := func(sizes string) string {
		return `<img src="/media/` + name("d") + `" srcset="/media/` + name("a") + ` 300w, /media/` + name("b") + ` 600w, /media/` + name("c") +
			` 1200w, /media/` + name("d") + ` 2400w" sizes="` + sizes + `">`
	}
	for sizes, want := range map[string]string{
		"96px": "a", "(min-width:37.5rem) 254px,calc(50vw - 26px)": "b", "(min-width:37.5rem) 520px,calc(100vw - 40px)": "c", "200vw": "d",
	} {
		assert.Equal(t, []string{name(want)}, render.MediaOnPhone([]byte(set(sizes))), sizes)
	}
	page := `<p>` + set("96px") + set("96px") + `<img src="/media/` + name("e") + `"><img src="https://elsewhere.example/x.jpg">` +
		`<video><source src="/media/` + strings.Repeat("f", 64) + `.mp4"></video><img>`
	assert.Equal(t, []string{name("a"), name("e"), strings.Repeat("f", 64) + ".mp4"}, render.MediaOnPhone([]byte(page)))
}
