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
		s := &rig.Stage{Shell: rig.Shell{Width: mm(29), Height: mm(11)}, Path: []rig.Corner{{Place: place(60, 50, 40)}, {Place: place(60, 150, 40)}}}
		clear := func(x, z, wide, high float64) bool {
			body := fit.Box{Min: fit.Vec{units.Millimetre(x - wide/2), 90, units.Millimetre(z - high/2)}, Max: fit.Vec{units.Millimetre(x + wide/2), 98, units.Millimetre(z + high/2)}}
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
			require.True(t, clear(float64(cut.X), float64(cut.Y), float64(cut.Wide), float64(cut.High)), "%+v", cut)
			assert.InDelta(t, 360, float64(cut.Wide*cut.High), 1e-9, "30 by 12, or turned")
			if len(r.Chamber.Things) == 0 {
				assert.Equal(t, [2]units.Millimetre{60, 40}, [2]units.Millimetre{cut.X, cut.Y}, "where the cable passes")
			}
			return
		}
		for x := 8.0; x < 112; x++ {
			for z := 8.0; z < 72; z++ {
				require.False(t, clear(x, z, 30.02, 12.02) || clear(x, z, 12.02, 30.02), "there is room at %v, %v", x, z)
			}
		}
	})
}

// TestScrewsGrowByTheirStandOffs, to a length that is sold.
func TestScrewsGrowByTheirStandOffs(t *testing.T) {
	r := rig.New("screws")
	for _, by := range []float64{0, 6, 5, 60} {
		r.Chamber.Covers = append(r.Chamber.Covers, rig.Cover{Raised: mm(by), Screw: rig.Screw{Thread: rig.Of(rig.Thread("M3")), Length: mm(6)}})
	}
	assert.Equal(t, []fit.Longer{{Cover: 1, Was: 6, Needed: 12, Stock: 12}, {Cover: 2, Was: 6, Needed: 11, Stock: 12}, {Cover: 3, Was: 6, Needed: 66}}, fit.ScrewsOf(r))
}
