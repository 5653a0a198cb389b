package assess

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Question is one missing fact on which something hangs: what to find out, how,
// and what each answer would bring.
type Question struct {
	Fact    string   `json:"fact"` // JSON Pointer
	Asks    string   `json:"asks"`
	How     string   `json:"how"`
	Answers []Answer `json:"answers"`
}

// An Answer is one value a fact may have, and what would then be said anew; an
// empty list where the fact then speaks for the plan.
type Answer struct {
	If   string      `json:"if"`
	Then []Statement `json:"then"`
}

// A Statement is one thing that would be said.
type Statement struct {
	Rule  string        `json:"rule"`
	Level finding.Level `json:"level"`
	Says  string        `json:"says"`
}

// Ask makes the questions of a report. Each fact that a finding misses is put
// in, one value after another, and the rig judged again: a fact whose values all
// bring the same is not asked for, and its finding goes. One fact is one
// question, however many rules hang on it; the one that could hurt most stands
// first. Facts that are whole lists cannot be tried and are asked as they are.
func Ask(ctx context.Context, report *Report, r *rig.Rig, ref *reference.Tables) error {
	a := &asker{
		r: r, ref: ref, base: verdictOf(report.Findings, report.Link.NetEnds.High), cost: TryCost(r, len(report.Findings)),
		left: UsualEffort / 2,
	}
	report.Questions = []Question{}
	asked, idle := map[string]int{}, map[string]bool{}
	for i := range report.Findings {
		f := &report.Findings[i]
		if f.Level != finding.Unknown || idle[f.Where] {
			continue
		}
		if _, there := asked[f.Where]; there {
			continue
		}
		if err := ctx.Err(); err != nil {
			return err
		}
		q := Question{Fact: f.Where, Asks: f.Title, How: f.Find}
		answers, tried := a.answers(f.Where, f.Around)
		if tried && len(answers) == 0 && a.alone(report.Findings, f) {
			idle[f.Where] = true
			continue
		}
		if q.Answers = answers; len(answers) == 0 {
			q.Answers = []Answer{{If: "it is told", Then: []Statement{{f.Rule, f.Level, f.Says}}}}
		}
		asked[f.Where] = len(report.Questions)
		report.Questions = append(report.Questions, q)
	}
	report.Findings = slices.DeleteFunc(report.Findings, func(f finding.Finding) bool {
		return f.Level == finding.Unknown && idle[f.Where]
	})
	slices.SortStableFunc(report.Questions, func(a, b Question) int { return cmp.Compare(b.worst(), a.worst()) })
	return nil
}

// worst is the worst that any answer would bring.
func (q *Question) worst() (level finding.Level) {
	for _, a := range q.Answers {
		for _, s := range a.Then {
			if s.Level != finding.Unknown {
				level = max(level, s.Level)
			}
		}
	}
	return level
}

type asker struct {
	r          *rig.Rig
	ref        *reference.Tables
	base       verdict
	cost, left Effort
	desk       desk
}

// verdict is what an answer can change: what is said at risk or worse, and the
// rate of the link.
type verdict struct {
	said map[place]finding.Level
	net  string
}

func verdictOf(findings []finding.Finding, net units.GigabytePerSecond) verdict {
	v := verdict{map[place]finding.Level{}, net.String()}
	for i := range findings {
		if f := &findings[i]; f.Level != finding.Note && f.Level != finding.Unknown {
			v.said[place{f.Rule, f.Where}] = f.Level
		}
	}
	return v
}

// alone reports a missing fact that is the only one its rule asks for: with two,
// neither may change anything alone, and both together may.
func (a *asker) alone(findings []finding.Finding, of *finding.Finding) bool {
	for i := range findings {
		if f := &findings[i]; f.Level == finding.Unknown && f.Rule == of.Rule && f.Where != of.Where {
			return false
		}
	}
	return true
}

// answers puts each value in that the fact may have. They are none where all
// bring the same as now; tried is false for what cannot be put in.
func (a *asker) answers(fact string, around []float64) (answers []Answer, tried bool) {
	values := a.formed(fact, triesOf(a.r, fact, around))
	if len(values) == 0 || a.left <= 0 {
		return nil, false
	}
	differ := false
	for _, value := range values {
		copied, err := rig.With(a.r, fact, value)
		if err != nil {
			continue // a word that does not go with the rest of the rig
		}
		_ = rig.Set(copied, fact+"/tolerance", "0") // an answer is exact; what has no tolerance has none to set
		a.left -= a.cost
		out := finding.List{}
		report := a.desk.judge(copied, a.ref, &out)
		v := verdictOf(out.Findings, report.Link.NetEnds.High)
		answer := Answer{If: value, Then: a.news(out.Findings)}
		if v.net != a.base.net {
			answer.Then = append(answer.Then, Statement{link.RuleWidth, finding.Note, v.net + " net"})
		}
		differ = differ || len(answer.Then) > 0 || len(v.said) != len(a.base.said)
		answers = merge(answers, answer)
	}
	if !differ {
		return nil, true
	}
	return answers, true
}

