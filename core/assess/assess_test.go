package assess_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func stock(t testing.TB) *assess.Bins {
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	return bins
}

// whole is a rig of which everything is known and nothing is to be said, changed
// by a JSON Patch.
func whole(t testing.TB, patch string) *rig.Rig {
	t.Helper()
	doc, err := os.ReadFile("testdata/whole.json")
	require.NoError(t, err)
	if patch != "" {
		p, err := jsonpatch.DecodePatch([]byte(patch))
		require.NoError(t, err, patch)
		doc, err = p.Apply(doc)
		require.NoError(t, err, patch)
	}
	r, err := rig.Decode(doc)
	require.NoError(t, err)
	return r
}

// level is the worst level of a rule's findings, "quiet" without any. Unknown
// counts only where it is asked for: it may stand beside what is certain.
func level(report *assess.Report, rule, want string) string {
	worst := "quiet"
	for _, f := range report.Findings { // worst first
		if f.Rule != rule {
			continue
		}
		if f.Level.String() == want || f.Level != finding.Unknown {
			return f.Level.String()
		}
		worst = "unknown"
	}
	return worst
}

func TestWholeRigIsQuiet(t *testing.T) {
	report := assess.Rig(whole(t, ""), coretest.Tables(t))
	require.Len(t, report.Findings, 4, "plugging with both sides off, the watts at the wall, of all plugs too, and the note of two supplies")
	assert.Equal(t, finding.Note, report.Findings[0].Level)
	assert.False(t, report.Stops())
}

func set(path, value string) string {
	return `{"op":"add","path":"` + path + `","value":` + value + `}`
}

func drop(path string) string { return `{"op":"remove","path":"` + path + `"}` }

// hostSlot puts the card straight into the host's long slot, without plugs.
const hostSlot = `{"op":"replace","path":"/route","value":{"slot":"long","stages":[]}},{"op":"replace","path":"/card/plugs","value":[]},{"op":"replace","path":"/leads","value":[]}`

// inSlot puts an adapter into that slot.
var inSlot = set(
	"/route/stages",
	`[{"name":"adapter","kind":"adapter","lanes":4,"generation":4,"plug":{"form":"card","lanes":4},"socket":{"form":"card","lanes":16}}]`,
)

// dockOn feeds the dock by another lead.
func dockOn(outlet, plug, inlet, inletPlug string) string {
	return set(
		"/leads/0",
		`{"name":"other lead","owned":true,"from":[{"part":"main","at":"`+outlet+`","connector":"`+plug+`"}],"to":[{"part":"dock","at":"`+inlet+
			`","connector":"`+inletPlug+`"}]}`,
	) + "," + drop("/leads/1")
}

// mainDock feeds the dock by a main plug, 3.3 V and all, from a rail of so many
// amps.
func mainDock(amps string) string {
	return all(set(
		"/supplies/1/outlets/-", `{"name":"m","connector":"main-24"}`,
	), set("/route/stages/2/inlets/-", `{"name":"m","connector":"main-24"}`),
		set("/leads/0", `{"name":"main lead","owned":true,"from":[{"part":"main","at":"m"}],"to":[{"part":"dock","at":"m"}]}`),
		set(
			"/supplies/1/rails/-", `{"name":"3.3V","voltage_v":3.3,"current_a":`+amps+`}`,
		), set("/route/stages/2/makes_3v3_from_12v", "false"))
}

// toHost leads from an outlet of the supply to the host.
func toHost(outlet, plug string) string {
	return set(
		"/leads/2",
		`{"name":"host lead","owned":true,"from":[{"part":"main","at":"`+outlet+`"}],"to":[{"part":"host","connector":"`+plug+`"}]}`,
	)
}

// poweredRiser puts a riser with a feed of its own into the host's long slot.
func poweredRiser(more string) string {
	return all(set(
		"/route",
		`{"slot":"long","stages":[{"name":"riser","kind":"riser","owned":true,"lanes":16,"generation":4,"plug":{"form":"card","lanes":16},"socket":{"form":"card","lanes":16},"makes_3v3_from_12v":true,"inlets":[{"name":"in","connector":"peripheral-4"}]`+more+`}]}`,
	),
		set("/leads/0/to", `[{"part":"riser","at":"in"}]`))
}

