package calendar

import (
	"time"

	ics "github.com/arran4/golang-ical"
)

// Appointment is a time that somebody asked for and was agreed to.
type Appointment struct {
	// ID is a UUID by itself, which says nothing of where it comes from (RFC 7986 s5.3).
	ID           string
	Title, Place string
	Notes        string
	From, To     time.Time
	// ChangedAt is when it came to stand as it does.
	ChangedAt time.Time
	CalledOff bool
}

// Write writes it. Taken in again it brings a calendar up to date (RFC 5545 s3.8.1.11, s3.8.4.7).
func (a Appointment) Write() string {
	file := ics.NewCalendar()
	file.SetProductId(product)
	file.SetMethod(ics.MethodPublish)
	event := file.AddEvent(a.ID)
	event.SetDtStampTime(a.ChangedAt.UTC())
	event.SetSummary(a.Title)
	event.SetStartAt(a.From)
	event.SetEndAt(a.To)
	event.SetStatus(ics.ObjectStatusConfirmed)
	if a.CalledOff {
		event.SetStatus(ics.ObjectStatusCancelled)
	}
	if a.Place != "" {
		event.SetLocation(a.Place)
	}
	if a.Notes != "" {
		event.SetDescription(a.Notes)
	}
	return file.Serialize(ics.WithNewLineWindows)
}
