package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
)

// KeepColumn remembers which column, in which unit, a person named for tables of a head.
func (s *Store) KeepColumn(ctx context.Context, head, name, unit string) error {
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(
			ctx,
			"INSERT INTO columns (head, name, unit) VALUES (?, ?, ?) ON CONFLICT (head) DO UPDATE SET name = excluded.name, unit = excluded.unit",
			head, name, unit,
		)
		if err != nil {
			return fmt.Errorf("remembering the column: %w", err)
		}
		return nil
	})
}

// ColumnOf is the column a person named for tables of a head, and its unit; empty where
// nobody did.
func (s *Store) ColumnOf(ctx context.Context, head string) (name, unit string, err error) {
	if err := s.ready(); err != nil {
		return "", "", err
	}
	err = s.read.QueryRowContext(ctx, "SELECT name, unit FROM columns WHERE head = ?", head).Scan(&name, &unit)
	if errors.Is(err, sql.ErrNoRows) {
		return "", "", nil
	}
	if err != nil {
		return "", "", s.explain(fmt.Errorf("looking for the column: %w", err))
	}
	return name, unit, nil
}
