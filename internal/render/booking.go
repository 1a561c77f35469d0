package render

import (
	"strings"
	"time"

	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/window"
)

// BookingForm is a form on which somebody asks for a time, as it is drawn. It is sent to the address it is on.
type BookingForm struct {
	page.Booking
	Language string
	// Lang is the language that the page is read in; empty for a page in one language.
	Lang string
	// Days are those with times that are free, none for no time, and Later the address of those after them; empty
	// for no more.
	Days  []BookingDay
	Later string
	// Once is the key by which the form is one, however often it is sent.
	Once string
	// Mark is that of a visitor who came through a gate; empty for none.
	Mark string
	// After is the first day that is shown, as it was asked for; empty for the first there is.
	After string
	// Chosen, Name, Address and Word are what was filled in before, and Wrong what is wrong about it.
	Chosen, Name, Address, Word, Wrong string
}

// letters are all that is written on it beside what the block says.
func (f *BookingForm) letters() string {
	text := f.ByClocks() + f.Wrong +
		locale.Of(f.Language).Letters("which_time", "later_times", "your_name", "your_address", "your_word", "no_times")
	for _, day := range f.Days {
		text += day.Day + day.Times[0].Shown
	}
	return text
}

// BookingDay is a day and the times on it.
type BookingDay struct {
	Day   string
	Times []BookingTime
	// Open: its times are seen at once.
	Open bool
}

// BookingTime is a time to choose.
type BookingTime struct {
	Value, Shown string
	Chosen       bool
}

// timeLayout is how a time stands in a form: in UTC (RFC 3339).
const timeLayout = "2006-01-02T15:04Z07:00"

// Offer shows times to choose from, a day at a time.
func (f *BookingForm) Offer(times []time.Time) {
	in, clocks := locale.Of(f.Language), f.Clocks()
	f.Days = nil
	for _, at := range times {
		day := in.Date(at.In(clocks))
		if last := len(f.Days) - 1; last < 0 || f.Days[last].Day != day {
			f.Days = append(f.Days, BookingDay{Day: day, Open: last < 0 && f.Chosen == ""})
		}
		last, value := &f.Days[len(f.Days)-1], at.UTC().Format(timeLayout)
		last.Times = append(last.Times, BookingTime{value, in.Time(at.In(clocks)), value == f.Chosen})
		last.Open = last.Open || value == f.Chosen
	}
}

// Time is what was chosen; false where nothing was.
func (f *BookingForm) Time() (time.Time, bool) {
	at, err := time.Parse(timeLayout, f.Chosen)
	return at, err == nil
}

// Clocks are those that times are written by.
func (f *BookingForm) Clocks() *time.Location {
	return window.Times{Zone: f.Zone()}.In(time.Time{}).Location()
}

// ByClocks says by whose clocks times are written.
func (f *BookingForm) ByClocks() string {
	return locale.Of(f.Language).Say("by_clocks", "Zone", strings.ReplaceAll(f.Zone(), "_", " "))
}
