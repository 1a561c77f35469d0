package demo

import (
	"math"
	"strings"

	"jundle/internal/core/page"
	place "jundle/internal/core/source"
)

// The true values that the simulator makes visits from. Readings can be held
// against them.

// blockTruth is a block and how strongly it appeals: the chance that a visitor
// who sees it presses it. What cannot be pressed has none.
type blockTruth struct {
	block    page.Block
	pictured bool
	appeal   float64
}

var blocks = map[string]blockTruth{
	"openings": {button("Kiln opening dates", "https://quarrow.example/kiln-openings", "Next: 12 December, from ten"), true, 0.17},
	"throwing": {labelled(button("Book a seat: throwing weekend", "https://seats.quarrow.example/throwing", ""), "€180"), true, 0.12},
	"recipes":  {recipes(), true, 0.20},
	"seconds":  {button("Seconds sale: small faults, half price", "https://shop.quarrow.example/seconds", ""), true, 0.24},
	"film":     {film(), true, 0.11},
	"stockist": {signed(button("Where to find our pots", "https://quarrow.example/stockists", ""), "map-pin"), false, 0.06},
	"message":  {message(), false, 0.04},
	"kilnfund": {signed(button("A tip for the kiln fund", "https://tips.example/kiln-fund", ""), "flame"), false, 0.03},
	"letter":   {letter(), false, 0.09},
	"handbuil": {labelled(button("Hand-building evening", "https://seats.quarrow.example/handbuilding", ""), "€45"), true, 0.40},
	"giftseat": {signed(button("A seat as a gift", "https://seats.quarrow.example/gift", ""), "gift"), false, 0.05},
	"atheart":  {page.Block{Kind: "heading", Heading: &page.Heading{Text: "From the studio", Size: "medium", Align: "centre"}}, false, 0},
	// What is beside the blocks can be pressed too.
	page.IconsKey:  {appeal: 0.05},
	page.FooterKey: {appeal: 0.01},
}

func button(title, address, line string) page.Block {
	return page.Block{Kind: "button", Button: &page.Button{Title: title, Line: line, Address: address, Shape: "beside", Movement: "none"}}
}

func labelled(block page.Block, label string) page.Block {
	block.Button.Label = label
	return block
}

func signed(block page.Block, sign string) page.Block {
	block.Button.Icon = &page.Icon{Set: "signs", Name: sign}
	return block
}

func film() page.Block {
	return page.Block{Kind: "player", Player: &page.Player{
		Title: "Film: forty hours of fire", Address: "https://wavecastle.example/watch/forty-hours", Provider: "Wavecastle",
		Frame: "https://player.wavecastle.example/forty-hours", Width: 640, Height: 360,
	}}
}

func recipes() page.Block {
	return page.Block{Kind: "file", File: &page.File{
		Title: "Glaze recipes", Line: "Ash, celadon, and a tenmoku that behaves",
		Address: "https://quarrow.example/files/glaze-recipes.pdf",
	}}
}

func letter() page.Block {
	return page.Block{Kind: "signup", SignUp: &page.SignUp{
		Title: "The studio letter", Text: "Four times a year, before each opening.",
		Consent: "Quarrow Clay may write to me. I can end that in every letter.",
		Thanks:  "Thank you. The next one comes before the next opening.",
	}}
}

func message() page.Block {
	return page.Block{Kind: "contact", Contact: &page.Contact{
		Lead: page.Lead{Icon: &page.Icon{
			Set:  "signs",
			Name: "mail",
		}}, Title: "Commissions: write to me", Line: "A bowl, a set, a present", Way: "mail", Mailbox: "commissions@quarrow.example",
		Subject: "A commission",
	}}
}

// profiles are the icons of the page.
func profiles(networks ...string) []page.IconLink {
	signs := map[string]string{"photoloft": "camera", "reelpond": "clapperboard", "wavecastle": "waves-horizontal", "pinmoss": "pin"}
	var items []page.IconLink
	for _, network := range networks {
		name := strings.ToUpper(network[:1]) + network[1:]
		items = append(items, page.IconLink{
			Key: network, Icon: page.Icon{Set: "signs", Name: signs[network]}, Name: "Quarrow Clay on " + name,
			Address: "https://" + network + ".example/quarrowclay",
		})
	}
	return items
}

// seen is the chance that a visitor gets as far as a place. Icons and footer
// have place 0 and stand where everybody passes, or nobody presses.
func seen(place int) float64 { return math.Pow(0.91, float64(max(place, 1)-1)) }

// sourceTruth is a source and its visits on an ordinary day.
type sourceTruth struct {
	name, tag, network string
	kind               place.Kind
	perDay             float64
	// tagLeftOut: the bare address was pasted, so its visits bring no tag.
	tagLeftOut bool
	// favours is a block that people from here press more often, by factor.
	favours string
	factor  float64
	// boom: this source multiplies while the film takes off.
	boom float64
	// advertised is the share of its visits that an advertisement brings.
	advertised float64
}

