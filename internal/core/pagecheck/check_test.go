package pagecheck_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/core/pagecheck"
	"jundle/internal/core/window"
)

var noon = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func button(key, title, address string) page.Block {
	return page.Block{
		Key: key, Kind: "button", Shown: true, Button: &page.Button{Title: title, Address: address, DestinationID: "id-" + key},
	}
}

func of(blocks ...page.Block) page.Document {
	doc := page.New()
	doc.Blocks = blocks
	return doc
}

// kinds are what is found, as "kind row".
func kinds(found []pagecheck.Finding) []string {
	all := []string{}
	for _, each := range found {
		all = append(all, each.Kind+" "+each.Row)
	}
	return all
}

func TestWhatAddressesAndTitlesSayIsChecked(t *testing.T) {
	for _, c := range []struct {
		what  string
		block page.Block
		want  string
	}{
		{"all is well", button("aaaa", "Kiln opening dates", "https://quarrow.example/dates"), ""},
		{"no address", button("aaaa", "Dates", ""), "nowhere"},
		{"that of a ready-made page", button("aaaa", "Dates", "https://your-site.example/dates"), "placeholder"},
		{"a mailbox of a ready-made page", button("aaaa", "Write to me", "mailto:hello@your-site.example"), "placeholder"},
		{"an address kept for documents (RFC 2606)", button("aaaa", "Dates", "https://www.example.com/"), "placeholder"},
		{"one kept for tests (RFC 6761)", button("aaaa", "Dates", "https://site.test/"), "placeholder"},
		{"a host that only looks like it", button("aaaa", "Dates", "https://not-example.quarrow.example/"), ""},
		{"a title that says nothing", button("aaaa", "Click here!", "https://quarrow.example/dates"), "vague"},
		{"in another language", button("aaaa", "Hier klicken", "https://quarrow.example/dates"), "vague"},
		{"no title", button("aaaa", "", "https://quarrow.example/dates"), "untitled"},
		{"it names its own host", button("aaaa", "shop.quarrow.example", "https://quarrow.example/shop"), ""},
		{"it names another", button("aaaa", "Pots at kiln.example", "https://quarrow.example/"), "otherwise"},
		{"it names one in the list of suffixes", button("aaaa", "See rolf-iron.co.uk", "https://quarrow.example/"), "otherwise"},
		{"a number is no host", button("aaaa", "Version 2.0, no.1", "https://quarrow.example/"), ""},
		{"a mailbox in a title", button("aaaa", "ilse@quarrow.example", "https://kiln.example/"), ""},
		{"hidden", func() page.Block { b := button("aaaa", "here", ""); b.Shown = false; return b }(), ""},
	} {
		found := pagecheck.Check(of(c.block), pagecheck.Facts{Now: noon})
		want := []string{}
		if c.want != "" {
			want = append(want, c.want+" aaaa")
		}
		assert.Equal(t, want, kinds(found), c.what)
	}
}

