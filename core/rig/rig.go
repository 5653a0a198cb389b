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
	Name         string            `json:"name" name:"name" doc:"What its people call the rig."`
	Tags         []string          `json:"tags,omitzero" name:"tags" doc:"Words to find it by on the bench."`
	Sizing       Sizing            `json:"sizing,omitzero" name:"how the supply is judged" doc:"How the supply is judged."`
	Brief        Brief             `json:"brief,omitzero" name:"what it is for" doc:"What the rig is for and what it may cost."`
	Host         Host              `json:"host,omitzero" name:"host" doc:"The computer the card is put on."`
	Route        Route             `json:"route,omitzero" name:"route" doc:"The way of the lanes from the host's slot to the card."`
	Card         Card              `json:"card,omitzero" name:"card" doc:"The graphics card."`
	Supplies     []Supply          `json:"supplies,omitzero" name:"supplies" doc:"Every supply, the host's own among them. Left out: not known."`
	Leads        []Lead            `json:"leads,omitzero" name:"leads" doc:"Every power lead. Left out: not known."`
	Chamber      Chamber           `json:"chamber,omitzero" name:"room for the card" doc:"The case, or the room the card stands in."`
	Alterations  []Alteration      `json:"alterations,omitzero" name:"alterations" doc:"What the plan cuts, drills or breaks."`
	Build        Build             `json:"build,omitzero" name:"the build" doc:"How the build goes: what is at hand, done and tried."`
	Runs         []Run             `json:"runs,omitzero" name:"runs" doc:"What was measured: before the card, with it, and elsewhere."`
	LoadReadings []LoadReading     `json:"load_readings,omitzero" name:"readings under load" doc:"What was read beside the link: copy rates, the card's board power, the heat of plugs."`
	Ledger       Ledger            `json:"ledger,omitzero" name:"ledger" doc:"What it cost, and what it is held against."`
	Diary        []DiaryLine       `json:"diary,omitzero" name:"diary" doc:"What happened, day by day, once it is in use."`
	Tried        []TriedHost       `json:"tried_hosts,omitzero" name:"hosts tried with it" doc:"Other hosts tried with the same parts, each with its outcome; the one that works becomes the plan."`
	Known        []Known           `json:"known,omitzero" name:"known on this host" doc:"What was seen to work, or to fail, on this host or one like it."`
	PutAside     []string          `json:"put_aside,omitzero" set:"never" name:"put aside" doc:"Missing facts that nobody knows: places in this file that are not asked for again until they are told."`
	Acknowledged []Acknowledgement `json:"acknowledged,omitzero" name:"acknowledged" doc:"Findings somebody has read and answered for."`
}

// TriedHost is a host that was tried with the parts of the plan, or is to be.
type TriedHost struct {
	Host    Host          `json:"host" name:"host" doc:"The host, as it was told."`
	Outcome Fact[TriedAs] `json:"outcome,omitzero" name:"how it came out" doc:"It works, works within limits, or refuses."`
	Why     string        `json:"why,omitzero" name:"since" doc:"What decided it, in plain words."`
	When    string        `json:"when,omitzero" name:"when" doc:"RFC 3339."`
}

// Known is what somebody saw of a part on this host, or on one like it. Several may stand
// beside each other and disagree.
type Known struct {
	Of       string       `json:"of,omitzero" name:"what was seen" doc:"The card, or a stage of the route; left out: a card joined this way."`
	Host     string       `json:"host,omitzero" name:"on the host" doc:"In plain words where it was one like this; left out: this very one."`
	Works    Fact[bool]   `json:"works,omitzero" name:"it worked" doc:"It worked, or it failed."`
	By       Fact[SeenBy] `json:"seen_by,omitzero" else:"another" name:"seen by" doc:"Oneself, another, or papers."`
	Firmware string       `json:"firmware,omitzero" name:"with firmware" doc:"The host's, by its version."`
	Driver   string       `json:"driver,omitzero" name:"with driver" doc:"The card's, by its version."`
	System   string       `json:"system,omitzero" name:"on system" doc:"The operating system."`
	When     string       `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	Remark   string       `json:"remark,omitzero" name:"remark" doc:"How it showed, in plain words."`
}

// Sizing is the policy by which supplies are judged.
type Sizing struct {
	Policy Fact[SizingPolicy] `json:"policy,omitzero" else:"spikes" name:"the supply is judged for" doc:"Its full rating; a share of it, sustained; or the share and the card's millisecond spikes."`
	Share  Fact[units.Share]  `json:"share,omitzero" is:"0.1..1" else:"80 %" name:"sustained, at most" doc:"The share of its rating that sustained load may reach."`
	Order  Fact[SwitchOn]     `json:"switch_on,omitzero" name:"switched on first" doc:"Which side a person means to switch on first."`
}

// Brief is what the rig is for.
type Brief struct {
	Works     []Work            `json:"works,omitzero" name:"uses" doc:"What the rig is for."`
	Budget    Fact[units.Money] `json:"budget,omitzero" name:"budget" doc:"What the parts still to buy may cost."`
	Energy    Fact[units.Money] `json:"energy_price_kwh,omitzero" name:"price of a kilowatt-hour" doc:"For what an hour of work costs at the wall."`
	Currency  string            `json:"currency,omitzero" name:"currency" doc:"The currency of every price, as it should be printed."`
	Stance    Fact[Stance]      `json:"stance,omitzero" name:"what may be altered" doc:"How far the plan may cut, drill or break what cannot be put back."`
	CoversOff []string          `json:"covers_off,omitzero" name:"covers that may stay off" doc:"Names of the case's covers that may stay off."`
	Travel    Travel            `json:"travel,omitzero" name:"when it travels" doc:"For a rig that is packed and carried."`
	Screen    Screen            `json:"screen,omitzero" name:"screen" doc:"Where the picture is wanted."`
	Living    Living            `json:"living,omitzero" name:"living with it" doc:"Where it will stand, and with whom."`
}

// Travel is how a rig is packed and carried.
type Travel struct {
	Length  Fact[units.Millimetre] `json:"bag_length_mm,omitzero" is:"0..3000" name:"bag, length inside" measure:"along-x" doc:"Of the bag or case it travels in."`
	Width   Fact[units.Millimetre] `json:"bag_width_mm,omitzero" is:"0..3000" name:"bag, width inside" measure:"along-z" doc:"Of the bag or case it travels in."`
	Depth   Fact[units.Millimetre] `json:"bag_depth_mm,omitzero" is:"0..3000" name:"bag, depth inside" measure:"along-y" doc:"Of the bag or case it travels in."`
	Carries Fact[units.Gram]       `json:"carries_g,omitzero" is:"0..100000" name:"may weigh, at most" doc:"What somebody is ready to carry."`
	Minutes Fact[float64]          `json:"set_up_min,omitzero" is:"0..1000" name:"minutes to set it up" doc:"From the closed bag to the picture, as timed."`
	Pieces  []Piece                `json:"pieces,omitzero" name:"pieces it is packed in" doc:"Host, dock with card, supply, cables: as they lie in the bag."`
}

// Piece is one piece of a rig that travels, as it is packed.
type Piece struct {
	Name   string                 `json:"name" name:"name" doc:"The piece's name."`
	Length Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..3000" name:"length" measure:"along-x" doc:"As it is packed."`
	Width  Fact[units.Millimetre] `json:"width_mm,omitzero" is:"0..3000" name:"width" measure:"along-z" doc:"As it is packed."`
	Depth  Fact[units.Millimetre] `json:"depth_mm,omitzero" is:"0..3000" name:"depth" measure:"along-y" doc:"As it is packed."`
	Mass   Fact[units.Gram]       `json:"mass_g,omitzero" is:"0..100000" name:"mass" doc:"On a kitchen scale."`
}

