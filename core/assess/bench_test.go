package assess_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/demo"
)

func BenchmarkAssess(b *testing.B) {
	ref := coretest.Tables(b)
	rigs, err := demo.Rigs()
	require.NoError(b, err)
	for _, r := range rigs {
		b.Run(r.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				assess.Rig(r, ref)
			}
		})
	}
}

func BenchmarkClear(b *testing.B) {
	ref, bins := coretest.Tables(b), stock(b)
	rigs, err := demo.Rigs()
	require.NoError(b, err)
	for _, r := range rigs {
		b.Run(r.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				report := assess.Rig(r, ref)
				require.NoError(b, assess.Clear(&report, r, ref, bins))
			}
		})
	}
}
