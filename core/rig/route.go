package rig

import "kolvan/core/units"

// Route is the way of the lanes.
type Route struct {
	Slot       string      `json:"slot,omitzero" name:"starts from slot" doc:"The slot of the host that the card is joined to."`
	Stages     []Stage     `json:"stages,omitzero" name:"stages" doc:"What stands between slot and card, in order."`
	ForcedGen  Fact[int]   `json:"forced_generation,omitzero" is:"1..6" else:"not forced" set:"by owner" name:"generation forced" doc:"In the firmware."`
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
	Bootable Fact[bool]                    `json:"bootable,omitzero" sold:"by" name:"starts there" when:"home=slot|sata-bay|usb" doc:"The host can start from it there."`
	Proven   Fact[bool]                    `json:"proven,omitzero" name:"seen to start there" when:"home=slot|sata-bay|usb|memory-card" doc:"It was seen to start on the very port it will use, before the old drive was pulled."`
	Adapter  string                        `json:"adapter,omitzero" name:"through adapter" when:"home=slot" doc:"The adapter that lets a drive into a card slot."`
	Reads    Fact[units.GigabytePerSecond] `json:"reads_gb_s,omitzero" sold:"up" name:"reads there" when:"home=slot|sata-bay|usb|memory-card" doc:"What can be read in its new place, in sequence."`
	Capacity Fact[units.GB]                `json:"capacity_gb,omitzero" else:"as before" sold:"up" name:"holds there" when:"home=slot|sata-bay|usb|memory-card" doc:"What its stand-in holds, where the drive itself does not move."`
	USB      Fact[units.GigabitPerSecond]  `json:"usb_gbit_s,omitzero" is:"0.48|5|10|20|40" sold:"up" name:"class of the USB port" when:"home=usb" doc:"Class of the port its enclosure is plugged into, Gb/s."`
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
	Lanes     Fact[int]              `json:"lanes,omitzero" is:"0..16" sold:"up" name:"lanes wired" doc:"Lanes wired through it."`
	Gen       Fact[int]              `json:"generation,omitzero" is:"1..6" sold:"up" name:"generation" doc:"The fastest it is made for."`
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..5000" sold:"5..2000" name:"length along the lanes" measure:"cable" doc:"Its length along the lanes, mm."`
	Line      Fact[Line]             `json:"line,omitzero" else:"by its kind" sold:"by" name:"made of" doc:"What its lanes run in, by its papers."`
	Diameter  Fact[units.Millimetre] `json:"thickness_mm,omitzero" is:"0..40" sold:"down 0.5..20" name:"thickness" when:"kind=cable" measure:"thickness" doc:"Of the cable, or of one of its round wires."`
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
	Repeats   Fact[Repeater]         `json:"repeats,omitzero" else:"none" sold:"by" name:"repeats the signal" doc:"A redriver gives back some of what was lost; a retimer begins anew."`
	Needs     Fact[SplitKind]        `json:"needs_split,omitzero" else:"none" name:"needs the slot split" when:"kind=adapter|riser" doc:"Of a riser that parts a slot's lanes: without the firmware's setting it shows its first part only."`
	Takes     Fact[int]              `json:"takes_part,omitzero" is:"1..4" else:"the first" name:"the card is on its part" when:"kind=adapter|riser" doc:"Counted from the first."`
	Switches  Fact[bool]             `json:"packet_switch,omitzero" else:"no" name:"has a packet switch" when:"kind=adapter|riser|dock" doc:"It shares the rate of its own plug among its sockets, needs no split, and grows warm."`
	Parallel  Fact[int]              `json:"side_by_side,omitzero" is:"1..4" else:"1" name:"cables side by side" when:"kind=cable|adapter" doc:"How many of it are used in parallel."`
	Clock     Fact[bool]             `json:"carries_clock,omitzero" else:"yes" sold:"by" name:"carries the reference clock" doc:"Beside the lanes."`
	Reset     Fact[bool]             `json:"carries_reset,omitzero" else:"yes" sold:"by" name:"carries reset" doc:"Beside the lanes."`
	Clkreq    Fact[bool]             `json:"straps_clkreq,omitzero" else:"yes" sold:"by" name:"straps clock-request" doc:"It holds clock-request low, so that the host gives a clock."`
	Module    Fact[units.Millimetre] `json:"module_mm,omitzero" is:"0..200" sold:"by" name:"length of its M.2 module" when:"kind=adapter|cable" measure:"module" doc:"Which stand-off it needs: 30, 42, 60, 80 or 110."`
	MayCut    Fact[bool]             `json:"may_be_cut,omitzero" else:"no" name:"may be shortened" when:"kind=adapter|cable" doc:"Its maker lets the module be cut at a mark."`
	Bracket   Fact[Height]           `json:"bracket,omitzero" else:"none" sold:"by" name:"bracket fitted" when:"kind=adapter" doc:"Of an adapter that sits in a card slot."`
	Spare     Fact[Height]           `json:"bracket_spare,omitzero" else:"none" name:"second bracket in the box" when:"kind=adapter" doc:"Of an adapter that sits in a card slot."`
	Panel     PanelSocket            `json:"panel_socket,omitzero" name:"its socket, set in the case" when:"kind=adapter|cable" doc:"A socket that is screwed into an opening of the host's case."`
	Foot      Footprint              `json:"footprint,omitzero" name:"its board, from above" when:"kind=dock|riser" doc:"For a holder that is made."`
	MadeFor   Fact[[]string]         `json:"made_for,omitzero" name:"made for" doc:"The hosts it was made for, where it fits no other."`
	Worked    Fact[bool]             `json:"worked_elsewhere,omitzero" else:"not known" name:"worked in another rig" doc:"It was seen to work there, which lowers its suspicion."`
	Plug      Joint                  `json:"plug,omitzero" name:"plug" doc:"The end toward the host."`
	Socket    Joint                  `json:"socket,omitzero" name:"socket" doc:"The end toward the card."`
	Inlets    []Inlet                `json:"inlets,omitzero" name:"power inlets" doc:"Where it takes power for the card's slot. Left out: it has none, or nobody looked."`
	Outlets   []Outlet               `json:"outlets,omitzero" name:"power outlets" doc:"Where it passes power on to the card, on one plane with its inlets."`
	Power     Fact[units.Watt]       `json:"power_w,omitzero" is:"0..200" sold:"down 0..30" name:"own draw" else:"0; 5 to 15 W of a packet switch" when:"kind=dock|riser|adapter" doc:"What it takes for itself from its inlets, or from the slot that it stands in."`
	Passes3V3 Fact[bool]             `json:"passes_3v3,omitzero" else:"no" name:"takes its 3.3 V through its edge" when:"kind=riser|dock|adapter" doc:"Its 12 V comes from a plug, its 3.3 V from the card slot that it stands in."`
	Passes    Fact[bool]             `json:"passes_power,omitzero" sold:"by" name:"passes the slot's power on" when:"kind=riser|dock" doc:"A powered riser in a card slot also passes that slot's own power on."`
	SlotLimit Fact[units.Watt]       `json:"slot_limit_w,omitzero" is:"0..600" sold:"up 10..150" name:"its slot gives at most" when:"kind=dock|riser" doc:"What it lets the card take from its slot."`
	Makes3V3  Fact[bool]             `json:"makes_3v3_from_12v,omitzero" name:"makes 3.3 V from 12 V" when:"kind=dock|riser" doc:"It makes the slot's 3.3 V itself, with a loss."`
	TurnsOn   Fact[bool]             `json:"turns_on,omitzero" name:"switches the supply on" when:"kind=dock|riser" doc:"It pulls the supply's turn-on contact (PS_ON) by itself."`
	Supply    string                 `json:"supply,omitzero" name:"supply built in" when:"kind=dock|riser" doc:"The supply built into it, which feeds it through leads of its own."`
	Lamp      Fact[bool]             `json:"lamp,omitzero" else:"yes" name:"has a lamp" when:"kind=dock" doc:"One that tells that it has power."`
	Holds     Fact[bool]             `json:"holds_reset,omitzero" else:"yes" name:"holds the card in reset" when:"kind=dock|riser" doc:"Until its own 12 V is good."`
	Price
}

