// Package team says who may do what in a workspace that several people share. It knows roles; who
// somebody is, and what they are doing, is for others to find out.
package team

import "slices"

// Role is what somebody may do in a workspace. Each may also do what those below it may.
type Role string

// Roles, the one that may most first.
const (
	// Runs may do everything: members, settings of the workspace, erasing.
	Runs Role = "runs"
	// Edits may change and publish pages, the Shelf and sources.
	Edits Role = "edits"
	// Reads may look at figures, and change nothing.
	Reads Role = "reads"
)

// Roles are all there are, the one that may most first.
var Roles = []Role{Runs, Edits, Reads}

// May tells whether whoever has a role may do what another is needed for. Nobody may do what an
// unknown role is needed for, and whoever has one may do nothing.
func (r Role) May(needed Role) bool {
	have, need := slices.Index(Roles, r), slices.Index(Roles, needed)
	return have >= 0 && need >= 0 && have <= need
}
