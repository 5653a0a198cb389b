package ways

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/link"
	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
	_ "kolvan/internal/oneseed"
)

func stock(t testing.TB) *assess.Bins {
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	return bins
}

func ask(t testing.TB, r *rig.Rig, bins *assess.Bins) *Answer {
	answer, err := Search(context.Background(), Question{Rig: r, Parts: bins, Weights: Usual}, coretest.Tables(t))
	require.NoError(t, err)
	return answer
}

// TestWaysAreWhatTheirPatchesMake takes every way, and every failure, and assesses
// what it makes of the file.
func TestWaysAreWhatTheirPatchesMake(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	bare := rig.New("only a host")
	bare.Host = bins.Hosts[2]
	bare.Host.Supply = ""
	bare.Card = bins.Cards[5]
	for _, r := range append(rigs, bare) {
		t.Run(r.Name, func(t *testing.T) {
			answer := ask(t, r, bins)
			for i := range answer.Ways {
				w := &answer.Ways[i]
				report := assess.Rig(coretest.Patched(t, r, w.Patch), ref)
				assert.Equal(t, w.Figures, report.Figures, w.Says)
				assert.False(t, report.Stops(), w.Says)
				if w.Worst != nil {
					assert.Equal(t, w.Worst.Rule, report.Findings[0].Rule)
				}
				if w.BeatenBy != nil {
					assert.True(t, answer.Ways[*w.BeatenBy].merit.beats(&w.merit), w.Says)
				}
			}
			for _, f := range answer.Failed {
				report := assess.Rig(coretest.Patched(t, r, f.Patch), ref)
				require.True(t, report.Stops(), f.Way)
				assert.Equal(t, [2]string{f.Rule, f.Says}, [2]string{report.Findings[0].Rule, report.Findings[0].Says})
			}
			for i := range r.Host.Slots {
				assert.True(t, tells(answer, r.Host.Slots[i].Name), "every slot has a way, or a reason: %s", r.Host.Slots[i].Name)
			}
		})
	}
}

// TestACardOfItsOwnForm: a module goes into the bay its maker made it for, and into nothing
// else; a card built into a box stays there, fed by what the box brings.
func TestACardOfItsOwnForm(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	module, boxed := *rigs[0], *rigs[0]
	module.Card.Form, module.Card.Plugs, module.Chamber = rig.Of(rig.Module), []rig.CardPlug{}, rig.Chamber{Open: true}
	module.Card.Power = rig.Of[units.Watt](20)
	bay := rig.Slot{
		Name: "bay", Form: rig.Of(rig.Module), Lanes: rig.Of(8), Gen: rig.Of(3), Carries: rig.Of([]rig.Carried{rig.PCIe}),
		Occupant: rig.Of("none"),
	}
	module.Host.Slots = append(slices.Clone(module.Host.Slots), bay)
	for _, w := range ask(t, &module, stock(t)).Ways {
		assert.Equal(t, "bay straight into it", w.Says)
	}
	boxed.Card.BuiltIn = rig.Of(true)
	boxed.Host.Slots = []rig.Slot{{
		Name: "port", Form: rig.Of(rig.Tunnel), TunnelRate: rig.Of[units.GigabitPerSecond](40), Carries: bay.Carries,
		Occupant: bay.Occupant,
	}}
	boxed.Leads, boxed.Supplies, boxed.Host.Supply = nil, nil, "host brick"
	for _, name := range []string{"host brick", "box brick"} {
		rails := []rig.Rail{{Name: "o", Voltage: rig.Of[units.Volt](12)}}
		boxed.Supplies = append(
			boxed.Supplies, rig.Supply{Name: name, Kind: rig.Of(rig.Brick), Rating: rig.Of[units.Watt](330), Rails: rails},
		)
	}
	boxed.Route = rig.Route{Slot: "port", Stages: []rig.Stage{{Name: "box", Kind: rig.Of(rig.Dock), Supply: "box brick",
		Plug: rig.Joint{Form: rig.Of(rig.Tunnel)}, Socket: rig.Joint{Form: rig.Of(rig.CardSlot), Lanes: rig.Of(16)}}}}
	answer := ask(t, &boxed, stock(t))
	require.NotEmpty(t, answer.Ways, answer.Failed)
	for _, w := range answer.Ways {
		made := coretest.Patched(t, &boxed, w.Patch)
		assert.Equal(t, []string{"box", "box brick"}, []string{made.Route.Stages[len(made.Route.Stages)-1].Name, w.Supply}, w.Says)
	}
}

