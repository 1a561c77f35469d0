package public_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/page/pagetest"
	"jundle/internal/media"
)

const desktop = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"

func (s *site) keep(name, content string) {
	s.t.Helper()
	require.NoError(s.t, s.files.Keep(s.t.Context(), s.member.WorkspaceID, media.File{Name: name, Bytes: []byte(content)}))
}

func TestEveryItemOfABlockIsLedThroughAndToldApart(t *testing.T) {
	s := open(t)
	s.publishDocument(pagetest.Everything())
	for path, leads := range map[string]string{
		"pictures.bowl":  "https://shop.quarrow.example/bowl",
		"text.1":         "https://quarrow.example/film",
		"icons.loft":     "https://photoloft.example/quarrowclay",
		"footer.privacy": "https://quarrow.example/privacy",
		"file":           "/files/" + strings.Repeat("9", 64) + ".bin/glaze%20recipes.pdf",
	} {
		answer := s.get("/quarrow-clay/-/1/" + path)
		assert.Equal(t, http.StatusFound, answer.Code, path)
		location, _, _ := strings.Cut(answer.Header().Get("Location"), "?key=")
		assert.Equal(t, leads, location, path)
		assert.Equal(t, "no-store", answer.Header().Get("Cache-Control"))
	}
	for _, none := range []string{"pictures", "pictures.kiln", "pictures.bowl.x", "heading", "icons", "text.9", "button.x"} {
		assert.Equal(t, http.StatusNotFound, s.get("/quarrow-clay/-/1/"+none).Code, none)
	}
	recorded := map[string]int{}
	for _, event := range s.events() {
		recorded[event.Block+"/"+event.Item] = event.Place
	}
	assert.Equal(t, map[string]int{"pictures/bowl": 7, "text/1": 4, "icons/loft": 0, "footer/privacy": 0, "file/": 8}, recorded)
}

func TestAContactCardIsHandedOutAndCounted(t *testing.T) {
	s := open(t)
	s.publishDocument(pagetest.Everything())
	answer := s.get("/quarrow-clay/-/1/contact")
	assert.Equal(t, http.StatusOK, answer.Code)
	assert.Equal(t, "text/vcard; charset=utf-8", answer.Header().Get("Content-Type"))
	assert.Equal(t, `attachment; filename="Ilse Quarrow.vcf"`, answer.Header().Get("Content-Disposition"))
	assert.Contains(t, answer.Body.String(), "FN:Ilse Quarrow\r\n")
	assert.Len(t, s.events(), 1)
}

func TestANumberIsDialledOnAPhoneAndShownOnADesktop(t *testing.T) {
	s := open(t)
	s.publish(page.Block{Key: "call", Kind: "contact", Shown: true, Contact: &page.Contact{
		Title: "Ring me", Way: "call",
		Number: "+44 20 7946 0018",
	}})
	onPhone := s.get("/quarrow-clay/-/1/call")
	assert.Equal(t, http.StatusFound, onPhone.Code)
	assert.Equal(t, "tel:+442079460018", onPhone.Header().Get("Location"))
	onDesktop := s.get("/quarrow-clay/-/1/call", func(r *http.Request) { r.Header.Set("User-Agent", desktop) })
	assert.Equal(t, http.StatusOK, onDesktop.Code)
	assert.Contains(t, onDesktop.Body.String(), `<a href="tel:&#43;442079460018">&#43;442079460018</a>`)
	assert.Contains(t, onDesktop.Header().Get("Content-Security-Policy"), "style-src 'sha256-")
	assert.Len(t, s.events(), 2, "both are counted")
}

func TestFilesAreHandedOutAsAttachmentsAndInNoOtherWay(t *testing.T) {
	s := open(t)
	bin, svg, film := strings.Repeat("1", 64)+".bin", strings.Repeat("2", 64)+".svg", strings.Repeat("3", 64)+".mp4"
	s.keep(bin, "<script>alert(1)</script>")
	s.keep(svg, "<svg/>")
	s.keep(film, "0123456789")
	file := s.get("/files/" + bin + "/glaze%20r%C3%A9cipes.html")
	assert.Equal(t, "application/octet-stream", file.Header().Get("Content-Type"))
	assert.Contains(t, file.Header().Get("Content-Disposition"), "attachment")
	assert.Equal(t, "nosniff", file.Header().Get("X-Content-Type-Options"))
	assert.Equal(t, http.StatusNotFound, s.get("/media/"+bin).Code)
	drawing := s.get("/media/" + svg)
	assert.Equal(t, "image/svg+xml", drawing.Header().Get("Content-Type"))
	assert.Equal(t, "default-src 'none'; sandbox", drawing.Header().Get("Content-Security-Policy"),
		"a drawing opened by itself can do nothing")
	part := s.get("/media/"+film, func(r *http.Request) { r.Header.Set("Range", "bytes=2-4") })
	assert.Equal(t, http.StatusPartialContent, part.Code, "films are fetched in parts")
	assert.Equal(t, "234", part.Body.String())
	assert.Equal(t, http.StatusNotFound, s.get("/files/"+strings.Repeat("4", 64)+".bin/x").Code)
	head := s.get("/media/"+film, func(r *http.Request) { r.Method = http.MethodHead })
	assert.Equal(t, http.StatusOK, head.Code, "who fetches a card for a post asks for the head first")
	assert.Empty(t, head.Body.String())
}

func TestFontsComeWithThePageFromItsOwnHost(t *testing.T) {
	s := open(t)
	doc := document([]page.Block{button("aaaa", "https://kiln.example/")})
	doc.Look.Type.Pair = "almanac"
	s.publishDocument(doc)
	answer := s.get("/quarrow-clay")
	assert.Contains(t, answer.Header().Get("Content-Security-Policy"), "font-src 'self'")
	assert.Contains(t, answer.Body.String(), `href="/fonts/fraunces-700-plain.woff2" as="font"`)
	font := s.get("/fonts/fraunces-700-plain.woff2")
	assert.Equal(t, "font/woff2", font.Header().Get("Content-Type"))
	assert.Contains(t, font.Header().Get("Cache-Control"), "immutable")
	assert.Equal(t, http.StatusNotFound, s.get("/fonts/fraunces.LICENSE").Code)
}

func TestThePolicyOfAPageIsThatOfItsOwnStyleSheet(t *testing.T) {
	s := open(t)
	s.publish(button("aaaa", "https://kiln.example/"))
	before := s.get("/quarrow-clay").Header().Get("Content-Security-Policy")
	doc := document([]page.Block{button("aaaa", "https://kiln.example/")})
	doc.Look.Text = "#000000"
	s.publishDocument(doc)
	after := s.get("/quarrow-clay").Header().Get("Content-Security-Policy")
	assert.NotEqual(t, before, after)
	for _, policy := range []string{before, after} {
		assert.NotContains(t, policy, "unsafe")
		assert.Contains(t, policy, "default-src 'none'")
	}
}
