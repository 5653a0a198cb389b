package store

import (
	"archive/zip"
	"bufio"
	"compress/flate"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"hash"
	"io"
	"maps"
	"slices"
	"time"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// An archive is all that a data file holds, in formats anybody can read: every thing as it is
// shown, its history a line a change, its pictures, captures and what a meter wrote, and an
// index with the checksum of each file.

// ArchiveFormat is the format word of its index.
const ArchiveFormat = "kolvan-bench/2"

// indexName is the file that tells what the others are.
const indexName = "bench.json"

type archiveIndex struct {
	Format     string              `json:"format"`
	MadeAt     string              `json:"made_at"`
	Things     []archivedThing     `json:"things"`
	Pictures   []archivedPicture   `json:"pictures"`
	Captures   []archivedCapture   `json:"captures"`
	Recordings []archivedRecording `json:"recordings"`
	Columns    []archivedColumn    `json:"columns"`
	Files      []archivedFile      `json:"files"`
}

type archivedThing struct {
	ID        int64  `json:"id"`
	Kind      string `json:"kind"`
	Name      string `json:"name"`
	Head      int64  `json:"head"`
	DeletedAt string `json:"deleted_at,omitzero"`
	File      string `json:"file"`    // the document that is shown
	History   string `json:"history"` // a line of JSON a change
}

type archivedRevision struct {
	ID     int64  `json:"id"`
	Parent int64  `json:"parent,omitzero"`
	Number int    `json:"number"`
	Name   string `json:"name"`
	Label  string `json:"label"`
	MadeAt string `json:"made_at"`
	Doc    string `json:"doc"` // as it was kept, to the byte
}

type archivedPicture struct {
	ID    int64  `json:"id"`
	Thing int64  `json:"thing"`
	Step  string `json:"step"`
	File  string `json:"file"`
}

type archivedCapture struct {
	Thing int64  `json:"thing"`
	Sum   string `json:"sha256"`
	Name  string `json:"name"`
	File  string `json:"file"`
}

type archivedRecording struct {
	Thing int64  `json:"thing"`
	File  string `json:"file"`
}

type archivedColumn struct {
	Head string `json:"head"`
	Name string `json:"name"`
	Unit string `json:"unit"`
}

type archivedFile struct {
	Name  string `json:"name"`
	Bytes int64  `json:"bytes"`
	Sum   string `json:"sha256"`
}

// archiver writes an archive of one moment of a data file.
type archiver struct {
	ctx     context.Context
	s       *Store
	tx      *sql.Tx
	zip     *zip.Writer
	index   archiveIndex
	leave   func(what string, why error) bool
	skipped map[int64]int64 // a revision that is left out, and what it was made from
}

// WriteArchive writes all that the data file holds. What is damaged is an error, unless leave
// is told of it and takes it on itself: then it is left out.
func (s *Store) WriteArchive(ctx context.Context, to io.Writer, leave func(what string, why error) bool) error {
	if err := s.ready(); err != nil {
		return err
	}
	tx, err := s.read.db.BeginTx(ctx, &sql.TxOptions{ReadOnly: true}) // one moment of the file
	if err != nil {
		return s.explain(err)
	}
	defer func() { _ = tx.Rollback() }() // nothing was written
	a := &archiver{ctx: ctx, s: s, tx: tx, zip: zip.NewWriter(to), leave: leave, skipped: map[int64]int64{}}
	a.zip.RegisterCompressor(zip.Deflate, func(to io.Writer) (io.WriteCloser, error) {
		return flate.NewWriter(to, flate.BestSpeed) // a history repeats itself: more effort finds little more
	})
	a.index = archiveIndex{Format: ArchiveFormat, MadeAt: time.Now().UTC().Format(time.RFC3339), Things: []archivedThing{},
		Pictures: []archivedPicture{}, Captures: []archivedCapture{}, Recordings: []archivedRecording{}, Columns: []archivedColumn{}}
	for _, write := range []func() error{a.things, a.pictures, a.captures, a.recordings, a.columns} {
		if err := write(); err != nil {
			return s.explain(err)
		}
	}
	text, err := json.Marshal(a.index, jsontext.WithIndent("  "))
	if err != nil {
		return err
	}
	if err := a.file(indexName, func(w io.Writer) error { _, err := w.Write(text); return err }); err != nil {
		return err
	}
	return a.zip.Close()
}

// counted counts and sums what goes by.
type counted struct {
	to    io.Writer
	sum   hash.Hash
	bytes int64
}

func (c *counted) Write(p []byte) (int, error) {
	n, err := c.to.Write(p)
	c.sum.Write(p[:n])
	c.bytes += int64(n)
	return n, err
}

// file writes one file of the archive, and its line of the index.
func (a *archiver) file(name string, write func(io.Writer) error) error {
	into, err := a.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate})
	if err != nil {
		return fmt.Errorf("packing %s: %w", name, err)
	}
	c := &counted{to: into, sum: sha256.New()}
	if err := write(c); err != nil {
		return fmt.Errorf("packing %s: %w", name, err)
	}
	a.index.Files = append(a.index.Files, archivedFile{name, c.bytes, hex.EncodeToString(c.sum.Sum(nil))})
	return nil
}

