package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"maps"
	"slices"
	"strings"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// declarations are properties with their values.
type declarations map[string]string

// styleRules are the rules of a drawing's style sheets, by their selectors: an
// element, a class with its dot, an ID with its sign. Others are not understood.
type styleRules map[string]declarations

// maxStyleRules is how many rules of one drawing are read.
const maxStyleRules = 500

// styleRulesOf reads all style sheets within a drawing. What is in them is given to
// the shapes as attributes, and held to the same rules as those.
func styleRulesOf(drawing []byte) styleRules {
	rules := styleRules{}
	decoder := xml.NewDecoder(bytes.NewReader(drawing))
	inStyle := false
	for {
		token, err := decoder.Token()
		if err != nil {
			return rules // whether it is a drawing at all is found out by who reads it whole
		}
		switch token := token.(type) {
		case xml.StartElement:
			inStyle = token.Name.Local == "style"
		case xml.EndElement:
			inStyle = false
		case xml.CharData:
			if inStyle {
				rules.read(token)
			}
		}
	}
}

func (r styleRules) read(sheet []byte) {
	parser := css.NewParser(parse.NewInputBytes(bytes.Clone(sheet)), false)
	var selectors []string
	var selector strings.Builder
	depth := 0
	for len(r) < maxStyleRules {
		grammar, _, data := parser.Next()
		switch grammar {
		case css.ErrorGrammar:
			if !errors.Is(parser.Err(), io.EOF) && parser.HasParseError() {
				continue
			}
			return
		case css.BeginAtRuleGrammar:
			depth++ // rules for print, for the dark and the like are left out
		case css.EndAtRuleGrammar:
			depth--
		case css.QualifiedRuleGrammar, css.BeginRulesetGrammar:
			selector.Reset()
			for _, value := range parser.Values() {
				selector.Write(value.Data)
			}
			for one := range strings.SplitSeq(selector.String(), ",") {
				selectors = append(selectors, strings.TrimSpace(one))
			}
		case css.EndRulesetGrammar:
			selectors = nil
		case css.DeclarationGrammar:
			if depth == 0 {
				r.declare(selectors, string(data), valueOf(parser.Values()))
			}
		}
	}
}

func (r styleRules) declare(selectors []string, property, value string) {
	for _, selector := range selectors {
		if name := strings.TrimLeft(selector, ".#"); !localName.MatchString(name) {
			continue
		}
		if r[selector] == nil {
			r[selector] = declarations{}
		}
		r[selector][strings.ToLower(property)] = value
	}
}

func valueOf(tokens []css.Token) string {
	var value strings.Builder
	for _, token := range tokens {
		value.Write(token.Data)
	}
	text, _, _ := strings.Cut(value.String(), "!")
	return strings.TrimSpace(text)
}

// of is what the rules and its own style attribute say of an element, the stronger
// over the weaker (CSS 2.2, 6.4.3).
func (r styleRules) of(element xml.StartElement) declarations {
	said := declarations{}
	maps.Copy(said, r[element.Name.Local])
	for _, class := range strings.Fields(attributeOf(element, "class")) {
		maps.Copy(said, r["."+class])
	}
	if id := attributeOf(element, "id"); id != "" {
		maps.Copy(said, r["#"+id])
	}
	if own := attributeOf(element, "style"); own != "" {
		parser := css.NewParser(parse.NewInputString(own), true)
		for {
			grammar, _, data := parser.Next()
			if grammar == css.ErrorGrammar {
				break
			}
			if grammar == css.DeclarationGrammar {
				said[strings.ToLower(string(data))] = valueOf(parser.Values())
			}
		}
	}
	return said
}

func attributeOf(element xml.StartElement, name string) string {
	for _, attribute := range element.Attr {
		if attribute.Name.Space == "" && attribute.Name.Local == name {
			return attribute.Value
		}
	}
	return ""
}

// attributesOf are the attributes of an element that are kept: those it has, with
// what style sheets say in their place.
func (d *drawing) attributesOf(element xml.StartElement) []xml.Attr {
	styled := d.styles.of(element)
	var kept []xml.Attr
	add := func(name, value string) {
		attribute := xml.Attr{Name: xml.Name{Local: name}, Value: value}
		if slices.Contains(drawingAttributes, name) && harmless(attribute) {
			kept = append(kept, attribute)
		}
	}
	for _, attribute := range element.Attr {
		name, value := attribute.Name.Local, attribute.Value
		switch {
		case attribute.Name.Space != "":
			continue
		case name == "id" && (len(d.open) == 0 || element.Name.Local == "use"):
			continue // nothing refers to a whole that holds what refers to it
		}
		if style, said := styled[name]; said && !slices.Contains(geometry, name) {
			value = style
			delete(styled, name)
		}
		add(name, value)
	}
	for _, name := range slices.Sorted(maps.Keys(styled)) {
		if !slices.Contains(geometry, name) && attributeOf(element, name) == "" {
			add(name, styled[name])
		}
	}
	return kept
}

// geometry are attributes that style sheets do not set.
var geometry = []string{
	"viewBox",
	"id",
	"d",
	"points",
	"offset",
	"gradientUnits",
	"gradientTransform",
	"spreadMethod",
	"preserveAspectRatio",
}

// maxUses is how often parts of a drawing are shown again.
const maxUses = 200

// use shows a part of the drawing again. It stands outside of all that has a name, so
// that no part holds others over and over.
func (d *drawing) use(element xml.StartElement) (href string, ok bool) {
	for _, attribute := range element.Attr {
		if attribute.Name.Local == "href" && strings.HasPrefix(attribute.Value, "#") && localName.MatchString(attribute.Value[1:]) {
			href = attribute.Value
		}
	}
	d.uses++
	return href, href != "" && d.uses <= maxUses && !slices.Contains(d.named, true)
}
