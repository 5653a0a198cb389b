package power

import (
	"slices"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Fit says what is known of how two connectors go together.
type Fit int

// The cases of two connectors.
const (
	Mates    Fit = iota // they mate and the capacity is known
	Clashes             // the shells mate, but supply meets ground or another voltage
	Unstated            // only the part could say what it carries, and does not
	Unknown             // a connector is not known
	NoEntry             // the plug does not enter
)

// EndLoad is one mated end of a lead.
type EndLoad struct {
	Load   Watts
	Fit    Fit
	Cap    reference.Capacity
	Plug   rig.Connector // the plug that enters
	Socket rig.Connector

	port   port
	lead   int
	at     int
	source bool
	told   bool      // the plug itself is told, not taken from its socket
	least  units.Amp // plan for the smallest pair it may be, where one half is taken to be the other's like

	into               socket               // as it is told
	plugRow, socketRow *reference.Connector // nil while not known
	shape              *reference.Pair      // how the two go together, by their shells
	plugMap, socketMap []string             // the pins of the plug and of what it goes into
	v33, turnOn        crossing
}

// sensed reports a socket whose sense pins tell what it carries.
func (e *EndLoad) sensed() bool { return e.socketRow != nil && e.socketRow.Sensed }

// open reports an end of which one half is not told, and which may be smaller than the like
// of the other.
func (e *EndLoad) open() bool { return e.least > 0 && e.least < e.Cap.Plan }

// pair is the plug at its socket.
func (n *Network) pair(e *EndLoad) *reference.Pair { return n.ref.Pair(e.plugRow, e.socketRow) }

// crossing tells whether a line passes a pair.
type crossing uint8

const (
	stops    crossing = iota
	mayCross          // nobody knows the pins of a side
	crosses
)

// Where is the end's JSON Pointer.
func (e *EndLoad) Where() string {
	list := "/to/"
	if e.source {
		list = "/from/"
	}
	return rig.LeadPath(e.lead) + list + itoa(e.at)
}

// LeadLoad is one lead.
type LeadLoad struct {
	Load    Watts
	Volts   units.Volt // at its live wires; 0 while unknown
	off     units.Volt // the tolerance of that
	From    []EndLoad
	To      []EndLoad
	Carries Amps // what its source ends together carry, followed to the source

	flow     flow
	net      net
	demanded bool
	traced   bool
	carried  bool
}

// Amps is the lead's current at most; 0 while its voltage is unknown.
func (l LeadLoad) Amps() units.Amp { return l.Load.High.Over(l.Volts) }

// Plain reports a straight lead with the same connector on both ends.
func (l *LeadLoad) Plain() bool {
	return len(l.From) == 1 && len(l.To) == 1 && l.From[0].Plug == l.To[0].Plug
}

// supplySet is a set of supplies, by their places.
type supplySet uint64

// net is what reaches a lead or a part: the supplies whose live, 3.3 V and
// turn-on lines are joined with it.
type net struct {
	live, v33, on supplySet
	mayV33, mayOn supplySet // through a connector that nobody knows
	fed           bool      // by a supply, or by a socket that has power without one
	back          int       // of a stage: the lead that feeds it through its own outlet, from 1
}

func (t net) plus(o net) net {
	return net{t.live | o.live, t.v33 | o.v33, t.on | o.on, t.mayV33 | o.mayV33, t.mayOn | o.mayOn, t.fed || o.fed, max(t.back, o.back)}
}

// join mates every end of every lead and follows the nets to their sources.
func (n *Network) join() {
	r := n.rig
	total := 0
	for i := range r.Leads {
		total += len(r.Leads[i].From) + len(r.Leads[i].To)
	}
	n.ends = room(n.ends, total)
	n.Leads = room(n.Leads, len(r.Leads))
	ends := n.ends
	for i := range r.Leads {
		from, to := len(r.Leads[i].From), len(r.Leads[i].To)
		n.Leads[i].From, n.Leads[i].To, ends = ends[:from:from], ends[from:from+to:from+to], ends[from+to:]
	}
	for i := range r.Leads {
		n.mateEnds(i)
	}
	n.eachEnd(func(_ int, e *EndLoad) {
		e.plugMap = n.readPlug(e)
		e.socketMap = n.readSocket(e)
		if pair := n.pair(e); pair.Mapped {
			e.v33, e.turnOn = crossingOf(pair.V33), crossingOf(pair.TurnOn)
			return
		}
		e.v33, e.turnOn = e.through("+3.3"), e.through("turn-on")
	})
	n.eachEnd(func(_ int, e *EndLoad) { n.wiredContacts(e) })
	n.stages = room(n.stages, len(r.Route.Stages))
	for i := range r.Leads {
		n.trace(i)
	}
	for i := range r.Leads {
		v := n.volts(i, 0)
		n.Leads[i].Volts, n.Leads[i].off = v.at, v.off
	}
}

// stated reports a lead of which a source end carries what a half of it states.
func (l *LeadLoad) stated() bool {
	return slices.ContainsFunc(l.From, func(e EndLoad) bool { return e.Cap.Stated })
}

// trace follows lead i to the supplies behind it, once.
func (n *Network) trace(i int) net {
	load := &n.Leads[i]
	if load.traced {
		return load.net
	}
	load.traced = true
	var t net
	for j := range load.From {
		if e := &load.From[j]; e.Fit != NoEntry {
			t = t.plus(n.behind(e))
		}
	}
	if n.rig.Leads[i].Wires != nil {
		t = n.wiredThrough(i, t)
	}
	load.net = t
	return t
}

// behind is what an end of a lead brings from what it is plugged into.
func (n *Network) behind(e *EndLoad) (t net) {
	switch e.port.kind {
	case aSupply:
		t = e.kept(n.brings(e.port.part, n.converterFed(e.port.part)))
	case aLead:
		t = n.trace(e.port.part)
		t = e.kept(t)
	case aStage:
		s := n.stage(e.port.part)
		t = net{live: s.live, fed: s.fed}
	case theHost:
		t = n.throughHost()
	}
	return t
}

// throughHost is what a plug of the host's board gives: what feeds the host is behind it. A host
// is fed by something, whatever is told of it.
func (n *Network) throughHost() net {
	t := net{fed: true}
	if n.hostSupply >= 0 {
		t.live = bit(n.hostSupply)
	}
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			if e := &n.Leads[i].To[j]; e.port.kind == theHost && e.Fit != NoEntry {
				t.live |= e.kept(n.trace(i)).live
			}
		}
	}
	return t
}

