package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
)

// A revision keeps a splice: what it put into the document of the one it was made from, in
// place of what stood there. The document of any revision is the nearest whole one above it
// with the splices since. The one that is shown is kept whole as well, in a place of its own
// that the next one takes, for it is read all the time and outlives damage above it.

// splicesToWhole is how many splices stand on a whole document at the most.
const splicesToWhole = 50

// spliceOf is what makes one document of the other: how many bytes of it stay at its start
// and at its end, and what comes between.
func spliceOf(from, to []byte) []byte {
	start := commonStart(from, to)
	rest := min(len(from), len(to)) - start
	end := 0
	for end < rest && from[len(from)-1-end] == to[len(to)-1-end] {
		end++
	}
	splice := binary.AppendUvarint(nil, uint64(start))
	splice = binary.AppendUvarint(splice, uint64(end))
	return append(splice, to[start:len(to)-end]...)
}

// spliceFrom is how a document is kept that was made from a revision, nil for none: as a
// splice, or whole where that says no less.
func spliceFrom(from *revision, doc []byte) (splice []byte, depth int) {
	if from == nil || from.fault != nil || from.depth >= splicesToWhole {
		return nil, 0
	}
	if splice = spliceOf(from.doc, doc); len(splice) > len(doc)/2 {
		return nil, 0
	}
	return splice, from.depth + 1
}

// keptDoc is what the history keeps of a document beside its splice.
func keptDoc(doc, splice []byte) string {
	if splice != nil {
		return ""
	}
	return string(doc)
}

func commonStart(a, b []byte) int {
	for i := range min(len(a), len(b)) {
		if a[i] != b[i] {
			return i
		}
	}
	return min(len(a), len(b))
}

var errSplice = errors.New("its splice does not fit")

// spliced is the document that a splice makes of one.
func spliced(from, splice []byte) ([]byte, error) {
	start, n := binary.Uvarint(splice)
	if n <= 0 {
		return nil, errSplice
	}
	end, m := binary.Uvarint(splice[n:])
	long := uint64(len(from))
	if m <= 0 || start > long || end > long-start {
		return nil, errSplice
	}
	return bytes.Join([][]byte{from[:start], splice[n+m:], from[long-end:]}, nil), nil
}

// asker is a database, or a transaction of it.
type asker interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// aboveQuery gives a revision and those above it, up to the next that has no splice.
const aboveQuery = `
	WITH RECURSIVE above (parent, splice, doc, far) AS (
		SELECT parent, splice, doc, 0 FROM revisions WHERE id = ?
		UNION ALL
		SELECT v.parent, v.splice, v.doc, far + 1 FROM above a JOIN revisions v ON v.id = a.parent
		WHERE a.splice IS NOT NULL AND far < 200)
	SELECT splice, doc FROM above ORDER BY far`

// docOf is the document of a revision, made from the nearest whole one above it.
func docOf(ctx context.Context, db asker, revision int64) ([]byte, error) {
	rows, err := db.QueryContext(ctx, aboveQuery, revision)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var splices [][]byte
	for rows.Next() {
		var splice, doc []byte
		if err := rows.Scan(&splice, &doc); err != nil {
			return nil, err
		}
		if splice == nil {
			return allSpliced(doc, splices)
		}
		splices = append(splices, splice)
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	return nil, fmt.Errorf("%w: nothing whole is above it", errSplice)
}

// allSpliced applies splices, the last one first.
func allSpliced(doc []byte, splices [][]byte) (_ []byte, err error) {
	for i := len(splices) - 1; i >= 0 && err == nil; i-- {
		doc, err = spliced(doc, splices[i])
	}
	return doc, err
}

// A revision is what is kept of one change of a thing.
type revision struct {
	id, thing   int64
	parent      sql.NullInt64
	children    bool
	number      int
	name, label string
	madeAt      string
	doc         []byte
	depth       int
	fault       error // a *Damaged, beside all that can be read, when the document is not what was kept
}

const revisionQuery = `
	SELECT v.thing, parent, EXISTS (SELECT 1 FROM revisions c WHERE c.parent = v.id), number, name, label, made_at, COALESCE(s.doc, v.doc), sum, splice, depth
	FROM revisions v LEFT JOIN shown s ON s.thing = v.thing AND s.revision = v.id WHERE v.id = ?`

// rowAsker asks for one row, too.
type rowAsker interface {
	asker
	QueryRowContext(ctx context.Context, query string, args ...any) *sql.Row
}

// revisionAt reads a revision of a thing with its document.
func revisionAt(ctx context.Context, db rowAsker, thing, id int64) revision {
	return revisionAfter(ctx, db, thing, id, &revision{})
}

// revisionAfter is revisionAt where another one is at hand, that it may be made from.
func revisionAfter(ctx context.Context, db rowAsker, thing, id int64, before *revision) revision {
	r := revision{id: id}
	var sum string
	var splice []byte
	err := db.QueryRowContext(ctx, revisionQuery, id).
		Scan(&r.thing, &r.parent, &r.children, &r.number, &r.name, &r.label, &r.madeAt, &r.doc, &sum, &splice, &r.depth)
	switch {
	case err != nil || len(r.doc) > 0 || splice == nil: // whole, or not to be had
	case before.id != 0 && before.fault == nil && r.parent.Int64 == before.id:
		r.doc, err = spliced(before.doc, splice)
	default:
		r.doc, err = docOf(ctx, db, id)
	}
	if r.fault = verdict(thing, id, r.label, sum, r.doc, err); r.fault == nil && r.thing != thing {
		r.fault = &Damaged{thing, id, "it is of another thing"}
	}
	return r
}
