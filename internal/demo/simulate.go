package demo

import (
	"context"
	"encoding/binary"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"time"

	"github.com/google/uuid"

	"jundle/internal/agents"
	"jundle/internal/core/campaign"
	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	place "jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/ingest"
	"jundle/internal/store"
)

// Made counts what a simulation made, as the figures should find it.
type Made struct {
	Views, Visits, Visitors, Clicks  int
	Crawlers, Previews, Own, Repeats int // events
	VisitsBySource, ClicksByBlock    map[string]int
	VisitsByCountry                  map[string]int
	Paid                             int // visits
	// SignedUp are people who left their address and confirmed it, by the name of their source
	// as VisitsBySource has it.
	SignedUp map[string]int
	Events   int
}

// Simulation makes visits to one page of the scenario.
type Simulation struct {
	Store  *store.Store
	Agents *agents.List
	Loaded Loaded
	// Address is the page visited.
	Address string
	// Begun is the first day; Days is how many.
	Begun time.Time
	Days  int
	Seed  uint64
	// Progress is called after each day.
	Progress func(day, of int)
}

// batch is how many events are stored at a time.
const batch = 2000

// Run makes and stores the events. The same arguments make the same events but
// for their random IDs. When ctx ends, the days so far stay stored.
func (s Simulation) Run(ctx context.Context) (Made, error) {
	v, err := s.newVisitors(ctx)
	if err != nil {
		return Made{}, err
	}
	var waiting []store.Event
	flush := func() error {
		err := s.Store.RecordEvents(ctx, waiting)
		v.made.Events += len(waiting)
		waiting = nil
		return err
	}
	for day := range s.Days {
		if err := ctx.Err(); err != nil {
			return v.made, err
		}
		waiting = append(waiting, v.day(day)...)
		if len(waiting) >= batch || day == s.Days-1 {
			if err := flush(); err != nil {
				return v.made, fmt.Errorf("store simulated visits: %w", err)
			}
			if err := s.Store.AddSignUps(ctx, v.signUps); err != nil {
				return v.made, fmt.Errorf("store simulated sign-ups: %w", err)
			}
			v.signUps = nil
		}
		if s.Progress != nil {
			s.Progress(day+1, s.Days)
		}
	}
	return v.made, nil
}

// visitors makes events, one day after another.
type visitors struct {
	Simulation
	page       store.Page
	story      pageStory
	attributor *place.Attributor
	editions   []store.Edition // by number, from 1
	// pressable is what can be pressed in each edition, with its place.
	pressable map[int][]page.Placed
	random    *rand.Rand
	salt      *traffic.Salt
	count     int
	made      Made
	events    []store.Event
	signUps   []store.SignUp
	signedUp  int // the last visitor who did; each does once
}

func (s Simulation) newVisitors(ctx context.Context) (*visitors, error) {
	live, err := s.Store.LivePage(ctx, s.Address)
	if err != nil {
		return nil, fmt.Errorf("simulate visits to %s: %w", s.Address, err)
	}
	v := &visitors{
		Simulation: s, page: s.Loaded.Pages[s.Address], story: clay, attributor: place.NewAttributor(live.Sources, nil),
		random: rand.New(rand.NewPCG(s.Seed, uint64(len(s.Address)))),
		made: Made{
			VisitsBySource: map[string]int{}, ClicksByBlock: map[string]int{}, VisitsByCountry: map[string]int{}, SignedUp: map[string]int{},
		},
		pressable: map[int][]page.Placed{},
	}
	if s.Address == WorkshopsPage {
		v.story = workshop
	}
	err = s.Store.EachEdition(ctx, s.Loaded.Member.WorkspaceID, live.PageID, 0, func(edition store.Edition) error {
		v.editions = append(v.editions, edition)
		return nil
	})
	if err != nil {
		return nil, err
	}
	for i, edition := range v.editions {
		number, doc := i+1, edition.Document
		for _, row := range doc.Rows() {
			v.pressable[number] = append(v.pressable[number], placed(doc, row.Key))
		}
	}
	return v, nil
}

// day makes the events of one day.
func (v *visitors) day(day int) []store.Event {
	v.events = nil
	v.renewSalt()
	noon := v.Begun.UTC().Truncate(24*time.Hour).AddDate(0, 0, day)
	rhythm := weekday[noon.Weekday()]
	for _, from := range v.story.sources {
		rate := from.perDay * rhythm
		if day >= boomFrom && day < boomTo && from.boom > 0 {
			rate *= from.boom
		}
		for range v.poisson(rate) {
			v.visit(day, noon, from)
		}
	}
	for range v.poisson(bareVisits * rhythm) {
		v.visit(day, noon, sourceTruth{tagLeftOut: true})
	}
	for _, from := range unlisted {
		for range v.poisson(from.perDay * rhythm) {
			v.come(day, noon, sourceTruth{}, arrival{from: from.key, query: from.query, referrer: from.referrer})
		}
	}
	v.uncounted(noon)
	return v.events
}

