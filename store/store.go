// Package store keeps rigs and the parts of the bins in one SQLite file. A thing
// is stored whole, one row for every revision; undo, redo and history move along
// the revisions. There is one writer; readers never wait for it (WAL).
//
// A data file is refused, in a sentence and untouched, when it is not Kolvan's; it is
// shared with other processes of ours and watched while it is open (held.go), and every
// revision carries a checksum, so that one damaged row harms no other (check.go). Several
// can be open at once.
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
	gather   *prepared // one connection, for the log alone
	path     string
	identity Identity
	serving  *flock.Flock // held while serving; else nil
	held     *flock.Flock // shared with whoever has the log open

	turn   sync.Mutex // one change after another
	mu     sync.Mutex // guards what follows; never held for long: readers take it too
	closed bool
	watch  *watch
	writes int            // since the log was worked in
	behind sync.WaitGroup // the log is being worked in
	busy   bool           // it is, or waits to be
}

// A Mode says how a data file is opened.
type Mode int

// The modes, to be joined.
const (
	Existing Mode = 1 << iota // it must be there
	Serving                   // by nobody else at the same time
)

// pragmas: every confirmed change is on the disk before the answer is sent. The log is
// worked in by who serves the file, so never by itself. Another process of ours is waited
// for.
const pragmas = "_pragma=busy_timeout(4000)&_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(ON)&_pragma=wal_autocheckpoint(0)"

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
	missing, err := inspect(ctx, path)
	switch {
	case err != nil:
		return nil, err
	case missing && mode&Existing != 0:
		return nil, unavailable(fs.ErrNotExist, "there is no data file at %s", path)
	}
	s := &Store{path: path}
	if !missing && !writable(path) {
		return s, s.openToRead(ctx, steps)
	}
	if mode&Serving != 0 {
		if s.serving, err = hold(path); err != nil {
			return nil, err
		}
	}
	made, err := s.openToWrite(ctx, steps)
	if err != nil {
		return nil, errors.Join(s.explain(err), s.abandon(made))
	}
	return s, nil
}

// abandon lets go of what a failed opening had taken, and of a file it made.
func (s *Store) abandon(made bool) error {
	err := s.disconnect()
	if made {
		for _, beside := range []string{"", "-wal", "-shm", ".held"} {
			_ = os.Remove(s.path + beside) // may never have been there
		}
	}
	s.letGo()
	return err
}

// disconnect closes what is open of the file.
func (s *Store) disconnect() error {
	var errs []error
	for _, db := range []*prepared{s.read, s.gather, s.write} {
		if db != nil {
			errs = append(errs, db.Close())
		}
	}
	if s.watch != nil {
		s.watch.file.letGo() // after SQLite has taken its locks off
	}
	return errors.Join(errs...)
}

// letGo takes our own locks off; at the latest they go with the process.
func (s *Store) letGo() {
	for _, lock := range []*flock.Flock{s.held, s.serving} {
		if lock != nil {
			_ = lock.Unlock()
		}
	}
}

// openToWrite opens the file together with whoever has it open. Who is alone with it makes
// it where it is missing, and brings it up to date.
func (s *Store) openToWrite(ctx context.Context, steps fs.FS) (made bool, err error) {
	var alone bool
	if s.held, alone, err = share(ctx, s.path); err != nil {
		return false, err
	}
	missing, err := inspect(ctx, s.path) // others may have made it meanwhile
	switch {
	case err != nil:
		return false, err
	case missing && !alone:
		return false, unavailable(nil, "the data file is not at %s any more, and another Kolvan has it open: stop that one first", s.path)
	case missing:
		made, err = true, renew(ctx, s.path)
	case alone:
		err = adopt(ctx, s.path)
	}
	if err != nil {
		return made, err
	}
	if err := s.take(alone); err != nil {
		return made, err
	}
	if err := s.connectToWrite(); err != nil {
		return made, err
	}
	if err := s.migrate(ctx, steps, alone); err != nil {
		return made, err
	}
	if alone {
		if err := settled(s.held); err != nil {
			return made, err
		}
	}
	if s.serving != nil {
		if err := s.moveOn(ctx); err != nil {
			return made, err
		}
	}
	return made, s.openReaders(dsn(s.path, "mode=ro&"+pragmas))
}

// take opens the file itself, with the log that is its own.
func (s *Store) take(alone bool) error {
	file, err := grasp(s.path)
	if err != nil {
		return err
	}
	s.watch = &watch{path: s.path, file: file}
	if err := belongs(s.path, file, alone); err != nil {
		return err
	}
	s.watch.stamp, err = file.stamp()
	s.identity = s.watch.stamp.identity()
	return err
}

func (s *Store) connectToWrite() (err error) {
	if s.write, err = connect(dsn(s.path, "_txlock=immediate&"+pragmas)); err != nil {
		return err
	}
	s.write.db.SetMaxOpenConns(1)
	if s.gather, err = connect(dsn(s.path, pragmas)); err != nil {
		return err
	}
	s.gather.db.SetMaxOpenConns(1)
	return nil
}

