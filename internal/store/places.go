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
