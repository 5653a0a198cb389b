package rig

import "kolvan/core/units"

// SwitchBoard is the board that switches an ATX-style supply on with the host. Its price
// counts where it is told.
type SwitchBoard struct{ Price }

// Supply is a power supply.
type Supply struct {
	Name    string                 `json:"name" name:"name" doc:"The supply's name."`
	Kind    Fact[SupplyKind]       `json:"kind,omitzero" sold:"by" name:"form" doc:"All but a brick, USB-C and a converter board are ATX-style and must be switched on."`
	InBay   Fact[bool]             `json:"in_bay,omitzero" else:"no" name:"goes into the host's bay" doc:"It takes the place of the host's own."`
	Depth   Fact[units.Millimetre] `json:"depth_mm,omitzero" is:"0..500" sold:"down 50..250" name:"depth" measure:"along-x" doc:"From its mains side to its leads."`
	Wide    Fact[units.Millimetre] `json:"width_mm,omitzero" is:"10..500" else:"as its form" name:"width" measure:"along-z" doc:"Lying on its largest side: for a holder that is made."`
	WayUp   Fact[bool]             `json:"one_way_up,omitzero" else:"no" name:"runs one way up only" doc:"Its fan or its papers say so."`
	Stands  Fact[bool]             `json:"stands_that_way,omitzero" name:"stands that way" when:"one_way_up=yes" doc:"As the rig stands."`
	Rating  Fact[units.Watt]       `json:"rating_w,omitzero" is:"0..5000" sold:"up 20..3000" name:"rating" doc:"Rated output, from its label."`
	Rails   []Rail                 `json:"rails,omitzero" name:"rails" doc:"As printed on its label."`
	All12V  Fact[units.Watt]       `json:"combined_12v_w,omitzero" is:"0..5000" sold:"up 20..3000" name:"12 V rails together" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"What they may deliver together, from its label."`
	All5V   Fact[units.Watt]       `json:"combined_5v_3v3_w,omitzero" is:"0..5000" sold:"up 10..300" name:"5 V and 3.3 V together" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"What they may deliver together, from its label."`
	Peak    Fact[units.Watt]       `json:"peak_w,omitzero" is:"0..20000" sold:"up 20..5000" name:"peak" doc:"What its label lets it deliver for a moment."`
	PeakMS  Fact[float64]          `json:"peak_ms,omitzero" is:"0.1..60000" else:"10" name:"peak lasts" doc:"For how long, ms."`
	Inlets  []Inlet                `json:"inlets,omitzero" name:"power inlets" when:"kind=converter" doc:"Of a converter board, which makes its rails from them. A supply on the mains has none."`
	Passes  Fact[bool]             `json:"passes_12v,omitzero" else:"no" name:"passes 12 V through" when:"kind=converter" doc:"A converter board fed at 12 V that hands its 12 V on as it comes, and loses none of it."`
	Outlets []Outlet               `json:"outlets,omitzero" name:"outlets" doc:"Its outlets."`
	Class   Fact[Class]            `json:"class,omitzero" sold:"by" name:"design" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"An older one, or a current one, which rides out longer spikes."`
	Effic   Fact[Efficiency]       `json:"efficiency,omitzero" name:"efficiency" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"The class on its label."`
	Grouped Fact[bool]             `json:"group_regulated,omitzero" name:"rails regulated as a group" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"As older ones do."`
	UpMS    Fact[float64]          `json:"up_ms,omitzero" is:"1..60000" else:"50 to 500 ms" name:"its 12 V is up after" doc:"From the moment it is switched on, as measured."`
	TurnOn  Fact[TurnOn]           `json:"turn_on,omitzero" set:"by owner" name:"switched on by" when:"kind=atx|sfx|sfx-l|tfx|flex|proprietary" doc:"What pulls its turn-on contact (PS_ON)."`
	Board   SwitchBoard            `json:"switch_board,omitzero" name:"its switch-on board" doc:"What it costs, where a board switches the supply on."`
	Worked  Fact[bool]             `json:"worked_elsewhere,omitzero" else:"not known" name:"worked in another rig" doc:"It was seen to work there, which lowers its suspicion."`
	Noise   Fact[float64]          `json:"noise_db,omitzero" is:"0..150" else:"15 to 40 dB" sold:"down 10..60" name:"noise under load" doc:"At the seat, dB, by a test or its papers."`
	Held    Held                   `json:"held,omitzero" name:"how it is held" doc:"Where it is not screwed down as it was made to be: tied to the card, held by tape."`
	Strip   string                 `json:"on_strip,omitzero" name:"plugged into" doc:"The outlet strip or wall socket its mains lead goes to, by a name of one's own."`
	Wall    Fact[units.Watt]       `json:"wall_w,omitzero" is:"0..5000" name:"read at the wall" doc:"What a meter showed for it with everything under load."`
	Price
}

