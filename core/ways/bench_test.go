package ways

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

// manyParts are bins with copies of the stages that the first demo rig can use, each
// of another length and price.
func manyParts(b testing.TB, copies int) *assess.Bins {
	bins := stock(b)
	var many []rig.Stage
	for i, s := range bins.Stages {
		for n := range copies {
			c := s
			c.Name = fmt.Sprintf("%s no. %d", s.Name, n)
			c.Length = rig.Of(s.Length.Value + units.Millimetre(7*(n*13%copies)))
			c.Amount = rig.Of(s.Amount.Value + units.Money((n*31+i)%(3*copies)))
			many = append(many, c)
		}
	}
	bins.Stages = many
	return bins
}

func BenchmarkWays(b *testing.B) {
	ref := coretest.Tables(b)
	rigs, err := demo.Rigs()
	require.NoError(b, err)
	for _, c := range []struct {
		name   string
		bins   *assess.Bins
		copies int
	}{{"the list", stock(b), 1}, {"five copies", manyParts(b, 5), 5}, {"eight copies", manyParts(b, 8), 8}} {
		b.Run(c.name, func(b *testing.B) {
			b.ReportAllocs()
			tried := 0
			for b.Loop() {
				answer, err := Search(context.Background(), Question{Rig: rigs[0], Parts: c.bins, Weights: Usual}, ref)
				require.NoError(b, err)
				tried = answer.Tried
			}
			b.ReportMetric(float64(tried), "combinations")
		})
	}
}
