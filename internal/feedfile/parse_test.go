package feedfile

import (
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/fuzzing"
)

func read(t *testing.T, text, from string) Feed {
	t.Helper()
	base, err := url.Parse(from)
	require.NoError(t, err)
	got, err := Read([]byte(text), base)
	require.NoError(t, err)
	return got
}

// The brief example of RFC 4287 s1.1.
const briefAtom = `<?xml version="1.0" encoding="utf-8"?>
<feed xmlns="http://www.w3.org/2005/Atom">
  <title>Example Feed</title>
  <link href="http://example.org/"/>
  <updated>2003-12-13T18:30:02Z</updated>
  <author><name>John Doe</name></author>
  <id>urn:uuid:60a76c80-d399-11d9-b93C-0003939e0af6</id>
  <entry>
    <title>Atom-Powered Robots Run Amok</title>
    <link href="http://example.org/2003/12/13/atom03"/>
    <id>urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a</id>
    <updated>2003-12-13T18:30:02Z</updated>
    <summary>Some text.</summary>
  </entry>
</feed>`

// The extensive example of RFC 4287 s1.1.
const extensiveAtom = `<?xml version="1.0" encoding="utf-8"?>
<feed xmlns="http://www.w3.org/2005/Atom">
  <title type="text">dive into mark</title>
  <subtitle type="html">A &lt;em&gt;lot&lt;/em&gt; of effort went into making this effortless</subtitle>
  <updated>2005-07-31T12:29:29Z</updated>
  <id>tag:example.org,2003:3</id>
  <link rel="alternate" type="text/html" hreflang="en" href="http://example.org/"/>
  <link rel="self" type="application/atom+xml" href="http://example.org/feed.atom"/>
  <rights>Copyright (c) 2003, Mark Pilgrim</rights>
  <entry>
    <title>Atom draft-07 snapshot</title>
    <link rel="alternate" type="text/html" href="http://example.org/2005/04/02/atom"/>
    <link rel="enclosure" type="audio/mpeg" length="1337" href="http://example.org/audio/ph34r_my_podcast.mp3"/>
    <id>tag:example.org,2003:3.2397</id>
    <updated>2005-07-31T12:29:29Z</updated>
    <published>2003-12-13T08:29:29-04:00</published>
    <content type="xhtml" xml:lang="en" xml:base="http://diveintomark.org/">
      <div xmlns="http://www.w3.org/1999/xhtml"><p><i>[Update: The Atom draft is finished.]</i></p></div>
    </content>
  </entry>
</feed>`

func TestTheExamplesOfAtomAreRead(t *testing.T) {
	brief := read(t, briefAtom, "http://example.org/feed.atom")
	assert.Equal(t, "Example Feed", brief.Title)
	require.Len(t, brief.Entries, 1)
	assert.Equal(t, "Atom-Powered Robots Run Amok", brief.Entries[0].Title)
	assert.Equal(t, "http://example.org/2003/12/13/atom03", brief.Entries[0].Address)
	assert.Equal(t, time.Date(2003, 12, 13, 18, 30, 2, 0, time.UTC), brief.Entries[0].At)

	extensive := read(t, extensiveAtom, "http://example.org/feed.atom")
	assert.Equal(t, "dive into mark", extensive.Title)
	require.Len(t, extensive.Entries, 1)
	assert.Equal(t, "http://example.org/2005/04/02/atom", extensive.Entries[0].Address, "the page, not what comes with it")
	assert.Equal(t, time.Date(2003, 12, 13, 12, 29, 29, 0, time.UTC), extensive.Entries[0].At)
}

// The sample of RSS 2.0 that the RSS Advisory Board publishes, shortened; from memory.
const sampleRSS = `<?xml version="1.0"?>
<rss version="2.0">
  <channel>
    <title>Liftoff News</title>
    <link>http://liftoff.msfc.nasa.gov/</link>
    <description>Liftoff to Space Exploration.</description>
    <item>
      <title>Star City</title>
      <link>http://liftoff.msfc.nasa.gov/news/2003/news-starcity.asp</link>
      <description>How do Americans get ready to work with Russians aboard the International Space Station?</description>
      <pubDate>Tue, 03 Jun 2003 09:39:21 GMT</pubDate>
      <guid>http://liftoff.msfc.nasa.gov/2003/06/03.html#item573</guid>
    </item>
    <item>
      <description>Sky watchers in Europe, Asia, and parts of Alaska will
        experience a &lt;a href="http://science.nasa.gov/"&gt;partial eclipse&lt;/a&gt;.</description>
      <pubDate>Fri, 30 May 2003 11:06:42 GMT</pubDate>
      <guid>http://liftoff.msfc.nasa.gov/2003/05/30.html#item572</guid>
    </item>
  </channel>
</rss>`

func TestTheSampleOfRSSIsRead(t *testing.T) {
	got := read(t, sampleRSS, "http://liftoff.msfc.nasa.gov/rss.xml")
	assert.Equal(t, "Liftoff News", got.Title)
	require.Len(t, got.Entries, 2)
	assert.Equal(t, "Star City", got.Entries[0].Title)
	assert.Equal(t, time.Date(2003, 6, 3, 9, 39, 21, 0, time.UTC), got.Entries[0].At)
	assert.Equal(t, "Sky watchers in Europe, Asia, and parts of Alaska will experience a partial eclipse.", got.Entries[1].Title,
		"an item may have no title")
}