// Rail is one rail of a supply.
type Rail struct {
	Name    string           `json:"name" name:"name" doc:"The rail's name."`
	Voltage Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" sold:"by" name:"voltage" doc:"Its voltage, V."`
	Current Fact[units.Amp]  `json:"current_a,omitzero" is:"0..500" sold:"up 1..250" name:"may deliver" doc:"What it may deliver, A."`
}

// Outlet is a socket that gives power.
type Outlet struct {
	Name      string           `json:"name" name:"name" doc:"The outlet's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" sold:"by" name:"connector" doc:"Its connector."`
	Rail      string           `json:"rail,omitzero" name:"rail behind it" doc:"Where there are several of its voltage."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" sold:"up 1..60" name:"states" doc:"What the part itself states for it."`
	SenseW    Fact[units.Watt] `json:"sense_w,omitzero" is:"150|300|450|600" sold:"up" name:"its sense pins announce" when:"connector=card-16" doc:"What the sense pins of a card-16 announce, W."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"the rail's" sold:"by" name:"gives" when:"connector=barrel|din-4|two-pole-30a|usb-c|proprietary" doc:"Its voltage, where its kind does not fix it."`
	Barrel    Fact[Barrel]     `json:"barrel_mm,omitzero" sold:"by" name:"size of the round plug" when:"connector=barrel" doc:"Outside by inside."`
	Negative  Fact[bool]       `json:"centre_negative,omitzero" else:"no" name:"centre is ground" when:"connector=barrel" doc:"Its centre contact is ground."`
	Shell     Fact[Connector]  `json:"shell,omitzero" name:"its shell is that of" when:"connector=proprietary" doc:"The kind whose plug it looks like, though it is wired otherwise."`
	Pins      []Pin            `json:"pins,omitzero" name:"pins" when:"connector=proprietary" doc:"What the pins of a proprietary plug carry, pin 1 first. Left out: not known."`
	PinRows   Fact[int]        `json:"pin_rows,omitzero" is:"1..2" else:"1" name:"rows of pins" when:"connector=proprietary" doc:"Rows the pins of a proprietary plug stand in."`
}

// Inlet is a socket that takes power.
type Inlet struct {
	Name      string           `json:"name" name:"name" doc:"The inlet's name."`
	Connector Fact[Connector]  `json:"connector,omitzero" sold:"by" name:"connector" doc:"Its connector."`
	Current   Fact[units.Amp]  `json:"current_a,omitzero" is:"0..200" sold:"up 1..60" name:"states" doc:"What the part itself states for it."`
	Voltage   Fact[units.Volt] `json:"voltage_v,omitzero" is:"0..60" else:"12 on a dock" sold:"by" name:"takes" when:"connector=barrel|din-4|two-pole-30a|usb-c|proprietary" doc:"Its voltage, where its kind does not fix it."`
	Barrel    Fact[Barrel]     `json:"barrel_mm,omitzero" sold:"by" name:"size of the round socket" when:"connector=barrel" doc:"Outside by inside."`
	Negative  Fact[bool]       `json:"centre_negative,omitzero" else:"no" name:"centre is ground" when:"connector=barrel" doc:"Its centre contact is ground."`
	Shell     Fact[Connector]  `json:"shell,omitzero" name:"its shell is that of" when:"connector=proprietary" doc:"The kind whose plug it looks like, though it is wired otherwise."`
	Pins      []Pin            `json:"pins,omitzero" name:"pins" when:"connector=proprietary" doc:"What the pins of a proprietary plug carry, pin 1 first. Left out: not known."`
	PinRows   Fact[int]        `json:"pin_rows,omitzero" is:"1..2" else:"1" name:"rows of pins" when:"connector=proprietary" doc:"Rows the pins of a proprietary plug stand in."`
	Board     Fact[BoardKind]  `json:"board_plug,omitzero" name:"its board's plug is" when:"connector=proprietary" doc:"Of a host whose board takes a proprietary plug: its kind, by the number of its contacts."`
	Standby   Fact[units.Volt] `json:"standby_v,omitzero" is:"0..24" name:"standby voltage" when:"connector=proprietary" doc:"What it wants while the host is off: 5 or 12 V; 0 for none. By a label or a meter."`
	Clips     Fact[bool]       `json:"clip_turned,omitzero" else:"no" name:"its clip is on the other side" when:"connector=proprietary" doc:"Than on the standard plug."`
}
