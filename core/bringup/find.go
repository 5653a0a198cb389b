package bringup

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
)

// FindFormat is the format word of a search for a fault.
const FindFormat = "kolvan-find/1"

// Seen is one test that was done, and what it showed.
type Seen struct{ Test, Outcome string }

// A Suspect is a fault, or a pair of faults, with its weight.
type Suspect struct {
	Fault   string  `json:"fault"`
	Says    string  `json:"says"`
	Weight  float64 `json:"weight"`
	Mend    string  `json:"mend"`
	Minutes float64 `json:"minutes"`
	// For and Against are what of all that is known speaks so, the strongest first.
	For     []string `json:"for"`
	Against []string `json:"against"`
}

// Next is a test worth doing.
type Next struct {
	Test     string             `json:"test"`
	Do       string             `json:"do"`
	Minutes  float64            `json:"minutes"`
	Bits     float64            `json:"bits"`
	Outcomes map[string]float64 `json:"outcomes"`
	Why      string             `json:"why"`
	Needs    string             `json:"needs,omitzero"`
	Price    float64            `json:"price,omitzero"`
	Caution  string             `json:"caution,omitzero"`
}

// Stop says why the search ends: one suspect is named, or nothing at hand parts the rest.
type Stop struct {
	Why      string   `json:"why"` // named, cannot-part
	Says     string   `json:"says"`
	Together []string `json:"together"` // the suspects that stay
	PartedBy []Next   `json:"parted_by"`
}

// A Search is where the hunt for a fault stands.
type Search struct {
	Format   string            `json:"format"`
	Seen     map[string]string `json:"seen"`
	Evidence []Evidence        `json:"evidence"` // of what was seen, where it comes from
	Suspects []Suspect         `json:"suspects"`
	Next     *Next             `json:"next"`
	Then     []Next            `json:"then"`
	Stop     *Stop             `json:"stop"`
	Forbids  string            `json:"forbids,omitzero"` // why the plan is not to be switched on, or does not go together
	Odd      []string          `json:"odd"`              // outcomes that no suspect allows: look again
	Spent    float64           `json:"spent_minutes"`
	Money    float64           `json:"spent_money"` // on what tests needed that was not at hand
	Left     string            `json:"left"`        // what it would take, and when to stop
}

// The limits of a search (P).
const (
	named    = 0.9  // the share at which a suspect is named
	tells    = 0.01 // bits under which a test tells nothing
	evenings = 40   // played for each suspect and test
	paired   = 5    // so many of the likeliest are also weighed in pairs
	pairOdds = 0.1  // that two faults come together, against one
	unlisted = 0.03 // that it is something that is not on the list
	speaks   = 1.5  // how many times likelier an outcome is that speaks for a suspect
)

// Unlisted is the suspect that stands for all that nobody listed: it shows every outcome
// alike, so that its weight grows with how little the others show what was seen.
const Unlisted = "unlisted"

// A Finder weighs the faults of one rig by what tests show.
type Finder struct {
	w     *World
	cat   *Catalogue
	tests []*Test
	hands []string
	// Tests that a person cannot do.
	without []string
	hyps    []hypothesis
	single  int // so many of hyps are single faults
	pairs   map[[2]int]hypothesis
	seed    uint64
}

// hypothesis is one fault, or two.
type hypothesis struct {
	faults []*Fault
	prior  float64
	shows  [][]float64 // chance of each outcome of each test, slips apart
}

// NewFinder makes the finder of a rig. What each test shows under each fault comes from
// playing the model over several evenings of the seed.
func NewFinder(w *World, cat *Catalogue, seed uint64) *Finder {
	f := &Finder{w: w, cat: cat, seed: seed, hands: w.Rig.Build.AtHand, pairs: map[[2]int]hypothesis{}}
	for i := range cat.Tests {
		if w.may(cat.Tests[i].When) {
			f.tests = append(f.tests, &cat.Tests[i])
		}
	}
	for i := range cat.Faults {
		if prior := w.Prior(&cat.Faults[i]); prior > 0 {
			if h := f.play(prior, &cat.Faults[i]); h.prior > 0 {
				f.hyps = append(f.hyps, h)
			}
		}
	}
	f.single = len(f.hyps)
	f.addUnlisted()
	return f
}

