// Package store keeps rigs and the parts of the bins in one SQLite file. A thing
// is stored whole, one row for every revision; undo, redo and history move along
// the revisions. There is one writer; readers never wait for it (WAL).
//
// A data file is refused, in a sentence and untouched, when it is not Kolvan's;
// it is watched while it is open (held.go), and every revision carries a
// checksum, so that one damaged row harms no other (check.go).
package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"sync"

	"github.com/gofrs/flock"
)

// Store is an open data file.
type Store struct {
	write    *prepared // one connection: one writer; nil in a file that can only be read
	read     *prepared
	path     string
	identity Identity

	turn   sync.Mutex // one change after another
	mu     sync.Mutex // guards watch, writes and closed; never held for long: readers take it too
	closed bool
	watch  *watch
	writes int
	gather *prepared      // one connection, for the log alone
	behind sync.WaitGroup // the log is being worked in
	lock   *flock.Flock   // held while serving
}

// A Mode says how a data file is opened.
type Mode int

// The modes, to be joined.
const (
	Existing Mode = 1 << iota // it must be there
	Serving                   // by nobody else at the same time
)

// pragmas: every confirmed change is on the disk before the answer is sent. The
// log is worked in under watch alone, so never by itself.
const pragmas = "_pragma=busy_timeout(700)&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(ON)&_pragma=wal_autocheckpoint(0)"

// readers stay open: opening one costs more than what it is asked.
const readers = 4

// writesToCheckpoint is how many changes gather in the log before it is worked
// into the data file.
const writesToCheckpoint = 200

// Open opens the data file, making it when it is missing, and brings it to the
// newest form after copying it beside itself. A file without leave to be written
// is opened for reading alone (see ReadOnly). An error for a person to read is an
// *Unavailable.
func Open(ctx context.Context, path string, modes ...Mode) (*Store, error) {
	all := Mode(0)
	for _, m := range modes {
		all |= m
	}
	steps, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	s, err := openWith(ctx, path, all, steps)
	if err != nil {
		return nil, err
	}
	return s, nil
}

func openWith(ctx context.Context, path string, mode Mode, steps fs.FS) (*Store, error) {
	head, missing, err := inspect(path)
	switch {
	case err != nil:
		return nil, err
	case missing && mode&Existing != 0:
		return nil, unavailable(fs.ErrNotExist, "there is no data file at %s", path)
	case !missing && head.application == 0:
		if err := isOurs(ctx, path); err != nil {
			return nil, err
		}
	}
	s := &Store{path: path}
	if !missing && !writable(path) {
		return s, s.openToRead(ctx, steps)
	}
	if mode&Serving != 0 {
		if s.lock, err = hold(path); err != nil {
			return nil, err
		}
	}
	if err := s.openToWrite(ctx, missing, steps); err != nil {
		return nil, errors.Join(s.explain(err), s.abandon(missing))
	}
	return s, nil
}

// abandon lets go of what a failed opening had taken, and of a file it made.
func (s *Store) abandon(made bool) error {
	var errs []error
	for _, db := range []*prepared{s.read, s.gather, s.write} {
		if db != nil {
			errs = append(errs, db.Close())
		}
	}
	if made {
		for _, beside := range []string{"", "-wal", "-shm", ".held"} {
			_ = os.Remove(s.path + beside) // may never have been there
		}
	}
	if s.lock != nil {
		errs = append(errs, s.lock.Unlock())
	}
	return errors.Join(errs...)
}

func (s *Store) openToWrite(ctx context.Context, missing bool, steps fs.FS) (err error) {
	if missing {
		if err := renew(ctx, s.path); err != nil {
			return err
		}
	} else {
		foreignLog(s.path)
	}
	s.watch = &watch{path: s.path}
	if err := s.watch.writing(); err != nil {
		return err
	}
	if s.write, err = connect(dsn(s.path, "_txlock=immediate&"+pragmas)); err != nil {
		return err
	}
	s.write.SetMaxOpenConns(1)
	if s.gather, err = connect(dsn(s.path, pragmas)); err != nil {
		return err
	}
	s.gather.SetMaxOpenConns(1)
	if err := s.migrate(ctx, steps); err != nil {
		return err
	}
	if err := s.identify(ctx); err != nil {
		return err
	}
	if err := s.openReaders(dsn(s.path, "mode=ro&"+pragmas)); err != nil {
		return err
	}
	return s.watch.written()
}

// openToRead opens a file that may not be written; it must be of this form
// already.
func (s *Store) openToRead(ctx context.Context, steps fs.FS) error {
	parameters := "mode=ro&immutable=1"
	if walLength(s.path) > 0 {
		parameters = "mode=ro&" + pragmas
	}
	if err := s.openReaders(dsn(s.path, parameters)); err != nil {
		return err
	}
	version, newest, err := versions(ctx, s.read.DB, steps)
	if err == nil && version != newest {
		err = unavailable(nil, "%s is of another version of Kolvan and read-only, so it cannot be brought up to date; let it be written, or work on a copy", s.path)
	}
	if err == nil {
		err = s.read.QueryRowContext(ctx, "PRAGMA user_version").Scan(&s.identity)
	}
	if err != nil {
		return errors.Join(s.explain(err), s.read.Close())
	}
	return nil
}

