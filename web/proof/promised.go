package proof

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/phrase"
)

// promisedView is what was expected, beside what was found, each on a scale of its own from
// nothing on.
type promisedView struct {
	Rows   []promisedRow
	Height float64
	Says   string
	Keeps  bool // some of it can be kept yet
}

type promisedRow struct {
	Name, Whole, Found, Expected, Kept string
	Y                                  float64
	Utmost, Likely                     [2]float64 // places on the scale
	Before, Came, Wanted               *float64
}

// The drawing, in the units of its view box.
const (
	promisedTop, promisedPitch = 44.0, 30.0
	promisedLeft, promisedWide = 230.0, 350.0
	promisedBeyond             = 1.12 // how far the scale goes on behind the greatest
)

// LikelyWide is how wide the likely range is drawn.
func (r promisedRow) LikelyWide() float64 { return max(3, r.Likely[1]-r.Likely[0]) }

// promisedOf draws what is expected of the uses; nil for nothing.
func promisedOf(r *rig.Rig, l proof.Link) *promisedView {
	v := &promisedView{}
	found, likely := 0, 0
	for _, p := range proof.PromisedOf(r, l) {
		v.add(p, wantedOf(r, p.Use))
		v.Keeps = v.Keeps || p.Kept == "" && p.Found == nil
		if p.Found != nil {
			found++
		}
		if p.Lies == "likely" {
			likely++
		}
	}
	if len(v.Rows) == 0 {
		return nil
	}
	if found > 0 {
		v.Says = finding.Begin(phrase.Many(likely)) + " of " + phrase.Many(found) + " came as most often expected."
	}
	v.Height = promisedTop + promisedPitch*float64(len(v.Rows))
	return v
}

// add draws one row.
func (v *promisedView) add(p proof.Promised, wanted *float64) {
	most := max(p.Utmost[1], p.Likely[1])
	for _, other := range []*float64{p.Before, p.Found, wanted} {
		if other != nil {
			most = max(most, *other)
		}
	}
	at := func(v float64) float64 { return promisedLeft + promisedWide*v/(most*promisedBeyond) }
	place := func(v *float64) *float64 {
		if v == nil {
			return nil
		}
		x := at(*v)
		return &x
	}
	row := promisedRow{
		Name: draw.Clip(p.Use, 27), Whole: p.Use, Y: promisedTop + promisedPitch*float64(len(v.Rows)), Found: "not run yet",
		Utmost: [2]float64{at(p.Utmost[0]), at(p.Utmost[1])}, Likely: [2]float64{at(p.Likely[0]), at(p.Likely[1])},
		Before: place(p.Before), Came: place(p.Found), Wanted: place(wanted),
		Expected: units.Trim(p.Likely[0], 0) + " to " + units.Trim(p.Likely[1], 0) + " Hz", Kept: p.Kept,
	}
	if p.Found != nil {
		row.Found = units.Trim(*p.Found, 1) + " Hz"
	}
	v.Rows = append(v.Rows, row)
}

// wantedOf is the rate at which a use is enough; nil where none is told.
func wantedOf(r *rig.Rig, use string) *float64 {
	for i := range r.Brief.Works {
		if hz, told := r.Brief.Works[i].EnoughHz.Get(); told && r.Brief.Works[i].Name == use {
			return &hz
		}
	}
	return nil
}

// Alt says the drawing in words.
func (v *promisedView) Alt() string {
	text := "What was expected, and found: "
	for i := range v.Rows {
		text += fmt.Sprintf("%s %s, %s; ", v.Rows[i].Whole, v.Rows[i].Expected, v.Rows[i].Found)
	}
	return text
}
