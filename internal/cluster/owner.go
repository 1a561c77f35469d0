package cluster

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"syscall"
)

// Programs is the folder of those of the newest PostgreSQL server installed.
func Programs() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	if len(found) == 0 {
		return "", errors.New("no PostgreSQL server is installed: run `make install`, or `apt-get install postgresql`")
	}
	version := func(path string) int {
		n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(path))))
		return n
	}
	sort.Slice(found, func(i, j int) bool { return version(found[i]) > version(found[j]) })
	return filepath.Dir(found[0]), nil
}

// chooseOwner picks the user the server runs as: the current one, or, because
// PostgreSQL refuses to run as root, the one its package made.
func chooseOwner() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	for _, name := range []string{"postgres", "nobody"} {
		account, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, errUID := strconv.ParseUint(account.Uid, 10, 32)
		gid, errGID := strconv.ParseUint(account.Gid, 10, 32)
		if errUID == nil && errGID == nil {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("PostgreSQL does not run as root, and there is no user postgres or nobody to run it as")
}

// prepare makes the folder and hands it to the owner. Where the owner cannot
// get to it, because a folder above is closed to others, one below the system's
// temporary folder serves instead.
func prepare(options Options, owner *syscall.Credential) (string, error) {
	dir, err := filepath.Abs(options.Dir)
	if err != nil {
		return "", err
	}
	if owner != nil && !openToOthers(filepath.Dir(dir)) {
		sum := sha256.Sum256([]byte(dir))
		closed := dir
		dir = filepath.Join(os.TempDir(), fmt.Sprintf("jundle-%x", sum[:6]))
		options.Say("The user PostgreSQL runs as cannot enter %s; using %s", closed, dir)
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", err
	}
	if owner != nil {
		return dir, os.Chown(dir, int(owner.Uid), int(owner.Gid))
	}
	return dir, nil
}

// openToOthers tells whether any user may pass through a folder and all above.
func openToOthers(dir string) bool {
	for {
		if info, err := os.Stat(dir); err == nil && info.Mode().Perm()&0o001 == 0 {
			return false
		}
		parent := filepath.Dir(dir)
		if parent == dir {
			return true
		}
		dir = parent
	}
}

// command prepares a program that runs as the owner, in a process group of its
// own so that Ctrl-C reaches us first, and that ends when we are killed.
func command(ctx context.Context, owner *syscall.Credential, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: owner, Setpgid: true, Pdeathsig: syscall.SIGINT}
	return cmd
}
