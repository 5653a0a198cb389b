// Package rig is the rig and its open file format, kolvan-rig/1: a host, the
// route from one of its slots to a card, the supplies and leads that feed it,
// the chamber it must fit, and the brief it serves.
//
// The struct tags are the one description of the format. `json` names the field,
// `is` bounds it ("0..16", "1|2|4"), `else` says what counts while it is not told,
// `doc` explains it, `set:"never"` keeps it from being edited; decoding, validation,
// the JSON Schema (Schema) and the forms of the application (Walk) read them.
package rig

import "kolvan/core/units"

// Format is the format word of the files this package reads and writes.
const Format = "kolvan-rig/1"

// A Rig is one plan, whole. Pointers into it are JSON Pointers (RFC 6901).
type Rig struct {
	Format       string            `json:"format" set:"never" doc:"Always kolvan-rig/1."`
	Name         string            `json:"name" doc:"What its people call the rig."`
	Sizing       Sizing            `json:"sizing,omitzero" doc:"How the supply is judged."`
	Brief        Brief             `json:"brief,omitzero" doc:"What the rig is for and what it may cost."`
	Host         Host              `json:"host,omitzero" doc:"The computer the card is put on."`
	Route        Route             `json:"route,omitzero" doc:"The way of the lanes from the host's slot to the card."`
	Card         Card              `json:"card,omitzero" doc:"The graphics card."`
	Supplies     []Supply          `json:"supplies,omitzero" doc:"Every supply, the host's own among them. Left out: not known."`
	Leads        []Lead            `json:"leads,omitzero" doc:"Every power lead. Left out: not known."`
	Chamber      Chamber           `json:"chamber,omitzero" doc:"The room the card stands in."`
	Alterations  []Alteration      `json:"alterations,omitzero" doc:"What the plan cuts, drills or breaks."`
	Acknowledged []Acknowledgement `json:"acknowledged,omitzero" doc:"Findings somebody has read and answered for."`
}

// Sizing is the policy by which supplies are judged.
type Sizing struct {
	Policy Fact[SizingPolicy] `json:"policy,omitzero" else:"spikes" doc:"nameplate: up to the full rating; share: sustained load under a share of it; spikes: the share, and millisecond spikes."`
	Share  Fact[float64]      `json:"share,omitzero" is:"0.1..1" else:"0.8" doc:"The share of the rating that sustained load may reach."`
	Order  Fact[SwitchOn]     `json:"switch_on,omitzero" doc:"Which side is meant to be switched on first, where a person does it."`
}

// Brief is what the rig is for.
type Brief struct {
	Works     []Work            `json:"works,omitzero" doc:"What the rig must do."`
	Budget    Fact[units.Money] `json:"budget,omitzero" doc:"What the parts still to buy may cost."`
	Energy    Fact[units.Money] `json:"energy_price_kwh,omitzero" doc:"What a kilowatt-hour costs."`
	Currency  string            `json:"currency,omitzero" doc:"The currency of every price, as it should be printed."`
	Stance    Fact[Stance]      `json:"stance,omitzero" doc:"How much damage is allowed."`
	CoversOff []string          `json:"covers_off,omitzero" doc:"Names of the chamber's covers that may stay off."`
	Screen    Screen            `json:"screen,omitzero" doc:"Where the picture is wanted."`
}

// Work is one thing the rig must do.
type Work struct {
	Name    string               `json:"name" doc:"The work in a few words."`
	Often   string               `json:"often,omitzero" doc:"How often it is done."`
	Memory  Fact[units.Gibibyte] `json:"memory_gib,omitzero" is:"0..4096" doc:"Card memory the work needs, GiB."`
	Encoder Fact[string]         `json:"encoder,omitzero" doc:"Hardware encoder the work needs (h264, hevc, av1, any, none)."`
}

