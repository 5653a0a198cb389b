package rig

import "kolvan/core/units"

// Lead is a power lead: a plain one, an adapter, a splitter or a chain.
type Lead struct {
	Name   string                 `json:"name" name:"name" doc:"The lead's name."`
	From   []LeadEnd              `json:"from,omitzero" name:"source ends" doc:"What it is plugged into at the source."`
	To     []LeadEnd              `json:"to,omitzero" name:"load ends" doc:"What it feeds."`
	Gauge  Fact[int]              `json:"gauge_awg,omitzero" is:"10..30" sold:"down 10..24" name:"gauge" doc:"Of its wires, as printed on them."`
	Length Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..5000" sold:"50..3000" name:"length" measure:"cable" doc:"From plug to plug."`
	Path   []Corner               `json:"path,omitzero" name:"way of the lead" doc:"Where it runs in the case, from plug to plug: its ends and every corner, in order."`
	Wires  []Conductor            `json:"wires,omitzero" name:"wires" doc:"Which pin each wire joins with which, on a lead made by oneself. Left out: as its maker wired it."`
	Fuse   Fact[units.Amp]        `json:"fuse_a,omitzero" is:"0..200" else:"none" sold:"1..60" name:"fuse" doc:"In its supply wires, at the source."`
	// A bought lead that turns one plug into another.
	MadeFor Fact[[]string]   `json:"made_for,omitzero" name:"made for" doc:"The hosts or boards whose plug it turns into, by its papers; it is then bought, not made by oneself."`
	Standby Fact[units.Volt] `json:"standby_v,omitzero" is:"0..24" else:"the supply's 5 V" name:"gives standby of" doc:"Of a lead that makes another standby voltage of the supply's 5 V."`
	Asks    Fact[units.Volt] `json:"asks_v,omitzero" is:"5..48" name:"a board in it asks for" doc:"Of a lead with a USB-C plug and a small board that negotiates: the voltage it is set to."`
	Ticked  []string         `json:"meter_ticked,omitzero" name:"measured and right" doc:"Lines of its meter list that were measured and right."`
	Price
}

// Conductor is one wire of a lead: it joins a pin of a source end with a pin of a load end.
type Conductor struct {
	FromEnd int       `json:"from_end" is:"1..64" name:"from end" doc:"The source end, from 1."`
	FromPin int       `json:"from_pin" is:"1..40" name:"from pin" doc:"Its pin, from 1."`
	ToEnd   int       `json:"to_end" is:"1..64" name:"to end" doc:"The load end, from 1."`
	ToPin   int       `json:"to_pin" is:"1..40" name:"to pin" doc:"Its pin, from 1."`
	Gauge   Fact[int] `json:"gauge_awg,omitzero" is:"10..30" else:"the lead's" name:"gauge" doc:"Of this wire alone."`
}

// Pin is what one pin of a proprietary plug carries.
type Pin struct {
	Carries Fact[Plane]      `json:"carries,omitzero" name:"carries" doc:"By the label or a meter."`
	Reads   Fact[units.Volt] `json:"reads_v,omitzero" is:"-60..60" name:"a meter shows" doc:"Against ground; for a supply pin its voltage."`
}

// LeadEnd is one end of a lead: what it is plugged into, and its own connector.
type LeadEnd struct {
	Part      string           `json:"part,omitzero" name:"plugged into" doc:"A supply, a stage, the host or another lead at the source; the card, the host, a stage or a converter board at the load. Empty: it hangs free."`
	At        string           `json:"at,omitzero" name:"there, into" doc:"The outlet, inlet or plug; for a free end its own name."`
	Connector Fact[Connector]  `json:"connector,omitzero" else:"what it is plugged into" sold:"by" name:"connector on the lead" doc:"The connector on the lead."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" sold:"up 1..60" name:"states" doc:"What its own plug states."`
	SenseW    Fact[units.Watt] `json:"sense_w,omitzero" is:"150|300|450|600" else:"what it is plugged into" sold:"up" name:"its sense pins announce" when:"connector=card-16" doc:"What the sense pins of a card-16 announce, W, by the print on the plug."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"its source's" sold:"by" name:"carries" when:"connector=barrel|din-4|two-pole-30a|usb-c|proprietary" doc:"The voltage printed on it."`
	Shell     Fact[Connector]  `json:"shell,omitzero" name:"its shell is that of" when:"connector=proprietary" doc:"The kind whose socket a proprietary plug enters: it may look like another and be wired otherwise."`
	Pins      []Pin            `json:"pins,omitzero" else:"what it is plugged into" name:"pins" when:"connector=proprietary" doc:"What the pins of a proprietary plug carry, pin 1 first."`
}

// CardPart and HostPart are the parts a lead may end at besides stages.
const (
	CardPart = "card"
	HostPart = "host"
)
