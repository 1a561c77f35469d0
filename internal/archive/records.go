package archive

import (
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/campaign"
	"jundle/internal/core/destination"
	"jundle/internal/core/page"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/store"
)

// version is that of the files' shapes, written into workspace.json. It rises when
// a name comes to mean something else.
const version = 2

type workspaceRecord struct {
	Version        int       `json:"version"`
	Zone           string    `json:"zone"`
	CreatedAt      time.Time `json:"createdAt"`
	KeepEventsDays int       `json:"keepEventsDays"`
	Members        []string  `json:"members"` // e-mail addresses
}

type editionRecord struct {
	Number      int           `json:"number"`
	PublishedAt time.Time     `json:"publishedAt"`
	PublishedBy *uuid.UUID    `json:"publishedBy,omitempty"`
	EndsLinks   bool          `json:"endsLinks"` // what it took off the page stopped leading at once
	Document    page.Document `json:"document"`
}

func recordOfEdition(edition store.Edition) editionRecord {
	return editionRecord{
		Number: edition.Number, PublishedAt: edition.PublishedAt, PublishedBy: edition.UserID, EndsLinks: edition.EndsLinks,
		Document: edition.Document,
	}
}

type sourceRecord struct {
	ID        uuid.UUID   `json:"id"`
	Name      string      `json:"name"`
	Kind      source.Kind `json:"kind"`
	Medium    string      `json:"medium"`
	Profiles  []string    `json:"profiles"`
	Names     []string    `json:"names"` // other names in utm_source
	Networks  []string    `json:"networks"`
	Since     *time.Time  `json:"since,omitempty"`
	RetiredAt *time.Time  `json:"retiredAt,omitempty"`
	SeenAt    *time.Time  `json:"seenAt,omitempty"` // latest counted visit
	CreatedAt time.Time   `json:"createdAt"`
	Tags      []tagRecord `json:"tags"`
}

type tagRecord struct {
	Tag     string `json:"tag"`
	Present bool   `json:"present"`
}

func recordsOfSources(sources []store.Source) []sourceRecord {
	records := make([]sourceRecord, len(sources))
	for i, each := range sources {
		records[i] = sourceRecord{
			ID: each.ID, Name: each.Name, Kind: each.Kind, Medium: each.Medium, Profiles: each.Profiles, Names: each.Names,
			Networks: each.Networks, Since: each.Since, RetiredAt: each.RetiredAt, SeenAt: each.SeenAt, CreatedAt: each.CreatedAt,
		}
		for _, tag := range each.Tags {
			records[i].Tags = append(records[i].Tags, tagRecord{tag.Tag, tag.Present})
		}
	}
	return records
}

type destinationRecord struct {
	ID        uuid.UUID             `json:"id"`
	Address   string                `json:"address"` // where it leads now
	Title     string                `json:"title"`
	Note      string                `json:"note"`
	Labels    []string              `json:"labels"`
	CreatedAt time.Time             `json:"createdAt"`
	History   []store.FormerAddress `json:"history"` // latest first
	Swaps     destination.Swaps     `json:"swaps,omitempty"`
	// MergedInto is the destination that stands for it.
	MergedInto *uuid.UUID `json:"mergedInto,omitempty"`
}

type linkRecord struct {
	ID        uuid.UUID       `json:"id"`
	CreatedAt time.Time       `json:"createdAt"`
	Link      shortlink.Link  `json:"link"`
	Addresses []addressRecord `json:"addresses"` // the present one and those before it
}

type addressRecord struct {
	Address string    `json:"address"`
	Present bool      `json:"present"`
	Since   time.Time `json:"since"`
}

func recordOfLink(link store.ShortLink) linkRecord {
	record := linkRecord{ID: link.ID, CreatedAt: link.CreatedAt, Link: link.Link}
	for _, each := range link.Addresses {
		record.Addresses = append(record.Addresses, addressRecord{each.Address, each.Present, each.Since})
	}
	return record
}

type eventRecord struct {
	ID        uuid.UUID          `json:"id"`
	At        time.Time          `json:"at"`
	Kind      traffic.Kind       `json:"kind"`
	Edition   int                `json:"edition,omitempty"`
	Block     string             `json:"block,omitempty"`
	Item      string             `json:"item,omitempty"`
	Outcome   string             `json:"outcome,omitempty"` // where a short link led
	LedTo     *ledRecord         `json:"ledTo,omitempty"`
	Place     int                `json:"place,omitempty"`
	Source    string             `json:"source,omitempty"`
	Evidence  source.By          `json:"evidence"`
	Tag       string             `json:"tag,omitempty"`
	Campaign  campaign.Tags      `json:"campaign,omitzero"`
	Referrer  string             `json:"referrer,omitempty"`
	UserAgent string             `json:"userAgent"`
	Visitor   traffic.VisitorKey `json:"visitor"`
	Flags     traffic.Flags      `json:"flags"`
	Rules     int                `json:"rules"`
	Country   string             `json:"country,omitempty"`
	Language  string             `json:"language,omitempty"`
	Paid      bool               `json:"paid,omitempty"`
}

// ledRecord is where a click led: a destination, and its address at that moment.
type ledRecord struct {
	Destination string `json:"destination"`
	Address     string `json:"address"`
}

func recordOfEvent(event store.Event) eventRecord {
	record := eventRecord{
		ID: event.ID, At: event.At, Kind: event.Kind, Edition: event.Edition, Block: event.Block, Item: event.Item,
		Outcome: event.Outcome, Place: event.Place, Source: event.Source, Evidence: event.By, Tag: event.Tag, Campaign: event.Campaign,
		Referrer: event.Referrer, UserAgent: event.UserAgent, Visitor: event.Visitor, Flags: event.Flags, Rules: event.Rules,
		Country: event.Country, Language: event.Language, Paid: event.Paid,
	}
	if event.Led.ID != "" {
		record.LedTo = &ledRecord{event.Led.ID, event.Led.Address}
	}
	return record
}

type journalRecord struct {
	Who     string     `json:"who"`
	Did     string     `json:"did"`
	PageID  *uuid.UUID `json:"pageId,omitempty"`
	Page    string     `json:"page,omitempty"`
	Subject string     `json:"subject,omitempty"`
	First   time.Time  `json:"first"`
	Last    time.Time  `json:"last"`
	Times   int        `json:"times"`
}
