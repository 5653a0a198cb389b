package power_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func w(v float64) rig.Fact[units.Watt] { return rig.Of(units.Watt(v)) }

func end(part, at string, c rig.Connector) rig.LeadEnd {
	return rig.LeadEnd{Part: part, At: at, Connector: rig.Of(c)}
}

func lead(name string, from, to []rig.LeadEnd) rig.Lead {
	return rig.Lead{Name: name, From: from, To: to}
}

func ends(e ...rig.LeadEnd) []rig.LeadEnd { return e }

func outlet(name string, c rig.Connector) rig.Outlet {
	return rig.Outlet{Name: name, Connector: rig.Of(c)}
}

// docked is a card of so many watts with those plugs on a dock, an ATX-style
// supply with outlets of every sort, and no lead yet.
func docked(board float64, plugs ...rig.Connector) *rig.Rig {
	r := rig.New("docked")
	r.Host.Slots = []rig.Slot{{Name: "slot", Form: rig.Of(rig.M2)}}
	r.Route.Slot = "slot"
	r.Route.Stages = []rig.Stage{{Name: "dock", Kind: rig.Of(rig.Dock), Makes3V3: rig.Of(false), Inlets: []rig.Inlet{
		{Name: "main", Connector: rig.Of(rig.Connector("main-24"))}, {Name: "six", Connector: rig.Of(rig.Connector("card-6"))},
		{Name: "disk", Connector: rig.Of(rig.Connector("disk-15"))},
	}, Outlets: []rig.Outlet{outlet("out", "card-8")}}}
	r.Card.Power = w(board)
	r.Card.Plugs = []rig.CardPlug{}
	for i, c := range plugs {
		r.Card.Plugs = append(r.Card.Plugs, rig.CardPlug{Name: string(rune('A' + i)), Connector: rig.Of(c)})
	}
	r.Supplies = []rig.Supply{{Name: "psu", Kind: rig.Of(rig.SupplyKind("atx")), Rating: w(500),
		Rails: []rig.Rail{{Name: "12V", Voltage: rig.Of(units.Volt(12)), Current: rig.Of(units.Amp(40))}},
		Outlets: []rig.Outlet{outlet("main", "main-24"), outlet("c1", "card-8"), outlet("c2", "card-8"), outlet("c6", "card-6"),
			outlet("d1", "disk-15"), outlet("d2", "disk-15"), outlet("p1", "peripheral-4")}}}
	return r
}

func TestSlotShareByTheReference(t *testing.T) {
	ref := coretest.Tables(t)
	measured := docked(200, "card-8")
	measured.Card.SlotShare = w(38)
	for _, c := range []struct {
		name      string
		rig       *rig.Rig
		at12, at3 float64
	}{
		{"a small card without plugs, each at its own worst", docked(50), 50, 9.9},
		{"a card without plugs beyond 66 W", docked(72), 66, 9.9},
		{"a card without plugs that breaks its slot", docked(90), 80.1, 9.9},
		{"a card with plugs, all the standard allows", docked(200, "card-8"), 66, 9.9},
		{"a measured share goes before", measured, 38, 9.9},
	} {
		t.Run(c.name, func(t *testing.T) {
			slot := power.For(c.rig, ref).Slot
			require.True(t, slot.At12.Known())
			assert.InDelta(t, c.at12, float64(slot.At12.High), 1e-9)
			assert.InDelta(t, c.at3, float64(slot.At3V3.High), 1e-9)
		})
	}
}

