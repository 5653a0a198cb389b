package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
)

// mostCapture bounds the file of a capture, in bytes.
const mostCapture = 64 << 20

// KeepCapture keeps the file of a capture with a rig, by the checksum of what it holds.
func (s *Store) KeepCapture(ctx context.Context, rig int64, sum, name string, file []byte) error {
	packed, err := packedOf(func(to io.Writer) error { _, err := to.Write(file); return err })
	if err != nil {
		return err
	}
	return s.inTx(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(
			ctx, "INSERT INTO captures (thing, sum, name, file) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING", rig, sum, name,
			packed,
		)
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
	names, err := capturesOf(ctx, s.read, rig)
	return names, s.explain(err)
}

func capturesOf(ctx context.Context, db asker, rig int64) (map[string]string, error) {
	rows, err := db.QueryContext(ctx, "SELECT sum, name FROM captures WHERE thing = ?", rig)
	if err != nil {
		return nil, fmt.Errorf("listing captures: %w", err)
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
	name, file, err = captureOf(ctx, s.read, rig, sum)
	return name, file, s.explain(err)
}

func captureOf(ctx context.Context, db rowAsker, rig int64, sum string) (name string, file []byte, err error) {
	var packed []byte
	err = db.QueryRowContext(ctx, "SELECT name, file FROM captures WHERE thing = ? AND sum = ?", rig, sum).Scan(&name, &packed)
	if err != nil {
		return "", nil, fmt.Errorf("loading the capture: %w", orNotFound(err))
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
