package units

import "math"

// A Range is a figure that is known to lie between two ends. What is known
// exactly has both ends alike; what nobody knows has the ends its kind allows.
type Range[T ~float64 | ~int] struct{ Low, High T }

// Exactly is a figure that is known.
func Exactly[T ~float64 | ~int](v T) Range[T] { return Range[T]{v, v} }

// Between is a figure known to lie there.
func Between[T ~float64 | ~int](low, high T) Range[T] { return Range[T]{low, high} }

// Known reports a figure whose ends agree.
func (r Range[T]) Known() bool { return r.Low == r.High }

// Plus adds two figures.
func (r Range[T]) Plus(o Range[T]) Range[T] { return Range[T]{r.Low + o.Low, r.High + o.High} }

// Sub takes a figure away; what is left is never below nothing.
func (r Range[T]) Sub(o Range[T]) Range[T] {
	return Range[T]{max(0, r.Low-o.High), max(0, r.High-o.Low)}
}

// AtMost holds a figure to at most another.
func (r Range[T]) AtMost(o Range[T]) Range[T] {
	return Range[T]{min(r.Low, o.Low), min(r.High, o.High)}
}

// AtLeast holds a figure to at least another.
func (r Range[T]) AtLeast(o Range[T]) Range[T] {
	return Range[T]{max(r.Low, o.Low), max(r.High, o.High)}
}

// Hull is a figure that is one or the other.
func (r Range[T]) Hull(o Range[T]) Range[T] {
	return Range[T]{min(r.Low, o.Low), max(r.High, o.High)}
}

// Times takes a share of a figure.
func (r Range[T]) Times(share float64) Range[T] {
	return Range[T]{T(float64(r.Low) * share), T(float64(r.High) * share)}
}

// Certainty says over how much of what is open something holds.
type Certainty int

// The degrees of certainty.
const (
	Never Certainty = iota
	Sometimes
	Always
)

// hair is the breadth of rounding that is no excess.
const hair = 1e-9

// Over tells whether the figure exceeds the limit, a hair's breadth of rounding
// aside.
func (r Range[T]) Over(limit Range[T]) Certainty {
	exceeds := func(v, most T) bool { return float64(v) > float64(most)+hair*math.Abs(float64(most)) }
	switch {
	case exceeds(r.Low, limit.High):
		return Always
	case exceeds(r.High, limit.Low):
		return Sometimes
	default:
		return Never
	}
}
