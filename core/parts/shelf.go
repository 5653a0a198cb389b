package parts

import (
	"fmt"
	"io"
	"io/fs"
	"path"
	"strings"

	"kolvan/core/rig"
)

// mostOnShelf bounds the files that are read of a shelf.
const mostOnShelf = 1024

// A Shelved is what one file of a shelf holds.
type Shelved struct {
	File   string
	Parts  []Part
	Signed *Signature // of an archive that is signed
}

// Shelf reads a folder of parts in files of their own and of archives of them, by their names;
// folders within it are left alone. What cannot be read is told, and keeps nothing else away.
func Shelf(dir fs.FS) (list []Shelved, faults []error) {
	entries, err := fs.ReadDir(dir, ".")
	if err != nil {
		return nil, []error{fmt.Errorf("the shelf: %w", err)}
	}
	if len(entries) > mostOnShelf {
		faults = append(faults, fmt.Errorf("the shelf has %d files; the first %d are read", len(entries), mostOnShelf))
		entries = entries[:mostOnShelf]
	}
	for _, e := range entries {
		if ending := path.Ext(e.Name()); !e.Type().IsRegular() || ending != ".json" && ending != ".zip" {
			continue
		}
		s, err := shelved(dir, e.Name())
		if err != nil {
			faults = append(faults, fmt.Errorf("%s: %w", e.Name(), err))
			continue
		}
		list = append(list, *s)
	}
	return list, faults
}

func shelved(dir fs.FS, name string) (*Shelved, error) {
	from, err := dir.Open(name)
	if err != nil {
		return nil, err
	}
	defer from.Close()
	raw, err := io.ReadAll(io.LimitReader(from, mostArchive+1))
	if err != nil {
		return nil, err
	}
	s, files := &Shelved{File: name}, []File(nil)
	switch {
	case IsArchive(raw):
		a, err := ReadArchive(raw)
		if err != nil {
			return nil, err
		}
		files, s.Signed = a.Files, a.Signed
	case len(raw) > rig.MaxFile:
		return nil, fmt.Errorf("it is larger than a part may be")
	default:
		f, err := ReadFile(raw)
		if err != nil {
			return nil, err
		}
		files = []File{*f}
	}
	for _, f := range files {
		part, err := Decode(f.Kind, f.Part)
		if err != nil {
			return nil, err
		}
		s.Parts = append(s.Parts, Part{Kind: f.Kind, Name: Name(part), Doc: f.Part})
	}
	return s, nil
}

// Differs lists in what another version of one's own part differs from it, by kind and name;
// nothing of either is changed.
func Differs(own Part, others []Part) (list []Difference, err error) {
	for _, other := range others {
		if other.Kind != own.Kind || !strings.EqualFold(other.Name, own.Name) {
			continue
		}
		mine, err := Decode(own.Kind, own.Doc)
		if err != nil {
			return nil, err
		}
		theirs, err := Decode(other.Kind, other.Doc)
		if err != nil {
			return nil, err
		}
		return Merge(mine, theirs)
	}
	return nil, nil
}
