// Package reference holds the tables Kolvan works from: link generations,
// power connectors and how they mate, what slots give, and planning values.
// They are data files embedded in the program; every row carries its trust mark
// (S fixed by a public standard, T typical of data sheets, P a planning value)
// and its source.
package reference

import (
	"embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

//go:embed data/*.json
var data embed.FS

// Trust says how far a figure can be trusted: S, T or P.
type Trust string

// Origin is the trust mark and source every row carries.
type Origin struct {
	Trust  Trust  `json:"trust"`
	Source string `json:"source"`
}

// Generation is one generation of the link.
type Generation struct {
	Generation  int             `json:"generation"`
	GTPerS      float64         `json:"gt_s"`
	MBPerLane   float64         `json:"mb_s_per_lane"`
	Flits       bool            `json:"flits"`
	Nyquist     units.Gigahertz `json:"nyquist_ghz"`
	Budget      units.Decibel   `json:"loss_budget_db"` // die pad to die pad
	BudgetTrust Trust           `json:"budget_trust"`
	Origin
}

// TunnelRow is what a class of tunnelled port leaves for PCIe.
type TunnelRow struct {
	Class   units.GigabitPerSecond `json:"class_gbit_s"`
	Newer   bool                   `json:"newer"`
	Payload units.GigabitPerSecond `json:"payload_gbit_s"`
	Origin
}

// SlotRow is what a card slot of that length gives a card.
type SlotRow struct {
	Lanes int        `json:"lanes"`
	Power units.Watt `json:"power_w"`
	Origin
}

// FormRow is what a form, with one of these keys, can carry at most.
type FormRow struct {
	Name  string    `json:"name"`
	Form  rig.Form  `json:"form"`
	Keys  []rig.Key `json:"keys"`
	Lanes int       `json:"lanes"`
	Body  bool      `json:"body"` // its own length tells the lanes, up to so many
	Gen   int       `json:"generation"`
	Joint string    `json:"joint"`      // whose loss its mated pair has, where it has no row of its own
	Looks string    `json:"looks_like"` // what its plug enters and must never
	Mind  string    `json:"mind"`       // what is to be minded of it
	Origin
}

// Wire is one gauge of wire: its resistance, and what a wire of it carries in a
// loom and in the two-wire lead of a brick.
type Wire struct {
	Gauge   int       `json:"gauge_awg"`
	OhmPerM float64   `json:"ohm_per_m"`
	Loom    units.Amp `json:"loom_a"`
	Pair    units.Amp `json:"pair_a"`
	Origin
}

// Bands are the lengths of spikes, in milliseconds.
var Bands = [4]float64{0.1, 1, 10, 100}

// BoardPlug is a plug of its maker's own through which an office host's board takes its power:
// what such plugs mostly are, never what one surely is.
type BoardPlug struct {
	Kind     string       `json:"kind"`
	Contacts int          `json:"contacts"`
	Standby  []units.Volt `json:"standby_v"`
	Says     string       `json:"says"`
	Origin
}

// BoardPlug is the row of a kind; nil for none.
func (t *Tables) BoardPlug(kind string) *BoardPlug {
	for i := range t.BoardPlugs {
		if t.BoardPlugs[i].Kind == kind {
			return &t.BoardPlugs[i]
		}
	}
	return nil
}

// SupplyForm is how wide a supply of a form is, lying on its largest side.
type SupplyForm struct {
	Kind  rig.SupplyKind   `json:"kind"`
	Width units.Millimetre `json:"width_mm"`
	Origin
}

// SupplyWidth is the width of a supply of a form; 0 where no standard says.
func (t *Tables) SupplyWidth(kind rig.SupplyKind) units.Millimetre {
	for i := range t.SupplyForms {
		if t.SupplyForms[i].Kind == kind {
			return t.SupplyForms[i].Width
		}
	}
	return 0
}

// Cap is the speed of a card whose power is capped to a share of its own.
type Cap struct {
	Share  float64 `json:"share"`
	Low    float64 `json:"low"` // of its own speed, most often
	High   float64 `json:"high"`
	Utmost float64 `json:"utmost"` // and rarely less
	Origin
}

// Spike is what something takes, or rides out, for each band, as a multiple of
// its board power or rating.
type Spike struct {
	Of    string     `json:"of"`
	Times [4]float64 `json:"times"`
	Origin
}

// Efficiency is what share of the mains a class of supply gives on, at 20, 50 and
// 100 % of its rating.
type Efficiency struct {
	Class string     `json:"class"`
	At    [3]float64 `json:"at"`
	Origin
}

// Line is what lanes run in: its loss by the root of the frequency and by the
// frequency, per millimetre or metre as Unit says.
type Line struct {
	Line   rig.Line `json:"line"`
	Root   float64  `json:"root"`
	Linear float64  `json:"linear"`
	Unit   string   `json:"unit"`
	Origin

	per [generations + 1]units.Decibel // millimetre, by generation
}

// generations is how many generations the table has.
const generations = 6

// Loss is what a length of the line loses at a generation.
func (l *Line) Loss(gen int, length units.Millimetre) units.Decibel {
	return l.per[gen] * units.Decibel(length)
}

// perMillimetre is the loss at a frequency: a·√f + b·f, and of a flat ribbon
// 2·(f/4)^1.6 for each quarter of a metre more.
func (l *Line) perMillimetre(f units.Gigahertz) units.Decibel {
	per := units.Decibel(l.Root*math.Sqrt(float64(f)) + l.Linear*float64(f))
	if l.Unit == "dB/m" {
		per /= 1000
	}
	if l.Line == rig.LineFlat {
		per += units.Decibel(2 * math.Pow(float64(f)/4, 1.6) / 250)
	}
	return per
}

// Joint is a joint or an end of the lanes, with its loss at 4, 8 and 16 GHz.
type Joint struct {
	Joint string           `json:"joint"`
	DB    [3]units.Decibel `json:"db"`
	Origin

	at [generations + 1]units.Decibel
}

// Loss is what the joint loses at a generation.
func (j *Joint) Loss(gen int) units.Decibel { return j.at[gen] }

// lossAt is what the joint loses at a frequency: linear between its columns and
// above, in proportion to the frequency below.
func (j *Joint) lossAt(f units.Gigahertz) units.Decibel {
	switch x := units.Decibel(f); {
	case f < 4:
		return j.DB[0] * x / 4
	case f < 8:
		return j.DB[0] + (j.DB[1]-j.DB[0])*(x-4)/4
	default:
		return j.DB[1] + (j.DB[2]-j.DB[1])*(x-8)/8
	}
}

// Penalty is what is taken off a margin besides loss, by generation; the last
// figure stands for later ones too.
type Penalty struct {
	Penalty string           `json:"penalty"`
	DB      [5]units.Decibel `json:"db"`
	Origin
}

// At is the penalty at a generation.
func (p *Penalty) At(gen int) units.Decibel { return p.DB[min(gen, len(p.DB))-1] }

// Planning is one planning value.
type Planning struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	Origin
}

