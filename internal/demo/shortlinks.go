package demo

import (
	"context"
	"fmt"
	"math/rand/v2"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/audience"
	"jundle/internal/core/shortlink"
	place "jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/core/window"
	"jundle/internal/ingest"
	"jundle/internal/store"
)

// linkTruth is a short link and its clicks on an ordinary day.
type linkTruth struct {
	address, before, name, destination, fallback, note string
	labels                                             []string
	// day is when it was made, from and to when it is in force, counted in days from
	// the beginning; to 0 leaves the end open.
	day, from, to int
	off           bool
	// boom: it multiplies while the film takes off.
	boom   float64
	places []placeTruth
}

// placeTruth is where clicks come from, by what they bring, with the key under
// which they should be found.
type placeTruth struct {
	key, query, referrer string
	perDay               float64
}

var (
	byHand    = placeTruth{perDay: 1.6}
	fromClays = placeTruth{key: place.UnlistedHost.Key("claynews.example"), referrer: "www.claynews.example", perDay: 0.8}
	fromGuild = placeTruth{key: place.UnlistedCampaign.Key("potters_guild"), query: "utm_source=Potters+Guild&utm_medium=email", perDay: 1.1}
)

var links = []linkTruth{
	{
		address: "wood-film", name: "Forty hours of fire", destination: "https://wavecastle.example/quarrowclay/forty-hours-of-fire",
		labels: []string{"film"}, boom: 4,
		places: []placeTruth{byHand, {key: fromClays.key, referrer: fromClays.referrer, perDay: 2.4}},
	},
	{
		address: "glaze-book", before: "recipes", name: "Glaze recipes, to print",
		destination: "https://quarrow.example/glazes?utm_source=workshop_card&utm_medium=print", labels: []string{"workshops", "print"},
		note: "On the card that everybody takes home.", day: 6, places: []placeTruth{{perDay: 3.1}},
	},
	{
		address: "seconds-sale", name: "Seconds sale", destination: "https://shop.quarrow.example/seconds",
		fallback: "https://quarrow.example/kiln-openings", labels: []string{"letter", "sale"},
		note: "Two weeks only; afterwards it leads to the next opening.", day: saleFrom, from: saleFrom, to: saleTo,
		places: []placeTruth{{perDay: 4.2}, fromGuild},
	},
	{
		address: "teapot-talk", name: "Talk about teapots", destination: "https://quarrow.example/talks/teapots", day: 20, off: true,
		places: []placeTruth{fromClays},
	},
	{
		address: "winter-opening", name: "Winter kiln opening", destination: "https://quarrow.example/kiln-openings/winter",
		labels: []string{"letter"},
		day:    84, from: 97, note: "Printed on the winter card already.", places: []placeTruth{{perDay: 0.4}},
	},
}

// addLinks puts the short links of the scenario on the Shelf.
func (t *teller) addLinks(ctx context.Context) error {
	for _, truth := range links {
		link := shortlink.New(truth.destination)
		link.Name, link.Fallback, link.Note, link.Labels, link.On = truth.name, truth.fallback, truth.note, append(link.Labels,
			truth.labels...), !truth.off
		if truth.from > 0 {
			w := window.Window{From: t.morning(truth.from)}
			if truth.to > 0 {
				w.To = t.morning(truth.to)
			}
			link.Windows = []window.Window{w}
		}
		link, err := link.Tidy()
		if err != nil {
			return fmt.Errorf("short link %s: %w", truth.address, err)
		}
		first := truth.address
		if truth.before != "" {
			first = truth.before
		}
		made := t.begun.AddDate(0, 0, truth.day)
		added, err := t.store.AddShortLink(ctx, t.member.WorkspaceID, store.NewShortLink{Address: first, Link: link}, made)
		if err == nil && first != truth.address {
			_, err = t.store.ReaddressShortLink(ctx, t.member.WorkspaceID, added.ID, truth.address, made.AddDate(0, 0, 2))
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// morning is eight o'clock of a day counted from the beginning.
func (t *teller) morning(day int) time.Time {
	return t.begun.UTC().Truncate(24*time.Hour).AddDate(0, 0, day).Add(8 * time.Hour)
}

// RunLinks makes and stores the clicks on the scenario's short links, and returns
// what it made by their addresses.
func (s Simulation) RunLinks(ctx context.Context) (map[string]Made, error) {
	rows, err := s.Store.ShortLinks(ctx, s.Loaded.Member.WorkspaceID)
	if err != nil {
		return nil, err
	}
	made := make(map[string]Made)
	for i, truth := range links {
		for _, row := range rows {
			if row.Address() != truth.address {
				continue
			}
			p := &pressing{visitors: visitors{
				Simulation: s, random: rand.New(rand.NewPCG(s.Seed, uint64(i))), made: Made{
					VisitsBySource: map[string]int{},
					ClicksByBlock:  map[string]int{},
				},
			}, row: row, truth: truth, attributor: place.NewAttributor(nil, nil)}
			for day := truth.day + 1; day < s.Days; day++ {
				p.day(day)
			}
			p.made.Events = len(p.events)
			if err := s.Store.RecordEvents(ctx, p.events); err != nil {
				return made, fmt.Errorf("store simulated clicks on %s: %w", truth.address, err)
			}
			made[truth.address] = p.made
		}
	}
	return made, nil
}

// pressing makes clicks on one short link.
type pressing struct {
	visitors
	row        store.ShortLink
	truth      linkTruth
	attributor *place.Attributor
}

func (p *pressing) day(day int) {
	p.renewSalt()
	noon := p.Begun.UTC().Truncate(24*time.Hour).AddDate(0, 0, day)
	for _, from := range p.truth.places {
		rate := from.perDay * weekday[noon.Weekday()]
		if day < boomTo && day >= boomFrom && p.truth.boom > 0 {
			rate *= p.truth.boom
		}
		for range p.poisson(rate) {
			p.press(noon, from, false)
		}
	}
	for range p.poisson(ownPerDay / 10.0) {
		p.press(noon, placeTruth{}, true)
	}
}

func (p *pressing) press(noon time.Time, from placeTruth, own bool) {
	p.count++
	at := p.moment(noon)
	led, outcome := p.row.Link.Lead(audience.Audience{At: at})
	hit := ingest.Hit{
		At: at, EndpointID: p.row.ID, Attributor: p.attributor, PageHost: "pages.example",
		Kind: traffic.Click, Outcome: string(outcome), Led: led, Query: from.query,
		Referrer: from.referrer,
		Method:   "GET", Client: fmt.Sprintf("visitor %d", p.count), UserAgent: phones[p.random.IntN(len(phones))], Own: own,
	}
	p.events = append(p.events, ingest.NewEvent(uuid.Must(uuid.NewRandom()), hit, p.salt, p.Agents))
	if own {
		p.made.Own++
		return
	}
	p.made.Visits++
	p.made.Clicks++
	p.made.VisitsBySource[from.key]++
	p.made.ClicksByBlock[string(outcome)]++
}
