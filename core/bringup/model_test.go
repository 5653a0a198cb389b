package bringup

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestWhatFaultsShow: what a person sees of each fault, on any evening on which it is
// felt: each of these tests shows one of the outcomes beside it, and each outcome is seen.
func TestWhatFaultsShow(t *testing.T) {
	cat := catalogue(t)
	r := bench()
	r.Host.Slots[0].Shares = rig.Of("b")
	r.Host.Slots[0].Carries = rig.Fact[[]rig.Carried]{}
	r.Supplies = append(r.Supplies, rig.Supply{Name: "brick", Kind: rig.Of(rig.Brick)})
	w := Of(r, tables(t), nil)
	f := NewFinder(w, cat, 1)
	radio := bench()
	radio.Host.Slots[0].Key = rig.Of(rig.Key("E"))
	refuses := Of(radio, tables(t), nil).stand(
		[]*Fault{&cat.Faults[cat.Fault("firmware-refuses")]}, nil, throwAll(rand.New(rand.NewPCG(1, 1)), 1),
	)
	assert.Equal(t, "stops", reads["start"](&refuses))
	for fault, shows := range map[string]string{
		"module-not-seated": "device=there|absent width=x1|absent lamp=on reseat=cured|same other-adapter=cured|same",
		"cable-half-in":     "device=there|absent other-cable=cured|same lamp=on reseat=cured|same",
		"lane-broken":       "width=half|x1 device=there reseat=same other-cable=cured|same copy-rate=low",
		"cable-too-long":    "lamp=on reseat=same fans=twitch old-drive=full",
		"wrong-port":        "device=absent lamp=on fans=twitch old-drive=full other-look-alike=cured|same",
		"slot-without-pcie": "device=absent lamp=on known-host=works|fails old-drive=absent test-card=absent",
		"slot-shared":       "width=half|absent drives-out=cured|same",
		"dock-no-12v":       "lamp=off fans=none device=absent volts=none other-supply=cured|same",
		"dock-no-3v3":       "lamp=on fans=none device=absent other-dock=cured|same",
		"plug-not-fed":      "lamp=on fans=full device=absent test-card=there|absent",
		"supply-not-on":     "lamp=off fans=none volts=none reseat=same other-supply=cured|same",
		"turn-on-dead":      "lamp=off fans=none volts=none",
		"trips-on-spike":    "device=there|absent load=trips|absent cap-card=holds|crashes|absent volts=good",
		"weak-12v":          "load=drops|trips|absent volts=low lamp=on",
		"grounds-apart":     "errors=many|absent one-strip=cured|same copy-rate=low|absent",
		"clkreq-open":       "device=absent|there fans=full|twitch",
		"disk-mode-hides":   "device=absent lamp=on fans=twitch live-system=absent defaults=cured|same",
		"legacy-only":       "screens=card|host-only start=starts defaults=cured|same",
		"window-too-small":  "start=starts|hangs device=marked|absent test-card=there|absent",
		"own-graphics":      "screens=host-only|card own-off=card|host-only device=there|absent",
		"driver-missing":    "device=marked|absent speed=absent live-system=there|absent driver-anew=cured|same",
		"driver-clash":      "device=marked|absent driver-anew=cured|same",
		"wrong-output":      "screens=card|host-only device=there|absent",
		"panel-cannot":      "screens=host-only device=there|absent",
		"power-saving":      "idle-speed=lower|absent reseat=same",
		"card-dead":         "device=absent known-good=fails lamp=on test-card=there|absent other-cable=same",
		"edge-dirty":        "known-good=works reseat=cured|same test-card=there|absent",
		"slot-dead":         "device=absent old-drive=absent known-host=works|fails",
		"no-starting-drive": "start=no-drive other-port=starts screens=none",
		"drive-wont-start":  "start=no-drive|hangs other-port=starts",
		"work-on-own":       "use=own|absent device=there|absent",
		"port-closed":       "device=absent lamp=on fans=twitch warm-restart=cured|same start-order=cured|same",
		"settings-lost":     "defaults=cured|same reseat=same",
	} {
		i := slices.IndexFunc(f.hyps, func(h hypothesis) bool { return h.faults[0].Name == fault })
		require.GreaterOrEqual(t, i, 0, "%s is no suspect of this rig", fault)
		for _, pair := range strings.Fields(shows) {
			test, outcomes, _ := strings.Cut(pair, "=")
			k := f.test(test)
			require.GreaterOrEqual(t, k, 0, "%s means nothing on this rig", test)
			for o, outcome := range f.tests[k].Outcomes {
				if !slices.Contains(strings.Split(outcomes, "|"), outcome) {
					assert.Zero(t, f.hyps[i].shows[k][o], "%s shows %s=%s", fault, test, outcome)
				}
			}
			first, _, _ := strings.Cut(outcomes, "|")
			assert.Positive(t, f.hyps[i].shows[k][slices.Index(f.tests[k].Outcomes, first)], "%s never shows %s=%s", fault, test, first)
		}
	}
}

