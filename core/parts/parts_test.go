package parts_test

import (
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
				require.NoError(t, rig.Validate(r))
				report := assess.Rig(r, ref)
				assert.Equal(t, "put together", report.Rig)
			}
		}
	}
}

func TestDecodeRefuses(t *testing.T) {
	for kind, doc := range map[parts.Kind]string{"boat": `{"name":"x"}`, parts.Card: `{"name":"x","lanes":3}`, parts.Lead: `{}`, parts.Host: `{"name":1}`} {
		_, err := parts.Decode(kind, []byte(doc))
		var fault *rig.FieldError
		assert.ErrorAs(t, err, &fault, kind)
	}
}
