package store

import (
	"context"
	"database/sql"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"testing/fstest"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func open(t testing.TB, path string) *Store {
	s, err := Open(context.Background(), path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func TestUndoAndRedoSurviveARestart(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s := open(t, path)
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	load := func() Head {
		h, err := s.Load(ctx, RigKind, id)
		require.NoError(t, err)
		return h
	}
	for _, name := range []string{"two", "three"} {
		written, err := s.Write(ctx, id, load().Revision, name, []byte(`{"name":"`+name+`"}`), "rename")
		require.NoError(t, err)
		assert.Equal(t, load(), written, "what is written is what is loaded")
	}
	require.NoError(t, s.Undo(ctx, id, load().Revision))
	require.NoError(t, s.Close())

	s = open(t, path)
	h := load()
	assert.JSONEq(t, `{"name":"two"}`, string(h.Doc))
	assert.True(t, h.CanUndo && h.CanRedo)
	require.NoError(t, s.Redo(ctx, id, h.Revision))
	assert.JSONEq(t, `{"name":"three"}`, string(load().Doc))
	assert.ErrorIs(t, s.Redo(ctx, id, load().Revision), ErrNothing)
	rigs, _, err := s.List(ctx, Query{Kind: RigKind})
	require.NoError(t, err)
	assert.Equal(t, "three", rigs[0].Name, "lists follow undo and redo")

	require.NoError(t, s.Undo(ctx, id, load().Revision))
	_, err = s.Write(ctx, id, load().Revision, "other", []byte(`{"name":"other"}`), "another way")
	require.NoError(t, err)
	assert.False(t, load().CanRedo, "a new change after undo is the newest")
	assert.Equal(t, 4, load().Number)
}

// TestOneOfManyWritersWins: of changes made from the same revision one is kept,
// the others hear of it.
func TestOneOfManyWritersWins(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	base, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	results := make([]error, 16)
	var all sync.WaitGroup
	for i := range results {
		all.Go(func() { _, results[i] = s.Write(ctx, id, base.Revision, "n", []byte(`{"name":"n"}`), "change") })
	}
	all.Wait()
	kept := 0
	for _, err := range results {
		var conflict *Conflict
		if err == nil {
			kept++
		} else {
			assert.ErrorAs(t, err, &conflict)
		}
	}
	assert.Equal(t, 1, kept)
}

// TestReadersDoNotWaitForTheWriter: what is kept is shown while a change is on its way to
// the disk.
func TestReadersDoNotWaitForTheWriter(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	holder, err := s.gather.db.BeginTx(ctx, nil)
	require.NoError(t, err)
	_, err = holder.Exec("UPDATE things SET name = name") // the file is being written
	require.NoError(t, err)
	wrote := make(chan error, 1)
	go func() {
		_, err := s.Write(ctx, id, h.Revision, "two", []byte(`{"name":"two"}`), "changed")
		wrote <- err
	}()
	for s.turn.TryLock() { // until the change has begun
		s.turn.Unlock()
	}
	_, err = s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	assert.Empty(t, wrote, "the reader came first")
	require.NoError(t, holder.Rollback())
	require.NoError(t, <-wrote)
}

// TestTheLogIsWorkedInBehind the answers, and none of them is lost.
func TestTheLogIsWorkedInBehind(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s, err := Open(ctx, path, Serving)
	require.NoError(t, err)
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	before, err := os.Stat(path)
	require.NoError(t, err)
	stamp := s.watch.stamp
	for i := range 2 * writesToCheckpoint {
		h, err = s.Write(ctx, id, h.Revision, "one", fmt.Appendf(nil, `{"name":"one","n":%d}`, i), "changed")
		require.NoError(t, err)
	}
	s.behind.Wait()
	after, err := os.Stat(path)
	require.NoError(t, err)
	assert.Greater(t, after.Size(), before.Size())
	assert.Equal(t, stamp.next().next(), s.watch.stamp, "a copy from before is none of it")
	assert.NoError(t, s.ready(), "the file is still ours")
	require.NoError(t, s.Close())
	last, err := open(t, path).Load(ctx, RigKind, id)
	require.NoError(t, err)
	assert.Equal(t, h.Revision, last.Revision)
}

func TestDeleteIsUndone(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.SetDeleted(ctx, id, true))
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	_, err = s.Write(ctx, id, h.Revision, "x", []byte(`{}`), "x")
	assert.ErrorIs(t, err, ErrNotFound, "a deleted rig does not change")
	gone, _, err := s.List(ctx, Query{Kind: RigKind, Deleted: true})
	require.NoError(t, err)
	assert.Len(t, gone, 1)
	require.NoError(t, s.SetDeleted(ctx, id, false))
	_, err = s.Write(ctx, id, h.Revision, "x", []byte(`{}`), "x")
	assert.NoError(t, err)
	assert.ErrorIs(t, s.SetDeleted(ctx, 99, true), ErrNotFound)
}

// old is a data file as the first form of Kolvan's left it, with a rig and a part.
func old(t *testing.T, path string) {
	first, err := migrations.ReadFile("migrations/00001_start.sql")
	require.NoError(t, err)
	db, err := sql.Open("sqlite", dsn(path, pragmas))
	require.NoError(t, err)
	p, err := goose.NewProvider(goose.DialectSQLite3, db, fstest.MapFS{"00001_start.sql": {Data: first}})
	require.NoError(t, err)
	_, err = p.Up(context.Background())
	require.NoError(t, err)
	_, err = db.Exec(`INSERT INTO rigs (name, head) VALUES ('kept', 1);
		INSERT INTO revisions (rig_id, number, label, doc) VALUES (1, 1, 'started', '{"name":"kept"}');
		INSERT INTO bins (kind, name, doc) VALUES ('card', 'mine', '{"name":"mine"}')`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
}

func TestAnOlderFileIsCopiedAndBroughtUp(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	old(t, path)
	s := open(t, path)
	h, err := s.Load(ctx, RigKind, 1)
	require.NoError(t, err, "it has its checksum now")
	assert.JSONEq(t, `{"name":"kept"}`, string(h.Doc))
	parts, _, err := s.List(ctx, Query{})
	require.NoError(t, err)
	require.Len(t, parts, 1)
	part, err := s.Load(ctx, "card", parts[0].ID)
	require.NoError(t, err)
	assert.Equal(t, "card", part.Kind)
	assert.NotZero(t, s.Identity())
	before, err := sql.Open("sqlite", dsn(path+".before-2", ""))
	require.NoError(t, err)
	defer before.Close()
	var name string
	require.NoError(t, before.QueryRow("SELECT name FROM bins").Scan(&name), "the copy is of the old form")

	require.NoError(t, s.Backup(ctx, path+".copy"))
	assert.Error(t, s.Backup(ctx, path+".copy"), "a copy never goes over another file")
	copied := open(t, path+".copy")
	assert.NotEqual(t, s.Identity(), copied.Identity())
}

// TestWhatIsNoDataFileIsLeftAlone: refused in a sentence, nothing written, nothing
// left behind.
func TestWhatIsNoDataFileIsLeftAlone(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	write := func(name, text string) { require.NoError(t, os.WriteFile(at(name), []byte(text), 0o600)) }
	write("empty", "")
	write("text", strings.Repeat("no data file ", 20))
	foreign, err := sql.Open("sqlite", dsn(at("foreign"), "_pragma=journal_mode(WAL)"))
	require.NoError(t, err)
	_, err = foreign.Exec("CREATE TABLE things (id)")
	require.NoError(t, err)
	require.NoError(t, foreign.Close())
	newer := open(t, at("newer"))
	_, err = newer.write.db.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)")
	require.NoError(t, err)
	require.NoError(t, newer.Close())
	for path, says := range map[string]string{
		":memory:": "keeps its data in a file", at("empty"): "empty", at("text"): "no data file of Kolvan", at("foreign"): "another program",
		at("newer"): "newer Kolvan", dir: "is a folder", at("none/k.db"): "the folder",
	} {
		before, _ := os.ReadFile(path)
		_, err := Open(ctx, path, Serving)
		var sentence *Unavailable
		require.ErrorAs(t, err, &sentence, path)
		assert.Contains(t, sentence.Says, says)
		after, _ := os.ReadFile(path)
		assert.Equal(t, before, after, path)
	}
	_, err = Open(ctx, at("missing"), Existing)
	assert.ErrorContains(t, err, "no data file")
	for _, left := range []string{"missing", "foreign-wal", "foreign-shm", "none", "empty.held", "text.held"} {
		assert.NoFileExists(t, at(left))
	}
}

// TestOneDamagedRigHarmsNoOther: its line says so, it goes back to the last
// change that can be read, and redo does not bring the damage back.
func TestOneDamagedRigHarmsNoOther(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	ids, err := s.CreateAll(
		ctx, []New{{RigKind, "a", []byte(`{"name":"a"}`), "started"}, {RigKind, "b", []byte(`{"name":"b"}`), "started"}},
	)
	require.NoError(t, err)
	h, err := s.Load(ctx, RigKind, ids[0])
	require.NoError(t, err)
	h, err = s.Write(ctx, ids[0], h.Revision, "a2", []byte(`{"name":"a2"}`), "rename")
	require.NoError(t, err)
	_, err = s.write.db.Exec("DELETE FROM shown; UPDATE revisions SET doc = '{\"name\":\"a3\"}', splice = NULL WHERE id = ?", h.Revision)
	require.NoError(t, err)

	rigs, all, err := s.List(ctx, Query{Kind: RigKind})
	require.NoError(t, err)
	assert.Equal(t, 2, all)
	var damage *Damaged
	assert.ErrorAs(t, rigs[0].Fault, &damage)
	assert.NoError(t, rigs[1].Fault)
	h, err = s.Load(ctx, RigKind, ids[0])
	assert.ErrorAs(t, err, &damage)
	assert.Equal(t, `{"name":"a3"}`, string(h.Doc), "as it lies")
	faults, err := s.Check(ctx, func(string, []byte) error { return nil })
	require.NoError(t, err)
	assert.Len(t, faults, 1)

	require.NoError(t, s.Recover(ctx, ids[0], func([]byte) bool { return true }))
	h, err = s.Load(ctx, RigKind, ids[0])
	require.NoError(t, err)
	assert.Equal(t, `{"name":"a"}`, string(h.Doc))
	assert.ErrorAs(t, s.Redo(ctx, ids[0], h.Revision), &damage)
	assert.ErrorIs(t, s.Recover(ctx, ids[0], func([]byte) bool { return true }), ErrNothing)
}

// TestFileTakenFromUnderKolvan: moved, deleted or copied over, nothing is said to
// be kept that is not, and nothing of ours is written into what took its place.
func TestFileTakenFromUnderKolvan(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s, err := Open(ctx, path, Serving)
	require.NoError(t, err)
	_, err = Open(ctx, path, Serving)
	assert.ErrorContains(t, err, "another Kolvan")
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.Backup(ctx, path+".backup"))
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	var says *Unavailable

	require.NoError(t, os.Rename(path, path+".away"))
	_, err = s.Write(ctx, id, h.Revision, "two", []byte(`{"name":"two"}`), "rename")
	assert.ErrorAs(t, err, &says)
	require.NoError(t, os.Rename(path+".away", path))
	h, err = s.Write(ctx, id, h.Revision, "two", []byte(`{"name":"two"}`), "rename")
	require.NoError(t, err, "put back, it goes on")

	backup, err := os.ReadFile(path + ".backup")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, backup, 0o600))
	_, err = s.Write(ctx, id, h.Revision, "three", []byte(`{"name":"three"}`), "rename")
	require.ErrorAs(t, err, &says)
	assert.Contains(t, says.Says, "another program")
	_, err = s.Load(ctx, RigKind, id)
	assert.ErrorAs(t, err, &says)
	require.NoError(t, s.Close())
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, backup, after)
	elsewhere := filepath.Join(t.TempDir(), "k.db") // this process still has the old one open
	require.NoError(t, os.WriteFile(elsewhere, after, 0o600))
	assert.NoFileExists(t, path+"-wal", "no log of ours is left beside it")
	again, err := open(t, elsewhere).Load(ctx, RigKind, id)
	require.NoError(t, err)
	assert.JSONEq(t, `{"name":"one"}`, string(again.Doc), "what was copied there is there")
	assert.NotEqual(t, h.Revision, again.Revision)
}