// TestEveryTestCanTell: each test of the catalogue, where it means something, parts two
// suspects of some rig; one that never does is none.
func TestEveryTestCanTell(t *testing.T) {
	cat := catalogue(t)
	r := bench()
	r.Host.Slots[0].Shares = rig.Of("b")
	r.Route.Displaced[0].Home = rig.Of(rig.HomeUSB)
	r.Supplies = append(r.Supplies, rig.Supply{Name: "brick", Kind: rig.Of(rig.Brick)})
	f := NewFinder(Of(r, tables(t), nil), cat, 1)
	require.Len(t, f.tests, len(cat.Tests), "all of them mean something here")
	weights := f.posterior(nil)
	for i, test := range f.tests {
		bits, outcomes := f.tellsMost(weights, i)
		assert.Greater(t, bits, tells, test.Name)
		sum := 0.0
		for _, p := range outcomes {
			sum += p
		}
		assert.InDelta(t, 1, sum, 1e-9, test.Name)
	}
}

// TestPriorsFollowTheRig: what is known of a rig moves the weight of a fault, and what
// cannot be is none.
func TestPriorsFollowTheRig(t *testing.T) {
	ref, cat := tables(t), catalogue(t)
	prior := func(fault string, findings []finding.Finding, change func(r *rig.Rig)) float64 {
		r := bench()
		if change != nil {
			change(r)
		}
		return Of(r, ref, findings).Prior(&cat.Faults[cat.Fault(fault)])
	}
	fires := func(rule string, level finding.Level) []finding.Finding {
		return []finding.Finding{{Rule: rule, Level: level}}
	}
	for _, c := range []struct {
		fault    string
		findings []finding.Finding
		change   func(r *rig.Rig)
		more     bool
	}{
		{"cable-too-long", nil, func(r *rig.Rig) { r.Route.Stages[1].Length = rig.Of(units.Millimetre(900)) }, true},
		{"weak-12v", fires("power.wire", finding.Danger), nil, true},
		{"weak-12v", fires("power.wire", finding.Unknown), nil, false},
		{"supply-not-on", fires("power.turn-on", finding.Blocked), nil, true},
		{"driver-missing", nil, func(r *rig.Rig) { r.Card.Driver = rig.Of(rig.DriverState("none")) }, true},
		{"card-dead", nil, func(r *rig.Rig) { r.Card.Worked = rig.Of(true) }, false},
		{"card-dead", nil, func(r *rig.Rig) { r.Known = []rig.Known{{Of: "card", Works: rig.Of(true)}} }, false},
		{"card-dead", nil, func(r *rig.Rig) { r.Known = []rig.Known{{Of: "card", Works: rig.Of(false)}} }, true},
		{"lane-broken", nil, func(r *rig.Rig) { r.Known = []rig.Known{{Of: "cable", Works: rig.Of(false)}} }, true},
		{"lane-broken", nil, func(r *rig.Rig) { r.Route.Stages[1].Worked = rig.Of(true) }, false},
		{"trips-on-spike", nil, func(r *rig.Rig) { r.Supplies[0].Worked = rig.Of(true) }, false},
		{"window-too-small", nil, func(r *rig.Rig) { r.Host.Firmware.LargeWindow = rig.Of(true) }, false},
		{"disk-mode-hides", nil, func(r *rig.Rig) { r.Host.Firmware.DiskMode = rig.Of(rig.DiskMode("bundled")) }, true},
	} {
		before, after := prior(c.fault, nil, nil), prior(c.fault, c.findings, c.change)
		require.Positive(t, before, c.fault)
		if c.more {
			assert.Greater(t, after, before, c.fault)
		} else {
			assert.LessOrEqual(t, after, before, c.fault)
		}
	}
	assert.Zero(t, prior("disk-mode-hides", nil, func(r *rig.Rig) { r.Host.Firmware.DiskMode = rig.Of(rig.DiskMode("plain")) }))
	assert.Zero(t, prior("dock-no-12v", nil, func(r *rig.Rig) { r.Route.Stages = r.Route.Stages[:2] }), "no dock")
	assert.Zero(t, prior("firmware-refuses", nil, nil), "no slot for a wireless card")
}

