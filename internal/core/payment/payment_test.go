package payment_test

import (
	"math/rand"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jundle/internal/core/payment"
)

func TestAmountsAreReadAsPeopleTypeThem(t *testing.T) {
	// How many figures a currency has is by ISO 4217: two of EUR and USD, none of JPY, three of KWD.
	for _, row := range []struct {
		text, currency string
		minor          int64
	}{
		{"5", "EUR", 500},
		{"5.5", "EUR", 550},
		{"5,50", "EUR", 550},
		{" 12.50 ", "EUR", 1250},
		{"0.01", "EUR", 1},
		{".50", "EUR", 50},
		{"1,250", "USD", 125000},
		{"1.250,50", "EUR", 125050},
		{"1,250.50", "USD", 125050},
		{"1 250,50", "EUR", 125050},
		{"1’250.50", "CHF", 125050},
		{"1,000,000", "USD", 100000000},
		{"500", "JPY", 500},
		{"1,500", "JPY", 1500},
		{"1.5", "KWD", 1500},
		{"1.234", "KWD", 1234},
		{"5.", "EUR", 500},
	} {
		read, err := payment.Parse(row.text, row.currency, "en")
		require.NoError(t, err, "%q %s", row.text, row.currency)
		assert.Equal(t, payment.Money{Minor: row.minor, Currency: row.currency}, read, row.text)
	}
	for text, want := range map[string]error{
		"": payment.ErrTooLittle, "0": payment.ErrTooLittle, "0,00": payment.ErrTooLittle, "-5": payment.ErrAmount, "5 EUR": payment.ErrAmount,
		"5.5555": payment.ErrAmount, "1,2,3": payment.ErrAmount, "12,34,567": payment.ErrAmount, "1e5": payment.ErrAmount,
		"٥":          payment.ErrAmount,
		"1000000.01": payment.ErrTooMuch, "99999999999999999999": payment.ErrTooMuch, "0x10": payment.ErrAmount, "..": payment.ErrAmount,
		"1..000": payment.ErrAmount, "NaN": payment.ErrAmount, "1,000,000,000": payment.ErrTooMuch, strings.Repeat("1", 50): payment.ErrAmount,
	} {
		_, err := payment.Parse(text, "EUR", "en")
		assert.ErrorIs(t, err, want, "%q", text)
	}
	_, err := payment.Parse("5", "XYZ", "en")
	assert.ErrorIs(t, err, payment.ErrAmount)
	_, err = payment.Parse("5.5", "JPY", "en")
	assert.ErrorIs(t, err, payment.ErrAmount, "there is no part of a yen")
}

// How numbers are grouped and parted is Unicode CLDR's, as golang.org/x/text carries it.
func TestAnAmountThatCanBeReadInTwoWaysIsAskedForAgain(t *testing.T) {
	for _, row := range []struct {
		text, currency, language string
		minor                    int64 // 0 where it is asked for again
	}{
		{"0.500", "EUR", "en", 0},
		{"0.001", "EUR", "de", 0},
		{"0,500", "EUR", "de", 0},
		{"1.000", "EUR", "de", 100000},
		{"1.000", "EUR", "en", 0},
		{"1,000", "EUR", "en", 100000},
		{"1,000", "EUR", "de", 0},
		{"1.000", "EUR", "fr", 0},
		{"1 000", "EUR", "fr", 100000},
		{"1.000.000", "EUR", "en", 100000000},
		{"1.234,50", "EUR", "en", 123450},
		{"1.500", "KWD", "en", 1500},
		{"1.500", "KWD", "de", 0},
		{"1,500", "KWD", "de", 1500},
		{"12.50", "EUR", "de", 1250},
		{"12,50", "EUR", "en", 1250},
	} {
		read, err := payment.Parse(row.text, row.currency, row.language)
		if row.minor == 0 {
			assert.ErrorIs(t, err, payment.ErrUnclear, "%s %s in %s", row.text, row.currency, row.language)
			continue
		}
		require.NoError(t, err, "%s %s in %s", row.text, row.currency, row.language)
		assert.Equal(t, row.minor, read.Minor, "%s %s in %s", row.text, row.currency, row.language)
	}
	for language, want := range map[string]string{"en": "12.50", "de": "12,50", "fr": "12,50", "ja": "12.50"} {
		assert.Equal(t, want, payment.Money{Minor: 1250, Currency: "EUR"}.Written(language), language)
	}
}

func FuzzParse(f *testing.F) {
	for _, seed := range []string{"5", "1.250,50", ".", "1’250.50", "0", "99999999999", "1,2,3"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, code := range []string{"EUR", "JPY", "KWD"} {
			read, err := payment.Parse(text, code, "en")
			if err != nil {
				continue
			}
			require.NoError(t, read.Check())
			again, err := payment.Parse(read.Plain(), code, "en")
			require.NoError(t, err)
			assert.Equal(t, read, again, "what is shown plainly is read as the same")
		}
	})
}

