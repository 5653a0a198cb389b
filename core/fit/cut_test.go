package fit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/fit"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestCutMissesWhatStandsBehind: an opening lies within the rim and 2 mm clear of all
// that stands close to the cover; where none is found, walking the cover finds none.
func TestCutMissesWhatStandsBehind(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := rig.New("cut")
		r.Chamber.Covers = []rig.Cover{{Name: "lid", At: place(0, 100, 0), Size: extent(120, 2, 80)}}
		for range rapid.IntRange(0, 6).Draw(t, "things") {
			at := func(name string, most float64) float64 { return rapid.Float64Range(0, most).Draw(t, name) }
			r.Chamber.Things = append(r.Chamber.Things, thing(at("x", 100), 90, at("z", 60), at("dx", 70), 8, at("dz", 50)))
		}
		s := &rig.Stage{
			Shell: rig.Shell{Width: mm(29), Height: mm(11)},
			Path:  []rig.Corner{{Place: place(60, 50, 40)}, {Place: place(60, 150, 40)}},
		}
		free := func(x, z, wide, high float64) bool {
			body := fit.Box{
				Min: fit.Vec{units.Millimetre(x - wide/2), 90, units.Millimetre(z - high/2)},
				Max: fit.Vec{units.Millimetre(x + wide/2), 98, units.Millimetre(z + high/2)},
			}
			for i := range r.Chamber.Things {
				box, _ := fit.BoxOf(&r.Chamber.Things[i].At, &r.Chamber.Things[i].Size)
				for _, axis := range []int{0, 2} {
					box.Min[axis], box.Max[axis] = box.Min[axis]-2, box.Max[axis]+2
				}
				if box.Gap(body) < -0.01 {
					return false
				}
			}
			return x-wide/2 >= 7.99 && x+wide/2 <= 112.01 && z-high/2 >= 7.99 && z+high/2 <= 72.01
		}
		cut, found := fit.CutIn(r, 0, s)
		if found {
			require.True(t, free(float64(cut.X), float64(cut.Y), float64(cut.Wide), float64(cut.High)), "%+v", cut)
			assert.InDelta(t, 360, float64(cut.Wide*cut.High), 1e-9, "30 by 12, or turned")
			if len(r.Chamber.Things) == 0 {
				assert.Equal(t, [2]units.Millimetre{60, 40}, [2]units.Millimetre{cut.X, cut.Y}, "where the cable passes")
			}
			return
		}
		for x := 8.0; x < 112; x++ {
			for z := 8.0; z < 72; z++ {
				require.False(t, free(x, z, 30.02, 12.02) || free(x, z, 12.02, 30.02), "there is room at %v, %v", x, z)
			}
		}
	})
}

// TestScrewsGrowByTheirStandOffs, to a length that is sold.
func TestScrewsGrowByTheirStandOffs(t *testing.T) {
	r := rig.New("screws")
	for _, by := range []float64{0, 6, 5, 60} {
		r.Chamber.Covers = append(
			r.Chamber.Covers, rig.Cover{Raised: mm(by), Screw: rig.Screw{Thread: rig.Of(rig.Thread("M3")), Length: mm(6)}},
		)
	}
	assert.Equal(
		t,
		[]fit.Longer{{Cover: 1, Was: 6, Needed: 12, Stock: 12}, {Cover: 2, Was: 6, Needed: 11, Stock: 12}, {Cover: 3, Was: 6, Needed: 66}},
		fit.ScrewsOf(r),
	)
}

// TestPiecesGoIntoABag any way round, one by one and by their room together.
func TestPiecesGoIntoABag(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string) float64 { return rapid.Float64Range(10, 400).Draw(t, name) }
		bag, piece := [3]float64{at("l"), at("w"), at("d")}, [3]float64{at("pl"), at("pw"), at("pd")}
		travel := func(p [3]float64) *rig.Rig {
			r := rig.New("travels")
			r.Brief.Travel = rig.Travel{
				Length: mm(bag[0]), Width: mm(bag[1]), Depth: mm(bag[2]),
				Pieces: []rig.Piece{{Name: "dock", Length: mm(p[0]), Width: mm(p[1]), Depth: mm(p[2])}},
			}
			return r
		}
		packed, travels := fit.Pack(travel(piece))
		require.True(t, travels)
		goes := false
		for _, turn := range [][3]int{{0, 1, 2}, {0, 2, 1}, {1, 0, 2}, {1, 2, 0}, {2, 0, 1}, {2, 1, 0}} {
			goes = goes || piece[turn[0]] <= bag[0] && piece[turn[1]] <= bag[1] && piece[turn[2]] <= bag[2]
			again, _ := fit.Pack(travel([3]float64{piece[turn[0]], piece[turn[1]], piece[turn[2]]}))
			require.Equal(t, packed.Large, again.Large, "however it is told")
		}
		require.Equal(t, goes, packed.Large < 0)
		assert.InDelta(t, piece[0]*piece[1]*piece[2]/(bag[0]*bag[1]*bag[2]), packed.Share, 1e-9)
	})
	_, travels := fit.Pack(rig.New("stays"))
	assert.False(t, travels)
}

// TestLeadsReachTogether: an extension adds its length, one of unknown length leaves the
// reach open, and leads that feed each other in a ring are walked once.
func TestLeadsReachTogether(t *testing.T) {
	r := rig.New("leads")
	lead := func(name, from string, long float64) rig.Lead {
		return rig.Lead{Name: name, Length: mm(long), From: []rig.LeadEnd{{Part: from}}}
	}
	r.Leads = []rig.Lead{lead("a", "supply", 400), lead("b", "a", 150), lead("c", "b", 300)}
	assert.Equal(t, units.Millimetre(850), fit.Reach(r, 0).Value)
	assert.Equal(t, units.Millimetre(450), fit.Reach(r, 1).Value)
	r.Leads[2].Length.Known = false
	assert.False(t, fit.Reach(r, 0).Known)
	r.Leads[2] = lead("c", "b", 300)
	r.Leads[0].From[0].Part = "c"
	assert.Equal(t, units.Millimetre(850), fit.Reach(r, 0).Value)
}
