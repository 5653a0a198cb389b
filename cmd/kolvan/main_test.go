package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

// built makes the program once for the tests that run it whole.
func built(t *testing.T) string {
	bin, err := program()
	require.NoError(t, err)
	return bin
}

var program = sync.OnceValues(func() (string, error) {
	bin := filepath.Join(os.TempDir(), fmt.Sprintf("kolvan-tested-%d", os.Getpid()))
	if out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput(); err != nil {
		return "", fmt.Errorf("building: %w: %s", err, out)
	}
	madeAt = bin
	return bin, nil
})

var madeAt string // empty where no test asked for it

func TestMain(m *testing.M) {
	code := m.Run()
	if madeAt != "" {
		_ = os.Remove(madeAt)
	}
	os.Exit(code)
}

func kolvan(t *testing.T, bin, stdin string, args ...string) (stdout, stderr string, code int) {
	cmd := exec.Command(bin, args...)
	var out, errs strings.Builder
	cmd.Stdin, cmd.Stdout, cmd.Stderr = strings.NewReader(stdin), &out, &errs
	if err := cmd.Run(); err != nil {
		var exit *exec.ExitError
		require.ErrorAs(t, err, &exit)
		code = exit.ExitCode()
	}
	return out.String(), errs.String(), code
}

func TestAssess(t *testing.T) {
	bin := built(t)
	const quiet = `{"format":"kolvan-rig/1","name":"q","supplies":[],"host":{"supply":""},"chamber":{"open":true}}`
	out, _, code := kolvan(t, bin, "", "assess", "--json", "../../demo/rigs/dome_shed_stacker.json")
	assert.Equal(t, 1, code, "something is dangerous")
	var report struct {
		Format, Rig string
		Figures     map[string]any
		Findings    []struct {
			Rule, Level, Where, Says string
			Numbers                  map[string]float64
			Clear                    []struct {
				Change string
				Patch  []any
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &report))
	assert.Equal(t, "kolvan-report/1", report.Format)
	assert.Contains(t, report.Figures, "link.likely_gen")
	assert.EqualValues(t, 3.0, report.Figures["link.likely_gen"])
	worst := report.Findings[0]
	assert.Equal(t, "danger", worst.Level)
	assert.InDelta(t, 66, worst.Numbers["asked_w"], 1e-9)
	assert.NotEmpty(t, worst.Clear[0].Patch)

	out, _, code = kolvan(t, bin, "", "assess", "../../demo/rigs/ticket_desk.json")
	assert.Equal(t, 0, code, "risks alone do not stop")
	assert.Contains(t, out, "RISK     The wireless card leaves  [net.displaced at /host/slots/0/occupant]")

	_, errs, code := kolvan(t, bin, `{"format":"kolvan-rig/1","name":"x","card":{"lanes":3}}`, "assess", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "/card/lanes: 3 is not accepted; accepted: one of 1, 2, 4, 8, 16")
	out, errs, code = kolvan(t, bin, quiet, "assess", "--json", "-", "no such file")
	assert.Equal(t, 2, code, "a wrong file does not keep the others from being assessed")
	assert.Contains(t, out, `"rig": "q"`)
	assert.Contains(t, errs, "no such file")
	for _, call := range [][]string{{"assess"}, {"assess", "--loud", "-"}, {"dance"}, {}} {
		_, _, code := kolvan(t, bin, "", call...)
		assert.Equal(t, 2, code, "%v", call)
	}
}

func TestMadeDocumentsAreFresh(t *testing.T) {
	rules, err := os.ReadFile("../../docs/rules.md")
	require.NoError(t, err)
	assert.Equal(t, rulesMarkdown(), string(rules), "run make docs")
	schema, err := os.ReadFile("../../docs/rig.schema.json")
	require.NoError(t, err)
	made, err := rig.Schema()
	require.NoError(t, err)
	assert.Equal(t, string(made), string(schema), "run make docs")
	page, err := os.ReadFile("../../docs/kolvan.1")
	require.NoError(t, err)
	out, _, code := kolvan(t, built(t), "", "man")
	assert.Zero(t, code)
	assert.Equal(t, string(page), out, "run make docs")
}

// TestNoticesNameAllThatShips: every module the program is linked from, and every package
// its pages are made of.
func TestNoticesNameAllThatShips(t *testing.T) {
	notices, _, code := kolvan(t, built(t), "", "version", "--notices")
	assert.Zero(t, code)
	linked, err := exec.Command("go", "version", "-m", built(t)).Output()
	require.NoError(t, err)
	modules := regexp.MustCompile(`(?m)^\tdep\t(\S+)\t(\S+)`).FindAllStringSubmatch(string(linked), -1)
	assert.Greater(t, len(modules), 20)
	for _, m := range modules {
		assert.Contains(t, notices, m[1]+" "+m[2], "run make notices")
	}
	for _, name := range []string{"htmx.org", "@alpinejs/csp", "uplot", "@fontsource/dm-mono", "the Go standard library"} {
		assert.Contains(t, notices, name)
	}
	version, _, _ := kolvan(t, built(t), "", "version")
	assert.Regexp(t, `^kolvan \S+`, version)
}

func TestImportExportBackup(t *testing.T) {
	bin, dir := built(t), t.TempDir()
	data := filepath.Join(dir, "k.db")
	_, errs, code := kolvan(t, bin, "", "import", "--data", data, "../../demo/rigs/field_kit.json", "../../go.mod")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "go.mod: the file: line 1")
	out, _, code := kolvan(t, bin, "", "export", "--data", data, "Field kit")
	assert.Equal(t, 0, code)
	r, err := rig.Decode([]byte(out))
	require.NoError(t, err)
	assert.Equal(t, "Field kit", r.Name)
	_, errs, code = kolvan(t, bin, "", "export", "--data", data, "ghost")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, `"ghost"`)
	_, _, code = kolvan(t, bin, "", "backup", "--data", data, filepath.Join(dir, "copy.db"))
	assert.Equal(t, 0, code)
	assert.FileExists(t, filepath.Join(dir, "copy.db"))
}