// Screen is the wanted screen.
type Screen struct {
	Kind   Fact[ScreenKind] `json:"kind,omitzero" doc:"The host's own panel, an external screen, or a panel fed through its own video input."`
	Width  Fact[int]        `json:"width_px,omitzero" is:"1..32768" doc:"Pixels across."`
	Height Fact[int]        `json:"height_px,omitzero" is:"1..32768" doc:"Pixels down."`
	Rate   Fact[float64]    `json:"rate_hz,omitzero" is:"1..1000" doc:"Refresh rate, Hz."`
	Fed    Fact[string]     `json:"fed_by,omitzero" doc:"The socket or cable that feeds the screen."`
}

// Price is what a part costs and whether it must still be bought.
type Price struct {
	Amount Fact[units.Money] `json:"price,omitzero" doc:"Price in the brief's currency."`
	Owned  Fact[bool]        `json:"owned,omitzero" doc:"Already owned; counts as to buy until known."`
}

// Own marks a thing as owned, unless something was said of that already.
func (p *Price) Own() {
	if !p.Owned.Known {
		p.Owned = Of(true)
	}
}

// Host is the computer.
type Host struct {
	Name     string               `json:"name,omitzero" doc:"The host's name."`
	Kind     Fact[HostKind]       `json:"kind,omitzero" doc:"The sort of host."`
	Proc     Processor            `json:"processor,omitzero" doc:"The processor fitted."`
	Memory   Fact[units.Gibibyte] `json:"memory_gib,omitzero" is:"0..4096" doc:"Main memory, GiB."`
	Graphics Fact[Graphics]       `json:"graphics,omitzero" doc:"The host's own graphics."`
	System   Fact[string]         `json:"system,omitzero" doc:"The operating system."`
	Power    Fact[units.Watt]     `json:"power_w,omitzero" is:"0..5000" doc:"What the whole host draws under load without the card, W, at its own inlet."`
	Idle     Fact[units.Watt]     `json:"idle_w,omitzero" is:"0..5000" doc:"What the whole host draws with nothing to do, W, at its own inlet."`
	Inlets   []Inlet              `json:"inlets,omitzero" doc:"Its power sockets, each with its voltage. Left out: not looked at."`
	Supply   string               `json:"supply,omitzero" doc:"The supply that feeds the host through leads of its own (a sealed brick, the built-in supply)."`
	Drives   []Drive              `json:"drives,omitzero" doc:"Disks and modules that hold data."`
	Networks []Network            `json:"networks,omitzero" doc:"Ways onto the network."`
	Screens  []ScreenSocket       `json:"screens,omitzero" doc:"Sockets for a screen."`
	Slots    []Slot               `json:"slots,omitzero" doc:"Every slot a card or module could use."`
	Price
}

// Processor is the host's processor.
type Processor struct {
	Name    string           `json:"name,omitzero" doc:"The processor's name."`
	Power   Fact[units.Watt] `json:"power_w,omitzero" is:"0..2000" doc:"Its nameplate power, W."`
	Altered Fact[bool]       `json:"altered,omitzero" doc:"Its limits were raised, or another one fitted than the host was made for."`
}

// Drive is one store of data.
type Drive struct {
	Name     string                        `json:"name" doc:"The drive's name."`
	Boots    Fact[bool]                    `json:"boots,omitzero" doc:"The host starts its system from this drive, or could as it stands."`
	Capacity Fact[units.GB]                `json:"capacity_gb,omitzero" doc:"What it holds, GB."`
	Reads    Fact[units.GigabytePerSecond] `json:"reads_gb_s,omitzero" doc:"What it reads in sequence, GB/s."`
}

// Network is one way onto the network.
type Network struct {
	Name string      `json:"name" doc:"The network's name."`
	Kind Fact[Radio] `json:"kind,omitzero" doc:"Wireless or wire."`
	Used Fact[bool]  `json:"used,omitzero" doc:"It is, or can be, the one the rig relies on."`
}

// ScreenSocket is a socket of the host for a screen.
type ScreenSocket struct {
	Name string `json:"name" doc:"The socket's name."`
}

