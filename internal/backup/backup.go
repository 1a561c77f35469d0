// Package backup writes the database, the keys in it and the files of creators into one folder, and
// reads them back. It knows no rules: the database is PostgreSQL's own dump, the files are copied as
// they are.
package backup

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"time"

	"github.com/jackc/pgx/v5"
	"gocloud.dev/blob"

	"jundle/internal/cluster"
	"jundle/internal/files"
)

// What a backup is made of.
const (
	dumpFile     = "database.dump"
	mediaFolder  = "media"
	manifestFile = "manifest.json"
)

// format is the version of the layout of a backup.
const format = 1

// Manifest says what a backup holds. A folder without one is no whole backup.
type Manifest struct {
	Format int       `json:"format"`
	At     time.Time `json:"at"`
	// DumpSHA256 is of the dump of the database.
	DumpSHA256 string `json:"dumpSHA256"`
	// Files is how many there are, Bytes what they come to, and FilesSHA256 of the list of their names,
	// sizes and digests, in the order of their names.
	Files       int    `json:"files"`
	Bytes       int64  `json:"bytes"`
	FilesSHA256 string `json:"filesSHA256"`
}

// Parts are what is backed up, or restored to.
type Parts struct {
	// DatabaseURL is the address of the PostgreSQL database, Media the place of the files.
	DatabaseURL, Media string
	Now                func() time.Time
	// Progress is told how many files were copied.
	Progress func(files int)
}

// Write makes a backup in a folder that is not there yet. The database goes first and the files after
// it, so that no file is missing that the database names; both may be in use. What is broken off leaves
// a folder that is called .partial and is none.
func Write(ctx context.Context, from Parts, dir string) (Manifest, error) {
	if _, err := os.Stat(dir); !errors.Is(err, os.ErrNotExist) {
		return Manifest{}, fmt.Errorf("%s is there already; a backup wants a folder of its own", dir)
	}
	partial := dir + ".partial"
	if err := os.RemoveAll(partial); err != nil {
		return Manifest{}, err
	}
	if err := os.MkdirAll(partial, 0o700); err != nil {
		return Manifest{}, err
	}
	made := Manifest{Format: format, At: from.Now().UTC()}
	dump := filepath.Join(partial, dumpFile)
	err := program(ctx, from.DatabaseURL, "pg_dump", "--format=custom", "--no-owner", "--file="+dump)
	if err != nil {
		return made, err
	}
	if made.DumpSHA256, err = digest(dump); err != nil {
		return made, err
	}
	source, err := files.OpenBucket(ctx, from.Media)
	if err != nil {
		return made, err
	}
	defer source.Close()
	target, err := files.OpenBucket(ctx, filepath.Join(partial, mediaFolder))
	if err != nil {
		return made, err
	}
	defer target.Close()
	if err := made.copyFiles(ctx, source, target, from.Progress); err != nil {
		return made, err
	}
	text, err := json.MarshalIndent(made, "", "  ")
	if err != nil {
		return made, err
	}
	if err := os.WriteFile(filepath.Join(partial, manifestFile), text, 0o600); err != nil {
		return made, err
	}
	return made, os.Rename(partial, dir)
}

// Read brings a backup back: into a database without tables, and beside the files that are there. It
// looks first whether the backup is whole.
func Read(ctx context.Context, to Parts, dir string) (Manifest, error) {
	made, err := check(dir)
	if err != nil {
		return made, err
	}
	if err := empty(ctx, to.DatabaseURL); err != nil {
		return made, err
	}
	source, err := files.OpenBucket(ctx, filepath.Join(dir, mediaFolder))
	if err != nil {
		return made, err
	}
	defer source.Close()
	target, err := files.OpenBucket(ctx, to.Media)
	if err != nil {
		return made, err
	}
	defer target.Close()
	var copied Manifest
	if err := copied.copyFiles(ctx, source, target, to.Progress); err != nil {
		return made, err
	}
	if copied.FilesSHA256 != made.FilesSHA256 {
		return made, fmt.Errorf("the files in %s are not those that were backed up; the database was not touched", dir)
	}
	// All of it or nothing.
	return made, program(ctx, to.DatabaseURL, "pg_restore", "--no-owner", "--exit-on-error", "--single-transaction",
		filepath.Join(dir, dumpFile))
}

