package standin

import (
	"io"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

const (
	// ReceiverHost is the made-up host that takes messages of webhooks.
	ReceiverHost = "hooks.example"
	// messagesKept is how many messages are kept, the latest, and messageSize bounds one, in bytes.
	messagesKept = 500
	messageSize  = 64 << 10
)

// Message is one that arrived at ReceiverHost.
type Message struct {
	Path string    `json:"path"`
	At   time.Time `json:"at"`
	// Header has those fields that belong to Standard Webhooks, in lower case.
	Header map[string]string `json:"header"`
	Body   string            `json:"body"`
	Status int               `json:"status"` // with which it was answered
}

// receiver takes what webhooks are told. How it answers stands in the path: /answers/503/shop answers
// 503, and any other path 204.
type receiver struct {
	mu       sync.Mutex
	messages []Message
}

func (r *receiver) take(c *gin.Context) {
	body, err := io.ReadAll(io.LimitReader(c.Request.Body, messageSize))
	if err != nil {
		c.Status(http.StatusBadRequest)
		return
	}
	path := c.Param("path")
	message := Message{Path: path, At: time.Now(), Body: string(body), Header: map[string]string{}, Status: statusOf(path)}
	for name, values := range c.Request.Header {
		if lower := strings.ToLower(name); strings.HasPrefix(lower, "webhook-") {
			message.Header[lower] = values[0]
		}
	}
	r.mu.Lock()
	r.messages = append(r.messages, message)
	if over := len(r.messages) - messagesKept; over > 0 {
		r.messages = slices.Delete(r.messages, 0, over)
	}
	r.mu.Unlock()
	c.Status(message.Status)
}

func statusOf(path string) int {
	rest, answers := strings.CutPrefix(path, "/answers/")
	code, _, _ := strings.Cut(rest, "/")
	if status, err := strconv.Atoi(code); answers && err == nil && status >= 200 && status <= 599 {
		return status
	}
	return http.StatusNoContent
}

// at lists what arrived at a path, the latest first; everything for none.
func (r *receiver) at(path string) []Message {
	r.mu.Lock()
	defer r.mu.Unlock()
	found := []Message{}
	for _, message := range slices.Backward(r.messages) {
		if path == "" || message.Path == path {
			message.Header = maps.Clone(message.Header)
			found = append(found, message)
		}
	}
	return found
}

// addReceiver takes messages at ReceiverHost and shows them below /messages.
func (s *Server) addReceiver() {
	var received receiver
	s.engine.POST("/web/"+ReceiverHost+"/*path", received.take)
	s.engine.GET("/messages", func(c *gin.Context) { answer(c, "messages", received.at(c.Query("path"))) })
	s.engine.GET("/messages.json", func(c *gin.Context) { c.JSON(http.StatusOK, received.at(c.Query("path"))) })
}
