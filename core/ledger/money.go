// Package ledger is what a rig cost and whether it was worth it: its lines, their totals as
// ranges, what a gain cost, what it is held against, and what would be left of a sale. It
// works in exact fractions; halves of a cent round away from nought, in the last step.
package ledger

import (
	"math/big"
	"strconv"

	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// Cents are hundredths of a currency's unit.
type Cents int64

// String is the amount as it is written: 12.34, and 12 for whole units.
func (c Cents) String() string {
	if c%100 == 0 {
		return strconv.FormatInt(int64(c/100), 10)
	}
	text := strconv.FormatFloat(float64(c)/100, 'f', 2, 64)
	return text
}

// MarshalJSONTo writes the amount in units of the currency.
func (c Cents) MarshalJSONTo(enc *jsontext.Encoder) error {
	return enc.WriteValue(jsontext.Value(c.String()))
}

// An Amount is money between two ends, exactly; an end is nil where it is open.
type Amount struct{ Low, High *big.Rat }

// None is no money.
func None() Amount { return Amount{new(big.Rat), new(big.Rat)} }

// exactly is a number as it was written, without what floats add to it.
func exactly(v float64) *big.Rat {
	r, ok := new(big.Rat).SetString(strconv.FormatFloat(v, 'f', -1, 64))
	if !ok {
		return new(big.Rat)
	}
	return r
}

// ofFact is a fact as a range by its tolerance, whose lower end is no less than nought; open
// where it is not known.
func ofFact[T ~float64](f rig.Fact[T]) Amount {
	v, known := f.Get()
	if !known {
		return Amount{new(big.Rat), nil}
	}
	middle, by := exactly(float64(v)), exactly(f.Tolerance)
	low := new(big.Rat).Sub(middle, by)
	if low.Sign() < 0 {
		low = new(big.Rat)
	}
	return Amount{low, new(big.Rat).Add(middle, by)}
}

// orNone is a fact as a range, and nothing where it is not told.
func orNone[T ~float64](f rig.Fact[T]) Amount {
	if !f.Known {
		return None()
	}
	return ofFact(f)
}

// Known reports an amount without an open end.
func (a Amount) Known() bool { return a.Low != nil && a.High != nil }

// both works with two ends, nil where one of them is open.
func both(a, b *big.Rat, with func(z, x, y *big.Rat) *big.Rat) *big.Rat {
	if a == nil || b == nil {
		return nil
	}
	return with(new(big.Rat), a, b)
}

// Plus adds another amount.
func (a Amount) Plus(b Amount) Amount {
	return Amount{both(a.Low, b.Low, (*big.Rat).Add), both(a.High, b.High, (*big.Rat).Add)}
}

// Minus takes another amount away: its high end from the low one.
func (a Amount) Minus(b Amount) Amount {
	return Amount{both(a.Low, b.High, (*big.Rat).Sub), both(a.High, b.Low, (*big.Rat).Sub)}
}

// Times takes a multiple that is no less than nought.
func (a Amount) Times(by *big.Rat) Amount { return a.Each(Amount{by, by}) }

// Each is the product with a range of multiples, none below nought.
func (a Amount) Each(by Amount) Amount {
	return Amount{both(a.Low, by.Low, (*big.Rat).Mul), both(a.High, by.High, (*big.Rat).Mul)}
}

// Over is the quotient by a range above nought, which may reach it: then there is no upper
// end.
func (a Amount) Over(by Amount) Amount {
	q := Amount{Low: both(a.Low, by.High, (*big.Rat).Quo)}
	if by.Low != nil && by.Low.Sign() > 0 {
		q.High = both(a.High, by.Low, (*big.Rat).Quo)
	}
	return q
}

// Under reports an amount that is surely below another.
func (a Amount) Under(b Amount) bool { return a.High != nil && b.Low != nil && a.High.Cmp(b.Low) < 0 }

// Cents rounds a fraction, halves away from nought.
func centsOf(v *big.Rat) Cents {
	scaled := new(big.Rat).Mul(v, big.NewRat(100, 1))
	half := big.NewRat(1, 2)
	if scaled.Sign() < 0 {
		half.Neg(half)
	}
	scaled.Add(scaled, half)
	return Cents(new(big.Int).Quo(scaled.Num(), scaled.Denom()).Int64())
}

// Ends are both ends in cents; nil where one is open.
func (a Amount) Ends() (low, high *Cents) {
	end := func(v *big.Rat) *Cents {
		if v == nil {
			return nil
		}
		c := centsOf(v)
		return &c
	}
	return end(a.Low), end(a.High)
}

// MarshalJSONTo writes [low, high], an open end as null.
func (a Amount) MarshalJSONTo(enc *jsontext.Encoder) error {
	text := [2]string{"null", "null"}
	low, high := a.Ends()
	for i, end := range []*Cents{low, high} {
		if end != nil {
			text[i] = end.String()
		}
	}
	return enc.WriteValue(jsontext.Value("[" + text[0] + "," + text[1] + "]"))
}

// String is the amount in words: 12, 12 to 14, 12 or more.
func (a Amount) String() string {
	low, high := a.Ends()
	switch {
	case low == nil && high == nil:
		return "not known"
	case high == nil:
		return low.String() + " or more"
	case low == nil:
		return high.String() + " or less"
	case *high == *low:
		return low.String()
	default:
		return low.String() + " to " + high.String()
	}
}

// Money is an amount as the rules of the brief take it: its sure end where the other
// is open.
func (a Amount) Money() units.Range[units.Money] {
	low, _ := a.Low.Float64()
	high := low
	if a.High != nil {
		high, _ = a.High.Float64()
	}
	return units.Between(units.Money(low), units.Money(high))
}