var clay = pageStory{
	header: page.Header{
		Name: "Quarrow Clay",
		Line: "Wood-fired pots from a small studio by the river. I’m Ilse; the kiln opens four times a year.",
	},
	theme: "celadon",
	cover: "maker",
	icons: profiles("photoloft", "reelpond", "wavecastle", "pinmoss"),
	footer: page.Footer{Text: "Quarrow Clay, Mill Lane, by the river", Links: []page.FooterLink{{
		Key: "privacy", Title: "Privacy",
		Address: "https://quarrow.example/privacy",
	}}},
	portrait: "quarrow clay",
	sources: []sourceTruth{
		{
			name: "Photoloft", tag: "loft", network: "photoloft", kind: place.Profile, perDay: 24, favours: "openings", factor: 1.4, boom: 1.2,
			advertised: 0.12,
		},
		{name: "Reelpond", tag: "reel", network: "reelpond", kind: place.Profile, perDay: 13, favours: "film", factor: 2.6, boom: 6},
		{name: "Wavecastle", tag: "wave", network: "wavecastle", kind: place.Film, perDay: 7, favours: "recipes", factor: 1.7, boom: 3},
		{name: "Pinmoss", tag: "moss", network: "pinmoss", kind: place.Profile, perDay: 6, tagLeftOut: true, favours: "recipes", factor: 1.5},
		{name: "Printed card", tag: "card", kind: place.Print, perDay: 3, favours: "stockist", factor: 3},
		{name: "Studio letter", tag: "post", kind: place.Letter, perDay: 5, favours: "seconds", factor: 1.6},
	},
	editions: []editionStory{
		{0, []string{"openings", "throwing", "recipes", "film", "atheart", "stockist", "message", "kilnfund", "letter"}},
		{saleFrom, []string{"seconds", "openings", "throwing", "recipes", "film", "atheart", "letter", "stockist", "message", "kilnfund"}},
		{saleTo, []string{"openings", "throwing", "recipes", "film", "seconds", "atheart", "letter", "stockist", "message", "kilnfund"}},
	},
	waiting: []string{"openings", "recipes", "throwing", "film", "seconds", "atheart", "letter", "stockist", "message", "kilnfund"},
	hidden:  "seconds",
}

var workshop = pageStory{
	header:   page.Header{Name: "Quarrow Workshops", Line: "Learn to throw, build and glaze. Six seats, clay and lunch included."},
	theme:    "cobalt",
	icons:    profiles("photoloft"),
	portrait: "quarrow workshops",
	sources: []sourceTruth{
		{name: "Photoloft", tag: "loft", network: "photoloft", kind: place.Profile, perDay: 60},
		{name: "Printed card", tag: "card", kind: place.Print, perDay: 6, favours: "giftseat", factor: 2},
	},
	// Several orders were tried, so that it can be told what draws by itself. The gift seat was put on top for the season:
	// another order would be pressed more.
	editions: []editionStory{
		{0, []string{"throwing", "handbuil", "giftseat", "letter"}},
		{36, []string{"handbuil", "letter", "throwing", "giftseat"}},
		{44, []string{"letter", "throwing", "giftseat", "handbuil"}},
		{52, []string{"giftseat", "handbuil", "letter", "throwing"}},
		{60, []string{"throwing", "giftseat", "handbuil", "letter"}},
		{giftFrom, []string{"giftseat", "letter", "throwing", "handbuil"}},
	},
	waiting: []string{"giftseat", "letter", "throwing", "handbuil"},
}

// bareVisits come to the bare address on an ordinary day, from nobody knows
// where.
const bareVisits = 4

// Of visits whose tag was left out, some still bring the referrer and some the
// mark of the network's app; the rest are untagged.
const (
	stillReferred = 0.35
	stillInApp    = 0.40
)

// unlisted are places the owner does not know of, by what their visits bring,
// with their key and visits on an ordinary day.
var unlisted = []struct {
	key, query, referrer string
	perDay               float64
}{
	{place.UnlistedCampaign.Key("potters_guild"), "utm_source=Potters+Guild&utm_medium=email", "", 1.6},
	{place.UnlistedHost.Key("claynews.example"), "", "www.claynews.example", 0.9},
}

// homeTruth is where a share of visitors live, and the languages their browsers ask for.
type homeTruth struct {
	country, languages string
	share              float64
}

// homes leave a few of whom nobody knows.
var homes = []homeTruth{
	{"GB", "en-GB,en;q=0.9", 0.52},
	{"IE", "en-IE,en;q=0.9", 0.11},
	{"DE", "de-DE,de;q=0.9,en;q=0.7", 0.10},
	{"FR", "fr-FR,fr;q=0.8", 0.07},
	{"PT", "pt-PT,pt;q=0.9,en;q=0.6", 0.06},
	{"US", "en-US,en;q=0.9", 0.08},
	{"NL", "nl-NL,nl;q=0.9,en;q=0.8", 0.03},
}

// weekday is the rhythm of the week, Sunday first; its mean is 1.
var weekday = [7]float64{1.25, 0.85, 0.80, 0.90, 0.95, 1.05, 1.20}

// Days counted from the beginning: the four on which the film takes off, the
// window in which the seconds sale stands on top and appeals more, and when the gift seat goes on top.
const (
	boomFrom, boomTo = 68, 72
	giftFrom         = 69
	saleFrom, saleTo = 52, 66
	saleFactor       = 1.5
)

// confirms is the share of those who leave their address that confirm it.
const confirms = 0.7

// What is not counted, on an ordinary day or per event.
const (
	crawlersPerDay = 7
	previewsPerDay = 3
	ownPerDay      = 2
	doublePress    = 0.06 // share of presses that are pressed twice
	pressesAgain   = 0.05 // share of presses that are made again minutes later
	reloads        = 0.12 // share of visits in which the page is opened again
	comesBack      = 0.08 // share of visitors who come back the same day, where it is not over
)
