package pagecheck

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/publicsuffix"

	"jundle/internal/core/address"
	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/core/window"
)

// vague are titles that say nothing of where they lead, as WCAG 2.2 (2.4.4, Link Purpose)
// warns of; the list is common practice.
var vague = []string{
	"click here", "click", "here", "this", "link", "this link", "my link", "read more", "more", "learn more", "find out more", "see more",
	"go", "open", "visit", "button", "new button", "untitled", "title", "website", "page", "hier", "hier klicken", "mehr", "aquí", "ici",
	"cliquez ici", "clicca qui", "aqui",
}

// ofBlock finds what is wrong about a block that is switched on. Leads are what leads to a
// destination already, by what addresses share.
func ofBlock(block page.Block, facts Facts, leads map[string]string) []Finding {
	l := &list{row: block.Key, name: block.Title()}
	if block.When != nil && block.When.StateAt(facts.Now) == window.Over {
		l.add("over", Weak, "Its times are over.", "It is switched on and shows to nobody any more.",
			repairOf("Hide it", changed(block, func(b *page.Block) { b.Shown, b.When = false, nil })))
	}
	if to := block.To; to != nil && to.Rule == "only" &&
		!slices.ContainsFunc(to.Sources, func(id string) bool { return facts.Sources[id] }) {
		l.add("nobody", Wrong, "It is shown to those from sources only that are no longer there.", "Nobody can ever see it.",
			repairOf("Show it to all", changed(block, func(b *page.Block) { b.To = nil })))
	}
	l.gate(block.Gate)
	if block.Pictures != nil {
		l.alternatives(*block.Pictures)
	}
	if block.Feed != nil {
		l.feed(*block.Feed, facts)
	}
	if block.SignUp != nil {
		l.signUp(*block.SignUp, facts)
	}
	if block.Payment != nil && facts.NoPayments {
		l.add("nopayment", Wrong, "Nobody can pay: no payment service is connected.",
			"Who presses it is told that nothing was charged. Connect the service that you are paid by, under Income.", nil)
	}
	if block.Booking != nil {
		l.booking(*block.Booking, facts)
	}
	if block.Kind == "button" || block.Kind == "offer" {
		l.title(block, leads)
	}
	return l.found
}

// booking finds times that nobody can ask for, pay or hear of.
func (l *list) booking(times page.Booking, facts Facts) {
	if len(times.Rules().Free(nil, facts.Now, facts.Now, 1)) == 0 {
		l.add("notimes", Wrong, "There is no time to ask for.",
			"Say within which hours of the week one lies, and let them be as long as one takes.", nil)
	}
	if times.Price > 0 && facts.NoPayments {
		l.add("nopayment", Wrong, "Nobody can pay: no payment service is connected.",
			"You can agree to times, but what they cost cannot be paid here. Connect the service that you are paid by, under Income.", nil)
	}
	if facts.NoMail {
		l.add("nomail", Wrong, "Nobody gets a letter about it: there is no mail server.",
			"You are not told of who asks, and they not of your answer. Whoever runs the service can name one (JUNDLE_MAIL_URL).", nil)
	}
}

// gate finds a gate that opens to nobody.
func (l *list) gate(gate *page.Gate) {
	if gate != nil && gate.Kind == "passcode" && gate.PasscodeID == "" {
		l.add(
			"locked",
			Wrong,
			"It asks for a passcode, and none is set.",
			"Nobody can ever open it. Set a passcode where it is edited.",
			nil,
		)
	}
}

// signUp finds a form that leads nowhere, or that says too little of what it is for.
func (l *list) signUp(form page.SignUp, facts Facts) {
	if facts.NoMail {
		l.add("nomail", Wrong, "Nobody can confirm an address: there is no mail server.",
			"Whoever signs up waits for a letter that never comes. Whoever runs the service can name one (JUNDLE_MAIL_URL).", nil)
	}
	if strings.TrimSpace(form.Consent) == "" {
		l.add("consent", Weak, "It does not say what people agree to.",
			"In many countries letters may be sent to those only who agreed to them, and you must be able to show it.", nil)
	}
}

// feed finds a feed that shows nothing, or nothing new.
func (l *list) feed(of page.Feed, facts Facts) {
	problem, there := facts.Feeds[of.FeedID]
	switch {
	case !there:
		l.add("nofeed", Wrong, "No feed has been found for it.",
			"Visitors see nothing of it. Say where the feed is, and press “Look for the feed”.", nil)
	case problem != "":
		l.add("feed", Weak, "Its feed gives no answer: "+problem, "Visitors see what it had. It is asked again by itself.", nil)
	}
}

// alternatives finds pictures that nobody describes.
func (l *list) alternatives(pictures page.Pictures) {
	without := 0
	for _, item := range pictures.Items {
		if strings.TrimSpace(item.Alt) == "" {
			without++
		}
	}
	if without > 0 {
		l.add("alt", Weak, fmt.Sprintf("%d of %d pictures have no description.", without, len(pictures.Items)),
			"Who has the page read out hears nothing of them (WCAG 2.2, 1.1.1).", nil)
	}
}

// title finds a title that says nothing or something else, and a second way to the same
// place.
func (l *list) title(block page.Block, leads map[string]string) {
	title := strings.ToLower(strings.Trim(strings.Join(strings.Fields(block.Title()), " "), " .!→>…"))
	targets := block.Targets()
	switch {
	case title == string(block.Kind) || title == "":
		l.add("untitled", Weak, "It has no title.", "It is called after where it leads, which says little.", nil)
	case slices.Contains(vague, title):
		l.add(
			"vague",
			Weak,
			fmt.Sprintf("“%s” does not say where it leads.", block.Title()),
			"People press what they know. Name the thing itself.",
			nil,
		)
	}
	for _, target := range targets {
		if target.Address == "" {
			continue
		}
		if named := named(block.Title(), target.Address); named != "" {
			l.add("otherwise", Wrong, fmt.Sprintf("It says %s and leads to %s.", named, linkcheck.Domain(target.Address)),
				"Either the title or the address is a slip.", nil)
		}
		key := address.Key(target.Address)
		if first, twice := leads[key]; twice {
			l.add(
				"twice",
				Weak,
				fmt.Sprintf("It leads to the same place as “%s”.", first),
				"Two buttons for one thing make the others harder to find.",
				repairOf("Hide this one", changed(block, func(b *page.Block) { b.Shown = false })),
			)
		} else {
			leads[key] = block.Title()
		}
	}
}

// domains are what may be the name of a host in a text.
var domains = regexp.MustCompile(`(?i)\b(?:[a-z0-9](?:[a-z0-9-]*[a-z0-9])?\.)+[a-z]{2,}\b`)

// named is a registrable domain that a title names, where the address leads to another;
// empty otherwise. A mailbox in a title names none.
func named(title, leads string) string {
	if !strings.HasPrefix(leads, "http") || strings.Contains(title, "@") {
		return ""
	}
	for _, host := range domains.FindAllString(title, -1) {
		suffix, registered := publicsuffix.PublicSuffix(strings.ToLower(host))
		if (registered || suffix == "example") && source.Domain(host) != linkcheck.Domain(leads) {
			return source.Domain(host)
		}
	}
	return ""
}

// changed is a block as it would be after a change. What a change writes into is copied
// before; it must not write into anything else that blocks share.
func changed(block page.Block, change func(b *page.Block)) page.Block {
	change(&block)
	return block
}
