package standin

import (
	"bytes"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	standardwebhooks "github.com/standard-webhooks/standard-webhooks/libraries/go"
)

const (
	// PayHost is the made-up host of a service that visitors pay by.
	PayHost = "pay.example"
	// PayToken is what it lets in by, and PaySecret what it signs its notices with.
	PayToken  = "quarrow-till"
	PaySecret = "whsec_cXVhcnJvdyBjbGF5IHRpbGwgb2YgdGhlIGRlbW8hISE="
	// checkoutsKept bounds how many payments it knows.
	checkoutsKept = 2000
)

// madeCheckout is a payment as the service knows it.
type madeCheckout struct {
	ID          string `json:"id"`
	Reference   string `json:"reference"`
	Amount      int64  `json:"amount"`
	Currency    string `json:"currency"`
	Description string `json:"description"`
	ReturnURL   string `json:"return_url"`
	CancelURL   string `json:"cancel_url"`
	NoticeURL   string `json:"notice_url"`
	State       string `json:"state"`
	Refunded    int64  `json:"refunded"`
}

// till is the service. It tells of what happens at once, and tries again a few times.
type till struct {
	mu    sync.Mutex
	made  map[string]*madeCheckout
	byKey map[string]string // what was made under an Idempotency-Key
}

// addTill answers for PayHost: POST of /v1/checkouts and /v1/checkouts/{id}/refunds, and the page that visitors pay on.
func (s *Server) addTill() {
	t := &till{made: make(map[string]*madeCheckout), byKey: make(map[string]string)}
	at := "/web/" + PayHost
	s.engine.POST(at+"/v1/checkouts", t.admit(t.make))
	s.engine.POST(at+"/v1/checkouts/:id/refunds", t.admit(t.refund))
	s.engine.GET(at+"/pay/:id", t.with(func(c *gin.Context, one *madeCheckout) { answer(c, "till", one) }))
	s.engine.POST(at+"/pay/:id", t.with(t.settle))
}

// admit lets in whoever brings the token.
func (t *till) admit(do gin.HandlerFunc) gin.HandlerFunc {
	return func(c *gin.Context) {
		if c.GetHeader("Authorization") != "Bearer "+PayToken {
			c.Status(http.StatusUnauthorized)
			return
		}
		c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, subscriberSize)
		do(c)
	}
}

// with finds the payment of a path.
func (t *till) with(do func(*gin.Context, *madeCheckout)) gin.HandlerFunc {
	return func(c *gin.Context) {
		t.mu.Lock()
		defer t.mu.Unlock()
		one, known := t.made[c.Param("id")]
		if !known {
			c.Status(http.StatusNotFound)
			return
		}
		do(c, one)
	}
}

func (t *till) make(c *gin.Context) {
	var one madeCheckout
	if err := c.BindJSON(&one); err != nil || one.Amount <= 0 || one.Reference == "" {
		c.Status(http.StatusBadRequest)
		return
	}
	t.mu.Lock()
	defer t.mu.Unlock()
	id, again := t.byKey[c.GetHeader("Idempotency-Key")]
	if !again && len(t.made) >= checkoutsKept {
		c.Status(http.StatusServiceUnavailable)
		return
	}
	if !again {
		id = rand.Text()
		one.ID, one.State = id, "open"
		t.made[id], t.byKey[c.GetHeader("Idempotency-Key")] = &one, id
	}
	c.JSON(http.StatusCreated, gin.H{"id": id, "url": "https://" + PayHost + "/pay/" + id})
}

// settle is what somebody pressed on the page.
func (t *till) settle(c *gin.Context, one *madeCheckout) {
	if one.State == "paid" {
		c.Redirect(http.StatusSeeOther, one.ReturnURL)
		return
	}
	switch c.PostForm("does") {
	case "pay":
		one.State = "paid"
		t.tell("payment.paid", *one, one.Amount)
		c.Redirect(http.StatusSeeOther, one.ReturnURL)
	case "fail":
		t.tell("payment.failed", *one, one.Amount)
		c.Redirect(http.StatusSeeOther, one.ReturnURL)
	default:
		c.Redirect(http.StatusSeeOther, one.CancelURL)
	}
}

func (t *till) refund(c *gin.Context) {
	var wanted struct {
		Amount int64 `json:"amount"`
	}
	if err := c.BindJSON(&wanted); err != nil {
		c.Status(http.StatusBadRequest)
		return
	}
	t.with(func(c *gin.Context, one *madeCheckout) {
		key := c.GetHeader("Idempotency-Key")
		if t.byKey[key] == one.ID {
			c.JSON(http.StatusAccepted, gin.H{})
			return
		}
		if one.State != "paid" || wanted.Amount <= 0 || one.Refunded+wanted.Amount > one.Amount {
			c.Status(http.StatusConflict)
			return
		}
		t.byKey[key] = one.ID
		one.Refunded += wanted.Amount
		t.tell("payment.refunded", *one, one.Refunded)
		c.JSON(http.StatusAccepted, gin.H{})
	})(c)
}

// tell tells whoever asked for a payment what happened to it, trying a few times.
func (t *till) tell(happened string, one madeCheckout, amount int64) {
	at := time.Now().UTC()
	body, err := json.Marshal(gin.H{
		"type": happened, "timestamp": at, "data": gin.H{"reference": one.Reference, "amount": amount, "currency": one.Currency},
	})
	if err != nil {
		return
	}
	id := "msg_" + rand.Text()
	go func() {
		for range 5 {
			if tellOnce(one.NoticeURL, id, body) {
				return
			}
			time.Sleep(time.Second)
		}
	}()
}

func tellOnce(address, id string, body []byte) bool {
	signer, err := standardwebhooks.NewWebhook(PaySecret)
	if err != nil {
		return true
	}
	at := time.Now()
	signature, err := signer.Sign(id, at, body)
	if err != nil {
		return true
	}
	request, err := http.NewRequest(http.MethodPost, address, bytes.NewReader(body))
	if err != nil {
		return true
	}
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set(standardwebhooks.HeaderWebhookID, id)
	request.Header.Set(standardwebhooks.HeaderWebhookTimestamp, strconv.FormatInt(at.Unix(), 10))
	request.Header.Set(standardwebhooks.HeaderWebhookSignature, signature)
	answered, err := http.DefaultClient.Do(request)
	if err != nil {
		return false
	}
	defer answered.Body.Close()
	return answered.StatusCode < http.StatusInternalServerError
}

// Shown is the amount as the page has it.
func (m *madeCheckout) Shown() string {
	return fmt.Sprintf("%d.%02d %s", m.Amount/100, m.Amount%100, m.Currency)
}