// Time is how long a step of switching on takes.
type Time struct {
	Name string            `json:"name"`
	Low  units.Millisecond `json:"low_ms"`
	High units.Millisecond `json:"high_ms"`
	Origin
}

// Use is what a sort of use moves over the link and takes of card, processor and memory: the
// likely range, and the utmost (reference, section 7a).
type Use struct {
	Kind rig.UseKind `json:"use"`
	Per  string      `json:"per"` // frame, item, token, step, job
	// MB moved for each; of what moves by the pixel its bytes instead.
	MB              [2]float64 `json:"mb"`
	MBMost          [2]float64 `json:"mb_most"`
	PixelBytes      [2]float64 `json:"pixel_bytes"`
	PixelBytesMost  [2]float64 `json:"pixel_bytes_most"`
	CardMS          [2]float64 `json:"card_ms"`
	CardMSMost      [2]float64 `json:"card_ms_most"`
	ProcessorMS     [2]float64 `json:"processor_ms"`
	ProcessorMSMost [2]float64 `json:"processor_ms_most"`
	MemoryGiB       [2]float64 `json:"memory_gib"`
	MemoryGiBMost   [2]float64 `json:"memory_gib_most"`
	OverGiB         [2]float64 `json:"over_gib"` // what overflows the card's memory, while nobody tells
	OverGiBMost     [2]float64 `json:"over_gib_most"`
	Touched         [2]float64 `json:"touched"` // how often the overflow moves for each
	TouchedMost     [2]float64 `json:"touched_most"`
	Elsewhere       float64    `json:"elsewhere"` // share of the card's speed at which the processor works the rest
	Origin
}