// PanelSocket is a socket on a lead of its own that is set into the host's case.
type PanelSocket struct {
	In     string                 `json:"opening,omitzero" name:"set in the opening" doc:"An opening of the host's case, by its name."`
	Wide   Fact[units.Millimetre] `json:"width_mm,omitzero" is:"2..120" name:"socket, width" measure:"shell-width" doc:"Of the body that passes the opening."`
	High   Fact[units.Millimetre] `json:"height_mm,omitzero" is:"2..120" name:"socket, height" measure:"shell-height" doc:"Of the body that passes the opening."`
	Holes  Fact[units.Millimetre] `json:"holes_apart_mm,omitzero" is:"5..200" else:"it is clamped" name:"its screws, apart" measure:"opening-holes" doc:"From middle to middle, on either side of the body."`
	Thread Fact[Thread]           `json:"thread,omitzero" else:"M3" name:"its screws" doc:"As on its papers, or held against a gauge."`
}

// Footprint is a board seen from above, with a screw in each corner of a rectangle.
type Footprint struct {
	Length Fact[units.Millimetre] `json:"length_mm,omitzero" is:"10..600" name:"board, length" measure:"along-x" doc:"The way the card lies."`
	Width  Fact[units.Millimetre] `json:"width_mm,omitzero" is:"10..600" name:"board, width" measure:"along-z" doc:"Across the card."`
	Along  Fact[units.Millimetre] `json:"holes_along_mm,omitzero" is:"5..600" name:"holes apart, along" measure:"along-x" doc:"From middle to middle."`
	Across Fact[units.Millimetre] `json:"holes_across_mm,omitzero" is:"5..600" name:"holes apart, across" measure:"along-z" doc:"From middle to middle."`
}

// Joint is one end of a stage.
type Joint struct {
	Form    Fact[Form] `json:"form,omitzero" sold:"by" name:"form" doc:"Its mechanical form."`
	Key     Fact[Key]  `json:"key,omitzero" sold:"by" name:"key" when:"form=m2" doc:"Where the notch of an M.2 end is."`
	Lanes   Fact[int]  `json:"lanes,omitzero" is:"1|2|4|8|16" sold:"up" name:"room for lanes" when:"form=card|oculink|sff-8654|sff-ta-1016" doc:"How many lanes its body has room for."`
	OpenEnd Fact[bool] `json:"open_end,omitzero" sold:"by" name:"open end" when:"form=card" doc:"A card slot whose end is open takes longer cards."`
}
