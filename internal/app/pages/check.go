package pages

import (
	"bytes"
	"compress/gzip"
	"context"
	"errors"

	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/core/audience"
	"jundle/internal/core/destination"
	"jundle/internal/core/linkcheck"
	"jundle/internal/core/page"
	"jundle/internal/core/pagecheck"
	"jundle/internal/render"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// Report is what the page check found.
type Report struct {
	Findings []pagecheck.Finding
	// Stops are what can be pressed, in order: what a walk goes through.
	Stops []Stop
	// Waiting is how many addresses have not been asked yet.
	Waiting int
}

// Stop is something that can be pressed, and where it leads.
type Stop struct {
	Row, Item, Title, Address string
	// Asked is what came of asking the address last; nil where it was not.
	Asked *linkcheck.Result
}

// Check checks the working copy of a page of a workspace.
func (u Pages) Check(ctx context.Context, workspace, id uuid.UUID) (Report, error) {
	found, err := u.Store.Page(ctx, workspace, id)
	if err != nil {
		return Report{}, err
	}
	facts, err := u.facts(ctx, found)
	if err != nil {
		return Report{}, err
	}
	report := Report{Findings: pagecheck.Check(found.Draft, facts), Stops: stops(found.Draft.LeadingAt(u.Now()), facts.Links)}
	for _, stop := range report.Stops {
		if stop.Asked == nil && destination.IsWeb(stop.Address) {
			report.Waiting++
		}
	}
	return report, nil
}

// CheckSoon has the addresses of a page of a workspace asked before all others.
func (u Pages) CheckSoon(ctx context.Context, workspace, id uuid.UUID) error {
	found, err := u.Store.Page(ctx, workspace, id)
	if err != nil {
		return err
	}
	return u.Store.CheckSoon(ctx, workspace, found.Draft.DestinationIDs(), u.Now())
}

func (u Pages) facts(ctx context.Context, of store.Page) (pagecheck.Facts, error) {
	facts := pagecheck.Facts{Now: u.Now(), NoMail: u.NoMail, Sources: make(map[string]bool)}
	facts.Clicks, facts.Shown = make(map[string]int), make(map[string]int)
	if _, err := u.Store.PaymentService(ctx, of.WorkspaceID); errors.Is(err, store.ErrNotFound) {
		facts.NoPayments = true
	} else if err != nil {
		return facts, err
	}
	sources, err := u.Store.Sources(ctx, of.WorkspaceID, of.ID)
	if err != nil {
		return facts, err
	}
	for _, source := range sources {
		facts.Sources[source.ID.String()] = source.RetiredAt == nil
	}
	if facts.Links, err = u.Store.LinkChecks(ctx, of.WorkspaceID, of.Draft.DestinationIDs()); err != nil {
		return facts, err
	}
	if facts.Feeds, err = u.Store.FeedProblems(ctx, of.WorkspaceID, of.Draft.FeedIDs()); err != nil {
		return facts, err
	}
	span, err := figures.Span(ctx, u.Store, of.WorkspaceID, of.ID, "28d", facts.Now)
	if err != nil {
		return facts, err
	}
	reading, err := rollup.Read(ctx, u.Store, of.WorkspaceID, of.ID, span)
	if err != nil {
		return facts, err
	}
	facts.Zone = span.From().Location()
	for _, block := range reading.Blocks {
		facts.Clicks[block.Block], facts.Shown[block.Block] = block.Total.Clicks, block.Total.Rate.Of
	}
	html, _, err := render.Page(
		page.Named(of.Draft, of.Address),
		render.Visit{To: audience.Audience{At: facts.Now}, Address: of.Address, Edition: 1},
	)
	if err != nil {
		return facts, err
	}
	if facts.Bytes, err = packedBytes(html); err != nil {
		return facts, err
	}
	facts.MediaBytes, err = u.Store.BytesOfMedia(ctx, of.WorkspaceID, render.MediaOnPhone(html))
	return facts, err
}

// packedBytes is how long a page is as it is sent, compressed.
func packedBytes(html []byte) (int, error) {
	var packed bytes.Buffer
	writer := gzip.NewWriter(&packed)
	if _, err := writer.Write(html); err != nil {
		return 0, err
	}
	err := writer.Close()
	return packed.Len(), err
}

// stops are what can be pressed on a page and leads out, in its order, without what feeds
// bring: nobody here chose where that leads.
func stops(doc page.Document, asked map[string]linkcheck.Result) []Stop {
	var all []Stop
	for _, row := range doc.Rows() {
		for _, target := range doc.TargetsOf(row.Key) {
			if target.Address == "" || target.Address[0] == '/' || row.Kind == "feed" {
				continue
			}
			stop := Stop{Row: row.Key, Item: target.Item, Title: target.Name, Address: target.Address}
			if stop.Title == "" {
				stop.Title = row.Title
			}
			if result, ok := asked[target.DestinationID]; ok && result.Address == target.Address {
				stop.Asked = &result
			}
			all = append(all, stop)
		}
	}
	return all
}
