package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
)

// KeepRecording keeps the table (CSV) of what a meter showed for a rig, in place of
// the one before.
func (s *Store) KeepRecording(ctx context.Context, rig int64, table []byte) error {
	var packed bytes.Buffer
	pack := gzip.NewWriter(&packed)
	if _, err := pack.Write(table); err != nil {
		return fmt.Errorf("packing the recording: %w", err)
	}
	if err := pack.Close(); err != nil {
		return fmt.Errorf("packing the recording: %w", err)
	}
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx, "INSERT OR REPLACE INTO recordings (thing, packed, sum) VALUES (?, ?, ?)", rig, packed.Bytes(), sumOf("", packed.Bytes()))
		if err != nil {
			return fmt.Errorf("keeping the recording: %w", err)
		}
		return nil
	})
}

// Recording returns the table that is kept for a rig, ErrNotFound without one. One
// that is not what was kept is an error.
func (s *Store) Recording(ctx context.Context, rig int64) ([]byte, error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	var packed []byte
	var sum string
	err := s.read.QueryRowContext(ctx, "SELECT packed, sum FROM recordings WHERE thing = ?", rig).Scan(&packed, &sum)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	if err != nil {
		return nil, s.explain(fmt.Errorf("loading the recording: %w", err))
	}
	if sumOf("", packed) != sum {
		return nil, fmt.Errorf("the recording of rig %d is damaged: it is not what was kept", rig)
	}
	unpack, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, fmt.Errorf("unpacking the recording: %w", err)
	}
	table, err := io.ReadAll(unpack)
	if err != nil {
		return nil, fmt.Errorf("unpacking the recording: %w", err)
	}
	return table, nil
}

// DropRecording throws the recording of a rig away; none is none.
func (s *Store) DropRecording(ctx context.Context, rig int64) error {
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx, "DELETE FROM recordings WHERE thing = ?", rig)
		return err
	})
}
