// Package odds holds the few pieces of probability that the rules speak with: the
// normal distribution for margins and tolerances, and what a count of rare events
// says of their rate.
package odds

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// Below is the chance that a normal figure with mean 0 and deviation 1 lies below z.
func Below(z float64) float64 { return math.Erfc(-z/math.Sqrt2) / 2 }

// Density is the normal density at z.
func Density(z float64) float64 { return math.Exp(-z*z/2) / math.Sqrt(2*math.Pi) }

// CountInterval is the 95 % interval of the mean behind a count of rare events
// (Poisson, exact). Of none seen it is the two-sided one too; NoneSeen is the
// one-sided bound.
func CountInterval(events int) (low, high float64) {
	const tail = 0.025
	if events > 0 {
		low = distuv.ChiSquared{K: 2 * float64(events)}.Quantile(tail) / 2
	}
	return low, distuv.ChiSquared{K: 2 * float64(events+1)}.Quantile(1-tail) / 2
}

// NoneSeen is what the mean is below, at 95 %, when no event was seen: −ln 0.05,
// about 3.
var NoneSeen = -math.Log(0.05)
