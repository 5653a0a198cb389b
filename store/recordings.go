package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"io"
)

// KeepRecording keeps the table (CSV) of what a meter showed for a rig, as write writes it,
// in place of the one before. An error of write keeps nothing.
func (s *Store) KeepRecording(ctx context.Context, rig int64, write func(to io.Writer) error) error {
	packed, err := packedOf(write)
	if err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(
			ctx, "INSERT OR REPLACE INTO recordings (thing, packed, sum) VALUES (?, ?, ?)", rig, packed, sumOf("", packed),
		)
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
	open, err = recordingOf(ctx, s.read, rig)
	return open, s.explain(err)
}

func recordingOf(ctx context.Context, db rowAsker, rig int64) (open func() (io.Reader, error), err error) {
	var packed []byte
	var sum string
	err = db.QueryRowContext(ctx, "SELECT packed, sum FROM recordings WHERE thing = ?", rig).Scan(&packed, &sum)
	if err != nil {
		return nil, fmt.Errorf("loading the recording: %w", orNotFound(err))
	}
	if sumOf("", packed) != sum {
		return nil, &Broken{fmt.Sprintf("the recording of rig %d", rig)}
	}
	return func() (io.Reader, error) { return gzip.NewReader(bytes.NewReader(packed)) }, nil
}

// packedOf is what write writes, as gzip.
func packedOf(write func(to io.Writer) error) ([]byte, error) {
	var packed bytes.Buffer
	pack := gzip.NewWriter(&packed)
	if err := write(pack); err != nil {
		return nil, err
	}
	if err := pack.Close(); err != nil {
		return nil, fmt.Errorf("packing: %w", err)
	}
	return packed.Bytes(), nil
}

// DropRecording throws the recording of a rig away; none is none.
func (s *Store) DropRecording(ctx context.Context, rig int64) error {
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx, "DELETE FROM recordings WHERE thing = ?", rig)
		return err
	})
}
