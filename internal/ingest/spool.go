package ingest

import (
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"

	"github.com/google/uuid"
)

// spool keeps events in plain files, one a line, while the log is away.
type spool struct {
	dir   string
	bytes atomic.Int64

	mu      sync.Mutex
	current *os.File
}

const (
	spoolFiles = "*.ndjson"
	// refusedFile keeps what the table refuses for good, for a person to look at.
	refusedFile = "refused.txt"
)

// openSpool makes the folder and finds what a process before left in it.
func openSpool(dir string) (*spool, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("the spool of events: %w", err)
	}
	s := &spool{dir: dir}
	files, err := filepath.Glob(filepath.Join(dir, spoolFiles))
	for _, file := range files {
		if about, err := os.Stat(file); err == nil {
			s.bytes.Add(about.Size())
		}
	}
	return s, err
}

// size is how many bytes wait.
func (s *spool) size() int64 { return s.bytes.Load() }

// add keeps whole lines.
func (s *spool) add(lines []byte) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.current == nil {
		name := uuid.Must(uuid.NewV7()).String() + ".ndjson" // later names sort later
		file, err := os.OpenFile(filepath.Join(s.dir, name), os.O_CREATE|os.O_WRONLY|os.O_APPEND, 0o600)
		if err != nil {
			return err
		}
		s.current = file
	}
	written, err := s.current.Write(lines)
	s.bytes.Add(int64(written))
	if err != nil {
		// What was written of it may end within a line: nothing is to follow there.
		_ = s.current.Close()
		s.current = nil
	}
	return err
}

// take hands out the files' lines, a file at a time, and deletes each that was
// dealt with. It ends with the first that was not.
func (s *spool) take(deal func(lines []byte) bool) error {
	s.mu.Lock()
	if s.current != nil {
		_ = s.current.Close()
		s.current = nil
	}
	files, err := filepath.Glob(filepath.Join(s.dir, spoolFiles))
	s.mu.Unlock()
	for _, file := range files {
		lines, readErr := os.ReadFile(file)
		if errors.Is(readErr, fs.ErrNotExist) {
			continue // another process took it
		}
		if readErr != nil {
			return readErr
		}
		if !deal(lines) {
			return nil
		}
		if err := os.Remove(file); err != nil {
			return err
		}
		s.bytes.Add(-int64(len(lines)))
	}
	return err
}

func (s *spool) setAside(line []byte) {
	file, err := os.OpenFile(filepath.Join(s.dir, refusedFile), os.O_CREATE|os.O_WRONLY|os.O_APPEND, 0o600)
	if err == nil {
		_, err = file.Write(append(line, '\n'))
		err = errors.Join(err, file.Close())
	}
	if err != nil {
		slog.Error("an event that the table refuses could not be kept aside", "error", err)
	}
}
