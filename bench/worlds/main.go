// Command worlds holds readings against made-up worlds whose true values are known, and prints the table
// that stands in docs/numbers.md. It fails when something does not hold. `make worlds` runs it; with a name, such as
// trials, it goes through those worlds only.
package main

import (
	"fmt"
	"os"

	"jundle/internal/worlds"
)

// many is how many worlds of each kind are gone through.
const many = 400

func main() {
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
