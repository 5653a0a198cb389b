package bringup

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/gate"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// RehearsalFormat is the format word of a rehearsal.
const RehearsalFormat = "kolvan-rehearsal/1"

// A Rehearsal is an evening played: what happens when the switches are thrown in an order,
// and what a person sees, hears and reads.
type Rehearsal struct {
	Format   string            `json:"format"`
	Order    string            `json:"order"`
	Seed     uint64            `json:"seed"`
	Fault    string            `json:"fault"`
	Orders   []Order           `json:"orders"`
	Events   []Event           `json:"events"`
	End      string            `json:"end"`
	Says     string            `json:"says"` // the end in a sentence
	Hot      *Hot              `json:"hot,omitzero"`
	Findings []finding.Finding `json:"findings"`
}

// An Event is one thing that happens.
type Event struct {
	At    float64    `json:"at_ms"`
	Range [2]float64 `json:"range_ms"`
	What  string     `json:"what"`
	Seen  string     `json:"seen"`
	Track string     `json:"track"`         // the line of the timeline it belongs to
	On    bool       `json:"on"`            // that line goes up, or down
	Rule  string     `json:"rule,omitzero"` // the finding that bites here
	Else  string     `json:"else,omitzero"` // what to think when it is not seen
}

// Works reports an end that a person is content with, or nearly.
func (r *Rehearsal) Works() bool { return r.End == AsPlanned || r.End == BelowPlan }

// Hot is the part that is harmed, or beyond what it may carry.
type Hot struct {
	Rule   string      `json:"rule"`
	Says   string      `json:"says"`
	Chance units.Share `json:"burns_per_hour"`
}

// How an evening ends.
const (
	DoNot     = "do not switch on"
	Apart     = "cannot be put together"
	AsPlanned = "works as planned"
	BelowPlan = "works below plan"
	NoLink    = "no link"
	NoStart   = "no start"
	NoPicture = "no picture"
	Trips     = "trips"
	IsHot     = "hot"
)

// Play rehearses an order that is possible with what switches this rig's supplies on, and
// a fault that it can have.
func (w *World) Play(order string, seed uint64, fault *Fault) (*Rehearsal, error) {
	if fault != nil && !w.may(fault.When) {
		return nil, fmt.Errorf("fault %s: this rig cannot have it, it wants %s", fault.Name, strings.Join(fault.When, " and "))
	}
	if len(w.orders) > 0 && !slices.ContainsFunc(w.orders, func(o Order) bool { return o.Order == order }) {
		names := make([]string, len(w.orders))
		for i := range w.orders {
			names[i] = w.orders[i].Order
		}
		return nil, fmt.Errorf("order %s is not possible with what switches its supply on; possible: %s", order, strings.Join(names, ", "))
	}
	return Rehearse(w, order, seed, fault), nil
}

// Rehearse plays the plan in an order of switching, with a fault of the catalogue or with
// none. The same seed gives the same evening.
func Rehearse(w *World, order string, seed uint64, fault *Fault) *Rehearsal {
	rng := rand.New(rand.NewPCG(seed, 0x6b6f6c76616e))
	faults := w.plansOwn()
	if fault != nil {
		faults = append(faults, fault)
	}
	p := &player{w: w, rng: rng, s: w.stand(faults, nil, throwAll(rng, len(faults)))}
	p.out = &Rehearsal{Format: RehearsalFormat, Order: order, Seed: seed, Orders: w.orders, Findings: []finding.Finding{}}
	if p.out.Orders == nil {
		p.out.Orders = []Order{}
	}
	if fault != nil {
		p.out.Fault = fault.Name
	}
	p.evening(order)
	p.bites()
	slices.SortStableFunc(p.out.Events, func(a, b Event) int { return int(a.At - b.At) })
	return p.out
}

// Forbids says why a plan is not to be switched on, or does not go together, and which of
// the two; both empty for one that may be tried. Clock, finder and sheet read it.
func (w *World) Forbids() (end, says string) {
	switch harm, apart, burns := w.forbidden(); {
	case harm != nil:
		return DoNot, harm.Says
	case apart != nil:
		return Apart, apart.Says
	case burns != nil:
		return DoNot, burns.Says
	}
	return "", ""
}

