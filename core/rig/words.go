package rig

import (
	"strconv"
	"strings"
)

// The words of the file, a table for each type: what stands in the file, and how a person
// writes it, where that is otherwise. Choices, forms and sentences read them.
var (
	sizingPolicyWords = words(
		word{"nameplate", "its full rating"}, word{"share", "a sustained share of it"},
		word{"spikes", "the share, and millisecond spikes"},
	)
	switchOnWords = words(word{"dock-first", "dock first"}, word{"together", ""}, word{"host-first", "host first"})
	stanceWords   = words(
		word{"nothing-permanent", "nothing permanent"}, word{"spare-cover", "spare cover"}, word{"cut-freely", "cut freely"},
	)
	screenKindWords = words(word{"own-panel", "own panel"}, word{"external", ""}, word{"panel-input", "panel's own input"},
		word{"none", "no screen"})
	useKindWords = words(
		word{"game-light", "light or older game"}, word{"game-rate", "fast competitive game"},
		word{"game-stream", "open world that streams"}, word{"desktop", "desktop and video"}, word{"encode", "encoding a stream"},
		word{"stack", "stacking pictures"}, word{"render", "rendering what fits the card"},
		word{"render-over", "rendering what does not fit"}, word{"model", "a model held in memory"},
		word{"model-over", "a model that does not fit"}, word{"train", "training"}, word{"compute", "computing with large copies"},
	)
	splitWords   = words(word{"none", "one whole"}, word{"8+8", "8 and 8"}, word{"8+4+4", "8, 4 and 4"}, word{"4+4+4+4", "four times 4"})
	triedAsWords = words(
		word{"works", "it works"},
		word{"limits", "it works within limits"},
		word{"refuses", "it refuses"},
		word{"not-yet", "not tried yet"},
	)
	seenByWords    = words(word{"oneself", ""}, word{"another", "somebody else"}, word{"papers", ""})
	boardKindWords = words(
		word{
			"standard-24",
			"standard plug of 24 contacts",
		},
		word{"maker-6", "proprietary plug of six contacts"},
		word{"maker-8", "proprietary plug of eight contacts"},
		word{"maker-10", "proprietary plug of ten contacts"},
		word{"maker-more", "proprietary plug of more contacts"},
		word{"processor-4", "plug of four contacts for the processor"},
		word{"processor-8", "plug of eight contacts for the processor"},
	)
	partFeedWords = words(
		word{"header", "a header of the board"}, word{"peripheral-4", "an old disk plug"}, word{"disk-15", "a disk plug"},
		word{"lead", "a lead of its own"}, word{"usb", "USB"}, word{"none", "nothing is free"},
	)
	heldByWords = words(
		word{"screws", ""}, word{"tape", ""}, word{"ties", "cable ties"}, word{"glue", ""}, word{"friction", "what it is jammed between"},
		word{"nothing", ""},
	)
	hostKindWords = words(
		word{"mini-pc", "mini PC"}, word{"desktop", ""}, word{"notebook", ""}, word{"all-in-one", ""},
		word{"single-board", ""},
	)
	graphicsWords = words(word{"none", ""}, word{"integrated", "in the processor"}, word{"discrete", "a card of its own"})
	batteryWords  = words(word{"unplugs", "has a plug that parts"}, word{"fixed", "cannot be parted from the board"}, word{"none", ""})
	radioWords    = words(word{"wireless", ""}, word{"wire", ""})
	formWords     = words(
		word{"m2", "M.2"},
		word{"mini-pcie", "mini PCIe"},
		word{"msata", "mSATA"},
		word{"card", ""},
		word{"oculink", "OCuLink"},
		word{
			"video",
			"",
		},
		word{"module", ""},
		word{"tunnel", ""},
		word{"sff-8654", "SFF-8654"},
		word{"sff-ta-1016", "SFF-TA-1016"},
		word{"sff-8639", "SFF-8639"},
		word{"expresscard", "ExpressCard"},
		word{"mxm", "card module (MXM)"},
		word{"usb3-lane", "one-lane plug like USB 3"},
	)
	keyWords     = words(word{"M", ""}, word{"B", ""}, word{"B+M", ""}, word{"E", ""}, word{"A", ""}, word{"A+E", ""})
	carriedWords = words(word{"pcie", "PCIe"}, word{"sata", "SATA"}, word{"usb", "USB"}, word{"video", ""}, word{"radio", ""})
	behindWords  = words(word{"processor", ""}, word{"chipset", ""})
	homeWords    = words(
		word{"slot", ""}, word{"sata-bay", "SATA bay"}, word{"usb", "USB"}, word{"ethernet", "Ethernet socket"},
		word{"memory-card", "memory card"}, word{"network", ""}, word{"none", ""},
	)
	stageKindWords  = words(word{"adapter", ""}, word{"cable", ""}, word{"dock", ""}, word{"riser", ""})
	heightWords     = words(word{"full", "full height"}, word{"half", "low-profile (half-height)"}, word{"none", ""})
	swapWords       = words(word{"free", ""}, word{"dismantles-cooler", "dismantles the cooler"}, word{"impossible", ""})
	supplyKindWords = words(
		word{"atx", "ATX"},
		word{"sfx", "SFX"},
		word{"sfx-l", "SFX-L"},
		word{"tfx", "TFX"},
		word{"flex", ""},
		word{
			"proprietary",
			"its maker's own",
		},
		word{"server", "server supply on a break-out board"},
		word{"brick", ""},
		word{"usb-c", "USB-C"},
		word{"converter", "converter board"},
	)
	classWords      = words(word{"current", ""}, word{"older", ""})
	efficiencyWords = words(
		word{"plain", ""}, word{"bronze", ""}, word{"silver", ""}, word{"gold", ""}, word{"platinum", ""},
		word{"titanium", ""},
	)
	barrelWords = words(word{"5.5x2.1", "5.5 × 2.1 mm"}, word{"5.5x2.5", "5.5 × 2.5 mm"}, word{"other", ""})
	turnOnWords = words(
		word{"jumper", "made jumper plug"}, word{"wire", ""}, word{"switch-board", "switch-on board"}, word{"dock", ""},
		word{"host-board", "host's board"}, word{"splitter", "a splitter from the host's supply"}, word{"none", ""},
	)
	connectorWords = words(
		word{"card-6", "card 6-pin"}, word{"card-8", "card 8-pin"}, word{"card-16", "card 16-pin (12V-2x6)"},
		word{"cpu-8", "processor 8-pin (EPS)"}, word{"cpu-4", "processor 4-pin (EPS)"}, word{"main-24", "main 24-pin"},
		word{"main-20", "main 20-pin"}, word{"disk-15", "disk 15-pin (SATA power)"},
		word{"peripheral-4", "peripheral 4-pin (old disk drives)"}, word{"small-disk-4", "small disk 4-pin (floppy)"},
		word{"barrel", ""}, word{"din-4", "power DIN 4-pin"}, word{"two-pole-30a", "two-pole 30 A"}, word{"usb-c", "USB-C"},
		word{"proprietary", "proprietary plug"},
	)
	planeWords = words(
		word{"supply", ""}, word{"ground", ""}, word{"turn-on", ""}, word{"power-good", ""}, word{"standby", ""},
		word{"sense", ""}, word{"data", ""}, word{"none", ""},
	)
	coverKindWords = words(word{"lid", ""}, word{"swing", "swings out"}, word{"slide", "slides out"})
	plugSideWords  = words(word{"top", "over its upper edge"}, word{"end", "behind its far end"})
	exitWords      = words(
		word{"opening", "an opening there is"}, word{"raised-cover", "under a raised cover"},
		word{"cover-off", "a cover that stays off"}, word{"cut", "a cut"}, word{"none", ""},
	)
	feltWords     = words(word{"smooth", ""}, word{"stutters", ""}, word{"lags", ""}, word{"tears", ""})
	lineKindWords = words(
		word{"part", ""}, word{"consumable", ""}, word{"tool", ""}, word{"test-card", "test card"}, word{"postage", ""},
		word{"hours", ""}, word{"other", ""},
	)
	lineStateWords = words(
		word{"owned", "owned before"}, word{"to-buy", "to buy"}, word{"ordered", ""}, word{"paid", ""}, word{"returned", ""},
		word{"sold", ""},
	)
	lineNeedWords = words(word{"forced", ""}, word{"chosen", ""}, word{"spared", ""})
	feeBaseWords  = words(word{"price", ""}, word{"with-postage", "of price and postage"}, word{"with-tax", "of price and tax"})
	minimumWords  = words(
		word{"low1-p99", "worst 1 %, 99th percentile"}, word{"low1-mean", "worst 1 %, mean of slowest"},
		word{"low01-p99", "worst 0.1 %, 99.9th percentile"}, word{"low01-mean", "worst 0.1 %, mean of slowest"},
		word{"slowest-frame", "the slowest frame"}, word{"slowest-second", "the slowest second"},
	)
	runSideWords      = words(word{"before", ""}, word{"after", ""}, word{"elsewhere", ""})
	threadWords       = words(word{"M2", ""}, word{"M2.5", ""}, word{"M3", ""}, word{"M3.5", ""}, word{"M4", ""}, word{"6-32", ""})
	surroundingsWords = words(word{"open", "in the open"}, word{"under-desk", "under a desk"}, word{"cupboard", "in a cupboard"})
	cooledByWords     = words(word{"own", "a cooler of its own"}, word{"host", "the host's cooler"}, word{"nothing", "nothing yet"})
	intakeWords       = words(word{"face", "its face, away from its board"}, word{"none", ""})
	facingWords       = words(
		word{"+x", "to the far wall (+x)"}, word{"-x", "to the bracket (−x)"}, word{"+y", "away from the slot (+y)"},
		word{"-y", "to the slot (−y)"}, word{"+z", "away from the board's side (+z)"}, word{"-z", "to the board's side (−z)"},
	)
	axisWords    = words(word{"x", "along the length (x)"}, word{"y", "up from the slot (y)"}, word{"z", "along the row of slots (z)"})
	touchesWords = words(
		word{"spare-cover", "spare cover"}, word{"cover", ""}, word{"enclosure", ""}, word{"board", ""}, word{"card", ""},
		word{"adapter", ""}, word{"supply-lead", "a lead of a supply, outside it"}, word{"lead", "another lead"},
		word{"plug", "a plug or its latch"},
	)
	axesWords = words(
		word{"xyz", "length in, height up"}, word{"xzy", "length in, thickness up"}, word{"yxz", "length up, height in"},
		word{"yzx", "length up, thickness in"}, word{"zxy", "length along the slots, height in"},
		word{"zyx", "length along the slots, thickness in"},
	)
	refusalWords = words(
		word{"system-on-usb", "a system on USB"}, word{"this-system", "this system's release"},
		word{"this-way", "a card joined this way"},
	)
	panelStateWords = words(word{"works", ""}, word{"dead", ""}, word{"none", ""})
	diskModeWords   = words(word{"plain", ""}, word{"bundled", ""})
	startModeWords  = words(word{"legacy", ""}, word{"uefi", "UEFI"})
	checkStateWords = words(word{"fine", ""}, word{"worn", ""}, word{"missing", ""}, word{"broken", ""})
	standOffWords   = words(word{"30", ""}, word{"42", ""}, word{"60", ""}, word{"80", ""}, word{"110", ""})
	fixingWords     = words(word{"plugged", ""}, word{"screwed", ""}, word{"soldered", ""})
	laminateWords   = words(word{"standard", ""}, word{"mid-loss", ""})
	sideWords       = words(word{"top", ""}, word{"underside", ""}, word{"edge", ""}, word{"outside", "a port outside"})
	loadStateWords  = words(word{"loaded", "under load"}, word{"idle", "at idle"})
	carryoverWords  = words(
		word{"cloned", ""}, word{"copied", ""}, word{"carried-over", "on the drive itself, which moves"},
		word{"installed", "installed afresh"},
	)
	lineWords = words(
		word{"board", "board trace"}, word{"board-mid-loss", "board trace, mid-loss laminate"}, word{"twinax", ""},
		word{"micro-coax", "shielded micro-coax ribbon"}, word{"flat-ribbon", "flat unshielded ribbon"},
		word{"video-cable", "video-style cable"},
	)
	solderedWords    = words(word{"none", ""}, word{"plug", ""}, word{"socket", ""}, word{"both", ""})
	repeaterWords    = words(word{"none", ""}, word{"redriver", ""}, word{"retimer", ""})
	driverStateWords = words(
		word{"fine", ""}, word{"none", ""}, word{"too-old", "too old for the system"},
		word{"too-new", "dropped by the system's drivers"}, word{"fails-this-way", "known to fail this way"},
		word{"conflict", "another of the same maker is installed"},
	)
)