// listed are the single faults of the catalogue, without the one that stands for all else.
func (f *Finder) listed() []hypothesis { return f.hyps[:max(0, f.single-1)] }

// addUnlisted adds the suspect that Kolvan does not know.
func (f *Finder) addUnlisted() {
	total := 0.0
	for i := range f.hyps {
		total += f.hyps[i].prior
	}
	if total == 0 {
		return
	}
	nobody := &Fault{Name: Unlisted, Says: "something that Kolvan does not know", Part: Unlisted,
		Mend: "Change one thing at a time and note what it does; the page to ask others says what was tried."}
	h := hypothesis{faults: []*Fault{nobody}, prior: unlisted / (1 - unlisted) * total, shows: make([][]float64, len(f.tests))}
	for i, t := range f.tests {
		h.shows[i] = slices.Repeat([]float64{1 / float64(len(t.Outcomes))}, len(t.Outcomes))
	}
	f.hyps = append(f.hyps, h)
	f.single++
}

// play works out what the tests show under faults.
func (f *Finder) play(prior float64, faults ...*Fault) hypothesis {
	h := hypothesis{faults: faults, prior: prior, shows: make([][]float64, len(f.tests))}
	for i, t := range f.tests {
		h.shows[i] = make([]float64, len(t.Outcomes))
	}
	rng := rand.New(rand.NewPCG(f.seed, 0x66696e64))
	felt := []throws{}
	for range evenings {
		if dice := throwAll(rng, len(faults)); f.feels(faults, dice) {
			felt = append(felt, dice)
		}
	}
	h.prior *= float64(len(felt)) / evenings
	for _, dice := range felt {
		for i, t := range f.tests {
			h.shows[i][slices.Index(t.Outcomes, f.w.shows(t, faults, dice))] += 1 / float64(len(felt))
		}
	}
	return h
}

// feels reports an evening on which something is not as planned: nobody looks for a fault
// that does not show. What is only mistaken for one shows as nothing.
func (f *Finder) feels(faults []*Fault, dice throws) bool {
	s := f.w.stand(faults, nil, dice)
	return !s.asPlanned() || faults[0].Part == "none"
}

// chance is how likely an outcome is under a hypothesis, with the slip: it shows one of
// the others, equally likely.
func (f *Finder) chance(h *hypothesis, test, outcome int) float64 {
	p, slip := h.shows[test][outcome], f.tests[test].Slip
	return (1-slip)*p + slip*(1-p)/float64(len(f.tests[test].Outcomes)-1)
}

func (f *Finder) test(name string) int {
	return slices.IndexFunc(f.tests, func(t *Test) bool { return t.Name == name })
}

// Leave leaves tests out that a person cannot do.
func (f *Finder) Leave(names ...string) { f.without = append(f.without, names...) }

// Tests are those that mean something on this rig.
func (f *Finder) Tests() []*Test { return f.tests }

// Asked says which of the tests that were seen this rig cannot be given; nil for none.
func (f *Finder) Asked(seen []Seen) error {
	for _, s := range seen {
		if f.test(s.Test) < 0 {
			return fmt.Errorf("test %s: it means nothing on this rig, it wants %s", s.Test, strings.Join(f.cat.Tests[f.cat.Test(s.Test)].When, " and "))
		}
	}
	return nil
}

// weigh gives every hypothesis its share by what was seen (Bayes), pairs of the likeliest
// included.
func (f *Finder) weigh(seen []Seen) []float64 {
	f.hyps = f.hyps[:f.single]
	weights := f.posterior(seen)
	likeliest := make([]int, f.single)
	for i := range likeliest {
		likeliest[i] = i
	}
	likeliest = slices.DeleteFunc(likeliest, func(i int) bool { return f.hyps[i].faults[0].Name == Unlisted })
	slices.SortStableFunc(likeliest, func(a, b int) int { return cmp.Compare(weights[b], weights[a]) })
	likeliest = likeliest[:min(paired, len(likeliest))]
	total := 0.0
	for i := range f.single {
		total += f.hyps[i].prior
	}
	for k, i := range likeliest {
		for _, j := range likeliest[k+1:] {
			f.hyps = append(f.hyps, f.pair(min(i, j), max(i, j), total))
		}
	}
	return f.posterior(seen)
}

