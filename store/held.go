package store

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"strconv"
	"strings"
	"time"

	"github.com/gofrs/flock"
)

// A data file may be moved, deleted or copied over while Kolvan has it open, and a
// write-ahead log may lie beside a file it does not belong to. What makes a file ours is
// what no lawful use changes: it is the very file that was opened, and its head carries the
// stamp that we know. The log is known by a note beside it, of the stamp that its file has.
//
// Several processes of ours share a file under SQLite's own locks. Only who serves it works
// the log in while others have it open, and moves the stamp on; nobody cuts or moves a log
// that another holds. Who holds one has a shared lock on the note.

// notePath is where the note lies.
func notePath(path string) string { return path + ".held" }

// note keeps the stamp of the file that the log belongs to, on the disk.
func note(path string, s stamp) error {
	file, err := os.OpenFile(notePath(path), os.O_WRONLY|os.O_CREATE, 0o600)
	if err != nil {
		return err
	}
	_, err = file.WriteAt(fmt.Appendf(nil, "%08x\n", uint32(s)), 0)
	if err == nil {
		err = file.Truncate(9)
	}
	if err == nil {
		err = file.Sync()
	}
	return errors.Join(err, file.Close())
}

// noted is the stamp of the note; false where nobody noted anything.
func noted(path string) (stamp, bool) {
	text, err := os.ReadFile(notePath(path))
	if err != nil || len(text) != 9 {
		return 0, false
	}
	s, err := strconv.ParseUint(strings.TrimSpace(string(text)), 16, 32)
	return stamp(s), err == nil
}

// watch holds what the data file was when it was opened.
type watch struct {
	path  string
	file  *handle
	stamp stamp        // that the file carries, or the one after
	count bool         // nobody else moves the stamp on: a file with another count is a copy
	lost  *Unavailable // set for good once the file was exchanged
}

// check tells whether the file is still the one that was opened.
func (w *watch) check() error {
	if w.lost != nil {
		return w.lost
	}
	if !w.file.isAt(w.path) {
		return unavailable(
			nil, "the data file is not at %s any more: it was moved or deleted; put it back, or stop Kolvan and start it again",
			w.path,
		)
	}
	now, err := w.file.stamp()
	if err == nil && now.identity() == w.stamp.identity() && (!w.count || now.follows(w.stamp)) {
		return nil
	}
	w.lost = unavailable(err, "%s was written by another program under Kolvan; stop Kolvan and start it again", w.path)
	return w.lost
}

// The times that an opening waits for others.
const (
	waitForOthers = 10 * time.Second // to make the file, or bring it up to date
	lookAgain     = 10 * time.Millisecond
)

// share takes the data file together with whoever has it open. Who is alone with it has it
// for itself until settled is called, and then shares it.
func share(ctx context.Context, path string) (lock *flock.Flock, alone bool, err error) {
	ctx, end := context.WithTimeout(ctx, waitForOthers)
	defer end()
	for lock = flock.New(notePath(path), flock.SetFlag(os.O_CREATE|os.O_RDWR), flock.SetPermissions(0o600)); ; {
		if alone, err = lock.TryLock(); alone || err != nil {
			break
		}
		var shared bool
		if shared, err = lock.TryRLock(); shared || err != nil {
			break
		}
		select {
		case <-ctx.Done():
			return nil, false, unavailable(ctx.Err(), "%s is being made or brought up to date by another Kolvan; wait for that one", path)
		case <-time.After(lookAgain):
		}
	}
	if err != nil {
		return nil, false, unavailable(err, "%s cannot be held (%v): the folder around it may be read-only", path, cause(err))
	}
	return lock, alone, nil
}

// settled shares a file that one was alone with.
func settled(lock *flock.Flock) error {
	return errors.Join(lock.Unlock(), lock.RLock())
}

func cause(err error) error {
	if inner := errors.Unwrap(err); inner != nil {
		return inner
	}
	return err
}

// belongs settles whether the log beside the file is its own, and notes it. A log of
// another file, worked into this one, would destroy it: it is set aside, unless somebody
// has it open.
func belongs(path string, file *handle, alone bool) error {
	for try := 0; ; try++ {
		carries, err := file.stamp()
		if err != nil {
			return unavailable(err, "%s cannot be read (%v)", path, err)
		}
		of, some := noted(path)
		switch {
		case some && carries.follows(of):
			return nil
		case alone:
			if some && walLength(path) > 0 {
				slog.Warn("a log of another data file lay beside this one and was set aside", "file", path, "kept", setAside(path))
			}
			return note(path, carries)
		case try == 3: // not only between the reading of the one and the other
			return unavailable(nil, "%s was exchanged while another Kolvan has it open; stop that one first", path)
		}
		time.Sleep(lookAgain)
	}
}

// setAside moves what lies beside the data file out of the way and returns where
// its log is kept; nothing where there was none.
func setAside(path string) string {
	kept := stamped(path, "log-of-another")
	if os.Rename(path+"-wal", kept) != nil {
		kept = ""
	}
	_ = os.Remove(path + "-shm") // made anew when it is missing
	return kept
}

// leave lets go of a file that was exchanged. Where nobody else has its log open, that is
// set aside: whoever opens what is there now is not to read it into it.
func leave(path string, lock *flock.Flock) {
	if lock.Unlock() != nil {
		return
	}
	if alone, err := lock.TryLock(); err != nil || !alone {
		return
	}
	if kept := setAside(path); kept != "" {
		slog.Error("the data file was exchanged; its last changes were set aside", "file", path, "kept", kept)
	}
	_ = lock.Unlock() // goes with the process at the latest
}

// stamped names a file kept beside the data file.
func stamped(path, word string) string {
	name := path + "." + word + "-" + time.Now().UTC().Format("2006-01-02T15-04-05")
	for n := 2; ; n++ {
		if _, err := os.Lstat(name); isMissing(err) {
			return name
		}
		name = strings.TrimSuffix(name, "."+strconv.Itoa(n-1)) + "." + strconv.Itoa(n)
	}
}

// hold takes the data file for one server or one restore at a time.
func hold(path string) (*flock.Flock, error) {
	lock := flock.New(path + ".lock")
	got, err := lock.TryLock()
	if err != nil {
		return nil, unavailable(err, "%s cannot be held (%v)", path, cause(err))
	}
	if !got {
		return nil, unavailable(nil, "%s is served by another Kolvan; stop that one first", path)
	}
	return lock, nil
}