// Words are the words of SizingPolicy.
func (SizingPolicy) Words() *Words { return sizingPolicyWords }

// Words are the words of SwitchOn.
func (SwitchOn) Words() *Words { return switchOnWords }

// Words are the words of Stance.
func (Stance) Words() *Words { return stanceWords }

// Words are the words of ScreenKind.
func (ScreenKind) Words() *Words { return screenKindWords }

// Words are the words of UseKind.
func (UseKind) Words() *Words { return useKindWords }

// Words are the words of SplitKind.
func (SplitKind) Words() *Words { return splitWords }

// Words are the words of TriedAs.
func (TriedAs) Words() *Words { return triedAsWords }

// Parts are the lanes of each part; the whole for none.
func (s SplitKind) Parts() (lanes []int) {
	for part := range strings.SplitSeq(string(s), "+") {
		n, err := strconv.Atoi(part)
		if err != nil {
			return []int{16}
		}
		lanes = append(lanes, n)
	}
	return lanes
}

// Words are the words of SeenBy.
func (SeenBy) Words() *Words { return seenByWords }

// Words are the words of BoardKind.
func (BoardKind) Words() *Words { return boardKindWords }

// Words are the words of PartFeed.
func (PartFeed) Words() *Words { return partFeedWords }

// Words are the words of HeldBy.
func (HeldBy) Words() *Words { return heldByWords }