func TestWhatCameOfAskingAnAddressIsSaidAndMended(t *testing.T) {
	const at = "https://quarrow.example/dates"
	check := func(result linkcheck.Result) []pagecheck.Finding {
		result.At = noon
		if result.Address == "" {
			result.Address = at
		}
		return pagecheck.Check(of(button("aaaa", "Kiln dates", at)), pagecheck.Facts{
			Now: noon, Links: map[string]linkcheck.Result{"id-aaaa": result},
		})
	}
	for _, c := range []struct {
		result linkcheck.Result
		want   []string
	}{
		{linkcheck.Result{Status: 200, Arrived: at}, []string{}},
		{linkcheck.Result{Status: 404, Failures: 2}, []string{"gone aaaa"}},
		{linkcheck.Result{Status: 500, Failures: 3}, []string{"failing aaaa"}},
		{linkcheck.Result{Status: 403}, []string{"unsure aaaa"}},
		{linkcheck.Result{Status: 200, Arrived: "https://parked.example/"}, []string{"elsewhere aaaa"}},
		{linkcheck.Result{Status: 200, Arrived: "https://www.quarrow.example/dates", Redirects: 1}, []string{}},
		{linkcheck.Result{Status: 200, Arrived: "https://www.quarrow.example/d", Redirects: 1, Permanent: true}, []string{"moved aaaa"}},
		{linkcheck.Result{Status: 200, Arrived: at, CertificateUntil: noon.AddDate(0, 0, 3)}, []string{"certificate aaaa"}},
		{linkcheck.Result{Status: 404, Failures: 9, Address: "https://quarrow.example/before"}, []string{}},
	} {
		assert.Equal(t, c.want, kinds(check(c.result)), "%+v", c.result)
	}
	gone := check(linkcheck.Result{Status: 410, Failures: 1})[0]
	assert.Equal(t, pagecheck.Wrong, gone.Weight)
	assert.False(t, gone.Repair.Block.Shown)
	moved := check(linkcheck.Result{Status: 200, Arrived: "https://www.quarrow.example/d", Redirects: 1, Permanent: true})[0]
	assert.Equal(t, "https://www.quarrow.example/d", moved.Repair.Block.Button.Address)
	assert.Empty(t, moved.Repair.Block.Button.DestinationID, "it means another destination")
}

func TestBlocksThatNobodySeesAndWhatIsThereTwiceAreFound(t *testing.T) {
	over := button("over", "Winter sale", "https://quarrow.example/sale")
	over.When = &window.Times{Zone: "UTC", Spans: []window.Span{{To: noon.Add(-time.Hour)}}}
	nobody := button("none", "For the fair", "https://quarrow.example/fair")
	nobody.To = &page.SourceRule{Rule: "only", Sources: []string{"retired", "unknown"}}
	once, twice := button(
		"once",
		"Dates",
		"https://quarrow.example/dates",
	), button(
		"twic",
		"Kiln dates",
		"https://quarrow.example/dates?utm_source=x",
	)
	pictures := page.Block{Key: "pics", Kind: "pictures", Shown: true, Pictures: &page.Pictures{
		Columns: 2, Items: []page.PictureItem{{Key: "a", Alt: "A bowl"}, {Key: "b"}},
	}}
	doc := of(over, nobody, once, twice, pictures)
	found := pagecheck.Check(doc, pagecheck.Facts{Now: noon, Sources: map[string]bool{"retired": false, "card": true}})
	assert.Equal(
		t,
		[]string{"nobody none", "over over", "twice twic", "alt pics"},
		kinds(found),
		"faults first, then in the order of the page",
	)
	assert.Nil(t, found[0].Repair.Block.To)
	assert.Nil(t, found[1].Repair.Block.When)
	assert.NotNil(t, doc.Blocks[0].When, "the page is left alone")
	assert.Equal(t, "It leads to the same place as “Dates”.", found[2].Says)
	assert.Equal(t, "1 of 2 pictures have no description.", found[3].Says)
}

