package gate_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/gate"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// taken is a host whose boot drive and wireless card sit in the slots a route
// may want, with a free slot and one in use beside them.
func taken(slot string, homes ...rig.Displaced) *rig.Rig {
	r := rig.New("taken")
	r.Host.Drives = []rig.Drive{{Name: "boot", Boots: rig.Of(true)}, {Name: "data", Boots: rig.Of(false)}}
	r.Host.Networks = []rig.Network{
		{Name: "radio", Kind: rig.Of(rig.Wireless)}, {Name: "wire", Kind: rig.Of(rig.Wire), Used: rig.Of(false)},
	}
	r.Host.Slots = []rig.Slot{
		{Name: "a", Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("M")), Occupant: rig.Of("boot")},
		{Name: "b", Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("M")), Occupant: rig.Of("data"), Bootable: rig.Of(true)},
		{Name: "free", Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("M")), Occupant: rig.Of(rig.NoOccupant), Bootable: rig.Of(true)},
		{Name: "e", Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("E")), Occupant: rig.Of("radio"), Fixed: rig.Of(rig.Fixing("screwed"))},
	}
	r.Host.Firmware.AllowList = rig.Of(false)
	r.Route.Slot, r.Route.Displaced = slot, homes
	return r
}

func to(occupant string, home rig.Home, slot string) rig.Displaced {
	return rig.Displaced{Occupant: occupant, Home: rig.Of(home), Slot: slot}
}

func said(t *testing.T, r *rig.Rig) []string {
	t.Helper()
	var out finding.List
	gate.Judge(r, coretest.Tables(t), &out)
	var list []string
	for _, f := range out.Findings {
		list = append(list, f.Level.String()+" "+f.Rule+" "+f.Where)
	}
	return list
}

func TestWhatBecomesOfTheOccupant(t *testing.T) {
	fromUSB := to("boot", "usb", "")
	fromUSB.Bootable = rig.Fact[bool]{Known: true, Value: true, Source: rig.Measured}
	fromUSB.USB = rig.Of(units.GigabitPerSecond(10))
	notTried := to("boot", "usb", "")
	notTried.USB = fromUSB.USB
	proven := func(slot string) rig.Displaced {
		d := to("boot", rig.HomeSlot, slot)
		d.Proven = rig.Of(true)
		return d
	}
	fromCard := to("boot", "memory-card", "")
	fromCard.Bootable = rig.Of(false)
	const boot = "blocked boot.displaced /host/slots/0/occupant"
	for _, c := range []struct {
		name string
		rig  *rig.Rig
		want []string
	}{
		{"an empty slot displaces nobody", taken("free"), nil},
		{"a data drive may go", taken("b"), nil},
		{"the boot drive goes nowhere", taken("a"), []string{boot}},
		{"it is left out on purpose", taken("a", to("boot", rig.HomeNone, "")), []string{boot}},
		{"it goes to a free slot that boots", taken("a", proven("free")), nil},
		{
			"it was not yet seen to start there", taken("a", to("boot", rig.HomeSlot, "free")),
			[]string{"unknown boot.proven /route/displaced/0/proven"},
		},
		{"two drives cannot go to one slot", taken("a", to("data", rig.HomeSlot, "free"), proven("free")), []string{boot}},
		{"the slot is in use", taken("a", to("boot", rig.HomeSlot, "b")), []string{boot}},
		{"what is in that slot makes room", taken("a", proven("b"), to("data", "usb", "")), nil},
		{"it cannot stay in the route's own slot", taken("a", to("boot", rig.HomeSlot, "a")), []string{boot}},
		{"USB, seen to start", taken("a", fromUSB), nil},
		{"USB, not tried", taken("a", notTried), []string{"unknown boot.displaced /route/displaced/0/bootable"}},
		{"a memory card that does not start", taken("a", fromCard), []string{boot, "risk boot.slow /route/displaced/0"}},
		{"home not said", taken("a", rig.Displaced{Occupant: "boot"}), []string{"unknown boot.displaced /route/displaced/0/home"}},
		{"the radio goes, the wire is not used", taken("e"), []string{"risk net.displaced /host/slots/3/occupant"}},
		{"the radio goes to USB", taken("e", to("radio", "usb", "")), nil},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, said(t, c.rig)) })
	}
}

func TestUnknownOccupantIsAskedFor(t *testing.T) {
	r := taken("a")
	r.Host.Slots[0].Occupant = rig.Fact[string]{}
	assert.Equal(t, []string{"unknown boot.displaced /host/slots/0/occupant"}, said(t, r))
	r = taken("e")
	r.Host.Slots[3].Occupant = rig.Fact[string]{}
	assert.Equal(t, []string{"unknown net.displaced /host/slots/3/occupant"}, said(t, r))
	r = taken("a")
	r.Host.Drives[0].Boots = rig.Fact[bool]{}
	assert.Equal(t, []string{"unknown boot.displaced /host/drives/0/boots"}, said(t, r))
}

