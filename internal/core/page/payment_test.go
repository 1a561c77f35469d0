package page_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/page"
	"jundle/internal/core/payment"
)

func tip() *page.Payment {
	return &page.Payment{Title: "A tip", Currency: "EUR", Amounts: []int64{300, 500}, Own: true}
}

func TestWhatAVisitorTypesGoesBeforeWhatIsChosen(t *testing.T) {
	for _, row := range []struct {
		choice, own string
		minor       int64
		err         error
	}{
		{"500", "", 500, nil},
		{"500", "7,50", 750, nil},
		{"own", "7.50", 750, nil},
		{"own", "", 0, payment.ErrAmount},
		{"400", "", 0, payment.ErrAmount},
		{"", "", 0, payment.ErrAmount},
		{"500", "much", 0, payment.ErrAmount},
	} {
		money, err := tip().Chosen(row.choice, row.own, "en")
		assert.ErrorIs(t, err, row.err, row)
		assert.Equal(t, row.minor, money.Minor, row)
	}
	price := &page.Payment{Title: "A bowl", Currency: "EUR", Amounts: []int64{2450}}
	money, err := price.Chosen("2450", "1", "en")
	require.NoError(t, err)
	assert.Equal(t, int64(2450), money.Minor, "a price is not the visitor's to choose")
	_, err = price.Chosen("1", "", "en")
	assert.ErrorIs(t, err, payment.ErrAmount)
}

func TestAPaymentThatCannotBePaidIsRefused(t *testing.T) {
	for name, wrong := range map[string]func(*page.Payment){
		"no currency code":   func(p *page.Payment) { p.Currency = "EUX" },
		"Give an amount":     func(p *page.Payment) { p.Amounts, p.Own = nil, false },
		"cannot be paid":     func(p *page.Payment) { p.Amounts = []int64{0} },
		"less than can be":   func(p *page.Payment) { p.Amounts = []int64{-500} },
		"more than can be":   func(p *page.Payment) { p.Amounts = []int64{1 << 60} },
		"6 amounts to choos": func(p *page.Payment) { p.Amounts = []int64{1, 2, 3, 4, 5, 6, 7} },
	} {
		content := tip()
		wrong(content)
		doc := page.New()
		doc.Header.Name, doc.Blocks = "Quarrow Clay", []page.Block{{Key: "tip1", Kind: "payment", Shown: true, Payment: content}}
		_, err := page.Tidy(doc)
		assert.ErrorContains(t, err, name)
	}
	doc := page.New()
	content := tip()
	content.Amounts, content.Currency = []int64{500, 300, 500}, "eur"
	doc.Header.Name, doc.Blocks = "Quarrow Clay", []page.Block{{Key: "tip1", Kind: "payment", Shown: true, Payment: content}}
	tidy, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Equal(t, []int64{300, 500}, tidy.Blocks[0].Payment.Amounts, "in order, each once")
	assert.Equal(t, "EUR", tidy.Blocks[0].Payment.Currency)
}

func TestNoGateStandsBeforeAFormThatIsOpenOnThePage(t *testing.T) {
	doc := page.New()
	doc.Header.Name = "Quarrow Clay"
	gate := &page.Gate{Kind: "notice", Text: "Read this first."}
	doc.Blocks = []page.Block{
		{Key: "tip1", Kind: "payment", Shown: true, Payment: tip(), Gate: gate},
		{Key: "letter01", Kind: "signup", Shown: true, SignUp: &page.SignUp{Title: "The studio letter"}, Gate: gate},
		{Key: "talk01", Kind: "booking", Shown: true, Booking: &page.Booking{Title: "A talk", Minutes: 45, Ahead: 7}, Gate: gate},
	}
	tidied, err := page.Tidy(doc)
	require.NoError(t, err)
	assert.Equal(t, []bool{false, false, true}, []bool{
		tidied.Blocks[0].Gate != nil, tidied.Blocks[1].Gate != nil, tidied.Blocks[2].Gate != nil,
	}, "times lead to their form, and a gate can stand before that")
}
