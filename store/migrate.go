package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
	"log/slog"
	"os"

	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// sumsVersion follows the SQL step that makes room for the checksums.
const sumsVersion = 3

func provider(db *sql.DB, steps fs.FS) (*goose.Provider, error) {
	sums := goose.NewGoMigration(
		sumsVersion, &goose.GoFunc{RunTx: fillSums}, &goose.GoFunc{RunTx: func(context.Context, *sql.Tx) error { return nil }},
	)
	p, err := goose.NewProvider(goose.DialectSQLite3, db, steps, goose.WithGoMigrations(sums), goose.WithDisableGlobalRegistry(true))
	if err != nil {
		return nil, fmt.Errorf("preparing migrations: %w", err)
	}
	return p, nil
}

// versions are the form of a data file and the newest this Kolvan knows.
func versions(ctx context.Context, db *sql.DB, steps fs.FS) (version, newest int64, err error) {
	p, err := provider(db, steps)
	if err != nil {
		return 0, 0, err
	}
	sources := p.ListSources()
	newest = sources[len(sources)-1].Version
	err = db.QueryRowContext(ctx, "SELECT COALESCE(MAX(version_id), 0) FROM goose_db_version").Scan(&version)
	return version, newest, err
}

// migrate brings the file to the newest form; who shares it with others finds it so.
func (s *Store) migrate(ctx context.Context, steps fs.FS, alone bool) error {
	var known int
	if err := s.write.QueryRowContext(ctx, "SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'").Scan(&known); err != nil {
		return err
	}
	version := int64(0)
	if known > 0 {
		found, newest, err := versions(ctx, s.write.db, steps)
		switch {
		case err != nil:
			return fmt.Errorf("reading the version: %w", err)
		case found > newest:
			return unavailable(nil, "%s was written by a newer Kolvan; use that one, or another --data", s.path)
		case found == newest:
			return nil
		}
		version = found
	}
	if !alone {
		return unavailable(nil, "%s is of an older form, and another Kolvan has it open: stop that one first", s.path)
	}
	return s.bringUp(ctx, version, steps)
}

// bringUp runs the migrations; a file that holds something is copied first.
func (s *Store) bringUp(ctx context.Context, from int64, steps fs.FS) error {
	if from > 0 {
		aside := fmt.Sprintf("%s.before-%d", s.path, from+1)
		if err := os.Remove(aside); err != nil && !isMissing(err) {
			return fmt.Errorf("clearing the way for the copy: %w", err)
		}
		slog.Info("copying the data file before migrating", "to", aside)
		if err := s.copyTo(ctx, s.write.db, aside); err != nil {
			return err
		}
	}
	p, err := provider(s.write.db, steps)
	if err != nil {
		return err
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("migrating: %w", err)
	}
	return nil
}

// sumOf is the checksum a revision carries.
func sumOf(label string, doc []byte) string {
	h := sha256.New()
	fmt.Fprintf(h, "%d:%s", len(label), label)
	h.Write(doc)
	return hex.EncodeToString(h.Sum(nil))
}

// fillSums gives every revision of an older file its checksum.
func fillSums(ctx context.Context, tx *sql.Tx) error {
	rows, err := tx.QueryContext(ctx, "SELECT id, label, doc FROM revisions")
	if err != nil {
		return err
	}
	defer rows.Close()
	sums := map[int64]string{}
	for rows.Next() {
		var id int64
		var label string
		var doc []byte
		if err := rows.Scan(&id, &label, &doc); err != nil {
			return err
		}
		sums[id] = sumOf(label, doc)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for id, sum := range sums {
		if _, err := tx.ExecContext(ctx, "UPDATE revisions SET sum = ? WHERE id = ?", sum, id); err != nil {
			return err
		}
	}
	return nil
}