func (s *Store) openReaders(name string) (err error) {
	if s.read, err = connect(name); err != nil {
		return err
	}
	s.read.SetMaxOpenConns(readers)
	s.read.SetMaxIdleConns(readers)
	return nil
}

// renew gives a data file that nobody has open our number and a new identity, in
// its head. It makes the file where there is none: before any log is kept beside it.
func renew(ctx context.Context, path string) error {
	db, err := sql.Open("sqlite", dsn(path, ""))
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, fmt.Sprintf("PRAGMA application_id = %d; PRAGMA user_version = %d", applicationID, newIdentity()))
	return errors.Join(err, db.Close())
}

// newIdentity is never zero, which is what files had at first.
func newIdentity() Identity {
	var raw [4]byte
	_, _ = rand.Read(raw[:]) // never fails
	return Identity(binary.BigEndian.Uint32(raw[:])&0x7fffffff | 1)
}

// identify reads the file's identity; one that has none yet gets it.
func (s *Store) identify(ctx context.Context) error {
	if err := s.write.QueryRowContext(ctx, "PRAGMA user_version").Scan(&s.identity); err != nil {
		return err
	}
	if s.identity == 0 {
		s.identity = newIdentity()
		stamp := fmt.Sprintf("PRAGMA application_id = %d; PRAGMA user_version = %d", applicationID, s.identity)
		if _, err := s.write.ExecContext(ctx, stamp); err != nil {
			return err
		}
	}
	_, err := s.write.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	return err
}

// ReadOnly reports a data file that can only be read.
func (s *Store) ReadOnly() bool { return s.write == nil }

// Identity tells this data file from every other, a restored one too.
func (s *Store) Identity() Identity { return s.identity }

// Path is where the data file lies.
func (s *Store) Path() string { return s.path }

// Close closes the data file. One that was exchanged under us is left as it is:
// closing it would write our log into what is not ours.
func (s *Store) Close() error {
	s.turn.Lock()
	defer s.turn.Unlock()
	s.behind.Wait()
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.closed {
		return nil
	}
	s.closed = true
	defer s.letGo()
	if s.ReadOnly() {
		return s.read.Close()
	}
	if err := s.watch.check(); err != nil {
		slog.Warn("closing", "err", err)
		return nil
	}
	if err := s.watch.writing(); err != nil {
		return err
	}
	if err := errors.Join(s.read.Close(), s.gather.Close(), s.write.Close()); err != nil {
		return err
	}
	return s.watch.written()
}

func (s *Store) letGo() {
	if s.lock != nil {
		_ = s.lock.Unlock() // goes with the process at the latest
	}
}

// Backup writes a whole copy of the data file, with an identity of its own, to a
// path that must not exist.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Lstat(path); err == nil {
		return unavailable(fs.ErrExist, "%s is there already; a backup goes over nothing", path)
	}
	return s.copyTo(ctx, s.read.DB, path)
}

func (s *Store) copyTo(ctx context.Context, db *sql.DB, path string) error {
	_, err := db.ExecContext(ctx, "VACUUM INTO ?", path)
	if err == nil {
		err = renew(ctx, path)
	}
	if err != nil {
		_ = os.Remove(path) // half a copy helps nobody
		return s.explain(fmt.Errorf("copying the data file to %s: %w", path, err))
	}
	return nil
}

// ready tells whether the file can be read now.
func (s *Store) ready() error {
	if s.ReadOnly() {
		return nil
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if err := s.watch.check(); err != nil && s.watch.lost != nil {
		return err // moved away it can still be read
	}
	return nil
}

// checked tells whether the file is still the one that was opened.
func (s *Store) checked() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.watch.check()
}

// inTx runs one writing transaction.
func (s *Store) inTx(ctx context.Context, do func(*transaction) error) error {
	if s.ReadOnly() {
		return unavailable(nil, "%s is read-only: it can be looked at, and nothing can be changed", s.path)
	}
	s.turn.Lock()
	defer s.turn.Unlock()
	if err := s.checked(); err != nil {
		return err
	}
	tx, err := s.write.begin(ctx)
	if err != nil {
		return s.explain(fmt.Errorf("beginning to write: %w", err))
	}
	if err := do(tx); err != nil {
		_ = tx.Rollback() // what went wrong is said by err
		return s.explain(err)
	}
	if err := tx.Commit(); err != nil {
		return s.explain(fmt.Errorf("keeping the change: %w", err))
	}
	s.gatherLog()
	return nil
}

// gatherLog works the log into the data file when enough has come together: behind the
// answers, for it takes longer than a change, and no change waits for it. That it cannot be
// done now takes nothing from what was kept.
func (s *Store) gatherLog() {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.writes++; s.writes < writesToCheckpoint || s.watch.busy {
		return
	}
	s.writes = 0
	if err := s.watch.writing(); err != nil {
		slog.Warn("the log waits", "err", err)
		return
	}
	s.behind.Go(func() {
		if _, err := s.gather.ExecContext(context.Background(), "PRAGMA wal_checkpoint(PASSIVE)"); err != nil {
			slog.Warn("the log waits", "err", err)
		}
		s.mu.Lock()
		defer s.mu.Unlock()
		if err := s.watch.written(); err != nil {
			slog.Warn("the log waits", "err", err)
		}
	})
}
