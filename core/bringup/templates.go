package bringup

import (
	"kolvan/core/rig"
)

// templates make the rows of a rig, one entry a kind of thing. What comes first here
// comes first where nothing else decides.
var templates = []struct {
	kind string
	make func(*maker)
}{
	{"data", data}, {"new place of a drive, before", provenDrives}, {"firmware", photographs}, {"driver", drivers}, {"setting", settings},
	{"listing", listing}, {"cut", cuts}, {"print", prints}, {"mains", mains}, {"cover", covers}, {"battery", battery}, {"used host", served},
	{"obstacle", obstacles}, {"slot occupant", occupants}, {"bracket", brackets}, {"adapter", adapters}, {"cable", cables}, {"dock", docks},
	{"supply", supplies}, {"harness", harnesses}, {"lead", leads}, {"card", card}, {"first start", firstStart}, {"proof", proofs},
	{"closing", closing},
	{"what stays off", layAside},
}

const (
	crossDriver = "small cross driver"
	cloth       = "soft cloth"
	meter       = "meter"
)

// short reports an evening at which nothing is opened, moved or altered: a box on a port.
func (m *maker) short() bool {
	return !m.opens() && len(m.r.Alterations) == 0 && len(m.r.Route.Displaced) == 0
}

// battery is the host's: as told, else one that unplugs in a notebook and none elsewhere.
func (m *maker) battery() rig.Battery {
	if rig.Is(m.r.Host.Kind, rig.Notebook) {
		return m.r.Host.Battery.Or(rig.BatteryUnplugs)
	}
	return m.r.Host.Battery.Or(rig.NoBattery)
}

func (m *maker) usedHost() bool { return m.r.Host.Listed.Said() || len(m.r.Host.Checks) > 0 }

// side is where something is worked on: a notebook opens from below unless told otherwise,
// all else from the top.
func (m *maker) side(f rig.Fact[rig.Side]) Place {
	if rig.Is(f, rig.SideUnder) || !f.Known && rig.Is(m.r.Host.Kind, rig.Notebook) {
		return Underside
	}
	return Top
}

// outside reports a room for the card that is not the host's case.
func (m *maker) outside() bool { return m.r.Chamber.Open || m.hasDock() }

func (m *maker) hasDock() bool {
	for i := range m.r.Route.Stages {
		if rig.Is(m.r.Route.Stages[i].Kind, rig.Dock) {
			return true
		}
	}
	return false
}

// opens reports a host that is opened: its slot is no port on its outside.
func (m *maker) opens() bool {
	slot := m.r.Slot(m.r.Route.Slot)
	return slot == nil || !m.tunnelled() && !rig.Is(slot.Side, rig.SideOutside)
}

func (m *maker) tunnelled() bool {
	slot := m.r.Slot(m.r.Route.Slot)
	return slot != nil && rig.Is(slot.Form, rig.Tunnel)
}

// startSide is the side of the host that the route starts on.
func (m *maker) startSide() Place {
	if slot := m.r.Slot(m.r.Route.Slot); slot != nil {
		return m.side(slot.Side)
	}
	return m.side(rig.Fact[rig.Side]{})
}