// forbidden are what may burn at once, what does not go together, and what burns in time,
// of which the first that is there decides; a danger comes before what does not fit.
func (w *World) forbidden() (harm, apart, burns *finding.Finding) {
	harm, apart, burns = w.worst(finding.Harm), w.worst(finding.StayApart), w.worst(finding.Burn)
	if burns != nil {
		apart = nil
	}
	return harm, apart, burns
}

// evening plays it, as far as the verdict lets it: nothing is switched on that does not go
// together or that may burn at once, and what burns in time ends all that comes before it.
func (p *player) evening(order string) {
	harm, apart, burns := p.w.forbidden()
	if harm != nil {
		p.harms(order, harm)
		return
	}
	if apart != nil {
		p.event(
			moment{}, "parts", false, finding.Begin(titled(apart))+".", "It does not go together, or not as it is meant to.", "",
			apart.Rule,
		)
		p.ends(Apart, apart.Says)
		return
	}
	p.switchOn(order)
	p.look()
	p.system()
	p.load()
	if burns == nil {
		return
	}
	says := burns.Says + " It may run for months before it burns."
	if p.ended { // before it was loaded
		says += " And this evening: " + strings.ToLower(p.out.Says[:1]) + p.out.Says[1:]
	}
	p.out.End, p.out.Says, p.out.Hot = DoNot, says, &Hot{burns.Rule, burns.Says, burnsPerHour}
}

// titled is what a finding says in a few words, within a sentence.
func titled(f *finding.Finding) string {
	if f.Title == "" {
		return f.Says
	}
	return finding.Phrase(f.Title)
}

// harms plays up to the moment at which power meets what it harms.
func (p *player) harms(order string, harm *finding.Finding) {
	host, dock, name, up := p.switches(order)
	at, track, what := dock.after(p.draw(up)), "12 V", "12 V is there"
	p.event(host, "host", true, "The host's button is pressed.", "The host's lamp comes on.", "", "")
	if rig.Within(harm.Where, "/host") {
		at, track, what = host, "host power", "The host has power"
	} else {
		p.event(dock, "supply", true, name+" is switched on.", "Its fan twitches.", "", "")
	}
	p.event(
		at, track, false, what+": "+titled(harm)+".", "A click, a smell, smoke; or nothing, and it is broken all the same.",
		"", harm.Rule,
	)
	p.out.Hot = &Hot{harm.Rule, harm.Says, harmsAtOnce}
	p.ends(DoNot, harm.Says+" It may burn at once.")
}

// bites lists the findings that an event is about.
func (p *player) bites() {
	for i := range p.out.Events {
		f, said := p.w.found[p.out.Events[i].Rule]
		if said && !slices.ContainsFunc(p.out.Findings, func(have finding.Finding) bool { return have.Rule == f.Rule }) {
			if f.Clear == nil {
				f.Clear = []finding.Change{}
			}
			p.out.Findings = append(p.out.Findings, f)
		}
	}
}

// lamp words what a dock's lamp does, where there is one.
func (p *player) lamp(says, otherwise string) string {
	if p.w.has["lamp"] {
		return says
	}
	return otherwise
}

type player struct {
	w   *World
	rng *rand.Rand
	s   state
	out *Rehearsal

	up, hostReset, looks, now moment // now is the last moment that all waits for
	ended                     bool
}

// moment is when something happens: this evening, and at all.
type moment struct {
	at  float64
	all Millis
}

func (m moment) after(by moment) moment { return moment{m.at + by.at, m.all.Plus(by.all)} }

// draw is a time of a range.
func (p *player) draw(r Millis) moment {
	return moment{float64(r.Low) + p.rng.Float64()*float64(r.High-r.Low), r}
}

func (p *player) event(m moment, track string, on bool, what, seen, otherwise, rule string) {
	p.out.Events = append(
		p.out.Events,
		Event{
			At: units.Round(m.at, 6), Range: [2]float64{float64(m.all.Low), float64(m.all.High)}, Track: track, On: on, What: what,
			Seen: seen, Else: otherwise, Rule: rule,
		},
	)
}