// Words are the words of HostKind.
func (HostKind) Words() *Words { return hostKindWords }

// Words are the words of a battery.
func (Battery) Words() *Words { return batteryWords }

// Words are the words of Graphics.
func (Graphics) Words() *Words { return graphicsWords }

// Words are the words of Radio.
func (Radio) Words() *Words { return radioWords }

// Words are the words of Form.
func (Form) Words() *Words { return formWords }

// Words are the words of Key.
func (Key) Words() *Words { return keyWords }

// Words are the words of Carried.
func (Carried) Words() *Words { return carriedWords }

// Words are the words of Behind.
func (Behind) Words() *Words { return behindWords }

// Words are the words of Home.
func (Home) Words() *Words { return homeWords }

// Words are the words of StageKind.
func (StageKind) Words() *Words { return stageKindWords }

// Words are the words of Height.
func (Height) Words() *Words { return heightWords }

// Words are the words of Swap.
func (Swap) Words() *Words { return swapWords }

// Words are the words of SupplyKind.
func (SupplyKind) Words() *Words { return supplyKindWords }

// Words are the words of Class.
func (Class) Words() *Words { return classWords }

// Words are the words of Efficiency.
func (Efficiency) Words() *Words { return efficiencyWords }

// Words are the words of Barrel.
func (Barrel) Words() *Words { return barrelWords }

