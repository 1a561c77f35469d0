package store

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"jundle/internal/core/daily"
	"jundle/internal/core/traffic"
)

// visitorDay is one visitor on one day.
type visitorDay struct {
	Day
	visitor traffic.VisitorKey
}

// sumUp brings the sums of days, which are locked, in step with events that are
// about to be stored: what the visitors among them brought before is taken out,
// and what they bring now is added. Every rule of counting holds within one
// visitor's day, so this is exact, whatever order events arrive in.
func (s *Store) sumUp(ctx context.Context, tx pgx.Tx, days map[Day]*countedDay, events []Event) error {
	shown := make(editionsShown)
	for _, day := range days {
		day.tally = daily.NewTally(day.zone, shown.on(day.EndpointID))
	}
	arrived := make(map[visitorDay][]traffic.Event)
	var visitors []visitorDay
	for _, event := range events {
		day := days[dayOf(event)]
		if day.due {
			continue // made anew from the events
		}
		arrival := event.traffic()
		if !arrival.Counted() {
			day.tally.Add([]traffic.Event{arrival})
			continue
		}
		key := visitorDay{day.Day, event.Visitor}
		if arrived[key] == nil {
			visitors = append(visitors, key)
		}
		arrived[key] = append(arrived[key], arrival)
	}
	visitors, err := withoutBusy(ctx, tx, visitors)
	if err != nil {
		return err
	}
	for chunk := range slices.Chunk(visitors, visitorsTogether) {
		if err := s.sumUpVisitors(ctx, tx, days, chunk, arrived, shown); err != nil {
			return err
		}
	}
	return keepChanges(ctx, tx, days)
}

// visitorsTogether is of how many visitors the events are held at one time.
const visitorsTogether = 1000

func (s *Store) sumUpVisitors(ctx context.Context, tx pgx.Tx, days map[Day]*countedDay, visitors []visitorDay,
	arrived map[visitorDay][]traffic.Event, shown editionsShown,
) error {
	stored, err := eventsOfVisitors(ctx, tx, visitors, busyFrom+1)
	if err != nil {
		return err
	}
	wanted := make(map[editionID]bool)
	for i, key := range visitors {
		for _, events := range [][]traffic.Event{stored[i], arrived[key]} {
			for _, event := range events {
				if id := (editionID{key.EndpointID, event.Edition}); shown[id] == nil {
					wanted[id] = true
				}
			}
		}
	}
	read, err := s.editionRows(ctx, tx, wanted)
	if err != nil {
		return err
	}
	maps.Copy(shown, read)
	for i, key := range visitors {
		day := days[key.Day]
		if len(stored[i]) > busyFrom {
			// What they brought is no longer kept: a late event of a day long past.
			if err := markDue(ctx, tx, key.Day); err != nil {
				return err
			}
			continue
		}
		all := append(slices.Clone(stored[i]), arrived[key]...)
		if len(all) > busyFrom {
			busy := newBusyVisitor(key, day.zone, shown.on(key.EndpointID), slices.Clone(all))
			if err := keepBusy(ctx, tx, busy); err != nil {
				return err
			}
		}
		day.tally.Subtract(stored[i])
		day.tally.Add(all)
	}
	return nil
}

