package oembed

import (
	"encoding/json"
	"errors"
	"net/url"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"jundle/internal/core/invalid"
)

// Player is what was answered of a film or a sound.
type Player struct {
	// Title and Provider may be empty; both are on one line.
	Title, Provider string
	// Frame is the address of the player, with https.
	Frame string
	// Width and Height are its shape, in pixels. Width is 0 for one as wide as its place;
	// both are 0 where nothing was said.
	Width, Height int
	// Still is the address of its picture, and may be empty.
	Still string
}

// Errors of what was answered.
var (
	ErrNoPlayer  = errors.New("there is no player in the answer")
	ErrOtherHost = errors.New("the answer names a player of another site")
)

// MaxAnswer is how much of an answer is read, in bytes.
const MaxAnswer = 256 << 10

// maxSide is the longest side of a player that is believed, in pixels.
const maxSide = 4096

// answer is what an endpoint answers (oEmbed, section 2.3.4). Sizes come as numbers, as
// texts, as percentages and as null.
type answer struct {
	Type     string          `json:"type"`
	Title    string          `json:"title"`
	Provider string          `json:"provider_name"`
	HTML     string          `json:"html"`
	Width    json.RawMessage `json:"width"`
	Height   json.RawMessage `json:"height"`
	Still    string          `json:"thumbnail_url"`
}

// Read reads what an endpoint answered about a page. Only the address of the frame is
// taken from its HTML, and only one that the page may show.
func Read(data []byte, from Endpoint) (Player, error) {
	var said answer
	if err := json.Unmarshal(data, &said); err != nil {
		return Player{}, ErrNoPlayer
	}
	if said.Type != "video" && said.Type != "rich" {
		return Player{}, ErrNoPlayer
	}
	frame := frameIn(said.HTML)
	parsed, err := url.Parse(frame["src"])
	if err != nil || parsed.Host == "" {
		return Player{}, ErrNoPlayer
	}
	if parsed.Scheme == "" || parsed.Scheme == "http" {
		parsed.Scheme = "https" // a page with https can show no other
	}
	if parsed.Scheme != "https" || parsed.User != nil || !from.may(parsed.Hostname()) {
		return Player{}, ErrOtherHost
	}
	player := Player{
		Title: invalid.OneLine(html.UnescapeString(said.Title)), Provider: invalid.OneLine(said.Provider),
		Frame: parsed.String(), Width: pixels(frame["width"]), Height: pixels(frame["height"]),
	}
	if player.Provider == "" {
		player.Provider = from.Provider
	}
	if player.Height == 0 {
		player.Width, player.Height = pixels(string(said.Width)), pixels(string(said.Height))
	}
	if player.Height == 0 {
		player.Width = 0
	}
	if still, err := url.Parse(said.Still); err == nil && (still.Scheme == "https" || still.Scheme == "http") {
		player.Still = still.String()
	}
	return player, nil
}

// frameIn are the attributes of the first iframe in some HTML.
func frameIn(text string) map[string]string {
	tokens := html.NewTokenizer(strings.NewReader(text))
	for {
		switch tokens.Next() {
		case html.ErrorToken:
			return nil
		case html.StartTagToken, html.SelfClosingTagToken:
			token := tokens.Token()
			if token.Data != "iframe" {
				continue
			}
			said := make(map[string]string)
			for _, each := range token.Attr {
				said[each.Key] = strings.TrimSpace(each.Val)
			}
			return said
		}
	}
}

// pixels is a side in pixels; 0 for a percentage, and for what cannot be.
func pixels(text string) int {
	n, err := strconv.ParseFloat(strings.TrimSuffix(strings.Trim(text, `" `), "px"), 64)
	if err != nil || n < 1 || n > maxSide {
		return 0
	}
	return int(n)
}
