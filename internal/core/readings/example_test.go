package readings_test

import (
	"fmt"
	"time"

	"jundle/internal/core/audience"
	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/core/traffic"
)

func ExampleRead() {
	events := []traffic.Event{
		at(0, 1, traffic.View, "", "card"),
		at(1, 1, traffic.Click, "dates", "card"),
		at(2, 2, traffic.View, "", ""),
	}
	span, _ := readings.ParseSpan("today", noon, noon, time.UTC)
	shown := func(int, audience.Audience) []string { return []string{"dates"} }
	got := readings.Read(span, daily.Sum(events, time.UTC, shown))
	fmt.Println(got.Total.Visits, "visits,", got.Total.Clicks, "click")
	fmt.Println("dates from the card:", got.Blocks[0].BySource["card"].Clicks)
	fmt.Println("untagged visits:", got.BySource[readings.Untagged].Visits)
	// Output:
	// 2 visits, 1 click
	// dates from the card: 1
	// untagged visits: 1
}
