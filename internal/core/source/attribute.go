// Package source decides where a visit came from. It weighs the evidence a
// visit brings against the sources of a page, in a fixed order, and names the
// first kind that answers.
package source

import (
	"strings"
	"time"

	"jundle/internal/core/campaign"
)

// By is the kind of evidence an attribution rests on.
type By string

// The kinds of evidence, in the order in which they are asked.
const (
	// ByTag rests on the tag in the entry address, present or past.
	ByTag By = "tag"
	// ByCampaign rests on utm_source.
	ByCampaign By = "campaign"
	// ByReferrer rests on the host of the Referer.
	ByReferrer By = "referrer"
	// ByApp rests on the mark of an app's own browser in the user agent.
	ByApp By = "app"
	// Untagged means that no evidence answered. It is never called direct:
	// nobody knows that it was.
	Untagged By = "untagged"
	// Onward means that the visitor came from a page of our own, by a link that carried no tag, and
	// that nothing else tells more: traffic.JoinVisits has it go on with the visit it belongs to.
	Onward By = "onward"
)

// Kinds lists the kinds of evidence in the order in which they are asked.
var Kinds = []By{ByTag, ByCampaign, ByReferrer, ByApp, Untagged}

// Candidate is a place where a page's address has been put, as far as attribution
// needs to know it.
type Candidate struct {
	ID string
	// Tag is the present code; Medium goes with it where clicks are tagged.
	Tag, Medium string
	// Tags are all codes the source ever had, in lower case. Old posts and
	// printed cards keep carrying past ones.
	Tags []string
	// Names are other names it goes by in utm_source, normalised.
	Names []string
	// Hosts are those of its profile addresses, Networks what it is on besides
	// their networks.
	Hosts, Networks []string
	// Since and Until say when the address stood there, as far as that is known;
	// zero leaves a side open. They matter where evidence names no more than a
	// network: a second profile on it does not cast doubt on visits before it.
	Since, Until time.Time
}

// Evidence is what a visit brings. All of it is kept with the visit.
type Evidence struct {
	// Tag is the code in the entry address, in lower case; empty when the bare
	// address was opened.
	Tag string
	// Campaign holds the campaign tags of the address, normalised.
	Campaign campaign.Tags
	// Referrer is the host of the Referer, in lower case.
	Referrer string
	// App is the network whose app's browser the user agent is marked as.
	App string
	// Products are the names of products in the user agent (RFC 9110 s10.1.5).
	Products []string
}

// Attribution says which source a visit belongs to and why.
type Attribution struct {
	// Source is the ID of a source of the page, or the key of an unlisted one, or
	// empty when the visit is untagged.
	Source string
	By     By
}

// Unlisted is a place that visits come from and that is not on the page's list
// of sources, or not one of it.
type Unlisted string

// The kinds of unlisted sources, after the evidence that names them.
const (
	// UnlistedCampaign is a utm_source that is no source's.
	UnlistedCampaign Unlisted = "campaign"
	// UnlistedNetwork is a network that no source is on.
	UnlistedNetwork Unlisted = "network"
	// UnlistedHost is a host that is on no list.
	UnlistedHost Unlisted = "host"
	// Several is a network that several sources are on: which of them, nobody
	// knows. It is no source of its own and cannot be adopted as one.
	Several Unlisted = "several"
	// Others are the places of a day, or of a range, beyond the number that is told
	// apart, all together. They cannot be adopted either.
	Others Unlisted = "others"
)

// Key is under which visits of an unlisted source of that name are kept.
func (u Unlisted) Key(name string) string { return string(u) + ":" + name }

// ParseUnlisted takes the key of an unlisted source apart. It reports false for
// anything else.
func ParseUnlisted(key string) (kind Unlisted, name string, ok bool) {
	before, name, found := strings.Cut(key, ":")
	kind = Unlisted(before)
	return kind, name, found && (kind == UnlistedCampaign || kind == UnlistedNetwork || kind == UnlistedHost || kind == Several ||
		kind == Others)
}

// Attributor holds the sources of one page ready for attribution.
type Attributor struct {
	networks  *Networks
	sources   []Candidate
	ours      map[string]span
	byID      map[string]int
	byTag     map[string]string
	byName    map[string]string
	onNetwork map[string][]int  // sources by network, with plain names
	called    map[string]string // networks' names by plain names
	onDomain  map[string][]int
}

// NewAttributor readies the sources of a page. Ours are the hosts of our own pages and
// of the studio: coming from them says nothing.
func NewAttributor(sources []Candidate, networks *Networks, ours ...string) *Attributor {
	b := &Attributor{
		networks: networks, sources: sources, ours: make(map[string]span), byID: make(map[string]int), byTag: make(map[string]string),
		byName:    make(map[string]string),
		onNetwork: make(map[string][]int), onDomain: make(map[string][]int), called: make(map[string]string),
	}
	for _, host := range ours {
		b.ours[host] = span{}
	}
	for i, source := range sources {
		b.byID[source.ID] = i
		for _, tag := range source.Tags {
			first(b.byTag, tag, source.ID)
			first(b.byName, campaign.Normalise(tag), source.ID)
		}
		for _, name := range source.Names {
			first(b.byName, name, source.ID)
		}
		b.addHosts(i, source)
	}
	return b
}

