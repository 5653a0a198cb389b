package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
)

// RigKind is the kind of a rig; every other kind is a part of the bins.
const RigKind = "rig"

// A Head is the revision of a thing that is shown.
type Head struct {
	ID       int64
	Kind     string
	Revision int64
	Number   int
	Label    string
	Doc      []byte
	CanUndo  bool
	CanRedo  bool
	Deleted  bool
}

// An Entry is one thing of the bench or the bins.
type Entry struct {
	ID     int64
	Kind   string
	Name   string
	MadeAt string
	Number int
	Doc    []byte
	Fault  error // a *Damaged where the document cannot be trusted
}

// A Query chooses among the things.
type Query struct {
	Kind    string // a kind; every kind of part when empty
	Text    string // in the name or a tag
	Sort    Sort
	Deleted bool
	Skip    int
	Most    int // 0 for all
}

// Sort is an order of things.
type Sort string

// The orders.
const (
	ByAge    Sort = ""        // as they were put there
	ByChange Sort = "changed" // the newest change first
	ByName   Sort = "name"
)

var orders = map[Sort]string{
	ByAge: "t.id", ByChange: "t.head DESC", ByName: "t.name COLLATE NOCASE, t.id",
}

// List returns the chosen things with their documents, and how many there are in
// all. A thing whose document is damaged stands among the others, with its fault.
func (s *Store) List(ctx context.Context, q Query) (list []Entry, all int, err error) {
	if err := s.ready(); err != nil {
		return nil, 0, err
	}
	where, args := q.where()
	if err := s.read.QueryRowContext(ctx, "SELECT count(*) FROM things t "+where, args...).Scan(&all); err != nil {
		return nil, 0, s.explain(fmt.Errorf("counting things: %w", err))
	}
	order, known := orders[q.Sort]
	if !known {
		order = orders[ByAge]
	}
	if q.Deleted {
		order = "t.deleted_at DESC, t.id"
	} else if q.Kind == "" {
		order = "t.kind, t.name, t.id"
	}
	most := q.Most
	if most == 0 {
		most = -1
	}
	if list, err = s.names(
		ctx, "SELECT t.id, t.kind, t.name, t.head FROM things t "+where+" ORDER BY "+order+" LIMIT ? OFFSET ?",
		append(args, most, q.Skip)...,
	); err != nil {
		return nil, 0, s.explain(fmt.Errorf("listing things: %w", err))
	}
	for i := range list {
		if err := s.fill(ctx, &list[i]); err != nil {
			return nil, 0, s.explain(fmt.Errorf("listing thing %d: %w", list[i].ID, err))
		}
	}
	return list, all, nil
}

// mostWords of a search are looked for.
const mostWords = 32

func (q Query) where() (string, []any) {
	kind, args := "t.kind <> 'rig'", []any{}
	if q.Kind != "" {
		kind, args = "t.kind = ?", append(args, q.Kind)
	}
	where := "WHERE " + kind + " AND (t.deleted_at IS NOT NULL) = ?"
	args = append(args, q.Deleted)
	for i, word := range strings.Fields(q.Text) {
		if i == mostWords {
			break
		}
		like := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(word) + "%"
		where += ` AND (t.name LIKE ? ESCAPE '\' OR t.tags LIKE ? ESCAPE '\')`
		args = append(args, like, like)
	}
	return where, args
}

// A Mark is a thing and the revision that it is at.
type Mark struct{ ID, Revision int64 }

// Marks are the things of a kind that were changed last, at most so many, without their documents.
func (s *Store) Marks(ctx context.Context, kind string, most int) ([]Mark, error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	list, err := s.names(
		ctx, "SELECT t.id, t.kind, t.name, t.head FROM things t WHERE t.kind = ? AND t.deleted_at IS NULL ORDER BY t.head DESC LIMIT ?", kind,
		most,
	)
	if err != nil {
		return nil, s.explain(fmt.Errorf("listing things: %w", err))
	}
	marks := make([]Mark, len(list))
	for i, e := range list {
		marks[i] = Mark{e.ID, int64(e.Number)}
	}
	return marks, nil
}

// names lists things without their documents, so that a broken one harms no
// other; Number holds the head until fill replaces it.
func (s *Store) names(ctx context.Context, query string, args ...any) ([]Entry, error) {
	rows, err := s.read.QueryContext(ctx, query, args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var list []Entry
	for rows.Next() {
		var e Entry
		if err := rows.Scan(&e.ID, &e.Kind, &e.Name, &e.Number); err != nil {
			return nil, err
		}
		list = append(list, e)
	}
	return list, rows.Err()
}

func (s *Store) fill(ctx context.Context, e *Entry) error {
	head := int64(e.Number)
	r, err := s.revision(ctx, e.ID, head)
	e.MadeAt, e.Number, e.Doc, e.Fault = r.madeAt, r.number, r.doc, err
	if damage := (*Damaged)(nil); e.Fault != nil && !errors.As(e.Fault, &damage) {
		return e.Fault
	}
	return nil
}

// verdict holds a revision that was read against its checksum; err is what
// reading it gave. Another fault than damage is returned as it is.
func verdict(thing, revision int64, label, sum string, doc []byte, err error) error {
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return &Damaged{thing, revision, "it is missing"}
	case err != nil && (damaged(err) || errors.Is(err, errSplice) || strings.Contains(err.Error(), "Scan error")):
		return &Damaged{thing, revision, "it cannot be read"}
	case err != nil:
		return err
	case sum != sumOf(label, doc):
		return &Damaged{thing, revision, "it is not what was kept: its checksum differs"}
	default:
		return nil
	}
}