// TestACopyFromBefore has the same identity, and is told from the file all the same; who
// comes meanwhile does not read the log of the one into the other.
func TestACopyFromBefore(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s, err := Open(ctx, path, Serving)
	require.NoError(t, err)
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	for i := range 2 * writesToCheckpoint {
		h, err = s.Write(ctx, id, h.Revision, "one", fmt.Appendf(nil, `{"name":"one","n":%d}`, i), "changed")
		require.NoError(t, err)
		if i == writesToCheckpoint/2 { // while the log is not worked in, it is the same file
			require.NoError(t, os.WriteFile(path, before, 0o600))
			require.NoError(t, s.checked())
		}
	}
	s.behind.Wait()
	other, err := Open(ctx, path, Existing) // a command beside the server
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, before, 0o600))
	_, err = Open(ctx, path, Existing)
	assert.ErrorContains(t, err, "was exchanged while another Kolvan has it open")
	_, err = s.Write(ctx, id, h.Revision, "two", []byte(`{}`), "changed")
	assert.ErrorContains(t, err, "another program")
	assert.FileExists(t, path+"-wal", "another has it open")
	require.NoError(t, os.Remove(path))
	_, err = Open(ctx, path)
	assert.ErrorContains(t, err, "another Kolvan has it open", "no new file beside a log that is held")
	assert.Error(t, other.checked())
	_ = other.Close()
	require.NoError(t, s.Close())
}

