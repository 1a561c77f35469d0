// Package files keeps what creators upload: the bytes in a blob store, a folder by
// default or one that speaks S3, and what is known of them in the database. Files
// are streamed, never held whole, but where a picture is cut.
//
// It decides nothing about what may be uploaded; package media does.
package files

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"gocloud.dev/blob"
	_ "gocloud.dev/blob/fileblob" // folders
	"gocloud.dev/gcerrors"

	"jundle/internal/media"
	"jundle/internal/starters"
	"jundle/internal/store"
)

// Files keeps files.
type Files struct {
	store  *store.Store
	bucket *blob.Bucket
	now    func() time.Time
	// found are files that were asked for by name a moment ago, and what was said.
	found *expirable.LRU[string, answer]
}

type answer struct {
	file store.Media
	err  error
}

const (
	// knownFiles is of how many files it is remembered where they are, and for how
	// long: after that a deleted one is known to be gone in every process.
	knownFiles = 20_000
	knownFor   = 10 * time.Second
)

// Open opens the blob store at a place: a folder, which is made when it is
// missing, or an address like s3://bucket?region=eu-1, whose driver the program has
// to import (gocloud.dev/blob/s3blob). The store is the way to what is known of files.
func Open(ctx context.Context, place string, s *store.Store, now func() time.Time) (*Files, error) {
	bucket, err := OpenBucket(ctx, place)
	if err != nil {
		return nil, err
	}
	return &Files{store: s, bucket: bucket, now: now, found: expirable.NewLRU[string, answer](knownFiles, nil, knownFor)}, nil
}

// OpenBucket opens the blob store at a place, as Open does, without what is known of the files in it.
func OpenBucket(ctx context.Context, place string) (*blob.Bucket, error) {
	address := place
	if !strings.Contains(place, "://") {
		dir, err := filepath.Abs(place)
		if err != nil {
			return nil, err
		}
		if err := os.MkdirAll(dir, 0o700); err != nil {
			return nil, fmt.Errorf("the folder of files: %w", err)
		}
		// Temporary files beside the others can be renamed over; no sidecars.
		address = (&url.URL{Scheme: "file", Path: dir, RawQuery: "no_tmp_dir=true&metadata=skip"}).String()
	}
	bucket, err := blob.OpenBucket(ctx, address)
	if err != nil {
		return nil, fmt.Errorf("open the store of files at %s: %w", place, err)
	}
	return bucket, nil
}

// Close ends the use of the blob store.
func (f *Files) Close() error { return f.bucket.Close() }

// Through is the same files through another way to the database.
func (f *Files) Through(s *store.Store) *Files {
	other := *f
	other.store = s
	return &other
}

// newBlob names a place for bytes that is used once.
func newBlob(workspace uuid.UUID, name string) string {
	return workspace.String() + "/" + uuid.Must(uuid.NewV7()).String() + path.Ext(name)
}

// Keep keeps files of a workspace; a *store.QuotaError when there is no room.
// Those that are there already are not written again.
func (f *Files) Keep(ctx context.Context, workspace uuid.UUID, files ...media.File) error {
	names := make([]string, len(files))
	for i, file := range files {
		names[i] = file.Name
	}
	held, err := f.store.HeldMedia(ctx, workspace, names, f.now())
	if err != nil {
		return err
	}
	var rows []store.Media
	var bytes int64
	for _, file := range files {
		if !held[file.Name] {
			held[file.Name] = true
			bytes += int64(len(file.Bytes))
			rows = append(rows, store.Media{
				Name: file.Name, WorkspaceID: workspace, Blob: newBlob(workspace, file.Name), Size: int64(len(file.Bytes)),
				Width: file.Width, Height: file.Height, CreatedAt: f.now(), KeptAt: f.now(),
			})
		}
	}
	if len(rows) == 0 {
		return nil
	}
	// Asked before the bytes are written, and again when they are kept.
	if err := f.store.RoomForMedia(ctx, workspace, bytes); err != nil {
		return err
	}
	byName := make(map[string][]byte, len(files))
	for _, file := range files {
		byName[file.Name] = file.Bytes
	}
	for _, row := range rows {
		if err := f.write(ctx, row.Blob, byName[row.Name]); err != nil {
			return err
		}
	}
	if err := f.store.KeepMedia(ctx, rows...); err != nil {
		return err
	}
	for _, row := range rows {
		f.forget(row.WorkspaceID, row.Name)
	}
	return nil
}