// brings is what a supply gives: 3.3 V only where it may have a rail of it.
func (n *Network) brings(s int, fed bool) net {
	t := net{live: bit(s), v33: bit(s), on: bit(s), fed: fed}
	if without3V3(&n.rig.Supplies[s]) {
		t.v33 = 0
	}
	return t
}

// without3V3 reports a supply that has no 3.3 V for sure: a server supply has 12 V alone, and
// others but those of a standard have what their rails list.
func without3V3(s *rig.Supply) bool {
	server := rig.Is(s.Kind, rig.ServerSupply)
	if !server && (WaitsToBeSwitched(s) || !s.Kind.Known || len(s.Rails) == 0) {
		return false
	}
	return !slices.ContainsFunc(s.Rails, func(rail rig.Rail) bool { return !rail.Voltage.Known || same(rail.Voltage.Value, 3.3) })
}

// converterFed reports a supply that needs no feed, or that a lead feeds.
func (n *Network) converterFed(s int) bool {
	if !converts(&n.rig.Supplies[s]) {
		return true
	}
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			if e := &n.Leads[i].To[j]; e.port.kind == aSupply && e.port.part == s && e.Fit != NoEntry && n.trace(i).fed {
				return true
			}
		}
	}
	return false
}

// kept is what of a net passes a mated pair.
func (e *EndLoad) kept(t net) net {
	t.v33, t.mayV33 = e.v33.keeps(t.v33, t.mayV33)
	t.on, t.mayOn = e.turnOn.keeps(t.on, t.mayOn)
	return t
}

// keeps is what of a line passes a pair, for sure and perhaps.
func (c crossing) keeps(sure, may supplySet) (supplySet, supplySet) {
	switch c {
	case crosses:
		return sure, may
	case mayCross:
		return 0, may | sure
	default:
		return 0, 0
	}
}

func crossingOf(passes bool) crossing {
	if passes {
		return crosses
	}
	return stops
}

// through tells whether a line passes a pair: where both sides have the pin, perhaps
// where nobody knows the pins of a side.
func (e *EndLoad) through(pin string) crossing {
	switch {
	case !mayHave(e.plugMap, pin) || !mayHave(e.socketMap, pin):
		return stops
	case slices.Contains(e.plugMap, pin) && slices.Contains(e.socketMap, pin):
		return crosses
	default:
		return mayCross
	}
}

