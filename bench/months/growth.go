package main

import (
	"fmt"
	"slices"
	"strings"
	"time"
)

// growthWithin is how much longer a query may take on the page with the most events than on the one with
// the fewest, where both have as many rows of sums.
const growthWithin = 1.5

// compare asks pages with few and many events in turn for the same range: what a reading costs may grow
// with the range, and not with how many events there were in it.
func compare(all []*bench) error {
	fewest, most := all[0], all[len(all)-1]
	fmt.Print("\n| query | range |")
	for _, b := range all {
		fmt.Printf(" %d events |", b.events)
	}
	fmt.Println(" ratio | rows of sums |")
	fmt.Println("|---|---|" + strings.Repeat("---|", len(all)+2))
	var grew []string
	for _, text := range []string{"7d", "28d", "90d", "all"} {
		rows := make([]string, len(all))
		for i, b := range all {
			n, err := b.sumRows(text)
			if err != nil {
				return err
			}
			rows[i] = fmt.Sprint(n)
		}
		for i, each := range most.queries() {
			medians, err := inTurn(all, i, text)
			if err != nil {
				return err
			}
			ratio := float64(medians[most]) / float64(medians[fewest])
			fmt.Printf("| %s | %s |", each.name, text)
			for _, b := range all {
				fmt.Printf(" %.1f ms |", ms(medians[b]))
			}
			fmt.Printf(" %.2f | %s |\n", ratio, strings.Join(rows, ", "))
			if ratio > growthWithin {
				grew = append(grew, fmt.Sprintf("%s, %s: %.2f", each.name, text, ratio))
			}
		}
	}
	if len(grew) > 0 {
		return fmt.Errorf("what grew with the number of events: %s", strings.Join(grew, "; "))
	}
	return nil
}

// inTurn asks each page the same query, one after the other, times over; it gives the medians.
func inTurn(all []*bench, query int, text string) (map[*bench]time.Duration, error) {
	took := make(map[*bench][]time.Duration)
	for range times {
		for _, b := range all {
			span, err := b.span(text)
			if err != nil {
				return nil, err
			}
			began := time.Now()
			if _, err := b.queries()[query].ask(span); err != nil {
				return nil, err
			}
			took[b] = append(took[b], time.Since(began))
		}
	}
	medians := make(map[*bench]time.Duration)
	for b, each := range took {
		slices.Sort(each)
		medians[b] = each[len(each)/2]
	}
	return medians, nil
}

// sumRows counts the rows of sums that a reading of a range is made of.
func (b *bench) sumRows(text string) (n int, err error) {
	span, err := b.span(text)
	if err != nil {
		return 0, err
	}
	err = b.pool.QueryRow(b.ctx, `
		select (select count(*) from daily_pages where endpoint_id = $1 and utc_day between $2 and $3)
			+ (select count(*) from daily_blocks where endpoint_id = $1 and utc_day between $2 and $3)
			+ (select count(*) from daily_items where endpoint_id = $1 and utc_day between $2 and $3)
			+ (select count(*) from daily_traits where endpoint_id = $1 and utc_day between $2 and $3)
			+ (select count(*) from daily_left_out where endpoint_id = $1 and utc_day between $2 and $3)`,
		b.page.ID, span.From(), span.To()).Scan(&n)
	return n, err
}
