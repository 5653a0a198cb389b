package rig

// The closed word lists of the file. Each type lists its own words in Choices;
// decoding, the JSON Schema and the forms all take them from there.
type (
	// SizingPolicy names how the supply is judged.
	SizingPolicy string
	// SwitchOn is the order in which host and dock are switched on.
	SwitchOn string
	// Stance is how much damage the plan may do.
	Stance string
	// ScreenKind is where the picture is wanted.
	ScreenKind string
	// HostKind is the sort of computer.
	HostKind string
	// Graphics is what the host draws with on its own.
	Graphics string
	// Radio says whether a network is wireless or by wire.
	Radio string
	// Form is the mechanical form of a slot, plug or socket of the link.
	Form string
	// Key is the key of an M.2 slot or module.
	Key string
	// Carried is what a slot's contacts carry.
	Carried string
	// Behind says what the slot's lanes come from.
	Behind string
	// Home is where a displaced occupant goes.
	Home string
	// StageKind is the sort of a route's stage.
	StageKind string
	// Height is the height of a bracket or of its opening.
	Height string
	// Swap says what changing the card's bracket costs.
	Swap string
	// SupplyKind is the form of a supply.
	SupplyKind string
	// Class is how modern the design of a supply is.
	Class string
	// Efficiency is the class of a supply's efficiency.
	Efficiency string
	// Barrel is the size of a barrel plug, in millimetres outside and inside.
	Barrel string
	// TurnOn is what turns an ATX-style supply on.
	TurnOn string
	// Connector is a power connector; the reference has its contacts.
	Connector string
	// Plane is what a pin is joined with inside its part.
	Plane string
	// CoverKind says how a cover moves.
	CoverKind string
	// Touches is what an alteration alters.
	Touches string
	// Axes names the axes of the chamber along which the card's length, height
	// and thickness lie, in that order.
	Axes string
)

// The words the rules ask for by name.
const (
	Nameplate SizingPolicy = "nameplate"
	Share     SizingPolicy = "share"
	Spikes    SizingPolicy = "spikes"

	DockFirst SwitchOn = "dock-first"
	HostFirst SwitchOn = "host-first"

	NothingPermanent Stance = "nothing-permanent"
	SpareCover       Stance = "spare-cover"
	CutFreely        Stance = "cut-freely"

	Wireless Radio = "wireless"
	Wire     Radio = "wire"

	M2       Form = "m2"
	MiniPCIe Form = "mini-pcie"
	MSATA    Form = "msata"
	CardSlot Form = "card"
	OCuLink  Form = "oculink"
	Tunnel   Form = "tunnel"

	PCIe Carried = "pcie"

	HomeSlot Home = "slot"
	HomeUSB  Home = "usb"
	HomeNone Home = "none"

	Adapter StageKind = "adapter"
	Cable   StageKind = "cable"
	Dock    StageKind = "dock"

	FullHeight Height = "full"
	HalfHeight Height = "half"
	NoBracket  Height = "none"

	SwapFree       Swap = "free"
	SwapDismantles Swap = "dismantles-cooler"
	SwapImpossible Swap = "impossible"

	PlaneSupply  Plane      = "supply"
	PlaneGround  Plane      = "ground"
	PlaneStandby Plane      = "standby"
	Proprietary  SupplyKind = "proprietary"
	Brick        SupplyKind = "brick"
	Converter    SupplyKind = "converter"
	USBC         SupplyKind = "usb-c"
	ClassCurrent Class      = "current"
	ClassOlder   Class      = "older"
	TurnOnNone   TurnOn     = "none"
	TurnOnDock   TurnOn     = "dock"
	TurnOnHost   TurnOn     = "host-board"
	TurnOnJumper TurnOn     = "jumper"
	TurnOnSwitch TurnOn     = "switch-board"
	TouchesSpare Touches    = "spare-cover"
	TouchesAdapt Touches    = "adapter"
)

func (SizingPolicy) Choices() []string { return []string{"nameplate", "share", "spikes"} }
func (SwitchOn) Choices() []string     { return []string{"dock-first", "together", "host-first"} }
func (Stance) Choices() []string {
	return []string{"nothing-permanent", "spare-cover", "cut-freely"}
}
func (ScreenKind) Choices() []string { return []string{"own-panel", "external", "panel-input"} }
func (HostKind) Choices() []string {
	return []string{"mini-pc", "desktop", "notebook", "all-in-one", "single-board"}
}
func (Graphics) Choices() []string { return []string{"none", "integrated", "discrete"} }
func (Radio) Choices() []string    { return []string{"wireless", "wire"} }
func (Form) Choices() []string {
	return []string{"m2", "mini-pcie", "msata", "card", "oculink", "video", "module", "tunnel"}
}
func (Key) Choices() []string     { return []string{"M", "B", "B+M", "E", "A", "A+E"} }
func (Carried) Choices() []string { return []string{"pcie", "sata", "usb", "video", "radio"} }
func (Behind) Choices() []string  { return []string{"processor", "chipset"} }
func (Home) Choices() []string {
	return []string{"slot", "sata-bay", "usb", "ethernet", "memory-card", "network", "none"}
}
func (StageKind) Choices() []string { return []string{"adapter", "cable", "dock", "riser"} }
func (Height) Choices() []string    { return []string{"full", "half", "none"} }
func (Swap) Choices() []string      { return []string{"free", "dismantles-cooler", "impossible"} }
func (SupplyKind) Choices() []string {
	return []string{"atx", "sfx", "sfx-l", "tfx", "flex", "proprietary", "brick", "usb-c", "converter"}
}
func (Class) Choices() []string { return []string{"current", "older"} }
func (Efficiency) Choices() []string {
	return []string{"plain", "bronze", "silver", "gold", "platinum", "titanium"}
}
func (Barrel) Choices() []string { return []string{"5.5x2.1", "5.5x2.5", "other"} }
func (TurnOn) Choices() []string {
	return []string{"jumper", "wire", "switch-board", "dock", "host-board", "none"}
}
func (Connector) Choices() []string {
	return []string{"card-6", "card-8", "card-16", "cpu-8", "cpu-4", "main-24", "main-20", "disk-15",
		"peripheral-4", "small-disk-4", "barrel", "din-4", "two-pole-30a", "usb-c", "proprietary"}
}
func (Plane) Choices() []string {
	return []string{"supply", "ground", "turn-on", "power-good", "standby", "sense", "data", "none"}
}
func (CoverKind) Choices() []string { return []string{"lid", "swing"} }
func (Touches) Choices() []string {
	return []string{"spare-cover", "cover", "enclosure", "board", "card", "adapter"}
}
func (Axes) Choices() []string { return []string{"xyz", "xzy", "yxz", "yzx", "zxy", "zyx"} }
