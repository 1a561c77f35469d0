package archive_test

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/archive"
	"jundle/internal/core/page"
	"jundle/internal/core/partner"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/files"
	"jundle/internal/files/filestest"
	"jundle/internal/media"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

// filled is a workspace with something of everything.
func filled(t *testing.T, s *store.Store, kept *files.Files, email, address string) (store.Member, store.Page) {
	t.Helper()
	member, err := s.CreateAccount(t.Context(), store.NewAccount{
		Email: email, PasswordHash: "secret-hash", PageAddress: address, Zone: "UTC",
		Document: withButton(),
	}, now)
	require.NoError(t, err)
	pages, err := s.Pages(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	published, err := s.Publish(t.Context(), member.WorkspaceID, member.ID, pages[0].ID, store.Publishing{Revision: pages[0].Revision}, now)
	require.NoError(t, err)
	card, err := s.AddSource(t.Context(), member.WorkspaceID, published.ID,
		store.NewSource{Name: "=1+1", Tag: "card", Place: source.Place{Kind: source.Print}}, now)
	require.NoError(t, err)
	link := shortlink.New("https://kiln.example/")
	link.Name = "@sale"
	short, err := s.AddShortLink(t.Context(), member.WorkspaceID, store.NewShortLink{Address: address + "-sale", Link: link}, now)
	require.NoError(t, err)
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{{
		ID: uuid.New(), At: now, EndpointID: short.ID, Kind: traffic.Click,
		Outcome: string(shortlink.Destination), UserAgent: "Mobile",
	}}))
	require.NoError(t, kept.Keep(t.Context(), member.WorkspaceID, media.File{Name: pictureOf(address), Bytes: []byte("picture")}))
	require.NoError(t, s.RecordEvents(t.Context(), []store.Event{{
		ID: uuid.New(), At: now, EndpointID: published.ID, Edition: 1, Kind: traffic.View, Attribution: source.Attribution{
			Source: card.ID.String(),
			By:     source.ByTag,
		}, Tag: "card", UserAgent: "Mobile",
	}}))
	return member, published
}

// withButton is a page with one button.
func withButton() page.Document {
	doc := page.New()
	doc.Blocks = []page.Block{{Key: "kiln", Kind: "button", Shown: true, Button: &page.Button{
		Title: "Kiln dates", Address: "https://kiln.example/",
	}}}
	return doc
}

// pictureOf is the name of a picture that belongs to an address.
func pictureOf(address string) string { return fmt.Sprintf("%x.png", sha256.Sum256([]byte(address))) }

func open(t *testing.T) (*store.Store, *files.Files) {
	s := storetest.New(t)
	return s, filestest.New(t, s, func() time.Time { return now })
}

func unzip(t *testing.T, s *store.Store, kept *files.Files, workspace uuid.UUID) map[string]string {
	t.Helper()
	var packed bytes.Buffer
	require.NoError(t, archive.Write(t.Context(), s, kept, workspace, &packed, nil))
	files, err := zip.NewReader(bytes.NewReader(packed.Bytes()), int64(packed.Len()))
	require.NoError(t, err)
	texts := map[string]string{}
	for _, file := range files.File {
		open, err := file.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(open)
		require.NoError(t, err)
		texts[file.Name] = string(text)
	}
	return texts
}