// formed leaves of the lanes or the generation of a slot what its form allows, and of the
// connectors of a card's plug those that cards have.
func (a *asker) formed(fact string, values []string) []string {
	name := fact[strings.LastIndex(fact, "/")+1:]
	if name == "connector" && rig.Within(fact, "/card/plugs") {
		return slices.DeleteFunc(slices.Clone(values), func(v string) bool { return !a.ref.Kind(rig.Connector(v)).Card })
	}
	for i := range a.r.Host.Slots {
		s := &a.r.Host.Slots[i]
		form := a.ref.Form(s.Form.Value, s.Key.Value)
		if form == nil || !rig.Within(fact, rig.SlotPath(i)) {
			continue
		}
		most := map[string]int{"lanes": form.Lanes, "lanes_mechanical": form.Lanes, "generation": form.Gen}[name]
		values = slices.DeleteFunc(slices.Clone(values), func(v string) bool {
			n, err := strconv.Atoi(v)
			return err == nil && most > 0 && n > most
		})
	}
	return values
}

// news are the findings that are not said now, or not as badly.
func (a *asker) news(findings []finding.Finding) []Statement {
	list := []Statement{}
	for i := range findings {
		f := &findings[i]
		if f.Level == finding.Note || f.Level == finding.Unknown {
			continue
		}
		if was, said := a.base.said[place{f.Rule, f.Where}]; !said || was < f.Level {
			list = append(list, Statement{f.Rule, f.Level, f.Says})
		}
	}
	return list
}

// merge joins values that bring the same under one answer.
func merge(answers []Answer, next Answer) []Answer {
	for i := range answers {
		if slices.Equal(answers[i].Then, next.Then) {
			answers[i].If += ", " + next.If
			return answers
		}
	}
	return append(answers, next)
}

// Sizes that bricks and supplies are sold in, W, and cables and leads, mm.
var (
	bricks   = []string{"30", "45", "60", "65", "90", "120", "150", "180", "230", "330"}
	supplies = []string{"200", "300", "400", "500", "650", "850", "1200"}
	lengths  = []string{"100", "150", "200", "250", "300", "400", "500", "1000"}
)

// tryAt are the sizes that a number is found in, where its bounds are wider than anything
// real.
var tryAt = map[string][]string{
	"power_w": {"10", "75", "150", "300", "450"}, "voltage_v": {"5", "12", "19"}, "length_mm": lengths,
	"current_a": {"2", "5", "8", "12", "40"}, "generation": {"1", "2", "3", "4", "5"}, "lanes": {"1", "2", "4", "8", "16"},
	"power_limit_w": {"25", "35", "50", "75"}, "gauge_awg": {"16", "18", "20", "22", "24"}, "memory_gib": {"2", "8", "24"},
	"window_gib": {"0.25", "16"},
	"budget":     {"0", "100000"}, "price": {"0", "2000"}, "standby_v": {"0", "5", "12"}, "stands_out_mm": {"0", "6", "15", "30"},
}

// sizesOf are the sizes that a missing number is tried at; false for one that has none.
func sizesOf(r *rig.Rig, fact string) ([]string, bool) {
	name := fact[strings.LastIndex(fact, "/")+1:]
	if name != "rating_w" {
		list, sized := tryAt[name]
		return list, sized
	}
	for i := range r.Supplies {
		if s := &r.Supplies[i]; rig.Within(fact, rig.SupplyPath(i)) && s.Kind.Known {
			if power.WaitsToBeSwitched(s) {
				return supplies, true
			}
			return bricks, true
		}
	}
	return append(slices.Clone(bricks), supplies...), true
}

// triesOf lists what a missing fact may be, a figure in sizes that exist and on both sides
// of where it changes something; nothing for what cannot be put in.
func triesOf(r *rig.Rig, fact string, around []float64) []string {
	value, spec, err := rig.At(r, fact)
	if err != nil || spec.Type == nil || value.Kind() == reflect.Invalid {
		return nil
	}
	switch spec.Kind {
	case rig.Flag:
		return []string{"yes", "no"}
	case rig.Choice:
		return spec.Choices
	case rig.Text:
		return rig.Options(r, fact)
	case rig.Whole, rig.Number:
		if len(spec.Among) > 0 {
			list := make([]string, len(spec.Among))
			for i, v := range spec.Among {
				list[i] = units.Trim(v, 3)
			}
			return list
		}
		list, sized := sizesOf(r, fact)
		if !sized {
			list = []string{units.Trim(spec.Min, 3), units.Trim((spec.Min+spec.Max)/2, 3), units.Trim(spec.Max, 3)}
		}
		return within(sides(list, around, spec), spec)
	}
	return nil
}

// hairsbreadth is how far beside a figure its other side is tried, as a share.
const hairsbreadth = 0.01

// sides adds to a list of figures those around which something changes, in their order.
func sides(list []string, around []float64, spec rig.Spec) []string {
	list = slices.Clone(list)
	for _, at := range around {
		step := 0.1
		if spec.Kind == rig.Whole {
			step = 1
		}
		itself := math.Ceil(at/step-1e-6) * step // as it would be written
		for _, v := range []float64{itself * (1 - hairsbreadth), itself, itself * (1 + hairsbreadth)} {
			if v >= step {
				list = append(list, units.Trim(math.Round(v/step)*step, 1))
			}
		}
	}
	number := func(text string) (v float64) { _, _ = fmt.Sscan(text, &v); return v }
	slices.SortFunc(list, func(a, b string) int { return cmp.Compare(number(a), number(b)) })
	return slices.Compact(list)
}

func within(list []string, spec rig.Spec) (kept []string) {
	for _, v := range list {
		var number float64
		if _, err := fmt.Sscan(v, &number); err == nil && spec.Holds(number) {
			kept = append(kept, v)
		}
	}
	return kept
}
