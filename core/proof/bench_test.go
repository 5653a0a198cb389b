package proof

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// table is a capture of so many frames, as one tool of many might write it.
func table(frames int) []byte {
	rng := rand.New(rand.NewPCG(1, 2))
	var b bytes.Buffer
	b.WriteString("App,FrameTime(ms),CpuBusy,CardBusy,Other\n")
	for range frames {
		fmt.Fprintf(&b, "stack,%.4f,%.3f,%.3f,0\n", max(1, 8+rng.NormFloat64()), rng.Float64()*8, rng.Float64()*8)
	}
	return b.Bytes()
}

// BenchmarkStats reads a capture of three million frames and works its figures out.
func BenchmarkStats(b *testing.B) {
	text := table(3_000_000)
	b.SetBytes(int64(len(text)))
	for b.Loop() {
		c, err := Read(bytes.NewReader(text), Options{})
		require.NoError(b, err)
		require.Len(b, c.Series, 1)
		c.Series[0].Stats(1)
	}
}