// Tables is the whole reference. It is read-only after Load.
type Tables struct {
	Generations []Generation
	Tunnels     []TunnelRow
	Connectors  []Connector
	Matings     []Mating
	Slots       []SlotRow
	Forms       []FormRow
	Wires       []Wire
	Spikes      []Spike
	Caps        []Cap // the highest first
	Uses        []Use // the first is a use that nobody told the sort of
	BoardPlugs  []BoardPlug
	SupplyForms []SupplyForm
	Efficiency  []Efficiency
	Planning    []Planning
	Times       []Time
	Lines       []Line
	Joints      []Joint
	Penalties   []Penalty
	Values

	// Ends are the joints and ends a route is made of.
	Ends struct{ Package, M2, Card, OCuLink, Video, Graphics *Joint }

	byName map[rig.Connector]*Connector
	pairs  []Pair // of every plug at every socket
}

// Values are the planning values by name, for the formulas.
type Values struct {
	PacketOverhead    float64
	PacketTraffic     float64
	PacketPayload     float64
	Slot12V           units.Watt
	Slot3V3           units.Watt
	SlotTotal         units.Watt
	SlotLeast         units.Watt
	SlotSmall         units.Watt
	ConversionShare   float64
	CardSpeedPower    float64 // of board power, to which a card's speed grows
	CardSpeedSpread   float64
	SupplyShare       units.Share
	CardSlows         units.Range[float64] // °C of its core, as usual
	CardStops         units.Range[float64]
	MemoryMost        units.Range[float64] // °C of its memory
	ProcessorSlows    units.Range[float64]
	CardStart         float64 // share of its board power before its driver runs, at most
	CappedSpike       float64 // share of a spike that a cap leaves
	CardIdleLeast     float64
	CardIdleMost      float64
	HostIdleLeast     float64
	HostIdleMost      float64
	GapTolerance      units.Millimetre
	BracketFull       units.Millimetre
	BracketHalf       units.Millimetre
	WideCardNet       units.GigabytePerSecond
	NarrowCardNet     units.GigabytePerSecond
	TraceLeast        units.Millimetre
	TraceMost         units.Millimetre
	AdapterLeast      units.Millimetre
	AdapterMost       units.Millimetre
	DockLeast         units.Millimetre
	DockMost          units.Millimetre
	CableLeast        units.Millimetre
	CableMost         units.Millimetre
	RedriverGain      units.Decibel
	RedriverNoise     units.Decibel
	MarginSigma       units.Decibel
	MarginLikely      units.Decibel
	MarginComfortable units.Decibel
	// What a switch-on board costs, and how far that goes either way.
	SwitchBoard, SwitchBoardBy units.Money
	// Of cables: inside bend radius, spare length, and how thick they are.
	BendFlat                     units.Millimetre
	BendTwinax, BendVideo        float64 // times the thickness
	CableSpare                   units.Millimetre
	StrainFree, StrainStraight   units.Millimetre
	StrainTwist                  units.Degree // in 100 mm
	StrainAside                  units.Degree
	CableThinnest                units.Millimetre
	CableThickest                units.Millimetre
	PlugBend, PlugOut            units.Millimetre
	SagNote, SagRisk             units.Gram
	TipLeast                     units.Degree
	IntakeLeast                  units.Millimetre
	ReturnsDesk, ReturnsCupboard float64                 // share of the warm air that is taken in again
	AirPerWatt                   float64                 // m³/h for a watt and a kelvin
	AirRise                      float64                 // K
	SwitchDraw                   units.Range[units.Watt] // of a packet switch
	UplinkLeast                  units.GigabytePerSecond
	UplinkMost                   units.GigabytePerSecond
}