// Slot is one slot or port of the host that could carry lanes.
type Slot struct {
	Name       string                       `json:"name" doc:"The slot's name, as printed on the board if it is."`
	Form       Fact[Form]                   `json:"form,omitzero" doc:"Its mechanical form."`
	Key        Fact[Key]                    `json:"key,omitzero" doc:"Key of an M.2 slot."`
	Length     Fact[units.Millimetre]       `json:"length_mm,omitzero" is:"0..400" doc:"The longest module it holds, mm (M.2 30, 42, 60, 80, 110)."`
	Mechanical Fact[int]                    `json:"lanes_mechanical,omitzero" is:"1|2|4|8|16" doc:"Lanes its body has room for: a card slot's length."`
	Lanes      Fact[int]                    `json:"lanes,omitzero" is:"0..16" doc:"Lanes wired to it."`
	Gen        Fact[int]                    `json:"generation,omitzero" is:"1..6" doc:"Its PCIe generation with the processor fitted."`
	Carries    Fact[[]Carried]              `json:"carries,omitzero" doc:"What its contacts carry."`
	Behind     Fact[Behind]                 `json:"behind,omitzero" doc:"Whether its lanes come from the processor or the chipset."`
	OpenEnd    Fact[bool]                   `json:"open_end,omitzero" doc:"A card slot whose end is open takes longer cards."`
	PowerLimit Fact[units.Watt]             `json:"power_limit_w,omitzero" is:"0..600" doc:"What the host's papers let a card take from it, W."`
	TunnelRate Fact[units.GigabitPerSecond] `json:"tunnel_gbit_s,omitzero" is:"10|20|40|80" doc:"Class of a tunnelled port, Gb/s."`
	TunnelNew  Fact[bool]                   `json:"tunnel_newer,omitzero" doc:"A 40 Gb/s port on a newer controller, which leaves more for PCIe."`
	Bootable   Fact[bool]                   `json:"bootable,omitzero" doc:"The host can start a system from a drive here."`
	Occupant   Fact[string]                 `json:"occupant,omitzero" doc:"The drive or network in it now; none when it is empty."`
}

// NoOccupant is the occupant of a slot known to be empty.
const NoOccupant = "none"

// Route is the way of the lanes.
type Route struct {
	Slot      string      `json:"slot,omitzero" doc:"The slot of the host the route starts from."`
	Stages    []Stage     `json:"stages,omitzero" doc:"What stands between slot and card, in order."`
	ForcedGen Fact[int]   `json:"forced_generation,omitzero" is:"1..6" else:"not forced" doc:"A generation forced in the firmware."`
	Payload   Fact[int]   `json:"payload_bytes,omitzero" is:"128|256|512" else:"128" doc:"Largest packet payload."`
	Displaced []Displaced `json:"displaced,omitzero" doc:"Where the occupants that must leave go."`
}

// Displaced is the new home of an occupant that had to leave its slot.
type Displaced struct {
	Occupant string     `json:"occupant" doc:"The drive or network that leaves."`
	Home     Fact[Home] `json:"home,omitzero" doc:"What it goes to."`
	Slot     string     `json:"slot,omitzero" doc:"The slot of the host, when the home is a slot."`
	Bootable Fact[bool] `json:"bootable,omitzero" doc:"The host can start from it there."`
}

