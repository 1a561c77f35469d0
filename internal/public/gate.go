package public

import (
	"cmp"
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"errors"
	"fmt"
	"log/slog"
	"math"
	"net/http"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/clients"
	"jundle/internal/core/locale"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/passwords"
	"jundle/internal/render"
	"jundle/internal/store"
)

// markFor is for how long a visitor who came through a gate is let through again. The
// mark stands in the address, because visitors get no cookie, and is good for them alone.
const markFor = 30 * time.Minute

// markParameter carries the mark.
const markParameter = "open"

// Budgets of passcodes tried: by one client at one gate, by one client anywhere, and at one
// gate by anybody.
var (
	oneClientHere = store.Budget{Burst: 8, Pause: time.Minute}
	oneClient     = store.Budget{Burst: 30, Pause: 20 * time.Second}
	anybodyHere   = store.Budget{Burst: 60, Pause: 10 * time.Second}
)

// cameFor is for how long it is remembered that somebody came through from a network.
const cameFor = 30 * 24 * time.Hour

// opensWith tells whether a passcode is the one of a hash, whatever its case and the blanks around it. Hashes of older
// passcodes were made of what was typed.
func opensWith(typed, hash string) bool {
	folded := page.FoldPasscode(typed)
	return passwords.Match(folded, hash) || folded != typed && passwords.Match(typed, hash)
}

// gate is a gate with what it stands before.
type gate struct {
	*page.Gate
	endpoint, workspace uuid.UUID
	key                 string // of the block; empty for the page
	title               string
	language            string // that of the page
	looks               look.Look
	edition             int
}

// locale is that of the page.
func (g gate) locale() *locale.Locale { return locale.Of(g.language) }

// gateOf is a gate of a page, in the language that its visitor reads; key is that of the
// block it stands before, empty for the page.
func (s *Server) gateOf(asked request, live *livePage, of *page.Gate, key, title string) gate {
	language, where := live.languageOf(asked, chosenIn(asked.query)), "gate"
	if key != "" {
		where = "blocks/" + key + "/gate"
	}
	said := *of
	live.Document.Speak(language, where, &said)
	return gate{
		&said, live.PageID, live.WorkspaceID, key, title, cmp.Or(language, live.Document.Language), live.Document.Look, live.Edition,
	}
}

// passed tells whether a request carries a mark of its visitor that is still good.
func (s *Server) passed(asked request, at gate) bool {
	query, err := url.ParseQuery(asked.query)
	if err != nil {
		return false
	}
	mark, err := base64.RawURLEncoding.DecodeString(query.Get(markParameter))
	if err != nil || len(mark) != 8+sha256.Size {
		return false
	}
	until := time.Unix(int64(binary.BigEndian.Uint64(mark)), 0) //nolint:gosec // signed below
	return s.Now().Before(until) && hmac.Equal(mark, s.markUntil(asked, at, until))
}

// markUntil is the mark by which a visitor is let through until a moment.
func (s *Server) markUntil(asked request, at gate, until time.Time) []byte {
	mark := binary.BigEndian.AppendUint64(nil, uint64(until.Unix())) //nolint:gosec // after 1970
	return append(mark, s.signed("gate", at.endpoint.String(), at.key, at.Kind, at.PasscodeID, asked.client, asked.userAgent,
		string(mark))...)
}

// signed is a digest of parts that nobody else can make.
func (s *Server) signed(parts ...string) []byte {
	mac := hmac.New(sha256.New, s.OwnKey)
	for _, part := range parts {
		_, _ = fmt.Fprintf(mac, "%d:%s", len(part), part)
	}
	return mac.Sum(nil)
}

// gateKey names a gate as it was drawn.
type gateKey struct {
	render.Gate
	page    uuid.UUID
	edition int
}