// twoPlugs feeds two plugs of the card by one lead.
const twoPlugs = `{"op":"add","path":"/card/plugs","value":[{"name":"A","connector":"card-8"},{"name":"B","connector":"card-8"}]},{"op":"add","path":"/leads/1/to","value":[{"part":"card","at":"A","connector":"card-8"},{"part":"card","at":"B","connector":"card-8"}]}`

// all joins operations of one patch.
func all(operations ...string) string { return strings.Join(operations, ",") }

func boardPower(w string) string { return set("/card/power_w", w) }

// exactly puts a card of that length before the cage, all of it told to be exact.
func exactly(length string) string {
	told := func(v string) string { return `{"value":` + v + `,"tolerance":0}` }
	return all(set("/card/length_mm", told(length)), set("/chamber/card_at/x_mm", told("0")), set("/chamber/things/0/at/x_mm", told("250")))
}

// workedOut are the figures and the loads of the whole rig, changed.
func workedOut(t *testing.T, ref *reference.Tables, patch string) []string {
	report := assess.Rig(whole(t, patch), ref)
	figures, err := json.Marshal(report.Figures)
	require.NoError(t, err)
	return append(strings.Split(string(figures), ",\""), loadsOf(&report)...)
}

// saidShort: each finding has its line and its tag, and where it asks for something what would
// do, with all their figures filled in.
func saidShort(t *testing.T, f *finding.Finding) {
	if f.Level == finding.Unknown {
		return
	}
	s := finding.Speaker{Thing: "it", Short: "it", Plan: 0.8}
	line, tag, would := s.Line(f), s.Tag(f), s.Would(f)
	for _, said := range []string{line, tag, would} {
		assert.NotContains(t, said, "{", f.Rule)
	}
	assert.LessOrEqual(t, len(line), 100, "%s: %s", f.Rule, line)
	assert.LessOrEqual(t, len(tag), 45, "%s: %s", f.Rule, tag)
	if f.Level != finding.Note {
		assert.NotEmpty(t, would, "%s: %s", f.Rule, f.Says)
	}
}

