package link

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestOwnResultsCorrectTheMargin: the reference's figures.
func TestOwnResultsCorrectTheMargin(t *testing.T) {
	m, sigma := corrected(2.8, 3, true)
	assert.InDelta(t, 3.74, float64(m), 0.005)
	assert.InDelta(t, 2.34, float64(sigma), 0.005)
	m, sigma = corrected(2.8, 3, false)
	assert.InDelta(t, -1.62, float64(m), 0.005)
	assert.InDelta(t, 1.37, float64(sigma), 0.005)
}

// anyRoute is a route of a few stages, each of which may be told or not.
func anyRoute(t *rapid.T) *rig.Rig {
	r := rig.New("any")
	mm := func(name string, most int) rig.Fact[units.Millimetre] {
		return rig.Of(units.Millimetre(rapid.IntRange(1, most).Draw(t, name)))
	}
	r.Host.Slots = []rig.Slot{{
		Name: "s", Form: rig.Of(rig.M2), Lanes: rig.Of(4), Gen: rig.Of(4), Carries: rig.Of([]rig.Carried{rig.PCIe}),
		Trace: mm("trace", 150),
	}}
	r.Route.Slot = "s"
	forms := []rig.Form{rig.M2, rig.OCuLink, rig.Video, rig.CardSlot}
	for i := range rapid.IntRange(0, 4).Draw(t, "stages") {
		r.Route.Stages = append(r.Route.Stages, rig.Stage{
			Name: string(rune('a' + i)), Kind: rig.Of(rapid.SampledFrom([]rig.StageKind{rig.Adapter, rig.Cable, rig.Dock, rig.Riser}).Draw(t,
				"kind")),
			Lanes: rig.Of(4), Gen: rig.Of(4), Length: mm("length", 800),
			Line: rig.Of(rig.Line(rapid.SampledFrom(rig.Line("").Words().All()).Draw(t, "line"))),
			Plug: rig.Joint{
				Form: rig.Of(rapid.SampledFrom(forms).Draw(t, "plug")),
			}, Socket: rig.Joint{Form: rig.Of(rapid.SampledFrom(forms).Draw(t, "socket"))},
			Repeats: rig.Of(rig.Repeater(rapid.SampledFrom(rig.Repeater("").Words().All()).Draw(t, "repeats"))),
		})
	}
	r.Card.Lanes, r.Card.Gen = rig.Of(4), rig.Of(4)
	return r
}

// redriven: behind a retimer a redriver has less to give back.
func redriven(r *rig.Rig) bool {
	return slices.ContainsFunc(r.Route.Stages, func(s rig.Stage) bool { return rig.Is(s.Repeats, rig.Redriver) })
}

// TestLossIsNeverGained: more of a route never widens its margin, a retimer never
// narrows it, and a missing length or line lies between the ends given for it.
func TestLossIsNeverGained(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(t *rapid.T) {
		r := anyRoute(t)
		before := For(r, ref).Margin(3).Ends
		if !before.Known() {
			t.Fatalf("all is told, and the margin is %v", before)
		}
		if len(r.Route.Stages) == 0 {
			return
		}
		i := rapid.IntRange(0, len(r.Route.Stages)-1).Draw(t, "changed")
		s := &r.Route.Stages[i]
		kept, repeated := *s, redriven(r)
		s.Length.Value += 50
		if after := For(r, ref).Margin(3).Ends; after.High > before.High+1e-9 && kept.Repeats.Value != rig.Redriver {
			t.Fatalf("50 mm more of %v brought %v from %v", kept.Line.Value, after, before)
		}
		*s = kept
		if kept.Repeats.Value == rig.Retimer {
			return
		}
		s.Repeats = rig.Of(rig.Retimer)
		if after := For(r, ref).Margin(3).Ends; after.Low < before.Low-1e-9 && !repeated {
			t.Fatalf("a retimer brought %v from %v", after, before)
		}
		*s = kept
		s.Line = rig.Fact[rig.Line]{}
		s.Kind = rig.Fact[rig.StageKind]{}
		if after := For(r, ref).Margin(3).Ends; after.Low > before.Low+1e-9 || after.High < before.High-1e-9 {
			t.Fatalf("without its line the margin was said to lie in %v; it is %v", after, before)
		}
	})
}

// TestSectionsStackUpToTheLoss: what is drawn is what is judged.
func TestSectionsStackUpToTheLoss(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(t *rapid.T) {
		p := For(anyRoute(t), ref)
		m := p.Margin(3)
		worst := units.Decibel(0)
		sections := p.Sections(3)
		for i, s := range sections {
			end := units.Decibel(0)
			for k, b := range s.Bars {
				if k > 0 && b.Start != end {
					t.Fatalf("%s does not begin where the last ends", b.Name)
				}
				end = b.Start + b.Length
			}
			if len(s.Bars) > 0 && (end-s.Loss.Low > 1e-9 || s.Loss.Low-end > 1e-9) {
				t.Fatalf("the bars end at %v of %v", end, s.Loss)
			}
			if last := i == len(sections)-1; last || sections[i+1].Bars[0].Start == 0 {
				worst = max(worst, s.Loss.High) // a redriver's section goes on in the next
			}
		}
		if d := m.Allows - worst - m.Ends.Low; d > 1e-9 || d < -1e-9 {
			t.Fatalf("the margin is %v and the worst section loses %v of %v", m.Ends.Low, worst, m.Allows)
		}
	})
}
