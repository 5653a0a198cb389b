// Package sight measures off a picture: of two lengths in it one is known.
package sight

import (
	"fmt"
	"math"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Point is a place in a picture, in its own pixels.
type Point struct{ X, Y float64 }

// A Span is a length in a picture, between two points.
type Span struct{ From, To Point }

func (s Span) pixels() float64 { return math.Hypot(s.To.X-s.From.X, s.To.Y-s.From.Y) }

// What a measure off a picture is uncertain by beside the presses (P): a lens bends, and what
// lies nearer than the known length looks longer.
const (
	lens        = 0.01
	fewest      = 20 // pixels of a length that tells anything
	twoSigma    = 2
	mostPressed = 100 // pixels
)

// Measure is the length of what is wanted, by that of what is known; known has its own tolerance
// (two sigma), pressed is how far a press may be off, one sigma, in pixels of the picture. The
// tolerance is two sigma: both lengths by both their presses, the known one by its own, and what
// the lens does. Both have to lie in one plane, seen straight on. The error is a
// *rig.FieldError that names what is too short, or not told.
func Measure(known rig.Fact[units.Millimetre], of, wanted Span, pressed float64) (rig.Fact[units.Millimetre], error) {
	var none rig.Fact[units.Millimetre]
	switch {
	case !known.Known || known.Value <= 0:
		return none, &rig.FieldError{Path: "/known", Value: known.Value.String(), Accepts: "how long what you know is, above 0"}
	case !(pressed >= 0 && pressed <= mostPressed):
		return none, &rig.FieldError{Path: "/pressed", Value: fmt.Sprint(pressed), Accepts: fmt.Sprintf("0 to %d pixels", mostPressed)}
	}
	for _, l := range []struct {
		path string
		long float64
	}{{"/known", of.pixels()}, {"/wanted", wanted.pixels()}} {
		if !(l.long >= fewest) || math.IsInf(l.long, 0) {
			return none, &rig.FieldError{
				Path: l.path, Value: fmt.Sprintf("%.0f pixels", l.long),
				Accepts: fmt.Sprintf("a length of at least %d pixels: make the picture larger", fewest),
			}
		}
	}
	value := known.Value * units.Millimetre(wanted.pixels()/of.pixels())
	press := pressed * math.Sqrt2 // of a length: both its ends
	off := math.Sqrt(square(press/of.pixels()) + square(press/wanted.pixels()) + square(known.Tolerance/twoSigma/float64(known.Value)) + square(lens/twoSigma))
	measured := rig.Of(units.Millimetre(units.Round(float64(value), 3)))
	measured.Tolerance = max(0.1, math.Ceil(twoSigma*off*float64(value)*10)/10)
	measured.Source, measured.Remark = rig.Measured, "off a picture"
	return measured, nil
}

func square(v float64) float64 { return v * v }
