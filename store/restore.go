package store

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
)

// Restore puts another data file in the place of the one at path and returns
// where what was there is kept, nothing where there was nothing. fill writes what
// the new file is to hold. Either all is done or nothing is: the new file is whole
// on the disk, with an identity of its own, before it takes the place.
func Restore(ctx context.Context, path string, fill func(ctx context.Context, to string) error) (kept string, err error) {
	there, err := replaceable(path)
	if err != nil {
		return "", err
	}
	lock, err := hold(path)
	if err != nil {
		return "", err
	}
	defer func() { _ = lock.Unlock() }()
	fresh := stamped(path, "restoring")
	defer func() {
		for _, beside := range []string{"", "-wal", "-shm", ".held", ".lock"} {
			_ = os.Remove(fresh + beside) // moved away when all went well
		}
	}()
	if err := fill(ctx, fresh); err != nil {
		return "", err
	}
	if err := renew(ctx, fresh); err != nil {
		return "", fmt.Errorf("finishing %s: %w", fresh, err)
	}
	return exchange(ctx, path, fresh, there)
}

// replaceable refuses to put anything in the place of what is not Kolvan's. A
// data file may be as damaged as it likes.
func replaceable(path string) (there bool, err error) {
	info, err := os.Stat(path)
	switch {
	case isMissing(err):
		_, _, err := inspect(path)
		return false, err
	case err != nil || info.IsDir():
		return false, unavailable(err, "%s is no data file to be replaced", path)
	}
	start := make([]byte, len(magic))
	file, err := os.Open(path)
	if err != nil {
		return false, unavailable(err, "%s cannot be read (%v)", path, errors.Unwrap(err))
	}
	defer file.Close()
	if _, err := io.ReadFull(file, start); err != nil || !bytes.Equal(start, []byte(magic)) {
		return true, nil // cut or empty
	}
	if head, err := readHead(path); err != nil && head.application != 0 {
		return false, err
	}
	return true, nil
}

// exchange moves what is at path, with its log, aside and the fresh file there.
func exchange(ctx context.Context, path, fresh string, there bool) (kept string, err error) {
	aside := stamped(path, "replaced")
	if there {
		settle(ctx, path)
		kept = aside
		if err := os.Link(path, kept); err != nil {
			return "", fmt.Errorf("keeping what was there: %w", err)
		}
	}
	for _, beside := range []string{"-wal", "-shm"} {
		if err := os.Rename(path+beside, aside+beside); err != nil && !isMissing(err) {
			return "", fmt.Errorf("keeping what was there: %w", err)
		}
	}
	if err := os.Remove(notePath(path)); err != nil && !isMissing(err) {
		return "", fmt.Errorf("clearing the place: %w", err)
	}
	if err := os.Rename(fresh, path); err != nil {
		return kept, fmt.Errorf("putting the restored file in its place: %w", err)
	}
	return kept, syncFolder(path)
}

// settle works the log of the old file in, where that can still be done, so that
// the file is whole by itself.
func settle(ctx context.Context, path string) {
	foreignLog(path)
	db, err := sql.Open("sqlite", dsn(path, pragmas))
	if err != nil {
		return
	}
	_, _ = db.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)") // a damaged file is kept as it is
	_ = db.Close()
}

func syncFolder(path string) error {
	folder, err := os.Open(filepath.Dir(path))
	if err != nil {
		return err
	}
	defer folder.Close()
	return folder.Sync()
}

// FromBackup fills a restored file from a backup, which is checked first and
// stays as it is.
func FromBackup(backup string, readable func(kind string, doc []byte) error) func(context.Context, string) error {
	return func(ctx context.Context, to string) error {
		if err := copyChecked(ctx, backup, to); err != nil {
			return err
		}
		s, err := Open(ctx, to, Existing)
		if err != nil {
			return err
		}
		faults, err := s.Check(ctx, readable)
		if err == nil && len(faults) > 0 {
			err = unavailable(nil, "%s is damaged and was not restored: %s", backup, faults[0])
		}
		return errors.Join(err, s.Close())
	}
}

func copyChecked(ctx context.Context, backup, to string) error {
	head, missing, err := inspect(backup)
	switch {
	case err != nil:
		return err
	case missing:
		return unavailable(nil, "there is no backup at %s", backup)
	case head.application == 0:
		if err := isOurs(ctx, backup); err != nil {
			return err
		}
	}
	parameters := "mode=ro&immutable=1"
	if walLength(backup) > 0 {
		parameters = "mode=ro"
	}
	source := &Store{path: backup}
	if err := source.openReaders(dsn(backup, parameters)); err != nil {
		return err
	}
	defer source.read.Close()
	faults, err := source.checkOrder(ctx, "integrity_check")
	if err != nil {
		return err
	}
	if len(faults) > 0 {
		return unavailable(nil, "%s is damaged and was not restored: %s", backup, faults[0])
	}
	return source.copyTo(ctx, source.read.DB, to)
}
