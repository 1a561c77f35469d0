package render

import (
	"bytes"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"golang.org/x/net/html"
)

// A phone as many are: so many pixels of CSS wide, so many dots for each.
const (
	phoneWidth = 390
	phoneDots  = 3
)

var inPage = regexp.MustCompile(`^/media/([0-9a-f]{64}\.[a-z0-9]+)$`)

// MediaOnPhone lists the pictures and films that a phone fetches for a page, by name, each
// once: of each picture the size that its browser chooses (HTML, 4.8.4.3.8, selecting an
// image source).
func MediaOnPhone(page []byte) []string {
	var names []string
	seen := make(map[string]bool)
	add := func(path string) {
		if found := inPage.FindStringSubmatch(path); found != nil && !seen[found[1]] {
			seen[found[1]] = true
			names = append(names, found[1])
		}
	}
	for tokens := html.NewTokenizer(bytes.NewReader(page)); tokens.Next() != html.ErrorToken; {
		token := tokens.Token()
		if token.Type != html.StartTagToken || token.Data != "img" && token.Data != "source" {
			continue
		}
		said := make(map[string]string)
		for _, each := range token.Attr {
			said[each.Key] = each.Val
		}
		add(chosen(said))
	}
	return names
}

// chosen is the file of the attributes of an img that is fetched.
func chosen(said map[string]string) string {
	path := said["src"]
	need := widthOnPhone(said["sizes"]) * phoneDots
	for candidate := range strings.SplitSeq(said["srcset"], ",") {
		var width int
		if _, err := fmt.Sscanf(candidate, "%s %dw", &path, &width); err == nil && width >= need {
			break // they come smallest first
		}
	}
	return path
}

var length = regexp.MustCompile(`(\d+)(vw|px)`)

// widthOnPhone is how wide a picture is shown, by its sizes attribute: the last of it is
// what holds where no condition does, and calc() there only takes away.
func widthOnPhone(sizes string) int {
	last := sizes[strings.LastIndex(sizes, ",")+1:]
	width := 0
	for i, part := range length.FindAllStringSubmatch(last, -1) {
		n, err := strconv.Atoi(part[1])
		if err != nil {
			return phoneWidth
		}
		if part[2] == "vw" {
			n = n * phoneWidth / 100
		}
		if i > 0 {
			n = -n
		}
		width += n
	}
	return width
}
