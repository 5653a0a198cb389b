package proof

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"kolvan/core/rig"
)

// evenings is what a figure differs by from one evening to another, as a share of it (P): no
// interval of a change is narrower than that to either side.
const evenings = 0.01

// oneEach is said where neither side tells how far its runs lie apart.
const oneEach = "one run each: what differs from run to run is not in it"

// between is half the 95 % interval of the logarithm of the ratio of two sides, by Student's t
// on the logarithms of the runs' figures, whose spread is taken to be one on both sides. False
// where neither side has two runs, or a figure is none.
func between(before, after []float64) (half float64, ok bool) {
	squares, free := 0.0, len(before)+len(after)-2
	for _, side := range [][]float64{before, after} {
		mean, known := meanLog(side)
		if !known {
			return 0, false
		}
		for _, v := range side {
			squares += math.Pow(math.Log(v)-mean, 2)
		}
	}
	if free < 1 {
		return 0, false
	}
	return max(evenings, student(free)*math.Sqrt(squares/float64(free)*(1/float64(len(before))+1/float64(len(after))))), true
}

// quantiles are Student's t of so many degrees of freedom as a rig's runs have: worked out once,
// since the library searches for each (BenchmarkAssess, as built).
var quantiles = sync.OnceValue(func() (list [32]float64) {
	for free := 1; free < len(list); free++ {
		list[free] = studentOf(free)
	}
	return list
})

// student is the 97.5 % quantile of Student's t.
func student(free int) float64 {
	if few := quantiles(); free < len(few) {
		return few[free]
	}
	return studentOf(free)
}

func studentOf(free int) float64 {
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(free)}.Quantile(0.975)
}

// meanLog is the mean of the logarithms; false for none, or for one of what has no logarithm.
func meanLog(values []float64) (mean float64, ok bool) {
	for _, v := range values {
		if !(v > 0) {
			return 0, false
		}
		mean += math.Log(v) / float64(len(values))
	}
	return mean, len(values) > 0
}

// meanOf is the mean of a figure over runs, and half its 95 % interval: by Student's t of three
// runs or more, else the largest that a run has of its own.
func meanOf(runs []*rig.Run, of func(*rig.Run) rig.Fact[float64]) (mean, off float64, known bool) {
	mean, each, own := sideMean(runs, of, true)
	if len(each) >= 3 {
		off = student(len(each)-1) * stat.StdDev(each, nil) / math.Sqrt(float64(len(each)))
	}
	return mean, max(off, own), len(each) > 0
}

// changes is the interval of a change whose ratio has a half interval of its logarithm.
func changes(ratio, half float64) [2]float64 {
	return [2]float64{ratio*math.Exp(-half) - 1, ratio*math.Exp(half) - 1}
}