// Create puts a new thing there and returns its id.
func (s *Store) Create(ctx context.Context, kind, name string, doc []byte, label string) (id int64, err error) {
	ids, err := s.CreateAll(ctx, []New{{kind, name, doc, label}})
	if err != nil {
		return 0, err
	}
	return ids[0], nil
}

// New is a thing to be put there.
type New struct {
	Kind, Name string
	Doc        []byte
	Label      string
}

// CreateAll puts things there, all of them or none, and returns their ids.
func (s *Store) CreateAll(ctx context.Context, things []New) (ids []int64, err error) {
	err = s.inTx(ctx, func(tx *transaction) error {
		for _, n := range things {
			made, err := tx.ExecContext(ctx, "INSERT INTO things (kind, name, head) VALUES (?, ?, 0)", n.Kind, n.Name)
			if err != nil {
				return fmt.Errorf("creating %s: %w", n.Kind, err)
			}
			id, err := made.LastInsertId()
			if err != nil {
				return err
			}
			if err := addRevision(ctx, tx, &Head{ID: id, Label: n.Label, Doc: n.Doc}, nil, n.Name); err != nil {
				return err
			}
			ids = append(ids, id)
		}
		return nil
	})
	return ids, err
}

// The queries of an edit.
const (
	baseQuery = "SELECT head, kind FROM things WHERE id = ? AND deleted_at IS NULL"
	addQuery  = `
		INSERT INTO revisions (id, thing, parent, number, label, doc, name, sum, splice, depth)
		SELECT MAX((SELECT COALESCE(MAX(id), 0) + 1 FROM revisions), CAST(unixepoch('subsec') * 1000000 AS INTEGER)),
		       ?1, ?2, COALESCE(MAX(number), 0) + 1, ?3, ?4, ?5, ?6, ?7, ?8 FROM revisions WHERE thing = ?1
		RETURNING id, number`
	headQuery = `
		UPDATE things SET head = ?1, name = ?2, tags = COALESCE((
		    SELECT group_concat(value, char(10)) FROM json_each(CASE WHEN instr(?3, '"tags"') AND json_valid(?3) THEN ?3 ELSE '{}' END, '$.tags')), '')
		WHERE id = ?4`
	shownQuery  = "REPLACE INTO shown (thing, revision, doc) VALUES (?, ?, ?)"
	hiddenQuery = "DELETE FROM shown WHERE thing = ?"
)

// addRevision appends a revision to the one it was made from, nil for the first of a thing,
// fills in its id and number, and makes it the head. Revisions are numbered by the time in
// microseconds, so that a number never comes again after a restore.
func addRevision(ctx context.Context, tx *transaction, h *Head, from *revision, name string) error {
	var parent sql.NullInt64
	if from != nil {
		parent = sql.NullInt64{Int64: from.id, Valid: true}
	}
	splice, depth := spliceFrom(from, h.Doc)
	err := tx.QueryRowContext(
		ctx, addQuery, h.ID, parent, h.Label, keptDoc(h.Doc, splice), name, sumOf(h.Label, h.Doc), splice, depth,
	).Scan(&h.Revision, &h.Number)
	if err != nil {
		return fmt.Errorf("adding a revision: %w", err)
	}
	return setHead(ctx, tx, &revision{id: h.Revision, thing: h.ID, name: name, doc: h.Doc, depth: depth})
}

// setHead makes a revision the one that is shown; its document is kept whole beside the
// history where that has no more than a splice of it.
func setHead(ctx context.Context, tx *transaction, r *revision) error {
	doc := string(r.doc)
	query, args := hiddenQuery, []any{r.thing}
	if r.depth > 0 {
		query, args = shownQuery, []any{r.thing, r.id, doc}
	}
	if _, err := tx.ExecContext(ctx, query, args...); err != nil {
		return fmt.Errorf("keeping what is shown: %w", err)
	}
	_, err := tx.ExecContext(ctx, headQuery, r.id, r.name, doc, r.thing)
	return err
}

// Load returns the head of a thing of that kind (of any kind of part when it is
// empty), deleted or not. The error is a *Damaged, beside all that can be read,
// when the document is not what was kept.
func (s *Store) Load(ctx context.Context, kind string, id int64) (Head, error) {
	h := Head{ID: id}
	if err := s.ready(); err != nil {
		return h, err
	}
	err := s.read.QueryRowContext(
		ctx, "SELECT kind, head, deleted_at IS NOT NULL FROM things WHERE id = ? AND (kind = ?2 OR ?2 = '' AND kind <> 'rig')",
		id, kind,
	).
		Scan(&h.Kind, &h.Revision, &h.Deleted)
	if err != nil {
		return h, s.explain(fmt.Errorf("loading thing %d: %w", id, orNotFound(err)))
	}
	r, err := s.revision(ctx, id, h.Revision)
	h.Number, h.Label, h.Doc, h.CanUndo, h.CanRedo = r.number, r.label, r.doc, r.parent.Valid, r.children
	return h, err
}