// switches are the moments at which host and card's supply are switched on, with the
// supply's name and its time to 12 V.
func (p *player) switches(order string) (host, dock moment, name string, up Millis) {
	by := power.WithHost
	name, up = "the supply", p.w.ref.Takes("supply_up")
	for i := range p.w.Rig.Supplies {
		if how, feeds := p.w.net.SwitchedBy(i); feeds {
			by, name, up = how, p.w.Rig.Supplies[i].Name, power.UpOf(&p.w.Rig.Supplies[i], p.w.ref)
		}
	}
	// A hand may take a minute to the other switch, and most evenings a few seconds.
	hand := moment{1000 + 4000*p.rng.Float64(), p.w.ref.Takes("second_hand")}
	toReset := p.draw(p.w.ref.Takes("button_to_reset"))
	switch {
	case by == power.Follows:
		good := p.draw(p.w.ref.Takes("good_to_reset"))
		dock = moment{toReset.at - min(good.at, toReset.at), units.Between(0, toReset.all.High)}
	case by == power.ByHand && order == DockFirst:
		host = hand
	case by == power.ByHand && order == HostFirst:
		dock = hand
	}
	p.hostReset = host.after(toReset)
	return host, dock, name, up
}

// switchOn throws the switches.
func (p *player) switchOn(order string) {
	host, dock, name, up := p.switches(order)
	if f := p.s.blame["host"]; f != nil {
		p.event(host, "host", false, f.Says, "No lamp, no fan: the host stays off.", "", f.Name)
		p.ends(NoStart, "The host does not start: "+f.Says)
		return
	}
	p.event(host, "host", true, "The host's button is pressed.", "The host's lamp comes on.", "Nothing: its mains plug, or its button.", "")
	p.event(p.hostReset, "host reset", true, "The host's reset is released.", "Its fan runs up; it beeps once or not at all.", "", "")
	if p.s.noOn {
		p.event(
			dock, "supply", false, "Nothing pulls the turn-on contact (PS_ON) of "+name+".",
			p.lamp("No lamp on the dock, no fan turns.", "No fan of the card turns."), "", power.RuleTurnOn,
		)
		return
	}
	p.event(
		dock, "supply", true, name+" is switched on.", "Its fan twitches.",
		"Nothing: its switch, or what pulls its turn-on contact (PS_ON).", "",
	)
	p.up = dock.after(p.draw(up))
	if p.s.noDock12 {
		p.event(
			p.up, "12 V", false, "The 12 V of "+name+" does not reach the card's slot.",
			p.lamp("No lamp on the dock; its supply runs.", "No fan of the card turns."), "", power.RuleUnfed,
		)
		return
	}
	p.event(
		p.up, "12 V", true, "12 V is there.",
		p.lamp("The lamp on the dock comes on, the card's fans twitch.", "The card's fans twitch."),
		p.lamp("No lamp: the dock's lead, at both ends.", "No twitch: its leads, at both ends."), "",
	)
	p.event(
		p.up.after(p.draw(units.Between[units.Millisecond](100, 500))), "power-good", true,
		"The supply says that its power is good.", "Nothing to be seen.", "", "",
	)
	p.release()
}

// release lets the card out of reset, if it gets that far.
func (p *player) release() {
	at := p.hostReset
	if p.w.net.HoldsReset() && p.up.at > at.at {
		at = p.up
	}
	at.all = p.hostReset.all.AtLeast(p.up.all)
	switch {
	case p.s.noDock33:
		p.event(at, "card reset", false, "3.3 V is missing: the card stays in reset.", "The lamp is on, no fan turns.", "", "")
	case p.s.noSideband:
		p.event(
			at, "card reset", false, "No clock or no reset reaches the card.", "Its fans run at full and stay there.", "",
			link.RuleSideband,
		)
	case p.s.noPlug:
		p.event(
			at, "card reset", true, "The card waits for its plug.", "Its fans run at full; a lamp beside the plug, or a message.",
			"", power.RuleUnfed,
		)
	default:
		p.event(
			at, "card reset", true, "The card's reset is released.", "Its fans turn, and may then stand still while it is cool.",
			"Fans at full and staying: no reset, or a plug not fed.", "",
		)
	}
}