// TestTwoFaultsAtOnce are weighed too, of the likeliest, and mended by both their means.
func TestTwoFaultsAtOnce(t *testing.T) {
	f := NewFinder(Of(bench(), tables(t), nil), catalogue(t), 1)
	s := f.Search([]Seen{
		{"lamp", "on"}, {"device", "marked"}, {"width", "x1"}, {"reseat", "same"}, {"driver-anew", "same"},
		{"other-cable", "same"}, {"live-system", "there"},
	})
	pairs := slices.DeleteFunc(slices.Clone(s.Suspects), func(s Suspect) bool { return !strings.Contains(s.Fault, "+") })
	require.Len(t, pairs, paired*(paired-1)/2)
	for _, pair := range pairs {
		one, other, _ := strings.Cut(pair.Fault, "+")
		a, b := f.cat.Faults[f.cat.Fault(one)], f.cat.Faults[f.cat.Fault(other)]
		assert.Equal(t, a.Mend+" "+b.Mend, pair.Mend)
		assert.Equal(t, a.Minutes+b.Minutes, pair.Minutes)
	}
	assert.Equal(t, 53.0, s.Spent)
}

// TestPracticeHidesAndTells: the same number hides the same fault, all faults come up, and
// what the finder would have done ends.
func TestPracticeHidesAndTells(t *testing.T) {
	f := NewFinder(Of(bench(), tables(t), nil), catalogue(t), 1)
	hidden := map[string]bool{}
	for seed := range uint64(300) {
		p, some := f.Practice(seed)
		require.True(t, some)
		again, _ := f.Practice(seed)
		require.Equal(t, p.Fault.Name, again.Fault.Name)
		require.Equal(t, p.Shows("device"), again.Shows("device"))
		hidden[p.Fault.Name] = true
		if seed < 5 {
			assert.NotEmpty(t, p.Solve())
		}
	}
	assert.Greater(t, len(hidden), len(f.hyps[:f.single])*2/3)
	_, some := NewFinder(Of(rig.New("empty"), tables(t), nil), &Catalogue{Tests: catalogue(t).Tests}, 1).Practice(1)
	assert.False(t, some, "nothing can be broken that is not there")
}

