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
	Runs         []Run             `json:"runs,omitzero" most:"512" name:"runs" doc:"What was measured: before the card, with it, and elsewhere."`
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
	FrameMB    Fact[float64]        `json:"frame_mb,omitzero" is:"0..10000" else:"by the sort of use" name:"moves for each frame" doc:"What crosses the link for a frame, MB."`
	CardHz     Fact[float64]        `json:"card_hz,omitzero" is:"0.01..10000" name:"the card's own rate for it" doc:"As found elsewhere, in a wide slot: with its source and how far it goes."`
	ProcHz     Fact[float64]        `json:"processor_hz,omitzero" is:"0.01..10000" else:"by the sort of use" name:"the processor alone could feed" doc:"The rate at a resolution so low that the card does not count."`
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
	Kept       Kept                 `json:"kept,omitzero" name:"what was expected of it" doc:"Before it was first run with the card: kept, to be held against what came."`
	Refuses    Fact[[]Refusal]      `json:"refuses,omitzero" name:"it rejects" doc:"What this use, or its protection against copying, will not run with; none where it was asked."`

	taught Taught
}

// Taught is what other rigs taught of a use's sort: how likely each way is that it may be
// (package proof lists them), and the rigs that say so. It is no fact of the rig and stands in
// no file.
type Taught struct {
	Ways []float64
	Rigs []string
}

// Teach keeps what was taught of the use's sort, in place of what was before.
func (w *Work) Teach(t Taught) { w.taught = t }

// Taught is what was taught of the use's sort; without rigs where nothing was.
func (w *Work) Taught() Taught { return w.taught }

// Kept is the rate that was expected of a use: most often, and at the utmost.
type Kept struct {
	Low   Fact[float64] `json:"low_hz,omitzero" is:"0..100000" name:"most often, from" doc:"Hz."`
	High  Fact[float64] `json:"high_hz,omitzero" is:"0..100000" name:"most often, to" doc:"Hz."`
	Least Fact[float64] `json:"least_hz,omitzero" is:"0..100000" name:"at the utmost, from" doc:"Hz."`
	Most  Fact[float64] `json:"most_hz,omitzero" is:"0..100000" name:"at the utmost, to" doc:"Hz."`
	When  string        `json:"when,omitzero" name:"when" doc:"RFC 3339."`
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

// Free takes off a thing what it cost and whose it is, for a file that travels.
func (p *Price) Free() { *p = Price{} }

// Own marks a thing as owned, unless something was said of that already.
func (p *Price) Own() {
	if !p.Owned.Known {
		p.Owned = Of(true)
	}
}

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
