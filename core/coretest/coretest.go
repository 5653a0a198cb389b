// Package coretest holds what the tests of the core share.
package coretest

import (
	"os"
	"path/filepath"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/require"

	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Tables loads the reference, or fails the test.
func Tables(t testing.TB) *reference.Tables {
	t.Helper()
	ref, err := reference.Load()
	require.NoError(t, err)
	return ref
}

// Patched writes a rig as a file, applies a JSON Patch to it and reads it back.
func Patched(t testing.TB, r *rig.Rig, patch []byte) *rig.Rig {
	t.Helper()
	doc, err := rig.Encode(r)
	require.NoError(t, err)
	p, err := jsonpatch.DecodePatch(patch)
	require.NoError(t, err)
	doc, err = p.Apply(doc)
	require.NoError(t, err)
	changed, err := rig.Decode(doc)
	require.NoError(t, err)
	return changed
}

// Demo reads a rig of the demo data, or fails the test. A test of a package of the core stands
// two folders below the module.
func Demo(t testing.TB, name string) *rig.Rig {
	t.Helper()
	file, err := os.Open(filepath.Join("..", "..", "demo", "rigs", name+".json"))
	require.NoError(t, err)
	defer file.Close()
	r, err := rig.Read(file)
	require.NoError(t, err)
	return r
}