// Load reads the embedded tables. An error is a fault of the program's own data.
func Load() (*Tables, error) {
	t := &Tables{}
	for name, into := range map[string]any{
		"generations": &t.Generations, "tunnels": &t.Tunnels, "connectors": &t.Connectors,
		"matings": &t.Matings, "slots": &t.Slots, "forms": &t.Forms, "planning": &t.Planning,
		"wires": &t.Wires, "spikes": &t.Spikes, "caps": &t.Caps, "uses": &t.Uses, "board_plugs": &t.BoardPlugs,
		"supply_forms": &t.SupplyForms, "efficiency": &t.Efficiency, "times": &t.Times,
		"lines": &t.Lines, "joints": &t.Joints, "penalties": &t.Penalties,
	} {
		raw, err := data.ReadFile("data/" + name + ".json")
		if err != nil {
			return nil, fmt.Errorf("reference table %s: %w", name, err)
		}
		if err := json.Unmarshal(raw, into); err != nil {
			return nil, fmt.Errorf("reference table %s: %w", name, err)
		}
	}
	t.pairUp()
	if err := t.lose(); err != nil {
		return nil, err
	}
	return t, t.readValues()
}

func (t *Tables) readValues() error {
	fields := map[string]func(float64){
		"packet_overhead_bytes": func(v float64) { t.PacketOverhead = v },
		"packet_traffic_share":  func(v float64) { t.PacketTraffic = v },
		"packet_payload_bytes":  func(v float64) { t.PacketPayload = v },
		"slot_12v_w":            func(v float64) { t.Slot12V = units.Watt(v) },
		"slot_3v3_w":            func(v float64) { t.Slot3V3 = units.Watt(v) },
		"slot_total_w":          func(v float64) { t.SlotTotal = units.Watt(v) },
		"slot_least_w":          func(v float64) { t.SlotLeast = units.Watt(v) },
		"slot_small_w":          func(v float64) { t.SlotSmall = units.Watt(v) },
		"switch_least_w":        func(v float64) { t.SwitchDraw.Low = units.Watt(v) },
		"switch_most_w":         func(v float64) { t.SwitchDraw.High = units.Watt(v) },
		"conversion_share":      func(v float64) { t.ConversionShare = v },
		"card_speed_power":      func(v float64) { t.CardSpeedPower = v },
		"card_speed_spread":     func(v float64) { t.CardSpeedSpread = v },
		"supply_share":          func(v float64) { t.SupplyShare = units.Share(v) },
		"card_idle_least":       func(v float64) { t.CardIdleLeast = v },
		"card_slows_least_c":    func(v float64) { t.CardSlows.Low = v },
		"card_slows_most_c":     func(v float64) { t.CardSlows.High = v },
		"card_stops_least_c":    func(v float64) { t.CardStops.Low = v },
		"card_stops_most_c":     func(v float64) { t.CardStops.High = v },
		"memory_most_least_c":   func(v float64) { t.MemoryMost.Low = v },
		"memory_most_c":         func(v float64) { t.MemoryMost.High = v },
		"processor_slows_least": func(v float64) { t.ProcessorSlows.Low = v },
		"processor_slows_most":  func(v float64) { t.ProcessorSlows.High = v },
		"card_start_share":      func(v float64) { t.CardStart = v },
		"capped_spike_share":    func(v float64) { t.CappedSpike = v },
		"card_idle_most":        func(v float64) { t.CardIdleMost = v },
		"host_idle_least":       func(v float64) { t.HostIdleLeast = v },
		"host_idle_most":        func(v float64) { t.HostIdleMost = v },
		"gap_tolerance_mm":      func(v float64) { t.GapTolerance = units.Millimetre(v) },
		"bracket_full_mm":       func(v float64) { t.BracketFull = units.Millimetre(v) },
		"bracket_half_mm":       func(v float64) { t.BracketHalf = units.Millimetre(v) },
		"wide_card_net_gb_s":    func(v float64) { t.WideCardNet = units.GigabytePerSecond(v) },
		"narrow_card_net_gb_s":  func(v float64) { t.NarrowCardNet = units.GigabytePerSecond(v) },
		"trace_least_mm":        func(v float64) { t.TraceLeast = units.Millimetre(v) },
		"trace_most_mm":         func(v float64) { t.TraceMost = units.Millimetre(v) },
		"adapter_least_mm":      func(v float64) { t.AdapterLeast = units.Millimetre(v) },
		"adapter_most_mm":       func(v float64) { t.AdapterMost = units.Millimetre(v) },
		"dock_least_mm":         func(v float64) { t.DockLeast = units.Millimetre(v) },
		"dock_most_mm":          func(v float64) { t.DockMost = units.Millimetre(v) },
		"cable_least_mm":        func(v float64) { t.CableLeast = units.Millimetre(v) },
		"cable_most_mm":         func(v float64) { t.CableMost = units.Millimetre(v) },
		"redriver_db":           func(v float64) { t.RedriverGain = units.Decibel(v) },
		"redriver_noise_db":     func(v float64) { t.RedriverNoise = units.Decibel(v) },
		"margin_sigma_db":       func(v float64) { t.MarginSigma = units.Decibel(v) },
		"margin_likely_db":      func(v float64) { t.MarginLikely = units.Decibel(v) },
		"margin_comfortable_db": func(v float64) { t.MarginComfortable = units.Decibel(v) },
		"switch_board_price":    func(v float64) { t.SwitchBoard = units.Money(v) },
		"switch_board_price_by": func(v float64) { t.SwitchBoardBy = units.Money(v) },
		"bend_flat_mm":          func(v float64) { t.BendFlat = units.Millimetre(v) },
		"bend_twinax_times":     func(v float64) { t.BendTwinax = v },
		"bend_video_times":      func(v float64) { t.BendVideo = v },
		"cable_spare_mm":        func(v float64) { t.CableSpare = units.Millimetre(v) },
		"strain_free_mm":        func(v float64) { t.StrainFree = units.Millimetre(v) },
		"strain_straight_mm":    func(v float64) { t.StrainStraight = units.Millimetre(v) },
		"strain_aside_deg":      func(v float64) { t.StrainAside = units.Degree(v) },
		"strain_twist_deg":      func(v float64) { t.StrainTwist = units.Degree(v) },
		"cable_least_mm_thick":  func(v float64) { t.CableThinnest = units.Millimetre(v) },
		"cable_most_mm_thick":   func(v float64) { t.CableThickest = units.Millimetre(v) },
		"plug_bend_mm":          func(v float64) { t.PlugBend = units.Millimetre(v) },
		"plug_stands_out_mm":    func(v float64) { t.PlugOut = units.Millimetre(v) },
		"sag_note_g":            func(v float64) { t.SagNote = units.Gram(v) },
		"sag_risk_g":            func(v float64) { t.SagRisk = units.Gram(v) },
		"tip_least_deg":         func(v float64) { t.TipLeast = units.Degree(v) },
		"intake_least_mm":       func(v float64) { t.IntakeLeast = units.Millimetre(v) },
		"airflow_per_watt":      func(v float64) { t.AirPerWatt = v },
		"airflow_rise_k":        func(v float64) { t.AirRise = v },
		"air_returns_desk":      func(v float64) { t.ReturnsDesk = v },
		"air_returns_cupboard":  func(v float64) { t.ReturnsCupboard = v },
		"uplink_least_gb_s":     func(v float64) { t.UplinkLeast = units.GigabytePerSecond(v) },
		"uplink_most_gb_s":      func(v float64) { t.UplinkMost = units.GigabytePerSecond(v) },
	}
	for _, row := range t.Planning {
		set, known := fields[row.Name]
		if !known {
			return fmt.Errorf("reference table planning: no use for %q", row.Name)
		}
		set(row.Value)
		delete(fields, row.Name)
	}
	for name := range fields {
		return fmt.Errorf("reference table planning: %q is missing", name)
	}
	return nil
}

