package studio

import (
	"errors"
	"log/slog"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/invalid"
	"jundle/internal/store"
)

// problem turns an error from below into an answer (RFC 9457) that says what
// happened and what to do. What nobody foresaw is logged and told in general.
func problem(err error) error {
	var refused *invalid.Error
	switch {
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("There is nothing here, or it is not yours.")
	case errors.Is(err, store.ErrAddressTaken):
		return refuse("pageAddress", "This page address is taken. Try another, perhaps with your trade or town behind it.")
	case errors.Is(err, store.ErrTagTaken):
		return refuse("tag", "This tag belongs to another source of the page, or did once. Choose another, so that figures stay apart.")
	case errors.As(err, &refused):
		var details []error
		for _, one := range refused.Problems {
			details = append(details, &huma.ErrorDetail{Location: one.Where, Message: one.Says})
		}
		return huma.Error422UnprocessableEntity(err.Error(), details...)
	}
	slog.Error("studio request failed", "error", err)
	return huma.Error500InternalServerError("Something went wrong on our side and nothing was changed. Try again in a minute.")
}

// refuse refuses one field of what was sent, with a message for the creator.
func refuse(field, says string) error {
	return huma.Error422UnprocessableEntity(says, &huma.ErrorDetail{Location: field, Message: says})
}