// Stage is one adapter, cable, dock or riser of the route.
type Stage struct {
	Name      string                 `json:"name" doc:"The stage's name."`
	Kind      Fact[StageKind]        `json:"kind,omitzero" doc:"Adapter, cable, dock or riser."`
	Lanes     Fact[int]              `json:"lanes,omitzero" is:"0..16" doc:"Lanes wired through it."`
	Gen       Fact[int]              `json:"generation,omitzero" is:"1..6" doc:"The fastest generation it is made for."`
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..5000" doc:"Its length along the lanes, mm."`
	Plug      Joint                  `json:"plug,omitzero" doc:"The end toward the host."`
	Socket    Joint                  `json:"socket,omitzero" doc:"The end toward the card."`
	Inlets    []Inlet                `json:"inlets,omitzero" doc:"Power sockets of a dock or riser that feeds its card slot itself. Left out: it has none, or nobody looked."`
	Outlets   []Outlet               `json:"outlets,omitzero" doc:"Power sockets it passes on to the card, on one plane with its inlets."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..200" else:"0" doc:"What it draws for itself from its inlets, W."`
	Passes    Fact[bool]             `json:"passes_power,omitzero" doc:"A powered riser in a card slot also passes that slot's own power on."`
	SlotLimit Fact[units.Watt]       `json:"slot_limit_w,omitzero" is:"0..600" doc:"What it lets the card take from its slot, W."`
	Makes3V3  Fact[bool]             `json:"makes_3v3_from_12v,omitzero" doc:"It makes the slot's 3.3 V from 12 V, with a loss."`
	TurnsOn   Fact[bool]             `json:"turns_on,omitzero" doc:"It turns the supply on by itself."`
	Supply    string                 `json:"supply,omitzero" doc:"The supply built into it, which feeds it through leads of its own."`
	Holds     Fact[bool]             `json:"holds_reset,omitzero" else:"yes" doc:"It keeps the card in reset until its own 12 V is good."`
	Price
}

// Joint is one end of a stage.
type Joint struct {
	Form    Fact[Form] `json:"form,omitzero" doc:"Its mechanical form."`
	Key     Fact[Key]  `json:"key,omitzero" doc:"Key of an M.2 end."`
	Lanes   Fact[int]  `json:"lanes,omitzero" is:"1|2|4|8|16" doc:"Lanes its body has room for."`
	OpenEnd Fact[bool] `json:"open_end,omitzero" doc:"A card slot whose end is open."`
}

// Card is the graphics card.
type Card struct {
	Name      string                 `json:"name,omitzero" doc:"The card's name."`
	Lanes     Fact[int]              `json:"lanes,omitzero" is:"1|2|4|8|16" doc:"Lanes the card uses."`
	Edge      Fact[int]              `json:"edge_lanes,omitzero" is:"1|2|4|8|16" doc:"Length of its edge, in lanes; longer than its lanes on narrow cards."`
	TrainsX2  Fact[bool]             `json:"trains_x2,omitzero" doc:"It is known to train on two lanes."`
	Gen       Fact[int]              `json:"generation,omitzero" is:"1..6" doc:"Its PCIe generation."`
	Memory    Fact[units.Gibibyte]   `json:"memory_gib,omitzero" is:"0..4096" doc:"Its memory, GiB."`
	Encoders  Fact[[]string]         `json:"encoders,omitzero" doc:"Its hardware encoders (h264, hevc, av1); an empty list for none."`
	Outputs   Fact[[]string]         `json:"outputs,omitzero" doc:"Its sockets for screens."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..2000" doc:"Board power, W."`
	Idle      Fact[units.Watt]       `json:"idle_w,omitzero" is:"0..2000" doc:"What the card draws with nothing to do, W."`
	SlotShare Fact[units.Watt]       `json:"slot_w,omitzero" is:"0..600" doc:"What it was measured to take through the slot, W."`
	Altered   Fact[bool]             `json:"altered,omitzero" doc:"Its limits were raised, or parts changed."`
	BuiltIn   Fact[bool]             `json:"built_in,omitzero" else:"no" doc:"It came built into a box, fed and fitted by the box's maker."`
	Plugs     []CardPlug             `json:"plugs,omitzero" doc:"Its power sockets; an empty list for none, left out when not known."`
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..1000" doc:"Length from the bracket's inner face, mm."`
	Height    Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..500" doc:"Height from the slot's mouth, cooler included, mm."`
	Thickness Fact[units.Millimetre] `json:"thickness_mm,omitzero" is:"0..300" doc:"Thickness over board and cooler, mm."`
	Mass      Fact[units.Gram]       `json:"mass_g,omitzero" is:"0..20000" doc:"Mass, g."`
	Bracket   Bracket                `json:"bracket,omitzero" doc:"Its bracket."`
	Price
}

