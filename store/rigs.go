package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
)

// ErrNotFound is returned for a rig or a part that is not there.
var ErrNotFound = errors.New("not found")

// ErrNothing is returned when there is nothing to undo or redo.
var ErrNothing = errors.New("nothing to undo or redo")

// A Conflict is returned when a rig was changed since the base revision.
type Conflict struct{ Base, Head int64 }

func (c *Conflict) Error() string {
	return fmt.Sprintf("changed meanwhile: revision %d is shown, %d is kept", c.Base, c.Head)
}

// A Head is the revision of a rig that is shown.
type Head struct {
	RigID    int64
	Revision int64
	Number   int
	Label    string
	Doc      []byte
	CanUndo  bool
	CanRedo  bool
	Deleted  bool
}

// An Entry is one rig of the bench.
type Entry struct {
	ID     int64
	Name   string
	MadeAt string
	Number int
	Doc    []byte
}

// Rigs lists the rigs on the bench, or the deleted ones, newest change first.
func (s *Store) Rigs(ctx context.Context, deleted bool) ([]Entry, error) {
	rows, err := s.read.QueryContext(ctx, `
		SELECT r.id, r.name, v.made_at, v.number, v.doc FROM rigs r JOIN revisions v ON v.id = r.head
		WHERE (r.deleted_at IS NOT NULL) = ? ORDER BY COALESCE(r.deleted_at, ''), r.id`, deleted)
	if err != nil {
		return nil, fmt.Errorf("listing rigs: %w", err)
	}
	defer rows.Close()
	var list []Entry
	for rows.Next() {
		var e Entry
		if err := rows.Scan(&e.ID, &e.Name, &e.MadeAt, &e.Number, &e.Doc); err != nil {
			return nil, fmt.Errorf("listing rigs: %w", err)
		}
		list = append(list, e)
	}
	return list, rows.Err()
}

// Create puts a new rig on the bench and returns its id.
func (s *Store) Create(ctx context.Context, name string, doc []byte, label string) (id int64, err error) {
	err = s.inTx(ctx, func(tx *sql.Tx) error {
		made, err := tx.ExecContext(ctx, "INSERT INTO rigs (name, head) VALUES (?, 0)", name)
		if err != nil {
			return fmt.Errorf("creating a rig: %w", err)
		}
		if id, err = made.LastInsertId(); err != nil {
			return err
		}
		return addRevision(ctx, tx, &Head{RigID: id, Label: label, Doc: doc}, sql.NullInt64{}, name)
	})
	return id, err
}

// addRevision appends a revision, fills in its id and number, and makes it the
// head of its rig.
func addRevision(ctx context.Context, tx *sql.Tx, h *Head, parent sql.NullInt64, name string) error {
	err := tx.QueryRowContext(ctx, `
		INSERT INTO revisions (rig_id, parent, number, label, doc)
		SELECT ?1, ?2, COALESCE(MAX(number), 0) + 1, ?3, ?4 FROM revisions WHERE rig_id = ?1
		RETURNING id, number`, h.RigID, parent, h.Label, string(h.Doc)).Scan(&h.Revision, &h.Number)
	if err != nil {
		return fmt.Errorf("adding a revision: %w", err)
	}
	_, err = tx.ExecContext(ctx, "UPDATE rigs SET head = ?, name = ? WHERE id = ?", h.Revision, name, h.RigID)
	return err
}

// Load returns the head of a rig, deleted or not.
func (s *Store) Load(ctx context.Context, id int64) (Head, error) {
	h := Head{RigID: id}
	err := s.read.QueryRowContext(ctx, `
		SELECT v.id, v.number, v.label, v.doc, v.parent IS NOT NULL,
		       EXISTS (SELECT 1 FROM revisions c WHERE c.parent = v.id), r.deleted_at IS NOT NULL
		FROM rigs r JOIN revisions v ON v.id = r.head WHERE r.id = ?`, id).
		Scan(&h.Revision, &h.Number, &h.Label, &h.Doc, &h.CanUndo, &h.CanRedo, &h.Deleted)
	if errors.Is(err, sql.ErrNoRows) {
		return h, ErrNotFound
	}
	if err != nil {
		return h, fmt.Errorf("loading rig %d: %w", id, err)
	}
	return h, nil
}

// Revision returns the document of one revision of a rig.
func (s *Store) Revision(ctx context.Context, rigID, revision int64) ([]byte, error) {
	var doc []byte
	err := s.read.QueryRowContext(ctx, "SELECT doc FROM revisions WHERE id = ? AND rig_id = ?", revision, rigID).Scan(&doc)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	return doc, err
}

// Write keeps a changed document made from the base revision and returns the new
// head. The error is a *Conflict, and nothing is kept, when the rig has moved on
// since.
func (s *Store) Write(ctx context.Context, id, base int64, name string, doc []byte, label string) (Head, error) {
	h := Head{RigID: id, Label: label, Doc: doc, CanUndo: true}
	err := s.inTx(ctx, func(tx *sql.Tx) error {
		if err := check(ctx, tx, id, base); err != nil {
			return err
		}
		return addRevision(ctx, tx, &h, sql.NullInt64{Int64: base, Valid: true}, name)
	})
	return h, err
}

// check holds the base revision against the head.
func check(ctx context.Context, tx *sql.Tx, id, base int64) error {
	var head int64
	err := tx.QueryRowContext(ctx, "SELECT head FROM rigs WHERE id = ? AND deleted_at IS NULL", id).Scan(&head)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	if err != nil {
		return err
	}
	if head != base {
		return &Conflict{Base: base, Head: head}
	}
	return nil
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
	return s.inTx(ctx, func(tx *sql.Tx) error {
		if err := check(ctx, tx, id, base); err != nil {
			return err
		}
		var to sql.NullInt64
		if err := tx.QueryRowContext(ctx, query, base).Scan(&to); err != nil {
			return fmt.Errorf("finding the revision: %w", err)
		}
		if !to.Valid {
			return ErrNothing
		}
		_, err := tx.ExecContext(ctx, `
			UPDATE rigs SET head = ?1, name = (SELECT json_extract(doc, '$.name') FROM revisions WHERE id = ?1) WHERE id = ?2`, to.Int64, id)
		return err
	})
}

// SetDeleted takes a rig off the bench or puts it back.
func (s *Store) SetDeleted(ctx context.Context, id int64, deleted bool) error {
	return s.setDeleted(ctx, "rigs", id, deleted)
}

func (s *Store) setDeleted(ctx context.Context, table string, id int64, deleted bool) error {
	done, err := s.write.ExecContext(ctx, "UPDATE "+table+" SET deleted_at = CASE WHEN ? THEN strftime('%Y-%m-%dT%H:%M:%fZ', 'now') END WHERE id = ?", deleted, id)
	if err != nil {
		return fmt.Errorf("deleting or restoring: %w", err)
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}
