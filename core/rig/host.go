package rig

import "kolvan/core/units"

// Host is the computer.
type Host struct {
	Name     string                 `json:"name,omitzero" name:"name" doc:"What the host is called."`
	Kind     Fact[HostKind]         `json:"kind,omitzero" name:"sort of host" doc:"The sort of host."`
	Proc     Processor              `json:"processor,omitzero" name:"processor" doc:"The processor fitted."`
	Memory   Fact[units.Gibibyte]   `json:"memory_gib,omitzero" is:"0..4096" name:"main memory" doc:"Main memory, GiB."`
	Battery  Fact[Battery]          `json:"battery,omitzero" else:"one that unplugs in a notebook, none elsewhere" name:"its battery" doc:"How the battery hangs on the board."`
	Graphics Fact[Graphics]         `json:"graphics,omitzero" name:"own graphics" doc:"What the host draws with on its own."`
	System   Fact[string]           `json:"system,omitzero" name:"operating system" doc:"The operating system."`
	Locked   Fact[bool]             `json:"disk_encrypted,omitzero" else:"taken as yes" name:"its disk is encrypted" doc:"Encryption asks for its key when the firmware or the hardware changes."`
	Needs    Fact[units.GB]         `json:"system_needs_gb,omitzero" is:"0..1000000" name:"room the system needs" doc:"On the drive it starts from."`
	Panel    Fact[PanelState]       `json:"panel,omitzero" name:"own panel" doc:"Whether the host has a panel of its own, and whether it works."`
	Copies   Fact[bool]             `json:"copies_frames,omitzero" name:"driver copies frames back" doc:"The system's drivers copy the card's frames back to the host's own panel."`
	Cooler   Cooler                 `json:"cooler,omitzero" name:"its cooler" doc:"What cools its processor, or is to."`
	Headers  []Header               `json:"headers,omitzero" name:"headers for fans and lights" doc:"Of its board, each with what hangs on it. Left out: not looked at."`
	Firmware Firmware               `json:"firmware,omitzero" name:"firmware" doc:"What its firmware allows."`
	Uplink   Uplink                 `json:"uplink,omitzero" name:"the chipset's uplink" doc:"What all behind the chipset shares."`
	Listed   Listed                 `json:"listed,omitzero" name:"the seller's listing" doc:"What the seller said, beside what was found."`
	Checks   []Check                `json:"condition,omitzero" name:"condition" doc:"What to look at on a used machine."`
	Power    Fact[units.Watt]       `json:"power_w,omitzero" is:"0..5000" name:"draw under load" doc:"What the whole host draws without the card, at its own inlet."`
	Idle     Fact[units.Watt]       `json:"idle_w,omitzero" is:"0..5000" name:"draw with nothing to do" doc:"At its own inlet, without the card."`
	Noise    Fact[float64]          `json:"noise_db,omitzero" is:"0..150" else:"20 to 45 dB" name:"noise under load" doc:"At the seat, dB, without the card."`
	Inlets   []Inlet                `json:"inlets,omitzero" name:"power sockets" doc:"Each with its voltage. Left out: not looked at."`
	Outlets  []Outlet               `json:"outlets,omitzero" name:"plugs of its board that give power" doc:"Headers and plugs that could feed a dock or a fan, each with its voltage and what it gives. Left out: not looked at."`
	Bay      Fact[SupplyKind]       `json:"supply_bay,omitzero" name:"supply bay takes" doc:"The form of supply its bay is made for."`
	BayDepth Fact[units.Millimetre] `json:"supply_bay_depth_mm,omitzero" is:"0..500" when:"supply_bay=atx|sfx|sfx-l|tfx|flex|proprietary" name:"supply bay is deep" measure:"along-x" doc:"How deep a supply goes into its bay, with the room its plugs want."`
	Supply   string                 `json:"supply,omitzero" name:"own supply" doc:"The supply that feeds the host through leads of its own: a sealed brick, the built-in supply."`
	Drives   []Drive                `json:"drives,omitzero" name:"drives" doc:"Disks and modules that hold data."`
	Networks []Network              `json:"networks,omitzero" name:"networks" doc:"Ways onto the network."`
	Screens  []ScreenSocket         `json:"screens,omitzero" name:"video outputs" doc:"Sockets for a screen."`
	Openings []CaseOpening          `json:"openings,omitzero" name:"openings of its case" doc:"Where a socket could be set in: blind plates, knock-outs, unused cut-outs. Left out: not looked at."`
	Slots    []Slot                 `json:"slots,omitzero" name:"slots" doc:"Every slot a card or module could use."`
	Price
}

