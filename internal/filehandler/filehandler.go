// Package filehandler answers with what pages are made of beside their HTML:
// pictures and films, files to download, and fonts. It decides nothing about who may
// have them: whoever knows a name may, under a host of the workspace that has the file.
package filehandler

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"mime"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"jundle/internal/files"
	"jundle/internal/fonts"
	"jundle/internal/media"
	"jundle/internal/store"
)

var reading = []string{http.MethodGet, http.MethodHead}

// Options are what files are answered with.
type Options struct {
	Files *files.Files
	// Of is whose files are there for a request: those of one workspace, or nil for everybody's. Nil for everybody's
	// always.
	Of func(*gin.Context) *uuid.UUID
	// Key is what names of files to download are signed with.
	Key []byte
}

// Add lets a listener answer under /media, /files and /fonts. Names are digests of
// the bytes or fixed with the program, so what they stand for never changes.
func Add(routes gin.IRoutes, options Options) {
	of := func(c *gin.Context) *uuid.UUID {
		if options.Of == nil {
			return nil
		}
		return options.Of(c)
	}
	routes.Match(reading, "/media/:name", func(c *gin.Context) { serveFile(c, options.Files, of(c), c.Param("name"), "") })
	routes.Match(reading, "/files/:name/:as", func(c *gin.Context) {
		name, as := c.Param("name"), c.Param("as")
		if !hmac.Equal([]byte(c.Query(keyParameter)), []byte(nameKey(options.Key, name, as))) {
			as = plainName(name)
		}
		serveFile(c, options.Files, of(c), name, as)
	})
	addFonts(routes)
}

// keyParameter carries the key of the name that a file is saved under.
const keyParameter = "key"

// WithKey is the path of a file to download with the key of its name. Without it the file is handed out under a name
// of ours: nobody but its creator says what a file is called.
func WithKey(key []byte, path string) string {
	rest, isFile := strings.CutPrefix(path, "/files/")
	name, escaped, named := strings.Cut(rest, "/")
	as, err := url.PathUnescape(escaped)
	if !isFile || !named || err != nil {
		return path
	}
	return path + "?" + keyParameter + "=" + nameKey(key, name, as)
}

func nameKey(key []byte, name, as string) string {
	mac := hmac.New(sha256.New, key)
	_, _ = fmt.Fprintf(mac, "file %d:%s%s", len(name), name, as)
	return hex.EncodeToString(mac.Sum(nil)[:12])
}

// plainName is what a file is saved as where nobody said so: a part of its digest, without an ending.
func plainName(name string) string { return "file-" + name[:min(8, len(name))] }

func addFonts(routes gin.IRoutes) {
	routes.Match(reading, "/fonts/:name", func(c *gin.Context) {
		data, err := fonts.Bytes(c.Param("name"))
		if err != nil {
			c.String(http.StatusNotFound, "There is no such font.")
			return
		}
		for name, value := range unchanging("font/woff2") {
			c.Header(name, value)
		}
		http.ServeContent(c.Writer, c.Request, "", time.Time{}, strings.NewReader(string(data)))
	})
}

// unchanging are the headers of what may be kept for good. Nothing in it may run:
// a drawing opened by itself is a document.
func unchanging(kind string) map[string]string {
	return map[string]string{
		"Content-Type": kind, "Cache-Control": "public, max-age=31536000, immutable", "Cross-Origin-Resource-Policy": "cross-origin",
		"Content-Security-Policy": "default-src 'none'; sandbox", "Accept-Ranges": "bytes",
	}
}

// fileHeaders are those of a file under a name, handed out under another when as
// is not empty.
func fileHeaders(name, as string) map[string]string {
	headers := unchanging(media.ContentType(name))
	headers["ETag"] = `"` + name + `"`
	if as != "" {
		headers["Content-Type"], headers["Content-Disposition"] = "application/octet-stream", Attachment(as)
	}
	return headers
}