// TestEveryThingHasItsStep: one row a kind of thing, with what it comes before and after.
func TestEveryThingHasItsStep(t *testing.T) {
	ref := tables(t)
	host := func(kind string) func(r *rig.Rig) {
		return func(r *rig.Rig) { r.Host.Kind = rig.Of(rig.HostKind(kind)) }
	}
	inside := func(r *rig.Rig) { // the card in a slot of the case
		r.Route.Stages, r.Chamber.Open = r.Route.Stages[:1], false
	}
	for _, c := range []struct {
		step, after, before string
		made                func(r *rig.Rig)
	}{
		{"battery-off", "photograph-firmware", "power-off", host("notebook")},
		{"unplug-battery", "open-host", "leave-drive", host("notebook")},
		{"plug-battery", "power-off-again", "close-host", host("notebook")},
		{"compare-listing", "", "power-off", func(r *rig.Rig) { r.Host.Checks = []rig.Check{{Name: "caddy"}} }},
		{"serve-host", "open-host", "seat-adapter", func(r *rig.Rig) { r.Host.Checks = []rig.Check{{Name: "caddy"}} }},
		{"clone-drive", "save-data", "power-off", func(r *rig.Rig) { r.Route.Displaced[0].Method = rig.Of(rig.Carryover("cloned")) }},
		{"prove-drive", "save-data", "power-off", func(r *rig.Rig) { r.Route.Displaced[0].Home = rig.Of(rig.HomeUSB) }},
		{
			"system-on-drive", "first-start", "install-driver",
			func(r *rig.Rig) { r.Route.Displaced[0].Method = rig.Of(rig.Carryover("installed")) },
		},
		{"large-addresses", "photograph-firmware", "power-off", func(r *rig.Rig) { r.Card.Window = rig.Of(units.Gibibyte(16)) }},
		{"disk-mode", "suspend-encryption", "power-off", func(r *rig.Rig) { r.Host.Firmware.DiskMode = rig.Of(rig.DiskMode("bundled")) }},
		{"own-card-off", "photograph-firmware", "power-off", func(r *rig.Rig) { r.Host.Graphics = rig.Of(rig.Discrete) }},
		{"force-generation", "photograph-firmware", "power-off", func(r *rig.Rig) { r.Route.ForcedGen = rig.Of(2) }},
		{"remove-old-driver", "fetch-drivers", "power-off", func(r *rig.Rig) { r.Card.Driver = rig.Of(rig.DriverState("conflict")) }},
		{"cut-a-notch", "open-host", "lay-cable", func(r *rig.Rig) { r.Alterations = []rig.Alteration{{Name: "a notch"}} }},
		{"out-bay", "open-host", "card", func(r *rig.Rig) { r.Chamber.Things = []rig.Thing{{Name: "bay", Out: true}} }},
		{"shorten-adapter", "", "seat-adapter", func(r *rig.Rig) {
			r.Route.Stages[0].MayCut, r.Route.Stages[0].Module = rig.Of(true), rig.Of(units.Millimetre(80))
		}},
		{"turn-on-supply", "supply-supply", "first-start", func(r *rig.Rig) {}},
		{"test-card", "lead-to-the-dock", "card", func(r *rig.Rig) { r.Build.TestCard = rig.Of(true) }},
		{"bracket-card", "", "card", func(r *rig.Rig) {
			inside(r)
			r.Chamber.Opening.Height, r.Card.Bracket.Height, r.Card.Bracket.Spare = rig.Of(rig.Height("half")), rig.Of(rig.Height("full")),
				rig.Of(rig.Height("half"))
		}},
		{"on-lid", "prove-power", "", func(r *rig.Rig) { inside(r); r.Chamber.Covers = []rig.Cover{{Name: "lid"}} }},
		{"on-lid", "card", "first-start", func(r *rig.Rig) {
			inside(r)
			r.Chamber.Covers = []rig.Cover{{Name: "lid", Switch: rig.Of(true)}}
		}},
		{"print-stand-offs-lid", "", "on-lid", func(r *rig.Rig) {
			inside(r)
			r.Chamber.Covers = []rig.Cover{{Name: "lid", Raised: rig.Of(units.Millimetre(6))}}
		}},
		{"on-inner", "prove-link", "on-outer", func(r *rig.Rig) {
			inside(r)
			r.Chamber.Covers = []rig.Cover{{Name: "outer"}, {Name: "inner", Under: []string{"outer"}}}
		}},
		{"card", "lay-cable", "seat-adapter", func(r *rig.Rig) {
			r.Build.Needs = []rig.Need{{Step: "seat-adapter", After: "card"}}
			r.Route.Stages[0].Kind = rig.Of(rig.Cable)
		}},
	} {
		r := bench()
		c.made(r)
		if c.step == "card" { // a need of one's own is one more row
			continue
		}
		order := ids(EveningOf(r, ref).Steps)
		at := slices.Index(order, c.step)
		require.GreaterOrEqual(t, at, 0, "%s is none of %v", c.step, order)
		if c.after != "" {
			assert.Greater(t, at, slices.Index(order, c.after), "%s after %s: %v", c.step, c.after, order)
		}
		if c.before != "" {
			assert.Less(t, at, slices.Index(order, c.before), "%s before %s: %v", c.step, c.before, order)
		}
	}
	tunnel := bench()
	tunnel.Host.Slots[0].Form, tunnel.Route.Stages = rig.Of(rig.Tunnel), tunnel.Route.Stages[2:]
	order := ids(EveningOf(tunnel, ref).Steps)
	assert.NotContains(t, order, "open-host", "a port on the outside is not opened")
	assert.NotContains(t, order, "close-host")
}

