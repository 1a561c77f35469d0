package page

import (
	"strings"

	"jundle/internal/core/address"
	"jundle/internal/core/contact"
	"jundle/internal/core/invalid"
)

// Named is the document as visitors get it: what was left without a name is called
// after where it leads, and the page after its address. A link without words is none
// for whoever has it read out, and no valid HTML either.
func Named(doc Document, pageAddress string) Document {
	named, err := doc.Clone()
	if err != nil {
		return doc // it came out of JSON and goes there again
	}
	fill(&named.Header.Name, pageAddress)
	for i := range named.Icons.Items {
		fill(&named.Icons.Items[i].Name, nameOf(named.Icons.Items[i].Address))
	}
	for i := range named.Footer.Links {
		fill(&named.Footer.Links[i].Title, nameOf(named.Footer.Links[i].Address))
	}
	for _, block := range named.Blocks {
		if content, ok := block.Content().(namesItself); ok && !(block.Contact != nil && block.AsksPasscode()) {
			content.nameAfterTarget()
		}
	}
	return named
}

func fill(name *string, with string) {
	if strings.TrimSpace(*name) == "" {
		*name = invalid.Cut(with, MaxName)
	}
}

// nameOf is what an address is called before anybody has said.
func nameOf(leads string) string {
	link, err := address.ParseLink(leads)
	if err != nil {
		return ""
	}
	if !link.IsWeb() {
		return contact.Shown(link.URL)
	}
	return link.Name()
}