// renewSalt makes the salt of another day.
func (v *visitors) renewSalt() {
	var random [32]byte
	for i := 0; i < len(random); i += 8 {
		binary.BigEndian.PutUint64(random[i:], v.random.Uint64())
	}
	v.salt = traffic.NewSalt(random[:])
}

// arrival is what a visit brings of where it came from, and where that should
// be found to be: the name of a source, the key of an unlisted one, or empty.
type arrival struct {
	from, tag, query, referrer, app string
}

// visit is one person coming once from a source.
func (v *visitors) visit(day int, noon time.Time, from sourceTruth) {
	brings := arrival{from: from.name, tag: from.tag}
	if v.share(1) < from.advertised {
		brings.query = "utm_medium=paid_social"
	}
	if from.tagLeftOut {
		brings = arrival{}
		chance := v.random.Float64()
		switch {
		case from.network == "":
		case chance < stillReferred:
			brings = arrival{from: from.name, referrer: from.network + ".example"}
		case chance < stillReferred+stillInApp:
			brings = arrival{from: from.name, app: " " + strings.ToUpper(from.network[:1]) + from.network[1:] + "/31.0"}
		}
	}
	v.come(day, noon, from, brings)
}

// come is somebody visiting, and some come back later the same day.
func (v *visitors) come(day int, noon time.Time, from sourceTruth, brings arrival) {
	v.count++
	v.made.Visitors++
	at, agent := v.moment(noon), phones[v.random.IntN(len(phones))]+brings.app
	v.stay(day, at, from, brings, agent)
	later := at.Add(time.Hour + time.Duration(v.random.IntN(360))*time.Minute)
	if v.random.Float64() < comesBack && later.Before(noon.Add(23*time.Hour+50*time.Minute)) {
		v.stay(day, later, from, brings, agent)
	}
}

// stay is a view, presses by seen x appeal, and with some another look at the page.
func (v *visitors) stay(day int, at time.Time, from sourceTruth, brings arrival, agent string) {
	edition := v.editionAt(at)
	hit := v.hit(at, edition, brings.tag)
	hit.Query, hit.Referrer = brings.query, brings.referrer
	hit.UserAgent = agent
	v.view(hit)
	again := at.Add(time.Duration(40+v.random.IntN(400)) * time.Second)
	if v.random.Float64() < reloads && v.editionAt(again).Number == edition.Number {
		reloaded := hit
		reloaded.At = again
		v.view(reloaded)
	}
	// What follows is pressed on our own page: only a tag goes along.
	hit.Query, hit.Referrer = "", ""
	if campaign.IsPaid(campaign.Read(brings.query).Medium) {
		v.made.Paid++
	}
	v.made.Visits++
	v.made.VisitsByCountry[v.home().country]++
	v.made.VisitsBySource[brings.from]++
	for _, block := range v.pressable[edition.Number] {
		chance := seen(block.Place) * blocks[block.Key].appeal
		if block.Key == from.favours {
			chance *= from.factor
		}
		if block.Key == "seconds" && day >= saleFrom && day < saleTo {
			chance *= saleFactor
		}
		if v.random.Float64() < chance {
			at = at.Add(time.Duration(2+v.random.IntN(20)) * time.Second)
			v.press(hit, at, block)
			if block.SignUp != nil {
				v.signUp(hit, at, block, brings.from)
			}
			if v.random.Float64() < pressesAgain {
				v.press(hit, at.Add(time.Duration(60+v.random.IntN(240))*time.Second), block)
			}
		}
	}
}

func (v *visitors) view(hit ingest.Hit) {
	v.add(hit)
	v.made.Views++
}

// placed is the block under a key, or what stands for the icons and the footer,
// which are seen by everybody.
func placed(doc page.Document, key string) page.Placed {
	for _, block := range doc.SwitchedOn() {
		if block.Key == key {
			return block
		}
	}
	return page.Placed{Block: page.Block{Key: key}}
}