// eventsOfVisitors reads the counted events that are stored of visitors, in the
// order of these, and of each at most so many, or all for 0.
func eventsOfVisitors(ctx context.Context, tx pgx.Tx, visitors []visitorDay, most int) ([][]traffic.Event, error) {
	days, keys := apart(visitors)
	rows, err := tx.Query(ctx, `
		select v.n, events.id::text, at, kind, edition, `+pressed+`, item, place, source, evidence, coalesce(user_agents.text, ''),
			country, language, paid, coalesce(click_target_id, 0)
		from unnest($3::int[], $4::bytea[]) with ordinality as v (day, visitor, n)
		join unnest($1::uuid[], $2::date[]) with ordinality as d (endpoint_id, utc_day, day) using (day)
		cross join lateral (
			select * from events
			where events.endpoint_id = d.endpoint_id and (at at time zone 'UTC')::date = d.utc_day and events.visitor = v.visitor and flags = 0
				and at >= d.utc_day::timestamp at time zone 'UTC' and at < (d.utc_day + 1)::timestamp at time zone 'UTC'
			limit nullif($5, 0)
		) events
		left join user_agents on user_agents.id = user_agent_id`, days.pages, days.utcDays, days.of, keys, most)
	if err != nil {
		return nil, err
	}
	stored := make([][]traffic.Event, len(visitors))
	var n int
	var event traffic.Event
	var userAgent string
	_, err = pgx.ForEachRow(rows, []any{
		&n, &event.ID, &event.At, &event.Kind, &event.Edition, &event.Block, &event.Item, &event.Place, &event.Source, &event.Evidence,
		&userAgent, &event.Country, &event.Language, &event.Paid, &event.Target,
	}, func() error {
		event.Device, event.Visitor = traffic.DeviceOf(userAgent), visitors[n-1].visitor
		stored[n-1] = append(stored[n-1], event)
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("read what visitors did before: %w", err)
	}
	return stored, nil
}

// daysOf are the days of visitors, each once, and which each of these is of, from 1.
type daysOf struct {
	pages   []uuid.UUID
	utcDays []time.Time
	of      []int32
}

// apart takes visitors of days apart for a query: there are many visitors and few
// days.
func apart(visitors []visitorDay) (days daysOf, keys [][]byte) {
	known := make(map[Day]int32)
	for i := range visitors {
		day := visitors[i].Day
		if known[day] == 0 {
			days.pages, days.utcDays = append(days.pages, day.EndpointID), append(days.utcDays, day.UTCDay)
			known[day] = int32(len(days.pages))
		}
		days.of, keys = append(days.of, known[day]), append(keys, visitors[i].visitor[:])
	}
	return days, keys
}

// traffic is the event as the rules of counting see it.
func (e *Event) traffic() traffic.Event {
	return traffic.Event{
		ID: e.ID.String(), At: e.At, Kind: e.Kind, Edition: e.Edition, Block: cmp.Or(e.Outcome, e.Block), Item: e.Item,
		Place: e.Place, Source: e.Source, Evidence: e.By, Device: traffic.DeviceOf(e.UserAgent), Visitor: e.Visitor, Flags: e.Flags,
		Target: e.target, Traits: e.Traits,
	}
}

// keepChanges adds what changed to the sums of days.
func keepChanges(ctx context.Context, tx pgx.Tx, days map[Day]*countedDay) error {
	var changed []daySums
	for key, day := range days {
		sums := day.tally.Sums()
		added, all := day.places.Admit(sums)
		if added || !all && !day.crowded {
			_, err := tx.Exec(ctx, "update counted_days set places = $3, crowded = crowded or $4 where endpoint_id = $1 and utc_day = $2",
				day.EndpointID, day.UTCDay, day.places.Keys(), !all)
			if err != nil {
				return fmt.Errorf("keep the places of a day: %w", err)
			}
		}
		changed = append(changed, daySums{key, sums.Join(day.places)})
	}
	return addSums(ctx, tx, changed)
}

// daySums is rows to add to the sums of a day.
type daySums struct {
	Day
	daily.Sums
}

// addSums adds rows to those that are there. What comes to nothing is deleted.
func addSums(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	for _, add := range []func(context.Context, pgx.Tx, []daySums) error{
		addPages, addBlocks, addHours, addHourShares, addLeftOut, addItems, addTargets, addTraits, addTrials,
	} {
		if err := add(ctx, tx, changed); err != nil {
			return fmt.Errorf("add to the sums of days: %w", err)
		}
	}
	return nil
}

func addPages(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Pages {
			c.add(sums.Day, row.Day, []string{row.Source, string(row.Evidence), string(row.Device)},
				[]int{row.Views, row.Visits, row.Visitors, row.Clicks, row.ClickedVisits})
		}
	}
	return c.addTo(ctx, tx, "daily_pages", []string{"source", "evidence", "device"},
		[]string{"views", "visits", "visitors", "clicks", "clicked_visits"})
}

func addBlocks(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Blocks {
			c.add(sums.Day, row.Day, []string{row.Block, row.Source, string(row.Device)}, []int{row.Clicks, row.Takers, row.Reach})
		}
	}
	return c.addTo(ctx, tx, "daily_blocks", []string{"block", "source", "device"}, []string{"clicks", "takers", "reach"})
}

func addHours(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Hours {
			c.add(sums.Day, row.Day, []string{fmt.Sprint(row.Hour)}, []int{row.Views, row.Visits, row.Clicks})
		}
	}
	return c.addTo(ctx, tx, "daily_hours", []string{"hour"}, []string{"views", "visits", "clicks"})
}

func addHourShares(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.HourShares {
			c.add(sums.Day, row.Day, []string{fmt.Sprint(row.Hour), string(row.Split), row.Of}, []int{row.Count})
		}
	}
	return c.addTo(ctx, tx, "daily_hour_shares", []string{"hour", "split", "of_key"}, []string{"count"})
}

