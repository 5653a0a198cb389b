package store

import (
	"encoding/binary"
	"errors"
	"fmt"
	"os"
	"slices"
	"sync"
)

// A handle is the data file itself, held open. SQLite's locks are the process's: whoever
// closes a file takes off all that the process has on it. So the file is opened once,
// however many look at it, and let go when nobody does.
type handle struct {
	*os.File
	info     os.FileInfo
	writable bool
	users    int
}

var handles struct {
	sync.Mutex
	open []*handle
}

// grasp opens the file at path, or takes the handle there is; it is to be let go.
func grasp(path string) (*handle, error) {
	handles.Lock()
	defer handles.Unlock()
	info, err := os.Stat(path)
	if err != nil {
		return nil, err
	}
	for _, h := range handles.open {
		if os.SameFile(info, h.info) {
			h.users++
			return h, nil
		}
	}
	// A file without a write bit is left alone even where the system would let us.
	writable := info.Mode().Perm()&0o222 != 0
	file, err := os.OpenFile(path, os.O_RDWR, 0)
	if err != nil {
		writable = false
		file, err = os.Open(path)
	}
	if err != nil {
		return nil, err
	}
	h := &handle{File: file, info: info, writable: writable, users: 1}
	handles.open = append(handles.open, h)
	return h, nil
}

func (h *handle) letGo() {
	handles.Lock()
	defer handles.Unlock()
	if h.users--; h.users > 0 {
		return
	}
	handles.open = slices.DeleteFunc(handles.open, func(other *handle) bool { return other == h })
	_ = h.Close() // nothing was written through it
}

// isAt reports whether the file is still the one at path.
func (h *handle) isAt(path string) bool {
	info, err := os.Stat(path)
	return err == nil && os.SameFile(info, h.info)
}

// A stamp stands in the head of a data file: its identity, and a count that moves on before
// its log is worked in. A copy of the file that was made before has another.
type stamp uint32

const countBits = 10

// Identity tells one data file from another: a restored file has a new one.
type Identity uint32

func (i Identity) String() string { return fmt.Sprintf("%06x", uint32(i)) }

func (s stamp) identity() Identity { return Identity(s >> countBits) }

func (s stamp) next() stamp {
	const count = 1<<countBits - 1
	return s&^count | (s+1)&count
}

// follows reports the same stamp, or the one after: what a file has whose log may have been
// worked in since.
func (s stamp) follows(before stamp) bool { return s == before || s == before.next() }

// stamp reads what the file carries now. The driver writes the head whole.
func (h *handle) stamp() (stamp, error) {
	raw := make([]byte, appIDAt+4-userVersion)
	if _, err := h.ReadAt(raw, userVersion); err != nil {
		return 0, err
	}
	if binary.BigEndian.Uint32(raw[appIDAt-userVersion:]) != applicationID {
		return 0, errors.New("it is no data file of Kolvan")
	}
	return stamp(binary.BigEndian.Uint32(raw)), nil
}
