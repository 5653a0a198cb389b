package store

import (
	"errors"
	"fmt"
	"log/slog"
	"os"
	"strconv"
	"strings"
	"time"

	"github.com/gofrs/flock"
)

// A data file may be moved, deleted or copied over while Kolvan has it open, and
// a write-ahead log may lie beside a file it does not belong to. Both are told
// by what the file looked like when Kolvan last wrote it: the main file changes
// only when the log is worked in, which happens under watch alone.

// mark is what a file looks like from outside.
type mark struct {
	size  int64
	mtime int64 // nanoseconds
}

// busyMark stands in the note while the main file is being written.
const busyMark = "busy"

func markOf(info os.FileInfo) mark { return mark{info.Size(), info.ModTime().UnixNano()} }

func (m mark) String() string { return fmt.Sprintf("%d %d", m.size, m.mtime) }

// watch holds what the data file was when Kolvan last wrote it.
type watch struct {
	path string
	file os.FileInfo
	mark mark
	busy bool         // the main file is being changed by us, and looks like nothing yet
	lost *Unavailable // set for good once the file was exchanged
}

func notePath(path string) string { return path + ".held" }

// writing notes that the main file is about to change.
func (w *watch) writing() error {
	if err := os.WriteFile(notePath(w.path), []byte(busyMark), 0o600); err != nil {
		return fmt.Errorf("noting that %s is being written: %w", w.path, err)
	}
	w.busy = true
	return nil
}

// written notes what the main file looks like now.
func (w *watch) written() error {
	w.busy = false
	info, err := os.Stat(w.path)
	if err != nil {
		return fmt.Errorf("looking at %s: %w", w.path, err)
	}
	if w.file != nil && !os.SameFile(info, w.file) {
		return fmt.Errorf("%s was exchanged while it was being written", w.path)
	}
	w.file, w.mark = info, markOf(info)
	if err := os.WriteFile(notePath(w.path), []byte(w.mark.String()), 0o600); err != nil {
		return fmt.Errorf("noting what %s looks like: %w", w.path, err)
	}
	return nil
}

// check tells whether the file is still the one that was opened.
func (w *watch) check() error {
	if w.lost != nil {
		return w.lost
	}
	info, err := os.Stat(w.path)
	if err != nil || !os.SameFile(info, w.file) {
		return unavailable(err, "the data file is not at %s any more: it was moved or deleted; put it back, or stop Kolvan and start it again", w.path)
	}
	if w.busy || markOf(info) == w.mark {
		return nil
	}
	w.lost = unavailable(nil, "%s was written by another program under Kolvan; stop Kolvan and start it again", w.path)
	if kept := setAside(w.path); kept != "" {
		slog.Error("the data file was exchanged; its last changes were set aside", "file", w.path, "kept", kept)
	}
	return w.lost
}

// foreignLog sets a write-ahead log aside that belongs to another file than the
// one it lies beside: worked into it, the log would destroy it.
func foreignLog(path string) {
	if walLength(path) == 0 {
		return
	}
	note, err := os.ReadFile(notePath(path))
	if err != nil || string(note) == busyMark {
		return // nobody noted anything, or it was being written
	}
	info, err := os.Stat(path)
	if err != nil || strings.TrimSpace(string(note)) == markOf(info).String() {
		return
	}
	slog.Warn("a log of another data file lay beside this one and was set aside", "file", path, "kept", setAside(path))
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
		return nil, unavailable(err, "%s cannot be held (%v)", path, errors.Unwrap(err))
	}
	if !got {
		return nil, unavailable(nil, "%s is served by another Kolvan; stop that one first", path)
	}
	return lock, nil
}
