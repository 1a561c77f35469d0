package render

import (
	"crypto/sha256"
	_ "embed"
	"encoding/hex"
	"fmt"
	"strings"

	"jundle/internal/core/locale"
	"jundle/internal/core/page"
	"jundle/internal/core/tracking"
)

//go:embed codes.js
var codesSource string

var looking = script{squeezed(codesSource), false}

// runCodes are the tracking codes of a page, for the script of ours that runs them.
type runCodes struct {
	// Key is what a visitor's choice is kept under: another where the codes that ask are others.
	Key   string    `json:"key"`
	Codes []runCode `json:"codes"`
	// Question is what is asked; empty where no code asks.
	Question string `json:"-"`
}

type runCode struct {
	Asks     bool               `json:"asks"`
	Where    string             `json:"where"`
	Elements []tracking.Element `json:"elements"`
}

// codesOf are the codes that run on a page; nil for none. The addresses of a page that is
// shown in the demo lead to its made-up hosts.
func codesOf(doc page.Document, visit Visit) *runCodes {
	running := doc.RunningCodes()
	if !visit.Codes || len(running) == 0 {
		return nil
	}
	made := &runCodes{}
	var names, hosts []string
	asking := sha256.New()
	for _, each := range running {
		code := runCode{Asks: !each.Unasked, Where: each.Where, Elements: each.Elements()}
		for i := range code.Elements {
			code.Elements[i].Src = visit.reached(code.Elements[i].Src)
		}
		made.Codes = append(made.Codes, code)
		if code.Asks {
			names, hosts = append(names, each.Name), append(hosts, each.Hosts...)
			fmt.Fprintf(asking, "%q %q %q ", each.Name, each.Hosts, each.Code)
		}
	}
	if len(names) == 0 {
		return made
	}
	made.Question = locale.Of(doc.Language).Say("ask_codes", "Names", strings.Join(names, ", "), "Hosts", strings.Join(hosts, ", "))
	made.Key = fmt.Sprintf("codes/%s/%s", visit.Address, hex.EncodeToString(asking.Sum(nil)[:6]))
	return made
}

// reached is an address as it can be reached where the page is drawn.
func (v Visit) reached(address string) string {
	if v.Reroute == nil || address == "" {
		return address
	}
	return v.Reroute(address)
}

// letIn adds what tracking codes need to what a page needs: their hosts, their scripts by
// digest, and nothing else.
func (n *needs) letIn(doc page.Document, visit Visit, run *runCodes) {
	n.scripts = append(n.scripts, looking)
	for _, each := range doc.RunningCodes() {
		for _, host := range each.Hosts {
			n.host(visit.reached("https://" + host + "/"))
		}
	}
	for _, code := range run.Codes {
		for _, element := range code.Elements {
			if element.Text != "" {
				n.digests = append(n.digests, element.Digest())
			}
		}
	}
}