// TestSeveralInOneProcess: files of their own side by side, and one file twice.
func TestSeveralInOneProcess(t *testing.T) {
	ctx, dir := t.Context(), t.TempDir()
	one, two := open(t, filepath.Join(dir, "one.db")), open(t, filepath.Join(dir, "two.db"))
	again := open(t, filepath.Join(dir, "one.db"))
	_, err := one.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	version, err := again.Version(ctx)
	require.NoError(t, err)
	_, err = one.Create(ctx, RigKind, "two", []byte(`{"name":"two"}`), "started")
	require.NoError(t, err)
	later, err := again.Version(ctx)
	require.NoError(t, err)
	assert.NotEqual(t, version, later, "it hears of the other's change")
	_, all, err := again.List(ctx, Query{Kind: RigKind})
	require.NoError(t, err)
	assert.Equal(t, 2, all)
	require.NoError(t, again.Close())
	_, err = one.Create(ctx, RigKind, "three", []byte(`{"name":"three"}`), "started")
	require.NoError(t, err)
	_, none, err := two.List(ctx, Query{Kind: RigKind})
	require.NoError(t, err)
	assert.Zero(t, none)
	assert.NotEqual(t, one.Identity(), two.Identity())
}

// TestLogOfAnotherFile: after a kill, a backup is copied over the data file and
// the old log lies beside it.
func TestLogOfAnotherFile(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s := open(t, path)
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.Backup(ctx, path+".backup"))
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	_, err = s.Write(ctx, id, h.Revision, "two", []byte(`{"name":"two"}`), "rename")
	require.NoError(t, err)
	killed := filepath.Join(t.TempDir(), "k.db") // what a kill leaves, files as they lie
	for _, part := range []string{"", "-wal", ".held"} {
		data, err := os.ReadFile(path + part)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(killed+part, data, 0o600))
	}
	info, err := os.Stat(path)
	require.NoError(t, err)
	require.NoError(t, os.Chtimes(killed, info.ModTime(), info.ModTime()))
	name := func() string {
		s := open(t, killed)
		defer s.Close()
		h, err := s.Load(ctx, RigKind, id)
		require.NoError(t, err)
		return string(h.Doc)
	}
	wal, err := os.ReadFile(killed + "-wal")
	require.NoError(t, err)
	note, err := os.ReadFile(killed + ".held")
	require.NoError(t, err)
	assert.JSONEq(t, `{"name":"two"}`, name(), "a log of its own is worked in")

	backup, err := os.ReadFile(path + ".backup")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(killed, backup, 0o600))
	require.NoError(t, os.WriteFile(killed+"-wal", wal, 0o600))
	require.NoError(t, os.WriteFile(killed+".held", note, 0o600))
	assert.JSONEq(t, `{"name":"one"}`, name(), "another's is not")
	left, err := filepath.Glob(killed + ".log-of-another*")
	require.NoError(t, err)
	assert.Len(t, left, 1, "it is kept")
}

