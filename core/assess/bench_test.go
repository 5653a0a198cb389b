package assess_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

func BenchmarkAssess(b *testing.B) {
	ref := coretest.Tables(b)
	rigs, err := demo.Rigs()
	require.NoError(b, err)
	for _, r := range rigs {
		b.Run(r.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				assess.Rig(r, ref)
			}
		})
		b.Run(r.Name+" silent", func(b *testing.B) {
			b.ReportAllocs()
			judge := assess.Silently(ref)
			for b.Loop() {
				judge(r)
			}
		})
	}
}

func BenchmarkClear(b *testing.B) {
	ref, bins := coretest.Tables(b), stock(b)
	rigs, err := demo.Rigs()
	require.NoError(b, err)
	for _, r := range rigs {
		b.Run(r.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				report := assess.Rig(r, ref)
				require.NoError(b, assess.Clear(context.Background(), &report, r, ref, bins, assess.UsualEffort))
			}
		})
	}
}

// worst are legal files that make the search look through as much as the format
// lets one hold, each in another way.
func worst(t testing.TB) map[string]*rig.Rig {
	named := func(word string, i int) string { return fmt.Sprintf("%s %d", word, i) }
	dock := rig.Stage{
		Name: "dock", Kind: rig.Of(rig.Dock), Plug: rig.Joint{Form: rig.Of(rig.M2), Key: rig.Of[rig.Key]("M")},
		Socket: rig.Joint{Form: rig.Of(rig.CardSlot)},
	}
	for i := range 64 {
		dock.Inlets = append(dock.Inlets, rig.Inlet{Name: named("in", i), Connector: rig.Of[rig.Connector]("peripheral-4")})
	}
	base := func(name string) *rig.Rig {
		r := rig.New(name)
		r.Host = rig.Host{Name: "h", Slots: []rig.Slot{{Name: "s", Form: rig.Of(rig.M2)}}}
		r.Card = rig.Card{Name: "c", Power: rig.Of[units.Watt](300)}
		r.Route = rig.Route{Slot: "s", Stages: []rig.Stage{dock}}
		return r
	}
	wide := base("many supplies, leads and inlets")
	chain := base("leads on leads")
	fan := base("two leads of very many ends")
	for i := range 64 {
		supply := rig.Supply{Name: named("s", i), Kind: rig.Of[rig.SupplyKind]("atx"), Rating: rig.Of[units.Watt](100)}
		for j, connector := range []rig.Connector{"disk-15", "peripheral-4", "card-8", "card-6", "small-disk-4", "cpu-8"} {
			supply.Outlets = append(supply.Outlets, rig.Outlet{Name: named("o", j), Connector: rig.Of(connector)})
		}
		wide.Supplies = append(wide.Supplies, supply)
		wide.Leads = append(wide.Leads, rig.Lead{Name: named("l", i), From: []rig.LeadEnd{
			{Part: supply.Name, At: "o 0"}, {Part: supply.Name, At: "o 1"},
		},
			To: []rig.LeadEnd{{Part: "dock", At: named("in", i)}, {Part: "dock", At: named("in", (i+1)%64)}}})
	}
	chain.Supplies = wide.Supplies[:1]
	for i := range 64 {
		from := []rig.LeadEnd{{Part: "s 0", At: "o 0"}}
		if i > 0 {
			from = []rig.LeadEnd{{Part: named("l", i-1), At: "free"}, {Part: named("l", i-1), At: "spare"}}
		}
		chain.Leads = append(chain.Leads, rig.Lead{Name: named("l", i), From: from,
			To: []rig.LeadEnd{
				{At: "free", Connector: rig.Of[rig.Connector]("card-8")}, {At: "spare", Connector: rig.Of[rig.Connector]("card-8")},
			}[:2-i/63]})
	}
	fan.Supplies = wide.Supplies
	for i := range 2 {
		lead := rig.Lead{Name: named("l", i)}
		for j := range 64 {
			lead.From = append(lead.From, rig.LeadEnd{Part: named("s", j), At: "o 0"})
			lead.To = append(lead.To, rig.LeadEnd{Part: "dock", At: named("in", j)})
		}
		fan.Leads = append(fan.Leads, lead)
	}
	full := base("a chamber full of things")
	full.Chamber.Box = rig.Extent{X: rig.Of[units.Millimetre](300), Y: rig.Of[units.Millimetre](300), Z: rig.Of[units.Millimetre](300)}
	full.Card.Length, full.Card.Height, full.Card.Thickness = rig.Of[units.Millimetre](200), rig.Of[units.Millimetre](100),
		rig.Of[units.Millimetre](40)
	full.Chamber.CardAt = rig.Place{X: rig.Of[units.Millimetre](0), Y: rig.Of[units.Millimetre](0), Z: rig.Of[units.Millimetre](10)}
	for i := range 64 {
		full.Host.Slots = append(full.Host.Slots, rig.Slot{Name: named("slot", i)})
		full.Host.Drives = append(full.Host.Drives, rig.Drive{Name: named("drive", i)})
		full.Chamber.Things = append(
			full.Chamber.Things, rig.Thing{Name: named("thing", i), At: full.Chamber.CardAt, Size: full.Chamber.Box},
		)
		full.Chamber.Covers = append(
			full.Chamber.Covers, rig.Cover{Name: named("cover", i), At: full.Chamber.CardAt, Size: full.Chamber.Box},
		)
		full.Brief.Works = append(full.Brief.Works, rig.Work{Name: named("work", i)})
	}
	full.Host.Slots = full.Host.Slots[:64]
	made := base("leads of one's own, wire by wire")
	pins := make([]rig.Pin, 40)
	for i := range pins {
		pins[i] = rig.Pin{
			Carries: rig.Of(rig.Plane([]string{"supply", "ground", "sense", "turn-on", "standby"}[i%5])),
			Reads:   rig.Of[units.Volt](12),
		}
	}
	for i := range 64 {
		own := rig.Of[rig.Connector]("proprietary")
		made.Supplies = append(
			made.Supplies,
			rig.Supply{
				Name: named("s", i), Kind: rig.Of(rig.Brick),
				Outlets: []rig.Outlet{{Name: "o", Connector: own, Voltage: rig.Of[units.Volt](12), Pins: pins}},
			},
		)
		made.Host.Inlets = append(
			made.Host.Inlets, rig.Inlet{Name: named("i", i), Connector: own, Voltage: rig.Of[units.Volt](12), Pins: pins},
		)
		lead := rig.Lead{
			Name: named("l", i), From: []rig.LeadEnd{{Part: named("s", i), At: "o", Connector: own}},
			To: []rig.LeadEnd{{Part: rig.HostPart, At: named("i", i), Connector: own}},
		}
		for j := range 64 {
			lead.Wires = append(lead.Wires, rig.Conductor{FromEnd: 1, FromPin: j%40 + 1, ToEnd: 1, ToPin: j*7%40 + 1})
		}
		made.Leads = append(made.Leads, lead)
	}
	rigs := map[string]*rig.Rig{}
	for _, r := range []*rig.Rig{wide, chain, fan, full, made} {
		require.NoError(t, rig.Validate(r), r.Name)
		rigs[r.Name] = r
	}
	return rigs
}

// BenchmarkWorst states time and memory for the worst files the format takes:
// judged (aim 0.2 s, 100 MB) and cleared (aim 1 s, 200 MB).
func BenchmarkWorst(b *testing.B) {
	ref, bins := coretest.Tables(b), stock(b)
	for name, r := range worst(b) {
		b.Run(name+"/judged", func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				assess.Rig(r, ref)
			}
		})
		b.Run(name+"/cleared", func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				report := assess.Rig(r, ref)
				require.NoError(b, assess.Clear(context.Background(), &report, r, ref, bins, assess.UsualEffort))
			}
		})
	}
}
