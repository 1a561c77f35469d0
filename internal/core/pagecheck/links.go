package pagecheck

import (
	"fmt"
	"net/url"
	"strings"

	"jundle/internal/core/address"
	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
)

// placeholders are hosts that are nobody's: that of the ready-made pages, and those that
// RFC 2606 and RFC 6761 keep for documents and tests, without .example, of which the
// demo's whole world is.
var placeholders = []string{"your-site.example", "example.com", "example.net", "example.org", ".invalid", ".test", "localhost"}

// isPlaceholder tells an address that still stands for another.
func isPlaceholder(leads string) bool {
	parsed, err := url.Parse(leads)
	if err != nil {
		return false
	}
	host := parsed.Hostname()
	if parsed.Scheme == "mailto" {
		_, host, _ = strings.Cut(parsed.Opaque, "@")
	}
	for _, each := range placeholders {
		if host == strings.TrimPrefix(each, ".") || strings.HasSuffix(host, "."+strings.TrimPrefix(each, ".")) {
			return true
		}
	}
	return false
}

// links finds what is wrong about where a row leads.
func links(doc page.Document, row page.Row, facts Facts) []Finding {
	var found []Finding
	block, isBlock := doc.Find(row.Key)
	for _, target := range doc.TargetsOf(row.Key) {
		l := &list{row: row.Key, name: row.Title}
		if target.Name != "" {
			l.name = target.Name
		}
		var hide *Repair
		if isBlock && len(block.Targets()) == 1 {
			hide = repairOf("Hide it", changed(block, func(b *page.Block) { b.Shown = false }))
		}
		switch {
		case target.Card != nil, target.Calendar != nil, target.Venue != nil, target.SignUp != nil, target.Pay != nil, target.Book != nil,
			target.Told,
			strings.HasPrefix(target.Address, "/"):
		case target.Address == "":
			l.add("nowhere", Wrong, "It leads nowhere.", "Who presses it finds nothing.", hide)
		case isPlaceholder(target.Address):
			l.add(
				"placeholder",
				Wrong,
				fmt.Sprintf("It still leads to %s, which stands for an address of your own.", address.Readable(target.Address)),
				"Who presses it gets to a place that is nobody's.",
				hide,
			)
		default:
			if strings.HasPrefix(target.Address, "http://") {
				l.add("plain", Weak, "It leads to an address without encryption (http).",
					"Browsers warn of such pages, and whoever shares the network can read along. Try the address with https.", nil)
			}
			if result, known := facts.Links[target.DestinationID]; known && result.Address == target.Address {
				l.answered(result, facts, hide, follow(block, isBlock, target, result))
			}
		}
		found = append(found, l.found...)
	}
	return found
}

// answered finds what came of asking where something leads.
func (l *list) answered(result linkcheck.Result, facts Facts, hide, follow *Repair) {
	asked := facts.said(result.At)
	switch result.Verdict() {
	case linkcheck.Gone:
		l.add("gone", Wrong, result.String(), "Asked on "+asked+", and before. Who presses it finds nothing.", hide)
		return
	case linkcheck.Failing:
		l.add("failing", Wrong, result.String(), "Asked on "+asked+", and before. Who presses it may get no further.", hide)
		return
	case linkcheck.Unsure:
		l.add("unsure", Weak, result.String(), "Asked on "+asked+". It may well be all right for people.", nil)
		return
	}
	if elsewhere := result.Elsewhere(); elsewhere != "" {
		l.add("elsewhere", Weak, fmt.Sprintf("It goes on to %s.", elsewhere),
			"A domain that was given up is often led elsewhere by whoever bought it. Open it once and see.", follow)
	} else if result.Permanent {
		l.add("moved", Weak, fmt.Sprintf("It has moved for good, to %s.", address.Readable(result.Arrived)),
			"Each redirect costs visitors a moment, and the old address may end.", follow)
	}
	if result.CertificateEnds(facts.Now) {
		l.add(
			"certificate",
			Weak,
			fmt.Sprintf("The certificate of its host ends on %s.", result.CertificateUntil.UTC().Format("2 Jan 2006")),
			"From then on browsers warn of it. Whoever keeps that site may not know.",
			nil,
		)
	}
}

// follow is a block that leads straight to where it ends up, where it moved for good.
func follow(block page.Block, isBlock bool, target page.Target, result linkcheck.Result) *Repair {
	if !isBlock || !result.Permanent || result.Elsewhere() != "" {
		return nil
	}
	doc := page.Document{Blocks: []page.Block{block}}
	copied, err := doc.Clone()
	if err != nil {
		return nil
	}
	copied.Links(func(link page.Link) {
		if *link.Address == target.Address {
			*link.Address, *link.DestinationID = result.Arrived, ""
		}
	})
	return repairOf("Lead straight there", copied.Blocks[0])
}
