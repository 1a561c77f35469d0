package mailing

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/core/readings"
	"jundle/internal/core/stats"
	"jundle/internal/letters"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

const (
	// pagesTold is how many pages a weekly letter tells of, most visited first.
	pagesTold = 5
	// rowsTold is how many buttons and how many sources of each.
	rowsTold = 3
)

// weekly tells a member what came last week. There is none in which nobody came, and nobody in the
// week before.
func (m Mailing) weekly(ctx context.Context, order store.LetterOrder) (*letters.Letter, string, error) {
	member, err := m.Store.MemberOf(ctx, order.Workspace, order.User)
	if err != nil {
		return nil, "", err
	}
	zone, err := m.Store.Location(ctx, order.Workspace)
	if err != nil {
		return nil, "", err
	}
	week, err := lastWeek(m.Now(), zone)
	if err != nil {
		return nil, "", err
	}
	told, more, err := m.busiest(ctx, member, week)
	if err != nil || len(told) == 0 {
		return nil, "", err
	}
	letter := &letters.Letter{
		Subject: "Last week: " + counted(told[0].reading.Total.Visits, "visit", "visits") + " to your page",
		Lead:    fmt.Sprintf("The week from %s to %s", day(week.From()), day(week.To().AddDate(0, 0, -1))),
		Small: []string{
			"Own visits, crawlers and previews are kept apart and are not in these figures.",
			"You get this letter on Mondays because you are a member of this workspace.",
		},
		Off: m.Origin + "/weekly-letter/" + OffToken(m.Key, order.Workspace, order.User),
	}
	if more > 0 {
		letter.Small = append(letter.Small, counted(more, "page", "pages")+" with fewer visits not shown.")
	}
	for _, page := range told {
		section, err := m.section(ctx, page, week, zone)
		if err != nil {
			return nil, "", err
		}
		letter.Sections = append(letter.Sections, section)
	}
	return letter, member.Email, nil
}

// lastWeek is Monday to Sunday before a moment.
func lastWeek(now time.Time, zone *time.Location) (readings.Span, error) {
	today := now.In(zone)
	monday := today.AddDate(0, 0, -(int(today.Weekday())+6)%7-7)
	return readings.ParseSpan(monday.Format(time.DateOnly)+".."+monday.AddDate(0, 0, 6).Format(time.DateOnly), now, now, zone)
}

type weekOfPage struct {
	owner   store.Page
	reading readings.Reading
	changes readings.Changes
}

// busiest are the pages of a member that were visited most in a week, or in the one before, and how
// many more there are.
func (m Mailing) busiest(ctx context.Context, member store.Member, week readings.Span) (told []weekOfPage, more int, err error) {
	pages, err := m.Store.Pages(ctx, member.WorkspaceID)
	if err != nil {
		return nil, 0, err
	}
	pages = slices.DeleteFunc(pages, func(page store.Page) bool { return !member.Reach().Covers(page.ID) })
	ids := make([]uuid.UUID, len(pages))
	for i, page := range pages {
		ids[i] = page.ID
	}
	before := week.Compared(readings.Before)
	known, err := rollup.FiguresToCompare(ctx, m.Store, member.WorkspaceID, ids, before, week.To())
	if err != nil {
		return nil, 0, err
	}
	for _, page := range pages {
		reading := readings.Read(week, known[page.ID].Sums)
		sums := known[page.ID].Sums
		changes := readings.Compare(week, before, sums, nil) // no editions: the letter does not judge rates
		if reading.Total.Visits > 0 || changes.Visits.Before > 0 {
			told = append(told, weekOfPage{page, reading, changes})
		}
	}
	slices.SortStableFunc(told, func(a, b weekOfPage) int { return cmp.Compare(b.reading.Total.Visits, a.reading.Total.Visits) })
	if len(told) > pagesTold {
		told, more = told[:pagesTold], len(told)-pagesTold
	}
	return told, more, nil
}

// section tells of one page.
func (m Mailing) section(ctx context.Context, page weekOfPage, week readings.Span, zone *time.Location) (letters.Section, error) {
	names, err := figures.NamesOf(ctx, m.Store, page.owner, page.reading.Blocks)
	if err != nil {
		return letters.Section{}, err
	}
	names = quietNames(names)
	total := page.reading.Total
	section := letters.Section{
		Title: quiet(called(page.owner)),
		Facts: []letters.Fact{
			{Name: "Visits", Value: thousands(total.Visits), Note: visitsChange(page.changes.Visits)},
			{Name: "Clicks", Value: thousands(total.Clicks), Note: change(page.changes.Clicks)},
			{Name: "Visits that pressed something", Value: stats.Percent(total.ClickThrough.Rate), Note: fmt.Sprintf("likely between %s and %s",
				stats.Percent(total.ClickThrough.Interval.Low), stats.Percent(total.ClickThrough.Interval.High))},
		},
		Lists: []letters.List{mostPressed(page.reading, names), cameFrom(page.reading, names)},
		Link: &letters.Link{
			Label:   "All of it in Readings",
			Address: fmt.Sprintf("%s/pages/%s/readings?range=%s..%s", m.Origin, page.owner.ID, week.Date(0), week.Date(week.Len()-1)),
		},
	}
	section.Lists = slices.DeleteFunc(section.Lists, func(list letters.List) bool { return len(list.Rows) == 0 })
	section.Notice, err = m.off(ctx, page.owner, names, zone)
	return section, err
}

// off is the one thing that is off with a page, in a sentence; empty when nothing is.
func (m Mailing) off(ctx context.Context, owner store.Page, names readings.Names, zone *time.Location) (string, error) {
	if owner.LiveEdition == 0 {
		return "", nil
	}
	edition, err := m.Store.LiveEdition(ctx, owner.WorkspaceID, owner.ID)
	if err != nil {
		return "", err
	}
	off, err := figures.FindOff(ctx, m.Store, owner, edition.Document, m.Now(), zone)
	if err != nil || off == nil {
		return "", err
	}
	return offWords(*off, names), nil
}

func mostPressed(reading readings.Reading, names readings.Names) letters.List {
	blocks := slices.SortedStableFunc(slices.Values(reading.Blocks), func(a, b readings.BlockReading) int {
		return cmp.Compare(b.Total.Clicks, a.Total.Clicks)
	})
	list := letters.List{Title: "Pressed most"}
	for _, block := range blocks[:min(rowsTold, len(blocks))] {
		if block.Total.Clicks > 0 {
			list.Rows = append(list.Rows, letters.Fact{Name: names.Blocks[block.Block], Value: counted(block.Total.Clicks, "click", "clicks")})
		}
	}
	return list
}

func cameFrom(reading readings.Reading, names readings.Names) letters.List {
	list := letters.List{Title: "Came from"}
	most := slices.SortedFunc(maps.Keys(reading.BySource), func(a, b string) int {
		return cmp.Or(cmp.Compare(reading.BySource[b].Visits, reading.BySource[a].Visits), cmp.Compare(a, b))
	})
	for _, source := range most[:min(rowsTold, len(most))] {
		if came := reading.BySource[source]; came.Visits > 0 {
			list.Rows = append(list.Rows, letters.Fact{
				Name: names.Sources[source], Value: counted(came.Visits, "visit", "visits"),
				Note: fmt.Sprintf("%.0f %%", 100*float64(came.Visits)/float64(max(1, reading.Total.Visits))),
			})
		}
	}
	return list
}
