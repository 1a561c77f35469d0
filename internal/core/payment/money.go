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
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"

	"jundle/internal/core/invalid"
)

// maxWhole is the largest amount that can be asked for, in whole units of its currency.
const maxWhole = 1_000_000

// ErrAmount is answered for what is no amount of money.
var ErrAmount = errors.New("this is no amount; write it in figures, like 12.50")

// ErrUnclear is answered for an amount that can be read in two ways, such as 0.500: it is asked for once more.
var ErrUnclear = errors.New("this amount can be read in two ways; write it with two figures behind the point, like 12.50")

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

// Parse reads an amount as people type it on a page in a language: with a point or a comma before at most as many
// figures as the currency has, and with blanks, points, commas or apostrophes between groups of three. What stands
// before three figures is read as the language writes numbers (Unicode CLDR). Errors: ErrAmount, ErrUnclear,
// ErrTooMuch and, for nothing, ErrTooLittle.
func Parse(text, code, tongue string) (Money, error) {
	digits, known := Digits(code)
	if !known || len(text) > 40 {
		return Money{}, ErrAmount
	}
	whole, part, err := split(invalid.OneLine(text), digits, groupSign(tongue))
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

// groupSign is what a language writes between groups of three, where that is a point or a comma; else empty.
func groupSign(tongue string) string {
	written := message.NewPrinter(language.Make(tongue)).Sprint(number.Decimal(123456))
	for _, sign := range []string{".", ","} {
		if strings.Contains(written, sign) {
			return sign
		}
	}
	return ""
}

// split takes an amount apart into the figures before and behind its point, those behind filled up. groups is what
// the language writes between groups.
func split(text string, digits int, groups string) (whole, part string, err error) {
	text = strings.NewReplacer(" ", "", " ", "", " ", "", "'", "", "’", "").Replace(text)
	whole = text
	if at := strings.LastIndexAny(text, ".,"); at >= 0 {
		before, sign, behind := text[:at], text[at:at+1], text[at+1:]
		isOnly := !strings.ContainsAny(before, ".,")
		// Three figures behind the last sign are a group where more than one says so, or the language does.
		isGroup := len(behind) == 3 && (strings.Contains(before, sign) || isOnly && sign == groups && digits < 3)
		switch {
		case len(behind) == 3 && isOnly && (isGroup && strings.HasPrefix(before, "0") || !isGroup && (digits < 3 || sign == groups)):
			return "", "", ErrUnclear
		case !isGroup:
			whole, part = before, behind
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

// Written is the amount as somebody types it in a language, such as 12,50.
func (m Money) Written(tongue string) string {
	if groupSign(tongue) == "," || groupSign(tongue) == "" && !usesComma(tongue) {
		return m.Plain()
	}
	return strings.Replace(m.Plain(), ".", ",", 1)
}

// usesComma tells whether a language writes a comma before the figures behind the whole (Unicode CLDR).
func usesComma(tongue string) bool {
	return strings.Contains(message.NewPrinter(language.Make(tongue)).Sprint(number.Decimal(1.5)), ",")
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
