// Package calendar writes dates of a page as a file that calendars take in (RFC 5545).
package calendar

import (
	"time"

	ics "github.com/arran4/golang-ical"

	"jundle/internal/core/page"
)

// product names the program that wrote a file (RFC 5545 s3.7.3).
const product = "-//Jundle//Dates of a page//EN"

// Write writes those dates of a block that it shows at a moment. Each keeps its UID for as
// long as it is on the page, so that a calendar that takes the file in again brings it up to
// date. Host and address are where the page is.
func Write(dates *page.Dates, host, address string, at time.Time) string {
	file := ics.NewCalendar()
	file.SetProductId(product)
	file.SetMethod(ics.MethodPublish)
	if dates.Title != "" {
		file.SetXWRCalName(dates.Title)
	}
	zone, err := time.LoadLocation(dates.Zone)
	if err != nil {
		zone = time.UTC
	}
	for _, item := range dates.Shown(at) {
		event := file.AddEvent(item.Key + "." + address + "@" + host)
		event.SetDtStampTime(at.UTC())
		event.SetSummary(item.What)
		if item.WholeDay {
			last := item.From
			if item.To.After(last) {
				last = item.To
			}
			event.SetAllDayStartAt(item.From.In(zone))
			event.SetAllDayEndAt(last.In(zone).AddDate(0, 0, 1)) // the day after (RFC 5545 s3.6.1)
		} else {
			event.SetStartAt(item.From)
			if !item.To.IsZero() {
				event.SetEndAt(item.To)
			}
		}
		if item.Place != "" {
			event.SetLocation(item.Place)
		}
		if item.Address != "" {
			event.SetURL(item.Address)
		}
	}
	return file.Serialize(ics.WithNewLineWindows)
}
