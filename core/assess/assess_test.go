package assess_test

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/rig"
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
	assert.Empty(t, report.Findings)
	assert.False(t, report.Stops())
}

func set(path, value string) string {
	return `{"op":"add","path":"` + path + `","value":` + value + `}`
}

func drop(path string) string { return `{"op":"remove","path":"` + path + `"}` }

// hostSlot puts the card straight into the host's long slot, without plugs.
const hostSlot = `{"op":"replace","path":"/route","value":{"slot":"long","stages":[]}},{"op":"replace","path":"/card/plugs","value":[]},{"op":"replace","path":"/leads","value":[]}`

// dockOn feeds the dock by another lead.
func dockOn(outlet, plug, inlet, inletPlug string) string {
	return set("/leads/0", `{"name":"other lead","owned":true,"from":[{"part":"main","at":"`+outlet+`","connector":"`+plug+`"}],"to":[{"part":"dock","at":"`+inlet+`","connector":"`+inletPlug+`"}]}`) + "," + drop("/leads/1")
}

// mainDock feeds the dock by a main plug, 3.3 V and all, from a rail of so many
// amps.
func mainDock(amps string) string {
	return all(set("/supplies/1/outlets/-", `{"name":"m","connector":"main-24"}`), set("/route/stages/2/inlets/-", `{"name":"m","connector":"main-24"}`),
		set("/leads/0", `{"name":"main lead","owned":true,"from":[{"part":"main","at":"m"}],"to":[{"part":"dock","at":"m"}]}`),
		set("/supplies/1/rails/-", `{"name":"3.3V","voltage_v":3.3,"current_a":`+amps+`}`))
}

// all joins operations of one patch.
func all(operations ...string) string { return strings.Join(operations, ",") }

func boardPower(w string) string { return set("/card/power_w", w) }

func TestRules(t *testing.T) {
	ref := coretest.Tables(t)
	told := map[[2]string]bool{}
	for _, of := range ruleCases {
		for _, c := range of.cases {
			t.Run(of.rule+"/"+c.want+"/"+c.why, func(t *testing.T) {
				report := assess.Rig(whole(t, "["+c.patch+"]"), ref)
				rule, want := of.rule, c.want
				if sister, ok := strings.CutPrefix(want, "asked by "); ok {
					assert.Equal(t, "quiet", level(&report, rule, want), "%+v", report.Findings)
					rule, want = sister, "unknown"
				}
				assert.Equal(t, want, level(&report, rule, want), "%+v", report.Findings)
			})
			kind, _, _ := strings.Cut(c.want, " ")
			told[[2]string{of.rule, kindOf[kind]}] = true
		}
	}
	for _, r := range assess.Rules() {
		for _, kind := range []string{"fires", "quiet", "unknown"} {
			assert.True(t, told[[2]string{r.Name, kind}], "%s wants a test: %s", r.Name, kind)
		}
	}
}

// kindOf sorts the cases: every rule wants one of each.
var kindOf = map[string]string{"note": "fires", "risk": "fires", "blocked": "fires", "danger": "fires", "quiet": "quiet", "unknown": "unknown", "asked": "unknown"}

// tunnel makes the route's slot a tunnelled port.
func tunnel(more string) string { return all(set("/host/slots/0/form", `"tunnel"`), more) }

func TestFigures(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		name, patch string
		want        map[string]any
	}{
		{"Gen 4 x4", "", map[string]any{"link.width": 4., "link.gen": 4., "link.raw_gb_s": 7.8768, "link.net_gb_s": 6.4341, "link.fill_s": 1.3351, "link.pinch": "m2-a",
			"link.likely_gen": nil, "power.sustained_w": 120., "power.supply_share": .3, "fit.gap_mm": 20., "brief.to_buy": 400.}},
		{"payload 256 on Gen 3", set("/route/payload_bytes", "256") + "," + set("/host/slots/0/generation", "3"), map[string]any{"link.net_gb_s": 3.4928}},
		{"payload 512 on Gen 1, one lane", set("/route/payload_bytes", "512") + "," + set("/host/slots/0/generation", "1") + "," + set("/route/stages/0/lanes", "1"), map[string]any{"link.width": 1., "link.net_gb_s": .23164, "link.pinch": "m2-a"}},
		{"Gen 6 flits", set("/host/slots/0/generation", "6") + "," + set("/route/stages/0/generation", "6") + "," + set("/route/stages/1/generation", "6") + "," + set("/route/stages/2/generation", "6") + "," + set("/card/generation", "6"), map[string]any{"link.raw_gb_s": 29.5, "link.net_gb_s": 28.615}},
		{"a tunnelled port of the 40 class", set("/host/slots/0/form", `"tunnel"`) + "," + set("/host/slots/0/tunnel_gbit_s", "40"), map[string]any{"link.net_gb_s": 2.75}},
		{"a tunnelled port of unknown class", set("/host/slots/0/form", `"tunnel"`), map[string]any{"link.width": 4., "link.raw_gb_s": nil, "link.net_gb_s": nil}},
		{"a two-lane route on a card that does not do two", set("/host/slots/0/lanes", "2") + "," + set("/card/trains_x2", "false"), map[string]any{"link.width": 1.}},
		{"SATA only", set("/host/slots/0/carries", `["sata"]`), map[string]any{"link.width": 0., "link.net_gb_s": 0., "link.gen": nil}},
		{"unknown cable", drop("/route/stages/1/lanes"), map[string]any{"link.width": nil, "link.net_gb_s": nil, "link.gen": 4., "link.pinch": nil}},
		{"the card in the cage", set("/card/length_mm", "253"), map[string]any{"fit.gap_mm": -3.}},
		{"a dock that makes its 3.3 V", set("/route/stages/2/makes_3v3_from_12v", "true"), map[string]any{"power.sustained_w": 121.35}},
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
