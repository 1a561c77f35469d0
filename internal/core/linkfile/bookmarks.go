package linkfile

import (
	"bufio"
	"fmt"
	"html"
	"io"
	"strings"
	"time"

	xhtml "golang.org/x/net/html"
)

// bookmarksHead begins a file of bookmarks, by which it is known.
const bookmarksHead = "<!DOCTYPE NETSCAPE-Bookmark-file-1>"

// IsBookmarks tells whether a text is a file of bookmarks: it begins like one.
func IsBookmarks(text string) bool {
	head := strings.ToUpper(strings.TrimSpace(text[:min(len(text), 400)]))
	return strings.HasPrefix(head, strings.ToUpper(bookmarksHead))
}

// maxDepth is how deep folders are followed.
const maxDepth = 20

// ReadBookmarks reads a file of bookmarks: each link with the folder it is in as its
// label, and what is said of it as its note. At most so many are read.
func ReadBookmarks(text string, most int) []Entry {
	b := bookmarks{tokens: xhtml.NewTokenizer(strings.NewReader(text)), line: 1}
	for len(b.entries) < most {
		kind := b.tokens.Next()
		if kind == xhtml.ErrorToken {
			break
		}
		b.line += strings.Count(string(b.tokens.Raw()), "\n")
		b.token(kind, b.tokens.Token())
	}
	b.done()
	return distinct(b.entries)
}

// bookmarks is a file being read.
type bookmarks struct {
	tokens  *xhtml.Tokenizer
	line    int
	folders []string
	folder  string // named, and not yet opened
	in      string // the element whose text is read: a, h3, dd
	text    strings.Builder
	leads   string
	note    string
	title   string
	begun   int // line of the link that is being read, 0 for none
	entries []Entry
}

func (b *bookmarks) token(kind xhtml.TokenType, token xhtml.Token) {
	switch kind {
	case xhtml.TextToken:
		if b.in != "" {
			b.text.WriteString(token.Data)
		}
	case xhtml.StartTagToken:
		b.take()
		b.open(token)
	case xhtml.EndTagToken:
		b.take()
		if token.Data == "dl" {
			b.done()
			b.folders = b.folders[:max(0, len(b.folders)-1)]
		}
	}
}

func (b *bookmarks) open(token xhtml.Token) {
	switch token.Data {
	case "dt":
		b.done()
	case "dl":
		b.done()
		if len(b.folders) < maxDepth {
			b.folders = append(b.folders, b.folder)
		}
		b.folder = ""
	case "a":
		b.in, b.begun = "a", b.line
		for _, attribute := range token.Attr {
			if attribute.Key == "href" {
				b.leads = attribute.Val
			}
		}
	case "h3", "dd":
		b.in = token.Data
	}
}

// take takes what was written in an element that ends.
func (b *bookmarks) take() {
	text := strings.Join(strings.Fields(b.text.String()), " ")
	switch b.in {
	case "a":
		b.title = text
	case "h3":
		b.folder = text
	case "dd":
		if b.begun > 0 {
			b.note = text
		}
	}
	b.in = ""
	b.text.Reset()
}

// done keeps the link that was read.
func (b *bookmarks) done() {
	b.take()
	if b.begun > 0 {
		var labels []string
		if n := len(b.folders); n > 0 && b.folders[n-1] != "" {
			labels = []string{b.folders[n-1]}
		}
		b.entries = append(b.entries, entry(b.begun, b.leads, b.title, b.note, labels))
	}
	b.leads, b.title, b.note, b.begun = "", "", "", 0
}

// Folder is a folder of bookmarks to be written.
type Folder struct {
	Name  string
	Links []Bookmark
}

// Bookmark is a link in a folder.
type Bookmark struct {
	Address, Title, Note string
	Added                time.Time // left out when zero
}

// WriteBookmarks writes folders as a file of bookmarks, as browsers read it.
func WriteBookmarks(to io.Writer, title string, folders []Folder) error {
	out := bufio.NewWriter(to)
	fmt.Fprintf(
		out,
		"%s\n<META HTTP-EQUIV=\"Content-Type\" CONTENT=\"text/html; charset=UTF-8\">\n<TITLE>%[2]s</TITLE>\n<H1>%[2]s</H1>\n<DL><p>\n",
		bookmarksHead,
		html.EscapeString(title),
	)
	for _, folder := range folders {
		fmt.Fprintf(out, "    <DT><H3>%s</H3>\n    <DL><p>\n", html.EscapeString(folder.Name))
		for _, link := range folder.Links {
			added := ""
			if !link.Added.IsZero() {
				added = fmt.Sprintf(" ADD_DATE=\"%d\"", link.Added.Unix())
			}
			fmt.Fprintf(
				out,
				"        <DT><A HREF=\"%s\"%s>%s</A>\n",
				html.EscapeString(link.Address),
				added,
				html.EscapeString(link.Title),
			)
			if link.Note != "" {
				fmt.Fprintf(out, "        <DD>%s\n", html.EscapeString(link.Note))
			}
		}
		fmt.Fprint(out, "    </DL><p>\n")
	}
	fmt.Fprint(out, "</DL><p>\n")
	return out.Flush()
}
