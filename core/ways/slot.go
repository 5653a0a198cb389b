package ways

import (
	"context"
	"math"
	"slices"

	"kolvan/core/assess"
	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/gate"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A slotSearch looks for the ways from one slot to one card.
type slotSearch struct {
	*search
	place
	moves   [][]rig.Displaced // every choice of new places
	sharing bool              // the link hangs on the new places too
	classes map[string]*class
	order   []*class // as they were found
	scratch rig.Rig  // for chains
}

// A class is all chains of a slot that are the same to the rules of power, and so
// have the same feeds.
type class struct {
	stages []int // of the first of them
	count  int
	chains []front[chain] // by new places where the link hangs on them, else one
}

type chain struct {
	stages []int
	forced int
	merit  merit
}

type feed struct {
	at    int
	merit merit
}

func ofPlan(p *plan) *merit   { return &p.merit }
func ofChain(c *chain) *merit { return &c.merit }
func ofFeed(f *feed) *merit   { return &f.merit }

// slot adds the plans from one slot to one card that no other of their class beats.
func (s *search) slot(ctx context.Context, p place) error {
	at := slotSearch{
		search: s, place: p, moves: moves(p.base, p.from, s.Rig.Route.Displaced), sharing: rig.Is(p.from.Behind, rig.Chipset),
		classes: map[string]*class{},
	}
	if err := at.gather(ctx); err != nil {
		return err
	}
	always := s.constant(p.base)
	for _, c := range at.order {
		var kept front[plan]
		feeds, count := at.feeds(c)
		s.tried += c.count * count * len(at.moves)
		for i, move := range at.moves {
			if !s.spend(movesEffort) {
				break
			}
			moved := always.with(at.moved(c, move))
			for _, one := range c.chains[at.group(i)].kept {
				for _, f := range feeds {
					m := s.budgeted(moved.with(one.merit).with(f.merit))
					kept.add(plan{p.base, one.stages, one.forced, move, f.at, m}, ofPlan)
				}
			}
		}
		s.plans = append(s.plans, kept.kept...)
		if err := ctx.Err(); err != nil {
			return err
		}
	}
	if len(at.order) == 0 {
		s.plans = append(s.plans, plan{base: p.base, feed: noFeed, merit: merit{stops: 1}})
	}
	return nil
}

// noFeed stands for a plan that is not fed.
const noFeed = -1

// gather judges the link of every chain of stages from the slot to one that the card's own
// edge goes into.
func (s *slotSearch) gather(ctx context.Context) error {
	s.scratch = *s.base
	edge, inBox := s.base.Card.EdgeForm(), rig.Is(s.base.Card.BuiltIn, true) && len(s.Rig.Route.Stages) > 0
	if rig.Is(s.from.Form, edge) && !inBox {
		s.chain(nil)
	}
	var path [mostStages]int
	var err error
	var extend func(depth int)
	extend = func(depth int) {
		if err = ctx.Err(); err != nil || !s.spend(chainEffort) {
			return
		}
		last := &s.parts.Stages[path[depth-1]]
		if rig.Is(last.Socket.Form, edge) && (!inBox || boxed(s.Rig, last.Name)) {
			s.chain(path[:depth])
		}
		if depth == mostStages {
			return
		}
		for _, next := range s.joined[path[depth-1]] {
			if !slices.Contains(path[:depth], next) && s.madeFor(next) {
				path[depth] = next
				extend(depth + 1)
			}
		}
	}
	for i := range s.parts.Stages {
		if s.madeFor(i) && (link.Begins(s.from, &s.parts.Stages[i]) || s.ownCable(i)) {
			path[0] = i
			extend(1)
		}
	}
	return err
}

// ownCable reports the box that the card is built into where the plan has it at a port of
// this form without a cable between: it has one of its own.
func (s *slotSearch) ownCable(stage int) bool {
	box := &s.parts.Stages[stage]
	return len(s.Rig.Route.Stages) == 1 && boxed(s.Rig, box.Name) && rig.Is(s.from.Form, box.Plug.Form.Or(""))
}

// madeFor reports a stage that was not made for other hosts alone: one that was works
// nowhere else.
func (s *slotSearch) madeFor(stage int) bool {
	made, told := s.parts.Stages[stage].MadeFor.Get()
	return !told || slices.Contains(made, s.base.Host.Name)
}

// mostStages are the stages of a chain at the most.
const mostStages = 4

// chain judges one chain, unless one of its class is certain to beat it whatever
// the rules say of it.
func (s *slotSearch) chain(stages []int) {
	c := s.classOf(stages)
	c.count++
	for _, i := range stages {
		if s.worse[i] {
			return
		}
	}
	bound := s.bound(stages)
	for i := range c.chains {
		if beaten(&c.chains[i], &bound, ofChain) {
			continue
		}
		s.scratch.Route.Stages = s.scratch.Route.Stages[:0]
		for _, k := range stages {
			s.scratch.Route.Stages = append(s.scratch.Route.Stages, s.parts.Stages[k])
		}
		s.scratch.Route.Displaced = s.moves[i]
		s.link(&c.chains[i], stages)
	}
}

// link judges the link of the scratch rig, and where its loss is what speaks
// against it, at lower speeds too.
func (s *slotSearch) link(f *front[chain], stages []int) {
	for forced := 0; s.spend(linkEffort); {
		s.scratch.Route.ForcedGen = rig.Fact[int]{}
		if forced > 0 {
			s.scratch.Route.ForcedGen = rig.Of(forced)
		}
		plan := &s.plan
		plan.Work(&s.scratch, s.ref)
		s.lists.Empty()
		plan.Judge(&s.lists)
		fit.JudgeAdapter(&s.scratch, &s.lists)
		gate.JudgeKnown(&s.scratch, &s.lists)
		m := linkMerit(plan).counting(s.lists.Findings).seen(&s.scratch)
		for i := range s.scratch.Route.Stages {
			cost, by, open := s.costOf(&s.scratch.Route.Stages[i])
			m.cost, m.by, m.open = m.cost+cost, m.by+by, m.open+open
		}
		f.add(chain{append([]int(nil), stages...), forced, m}, ofChain)
		if forced = plan.GenEnds.High - 1; forced < 1 || !lossy(s.lists.Findings) {
			return
		}
	}
}

// lossy reports findings that a lower speed may clear.
func lossy(findings []finding.Finding) bool {
	for i := range findings {
		if findings[i].Rule == link.RuleMargin && findings[i].Level != finding.Note {
			return true
		}
	}
	return false
}

// linkMerit is what a link gives, and how surely as far as its loss tells.
func linkMerit(p *link.Plan) merit {
	m := merit{least: float64(p.NetEnds.Low), most: float64(p.NetEnds.High), sure: 1}
	if planned, known := p.Planned(); known {
		m.sure = inHundredths(float64(planned.Chance().Low))
	}
	return m
}

// seen takes from the doubt of a link for each time that it was seen to work on this host.
func (m merit) seen(r *rig.Rig) merit {
	m.sure = 1 - (1-m.sure)*math.Pow(afterSeen, gate.SeenToWork(r))
	return m
}

// ofLink reports a finding that hangs on the parts of the route alone.
func ofLink(f *finding.Finding) bool {
	return rig.Within(f.Where, "/route") && f.Rule == fit.RuleBracket || f.Rule == gate.RuleKnown || link.Has(f.Rule)
}

// inHundredths: a chance is told, and weighed, in hundredths.
func inHundredths(chance float64) float64 { return math.Round(chance*100) / 100 }

// costOf is what a stage still costs, how far that goes either way, and whether it is open.
func (s *search) costOf(st *rig.Stage) (cost, by float64, open int) {
	c, off, known := s.prices.Of(st.Name, &st.Price)
	if !known {
		return 0, 0, 1
	}
	return float64(c), float64(off), 0
}

// bound is as good as the chain can be, whatever the rules say: its least lanes at its
// least generation, for certain. A tunnel has a rate of its own.
func (s *slotSearch) bound(stages []int) merit {
	lanes, gen := s.from.Lanes.Or(mostLanes), s.from.Gen.Or(fastest)
	m := merit{sure: 1}
	for _, i := range stages {
		st := &s.parts.Stages[i]
		lanes, gen = min(lanes, st.Lanes.Or(mostLanes)), min(gen, st.Gen.Or(fastest))
		cost, by, open := s.costOf(st)
		m.cost, m.by, m.open = m.cost+cost, m.by+by, m.open+open
	}
	m.most = float64(link.Raw(s.ref, lanes, gen)) * link.Efficiency(s.ref, gen, s.base.Route.Payload)
	if !s.from.Form.Known || s.from.Form.Value == rig.Tunnel {
		m.most = math.Inf(1)
	}
	m.least = m.most
	return m
}

const (
	mostLanes = 16
	fastest   = 6
)

// beaten reports a bound that something on the front is as good as.
func beaten[T any](f *front[T], bound *merit, merit func(*T) *merit) bool {
	for i := range f.kept {
		if k := merit(&f.kept[i]); k.beats(bound) || k.same(bound) {
			return true
		}
	}
	return false
}

// classOf finds the class of a chain, or makes it.
func (s *slotSearch) classOf(stages []int) *class {
	var key [2 * mostStages]byte
	for i, k := range stages {
		id := s.electric[k]
		key[2*i], key[2*i+1] = byte(id>>8)+1, byte(id)
	}
	if c := s.classes[string(key[:])]; c != nil {
		return c
	}
	c := &class{stages: append([]int(nil), stages...), chains: make([]front[chain], 1)}
	if s.sharing {
		c.chains = make([]front[chain], len(s.moves))
	}
	s.classes[string(key[:])] = c
	s.order = append(s.order, c)
	return c
}

// group is the place of the chains that go with a choice of new places.
func (s *slotSearch) group(move int) int {
	if s.sharing {
		return move
	}
	return 0
}

// feeds judges every way to feed a class of chains, and counts them; what cannot be
// fed at all is kept as it stands.
func (s *slotSearch) feeds(c *class) ([]feed, int) {
	bare := s.chained(&plan{base: s.base, stages: c.stages})
	var before merit
	before.priced(bare)
	fans := fansOf(s.base)
	var kept front[feed]
	count := 0
	judge := func(r *rig.Rig, at int) {
		m := sound()
		m.priced(r)
		m.less(&before)
		m.fans = fansOf(r) - fans
		if beaten(&kept, &m, ofFeed) {
			return // whatever the rules say of it
		}
		s.network.Work(r, s.ref)
		s.lists.Empty()
		s.network.Judge(&s.lists)
		fit.JudgeSupplies(r, &s.lists)
		m = m.counting(s.lists.Findings)
		if !r.Holds() {
			m.stops++
		}
		kept.add(feed{at, m}, ofFeed)
	}
	if !s.spend(Effort((1 + len(bare.Supplies)) * (1 + len(s.parts.Supplies)) * (1 + inletsOf(bare)))) {
		return nil, 0
	}
	assess.Feeds(bare, s.ref, s.parts, func(r *rig.Rig) bool {
		judge(r, count)
		count++
		return s.spend(feedEffort * Effort(1+len(r.Supplies)/8))
	})
	if count == 0 {
		judge(bare, noFeed)
		count++
	}
	return kept.kept, count
}

// inletsOf counts the places where a lead may end: each is tried with each supply.
func inletsOf(r *rig.Rig) (n int) {
	for i := range r.Route.Stages {
		n += len(r.Route.Stages[i].Inlets)
	}
	return n + len(r.Card.Plugs)
}

// fansOf counts the supplies in use that have a fan.
func fansOf(r *rig.Rig) (n int) {
	for i := range r.Supplies {
		if s := &r.Supplies[i]; power.WaitsToBeSwitched(s) && inUse(r, s.Name) {
			n++
		}
	}
	return n
}

func inUse(r *rig.Rig, supply string) bool {
	for i := range r.Route.Stages {
		if r.Route.Stages[i].Supply == supply {
			return true
		}
	}
	return r.Host.Supply == supply || r.Draws(supply, "")
}

// moved judges new places for what a class of chains displaces, what they cost (an enclosure,
// another drive), and what the brief says of them.
func (s *slotSearch) moved(c *class, to []rig.Displaced) merit {
	var before merit
	before.priced(s.chained(&plan{base: s.base, stages: c.stages}))
	r := s.chained(&plan{base: s.base, stages: c.stages, moves: to})
	r.Brief.Budget = rig.Fact[units.Money]{} // what all costs is held to it at the end
	s.lists.Empty()
	gate.Judge(r, s.ref, &s.lists)
	// it hangs on the chain
	s.lists.Findings = slices.DeleteFunc(s.lists.Findings, func(f finding.Finding) bool { return f.Rule == gate.RuleKnown })
	brief.Judge(r, &s.lists)
	m := sound().counting(s.lists.Findings)
	m.priced(r)
	m.less(&before)
	m.moved = movedOf(r)
	return m
}

// movedOf counts the devices that leave their places.
func movedOf(r *rig.Rig) int {
	n := len(r.Route.Displaced)
	if slot := r.Slot(r.Route.Slot); slot != nil && slot.Occupant.Known && slot.Occupant.Value != rig.NoOccupant &&
		r.NewHome(slot.Occupant.Value) == nil {
		n++
	}
	return n
}

// constant is what all ways of a host to a card have in common: what fits, but for the supplies.
func (s *search) constant(base *rig.Rig) merit {
	s.lists.Empty()
	unfed := *base
	unfed.Supplies = nil
	fit.For(&unfed, s.ref).Judge(&s.lists)
	m := sound().counting(s.lists.Findings)
	m.priced(base)
	m.fans = fansOf(base)
	return m
}

// budgeted holds what a whole way costs to the budget.
func (s *search) budgeted(m merit) merit {
	budget, known := s.Rig.Brief.Budget.Get()
	switch {
	case !known:
	case m.cost-m.by+float64(s.paid.Low) > float64(budget):
		m.sure *= afterRisk
	case m.cost+m.by+float64(s.paid.High) > float64(budget), m.open > 0:
		m.sure *= afterQuestion
	}
	return m
}
