// Package units holds the physical quantities Kolvan works with, each a type
// of its own, so that a watt is never added to a millimetre by mistake.
//
// Every quantity prints with its unit and is parsed from what a person types:
// the plain number, the unit itself, and the other units of the trade (inches,
// "12 V 6.2 A"). An error quotes the input and says what is accepted.
package units

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

type (
	// Watt is electric power.
	Watt float64
	// Volt is electric voltage.
	Volt float64
	// Amp is electric current.
	Amp float64
	// Millimetre is a length.
	Millimetre float64
	// Degree is an angle, a whole turn being 360.
	Degree float64
	// Newton is a force.
	Newton float64
	// CubicMetrePerHour is a flow of air.
	CubicMetrePerHour float64
	// Kelvin is a difference of temperature.
	Kelvin float64
	// Gram is a mass.
	Gram float64
	// Second is a duration of the rig's doings, not of the program's.
	Second float64
	// Millisecond is a time of switching on, or of a spike.
	Millisecond float64
	// WattHour is energy.
	WattHour float64
	// Decibel is a loss or gain of a signal.
	Decibel float64
	// Gigahertz is a frequency.
	Gigahertz float64
	// GigabytePerSecond is a rate in 10⁹ bytes a second, one direction.
	GigabytePerSecond float64
	// GigabitPerSecond is a rate in 10⁹ bits a second.
	GigabitPerSecond float64
	// Gibibyte is an amount of memory, 2³⁰ bytes.
	Gibibyte float64
	// GB is an amount of storage, 10⁹ bytes.
	GB float64
	// Share is a part of a whole, 1 for all of it.
	Share float64
	// Money is an amount in the currency of the brief.
	Money float64
)

// MillimetrePerInch is exact by definition.
const MillimetrePerInch = 25.4

// BytesPerGibibyte is exact by definition.
const BytesPerGibibyte = 1 << 30

// Over gives the current that carries p at v; zero for a voltage of zero.
func (p Watt) Over(v Volt) Amp {
	if v == 0 {
		return 0
	}
	return Amp(float64(p) / float64(v))
}

// At gives the power that i carries at v.
func (i Amp) At(v Volt) Watt { return Watt(float64(i) * float64(v)) }

func (p Watt) String() string       { return Trim(float64(p), 1) + " W" }
func (v Volt) String() string       { return Trim(float64(v), 2) + " V" }
func (i Amp) String() string        { return Trim(float64(i), 2) + " A" }
func (l Millimetre) String() string { return Trim(float64(l), 1) + " mm" }

// Ruled is a length as a ruler shows it: what is worked out of lengths told in other units is
// no finer than they were measured. From a centimetre up to whole millimetres (P).
func (l Millimetre) Ruled() Millimetre {
	if math.Abs(float64(l)) < leastRuled {
		return l
	}
	return Millimetre(math.Round(float64(l)))
}

// leastRuled is the length from which the tenths of a millimetre say nothing, mm (P).
const leastRuled = 10

func (d Degree) String() string { return Trim(float64(d), 0) + "°" }
func (f Newton) String() string { return Trim(float64(f), 1) + " N" }
func (f CubicMetrePerHour) String() string {
	return Trim(float64(f), 0) + " m³/h"
}
func (k Kelvin) String() string      { return Trim(float64(k), 0) + " K" }
func (m Gram) String() string        { return Trim(float64(m), 0) + " g" }
func (s Second) String() string      { return Trim(float64(s), 1) + " s" }
func (m Millisecond) String() string { return Trim(float64(m), 0) + " ms" }
func (e WattHour) String() string    { return Trim(float64(e), 1) + " Wh" }
func (r GigabytePerSecond) String() string {
	return strconv.FormatFloat(float64(r), 'f', 2, 64) + " GB/s"
}
func (r GigabitPerSecond) String() string { return Trim(float64(r), 1) + " Gb/s" }
func (d Decibel) String() string          { return strconv.FormatFloat(float64(d), 'f', 1, 64) + " dB" }
func (b Gibibyte) String() string         { return Trim(float64(b), 1) + " GiB" }
func (b GB) String() string               { return Trim(float64(b), 0) + " GB" }
func (s Share) String() string            { return Trim(float64(s)*100, 1) + " %" }
func (m Money) String() string            { return Trim(float64(m), 2) }

// The parts of an inch that a rule has, and the length below which a fraction says too
// little.
const (
	partsOfInch  = 32
	leastInParts = 6 // mm
)

