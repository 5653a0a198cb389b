package rig

import "kolvan/core/units"

// Card is the graphics card.
type Card struct {
	Name      string                 `json:"name,omitzero" name:"name" doc:"The card's name."`
	Lanes     Fact[int]              `json:"lanes,omitzero" is:"1|2|4|8|16" sold:"up" name:"lanes" doc:"Lanes the card uses."`
	Form      Fact[Form]             `json:"form,omitzero" else:"a card slot's" name:"goes into a slot of the form" doc:"The form of its own edge: a card slot's, or a module's for the bay its maker made it for, an M.2 or mini PCIe slot."`
	Key       Fact[Key]              `json:"key,omitzero" name:"key" when:"form=m2" doc:"Where the notch of an M.2 module is."`
	Edge      Fact[int]              `json:"edge_lanes,omitzero" is:"1|2|4|8|16" name:"lanes its edge is long" doc:"Longer than its lanes on narrow cards."`
	TrainsX2  Fact[bool]             `json:"trains_x2,omitzero" name:"known to run on two lanes" doc:"It is known to train on two lanes."`
	Gen       Fact[int]              `json:"generation,omitzero" is:"1..6" sold:"up" name:"generation" doc:"PCIe generation."`
	Memory    Fact[units.Gibibyte]   `json:"memory_gib,omitzero" is:"0..4096" sold:"up 1..192" name:"memory" doc:"Its memory, GiB."`
	Encoders  Fact[[]string]         `json:"encoders,omitzero" sold:"up" name:"hardware encoders" doc:"Such as h264, hevc, av1; none where it has none."`
	Outputs   Fact[[]string]         `json:"outputs,omitzero" name:"video outputs" doc:"Its sockets for screens."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..2000" sold:"15..700" name:"board power" doc:"What its maker states, or what was measured."`
	Cap       Fact[units.Watt]       `json:"cap_w,omitzero" is:"1..2000" else:"none" set:"by owner" name:"capped to" doc:"By software: it holds once the driver runs, not at the start, and shrinks spikes by half."`
	Idle      Fact[units.Watt]       `json:"idle_w,omitzero" is:"0..2000" name:"draw with nothing to do" doc:"What the card draws with nothing to do, W."`
	Slows     Fact[float64]          `json:"slows_at_c,omitzero" is:"40..130" else:"83 to 90 °C" name:"slows down at" doc:"Its core, °C, by its papers or its driver."`
	Stops     Fact[float64]          `json:"stops_at_c,omitzero" is:"40..130" else:"95 to 105 °C" name:"stops at" doc:"Its core, °C, by its papers or its driver."`
	MemoryC   Fact[float64]          `json:"memory_most_c,omitzero" is:"40..130" else:"95 to 105 °C" name:"its memory, at most" doc:"°C, by its papers."`
	SlotShare Fact[units.Watt]       `json:"slot_w,omitzero" is:"0..600" name:"measured at the slot" doc:"What it was measured to take through the slot."`
	Altered   Fact[bool]             `json:"altered,omitzero" name:"raised or altered" doc:"Its limits were raised, or parts changed."`
	BuiltIn   Fact[bool]             `json:"built_in,omitzero" else:"no" name:"built into a box" doc:"It came in a box, fed and fitted by the box's maker."`
	Opens     Fact[bool]             `json:"box_opens,omitzero" else:"taken as no" name:"its box can be opened" when:"built_in=yes" doc:"By screws and no seal: another card may go into it. A card that was taken out of its box is not built in any more."`
	Cooled    Fact[CooledBy]         `json:"cooled_by,omitzero" name:"what cools it" when:"form=mxm|m2|mini-pcie" doc:"Of a card that is a module: a cooler of its own, the host's, or nothing yet."`
	Window    Fact[units.Gibibyte]   `json:"window_gib,omitzero" is:"0..4096" else:"a quarter of a GiB, or as large as its memory" name:"memory window" doc:"The window it wants the host to open for its memory."`
	Starts    Fact[[]StartMode]      `json:"start_modes,omitzero" name:"its firmware starts in" doc:"The modes its own firmware has."`
	Drivers   []Driver               `json:"drivers,omitzero" name:"its drivers" doc:"Drivers that are there, or tried, each with its version."`
	Driver    Fact[DriverState]      `json:"driver,omitzero" name:"driver for this system" doc:"How it stands with a driver for this card on this system."`
	Plugs     []CardPlug             `json:"plugs,omitzero" name:"power plugs" doc:"Its power sockets; none where it has none, left out when not known."`
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..1000" sold:"100..400" name:"length" measure:"card-length" doc:"From the bracket's inner face to the far end of the cooler."`
	Height    Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..500" sold:"56..180" name:"height" measure:"card-height" doc:"From the slot's mouth to the highest point, cooler included."`
	Thickness Fact[units.Millimetre] `json:"thickness_mm,omitzero" is:"0..300" sold:"12..110" name:"thickness" measure:"card-thickness" doc:"Over board and cooler."`
	Back      Fact[units.Millimetre] `json:"backplate_mm,omitzero" is:"0..50" else:"nothing" name:"backplate stands out" measure:"backplate" doc:"Behind its board, on the side away from the cooler."`
	Centre    Fact[units.Millimetre] `json:"centre_mm,omitzero" is:"0..1000" else:"about its middle" name:"centre of mass" measure:"card-centre" doc:"From the bracket: where it lies level on an edge."`
	Mass      Fact[units.Gram]       `json:"mass_g,omitzero" is:"0..20000" sold:"150..3000" name:"mass" doc:"Mass, g."`
	Noise     Fact[float64]          `json:"noise_db,omitzero" is:"0..150" else:"30 to 50 dB" sold:"down 15..60" name:"noise under load" doc:"At the seat, dB, by a test or its papers."`
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
	Connector Fact[Connector]        `json:"connector,omitzero" sold:"by" name:"connector" doc:"Its connector."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..2000" name:"measured draw" doc:"What it was measured to take."`
	Side      Fact[PlugSide]         `json:"side,omitzero" else:"not judged" name:"its lead leaves" doc:"Where the plug's lead leaves the card."`
	At        Fact[units.Millimetre] `json:"at_mm,omitzero" is:"0..1000" name:"along the card" when:"side=top" measure:"plug-at" doc:"From the bracket's inner face to the middle of the plug."`
	Out       Fact[units.Millimetre] `json:"stands_out_mm,omitzero" is:"0..60" name:"plug stands out" when:"side=top|end" measure:"plug-out" doc:"How far the back of the plug stands out of the card."`
	SenseW    Fact[units.Watt]       `json:"sense_w,omitzero" is:"150|300|450|600" name:"its sense pins announce" when:"connector=card-16" doc:"What the sense pins of a card-16 announce, W."`
}

// Bracket is the card's bracket, fitted and spare.
type Bracket struct {
	Height Fact[Height] `json:"height,omitzero" sold:"by" name:"bracket fitted" doc:"The bracket fitted."`
	Spare  Fact[Height] `json:"spare,omitzero" name:"second bracket in the box" doc:"A second bracket that came with it; none for none."`
	Slots  Fact[int]    `json:"slots,omitzero" is:"1..5" sold:"by" name:"slots it is wide" doc:"Slots it is wide."`
	Swap   Fact[Swap]   `json:"swap,omitzero" name:"changing the bracket" doc:"What changing it costs."`
}