// Work is one thing the rig must do.
type Work struct {
	Name       string               `json:"name" name:"use" doc:"What it is for, in a few words."`
	Kind       Fact[UseKind]        `json:"kind,omitzero" name:"sort of use" doc:"By what it moves over the link: a frame, an item, or a job at a time."`
	Often      string               `json:"often,omitzero" name:"how often" doc:"How often it is done."`
	Memory     Fact[units.Gibibyte] `json:"memory_gib,omitzero" is:"0..4096" name:"card memory it needs" doc:"Graphics memory this use needs."`
	Encoder    Fact[string]         `json:"encoder,omitzero" else:"none" name:"encoder it needs" doc:"Hardware encoder this use needs: h264, hevc, av1, any, or none."`
	FrameMB    Fact[float64]        `json:"frame_mb,omitzero" is:"0..10000" else:"2 to 15 MB" name:"moves for each frame" doc:"What crosses the link for a frame, MB."`
	CardHz     Fact[float64]        `json:"card_hz,omitzero" is:"0.01..10000" name:"the card's own rate for it" doc:"As found elsewhere, in a wide slot: with its source and how far it goes."`
	ProcHz     Fact[float64]        `json:"processor_hz,omitzero" is:"0.01..10000" else:"30 Hz or more" name:"the processor alone could feed" doc:"The rate at a resolution so low that the card does not count."`
	TodayHz    Fact[float64]        `json:"today_hz,omitzero" is:"0.01..10000" name:"the host's rate today" doc:"Before the card."`
	EnoughHz   Fact[float64]        `json:"enough_hz,omitzero" is:"0.01..10000" name:"enough is" doc:"The rate at which it is good enough."`
	EnoughLow  Fact[float64]        `json:"enough_low1_hz,omitzero" is:"0.01..10000" name:"and its worst 1 % is" doc:"By the 99th percentile of the frame times."`
	EnoughWide Fact[int]            `json:"enough_width_px,omitzero" is:"1..32768" name:"at pixels across" doc:"The resolution at which that is to be; left out: at any."`
	EnoughHigh Fact[int]            `json:"enough_height_px,omitzero" is:"1..32768" name:"at pixels down" doc:"The resolution at which that is to be; left out: at any."`
	EnoughS    Fact[float64]        `json:"enough_s,omitzero" is:"0.01..10000000" name:"or it is done in" doc:"Seconds, for work that ends."`
	Fills      Fact[bool]           `json:"fills_card_once,omitzero" else:"no" name:"fills the card once, then computes" doc:"A model or a scene is loaded and stays in the card's memory."`
	Stream     Fact[bool]           `json:"streams,omitzero" else:"no" name:"encodes a stream" doc:"The frames stay on the card and leave it encoded."`
	Storage    Fact[units.GB]       `json:"storage_gb,omitzero" is:"0..1000000" name:"room it needs on a drive" doc:"What this use keeps beside the system."`
	On         string               `json:"on,omitzero" name:"kept on" doc:"The drive this use keeps its data on."`
	Refuses    Fact[[]Refusal]      `json:"refuses,omitzero" name:"it rejects" doc:"What this use, or its protection against copying, will not run with; none where it was asked."`
}

// FillsOnce reports a use that fills the card once and then computes: as told, else by its
// sort.
func (w *Work) FillsOnce() bool {
	return Is(w.Fills, true) || !w.Fills.Known && (Is(w.Kind, UseRender) || Is(w.Kind, UseModel))
}

// Encodes reports a use whose frames leave the card as an encoded stream: as told, else by
// its sort.
func (w *Work) Encodes() bool {
	return Is(w.Stream, true) || !w.Stream.Known && Is(w.Kind, UseEncode)
}

// Screen is the wanted screen.
type Screen struct {
	Kind   Fact[ScreenKind] `json:"kind,omitzero" name:"screen" doc:"The host's own panel, an external screen, a panel fed through its own video input, or none."`
	Width  Fact[int]        `json:"width_px,omitzero" is:"1..32768" name:"pixels across" when:"kind=own-panel" doc:"Pixels across."`
	Height Fact[int]        `json:"height_px,omitzero" is:"1..32768" name:"pixels down" when:"kind=own-panel" doc:"Pixels down."`
	Rate   Fact[float64]    `json:"rate_hz,omitzero" is:"1..1000" name:"refresh rate" when:"kind=own-panel" doc:"Refresh rate, Hz."`
	Fed    Fact[string]     `json:"fed_by,omitzero" name:"fed by" doc:"The video output or cable that feeds the screen."`
	Inputs Fact[[]string]   `json:"inputs,omitzero" name:"its sockets" doc:"Sockets of the screen, in the words of the card's outputs."`
	Adapts Fact[bool]       `json:"adapter,omitzero" name:"with an adapter" doc:"An adapter between the output and the screen's socket is planned."`
}

// Price is what a part costs and whether it must still be bought.
type Price struct {
	Amount Fact[units.Money] `json:"price,omitzero" name:"price" doc:"In the currency of the brief."`
	Owned  Fact[bool]        `json:"owned,omitzero" name:"owned" doc:"Already here; counts as to buy until known."`
}

// Costs is the price, and whether it was told.
func (p *Price) Costs() (units.Money, bool) { return p.Amount.Get() }

