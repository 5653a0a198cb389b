package rig

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// TestWiresFollowTheirEnds: whichever ends are taken off, what is left joins the
// same pins of the same ends as before.
func TestWiresFollowTheirEnds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lead := Lead{Name: "own"}
		for i := range rapid.IntRange(1, 5).Draw(t, "from") {
			lead.From = append(lead.From, LeadEnd{At: fmt.Sprint("f", i)})
		}
		for i := range rapid.IntRange(1, 5).Draw(t, "to") {
			lead.To = append(lead.To, LeadEnd{At: fmt.Sprint("t", i)})
		}
		for range rapid.IntRange(0, 12).Draw(t, "wires") {
			lead.Wires = append(lead.Wires, Conductor{FromEnd: rapid.IntRange(1, len(lead.From)).Draw(t, "a"),
				FromPin: rapid.IntRange(1, 8).Draw(t, "ap"),
				ToEnd:   rapid.IntRange(1, len(lead.To)).Draw(t, "b"), ToPin: rapid.IntRange(1, 8).Draw(t, "bp")})
		}
		joins := func(l *Lead) (list []string) {
			for _, w := range l.Wires {
				list = append(list, fmt.Sprintf("%s%d%s%d", l.From[w.FromEnd-1].At, w.FromPin, l.To[w.ToEnd-1].At, w.ToPin))
			}
			return list
		}
		before := joins(&lead)
		gone := map[string]bool{}
		for _, source := range []bool{true, false} {
			ends := lead.To
			if source {
				ends = lead.From
			}
			names := slices.Clone(ends)
			lead.DropEnds(source, func(j int) bool {
				if rapid.Bool().Draw(t, "dropped") {
					gone[names[j].At] = true
				}
				return gone[names[j].At]
			})
		}
		var want []string
		for _, j := range before {
			if !gone[j[:2]] && !gone[j[3:5]] {
				want = append(want, j)
			}
		}
		assert.Equal(t, want, joins(&lead))
	})
}

// TestTakingAPartAwayKeepsWiresRight: the ends that were plugged into it go, and a
// file of what is left is a rig.
func TestTakingAPartAwayKeepsWiresRight(t *testing.T) {
	r := New("r")
	r.Supplies = []Supply{{Name: "a", Outlets: []Outlet{{Name: "o"}}}, {Name: "b", Outlets: []Outlet{{Name: "o"}}}}
	r.Leads = []Lead{{Name: "own", From: []LeadEnd{{Part: "a", At: "o"}, {Part: "b", At: "o"}}, To: []LeadEnd{{At: "x"}},
		Wires: []Conductor{{FromEnd: 1, FromPin: 1, ToEnd: 1, ToPin: 1}, {FromEnd: 2, FromPin: 3, ToEnd: 1, ToPin: 2}}}}
	require.NoError(t, Validate(r))
	require.NoError(t, Remove(r, "/supplies/0"))
	assert.Equal(t, []Conductor{{FromEnd: 1, FromPin: 3, ToEnd: 1, ToPin: 2}}, r.Leads[0].Wires)
	require.NoError(t, Validate(r))
	require.NoError(t, Remove(r, "/leads/0/to/0"))
	assert.Empty(t, r.Leads[0].Wires)
	r.Leads[0].Wires = []Conductor{{FromEnd: 1, FromPin: 1, ToEnd: 1, ToPin: 1}}
	assert.ErrorContains(t, Validate(r), "/leads/0/wires/0/to_end: 1 is not accepted; accepted: a load end of the lead, from 1; it has 0")
}

// TestCalled: what a person reads is the name in the tag, an entry what its list
// holds.
func TestCalled(t *testing.T) {
	for pointer, want := range map[string]string{
		"/chamber": "room for the card", "/chamber/things/3": "obstacle", "/chamber/things/3/size/x_mm": "along the length",
		"/supplies/0":   "supply",
		"/brief/stance": "what may be altered", "/card/length_mm": "length", "/card/length_mm/tolerance": "tolerance", "/host/drives/0": "drive",
		"/nowhere_at_all": "nowhere at all",
	} {
		assert.Equal(t, want, Called(&Rig{}, pointer), pointer)
	}
	assert.Equal(t, "power plug", Called(&Card{}, "/plugs/1"))
	Walk(&Rig{Supplies: make([]Supply, 1), Leads: make([]Lead, 1)}, func(n Node) {
		if n.Path() != "/format" && !slices.Contains([]string{"rule", "where", "reason"}, n.Spec.Name) {
			assert.NotEmpty(t, n.Spec.Called, "%s has no name a person would read", n.Path())
		}
	})
}