func addLeftOut(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.LeftOut {
			c.add(sums.Day, row.Day, []string{row.Reason}, []int{row.Views, row.Clicks})
		}
	}
	return c.addTo(ctx, tx, "daily_left_out", []string{"reason"}, []string{"views", "clicks"})
}

func addItems(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Items {
			c.add(sums.Day, row.Day, []string{row.Block, row.Item, row.Source}, []int{row.Clicks, row.Takers})
		}
	}
	return c.addTo(ctx, tx, "daily_items", []string{"block", "item", "source"}, []string{"clicks", "takers"})
}

func addTargets(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Targets {
			c.add(sums.Day, row.Day, []string{strconv.FormatInt(row.Target, 10), row.Block, row.Item}, []int{row.Clicks})
		}
	}
	return c.addTo(ctx, tx, "daily_targets", []string{"click_target_id", "block", "item"}, []string{"clicks"})
}

func addTraits(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Traits {
			c.add(sums.Day, row.Day, []string{string(row.Trait), row.Value}, []int{row.Visits, row.ClickedVisits})
		}
	}
	return c.addTo(ctx, tx, "daily_traits", []string{"trait", "value"}, []string{"visits", "clicked_visits"})
}

func addTrials(ctx context.Context, tx pgx.Tx, changed []daySums) error {
	var c columns
	for _, sums := range changed {
		for _, row := range sums.Trials {
			c.add(sums.Day, row.Day, []string{row.Trial, fmt.Sprint(row.Variant)}, []int{
				row.Reach, row.Takers, row.Visitors, row.ReachSquared, row.ReachTakers, row.TakersSquared,
			})
		}
	}
	return c.addTo(ctx, tx, "daily_trials", []string{"trial", "variant"},
		[]string{"reach", "takers", "visitors", "reach_squared", "reach_takers", "takers_squared"})
}

// columns are rows of a table of sums, column by column.
type columns struct {
	pages   []uuid.UUID
	utcDays []time.Time
	days    []string
	keys    [][]string
	figures [][]int
	less    bool // whether anything is taken away
}

func (c *columns) add(of Day, day string, keys []string, figures []int) {
	if c.keys == nil {
		c.keys, c.figures = make([][]string, len(keys)), make([][]int, len(figures))
	}
	c.pages, c.utcDays, c.days = append(c.pages, of.EndpointID), append(c.utcDays, of.UTCDay), append(c.days, day)
	for i, key := range keys {
		c.keys[i] = append(c.keys[i], key)
	}
	for i, figure := range figures {
		c.figures[i] = append(c.figures[i], figure)
		c.less = c.less || figure < 0
	}
}

// addTo adds the rows to a table with these columns. The days are locked, so
// nobody else changes the same rows.
func (c *columns) addTo(ctx context.Context, tx pgx.Tx, table string, keys, figures []string) error {
	if len(c.pages) == 0 {
		return nil
	}
	args := []any{c.pages, c.utcDays, c.days}
	arrays := []string{"$1::uuid[]", "$2::date[]", "$3::text[]::date[]"}
	var sums, nothing []string
	for i, key := range keys {
		args = append(args, c.keys[i])
		array := fmt.Sprintf("$%d::text[]", len(args))
		switch key {
		case "hour", "variant":
			array += "::smallint[]"
		case "click_target_id":
			array += "::bigint[]"
		}
		arrays = append(arrays, array)
	}
	for i, figure := range figures {
		args = append(args, c.figures[i])
		arrays = append(arrays, fmt.Sprintf("$%d::bigint[]", len(args)))
		sums = append(sums, fmt.Sprintf("%[1]s = %[2]s.%[1]s + excluded.%[1]s", figure, table))
		nothing = append(nothing, figure+" = 0")
	}
	primary := "endpoint_id, utc_day, day, " + strings.Join(keys, ", ")
	_, err := tx.Exec(ctx, fmt.Sprintf("insert into %s (%s, %s) select * from unnest(%s) on conflict (%s) do update set %s",
		table, primary, strings.Join(figures, ", "), strings.Join(arrays, ", "), primary, strings.Join(sums, ", ")), args...)
	if err != nil || !c.less {
		return err
	}
	_, err = tx.Exec(
		ctx,
		fmt.Sprintf("delete from %s where (endpoint_id, utc_day) in (select * from unnest($1::uuid[], $2::date[])) and %s",
			table, strings.Join(nothing, " and ")),
		c.pages,
		c.utcDays,
	)
	return err
}