// Cooler is what cools the processor. A planned one is held against the board, the case and the
// card.
type Cooler struct {
	Name      string                 `json:"name,omitzero" name:"name" doc:"What it is called."`
	New       Fact[bool]             `json:"new,omitzero" else:"no" name:"it is put in for the card" doc:"It takes the place of the host's own."`
	Mounts    Fact[[]string]         `json:"mounts,omitzero" name:"mounts it goes on" doc:"By the names of the sockets, or the distance of its holes: 75 mm."`
	Height    Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..300" name:"height" measure:"along-y" doc:"Above the board."`
	Room      Fact[units.Millimetre] `json:"room_mm,omitzero" is:"0..500" name:"room above the board" measure:"along-y" doc:"From the board to the cover, or to what hangs over it."`
	Over      Fact[units.Millimetre] `json:"over_slot_mm,omitzero" is:"0..300" else:"not over it" name:"stands over the slot by" measure:"along-x" doc:"How far it reaches over the card's place."`
	BackPlate Fact[bool]             `json:"back_plate,omitzero" name:"wants a back plate" doc:"Behind the board; the board's own may be part of its case."`
	BoardOut  Fact[bool]             `json:"board_out,omitzero" name:"the board must come out" doc:"To reach its screws from behind."`
	Price
}

// Header is a plug of the board that a fan, a pump or lights hang on.
type Header struct {
	Name    string          `json:"name" name:"name" doc:"As it is marked on the board."`
	Current Fact[units.Amp] `json:"current_a,omitzero" is:"0..20" else:"1 A" name:"gives" doc:"By the host's papers."`
	Used    string          `json:"used_by,omitzero" name:"what hangs on it" doc:"Left out: nothing."`
}

// Firmware is what the host's firmware allows.
type Firmware struct {
	AllowList   Fact[bool]        `json:"allow_list,omitzero" name:"takes only its own wireless cards" doc:"It refuses to start with any other card in a wireless slot."`
	DiscreteOff Fact[bool]        `json:"discrete_off,omitzero" name:"its own card is switched off" doc:"The host's own discrete graphics are switched off in the firmware, or taken out."`
	LargeWindow Fact[bool]        `json:"large_addresses,omitzero" name:"large address decoding" doc:"It can place a card's memory window above 4 GiB."`
	DiskMode    Fact[DiskMode]    `json:"disk_mode,omitzero" name:"disk mode" doc:"Whether disks are bundled, which hides their slots from plain PCIe."`
	Starts      Fact[[]StartMode] `json:"start_modes,omitzero" name:"starts in" doc:"The modes it starts a system and a card's firmware in."`
}

// Uplink is the way from the chipset to the processor.
type Uplink struct {
	Lanes Fact[int] `json:"lanes,omitzero" is:"1|2|4|8|16" name:"lanes" doc:"Lanes between chipset and processor."`
	Gen   Fact[int] `json:"generation,omitzero" is:"1..6" name:"generation" doc:"The generation they run at."`
}

// Listed is what a seller said of the host.
type Listed struct {
	Processor Fact[string]         `json:"processor,omitzero" name:"processor, as listed" doc:"The processor's name in the listing."`
	Memory    Fact[units.Gibibyte] `json:"memory_gib,omitzero" is:"0..4096" name:"main memory, as listed" doc:"Main memory, GiB."`
	Drives    Fact[int]            `json:"drives,omitzero" is:"0..16" name:"drives, as listed" doc:"How many drives come with it."`
	Panel     Fact[PanelState]     `json:"panel,omitzero" name:"its panel, as listed" doc:"Of a host with a panel of its own."`
	Screens   Fact[int]            `json:"screens,omitzero" is:"0..16" name:"video outputs, as listed" doc:"How many sockets for a screen it has."`
	Works     Fact[bool]           `json:"works,omitzero" name:"said to work" doc:"The listing says that it works, or is without faults."`
	Supply    Fact[bool]           `json:"supply_in_box,omitzero" name:"its supply comes with it" doc:"As the listing says."`
	Parts     []string             `json:"parts_in_box,omitzero" name:"parts in the box" doc:"Caddies, screws, covers and what else the listing says comes with it."`
}

