package source

import (
	"slices"

	"jundle/internal/core/address"
	"jundle/internal/core/campaign"
	"jundle/internal/core/invalid"
)

// Kind is what sort of place a source is.
type Kind string

// The kinds of place.
const (
	Profile Kind = "profile"
	Film    Kind = "film" // the description under a film
	Letter  Kind = "letter"
	Print   Kind = "print"
	Person  Kind = "person" // handed from person to person
)

// PlaceKinds lists the kinds in the order in which they are offered.
var PlaceKinds = []Kind{Profile, Film, Letter, Print, Person}

// medium is utm_medium for a kind, unless the creator chooses another.
var medium = map[Kind]string{Profile: "social", Film: "video", Letter: "email", Print: "print", Person: "personal"}

// Place is what a creator says of a source besides its name and tag.
type Place struct {
	Kind Kind `json:"kind" enum:"profile,film,letter,print,person"`
	// Medium is its utm_medium.
	Medium   string   `json:"medium" doc:"utm_medium; made from the kind when empty."`
	Profiles []string `json:"profiles" nullable:"false" doc:"The main one first; visits from their hosts are known by it."`
	Names    []string `json:"names" nullable:"false" doc:"Other names it goes by in utm_source."`
	Networks []string `json:"networks" nullable:"false" doc:"Networks it is on, besides those of its profiles."`
}

// Limits of a place.
const (
	MaxProfiles = 5
	MaxNames    = 10
)

// Clean checks a place and writes it the one way it is kept. The error is an
// *invalid.Error under kind, profiles or names.
func (p Place) Clean() (Place, error) {
	var wrong invalid.List
	clean := Place{Medium: campaign.Normalise(p.Medium), Profiles: []string{}, Names: []string{}, Networks: []string{}}
	clean.Kind = invalid.Choice(&wrong, "kind", "kind of source", p.Kind, PlaceKinds...)
	if clean.Medium == "" {
		clean.Medium = medium[clean.Kind]
	}
	for _, text := range p.Profiles {
		link, err := address.ParseLink(text)
		switch {
		case err != nil:
			wrong.Add("profiles", "%s", err)
		case !link.IsWeb():
			wrong.Add("profiles", "A profile has a web address, like https://photoloft.example/quarrowclay.")
		case !slices.Contains(clean.Profiles, link.URL):
			clean.Profiles = append(clean.Profiles, link.URL)
		}
	}
	for _, name := range p.Names {
		if name = campaign.Normalise(name); name != "" && !slices.Contains(clean.Names, name) {
			clean.Names = append(clean.Names, name)
		}
	}
	for _, name := range p.Networks {
		if name = wrong.Line("networks", "The name of a network", name, campaign.MaxValue); name != "" && !slices.Contains(clean.Networks, name) {
			clean.Networks = append(clean.Networks, name)
		}
	}
	if len(clean.Networks) > MaxProfiles {
		wrong.Add("networks", "A source is on at most %d networks.", MaxProfiles)
	}
	if len(clean.Profiles) > MaxProfiles {
		wrong.Add("profiles", "A source has at most %d profile addresses. Make a source of its own for the rest.", MaxProfiles)
	}
	if len(clean.Names) > MaxNames {
		wrong.Add("names", "A source has at most %d other names.", MaxNames)
	}
	return clean, wrong.Err()
}

// Adopting returns the place with what makes it known by the evidence that an
// unlisted source rested on, so that later visits like those go to it.
func (p Place) Adopting(key string) Place {
	kind, name, _ := ParseUnlisted(key)
	switch kind {
	case UnlistedCampaign:
		p.Names = append(slices.Clone(p.Names), name)
	case UnlistedNetwork:
		p.Networks = append(slices.Clone(p.Networks), name)
	case UnlistedHost:
		p.Profiles = append(slices.Clone(p.Profiles), "https://"+name)
	}
	return p
}

// HostsOf are the hosts of web addresses; what is none is passed over.
func HostsOf(addresses []string) []string {
	var hosts []string
	for _, text := range addresses {
		if link, err := address.ParseLink(text); err == nil && link.Host != "" {
			hosts = append(hosts, link.Host)
		}
	}
	return hosts
}
