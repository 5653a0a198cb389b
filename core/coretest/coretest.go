// Package coretest holds what the tests of the core share.
package coretest

import (
	"flag"
	"os"
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

// Seeded gives the random tests of a package one seed, so that a change is what breaks
// them; -rapid.seed=N, with more -rapid.checks, looks further.
func Seeded(m *testing.M) {
	flag.Parse()
	if seed := flag.Lookup("rapid.seed"); seed != nil && seed.Value.String() == "0" {
		_ = seed.Value.Set("20261125") // a number is taken
	}
	os.Exit(m.Run())
}
