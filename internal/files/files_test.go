package files_test

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"io"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3mem"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	_ "gocloud.dev/blob/s3blob"

	"jundle/internal/core/page"
	"jundle/internal/core/picture"
	"jundle/internal/files"
	"jundle/internal/media"
	"jundle/internal/store"
	"jundle/internal/store/storetest"
)

var now = time.Date(2026, 6, 1, 12, 0, 0, 0, time.UTC)

// shelf is a workspace with files, and its clock.
type shelf struct {
	t      *testing.T
	store  *store.Store
	files  *files.Files
	member store.Member
	page   store.Page
	dir    string
	now    time.Time
}

func open(t *testing.T, place string) *shelf {
	t.Helper()
	s := &shelf{t: t, store: storetest.New(t), dir: place, now: now}
	s.reopen()
	var err error
	s.member, err = s.store.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay",
		Zone: "UTC", Document: page.New(),
	}, now)
	require.NoError(t, err)
	pages, err := s.store.Pages(t.Context(), s.member.WorkspaceID)
	require.NoError(t, err)
	s.page = pages[0]
	return s
}

func (s *shelf) reopen() {
	kept, err := files.Open(s.t.Context(), s.dir, s.store, func() time.Time { return s.now })
	require.NoError(s.t, err)
	s.t.Cleanup(func() { _ = kept.Close() })
	s.files = kept
}

func named(content, ending string) media.File {
	return media.File{Name: fmt.Sprintf("%x%s", sha256.Sum256([]byte(content)), ending), Bytes: []byte(content)}
}

func (s *shelf) keep(content string) string {
	s.t.Helper()
	file := named(content, ".png")
	require.NoError(s.t, s.files.Keep(s.t.Context(), s.member.WorkspaceID, file))
	return file.Name
}

func (s *shelf) read(name string, from, length int64) (string, error) {
	file, err := s.files.Find(s.t.Context(), name)
	if err != nil {
		return "", err
	}
	reader, err := file.Open(s.t.Context(), from, length)
	if err != nil {
		return "", err
	}
	defer reader.Close()
	data, err := io.ReadAll(reader)
	return string(data), err
}

// blobs is how many there are in a folder.
func (s *shelf) blobs() (n int) {
	s.t.Helper()
	require.NoError(s.t, filepath.WalkDir(s.dir, func(_ string, entry os.DirEntry, err error) error {
		if err == nil && !entry.IsDir() {
			n++
		}
		return err
	}))
	return n
}

// standIn is an S3 store in this process.
func standIn(t *testing.T) string {
	t.Helper()
	backend := s3mem.New()
	require.NoError(t, backend.CreateBucket("quarrow"))
	server := httptest.NewServer(gofakes3.New(backend).Server())
	t.Cleanup(server.Close)
	for name, value := range map[string]string{
		"AWS_ACCESS_KEY_ID": "ilse", "AWS_SECRET_ACCESS_KEY": "clay",
		"AWS_EC2_METADATA_DISABLED": "true",
	} {
		t.Setenv(name, value)
	}
	return "s3://quarrow?region=eu-1&use_path_style=true&endpoint=" + server.URL
}

func TestFilesAreKeptAndReadInPartsInAFolderAndInAStoreThatSpeaksS3(t *testing.T) {
	for name, place := range map[string]func(*testing.T) string{"folder": func(t *testing.T) string {
		return filepath.Join(t.TempDir(),
			"made", "when missing")
	}, "S3": standIn} {
		t.Run(name, func(t *testing.T) {
			s := open(t, place(t))
			name := s.keep("forty hours of fire")
			for want, part := range map[string][2]int64{"forty hours of fire": {0, -1}, "hours": {6, 5}, "fire": {15, -1}} {
				got, err := s.read(name, part[0], part[1])
				require.NoError(t, err)
				assert.Equal(t, want, got)
			}
			whole, err := s.files.Read(t.Context(), s.member.WorkspaceID, name)
			require.NoError(t, err)
			assert.Equal(t, "forty hours of fire", string(whole.Bytes))
			upload := strings.NewReader("a glaze recipe")
			row, err := s.files.KeepUpload(t.Context(), s.member.WorkspaceID, upload, ".bin")
			require.NoError(t, err)
			assert.Equal(t, named("a glaze recipe", ".bin").Name, row.Name)
			got, err := s.read(row.Name, 0, -1)
			require.NoError(t, err)
			assert.Equal(t, "a glaze recipe", got)

			require.NoError(t, s.files.Delete(t.Context(), s.member.WorkspaceID, name))
			_, err = s.read(name, 0, -1)
			require.ErrorIs(t, err, store.ErrGone)
			s.now = s.now.Add(3 * time.Hour)
			require.NoError(t, s.files.Collect(t.Context()))
			_, err = s.read(strings.Repeat("0", 64)+".png", 0, -1)
			require.ErrorIs(t, err, store.ErrNotFound)
		})
	}
}