// look is the firmware's: what is there by now is found.
func (p *player) look() {
	if p.ended {
		return
	}
	p.looks = p.hostReset.after(p.draw(p.w.ref.Takes("reset_to_look")))
	p.now = p.looks
	switch p.s.starts {
	case "refuses":
		p.event(
			p.looks, "firmware looks", false, "The firmware takes only its own cards in this slot.",
			"A message, and the host stops there.", "", gate.RuleAllowList,
		)
		p.ends(NoStart, "The firmware refuses the device and does not go on.")
		return
	case "hangs":
		p.event(
			p.looks, "firmware looks", false, "The firmware finds no place for what it found.", "Dark, for good.", "",
			gate.RuleAddressSpace,
		)
		p.ends(NoStart, "The host stays dark.")
		return
	}
	if ready := max(p.up.at, p.hostReset.at) + float64(power.Training); p.s.powered() &&
		(ready > p.looks.at || !p.w.net.HoldsReset() && p.up.at > p.hostReset.at) {
		p.s.late = true
	}
	width, gen := p.s.trained()
	trained := moment{
		max(p.up.at, p.hostReset.at) + p.rng.Float64()*100,
		p.hostReset.all.AtLeast(p.up.all).Plus(units.Between[units.Millisecond](0, 100)),
	}
	switch {
	case width == 0 && p.s.late:
		p.event(
			p.looks, "firmware looks", true, "The firmware looks, and the card is not up yet: it closes the port.",
			"The host starts as if there were no card.", "", power.RuleOrder,
		)
	case width == 0:
		p.event(
			p.looks, "firmware looks", true, "The firmware looks, and no link answers.",
			"The host starts as if there were no card.", "", p.why(),
		)
	default:
		p.event(trained, "link", true, fmt.Sprintf("The link is up: x%d at Gen %d.", width, gen), p.linkSeen(width, gen), "", "")
		p.event(
			p.looks, "firmware looks", true, "The firmware looks and finds the card.",
			"Dark on the card; the host's own output shows the start.",
			"Nothing anywhere after three minutes: look for the fault.", "",
		)
	}
}

func (p *player) linkSeen(width, gen int) string {
	var less []string
	if width < p.w.width {
		less = append(less, fmt.Sprintf("%d of %d lanes", width, p.w.width))
	}
	if gen < p.w.gen {
		less = append(less, fmt.Sprintf("Gen %d where Gen %d is planned", gen, p.w.gen))
	}
	if less == nil {
		return "Nothing to be seen yet."
	}
	return "Nothing to be seen yet; later it reads " + strings.Join(less, " and ") + "."
}

// why is the rule that says why there is no link, as far as the plan knows.
func (p *player) why() string {
	for _, what := range []string{"lanes", "sideband"} {
		if f := p.s.blame[what]; f != nil {
			return f.Name
		}
	}
	if p.w.is(link.RuleMargin, finding.Risk) {
		return link.RuleMargin
	}
	return ""
}

func (p *player) ends(end, says string) {
	if !p.ended {
		p.ended = true
		p.out.End, p.out.Says = end, says
	}
}

// system starts, and with it the driver and the picture.
func (p *player) system() {
	if p.ended {
		return
	}
	if p.s.starts == "no-drive" {
		p.event(
			p.now, "system", false, "The firmware finds no drive to start from.", "A message about a missing system.", "",
			gate.RuleBootDisplaced,
		)
		p.ends(NoStart, "No drive to start from is found.")
		return
	}
	p.now = p.now.after(p.draw(units.Between[units.Millisecond](10_000, 90_000)))
	p.event(
		p.now, "system", true, "The system is up.", "The host's own output shows it.",
		"Still dark after three minutes: look for the fault.", "",
	)
	switch {
	case !p.s.seen() && p.s.hidden:
		p.event(p.now, "card", false, "The disk mode hides the slot.", "The card is not in the device list.", "", gate.RuleDiskMode)
		p.ends(NoLink, "The link is up, and the system does not see the card.")
	case !p.s.seen():
		p.event(p.now, "card", false, "The card is not there.", "It is missing in the device list.", "", p.why())
		p.ends(NoLink, "No link: the card is not in the device list.")
	case p.s.driver == "no-room":
		p.event(
			p.now, "driver", false, "There is no room for the card's memory window.",
			"The card is in the list with a mark: not enough resources.", "", gate.RuleAddressSpace,
		)
		p.ends(NoPicture, "The card is found and cannot run: its memory window does not fit.")
	case p.s.driver != "":
		p.event(p.now, "driver", false, "No driver runs the card.", "The card is in the list with a mark.", "", gate.RuleDriver)
		p.ends(NoPicture, "The card is found and no driver runs it.")
	default:
		p.picture()
	}
}