// Own marks a thing as owned, unless something was said of that already.
func (p *Price) Own() {
	if !p.Owned.Known {
		p.Owned = Of(true)
	}
}

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
	Bay      Fact[SupplyKind]       `json:"supply_bay,omitzero" name:"supply bay takes" doc:"The form of supply its bay is made for."`
	BayDepth Fact[units.Millimetre] `json:"supply_bay_depth_mm,omitzero" is:"0..500" when:"supply_bay=atx|sfx|sfx-l|tfx|flex|proprietary" name:"supply bay is deep" measure:"along-x" doc:"How deep a supply goes into its bay, with the room its plugs want."`
	Supply   string                 `json:"supply,omitzero" name:"own supply" doc:"The supply that feeds the host through leads of its own: a sealed brick, the built-in supply."`
	Drives   []Drive                `json:"drives,omitzero" name:"drives" doc:"Disks and modules that hold data."`
	Networks []Network              `json:"networks,omitzero" name:"networks" doc:"Ways onto the network."`
	Screens  []ScreenSocket         `json:"screens,omitzero" name:"video outputs" doc:"Sockets for a screen."`
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
	Works     Fact[bool]           `json:"works,omitzero" name:"said to work" doc:"The listing says that it works, or is without faults."`
	Supply    Fact[bool]           `json:"supply_in_box,omitzero" name:"its supply comes with it" doc:"As the listing says."`
	Parts     []string             `json:"parts_in_box,omitzero" name:"parts in the box" doc:"Caddies, screws, covers and what else the listing says comes with it."`
}

