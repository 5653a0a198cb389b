package store

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func fine(string, []byte) error { return nil }

func no(string, error) bool { return false }

// dumped is all that a data file holds, a line each.
func dumped(t *testing.T, s *Store) (lines []string) {
	for _, query := range []string{
		"SELECT id || kind || name || head || COALESCE(deleted_at, '') || tags FROM things ORDER BY id",
		"SELECT id || ' ' || thing || ' ' || COALESCE(parent, '') || ' ' || number || label || name || sum || made_at FROM revisions ORDER BY id",
		"SELECT id || thing || step || hex(image) || sum FROM pictures ORDER BY id",
		"SELECT thing || sum || name FROM captures ORDER BY thing, sum",
		"SELECT thing FROM recordings ORDER BY thing",
		"SELECT head || name || unit FROM columns ORDER BY head",
	} {
		rows, err := s.read.db.Query(query)
		require.NoError(t, err)
		for rows.Next() {
			var line string
			require.NoError(t, rows.Scan(&line))
			lines = append(lines, line)
		}
		require.NoError(t, rows.Close())
	}
	return lines
}

// filled is a data file with all sorts of things: of an older form, edited since, with ways
// that were left.
func filled(t *testing.T) *Store {
	ctx, path := t.Context(), filepath.Join(t.TempDir(), "k.db")
	copyOf(t, "testdata/00-before.sqlite", path)
	s := open(t, path)
	h, err := s.Load(ctx, RigKind, 2)
	require.NoError(t, err)
	for i := range 130 {
		if i == 70 { // another way from here
			for range 3 {
				require.NoError(t, s.Undo(ctx, 2, h.Revision))
				h, err = s.Load(ctx, RigKind, 2)
				require.NoError(t, err)
			}
		}
		doc := bytes.Replace(h.Doc, []byte(`"format"`), []byte(` "format"`), 1)
		h, err = s.Write(ctx, 2, h.Revision, fmt.Sprint("n", i), doc, "more")
		require.NoError(t, err)
	}
	require.NoError(t, s.Undo(ctx, 2, h.Revision))
	return s
}

// TestArchiveHoldsAllOfIt: what is restored from an archive is what was archived, to the
// byte, its history, pictures, captures and recordings too.
func TestArchiveHoldsAllOfIt(t *testing.T) {
	ctx, s, dir := t.Context(), filled(t), t.TempDir()
	var packed bytes.Buffer
	require.NoError(t, s.WriteArchive(ctx, &packed, no))
	file := filepath.Join(dir, "bench.zip")
	require.NoError(t, os.WriteFile(file, packed.Bytes(), 0o600))
	path := filepath.Join(dir, "restored.db")
	_, err := Restore(ctx, path, FromArchive(file, fine))
	require.NoError(t, err)
	restored := open(t, path)
	assert.Equal(t, dumped(t, s), dumped(t, restored))
	pairs, err := pairsOf(ctx, s.read, "SELECT thing, id FROM revisions")
	require.NoError(t, err)
	for _, p := range pairs {
		was, err := s.Revision(ctx, p[0], p[1])
		require.NoError(t, err)
		is, err := restored.Revision(ctx, p[0], p[1])
		require.NoError(t, err)
		require.Equal(t, was, is)
	}
	assert.Equal(t, recording(t, s, 1), recording(t, restored, 1))
	names, err := restored.CapturesOf(ctx, 1)
	require.NoError(t, err)
	assert.Len(t, names, 1)
	assert.NotEqual(t, s.Identity(), restored.Identity())
	assert.Less(t, sizeOf(t, restored), 2*sizeOf(t, s), "and takes no more room")
	h, err := restored.Load(ctx, RigKind, 2)
	require.NoError(t, err)
	assert.True(t, h.CanRedo)
	require.NoError(t, restored.Redo(ctx, 2, h.Revision))
}