// Use is the row of a sort of use; of one that nobody told, the row of any.
func (t *Tables) Use(kind rig.UseKind) *Use {
	for i := range t.Uses {
		if t.Uses[i].Kind == kind {
			return &t.Uses[i]
		}
	}
	return &t.Uses[0]
}

// CappedSpeed is the share of its speed that a card keeps with its power capped to that share:
// most often, and at the utmost, as far up as down; between the rows of the table in a straight
// line, below them in proportion.
func (t *Tables) CappedSpeed(share float64) (likely, utmost [2]float64) {
	at := func(from, to Cap, by float64) ([2]float64, [2]float64) {
		mix := func(a, b float64) float64 { return a + (b-a)*by }
		low, high, utmost := mix(from.Low, to.Low), mix(from.High, to.High), mix(from.Utmost, to.Utmost)
		return [2]float64{low, high}, [2]float64{utmost, min(1, high+low-utmost)}
	}
	above := Cap{Share: 1, Low: 1, High: 1, Utmost: 1}
	for _, row := range t.Caps {
		if share >= row.Share {
			return at(row, above, min(1, (share-row.Share)/(above.Share-row.Share)))
		}
		above = row
	}
	return at(Cap{}, above, max(0, share/above.Share))
}

// StageDraw is what a stage takes for itself: as told, else what its packet switch may, if it
// has one.
func (t *Tables) StageDraw(s *rig.Stage) units.Range[units.Watt] {
	switch {
	case s.Power.Known:
		return rig.Span(s.Power).AtLeast(units.Range[units.Watt]{})
	case rig.Is(s.Switches, true):
		return t.SwitchDraw
	default:
		return units.Range[units.Watt]{}
	}
}

