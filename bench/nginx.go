package main

import (
	"crypto/rand"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"time"

	"jundle/internal/freeport"
)

var nginxListen, nginx = func() (string, string) {
	address := free()
	return address, "http://" + address
}()

// free is an address on loopback that nobody listens on.
func free() string {
	address, err := freeport.Find()
	if err != nil {
		panic(err) // there is no loopback to measure on
	}
	return address.String()
}

// startNginx serves a bare redirect and a static file of that many bytes.
func startNginx(dir string, bytes int) (stop func(), err error) {
	root := filepath.Join(dir, "html")
	page := make([]byte, bytes)
	_, _ = rand.Read(page)
	if err := os.MkdirAll(root, 0o755); err != nil {
		return nil, err
	}
	if err := os.WriteFile(filepath.Join(root, "page.html"), page, 0o644); err != nil {
		return nil, err
	}
	if err := os.Chmod(dir, 0o755); err != nil { // its workers are another user
		return nil, err
	}
	temp := ""
	for _, kind := range []string{"client_body", "proxy", "fastcgi", "uwsgi", "scgi"} {
		temp += fmt.Sprintf("%s_temp_path %s/%s; ", kind, dir, kind)
	}
	file := filepath.Join(dir, "nginx.conf")
	config := fmt.Sprintf(`worker_processes auto; daemon off; pid %[1]s/nginx.pid; error_log %[1]s/nginx.log;
events { worker_connections 1024; }
http { access_log off; sendfile on; tcp_nopush on; keepalive_requests 100000000; types { text/html html; } %[2]s
  server { listen %[4]s; root %[3]s; location = /redirect { return 302 https://kiln.example/; } } }
`, dir, temp, root, nginxListen)
	if err := os.WriteFile(file, []byte(config), 0o644); err != nil {
		return nil, err
	}
	server := exec.Command("nginx", "-c", file)
	server.Stdout, server.Stderr = os.Stderr, os.Stderr
	if err := server.Start(); err != nil {
		return nil, fmt.Errorf("nginx (a package of Debian's): %w", err)
	}
	stop = func() {
		_ = server.Process.Signal(syscall.SIGTERM) // killed, it would leave its workers behind
		_ = server.Wait()
	}
	return stop, listens(nginxListen)
}

// listens waits until something does.
func listens(address string) error {
	var err error
	for range 200 {
		var conn net.Conn
		if conn, err = net.Dial("tcp", address); err == nil {
			return conn.Close()
		}
		time.Sleep(50 * time.Millisecond)
	}
	return err
}
