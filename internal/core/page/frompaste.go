package page

import (
	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/paste"
)

// FromPaste makes a block out of what a pasted line was understood to be: the
// right kind, titled with what is known. It is false where nothing was
// understood.
func FromPaste(key string, entry paste.Entry) (Block, bool) {
	block := Block{Key: key, Shown: true}
	title := invalid.Cut(entry.Name(), MaxTitle)
	switch entry.Kind {
	case paste.Web:
		block.Kind = "button"
		block.Button = &Button{Title: title, Address: entry.Link.URL, Shape: "beside", Movement: "none"}
	case paste.File:
		block.Kind = "file"
		block.File = &File{Lead: Lead{Icon: &Icon{Set: "signs", Name: "download"}}, Title: title, Address: entry.Link.URL}
	case paste.Phone, paste.Mail:
		block.Kind = "contact"
		block.Contact = contactFrom(entry, title)
		if block.Contact == nil {
			// A number or mailbox with more to it than a contact block can say
			// stays a plain link.
			block.Kind = "button"
			block.Button = &Button{Title: title, Address: entry.Link.URL, Shape: "beside", Movement: "none"}
		}
	default:
		return Block{}, false
	}
	return block, true
}

func contactFrom(entry paste.Entry, title string) *Contact {
	c := &Contact{Title: title}
	reached := (address.Link{URL: entry.Link.URL, Scheme: entry.Link.Scheme}).Name()
	switch entry.Link.Scheme {
	case "mailto":
		c.Way, c.Mailbox, c.Icon = "mail", reached, &Icon{Set: "signs", Name: "mail"}
	case "sms":
		c.Way, c.Number, c.Icon = "text", reached, &Icon{Set: "signs", Name: "message-square"}
	default:
		c.Way, c.Number, c.Icon = "call", reached, &Icon{Set: "signs", Name: "phone"}
	}
	if leads, err := c.address(); err != nil || leads != entry.Link.URL {
		return nil
	}
	return c
}

// LeadsTo lists the keys of the blocks of which something leads to the same
// destination as an address.
func (d Document) LeadsTo(link string) []string {
	keys := []string{}
	for _, block := range d.Blocks {
		for _, target := range block.Targets() {
			if target.Address != "" && address.Same(target.Address, link) {
				keys = append(keys, block.Key)
				break
			}
		}
	}
	return keys
}
