package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
)

// mostCapture bounds the file of a capture, in bytes.
const mostCapture = 64 << 20

// KeepCapture keeps the file of a capture with a rig, by the checksum of what it holds.
func (s *Store) KeepCapture(ctx context.Context, rig int64, sum, name string, file []byte) error {
	var packed bytes.Buffer
	z := gzip.NewWriter(&packed)
	if _, err := z.Write(file); err != nil {
		return fmt.Errorf("packing the capture: %w", err)
	}
	if err := z.Close(); err != nil {
		return fmt.Errorf("packing the capture: %w", err)
	}
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx, "INSERT INTO captures (thing, sum, name, file) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING", rig, sum, name, packed.Bytes())
		if err != nil {
			return fmt.Errorf("keeping the capture: %w", err)
		}
		return nil
	})
}

// CapturesOf are the names of the captures that are kept with a rig, by their checksums.
func (s *Store) CapturesOf(ctx context.Context, rig int64) (map[string]string, error) {
	if err := s.ready(); err != nil {
		return nil, err
	}
	rows, err := s.read.QueryContext(ctx, "SELECT sum, name FROM captures WHERE thing = ?", rig)
	if err != nil {
		return nil, s.explain(fmt.Errorf("listing captures: %w", err))
	}
	defer rows.Close()
	names := map[string]string{}
	for rows.Next() {
		var sum, name string
		if err := rows.Scan(&sum, &name); err != nil {
			return nil, fmt.Errorf("listing captures: %w", err)
		}
		names[sum] = name
	}
	return names, rows.Err()
}

// Capture returns a capture as it came, ErrNotFound without it. One that is not what was
// kept is an error.
func (s *Store) Capture(ctx context.Context, rig int64, sum string) (name string, file []byte, err error) {
	if err := s.ready(); err != nil {
		return "", nil, err
	}
	var packed []byte
	err = s.read.QueryRowContext(ctx, "SELECT name, file FROM captures WHERE thing = ? AND sum = ?", rig, sum).Scan(&name, &packed)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return "", nil, ErrNotFound
	case err != nil:
		return "", nil, s.explain(fmt.Errorf("loading the capture: %w", err))
	}
	damaged := &Broken{fmt.Sprintf("capture %s of rig %d", name, rig)}
	z, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return "", nil, damaged
	}
	if file, err = io.ReadAll(io.LimitReader(z, mostCapture+1)); err != nil || len(file) > mostCapture {
		return "", nil, damaged
	}
	if is := sha256.Sum256(file); hex.EncodeToString(is[:]) != sum {
		return "", nil, damaged
	}
	return name, file, nil
}