func TestThePageAsAWholeIsChecked(t *testing.T) {
	var blocks []page.Block
	for i := range 20 {
		blocks = append(blocks, button(fmt.Sprintf("b%03d", i+1), fmt.Sprint("Pot ", i), fmt.Sprint("https://quarrow.example/", i)))
	}
	doc := of(blocks...)
	shown := map[string]int{}
	for _, block := range blocks {
		shown[block.Key] = 400
	}
	facts := pagecheck.Facts{Now: noon, Shown: shown, Clicks: map[string]int{"b001": 90, "b009": 2}, Bytes: 20_000}
	found := pagecheck.Check(doc, facts)
	require.Equal(t, []string{"heavy page", "crowded page"}, kinds(found))
	weighs := pagecheck.Check(of(), pagecheck.Facts{Now: noon, MediaBytes: 2_400_000})
	require.Equal(t, []string{"media page"}, kinds(weighs))
	assert.Contains(t, weighs[0].Says+weighs[0].Why, "2.4 MB")
	assert.Contains(t, weighs[0].Why, "12 seconds")
	assert.Empty(t, pagecheck.Check(of(), pagecheck.Facts{Now: noon, MediaBytes: 1_000_000}))
	assert.Equal(t, "Nobody pressed any of the 11 blocks below place 9 that 400 visits or more were shown.", found[1].Says)
	// What was added since, and what only few were shown, is nobody's fault.
	for i := 11; i <= 20; i++ {
		delete(shown, fmt.Sprintf("b%03d", i))
	}
	shown["b011"], facts.Bytes = 29, 14_000
	assert.Empty(t, pagecheck.Check(doc, facts), "too few of them were live, or too few visits were shown them")
	shown["b012"], shown["b013"], shown["b014"], shown["b011"] = 35, 31, 30, 40
	found = pagecheck.Check(doc, facts)
	require.Equal(t, []string{"crowded page"}, kinds(found))
	assert.Contains(t, found[0].Says, "the 5 blocks below place 9 that 30 visits or more")
	delete(shown, "b014")
	doc.When = &window.Times{Zone: "UTC", Spans: []window.Span{{To: noon}}}
	doc.Look.Text = doc.Look.Ground.Colour
	assert.Equal(t, []string{"over page", "contrast look"}, kinds(pagecheck.Check(doc, facts))[:2])
}

func TestAnAddressWithoutEncryptionIsPointedOut(t *testing.T) {
	plain, phone := button("pots", "Pots", "http://pots.quarrow.example/"), button("tel1", "Call", "tel:+15550100")
	found := pagecheck.Check(of(plain, phone), pagecheck.Facts{Now: noon})
	require.Equal(t, []string{"plain pots"}, kinds(found))
	assert.Empty(t, pagecheck.Check(of(button("pots", "Pots", "https://pots.quarrow.example/")), pagecheck.Facts{Now: noon}))
}

func TestTimesAreSaidByTheClocksOfTheWorkspace(t *testing.T) {
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	facts := pagecheck.Facts{Now: noon, Zone: lisbon, Links: map[string]linkcheck.Result{"id-pots": {
		Address: "https://quarrow.example/pots", Status: 404, At: noon, Failures: 3,
	}}}
	doc := of(button("pots", "Pots", "https://quarrow.example/pots"))
	doc.Blocks[0].Button.DestinationID = "id-pots"
	found := pagecheck.Check(doc, facts)
	require.NotEmpty(t, found)
	assert.Contains(t, found[0].Why, "1 Jun 13:00")
}

func TestAColourThatCannotBeReadIsMendedWhereItIsListed(t *testing.T) {
	doc := page.New()
	doc.Blocks = []page.Block{button("pots", "Pots", "https://quarrow.example/pots")}
	doc.Look.Text = doc.Look.Ground.Colour
	facts := pagecheck.Facts{Now: noon}
	for range 10 {
		found := pagecheck.Check(doc, facts)
		at := slices.IndexFunc(found, func(f pagecheck.Finding) bool { return f.Kind == "contrast" })
		if at < 0 {
			return
		}
		repair := found[at].Repair
		require.NotNil(t, repair, found[at].Says)
		if repair.Look != nil {
			doc.Look = *repair.Look
		} else {
			doc.Blocks[0] = *repair.Block
		}
	}
	require.Fail(t, "ten repairs leave a colour that cannot be read")
}

