package parts_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// decoded is the built-in list by kind.
func decoded(t *testing.T) (hosts []*rig.Host, stages []*rig.Stage, cards []*rig.Card) {
	list, err := parts.Builtin()
	require.NoError(t, err)
	for _, p := range list {
		part, err := parts.Decode(p.Kind, p.Doc)
		require.NoError(t, err)
		switch v := part.(type) {
		case *rig.Host:
			hosts = append(hosts, v)
		case *rig.Stage:
			stages = append(stages, v)
		case *rig.Card:
			cards = append(cards, v)
		}
	}
	return hosts, stages, cards
}

func TestListSpansTheRoutes(t *testing.T) {
	list, err := parts.Builtin()
	require.NoError(t, err)
	counts, names := map[parts.Kind]int{}, map[string]bool{}
	for _, p := range list {
		counts[p.Kind]++
		assert.False(t, names[p.Name], "%s stands twice", p.Name)
		names[p.Name] = true
	}
	for kind, least := range map[parts.Kind]int{parts.Host: 12, parts.Card: 25, parts.Stage: 25, parts.Supply: 15, parts.Lead: 10} {
		assert.GreaterOrEqual(t, counts[kind], least, kind)
	}

	hosts, stages, _ := decoded(t)
	for _, h := range hosts {
		assert.True(t, h.Supply == "" || names[h.Supply], "%s comes with %s, which is not listed", h.Name, h.Supply)
	}
	slots, plugs := map[rig.Form]bool{}, map[rig.Form]bool{}
	for _, h := range hosts {
		for _, s := range h.Slots {
			slots[s.Form.Value] = true
		}
	}
	for _, s := range stages {
		assert.True(t, s.Supply == "" || names[s.Supply], "%s comes with %s, which is not listed", s.Name, s.Supply)
		plugs[s.Plug.Form.Value] = true
	}
	for _, form := range []rig.Form{rig.M2, rig.MiniPCIe, rig.CardSlot, rig.OCuLink, rig.Tunnel} {
		assert.True(t, slots[form] && plugs[form], "no route over %s", form)
	}
}

// TestEveryHostTakesEveryCard: whatever is put together of the list is assessed,
// and the file of it is right.
func TestEveryHostTakesEveryCard(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	hosts, stages, cards := decoded(t)
	for _, host := range hosts {
		for i, slot := range host.Slots {
			for j, card := range cards {
				r := rig.New("put together")
				r.Host, r.Card, r.Route.Slot = *host, *card, slot.Name
				r.Host.Supply = "" // comes with it where the host is used, see below
				r.Route.Stages = []rig.Stage{*stages[(i+j)%len(stages)]}
				r.Route.Stages[0].Supply = "" // the same
				require.NoError(t, rig.Validate(r))
				report := assess.Rig(r, ref)
				assert.Equal(t, "put together", report.Rig)
			}
		}
	}
}

func TestDecodeRefuses(t *testing.T) {
	for kind, doc := range map[parts.Kind]string{
		"boat": `{"name":"x"}`, parts.Card: `{"name":"x","lanes":3}`, parts.Lead: `{}`, parts.Host: `{"name":1}`,
	} {
		_, err := parts.Decode(kind, []byte(doc))
		var fault *rig.FieldError
		assert.ErrorAs(t, err, &fault, kind)
	}
}

// TestListIsPlausible: what the tables say cannot be is not in the list.
func TestListIsPlausible(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	hosts, _, cards := decoded(t)
	for _, c := range cards {
		if rig.Is(c.BuiltIn, true) {
			continue // its box feeds it and holds it
		}
		most := ref.SlotTotal
		for _, p := range c.Plugs {
			plan := ref.Connector(p.Connector.Value).Plan
			most += min(plan, p.SenseW.Or(plan))
		}
		assert.LessOrEqual(t, c.Power.Value, most, "%s takes more than slot and plugs give", c.Name)
		low, high := 20.32*float64(c.Bracket.Slots.Value-1), 20.32*float64(c.Bracket.Slots.Value)+3
		assert.True(
			t, float64(c.Thickness.Value) > low-3 && float64(c.Thickness.Value) < high, "%s: %v under a bracket of %d slots",
			c.Name, c.Thickness.Value, c.Bracket.Slots.Value,
		)
		if c.Bracket.Height.Value == rig.HalfHeight || c.Bracket.Spare.Value == rig.HalfHeight {
			assert.LessOrEqual(t, float64(c.Height.Value), 70.0, "%s is taller than its half-height bracket", c.Name)
		}
		for generation, memory := range map[int]float64{2: 4, 3: 24} {
			assert.False(
				t, c.Gen.Value <= generation && float64(c.Memory.Value) > memory, "%s: %v at Gen %d", c.Name, c.Memory.Value,
				c.Gen.Value,
			)
		}
		assert.LessOrEqual(t, c.Lanes.Value, c.Edge.Value, c.Name)
	}
	for _, h := range hosts {
		assert.Less(t, h.Proc.Power.Value, h.Power.Value, h.Name)
		for _, s := range h.Slots {
			if d := h.Drives[0]; s.Occupant.Value == d.Name && !slices.Contains(s.Carries.Value, rig.PCIe) {
				assert.LessOrEqual(t, float64(d.Reads.Value), 0.6, "%s: a drive on SATA alone", h.Name)
			}
		}
	}
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	for _, s := range bins.Supplies {
		for _, o := range s.Outlets {
			if row := ref.Connector(o.Connector.Value); !row.Stated && o.Current.Known {
				assert.LessOrEqual(
					t, float64(o.Current.Value), float64(row.Rating)/12, "%s: %v through a %s", s.Name, o.Current.Value, o.Connector.Value,
				)
			}
		}
		if len(s.Rails) == 1 {
			assert.InEpsilon(t, float64(s.Rating.Value), float64(s.Rails[0].Current.Value.At(s.Rails[0].Voltage.Value)), 0.02, s.Name)
		}
	}
}
