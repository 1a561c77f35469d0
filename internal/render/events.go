package render

import (
	"time"

	"jundle/internal/core/page"
)

// event is a date as search engines read it. Source: schema.org, Event.
type event struct {
	Context   string `json:"@context"`
	Type      string `json:"@type"`
	Name      string `json:"name"`
	StartDate string `json:"startDate"`
	EndDate   string `json:"endDate,omitempty"`
	Location  *place `json:"location,omitempty"`
}

type place struct {
	Type string `json:"@type"`
	Name string `json:"name"`
}

// Events are the dates that a block shows, for programs; nil in the strip.
func (v blockView) Events() []event {
	dates, ok := v.C.(*page.Dates)
	if !ok || v.painter.strip {
		return nil
	}
	var events []event
	for _, item := range dates.Shown(v.At()) {
		made := event{Context: "https://schema.org", Type: "Event", Name: item.What, StartDate: dates.Machine(item)}
		if !item.To.IsZero() {
			made.EndDate = dates.Machine(page.DateItem{From: item.To, WholeDay: item.WholeDay})
		}
		if item.Place != "" {
			made.Location = &place{"Place", item.Place}
		}
		events = append(events, made)
	}
	return events
}

// At is the moment the page is drawn for.
func (v blockView) At() time.Time { return v.painter.to.At }
