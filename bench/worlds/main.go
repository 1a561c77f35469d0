// Command worlds holds readings against made-up worlds whose true values are known, and prints the table
// that stands in docs/numbers.md. It fails when something does not hold. `make worlds` runs it; with a name, such as
// trials, it goes through those worlds only; with needs it prints what there has to be before a change is found.
package main

import (
	"fmt"
	"os"
	"slices"

	"jundle/internal/worlds"
)

// many is how many worlds of each kind are gone through.
const many = 400

func main() {
	if slices.Equal(os.Args[1:], []string{"needs"}) {
		needs()
		return
	}
	fmt.Println("| what | held | share (95 %) | has to |")
	fmt.Println("|---|---|---|---|")
	failed := false
	for _, finding := range worlds.All(many, os.Args[1:]...) {
		fmt.Println(finding)
		failed = failed || !finding.Holds(false)
	}
	if failed {
		fmt.Fprintln(os.Stderr, "worlds: not all of it held")
		os.Exit(1)
	}
}

// needs prints how often changes are found on pages of several sizes.
func needs() {
	fmt.Println("| what is compared | visitors a day | visits +30 % | +50 % | twice | a button of 12 in 100: 15 | 18 | 24 |")
	fmt.Println("|---|---|---|---|---|---|---|---|")
	for _, row := range worlds.Needs(many / 2) {
		fmt.Println(row)
	}
}
