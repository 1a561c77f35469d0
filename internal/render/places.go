package render

import (
	"jundle/internal/core/page"
)

// somewhere is a place as search engines read it. Source: schema.org, Place with
// GeoCoordinates and OpeningHoursSpecification.
type somewhere struct {
	Context string         `json:"@context"`
	Type    string         `json:"@type"`
	Name    string         `json:"name"`
	Address string         `json:"address,omitempty"`
	Geo     *coordinates   `json:"geo,omitempty"`
	Hours   []openingHours `json:"openingHoursSpecification,omitempty"`
}

type coordinates struct {
	Type      string  `json:"@type"`
	Latitude  float64 `json:"latitude"`
	Longitude float64 `json:"longitude"`
}

type openingHours struct {
	Type   string   `json:"@type"`
	Days   []string `json:"dayOfWeek"`
	Opens  string   `json:"opens"`
	Closes string   `json:"closes"`
}

// dayNames are schema.org's names of the days that RFC 5545 writes in two letters.
var dayNames = map[string]string{
	"MO": "Monday", "TU": "Tuesday", "WE": "Wednesday", "TH": "Thursday", "FR": "Friday", "SA": "Saturday", "SU": "Sunday",
}

// Somewhere is the place of a block, for programs; nil in the strip.
func (v blockView) Somewhere() *somewhere {
	of, ok := v.C.(*page.Venue)
	if !ok || v.painter.strip {
		return nil
	}
	made := &somewhere{Context: "https://schema.org", Type: "Place", Name: of.Name, Address: of.Address}
	if of.Point != nil {
		made.Geo = &coordinates{"GeoCoordinates", of.Point.Lat, of.Point.Lon}
	}
	if of.Hours == nil {
		return made
	}
	for _, rule := range of.Hours.Weekly {
		hours := openingHours{Type: "OpeningHoursSpecification", Opens: rule.From, Closes: rule.To}
		for _, day := range rule.Days {
			hours.Days = append(hours.Days, dayNames[string(day)])
		}
		made.Hours = append(made.Hours, hours)
	}
	return made
}