func (a *archiver) things() error {
	rows, err := a.tx.QueryContext(a.ctx, "SELECT id, kind, name, head, COALESCE(deleted_at, '') FROM things ORDER BY id")
	if err != nil {
		return err
	}
	var all []archivedThing
	for rows.Next() {
		var t archivedThing
		if err := rows.Scan(&t.ID, &t.Kind, &t.Name, &t.Head, &t.DeletedAt); err != nil {
			return err
		}
		all = append(all, t)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, t := range all {
		if err := a.thing(t); err != nil {
			return err
		}
	}
	return nil
}

func (a *archiver) thing(t archivedThing) error {
	what := fmt.Sprintf("%s %d, %q", t.Kind, t.ID, t.Name)
	head := revisionAt(a.ctx, a.tx, t.ID, t.Head)
	if head.fault != nil {
		return a.left(what, head.fault)
	}
	word := "part"
	if t.Kind == RigKind {
		word = RigKind
	}
	t.File, t.History = fmt.Sprintf("things/%d/%s.json", t.ID, word), fmt.Sprintf("things/%d/history.jsonl", t.ID)
	if err := a.file(t.File, func(w io.Writer) error { _, err := w.Write(head.doc); return err }); err != nil {
		return err
	}
	a.index.Things = append(a.index.Things, t)
	return a.file(t.History, func(w io.Writer) error { return a.history(w, what, t) })
}

// left leaves something out that is damaged, where that is wanted.
func (a *archiver) left(what string, why error) error {
	if a.leave(what, why) {
		return nil
	}
	return fmt.Errorf("%s: %w", what, why)
}

func (a *archiver) history(to io.Writer, what string, t archivedThing) error {
	ids, err := pairsOf(a.ctx, a.tx, fmt.Sprintf("SELECT id, COALESCE(parent, 0) FROM revisions WHERE thing = %d ORDER BY id", t.ID))
	if err != nil {
		return err
	}
	var before revision // mostly what the next was made from
	for _, id := range ids {
		r := revisionAfter(a.ctx, a.tx, t.ID, id[0], &before)
		before = r
		if r.fault != nil {
			a.skipped[r.id] = id[1]
			if err := a.left(fmt.Sprintf("%s, change %d", what, r.number), r.fault); err != nil {
				return err
			}
			continue
		}
		parent := r.parent.Int64
		for above, gone := a.skipped[parent]; gone; above, gone = a.skipped[parent] {
			parent = above
		}
		if err := json.MarshalWrite(to, archivedRevision{r.id, parent, r.number, r.name, r.label, r.madeAt, string(r.doc)}); err != nil {
			return err
		}
		if _, err := to.Write([]byte("\n")); err != nil {
			return err
		}
	}
	return nil
}

func (a *archiver) pictures() error {
	all, err := pairsOf(a.ctx, a.tx, "SELECT thing, id FROM pictures ORDER BY id")
	if err != nil {
		return err
	}
	for _, p := range all {
		picture := archivedPicture{ID: p[1], Thing: p[0], File: fmt.Sprintf("things/%d/pictures/%d.jpg", p[0], p[1])}
		step, image, err := pictureOf(a.ctx, a.tx, p[0], p[1])
		if err != nil {
			if err := a.left(fmt.Sprintf("picture %d", p[1]), err); err != nil {
				return err
			}
			continue
		}
		picture.Step = step
		a.index.Pictures = append(a.index.Pictures, picture)
		if err := a.file(picture.File, func(w io.Writer) error { _, err := w.Write(image); return err }); err != nil {
			return err
		}
	}
	return nil
}

func (a *archiver) captures() error {
	all, err := pairsOf(a.ctx, a.tx, "SELECT DISTINCT thing, 0 FROM captures ORDER BY thing")
	if err != nil {
		return err
	}
	for _, p := range all {
		names, err := capturesOf(a.ctx, a.tx, p[0])
		if err != nil {
			return err
		}
		for _, sum := range slices.Sorted(maps.Keys(names)) {
			capture := archivedCapture{p[0], sum, names[sum], fmt.Sprintf("things/%d/captures/%s", p[0], sum)}
			_, file, err := captureOf(a.ctx, a.tx, p[0], sum)
			if err != nil {
				if err := a.left("capture "+names[sum], err); err != nil {
					return err
				}
				continue
			}
			a.index.Captures = append(a.index.Captures, capture)
			if err := a.file(capture.File, func(w io.Writer) error { _, err := w.Write(file); return err }); err != nil {
				return err
			}
		}
	}
	return nil
}

func (a *archiver) recordings() error {
	all, err := pairsOf(a.ctx, a.tx, "SELECT thing, 0 FROM recordings ORDER BY thing")
	if err != nil {
		return err
	}
	for _, p := range all {
		open, err := recordingOf(a.ctx, a.tx, p[0])
		if err != nil {
			if err := a.left(fmt.Sprintf("the recording of rig %d", p[0]), err); err != nil {
				return err
			}
			continue
		}
		recording := archivedRecording{p[0], fmt.Sprintf("things/%d/wall.csv", p[0])}
		a.index.Recordings = append(a.index.Recordings, recording)
		err = a.file(recording.File, func(w io.Writer) error {
			table, err := open()
			if err == nil {
				_, err = io.Copy(w, table)
			}
			return err
		})
		if err != nil {
			return err
		}
	}
	return nil
}

func (a *archiver) columns() error {
	rows, err := a.tx.QueryContext(a.ctx, "SELECT head, name, unit FROM columns ORDER BY head")
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var c archivedColumn
		if err := rows.Scan(&c.Head, &c.Name, &c.Unit); err != nil {
			return err
		}
		a.index.Columns = append(a.index.Columns, c)
	}
	return rows.Err()
}

