package render

import (
	"crypto/sha256"
	_ "embed"
	"encoding/base64"
	"html/template"
	"net/url"
	"regexp"
	"slices"
	"strings"

	"jundle/internal/core/page"
)

var (
	//go:embed counting.js
	countingSource string
	//go:embed countdown.js
	countdownSource string
	//go:embed copying.js
	copyingSource string
	//go:embed scrolling.js
	scrollingSource string
	//go:embed player.js
	playerSource string
)

// script is one of ours that a page carries, in itself.
type script struct {
	text string
	// tells: it tells its host of what was pressed.
	tells bool
}

var (
	counting  = script{squeezed(countingSource), true}
	countdown = script{squeezed(countdownSource), false}
	copying   = script{squeezed(copyingSource), true}
	scrolling = script{squeezed(scrollingSource), true}
	playing   = script{squeezed(playerSource), true}
)

// squeezed is a script without its comment and what its lines are moved in by.
func squeezed(source string) string {
	return strings.TrimSpace(
		regexp.MustCompile(`(?s)/\*.*?\*/`).ReplaceAllString(regexp.MustCompile(`\n\s+`).ReplaceAllString(source, "\n"), ""),
	)
}

// needs are what a page needs beyond what it loads of itself.
type needs struct {
	scripts []script
	// forms: it has one that is sent to its own host.
	forms bool
	// pays are the hosts that a form may lead on to.
	pays []string
	// frames are the hosts of its players.
	frames []string
	// hosts are those its tracking codes may talk to, and digests name scripts in them.
	hosts, digests []string
}

// needsOf are the needs of the blocks that are drawn. Presses on plain addresses are
// counted by a script where counted.
func needsOf(doc page.Document, visible []page.Placed, visit Visit, counted bool) (n needs) {
	has := make(map[page.Kind]bool)
	for _, block := range visible {
		has[block.Kind] = true
		if content, ok := block.Content().(*page.Countdown); ok && content.IsOver(visit.To.At) {
			has[block.Kind] = false
		}
		if frame := frameOf(block.Block, visit); frame != "" {
			n.frame(frame)
		}
	}
	if counted && doc.HasPlain(visit.To) {
		n.scripts = append(n.scripts, counting)
	}
	if has["countdown"] {
		n.scripts = append(n.scripts, countdown)
	}
	if has["code"] {
		n.scripts = append(n.scripts, copying)
	}
	if len(n.frames) > 0 {
		n.scripts = append(n.scripts, playing)
	}
	n.forms = has["signup"] || has["payment"]
	if has["payment"] {
		n.pays = visit.Pays
	}
	return n
}

// frame lets the host of a player in, and host that of a tracking code.
func (n *needs) frame(address string) { n.frames = withHost(n.frames, address) }
func (n *needs) host(address string)  { n.hosts = withHost(n.hosts, address) }

func withHost(hosts []string, address string) []string {
	parsed, err := url.Parse(address)
	if err != nil || parsed.Host == "" {
		return hosts
	}
	if host := parsed.Scheme + "://" + parsed.Host; !slices.Contains(hosts, host) {
		hosts = append(hosts, host)
	}
	return hosts
}

func (n needs) texts() []template.JS {
	texts := make([]template.JS, len(n.scripts))
	for i, each := range n.scripts {
		texts[i] = template.JS(each.text) //nolint:gosec // our own script
	}
	return texts
}

func digest(text string) string {
	sum := sha256.Sum256([]byte(text))
	return "'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) + "'"
}

// ContentSecurityPolicy is the policy a page is served with: its own style
// sheet, pictures, fonts and film of its own host, and nothing else. The style
// sheet is the one that Style returns for the page.
func ContentSecurityPolicy(style string) string { return policyFor(style, needs{}) }

func policyFor(style string, n needs) string {
	forms := "'none'"
	if n.forms {
		forms = strings.Join(append([]string{"'self'"}, n.pays...), " ")
	}
	others := strings.Join(append([]string{""}, n.hosts...), " ")
	policy := "default-src 'none'; style-src " + digest(style) + "; img-src 'self' data:" + others +
		"; font-src 'self'; media-src 'self'; base-uri 'none'; form-action " + forms + "; frame-ancestors 'none'"
	if len(n.frames) > 0 {
		policy += "; frame-src " + strings.Join(n.frames, " ")
	}
	if len(n.scripts) == 0 {
		return policy
	}
	policy += "; script-src"
	tells := false
	for _, each := range n.scripts {
		policy += " " + digest(each.text)
		tells = tells || each.tells
	}
	for _, each := range n.digests {
		policy += " " + each
	}
	policy += others
	if tells {
		others = " 'self'" + others
	}
	if others != "" {
		policy += "; connect-src" + others
	}
	return policy
}
