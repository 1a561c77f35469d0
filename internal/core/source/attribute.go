// Package source decides where a visit came from. It weighs the evidence a
// visit brings against the sources of a page and names the first kind that
// answers; so far that is the tag in the entry address.
package source

// By is the kind of evidence an attribution rests on.
type By string

const (
	// ByTag rests on the tag in the entry address, present or past.
	ByTag By = "tag"
	// Untagged means that no evidence answered. It is never called direct:
	// nobody knows that it was.
	Untagged By = "untagged"
)

// Source is a place where a page's address has been put, as far as attribution
// needs to know it.
type Source struct {
	ID string
	// Tags are all codes the source ever had, in lower case. Old posts and
	// printed cards keep carrying past ones.
	Tags []string
}

// Evidence is what a visit brings. All of it is kept with the visit.
type Evidence struct {
	// Tag is the code in the entry address, in lower case; empty when the bare
	// address was opened.
	Tag string
}

// Attribution says which source a visit belongs to and why.
type Attribution struct {
	// SourceID is empty when the visit is untagged.
	SourceID string
	By       By
}

// Attribute names the source the evidence points to. A tag that is on none of
// the sources leaves the visit untagged.
func Attribute(evidence Evidence, sources []Source) Attribution {
	if evidence.Tag != "" {
		for _, source := range sources {
			for _, tag := range source.Tags {
				if tag == evidence.Tag {
					return Attribution{SourceID: source.ID, By: ByTag}
				}
			}
		}
	}
	return Attribution{By: Untagged}
}
