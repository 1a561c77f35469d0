package studio_test

import (
	"encoding/csv"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/payment"
	"jundle/internal/store"
)

func newPaymentService() fields {
	return fields{"address": "https://pay.example/v1", "token": "till-1", "secret": "whsec_cXVhcnJvdyBjbGF5IHRpbGwgb2YgdGhlIHRlc3RzISE="}
}

// paid has somebody pay so many cents on a page of a workspace.
func (b *bench) paid(workspace, pageID uuid.UUID, minor int64) store.Payment {
	b.t.Helper()
	service, err := b.store.PaymentService(b.t.Context(), workspace)
	require.NoError(b.t, err)
	one, err := b.store.BeginPayment(b.t.Context(), store.Payment{
		WorkspaceID: workspace, ServiceID: service.ID, PageID: &pageID, PageName: "Quarrow Clay", Block: "tip1", BlockTitle: "=A tip",
		Edition: 1, Source: "host:kiln.example", Language: "en", Amount: minor, Currency: "EUR", Word: "=HYPERLINK(1)", BegunAt: b.now,
		Checkout: "checkout-1",
	})
	require.NoError(b.t, err)
	one, err = b.store.TakePaymentNotice(b.t.Context(), service.ID, one.ID, payment.Notice{
		Happened: payment.Paid, At: b.now.Add(time.Minute), Money: one.Money(),
	})
	require.NoError(b.t, err)
	return one
}

func TestIncomeIsSummedUpByCurrencyAndBySource(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	member, err := b.store.MemberByEmail(t.Context(), ilse.name+"@quarrow.example")
	require.NoError(t, err)
	page := uuid.MustParse(ilse.ids["page"])
	one := b.paid(member.WorkspaceID, page, 700)
	service, err := b.store.PaymentService(t.Context(), member.WorkspaceID)
	require.NoError(t, err)
	_, err = b.store.TakePaymentNotice(t.Context(), service.ID, one.ID, payment.Notice{
		Happened: payment.Refunded, At: b.now.Add(time.Hour), Money: payment.Money{Minor: 200, Currency: "EUR"},
	})
	require.NoError(t, err)
	b.now = b.now.Add(2 * time.Hour)

	income := ilse.send("GET", "/api/income", nil).body
	taken := income["taken"].([]any)
	require.Len(t, taken, 1)
	assert.Equal(t, "€10", taken[0].(map[string]any)["shown"], "5 and 7, less 2 that were given back")
	assert.Contains(t, income["service"].(map[string]any)["notices"], "https://pages.example/-/payments/")
	assert.NotContains(t, income["service"], "token", "what lets in is never shown again")

	read := ilse.send("GET", "/api/pages/"+ilse.ids["page"]+"/readings?range=7d", nil).body["taken"].([]any)
	require.Len(t, read, 1)
	assert.Equal(t, "host:kiln.example", read[0].(map[string]any)["source"])
	assert.Equal(t, 1000.0, read[0].(map[string]any)["minor"])
	assert.Empty(t, ilse.send("GET", "/api/pages/"+ilse.ids["page"]+"/readings?range=2026-05-01..2026-05-07", nil).body["taken"])

	listed := ilse.send("GET", "/api/payments", nil).list
	require.Len(t, listed, 2)
	assert.Equal(t, "kiln.example", listed[0]["source"])
	states := []any{listed[0]["state"], listed[1]["state"]}
	assert.ElementsMatch(t, []any{"paid", "part_given_back"}, states)
}

func TestThePaymentTableIsNoProgram(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	got := ilse.get("/api/payments.csv")
	rows, err := csv.NewReader(strings.NewReader(got)).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, []string{"5.00", "0.00", "EUR"}, rows[1][4:7])
	assert.Equal(t, "'=A tip", rows[1][7])
	assert.Equal(t, "'=HYPERLINK(1)", rows[1][10])
}