// TestRules holds each rule to its level in each case, and all that is said to
// the exact set of rule, level, place and numbers in testdata/rule_cases.txt, which
// KOLVAN_UPDATE=1 writes anew, to be read before it is kept.
func TestRules(t *testing.T) {
	ref := coretest.Tables(t)
	told := map[[2]string]bool{}
	examples := map[string]string{}
	figures := map[string]map[string]bool{}
	var exact strings.Builder
	usual := workedOut(t, ref, "")
	for _, of := range ruleCases {
		for _, c := range of.cases {
			fmt.Fprintf(&exact, "%s: %s\n", of.rule, c.why)
			for i, line := range workedOut(t, ref, "["+c.patch+"]") {
				if i >= len(usual) || line != usual[i] {
					fmt.Fprintf(&exact, "  . %s\n", line)
				}
			}
			t.Run(of.rule+"/"+c.want+"/"+c.why, func(t *testing.T) {
				report := assess.Rig(whole(t, "["+c.patch+"]"), ref)
				rule, want := of.rule, c.want
				if sister, ok := strings.CutPrefix(want, "asked by "); ok {
					assert.Equal(t, "quiet", level(&report, rule, want), "%+v", report.Findings)
					rule, want = sister, "unknown"
				}
				want = strings.TrimPrefix(want, "else ") // what counts while the fact is not told
				assert.Equal(t, want, level(&report, rule, want), "%+v", report.Findings)
				for _, f := range report.Findings {
					if f.Rule == of.rule && f.Level.String() == c.want && (examples[f.Rule] == "" || strings.HasPrefix(examples[f.Rule], "Not known")) {
						examples[f.Rule] = f.Says
					}
					fmt.Fprintf(&exact, "  %s %s %s", f.Rule, f.Level, f.Where)
					for _, number := range f.Numbers {
						fmt.Fprintf(&exact, " %s=%v", number.Name, units.Round(number.Value, 4))
					}
					exact.WriteString("\n")
					assert.True(t, f.Row().Levels.Has(f.Level), "%s lists its levels", f.Rule)
					saidShort(t, &f)
					assert.True(t, strings.HasPrefix(f.Where, "/"), "%s says where", f.Rule)
					if len(f.Numbers) > 0 {
						first := f.Numbers[0].Name
						assert.Contains(t, f.Row().Figures, first, "%s says which way it gets worse", f.Rule)
						if figures[f.Rule] == nil {
							figures[f.Rule] = map[string]bool{}
						}
						figures[f.Rule][first] = true
					}
				}
			})
			kind, _, _ := strings.Cut(c.want, " ")
			told[[2]string{of.rule, kindOf[kind]}] = true
		}
	}
	for _, r := range assess.Rules() {
		for _, kind := range []string{"fires", "quiet", "unknown"} {
			assert.True(
				t,
				told[[2]string{r.Name, kind}] || (len(r.Levels) == 0 || slices.Equal(r.Levels, finding.Levels{finding.Unknown})) && kind == "fires",
				"%s wants a test: %s", r.Name, kind,
			)
		}
	}
	for _, r := range assess.Rules() {
		assert.Equal(t, examples[r.Name], r.Example, "what the row of %s shows as an example is said of its cases", r.Name)
		assert.NotEmpty(t, r.Station, r.Name)
		for name := range r.Figures {
			assert.True(t, figures[r.Name][name], "%s: no case is judged by %s", r.Name, name)
		}
	}
	const golden = "testdata/rule_cases.txt"
	if os.Getenv("KOLVAN_UPDATE") != "" {
		require.NoError(t, os.WriteFile(golden, []byte(exact.String()), 0o600))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	assert.Equal(t, string(want), exact.String())
}

// TestCertainInSpiteOfWhatIsMissing: a missing fact neither hides what is certain
// nor asks where it decides nothing.
func TestCertainInSpiteOfWhatIsMissing(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		name, patch string
		rule, level string // what is certain
		asks, not   string // a fact that is asked for, and one that is not
		bounds      map[string][2]float64
	}{
		{name: "slot Gen 1, the cable's unknown", patch: set("/host/slots/0/generation", "1") + "," + drop("/route/stages/1/generation"),
			rule: "link.speed", level: "note",
			not: "/route/stages/1/generation", bounds: map[string][2]float64{"link.gen": {1, 1}}},
		{name: "one lane, generations unknown", patch: all(
			set("/route/slot", `"m2-e"`), set("/route/stages/0/plug/key", `"A+E"`), set("/card/lanes", "16"),
			set("/host/slots/2/generation", "2"), drop("/route/stages/0/generation"), drop("/route/stages/1/generation"),
		),
			rule: "link.width", level: "risk", bounds: map[string][2]float64{"link.net_gb_s": {.2042, .4084}}},
		{name: "a feed of 24 W, the capacity above it unknown", patch: all(set(
			"/route/stages/2/inlets/-", `{"name":"small","connector":"small-disk-4"}`,
		), set("/supplies/1/outlets/-", `{"name":"x"}`),
			set(
				"/leads/0",
				`{"name":"thin","owned":true,"from":[{"part":"main","at":"x"}],"to":[{"part":"dock","at":"small","connector":"small-disk-4"}]}`,
			), drop("/leads/1")),
			rule: "power.slot-limit", level: "danger"},
		{
			name:  "the card's plugs unknown, its slot at 54 W",
			patch: all(set("/leads", "[]"), set("/leads/0", diskLead), drop("/card/plugs")), rule: "power.slot-limit",
			level: "danger",
		},
		{
			name: "board power unknown on a large supply", patch: drop("/card/power_w"), asks: "/card/power_w",
			bounds: map[string][2]float64{"power.sustained_w": {0, 226.35}},
		},
		{
			name:  "the host's own brick",
			patch: all(drop("/host/power_w"), drop("/supplies/0/rating_w"), drop("/supplies/0/rails")), not: "/host/power_w",
		},
		{
			name: "what each answer brings", patch: drop("/host/slots/0/generation"), asks: "/host/slots/0/generation",
			bounds: map[string][2]float64{"link.gen": {1, 4}},
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := whole(t, "["+c.patch+"]")
			report := assess.Rig(r, ref)
			require.NoError(t, assess.Ask(context.Background(), &report, r, ref))
			if c.rule != "" {
				assert.Equal(t, c.level, level(&report, c.rule, c.level), "%+v", report.Findings)
			}
			asked := map[string]int{}
			for _, q := range report.Questions {
				asked[q.Fact]++
				assert.NotEmpty(t, q.Answers, q.Fact)
			}
			for fact, times := range asked {
				assert.Equal(t, 1, times, "%s is asked once", fact)
			}
			if c.asks != "" {
				assert.Contains(t, asked, c.asks)
			}
			assert.NotContains(t, asked, c.not)
			for name, want := range c.bounds {
				got, _ := report.Bounds.Of(name)
				assert.InDelta(t, want[0], got.Low, 0.001, name)
				assert.InDelta(t, want[1], got.High, 0.001, name)
			}
		})
	}
}