// pair is two faults together, played once.
func (f *Finder) pair(i, j int, total float64) hypothesis {
	at := [2]int{i, j}
	h, played := f.pairs[at]
	if !played {
		a, b := &f.hyps[i], &f.hyps[j]
		h = f.play(pairOdds*a.prior*b.prior/total, a.faults[0], b.faults[0])
		f.pairs[at] = h
	}
	return h
}

func (f *Finder) posterior(seen []Seen) []float64 {
	weights := make([]float64, len(f.hyps))
	sum := 0.0
	for i := range f.hyps {
		weights[i] = f.hyps[i].prior
		for _, s := range seen {
			if t := f.test(s.Test); t >= 0 {
				weights[i] *= f.chance(&f.hyps[i], t, slices.Index(f.tests[t].Outcomes, s.Outcome))
			}
		}
		sum += weights[i]
	}
	for i := range weights {
		weights[i] /= max(sum, 1e-300)
	}
	return weights
}

// tellsMost is what a test is expected to tell, in bits, and how likely its outcomes are.
func (f *Finder) tellsMost(weights []float64, test int) (bits float64, outcomes []float64) {
	outcomes = make([]float64, len(f.tests[test].Outcomes))
	for o := range outcomes {
		for i := range f.hyps {
			outcomes[o] += weights[i] * f.chance(&f.hyps[i], test, o)
		}
	}
	for o, p := range outcomes {
		if p <= 0 {
			continue
		}
		for i := range f.hyps {
			if q := f.chance(&f.hyps[i], test, o); weights[i] > 0 && q > 0 {
				bits += weights[i] * q * math.Log2(q/p)
			}
		}
	}
	return max(0, bits), outcomes
}

// Search weighs what was seen and says what to do next. Tests that were seen are not asked
// again.
func (f *Finder) Search(seen []Seen) *Search {
	s := &Search{Format: FindFormat, Seen: map[string]string{}, Evidence: []Evidence{}, Suspects: []Suspect{}, Then: []Next{}, Odd: []string{}}
	if end, says := f.w.Forbids(); end != "" {
		s.Forbids = strings.ToUpper(end[:1]) + end[1:] + ": " + says
	}
	given := f.w.evidence(f.cat)
	for _, one := range seen {
		s.Seen[one.Test] = one.Outcome
		if t := f.cat.Test(one.Test); t >= 0 {
			s.Spent += f.cat.Tests[t].Minutes
			if needs := f.cat.Tests[t].Needs; needs != "" && !slices.Contains(f.hands, needs) {
				s.Money += f.cat.Tests[t].Price
			}
		}
	}
	all := slices.Clone(seen)
	for _, e := range given {
		if _, tried := s.Seen[e.Test]; !tried && f.test(e.Test) >= 0 {
			s.Evidence, all = append(s.Evidence, e), append(all, Seen{e.Test, e.Outcome})
		}
	}
	weights := f.weigh(all)
	s.suspects(f, weights, all)
	s.Odd = append(s.Odd, f.odd(all, weights)...)
	near, far := f.rank(all, weights, len(seen) == 0)
	if len(s.Suspects) > 0 && s.Suspects[0].Weight >= named && s.Suspects[0].Fault != Unlisted {
		s.Stop = &Stop{Why: "named", Says: fmt.Sprintf("It is %s, with %.0f %%. %s", s.Suspects[0].Says, 100*s.Suspects[0].Weight, s.Suspects[0].Mend), Together: []string{s.Suspects[0].Fault}, PartedBy: []Next{}}
		near = nil
	} else if len(near) == 0 {
		s.Stop = f.cannotPart(s.Suspects, far)
	}
	if len(near) > 0 {
		s.Next = &near[0]
		s.Then = append(s.Then, near[1:min(4, len(near))]...)
	}
	s.Left = left(s, near, far)
	return s
}

// suspects lists the weights, the likeliest first.
func (s *Search) suspects(f *Finder, weights []float64, seen []Seen) {
	shown := f.shown(seen)
	for i := range f.hyps {
		var names, says, mends []string
		minutes := 0.0
		for _, fault := range f.hyps[i].faults {
			mend := fault.Mend
			if len(f.hyps[i].faults) == 1 { // of two, one hides what the mend of the other does
				mend = f.mend(fault, seen)
			}
			names, says, mends = append(names, fault.Name), append(says, fault.Says), append(mends, mend)
			minutes += fault.Minutes
		}
		one := Suspect{Fault: strings.Join(names, "+"), Says: strings.Join(says, " and "), Weight: weights[i], Mend: strings.Join(mends, " "), Minutes: minutes}
		one.For, one.Against = f.speak(i, shown)
		s.Suspects = append(s.Suspects, one)
	}
	slices.SortStableFunc(s.Suspects, func(a, b Suspect) int { return cmp.Compare(b.Weight, a.Weight) })
}