// Said reports that the listing is told of, with anything.
func (l *Listed) Said() bool {
	return l.Processor.Known || l.Memory.Known || l.Drives.Known || l.Works.Known || l.Supply.Known || l.Parts != nil
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
	Length     Fact[units.Millimetre]       `json:"length_mm,omitzero" is:"0..400" name:"longest module" when:"form=m2" measure:"module" doc:"To the last stand-off: M.2 30, 42, 60, 80 or 110."`
	StandOffs  Fact[[]StandOff]             `json:"stand_offs,omitzero" name:"stand-offs at" when:"form=m2" doc:"The lengths at which a stand-off is, or can be put."`
	Mechanical Fact[int]                    `json:"lanes_mechanical,omitzero" is:"1|2|4|8|16" name:"room for lanes" when:"form=card|oculink|sff-8654|sff-ta-1016" doc:"How many lanes its body has room for."`
	Lanes      Fact[int]                    `json:"lanes,omitzero" is:"0..16" name:"lanes wired" doc:"Lanes wired to it."`
	Gen        Fact[int]                    `json:"generation,omitzero" is:"1..6" name:"generation" doc:"PCIe generation with the processor fitted."`
	Carries    Fact[[]Carried]              `json:"carries,omitzero" name:"its contacts carry" doc:"What its contacts carry."`
	Behind     Fact[Behind]                 `json:"behind,omitzero" name:"lanes come from" doc:"The processor, or the chipset, whose uplink is shared."`
	OpenEnd    Fact[bool]                   `json:"open_end,omitzero" name:"open end" when:"form=card" doc:"A card slot whose end is open takes longer cards."`
	Opening    Fact[Height]                 `json:"opening,omitzero" name:"opening beside it" when:"form=card" doc:"The bracket that the opening beside it takes; none for no opening."`
	PowerLimit Fact[units.Watt]             `json:"power_limit_w,omitzero" is:"0..600" name:"gives a card at most" when:"form=card" doc:"What the host's papers let a card take from it."`
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

// Route is the way of the lanes.
type Route struct {
	Slot       string      `json:"slot,omitzero" name:"starts from slot" doc:"The slot of the host that the card is joined to."`
	Stages     []Stage     `json:"stages,omitzero" name:"stages" doc:"What stands between slot and card, in order."`
	ForcedGen  Fact[int]   `json:"forced_generation,omitzero" is:"1..6" else:"not forced" name:"generation forced" doc:"In the firmware."`
	Payload    Fact[int]   `json:"payload_bytes,omitzero" is:"128|256|512" else:"128" name:"packet payload" doc:"Largest payload of a packet."`
	Modified   Fact[bool]  `json:"modified_firmware,omitzero" else:"no" name:"needs modified firmware" doc:"The route works only with a host firmware that somebody has changed."`
	Tried      []Tried     `json:"tried,omitzero" name:"speeds tried" doc:"How this very route behaved at a speed."`
	Readings   []Reading   `json:"readings,omitzero" name:"readings of the link" doc:"What the system read of the link."`
	SideBySide Fact[int]   `json:"side_by_side,omitzero" is:"1..4" else:"1" name:"cables side by side as one link" doc:"Said once for adapters and cables of the route, where a part does not tell its own."`
	Displaced  []Displaced `json:"displaced,omitzero" name:"what has to move" doc:"Where the occupants that must leave go."`
}

// Corner is a point of a cable's way, along the axes of the case.
type Corner struct{ Place }

// Shell is the outline of a connector as it passes an opening.
type Shell struct {
	Width  Fact[units.Millimetre] `json:"width_mm,omitzero" is:"0..200" name:"width" measure:"shell-width" doc:"Over its widest part."`
	Height Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..200" name:"height" measure:"shell-height" doc:"Over its latch."`
}

// Mouth is where a cable comes out of one of its plugs.
type Mouth struct {
	Wall  Fact[units.Millimetre] `json:"wall_mm,omitzero" is:"0..3000" else:"by its way" name:"to the wall ahead" measure:"wall-ahead" doc:"Straight on from where the cable leaves the plug, to what it turns before."`
	Faces Fact[Facing]           `json:"faces,omitzero" else:"as its way begins" name:"plug faces" doc:"Which way the cable leaves it when nothing pulls."`
}

// Layer is one thing with an opening that a cable passes.
type Layer struct {
	Name   string                 `json:"name" name:"name" doc:"The layer's name."`
	Width  Fact[units.Millimetre] `json:"width_mm,omitzero" is:"0..500" name:"opening, width" measure:"opening-width" doc:"Of its opening."`
	Height Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..500" name:"opening, height" measure:"opening-height" doc:"Of its opening."`
}

// Tried is how the route behaved at one speed.
type Tried struct {
	Gen    Fact[int]  `json:"generation,omitzero" is:"1..6" name:"generation" doc:"The generation it ran at."`
	Stable Fact[bool] `json:"stable,omitzero" name:"stable" doc:"It ran under load without errors or resets."`
}

// Reading is one reading of the link.
type Reading struct {
	Width   Fact[int]          `json:"width,omitzero" is:"0..16" name:"lanes" doc:"The width in force."`
	Gen     Fact[int]          `json:"generation,omitzero" is:"1..6" name:"generation" doc:"The speed in force."`
	MostW   Fact[int]          `json:"largest_width,omitzero" is:"0..16" name:"lanes, largest possible" doc:"What both ends could do, as they say."`
	MostG   Fact[int]          `json:"largest_generation,omitzero" is:"1..6" name:"generation, largest possible" doc:"What both ends could do, as they say."`
	Load    Fact[LoadState]    `json:"load,omitzero" name:"taken" doc:"Under load or at idle; at idle a link may rest at a lower speed."`
	Errors  Fact[int]          `json:"errors,omitzero" is:"0..1000000000" name:"correctable errors" doc:"Counted at both ends over the time below."`
	Seconds Fact[units.Second] `json:"seconds,omitzero" is:"0..100000000" name:"over" doc:"For how long errors were counted, under load."`
	Tool    string             `json:"tool,omitzero" name:"read with" doc:"What showed it."`
	When    string             `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	By      string             `json:"by,omitzero" name:"by" doc:"Who read it."`
}

// Displaced is the new home of an occupant that had to leave its slot.
type Displaced struct {
	Occupant string                        `json:"occupant" name:"what leaves" doc:"The drive or network that leaves."`
	Home     Fact[Home]                    `json:"home,omitzero" name:"new place" doc:"What it goes to."`
	Slot     string                        `json:"slot,omitzero" name:"in slot" when:"home=slot" doc:"The slot of the host that is its new place."`
	Bootable Fact[bool]                    `json:"bootable,omitzero" name:"starts there" when:"home=slot|sata-bay|usb" doc:"The host can start from it there."`
	Proven   Fact[bool]                    `json:"proven,omitzero" name:"seen to start there" when:"home=slot|sata-bay|usb|memory-card" doc:"It was seen to start on the very port it will use, before the old drive was pulled."`
	Adapter  string                        `json:"adapter,omitzero" name:"through adapter" when:"home=slot" doc:"The adapter that lets a drive into a card slot."`
	Reads    Fact[units.GigabytePerSecond] `json:"reads_gb_s,omitzero" name:"reads there" when:"home=slot|sata-bay|usb|memory-card" doc:"What can be read in its new place, in sequence."`
	Capacity Fact[units.GB]                `json:"capacity_gb,omitzero" else:"as before" name:"holds there" when:"home=slot|sata-bay|usb|memory-card" doc:"What its stand-in holds, where the drive itself does not move."`
	USB      Fact[units.GigabitPerSecond]  `json:"usb_gbit_s,omitzero" is:"0.48|5|10|20|40" name:"class of the USB port" when:"home=usb" doc:"Class of the port its enclosure is plugged into, Gb/s."`
	Method   Fact[Carryover]               `json:"carried_over,omitzero" name:"the system is" when:"home=slot|sata-bay|usb|memory-card" doc:"How the system gets to its new place: cloned, copied, on the drive itself, or installed afresh."`
	Enclosed Extra                         `json:"enclosure,omitzero" name:"its enclosure" doc:"What it costs, where a drive stands in one, or is written through one; unless told, as such enclosures cost."`
	Stick    Extra                         `json:"stick,omitzero" name:"the stick with the installer" when:"carried_over=installed" doc:"What it costs; unless told, as such sticks cost."`
	Fed      Fact[PartFeed]                `json:"fed_by,omitzero" name:"fed by" when:"home=sata-bay" doc:"What gives the drive its power in the bay."`
	Held     Held                          `json:"held,omitzero" name:"how it is held" doc:"Where it is not screwed down as it was made to be."`
	Caddy    Fact[bool]                    `json:"caddy,omitzero" else:"as the host's condition says" name:"a caddy for it is there" when:"home=sata-bay" doc:"The frame, with its screws, that holds a drive in its bay."`
}

// Extra is a thing that a move needs beside the parts: its price says what it costs, and
// whether it lies there already.
type Extra struct{ Price }

// NeedsEnclosure reports a drive that stands in an enclosure, or is written through one.
func (d *Displaced) NeedsEnclosure() bool {
	return Is(d.Home, HomeUSB) || Is(d.Method, Cloned) || Is(d.Method, Copied)
}

// NeedsStick reports a system that is installed afresh and was not yet.
func (d *Displaced) NeedsStick() bool { return Is(d.Method, Installed) && !Is(d.Proven, true) }

// Stage is one adapter, cable, dock or riser of the route.
type Stage struct {
	Name      string                 `json:"name" name:"name" doc:"The stage's name."`
	Kind      Fact[StageKind]        `json:"kind,omitzero" name:"kind" doc:"Adapter, cable, dock or riser."`
	Lanes     Fact[int]              `json:"lanes,omitzero" is:"0..16" name:"lanes wired" doc:"Lanes wired through it."`
	Gen       Fact[int]              `json:"generation,omitzero" is:"1..6" name:"generation" doc:"The fastest it is made for."`
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..5000" name:"length along the lanes" measure:"cable" doc:"Its length along the lanes, mm."`
	Line      Fact[Line]             `json:"line,omitzero" else:"by its kind" name:"made of" doc:"What its lanes run in, by its papers."`
	Diameter  Fact[units.Millimetre] `json:"thickness_mm,omitzero" is:"0..40" name:"thickness" when:"kind=cable" measure:"thickness" doc:"Of the cable, or of one of its round wires."`
	Shell     Shell                  `json:"shell,omitzero" name:"connector shell" when:"kind=cable" doc:"The shell that has to pass the openings on its way."`
	Path      []Corner               `json:"path,omitzero" name:"way of the cable" when:"kind=cable" doc:"Where it runs, from plug to plug: its ends and every corner, in order."`
	Exit      Fact[Exit]             `json:"exit,omitzero" else:"not judged" name:"leaves the host by" when:"kind=cable" doc:"How it gets from the slot to the outside."`
	Free      Fact[units.Millimetre] `json:"hangs_free_mm,omitzero" is:"0..5000" else:"not judged" name:"hangs free for" when:"kind=cable" measure:"hangs-free" doc:"From its connector to where it is first held."`
	Twist     Fact[units.Degree]     `json:"twisted_deg,omitzero" is:"-3600..3600" else:"none" name:"twisted by" when:"kind=cable" doc:"About itself, from end to end."`
	AtPlug    Mouth                  `json:"at_plug,omitzero" name:"behind its plug" when:"kind=cable" doc:"The end toward the host."`
	AtSocket  Mouth                  `json:"at_socket,omitzero" name:"behind its far end" when:"kind=cable" doc:"The end toward the card."`
	Openings  []Layer                `json:"openings,omitzero" name:"openings on its way" when:"kind=cable" doc:"What its connector has to pass: cover, shield, frame, each its own."`
	Ohm       Fact[int]              `json:"impedance_ohm,omitzero" is:"85|100" else:"85" name:"impedance" when:"kind=cable" doc:"Of its pairs; a 100 Ω cable in an 85 Ω channel loses more."`
	Soldered  Fact[Soldered]         `json:"soldered,omitzero" else:"none" name:"soldered at" when:"kind=cable|riser" doc:"Ends that are soldered on in place of a plug."`
	Repeats   Fact[Repeater]         `json:"repeats,omitzero" else:"none" name:"repeats the signal" doc:"A redriver gives back some of what was lost; a retimer begins anew."`
	Needs     Fact[SplitKind]        `json:"needs_split,omitzero" else:"none" name:"needs the slot split" when:"kind=adapter|riser" doc:"Of a riser that parts a slot's lanes: without the firmware's setting it shows its first part only."`
	Takes     Fact[int]              `json:"takes_part,omitzero" is:"1..4" else:"the first" name:"the card is on its part" when:"kind=adapter|riser" doc:"Counted from the first."`
	Switches  Fact[bool]             `json:"packet_switch,omitzero" else:"no" name:"has a packet switch" when:"kind=adapter|riser|dock" doc:"It shares the rate of its own plug among its sockets, needs no split, and grows warm."`
	Parallel  Fact[int]              `json:"side_by_side,omitzero" is:"1..4" else:"1" name:"cables side by side" when:"kind=cable|adapter" doc:"How many of it are used in parallel."`
	Clock     Fact[bool]             `json:"carries_clock,omitzero" else:"yes" name:"carries the reference clock" doc:"Beside the lanes."`
	Reset     Fact[bool]             `json:"carries_reset,omitzero" else:"yes" name:"carries reset" doc:"Beside the lanes."`
	Clkreq    Fact[bool]             `json:"straps_clkreq,omitzero" else:"yes" name:"straps clock-request" doc:"It holds clock-request low, so that the host gives a clock."`
	Module    Fact[units.Millimetre] `json:"module_mm,omitzero" is:"0..200" name:"length of its M.2 module" when:"kind=adapter|cable" measure:"module" doc:"Which stand-off it needs: 30, 42, 60, 80 or 110."`
	MayCut    Fact[bool]             `json:"may_be_cut,omitzero" else:"no" name:"may be shortened" when:"kind=adapter|cable" doc:"Its maker lets the module be cut at a mark."`
	Bracket   Fact[Height]           `json:"bracket,omitzero" else:"none" name:"bracket fitted" when:"kind=adapter" doc:"Of an adapter that sits in a card slot."`
	Spare     Fact[Height]           `json:"bracket_spare,omitzero" else:"none" name:"second bracket in the box" when:"kind=adapter" doc:"Of an adapter that sits in a card slot."`
	MadeFor   Fact[[]string]         `json:"made_for,omitzero" name:"made for" doc:"The hosts it was made for, where it fits no other."`
	Worked    Fact[bool]             `json:"worked_elsewhere,omitzero" else:"not known" name:"worked in another rig" doc:"It was seen to work there, which lowers its suspicion."`
	Plug      Joint                  `json:"plug,omitzero" name:"plug" doc:"The end toward the host."`
	Socket    Joint                  `json:"socket,omitzero" name:"socket" doc:"The end toward the card."`
	Inlets    []Inlet                `json:"inlets,omitzero" name:"power inlets" doc:"Where it takes power for the card's slot. Left out: it has none, or nobody looked."`
	Outlets   []Outlet               `json:"outlets,omitzero" name:"power outlets" doc:"Where it passes power on to the card, on one plane with its inlets."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..200" else:"0" name:"own draw" when:"kind=dock|riser" doc:"What it takes for itself from its inlets."`
	Passes3V3 Fact[bool]             `json:"passes_3v3,omitzero" else:"no" name:"takes its 3.3 V through its edge" when:"kind=riser|dock|adapter" doc:"Its 12 V comes from a plug, its 3.3 V from the card slot that it stands in."`
	Passes    Fact[bool]             `json:"passes_power,omitzero" name:"passes the slot's power on" when:"kind=riser|dock" doc:"A powered riser in a card slot also passes that slot's own power on."`
	SlotLimit Fact[units.Watt]       `json:"slot_limit_w,omitzero" is:"0..600" name:"its slot gives at most" when:"kind=dock|riser" doc:"What it lets the card take from its slot."`
	Makes3V3  Fact[bool]             `json:"makes_3v3_from_12v,omitzero" name:"makes 3.3 V from 12 V" when:"kind=dock|riser" doc:"It makes the slot's 3.3 V itself, with a loss."`
	TurnsOn   Fact[bool]             `json:"turns_on,omitzero" name:"switches the supply on" when:"kind=dock|riser" doc:"It pulls the supply's turn-on contact (PS_ON) by itself."`
	Supply    string                 `json:"supply,omitzero" name:"supply built in" when:"kind=dock|riser" doc:"The supply built into it, which feeds it through leads of its own."`
	Lamp      Fact[bool]             `json:"lamp,omitzero" else:"yes" name:"has a lamp" when:"kind=dock" doc:"One that tells that it has power."`
	Holds     Fact[bool]             `json:"holds_reset,omitzero" else:"yes" name:"holds the card in reset" when:"kind=dock|riser" doc:"Until its own 12 V is good."`
	Price
}

// Joint is one end of a stage.
type Joint struct {
	Form    Fact[Form] `json:"form,omitzero" name:"form" doc:"Its mechanical form."`
	Key     Fact[Key]  `json:"key,omitzero" name:"key" when:"form=m2" doc:"Where the notch of an M.2 end is."`
	Lanes   Fact[int]  `json:"lanes,omitzero" is:"1|2|4|8|16" name:"room for lanes" when:"form=card|oculink|sff-8654|sff-ta-1016" doc:"How many lanes its body has room for."`
	OpenEnd Fact[bool] `json:"open_end,omitzero" name:"open end" when:"form=card" doc:"A card slot whose end is open takes longer cards."`
}

// Card is the graphics card.
type Card struct {
	Name      string                 `json:"name,omitzero" name:"name" doc:"The card's name."`
	Lanes     Fact[int]              `json:"lanes,omitzero" is:"1|2|4|8|16" name:"lanes" doc:"Lanes the card uses."`
	Form      Fact[Form]             `json:"form,omitzero" else:"a card slot's" name:"goes into a slot of the form" doc:"The form of its own edge: a card slot's, or a module's for the bay its maker made it for, an M.2 or mini PCIe slot."`
	Key       Fact[Key]              `json:"key,omitzero" name:"key" when:"form=m2" doc:"Where the notch of an M.2 module is."`
	Edge      Fact[int]              `json:"edge_lanes,omitzero" is:"1|2|4|8|16" name:"lanes its edge is long" doc:"Longer than its lanes on narrow cards."`
	TrainsX2  Fact[bool]             `json:"trains_x2,omitzero" name:"known to run on two lanes" doc:"It is known to train on two lanes."`
	Gen       Fact[int]              `json:"generation,omitzero" is:"1..6" name:"generation" doc:"PCIe generation."`
	Memory    Fact[units.Gibibyte]   `json:"memory_gib,omitzero" is:"0..4096" name:"memory" doc:"Its memory, GiB."`
	Encoders  Fact[[]string]         `json:"encoders,omitzero" name:"hardware encoders" doc:"Such as h264, hevc, av1; none where it has none."`
	Outputs   Fact[[]string]         `json:"outputs,omitzero" name:"video outputs" doc:"Its sockets for screens."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..2000" name:"board power" doc:"What its maker states, or what was measured."`
	Cap       Fact[units.Watt]       `json:"cap_w,omitzero" is:"1..2000" else:"none" name:"capped to" doc:"By software: it holds once the driver runs, not at the start, and shrinks spikes by half."`
	Idle      Fact[units.Watt]       `json:"idle_w,omitzero" is:"0..2000" name:"draw with nothing to do" doc:"What the card draws with nothing to do, W."`
	Slows     Fact[float64]          `json:"slows_at_c,omitzero" is:"40..130" else:"83 to 90 °C" name:"slows down at" doc:"Its core, °C, by its papers or its driver."`
	Stops     Fact[float64]          `json:"stops_at_c,omitzero" is:"40..130" else:"95 to 105 °C" name:"stops at" doc:"Its core, °C, by its papers or its driver."`
	MemoryC   Fact[float64]          `json:"memory_most_c,omitzero" is:"40..130" else:"95 to 105 °C" name:"its memory, at most" doc:"°C, by its papers."`
	SlotShare Fact[units.Watt]       `json:"slot_w,omitzero" is:"0..600" name:"measured at the slot" doc:"What it was measured to take through the slot."`
	Altered   Fact[bool]             `json:"altered,omitzero" name:"raised or altered" doc:"Its limits were raised, or parts changed."`
	BuiltIn   Fact[bool]             `json:"built_in,omitzero" else:"no" name:"built into a box" doc:"It came in a box, fed and fitted by the box's maker."`
	Window    Fact[units.Gibibyte]   `json:"window_gib,omitzero" is:"0..4096" else:"a quarter of a GiB, or as large as its memory" name:"memory window" doc:"The window it wants the host to open for its memory."`
	Starts    Fact[[]StartMode]      `json:"start_modes,omitzero" name:"its firmware starts in" doc:"The modes its own firmware has."`
	Drivers   []Driver               `json:"drivers,omitzero" name:"its drivers" doc:"Drivers that are there, or tried, each with its version."`
	Driver    Fact[DriverState]      `json:"driver,omitzero" name:"driver for this system" doc:"How it stands with a driver for this card on this system."`
	Plugs     []CardPlug             `json:"plugs,omitzero" name:"power plugs" doc:"Its power sockets; none where it has none, left out when not known."`
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..1000" name:"length" measure:"card-length" doc:"From the bracket's inner face to the far end of the cooler."`
	Height    Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..500" name:"height" measure:"card-height" doc:"From the slot's mouth to the highest point, cooler included."`
	Thickness Fact[units.Millimetre] `json:"thickness_mm,omitzero" is:"0..300" name:"thickness" measure:"card-thickness" doc:"Over board and cooler."`
	Back      Fact[units.Millimetre] `json:"backplate_mm,omitzero" is:"0..50" else:"nothing" name:"backplate stands out" measure:"backplate" doc:"Behind its board, on the side away from the cooler."`
	Centre    Fact[units.Millimetre] `json:"centre_mm,omitzero" is:"0..1000" else:"about its middle" name:"centre of mass" measure:"card-centre" doc:"From the bracket: where it lies level on an edge."`
	Mass      Fact[units.Gram]       `json:"mass_g,omitzero" is:"0..20000" name:"mass" doc:"Mass, g."`
	Noise     Fact[float64]          `json:"noise_db,omitzero" is:"0..150" else:"30 to 50 dB" name:"noise under load" doc:"At the seat, dB, by a test or its papers."`
	Intake    Fact[Intake]           `json:"intake,omitzero" else:"not judged" name:"its fans draw from" doc:"The side its fans draw air from."`
	Worked    Fact[bool]             `json:"worked_elsewhere,omitzero" else:"not known" name:"worked in another rig" doc:"It was seen to work there, which lowers its suspicion."`
	Bracket   Bracket                `json:"bracket,omitzero" name:"bracket" doc:"Its bracket."`
	Price
}

// Lasting is what the card draws under load for long: its board power, or less where it is
// capped.
func (c *Card) Lasting() Fact[units.Watt] {
	limit, told := c.Cap.Get()
	if power, known := c.Power.Get(); !told || known && power <= limit {
		return c.Power
	}
	return c.Cap
}

// Driver is a driver of the card, by its version.
type Driver struct {
	Version   string            `json:"version" name:"version" doc:"As the maker writes it."`
	State     Fact[DriverState] `json:"state,omitzero" name:"how it stands" doc:"With this card, on this system."`
	Installed Fact[bool]        `json:"installed,omitzero" name:"it is installed" doc:"On the system, now."`
	For       string            `json:"for,omitzero" name:"for" doc:"Another card of the same maker that it belongs to; left out: this one."`
}

// CardPlug is one power socket of the card.
type CardPlug struct {
	Name      string                 `json:"name" name:"name" doc:"The plug's name."`
	Connector Fact[Connector]        `json:"connector,omitzero" name:"connector" doc:"Its connector."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..2000" name:"measured draw" doc:"What it was measured to take."`
	Side      Fact[PlugSide]         `json:"side,omitzero" else:"not judged" name:"its lead leaves" doc:"Where the plug's lead leaves the card."`
	At        Fact[units.Millimetre] `json:"at_mm,omitzero" is:"0..1000" name:"along the card" when:"side=top" measure:"plug-at" doc:"From the bracket's inner face to the middle of the plug."`
	Out       Fact[units.Millimetre] `json:"stands_out_mm,omitzero" is:"0..60" name:"plug stands out" when:"side=top|end" measure:"plug-out" doc:"How far the back of the plug stands out of the card."`
	SenseW    Fact[units.Watt]       `json:"sense_w,omitzero" is:"150|300|450|600" name:"its sense pins announce" when:"connector=card-16" doc:"What the sense pins of a card-16 announce, W."`
}

// Bracket is the card's bracket, fitted and spare.
type Bracket struct {
	Height Fact[Height] `json:"height,omitzero" name:"bracket fitted" doc:"The bracket fitted."`
	Spare  Fact[Height] `json:"spare,omitzero" name:"second bracket in the box" doc:"A second bracket that came with it; none for none."`
	Slots  Fact[int]    `json:"slots,omitzero" is:"1..5" name:"slots it is wide" doc:"Slots it is wide."`
	Swap   Fact[Swap]   `json:"swap,omitzero" name:"changing the bracket" doc:"What changing it costs."`
}

// Supply is a power supply.
// SwitchBoard is the board that switches an ATX-style supply on with the host. Its price
// counts where it is told.
type SwitchBoard struct{ Price }

type Supply struct {
	Name    string                 `json:"name" name:"name" doc:"The supply's name."`
	Kind    Fact[SupplyKind]       `json:"kind,omitzero" name:"form" doc:"All but a brick, USB-C and a converter board are ATX-style and must be switched on."`
	InBay   Fact[bool]             `json:"in_bay,omitzero" else:"no" name:"goes into the host's bay" doc:"It takes the place of the host's own."`
	Depth   Fact[units.Millimetre] `json:"depth_mm,omitzero" is:"0..500" name:"depth" when:"in_bay=yes" measure:"along-x" doc:"From its mains side to its leads."`
	WayUp   Fact[bool]             `json:"one_way_up,omitzero" else:"no" name:"runs one way up only" doc:"Its fan or its papers say so."`
	Stands  Fact[bool]             `json:"stands_that_way,omitzero" name:"stands that way" when:"one_way_up=yes" doc:"As the rig stands."`
	Rating  Fact[units.Watt]       `json:"rating_w,omitzero" is:"0..5000" name:"rating" doc:"Rated output, from its label."`
	Rails   []Rail                 `json:"rails,omitzero" name:"rails" doc:"As printed on its label."`
	All12V  Fact[units.Watt]       `json:"combined_12v_w,omitzero" is:"0..5000" name:"12 V rails together" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"What they may deliver together, from its label."`
	All5V   Fact[units.Watt]       `json:"combined_5v_3v3_w,omitzero" is:"0..5000" name:"5 V and 3.3 V together" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"What they may deliver together, from its label."`
	Peak    Fact[units.Watt]       `json:"peak_w,omitzero" is:"0..20000" name:"peak" doc:"What its label lets it deliver for a moment."`
	PeakMS  Fact[float64]          `json:"peak_ms,omitzero" is:"0.1..60000" else:"10" name:"peak lasts" doc:"For how long, ms."`
	Inlets  []Inlet                `json:"inlets,omitzero" name:"power inlets" when:"kind=converter" doc:"Of a converter board, which makes its rails from them. A supply on the mains has none."`
	Passes  Fact[bool]             `json:"passes_12v,omitzero" else:"no" name:"passes 12 V through" when:"kind=converter" doc:"A converter board fed at 12 V that hands its 12 V on as it comes, and loses none of it."`
	Outlets []Outlet               `json:"outlets,omitzero" name:"outlets" doc:"Its outlets."`
	Class   Fact[Class]            `json:"class,omitzero" name:"design" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"An older one, or a current one, which rides out longer spikes."`
	Effic   Fact[Efficiency]       `json:"efficiency,omitzero" name:"efficiency" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"The class on its label."`
	Grouped Fact[bool]             `json:"group_regulated,omitzero" name:"rails regulated as a group" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"As older ones do."`
	UpMS    Fact[float64]          `json:"up_ms,omitzero" is:"1..60000" else:"50 to 500 ms" name:"its 12 V is up after" doc:"From the moment it is switched on, as measured."`
	TurnOn  Fact[TurnOn]           `json:"turn_on,omitzero" name:"switched on by" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"What pulls its turn-on contact (PS_ON)."`
	Board   SwitchBoard            `json:"switch_board,omitzero" name:"its switch-on board" doc:"What it costs, where a board switches the supply on."`
	Worked  Fact[bool]             `json:"worked_elsewhere,omitzero" else:"not known" name:"worked in another rig" doc:"It was seen to work there, which lowers its suspicion."`
	Noise   Fact[float64]          `json:"noise_db,omitzero" is:"0..150" else:"15 to 40 dB" name:"noise under load" doc:"At the seat, dB, by a test or its papers."`
	Held    Held                   `json:"held,omitzero" name:"how it is held" doc:"Where it is not screwed down as it was made to be: tied to the card, held by tape."`
	Strip   string                 `json:"on_strip,omitzero" name:"plugged into" doc:"The outlet strip or wall socket its mains lead goes to, by a name of one's own."`
	Wall    Fact[units.Watt]       `json:"wall_w,omitzero" is:"0..5000" name:"read at the wall" doc:"What a meter showed for it with everything under load."`
	Price
}

// Rail is one rail of a supply.
type Rail struct {
	Name    string           `json:"name" name:"name" doc:"The rail's name."`
	Voltage Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" name:"voltage" doc:"Its voltage, V."`
	Current Fact[units.Amp]  `json:"current_a,omitzero" is:"0..500" name:"may deliver" doc:"What it may deliver, A."`
}

// Outlet is a socket that gives power.
type Outlet struct {
	Name      string           `json:"name" name:"name" doc:"The outlet's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" name:"connector" doc:"Its connector."`
	Rail      string           `json:"rail,omitzero" name:"rail behind it" doc:"Where there are several of its voltage."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" name:"states" doc:"What the part itself states for it."`
	SenseW    Fact[units.Watt] `json:"sense_w,omitzero" is:"150|300|450|600" name:"its sense pins announce" when:"connector=card-16" doc:"What the sense pins of a card-16 announce, W."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"the rail's" name:"gives" when:"connector=barrel|din-4|two-pole-30a|usb-c|proprietary" doc:"Its voltage, where its kind does not fix it."`
	Barrel    Fact[Barrel]     `json:"barrel_mm,omitzero" name:"size of the round plug" when:"connector=barrel" doc:"Outside by inside."`
	Negative  Fact[bool]       `json:"centre_negative,omitzero" else:"no" name:"centre is ground" when:"connector=barrel" doc:"Its centre contact is ground."`
	Shell     Fact[Connector]  `json:"shell,omitzero" name:"its shell is that of" when:"connector=proprietary" doc:"The kind whose plug it looks like, though it is wired otherwise."`
	Pins      []Pin            `json:"pins,omitzero" name:"pins" when:"connector=proprietary" doc:"What the pins of a proprietary plug carry, pin 1 first. Left out: not known."`
	PinRows   Fact[int]        `json:"pin_rows,omitzero" is:"1..2" else:"1" name:"rows of pins" when:"connector=proprietary" doc:"Rows the pins of a proprietary plug stand in."`
}

// Inlet is a socket that takes power.
type Inlet struct {
	Name      string           `json:"name" name:"name" doc:"The inlet's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" name:"connector" doc:"Its connector."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" name:"states" doc:"What the part itself states for it."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"12 on a dock" name:"takes" when:"connector=barrel|din-4|two-pole-30a|usb-c|proprietary" doc:"Its voltage, where its kind does not fix it."`
	Barrel    Fact[Barrel]     `json:"barrel_mm,omitzero" name:"size of the round socket" when:"connector=barrel" doc:"Outside by inside."`
	Negative  Fact[bool]       `json:"centre_negative,omitzero" else:"no" name:"centre is ground" when:"connector=barrel" doc:"Its centre contact is ground."`
	Shell     Fact[Connector]  `json:"shell,omitzero" name:"its shell is that of" when:"connector=proprietary" doc:"The kind whose plug it looks like, though it is wired otherwise."`
	Pins      []Pin            `json:"pins,omitzero" name:"pins" when:"connector=proprietary" doc:"What the pins of a proprietary plug carry, pin 1 first. Left out: not known."`
	PinRows   Fact[int]        `json:"pin_rows,omitzero" is:"1..2" else:"1" name:"rows of pins" when:"connector=proprietary" doc:"Rows the pins of a proprietary plug stand in."`
	Board     Fact[BoardKind]  `json:"board_plug,omitzero" name:"its board's plug is" when:"connector=proprietary" doc:"Of a host whose board takes its maker's own plug: its kind, by the number of its contacts."`
	Standby   Fact[units.Volt] `json:"standby_v,omitzero" is:"0..24" name:"standby voltage" when:"connector=proprietary" doc:"What it wants while the host is off: 5 or 12 V; 0 for none. By a label or a meter."`
	Clips     Fact[bool]       `json:"clip_turned,omitzero" else:"no" name:"its clip is on the other side" when:"connector=proprietary" doc:"Than on the standard plug."`
}

// Lead is a power lead: a plain one, an adapter, a splitter or a chain.
type Lead struct {
	Name   string                 `json:"name" name:"name" doc:"The lead's name."`
	From   []LeadEnd              `json:"from,omitzero" name:"source ends" doc:"What it is plugged into at the source."`
	To     []LeadEnd              `json:"to,omitzero" name:"load ends" doc:"What it feeds."`
	Gauge  Fact[int]              `json:"gauge_awg,omitzero" is:"10..30" name:"gauge" doc:"Of its wires, as printed on them."`
	Length Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..5000" name:"length" measure:"cable" doc:"From plug to plug."`
	Path   []Corner               `json:"path,omitzero" name:"way of the lead" doc:"Where it runs in the case, from plug to plug: its ends and every corner, in order."`
	Wires  []Conductor            `json:"wires,omitzero" name:"wires" doc:"Which pin each wire joins with which, on a lead made by oneself. Left out: as its maker wired it."`
	Fuse   Fact[units.Amp]        `json:"fuse_a,omitzero" is:"0..200" else:"none" name:"fuse" doc:"In its supply wires, at the source."`
	// A bought lead that turns one plug into another.
	MadeFor Fact[[]string]   `json:"made_for,omitzero" name:"made for" doc:"The hosts or boards whose plug it turns into, by its papers; it is then bought, not made by oneself."`
	Standby Fact[units.Volt] `json:"standby_v,omitzero" is:"0..24" else:"the supply's 5 V" name:"gives standby of" doc:"Of a lead that makes another standby voltage of the supply's 5 V."`
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
	Part      string           `json:"part,omitzero" name:"plugged into" doc:"A supply, a stage or another lead at the source; the card, the host, a stage or a converter board at the load. Empty: it hangs free."`
	At        string           `json:"at,omitzero" name:"there, into" doc:"The outlet, inlet or plug; for a free end its own name."`
	Connector Fact[Connector]  `json:"connector,omitzero" else:"what it is plugged into" name:"connector on the lead" doc:"The connector on the lead."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" name:"states" doc:"What its own plug states."`
	SenseW    Fact[units.Watt] `json:"sense_w,omitzero" is:"150|300|450|600" else:"what it is plugged into" name:"its sense pins announce" when:"connector=card-16" doc:"What the sense pins of a card-16 announce, W, by the print on the plug."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"its source's" name:"carries" when:"connector=barrel|din-4|two-pole-30a|usb-c|proprietary" doc:"The voltage printed on it."`
	Shell     Fact[Connector]  `json:"shell,omitzero" name:"its shell is that of" when:"connector=proprietary" doc:"The kind whose socket a proprietary plug enters: it may look like another and be wired otherwise."`
	Pins      []Pin            `json:"pins,omitzero" else:"what it is plugged into" name:"pins" when:"connector=proprietary" doc:"What the pins of a proprietary plug carry, pin 1 first."`
}

// CardPart and HostPart are the parts a lead may end at besides stages.
const (
	CardPart = "card"
	HostPart = "host"
)

// Alteration is something the plan cuts, drills or breaks.
type Alteration struct {
	Name      string        `json:"name" name:"what is done" doc:"What is done."`
	Touches   Fact[Touches] `json:"touches,omitzero" name:"to what" doc:"What it is done to."`
	Permanent Fact[bool]    `json:"permanent,omitzero" else:"yes" name:"for good" doc:"It cannot be undone."`
	Seal      Fact[bool]    `json:"breaks_seal,omitzero" else:"no" name:"breaks a seal" doc:"A maker's seal, which its warranty hangs on."`
}

// Acknowledgement is a person's answer to a finding.
type Acknowledgement struct {
	Rule   string `json:"rule" doc:"The rule's name."`
	Where  string `json:"where" doc:"The finding's place, as a JSON Pointer."`
	Reason string `json:"reason" doc:"Why the person goes on."`
}

// New is an empty rig of that name.
func New(name string) *Rig { return &Rig{Format: Format, Name: name} }