// mayHave reports a pin map with the pin, or with pins that nobody knows.
func mayHave(pins []string, pin string) bool {
	return pins == nil || slices.Contains(pins, pin) || slices.Contains(pins, "")
}

// stage is what reaches the plane of a stage through its inlets.
func (n *Network) stage(s int) (t net) {
	if own := n.partNamed(n.rig.Route.Stages[s].Supply); own.kind == aSupply {
		t = n.brings(own.part, true)
	}
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			e := &n.Leads[i].To[j]
			if e.port.kind == aStage && e.port.part == s && e.Fit != NoEntry {
				t = t.plus(e.kept(n.trace(i)))
			}
		}
	}
	return t
}

// feedBack lets power into a stage through its own outlet: where a lead from it meets a lead
// that has power, at a plug of the card or as another source end of the same lead.
func (n *Network) feedBack() {
	into := func(e *EndLoad, lead int, from net) {
		if e.port.kind != aStage || e.Fit == NoEntry || n.stages[e.port.part].fed || !from.fed {
			return
		}
		n.stages[e.port.part] = net{live: from.live, fed: true, back: lead + 1}
	}
	for i := range n.Leads {
		load := &n.Leads[i]
		for j := range load.From {
			if len(load.From) > 1 {
				into(&load.From[j], i, load.net)
			}
			if load.From[j].port.kind != aStage || len(load.To) != 1 || load.To[0].port.kind != theCard {
				continue
			}
			n.atPlug(load.To[0].port.at, func(other int) {
				if other != i {
					into(&load.From[j], other, n.Leads[other].net)
				}
			})
		}
	}
}

// volts is the voltage on the live wires of lead i, 0 while unknown: what its
// first source end with a voltage brings.
func (n *Network) volts(i, depth int) voltage {
	if depth > len(n.Leads) {
		return voltage{}
	}
	for j := range n.Leads[i].From {
		if v := n.endVoltage(&n.Leads[i].From[j], depth); v.at != 0 {
			return v
		}
	}
	return voltage{}
}

// voltage is a voltage as it is told, with its tolerance; 0 V while unknown.
type voltage struct{ at, off units.Volt }

func voltageOf(f *rig.Fact[units.Volt]) voltage { return voltage{f.Value, units.Volt(f.Tolerance)} }

// span is all that it may be, above nothing.
func (v voltage) span() Volts { return units.Between(max(v.at-v.off, min(v.at, 1)), v.at+v.off) }

// endVolts is the voltage a source end takes from what it is plugged into.
func (n *Network) endVolts(e *EndLoad, depth int) units.Volt { return n.endVoltage(e, depth).at }

func (n *Network) endVoltage(e *EndLoad, depth int) voltage {
	switch e.port.kind {
	case aSupply:
		return n.supplyVolts(e)
	case aLead:
		if v := n.Leads[e.port.part].Volts; v != 0 {
			return voltage{v, n.Leads[e.port.part].off}
		}
		if v := n.volts(e.port.part, depth+1); v.at != 0 {
			return v
		}
		return voltage{e.into.voltage.Value, e.into.off} // as printed on the free end
	case aStage:
		if e.port.at >= 0 {
			if v := &n.rig.Route.Stages[e.port.part].Outlets[e.port.at].Voltage; v.Known {
				return voltageOf(v)
			}
		}
		return voltage{twelve, 0}
	case theHost:
		if e.port.at >= 0 {
			if v := &n.rig.Host.Outlets[e.port.at].Voltage; v.Known {
				return voltageOf(v)
			}
		}
		if fixed(e.socketRow) {
			return voltage{twelve, 0}
		}
	}
	return voltage{}
}

// twelve is the voltage of a card's plugs and of a dock's plane.
const twelve units.Volt = 12

// supplyVolts: what the outlet states; else a rail told for it; else, on a table
// connector of a supply with several rails, the voltage its kind fixes.
func (n *Network) supplyVolts(e *EndLoad) voltage {
	s := &n.rig.Supplies[e.port.part]
	told := false
	if e.port.at >= 0 {
		o := &s.Outlets[e.port.at]
		if o.Voltage.Known {
			return voltageOf(&o.Voltage)
		}
		told = o.Rail != ""
	}
	if e.socketRow.OrNone().Negotiates && !told {
		if ask := n.asksFor(e.lead); ask.at != 0 {
			return ask // whether it is offered is said by power.contract
		}
	}
	rail := railOf(s, e.port.at)
	fixed := fixed(e.socketRow)
	if fixed && !told && WaitsToBeSwitched(s) {
		return voltage{twelve, 0} // its label may list one rail of several
	}
	if rail >= 0 {
		if v := voltageOf(&s.Rails[rail].Voltage); !fixed || told || s.Kind.Known || same(v.at, twelve) {
			return v
		}
		return voltage{} // the one rail that was read may be one of several
	}
	if fixed && (len(s.Rails) == 0 || len(s.Rails) > 1) {
		return voltage{twelve, 0}
	}
	return voltage{}
}

