// Package payment holds the rules for money that visitors pay on a page: how amounts are read and
// shown, and what follows from what a payment service says. Money is whole numbers of the smallest unit
// of its currency (ISO 4217), never a fraction.
package payment

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/bojanz/currency"

	"jundle/internal/core/invalid"
)

// maxWhole is the largest amount that can be asked for, in whole units of its currency.
const maxWhole = 1_000_000

// ErrAmount is answered for what is no amount of money.
var ErrAmount = errors.New("this is no amount; write it in figures, like 12.50")

// ErrTooMuch and ErrTooLittle are answered for what is more or less than can be paid.
var (
	ErrTooMuch   = errors.New("this is more than can be paid here")
	ErrTooLittle = errors.New("this is less than can be paid here")
)

// Money is an amount of a currency.
type Money struct {
	Minor    int64  `json:"minor" doc:"In the smallest unit of the currency, such as cents."`
	Currency string `json:"currency" doc:"ISO 4217 code."`
}

// Digits is how many figures an amount of a currency has behind its point (ISO 4217); false for what is no
// currency.
func Digits(code string) (int, bool) {
	digits, known := currency.GetDigits(code)
	return int(digits), known
}

// most is the largest amount of a currency.
func most(code string) int64 {
	digits, _ := Digits(code)
	largest := int64(maxWhole)
	for range digits {
		largest *= 10
	}
	return largest
}

// Parse reads an amount as people type it: with a point or a comma before at most as many figures as the
// currency has, and with blanks, points, commas or apostrophes between groups of three. Errors: ErrAmount,
// ErrTooMuch and, for nothing, ErrTooLittle.
func Parse(text, code string) (Money, error) {
	digits, known := Digits(code)
	if !known || len(text) > 40 {
		return Money{}, ErrAmount
	}
	whole, part, err := split(invalid.OneLine(text), digits)
	if err != nil {
		return Money{}, err
	}
	if len(whole) > 9 {
		return Money{}, ErrTooMuch
	}
	minor, err := strconv.ParseInt(whole+part, 10, 64)
	switch {
	case err != nil:
		return Money{}, ErrAmount
	case minor == 0:
		return Money{}, ErrTooLittle
	case minor > most(code):
		return Money{}, ErrTooMuch
	}
	return Money{minor, code}, nil
}

// split takes an amount apart into the figures before and behind its point, those behind filled up.
func split(text string, digits int) (whole, part string, err error) {
	text = strings.NewReplacer(" ", "", " ", "", " ", "", "'", "", "’", "").Replace(text)
	whole = text
	if at := strings.LastIndexAny(text, ".,"); at >= 0 {
		behind := text[at+1:]
		// Three figures behind the last sign are a group, where the currency has fewer.
		isGroup := len(behind) == 3 && digits < 3
		if !isGroup {
			whole, part = text[:at], behind
		}
	}
	if whole, err = ungroup(whole); err != nil {
		return "", "", err
	}
	if len(part) > digits || !isFigures(part) {
		return "", "", ErrAmount
	}
	return whole, part + strings.Repeat("0", digits-len(part)), nil
}

// ungroup takes the signs between groups of three out.
func ungroup(text string) (string, error) {
	groups := strings.FieldsFunc(text, func(r rune) bool { return r == '.' || r == ',' })
	if strings.ContainsAny(text, ".,") && (len(groups) < 2 || strings.Contains(text, ".") && strings.Contains(text, ",")) {
		return "", ErrAmount
	}
	for i, group := range groups {
		if !isFigures(group) || i > 0 && len(group) != 3 || i == 0 && len(groups) > 1 && len(group) > 3 {
			return "", ErrAmount
		}
	}
	whole := strings.Join(groups, "")
	if strings.Count(text, ".")+strings.Count(text, ",") != max(len(groups)-1, 0) {
		return "", ErrAmount
	}
	if whole == "" {
		whole = "0"
	}
	return whole, nil
}

func isFigures(text string) bool { return strings.Trim(text, "0123456789") == "" }

// Check holds money that was not typed against the rules: ErrAmount, ErrTooLittle and ErrTooMuch.
func (m Money) Check() error {
	switch _, known := Digits(m.Currency); {
	case !known:
		return ErrAmount
	case m.Minor <= 0:
		return ErrTooLittle
	case m.Minor > most(m.Currency):
		return ErrTooMuch
	}
	return nil
}

// Plain is the amount with a point, such as 12.50, as tables and fields have it.
func (m Money) Plain() string {
	digits, _ := Digits(m.Currency)
	sign, minor := "", m.Minor
	if minor < 0 {
		sign, minor = "-", -minor
	}
	text := fmt.Sprintf("%0*d", digits+1, minor)
	if digits == 0 {
		return sign + text
	}
	return sign + text[:len(text)-digits] + "." + text[len(text)-digits:]
}

// In is the money as a language writes it. A round sum is written without its zeros.
func (m Money) In(language string) string {
	amount, err := currency.NewAmountFromInt64(m.Minor, m.Currency)
	if err != nil {
		return m.Plain() + " " + m.Currency
	}
	formatter := currency.NewFormatter(currency.NewLocale(language))
	if amount.RoundTo(0, currency.RoundDown).Equal(amount) {
		formatter.MinDigits = 0
	}
	return formatter.Format(amount)
}
