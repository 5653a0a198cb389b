package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
)

// A BinPart is one part somebody owns.
type BinPart struct {
	ID   int64
	Kind string
	Name string
	Doc  []byte
}

// Bins lists the parts in the bins, or the deleted ones.
func (s *Store) Bins(ctx context.Context, deleted bool) ([]BinPart, error) {
	rows, err := s.read.QueryContext(ctx, "SELECT id, kind, name, doc FROM bins WHERE (deleted_at IS NOT NULL) = ? ORDER BY kind, name, id", deleted)
	if err != nil {
		return nil, fmt.Errorf("listing bins: %w", err)
	}
	defer rows.Close()
	var list []BinPart
	for rows.Next() {
		var p BinPart
		if err := rows.Scan(&p.ID, &p.Kind, &p.Name, &p.Doc); err != nil {
			return nil, fmt.Errorf("listing bins: %w", err)
		}
		list = append(list, p)
	}
	return list, rows.Err()
}

// BinPart returns one part of the bins.
func (s *Store) BinPart(ctx context.Context, id int64) (BinPart, error) {
	p := BinPart{ID: id}
	err := s.read.QueryRowContext(ctx, "SELECT kind, name, doc FROM bins WHERE id = ?", id).Scan(&p.Kind, &p.Name, &p.Doc)
	if errors.Is(err, sql.ErrNoRows) {
		return p, ErrNotFound
	}
	if err != nil {
		return p, fmt.Errorf("loading part %d: %w", id, err)
	}
	return p, nil
}

// AddPart puts a part into the bins and returns its id.
func (s *Store) AddPart(ctx context.Context, p BinPart) (int64, error) {
	made, err := s.write.ExecContext(ctx, "INSERT INTO bins (kind, name, doc) VALUES (?, ?, ?)", p.Kind, p.Name, string(p.Doc))
	if err != nil {
		return 0, fmt.Errorf("adding a part: %w", err)
	}
	return made.LastInsertId()
}

// WritePart keeps a changed part.
func (s *Store) WritePart(ctx context.Context, p BinPart) error {
	done, err := s.write.ExecContext(ctx, "UPDATE bins SET name = ?, doc = ? WHERE id = ?", p.Name, string(p.Doc), p.ID)
	if err != nil {
		return fmt.Errorf("keeping part %d: %w", p.ID, err)
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}

// SetPartDeleted takes a part out of the bins or puts it back.
func (s *Store) SetPartDeleted(ctx context.Context, id int64, deleted bool) error {
	return s.setDeleted(ctx, "bins", id, deleted)
}
