package store

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Place is a place in a list in the order of time; nil is its beginning.
type Place struct {
	At time.Time
	ID uuid.UUID
}

// after limits a query to what comes after a place, by the columns of its order.
func (p *Place) after(query *gorm.DB, columns, comes string) *gorm.DB {
	if p == nil {
		return query
	}
	return query.Where("("+columns+") "+comes+" (?, ?)", p.At, p.ID)
}

// eachPart goes through rows a part at a time: each is what comes after the last row of the one before, which is zero at
// first.
func eachPart[Row any](part func(last Row) ([]Row, error), visit func(Row) error) error {
	var last Row
	for {
		rows, err := part(last)
		if err != nil || len(rows) == 0 {
			return err
		}
		for _, row := range rows {
			if err := visit(row); err != nil {
				return err
			}
		}
		last = rows[len(rows)-1]
	}
}
