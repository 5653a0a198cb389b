// Package roomtest is what the tests of the stations share.
package roomtest

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/demo"
)

// Demo is the demo rig of that name, judged.
func Demo(t *testing.T, name string) (*rig.Rig, *assess.Report, *reference.Tables) {
	ref, err := reference.Load()
	require.NoError(t, err)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		if r.Name == name {
			report := assess.Rig(r, ref)
			return r, &report, ref
		}
	}
	require.Fail(t, "no such rig", name)
	return nil, nil, nil
}

// Tables are the reference tables.
func Tables(t *testing.T) *reference.Tables {
	ref, err := reference.Load()
	require.NoError(t, err)
	return ref
}
