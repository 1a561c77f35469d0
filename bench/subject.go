package main

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"jundle/internal/core/page"
	"jundle/internal/demo"
	"jundle/internal/files"
	"jundle/internal/store"
)

var ours = free()

// subject is the program being measured, with the demo's page on it.
type subject struct {
	process     *exec.Cmd
	store       *store.Store
	studio      string // host and port
	page, click string // addresses
	pageBytes   int
	before      int64 // events in the table when it began
}

func prepare(ctx context.Context, dir string) (*subject, error) {
	s, err := store.Open(ctx, os.Getenv("JUNDLE_DATABASE_URL"))
	if err != nil {
		return nil, err
	}
	media := filepath.Join(dir, "media")
	kept, err := files.Open(ctx, media, s, time.Now)
	if err != nil {
		return nil, err
	}
	loaded, _, err := demo.Load(ctx, s, kept, time.Now(), 90)
	if err != nil {
		return nil, err
	}
	subject := &subject{store: s, studio: free(), page: "http://" + ours + "/" + demo.ClayPage + "/loft"}
	live, err := s.LivePage(ctx, demo.ClayPage)
	if err != nil {
		return nil, err
	}
	key := firstButton(live.Document)
	subject.click = fmt.Sprintf("http://%s/%s/-/%d/%s/loft", ours, demo.ClayPage, live.Edition, key)
	if subject.before, err = s.CountEvents(ctx, loaded.Pages[demo.ClayPage].ID); err != nil {
		return nil, err
	}
	subject.process = exec.Command("bin/jundle", "serve")
	subject.process.Env = append(os.Environ(), "JUNDLE_PUBLIC_LISTEN="+ours, "JUNDLE_STUDIO_LISTEN="+subject.studio,
		"JUNDLE_TRUSTED_PROXIES=127.0.0.0/8",
		"JUNDLE_DATA_DIR="+filepath.Join(dir, "events"), "JUNDLE_MEDIA="+media)
	subject.process.Stderr = os.Stderr
	if err := subject.process.Start(); err != nil {
		return nil, err
	}
	if err := listens(ours); err != nil {
		return nil, err
	}
	subject.pageBytes, err = fetch(subject.page)
	return subject, err
}

func firstButton(doc page.Document) string {
	for _, block := range doc.SwitchedOn() {
		if block.Kind == "button" {
			return block.Key
		}
	}
	return ""
}

// fetch returns how many bytes an answer has as it is sent to a phone.
func fetch(address string) (int, error) {
	request, err := http.NewRequest(http.MethodGet, address, nil)
	if err != nil {
		return 0, err
	}
	request.Header.Set("User-Agent", phone)
	request.Header.Set("Accept-Encoding", "gzip")
	answer, err := http.DefaultTransport.RoundTrip(request)
	if err != nil {
		return 0, err
	}
	defer answer.Body.Close()
	body, err := io.ReadAll(answer.Body)
	return len(body), err
}

// memory is what the system says of the memory of the process under a name, in
// bytes (Linux, proc(5)).
func (s *subject) memory(name string) (int, error) {
	file, err := os.Open(fmt.Sprintf("/proc/%d/status", s.process.Process.Pid))
	if err != nil {
		return 0, err
	}
	defer file.Close()
	for lines := bufio.NewScanner(file); lines.Scan(); {
		if rest, found := strings.CutPrefix(lines.Text(), name+":"); found {
			kilobytes, err := strconv.Atoi(strings.TrimSuffix(strings.TrimSpace(rest), " kB"))
			return kilobytes << 10, err
		}
	}
	return 0, fmt.Errorf("the system does not say how much memory the process had")
}

// complete says how many of the answers are in the table, once the log is empty.
func (s *subject) complete(ctx context.Context, answered int) error {
	live, err := s.store.LivePage(ctx, demo.ClayPage)
	if err != nil {
		return err
	}
	var stored int64
	for range 600 {
		if stored, err = s.store.CountEvents(ctx, live.PageID); err != nil {
			return err
		}
		if stored -= s.before; stored >= int64(answered) {
			break
		}
		time.Sleep(100 * time.Millisecond)
	}
	fmt.Printf("Answers counted by wrk: %d; events in the table: %d (those under way when wrk stopped are more).\n", answered, stored)
	if stored < int64(answered) {
		return fmt.Errorf("%d answers are not in the table", int64(answered)-stored)
	}
	return nil
}

func (s *subject) stop() {
	_ = s.process.Process.Signal(syscall.SIGTERM)
	_ = s.process.Wait()
	s.store.Close()
}