func (p *player) picture() {
	if !rig.Is(p.w.Rig.Card.Driver, "fine") {
		p.now = p.now.after(p.draw(units.Between[units.Millisecond](30_000, 300_000)))
		p.event(
			p.now, "driver", true, "The system has fetched the card's driver.", "Dark for minutes, then a flicker.",
			"The system fetches its driver: wait.", "",
		)
	}
	switch p.s.picture {
	case "own", "system-only":
		p.event(
			p.now, "picture", false, "The picture stays on the host's own graphics.",
			"Nothing on the card's output until it is told otherwise.", "", gate.RuleDiscreteActive,
		)
		p.ends(NoPicture, "It runs, and the picture stays on the host's own output.")
	case "elsewhere":
		p.event(p.now, "picture", false, "The picture is on another output.", "Dark here, a picture there.", "", "")
		p.ends(NoPicture, "It runs, and the picture is on another output or input.")
	case "none":
		p.event(p.now, "picture", false, "The screen cannot show what the card sends.", "Dark, or out of range.", "", gate.RulePath)
		p.ends(NoPicture, "It runs, and the screen cannot show it.")
	default:
		p.event(
			p.now, "picture", true, "The picture moves over to the card.", "The screen flickers, and the picture is the card's.",
			"Still on the host's own output: its settings.", "",
		)
	}
}

// load plays ten minutes at the expected draw, and then at the worst.
func (p *player) load() {
	if p.ended {
		return
	}
	p.now = p.now.after(moment{60_000, units.Exactly[units.Millisecond](60_000)})
	if p.s.errors() {
		p.event(
			p.now, "load", true, "The link drops packets and sends them again.",
			"It stutters, or a use stops; errors are counted.", "", link.RuleMargin,
		)
	}
	switch p.s.loaded() {
	case "trips":
		says, rule := "A spike is more than the supply rides out.", power.RuleSpike
		if f := p.s.blame["load"]; f != nil {
			says, rule = f.Says, f.Name
		}
		p.event(p.now, "load", false, says, "A click, and all dark.", "", rule)
		p.ends(Trips, "The supply trips under load.")
		return
	case "drops":
		p.event(
			p.now, "load", false, "The 12 V at the card sinks under load.", "The screen goes dark, the fans run up.", "",
			power.RuleDrop,
		)
		p.ends(Trips, "The card drops out under load: its 12 V sinks.")
		return
	case "crashes":
		p.event(
			p.now, "load", false, "Errors pile up until the driver gives up.", "The use stops, or the screen freezes.", "",
			link.RuleMargin,
		)
		p.ends(BelowPlan, "It runs until it is loaded.")
		return
	}
	p.event(
		p.now, "load", true, "Ten minutes at the expected draw.", "It runs; every plug stays cool enough to hold.",
		"A plug too hot to hold: off at the mains.", "",
	)
	p.now = p.now.after(moment{600_000, units.Exactly[units.Millisecond](600_000)})
	if burns := p.w.worst(finding.Burn); burns != nil {
		p.event(p.now, "load", false, "At the worst draw: "+titled(burns)+".", "A plug grows hot, smells, browns.", "", burns.Rule)
		return
	}
	if p.perhaps() {
		return
	}
	p.event(p.now, "load", true, "Ten minutes at the worst draw.", "It holds.", "", "")
	p.against()
}

// perhaps ends every second evening (P) in heat, where a question is open whose answer may be
// that something carries more than it may.
func (p *player) perhaps() bool {
	for i := range p.w.open {
		f := &p.w.open[i]
		if f.Row() == nil || f.Row().Evening[finding.Danger].Effect != finding.Burn || p.rng.Float64() < 0.5 {
			continue
		}
		p.event(
			p.now, "load", true, "At the worst draw, if the answer is the bad one: "+titled(f)+".",
			"A plug grows hot, smells, browns.", "", f.Rule,
		)
		p.out.Hot = &Hot{f.Rule, f.Says, burnsPerHour}
		p.ends(IsHot, "It runs, and something may be beyond what it carries. "+f.Says)
		return true
	}
	return false
}

// against holds what runs against what was planned.
func (p *player) against() {
	width, gen := p.s.trained()
	switch {
	case width < p.w.width || gen < p.w.gen:
		p.ends(BelowPlan, fmt.Sprintf("It runs with x%d at Gen %d, where x%d at Gen %d is planned.", width, gen, p.w.width, p.w.gen))
	case p.s.errors():
		p.ends(BelowPlan, "It runs, with errors on the link.")
	case p.s.ownWork:
		p.ends(BelowPlan, "It runs, and the work stays on the host's own graphics.")
	default:
		p.ends(AsPlanned, fmt.Sprintf("The link runs x%d at Gen %d and holds under load.", width, gen))
	}
}
