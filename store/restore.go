package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
)

// Restore puts another data file in the place of the one at path and returns
// where what was there is kept, nothing where there was nothing. fill writes what
// the new file is to hold. Either all is done or nothing is: the new file is whole
// on the disk, with an identity of its own, before it takes the place.
func Restore(ctx context.Context, path string, fill func(ctx context.Context, to string) error) (kept string, err error) {
	there, err := replaceable(ctx, path)
	if err != nil {
		return "", err
	}
	lock, err := hold(path)
	if err != nil {
		return "", err
	}
	defer func() { _ = lock.Unlock() }()
	held, alone, err := share(ctx, path)
	if err != nil {
		return "", err
	}
	defer func() { _ = held.Unlock() }()
	if !alone {
		return "", unavailable(nil, "another Kolvan has %s open; wait for that one, or stop it", path)
	}
	fresh := stamped(path, "restoring")
	defer func() {
		if !there && err != nil {
			_ = os.Remove(notePath(path)) // a note of nothing
		}
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

// replaceable refuses to put anything in the place of what never was Kolvan's. A data file
// may be as damaged as it likes: the note beside it tells.
func replaceable(ctx context.Context, path string) (there bool, err error) {
	info, err := os.Stat(path)
	switch {
	case isMissing(err):
		_, err := inspect(ctx, path)
		return false, err
	case err != nil || !info.Mode().IsRegular():
		return false, unavailable(err, "%s is no data file to be replaced", path)
	case wasNoted(path):
		return true, nil
	}
	head, err := readHead(path)
	if err == nil && head.application == 0 {
		err = isOurs(ctx, path)
	}
	if err != nil {
		return false, unavailable(
			err,
			"%s is not Kolvan's and is left alone: it is no data file of Kolvan's, and no note beside it says that it was one; move it away, "+
				"or give another --data",
			path,
		)
	}
	return true, nil
}

// wasNoted reports a note beside the file, of any form that notes have had.
func wasNoted(path string) bool {
	text, err := os.ReadFile(notePath(path))
	return err == nil && notes.Match(text)
}

var notes = regexp.MustCompile(`^([0-9a-f]{8}\n|busy|\d+ \d+)$`)

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
	if err := os.Truncate(notePath(path), 0); err != nil {
		return "", fmt.Errorf("clearing the place: %w", err)
	}
	if err := os.Rename(fresh, path); err != nil {
		return kept, fmt.Errorf("putting the restored file in its place: %w", err)
	}
	return kept, syncFolder(path)
}

// settle works the log of the old file in, where that can still be done, so that
// the file is whole by itself. A damaged file is kept as it is.
func settle(ctx context.Context, path string) {
	file, err := grasp(path)
	if err != nil {
		return
	}
	_ = belongs(path, file, true)
	file.letGo()
	_ = withFile(ctx, path, pragmas, "PRAGMA wal_checkpoint(TRUNCATE)")
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
		return errors.Join(s.wholeOf(ctx, backup, readable), s.Close())
	}
}

// wholeOf checks what was made of a backup or an archive.
func (s *Store) wholeOf(ctx context.Context, from string, readable func(kind string, doc []byte) error) error {
	faults, err := s.Check(ctx, readable)
	if err == nil && len(faults) > 0 {
		err = unavailable(nil, "%s is damaged and was not restored: %s", from, faults[0])
	}
	return err
}

func copyChecked(ctx context.Context, backup, to string) error {
	missing, err := inspect(ctx, backup)
	switch {
	case err != nil:
		return err
	case missing:
		return unavailable(nil, "there is no backup at %s", backup)
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
	return source.copyTo(ctx, source.read.db, to)
}
