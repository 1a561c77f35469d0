package standin

import (
	"encoding/xml"
	"fmt"
	"hash/fnv"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// notesHost is the made-up journal with a feed.
const notesHost = "notes.quarrow.example"

// note is an entry of the journal.
type note struct {
	Title string
	At    time.Time
}

// firstNotes are those that are in every journal at the beginning.
var firstNotes = []note{
	{"Ash from the apple trees", time.Date(2026, 9, 4, 9, 0, 0, 0, time.UTC)},
	{"A celadon that pools", time.Date(2026, 10, 2, 9, 0, 0, 0, time.UTC)},
	{"What the kiln gods left us", time.Date(2026, 10, 30, 9, 0, 0, 0, time.UTC)},
	{"Tenmoku, third attempt", time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC)},
}

// maxNotes is how many entries are added to a journal, and maxJournals to how many.
const (
	maxNotes    = 200
	maxJournals = 1000
)

func (n note) path() string { return "/" + strings.ReplaceAll(strings.ToLower(n.Title), " ", "-") }

type rssFeed struct {
	XMLName xml.Name  `xml:"rss"`
	Version string    `xml:"version,attr"`
	Title   string    `xml:"channel>title"`
	Link    string    `xml:"channel>link"`
	Items   []rssItem `xml:"channel>item"`
}

type rssItem struct {
	Title   string `xml:"title"`
	Link    string `xml:"link"`
	GUID    string `xml:"guid"`
	At      string `xml:"pubDate"`
	Picture struct {
		URL  string `xml:"url,attr"`
		Type string `xml:"type,attr"`
	} `xml:"enclosure"`
}

// journal answers for the made-up journals: the first page of one, which names its feed, and
// the feed. There is one at the top, and one in every folder. It is false for all else.
func (s *Server) journal(c *gin.Context, host, path string) bool {
	if host != notesHost {
		return false
	}
	folder, file := strings.Trim(path, "/"), ""
	if at := strings.LastIndex(path, "/"); at >= 0 {
		folder, file = strings.Trim(path[:at], "/"), path[at+1:]
	}
	switch file {
	case "":
		answer(c, "journal", folder)
	case "feed.xml":
		s.feed(c, folder)
	default:
		return false
	}
	return true
}

func (s *Server) feed(c *gin.Context, journal string) {
	at := strings.TrimSuffix("https://"+notesHost+"/"+journal, "/")
	made := rssFeed{Version: "2.0", Title: "Quarrow notes", Link: at + "/"}
	s.mu.Lock()
	notes := append(slices.Clone(firstNotes), s.notes[journal]...)
	s.mu.Unlock()
	for _, each := range slices.Backward(notes) {
		item := rssItem{Title: each.Title, Link: at + each.path(), At: each.At.Format(time.RFC1123Z)}
		item.GUID = item.Link
		item.Picture.URL, item.Picture.Type = "https://"+notesHost+"/picture.png?of="+each.path(), "image/png"
		made.Items = append(made.Items, item)
	}
	text, err := xml.Marshal(made)
	if err != nil {
		_ = c.Error(err)
		return
	}
	sum := fnv.New64a()
	_, _ = sum.Write(text)
	tag := fmt.Sprintf(`"%x"`, sum.Sum64())
	c.Header("ETag", tag)
	if c.GetHeader("If-None-Match") == tag {
		c.Status(http.StatusNotModified)
		return
	}
	c.Data(http.StatusOK, "application/rss+xml; charset=utf-8", append([]byte(xml.Header), text...))
}

// addNote publishes an entry, as whoever keeps the journal does.
func (s *Server) addNote(c *gin.Context) {
	title := strings.Join(strings.Fields(c.PostForm("title")), " ")
	if title == "" || len(title) > 100 {
		c.String(http.StatusBadRequest, "An entry has a title of at most 100 letters.")
		return
	}
	journal := c.PostForm("journal")
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.notes[journal]) < maxNotes && (len(s.notes) < maxJournals || s.notes[journal] != nil) {
		s.notes[journal] = append(s.notes[journal], note{title, time.Now().UTC()})
	}
	c.Redirect(http.StatusSeeOther, "/web/"+notesHost+"/"+journal)
}