// TestStepsOfAnyRig: every name is there once, what a step needs stands before it, a need
// of one's own is heeded, and a very large file is ordered too.
func TestStepsOfAnyRig(t *testing.T) {
	ref := tables(t)
	rapid.Check(t, func(t *rapid.T) {
		r := bench()
		names := []string{"lid", "lid ", "Lid", "cage", "tray", "höchst"}
		for i := range rapid.IntRange(0, 5).Draw(t, "covers") {
			v := rig.Cover{
				Name: names[i], Side: rig.Of(rapid.SampledFrom([]rig.Side{"top", rig.SideUnder}).Draw(t, "side")),
				Cools: rig.Of(rapid.Bool().Draw(t, "cools")),
			}
			for _, other := range names[:i] {
				if rapid.Bool().Draw(t, "under") {
					v.Under = append(v.Under, other)
				}
			}
			r.Chamber.Covers = append(r.Chamber.Covers, v)
		}
		r.Chamber.Open = false
		if rapid.Bool().Draw(t, "inside") {
			r.Route.Stages = r.Route.Stages[:1]
		}
		for range rapid.IntRange(0, 4).Draw(t, "leads") {
			r.Leads = append(
				r.Leads,
				rig.Lead{Name: "spare", To: []rig.LeadEnd{{Part: rapid.SampledFrom([]string{"card", "dock", "host", ""}).Draw(t, "to")}}},
			)
		}
		e := EveningOf(r, ref)
		seen := map[string]bool{}
		for i := range e.Steps {
			s := &e.Steps[i]
			require.False(t, seen[s.ID], s.ID)
			for _, before := range s.After {
				require.True(t, seen[before] || e.Cycle != nil, "%s before %s", before, s.ID)
			}
			seen[s.ID] = true
			require.LessOrEqual(t, s.Minutes[0], s.Minutes[1], s.ID)
			require.NotEmpty(t, s.Do)
		}
		require.Len(t, e.Steps, len(StepsOf(r, ref)))
		require.Empty(t, of(e.Findings(), "build.live"), "its own order never works on what is live")
		require.Empty(t, of(e.Findings(), "build.order"))
	})
	large := bench()
	for i := range 600 {
		large.Leads = append(large.Leads, rig.Lead{Name: fmt.Sprint("lead ", i), To: []rig.LeadEnd{{Part: "card", At: "A"}}})
		large.Chamber.Things = append(large.Chamber.Things, rig.Thing{Name: fmt.Sprint("bay ", i), Out: true})
	}
	assert.Greater(t, len(EveningOf(large, ref).Steps), 1200, "ordered all the same")
}

// TestSameEveningBeforeAndAfter: a change that touches nothing broken changes nothing.
func TestSameEveningBeforeAndAfter(t *testing.T) {
	w, cat := Of(bench(), tables(t), nil), catalogue(t)
	fault := &cat.Faults[cat.Fault("lane-broken")]
	for seed := range uint64(50) {
		dice := throwAll(rand.New(rand.NewPCG(seed, 1)), 1)
		assert.Equal(t, "same", w.shows(&cat.Tests[cat.Test("defaults")], []*Fault{fault}, dice))
		before, after := w.stand([]*Fault{fault}, nil, dice), w.stand(nil, nil, dice)
		width, gen := before.trained()
		whole, same := after.trained()
		assert.Equal(t, gen, same, "a broken lane takes no speed")
		assert.Less(t, width, max(1, whole)+1)
	}
}

// TestOrdersHoldInEveryEvening: an order that always finds the card finds it on a thousand
// evenings, one that never does on none, and one that perhaps does on some and not on
// others.
func TestOrdersHoldInEveryEvening(t *testing.T) {
	ref := tables(t)
	for _, c := range []struct {
		name string
		up   float64
		by   rig.TurnOn
	}{
		{"by hand", 0, rig.TurnOnJumper}, {"late", 1600, rig.TurnOnJumper}, {"very late", 9000, rig.TurnOnJumper},
		{"follows", 0, rig.TurnOnSwitch}, {"follows, late", 3500, rig.TurnOnSwitch},
	} {
		r := bench()
		r.Supplies[0].TurnOn = rig.Of(c.by)
		if c.up > 0 {
			r.Supplies[0].UpMS = rig.Of(c.up)
		}
		w := Of(r, ref, nil)
		for _, order := range OrdersOf(r, ref) {
			found, lost := 0, 0
			for seed := range uint64(1000) {
				late := slices.ContainsFunc(
					Rehearse(w, order.Order, seed, nil).Events, func(e Event) bool { return e.Rule == "power.order" },
				)
				if late {
					lost++
				} else {
					found++
				}
			}
			switch order.Found {
			case "always":
				assert.Zero(t, lost, "%s, %s", c.name, order.Order)
			case "never":
				assert.Zero(t, found, "%s, %s", c.name, order.Order)
			}
		}
	}
}