// TestPlugsShareTheBoardPower: plug i takes Rᵢ of what slot and measured plugs
// leave, over the Rs of those not measured.
func TestPlugsShareTheBoardPower(t *testing.T) {
	ref := coretest.Tables(t)
	sixteen := docked(345, "card-16")
	sixteen.Card.Plugs[0].SenseW = w(450)
	measured := docked(250, "card-8", "card-8")
	measured.Card.Plugs[0].Power = w(99)
	slotLow := docked(320, "card-8", "card-8")
	slotLow.Card.SlotShare = w(10)
	for _, c := range []struct {
		name string
		rig  *rig.Rig
		want []float64
	}{
		{"one eight-pin", docked(120, "card-8"), []float64{75}},
		{"six and eight, by their ratings", docked(195, "card-6", "card-8"), []float64{50, 100}},
		{"beyond the plug, where the card is", docked(900, "card-8"), []float64{825}},
		{"the slot is enough", docked(40, "card-8"), []float64{0}},
		{"slot measured low", slotLow, []float64{155, 155}},
		{"sixteen pins by what the sense pins announce", sixteen, []float64{300}},
		{"measured goes before", measured, []float64{99, 106}},
	} {
		t.Run(c.name, func(t *testing.T) {
			for i, plug := range power.For(c.rig, ref).Plugs {
				require.True(t, plug.Load.Known())
				assert.InDelta(t, c.want[i], float64(plug.Load.High), 1e-9)
			}
		})
	}
	told := docked(345, "card-16")
	told.Supplies[0].Outlets = []rig.Outlet{outlet("c16", "card-16")}
	told.Leads = []rig.Lead{lead("straight", ends(rig.LeadEnd{Part: "psu", At: "c16"}), ends(rig.LeadEnd{Part: "card", At: "A"}))}
	assert.False(t, power.For(told, ref).Plugs[0].Load.Known(), "sense pins not known")
	told.Supplies[0].Outlets[0].SenseW = w(150)
	assert.Equal(t, units.Watt(270), power.For(told, ref).Plugs[0].Load.High, "the outlet tells it through a straight lead")
}

