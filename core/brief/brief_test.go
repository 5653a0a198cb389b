package brief_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

func TestEmptyBriefSaysNothing(t *testing.T) {
	var out finding.List
	brief.Judge(rig.New("empty"), &out)
	assert.Empty(t, out.Findings)
}

// TestStanceHoldsThePlan goes through every stance and every part it may touch.
func TestStanceHoldsThePlan(t *testing.T) {
	allowed := map[rig.Stance][]rig.Touches{
		rig.NothingPermanent: {"adapter"},
		rig.SpareCover:       {"adapter", "spare-cover"},
		rig.CutFreely:        {"adapter", "spare-cover", "cover", "enclosure", "board", "card", "supply-lead", "lead", "plug"},
	}
	for stance, may := range allowed {
		for _, word := range rig.Touches("").Words().All() {
			touches := rig.Touches(word)
			r := rig.New("cut")
			r.Brief.Stance = rig.Of(stance)
			r.Alterations = []rig.Alteration{{Name: "cut", Touches: rig.Of(touches)}}
			var out finding.List
			brief.Judge(r, &out)
			blocked := false
			for _, f := range out.Findings {
				blocked = blocked || f.Rule == "brief.stance" && f.Level == finding.Blocked
			}
			assert.Equal(t, !contains(may, touches), blocked, "%s, %s", stance, touches)
		}
	}
}

func contains(list []rig.Touches, t rig.Touches) bool {
	for _, l := range list {
		if l == t {
			return true
		}
	}
	return false
}