// Said reports that the listing is told of, with anything.
func (l *Listed) Said() bool {
	return l.Processor.Known || l.Memory.Known || l.Drives.Known || l.Panel.Known || l.Screens.Known || l.Works.Known || l.Supply.Known ||
		l.Parts != nil
}

// Check is one thing to look at on a used machine.
type Check struct {
	Name  string           `json:"name" name:"what to look at" doc:"A caddy, a hinge, a screw, a battery."`
	State Fact[CheckState] `json:"state,omitzero" name:"found" doc:"How it was found."`
}

// Processor is the host's processor.
type Processor struct {
	Name    string           `json:"name,omitzero" name:"processor" doc:"The processor's name."`
	Power   Fact[units.Watt] `json:"power_w,omitzero" is:"0..2000" name:"processor's nameplate power" doc:"Its nameplate power, W."`
	Mount   Fact[string]     `json:"mount,omitzero" name:"mount of its cooler" doc:"By the name of its socket, or the distance of its holes: 75 mm."`
	Slows   Fact[float64]    `json:"slows_at_c,omitzero" is:"40..130" else:"95 to 100 °C" name:"slows down at" doc:"°C, by its papers."`
	Altered Fact[bool]       `json:"altered,omitzero" name:"processor raised or swapped" doc:"Its limits were raised, or another one fitted than the host was made for."`
}

// Drive is one store of data.
type Drive struct {
	Name     string                        `json:"name" name:"name" doc:"The drive's name."`
	Boots    Fact[bool]                    `json:"boots,omitzero" name:"the host starts from it" doc:"The host starts its system from this drive, or could as it stands."`
	Capacity Fact[units.GB]                `json:"capacity_gb,omitzero" name:"capacity" doc:"What it holds, GB."`
	Reads    Fact[units.GigabytePerSecond] `json:"reads_gb_s,omitzero" name:"reads in sequence" doc:"What it reads in sequence, GB/s."`
	Speaks   Fact[Carried]                 `json:"speaks,omitzero" name:"speaks" doc:"Its protocol: pcie or sata."`
}

// Network is one way onto the network.
type Network struct {
	Name string      `json:"name" name:"name" doc:"The network's name."`
	Kind Fact[Radio] `json:"kind,omitzero" name:"wire or wireless" doc:"Wireless or wire."`
	Used Fact[bool]  `json:"used,omitzero" name:"relied on" doc:"It is, or can be, the one the rig relies on."`
}

// ScreenSocket is a socket of the host for a screen.
type ScreenSocket struct {
	Name string `json:"name" name:"name" doc:"As it is marked on the host."`
}