func TestARepairMendsWhatWasFoundAndNothingElse(t *testing.T) {
	addresses := []string{"", "https://your-site.example/a", "https://quarrow.example/dates", "https://quarrow.example/sale"}
	rapid.Check(t, func(t *rapid.T) {
		doc := page.New()
		facts := pagecheck.Facts{Now: noon, Links: map[string]linkcheck.Result{}}
		for i := range rapid.IntRange(1, 5).Draw(t, "blocks") {
			block := button(fmt.Sprintf("b%03d", i), "Pot "+fmt.Sprint(i), rapid.SampledFrom(addresses).Draw(t, "address"))
			if rapid.Bool().Draw(t, "for nobody") {
				block.To = &page.SourceRule{Rule: "only", Sources: []string{"gone"}}
			}
			if rapid.Bool().Draw(t, "over") {
				block.When = &window.Times{Zone: "UTC", Spans: []window.Span{{To: noon.Add(-time.Hour)}}}
			}
			if rapid.Bool().Draw(t, "moved") {
				facts.Links["id-"+block.Key] = linkcheck.Result{
					Address: block.Button.Address, Status: 200, Arrived: block.Button.Address + "2", Redirects: 1, Permanent: true,
				}
			}
			doc.Blocks = append(doc.Blocks, block)
		}
		for range 100 {
			found := pagecheck.Check(doc, facts)
			at := -1
			for i, each := range found {
				if each.Repair != nil {
					at = i
				}
			}
			if at < 0 {
				return
			}
			for i := range doc.Blocks {
				if doc.Blocks[i].Key == found[at].Row {
					doc.Blocks[i] = *found[at].Repair.Block
				}
			}
			require.Less(t, len(pagecheck.Check(doc, facts)), len(found)+1)
			require.NotContains(t, pagecheck.Check(doc, facts), found[at])
		}
		t.Fatal("there is no end to it")
	})
}

func TestAGateThatOpensToNobodyIsAFault(t *testing.T) {
	locked, opens := button("aaaa", "Friends", "https://quarrow.example/a"), button("bbbb", "Family", "https://quarrow.example/b")
	locked.Gate = &page.Gate{Kind: "passcode"}
	opens.Gate = &page.Gate{Kind: "passcode", PasscodeID: "018f2b1a-0000-7000-8000-000000000000"}
	doc := of(locked, opens)
	doc.Gate = &page.Gate{Kind: "notice"}
	assert.Equal(t, []string{"locked aaaa"}, kinds(pagecheck.Check(doc, pagecheck.Facts{Now: noon})))
	doc.Gate = &page.Gate{Kind: "passcode"}
	assert.Contains(t, kinds(pagecheck.Check(doc, pagecheck.Facts{Now: noon})), "locked page")
}

func TestAFormForSignUpsSaysWhatPeopleAgreeToAndNeedsAMailServer(t *testing.T) {
	form := page.Block{Key: "letter01", Kind: "signup", Shown: true, SignUp: &page.SignUp{Title: "The studio letter", Consent: "I agree."}}
	with := func(consent string, facts pagecheck.Facts) []string {
		changed := form
		changed.SignUp = &page.SignUp{Title: "The studio letter", Consent: consent}
		found := kinds(pagecheck.Check(of(changed), facts))
		return slices.DeleteFunc(found, func(kind string) bool { return !strings.HasSuffix(kind, " letter01") })
	}
	assert.Empty(t, with("I agree.", pagecheck.Facts{Now: noon}))
	assert.Equal(t, []string{"consent letter01"}, with(" ", pagecheck.Facts{Now: noon}))
	assert.Equal(t, []string{"nomail letter01"}, with("I agree.", pagecheck.Facts{Now: noon, NoMail: true}))
}

func TestAFeedThatShowsNothingOrNothingNewIsSaid(t *testing.T) {
	journal := page.Block{Key: "journal1", Kind: "feed", Shown: true, Feed: &page.Feed{Title: "Notes", Most: 3, FeedID: "one"}}
	with := func(feeds map[string]string) []string {
		found := kinds(pagecheck.Check(of(journal), pagecheck.Facts{Now: noon, Feeds: feeds}))
		return slices.DeleteFunc(found, func(kind string) bool { return !strings.HasSuffix(kind, " journal1") })
	}
	assert.Equal(t, []string{"nofeed journal1"}, with(nil))
	assert.Equal(t, []string{"feed journal1"}, with(map[string]string{"one": "It answered 500."}))
	assert.Empty(t, with(map[string]string{"one": ""}))
}
