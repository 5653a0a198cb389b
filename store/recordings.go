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

// KeepRecording keeps the table (CSV) of what a meter showed for a rig, as write writes it,
// in place of the one before. An error of write keeps nothing.
func (s *Store) KeepRecording(ctx context.Context, rig int64, write func(to io.Writer) error) error {
	var packed bytes.Buffer
	pack := gzip.NewWriter(&packed)
	if err := write(pack); err != nil {
		return err
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

// Recording opens the table that is kept for a rig, which can be read again and again;
// ErrNotFound without one. The error is a *Broken when it is not what was kept.
func (s *Store) Recording(ctx context.Context, rig int64) (open func() (io.Reader, error), err error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	var packed []byte
	var sum string
	err = s.read.QueryRowContext(ctx, "SELECT packed, sum FROM recordings WHERE thing = ?", rig).Scan(&packed, &sum)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	if err != nil {
		return nil, s.explain(fmt.Errorf("loading the recording: %w", err))
	}
	if sumOf("", packed) != sum {
		return nil, &Broken{fmt.Sprintf("the recording of rig %d", rig)}
	}
	return func() (io.Reader, error) { return gzip.NewReader(bytes.NewReader(packed)) }, nil
}

// DropRecording throws the recording of a rig away; none is none.
func (s *Store) DropRecording(ctx context.Context, rig int64) error {
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx, "DELETE FROM recordings WHERE thing = ?", rig)
		return err
	})
}