// Takes is how long a step of switching on takes, by its name in the table.
func (t *Tables) Takes(step string) units.Range[units.Millisecond] {
	for i := range t.Times {
		if t.Times[i].Name == step {
			return units.Between(t.Times[i].Low, t.Times[i].High)
		}
	}
	panic("reference table times has no step " + step)
}

// Generation returns the row of a generation 1 to 6, an empty one for another.
func (t *Tables) Generation(n int) (*Generation, bool) {
	if n < 1 || n > len(t.Generations) {
		return &Generation{}, false
	}
	return &t.Generations[n-1], true
}

// TunnelPayload is what a tunnelled port leaves for PCIe; the older controller's
// figure where it is not known to be newer.
func (t *Tables) TunnelPayload(class units.GigabitPerSecond, newer bool) (units.GigabitPerSecond, bool) {
	best := units.GigabitPerSecond(0)
	for _, row := range t.Tunnels {
		if row.Class == class && (newer || !row.Newer) {
			best = max(best, row.Payload)
		}
	}
	return best, best > 0
}

// SlotPower is what the standard lets a card take from a slot of that length.
func (t *Tables) SlotPower(lanes int) (units.Watt, bool) {
	for _, row := range t.Slots {
		if row.Lanes == lanes {
			return row.Power, true
		}
	}
	return 0, false
}

// Form returns the row of a form with a key, the first of the form while the key is
// not known; nil for a form that bounds nothing.
func (t *Tables) Form(form rig.Form, key rig.Key) (row *FormRow) {
	for i := range t.Forms {
		switch f := &t.Forms[i]; {
		case f.Form != form:
		case slices.Contains(f.Keys, key):
			return f
		case row == nil:
			row = f
		}
	}
	return row
}

// Line returns the row of a line.
func (t *Tables) Line(line rig.Line) *Line {
	for i := range t.Lines {
		if t.Lines[i].Line == line {
			return &t.Lines[i]
		}
	}
	panic("reference: no such line: " + string(line)) // the program itself names them
}

