package ways

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/proof"
	"kolvan/core/rig"
)

// Weights are what a person weighs a way by, each 0 to 10.
type Weights struct {
	Lanes      float64 `json:"lanes"`
	Certainty  float64 `json:"certainty"`
	Cost       float64 `json:"cost"`
	Reversible float64 `json:"reversible"`
	Noise      float64 `json:"noise"`
}

// Usual are the weights while nobody says otherwise.
var Usual = Weights{Lanes: 3, Certainty: 2, Cost: 1, Reversible: 2, Noise: 1}

// mostWeight is the largest weight.
const mostWeight = 10

// Each visits the weights by their names.
func (w *Weights) Each(visit func(name string, weight *float64)) {
	visit("lanes", &w.Lanes)
	visit("certainty", &w.Certainty)
	visit("cost", &w.Cost)
	visit("reversible", &w.Reversible)
	visit("noise", &w.Noise)
}

// Parse sets the weights a text names, as lanes=3,cost=1; the others keep theirs.
func (w *Weights) Parse(text string) error {
	for _, part := range strings.Split(text, ",") {
		if strings.TrimSpace(part) == "" {
			continue
		}
		name, typed, _ := strings.Cut(part, "=")
		value, err := strconv.ParseFloat(strings.TrimSpace(typed), 64)
		if err != nil || !(value >= 0 && value <= mostWeight) {
			return &rig.FieldError{
				Path: "weigh/" + strings.TrimSpace(name), Value: strconv.Quote(strings.TrimSpace(typed)),
				Accepts: fmt.Sprintf("a number from 0 to %d, as in lanes=3", mostWeight),
			}
		}
		set := false
		w.Each(func(known string, weight *float64) {
			if known == strings.TrimSpace(name) {
				*weight, set = value, true
			}
		})
		if !set {
			return &rig.FieldError{
				Path: "weigh", Value: strconv.Quote(strings.TrimSpace(name)), Accepts: "lanes, certainty, cost, reversible or noise",
			}
		}
	}
	return nil
}

// merit is how well a way, or a part of one, does in each of what a person weighs.
type merit struct {
	stops int     // findings that forbid it
	least float64 // net GB/s that is certain
	most  float64 // and at the most
	sure  float64 // chance that the link is stable there, less for each risk and each open question
	cost  float64 // to buy
	by    float64 // how far that goes either way
	open  int     // parts without a price
	moved int     // devices that leave their places
	fans  int     // supplies with a fan
}

// What a risk and an open question leave of certainty (P).
const (
	afterRisk     = 0.6
	afterQuestion = 0.85
	afterSeen     = 0.5 // of the doubt of a link, for each time it was seen to work on this host
)

// sound is the merit of a part that says nothing of the others.
func sound() merit { return merit{sure: 1} }

// counting takes findings into account. What is said of money is weighed as cost, and of what a
// link is good for as its rate: neither is a doubt of the way.
func (m merit) counting(findings []finding.Finding) merit {
	for i := range findings {
		switch f := &findings[i]; {
		case f.Level >= finding.Blocked:
			m.stops++
		case f.Row().Station == finding.Ledger, proof.Has(f.Rule):
		case f.Level == finding.Unknown && !f.Row().Step:
			m.sure *= afterQuestion
		case f.Level == finding.Risk:
			m.sure *= afterRisk
		}
	}
	return m
}

// with joins the merits of two parts of a way.
func (m merit) with(o merit) merit {
	return merit{
		m.stops + o.stops, m.least + o.least, m.most + o.most, m.sure * o.sure, m.cost + o.cost, m.by + o.by, m.open + o.open,
		m.moved + o.moved, m.fans + o.fans,
	}
}

// nearly is what two figures may differ by and count as the same.
const nearly = 1e-9

// beats reports a merit that is as good in everything, and better in something.
func (m *merit) beats(o *merit) bool {
	better := false
	for _, d := range [...]float64{float64(o.stops - m.stops), m.least - o.least, m.most - o.most, m.sure - o.sure,
		o.cost - m.cost, o.by - m.by, float64(o.open - m.open), float64(o.moved - m.moved), float64(o.fans - m.fans)} {
		if d < -nearly {
			return false
		}
		better = better || d > nearly
	}
	return better
}

func (m *merit) same(o *merit) bool {
	return m.stops == o.stops && alike(m.least, o.least) && alike(m.most, o.most) && alike(m.sure, o.sure) && alike(m.cost, o.cost) &&
		alike(m.by, o.by) &&
		m.open == o.open && m.moved == o.moved &&
		m.fans == o.fans
}

func alike(a, b float64) bool { return math.Abs(a-b) <= nearly }

// scale is what scores are measured by: the fastest and the dearest of the ways.
type scale struct{ net, cost float64 }

func scaleOf(ways []Way, plans []plan) (s scale) {
	count := func(m *merit) { s.net, s.cost = max(s.net, m.middle()), max(s.cost, m.cost) }
	for i := range ways {
		count(&ways[i].merit)
	}
	for i := range plans {
		count(&plans[i].merit)
	}
	return s
}

// middle is the rate to count on where its two ends differ.
func (m *merit) middle() float64 { return (m.least + m.most) / 2 }

// score is the weighted mean of what a way reaches in each: 1 for the fastest of the
// ways, for certain, for nothing to buy, nothing to move and no fan.
func (m *merit) score(w Weights, s scale) float64 {
	sum := w.Lanes + w.Certainty + w.Cost + w.Reversible + w.Noise
	if sum == 0 {
		return 0
	}
	lanes, cost := 0.0, 1.0
	if s.net > 0 {
		lanes = m.middle() / s.net
	}
	if s.cost > 0 {
		cost = 1 - m.cost/s.cost
	}
	return (w.Lanes*lanes + w.Certainty*m.sure + w.Cost*cost + w.Reversible/float64(1+m.moved) + w.Noise/float64(1+m.fans)) / sum
}

// A front keeps what nothing else in it beats; of those that do alike, the first.
type front[T any] struct{ kept []T }

// add tells whether the newcomer stays.
func (f *front[T]) add(next T, merit func(*T) *merit) bool {
	m := merit(&next)
	for i := range f.kept {
		if k := merit(&f.kept[i]); k.beats(m) || k.same(m) {
			return false
		}
	}
	kept := f.kept[:0]
	for i := range f.kept {
		if !m.beats(merit(&f.kept[i])) {
			kept = append(kept, f.kept[i])
		}
	}
	f.kept = append(kept, next)
	return true
}