// Slot is one slot or port of the host that could carry lanes.
type Slot struct {
	Name       string                       `json:"name" name:"name" doc:"As printed on the board, if it is."`
	Form       Fact[Form]                   `json:"form,omitzero" name:"form" doc:"Its mechanical form."`
	Key        Fact[Key]                    `json:"key,omitzero" name:"key" when:"form=m2" doc:"Where the notch of an M.2 slot is."`
	Length     Fact[units.Millimetre]       `json:"length_mm,omitzero" is:"0..400" sold:"up 30..110" name:"longest module" when:"form=m2" measure:"module" doc:"To the last stand-off: M.2 30, 42, 60, 80 or 110."`
	StandOffs  Fact[[]StandOff]             `json:"stand_offs,omitzero" name:"stand-offs at" when:"form=m2" doc:"The lengths at which a stand-off is, or can be put."`
	Mechanical Fact[int]                    `json:"lanes_mechanical,omitzero" is:"1|2|4|8|16" name:"room for lanes" when:"form=card|oculink|sff-8654|sff-ta-1016" doc:"How many lanes its body has room for."`
	Lanes      Fact[int]                    `json:"lanes,omitzero" is:"0..16" sold:"up" name:"lanes wired" doc:"Lanes wired to it."`
	Gen        Fact[int]                    `json:"generation,omitzero" is:"1..6" sold:"up" name:"generation" doc:"PCIe generation with the processor fitted."`
	Carries    Fact[[]Carried]              `json:"carries,omitzero" name:"its contacts carry" doc:"What its contacts carry."`
	Behind     Fact[Behind]                 `json:"behind,omitzero" name:"lanes come from" doc:"The processor, or the chipset, whose uplink is shared."`
	OpenEnd    Fact[bool]                   `json:"open_end,omitzero" name:"open end" when:"form=card" doc:"A card slot whose end is open takes longer cards."`
	Opening    Fact[Height]                 `json:"opening,omitzero" name:"opening beside it" when:"form=card" doc:"The bracket that the opening beside it takes; none for no opening."`
	PowerLimit Fact[units.Watt]             `json:"power_limit_w,omitzero" is:"0..600" sold:"up 10..150" name:"gives a card at most" when:"form=card" doc:"What the host's papers let a card take from it."`
	TunnelRate Fact[units.GigabitPerSecond] `json:"tunnel_gbit_s,omitzero" is:"10|20|40|80" name:"class of the port" when:"form=tunnel" doc:"Class of a tunnelled port, Gb/s."`
	TunnelNew  Fact[bool]                   `json:"tunnel_newer,omitzero" name:"newer controller" when:"form=tunnel" doc:"A 40 Gb/s port on a newer controller leaves more for PCIe."`
	Bootable   Fact[bool]                   `json:"bootable,omitzero" name:"starts a system" doc:"The host can start a system from a drive here."`
	Occupant   Fact[string]                 `json:"occupant,omitzero" name:"what sits in it" doc:"The drive or network in it now; none when it is empty."`
	Fixed      Fact[Fixing]                 `json:"occupant_fixed,omitzero" name:"that is" doc:"How what sits in it is held."`
	Trace      Fact[units.Millimetre]       `json:"trace_mm,omitzero" is:"0..1000" else:"30 to 150 mm" name:"trace to the processor" measure:"trace" doc:"From processor or chipset to the slot, along the board."`
	Laminate   Fact[Laminate]               `json:"laminate,omitzero" else:"standard" name:"laminate of the board" doc:"What the board is made of, by its papers."`
	Splits     Fact[[]SplitKind]            `json:"can_split,omitzero" name:"firmware splits it into" when:"form=card" doc:"What its firmware offers; none where it offers none."`
	SplitSet   Fact[SplitKind]              `json:"split_set,omitzero" name:"split is set to" when:"form=card" doc:"In the firmware, as it stands or will stand."`
	Split      Fact[bool]                   `json:"split_4_4,omitzero" else:"no" name:"split into fours" when:"form=card|oculink|sff-8654|sff-ta-1016" doc:"The host splits its lanes four and four."`
	Shares     Fact[string]                 `json:"shares_lanes_with,omitzero" name:"shares its lanes with" doc:"Another slot or port that takes lanes of it when used; none for none."`
	Side       Fact[Side]                   `json:"side,omitzero" name:"where it is" doc:"On which side of the board."`
	BoardX     Fact[float64]                `json:"board_x,omitzero" is:"0..100" name:"across the board" doc:"From its left edge, in hundredths of its width."`
	BoardY     Fact[float64]                `json:"board_y,omitzero" is:"0..100" name:"down the board" doc:"From its upper edge, in hundredths of its depth."`
	Leaves     Fact[string]                 `json:"cable_leaves,omitzero" name:"a cable may leave" doc:"Which way, and through what."`
	SaidLanes  Fact[int]                    `json:"listed_lanes,omitzero" is:"0..16" name:"lanes, as listed" doc:"What the seller said."`
	SaidGen    Fact[int]                    `json:"listed_generation,omitzero" is:"1..6" name:"generation, as listed" doc:"What the seller said."`
}

// NoOccupant is the occupant of a slot known to be empty.
const NoOccupant = "none"
