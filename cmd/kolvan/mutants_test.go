package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/internal/mutants"
	"kolvan/internal/oneseed"
)

// TestEveryCommandStandsEveryLegalFile: however odd a file is, each command ends with an
// answer.
func TestEveryCommandStandsEveryLegalFile(t *testing.T) {
	maker, err := mutants.OfDemo(oneseed.Seed())
	require.NoError(t, err)
	quietly(t)
	dir := t.TempDir()
	path, patch := filepath.Join(dir, "mutant.json"), filepath.Join(dir, "patch.json")
	require.NoError(t, os.WriteFile(patch, []byte(`[{"op":"add","path":"/card/memory_gib","value":12}]`), 0o600))
	for n := range oneseed.Hard(60, 84) {
		r := maker.Next()
		text, err := rig.Encode(r)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(path, text, 0o600))
		for _, call := range [][]string{
			{"assess", path}, {"assess", "--json", path}, {"ways", "--json", path}, {"steps", path}, {"rehearse", path},
			{"find", path, "--seen", "lamp=on"}, {"forecast", path, "--change", patch},
			{"protocol", path}, {"ledger", path}, {"log", path}, {"sheet", path, "--as", "markdown"}, {"sheet", path, "--as", "html"},
		} {
			code := 2
			if !assert.NotPanics(t, func() { code = run(call) }, "%s of mutant %d", call[0], n) {
				require.NoError(t, os.WriteFile(filepath.Join(os.TempDir(), fmt.Sprint("mutant-", n, ".json")), text, 0o600))
			}
			assert.Contains(t, []int{0, 1, 2}, code)
		}
	}
	t.Logf("%d mutants", oneseed.Hard(60, 84))
}

// quietly throws away what commands print that are run here.
func quietly(t *testing.T) {
	out, errs := stdout, stderr
	stdout, stderr = io.Discard, io.Discard
	t.Cleanup(func() { stdout, stderr = out, errs })
}
