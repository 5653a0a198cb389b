// Package store keeps rigs and bins in one SQLite file. A rig is stored whole,
// one row for every revision; undo, redo and history move along the revisions.
// There is one writer; readers never wait for it (WAL).
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/url"
	"os"

	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver "sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open data file.
type Store struct {
	write *sql.DB // one connection: one writer
	read  *sql.DB
	path  string
}

// pragmas: every confirmed change is on the disk before the answer is sent.
const pragmas = "&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(ON)&_pragma=busy_timeout(5000)"

// readers stay open: opening one costs more than what it is asked.
const readers = 4

// Open opens the data file, making it when it is missing, and brings it to the
// newest form after copying it beside itself.
func Open(ctx context.Context, path string) (*Store, error) {
	steps, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return openWith(ctx, path, steps)
}

func openWith(ctx context.Context, path string, steps fs.FS) (*Store, error) {
	name := "file:" + (&url.URL{Path: path}).EscapedPath()
	write, err := sql.Open("sqlite", name+"?_txlock=immediate"+pragmas)
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	write.SetMaxOpenConns(1)
	s := &Store{write: write, path: path}
	if err := s.migrate(ctx, steps); err != nil {
		return nil, errors.Join(fmt.Errorf("opening %s: %w", path, err), write.Close())
	}
	if s.read, err = sql.Open("sqlite", name+"?mode=ro"+pragmas); err != nil {
		return nil, errors.Join(fmt.Errorf("opening %s for reading: %w", path, err), write.Close())
	}
	s.read.SetMaxOpenConns(readers)
	s.read.SetMaxIdleConns(readers)
	return s, nil
}

// Close closes the data file.
func (s *Store) Close() error { return errors.Join(s.read.Close(), s.write.Close()) }

func (s *Store) migrate(ctx context.Context, steps fs.FS) error {
	provider, err := goose.NewProvider(goose.DialectSQLite3, s.write, steps)
	if err != nil {
		return fmt.Errorf("preparing migrations: %w", err)
	}
	pending, err := provider.HasPending(ctx)
	if err != nil {
		return fmt.Errorf("looking for migrations: %w", err)
	}
	if !pending {
		return nil
	}
	if err := s.copyBefore(ctx, provider); err != nil {
		return err
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrating: %w", err)
	}
	return nil
}

// copyBefore copies a data file that holds something, before it is changed.
func (s *Store) copyBefore(ctx context.Context, provider *goose.Provider) error {
	version, err := provider.GetDBVersion(ctx)
	if err != nil || version == 0 {
		return err
	}
	copy := fmt.Sprintf("%s.before-%d", s.path, version+1)
	if err := os.Remove(copy); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("clearing the way for the copy: %w", err)
	}
	slog.Info("copying the data file before migrating", "to", copy)
	return s.backup(ctx, s.write, copy)
}

// Backup writes a whole copy of the data file to a path that must not exist.
func (s *Store) Backup(ctx context.Context, path string) error { return s.backup(ctx, s.read, path) }

func (s *Store) backup(ctx context.Context, db *sql.DB, path string) error {
	if _, err := db.ExecContext(ctx, "VACUUM INTO ?", path); err != nil {
		return fmt.Errorf("copying the data file to %s: %w", path, err)
	}
	return nil
}

// inTx runs one writing transaction.
func (s *Store) inTx(ctx context.Context, do func(*sql.Tx) error) error {
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return fmt.Errorf("beginning to write: %w", err)
	}
	if err := do(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("keeping the change: %w", err)
	}
	return nil
}
