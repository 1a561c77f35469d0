package page

import (
	"reflect"
	"slices"
	"strconv"
	"strings"

	"jundle/internal/core/invalid"
	"jundle/internal/core/tracking"
)

// MaxCodes is how many tracking codes a page holds.
const MaxCodes = 10

// TrackingCode is a code of a service that looks on, such as the creator's own site
// statistics or advertising.
type TrackingCode struct {
	Key   string `json:"key" doc:"By which it is told from the others; never changes."`
	Name  string `json:"name" doc:"Of the service, as visitors read it when they are asked; at most 60 characters."`
	Note  string `json:"note,omitempty" doc:"For whoever keeps the page; at most 300 characters."`
	Code  string `json:"code" doc:"As the service gives it out: scripts and pictures; at most 8,192 bytes."`
	Where string `json:"where,omitempty" enum:"head,begin,end" doc:"In the head, after the opening or before the closing of the body."`
	// Hosts are those it may come from and talk to, and no others.
	Hosts []string `json:"hosts" nullable:"false" doc:"Hosts it may load from and send to, beside those in the code; at most 8."`
	On    bool     `json:"on"`
	// Unasked rather than asks, so that a code without it asks.
	Unasked bool `json:"unasked,omitempty" doc:"The creator declares that visitors need not be asked."`
}

// Elements are the scripts and pictures of the code; none where it cannot be read.
func (c TrackingCode) Elements() []tracking.Element {
	elements, err := tracking.Read(c.Code)
	if err != nil {
		return nil
	}
	return elements
}

func tidyCodes(problems *invalid.List, codes []TrackingCode) []TrackingCode {
	if len(codes) > MaxCodes {
		problems.Add("codes", "A page has at most %d tracking codes; these are %d. Nothing was added.", MaxCodes, len(codes))
		return codes
	}
	seen := make(map[string]bool)
	for i := range codes {
		code, where := &codes[i], "codes/"+strconv.Itoa(i)
		if !keyPattern.MatchString(code.Key) || seen[code.Key] {
			problems.Add(where+"/key", "Tracking code %d has no key of its own.", i+1)
		}
		seen[code.Key] = true
		code.tidy(problems, where)
	}
	if len(codes) == 0 {
		return nil
	}
	return codes
}

func (c *TrackingCode) tidy(problems *invalid.List, where string) {
	c.Name = problems.Line(where+"/name", "The name of a service", c.Name, MaxName)
	c.Note = problems.Lines(where+"/note", "The note", c.Note, 300)
	c.Where = invalid.Choice(problems, where+"/where", "place for a code", c.Where, "head", "begin", "end")
	c.Code = strings.TrimSpace(strings.ToValidUTF8(c.Code, ""))
	if c.Name == "" {
		problems.Add(where+"/name", "Say whose code this is: visitors read it when they are asked.")
	}
	elements, err := tracking.Read(c.Code)
	if err != nil {
		problems.Add(where+"/code", "In the code of “%s”: %s.", c.Name, err.Error())
		return
	}
	hosts := tracking.HostsOf(elements)
	for _, text := range c.Hosts {
		switch name := tracking.HostOf(text); {
		case name == "":
			problems.Add(where+"/hosts", "“%s” is no host. One looks like stats.your-site.example.", invalid.OneLine(text))
		case !slices.Contains(hosts, name):
			hosts = append(hosts, name)
		}
	}
	slices.Sort(hosts)
	if c.Hosts = append([]string{}, hosts...); len(hosts) > tracking.MaxHosts {
		problems.Add(where+"/hosts", "A code talks to at most %d hosts; these are %d.", tracking.MaxHosts, len(hosts))
	}
}

// RunningCodes are the tracking codes that are on.
func (d Document) RunningCodes() []TrackingCode {
	return slices.DeleteFunc(slices.Clone(d.Codes), func(code TrackingCode) bool { return !code.On })
}

// codeChanges put into words what becomes of the codes that run on a page.
func codeChanges(before, after []TrackingCode) (says []string) {
	running := func(codes []TrackingCode, key string) *TrackingCode {
		for i := range codes {
			if codes[i].Key == key && codes[i].On {
				return &codes[i]
			}
		}
		return nil
	}
	for _, each := range after {
		had := running(before, each.Key)
		switch {
		case !each.On:
		case had == nil:
			says = append(says, "The tracking code “"+each.Name+"” runs on the page.")
		case !reflect.DeepEqual(*had, each):
			says = append(says, "The tracking code “"+each.Name+"” changed.")
		}
	}
	for _, each := range before {
		if each.On && running(after, each.Key) == nil {
			says = append(says, "The tracking code “"+each.Name+"” runs on the page no longer.")
		}
	}
	return says
}