// stand answers with what stands at a gate, and why whoever tried is still there.
func (s *Server) stand(status int, at gate, wrong string) answer {
	drawn := render.Gate{Title: at.title, Wrong: wrong, Passcode: at.Kind == "passcode", Language: cmp.Or(at.language, "en")}
	drawn.Text = at.Text
	if drawn.Text == "" {
		drawn.Text = at.locale().Say("read_first")
		if drawn.Passcode {
			drawn.Text = at.locale().Say("opens_with_passcode")
		}
	}
	key := gateKey{drawn, at.endpoint, at.edition}
	answered, known := s.gates.Get(key)
	if !known {
		html, policy, err := render.GatePage(at.looks, drawn)
		if err != nil {
			return s.failed(at.locale(), err)
		}
		answered = s.html(html, policy)
		s.gates.Add(key, answered)
	}
	answered.status = status
	return answered
}

// askedToOpen answers a form that was sent at the gate of a page.
func (s *Server) askedToOpen(c *gin.Context, asked request, passcode string) answer {
	return s.askedFor(c, asked, func(live *livePage) answer {
		path := c.Request.URL.EscapedPath()
		if live.Document.Gate == nil || !live.Document.IsOpen(s.Now()) {
			return answer{status: http.StatusSeeOther, header: s.headers.pressed, location: path}
		}
		at := s.gateOf(asked, live, live.Document.Gate, "", live.Document.Header.Name)
		if refused, opens := s.opens(c.Request.Context(), asked, at, passcode); !opens {
			return refused
		}
		return s.through(asked, at, path)
	})
}

// through sends a visitor who came through a gate on, with a mark.
func (s *Server) through(asked request, at gate, path string) answer {
	query, err := url.ParseQuery(asked.query)
	if err != nil {
		query = url.Values{}
	}
	mark := s.markUntil(asked, at, s.Now().Add(markFor))
	query.Set(markParameter, base64.RawURLEncoding.EncodeToString(mark))
	return answer{status: http.StatusSeeOther, header: s.headers.pressed, location: path + "?" + query.Encode()}
}

// opens tells whether a gate opens to whoever sent its form, and else what to answer.
func (s *Server) opens(ctx context.Context, asked request, at gate, passcode string) (refused answer, opens bool) {
	if at.Kind != "passcode" {
		return answer{}, true
	}
	ctx, cancel := context.WithTimeout(ctx, readWithin)
	defer cancel()
	client, here := clients.Network(asked.client), at.endpoint.String()+" "+at.key
	attempts := []store.Attempt{
		{Key: s.signed("passcode", client, here), Budget: oneClientHere},
		{Key: s.signed("passcode", client), Budget: oneClient},
	}
	// Who came through from there before is not kept out by what others try.
	came := s.signed("came through", client, here)
	known, err := s.Store.Known(ctx, came, s.Now())
	if err != nil {
		return s.failed(at.locale(), err), false
	}
	if !known {
		attempts = append(attempts, store.Attempt{Key: s.signed("passcode at", here), Budget: anybodyHere})
	}
	for _, attempt := range attempts {
		wait, err := s.Store.TakeAttempt(ctx, attempt, s.Now())
		if err != nil {
			return s.failed(at.locale(), err), false
		}
		if wait > 0 {
			words := at.locale().Count("many_tries", int(math.Ceil(wait.Minutes())))
			return s.stand(http.StatusTooManyRequests, at, words), false
		}
	}
	hash, err := s.Store.PasscodeHash(ctx, at.workspace, at.PasscodeID)
	switch {
	case errors.Is(err, store.ErrNotFound):
		hash = passwords.Nobody()
	case err != nil:
		return s.failed(at.locale(), err), false
	}
	if !opensWith(passcode, hash) {
		return s.stand(http.StatusForbidden, at, at.locale().Say("wrong_passcode")), false
	}
	if err := s.Store.NoteAttempt(ctx, came, s.Now().Add(cameFor)); err != nil {
		slog.Warn("a network that a guest came through from could not be remembered", "error", err)
	}
	return answer{}, true
}
