package eventlog

import (
	"errors"
	"fmt"
	"log/slog"
	"net"
	"time"

	"github.com/nats-io/nats-server/v2/server"

	"jundle/internal/folder"
)

// embedded is a JetStream server inside this process. Nothing outside can reach
// it.
type embedded struct {
	server *server.Server
	lock   *folder.Lock
}

func startEmbedded(options Options) (*embedded, error) {
	// Two servers in one folder would spoil each other's files.
	lock, err := folder.Take(options.Dir)
	if err != nil {
		return nil, fmt.Errorf("give each process a JUNDLE_DATA_DIR of its own, or use a cluster: %w", err)
	}
	srv, err := server.NewServer(&server.Options{
		ServerName: "jundle", DontListen: true, JetStream: true, StoreDir: options.Dir, NoSigs: true,
		JetStreamMaxMemory: 1 << 20, JetStreamMaxStore: 2 * options.MaxBytes,
		// What the system has not written yet when the power fails is lost; this
		// bounds it to a second. A killed process loses nothing.
		SyncInterval: time.Second,
		// The batch of events in an entry is larger than a usual message.
		MaxPayload: maxEntry,
	})
	if err != nil {
		_ = lock.Release()
		return nil, fmt.Errorf("make the log's server: %w", err)
	}
	srv.SetLoggerV2(quiet{}, false, false, false)
	srv.Start()
	e := &embedded{server: srv, lock: lock}
	switch {
	case !srv.ReadyForConnections(5 * time.Second):
		err = errors.New("the log's server does not start")
	case !srv.JetStreamEnabled():
		err = errors.New("the log's server cannot use its folder")
	}
	if err != nil {
		e.stop()
		return nil, err
	}
	return e, nil
}

// maxEntry is the largest entry, in bytes.
const maxEntry = 8 << 20

// InProcessConn lets the client in.
func (e *embedded) InProcessConn() (net.Conn, error) { return e.server.InProcessConn() }

func (e *embedded) stop() {
	e.server.Shutdown()
	e.server.WaitForShutdown()
	_ = e.lock.Release()
}

// quiet passes on what the server warns of.
type quiet struct{}

func (quiet) Noticef(string, ...any) {}
func (quiet) Debugf(string, ...any)  {}
func (quiet) Tracef(string, ...any)  {}
func (quiet) Warnf(format string, args ...any) {
	slog.Warn("log's server: " + fmt.Sprintf(format, args...))
}

func (quiet) Errorf(format string, args ...any) {
	slog.Error("log's server: " + fmt.Sprintf(format, args...))
}
func (quiet) Fatalf(format string, args ...any) { quiet{}.Errorf(format, args...) }