// The simple example of JSON Feed 1.1 (jsonfeed.org/version/1.1), from memory.
const jsonFeed = `{
  "version": "https://jsonfeed.org/version/1.1",
  "title": "My Example Feed",
  "home_page_url": "https://example.org/",
  "feed_url": "https://example.org/feed.json",
  "items": [
    {"id": "2", "content_text": "This is a second item.", "url": "https://example.org/second-item"},
    {"id": "1", "content_html": "<p>Hello, world!</p>", "url": "https://example.org/initial-post"}
  ]
}`

func TestTheExampleOfJSONFeedIsRead(t *testing.T) {
	got := read(t, jsonFeed, "https://example.org/feed.json")
	assert.Equal(t, "My Example Feed", got.Title)
	require.Len(t, got.Entries, 2)
	assert.Equal(t, "https://example.org/second-item", got.Entries[0].Address)
	assert.Equal(t, [2]string{"This is a second item.", "Hello, world!"}, [2]string{got.Entries[0].Title, got.Entries[1].Title})
}

func rss(items string) string {
	return `<rss version="2.0" xmlns:media="http://search.yahoo.com/mrss/"><channel><title>Kiln</title>` + items + `</channel></rss>`
}

func TestPicturesAreFoundWhereverFeedsHaveThem(t *testing.T) {
	got := read(t, rss(`
		<item><link>/1</link><media:thumbnail url="/thumb.jpg"/></item>
		<item><link>/2</link><media:content url="film.mp4" medium="video" type="video/mp4"/>
			<media:content url="still.jpg" type="image/jpeg"/></item>
		<item><link>/3</link><enclosure url="https://cdn.kiln.example/pot.png" type="image/png" length="1"/></item>
		<item><link>/4</link><description>&lt;p&gt;A pot &lt;img alt="" src="pots/4.jpg"&gt;&lt;/p&gt;</description></item>
		<item><link>/5</link><description>&lt;img src="javascript:alert(1)"&gt;</description></item>`), "https://kiln.example/feed/rss.xml")
	var pictures []string
	for _, entry := range got.Entries {
		pictures = append(pictures, entry.Picture)
	}
	assert.Equal(t, []string{
		"https://kiln.example/thumb.jpg", "https://kiln.example/feed/still.jpg", "https://cdn.kiln.example/pot.png",
		"https://kiln.example/feed/pots/4.jpg", "",
	}, pictures)
}

func TestWhatIsHostileInAFeedDoesNothing(t *testing.T) {
	got := read(t, rss(`
		<item><title>&lt;script&gt;alert(1)&lt;/script&gt;Pots</title><link>https://kiln.example/1</link></item>
		<item><title>bad</title><link>javascript:alert(1)</link></item>
		<item><title>worse</title><link>data:text/html,x</link></item>
		<item><title>inside</title><link>https://a:b@kiln.example/</link></item>`), "https://kiln.example/rss.xml")
	require.Len(t, got.Entries, 1, "nothing leads where no link may lead")
	assert.NotContains(t, got.Entries[0].Title, "<")

	base, err := url.Parse("https://kiln.example/")
	require.NoError(t, err)
	entities := `<!DOCTYPE rss [<!ENTITY a "ha">` + strings.Repeat(`<!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">`, 20) + `]>` +
		rss(`<item><title>&b;</title><link>/x</link></item>`)
	for name, text := range map[string]string{
		"elements in elements": "<rss><channel>" + strings.Repeat("<x>", 400_000),
		"elements in items":    `<rss version="2.0"><channel><item>` + strings.Repeat("<m:x>", 300_000),
		"very many items":      rss(strings.Repeat("<item/>", 200_000)),
		"lists in lists":       `{"version":"https://jsonfeed.org/version/1.1","items":` + strings.Repeat("[", 500_000),
		"one long attribute":   `<rss version="` + strings.Repeat("x", 1<<21) + `">`,
		"a page":               "<!doctype html><title>Kiln</title>",
		"nothing":              "",
	} {
		fuzzing.Bounded(t, func() {
			_, err := Read([]byte(text), base)
			assert.Error(t, err, name)
		})
	}
	fuzzing.Bounded(t, func() {
		if got, err := Read([]byte(entities), base); err == nil {
			assert.NotContains(t, got.Entries[0].Title, "haha", "entities are not expanded")
		}
	})
}

func FuzzRead(f *testing.F) {
	for _, seed := range []string{briefAtom, sampleRSS, jsonFeed, rss("<item><link>[::1</link></item>")} {
		f.Add([]byte(seed))
	}
	base, _ := url.Parse("https://kiln.example/")
	f.Fuzz(func(t *testing.T, data []byte) {
		fuzzing.Bounded(t, func() {
			got, err := Read(data, base)
			if err != nil {
				return
			}
			for _, entry := range got.Entries {
				if !strings.HasPrefix(entry.Address, "http") || strings.ContainsAny(entry.Title, "\n") {
					t.Fatalf("%+v", entry)
				}
			}
		})
	})
}