// KeepUpload keeps a file as it was uploaded, under an ending, and returns what is
// known of it. It is read twice and never held whole.
func (f *Files) KeepUpload(ctx context.Context, workspace uuid.UUID, upload io.ReadSeeker, ending string) (store.Media, error) {
	digest := sha256.New()
	size, err := io.Copy(digest, upload)
	if err == nil {
		_, err = upload.Seek(0, io.SeekStart)
	}
	if err != nil {
		return store.Media{}, fmt.Errorf("read an upload: %w", err)
	}
	row := store.Media{
		Name: hex.EncodeToString(digest.Sum(nil)) + ending, WorkspaceID: workspace, Size: size, CreatedAt: f.now(),
		KeptAt: f.now(),
	}
	held, err := f.store.HeldMedia(ctx, workspace, []string{row.Name}, f.now())
	if err != nil || held[row.Name] {
		return row, err
	}
	if err := f.store.RoomForMedia(ctx, workspace, size); err != nil {
		return row, err
	}
	if row.Blob, err = f.Put(ctx, workspace, row.Name, upload); err != nil {
		return row, err
	}
	f.forget(workspace, row.Name)
	return row, f.store.KeepMedia(ctx, row)
}

func (f *Files) write(ctx context.Context, key string, data []byte) error {
	if err := f.store.LoosenBlob(ctx, key, f.now()); err != nil {
		return err
	}
	if err := f.bucket.WriteAll(ctx, key, data, &blob.WriterOptions{ContentType: media.ContentType(key)}); err != nil {
		return fmt.Errorf("write a file: %w", err)
	}
	return nil
}

// Read returns a file of a workspace whole, to be worked on; store.ErrNotFound or
// store.ErrGone when there is none.
func (f *Files) Read(ctx context.Context, workspace uuid.UUID, name string) (media.File, error) {
	row, err := f.store.WorkspaceMedia(ctx, workspace, name)
	if err != nil {
		return media.File{}, err
	}
	data, err := f.bucket.ReadAll(ctx, row.Blob)
	if err != nil {
		return media.File{}, fmt.Errorf("read a file: %w", err)
	}
	return media.File{Name: row.Name, Bytes: data, Width: row.Width, Height: row.Height}, nil
}

// File is a file as anybody may have it.
type File struct {
	Name string
	Size int64
	open func(ctx context.Context, from, length int64) (io.ReadCloser, error)
}

// OnDisk is a file of this machine, which whoever holds it closes.
func OnDisk(name string, file io.ReaderAt, size int64) File {
	return File{Name: name, Size: size, open: func(_ context.Context, from, length int64) (io.ReadCloser, error) {
		if length < 0 {
			length = size - from
		}
		return io.NopCloser(io.NewSectionReader(file, from, length)), nil
	}}
}

// Open reads a part of the file: so many bytes from one on, or to the end when
// length is negative.
func (f File) Open(ctx context.Context, from, length int64) (io.ReadCloser, error) {
	return f.open(ctx, from, length)
}

// FindOf is Find for files of one workspace, and those that ship with the application; of nil for everybody's.
func (f *Files) FindOf(ctx context.Context, of *uuid.UUID, name string) (File, error) {
	if of == nil {
		return f.Find(ctx, name)
	}
	if _, shipped := starters.File(name); !shipped {
		if !media.IsName(name) {
			return File{}, store.ErrNotFound
		}
		known, ok := f.found.Get(ownName(*of, name))
		if !ok {
			known.file, known.err = f.store.WorkspaceMedia(ctx, *of, name)
			if known.err == nil || errors.Is(known.err, store.ErrGone) || errors.Is(known.err, store.ErrNotFound) {
				f.found.Add(ownName(*of, name), known)
			}
		}
		if known.err != nil {
			return File{}, known.err
		}
	}
	return f.Find(ctx, name)
}