// Words are the words of TurnOn.
func (TurnOn) Words() *Words { return turnOnWords }

// Words are the words of Connector.
func (Connector) Words() *Words { return connectorWords }

// Words are the words of Plane.
func (Plane) Words() *Words { return planeWords }

// Words are the words of CoverKind.
func (CoverKind) Words() *Words { return coverKindWords }

// Words are the words of PlugSide.
func (PlugSide) Words() *Words { return plugSideWords }

// Words are the words of Exit.
func (Exit) Words() *Words { return exitWords }

// Words are the words of Felt.
func (Felt) Words() *Words { return feltWords }

// Words are the words of LineKind.
func (LineKind) Words() *Words { return lineKindWords }

// Words are the words of LineState.
func (LineState) Words() *Words { return lineStateWords }

// Words are the words of LineNeed.
func (LineNeed) Words() *Words { return lineNeedWords }

// Words are the words of FeeBase.
func (FeeBase) Words() *Words { return feeBaseWords }

// Words are the words of Minimum.
func (Minimum) Words() *Words { return minimumWords }

// Words are the words of RunSide.
func (RunSide) Words() *Words { return runSideWords }

// Words are the words of Thread.
func (Thread) Words() *Words { return threadWords }

// Words are the words of Surroundings.
func (Surroundings) Words() *Words { return surroundingsWords }

// Words are the words of CooledBy.
func (CooledBy) Words() *Words { return cooledByWords }

// Words are the words of Intake.
func (Intake) Words() *Words { return intakeWords }

// Words are the words of Facing.
func (Facing) Words() *Words { return facingWords }

// Words are the words of Axis.
func (Axis) Words() *Words { return axisWords }

// Words are the words of Touches.
func (Touches) Words() *Words { return touchesWords }

// Words are the words of Axes.
func (Axes) Words() *Words { return axesWords }

// Words are the words of Refusal.
func (Refusal) Words() *Words { return refusalWords }

// Words are the words of PanelState.
func (PanelState) Words() *Words { return panelStateWords }

// Words are the words of DiskMode.
func (DiskMode) Words() *Words { return diskModeWords }

// Words are the words of StartMode.
func (StartMode) Words() *Words { return startModeWords }

// Words are the words of CheckState.
func (CheckState) Words() *Words { return checkStateWords }

// Words are the words of StandOff.
func (StandOff) Words() *Words { return standOffWords }

// Words are the words of Fixing.
func (Fixing) Words() *Words { return fixingWords }

// Words are the words of Laminate.
func (Laminate) Words() *Words { return laminateWords }

// Words are the words of Side.
func (Side) Words() *Words { return sideWords }

// Words are the words of LoadState.
func (LoadState) Words() *Words { return loadStateWords }

// Words are the words of Carryover.
func (Carryover) Words() *Words { return carryoverWords }

// Words are the words of Line.
func (Line) Words() *Words { return lineWords }

// Words are the words of Soldered.
func (Soldered) Words() *Words { return solderedWords }

// Words are the words of Repeater.
func (Repeater) Words() *Words { return repeaterWords }

// Words are the words of DriverState.
func (DriverState) Words() *Words { return driverStateWords }