// mend is what mends a fault. What was tried without effect is not proposed again.
func (f *Finder) mend(fault *Fault, seen []Seen) string {
	for _, one := range seen {
		t := f.test(one.Test)
		if t < 0 || one.Outcome != "same" {
			continue
		}
		test := f.tests[t]
		reseated := fault.Reseats && slices.Contains(test.Changes, "reseat")
		if !reseated && !test.cures(fault) {
			continue
		}
		if fault.Again != "" {
			return fault.Again
		}
		return "What mends it was tried and changed nothing: look at the next suspect first."
	}
	return fault.Mend
}

// cures reports a test that puts another in the place of what is broken.
func (t *Test) cures(fault *Fault) bool {
	return slices.Contains(t.Replaces, fault.Part) || slices.Contains(t.Replaces, fault.Name) || slices.Contains(t.Also, fault.Name)
}

// shown is an outcome that was seen, with its chance over all suspects before anything was.
type shown struct {
	says          string
	test, outcome int
	chance        float64
}

func (f *Finder) shown(seen []Seen) (list []shown) {
	priors := f.posterior(nil)
	for _, one := range seen {
		t := f.test(one.Test)
		if t < 0 {
			continue
		}
		s := shown{one.Test + "=" + one.Outcome, t, slices.Index(f.tests[t].Outcomes, one.Outcome), 0}
		for i := range f.hyps {
			s.chance += priors[i] * f.chance(&f.hyps[i], t, s.outcome)
		}
		list = append(list, s)
	}
	return list
}

// speak lists what the file says for a suspect and against it, then what was seen, the
// strongest first.
func (f *Finder) speak(suspect int, seen []shown) (in, against []string) {
	type voice struct {
		says string
		by   float64
	}
	var voices []voice
	for _, one := range seen {
		voices = append(voices, voice{one.says, f.chance(&f.hyps[suspect], one.test, one.outcome) / one.chance})
	}
	slices.SortStableFunc(voices, func(a, b voice) int { return cmp.Compare(math.Abs(math.Log(b.by)), math.Abs(math.Log(a.by))) })
	in, against = []string{}, []string{}
	for _, fault := range f.hyps[suspect].faults {
		leans, speaks := f.w.leans(fault)
		in, against = append(in, leans...), append(against, speaks...)
	}
	for _, v := range voices {
		switch {
		case v.by >= speaks:
			in = append(in, v.says)
		case v.by <= 1/speaks:
			against = append(against, v.says)
		}
	}
	return in, against
}

// odd lists outcomes that no listed suspect shows but by a slip, and says how likely it is
// that the list does not have what is wrong.
func (f *Finder) odd(seen []Seen, weights []float64) (list []string) {
	nobody := slices.IndexFunc(f.hyps, func(h hypothesis) bool { return h.faults[0].Name == Unlisted })
	for _, one := range seen {
		t := f.test(one.Test)
		if t < 0 {
			continue
		}
		o := slices.Index(f.tests[t].Outcomes, one.Outcome)
		if !slices.ContainsFunc(f.hyps, func(h hypothesis) bool { return h.faults[0].Name != Unlisted && h.shows[t][o] > 0 }) {
			list = append(list, fmt.Sprintf("Nothing on the list shows %s=%s: look again. If it is so, it is something that Kolvan does not know, with %.0f %%.", one.Test, one.Outcome, 100*weights[nobody]))
		}
	}
	return list
}