// span is a time; a zero end is open.
type span struct{ from, to time.Time }

func (s span) holds(at time.Time) bool {
	return !at.Before(s.from) && (s.to.IsZero() || at.Before(s.to))
}

// AddOurs adds a host that is one of our own from a moment on, and until another unless that is zero.
func (b *Attributor) AddOurs(host string, from, to time.Time) { b.ours[host] = span{from, to} }

// isOurs tells whether a host is one of our own at a moment.
func (b *Attributor) isOurs(host string, at time.Time) bool {
	when, known := b.ours[host]
	return known && when.holds(at)
}

// Find returns the source of that ID.
func (b *Attributor) Find(id string) (Candidate, bool) {
	i, ok := b.byID[id]
	if !ok {
		return Candidate{}, false
	}
	return b.sources[i], true
}

func first(names map[string]string, name, id string) {
	if _, taken := names[name]; !taken {
		names[name] = id
	}
}

func (b *Attributor) addHosts(i int, source Candidate) {
	networks, domains := map[string]bool{}, map[string]bool{}
	for _, name := range source.Networks {
		networks[plain(name)], b.called[plain(name)] = true, name
	}
	for _, host := range source.Hosts {
		domains[Domain(host)] = true
		name := b.networkOf(host)
		networks[plain(name)], b.called[plain(name)] = true, name
	}
	for network := range networks {
		b.onNetwork[network] = append(b.onNetwork[network], i)
	}
	for domain := range domains {
		b.onDomain[domain] = append(b.onDomain[domain], i)
	}
}

// networkOf names the network of a host. One that no list knows is named after
// what was registered.
func (b *Attributor) networkOf(host string) string {
	if name := b.networks.OfHost(host); name != "" {
		return name
	}
	label, _, _ := strings.Cut(Domain(host), ".")
	return label
}

// Attribute names the source that evidence of a visit at that time points to.
func (b *Attributor) Attribute(evidence Evidence, at time.Time) Attribution {
	if id := b.byTag[evidence.Tag]; id != "" && evidence.Tag != "" {
		return Attribution{Source: id, By: ByTag}
	}
	if evidence.Campaign.Source != "" {
		return b.byCampaign(evidence.Campaign.Source, at)
	}
	foreign := evidence.Referrer != "" && !b.isOurs(evidence.Referrer, at)
	if foreign {
		if found, ok := b.byReferrer(evidence.Referrer, at); ok {
			return found
		}
	}
	if found, ok := b.byApp(evidence, at); ok {
		return found
	}
	if foreign {
		// No list knows the host, but a visit that came from somewhere is not one
		// that came from nowhere.
		return Attribution{Source: UnlistedHost.Key(Domain(evidence.Referrer)), By: ByReferrer}
	}
	if evidence.Referrer != "" {
		return Attribution{By: Onward}
	}
	return Attribution{By: Untagged}
}

func (b *Attributor) byCampaign(name string, at time.Time) Attribution {
	if id := b.byName[name]; id != "" {
		return Attribution{Source: id, By: ByCampaign}
	}
	if on := b.onNetwork[plain(name)]; len(on) > 0 {
		return b.among(on, b.called[plain(name)], at, ByCampaign)
	}
	return Attribution{Source: UnlistedCampaign.Key(name), By: ByCampaign}
}

func (b *Attributor) byReferrer(host string, at time.Time) (Attribution, bool) {
	network := b.networks.OfHost(host)
	if on := b.onDomain[Domain(host)]; len(on) > 0 {
		return b.among(on, b.networkOf(host), at, ByReferrer), true
	}
	if network == "" {
		return Attribution{}, false
	}
	return b.among(b.onNetwork[plain(network)], network, at, ByReferrer), true
}

func (b *Attributor) byApp(evidence Evidence, at time.Time) (Attribution, bool) {
	if evidence.App != "" {
		return b.among(b.onNetwork[plain(evidence.App)], evidence.App, at, ByApp), true
	}
	for _, product := range evidence.Products {
		if on := b.onNetwork[plain(product)]; len(on) > 0 {
			return b.among(on, b.called[plain(product)], at, ByApp), true
		}
	}
	return Attribution{}, false
}

// among names the one source of several that evidence of a network points to:
// the only one whose address stood there at that time, or the only one there
// ever was. When there are several it is the network as a whole; when there is
// none, the network is an unlisted source.
func (b *Attributor) among(on []int, network string, at time.Time, by By) Attribution {
	var standing []int
	for _, i := range on {
		source := b.sources[i]
		if (span{source.Since, source.Until}).holds(at) {
			standing = append(standing, i)
		}
	}
	if len(standing) > 0 {
		on = standing
	}
	switch len(on) {
	case 0:
		return Attribution{Source: UnlistedNetwork.Key(network), By: by}
	case 1:
		return Attribution{Source: b.sources[on[0]].ID, By: by}
	}
	return Attribution{Source: Several.Key(network), By: by}
}