const diskLead = `{"name":"disk lead","owned":true,"from":[{"part":"main","at":"d1","connector":"disk-15"}],"to":[{"part":"dock","at":"in 2","connector":"disk-15"}]}`

// kindOf sorts the cases: every rule wants one of each.
var kindOf = map[string]string{
	"note": "fires", "risk": "fires", "blocked": "fires", "danger": "fires", "quiet": "quiet", "unknown": "unknown",
	"asked": "unknown", "else": "unknown",
}

// tunnel makes the route's slot a tunnelled port.
func tunnel(more string) string { return all(set("/host/slots/0/form", `"tunnel"`), more) }

func TestFigures(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		name, patch string
		want        map[string]any
	}{
		{"Gen 4 x4", "", map[string]any{"link.width": 4., "link.gen": 4., "link.raw_gb_s": 7.8768, "link.net_gb_s": 6.4341,
			"link.fill_s": 1.3351, "link.pinch": "m2-a",
			"link.likely_gen": 4., "link.margin_db": 6.0509, "power.sustained_w": 121.35, "power.supply_share": .3034, "fit.gap_mm": 20.,
			"brief.to_buy": 400.}},
		{
			"payload 256 on Gen 3", set("/route/payload_bytes", "256") + "," + set("/host/slots/0/generation", "3"),
			map[string]any{"link.net_gb_s": 3.4928},
		},
		{
			"payload 512 on Gen 1, one lane",
			set("/route/payload_bytes", "512") + "," + set("/host/slots/0/generation", "1") + "," + set("/route/stages/0/lanes", "1"),
			map[string]any{"link.width": 1., "link.net_gb_s": .23164, "link.pinch": "m2-a"},
		},
		{
			"Gen 6 flits", hostSlot + "," + set("/host/slots/3/generation", "6") + "," + set("/card/generation", "6"),
			map[string]any{"link.raw_gb_s": 29.5, "link.net_gb_s": 28.615},
		},
		{
			"a tunnelled port of the 40 class",
			set("/host/slots/0/form", `"tunnel"`) + "," + set("/host/slots/0/tunnel_gbit_s", "40"),
			map[string]any{"link.net_gb_s": 2.75},
		},
		{
			"a tunnelled port of unknown class", set("/host/slots/0/form", `"tunnel"`),
			map[string]any{"link.width": 4., "link.raw_gb_s": nil, "link.net_gb_s": nil},
		},
		{
			"a two-lane route on a card that does not do two",
			set("/host/slots/0/lanes", "2") + "," + set("/card/trains_x2", "false"), map[string]any{"link.width": 1.},
		},
		{"SATA only", set("/host/slots/0/carries", `["sata"]`), map[string]any{"link.width": 0., "link.net_gb_s": 0., "link.gen": nil}},
		{
			"unknown cable", drop("/route/stages/1/lanes"),
			map[string]any{"link.width": nil, "link.net_gb_s": nil, "link.gen": 4., "link.pinch": nil},
		},
		{"the card in the cage", set("/card/length_mm", "253"), map[string]any{"fit.gap_mm": -3.}},
		{"a supply that gives the 3.3 V", mainDock("3"), map[string]any{"power.sustained_w": 120.}},
	} {
		t.Run(c.name, func(t *testing.T) {
			doc, err := json.Marshal(assess.Rig(whole(t, "["+c.patch+"]"), ref).Figures)
			require.NoError(t, err)
			var got map[string]any
			require.NoError(t, json.Unmarshal(doc, &got))
			for name, want := range c.want {
				if number, ok := want.(float64); ok && got[name] != nil {
					assert.InDelta(t, number, got[name], 0.0005, name)
					continue
				}
				assert.Equal(t, want, got[name], name)
			}
		})
	}
}