// rank sorts the tests that are left by what they tell a minute: those for which all is
// at hand, and those for which something has to be bought or borrowed. Where a person has
// told nothing yet, what is seen comes before all of them.
func (f *Finder) rank(seen []Seen, weights []float64, fresh bool) (near, far []Next) {
	harmless, harm := map[string]bool{}, map[string]float64{}
	dark := isDark(seen)
	for i, t := range f.tests {
		if slices.Contains(f.without, t.Name) || dark && t.Picture || t.First && !fresh || slices.ContainsFunc(seen, func(s Seen) bool { return s.Test == t.Name }) {
			continue
		}
		bits, outcomes := f.tellsMost(weights, i)
		if bits < tells {
			continue
		}
		n := Next{Test: t.Name, Do: t.Do, Minutes: t.Minutes, Bits: bits, Outcomes: map[string]float64{}, Needs: t.Needs, Price: t.Price, Caution: t.Caution}
		for o, p := range outcomes {
			n.Outcomes[t.Outcomes[o]] = p
		}
		n.Why = fmt.Sprintf("%.2f bit in %.0f min", bits, t.Minutes)
		harmless[t.Name], harm[t.Name] = t.Harmless, t.Harm
		if t.First {
			return []Next{n}, nil
		}
		if t.Needs == "" || slices.Contains(f.hands, t.Needs) {
			near = append(near, n)
		} else {
			far = append(far, n)
		}
	}
	better := func(a, b Next) int {
		rate := func(n *Next) float64 { return math.Round(n.Bits/(n.Minutes+harm[n.Test])*1e9) / 1e9 }
		first := cmp.Compare(rate(&b), rate(&a))
		if first == 0 && harmless[a.Test] != harmless[b.Test] {
			if harmless[a.Test] {
				return -1
			}
			return 1
		}
		return first
	}
	slices.SortStableFunc(near, better)
	slices.SortStableFunc(far, better)
	return near, far
}

// isDark reports that nothing can be read on a screen: no picture was seen, and none since.
func isDark(seen []Seen) bool {
	dark := false
	for _, one := range seen {
		switch one.Test {
		case "see":
			dark = slices.Contains([]string{"nothing", "twitch", "no-picture"}, one.Outcome)
		case "start":
			dark = one.Outcome == "stops" || one.Outcome == "hangs"
		case "screens":
			dark = one.Outcome == "none"
		}
	}
	return dark
}

// cannotPart says which suspects stay, and what would part them.
func (f *Finder) cannotPart(suspects []Suspect, far []Next) *Stop {
	stop := &Stop{Why: "cannot-part", Together: []string{}, PartedBy: append([]Next{}, far...)}
	said := []string{}
	sum := 0.0
	for _, s := range suspects {
		if sum >= named {
			break
		}
		sum += s.Weight
		stop.Together, said = append(stop.Together, s.Fault), append(said, s.Says)
	}
	stop.Says = "These can't be parted with what is at hand: " + strings.Join(said, "; ") + "."
	switch {
	case len(said) == 0:
		stop.Says = "There is no suspect for this rig."
	case len(far) > 0:
		stop.Says += " What would part them: " + far[0].Needs + "."
	default:
		stop.Says += " A second card or a second host would."
	}
	if slices.Contains(stop.Together, Unlisted) {
		stop.Says += " What was seen may be nothing of what Kolvan knows."
	}
	return stop
}

// left is what it would take to go on, and when that is more than it is worth.
func left(s *Search, near, far []Next) string {
	if len(s.Suspects) == 0 {
		return ""
	}
	top := s.Suspects[0]
	spent := fmt.Sprintf("%.0f min", s.Spent)
	if s.Money > 0 {
		spent += fmt.Sprintf(" and about %.0f of money", s.Money)
	}
	text := fmt.Sprintf("%s spent; the likeliest has %.0f %%.", spent, 100*top.Weight)
	switch {
	case s.Stop != nil && s.Stop.Why == "named":
		return text + fmt.Sprintf(" Mending it takes about %.0f min.", top.Minutes)
	case len(near) > 0:
		text += fmt.Sprintf(" The next test takes %.0f min.", near[0].Minutes)
	}
	if len(far) > 0 && far[0].Price > 0 {
		text += fmt.Sprintf(" After what is at hand, %s (about %.0f) tells most.", far[0].Needs, far[0].Price)
	}
	if s.Spent > stopAfter || s.Money > stopMoney {
		text += " That is much: another host, or stopping here, may be cheaper than what is left."
	}
	return text
}

// stopAfter is when stopping is worth a thought, min (P).
const stopAfter = 180

// stopMoney is when it is so for what was bought to find out, in the money of the tests'
// prices (P).
const stopMoney = 100
