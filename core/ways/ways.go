// Package ways looks for every whole way from the slots of a host to a card: the
// stages between, where the occupants go, what feeds it all and by which leads.
//
// The choices fall into parts that the rules judge apart: the link of a chain of
// stages, the new places of what it displaces, and the feeds of what the chain has
// of docks and risers. Each part is judged once by the same rules as a rig, what is
// beaten within its part is dropped, and only the rest is put together. Every way in
// the answer has then been assessed as a whole rig.
package ways

import (
	"cmp"
	"context"
	"reflect"
	"slices"
	"time"

	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Format is the format word of an answer.
const Format = "kolvan-ways/1"

// A Question is a rig whose ways are wanted: from its host, or where it names none
// from each host of the parts; to its card, or to each card of the parts. AnyHost and
// AnyCard try those of the parts beside its own.
type Question struct {
	Rig     *rig.Rig
	Parts   *assess.Bins
	Weights Weights
	Own     bool // only with what is owned, host and card of the rig aside
	AnyHost bool
	AnyCard bool
	// Effort bounds the search; zero stands for UsualEffort. An answer says where more
	// could be tried.
	Effort Effort
	// Progress is told after each slot and card, where it is not nil.
	Progress func(done, of int)
}

// Effort is what a search may take, in about a sixth of a microsecond.
type Effort int

// UsualEffort finds all there is to find among some hundred parts.
const UsualEffort Effort = 60_000_000

// What steps of the search take of the effort.
const (
	chainEffort Effort = 1
	linkEffort  Effort = 60
	movesEffort Effort = 60
	feedEffort  Effort = 200
	placeEffort Effort = 500
)

// spend takes effort and reports that there was some left.
func (s *search) spend(e Effort) bool {
	if s.left < e {
		s.untried = true
		return false
	}
	s.left -= e
	return true
}

// An Answer holds the ways, the best by the weights first.
type Answer struct {
	Format  string    `json:"format"`
	Rig     string    `json:"rig"`
	Tried   int       `json:"tried"` // combinations of slot, stages, new places and feeds that were covered
	Seconds float64   `json:"seconds"`
	Weights Weights   `json:"weights"`
	Ways    []Way     `json:"ways"`
	Failed  []Failure `json:"failed"`
	Untried bool      `json:"more_to_try,omitzero"` // more could be tried than the effort allowed
}

// A Way is a whole plan, and what speaks for it and against it.
type Way struct {
	Patch     jsontext.Value  `json:"patch"` // of the rig file
	Says      string          `json:"says"`
	From      string          `json:"from"` // name of the slot
	Host      string          `json:"host"`
	Card      string          `json:"card"`
	Stages    []string        `json:"stages"`
	Supply    string          `json:"supply"` // that feeds the card
	Leads     []string        `json:"leads"`
	Figures   assess.Figures  `json:"figures"`
	Bounds    assess.Bounds   `json:"bounds"`
	Worst     *Worst          `json:"worst"` // null for none
	Displaced []rig.Displaced `json:"displaced"`
	ToBuy     [2]*float64     `json:"to_buy"`    // the far end is null where a price is not told
	Score     float64         `json:"score"`     // 0 to 1
	BeatenBy  *int            `json:"beaten_by"` // place of the way that is as good in everything and better in something

	Rig    *rig.Rig       `json:"-"`
	Report *assess.Report `json:"-"`
	merit  merit
}

// Worst is the worst finding of a way.
type Worst struct {
	Rule  string        `json:"rule"`
	Level finding.Level `json:"level"`
	Says  string        `json:"says"`
}

// A Failure is a way that looks good but for one finding that forbids it.
type Failure struct {
	Patch  jsontext.Value `json:"patch"`
	Says   string         `json:"says"` // the finding
	Way    string         `json:"way"`
	Supply string         `json:"supply"`
	From   string         `json:"from"`
	Rule   string         `json:"rule"`
	Level  finding.Level  `json:"level"`

	Rig *rig.Rig `json:"-"`
}

// So many ways that nothing beats are told, so many that are beaten, and so many that
// fail; where nothing works, at least so many of these.
const (
	mostUnbeaten = 48
	mostBeaten   = 16
	mostFailed   = 8
	leastFail    = 3
)

// Search finds the ways. It ends with the context, whose error it returns.
func Search(ctx context.Context, q Question, ref *reference.Tables) (*Answer, error) {
	began := time.Now()
	s := newSearch(q, ref)
	places := s.places()
	for i, p := range places {
		if !s.spend(placeEffort) {
			break
		}
		if err := s.slot(ctx, p); err != nil {
			return nil, err
		}
		if q.Progress != nil {
			q.Progress(i+1, len(places))
		}
	}
	answer := &Answer{
		Format: Format, Rig: q.Rig.Name, Tried: s.tried, Untried: s.untried, Weights: q.Weights, Ways: []Way{},
		Failed: []Failure{},
	}
	if err := s.answer(answer); err != nil {
		return nil, err
	}
	answer.Seconds = units.Round(time.Since(began).Seconds(), units.ReportDigits)
	return answer, nil
}

// A search gathers the plans that nothing of their own slot beats.
type search struct {
	Question
	ref      *reference.Tables
	parts    *assess.Bins // with the parts of the rig itself
	plans    []plan
	tried    int
	lists    finding.List
	plan     link.Plan     // of the chain at hand
	network  power.Network // of the feeds at hand
	joined   [][]int       // of each stage, the stages that go into it
	electric []int         // of each stage, the number of its electric kind
	prices   ledger.Prices
	paid     units.Range[units.Money] // already, of the budget
	left     Effort
	untried  bool
	worse    []bool // of each stage, whether another does all for it
}

// A plan is a way that was put together of its parts and not assessed as a whole.
type plan struct {
	base   *rig.Rig // host, card and slot
	stages []int    // of the parts
	forced int      // generation, 0 for none
	moves  []rig.Displaced
	feed   int // which of the feeds of base with the stages
	merit  merit
}

// A place is where ways begin and end: a slot of a host, and a card.
type place struct {
	base *rig.Rig
	from *rig.Slot
}

func newSearch(q Question, ref *reference.Tables) *search {
	s := &search{
		Question: q, ref: ref, parts: withOwn(q.Parts, q.Rig), lists: finding.List{Silent: true},
		prices: ledger.PricesOf(q.Rig), left: cmp.Or(q.Effort, UsualEffort),
	}
	s.paid, _ = ledger.Committed(q.Rig)
	if q.Own {
		s.parts = owned(s.parts)
	}
	stages := s.parts.Stages
	s.joined = make([][]int, len(stages))
	for i := range stages {
		for j := range stages {
			if i != j && !stacked(&stages[i], &stages[j]) && link.Follows(&stages[i], &stages[j]) {
				s.joined[i] = append(s.joined[i], j)
			}
		}
	}
	s.electric = electricOf(stages)
	s.worse = s.worseOf(stages)
	return s
}

// stacked reports what nobody builds: a card edge, of a riser or of a card with a link socket,
// in a card slot that stands on a dock, on a riser or at the end of a ribbon.
func stacked(below, above *rig.Stage) bool {
	kind, known := below.Kind.Get()
	return known && kind != rig.Adapter && rig.Is(above.Plug.Form, rig.CardSlot)
}

// worseOf marks the stages that another does all for, being as short and as cheap: a
// chain with it is as good at the least.
func (s *search) worseOf(stages []rig.Stage) []bool {
	worse := make([]bool, len(stages))
	for i := range stages {
		for j := range stages {
			worse[i] = worse[i] || i != j && !worse[j] && s.replaces(&stages[j], &stages[i])
		}
	}
	return worse
}

// replaces reports a stage that differs from another in length and price alone, and
// is neither longer nor dearer.
func (q *search) replaces(s, other *rig.Stage) bool {
	cost, by, open := q.costOf(s)
	others, most, without := q.costOf(other)
	if !s.Length.Known || !other.Length.Known || s.Length.Tolerance > other.Length.Tolerance || s.Length.Value > other.Length.Value ||
		cost > others ||
		by > most ||
		open > without {
		return false
	}
	if !link.SameLines(s, other) {
		return false // a long dock hangs on a ribbon, which loses less than a board
	}
	if rig.Is(s.Repeats, rig.Redriver) && s.Length.Value != other.Length.Value {
		return false // the more was lost before it, the more it gives back
	}
	a, b := *s, *other
	a.Name, a.Length, a.Price = b.Name, b.Length, b.Price
	return reflect.DeepEqual(&a, &b)
}

// electricOf numbers the stages by all that the rules of power read of them.
func electricOf(stages []rig.Stage) []int {
	var kinds []rig.Stage
	ids := make([]int, len(stages))
	for i := range stages {
		s := &stages[i]
		kind := rig.Stage{Kind: s.Kind, Plug: rig.Joint{Form: s.Plug.Form}, Socket: rig.Joint{Form: s.Socket.Form}, Inlets: s.Inlets,
			Outlets: s.Outlets,
			Power:   s.Power, Switches: s.Switches,
			Passes: s.Passes, Passes3V3: s.Passes3V3, SlotLimit: s.SlotLimit, Makes3V3: s.Makes3V3, TurnsOn: s.TurnsOn, Supply: s.Supply,
			Holds: s.Holds}
		ids[i] = slices.IndexFunc(kinds, func(k rig.Stage) bool { return reflect.DeepEqual(&k, &kind) })
		if ids[i] < 0 {
			ids[i] = len(kinds)
			kinds = append(kinds, kind)
		}
	}
	return ids
}

// withOwn adds the parts of the rig itself to those at hand: what is planned can be
// planned again.
func withOwn(parts *assess.Bins, r *rig.Rig) *assess.Bins {
	all := *parts
	all.Stages, all.Leads, all.Supplies = nil, nil, nil
	for i := range r.Route.Stages {
		own := r.Route.Stages[i]
		if !boxed(r, own.Name) {
			own.Supply = "" // a supply that was named for it is fed anew
		}
		if i := slices.IndexFunc(parts.Stages, func(s rig.Stage) bool { return s.Name == own.Name }); i >= 0 {
			own.Supply = parts.Stages[i].Supply
		}
		all.Stages = append(all.Stages, own)
	}
	for _, s := range parts.Stages {
		if r.Stage(s.Name) == nil {
			all.Stages = append(all.Stages, s)
		}
	}
	for _, l := range r.Leads {
		if len(l.To) == 1 && l.To[0].Connector.Known && l.Wires == nil && len(l.From) > 0 && l.From[0].Connector.Known &&
			l.From[0].Connector.Value != l.To[0].Connector.Value {
			all.Leads = append(all.Leads, l)
		}
	}
	for _, l := range parts.Leads {
		if r.Lead(l.Name) == nil {
			all.Leads = append(all.Leads, l)
		}
	}
	kept := assess.WithoutFeeds(r)
	for _, own := range r.Supplies {
		if kept.Supply(own.Name) == nil && own.Inlets == nil {
			all.Supplies = append(all.Supplies, own)
		}
	}
	for _, own := range parts.Supplies {
		if r.Supply(own.Name) == nil {
			all.Supplies = append(all.Supplies, own)
		}
	}
	return &all
}

// boxed reports the stage that the rig's card is built into: the last one. It has its own
// supply, and the card does not leave it.
func boxed(r *rig.Rig, stage string) bool {
	n := len(r.Route.Stages)
	return rig.Is(r.Card.BuiltIn, true) && n > 0 && r.Route.Stages[n-1].Name == stage
}

// places lists the slots of every host with every card.
func (s *search) places() (all []place) {
	for _, host := range s.hosts() {
		for _, base := range s.cards(host) {
			for i := range base.Host.Slots {
				at := *base
				at.Route.Slot = base.Host.Slots[i].Name
				all = append(all, place{&at, &base.Host.Slots[i]})
			}
		}
	}
	return all
}

// hosts are the rig with each host, without route and feeds.
func (s *search) hosts() (all []*rig.Rig) {
	bare := assess.WithoutFeeds(s.Rig)
	bare.Route = rig.Route{Payload: s.Rig.Route.Payload, Modified: s.Rig.Route.Modified}
	own := len(bare.Host.Slots) > 0 || bare.Host.Name != ""
	if own {
		all = append(all, bare)
	}
	if own && !s.AnyHost {
		return all
	}
	for _, host := range s.parts.Hosts {
		if host.Name != bare.Host.Name {
			all = append(all, assess.WithHost(bare, host, s.parts.Supplies))
		}
	}
	return all
}

func (s *search) cards(host *rig.Rig) (all []*rig.Rig) {
	own := host.Card.Name != "" || host.Card.Power.Known
	if own {
		all = append(all, host)
	}
	if own && !s.AnyCard {
		return all
	}
	for _, card := range s.parts.Cards {
		if card.Name != host.Card.Name {
			all = append(all, assess.WithCard(host, card))
		}
	}
	return all
}

// whole puts a plan together.
func (s *search) whole(p *plan) *rig.Rig {
	r := s.chained(p)
	if p.feed < 0 {
		return r
	}
	fed, at := r, 0
	assess.Feeds(r, s.ref, s.parts, func(c *rig.Rig) bool {
		fed = c
		at++
		return at <= p.feed
	})
	return fed
}

// chained is a plan without its feeds.
func (s *search) chained(p *plan) *rig.Rig {
	r := p.base
	for _, i := range p.stages {
		r = assess.WithStage(r, s.parts.Stages[i], s.parts.Supplies)
	}
	c := *r
	c.Route.Stages = s.leaving(r)
	c.Route.Displaced = p.moves
	if p.forced > 0 {
		c.Route.ForcedGen = rig.Of(p.forced)
	}
	ledger.KeepPaid(s.Rig, &c)
	return &c
}

// leaving are the stages of a plan, with the way out that a cable from the same slot of the
// same host has in the plan at hand: it belongs to slot and case, not to the cable.
func (s *search) leaving(r *rig.Rig) []rig.Stage {
	if r.Host.Name != s.Rig.Host.Name || r.Route.Slot != s.Rig.Route.Slot {
		return r.Route.Stages
	}
	at := slices.IndexFunc(s.Rig.Route.Stages, func(st rig.Stage) bool { return st.Exit.Known })
	if at < 0 {
		return r.Route.Stages
	}
	stages := slices.Clone(r.Route.Stages)
	for i := range stages {
		if st := &stages[i]; rig.Is(st.Kind, rig.Cable) && !st.Exit.Known {
			st.Exit, st.Openings = s.Rig.Route.Stages[at].Exit, s.Rig.Route.Stages[at].Openings
		}
	}
	return stages
}

// priced sets what a rig's parts cost, how far that goes either way, and the parts
// without a price.
func (m *merit) priced(r *rig.Rig) {
	ends, without := ledger.ToBuy(r)
	m.cost, m.by, m.open = float64(ends.Low+ends.High)/2, float64(ends.High-ends.Low)/2, len(without)
}

// less is what one rig costs more than another.
func (m *merit) less(o *merit) {
	m.cost, m.by, m.open = m.cost-o.cost, m.by-o.by, m.open-o.open
}
