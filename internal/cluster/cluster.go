// Package cluster runs a private PostgreSQL server for the demo and the tests:
// made with initdb in a folder of its own, reachable on loopback only, with a
// password nobody else knows, and stopped by whoever started it. The system's
// own PostgreSQL is never touched.
package cluster

import (
	"bufio"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"

	"jundle/internal/freeport"
)

// Cluster is a running server.
type Cluster struct {
	dir      string
	port     int
	password string
	server   *exec.Cmd
	exited   chan error
}

// Options say where and how to run.
type Options struct {
	// Dir is where the cluster lives; it is made when missing.
	Dir string
	// Throwaway trades safety against a power cut for speed; for tests.
	Throwaway bool
	// Port on loopback; a free one when 0.
	Port int
	// Say is told what happens, a line at a time.
	Say func(format string, args ...any)
}

const superuser = "jundle"

// Start makes the cluster when it does not exist yet, starts it on a
// loopback port and waits until it answers, at most a minute.
func Start(ctx context.Context, options Options) (*Cluster, error) {
	programs, err := Programs()
	if err != nil {
		return nil, err
	}
	owner, err := chooseOwner()
	if err != nil {
		return nil, err
	}
	dir, err := prepare(options, owner)
	if err != nil {
		return nil, err
	}
	c := &Cluster{dir: dir, exited: make(chan error, 1)}
	if err := c.initialise(ctx, programs, owner, options.Say); err != nil {
		return nil, err
	}
	if err := stopLeftover(ctx, programs, owner, dir); err != nil {
		return nil, err
	}
	if c.port = options.Port; c.port == 0 {
		found, err := freeport.Find()
		if err != nil {
			return nil, err
		}
		c.port = found.Port
	}
	if err := c.launch(programs, owner, options.Throwaway); err != nil {
		return nil, err
	}
	if err := c.await(ctx); err != nil {
		return nil, errors.Join(err, c.Stop())
	}
	options.Say("PostgreSQL is up on 127.0.0.1:%d, data in %s", c.port, dir)
	return c, nil
}

// URL is the address of a database on this cluster.
func (c *Cluster) URL(database string) string {
	address := url.URL{
		Scheme: "postgres", User: url.UserPassword(superuser, c.password),
		Host: fmt.Sprintf("127.0.0.1:%d", c.port), Path: "/" + database, RawQuery: "sslmode=disable",
	}
	return address.String()
}

// DropDatabase removes a database with all that is in it, if it is there.
func (c *Cluster) DropDatabase(ctx context.Context, name string) error {
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return fmt.Errorf("connect to the private PostgreSQL: %w", err)
	}
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, "drop database if exists "+pgx.Identifier{name}.Sanitize()+" with (force)")
	return err
}

// CreateDatabase makes a database unless it is there already.
func (c *Cluster) CreateDatabase(ctx context.Context, name string) error {
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return fmt.Errorf("connect to the private PostgreSQL: %w", err)
	}
	defer conn.Close(ctx)
	var exists bool
	if err := conn.QueryRow(ctx, "select exists (select from pg_database where datname = $1)", name).Scan(&exists); err != nil || exists {
		return err
	}
	_, err = conn.Exec(ctx, "create database "+pgx.Identifier{name}.Sanitize())
	return err
}

// Running tells whether the server is there.
func (c *Cluster) Running() bool {
	select {
	case err := <-c.exited:
		c.exited <- err
		return false
	default:
		return true
	}
}

// Stop shuts the server down, ending open connections, and waits for it.
func (c *Cluster) Stop() error {
	if err := c.server.Process.Signal(syscall.SIGINT); err != nil && !errors.Is(err, os.ErrProcessDone) {
		return err
	}
	select {
	case <-c.exited:
		return nil
	case <-time.After(30 * time.Second):
		return c.server.Process.Kill()
	}
}

func (c *Cluster) initialise(ctx context.Context, programs string, owner *syscall.Credential, say func(string, ...any)) error {
	secret := filepath.Join(c.dir, "password")
	data := filepath.Join(c.dir, "pgdata")
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); err == nil {
		kept, err := os.ReadFile(secret)
		c.password = strings.TrimSpace(string(kept))
		return err
	}
	say("Making a private PostgreSQL cluster in %s", data)
	c.password = rand.Text()
	if err := os.WriteFile(secret, []byte(c.password+"\n"), 0o600); err != nil {
		return err
	}
	if owner != nil {
		if err := os.Chown(secret, int(owner.Uid), int(owner.Gid)); err != nil {
			return err
		}
	}
	return run(ctx, owner, filepath.Join(programs, "initdb"), "-D", data, "-U", superuser, "--auth=scram-sha-256",
		"--pwfile="+secret, "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync")
}

func (c *Cluster) launch(programs string, owner *syscall.Credential, throwaway bool) error {
	args := []string{
		"-D", filepath.Join(c.dir, "pgdata"), "-h", "127.0.0.1", "-p", fmt.Sprint(c.port),
		"-c", "unix_socket_directories=", "-c", "max_connections=200",
	}
	if throwaway {
		args = append(args, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")
	}
	log, err := os.OpenFile(filepath.Join(c.dir, "postgres.log"), os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o644)
	if err != nil {
		return err
	}
	defer log.Close()
	c.server = command(context.Background(), owner, filepath.Join(programs, "postgres"), args...)
	c.server.Stdout, c.server.Stderr = log, log
	if err := c.server.Start(); err != nil {
		return fmt.Errorf("start PostgreSQL: %w", err)
	}
	go func() { c.exited <- c.server.Wait() }()
	return nil
}

func (c *Cluster) await(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	for {
		conn, err := pgx.Connect(ctx, c.URL("postgres"))
		if err == nil {
			return conn.Close(ctx)
		}
		select {
		case <-c.exited:
			c.exited <- nil
			return fmt.Errorf("PostgreSQL stopped while starting; its log ends:\n%s", c.logTail())
		case <-ctx.Done():
			return fmt.Errorf("PostgreSQL did not answer within a minute: %w", err)
		case <-time.After(50 * time.Millisecond):
		}
	}
}

func (c *Cluster) logTail() string {
	file, err := os.Open(filepath.Join(c.dir, "postgres.log"))
	if err != nil {
		return err.Error()
	}
	defer file.Close()
	var lines []string
	for scanner := bufio.NewScanner(file); scanner.Scan(); {
		lines = append(lines, scanner.Text())
	}
	return strings.Join(lines[max(0, len(lines)-10):], "\n")
}

// stopLeftover ends a server that an earlier run left behind when it was killed.
func stopLeftover(ctx context.Context, programs string, owner *syscall.Credential, dir string) error {
	control := filepath.Join(programs, "pg_ctl")
	data := filepath.Join(dir, "pgdata")
	if run(ctx, owner, control, "status", "-D", data) != nil {
		return nil
	}
	return run(ctx, owner, control, "stop", "-D", data, "-m", "fast", "-w")
}

func run(ctx context.Context, owner *syscall.Credential, name string, args ...string) error {
	var output strings.Builder
	cmd := command(ctx, owner, name, args...)
	cmd.Stdout, cmd.Stderr = io.Writer(&output), io.Writer(&output)
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%s: %w\n%s", filepath.Base(name), err, output.String())
	}
	return nil
}