// check reads what a backup says it holds, and looks whether the dump is that.
func check(dir string) (made Manifest, err error) {
	text, err := os.ReadFile(filepath.Join(dir, manifestFile))
	if err != nil {
		return made, fmt.Errorf("%s is no whole backup: %w", dir, err)
	}
	if err := json.Unmarshal(text, &made); err != nil {
		return made, fmt.Errorf("read %s: %w", manifestFile, err)
	}
	if made.Format != format {
		return made, fmt.Errorf("this backup has format %d, and this version of the program reads %d", made.Format, format)
	}
	sum, err := digest(filepath.Join(dir, dumpFile))
	if err == nil && sum != made.DumpSHA256 {
		err = fmt.Errorf("%s is not what was written; the backup is damaged", dumpFile)
	}
	return made, err
}

// empty refuses a database that holds anything.
func empty(ctx context.Context, address string) error {
	conn, err := pgx.Connect(ctx, address)
	if err != nil {
		return fmt.Errorf("open the database: %w", err)
	}
	defer conn.Close(context.WithoutCancel(ctx))
	var tables int
	err = conn.QueryRow(ctx, "select count(*) from pg_tables where schemaname not in ('pg_catalog', 'information_schema')").Scan(&tables)
	if err == nil && tables > 0 {
		err = fmt.Errorf("the database holds %d tables; a backup is restored into an empty one, so that nothing is lost", tables)
	}
	return err
}

// copyFiles copies all files, one after the other, and notes what they are.
func (m *Manifest) copyFiles(ctx context.Context, from, to *blob.Bucket, progress func(int)) error {
	list := sha256.New()
	for each := from.List(nil); ; {
		one, err := each.Next(ctx)
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return fmt.Errorf("list the files: %w", err)
		}
		sum, size, err := copyFile(ctx, from, to, one.Key)
		if err != nil {
			return fmt.Errorf("copy the file %s: %w", one.Key, err)
		}
		_, _ = fmt.Fprintf(list, "%s %d %s\n", one.Key, size, sum)
		m.Files++
		m.Bytes += size
		progress(m.Files)
	}
	m.FilesSHA256 = hex.EncodeToString(list.Sum(nil))
	return nil
}

func copyFile(ctx context.Context, from, to *blob.Bucket, key string) (sum string, size int64, err error) {
	reader, err := from.NewReader(ctx, key, nil)
	if err != nil {
		return "", 0, err
	}
	defer reader.Close()
	writing, broken := context.WithCancel(ctx)
	defer broken()
	writer, err := to.NewWriter(writing, key, &blob.WriterOptions{ContentType: reader.ContentType()})
	if err != nil {
		return "", 0, err
	}
	hash := sha256.New()
	size, err = io.Copy(io.MultiWriter(writer, hash), reader)
	if err != nil {
		broken() // what was written of it is not kept
	}
	return hex.EncodeToString(hash.Sum(nil)), size, errors.Join(err, writer.Close())
}

func digest(path string) (string, error) {
	file, err := os.Open(path)
	if err != nil {
		return "", err
	}
	defer file.Close()
	hash := sha256.New()
	_, err = io.Copy(hash, file)
	return hex.EncodeToString(hash.Sum(nil)), err
}

// program runs one of PostgreSQL's on a database. The password goes by the environment: what stands on
// a command line can be read by everybody on the machine.
func program(ctx context.Context, address, name string, args ...string) error {
	dir, err := cluster.Programs()
	if err != nil {
		return err
	}
	parsed, err := url.Parse(address)
	if err != nil {
		return errors.New("JUNDLE_DATABASE_URL is no address")
	}
	environment := os.Environ()
	if password, set := parsed.User.Password(); set {
		environment = append(environment, "PGPASSWORD="+password)
		parsed.User = url.User(parsed.User.Username())
	}
	command := exec.CommandContext(ctx, filepath.Join(dir, name), append(args, "--dbname="+parsed.String())...)
	command.Env = environment
	if out, err := command.CombinedOutput(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, out)
	}
	return nil
}