func tells(a *Answer, slot string) bool {
	for i := range a.Ways {
		if a.Ways[i].From == slot {
			return true
		}
	}
	for i := range a.Failed {
		if a.Failed[i].From == slot {
			return true
		}
	}
	return false
}

// few draws some of a list.
func few[T any](t *rapid.T, list []T, most int, what string) (drawn []T) {
	places := make([]int, len(list))
	for i := range places {
		places[i] = i
	}
	for _, i := range rapid.Permutation(places).Draw(t, what)[:rapid.IntRange(1, most).Draw(t, "how many "+what)] {
		drawn = append(drawn, list[i])
	}
	return drawn
}

// varied adds copies of stages that differ in what a link hangs on, and in price.
func varied(t *rapid.T, stages []rig.Stage) []rig.Stage {
	for i, s := range stages[:min(len(stages), 4)] {
		s.Name = fmt.Sprintf("%s again %d", s.Name, i)
		if rapid.Bool().Draw(t, "another kind") {
			s.Lanes = rig.Of(rapid.SampledFrom([]int{1, 2, 4, 8}).Draw(t, "lanes"))
			s.Gen = rig.Of(rapid.IntRange(2, 5).Draw(t, "generation"))
		}
		s.Length = rig.Of(units.Millimetre(rapid.IntRange(20, 900).Draw(t, "length")))
		s.Amount = rig.Of(units.Money(rapid.IntRange(5, 80).Draw(t, "price")))
		stages = append(stages, s)
	}
	return stages
}

