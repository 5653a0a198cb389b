package assess_test

import (
	"kolvan/core/assess"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/demo"
	"testing"
)

func BenchmarkAssess(b *testing.B) {
	ref, _ := reference.Load()
	rs, _ := demo.Rigs()
	for _, r := range rs {
		b.Run(r.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				assess.Rig(r, ref)
			}
		})
	}
}
func BenchmarkClear(b *testing.B) {
	ref, _ := reference.Load()
	rs, _ := demo.Rigs()
	l, _ := parts.Builtin()
	bins, _ := parts.Bins(l)
	for _, r := range rs {
		b.Run(r.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				rep := assess.Rig(r, ref)
				assess.Clear(&rep, r, ref, bins)
			}
		})
	}
}
