// Package store keeps everything that lasts in PostgreSQL: its models, its
// queries and its migrations. Queries on behalf of a member take the member's
// workspace and look only there; what is not found and what belongs to somebody
// else are the same answer, ErrNotFound.
//
// It decides nothing: rules are in core.
package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"

	"jundle/internal/core/page"
)

// Errors that callers tell apart.
var (
	ErrNotFound     = errors.New("not found")
	ErrEmailTaken   = errors.New("e-mail address already registered")
	ErrAddressTaken = errors.New("page address already taken")
	ErrTagTaken     = errors.New("tag already in use on this page")
	ErrStale        = errors.New("made on an older revision")
)

// Migrations are the files that make the tables, in the folder "migrations".
//
//go:embed migrations/*.sql
var Migrations embed.FS

// Store is a way to the database, through a pool of connections of its own.
type Store struct {
	db           *gorm.DB
	pool         *pgxpool.Pool
	quotas       Quotas
	partitions   *partitions
	timetables   *lru.Cache[editionID, page.Timetable] // of editions
	userAgents   *userAgents
	clickTargets *clickTargets
	orders       *river.Client[*sql.Tx] // takes orders for jobs, and does none
}

// Options say how a store is opened; the zero value is fit for a test.
type Options struct {
	Quotas Quotas // DefaultQuotas when zero
	// Connections bounds the pool; the driver's default when 0.
	Connections int
	// Within bounds each statement; without bounds when 0.
	Within time.Duration
}

// Open connects and brings the schema up to date. Several processes may open at
// once: an advisory lock lets one migrate and the others wait.
func Open(ctx context.Context, databaseURL string, options ...Options) (*Store, error) {
	chosen := Options{}
	if len(options) > 0 {
		chosen = options[0]
	}
	s, err := connect(ctx, databaseURL, chosen)
	if err != nil {
		return nil, err
	}
	err = migrate(ctx, stdlib.OpenDBFromPool(s.pool))
	if err == nil {
		err = migrateJobs(ctx, s.pool)
	}
	if err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}

func connect(ctx context.Context, databaseURL string, options Options) (*Store, error) {
	config, err := pgxpool.ParseConfig(databaseURL)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	if options.Connections > 0 {
		config.MaxConns = int32(options.Connections)
	}
	if options.Within > 0 {
		config.ConnConfig.RuntimeParams["statement_timeout"] = strconv.FormatInt(options.Within.Milliseconds(), 10)
	}
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: stdlib.OpenDBFromPool(pool)}), &gorm.Config{
		Logger: logger.Discard, TranslateError: false, SkipDefaultTransaction: true, DisableAutomaticPing: true,
	})
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("open database: %w", err)
	}
	if options.Quotas == (Quotas{}) {
		options.Quotas = DefaultQuotas
	}
	orders, err := river.NewClient(riverdatabasesql.New(nil), &river.Config{})
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("make the orders of jobs ready: %w", err)
	}
	timetables, _ := lru.New[editionID, page.Timetable](knownEditions)
	return &Store{
		db:         db,
		pool:       pool,
		quotas:     options.Quotas,
		partitions: &partitions{there: make(map[string]bool)},
		timetables: timetables,
		userAgents: newUserAgents(), clickTargets: newClickTargets(),
		orders: orders,
	}, nil
}

// Pools says how many connections each kind of work has to itself, so that none
// can keep another waiting.
type Pools struct{ Visitors, Studio, Background int }

// Stores are the ways to the database of one process: for what visitors ask for,
// for what creators do, and for what is done behind both. Each has a pool of its
// own.
type Stores struct{ Visitors, Studio, Background *Store }

// How long a statement may take for whom somebody waits.
const (
	visitorsWait = 10 * time.Second
	creatorsWait = 40 * time.Second
)

// OpenAll is Open for a process that serves.
func OpenAll(ctx context.Context, databaseURL string, pools Pools, quotas Quotas) (Stores, error) {
	var all Stores
	var err error
	if all.Background, err = Open(ctx, databaseURL, Options{Quotas: quotas, Connections: pools.Background}); err != nil {
		return all, err
	}
	all.Visitors, err = connect(ctx, databaseURL, Options{Quotas: quotas, Connections: pools.Visitors, Within: visitorsWait})
	if err == nil {
		all.Studio, err = connect(ctx, databaseURL, Options{Quotas: quotas, Connections: pools.Studio, Within: creatorsWait})
	}
	if err != nil {
		all.Close()
	}
	return all, err
}

// Alone lets one store do all the work, in tests.
func Alone(s *Store) Stores { return Stores{s, s, s} }

// Close ends all connections.
func (a Stores) Close() {
	for _, one := range []*Store{a.Visitors, a.Studio, a.Background} {
		if one != nil {
			one.Close()
		}
	}
}

func migrate(ctx context.Context, conn *sql.DB) error {
	files, err := fs.Sub(Migrations, "migrations")
	if err != nil {
		return err
	}
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, conn, files, goose.WithSessionLocker(locker),
		goose.WithGoMigrations(fillEditionRows, fillDestinations, fillClickTargets, keepEither))
	if err != nil {
		return fmt.Errorf("migrations: %w", err)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrate the database: %w", err)
	}
	return nil
}

// Close ends all connections.
func (s *Store) Close() { s.pool.Close() }

// Ping tells whether the database answers.
func (s *Store) Ping(ctx context.Context) error { return s.pool.Ping(ctx) }

// Key returns the installation's secret of that name, 32 random bytes made when
// it is first asked for.
func (s *Store) Key(ctx context.Context, name string) ([]byte, error) {
	fresh := make([]byte, 32)
	_, _ = rand.Read(fresh)
	return s.once(ctx, "keys", map[string]any{"name": name}, "value", fresh)
}

// Salt returns the random salt of a UTC day, made when it is first asked for.
func (s *Store) Salt(ctx context.Context, day time.Time) ([]byte, error) {
	fresh := make([]byte, 32)
	_, _ = rand.Read(fresh)
	return s.once(ctx, "salts", map[string]any{"day": day.UTC().Format(time.DateOnly)}, "salt", fresh)
}

// once inserts a row unless one with that key is there, and returns what is
// there then, whoever inserted it.
func (s *Store) once(ctx context.Context, table string, key map[string]any, column string, value []byte) ([]byte, error) {
	row := map[string]any{column: value}
	for name, part := range key {
		row[name] = part
	}
	var kept []byte
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Table(table).Clauses(clause.OnConflict{DoNothing: true}).Create(row).Error; err != nil {
			return err
		}
		return tx.Table(table).Where(key).Select(column).Row().Scan(&kept)
	})
	return kept, err
}

// DestroySalts removes the salts of days before that one.
func (s *Store) DestroySalts(ctx context.Context, before time.Time) error {
	return s.db.WithContext(ctx).Exec("delete from salts where day < ?", before.UTC().Format(time.DateOnly)).Error
}

// violates tells whether an error is a broken constraint of that name.
func violates(err error, constraint string) bool {
	var broken *pgconn.PgError
	return errors.As(err, &broken) && broken.ConstraintName == constraint
}

// foundRow is ErrNotFound for a change of nothing.
func foundRow(done *gorm.DB) error {
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// found turns gorm's missing record into ErrNotFound.
func found(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}
