// Package linkfile reads files of links: tables with values between commas or other
// marks (RFC 4180 and what spreadsheets make of it), and bookmarks in the Netscape
// bookmark file format. What a file does not say of itself is found out: its encoding,
// its delimiter and quotation mark, and what its columns are.
package linkfile

import (
	"bytes"
	"errors"
	"fmt"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// Limits of a file.
const (
	MaxBytes   = 4 << 20
	MaxRows    = 5_000
	MaxColumns = 100
)

// PlaceError says where in a file something is wrong.
type PlaceError struct {
	Line, Column int // both from 1; the column in characters
	Reason       string
}

func (e *PlaceError) Error() string {
	return fmt.Sprintf("Line %d, column %d: %s.", e.Line, e.Column, e.Reason)
}

// ErrNoText is answered for a file that is no text.
var ErrNoText = errors.New("this file is not a text: it holds bytes that no table of links would")

// Decode is the text of a file and the name of the encoding it was in, as the
// Encoding standard of WHATWG names it. A mark at the beginning says which it is; without
// one, bytes that are UTF-8 are taken for it, zeros in every other place for UTF-16, and
// all else for Windows-1252. Line ends are made alike.
func Decode(data []byte) (text, name string, err error) {
	var from encoding.Encoding
	switch {
	case bytes.HasPrefix(data, []byte("\xef\xbb\xbf")):
		data, name = data[3:], "utf-8"
	case bytes.HasPrefix(data, []byte("\xff\xfe")), zeros(data, 1):
		name, from = "utf-16le", unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
		if !bytes.HasPrefix(data, []byte("\xff\xfe")) {
			from = unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM)
		}
	case bytes.HasPrefix(data, []byte("\xfe\xff")), zeros(data, 0):
		name, from = "utf-16be", unicode.UTF16(unicode.BigEndian, unicode.UseBOM)
		if !bytes.HasPrefix(data, []byte("\xfe\xff")) {
			from = unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM)
		}
	case utf8.Valid(data):
		name = "utf-8"
	default:
		name, from = "windows-1252", charmap.Windows1252
	}
	if from != nil {
		if data, err = from.NewDecoder().Bytes(data); err != nil {
			return "", name, ErrNoText
		}
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return "", name, ErrNoText
	}
	data = bytes.ReplaceAll(data, []byte("\r\n"), []byte("\n"))
	return string(bytes.ReplaceAll(data, []byte("\r"), []byte("\n"))), name, nil
}

// zeros tells whether most bytes at every other place, from one on, are zero, as in
// UTF-16 of text in Latin letters.
func zeros(data []byte, from int) bool {
	looked, found := 0, 0
	for i := from; i < min(len(data), 4096); i += 2 {
		looked++
		if data[i] == 0 {
			found++
		}
	}
	return looked > 1 && found*10 > looked*7
}