// findFile finds what may be answered with under a name: what was uploaded to be
// downloaded is handed out in no other way.
func findFile(ctx context.Context, kept *files.Files, of *uuid.UUID, name, as string) (file files.File, status int, says string) {
	err := store.ErrNotFound
	if as != "" || !strings.HasSuffix(name, ".bin") {
		file, err = kept.FindOf(ctx, of, name)
	}
	switch {
	case errors.Is(err, store.ErrNotFound):
		return file, http.StatusNotFound, "There is no such file."
	case errors.Is(err, store.ErrGone):
		return file, http.StatusGone, "This file was deleted by whoever had put it here."
	case err != nil:
		slog.Error("a file could not be found", "name", name, "error", err)
		return file, http.StatusServiceUnavailable, "The file could not be loaded."
	}
	return file, http.StatusOK, ""
}

// patience is for how long a reader may take nothing of a file before the connection
// is closed. Whoever goes on taking, however slowly, gets all of it: the system may
// hold a megabyte on its way, and is heard of again when a third of it has left.
const patience = 2 * time.Minute

// deadline is renewed as an answer goes on; the server's own is meant for pages.
type deadline struct {
	set  func(time.Time) error // may be nil
	next time.Time             // when it is worth setting again
}

func (d *deadline) renew() {
	now := time.Now()
	if d.set == nil || now.Before(d.next) {
		return
	}
	_ = d.set(now.Add(patience))
	d.next = now.Add(time.Second)
}

// serveFile answers with a file by its name.
func serveFile(c *gin.Context, kept *files.Files, of *uuid.UUID, name, as string) {
	file, status, says := findFile(c.Request.Context(), kept, of, name, as)
	if status != http.StatusOK {
		c.String(status, says)
		return
	}
	for header, value := range fileHeaders(name, as) {
		c.Header(header, value)
	}
	ServeStream(c, file)
}

// ServeStream answers with a file, in parts where a part is asked for, and holds
// no more of it than is on its way.
func ServeStream(c *gin.Context, file files.File) {
	// Each of several parts would be opened by itself; they may be ignored, and other
	// units than bytes have to be (RFC 9110 section 14.2).
	if asked := c.GetHeader("Range"); strings.Contains(asked, ",") || !strings.HasPrefix(asked, "bytes=") {
		c.Request.Header.Del("Range")
	}
	stream := &stream{
		open: func(from int64) (io.ReadCloser, error) { return file.Open(c.Request.Context(), from, -1) }, size: file.Size,
		deadline: deadline{set: http.NewResponseController(c.Writer).SetWriteDeadline},
	}
	defer stream.close()
	http.ServeContent(c.Writer, c.Request, "", time.Time{}, stream)
}

// stream is a file that is opened where it is read first, so that asking for its
// size costs nothing.
type stream struct {
	open func(from int64) (io.ReadCloser, error)
	size int64
	at   int64
	now  io.ReadCloser
	deadline
}

// Seek implements io.Seeker.
func (s *stream) Seek(offset int64, whence int) (int64, error) {
	base := map[int]int64{io.SeekStart: 0, io.SeekCurrent: s.at, io.SeekEnd: s.size}[whence]
	if base+offset < 0 {
		return 0, errors.New("a place before the file")
	}
	if base+offset != s.at {
		s.close()
		s.at = base + offset
	}
	return s.at, nil
}

// Read implements io.Reader.
func (s *stream) Read(into []byte) (n int, err error) {
	if s.at >= s.size {
		return 0, io.EOF
	}
	if s.now == nil {
		if s.now, err = s.open(s.at); err != nil {
			return 0, err
		}
	}
	s.renew()
	n, err = s.now.Read(into)
	s.at += int64(n)
	return n, err
}

func (s *stream) close() {
	if s.now != nil {
		_ = s.now.Close()
		s.now = nil
	}
}

// Attachment is the Content-Disposition that saves an answer under a name (RFC 6266).
func Attachment(name string) string {
	if value := mime.FormatMediaType("attachment", map[string]string{"filename": name}); value != "" {
		return value
	}
	return "attachment"
}
