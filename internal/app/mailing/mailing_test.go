package mailing_test

import (
	"net"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
	"jundle/internal/core/booking"
	"jundle/internal/core/page"
	"jundle/internal/core/source"
	"jundle/internal/core/team"
	"jundle/internal/core/traffic"
	"jundle/internal/mail"
	"jundle/internal/standin"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

// monday is a Monday morning on which weekly letters are due.
var monday = time.Date(2026, 6, 8, 7, 30, 0, 0, time.UTC)

type office struct {
	mailing.Mailing
	mailbox *standin.Mailbox
}

func open(t *testing.T) *office {
	t.Helper()
	mailbox := standin.NewMailbox()
	socket, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = mailbox.Serve(socket) }()
	t.Cleanup(func() { _ = mailbox.Close() })
	sender, err := mail.NewSender("smtp://"+socket.Addr().String(), "Jundle <letters@kiln.example>")
	require.NoError(t, err)
	return &office{mailing.Mailing{
		Store: storetest.New(t), Send: sender.Send, Origin: "https://studio.kiln.example", Key: []byte("key"),
		Now: func() time.Time { return monday },
	}, mailbox}
}

func (o *office) account(t *testing.T, name string, made time.Time) store.Member {
	t.Helper()
	doc := page.New()
	doc.Header.Name = "Quarrow Clay"
	member, err := o.Store.CreateAccount(t.Context(), store.NewAccount{
		Email: name + "@quarrow.example", PageAddress: name, Zone: "UTC", Document: doc,
	}, made)
	require.NoError(t, err)
	return member
}

// visit has so many people look at a page.
func (o *office) visit(t *testing.T, pageID uuid.UUID, at time.Time, visits int) {
	t.Helper()
	var events []store.Event
	for i := range visits {
		events = append(events, store.Event{
			ID: uuid.New(), At: at.Add(time.Duration(i) * time.Second), EndpointID: pageID, Kind: traffic.View,
			Visitor: traffic.VisitorKey(uuid.New()), UserAgent: "Mozilla/5.0",
		})
	}
	require.NoError(t, o.Store.RecordEvents(t.Context(), events))
}

func TestTheWeeklyLetterTellsOfTheWeekThatIsOver(t *testing.T) {
	o := open(t)
	ilse := o.account(t, "quarrow-clay", monday.AddDate(0, 0, -60))
	pages, err := o.Store.Pages(t.Context(), ilse.WorkspaceID)
	require.NoError(t, err)
	o.visit(t, pages[0].ID, time.Date(2026, 6, 3, 10, 0, 0, 0, time.UTC), 12)
	o.visit(t, pages[0].ID, time.Date(2026, 6, 8, 6, 0, 0, 0, time.UTC), 5) // this week, which is not told of
	require.NoError(t, o.Deliver(t.Context(), store.LetterOrder{About: store.WeeklyLetter, User: ilse.ID, Workspace: ilse.WorkspaceID}))

	letters := o.mailbox.Letters("quarrow-clay@quarrow.example")
	require.Len(t, letters, 1)
	letter := letters[0]
	assert.Equal(t, "Last week: 12 visits to your page", letter.Subject)
	assert.Contains(t, letter.Text, "The week from Monday, 1 June to Sunday, 7 June")
	assert.Contains(t, letter.Text, "https://studio.kiln.example/pages/"+pages[0].ID.String()+"/readings?range=2026-06-01..2026-06-07")
	assert.Contains(t, letter.HTML, "Quarrow Clay")
	assert.Equal(t, "auto-generated", letter.Header["Auto-Submitted"])

	// RFC 8058, section 3.1: both fields, an https address in angle brackets, and this value.
	off := "https://studio.kiln.example/weekly-letter/" + mailing.OffToken(o.Key, ilse.WorkspaceID, ilse.ID)
	assert.Equal(t, "<"+off+">", letter.Header["List-Unsubscribe"])
	assert.Equal(t, "List-Unsubscribe=One-Click", letter.Header["List-Unsubscribe-Post"])
	assert.Contains(t, letter.Text, off)
	workspace, user, ok := mailing.ReadOffToken(o.Key, mailing.OffToken(o.Key, ilse.WorkspaceID, ilse.ID))
	assert.True(t, ok)
	assert.Equal(t, []uuid.UUID{ilse.WorkspaceID, ilse.ID}, []uuid.UUID{workspace, user})
	_, _, ok = mailing.ReadOffToken([]byte("another"), mailing.OffToken(o.Key, ilse.WorkspaceID, ilse.ID))
	assert.False(t, ok, "nobody switches off the letters of others")
}

func TestNoLetterIsSentOfAWeekInWhichNobodyCame(t *testing.T) {
	o := open(t)
	ilse := o.account(t, "quarrow-clay", monday.AddDate(0, 0, -60))
	require.NoError(t, o.Deliver(t.Context(), store.LetterOrder{About: store.WeeklyLetter, User: ilse.ID, Workspace: ilse.WorkspaceID}))
	require.NoError(t, o.Deliver(t.Context(), store.LetterOrder{About: store.WeeklyLetter, User: uuid.New(), Workspace: ilse.WorkspaceID}))
	assert.Empty(t, o.mailbox.Letters(""))
}

