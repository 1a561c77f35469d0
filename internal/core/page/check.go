package page

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"

	"jundle/internal/core/destination"
	"jundle/internal/core/invalid"
	"jundle/internal/core/locale"
)

// Limits of a page.
const (
	// MaxBlocks is how many blocks it holds.
	MaxBlocks = 100
	// MaxLinks is how many things on it can be pressed, links in texts and icons
	// included.
	MaxLinks = 300
	// MaxSpans is how many stretches of text in one format its texts have in all: each is work for whoever draws the
	// page. A page of words has some hundreds.
	MaxSpans = 3000
	// MaxTimes is how many windows and weekly times its blocks have in all.
	MaxTimes = 100
	// MaxBytes is how long it may be as JSON.
	MaxBytes = 384 << 10
	// MaxIcons is how many profile icons it has.
	MaxIcons = 16
	// MaxFooterLinks is how many small links stand at its end.
	MaxFooterLinks = 6
)

// Limits are what an editor has to know before it adds something.
type Limits struct {
	Blocks      int `json:"blocks"`
	Icons       int `json:"icons"`
	FooterLinks int `json:"footerLinks"`
	Pictures    int `json:"pictures" doc:"In one block."`

	Languages []string `json:"languages" nullable:"false" doc:"Those that a page speaks by itself, by their BCP 47 tags."`
}

// EditorLimits are those of every page.
func EditorLimits() Limits {
	return Limits{Blocks: MaxBlocks, Icons: MaxIcons, FooterLinks: MaxFooterLinks, Pictures: MaxPictures, Languages: locale.Tags()}
}

var keyPattern = regexp.MustCompile(`^[a-z0-9]{4,16}$`)

// Tidy returns the document as it is to be stored: texts trimmed and freed of
// control characters, addresses and colours in their parsed form. When
// something cannot be stored it returns an *invalid.Error that names every
// problem.
func Tidy(given Document) (Document, error) {
	doc, err := given.Clone()
	if err != nil {
		return Document{}, err
	}
	return doc.tidied()
}

// tidied is Tidy of a document that is nobody else's.
func (d Document) tidied() (Document, error) {
	doc := d
	var problems invalid.List
	doc.Language = tidyLanguage(&problems, doc.Language)
	doc.Header.tidy(&problems)
	doc.Icons.tidy(&problems)
	if len(doc.Blocks) > MaxBlocks {
		problems.Add("blocks", "A page holds at most %d blocks; this one would have %d. Nothing was added.", MaxBlocks, len(doc.Blocks))
		return Document{}, problems.Err()
	}
	seen := map[string]bool{IconsKey: true, FooterKey: true}
	for i := range doc.Blocks {
		block, where := &doc.Blocks[i], fmt.Sprintf("blocks/%d", i)
		if !keyPattern.MatchString(block.Key) || seen[block.Key] {
			problems.Add(where+"/key", "Block %d has no key of its own.", i+1)
		}
		seen[block.Key] = true
		block.tidy(&problems, where)
		if block.SignUp != nil || block.Payment != nil {
			block.Gate = nil // the form is open on the page: there is nothing to stand before
		}
		block.tidyGate(&problems, where+"/gate")
	}
	doc.Footer.tidy(&problems)
	doc.Tagging.tidy(&problems)
	doc.Sharing.tidy(&problems)
	doc.When, doc.Takeovers, doc.Trial, doc.Resting = doc.When.Tidy(&problems, "when"), nil, nil, nil
	doc.Gate.tidy(&problems, "gate")
	doc.Codes = tidyCodes(&problems, doc.Codes)
	doc.Look.Tidy(&problems, "look")
	doc.Links(func(link Link) {
		if !destination.IsID(*link.DestinationID) {
			*link.DestinationID = ""
		}
	})
	doc.tidySize(&problems)
	if len(problems) == 0 {
		doc.tidyTranslations(&problems)
	}
	if err := problems.Err(); err != nil {
		return Document{}, err
	}
	return doc, nil
}

// tidySize notes a page with more on it than visitors could use, and than would
// still be quick.
func (d Document) tidySize(problems *invalid.List) {
	links, times, spans := len(d.Icons.targets())+len(d.Footer.targets()), d.When.Count(), 0
	for _, block := range d.Blocks {
		if block.Text != nil {
			spans += block.Text.Parsed().Spans()
		}
		links += len(block.Targets())
		times += block.When.Count()
	}
	if times > MaxTimes {
		problems.Add("blocks", "A page has at most %d windows and weekly times in all; this one would have %d. Take some out.", MaxTimes, times)
	}
	if spans > MaxSpans {
		problems.Add("blocks", "The texts of a page have at most %d changes of format in all, such as bold and back; these have %d. "+
			"Take some formatting out.", MaxSpans, spans)
	}
	if links > MaxLinks {
		problems.Add(
			"blocks",
			"A page has at most %d links, those in texts and the icons included; this one would have %d. Take some out, or put them on "+
				"another page.",
			MaxLinks,
			links,
		)
	}
	var data bytes.Buffer
	written := json.NewEncoder(&data)
	written.SetEscapeHTML(false) // as it comes, and as it is stored
	if err := written.Encode(d); err == nil && data.Len()-d.bytesOfDestinations() > MaxBytes {
		problems.Add("blocks", "A page takes at most %d kB; this one would take %d kB. Shorten its texts, or put some of it on another page.",
			MaxBytes>>10, data.Len()>>10)
	}
}

// bytesOfDestinations is how much of the document the IDs of its destinations take:
// they are not the creator's, and are put in after the document was measured.
func (d Document) bytesOfDestinations() (bytes int) {
	const field, attribute = len(`"destinationId":"",`), len(` data-destination=\"\"`)
	d.Links(func(link Link) {
		if id := *link.DestinationID; id != "" {
			bytes += len(id) + max(field, attribute)
		}
	})
	return bytes
}

// Clone copies the document to its last picture, so that changing the copy leaves the
// one handed in alone.
func (d Document) Clone() (Document, error) {
	var copied Document
	data, err := json.Marshal(d)
	if err == nil {
		err = json.Unmarshal(data, &copied)
	}
	return copied, err
}

func (b *Block) tidy(problems *invalid.List, where string) {
	content := b.Content()
	if content == nil {
		problems.Add(where+"/kind", "“%s” is no kind of block.", invalid.OneLine(string(b.Kind)))
		return
	}
	content.tidy(problems, where+"/"+string(b.Kind))
	b.Style.Tidy(problems, where+"/style")
	b.When = b.When.Tidy(problems, where+"/when")
	b.To = b.To.tidy(problems, where+"/to")
	b.only(b.Kind)
}