// moveOn gives the file that is served a stamp that no copy of it has, and works the log in.
func (s *Store) moveOn(ctx context.Context) error {
	if err := s.workIn(ctx); err != nil { // what an end before its time may have left
		return err
	}
	if err := note(s.path, s.watch.stamp); err != nil {
		return err
	}
	if _, err := s.gather.ExecContext(ctx, stampWith(s.watch.stamp.next())); err != nil {
		return err
	}
	s.watch.count = true
	return s.workIn(ctx)
}

// workIn works the log into the data file, as far as no reader needs it, and notes the stamp
// that the file has now.
func (s *Store) workIn(ctx context.Context) error {
	if _, err := s.gather.ExecContext(ctx, "PRAGMA wal_checkpoint(PASSIVE)"); err != nil {
		return err
	}
	now, err := s.watch.file.stamp()
	if err != nil || !now.follows(s.watch.stamp) || now == s.watch.stamp {
		return err // what follows nothing of ours is noticed by the next who looks
	}
	if err := note(s.path, now); err != nil {
		return err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.watch.stamp = now
	return nil
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
	version, newest, err := versions(ctx, s.read.db, steps)
	if err == nil && version != newest {
		err = unavailable(
			nil,
			"%s is of another version of Kolvan and read-only, so it cannot be brought up to date; let it be written, or work on a copy",
			s.path,
		)
	}
	var carries stamp
	if err == nil {
		err = s.read.QueryRowContext(ctx, "PRAGMA user_version").Scan(&carries)
	}
	s.identity = carries.identity()
	if err != nil {
		return errors.Join(s.explain(err), s.read.Close())
	}
	return nil
}

func (s *Store) openReaders(name string) (err error) {
	if s.read, err = connect(name); err != nil {
		return err
	}
	s.read.db.SetMaxOpenConns(readers)
	s.read.db.SetMaxIdleConns(readers)
	return nil
}

// renew gives a data file that nobody has open our number and a new identity, in
// its head. It makes the file where there is none: before any log is kept beside it.
func renew(ctx context.Context, path string) error {
	return withFile(ctx, path, "", stampWith(newStamp()))
}

// adopt does the same for a file of ours that has none yet: files had none at first.
func adopt(ctx context.Context, path string) error {
	head, err := readHead(path)
	if err != nil || head.application == applicationID && head.stamp != 0 {
		return err
	}
	return withFile(ctx, path, pragmas, stampWith(newStamp())+"; PRAGMA wal_checkpoint(TRUNCATE)")
}

// withFile asks something of a file that nobody has open.
func withFile(ctx context.Context, path, parameters, query string) error {
	db, err := sql.Open("sqlite", dsn(path, parameters))
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, query)
	return errors.Join(err, db.Close())
}

func stampWith(s stamp) string {
	return fmt.Sprintf("PRAGMA application_id = %d; PRAGMA user_version = %d", applicationID, s)
}

// newStamp is one of a new identity, which is never zero.
func newStamp() stamp {
	var raw [4]byte
	_, _ = rand.Read(raw[:]) // never fails
	return stamp(binary.BigEndian.Uint32(raw[:])&0x7fffffff | 1<<countBits)
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
	return s.disconnect()
}

// Version is another number after every change of the data file, whichever process of ours
// made it.
func (s *Store) Version(ctx context.Context) (version int64, err error) {
	if s.ReadOnly() {
		return 0, nil
	}
	if err := s.ready(); err != nil {
		return 0, err
	}
	err = s.gather.QueryRowContext(ctx, "PRAGMA data_version").Scan(&version)
	return version, s.explain(err)
}

// Backup writes a whole copy of the data file, with an identity of its own, to a
// path that must not exist.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Lstat(path); err == nil {
		return unavailable(fs.ErrExist, "%s is there already; a backup goes over nothing", path)
	}
	return s.copyTo(ctx, s.read.db, path)
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

// ready tells whether the file can be read now: moved away it still can be.
func (s *Store) ready() error {
	if s.ReadOnly() {
		return nil
	}
	if err := s.checked(); err != nil && s.lost() {
		return err
	}
	return nil
}

func (s *Store) lost() bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.watch.lost != nil
}

// checked tells whether the file is still the one that was opened.
func (s *Store) checked() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	before := s.watch.lost
	err := s.watch.check()
	if before == nil && s.watch.lost != nil {
		leave(s.path, s.held)
	}
	return err
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
	last := s.isLast()
	if err = do(tx); err == nil && last {
		_, err = tx.ExecContext(ctx, stampWith(s.watch.stamp.next()))
	}
	if err != nil {
		_ = tx.Rollback() // what went wrong is said by err
		return s.explain(err)
	}
	if err := tx.Commit(); err != nil {
		return s.explain(fmt.Errorf("keeping the change: %w", err))
	}
	s.kept(last)
	return nil
}

// isLast reports the change after which the log is worked in: it moves the stamp on.
func (s *Store) isLast() bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.serving != nil && !s.busy && s.writes+1 >= writesToCheckpoint
}

// kept counts a change. After the last the log is worked in behind the answers, for it
// takes longer than a change, and no change waits for it; that it cannot be done now takes
// nothing from what was kept.
func (s *Store) kept(last bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.writes++; !last {
		return
	}
	s.writes, s.busy = 0, true
	s.behind.Go(func() {
		if err := s.workIn(context.Background()); err != nil {
			slog.Warn("the log waits", "err", err)
		}
		s.mu.Lock()
		defer s.mu.Unlock()
		s.busy = false
	})
}
