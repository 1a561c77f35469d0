package studio

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/core/invalid"
	"jundle/internal/store"
)

// mostErrors is how many things that are wrong one answer names.
const mostErrors = 20

// An answer says what is wrong and where, and never repeats what was sent: that
// may be a password, and it may be long.
func init() {
	huma.NewError = func(status int, says string, errs ...error) huma.StatusError {
		answer := &huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: says}
		for _, err := range errs {
			if len(answer.Errors) == mostErrors {
				break
			}
			if err != nil {
				answer.Errors = append(answer.Errors, detailOf(err))
			}
		}
		return answer
	}
}

func detailOf(err error) *huma.ErrorDetail {
	const longest = 300
	detail := &huma.ErrorDetail{Message: "this cannot be read"}
	var detailed huma.ErrorDetailer
	if errors.As(err, &detailed) {
		given := detailed.ErrorDetail()
		detail.Message, detail.Location = cutBytes(given.Message, longest), cutBytes(given.Location, longest)
	}
	return detail
}

// sentence is an error as it is said to a person.
func sentence(err error) string {
	text := err.Error()
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

func cutBytes(text string, most int) string {
	if len(text) <= most {
		return text
	}
	return strings.ToValidUTF8(text[:most], "") + "…"
}

// problem turns an error from below into an answer (RFC 9457) that says what
// happened and what to do. What nobody foresaw is logged and told in general.
func problem(err error) error {
	var refused *invalid.Error
	var full *store.QuotaError
	switch {
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("There is nothing here, or it is not yours.")
	case errors.Is(err, store.ErrAddressTaken):
		return refuse("pageAddress", "This page address is taken. Try another, perhaps with your trade or town behind it.")
	case errors.Is(err, store.ErrTagTaken):
		return refuse("tag", "This tag belongs to another source of the page, or did once. Choose another, so that figures stay apart.")
	case errors.As(err, &full):
		return refuse("quota", full.Error())
	case errors.As(err, &refused):
		var details []error
		for _, one := range refused.Problems {
			details = append(details, &huma.ErrorDetail{Location: one.Where, Message: one.Message})
		}
		return huma.Error422UnprocessableEntity(refused.Brief(), details...)
	case errors.Is(err, context.Canceled):
		return huma.NewError(http.StatusServiceUnavailable, "This was called off. Nothing was changed.")
	}
	slog.Error("studio request failed", "error", err)
	return huma.Error500InternalServerError("Something went wrong on our side and nothing was changed. Try again in a minute.")
}

// problemOrNil is problem for what may have gone well.
func problemOrNil(err error) error {
	if err == nil {
		return nil
	}
	return problem(err)
}

// refuse refuses one field of what was sent, with a message for the creator.
func refuse(field, says string) error {
	return huma.Error422UnprocessableEntity(says, &huma.ErrorDetail{Location: field, Message: says})
}