func TestMoneyIsWrittenAsALanguageHasIt(t *testing.T) {
	// Source: CLDR, by the library of currencies.
	for _, row := range []struct {
		minor              int64
		currency, language string
		want               string
	}{
		{500, "EUR", "en", "€5"},
		{1250, "EUR", "de", "12,50\u00a0€"},
		{1250, "USD", "en", "$12.50"},
		{500, "JPY", "ja", "￥500"},
		{1500, "KWD", "en", "KWD\u00a01.500"},
	} {
		assert.Equal(t, row.want, payment.Money{Minor: row.minor, Currency: row.currency}.In(row.language))
	}
	assert.Equal(t, "0.05", payment.Money{Minor: 5, Currency: "EUR"}.Plain())
	assert.Equal(t, "-12.50", payment.Money{Minor: -1250, Currency: "EUR"}.Plain())
	assert.Equal(t, "500", payment.Money{Minor: 500, Currency: "JPY"}.Plain())
	assert.Equal(t, "1.500", payment.Money{Minor: 1500, Currency: "KWD"}.Plain())
}

var begun = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

func euros(minor int64) payment.Money { return payment.Money{Minor: minor, Currency: "EUR"} }

func notice(happened payment.Happened, minutes int, minor int64) payment.Notice {
	return payment.Notice{Happened: happened, At: begun.Add(time.Duration(minutes) * time.Minute), Money: euros(minor)}
}

func TestAPaymentStandsAsItsNoticesSay(t *testing.T) {
	for _, row := range []struct {
		name    string
		notices []payment.Notice
		state   payment.State
		kept    int64
	}{
		{"nobody has said", nil, payment.Begun, 0},
		{"paid", []payment.Notice{notice(payment.Paid, 1, 500)}, payment.IsPaid, 500},
		{"failed", []payment.Notice{notice(payment.Failed, 1, 500)}, payment.IsFailed, 0},
		{
			"failed, and paid at the second try",
			[]payment.Notice{notice(payment.Failed, 1, 500), notice(payment.Paid, 2, 500)},
			payment.IsPaid, 500,
		},
		{"part given back", []payment.Notice{notice(payment.Paid, 1, 500), notice(payment.Refunded, 2, 200)}, payment.PartGivenBack, 300},
		{"all given back", []payment.Notice{
			notice(payment.Paid, 1, 500), notice(payment.Refunded, 2, 200), notice(payment.Refunded, 3, 500),
		}, payment.GivenBack, 0},
		{"the refund is told of first", []payment.Notice{notice(payment.Refunded, 2, 500)}, payment.Begun, 0},
	} {
		record := payment.Record{Asked: euros(500)}
		for _, each := range row.notices {
			var err error
			record, err = record.After(each)
			require.NoError(t, err, row.name)
		}
		assert.Equal(t, row.state, record.State(), row.name)
		assert.Equal(t, row.kept, record.Kept(), row.name)
	}
}

func TestANoticeOfOtherMoneyChangesNothing(t *testing.T) {
	record, err := payment.Record{Asked: euros(500)}.After(notice(payment.Paid, 1, 500))
	require.NoError(t, err)
	dollars := notice(payment.Paid, 2, 500)
	dollars.Money.Currency = "USD"
	for _, other := range []payment.Notice{
		notice(payment.Paid, 2, 50), notice(payment.Paid, 2, 5000), dollars, notice(payment.Refunded, 2, 501), notice(payment.Refunded, 2, 0),
		notice(payment.Refunded, 2, -500),
		{Happened: payment.Paid, Money: euros(500)},
	} {
		after, err := record.After(other)
		require.ErrorIs(t, err, payment.ErrOther)
		assert.Equal(t, record, after)
	}
	_, err = record.After(notice("payment.disputed", 2, 500))
	assert.ErrorIs(t, err, payment.ErrNotice)
}

func TestNeitherOrderNorRepetitionOfNoticesMatters(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kinds := rapid.SampledFrom([]payment.Happened{payment.Paid, payment.Failed, payment.Refunded})
		var notices []payment.Notice
		for range rapid.IntRange(1, 6).Draw(t, "notices") {
			kind, minor := kinds.Draw(t, "kind"), int64(500)
			if kind == payment.Refunded {
				minor = rapid.Int64Range(1, 500).Draw(t, "refunded")
			}
			notices = append(notices, notice(kind, rapid.IntRange(0, 5).Draw(t, "minute"), minor))
		}
		fold := func(all []payment.Notice) payment.Record {
			record := payment.Record{Asked: euros(500)}
			for _, each := range all {
				record, _ = record.After(each)
			}
			return record
		}
		want := fold(notices)
		shuffled := append(append([]payment.Notice{}, notices...), notices[:rapid.IntRange(0, len(notices)).Draw(t, "again")]...)
		mix := rand.New(rand.NewSource(rapid.Int64().Draw(t, "seed")))
		mix.Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
		if got := fold(shuffled); got.State() != want.State() || got.Kept() != want.Kept() || got.Refunded != want.Refunded {
			t.Fatalf("%+v and %+v", want, got)
		}
	})
}
