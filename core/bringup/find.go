package bringup

import (
	"cmp"
	"fmt"
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
			return fmt.Errorf(
				"test %s: it means nothing on this rig, it wants %s", s.Test,
				strings.Join(f.cat.Tests[f.cat.Test(s.Test)].When, " and "),
			)
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

// Search weighs what was seen and says what to do next. Tests that were seen are not asked
// again.
func (f *Finder) Search(seen []Seen) *Search {
	s := &Search{
		Format: FindFormat, Seen: map[string]string{}, Evidence: []Evidence{}, Suspects: []Suspect{}, Then: []Next{},
		Odd: []string{},
	}
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
		s.Stop = &Stop{
			Why:      "named",
			Says:     fmt.Sprintf("It is %s, with %.0f %%. %s", s.Suspects[0].Says, 100*s.Suspects[0].Weight, s.Suspects[0].Mend),
			Together: []string{s.Suspects[0].Fault}, PartedBy: []Next{},
		}
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