// lose works out once what every line and joint loses at each generation.
func (t *Tables) lose() error {
	if len(t.Generations) != generations {
		return fmt.Errorf("reference table generations: %d rows, not %d", len(t.Generations), generations)
	}
	ends := map[string]**Joint{"package": &t.Ends.Package, "m2": &t.Ends.M2, "card": &t.Ends.Card,
		"oculink": &t.Ends.OCuLink, "video": &t.Ends.Video, "graphics": &t.Ends.Graphics}
	for i := range t.Joints {
		j := &t.Joints[i]
		if end, known := ends[j.Joint]; known {
			*end = j
			delete(ends, j.Joint)
		}
	}
	for name := range ends {
		return fmt.Errorf("reference table joints: %q is missing", name)
	}
	for _, g := range t.Generations {
		for i := range t.Lines {
			t.Lines[i].per[g.Generation] = t.Lines[i].perMillimetre(g.Nyquist)
		}
		for i := range t.Joints {
			t.Joints[i].at[g.Generation] = t.Joints[i].lossAt(g.Nyquist)
		}
	}
	return nil
}

// JointNamed is the row of a joint; nil for none.
func (t *Tables) JointNamed(name string) *Joint {
	for i := range t.Joints {
		if t.Joints[i].Joint == name {
			return &t.Joints[i]
		}
	}
	return nil
}

// Penalty returns the row of a penalty.
func (t *Tables) Penalty(penalty string) *Penalty {
	for i := range t.Penalties {
		if t.Penalties[i].Penalty == penalty {
			return &t.Penalties[i]
		}
	}
	panic("reference: no such penalty: " + penalty)
}

// BracketHeight is the height of a bracket, none for no bracket.
func (t *Tables) BracketHeight(h rig.Height) units.Millimetre {
	switch h {
	case rig.FullHeight:
		return t.BracketFull
	case rig.HalfHeight:
		return t.BracketHalf
	default:
		return 0
	}
}

// Wire returns the row of a gauge: its own, or the next thinner one's.
func (t *Tables) Wire(gauge int) Wire {
	for _, row := range t.Wires {
		if row.Gauge >= gauge {
			return row
		}
	}
	return t.Wires[len(t.Wires)-1]
}

// SpikeTimes returns the multiples of a row of the spikes by its name.
func (t *Tables) SpikeTimes(of string) [4]float64 {
	for i := range t.Spikes {
		if t.Spikes[i].Of == of {
			return t.Spikes[i].Times
		}
	}
	return [4]float64{}
}

// standing is what a supply loses with nothing on it, as a share of its rating.
const standing = 0.012

// Wall is what a supply of that class takes from the mains at a load: linear
// between the points of its class and, below a fifth of the rating, between what
// it loses there and what it loses standing. False for a class that is not listed.
func (t *Tables) Wall(class string, load, rating units.Watt) (units.Watt, bool) {
	for i := range t.Efficiency {
		if e := &t.Efficiency[i]; e.Class == class && rating > 0 {
			return wall(e.At, float64(load/rating)) * rating, true
		}
	}
	return 0, false
}

// FromWall is the load at which a supply of that class takes so much from the
// mains: the inverse of Wall, none below what it takes standing.
func (t *Tables) FromWall(class string, mains, rating units.Watt) (units.Watt, bool) {
	low, high := units.Watt(0), mains
	for range 60 { // halves to less than any meter tells
		middle := (low + high) / 2
		takes, ok := t.Wall(class, middle, rating)
		if !ok {
			return 0, false
		}
		if takes > mains {
			high = middle
		} else {
			low = middle
		}
	}
	return low, true
}

// wall is mains over rating at a share x of the rating.
func wall(at [3]float64, x float64) units.Watt {
	switch {
	case x < 0.2:
		loss := 0.2/at[0] - 0.2
		return units.Watt(x + standing + (loss-standing)*x/0.2)
	case x < 0.5:
		return units.Watt(x / (at[0] + (at[1]-at[0])*(x-0.2)/0.3))
	case x < 1:
		return units.Watt(x / (at[1] + (at[2]-at[1])*(x-0.5)/0.5))
	default:
		return units.Watt(x / at[2])
	}
}