// Inches prints a length as a rule in inches shows it, to a thirty-second; what is
// shorter than a few of those, in hundredths.
func (l Millimetre) Inches() string {
	if math.Abs(float64(l)) < leastInParts {
		return Trim(float64(l)/MillimetrePerInch, 2) + " in"
	}
	parts := int(math.Round(math.Abs(float64(l)) / MillimetrePerInch * partsOfInch))
	whole, rest, of := parts/partsOfInch, parts%partsOfInch, partsOfInch
	for rest > 0 && rest%2 == 0 {
		rest, of = rest/2, of/2
	}
	text := strconv.Itoa(whole)
	switch {
	case rest > 0 && whole > 0:
		text = fmt.Sprintf("%d %d/%d", whole, rest, of)
	case rest > 0:
		text = fmt.Sprintf("%d/%d", rest, of)
	}
	if l < 0 {
		text = "-" + text
	}
	return text + " in"
}

// Trim prints v with at most places decimals and no trailing zeros.
func Trim(v float64, places int) string {
	text := strconv.FormatFloat(v, 'f', places, 64)
	if places > 0 {
		text = strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
	}
	if text == "-0" {
		return "0"
	}
	return text
}

// LastDigit is the worth of the last digit that a figure is written with, to the hundredth.
func LastDigit(v float64) float64 {
	for _, worth := range []float64{1, 0.1} {
		if math.Abs(v/worth-math.Round(v/worth)) < 1e-6 {
			return worth
		}
	}
	return 0.01
}

// Signed prints a change in hundredths as a whole number with its sign, and none before 0.
func Signed(share float64) string {
	text := strconv.FormatFloat(math.Round(100*share)+0, 'f', 0, 64) // +0 takes the sign off zero
	if text != "0" && text[0] != '-' {
		return "+" + text
	}
	return text
}

// A ParseError says what was typed and what would be accepted.
type ParseError struct {
	Input   string
	Accepts string
}

func (e *ParseError) Error() string {
	return fmt.Sprintf("%q is not accepted here; accepted: %s", e.Input, e.Accepts)
}

// Parse reads "300 W", "300", or a voltage and a current: "12 V 6.2 A".
func (p *Watt) Parse(s string) error {
	const accepts = `watts ("300 W"), or volts and amps ("12 V 6.2 A")`
	if v, a, ok := twoQuantities(s, "v", "a"); ok {
		*p = Amp(a).At(Volt(v))
		return nil
	}
	return parseInto(p, s, accepts, scale{"": 1, "w": 1, "kw": 1000, "mw": 0.001})
}

// Parse reads "12 V" or "12".
func (v *Volt) Parse(s string) error {
	return parseInto(v, s, `volts ("12 V")`, scale{"": 1, "v": 1, "mv": 0.001})
}

// Parse reads "6.2 A" or "6.2".
func (i *Amp) Parse(s string) error {
	return parseInto(i, s, `amps ("6.2 A")`, scale{"": 1, "a": 1, "ma": 0.001})
}

// Parse reads millimetres, centimetres, metres and inches, whole or with a
// fraction: "230 mm", "23 cm", "9 1/8 in", `9"`.
func (l *Millimetre) Parse(s string) error {
	return parseInto(l, s, `a length ("230 mm", "23 cm", "9 1/8 in")`, scale{
		"": 1, "mm": 1, "cm": 10, "m": 1000,
		"in": MillimetrePerInch, "inch": MillimetrePerInch, "inches": MillimetrePerInch, `"`: MillimetrePerInch,
	})
}

// Parse reads "940 g" or "0.94 kg".
func (m *Gram) Parse(s string) error {
	return parseInto(m, s, `a mass ("940 g", "0.94 kg")`, scale{"": 1, "g": 1, "kg": 1000})
}

// Parse reads "110" or "110°".
func (d *Degree) Parse(s string) error {
	return parseInto(d, strings.ReplaceAll(s, "°", " deg"), `an angle ("110", "110°")`, scale{"": 1, "deg": 1})
}

// Parse reads "4 N".
func (f *Newton) Parse(s string) error {
	return parseInto(f, s, `a force ("4", "4 N")`, scale{"": 1, "n": 1})
}

// Parse reads "60" or "60 m3/h".
func (f *CubicMetrePerHour) Parse(s string) error {
	letters := strings.NewReplacer("m³/h", "cmh", "m3/h", "cmh") // a figure in a unit would end the number
	return parseInto(f, letters.Replace(s), `a flow of air ("60", "60 m3/h")`, scale{"": 1, "cmh": 1})
}

// Parse reads "12" or "12 K".
func (k *Kelvin) Parse(s string) error {
	return parseInto(k, s, `a difference of temperature ("12", "12 K")`, scale{"": 1, "k": 1})
}

// Signed prints a margin with its sign.
func (d Decibel) Signed() string { return fmt.Sprintf("%+.1f dB", float64(d)) }

// Parse reads "94 s", "5 min" or "2 h".
func (s *Second) Parse(typed string) error {
	return parseInto(s, typed, `a time ("94 s", "5 min", "2 h")`, scale{"": 1, "s": 1, "min": 60, "h": 3600})
}

// Parse reads "2.9 GB/s" or "520 MB/s".
func (r *GigabytePerSecond) Parse(s string) error {
	return parseInto(r, s, `a rate ("2.9 GB/s", "520 MB/s")`, scale{"": 1, "gb/s": 1, "mb/s": 0.001})
}