// carry works out what the source ends of lead i carry together, once: each the
// least of its pair and of all above it; ends behind one outlet share it.
func (n *Network) carry(i int) Amps {
	load := &n.Leads[i]
	if load.carried {
		return load.Carries
	}
	load.carried = true
	var sum Amps
	for j := range load.From {
		e := &load.From[j]
		if e.Fit == NoEntry {
			continue
		}
		sum = sum.Plus(n.endCarry(e))
	}
	for j := range load.From {
		if shared, root := n.sharedRoot(i, j); shared {
			sum = sum.AtMost(n.rating(root))
		}
	}
	load.Carries = sum
	return sum
}

// endCarry is what one source end brings at most.
func (n *Network) endCarry(e *EndLoad) Amps {
	own := n.rating(e)
	switch e.port.kind {
	case aLead:
		return own.AtMost(n.carry(e.port.part))
	case aStage:
		return own.AtMost(n.stageCarry(e.port.part))
	}
	return own
}

// stageCarry is what the leads at a stage's inlets carry together.
func (n *Network) stageCarry(s int) (sum Amps) {
	if own := n.partNamed(n.rig.Route.Stages[s].Supply); own.kind == aSupply {
		rating := n.rig.Supplies[own.part].Rating
		sum = Amps{High: mostAmps}
		if rating.Known {
			sum = units.Exactly(rating.Value.Over(twelve))
		}
	}
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			if e := &n.Leads[i].To[j]; e.port.kind == aStage && e.port.part == s && e.Fit != NoEntry {
				sum = sum.Plus(n.carry(i).AtMost(n.rating(e)))
			}
		}
	}
	return sum
}

// sharedRoot reports a source end j of lead i that comes, through straight leads
// alone, from the same outlet as all other ends of the lead, and that outlet.
func (n *Network) sharedRoot(i, j int) (bool, *EndLoad) {
	if len(n.Leads[i].From) < 2 {
		return false, nil
	}
	root := n.rootOf(&n.Leads[i].From[j], 0)
	for k := range n.Leads[i].From {
		if other := n.rootOf(&n.Leads[i].From[k], 0); other.port != root.port || root.port.at < 0 {
			return false, nil
		}
	}
	return true, root
}

func (n *Network) rootOf(e *EndLoad, depth int) *EndLoad {
	if e.port.kind != aLead || depth > len(n.Leads) || len(n.Leads[e.port.part].From) != 1 {
		return e
	}
	return n.rootOf(&n.Leads[e.port.part].From[0], depth+1)
}

// rating is what a pair carries at most; open while a half does not say.
func (n *Network) rating(e *EndLoad) Amps {
	switch e.Fit {
	case Mates, Clashes:
		return units.Exactly(e.Cap.Rating)
	case NoEntry:
		return Amps{}
	}
	if e.sensed() {
		return units.Between(units.Watt(150).Over(twelve), units.Watt(600).Over(twelve))
	}
	return units.Between(0, mostAmps)
}

// A Line is one kind of net that a drawing can show alone.
type Line string

// The lines there are.
const (
	LiveLine   Line = "live"
	V33Line    Line = "3.3 V"
	TurnOnLine Line = "turn-on"
	GroundLine Line = "ground"
)

// Lit reports which leads and which stages are joined with a line of a supply;
// ground is one for all that has a feed.
func (n *Network) Lit(line Line, supply int) (leads, stages []bool) {
	on := func(t net) bool {
		switch line {
		case V33Line:
			return t.v33&bit(supply) != 0
		case TurnOnLine:
			return t.on&bit(supply) != 0
		case GroundLine:
			return t.fed
		default:
			return t.live&bit(supply) != 0
		}
	}
	for i := range n.Leads {
		leads = append(leads, on(n.Leads[i].net))
	}
	for i := range n.stages {
		stages = append(stages, on(n.stages[i]))
	}
	return leads, stages
}