// The bounds of an archive that is read: what its files unpack to, each and together, how
// many there are, and the line of a change.
const (
	mostArchive = 16 << 30
	mostIndex   = 256 << 20
	mostFiles   = 1 << 20
	mostChange  = 16 << 20
)

// unarchiver fills a new data file from an archive.
type unarchiver struct {
	ctx   context.Context
	tx    *transaction
	files map[string]*zip.File
	index archiveIndex
	sums  map[string]archivedFile
	left  int64 // bytes that may still be unpacked
}

// FromArchive fills a restored file from an archive, which is held against its checksums.
func FromArchive(path string, readable func(kind string, doc []byte) error) func(context.Context, string) error {
	return func(ctx context.Context, to string) (err error) {
		packed, err := zip.OpenReader(path)
		if err != nil {
			return unavailable(err, "%s is no archive that can be read: %v", path, err)
		}
		defer packed.Close()
		u := &unarchiver{ctx: ctx, left: mostArchive}
		if err := u.look(&packed.Reader); err != nil {
			return unavailable(err, "%s was not restored: %v", path, err)
		}
		s, err := Open(ctx, to)
		if err != nil {
			return err
		}
		err = s.inTx(ctx, func(tx *transaction) error {
			u.tx = tx
			return u.fill()
		})
		if err != nil {
			err = unavailable(err, "%s was not restored: %v", path, err)
		} else {
			err = s.wholeOf(ctx, path, readable)
		}
		return errors.Join(err, s.Close())
	}
}

