package media

import (
	"bytes"
	"errors"
	"path"

	"jundle/internal/core/picture"
)

// MaxFilm is the largest film for a background, in bytes: it plays on phones,
// over phone networks, behind what people came for.
const MaxFilm = 6 << 20

// MaxDownload is the largest file to hand out, in bytes.
const MaxDownload = 15 << 20

// ErrNoFilm is answered for bytes that are no film we can take.
var ErrNoFilm = errors.New("this file is not a film we can take. MP4 and WebM work")

// ErrEmptyFile is answered for a file with nothing in it.
var ErrEmptyFile = errors.New("this file is empty")

// HeadBytes is how much of a film tells what it is.
const HeadBytes = 64

// FilmEnding says what kind of film a file is by its first HeadBytes. A film is
// kept as it is: nothing here can decode one. It is handed out only as what its
// first bytes say it is, and never as a document.
func FilmEnding(head []byte) (string, error) {
	switch {
	// ISO/IEC 14496-12: a file type box comes first, four bytes in.
	case len(head) > 12 && bytes.Equal(head[4:8], []byte("ftyp")):
		return ".mp4", nil
	// RFC 8794, EBML: the header's ID, with the document type close by.
	case len(head) >= HeadBytes && bytes.Equal(head[:4], []byte{0x1a, 0x45, 0xdf, 0xa3}) && bytes.Contains(head, []byte("webm")):
		return ".webm", nil
	}
	return "", ErrNoFilm
}

// DownloadEnding is that of any file to be handed out as an attachment, which no
// browser opens as a document of ours.
const DownloadEnding = ".bin"

// ContentType is what a file of ours is handed out as, by its name.
func ContentType(name string) string {
	switch path.Ext(name) {
	case ".jpg":
		return "image/jpeg"
	case ".png":
		return "image/png"
	case ".svg":
		return "image/svg+xml"
	case ".mp4":
		return "video/mp4"
	case ".webm":
		return "video/webm"
	}
	return "application/octet-stream"
}

// IsName tells whether a name could be that of a file of ours.
func IsName(name string) bool { return picture.IsFileName(name) }
