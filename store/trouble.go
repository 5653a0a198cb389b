package store

import (
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// ErrNotFound is returned for a thing that is not there.
var ErrNotFound = errors.New("not found")

// ErrNothing is returned when there is nothing to undo or redo.
var ErrNothing = errors.New("nothing to undo or redo")

// A Conflict is returned when a thing was changed since the base revision.
type Conflict struct{ Base, Head int64 }

func (c *Conflict) Error() string {
	return fmt.Sprintf("changed meanwhile: revision %d is shown, %d is kept", c.Base, c.Head)
}

// Damaged is returned for a revision whose document is not what was kept.
type Damaged struct {
	Thing, Revision int64
	Why             string
}

func (d *Damaged) Error() string {
	return fmt.Sprintf("revision %d of thing %d is damaged: %s", d.Revision, d.Thing, d.Why)
}

// Broken is returned for a picture, a capture or a recording that is not what was kept.
type Broken struct{ What string }

func (b *Broken) Error() string { return b.What + " is damaged: it is not what was kept" }

// Unavailable says in a sentence for a person why the data file cannot be read
// or written now. Nothing of what was to be kept was kept, and it can be sent
// again when the cause is gone.
type Unavailable struct {
	Says string
	err  error
}

func (u *Unavailable) Error() string { return u.Says }

func (u *Unavailable) Unwrap() error { return u.err }

func unavailable(err error, format string, args ...any) *Unavailable {
	return &Unavailable{Says: fmt.Sprintf(format, args...), err: err}
}

// explain turns what SQLite or the system says of the data file into an
// *Unavailable; other errors stay as they are.
func (s *Store) explain(err error) error {
	var known *Unavailable
	if err == nil || errors.As(err, &known) {
		return err
	}
	if errors.Is(err, syscall.ENOSPC) {
		return unavailable(err, "the disk that holds %s is full; make room", s.path)
	}
	var fault *sqlite.Error
	if !errors.As(err, &fault) {
		return err
	}
	switch fault.Code() & 0xff {
	case sqlite3.SQLITE_FULL:
		return unavailable(err, "the disk that holds %s is full; make room", s.path)
	case sqlite3.SQLITE_READONLY:
		return unavailable(err, "%s cannot be written: it, or the folder around it, is read-only", s.path)
	case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
		return unavailable(err, "%s is locked by another program", s.path)
	case sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN:
		return unavailable(err, "%s cannot be reached on its disk (%v)", s.path, fault)
	case sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB:
		return unavailable(err, "%s is damaged; run kolvan check, and kolvan restore with a backup", s.path)
	}
	return err
}

// damaged reports an error that comes from a broken place in the data file, not
// from the file as a whole.
func damaged(err error) bool {
	var fault *sqlite.Error
	return errors.As(err, &fault) && fault.Code()&0xff == sqlite3.SQLITE_CORRUPT
}

// orNotFound names a missing row.
func orNotFound(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

func isMissing(err error) bool { return errors.Is(err, fs.ErrNotExist) }