// TestBackupAndRestore goes the way of the guide: there and back, by a backup and
// by an export of all.
func TestBackupAndRestore(t *testing.T) {
	bin, dir := built(t), t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	run := func(args ...string) (string, string, int) {
		return kolvan(t, bin, "", append(args, "--data", at("k.db"))...)
	}
	_, errs, code := run("backup", at("none.db"))
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "there is no data file")
	assert.NoFileExists(t, at("k.db"))
	_, _, code = run("import", "../../demo/rigs/field_kit.json")
	require.Equal(t, 0, code)
	_, _, code = run("backup", at("backup.db"))
	require.Equal(t, 0, code)
	all, _, code := run("export", "--all")
	require.Equal(t, 0, code)
	require.NoError(t, os.WriteFile(at("all.zip"), []byte(all), 0o600))
	rigFile, err := os.ReadFile("../../demo/rigs/field_kit.json")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(at("all.json"), fmt.Appendf(nil, `{"format":"kolvan-bench/1","rigs":[%s],"parts":[]}`, rigFile), 0o600))
	for _, from := range []string{"backup.db", "all.zip", "all.json"} {
		_, _, code = run("import", "../../demo/rigs/ticket_desk.json")
		require.Equal(t, 0, code)
		out, errs, code := run("restore", at(from))
		require.Equal(t, 0, code, errs)
		assert.Contains(t, out, "is kept as")
		out, _, code = run("check")
		assert.Equal(t, 0, code)
		assert.Contains(t, out, "whole")
		_, _, code = run("export", "Field kit")
		assert.Equal(t, 0, code)
		_, _, code = run("export", "Ticket-desk all-in-one")
		assert.Equal(t, 2, code, "what came after the backup is not in it")
	}
	require.NoError(t, os.WriteFile(at("wrong.json"), []byte(`{"format":"kolvan-bench/9","rigs":[],"parts":[]}`), 0o600))
	_, errs, code = run("restore", at("wrong.json"))
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "kolvan-bench/1")

	require.NoError(t, os.WriteFile(at("notes.txt"), []byte("what I thought of it"), 0o600))
	_, errs, code = kolvan(t, bin, "", "restore", "--data", at("notes.txt"), at("backup.db"))
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "notes.txt is not Kolvan's and is left alone")
	notes, err := os.ReadFile(at("notes.txt"))
	require.NoError(t, err)
	assert.Equal(t, "what I thought of it", string(notes))
	require.NoError(t, os.WriteFile(at("k.db"), []byte("gone wrong"), 0o600))
	_, errs, code = run("restore", at("backup.db"))
	assert.Equal(t, 0, code, "the note beside it says that it was Kolvan's: %s", errs)
}

// TestSignalsEndIt: also the one that comes just after the start.
func TestSignalsEndIt(t *testing.T) {
	bin := built(t)
	for wait := range 8 {
		cmd := exec.Command(bin, "demo", "--addr", "127.0.0.1:0")
		require.NoError(t, cmd.Start())
		time.Sleep(time.Duration(wait*15) * time.Millisecond)
		require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
		ended := make(chan error, 1)
		go func() { ended <- cmd.Wait() }()
		select {
		case <-ended:
		case <-time.After(20 * time.Second):
			_ = cmd.Process.Kill()
			require.Fail(t, "it does not end", "after %d ms", wait*15)
		}
	}
}

// TestNothingPrintedActsOnATerminal: what a file or a name holds is written out.
func TestNothingPrintedActsOnATerminal(t *testing.T) {
	bin := built(t)
	_, errs, code := kolvan(t, bin, `{"format":"kolvan-rig/1","name":"red\u001b[31m"}`, "assess", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "without control characters")
	assert.NotContains(t, errs, "\x1b")
	_, errs, code = kolvan(t, bin, "", "assess", "no\x1b[31mfile\u202e")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, `no\u001b[31mfile\u202e`)
	assert.Equal(t, "plain\ntext", shown("plain\ntext"))
}

func TestSeveralFilesGiveOneArray(t *testing.T) {
	bin := built(t)
	out, _, _ := kolvan(t, bin, "", "assess", "--json", "../../demo/rigs/field_kit.json", "../../demo/rigs/ticket_desk.json")
	var reports []struct {
		Rig       string
		Bounds    map[string][2]*float64
		Questions []any
	}
	require.NoError(t, json.Unmarshal([]byte(out), &reports))
	require.Len(t, reports, 2)
	assert.Equal(t, "Ticket-desk all-in-one", reports[1].Rig)
	assert.NotNil(t, reports[1].Questions)
	assert.InDelta(t, .4084, *reports[1].Bounds["link.net_gb_s"][1], .001)
}
