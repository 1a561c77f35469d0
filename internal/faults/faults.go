// Package faults holds the tests that break what stands between a visitor and
// the figures, while visitors come: the process is killed, the database stopped,
// the disk filled, a node of the log's cluster killed. They run the real program.
package faults
