// Package folder keeps a second process out of a folder that only one can use.
package folder

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"syscall"
	"time"
)

// Lock is a folder that this process has to itself. The system lets go of it when
// the process ends, however it ends.
type Lock struct{ file *os.File }

// InUseError is answered when another process has the folder.
type InUseError struct{ Dir string }

func (e *InUseError) Error() string { return "another process uses the folder " + e.Dir }

// Take takes a folder, which is made when it is missing. It answers an *InUseError
// when another process has it.
func Take(dir string) (*Lock, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	file, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(file.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		_ = file.Close()
		if errors.Is(err, syscall.EWOULDBLOCK) {
			return nil, &InUseError{dir}
		}
		return nil, fmt.Errorf("lock the folder %s: %w", dir, err)
	}
	return &Lock{file}, nil
}

// Await is Take for a folder that another process may be about to leave: it waits
// so long for it. Waiting, unless nil, is told once that it does.
func Await(ctx context.Context, dir string, patience time.Duration, waiting func()) (*Lock, error) {
	const again = 100 * time.Millisecond
	for end := time.Now().Add(patience); ; {
		lock, err := Take(dir)
		var used *InUseError
		if !errors.As(err, &used) || time.Now().After(end) {
			return lock, err
		}
		if waiting != nil {
			waiting()
			waiting = nil
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(again):
		}
	}
}

// Release lets the next one have the folder. A nil lock has none.
func (l *Lock) Release() error {
	if l == nil {
		return nil
	}
	return l.file.Close()
}