func TestRestore(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	fine := func(string, []byte) error { return nil }
	s, err := Open(ctx, path, Serving)
	require.NoError(t, err)
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.Backup(ctx, path+".backup"))
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	was, err := s.Write(ctx, id, h.Revision, "two", []byte(`{"name":"two"}`), "rename")
	require.NoError(t, err)
	_, err = Restore(ctx, path, FromBackup(path+".backup", fine))
	assert.ErrorContains(t, err, "stop that one first")
	identity := s.Identity()
	require.NoError(t, s.Close())

	kept, err := Restore(ctx, path, FromBackup(path+".backup", fine))
	require.NoError(t, err)
	s = open(t, path)
	h, err = s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	assert.JSONEq(t, `{"name":"one"}`, string(h.Doc))
	assert.NotEqual(t, identity, s.Identity())
	again, err := s.Write(ctx, id, h.Revision, "x", []byte(`{"name":"x"}`), "rename")
	require.NoError(t, err)
	assert.Greater(t, again.Revision, was.Revision, "no number comes again")
	h, err = open(t, kept).Load(ctx, RigKind, id)
	require.NoError(t, err)
	assert.JSONEq(t, `{"name":"two"}`, string(h.Doc), "what was replaced is whole")

	require.NoError(t, s.Close())
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	cut, err := os.ReadFile(path + ".backup")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path+".cut", cut[:len(cut)/2], 0o600))
	_, err = Restore(ctx, path, FromBackup(path+".cut", fine))
	assert.ErrorContains(t, err, "damaged")
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	require.NoError(t, os.Truncate(path, 0))
	_, err = Restore(ctx, path, FromBackup(path+".backup", fine))
	assert.NoError(t, err, "what is damaged can be replaced")
}