// CardPlug is one power socket of the card.
type CardPlug struct {
	Name      string           `json:"name" doc:"The plug's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" doc:"Its connector."`
	Power     Fact[units.Watt] `json:"power_w,omitzero" is:"0..2000" doc:"What it was measured to take, W."`
	SenseW    Fact[units.Watt] `json:"sense_w,omitzero" is:"150|300|450|600" doc:"What the sense pins of a card-16 announce, W."`
}

// Bracket is the card's bracket, fitted and spare.
type Bracket struct {
	Height Fact[Height] `json:"height,omitzero" doc:"The bracket fitted."`
	Spare  Fact[Height] `json:"spare,omitzero" doc:"A second bracket that came with it; none for none."`
	Slots  Fact[int]    `json:"slots,omitzero" is:"1..5" doc:"Slots it is wide."`
	Swap   Fact[Swap]   `json:"swap,omitzero" doc:"What changing it costs."`
}

// Supply is a power supply.
type Supply struct {
	Name    string           `json:"name" doc:"The supply's name."`
	Kind    Fact[SupplyKind] `json:"kind,omitzero" doc:"Its form: all but brick and usb-c are ATX-style and must be switched on."`
	Rating  Fact[units.Watt] `json:"rating_w,omitzero" is:"0..5000" doc:"Rated output, W."`
	Rails   []Rail           `json:"rails,omitzero" doc:"Its rails, as printed on its label."`
	All12V  Fact[units.Watt] `json:"combined_12v_w,omitzero" is:"0..5000" doc:"What its 12 V rails may deliver together, as printed on its label, W."`
	All5V   Fact[units.Watt] `json:"combined_5v_3v3_w,omitzero" is:"0..5000" doc:"What its 5 V and 3.3 V rails may deliver together, as printed on its label, W."`
	Peak    Fact[units.Watt] `json:"peak_w,omitzero" is:"0..20000" doc:"What its label lets it deliver for a moment, W."`
	PeakMS  Fact[float64]    `json:"peak_ms,omitzero" is:"0.1..60000" else:"10" doc:"For how long, ms."`
	Inlets  []Inlet          `json:"inlets,omitzero" doc:"Power sockets of a converter board, which makes its rails from them. A supply on the mains has none."`
	Outlets []Outlet         `json:"outlets,omitzero" doc:"Its outlets."`
	Class   Fact[Class]      `json:"class,omitzero" doc:"An older design, or a current one, which rides out longer spikes."`
	Effic   Fact[Efficiency] `json:"efficiency,omitzero" doc:"The class of its efficiency, as its label shows it."`
	Grouped Fact[bool]       `json:"group_regulated,omitzero" doc:"It regulates its rails as a group, as older ones do."`
	TurnOn  Fact[TurnOn]     `json:"turn_on,omitzero" doc:"What turns it on."`
	Wall    Fact[units.Watt] `json:"wall_w,omitzero" is:"0..5000" doc:"What a meter at the wall showed for it with everything under load, W."`
	Price
}

// Rail is one rail of a supply.
type Rail struct {
	Name    string           `json:"name" doc:"The rail's name."`
	Voltage Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" doc:"Its voltage, V."`
	Current Fact[units.Amp]  `json:"current_a,omitzero" is:"0..500" doc:"What it may deliver, A."`
}

// Outlet is a socket that gives power.
type Outlet struct {
	Name      string           `json:"name" doc:"The outlet's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" doc:"Its connector."`
	Rail      string           `json:"rail,omitzero" doc:"The rail behind it, where there are several of its voltage."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" doc:"What the part itself states for it, A."`
	SenseW    Fact[units.Watt] `json:"sense_w,omitzero" is:"150|300|450|600" doc:"What the sense pins of a card-16 announce, W."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"the rail's" doc:"The voltage it gives, where its kind does not fix it, V."`
	Barrel    Fact[Barrel]     `json:"barrel_mm,omitzero" doc:"Size of a barrel plug, outside by inside."`
	Negative  Fact[bool]       `json:"centre_negative,omitzero" else:"no" doc:"Its centre contact is ground."`
	Pins      []Pin            `json:"pins,omitzero" doc:"What the pins of a proprietary plug carry, pin 1 first. Left out: not known."`
	PinRows   Fact[int]        `json:"pin_rows,omitzero" is:"1..2" else:"1" doc:"Rows the pins of a proprietary plug stand in."`
}

