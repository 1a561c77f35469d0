package page

import "reflect"

// SameAs tells whether two documents are the same, whatever takes their place for a
// while, what is tried on them and whether they rest.
func SameAs(first, second Document) bool {
	first.Takeovers, second.Takeovers = nil, nil
	first.Resting, second.Resting = nil, nil
	first.Trial, second.Trial = nil, nil
	first.swapped, second.swapped = nil, nil
	return reflect.DeepEqual(first, second)
}

// ComparedRow is a block of two documents beside each other. Where it stands at
// another place in the second, it comes twice: once for each.
type ComparedRow struct {
	Key string `json:"key"`
	// First and Second tell in which of the documents it stands here.
	First  bool `json:"first" doc:"It stands here in the first."`
	Second bool `json:"second" doc:"It stands here in the second."`
	Same   bool `json:"same" doc:"It is the same in both."`
	Moved  bool `json:"moved,omitempty" doc:"It is in both, at different places."`
}

// Compare lines up the blocks of two documents, row by row: as many as keep their
// order stand beside each other.
func Compare(first, second Document) []ComparedRow {
	a, b := first.Blocks, second.Blocks
	// longest[i][j] is how many rows of a[i:] and b[j:] can stand beside each other.
	longest := make([][]int, len(a)+1)
	for i := range longest {
		longest[i] = make([]int, len(b)+1)
	}
	for i := len(a) - 1; i >= 0; i-- {
		for j := len(b) - 1; j >= 0; j-- {
			if a[i].Key == b[j].Key {
				longest[i][j] = longest[i+1][j+1] + 1
			} else {
				longest[i][j] = max(longest[i+1][j], longest[i][j+1])
			}
		}
	}
	rows := make([]ComparedRow, 0, max(len(a), len(b)))
	for i, j := 0, 0; i < len(a) || j < len(b); {
		switch {
		case i < len(a) && j < len(b) && a[i].Key == b[j].Key:
			rows = append(rows, ComparedRow{Key: a[i].Key, First: true, Second: true, Same: reflect.DeepEqual(a[i], b[j])})
			i, j = i+1, j+1
		case j == len(b) || i < len(a) && longest[i+1][j] >= longest[i][j+1]:
			other, moved := second.Find(a[i].Key)
			rows = append(rows, ComparedRow{Key: a[i].Key, First: true, Same: moved && reflect.DeepEqual(a[i], other), Moved: moved})
			i++
		default:
			other, moved := first.Find(b[j].Key)
			rows = append(rows, ComparedRow{Key: b[j].Key, Second: true, Same: moved && reflect.DeepEqual(b[j], other), Moved: moved})
			j++
		}
	}
	return rows
}