// ownName is under what it is held whether a workspace has a file.
func ownName(workspace uuid.UUID, name string) string { return workspace.String() + " " + name }

// forget drops what is held of a file of a workspace.
func (f *Files) forget(workspace uuid.UUID, name string) {
	f.found.Remove(name)
	f.found.Remove(ownName(workspace, name))
}

// Find finds a file by its name, those that ship with the application too. It
// answers store.ErrNotFound, or store.ErrGone for one that was deleted. No byte is
// read.
func (f *Files) Find(ctx context.Context, name string) (File, error) {
	if shipped, ok := starters.File(name); ok {
		return File{Name: name, Size: int64(len(shipped.Bytes)), open: func(_ context.Context, from, length int64) (io.ReadCloser, error) {
			return io.NopCloser(strings.NewReader(part(string(shipped.Bytes), from, length))), nil
		}}, nil
	}
	if !media.IsName(name) {
		return File{}, store.ErrNotFound // whatever it is, the database need not be asked
	}
	known, ok := f.found.Get(name)
	if !ok {
		known.file, known.err = f.store.PublicMedia(ctx, name)
		if known.err == nil || errors.Is(known.err, store.ErrGone) || errors.Is(known.err, store.ErrNotFound) {
			f.found.Add(name, known)
		}
	}
	if known.err != nil {
		return File{}, known.err
	}
	return File{Name: name, Size: known.file.Size, open: func(ctx context.Context, from, length int64) (io.ReadCloser, error) {
		return f.openBlob(ctx, known.file.Blob, from, length)
	}}, nil
}

func (f *Files) openBlob(ctx context.Context, key string, from, length int64) (io.ReadCloser, error) {
	reader, err := f.bucket.NewRangeReader(ctx, key, from, length, nil)
	switch {
	case gcerrors.Code(err) == gcerrors.NotFound:
		return nil, store.ErrGone
	case err != nil:
		return nil, fmt.Errorf("open a file: %w", err)
	}
	return reader, nil
}

func part(data string, from, length int64) string {
	data = data[min(from, int64(len(data))):]
	if length >= 0 {
		data = data[:min(length, int64(len(data)))]
	}
	return data
}

// Delete deletes a file of a workspace that nothing shows; store.ErrInUse
// otherwise. Its address answers that it is gone.
func (f *Files) Delete(ctx context.Context, workspace uuid.UUID, name string) error {
	err := f.store.DeleteMedia(ctx, workspace, name, f.now())
	f.forget(workspace, name)
	return err
}

// Put writes something that is no upload from a reader, and returns where. It
// stays loose until whoever asked for it keeps the key.
func (f *Files) Put(ctx context.Context, workspace uuid.UUID, name string, from io.Reader) (key string, err error) {
	key = newBlob(workspace, name)
	if err := f.store.LoosenBlob(ctx, key, f.now()); err != nil {
		return "", err
	}
	writer, err := f.bucket.NewWriter(ctx, key, &blob.WriterOptions{ContentType: "application/octet-stream"})
	if err != nil {
		return "", fmt.Errorf("write a file: %w", err)
	}
	_, err = io.Copy(writer, from)
	if err = errors.Join(err, writer.Close()); err != nil {
		return "", fmt.Errorf("write a file: %w", err)
	}
	return key, nil
}

// At is what Put wrote.
func (f *Files) At(key string, size int64) File {
	return File{Name: path.Base(key), Size: size, open: func(ctx context.Context, from, length int64) (io.ReadCloser, error) {
		return f.openBlob(ctx, key, from, length)
	}}
}