// TestNewPlaces: what goes where, of a drive that starts the host and of its
// radio.
func TestNewPlaces(t *testing.T) {
	slot := func(form rig.Form, key rig.Key, occupant string) rig.Slot {
		s := rig.Slot{
			Name: "other", Form: rig.Of(form), Occupant: rig.Of(occupant), Bootable: rig.Of(true),
			Carries: rig.Of([]rig.Carried{"pcie"}),
		}
		if key != "" {
			s.Key = rig.Of(key)
		}
		return s
	}
	level := func(other rig.Slot, d rig.Displaced) string {
		r := rig.New("places")
		occupant := d.Occupant
		r.Host.Drives = []rig.Drive{{Name: "drive", Boots: rig.Of(true)}, {Name: "data", Boots: rig.Of(false)}}
		r.Host.Networks = []rig.Network{{Name: "radio", Kind: rig.Of(rig.Wireless), Used: rig.Of(true)}}
		r.Host.Slots = []rig.Slot{{Name: "s", Form: rig.Of(rig.M2), Occupant: rig.Of(occupant)}, other}
		r.Route.Slot, r.Route.Displaced = "s", []rig.Displaced{d}
		out := finding.List{}
		gate.Judge(r, coretest.Tables(t), &out)
		for _, f := range out.Findings {
			if f.Rule != "boot.slow" {
				return f.Level.String()
			}
		}
		return "settled"
	}
	to := func(home rig.Home) rig.Displaced {
		return rig.Displaced{
			Occupant: "drive", Home: rig.Of(home), Slot: "other",
			Bootable: rig.Fact[bool]{Known: true, Value: true, Source: rig.Measured},
		}
	}
	radio := func(home rig.Home) rig.Displaced {
		return rig.Displaced{Occupant: "radio", Home: rig.Of(home), Slot: "other"}
	}
	empty := rig.NoOccupant
	for _, c := range []struct {
		name, want string
		other      rig.Slot
		d          rig.Displaced
	}{
		{"a drive into key M", "settled", slot(rig.M2, "M", empty), to(rig.HomeSlot)},
		{"a drive into a card slot, without an adapter", "blocked", slot(rig.CardSlot, "", empty), to(rig.HomeSlot)},
		{"a drive into a wireless slot", "blocked", slot(rig.M2, "E", empty), to(rig.HomeSlot)},
		{"a drive into a slot that is taken", "blocked", slot(rig.M2, "M", "data"), to(rig.HomeSlot)},
		{"a drive into a slot whose key nobody saw", "unknown", slot(rig.M2, "", empty), to(rig.HomeSlot)},
		{"a drive into an Ethernet socket", "blocked", slot(rig.M2, "M", empty), to("ethernet")},
		{"a drive on a memory card", "settled", slot(rig.M2, "M", empty), to("memory-card")},
		{"a radio into key E", "settled", slot(rig.M2, "E", empty), radio(rig.HomeSlot)},
		{"a radio into key M", "risk", slot(rig.M2, "M", empty), radio(rig.HomeSlot)},
		{"a radio's work to a wire", "settled", slot(rig.M2, "M", empty), radio("ethernet")},
		{"a radio into the card reader", "risk", slot(rig.M2, "M", empty), radio("memory-card")},
	} {
		assert.Equal(t, c.want, level(c.other, c.d), c.name)
	}
}

// TestSlotsThatTakeWhatLeaves, by form, key and what they carry.
func TestSlotsThatTakeWhatLeaves(t *testing.T) {
	r := rig.New("homes")
	r.Host.Drives = []rig.Drive{{Name: "fast", Speaks: rig.Of(rig.PCIe)}, {Name: "old", Speaks: rig.Of(rig.SATA)}, {Name: "any"}}
	r.Host.Networks = []rig.Network{{Name: "radio", Kind: rig.Of(rig.Wireless)}}
	slot := func(name string, form rig.Form, key rig.Key, carries ...rig.Carried) rig.Slot {
		s := rig.Slot{Name: name, Form: rig.Of(form)}
		if key != "" {
			s.Key = rig.Of(key)
		}
		if carries != nil {
			s.Carries = rig.Of(carries)
		}
		return s
	}
	r.Host.Slots = []rig.Slot{
		slot("pcie", rig.M2, "M", rig.PCIe),
		slot("sata", rig.M2, "M", rig.SATA),
		slot("unseen", rig.M2, "M"),
		slot("keyless", rig.M2, ""),
		slot("radio slot", rig.M2, "E", rig.PCIe),
		slot("mini", rig.MiniPCIe, ""),
		slot("card", rig.CardSlot, "", rig.PCIe),
	}
	for occupant, want := range map[string][]string{
		"fast":  {"pcie", "unseen", "keyless"},
		"old":   {"sata", "unseen", "keyless"},
		"any":   {"pcie", "sata", "unseen", "keyless"},
		"radio": {"keyless", "radio slot", "mini"},
	} {
		var takes []string
		for i := range r.Host.Slots {
			if d := to(occupant, rig.HomeSlot, r.Host.Slots[i].Name); gate.Takes(r, &d) {
				takes = append(takes, d.Slot)
			}
		}
		assert.Equal(t, want, takes, occupant)
	}
	through := to("fast", rig.HomeSlot, "card")
	through.Adapter = "drive on a card"
	assert.True(t, gate.Takes(r, &through), "through an adapter that is named")
}