// TestArchiveLeavesOutWhatIsDamaged where that is wanted, and nothing else.
func TestArchiveLeavesOutWhatIsDamaged(t *testing.T) {
	ctx, s, dir := t.Context(), filled(t), t.TempDir()
	for _, spoil := range []string{
		"UPDATE pictures SET image = x'00' WHERE thing = 1", "UPDATE recordings SET packed = x'00' WHERE thing = 1",
		"UPDATE captures SET file = x'00' WHERE thing = 2",
		"UPDATE revisions SET label = 'x' WHERE thing = 1 AND number = 2", "UPDATE things SET head = 5 WHERE id = 3",
	} {
		_, err := s.write.db.Exec(spoil)
		require.NoError(t, err)
	}
	assert.ErrorContains(t, s.WriteArchive(ctx, io.Discard, no), "damaged")
	var packed bytes.Buffer
	var left []string
	require.NoError(t, s.WriteArchive(ctx, &packed, func(what string, _ error) bool { left = append(left, what); return true }))
	assert.Equal(
		t,
		[]string{`rig 1, "field_kit 1", change 2`, `card 3, "mine"`, "picture 1", "capture evening.csv", "the recording of rig 1"},
		left,
	)
	file, path := filepath.Join(dir, "bench.zip"), filepath.Join(dir, "restored.db")
	require.NoError(t, os.WriteFile(file, packed.Bytes(), 0o600))
	_, err := Restore(ctx, path, FromArchive(file, fine))
	require.NoError(t, err)
	h, err := open(t, path).Load(ctx, RigKind, 1)
	require.NoError(t, err)
	assert.True(t, h.CanUndo, "to the change before the one that is gone")
}

// TestArchivesThatAreRefused say why, and nothing is left of them.
func TestArchivesThatAreRefused(t *testing.T) {
	ctx, dir := t.Context(), t.TempDir()
	var packed bytes.Buffer
	require.NoError(t, filled(t).WriteArchive(ctx, &packed, no))
	whole, err := zip.NewReader(bytes.NewReader(packed.Bytes()), int64(packed.Len()))
	require.NoError(t, err)
	made := func(change func(name string, text []byte) (string, []byte)) []byte {
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		for _, f := range whole.File {
			from, err := f.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(from)
			require.NoError(t, err)
			name, text := change(f.Name, text)
			if name == "" {
				continue
			}
			w, err := z.Create(name)
			require.NoError(t, err)
			_, err = w.Write(text)
			require.NoError(t, err)
		}
		require.NoError(t, z.Close())
		return out.Bytes()
	}
	in := func(file string, from, to string) func(string, []byte) (string, []byte) {
		return func(name string, text []byte) (string, []byte) {
			if name == file {
				require.Contains(t, string(text), from)
				text = bytes.Replace(text, []byte(from), []byte(to), 1)
			}
			return name, text
		}
	}
	for says, archive := range map[string][]byte{
		"no archive that can be read": packed.Bytes()[:packed.Len()/2],
		`"../../etc/passwd" is not in its index`: made(func(name string, text []byte) (string, []byte) {
			return strings.Replace(name, "things/1/wall.csv", "../../etc/passwd", 1), text
		}),
		`"things/1/wall.csv" is damaged`:      made(in("things/1/wall.csv", "1,20", "1,21")),
		`"things/2/history.jsonl" is damaged`: made(in("things/2/history.jsonl", "more", "less")),
		"it has no bench.json": made(func(name string, text []byte) (string, []byte) {
			return strings.TrimPrefix(name,
				"bench.json"), text
		}),
		`accepted: "kolvan-bench/2"`:  made(in("bench.json", "kolvan-bench/2", "kolvan-bench/3")),
		"unpacks to more than 16 GiB": made(in("bench.json", `"bytes": `, `"bytes": 99999999999`)),
		"unknown object member name":  made(in("bench.json", `"made_at"`, `"made_of"`)),
		`"things/1/pictures/1.jpg" is not in it`: made(func(name string, text []byte) (string, []byte) {
			return strings.TrimPrefix(name, "things/1/pictures/1.jpg"), text
		}),
		"is in it twice": made(func(name string, text []byte) (string, []byte) {
			return strings.Replace(name, "things/1/rig", "things/2/rig", 1), text
		}),
		"is damaged and was not restored": made(in("bench.json", `"head": 1`, `"head": 2`)),
	} {
		file, path := filepath.Join(dir, "wrong.zip"), filepath.Join(dir, "restored.db")
		require.NoError(t, os.WriteFile(file, archive, 0o600))
		_, err := Restore(context.Background(), path, FromArchive(file, fine))
		var sentence *Unavailable
		require.ErrorAs(t, err, &sentence, says)
		assert.Contains(t, sentence.Says, says)
		left, err := filepath.Glob(path + "*")
		require.NoError(t, err)
		assert.Subset(t, []string{path + ".lock"}, left)
	}
}
