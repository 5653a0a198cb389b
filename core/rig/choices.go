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
	// UseKind is the sort of a use, by what it moves over the link.
	UseKind string
	// SplitKind is how firmware parts the lanes of a slot.
	SplitKind string
	// TriedAs is how a host that was tried with the parts came out.
	TriedAs string
	// SeenBy is who saw that something worked, or failed.
	SeenBy string
	// BoardKind is the plug through which an office host's board takes its power.
	BoardKind string
	// PartFeed is what gives a fan or a drive its power.
	PartFeed string
	// HeldBy is what holds a part that is not screwed down as it was made to be.
	HeldBy string
	// HostKind is the sort of computer.
	HostKind string
	// Graphics is what the host draws with on its own.
	Graphics string
	// Battery is how a host's battery hangs on its board.
	Battery string
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
	// Refusal is what a use will not run with.
	Refusal string
	// PanelState is how it stands with the host's own panel.
	PanelState string
	// DiskMode is how the firmware shows disks.
	DiskMode string
	// StartMode is a mode firmware starts in.
	StartMode string
	// CheckState is how something on a used machine was found.
	CheckState string
	// StandOff is the length of an M.2 module a stand-off holds, in millimetres.
	StandOff string
	// Fixing is how the occupant of a slot is held.
	Fixing string
	// Laminate is what a board is made of.
	Laminate string
	// Side is the side of a host's board.
	Side string
	// LoadState says whether a reading was taken under load.
	LoadState string
	// Carryover is how a system gets onto its new drive.
	Carryover string
	// Line is what the lanes of a stage run in; the reference has its loss.
	Line string
	// Soldered tells the ends of a stage that are soldered on.
	Soldered string
	// Repeater is what a stage does to the signal.
	Repeater string
	// DriverState is how it stands with a driver for the card.
	DriverState string
	// Axis is one axis of the chamber.
	Axis string
	// Facing is a way along one axis of the chamber.
	Facing string
	// PlugSide is where a plug's lead leaves the card.
	PlugSide string
	// Exit is how a cable leaves its host.
	Exit string
	// RunSide says where a run was made.
	RunSide string
	// Minimum is what a tool takes for the minimum of a run.
	Minimum string
	// Felt is how a run felt, in a word.
	Felt string
	// LineKind is what a line of the ledger is.
	LineKind string
	// LineState is how far a line of the ledger is.
	LineState string
	// LineNeed is why a line of the ledger is there.
	LineNeed string
	// FeeBase is what a fee is a share of.
	FeeBase string
	// Thread is the size of a screw.
	Thread string
	// Surroundings is where a case stands.
	Surroundings string
	// CooledBy is what cools a card that is a module.
	CooledBy string
	// Intake is the side a card's fans draw from.
	Intake string
	// Axes names the axes of the chamber along which the card's length, height
	// and thickness lie, in that order.
	Axes string
)