// TestWhatARigHas decides what can be broken and what can be tried on it.
func TestWhatARigHas(t *testing.T) {
	ref := tables(t)
	for _, c := range []struct {
		has  string
		want bool
		made func(r *rig.Rig)
	}{
		{"dock", true, func(r *rig.Rig) {}},
		{"dock", false, func(r *rig.Rig) { r.Route.Stages = r.Route.Stages[:2] }},
		{"cable", false, func(r *rig.Rig) { r.Route.Stages = r.Route.Stages[:1] }},
		{"module", true, func(r *rig.Rig) {}},
		{"wide", false, func(r *rig.Rig) { r.Host.Slots[0].Lanes = rig.Of(1) }},
		{"plugs", false, func(r *rig.Rig) { r.Card.Plugs = []rig.CardPlug{} }},
		{"waits", false, func(r *rig.Rig) { r.Supplies[0].Kind = rig.Of(rig.Brick) }},
		{"waits", true, func(r *rig.Rig) {}},
		{"two-supplies", false, func(r *rig.Rig) {}},
		{"slot-unsure", false, func(r *rig.Rig) {}},
		{"slot-unsure", true, func(r *rig.Rig) { r.Host.Slots[0].Carries = rig.Of([]rig.Carried{rig.PCIe, "sata"}) }},
		{"slot-shares", false, func(r *rig.Rig) { r.Host.Slots[0].Shares = rig.Of(rig.NoOccupant) }},
		{"radio-slot", true, func(r *rig.Rig) { r.Host.Slots[0].Form = rig.Of(rig.MiniPCIe) }},
		{"radio-slot", false, func(r *rig.Rig) {
			r.Host.Slots[0].Form, r.Host.Firmware.AllowList = rig.Of(rig.MiniPCIe), rig.Of(false)
		}},
		{"own-graphics", false, func(r *rig.Rig) { r.Host.Graphics = rig.Of(rig.Graphics("none")) }},
		{"screen", false, func(r *rig.Rig) { r.Brief.Screen.Kind = rig.Of(rig.ScreenKind("own-panel")) }},
		{"screen", false, func(r *rig.Rig) { r.Brief.Screen.Kind = rig.Of(rig.NoScreen) }},
		{"displaced-drive", true, func(r *rig.Rig) {}},
		{"displaced-drive", false, func(r *rig.Rig) { r.Route.Displaced = nil }},
		{"forces", false, func(r *rig.Rig) { r.Host.Kind = rig.Of(rig.HostKind("mini-pc")) }},
		{"forces", true, func(r *rig.Rig) { r.Host.Kind, r.Route.ForcedGen = rig.Of(rig.HostKind("mini-pc")), rig.Of(3) }},
		{"counts-errors", false, func(r *rig.Rig) { r.Host.Kind = rig.Of(rig.HostKind("single-board")) }},
	} {
		r := bench()
		c.made(r)
		assert.Equal(t, c.want, Of(r, ref, nil).has[c.has], c.has)
	}
}

// TestWhatCannotBeDone is left out, what is at hand comes in, and harmless tests stand
// before others that tell as much.
func TestWhatCannotBeDone(t *testing.T) {
	cat := catalogue(t)
	r := bench()
	f := NewFinder(Of(r, tables(t), nil), cat, 1)
	assert.Equal(t, "see", f.Search(nil).Next.Test, "what is seen comes first")
	f.Leave("see")
	first := f.Search(nil)
	f.Leave(first.Next.Test)
	second := f.Search(nil)
	assert.Equal(t, first.Then[0].Test, second.Next.Test)
	for _, n := range append(first.Then, *first.Next) {
		assert.Empty(t, n.Needs, "what has to be bought is not asked for")
		price := func(n *Next) float64 { return n.Minutes + cat.Tests[cat.Test(n.Test)].Harm }
		assert.GreaterOrEqual(t, first.Next.Bits/price(first.Next), n.Bits/price(&n))
	}
	blind := []string{}
	for i := range cat.Tests {
		if cat.Tests[i].Needs == "" {
			blind = append(blind, cat.Tests[i].Name)
		}
	}
	f.Leave(blind...)
	stuck := f.Search(nil)
	require.NotNil(t, stuck.Stop)
	assert.Equal(t, "cannot-part", stuck.Stop.Why)
	assert.NotEmpty(t, stuck.Stop.PartedBy)
	assert.Contains(t, stuck.Stop.Says, "can't be parted with what is at hand")
	r.Build.AtHand = []string{"a meter"}
	at := NewFinder(Of(r, tables(t), nil), cat, 1)
	at.Leave(blind...)
	assert.Equal(t, "volts", at.Search(nil).Next.Test)
	twins := &Catalogue{Faults: cat.Faults, Tests: []Test{cat.Tests[cat.Test("lamp")], cat.Tests[cat.Test("lamp")]}}
	twins.Tests[0].Name, twins.Tests[0].Harmless = "lamp, and a risk", false
	assert.Equal(t, "lamp", NewFinder(Of(bench(), tables(t), nil), twins, 1).Search(nil).Next.Test)
	odd := f.Search([]Seen{{"start", "stops"}})
	require.Len(t, odd.Odd, 1)
	assert.Contains(t, odd.Odd[0], "Nothing on the list shows start=stops: look again.")
}

