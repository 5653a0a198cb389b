package proof

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/coretest"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestRatiosComeFromRuns: of rigs made of known terms the other card's speed, and the other
// machine's processor's, lie in what their runs tell in 90 of 100 at the least; runs made
// otherwise, of this card, or over a link that nobody told, tell none.
func TestRatiosComeFromRuns(t *testing.T) {
	draw := rand.New(rand.NewPCG(3, 5))
	cards, machines, cardHeld, machineHeld := 0, 0, 0, 0
	link := Link{Net: carried(0), At: carried, Ref: coretest.Tables(t)}
	for range 60 {
		terms := Terms{C: 2 + 28*draw.Float64(), G: 2 + 28*draw.Float64(), L: 1 + 20*draw.Float64()}
		p, a := 2+4*draw.Float64(), 0.6+0.4*draw.Float64()
		card, processor := 0.4+1.6*draw.Float64(), 0.4+1.6*draw.Float64()
		link := link.Keeping() // what the runs with this card teach is the same throughout
		r := rig.New("rig")
		r.Card.Name = "Corvane 16G"
		r.Brief.Works = []rig.Work{{Name: "stacking"}}
		r.Runs = madeBy(terms, p, a, draw, []int{1, 2}, []int{0, 1})
		other, there := terms, terms
		other.G /= card
		there.C /= processor
		swapped, elsewhere := madeBy(other, p, a, draw, []int{1, 2}, []int{0})[0], madeBy(there, p, a, draw, []int{1}, []int{0})[0]
		swapped.Card = "Tern 8G"
		elsewhere.Side, elsewhere.Machine = rig.Of[rig.RunSide]("elsewhere"), "the hall's tower"
		r.Runs = append(r.Runs, swapped, elsewhere)
		if _, told := ProcessorRatio(r, link, "the hall's tower"); told {
			t.Fatal("over a link that nobody told")
		}
		r.Runs[len(r.Runs)-1].Net = rig.Of[units.GigabytePerSecond](3)
		if got, told := CardRatio(r, link, "Tern 8G"); told {
			cards++
			if got[0] <= card*1.01 && card <= got[1]*1.01 {
				cardHeld++
			}
		}
		if got, told := ProcessorRatio(r, link, "the hall's tower"); told {
			machines++
			if got[0] <= processor*1.01 && processor <= got[1]*1.01 {
				machineHeld++
			}
		}
		_, told := CardRatio(r, link, "Corvane 16G")
		assert.False(t, told, "this card against itself")
		r.Runs[len(r.Runs)-2].Preset = "low"
		_, told = CardRatio(r, link, "Tern 8G")
		assert.False(t, told, "made otherwise")
	}
	assert.Greater(t, cards, 50)
	assert.Greater(t, machines, 50)
	assert.Greater(t, float64(cardHeld), 0.9*float64(cards))
	assert.Greater(t, float64(machineHeld), 0.9*float64(machines))
}
