// Package coretest holds what the tests of the core share.
package coretest

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/reference"
)

// Tables loads the reference, or fails the test.
func Tables(t testing.TB) *reference.Tables {
	t.Helper()
	ref, err := reference.Load()
	require.NoError(t, err)
	return ref
}
