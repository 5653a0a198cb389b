package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// call runs the command; succeeds is call where it has to end well.
func call(t *testing.T, args ...string) (code int, out, said string) {
	out, said, code = kolvan(t, built(t), "", args...)
	return code, out, said
}

func succeeds(t *testing.T, args ...string) (out, said string) {
	code, out, said := call(t, args...)
	require.Zero(t, code, said)
	return out, said
}

// A part goes out without its price, comes into another bench, is not put in twice, and takes in
// what another learned.
func TestPartsTravel(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	out, _ := succeeds(t, "parts", "export", "Skua 16G")
	assert.Contains(t, out, `"format": "kolvan-part/1"`)
	assert.NotContains(t, out, `"price"`)
	require.NoError(t, os.WriteFile(at("skua.json"), []byte(out), 0o600))
	data := "--data=" + at("k.db")
	succeeds(t, "parts", "import", at("skua.json"), data)
	out, _ = succeeds(t, "parts", "list", "--own", data)
	assert.Equal(t, "mine\tcard\tSkua 16G\n", out)
	out, _ = succeeds(t, "parts", "show", "skua 16g", data)
	assert.Contains(t, out, "memory: 16 GiB\n")
	code, _, said := call(t, "parts", "import", at("skua.json"), data)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "parts merge")
	code, _, said = call(t, "parts", "show", "nobody's", data)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "neither in the bins nor in the list")
	require.NoError(t, os.WriteFile(at("theirs.json"), []byte(`{"format": "kolvan-part/1", "kind": "card", "part": {"name": "x", "noise_db": 33}}`), 0o600))
	out, said = succeeds(t, "parts", "merge", at("skua.json"), at("theirs.json"))
	assert.Contains(t, out, `"noise_db": 33`)
	assert.Contains(t, said, "/noise_db: nothing here")
	require.NoError(t, os.WriteFile(at("page.txt"), []byte("graphics card\nTGP 115 W"), 0o600))
	out, _ = succeeds(t, "parts", "read", at("page.txt"))
	assert.Contains(t, out, "[x] /power_w: 115")
}

// The commands that open figures, bounds and plans, by their exit codes.
func TestWhyNeedAndPlan(t *testing.T) {
	stacker := filepath.Join("..", "..", "demo", "rigs", "dome_shed_stacker.json")
	out, _ := succeeds(t, "why", stacker, "power.sustained_w")
	assert.Contains(t, out, "= 160 + 9.9 × (1 ÷ 0.88 − 1)")
	code, _, said := call(t, "why", stacker, "power.nothing")
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "power.sustained_w")
	code, out, _ = call(t, "need", stacker)
	assert.Equal(t, exitStops, code)
	assert.Contains(t, out, "[ ] board power 52 W or less")
	code, out, _ = call(t, "need", "--csv", stacker)
	assert.Equal(t, exitStops, code)
	assert.Contains(t, out, "part,kind,fact,condition,because,at\n")
	code, _, _ = call(t, "plan", stacker, "--budget=1")
	assert.Equal(t, exitStops, code, "nothing is to be had for one krone")
	code, _, said = call(t, "plan", stacker, "--budget=-1")
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "0 or more")
	out, _ = succeeds(t, "probe", "--script")
	assert.Contains(t, out, "kolvan probe --root")
	code, _, said = call(t, "probe", "--root", t.TempDir())
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "/proc/cpuinfo is not there")
}