// Inlet is a socket that takes power.
type Inlet struct {
	Name      string           `json:"name" doc:"The inlet's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" doc:"Its connector."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" doc:"What the part itself states for it, A."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"12 on a dock" doc:"The voltage it takes, where its kind does not fix it, V."`
	Barrel    Fact[Barrel]     `json:"barrel_mm,omitzero" doc:"Size of a barrel plug, outside by inside."`
	Negative  Fact[bool]       `json:"centre_negative,omitzero" else:"no" doc:"Its centre contact is ground."`
	Pins      []Pin            `json:"pins,omitzero" doc:"What the pins of a proprietary plug carry, pin 1 first. Left out: not known."`
	PinRows   Fact[int]        `json:"pin_rows,omitzero" is:"1..2" else:"1" doc:"Rows the pins of a proprietary plug stand in."`
}

// Lead is a power lead: a plain one, an adapter, a splitter or a chain.
type Lead struct {
	Name   string                 `json:"name" doc:"The lead's name."`
	From   []LeadEnd              `json:"from,omitzero" doc:"Its ends at the sources."`
	To     []LeadEnd              `json:"to,omitzero" doc:"Its ends at the loads."`
	Gauge  Fact[int]              `json:"gauge_awg,omitzero" is:"10..30" doc:"Its wires' gauge, AWG."`
	Length Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..5000" doc:"Its length, mm."`
	Wires  []Conductor            `json:"wires,omitzero" doc:"Which pin each wire joins with which, on a lead made by oneself. Left out: as its maker wired it."`
	Fuse   Fact[units.Amp]        `json:"fuse_a,omitzero" is:"0..200" doc:"The fuse in its supply wires, at the source, A."`
	Ticked []string               `json:"meter_ticked,omitzero" doc:"Lines of its meter list that were measured and right."`
	Price
}

// Conductor is one wire of a lead: it joins a pin of a source end with a pin of a load end.
type Conductor struct {
	FromEnd int       `json:"from_end" is:"1..64" doc:"The source end, from 1."`
	FromPin int       `json:"from_pin" is:"1..40" doc:"Its pin, from 1."`
	ToEnd   int       `json:"to_end" is:"1..64" doc:"The load end, from 1."`
	ToPin   int       `json:"to_pin" is:"1..40" doc:"Its pin, from 1."`
	Gauge   Fact[int] `json:"gauge_awg,omitzero" is:"10..30" else:"the lead's" doc:"Its gauge, AWG."`
}

// Pin is what one pin of a proprietary plug carries.
type Pin struct {
	Carries Fact[Plane]      `json:"carries,omitzero" doc:"What it carries, by the label or a meter."`
	Reads   Fact[units.Volt] `json:"reads_v,omitzero" is:"-60..60" doc:"What a meter shows on it against ground, V; for a supply pin its voltage."`
}

// LeadEnd is one end of a lead: what it is plugged into, and its own connector.
type LeadEnd struct {
	Part      string          `json:"part,omitzero" doc:"From: a supply, a stage with outlets or another lead. To: card, host or a stage with inlets; left out for a free end."`
	At        string          `json:"at,omitzero" doc:"The outlet, inlet or plug there; for a free end its own name."`
	Connector Fact[Connector] `json:"connector,omitzero" else:"what it is plugged into" doc:"The connector on the lead."`
	Current   Fact[units.Amp] `json:"current_a,omitzero" is:"0..200" doc:"What its own plug states, A."`
	Pins      []Pin           `json:"pins,omitzero" else:"what it is plugged into" doc:"What the pins of a proprietary plug carry, pin 1 first."`
}

