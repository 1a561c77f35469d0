package certificates

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"strings"
	"sync"
	"time"

	"github.com/caddyserver/certmagic"
	"github.com/google/uuid"

	"jundle/internal/store"
)

const (
	// lockHolds is for how long a lock is held unless it is taken anew: who ends without giving it
	// back keeps the others waiting no longer.
	lockHolds = 30 * time.Second
	// lockAgain is how long to wait until a lock that somebody has is asked for again.
	lockAgain = 300 * time.Millisecond
)

// storage keeps certificates in the database, so that all processes have the same.
type storage struct {
	store *store.Store
	mu    sync.Mutex
	held  map[string]heldLock
}

type heldLock struct {
	who  uuid.UUID
	stop context.CancelFunc
}

var _ certmagic.Storage = (*storage)(nil)

func newStorage(kept *store.Store) *storage {
	return &storage{store: kept, held: make(map[string]heldLock)}
}

// Store implements certmagic.Storage.
func (s *storage) Store(ctx context.Context, key string, value []byte) error {
	return s.store.WriteCertificateFile(ctx, store.CertificateFile{Name: key, Content: value, ModifiedAt: time.Now()})
}

// Load implements certmagic.Storage.
func (s *storage) Load(ctx context.Context, key string) ([]byte, error) {
	one, err := s.store.CertificateFile(ctx, key)
	return one.Content, missing(err)
}

// missing is the error that the library knows for what is not there.
func missing(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return fs.ErrNotExist
	}
	return err
}

// Delete implements certmagic.Storage.
func (s *storage) Delete(ctx context.Context, key string) error {
	return s.store.DeleteCertificateFiles(ctx, key)
}

// Exists implements certmagic.Storage.
func (s *storage) Exists(ctx context.Context, key string) bool {
	_, err := s.store.CertificateFile(ctx, key)
	return err == nil
}

// List implements certmagic.Storage.
func (s *storage) List(ctx context.Context, path string, recursive bool) ([]string, error) {
	names, err := s.store.CertificateFiles(ctx, path)
	if err != nil || recursive {
		return names, err
	}
	var direct []string
	for _, name := range names {
		rest := strings.TrimPrefix(strings.TrimPrefix(name, path), "/")
		first, _, _ := strings.Cut(rest, "/")
		one := strings.TrimPrefix(path+"/"+first, "/")
		if len(direct) == 0 || direct[len(direct)-1] != one {
			direct = append(direct, one)
		}
	}
	return direct, nil
}

// Stat implements certmagic.Storage.
func (s *storage) Stat(ctx context.Context, key string) (certmagic.KeyInfo, error) {
	one, err := s.store.CertificateFile(ctx, key)
	return certmagic.KeyInfo{Key: key, Modified: one.ModifiedAt, Size: int64(len(one.Content)), IsTerminal: true}, missing(err)
}

// Lock implements certmagic.Locker: it waits until nobody else has the lock.
func (s *storage) Lock(ctx context.Context, name string) error {
	who := uuid.New()
	for {
		now := time.Now()
		taken, err := s.store.TakeCertificateLock(ctx, name, who, now, now.Add(lockHolds))
		if err != nil {
			return fmt.Errorf("take the lock %s: %w", name, err)
		}
		if taken {
			break
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(lockAgain):
		}
	}
	holding, stop := context.WithCancel(context.WithoutCancel(ctx))
	s.mu.Lock()
	s.held[name] = heldLock{who, stop}
	s.mu.Unlock()
	go s.hold(holding, name, who)
	return nil
}

// hold takes a lock anew until it is given back.
func (s *storage) hold(ctx context.Context, name string, who uuid.UUID) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(lockHolds / 3):
		}
		now := time.Now()
		if _, err := s.store.TakeCertificateLock(ctx, name, who, now, now.Add(lockHolds)); err != nil && ctx.Err() == nil {
			slog.Warn("a lock on a certificate was not taken anew", "lock", name, "error", err)
		}
	}
}

// Unlock implements certmagic.Locker.
func (s *storage) Unlock(ctx context.Context, name string) error {
	s.mu.Lock()
	lock, held := s.held[name]
	delete(s.held, name)
	s.mu.Unlock()
	if !held {
		return fmt.Errorf("the lock %s is not held here", name)
	}
	lock.stop()
	return s.store.LeaveCertificateLock(context.WithoutCancel(ctx), name, lock.who)
}