// Parse reads "40 Gb/s" or "40".
func (r *GigabitPerSecond) Parse(s string) error {
	return parseInto(r, s, `a rate ("40 Gb/s")`, scale{"": 1, "gb/s": 1, "gbit/s": 1})
}

// Parse reads "8 GiB", or "8 GB" in the sense printed on a card's box.
func (b *Gibibyte) Parse(s string) error {
	return parseInto(b, s, `memory ("8 GiB")`, scale{"": 1, "gib": 1, "gb": 1, "mib": 1.0 / 1024})
}

// Parse reads "512 GB" or "2 TB".
func (b *GB) Parse(s string) error {
	return parseInto(b, s, `storage ("512 GB", "2 TB")`, scale{"": 1, "gb": 1, "tb": 1000})
}

// Parse reads an amount; a currency word behind it is the brief's business.
func (m *Money) Parse(s string) error {
	return parseInto(m, s, `an amount ("450")`, scale{"": 1})
}

// Parse reads "80 %", or the share itself, "0.8". A number above 1 is a
// percentage: nobody means eighty times the whole.
func (s *Share) Parse(typed string) error {
	err := parseInto(s, typed, `a percentage ("80 %")`, scale{"": 1, "%": 0.01})
	if err == nil && *s > 1 && !strings.Contains(typed, "%") {
		*s /= 100
	}
	return err
}

type scale map[string]float64

func parseInto[T ~float64](into *T, s, accepts string, units scale) error {
	number, unit := splitUnit(s)
	factor, known := units[unit]
	v, ok := parseNumber(number)
	if !known || !ok {
		return &ParseError{Input: s, Accepts: accepts}
	}
	*into = T(v * factor)
	if factor != 1 {
		*into = Round(*into, typedDigits)
	}
	return nil
}

// typedDigits keep all that is typed, and none of what converting it adds.
const typedDigits = 12

// ReportDigits are the significant digits a figure of a report has: more than
// any of them is known to, and no noise of the arithmetic.
const ReportDigits = 6

// Round rounds to so many significant digits.
func Round[T ~float64](v T, digits int) T {
	if v == 0 || math.IsInf(float64(v), 0) || math.IsNaN(float64(v)) {
		return v
	}
	scale := math.Pow10(digits - 1 - int(math.Floor(math.Log10(math.Abs(float64(v))))))
	if rounded := math.Round(float64(v)*scale) / scale; !math.IsNaN(rounded) && !math.IsInf(rounded, 0) {
		return T(rounded)
	}
	return v // too small or too large to scale
}

// splitUnit parts "9 1/8 in" into "9 1/8" and "in".
func splitUnit(s string) (number, unit string) {
	s = strings.ToLower(strings.TrimSpace(s))
	end := strings.LastIndexAny(s, "0123456789.") + 1
	return strings.TrimSpace(s[:end]), strings.TrimSpace(s[end:])
}

// parseNumber reads a decimal (point or comma), a fraction, or a whole and a
// fraction.
func parseNumber(s string) (float64, bool) {
	if _, decimals, comma := strings.Cut(s, ","); comma && len(decimals) == 3 {
		return 0, false // "1,000": a thousand to some, one to others
	}
	fields := strings.Fields(strings.ReplaceAll(s, ",", "."))
	if len(fields) == 0 || len(fields) > 2 {
		return 0, false
	}
	whole, ok := parseFraction(fields[0])
	if !ok || len(fields) == 1 {
		return whole, ok
	}
	part, ok := parseFraction(fields[1])
	if !ok || !strings.Contains(fields[1], "/") || whole < 0 || part < 0 {
		return 0, false
	}
	return whole + part, true
}

func parseFraction(s string) (float64, bool) {
	top, bottom, isFraction := strings.Cut(s, "/")
	v, err := strconv.ParseFloat(top, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0, false
	}
	if !isFraction {
		return v, true
	}
	d, err := strconv.ParseFloat(bottom, 64)
	if err != nil || d <= 0 || math.IsInf(d, 0) {
		return 0, false
	}
	return v / d, true
}

// twoQuantities reads "12 V 6.2 A": a number in each of the two units.
func twoQuantities(s, first, second string) (a, b float64, ok bool) {
	left, right, found := strings.Cut(strings.ToLower(s), first)
	if !found {
		return 0, 0, false
	}
	right = strings.TrimLeft(right, " ×x*,/")
	number, unit := splitUnit(right)
	a, okA := parseNumber(strings.TrimSpace(left))
	b, okB := parseNumber(number)
	return a, b, okA && okB && unit == second
}

// Share is the part of a power that goes to one of several that share it; all of
// it while they are not known to have any.
func (p Watt) Share(of, all Watt) Watt {
	if all <= 0 {
		return p
	}
	return p * of / all
}