func (v *visitors) press(hit ingest.Hit, at time.Time, block page.Placed) {
	hit.At, hit.Kind, hit.Block, hit.Place = at, traffic.Click, block.Key, block.Place
	switch block.Key {
	case page.IconsKey:
		hit.Item = v.story.icons[v.random.IntN(len(v.story.icons))].Key
	case page.FooterKey:
		hit.Item = v.story.footer.Links[0].Key
	}
	for _, target := range v.editions[hit.Edition-1].Document.TargetsOf(hit.Block) {
		if target.Item == hit.Item && target.DestinationID != "" {
			hit.Led = destination.Target{ID: target.DestinationID, Address: target.Address}
		}
	}
	if v.random.Float64() < doublePress {
		twice := hit
		twice.At = at.Add(-time.Duration(300+v.random.IntN(1200)) * time.Millisecond)
		v.add(twice)
		v.made.Repeats++
	}
	v.add(hit)
	v.made.Clicks++
	v.made.ClicksByBlock[block.Key]++
}

// signUp leaves the address of the present visitor, which some confirm.
func (v *visitors) signUp(hit ingest.Hit, at time.Time, block page.Placed, from string) {
	if v.signedUp == v.count {
		return
	}
	v.signedUp = v.count
	address := fmt.Sprintf("reader%d@%s.example", v.count, strings.TrimPrefix(v.Address, "quarrow-"))
	one := store.SignUp{
		WorkspaceID: v.Loaded.Member.WorkspaceID, PageID: &v.page.ID, PageName: v.story.header.Name, Block: block.Key,
		BlockTitle: block.SignUp.Title, Edition: hit.Edition, Address: address, AddressKey: address,
		Source: v.events[len(v.events)-1].Source, Language: "en", Consent: block.SignUp.Consent, AskedAt: at, Letters: 1, LetterAt: at,
	}
	if v.share(7) < confirms {
		confirmed := at.Add(time.Duration(1+v.count%50) * time.Minute)
		one.ConfirmedAt = &confirmed
		v.made.SignedUp[from]++
	}
	v.signUps = append(v.signUps, one)
}

// uncounted are the crawlers, previews and own visits of a day.
func (v *visitors) uncounted(noon time.Time) {
	others := []struct {
		rate  float64
		agent string
		own   bool
		made  *int
	}{
		{crawlersPerDay, v.Agents.Sample(traffic.AgentCrawler), false, &v.made.Crawlers},
		{previewsPerDay, v.Agents.Sample(traffic.AgentPreview), false, &v.made.Previews},
		{ownPerDay, phones[0], true, &v.made.Own},
	}
	for _, other := range others {
		for range v.poisson(other.rate) {
			v.count++
			at := v.moment(noon)
			hit := v.hit(at, v.editionAt(at), "")
			hit.UserAgent, hit.Own = other.agent, other.own
			v.add(hit)
			*other.made++
		}
	}
}

// phones are browsers as they announce themselves.
var phones = []string{
	"Mozilla/5.0 (iPhone; CPU iPhone OS 18_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.5 Mobile/15E148",
	"Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Mobile",
	"Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101",
}

func (v *visitors) hit(at time.Time, edition store.Edition, tag string) ingest.Hit {
	return ingest.Hit{
		At: at, EndpointID: v.page.ID, Attributor: v.attributor, PageHost: "pages.example", Edition: edition.Number, Kind: traffic.View, Tag: tag,
		Method: "GET", Client: fmt.Sprintf("visitor %d", v.count), UserAgent: phones[v.random.IntN(len(phones))],
	}
}

func (v *visitors) add(hit ingest.Hit) {
	home := v.home()
	hit.Languages = home.languages
	event := ingest.NewEvent(uuid.Must(uuid.NewRandom()), hit, v.salt, v.Agents)
	event.Country = home.country
	v.events = append(v.events, event)
}

// home is where the present visitor lives.
func (v *visitors) home() homeTruth {
	chance := v.share(0)
	for _, home := range homes {
		if chance -= home.share; chance < 0 {
			return home
		}
	}
	return homeTruth{}
}

// share is a chance drawn for the present visitor alone, one for each use.
func (v *visitors) share(use uint64) float64 {
	return rand.New(rand.NewPCG(uint64(v.count), use)).Float64()
}

// moment is a time of the day on which people are awake, to the microsecond the
// database keeps.
func (v *visitors) moment(noon time.Time) time.Time {
	hour := 14.5 + 3.6*v.random.NormFloat64()
	for hour < 5 || hour > 23 {
		hour = 14.5 + 3.6*v.random.NormFloat64()
	}
	return noon.Add(time.Duration(hour * float64(time.Hour))).Truncate(time.Microsecond)
}

func (v *visitors) editionAt(at time.Time) store.Edition {
	current := v.editions[0]
	for _, edition := range v.editions {
		if !edition.PublishedAt.After(at) {
			current = edition
		}
	}
	return current
}

// poisson draws a count with that mean (Knuth's method; means here are small).
func (v *visitors) poisson(mean float64) int {
	limit, product, n := math.Exp(-mean), 1.0, -1
	for product > limit {
		product *= v.random.Float64()
		n++
	}
	return n
}