// everySuspect are rigs that can have every fault of the catalogue between them.
func everySuspect() []*rig.Rig {
	usb, radio := bench(), bench()
	usb.Route.Displaced[0].Home = rig.Of(rig.HomeUSB)
	usb.Supplies = append(usb.Supplies, rig.Supply{Name: "brick", Kind: rig.Of(rig.Brick)})
	radio.Host.Slots[0].Key = rig.Of(rig.Key("E"))
	radio.Host.Slots[0].Carries = rig.Fact[[]rig.Carried]{}
	return []*rig.Rig{usb, radio}
}

// TestEverySuspectIsShown by some test, and every test shows something under some suspect.
func TestEverySuspectIsShown(t *testing.T) {
	cat := catalogue(t)
	shown, tells := map[string]bool{}, map[string]bool{}
	for _, r := range everySuspect() {
		f := NewFinder(Of(r, tables(t), nil), cat, 1)
		for i, test := range f.tests {
			listed := f.listed()
			for k := range listed {
				h, other := &listed[k], &listed[(k+1)%len(listed)]
				well := make([]float64, len(test.Outcomes))
				for range evenings {
					dice := throwAll(rand.New(rand.NewPCG(1, uint64(k))), 1)
					well[slices.Index(test.Outcomes, f.w.shows(test, nil, dice))] += 1.0 / evenings
				}
				for o := range well {
					shown[h.faults[0].Name] = shown[h.faults[0].Name] || math.Abs(well[o]-h.shows[i][o]) > 0.2
					tells[test.Name] = tells[test.Name] || math.Abs(other.shows[i][o]-h.shows[i][o]) > 0.2
				}
			}
		}
	}
	for i := range cat.Faults {
		assert.True(t, shown[cat.Faults[i].Name], "no test shows %s", cat.Faults[i].Name)
	}
	for i := range cat.Tests {
		assert.True(t, tells[cat.Tests[i].Name], "%s shows nothing", cat.Tests[i].Name)
	}
}