func TestLoadsAreFollowedToTheSupply(t *testing.T) {
	ref := coretest.Tables(t)
	both := docked(160, "card-8")
	both.Leads = []rig.Lead{
		lead("slot", ends(end("psu", "main", "main-24")), ends(end("dock", "main", "main-24"))),
		lead("card", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8"))),
	}
	n := power.For(both, ref)
	assert.InDelta(t, 66, float64(n.Leads[0].Load.High), 1e-9)
	assert.InDelta(t, 115, float64(n.Leads[1].Load.High), 1e-9)
	assert.InDelta(t, 160, float64(n.Supplies[0].Load.High), 1e-9, "slot and plug together draw no more than the board")

	both.Route.Stages[0].Makes3V3 = rig.Of(true)
	n = power.For(both, ref)
	assert.InDelta(t, 76.35, float64(n.Leads[0].Load.High), 1e-9, "65.1 + 9.9/0.88")
	assert.InDelta(t, 161.35, float64(n.Supplies[0].Load.High), 1e-9)

	plain := docked(72)
	plain.Leads = both.Leads[:1]
	assert.InDelta(t, 72, float64(power.For(plain, ref).Supplies[0].Load.High), 1e-9, "66 W at 12 V, 6 W at 3.3 V through the main plug")

	both.Leads = []rig.Lead{
		lead("slot", ends(end("psu", "c1", "card-8")), ends(end("dock", "six", "card-6"))),
		lead("card", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8"))),
	}
	both.Route.Stages[0].Makes3V3 = rig.Of(true)
	for _, l := range power.For(both, ref).Leads {
		assert.InDelta(t, 161.35, float64(l.From[0].Load.High), 1e-9, "two leads at one outlet load it together")
	}

	brick := docked(72)
	brick.Route.Stages[0].Makes3V3 = rig.Of(true)
	brick.Supplies[0].Outlets = []rig.Outlet{{Name: "round", Connector: rig.Of(rig.Connector("barrel")), Voltage: rig.Of(units.Volt(20))}}
	brick.Route.Stages[0].Inlets[0] = rig.Inlet{Name: "round", Connector: rig.Of(rig.Connector("barrel")), Voltage: rig.Of(units.Volt(20))}
	brick.Leads = []rig.Lead{lead("slot", ends(end("psu", "round", "barrel")), ends(end("dock", "round", "barrel")))}
	assert.InDelta(t, 72/0.88, float64(power.For(brick, ref).Supplies[0].Load.High), 1e-9, "a dock that takes 20 V makes all its voltages")

	through := docked(160, "card-8")
	through.Leads = []rig.Lead{
		lead("slot", ends(end("psu", "main", "main-24")), ends(end("dock", "main", "main-24"))),
		lead("card lead", ends(end("dock", "out", "card-8")), ends(end("card", "A", "card-8"))),
	}
	n = power.For(through, ref)
	assert.InDelta(t, 160, float64(n.Leads[0].Load.High), 1e-9, "the dock passes the card's plug on")
}

func TestInletsOnOnePlaneShareByContacts(t *testing.T) {
	r := docked(70)
	r.Leads = []rig.Lead{
		lead("main", ends(end("psu", "main", "main-24")), ends(end("dock", "main", "main-24"))), // two contacts
		lead("disk", ends(end("psu", "d1", "disk-15")), ends(end("dock", "disk", "disk-15"))),   // three
	}
	n := power.For(r, coretest.Tables(t))
	assert.InDelta(t, 66*2.0/5, float64(n.Leads[0].Load.High), 1e-9)
	assert.InDelta(t, 66*3.0/5, float64(n.Leads[1].Load.High), 1e-9)
}

func TestCapacityIsFollowedToTheSource(t *testing.T) {
	free := func(name string, c rig.Connector) rig.LeadEnd { return rig.LeadEnd{At: name, Connector: rig.Of(c)} }
	for _, c := range []struct {
		name  string
		leads []rig.Lead
		watts float64 // carried by the last lead
	}{
		{"a plain lead", []rig.Lead{lead("l", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8")))}, 252},
		{"one disk plug", []rig.Lead{lead("l", ends(end("psu", "d1", "disk-15")), ends(end("card", "A", "card-8")))}, 54},
		{
			"two disk plugs of two outlets",
			[]rig.Lead{lead("l", ends(end("psu", "d1", "disk-15"), end("psu", "d2", "disk-15")), ends(end("card", "A", "card-8")))},
			108,
		},
		{"two disk plugs of one chain", []rig.Lead{
			lead("chain", ends(end("psu", "d1", "disk-15")), ends(free("x", "disk-15"), free("y", "disk-15"))),
			lead("l", ends(end("chain", "x", "disk-15"), end("chain", "y", "disk-15")), ends(end("card", "A", "card-8"))),
		}, 54},
		{"an eight-pin behind a disk adapter", []rig.Lead{
			lead("adapter", ends(end("psu", "d1", "disk-15")), ends(free("x", "card-8"))),
			lead("l", ends(end("adapter", "x", "card-8")), ends(end("card", "A", "card-8"))),
		}, 54},
		{"behind an adapter of two disk plugs", []rig.Lead{
			lead("adapter", ends(end("psu", "d1", "disk-15"), end("psu", "d2", "disk-15")), ends(free("x", "card-8"))),
			lead("l", ends(end("adapter", "x", "card-8")), ends(end("card", "A", "card-8"))),
		}, 108},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := docked(120, "card-8")
			r.Leads = c.leads
			require.NoError(t, rig.Validate(withNames(r)))
			last := power.For(r, coretest.Tables(t)).Leads[len(c.leads)-1]
			assert.True(t, last.Carries.Known())
			assert.InDelta(t, c.watts, float64(last.Carries.High.At(12)), 1e-9)
		})
	}
}

func withNames(r *rig.Rig) *rig.Rig {
	r.Format, r.Name = rig.Format, "named"
	return r
}

func TestHostSlotIsFedByTheHostsSupply(t *testing.T) {
	r := docked(50)
	r.Route.Stages = nil
	r.Host.Slots[0].Form = rig.Of(rig.CardSlot)
	r.Host.Power, r.Host.Supply = w(80), "psu"
	assert.InDelta(t, 130, float64(power.For(r, coretest.Tables(t)).Supplies[0].Load.High), 1e-9)

	r.Supplies[0].Rails = []rig.Rail{{Name: "out", Voltage: rig.Of(units.Volt(19)), Current: rig.Of(units.Amp(10))}}
	assert.InDelta(t, 80+50/0.88, float64(power.For(r, coretest.Tables(t)).Supplies[0].Load.High), 1e-9, "the host makes 12 V of 19")
}

func TestFiguresAreOfTheSupplyThatFeedsTheCard(t *testing.T) {
	ref := coretest.Tables(t)
	r := docked(160, "card-8")
	r.Supplies = append(
		r.Supplies,
		rig.Supply{Name: "brick", Rating: w(100), Rails: []rig.Rail{{Name: "out", Voltage: rig.Of(units.Volt(19))}}},
	)
	r.Host.Supply, r.Host.Power = "brick", w(99)
	r.Leads = []rig.Lead{lead("card", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8")))}
	n := power.For(r, ref)
	assert.Equal(t, 0, n.CardSupply(), "not the brick, though it is fuller")
	r.Leads = nil
	assert.Equal(t, -1, power.For(r, ref).CardSupply())
}

func TestUnknownLoadsStayUnknown(t *testing.T) {
	ref := coretest.Tables(t)
	r := docked(160, "card-8")
	r.Leads = []rig.Lead{lead("card", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8")))}
	r.Card.Power = rig.Fact[units.Watt]{}
	n := power.For(r, ref)
	assert.False(t, n.Leads[0].Load.Known())
	_, known := n.Supplies[0].Share()
	assert.False(t, known)

	r.Card.Plugs = nil
	assert.False(t, power.For(r, ref).Slot.At12.Known(), "whether it has plugs is not known")
}

// TestNothingIsLostOnTheWay: whatever the leads, what the source ends of a lead
// pass is what its load ends take, more only where other leads share an outlet,
// and no supply gives more than the card and the host can take.
func TestNothingIsLostOnTheWay(t *testing.T) {
	ref := coretest.Tables(t)
	outlets := []string{"main", "c1", "c2", "c6", "d1", "d2", "p1"}
	plugs := map[string]rig.Connector{
		"main": "main-24", "c1": "card-8", "c2": "card-8", "c6": "card-6", "d1": "disk-15", "d2": "disk-15",
		"p1": "peripheral-4",
	}
	loads := []rig.LeadEnd{
		end("card", "A", "card-8"), end("card", "B", "card-6"), end("dock", "main", "main-24"), end("dock", "six", "card-6"),
		end("dock", "disk", "disk-15"), {Part: "host"},
	}
	rapid.Check(t, func(t *rapid.T) {
		r := docked(float64(rapid.IntRange(10, 400).Draw(t, "board")), "card-8", "card-6")
		r.Host.Power = w(60)
		leadsAt := map[string]int{}
		for i := range rapid.IntRange(1, 6).Draw(t, "leads") {
			l := rig.Lead{Name: string(rune('k' + i))}
			for _, at := range rapid.SliceOfNDistinct(rapid.SampledFrom(outlets), 1, 3, rapid.ID).Draw(t, "from") {
				l.From = append(l.From, end("psu", at, plugs[at]))
				leadsAt[at]++
			}
			for _, j := range rapid.SliceOfNDistinct(rapid.IntRange(0, len(loads)-1), 1, 3, rapid.ID).Draw(t, "to") {
				l.To = append(l.To, loads[j])
			}
			r.Leads = append(r.Leads, l)
		}
		n := power.For(r, ref)
		for i, l := range n.Leads {
			sum, shared := units.Watt(0), false
			for j, e := range l.From {
				sum += e.Load.High
				shared = shared || leadsAt[r.Leads[i].From[j].At] > 1
			}
			if l.Load.Known() && (sum-l.Load.High > 1e-6 && !shared || l.Load.High-sum > 1e-6) {
				t.Fatalf("lead %d carries %v, its source ends %v", i, l.Load, sum)
			}
		}
		for i, s := range n.Supplies {
			sum := units.Watt(0)
			for _, l := range n.Leads {
				for _, e := range l.From {
					sum += e.Load.High
				}
			}
			if s.Load.High > sum+n.Slot.At3V3.High+1e-6 {
				t.Fatalf("supply %d gives %v, its leads take %v", i, s.Load, sum)
			}
		}
		fed := map[string]bool{}
		for i, l := range r.Leads {
			for j, e := range l.To {
				if n.Leads[i].To[j].Fit != power.NoEntry {
					fed[e.Part+e.At] = true
					fed[e.Part] = true
				}
			}
		}
		if all := r.Card.Power.Value + r.Host.Power.Value; fed["cardA"] && fed["cardB"] && fed["dock"] && fed["host"] &&
			math.Abs(float64(n.Supplies[0].Load.High-all)) > 1e-6 {
			t.Fatalf("the supply gives %v, the loads take %v in all", n.Supplies[0].Load, all)
		}
		if most := r.Card.Power.Value + r.Host.Power.Value; n.Supplies[0].Load.High > most+1e-6 {
			t.Fatalf("the supply gives %v, all there is takes %v", n.Supplies[0].Load, most)
		}
	})
}

// TestConverterBoard: 100 W at 12 V behind a board that makes them from 19 V are
// 113.6 W before it, and its 19 V never meet the 12 V.
func TestConverterBoard(t *testing.T) {
	r := docked(60)
	r.Route.Stages[0].Inlets = append(
		r.Route.Stages[0].Inlets,
		rig.Inlet{Name: "round", Connector: rig.Of(rig.Connector("barrel")), Current: rig.Of[units.Amp](10)},
	)
	r.Route.Stages[0].Makes3V3, r.Route.Stages[0].Power = rig.Of(true), w(10)
	round := func(name string, volts units.Volt) rig.Outlet {
		return rig.Outlet{Name: name, Connector: rig.Of(rig.Connector("barrel")), Voltage: rig.Of(volts), Current: rig.Of[units.Amp](10)}
	}
	r.Supplies = []rig.Supply{
		{Name: "brick", Kind: rig.Of(rig.Brick), Rating: w(120), Outlets: []rig.Outlet{round("plug", 19)}},
		{
			Name: "board", Kind: rig.Of(rig.Converter), Rating: w(100),
			Inlets: []rig.Inlet{{
				Name: "in", Connector: rig.Of(rig.Connector("barrel")), Voltage: rig.Of[units.Volt](19),
				Current: rig.Of[units.Amp](10),
			}},
			Outlets: []rig.Outlet{round("out", 12)},
		},
	}
	r.Leads = []rig.Lead{
		lead("up", ends(end("brick", "plug", "barrel")), ends(end("board", "in", "barrel"))),
		lead("down", ends(end("board", "out", "barrel")), ends(end("dock", "round", "barrel"))),
	}
	n := power.For(r, coretest.Tables(t))
	assert.InDelta(t, float64(n.Supplies[1].Load.High)/0.88, float64(n.Supplies[0].Load.High), 1e-6)
	assert.InDelta(
		t, 10+60+9.9*(1/0.88-1), float64(n.Supplies[1].Load.High), 1e-6,
		"the dock and the card once, and what making 3.3 V loses",
	)
	assert.Greater(t, float64(n.Supplies[1].Load.Low), 69.0)
	for _, rule := range []string{"power.voltage", "power.backfeed", "power.unfed", "power.turn-on"} {
		assert.NotContains(t, said(t, r, rule), "danger", rule)
	}
	assert.Equal(t, []string{"blocked /host"}, said(t, r, "power.unfed"))
	r.Supplies[1].Inlets[0].Voltage = rig.Of[units.Volt](12)
	assert.Equal(t, []string{"danger /leads/0/to/0"}, said(t, r, "power.voltage"))
	r.Supplies[1].Passes, r.Supplies[0].Outlets[0] = rig.Of(true), round("plug", 12)
	n = power.For(r, coretest.Tables(t))
	assert.InDelta(t, float64(n.Supplies[1].Load.High), float64(n.Supplies[0].Load.High), 1e-6, "a board that passes 12 V on loses nothing")
	r.Supplies[1].Inlets[0].Voltage = rig.Of[units.Volt](19)
	n = power.For(r, coretest.Tables(t))
	assert.InDelta(t, float64(n.Supplies[1].Load.High)/0.88, float64(n.Supplies[0].Load.High), 1e-6, "from 19 V it has none to pass on")
	r.Leads = r.Leads[1:]
	assert.Contains(t, said(t, r, "power.unfed"), "blocked /supplies/1", "a board that nothing feeds gives nothing")
	r.Leads = append(r.Leads, lead("round and round", ends(end("board", "out", "barrel")), ends(end("board", "in", "barrel"))))
	assert.ErrorContains(t, rig.Validate(withNames(r)), "a lead that does not come back to itself")
}

// TestBoxWithItsOwnSupply: it feeds the slot and what hangs on its outlets, and a
// second source beside it is a danger.
func TestBoxWithItsOwnSupply(t *testing.T) {
	r := docked(220, "card-8")
	r.Supplies = append(
		r.Supplies,
		rig.Supply{Name: "box supply", Kind: rig.Of(rig.SupplyKind("flex")), Rating: w(300), Class: rig.Of(rig.ClassCurrent)},
	)
	r.Route.Stages[0].Supply = "box supply"
	r.Leads = []rig.Lead{lead("card lead", ends(end("dock", "out", "card-8")), ends(end("card", "A", "card-8")))}
	assert.Equal(t, []string{"blocked /host"}, said(t, r, "power.unfed"))
	assert.Empty(t, said(t, r, "power.slot-limit"))
	assert.NotContains(t, said(t, r, "power.turn-on"), "unknown /supplies/1/turn_on", "its box switches it on")
	n := power.For(r, coretest.Tables(t))
	assert.InDelta(t, 220, float64(n.Supplies[1].Load.High), 1e-9, "the card once, slot and plug together")
	assert.Empty(t, said(t, r, "power.lead"), "its own supply carries its outlets")
	r.Supplies[1].Kind, r.Supplies[1].Rails = rig.Of(rig.Brick), []rig.Rail{{Name: "o", Voltage: rig.Of[units.Volt](19)}}
	assert.Equal(t, []string{"danger /route/stages/0/supply"}, said(t, r, "power.voltage"), "19 V on a plane for 12")
	r.Supplies[1].Rails = nil
	assert.Equal(t, []string{"unknown /supplies/1/rails"}, said(t, r, "power.voltage"))
	r.Supplies[1].Kind, r.Supplies[1].Rating = rig.Of(rig.SupplyKind("flex")), w(200)
	assert.Equal(t, []string{"blocked /supplies/1"}, said(t, r, "power.total"))
	r.Leads = append(r.Leads, lead("second", ends(end("psu", "c6", "card-6")), ends(end("dock", "six", "card-6"))))
	assert.Equal(t, []string{"danger /route/stages/0"}, said(t, r, "power.backfeed"))

	whole := docked(0)
	whole.Card = rig.Card{Name: "built in", BuiltIn: rig.Of(true)}
	whole.Route.Stages[0].Supply, whole.Supplies[0].TurnOn = "psu", rig.Of(rig.TurnOnDock)
	for _, rule := range []string{"power.slot-limit", "power.card", "power.lead", "power.connector"} {
		assert.Empty(t, said(t, whole, rule), "nothing is asked inside it: "+rule)
	}
}

// TestWhatTheLabelSaysOfPeaks: a brick whose label promises more for 10 ms rides
// out more, and no longer than that.
func TestWhatTheLabelSaysOfPeaks(t *testing.T) {
	r := docked(150, "card-8")
	r.Supplies[0].Kind, r.Supplies[0].Rating, r.Supplies[0].Rails = rig.Of(rig.Brick), w(200), nil
	r.Leads = []rig.Lead{
		lead("a", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8"))),
		lead("b", ends(end("psu", "c6", "card-6")), ends(end("dock", "six", "card-6"))),
	}
	assert.Equal(t, []string{"risk /supplies/0"}, said(t, r, "power.spike"))
	r.Supplies[0].Peak, r.Supplies[0].PeakMS = w(320), rig.Of(10.0)
	assert.Empty(t, said(t, r, "power.spike"))
	bands := power.For(r, coretest.Tables(t)).Bands(0)
	assert.InDelta(t, 320, float64(bands[2].Rides.High), 1e-9)
	assert.InDelta(t, 220, float64(bands[3].Rides.High), 1e-9)
}

// TestTheCardsWattsAreShared: 344 W of a card with two plugs, one of them on a supply of its
// own: the other supply gives the slot at its most and half of what is then left.
func TestTheCardsWattsAreShared(t *testing.T) {
	r := docked(344, "card-8", "card-8")
	r.Route.Stages[0].Makes3V3 = rig.Of(true)
	r.Supplies = append(r.Supplies, r.Supplies[0])
	r.Supplies[1].Name = "other"
	r.Leads = []rig.Lead{lead("a", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8"))),
		lead(
			"in", ends(end("other", "c6", "card-6")), ends(end("dock", "six", "card-6")),
		), lead("b", ends(end("dock", "out", "card-8")), ends(end("card", "B", "card-8")))}
	n := power.For(r, coretest.Tables(t))
	assert.InDelta(t, 75+9.9*(1/0.88-1)+(344-75)/2.0, float64(n.Supplies[1].Load.High), 1e-6)
	assert.InDelta(t, float64(n.Plugs[0].Load.High), float64(n.Supplies[0].Load.High), 1e-9, "the plug alone, at its own worst")
	r.Card.Plugs[0].Power = w(100)
	n = power.For(r, coretest.Tables(t))
	assert.InDelta(t, 100, float64(n.Supplies[0].Load.High), 1e-9, "what was measured is neither shared nor more")
	assert.InDelta(t, 75+9.9*(1/0.88-1)+344-75-100, float64(n.Supplies[1].Load.High), 1e-6)
}

// TestADockFedThroughItsOutlet is alive, and loads the lead that feeds it; what a riser takes
// through its edge is the host's.
func TestADockFedThroughItsOutlet(t *testing.T) {
	r := docked(120, "card-8")
	r.Route.Stages[0].Makes3V3 = rig.Of(true)
	r.Leads = []rig.Lead{
		lead("out", ends(end("dock", "out", "card-8")), ends(end("card", "A", "card-8"))),
		lead("in", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8"))),
	}
	assert.NotContains(t, said(t, r, "power.unfed"), "blocked /route/stages/0", "it has 12 V")
	n := power.For(r, coretest.Tables(t))
	assert.Greater(t, float64(n.Leads[1].Load.Low), 66.0, "the slot is behind it")
	r.Leads = r.Leads[:1]
	assert.Contains(t, said(t, r, "power.unfed"), "blocked /route/stages/0", "alone it brings nothing")
	assert.Empty(t, said(t, r, "power.lead"))

	riser := docked(60)
	riser.Host.Slots[0].Form, riser.Host.Power = rig.Of(rig.CardSlot), w(40)
	riser.Host.Supply, riser.Supplies = "brick", append(
		riser.Supplies,
		rig.Supply{Name: "brick", Kind: rig.Of(rig.Brick), Rating: w(90), Rails: []rig.Rail{{Name: "o", Voltage: rig.Of[units.Volt](12)}}},
	)
	riser.Route.Stages[0].Kind = rig.Of(rig.Riser)
	riser.Leads = []rig.Lead{lead("six", ends(end("psu", "c6", "card-6")), ends(end("dock", "six", "card-6")))}
	assert.Contains(t, said(t, riser, "power.unfed"), "blocked /route/stages/0", "no 3.3 V")
	riser.Route.Stages[0].Passes3V3 = rig.Of(true)
	assert.Empty(t, said(t, riser, "power.unfed"))
	n = power.For(riser, coretest.Tables(t))
	assert.InDelta(t, 40+9.9, float64(n.Supplies[1].Load.High), 1e-6)
	assert.InDelta(t, 60, float64(n.Supplies[0].Load.High), 1e-6)
}