// The words the rules ask for by name.
const (
	Nameplate SizingPolicy = "nameplate"
	Share     SizingPolicy = "share"
	Spikes    SizingPolicy = "spikes"

	LineHours LineKind = "hours"

	LineOwned    LineState = "owned"
	LineToBuy    LineState = "to-buy"
	LineOrdered  LineState = "ordered"
	LinePaid     LineState = "paid"
	LineReturned LineState = "returned"
	LineSold     LineState = "sold"

	Forced LineNeed = "forced"
	Chosen LineNeed = "chosen"
	Spared LineNeed = "spared"

	FeeWithPostage FeeBase = "with-postage"
	FeeWithTax     FeeBase = "with-tax"

	DockFirst SwitchOn = "dock-first"
	HostFirst SwitchOn = "host-first"

	RefusesUSB    Refusal = "system-on-usb"
	RefusesSystem Refusal = "this-system"
	RefusesWay    Refusal = "this-way"

	FoundMissing CheckState = "missing"
	FoundBroken  CheckState = "broken"

	PanelWorks PanelState = "works"
	PanelDead  PanelState = "dead"
	PanelNone  PanelState = "none"

	Bundled DiskMode = "bundled"

	SolderedIn Fixing = "soldered"

	Loaded LoadState = "loaded"
	Idle   LoadState = "idle"

	LineBoard   Line = "board"
	LineTwinax  Line = "twinax"
	LineCoax    Line = "micro-coax"
	LineFlat    Line = "flat-ribbon"
	LineVideo   Line = "video-cable"
	LineMidLoss Line = "board-mid-loss"

	SolderedPlug   Soldered = "plug"
	SolderedSocket Soldered = "socket"
	SolderedBoth   Soldered = "both"

	Redriver Repeater = "redriver"
	Retimer  Repeater = "retimer"

	Discrete   Graphics = "discrete"
	NoGraphics Graphics = "none"

	OwnPanel ScreenKind = "own-panel"
	NoScreen ScreenKind = "none"

	Video  Form = "video"
	Module Form = "module"

	SATA    Carried   = "sata"
	Chipset Behind    = "chipset"
	MemCard Home      = "memory-card"
	Riser   StageKind = "riser"

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
	HomeBay  Home = "sata-bay"
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

	PlaneSupply      Plane      = "supply"
	PlaneGround      Plane      = "ground"
	PlaneStandby     Plane      = "standby"
	Proprietary      SupplyKind = "proprietary"
	Brick            SupplyKind = "brick"
	Converter        SupplyKind = "converter"
	USBC             SupplyKind = "usb-c"
	ClassCurrent     Class      = "current"
	ClassOlder       Class      = "older"
	TurnOnNone       TurnOn     = "none"
	TurnOnDock       TurnOn     = "dock"
	TurnOnHost       TurnOn     = "host-board"
	TurnOnJumper     TurnOn     = "jumper"
	TurnOnSwitch     TurnOn     = "switch-board"
	MinimumLow1      Minimum    = "low1-p99"
	MinimumLow1Mean  Minimum    = "low1-mean"
	MinimumLow01     Minimum    = "low01-p99"
	MinimumLow01Mean Minimum    = "low01-mean"
	SFF8654          Form       = "sff-8654"
	SFFTA1016        Form       = "sff-ta-1016"
	USB3Lane         Form       = "usb3-lane"
	UseEncode        UseKind    = "encode"
	UseRender        UseKind    = "render"
	UseModel         UseKind    = "model"
	SplitNone        SplitKind  = "none"
	BySelf           SeenBy     = "oneself"
	StandardPlug     BoardKind  = "standard-24"
	CooledByNothing  CooledBy   = "nothing"
	FedByHeader      PartFeed   = "header"
	FedByNothing     PartFeed   = "none"
	HeldByScrews     HeldBy     = "screws"
	Notebook         HostKind   = "notebook"
	SingleBoard      HostKind   = "single-board"
	Desktop          HostKind   = "desktop"
	AllInOne         HostKind   = "all-in-one"
	BatteryUnplugs   Battery    = "unplugs"
	BatteryFixed     Battery    = "fixed"
	NoBattery        Battery    = "none"
	Cloned           Carryover  = "cloned"
	Copied           Carryover  = "copied"
	CarriedOver      Carryover  = "carried-over"
	Installed        Carryover  = "installed"
	SideUnder        Side       = "underside"
	SideOutside      Side       = "outside"
	TouchesSpare     Touches    = "spare-cover"
	TouchesCover     Touches    = "cover"
	TouchesCase      Touches    = "enclosure"
	TouchesAdapt     Touches    = "adapter"
	TouchesSupply    Touches    = "supply-lead"
	TouchesLead      Touches    = "lead"
	TouchesPlug      Touches    = "plug"
	ServerSupply     SupplyKind = "server"
	TurnOnSplitter   TurnOn     = "splitter"
)
