// Package core is the root of the rules and the arithmetic. Each rule lives in
// a package below it: what may be linked (address), what a page holds (page),
// where a visit came from (source), what counts (traffic), how sure a figure is
// (stats) and what the figures are (readings).
//
// Nothing below core reads a clock, draws a random number, opens a connection
// or knows of HTTP and the database: time, randomness and data come in as
// arguments. A test in this package walks the imports and fails otherwise.
package core