// CardPart and HostPart are the parts a lead may end at besides stages.
const (
	CardPart = "card"
	HostPart = "host"
)

// Chamber is the room the card stands in. Its x runs from the bracket's wall
// into the case, y from the slot's mouth upward, z along the row of slots.
type Chamber struct {
	Name    string     `json:"name,omitzero" doc:"The chamber's name."`
	Open    bool       `json:"open,omitzero" doc:"The card stands in the open: nothing to meet."`
	Box     Extent     `json:"box,omitzero" doc:"Inner size."`
	CardAt  Place      `json:"card_at,omitzero" doc:"Corner of the card nearest the origin: its bracket, slot and board side."`
	Axes    Fact[Axes] `json:"card_axes,omitzero" else:"xyz" doc:"Axes along which the card's length, height and thickness lie."`
	Opening Opening    `json:"opening,omitzero" doc:"The opening for the bracket."`
	Things  []Thing    `json:"things,omitzero" doc:"What is in it, as boxes."`
	Covers  []Cover    `json:"covers,omitzero" doc:"Lids and swing-out parts, as boxes where they are when closed."`
}

// Place is a point of the chamber.
type Place struct {
	X Fact[units.Millimetre] `json:"x_mm,omitzero" is:"-2000..2000" doc:"Along x, mm."`
	Y Fact[units.Millimetre] `json:"y_mm,omitzero" is:"-2000..2000" doc:"Along y, mm."`
	Z Fact[units.Millimetre] `json:"z_mm,omitzero" is:"-2000..2000" doc:"Along z, mm."`
}

// Extent is the size of a box along the chamber's axes.
type Extent struct {
	X Fact[units.Millimetre] `json:"x_mm,omitzero" is:"0..3000" doc:"Along x, mm."`
	Y Fact[units.Millimetre] `json:"y_mm,omitzero" is:"0..3000" doc:"Along y, mm."`
	Z Fact[units.Millimetre] `json:"z_mm,omitzero" is:"0..3000" doc:"Along z, mm."`
}

// Opening is the opening of the chamber for a card's bracket.
type Opening struct {
	Height Fact[Height] `json:"height,omitzero" doc:"The bracket it takes; none for no opening."`
	Slots  Fact[int]    `json:"slots,omitzero" is:"0..8" doc:"Slots in the row that are free for it."`
}

// Thing is a box in the chamber.
type Thing struct {
	Name  string `json:"name" doc:"The thing's name."`
	At    Place  `json:"at,omitzero" doc:"Its corner nearest the origin."`
	Size  Extent `json:"size,omitzero" doc:"Its size."`
	Holds bool   `json:"holds_card,omitzero" doc:"The card is plugged into it or screwed to it: touching is meant."`
}

// Cover is a lid or a part that swings out.
type Cover struct {
	Name string          `json:"name" doc:"The cover's name."`
	Kind Fact[CoverKind] `json:"kind,omitzero" doc:"How it moves."`
	At   Place           `json:"at,omitzero" doc:"Its corner nearest the origin when closed."`
	Size Extent          `json:"size,omitzero" doc:"Its size."`
}

// Alteration is something the plan cuts, drills or breaks.
type Alteration struct {
	Name      string        `json:"name" doc:"What is done."`
	Touches   Fact[Touches] `json:"touches,omitzero" doc:"What it is done to."`
	Permanent Fact[bool]    `json:"permanent,omitzero" else:"yes" doc:"It cannot be undone."`
}

// Acknowledgement is a person's answer to a finding.
type Acknowledgement struct {
	Rule   string `json:"rule" doc:"The rule's name."`
	Where  string `json:"where" doc:"The finding's place, as a JSON Pointer."`
	Reason string `json:"reason" doc:"Why the person goes on."`
}

// New is an empty rig of that name.
func New(name string) *Rig { return &Rig{Format: Format, Name: name} }