func TestReadOnlyFileServesForReading(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s := open(t, path)
	id, err := s.Create(ctx, RigKind, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	require.NoError(t, os.Chmod(path, 0o400))
	s, err = Open(ctx, path, Serving)
	require.NoError(t, err)
	assert.True(t, s.ReadOnly())
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	_, err = s.Write(ctx, id, h.Revision, "x", []byte(`{}`), "x")
	assert.ErrorContains(t, err, "read-only")
	require.NoError(t, s.Close())
}

func writing(table string) func(io.Writer) error {
	return func(to io.Writer) error {
		_, err := io.WriteString(to, table)
		return err
	}
}

func recording(t *testing.T, s *Store, id int64) string {
	open, err := s.Recording(t.Context(), id)
	require.NoError(t, err)
	from, err := open()
	require.NoError(t, err)
	table, err := io.ReadAll(from)
	require.NoError(t, err)
	return string(table)
}

// TestRecordings: one for each rig, the newest, whole; a damaged one is said to be, and
// a backup has it too.
func TestRecordings(t *testing.T) {
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "k.db")
	s, err := Open(ctx, path)
	require.NoError(t, err)
	id, err := s.Create(ctx, RigKind, "rig", []byte(`{"name":"rig"}`), "made")
	require.NoError(t, err)
	_, err = s.Recording(ctx, id)
	require.ErrorIs(t, err, ErrNotFound)
	for _, table := range []string{"time_s,power_w\n0,10\n", "time_s,power_w\n" + strings.Repeat("1,100\n", 100000)} {
		require.NoError(t, s.KeepRecording(ctx, id, writing(table)))
		assert.Equal(t, table, recording(t, s, id))
	}
	require.Error(t, s.KeepRecording(ctx, 99, writing("of no rig")))
	require.Error(t, s.KeepRecording(ctx, id, func(io.Writer) error { return io.ErrUnexpectedEOF }))
	copied := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, s.Backup(ctx, copied))
	require.NoError(t, s.Close())

	raw, err := sql.Open("sqlite", copied)
	require.NoError(t, err)
	_, err = raw.ExecContext(ctx, "UPDATE recordings SET packed = substr(packed, 1, 40)")
	require.NoError(t, err)
	require.NoError(t, raw.Close())
	s, err = Open(ctx, copied)
	require.NoError(t, err)
	defer s.Close()
	_, err = s.Recording(ctx, id)
	require.ErrorContains(t, err, "is not what was kept")
	require.NoError(t, s.DropRecording(ctx, id))
	_, err = s.Recording(ctx, id)
	require.ErrorIs(t, err, ErrNotFound)
}

// TestSearchesOfManyWords: more sorts of search than are kept prepared, all answered.
func TestSearchesOfManyWords(t *testing.T) {
	ctx := context.Background()
	s, err := Open(ctx, filepath.Join(t.TempDir(), "k.db"))
	require.NoError(t, err)
	defer s.Close()
	_, err = s.Create(ctx, RigKind, "a rig", []byte(`{"name":"a rig"}`), "made")
	require.NoError(t, err)
	for words := range 80 {
		list, _, err := s.List(ctx, Query{Kind: RigKind, Text: strings.Repeat("rig ", words)})
		require.NoError(t, err)
		assert.Len(t, list, 1, words)
	}
}
