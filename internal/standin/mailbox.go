package standin

import (
	"errors"
	"io"
	"net"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/emersion/go-message/mail"
	"github.com/emersion/go-smtp"
	"github.com/gin-gonic/gin"
)

const (
	// lettersKept is how many letters the mailbox keeps, the latest.
	lettersKept = 2000
	// letterSize bounds one, in bytes.
	letterSize = 1 << 20
)

// Letter is one that arrived.
type Letter struct {
	ID      int       `json:"id"`
	To      string    `json:"to"`
	From    string    `json:"from"`
	Subject string    `json:"subject"`
	At      time.Time `json:"at"`
	Text    string    `json:"text"`
	HTML    string    `json:"html"`
	// Header has the other fields of the head, by their usual names.
	Header map[string]string `json:"header"`
}

// Mailbox is a made-up mail server (RFC 5321) that keeps what it is sent, whoever it is for, and
// shows it.
type Mailbox struct {
	server *smtp.Server

	mu      sync.Mutex
	last    int
	letters []Letter
}

// NewMailbox makes an empty mailbox.
func NewMailbox() *Mailbox {
	m := &Mailbox{}
	m.server = smtp.NewServer(smtp.BackendFunc(func(*smtp.Conn) (smtp.Session, error) { return &delivery{mailbox: m}, nil }))
	m.server.Domain, m.server.MaxMessageBytes, m.server.MaxRecipients = "mail.example", letterSize, 10
	m.server.ReadTimeout, m.server.WriteTimeout = time.Minute, time.Minute
	m.server.ErrorLog = quiet{}
	return m
}

// quiet keeps what the library says of lost connections out of the log.
type quiet struct{}

func (quiet) Printf(string, ...any) {}
func (quiet) Println(...any)        {}

// Serve takes letters from a listener until Close.
func (m *Mailbox) Serve(listener net.Listener) error {
	if err := m.server.Serve(listener); !errors.Is(err, smtp.ErrServerClosed) {
		return err
	}
	return nil
}

// Close takes no more letters.
func (m *Mailbox) Close() error { return m.server.Close() }

// Letters are those to an address, the latest first; to anybody where it is empty.
func (m *Mailbox) Letters(to string) []Letter {
	m.mu.Lock()
	defer m.mu.Unlock()
	found := []Letter{}
	for _, letter := range slices.Backward(m.letters) {
		if to == "" || strings.EqualFold(letter.To, to) {
			found = append(found, letter)
		}
	}
	return found
}

func (m *Mailbox) letter(id int) (Letter, bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	at := slices.IndexFunc(m.letters, func(letter Letter) bool { return letter.ID == id })
	if at < 0 {
		return Letter{}, false
	}
	return m.letters[at], true
}

func (m *Mailbox) keep(letter Letter) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.last++
	letter.ID = m.last
	m.letters = append(m.letters, letter)
	if over := len(m.letters) - lettersKept; over > 0 {
		m.letters = slices.Delete(m.letters, 0, over)
	}
}

// delivery is one conversation with whoever brings letters.
type delivery struct {
	mailbox *Mailbox
	to      []string
}

// Mail implements smtp.Session.
func (d *delivery) Mail(string, *smtp.MailOptions) error { return nil }

// Rcpt implements smtp.Session. Nobody lives at bounces.example.
func (d *delivery) Rcpt(to string, _ *smtp.RcptOptions) error {
	if strings.HasSuffix(to, "@bounces.example") {
		return &smtp.SMTPError{Code: 550, EnhancedCode: smtp.EnhancedCode{5, 1, 1}, Message: "nobody of that name here"}
	}
	d.to = append(d.to, to)
	return nil
}

// Data implements smtp.Session.
func (d *delivery) Data(body io.Reader) error {
	letter, err := readLetter(body)
	if err != nil {
		return &smtp.SMTPError{Code: 554, EnhancedCode: smtp.EnhancedCode{5, 6, 0}, Message: "this is no letter: " + err.Error()}
	}
	for _, to := range d.to {
		letter.To = to
		d.mailbox.keep(letter)
	}
	return nil
}

// Reset implements smtp.Session.
func (d *delivery) Reset() { d.to = nil }

// Logout implements smtp.Session.
func (d *delivery) Logout() error { return nil }

func readLetter(body io.Reader) (Letter, error) {
	reader, err := mail.CreateReader(body)
	if err != nil {
		return Letter{}, err
	}
	letter := Letter{Header: map[string]string{}, At: time.Now()}
	letter.Subject, _ = reader.Header.Subject()
	letter.From, _ = reader.Header.Text("From")
	for fields := reader.Header.Fields(); fields.Next(); {
		letter.Header[fields.Key()] = fields.Value()
	}
	for {
		part, err := reader.NextPart()
		if errors.Is(err, io.EOF) {
			return letter, nil
		}
		if err != nil {
			return letter, err
		}
		text, err := io.ReadAll(part.Body)
		if err != nil {
			return letter, err
		}
		if strings.HasPrefix(part.Header.Get("Content-Type"), "text/html") {
			letter.HTML = string(text)
		} else {
			letter.Text = strings.ReplaceAll(string(text), "\r\n", "\n")
		}
	}
}

// addMailbox shows the mailbox below /mail.
func (s *Server) addMailbox(mailbox *Mailbox) {
	s.engine.GET("/mail", func(c *gin.Context) {
		answer(c, "mailbox", gin.H{"To": c.Query("to"), "Letters": mailbox.Letters(c.Query("to"))})
	})
	s.engine.GET("/mail.json", func(c *gin.Context) { c.JSON(http.StatusOK, mailbox.Letters(c.Query("to"))) })
	one := func(show func(c *gin.Context, letter Letter)) gin.HandlerFunc {
		return func(c *gin.Context) {
			id, _ := strconv.Atoi(c.Param("id"))
			letter, found := mailbox.letter(id)
			if !found {
				c.String(http.StatusNotFound, "There is no such letter.")
				return
			}
			show(c, letter)
		}
	}
	s.engine.GET("/mail/:id", one(func(c *gin.Context, letter Letter) { answer(c, "letter", letter) }))
	s.engine.GET("/mail/:id/html", one(func(c *gin.Context, letter Letter) {
		// As a mail program shows it: nothing runs, and a link leaves it.
		c.Header("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox allow-top-navigation-by-user-activation")
		c.Data(http.StatusOK, "text/html; charset=utf-8", []byte(strings.Replace(letter.HTML, "<head>", `<head><base target="_top">`, 1)))
	}))
}