// look takes the index in, and holds the names of the files against it.
func (u *unarchiver) look(packed *zip.Reader) error {
	if len(packed.File) > mostFiles {
		return fmt.Errorf("it has %d files; accepted: %d", len(packed.File), mostFiles)
	}
	u.files, u.sums = map[string]*zip.File{}, map[string]archivedFile{}
	for _, f := range packed.File {
		if u.files[f.Name] != nil {
			return fmt.Errorf("%q is in it twice", f.Name)
		}
		u.files[f.Name] = f
	}
	index := u.files[indexName]
	if index == nil {
		return fmt.Errorf("it has no %s", indexName)
	}
	from, err := index.Open()
	if err != nil {
		return fmt.Errorf("%s: %w", indexName, err)
	}
	defer from.Close()
	if err := json.UnmarshalRead(io.LimitReader(from, mostIndex), &u.index, json.RejectUnknownMembers(true)); err != nil {
		return fmt.Errorf("%s: %w", indexName, err)
	}
	if u.index.Format != ArchiveFormat {
		return fmt.Errorf("%s: /format: %q is not accepted; accepted: %q", indexName, u.index.Format, ArchiveFormat)
	}
	for _, f := range u.index.Files {
		u.sums[f.Name] = f
	}
	for name := range u.files {
		if _, listed := u.sums[name]; !listed && name != indexName {
			return fmt.Errorf("%q is not in its index", name)
		}
	}
	return nil
}

// read hands a file of the archive to take, and holds all of it against its checksum.
func (u *unarchiver) read(name string, take func(io.Reader) error) error {
	f, want := u.files[name], u.sums[name]
	if f == nil || want.Name == "" {
		return fmt.Errorf("%q is not in it", name)
	}
	if u.left -= want.Bytes; want.Bytes < 0 || u.left < 0 {
		return fmt.Errorf("%q: it unpacks to more than %d GiB", name, mostArchive>>30)
	}
	from, err := f.Open()
	if err != nil {
		return fmt.Errorf("%q: %w", name, err)
	}
	defer from.Close()
	sum := sha256.New()
	all := io.TeeReader(io.LimitReader(from, want.Bytes+1), sum)
	if err := take(all); err != nil {
		return fmt.Errorf("%q: %w", name, err)
	}
	if _, err := io.Copy(io.Discard, all); err != nil {
		return fmt.Errorf("%q: %w", name, err)
	}
	if hex.EncodeToString(sum.Sum(nil)) != want.Sum {
		return fmt.Errorf("%q is damaged: it is not what was packed", name)
	}
	return nil
}