func TestTheExportHoldsEverythingOfTheWorkspaceAndNothingElse(t *testing.T) {
	s, files := open(t)
	member, kept := filled(t, s, files, "ilse@quarrow.example", "quarrow-clay")
	filled(t, s, files, "rolf@elsewhere.example", "elsewhere")
	counted := []partner.Count{{Day: "2026-06-01", Subject: "film", Clicks: 7}}
	mapping := partner.ReportMapping{Days: partner.ISO}
	_, keptErr := s.KeepReport(t.Context(), member.WorkspaceID, kept.ID, "Wavecastle", mapping, counted, time.Now())
	require.NoError(t, keptErr)
	zipped := unzip(t, s, files, member.WorkspaceID)
	for _, name := range []string{"README.txt", "workspace.json", "destinations.ndjson", "media/" + pictureOf("quarrow-clay")} {
		assert.NotEmpty(t, zipped[name], name)
	}
	for _, name := range []string{"page.json", "editions.json", "sources.json", "events.ndjson", "figures.csv", "buttons.csv"} {
		assert.NotEmpty(t, zipped["pages/quarrow-clay/"+name], name)
	}
	assert.Contains(t, zipped["pages/quarrow-clay/partners.json"], `"subject": "film"`)
	assert.Equal(t, "[]", strings.TrimSpace(zipped["pages/quarrow-clay/trials.json"]))
	for _, name := range []string{"link.json", "events.ndjson", "figures.csv", "buttons.csv"} {
		assert.NotEmpty(t, zipped["short-links/quarrow-clay-sale/"+name], name)
	}
	again, err := shortlink.ReadList(zipped["short-links.csv"])
	require.NoError(t, err)
	require.Len(t, again, 1, "the list can be read again")
	assert.Equal(t, []string{"quarrow-clay-sale", "@sale"}, []string{again[0].Address, again[0].Link.Name})
	assert.Contains(t, zipped["short-links.csv"], ",'@sale,")
	var event struct{ Tag, Evidence string }
	require.NoError(t, json.Unmarshal([]byte(strings.TrimSpace(zipped["pages/quarrow-clay/events.ndjson"])), &event))
	assert.Equal(t, "card by tag", event.Tag+" by "+event.Evidence)
	rows, err := csv.NewReader(strings.NewReader(zipped["pages/quarrow-clay/figures.csv"])).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"2026-06-01", "'=1+1", "tag", "phone", "1", "1", "1", "0", "0"}, rows[1],
		"a text that a spreadsheet would run is defused")
	buttons, err := csv.NewReader(strings.NewReader(zipped["pages/quarrow-clay/buttons.csv"])).ReadAll()
	require.NoError(t, err)
	require.Len(t, buttons, 2)
	assert.Equal(t, []string{"2026-06-01", "Kiln dates", "kiln"}, buttons[1][:3], "a button goes by its title")
	for name, text := range zipped {
		assert.NotContains(t, name+text, "elsewhere", name)
		assert.NotContains(t, text, "secret-hash", name)
	}
}

func TestAnErasedAccountIsGoneAndLeavesOthersAlone(t *testing.T) {
	s, files := open(t)
	member, erased := filled(t, s, files, "ilse@quarrow.example", "quarrow-clay")
	other, kept := filled(t, s, files, "rolf@elsewhere.example", "elsewhere")
	before := unzip(t, s, files, other.WorkspaceID)
	_, err := s.DeleteAccount(t.Context(), member.ID, "", now.Add(-store.DeletionWait))
	require.NoError(t, err)
	require.NoError(t, s.EraseAccounts(t.Context(), 10, now))
	require.ErrorIs(t, s.EraseWorkspace(t.Context(), member.WorkspaceID, now), store.ErrNotFound)
	_, err = s.LivePage(t.Context(), "quarrow-clay")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.MemberByEmail(t.Context(), "ilse@quarrow.example")
	require.ErrorIs(t, err, store.ErrNotFound)
	for id, events := range map[uuid.UUID]int64{erased.ID: 0, kept.ID: 1} {
		n, err := s.CountEvents(t.Context(), id)
		require.NoError(t, err)
		assert.Equal(t, events, n)
	}
	assert.Equal(t, before, unzip(t, s, files, other.WorkspaceID))
	filled(t, s, files, "ilse@quarrow.example", "another-name") // the e-mail address can be had again
	taken := func(at time.Time) error {
		_, err := s.CreatePage(t.Context(), other.WorkspaceID, "quarrow-clay", page.New(), at)
		return err
	}
	require.ErrorIs(t, taken(now.AddDate(0, 0, 89)), store.ErrAddressTaken, "a published address rests first")
	require.NoError(t, taken(now.AddDate(0, 0, 91)))
}
