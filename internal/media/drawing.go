package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"image"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// maxDrawing is the largest SVG, in bytes.
const maxDrawing = 128 << 10

// ErrNoDrawing is answered for bytes that are no SVG we can take shapes from.
var ErrNoDrawing = errors.New("this file is not an SVG drawing we can read")

// What a drawing may hold: shapes and their colours, those that its style sheets give
// them included, and parts shown again. Everything else, scripts, handlers, links, other
// documents, text and animation, is left out.
var (
	drawingElements = []string{
		"svg",
		"g",
		"path",
		"circle",
		"ellipse",
		"rect",
		"line",
		"polyline",
		"polygon",
		"defs",
		"linearGradient",
		"radialGradient",
		"stop",
		"clipPath",
		"mask",
		"title",
		"symbol",
		"use",
	}
	drawingAttributes = []string{
		"viewBox",
		"width",
		"height",
		"id",
		"d",
		"cx",
		"cy",
		"r",
		"rx",
		"ry",
		"x",
		"y",
		"x1",
		"y1",
		"x2",
		"y2",
		"fx",
		"fy",
		"points",
		"offset",
		"fill",
		"fill-rule",
		"fill-opacity",
		"stroke",
		"stroke-width",
		"stroke-linecap",
		"stroke-linejoin",
		"stroke-miterlimit",
		"stroke-dasharray",
		"stroke-dashoffset",
		"stroke-opacity",
		"opacity",
		"transform",
		"clip-path",
		"clip-rule",
		"mask",
		"stop-color",
		"stop-opacity",
		"gradientUnits",
		"gradientTransform",
		"spreadMethod",
		"preserveAspectRatio",
	}
	// plainValue holds nothing that could name another document, but a reference
	// to a part of the same one.
	plainValue     = regexp.MustCompile(`^[A-Za-z0-9#%.,+\-\s()]*$`)
	localReference = regexp.MustCompile(`^url\(#[A-Za-z0-9_-]+\)$`)
	localName      = regexp.MustCompile(`^[A-Za-z0-9_-]{1,60}$`)
)

// Drawing makes a harmless SVG out of an uploaded one: it is read token by
// token, and what is understood is written anew. It answers ErrNoDrawing for
// what is no drawing.
func Drawing(upload []byte) (File, error) {
	if len(upload) > maxDrawing || !bytes.Contains(upload, []byte("<svg")) {
		return File{}, ErrNoDrawing
	}
	d := &drawing{decoder: xml.NewDecoder(bytes.NewReader(upload)), styles: styleRulesOf(upload)}
	// No entity but XML's own is known, so none can unfold without end.
	if err := d.read(); err != nil || d.shapes == 0 {
		return File{}, ErrNoDrawing
	}
	kept := newFile(d.out.Bytes(), ".svg", d.size)
	kept.LeftOut = d.leftOut
	return kept, nil
}

type drawing struct {
	decoder *xml.Decoder
	out     bytes.Buffer
	styles  styleRules
	open    []string
	named   []bool // whether what is open has a name, or is there to be referred to
	shapes  int
	uses    int
	leftOut []string
	size    image.Point
}

func (d *drawing) read() error {
	for {
		token, err := d.decoder.Token()
		if errors.Is(err, io.EOF) {
			if len(d.open) > 0 {
				return ErrNoDrawing
			}
			return nil
		}
		if err != nil {
			return err
		}
		switch token := token.(type) {
		case xml.StartElement:
			if err := d.start(token); err != nil {
				return err
			}
		case xml.EndElement:
			d.out.WriteString("</" + d.open[len(d.open)-1] + ">")
			d.open, d.named = d.open[:len(d.open)-1], d.named[:len(d.named)-1]
		case xml.CharData:
			if len(d.open) > 0 && d.open[len(d.open)-1] == "title" {
				if err := xml.EscapeText(&d.out, token); err != nil {
					return err
				}
			}
		}
	}
}

func (d *drawing) start(element xml.StartElement) error {
	name := element.Name.Local
	inSVG := element.Name.Space == "" || element.Name.Space == "http://www.w3.org/2000/svg"
	if len(d.open) == 0 && (name != "svg" || d.out.Len() > 0) {
		return ErrNoDrawing
	}
	if !inSVG || !slices.Contains(drawingElements, name) || len(d.open) > 40 {
		return d.leaveOut(name)
	}
	href, again := "", true
	if name == "use" {
		if href, again = d.use(element); !again {
			return d.leaveOut(name)
		}
	}
	d.out.WriteString("<" + name)
	if len(d.open) == 0 {
		d.out.WriteString(` xmlns="http://www.w3.org/2000/svg"`)
		d.size = sizeOf(element)
		if !hasAttribute(element, "viewBox") {
			d.out.WriteString(` viewBox="0 0 ` + strconv.Itoa(d.size.X) + " " + strconv.Itoa(d.size.Y) + `"`)
		}
	}
	if href != "" {
		d.out.WriteString(` href="` + href + `"`)
	}
	named := name == "defs" || name == "symbol" || name == "clipPath" || name == "mask"
	for _, attribute := range d.attributesOf(element) {
		named = named || attribute.Name.Local == "id"
		d.out.WriteString(" " + attribute.Name.Local + `="`)
		if err := xml.EscapeText(&d.out, []byte(attribute.Value)); err != nil {
			return err
		}
		d.out.WriteByte('"')
	}
	d.out.WriteByte('>')
	d.open, d.named = append(d.open, name), append(d.named, named)
	if slices.Contains([]string{"path", "circle", "ellipse", "rect", "line", "polyline", "polygon"}, name) {
		d.shapes++
	}
	return nil
}

// unseen are elements that are left out and not missed.
var unseen = []string{"style", "script", "metadata", "desc", "namedview", "sodipodi", "RDF"}

// leaveOut skips an element with all that is in it, and remembers what somebody might
// miss.
func (d *drawing) leaveOut(name string) error {
	const most = 10
	if !slices.Contains(unseen, name) && !slices.Contains(d.leftOut, name) && len(d.leftOut) < most && localName.MatchString(name) {
		d.leftOut = append(d.leftOut, name)
	}
	return d.decoder.Skip()
}

func harmless(attribute xml.Attr) bool {
	value := strings.TrimSpace(attribute.Value)
	if attribute.Name.Local == "id" {
		return localName.MatchString(value)
	}
	if localReference.MatchString(value) {
		return true
	}
	return plainValue.MatchString(value) && !strings.Contains(strings.ToLower(value), "url")
}

func hasAttribute(element xml.StartElement, name string) bool {
	return slices.ContainsFunc(element.Attr, func(a xml.Attr) bool { return a.Name.Local == name && a.Name.Space == "" && harmless(a) })
}

// sizeOf is the size a drawing gives itself, by its viewBox before all else.
func sizeOf(element xml.StartElement) image.Point {
	size := image.Pt(24, 24)
	side := func(text string) int {
		value, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(text), "px"), 64)
		if err != nil || value < 1 || value > 8192 {
			return 24
		}
		return int(value)
	}
	for _, attribute := range element.Attr {
		switch attribute.Name.Local {
		case "width":
			size.X = side(attribute.Value)
		case "height":
			size.Y = side(attribute.Value)
		}
	}
	for _, attribute := range element.Attr {
		if attribute.Name.Local == "viewBox" {
			if parts := strings.Fields(strings.ReplaceAll(attribute.Value, ",", " ")); len(parts) == 4 {
				size = image.Pt(side(parts[2]), side(parts[3]))
			}
		}
	}
	return size
}