func (u *unarchiver) fill() error {
	for _, t := range u.index.Things {
		if err := u.thing(t); err != nil {
			return err
		}
	}
	for _, p := range u.index.Pictures {
		err := u.blob(p.File, mostCapture, func(image []byte) error {
			return u.do(
				"INSERT INTO pictures (id, thing, step, image, sum) VALUES (?, ?, ?, ?, ?)", p.ID, p.Thing, p.Step, image,
				sumOf(p.Step, image),
			)
		})
		if err != nil {
			return err
		}
	}
	for _, c := range u.index.Captures {
		err := u.blob(c.File, mostCapture, func(file []byte) error {
			packed, err := packedOf(func(to io.Writer) error { _, err := to.Write(file); return err })
			if err != nil {
				return err
			}
			return u.do("INSERT INTO captures (thing, sum, name, file) VALUES (?, ?, ?, ?)", c.Thing, c.Sum, c.Name, packed)
		})
		if err != nil {
			return err
		}
	}
	for _, r := range u.index.Recordings {
		err := u.read(r.File, func(table io.Reader) error {
			packed, err := packedOf(func(to io.Writer) error { _, err := io.Copy(to, table); return err })
			if err != nil {
				return err
			}
			return u.do("INSERT INTO recordings (thing, packed, sum) VALUES (?, ?, ?)", r.Thing, packed, sumOf("", packed))
		})
		if err != nil {
			return err
		}
	}
	for _, c := range u.index.Columns {
		if err := u.do("INSERT INTO columns (head, name, unit) VALUES (?, ?, ?)", c.Head, c.Name, c.Unit); err != nil {
			return err
		}
	}
	return nil
}

func (u *unarchiver) do(query string, args ...any) error {
	_, err := u.tx.ExecContext(u.ctx, query, args...)
	return err
}

// blob reads a file of the archive whole.
func (u *unarchiver) blob(name string, most int64, take func([]byte) error) error {
	return u.read(name, func(from io.Reader) error {
		if u.sums[name].Bytes > most {
			return fmt.Errorf("it has more than %d MiB", most>>20)
		}
		all, err := io.ReadAll(from)
		if err != nil {
			return err
		}
		return take(all)
	})
}

// thing takes in a thing with its history.
func (u *unarchiver) thing(t archivedThing) error {
	deleted := sql.NullString{String: t.DeletedAt, Valid: t.DeletedAt != ""}
	if err := u.do(
		"INSERT INTO things (id, kind, name, head, deleted_at) VALUES (?, ?, ?, ?, ?)", t.ID, t.Kind, t.Name, t.Head, deleted,
	); err != nil {
		return err
	}
	if err := u.read(t.File, func(io.Reader) error { return nil }); err != nil { // its history has it, too
		return err
	}
	return u.read(t.History, func(from io.Reader) error {
		lines := bufio.NewScanner(from)
		lines.Buffer(nil, mostChange)
		var before revision // mostly what the next was made from
		for lines.Scan() {
			var r archivedRevision
			if err := json.Unmarshal(lines.Bytes(), &r, json.RejectUnknownMembers(true)); err != nil {
				return err
			}
			if err := u.change(t, &r, &before); err != nil {
				return err
			}
		}
		return lines.Err()
	})
}

func (u *unarchiver) change(t archivedThing, r *archivedRevision, before *revision) error {
	var from *revision
	parent := sql.NullInt64{Int64: r.Parent, Valid: r.Parent != 0}
	switch {
	case r.Parent == before.id && r.Parent != 0:
		from = before
	case r.Parent != 0:
		other := revisionAt(u.ctx, u.tx, t.ID, r.Parent)
		from = &other
	}
	doc := []byte(r.Doc)
	splice, depth := spliceFrom(from, doc)
	err := u.do(
		"INSERT INTO revisions (id, thing, parent, number, label, doc, made_at, name, sum, splice, depth) VALUES (?, ?, ?, ?, ?, ?, ?, ?, "+
			"?, ?, ?)",
		r.ID,
		t.ID,
		parent,
		r.Number,
		r.Label,
		keptDoc(doc, splice),
		r.MadeAt,
		r.Name,
		sumOf(r.Label, doc),
		splice,
		depth,
	)
	if err != nil {
		return fmt.Errorf("change %d: %w", r.Number, err)
	}
	*before = revision{id: r.ID, doc: doc, depth: depth}
	if r.ID != t.Head {
		return nil
	}
	return setHead(u.ctx, u.tx, &revision{id: r.ID, thing: t.ID, name: t.Name, doc: doc, depth: depth})
}