func TestWhatNothingRefersToIsCollectedAfterAWhile(t *testing.T) {
	s := open(t, t.TempDir())
	drafted, published, forgotten := s.keep("on the working copy"), s.keep("on an older edition"), s.keep("on nothing")
	show := func(name string, revision int64) {
		doc := page.New()
		doc.Header.Picture = &picture.Picture{Media: name, Width: 3, Height: 2}
		saved, err := s.store.SaveDraft(t.Context(), s.member.WorkspaceID, s.page.ID, revision, doc)
		require.NoError(t, err)
		s.page = saved
	}
	show(published, 1)
	_, err := s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, store.Publishing{Revision: 2}, now)
	require.NoError(t, err)
	show(drafted, 2)
	_, err = s.store.Publish(t.Context(), s.member.WorkspaceID, s.member.ID, s.page.ID, store.Publishing{Revision: 3}, now)
	require.NoError(t, err)

	s.now = now.Add(6 * 24 * time.Hour)
	require.NoError(t, s.files.Collect(t.Context()))
	_, err = s.read(forgotten, 0, -1)
	require.NoError(t, err, "an edit may still be undone")

	s.now = now.Add(8 * 24 * time.Hour)
	require.NoError(t, s.files.Collect(t.Context()))
	s.reopen() // what was found a moment ago is remembered for ten seconds
	_, err = s.read(forgotten, 0, -1)
	require.ErrorIs(t, err, store.ErrNotFound)
	for _, name := range []string{drafted, published} {
		_, err = s.read(name, 0, -1)
		require.NoError(t, err)
	}
	require.ErrorIs(t, s.files.Delete(t.Context(), s.member.WorkspaceID, drafted), store.ErrInUse)
	require.NoError(t, s.files.Delete(t.Context(), s.member.WorkspaceID, published), "an older edition alone keeps nothing")
	require.ErrorIs(t, s.files.Delete(t.Context(), uuid.New(), drafted), store.ErrNotFound, "nobody deletes what is another's")

	s.now = time.Now().Add(3 * time.Hour) // the database notes what goes by its own clock
	require.NoError(t, s.files.Collect(t.Context()))
	assert.Equal(t, 1, s.blobs(), "the bytes go after the rows")
	require.NoError(t, s.store.EraseWorkspace(t.Context(), s.member.WorkspaceID, s.now))
	require.NoError(t, s.files.Collect(t.Context()))
	assert.Zero(t, s.blobs())
}

func TestBytesThatNobodyKeptAreClearedAway(t *testing.T) {
	s := open(t, t.TempDir())
	_, err := s.files.Put(t.Context(), s.member.WorkspaceID, "export.zip", strings.NewReader("half an export"))
	require.NoError(t, err)
	require.NoError(t, s.files.Collect(t.Context()))
	assert.Equal(t, 1, s.blobs(), "it may still be under way")
	s.now = now.Add(3 * time.Hour)
	require.NoError(t, s.files.Collect(t.Context()))
	assert.Zero(t, s.blobs())
}

// inRows puts files into rows, as older versions kept them.
func (s *shelf) inRows(url string, n int) []string {
	s.t.Helper()
	conn, err := pgx.Connect(s.t.Context(), url)
	require.NoError(s.t, err)
	defer conn.Close(context.Background())
	var names []string
	for i := range n {
		file := named(fmt.Sprintf("bytes in a row %d", i), ".png")
		_, err := conn.Exec(s.t.Context(),
			"insert into media (workspace_id, name, bytes, size, width, height, created_at, kept_at) values ($1, $2, $3, $4, 1, 1, $5, $5)",
			s.member.WorkspaceID, file.Name, file.Bytes, len(file.Bytes), now)
		require.NoError(s.t, err)
		names = append(names, file.Name)
	}
	return names
}

func TestBytesInRowsAreMovedAndTheMoveCanBeInterrupted(t *testing.T) {
	url := storetest.URL(t)
	kept, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	t.Cleanup(kept.Close)
	s := &shelf{t: t, store: kept, dir: t.TempDir(), now: now}
	s.reopen()
	s.member, err = kept.CreateAccount(t.Context(), store.NewAccount{
		Email: "ilse@quarrow.example", PageAddress: "quarrow-clay", Zone: "UTC",
		Document: page.New(),
	}, now)
	require.NoError(t, err)
	names := s.inRows(url, 5)

	ctx, interrupt := context.WithCancel(t.Context())
	err = s.files.MoveOutOfRows(ctx, func(done, of int) {
		assert.Equal(t, 5, of)
		if done == 2 {
			interrupt()
		}
	})
	require.ErrorIs(t, err, context.Canceled)
	left, err := kept.CountUnmoved(t.Context())
	require.NoError(t, err)
	assert.Equal(t, 3, left)

	var told []int
	require.NoError(t, s.files.MoveOutOfRows(t.Context(), func(done, of int) { told = append(told, done, of) }))
	assert.Equal(t, []int{1, 3, 2, 3, 3, 3}, told)
	for i, name := range names {
		got, err := s.read(name, 0, -1)
		require.NoError(t, err)
		assert.Equal(t, fmt.Sprintf("bytes in a row %d", i), got)
	}
	require.NoError(t, s.files.MoveOutOfRows(t.Context(), func(int, int) { t.Error("there was nothing left to move") }))
	s.now = now.Add(3 * time.Hour)
	require.NoError(t, s.files.Collect(t.Context()))
	assert.Equal(t, 5, s.blobs(), "and none of what was moved is loose")
}

func TestAFileWhoseBytesAreLostIsGone(t *testing.T) {
	s := open(t, t.TempDir())
	name := s.keep("forty hours of fire")
	require.NoError(t, os.RemoveAll(filepath.Join(s.dir, s.member.WorkspaceID.String())))
	_, err := s.read(name, 0, -1)
	require.True(t, errors.Is(err, store.ErrGone), "%v", err)
}
