package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"net/url"
	"os"
	"path/filepath"
)

// applicationID stands in the head of every data file: "Kolv".
const applicationID = 0x4B6F6C76

// Of the head of an SQLite file: its length, its first bytes, and where the
// numbers stand that belong to the application.
const (
	headLength  = 100
	magic       = "SQLite format 3\x00"
	userVersion = 60
	appIDAt     = 68
)

// head is what the first bytes of a data file say of it.
type head struct {
	application uint32
	stamp       stamp
}

// inspect looks at the path before anything opens it to write. A file that is
// not Kolvan's is refused in one sentence, and nothing is written into it;
// missing is true where a new file can be made.
func inspect(ctx context.Context, path string) (missing bool, err error) {
	if path == "" || path == ":memory:" {
		return false, unavailable(nil, "%q is no data file: Kolvan keeps its data in a file on the disk", path)
	}
	info, err := os.Stat(path)
	if isMissing(err) {
		folder := filepath.Dir(path)
		if at, err := os.Stat(folder); err != nil || !at.IsDir() {
			return false, unavailable(err, "the folder %s is not there; make it first, or give another --data", folder)
		}
		return true, nil
	}
	switch {
	case err != nil:
		return false, unavailable(err, "%s cannot be looked at (%v)", path, errors.Unwrap(err))
	case info.IsDir():
		return false, unavailable(nil, "%s is a folder; give the data file in it", path)
	case !info.Mode().IsRegular():
		return false, unavailable(nil, "%s is no ordinary file", path)
	case info.Size() == 0:
		return false, unavailable(nil, "%s is empty and no data file of Kolvan; remove it, or give another --data", path)
	}
	head, err := readHead(path)
	if err == nil && head.application == 0 {
		err = isOurs(ctx, path)
	}
	return false, err
}

func readHead(path string) (h head, err error) {
	file, err := grasp(path)
	if err != nil {
		return h, unavailable(err, "%s cannot be read (%v)", path, errors.Unwrap(err))
	}
	defer file.letGo()
	raw := make([]byte, headLength)
	if _, err := file.ReadAt(raw, 0); err != nil || !bytes.HasPrefix(raw, []byte(magic)) {
		return h, unavailable(err, "%s is no data file of Kolvan", path)
	}
	h.application = binary.BigEndian.Uint32(raw[appIDAt:])
	h.stamp = stamp(binary.BigEndian.Uint32(raw[userVersion:]))
	if h.application != 0 && h.application != applicationID {
		return h, unavailable(nil, "%s is a data file of another program", path)
	}
	return h, nil
}

// writable tells whether the file may be written.
func writable(path string) bool {
	file, err := grasp(path)
	if err != nil {
		return false
	}
	defer file.letGo()
	return file.writable
}

// dsn names the file for the driver, with further parameters.
func dsn(path, parameters string) string {
	return "file:" + (&url.URL{Path: path}).EscapedPath() + "?" + parameters
}

// isOurs looks into a file without our number in its head: data files had none
// at first. It reads without leaving anything beside the file.
func isOurs(ctx context.Context, path string) error {
	parameters := "immutable=1&mode=ro"
	if walLength(path) > 0 {
		parameters = "mode=ro"
	}
	db, err := sql.Open("sqlite", dsn(path, parameters))
	if err != nil {
		return err
	}
	defer db.Close()
	var tables int
	err = db.QueryRowContext(
		ctx, "SELECT count(*) FROM sqlite_master WHERE name IN ('goose_db_version', 'revisions', 'rigs', 'bins', 'things')",
	).Scan(&tables)
	if err != nil || tables < 3 {
		return unavailable(err, "%s is a data file of another program", path)
	}
	return nil
}

func walLength(path string) int64 {
	if info, err := os.Stat(path + "-wal"); err == nil {
		return info.Size()
	}
	return 0
}