// Revision returns the document of one revision of a thing.
func (s *Store) Revision(ctx context.Context, id, revision int64) ([]byte, error) {
	r, err := s.revision(ctx, id, revision)
	if r.thing != id {
		return nil, ErrNotFound
	}
	return r.doc, err
}

func (s *Store) revision(ctx context.Context, thing, id int64) (revision, error) {
	r := revisionAt(ctx, s.read, thing, id)
	return r, s.explain(r.fault)
}

// Write keeps a changed document made from the base revision and returns the new
// head. The error is a *Conflict, and nothing is kept, when the thing has moved on
// since.
func (s *Store) Write(ctx context.Context, id, base int64, name string, doc []byte, label string) (Head, error) {
	h := Head{ID: id, Label: label, Doc: doc, CanUndo: true}
	err := s.inTx(ctx, func(tx *transaction) error {
		kind, err := check(ctx, tx, id, base)
		if err != nil {
			return err
		}
		h.Kind = kind
		from := revisionAt(ctx, tx, id, base)
		return addRevision(ctx, tx, &h, &from, name)
	})
	return h, err
}

// check holds the base revision against the head.
func check(ctx context.Context, tx *transaction, id, base int64) (kind string, err error) {
	var head int64
	err = tx.QueryRowContext(ctx, baseQuery, id).Scan(&head, &kind)
	if err != nil {
		return "", orNotFound(err)
	}
	if head != base {
		return kind, &Conflict{Base: base, Head: head}
	}
	return kind, nil
}

// Undo shows the revision the base was made from.
func (s *Store) Undo(ctx context.Context, id, base int64) error {
	return s.move(ctx, id, base, "SELECT parent FROM revisions WHERE id = ?")
}

// Redo shows the newest revision made from the base.
func (s *Store) Redo(ctx context.Context, id, base int64) error {
	return s.move(ctx, id, base, "SELECT MAX(id) FROM revisions WHERE parent = ?")
}

func (s *Store) move(ctx context.Context, id, base int64, query string) error {
	return s.inTx(ctx, func(tx *transaction) error {
		if _, err := check(ctx, tx, id, base); err != nil {
			return err
		}
		var to sql.NullInt64
		if err := tx.QueryRowContext(ctx, query, base).Scan(&to); err != nil {
			return fmt.Errorf("finding the revision: %w", err)
		}
		if !to.Valid {
			return ErrNothing
		}
		return show(ctx, tx, revisionAt(ctx, tx, id, to.Int64))
	})
}

// show makes a revision the head, if it is what was kept.
func show(ctx context.Context, tx *transaction, r revision) error {
	if r.fault != nil {
		return r.fault
	}
	return setHead(ctx, tx, &r)
}

// Recover shows the newest revision before the head that is what was kept and
// that readable takes. The error is ErrNothing when there is none.
func (s *Store) Recover(ctx context.Context, id int64, readable func(doc []byte) bool) error {
	return s.inTx(ctx, func(tx *transaction) error {
		var head int64
		if err := tx.QueryRowContext(ctx, "SELECT head FROM things WHERE id = ?", id).Scan(&head); err != nil {
			return orNotFound(err)
		}
		for at := before(ctx, tx, id, head); at.Valid; at = before(ctx, tx, id, at.Int64) {
			r := revisionAt(ctx, tx, id, at.Int64)
			if r.fault == nil && readable(r.doc) {
				return show(ctx, tx, r)
			}
		}
		return ErrNothing
	})
}

// before is the revision that one was made from; where even that cannot be read,
// the one with the next lower number.
func before(ctx context.Context, tx *transaction, id, revision int64) (at sql.NullInt64) {
	err := tx.QueryRowContext(ctx, "SELECT parent FROM revisions WHERE id = ?", revision).Scan(&at)
	if err != nil || !at.Valid || at.Int64 >= revision {
		at = sql.NullInt64{}
		_ = tx.QueryRowContext(ctx, "SELECT MAX(id) FROM revisions WHERE thing = ? AND id < ?", id, revision).Scan(&at) // none is said by Valid
	}
	return at
}

// SetDeleted takes a thing away or puts it back.
func (s *Store) SetDeleted(ctx context.Context, id int64, deleted bool) error {
	return s.inTx(ctx, func(tx *transaction) error {
		done, err := tx.ExecContext(
			ctx, "UPDATE things SET deleted_at = CASE WHEN ? THEN strftime('%Y-%m-%dT%H:%M:%fZ', 'now') END WHERE id = ?", deleted,
			id,
		)
		if err != nil {
			return fmt.Errorf("deleting or restoring: %w", err)
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrNotFound, err)
		}
		return nil
	})
}