func TestALetterNobodyCanTakeIsNotTriedAgain(t *testing.T) {
	o := open(t)
	var refused *mail.RefusedError
	require.ErrorAs(t, o.Send(t.Context(), mail.Message{To: "ilse@bounces.example", Subject: "s", Text: "t", HTML: "<p>t"}), &refused)
	require.ErrorAs(t, o.Send(t.Context(), mail.Message{To: "no address", Subject: "s", Text: "t", HTML: "<p>t"}), &refused)
	require.ErrorAs(t, o.Deliver(t.Context(), store.LetterOrder{About: "nothing"}), &refused)

	require.NoError(t, o.mailbox.Close())
	err := o.Send(t.Context(), mail.Message{To: "ilse@quarrow.example", Subject: "s", Text: "t", HTML: "<p>t"})
	require.Error(t, err)
	assert.NotErrorAs(t, err, &refused, "a server that is away comes back")
}

func TestASubjectCannotBeginAnotherHeader(t *testing.T) {
	o := open(t)
	require.NoError(t, o.Send(t.Context(), mail.Message{To: "ilse@quarrow.example", Subject: "Kiln\r\nBcc: all@quarrow.example", Text: "t"}))
	letters := o.mailbox.Letters("")
	require.Len(t, letters, 1)
	assert.Equal(t, "Kiln Bcc: all@quarrow.example", letters[0].Subject)
	assert.NotContains(t, letters[0].Header, "Bcc")
}

func TestNoEmailCarriesALinkOfSomebodyElsesChoice(t *testing.T) {
	o := open(t)
	const hostile = "Locked! Unlock at https://evil.example/now"
	ilse := o.account(t, "quarrow-clay", monday.AddDate(0, 0, -60))
	pages, err := o.Store.Pages(t.Context(), ilse.WorkspaceID)
	require.NoError(t, err)
	doc := pages[0].Draft
	doc.Header.Name = hostile
	doc.Blocks = []page.Block{{Key: "film", Kind: "button", Shown: true, Button: &page.Button{Title: hostile, Address: "https://kiln.example/"}}}
	_, err = o.Store.SaveDraft(t.Context(), ilse.WorkspaceID, pages[0].ID, pages[0].Revision, doc)
	require.NoError(t, err)
	o.visit(t, pages[0].ID, time.Date(2026, 6, 3, 10, 0, 0, 0, time.UTC), 12)
	at := time.Date(2026, 6, 3, 11, 0, 0, 0, time.UTC)
	require.NoError(t, o.Store.RecordEvents(t.Context(), []store.Event{{
		ID: uuid.New(), At: at, EndpointID: pages[0].ID, Kind: traffic.View, Visitor: traffic.VisitorKey(uuid.New()), UserAgent: "Mozilla/5.0",
		Attribution: source.Attribution{Source: source.UnlistedCampaign.Key("https://evil.example/now"), By: source.ByCampaign},
	}}))
	invitation, err := o.Store.Invite(t.Context(), store.Invitation{
		WorkspaceID: ilse.WorkspaceID, Email: "rolf@kiln.example", Role: team.Reads, Whole: true, InvitedBy: ilse.Email,
	}, monday)
	require.NoError(t, err)
	require.NoError(t, o.Store.AskSignUp(t.Context(), store.SignUp{
		WorkspaceID: ilse.WorkspaceID, PageName: hostile, Address: "mia@reader.example", AddressKey: "mia@reader.example", Block: "letter01",
		Language: "en", AskedAt: monday,
	}))
	signUps, err := o.Store.SignUps(t.Context(), ilse.WorkspaceID, store.SignUpFilter{}, nil, 5)
	require.NoError(t, err)
	booked, err := o.Store.AskBooking(t.Context(), store.Booking{
		WorkspaceID: ilse.WorkspaceID, PageID: &pages[0].ID, PageName: hostile, Block: "talk01", BlockTitle: hostile, Name: hostile, Word: hostile,
		Address: "mia@reader.example", AddressKey: "mia@reader.example", Language: "en", Zone: "UTC", StartsAt: monday.Add(time.Hour),
		EndsAt: monday.Add(2 * time.Hour), AskedAt: monday,
	})
	require.NoError(t, err)
	_, err = o.Store.AnswerBooking(t.Context(), ilse.WorkspaceID, booked.ID, store.Answer{Act: booking.Agree, Reply: hostile, At: monday})
	require.NoError(t, err)

	orders := []store.LetterOrder{
		{About: store.WeeklyLetter, User: ilse.ID, Workspace: ilse.WorkspaceID},
		{About: store.Invited, Subject: invitation.ID},
		{About: store.ConfirmSignUp, Subject: signUps[0].ID},
		{About: store.BookingAnswered, Subject: booked.ID},
	}
	for _, order := range orders {
		require.NoError(t, o.Deliver(t.Context(), order), order.About)
	}
	all := o.mailbox.Letters("")
	require.Len(t, all, len(orders))
	for _, letter := range all {
		assert.NotContains(t, letter.Subject, "Locked", letter.Subject)
		for _, text := range []string{letter.Subject, letter.Header["From"], letter.Text, letter.HTML} {
			assert.NotContains(t, text, "evil.example", letter.Subject)
		}
	}
}
