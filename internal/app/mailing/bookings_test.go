package mailing_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
	"jundle/internal/core/booking"
	"jundle/internal/standin"
	"jundle/internal/store"
)

// asked has somebody ask for an hour, so many days from now, on the page of a member.
func (o *office) asked(t *testing.T, member store.Member, days int, name string) store.Booking {
	t.Helper()
	from := monday.AddDate(0, 0, days)
	one, err := o.Store.AskBooking(t.Context(), store.Booking{
		WorkspaceID: member.WorkspaceID, PageName: "Quarrow https://spam.example", Block: "talk01", BlockTitle: "A talk", Language: "de",
		Zone: "Europe/Lisbon", StartsAt: from, EndsAt: from.Add(time.Hour), Name: name, Address: fmt.Sprintf("rolf%d@kiln.example", days),
		AddressKey: fmt.Sprintf("rolf%d@kiln.example", days), Word: "See spam.example", Price: 2500, Currency: "EUR", AskedAt: monday,
	})
	require.NoError(t, err)
	return one
}

func TestWhoAskedForATimeIsToldOfTheAnswerInTheLanguageOfThePage(t *testing.T) {
	o := open(t)
	o.PublicOrigin = "https://pages.kiln.example"
	ilse := o.account(t, "quarrow-clay", monday.AddDate(0, 0, -60))
	one := o.asked(t, ilse, 1, "Rolf")
	tell := func() {
		require.NoError(t, o.Deliver(t.Context(), store.LetterOrder{About: store.BookingAnswered, Workspace: ilse.WorkspaceID, Subject: one.ID}))
	}
	tell()
	assert.Empty(t, o.mailbox.Letters(""), "nobody has answered")
	_, err := o.Store.AnswerBooking(t.Context(), ilse.WorkspaceID, one.ID,
		store.Answer{Act: booking.Agree, Reply: "Buy at spam.example", At: monday})
	require.NoError(t, err)
	tell()
	letters := o.mailbox.Letters("rolf1@kiln.example")
	require.Len(t, letters, 1)
	assert.Equal(t, "Zugesagt: Dienstag, 9. Juni 2026 um 08:30", letters[0].Subject)
	assert.Contains(t, letters[0].Text, "Zu bezahlen: 25\u00a0€")
	assert.Contains(t, letters[0].Text, "https://pages.kiln.example/-/booking/"+mailing.BookingToken(o.Key, one.ID))
	assert.NotContains(t, letters[0].Text, "spam.example", "nothing that anybody can write is a link in it")

	_, err = o.Store.AnswerBooking(t.Context(), ilse.WorkspaceID, one.ID, store.Answer{Act: booking.CallOff, At: monday})
	require.NoError(t, err)
	tell()
	assert.Contains(t, o.mailbox.Letters("rolf1@kiln.example")[0].Subject, "Abgesagt: ")
	id, ok := mailing.ReadBookingToken(o.Key, mailing.BookingToken(o.Key, one.ID))
	assert.True(t, ok)
	assert.Equal(t, one.ID, id)
	_, ok = mailing.ReadBookingToken(o.Key, mailing.SignUpToken(o.Key, one.ID))
	assert.False(t, ok, "what confirms an address shows no time")
}

func TestCreatorsAreToldWhoAsksForTimes(t *testing.T) {
	o := open(t)
	ilse := o.account(t, "quarrow-clay", monday.AddDate(0, 0, -60))
	first := o.asked(t, ilse, 1, "Rolf https://spam.example/a")
	tell := func() []standin.Letter {
		require.NoError(t, o.Store.TellOfBookings(t.Context(), 10, o.Now()))
		require.NoError(t, o.Deliver(t.Context(), store.LetterOrder{
			About: store.BookingsAsked, User: ilse.ID, Workspace: ilse.WorkspaceID, Subject: first.ID,
		}))
		return o.mailbox.Letters("quarrow-clay@quarrow.example")
	}
	letters := tell()
	require.Len(t, letters, 1)
	assert.Equal(t, "Somebody asked for a time", letters[0].Subject)
	assert.Contains(t, letters[0].Text, "asks for Tuesday, June 9, 2026 at 8:30")
	assert.NotContains(t, letters[0].Text, "spam.example")
	assert.Contains(t, letters[0].Text, "https://studio.kiln.example/bookings")

	_, err := o.Store.AnswerBooking(t.Context(), ilse.WorkspaceID, first.ID, store.Answer{Act: booking.Agree, At: monday})
	require.NoError(t, err)
	_, err = o.Store.AnswerBooking(t.Context(), [16]byte{}, first.ID, store.Answer{Act: booking.Withdraw, At: monday})
	require.NoError(t, err)
	for i := range 12 {
		o.asked(t, ilse, 2+i, fmt.Sprintf("Visitor %d", i))
	}
	later := monday.Add(20 * time.Minute)
	o.Now = func() time.Time { return later }
	letter := tell()[0]
	assert.Equal(t, "Somebody asked for a time, or took one back", letter.Subject)
	assert.Contains(t, letter.Text, "called off Tuesday, June 9, 2026")
	assert.Contains(t, letter.Text, "And 3 more.", "thirteen, of which ten are listed")

	require.NoError(t, o.Store.RemoveBooking(t.Context(), ilse.WorkspaceID, first.ID))
	sent := len(o.mailbox.Letters(""))
	tell()
	assert.Len(t, o.mailbox.Letters(""), sent, "what it was about is gone")
}

func TestCreatorsAreToldThatAVisitorPaid(t *testing.T) {
	o := open(t)
	ilse := o.account(t, "quarrow-clay", monday.AddDate(0, 0, -60))
	service, err := o.Store.SetPaymentService(t.Context(), store.PaymentService{
		WorkspaceID: ilse.WorkspaceID, Address: "https://pay.example/v1", Token: "t", Secret: "s", CreatedAt: monday,
	})
	require.NoError(t, err)
	paid, err := o.Store.BeginPayment(t.Context(), store.Payment{
		WorkspaceID: ilse.WorkspaceID, ServiceID: service.ID, PageName: "Quarrow https://spam.example/", Block: "tip1",
		BlockTitle: "A tip", Amount: 500, Currency: "EUR", Word: "Look at spam.example", Language: "en", BegunAt: monday,
	})
	require.NoError(t, err)
	order := store.LetterOrder{About: store.PaymentMade, User: ilse.ID, Workspace: ilse.WorkspaceID, Subject: paid.ID}
	require.NoError(t, o.Deliver(t.Context(), order))
	letters := o.mailbox.Letters("quarrow-clay@quarrow.example")
	require.Len(t, letters, 1)
	assert.Equal(t, "You were paid €5", letters[0].Subject)
	assert.Contains(t, letters[0].Text, "A tip")
	assert.Contains(t, letters[0].Text, "https://studio.kiln.example/income")
	assert.NotContains(t, letters[0].Text, "spam.example")
}