// get reads what is at a path as text.
func (b *browser) get(path string) string {
	b.t.Helper()
	got, err := b.client.Get(b.server.URL + path)
	require.NoError(b.t, err)
	defer got.Body.Close()
	require.Equal(b.t, http.StatusOK, got.StatusCode)
	text, err := io.ReadAll(got.Body)
	require.NoError(b.t, err)
	return string(text)
}

func TestMoreThanIsLeftIsNotGivenBack(t *testing.T) {
	b := open(t)
	ilse, jo := b.owner(), b.owner()
	back := "/api/payments/" + ilse.ids["payment"] + "/back"
	refused := ilse.send("POST", back, fields{"minor": 501})
	assert.Contains(t, refused.body["detail"], "more than is left of it")
	unreached := ilse.send("POST", back, fields{"minor": 500})
	assert.Equal(t, http.StatusUnprocessableEntity, unreached.status, "the service is not there")
	assert.Contains(t, unreached.body["detail"], "Nothing was given back.")
	assert.Equal(t, http.StatusNotFound, jo.send("POST", back, fields{"minor": 1}).status)
	ilse.send("PUT", "/api/payment-service", with(newPaymentService(), "address", "https://other.example"))
	moved := ilse.send("POST", back, fields{"minor": 100})
	assert.Contains(t, moved.body["detail"], "Another refund of this payment is on its way", "the first may have arrived all the same")
	b.now = b.now.Add(time.Hour)
	moved = ilse.send("POST", back, fields{"minor": 100})
	assert.Contains(t, moved.body["detail"], "Nothing was given back.", "it is asked of the service that it was paid by, which is not there")
}

func TestRefundsAtOnceComeToNoMoreThanWasPaid(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	member, err := b.store.MemberByEmail(t.Context(), ilse.name+"@quarrow.example")
	require.NoError(t, err)
	one := b.paid(member.WorkspaceID, uuid.MustParse(ilse.ids["page"]), 500)
	var asked sync.WaitGroup
	var mu sync.Mutex
	begun := map[int64]bool{}
	for i := range 20 {
		asked.Go(func() {
			minor := int64(300 + i%4)
			_, err := b.store.BeginRefund(t.Context(), member.WorkspaceID, one.ID, minor, b.now)
			if err != nil {
				assert.ErrorIs(t, err, store.ErrRefunding)
				return
			}
			mu.Lock()
			defer mu.Unlock()
			begun[minor] = true
		})
	}
	asked.Wait()
	assert.Len(t, begun, 1, "one amount, however often")
	for minor := range begun {
		_, err = b.store.TakePaymentNotice(t.Context(), one.ServiceID, one.ID, payment.Notice{
			Happened: payment.Refunded, At: b.now, Money: payment.Money{Minor: minor, Currency: "EUR"},
		})
		require.NoError(t, err)
	}
	_, err = b.store.BeginRefund(t.Context(), member.WorkspaceID, one.ID, 300, b.now)
	require.ErrorIs(t, err, payment.ErrTooMuch)
	_, err = b.store.BeginRefund(t.Context(), member.WorkspaceID, one.ID, 100, b.now)
	assert.NoError(t, err, "once it is confirmed, what is left can be refunded")
}

func TestAPaymentServiceIsRefusedInWords(t *testing.T) {
	b := open(t)
	ilse := b.owner()
	for field, value := range map[string]string{"address": "http://pay.example", "token": "two words", "secret": "whsec_short"} {
		refused := ilse.send("PUT", "/api/payment-service", with(with(newPaymentService(), "address", "https://new.example"), field, value))
		assert.Equal(t, http.StatusUnprocessableEntity, refused.status, field)
		assert.Equal(t, field, refused.body["errors"].([]any)[0].(map[string]any)["location"])
	}
	kept := ilse.send("PUT", "/api/payment-service", fields{"address": "https://pay.example/v1", "token": "", "secret": ""})
	assert.Equal(t, http.StatusOK, kept.status, "left empty, they stay")
	assert.Equal(t, http.StatusNoContent, ilse.send("DELETE", "/api/payment-service", nil).status)
	assert.NotContains(t, ilse.send("GET", "/api/income", nil).body, "service")
}