// TestNothingBetterIsMissed puts every combination of a few parts together and
// assesses it whole: the answer holds one as good as each that works.
func TestNothingBetterIsMissed(t *testing.T) {
	ref, all := coretest.Tables(t), stock(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	works := 0
	var common []rig.Stage // that go together on most hosts
	for _, s := range all.Stages {
		if s.Plug.Lanes.Or(4) == 4 && !rig.Is(s.Plug.Form, rig.Tunnel) && s.Kind.Value != "riser" {
			common = append(common, s)
		}
	}
	rapid.Check(t, func(rt *rapid.T) {
		r := *rapid.SampledFrom(rigs).Draw(rt, "rig")
		if rapid.Bool().Draw(rt, "other host") {
			r = *assess.WithHost(&r, rapid.SampledFrom(all.Hosts).Draw(rt, "host"), all.Supplies)
		}
		r.Card = rapid.SampledFrom(all.Cards).Draw(rt, "card")
		r.Chamber = rig.Chamber{Open: true}
		if rapid.Bool().Draw(rt, "budget") {
			r.Brief.Budget = rig.Of(units.Money(rapid.IntRange(50, 900).Draw(rt, "most")))
		}
		bins := &assess.Bins{
			Stages: varied(rt, few(rt, common, 6, "stages")), Supplies: few(rt, all.Supplies, 4, "supplies"),
			Leads: few(rt, all.Leads, 4, "leads"),
		}
		answer := ask(t, &r, bins)
		s := newSearch(Question{Rig: &r, Parts: bins, Weights: Usual}, ref)
		for _, p := range s.places() {
			every(s, p, func(whole *rig.Rig) {
				report := assess.Rig(whole, ref)
				if report.Stops() {
					return
				}
				works++
				m := meritOf(whole, &report)
				assert.True(rt, matched(answer, &m), "%s, %+v", says(whole), m)
			})
		}
	})
	assert.Greater(t, works, 20)
}

// every makes all whole rigs of a place, without the short cuts of a search.
func every(s *search, p place, visit func(*rig.Rig)) {
	var extend func(stages []int)
	extend = func(stages []int) {
		end := rig.Is(p.from.Form, rig.CardSlot)
		if n := len(stages); n > 0 {
			end = rig.Is(s.parts.Stages[stages[n-1]].Socket.Form, rig.CardSlot)
		}
		for _, moves := range moves(p.base, p.from, s.Rig.Route.Displaced) {
			if !end {
				break
			}
			assess.Feeds(s.chained(&plan{base: p.base, stages: stages, moves: moves}), s.ref, s.parts, func(r *rig.Rig) bool {
				visit(r)
				return true
			})
		}
		for i := range s.parts.Stages {
			c := s.chained(&plan{base: p.base, stages: stages})
			if n := len(stages); n > 0 && stacked(&s.parts.Stages[stages[n-1]], &s.parts.Stages[i]) {
				continue // a person's notion, no short cut
			}
			if len(stages) < mostStages && !slices.Contains(stages, i) && link.Continues(c, &s.parts.Stages[i]) {
				extend(append(stages[:len(stages):len(stages)], i))
			}
		}
	}
	extend(nil)
}

// TestPartsSumToTheWhole: what a plan was kept for, part by part, is what it is as a whole rig.
func TestPartsSumToTheWhole(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	ref, bins, told := coretest.Tables(t), stock(t), 0
	for i := range 3 * len(rigs) {
		r := rigs[i%len(rigs)]
		if i >= len(rigs) { // what was paid already decides
			r.Brief.Budget = rig.Of(units.Money(300 * (i / len(rigs))))
		}
		s := newSearch(Question{Rig: r, Parts: bins, Weights: Usual}, ref)
		for _, p := range s.places() {
			require.NoError(t, s.slot(t.Context(), p))
		}
		for i := range s.plans {
			p := &s.plans[i]
			if p.merit.stops > 0 || p.feed == noFeed {
				continue
			}
			w, err := s.way(p)
			require.NoError(t, err)
			told++
			assert.True(t, p.merit.same(&w.merit), "%s: %s, %v\n%+v\n%+v", r.Name, w.Says, MovesWords(w.Displaced), p.merit, w.merit)
		}
	}
	assert.Greater(t, told, 50)
}

func matched(a *Answer, m *merit) bool {
	for i := range a.Ways {
		if w := &a.Ways[i].merit; w.beats(m) || w.same(m) {
			return true
		}
	}
	return false
}

// TestWhatAnotherDoesAllFor: of two that differ in length and price the longer, dearer one is
// left aside; not where the length is of use, or not told, or the lines are of another kind.
func TestWhatAnotherDoesAllFor(t *testing.T) {
	short := rig.Stage{
		Name: "short", Kind: rig.Of(rig.Cable), Lanes: rig.Of(4), Length: rig.Of(units.Millimetre(200)),
		Price: rig.Price{Amount: rig.Of(units.Money(9))},
	}
	for name, c := range map[string]struct {
		change func(short, long *rig.Stage)
		worse  bool
	}{
		"longer and dearer":       {func(_, _ *rig.Stage) {}, true},
		"as dear":                 {func(_, l *rig.Stage) { l.Amount = rig.Of(units.Money(9)) }, true},
		"cheaper":                 {func(_, l *rig.Stage) { l.Amount = rig.Of(units.Money(8)) }, false},
		"with fewer lanes":        {func(_, l *rig.Stage) { l.Lanes = rig.Of(2) }, false},
		"with more lanes":         {func(_, l *rig.Stage) { l.Lanes = rig.Of(8) }, false},
		"of a length nobody told": {func(_, l *rig.Stage) { l.Length = rig.Fact[units.Millimetre]{} }, false},
		"surer of its length":     {func(s, _ *rig.Stage) { s.Length.Tolerance = 5 }, false},
		"without a price":         {func(_, l *rig.Stage) { l.Amount = rig.Fact[units.Money]{} }, false},
		"with a redriver each":    {func(s, l *rig.Stage) { s.Repeats, l.Repeats = rig.Of(rig.Redriver), rig.Of(rig.Redriver) }, false},
		"as long, a redriver each": {func(s, l *rig.Stage) {
			s.Repeats, l.Repeats, l.Length = rig.Of(rig.Redriver), rig.Of(rig.Redriver), s.Length
		}, true},
		"with a retimer each":       {func(s, l *rig.Stage) { s.Repeats, l.Repeats = rig.Of(rig.Retimer), rig.Of(rig.Retimer) }, true},
		"where the short one costs": {func(s, _ *rig.Stage) { s.Amount = rig.Of(units.Money(20)) }, false},
	} {
		a, b := short, short
		b.Name, b.Length, b.Amount = "long", rig.Of(units.Millimetre(300)), rig.Of(units.Money(12))
		c.change(&a, &b)
		s := newSearch(Question{Rig: &rig.Rig{}, Parts: &assess.Bins{Stages: []rig.Stage{a, b}}, Weights: Usual}, coretest.Tables(t))
		assert.Equal(t, []bool{false, c.worse}, s.worse, name)
	}
}

// TestWeights: what counts decides what stands first.
func TestWeights(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	first := func(weigh string) *Way {
		weights := Weights{}
		require.NoError(t, weights.Parse(weigh))
		answer, err := Search(t.Context(), Question{Rig: rigs[0], Parts: stock(t), Weights: weights}, coretest.Tables(t))
		require.NoError(t, err)
		return &answer.Ways[0]
	}
	assert.Equal(t, "m2-a", first("lanes=5").From)
	assert.Empty(t, first("reversible=5, lanes=1").Displaced, "the other slot is free")

	weights := Usual
	for text, says := range map[string]string{
		"lane=3": "lanes, certainty", "lanes=many": "a number from 0 to 10", "cost=-1": "a number from 0 to 10",
		"noise=NaN": "a number",
	} {
		assert.ErrorContains(t, weights.Parse(text), says)
	}
}

// TestOnlyWhatIsOwned: parts that would have to be bought are left aside.
func TestOnlyWhatIsOwned(t *testing.T) {
	bins := stock(t)
	for i := range bins.Stages {
		bins.Stages[i].Owned = rig.Of(bins.Stages[i].Name == "Ribbon dock, M.2")
	}
	for i := range bins.Supplies {
		bins.Supplies[i].Owned = rig.Of(true)
	}
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	answer, err := Search(t.Context(), Question{Rig: rigs[0], Parts: bins, Weights: Usual, Own: true}, coretest.Tables(t))
	require.NoError(t, err)
	require.NotEmpty(t, answer.Ways, answer.Failed)
	for i := range answer.Ways {
		for _, s := range answer.Ways[i].Rig.Route.Stages {
			assert.True(t, rig.Is(s.Owned, true), s.Name)
		}
	}
}

// TestOtherHosts: candidate hosts stand side by side, and one is chosen with its way.
func TestOtherHosts(t *testing.T) {
	bins := stock(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	answer, err := Search(t.Context(), Question{Rig: rigs[0], Parts: bins, Weights: Usual, AnyHost: true}, coretest.Tables(t))
	require.NoError(t, err)
	hosts := map[string]int{}
	for i := range answer.Ways {
		w := &answer.Ways[i]
		hosts[w.Host]++
		changed := coretest.Patched(t, rigs[0], w.Patch)
		assert.Equal(t, w.Host, changed.Host.Name)
		assert.NotEmpty(t, changed.Host.Supply, "a host brings its own supply")
	}
	assert.Greater(t, len(hosts), 5)
}

// TestCancelled: a search ends with its context.
func TestCancelled(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	_, err = Search(ctx, Question{Rig: rigs[0], Parts: stock(t), Progress: func(int, int) { cancel() }}, coretest.Tables(t))
	assert.ErrorIs(t, err, context.Canceled)
}

// TestWhatWasSeenWeighs: a link that was seen to work on this host is doubted half as much, and
// by what others saw less; a part that failed is worth a risk, of its own chain alone.
func TestWhatWasSeenWeighs(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	r, bins := rigs[0], stock(t)
	sure := func(known ...rig.Known) map[string]float64 {
		told := *r
		told.Known = known
		best := map[string]float64{}
		for _, w := range ask(t, &told, bins).Ways {
			best[w.Says] = max(best[w.Says], w.merit.sure)
		}
		return best
	}
	before := sure()
	var doubted string
	for says, s := range before {
		if s > 0.3 && s < 0.95 && strings.Contains(says, "Video-style cable 400") && (doubted == "" || says < doubted) {
			doubted = says
		}
	}
	require.NotEmpty(t, doubted)
	cable := func(works bool, by rig.SeenBy) rig.Known {
		return rig.Known{Of: "Video-style cable 400", Works: rig.Of(works), By: rig.Of(by)}
	}
	self, other := sure(cable(true, rig.BySelf))[doubted], sure(cable(true, "another"))[doubted]
	assert.Greater(t, other, before[doubted])
	assert.Greater(t, self, other)
	assert.Less(t, sure(cable(false, rig.BySelf), cable(true, rig.BySelf))[doubted], before[doubted], "it failed as well")
	failed := sure(cable(false, rig.BySelf))
	for says, s := range before {
		if after, still := failed[says]; still && !strings.Contains(says, "Video-style cable 400") {
			assert.InDelta(t, s, after, 1e-9, says)
		}
	}
}