// TestWhatIsInTheFileCounts: a reading of one lane under load, where four are planned, is
// what was seen, and names what makes lanes few; acts that changed nothing clear and are
// not proposed again; what speaks for and against is said.
func TestWhatIsInTheFileCounts(t *testing.T) {
	cat := catalogue(t)
	r := bench()
	read := rig.Reading{
		Width: rig.Of(1), Gen: rig.Of(3), Load: rig.Of(rig.LoadState("loaded")), Errors: rig.Of(0),
		Seconds: rig.Of[units.Second](600),
	}
	r.Route.Readings = []rig.Reading{read}
	f := NewFinder(Of(r, tables(t), nil), cat, 1)
	s := f.Search(nil)
	assert.Equal(
		t,
		[]Evidence{
			{"device", "there", "reading 1 of the link"}, {"width", "x1", "reading 1 of the link"},
			{"speed", "planned", "reading 1 of the link"}, {"errors", "none", "reading 1 of the link"},
		},
		s.Evidence,
	)
	few := []string{"module-not-seated", "adapter-fewer-lanes", "slot-fewer-lanes", "lane-broken", "edge-dirty", "cable-half-in"}
	weight := func(s *Search, name string) float64 {
		i := slices.IndexFunc(s.Suspects, func(x Suspect) bool { return x.Fault == name })
		require.GreaterOrEqual(t, i, 0, name)
		return s.Suspects[i].Weight
	}
	sum := 0.0
	for _, name := range few {
		sum += weight(s, name)
	}
	assert.Greater(t, sum, 0.8)
	assert.Less(t, s.Suspects[0].Weight, 0.5, "one lane alone names nobody")
	assert.Contains(t, s.Suspects[0].For, "width=x1")
	again := f.Search([]Seen{{"reseat", "same"}})
	assert.Less(t, weight(again, "module-not-seated"), weight(s, "module-not-seated")/2)
	for _, x := range again.Suspects {
		if x.Fault == "module-not-seated" {
			assert.NotContains(t, x.Mend, "Reseat")
			assert.Contains(t, x.Against, "reseat=same")
		}
	}
	cured := f.Search([]Seen{{"reseat", "same"}, {"other-adapter", "cured"}})
	assert.Equal(t, "adapter-fewer-lanes", cured.Suspects[0].Fault)
	read.MostW = rig.Of(1)
	r.Route.Readings = []rig.Reading{read}
	assert.Equal(
		t, "slot-fewer-lanes", NewFinder(Of(r, tables(t), nil), cat, 1).Search(nil).Suspects[0].Fault,
		"both ends say that one lane is all",
	)
	weak := bench()
	weak.Supplies[0].Class = rig.Of(rig.ClassOlder)
	weak.Supplies[0].Worked = rig.Of(true)
	told := NewFinder(
		Of(weak, tables(t), []finding.Finding{{Rule: "power.drop", Level: finding.Risk, Title: "Voltage lost on the way"}}),
		cat, 1,
	).Search(nil)
	for _, x := range told.Suspects {
		if x.Fault == "supply-tired" {
			assert.Equal(t, []string{"it is of an older design", "the verdict: voltage lost on the way"}, x.For)
			assert.Equal(t, []string{"it worked in another rig"}, x.Against)
		}
	}
	own := f.Search([]Seen{{"width", "full"}})
	assert.NotContains(
		t, own.Evidence, Evidence{"width", "x1", "reading 1 of the link"},
		"what a person saw stands before what is in the file",
	)
	r.Route.Readings = nil
	r.Runs = []rig.Run{{Name: "evening", Side: rig.Of(rig.RunSide("after")), Average: rig.Of(50.0)}}
	assert.Equal(t, []Evidence{{"device", "there", "the run evening"}}, NewFinder(Of(r, tables(t), nil), cat, 1).Search(nil).Evidence)
}

// TestWhatIsNotOnTheList grows with surprise, is never named, and is said.
func TestWhatIsNotOnTheList(t *testing.T) {
	f := NewFinder(Of(bench(), tables(t), nil), catalogue(t), 1)
	unlisted := func(s *Search) float64 {
		return s.Suspects[slices.IndexFunc(s.Suspects, func(x Suspect) bool { return x.Fault == Unlisted })].Weight
	}
	first := f.Search(nil)
	assert.InDelta(t, 0.03, unlisted(first), 0.001)
	odd := []Seen{{"lamp", "off"}, {"device", "there"}, {"width", "full"}, {"speed", "planned"}, {"start", "hangs"}, {"fans", "none"}}
	s := f.Search(odd)
	assert.Greater(t, unlisted(s), 0.5)
	if s.Stop != nil {
		assert.NotEqual(t, "named", s.Stop.Why)
		assert.Contains(t, s.Stop.Says, "nothing of what Kolvan knows")
	}
}

// TestDarkScreens: no test that wants a picture is asked for while there is none.
func TestDarkScreens(t *testing.T) {
	cat := catalogue(t)
	f := NewFinder(Of(bench(), tables(t), nil), cat, 1)
	for _, c := range []struct {
		seen Seen
		dark bool
	}{
		{Seen{"see", "nothing"}, true}, {Seen{"see", "twitch"}, true}, {Seen{"see", "no-picture"}, true},
		{Seen{"start", "hangs"}, true}, {Seen{"screens", "none"}, true}, {Seen{"see", "slow"}, false},
		{Seen{"screens", "host-only"}, false},
	} {
		s, wants := f.Search([]Seen{c.seen}), false
		for _, n := range append(s.Then, *s.Next) {
			wants = wants || cat.Tests[cat.Test(n.Test)].Picture
		}
		if c.dark {
			assert.False(t, wants, "%v", c.seen)
		}
	}
	lit := f.Search([]Seen{{"see", "no-picture"}, {"screens", "host-only"}})
	assert.True(
		t, slices.ContainsFunc(append(lit.Then, *lit.Next), func(n Next) bool { return cat.Tests[cat.Test(n.Test)].Picture }),
		"the host's own picture will do",
	)
}
