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
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/demo"
)

func tables(t testing.TB) *reference.Tables {
	ref, err := reference.Load()
	require.NoError(t, err)
	return ref
}

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
	report := assess.Rig(whole(t, ""), tables(t))
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

func boardPower(w string) string { return set("/card/power_w", w) }

func TestRules(t *testing.T) {
	ref := tables(t)
	seen := map[string]map[string]bool{}
	for _, c := range []struct{ rule, want, why, patch string }{
		{"link.no-pcie", "blocked", "SATA only", set("/host/slots/0/carries", `["sata"]`)},
		{"link.no-pcie", "blocked", "the look-alike of mini PCIe", set("/host/slots/0/form", `"msata"`)},
		{"link.no-pcie", "blocked", "no lane wired", set("/host/slots/0/lanes", "0")},
		{"link.no-pcie", "quiet", "SATA beside PCIe", set("/host/slots/0/carries", `["sata","pcie"]`)},
		{"link.no-pcie", "unknown", "nobody looked", drop("/host/slots/0/carries")},
		{"link.no-pcie", "unknown", "no slot chosen", drop("/route/slot")},

		{"link.form-mismatch", "blocked", "another key", set("/host/slots/0/key", `"E"`)},
		{"link.form-mismatch", "blocked", "another form", set("/host/slots/0/form", `"mini-pcie"`)},
		{"link.form-mismatch", "blocked", "closed slot, longer edge", hostSlot + "," + set("/host/slots/3/lanes_mechanical", "4") + "," + set("/host/slots/3/open_end", "false")},
		{"link.form-mismatch", "blocked", "eight-lane cable, four-lane socket", set("/route/stages/1/plug/lanes", "8")},
		{"link.form-mismatch", "quiet", "open end", hostSlot + "," + set("/host/slots/3/lanes_mechanical", "4") + "," + set("/host/slots/3/open_end", "true")},
		{"link.form-mismatch", "quiet", "B+M module in an M slot", set("/route/stages/0/plug/key", `"B+M"`)},
		{"link.form-mismatch", "unknown", "is the end open?", hostSlot + "," + set("/host/slots/3/lanes_mechanical", "4")},
		{"link.form-mismatch", "unknown", "plug not seen", drop("/route/stages/0/plug")},

		{"link.width", "note", "slot narrower than the card", set("/card/lanes", "16")},
		{"link.width", "risk", "the route loses lanes", set("/route/stages/1/lanes", "2")},
		{"link.width", "risk", "a wide card under 1.6 GB/s", set("/card/lanes", "8") + "," + set("/host/slots/0/generation", "1")},
		{"link.width", "note", "a wide card just over 1.6 GB/s", set("/card/lanes", "8") + "," + set("/host/slots/0/generation", "2")},
		{"link.width", "quiet", "five wired, four used", set("/host/slots/0/lanes", "5")},
		{"link.width", "unknown", "cable not counted", drop("/route/stages/1/lanes")},

		{"link.speed", "note", "older slot", set("/host/slots/0/generation", "3")},
		{"link.speed", "note", "forced down", set("/route/forced_generation", "2")},
		{"link.speed", "quiet", "faster slot", set("/host/slots/0/generation", "5")},
		{"link.speed", "unknown", "slot's generation", drop("/host/slots/0/generation")},

		{"link.narrow-card", "note", "four of sixteen lanes, a generation older", hostSlot},
		{"link.narrow-card", "risk", "under 2 GB/s", hostSlot + "," + set("/host/slots/3/generation", "2")},
		{"link.narrow-card", "quiet", "as old as the link", hostSlot + "," + set("/card/generation", "3")},
		{"link.narrow-card", "quiet", "as many lanes as are wired", set("/host/slots/0/generation", "3")},

		{"link.two-lanes", "note", "until it is known", set("/host/slots/0/lanes", "2")},
		{"link.two-lanes", "quiet", "known to do two", set("/host/slots/0/lanes", "2") + "," + set("/card/trains_x2", "true")},

		{"boot.displaced", "blocked", "boot drive leaves for nowhere", set("/route/slot", `"m2-b"`)},
		{"boot.displaced", "blocked", "its new home is in use", set("/route/slot", `"m2-b"`) + "," + set("/host/slots/0/occupant", `"data drive"`) + "," + set("/route/displaced", `[{"occupant":"boot drive","home":"slot","slot":"m2-a"}]`)},
		{"boot.displaced", "quiet", "a bootable slot takes it", set("/route/slot", `"m2-b"`) + "," + set("/route/displaced", `[{"occupant":"boot drive","home":"slot","slot":"m2-a"}]`)},
		{"boot.displaced", "quiet", "another drive boots", set("/route/slot", `"m2-b"`) + "," + set("/host/drives/1/boots", "true")},
		{"boot.displaced", "unknown", "would it start from USB?", set("/route/slot", `"m2-b"`) + "," + set("/route/displaced", `[{"occupant":"boot drive","home":"usb"}]`)},

		{"net.displaced", "risk", "wireless leaves, wire not used", set("/route/slot", `"m2-e"`)},
		{"net.displaced", "quiet", "a wire is used", set("/route/slot", `"m2-e"`) + "," + set("/host/networks/1/used", "true")},
		{"net.displaced", "quiet", "it goes to USB", set("/route/slot", `"m2-e"`) + "," + set("/route/displaced", `[{"occupant":"wireless card","home":"usb"}]`)},
		{"net.displaced", "unknown", "is the wire used?", set("/route/slot", `"m2-e"`) + "," + drop("/host/networks/1/used")},

		{"power.unfed", "blocked", "card plug", drop("/leads/1")},
		{"power.unfed", "blocked", "dock", drop("/leads/0")},
		{"power.unfed", "blocked", "host", drop("/host/supply")},
		{"power.unfed", "blocked", "a plug that does not enter", dockOn("d1", "disk-15", "in", "disk-15")},
		{"power.unfed", "blocked", "an M.2 slot feeds no card", set("/route/stages", "[]") + "," + set("/leads", "[]")},
		{"power.unfed", "quiet", "the card slot of the host feeds it", hostSlot},
		{"power.unfed", "unknown", "nothing said of supplies", drop("/supplies") + "," + drop("/leads") + "," + drop("/host/supply")},

		{"power.pins", "danger", "the look-alike eight-pin", set("/leads/1/from/0/at", `"cpu"`) + "," + set("/leads/1/from/0/connector", `"cpu-8"`) + "," + set("/leads/1/to/0/connector", `"cpu-8"`)},
		{"power.pins", "risk", "six-pin in eight leaves sense open", set("/leads/1/to/0/connector", `"card-6"`)},
		{"power.pins", "quiet", "like in like", boardPower("120")},

		{"power.card", "danger", "75 + 150 W exceeded", boardPower("226")},
		{"power.card", "quiet", "exactly 225 W", boardPower("225")},

		{"power.slot-limit", "danger", "66 W from a disk plug's 54, 1.22 times", dockOn("d1", "disk-15", "in 2", "disk-15")},
		{"power.slot-limit", "blocked", "76 W of a card without plugs from 75", hostSlot + "," + boardPower("76")},
		{"power.slot-limit", "danger", "75 W from a stated 50", hostSlot + "," + boardPower("75") + "," + set("/host/slots/3/power_limit_w", "50")},
		{"power.slot-limit", "blocked", "30 W from a slot of eight lanes", hostSlot + "," + boardPower("30") + "," + set("/host/slots/3/lanes_mechanical", "8") + "," + drop("/host/slots/3/power_limit_w")},
		{"power.slot-limit", "quiet", "25 W from a slot of eight lanes", hostSlot + "," + boardPower("25") + "," + set("/host/slots/3/lanes_mechanical", "8") + "," + drop("/host/slots/3/power_limit_w")},
		{"power.slot-limit", "quiet", "25 W from a long slot of unknown limit", hostSlot + "," + boardPower("25") + "," + drop("/host/slots/3/power_limit_w")},
		{"power.slot-limit", "unknown", "26 W from a long slot of unknown limit", hostSlot + "," + boardPower("26") + "," + drop("/host/slots/3/power_limit_w")},

		{"power.connector", "danger", "66 W through a disk plug", dockOn("d1", "disk-15", "in 2", "disk-15")},
		{"power.connector", "risk", "84 W planned for, 85 asked", dockOn("p1", "peripheral-4", "in", "peripheral-4") + "," + set("/route/stages/2/outlets", `[{"name":"o","connector":"card-8"}]`) + "," + set("/leads/1/from", `[{"part":"dock","at":"o"}]`) + "," + boardPower("85")},
		{"power.connector", "quiet", "66 W through a peripheral plug", dockOn("p1", "peripheral-4", "in", "peripheral-4")},
		{"power.connector", "risk", "5.5 A through a barrel that states nothing", dockOn("round", "barrel", "round", "barrel")},
		{"power.connector", "quiet", "5.5 A through a barrel made for 6", dockOn("round", "barrel", "round", "barrel") + "," + set("/route/stages/2/inlets/3/current_a", "6") + "," + set("/supplies/1/outlets/7/current_a", "6")},
		{"power.connector", "unknown", "does the dock make its 3.3 V? 66 of 75 W, or 77", dockOn("d1", "card-8", "in 6", "card-6") + "," + set("/leads/0/from/0/at", `"c2"`) + "," + drop("/route/stages/2/makes_3v3_from_12v")},
		{"power.connector", "unknown", "board power", drop("/card/power_w")},

		{"power.lead", "danger", "115 W from one disk plug", set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`) + "," + boardPower("160")},
		{"power.lead", "risk", "50 W asked, 150 promised, 54 there", set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`) + "," + boardPower("95")},
		{"power.lead", "risk", "two disk plugs carry 108 W together", set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"},{"part":"main","at":"d2","connector":"disk-15"}]`)},
		{"power.lead", "danger", "two ends behind one disk plug carry 54 W", set("/leads/2", `{"name":"chain","owned":true,"from":[{"part":"main","at":"d1","connector":"disk-15"}],"to":[{"at":"x","connector":"disk-15"},{"at":"y","connector":"disk-15"}]}`) + "," + set("/leads/1/from", `[{"part":"chain","at":"x","connector":"disk-15"},{"part":"chain","at":"y","connector":"disk-15"}]`)},
		{"power.lead", "quiet", "two peripheral plugs carry 264 W", set("/leads/1/from", `[{"part":"main","at":"p2","connector":"peripheral-4"},{"part":"main","at":"c2","connector":"card-8"}]`)},
		{"power.lead", "unknown", "board power", set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`) + "," + drop("/card/power_w")},

		{"power.rail", "blocked", "120 W from 9 A", set("/supplies/1/rails/0/current_a", "9")},
		{"power.rail", "quiet", "120 W from 10 A, but little is left", set("/supplies/1/rails/0/current_a", "10")},
		{"power.rail", "unknown", "rail without current", drop("/supplies/1/rails/0/current_a")},

		{"power.total", "blocked", "120 of 119 W", set("/supplies/1/rating_w", "119")},
		{"power.total", "quiet", "120 of 120 W", set("/supplies/1/rating_w", "120")},
		{"power.total", "unknown", "host's draw", drop("/host/power_w")},

		{"power.headroom", "risk", "120 W is over 80 % of 149", set("/supplies/1/rating_w", "149")},
		{"power.headroom", "risk", "120 W is over 80 % of the rail's 144", set("/supplies/1/rails/0/current_a", "12")},
		{"power.headroom", "quiet", "120 W is 80 % of 150", set("/supplies/1/rating_w", "150")},
		{"power.headroom", "quiet", "nameplate policy", set("/supplies/1/rating_w", "121") + "," + set("/sizing", `{"policy":"nameplate"}`)},
		{"power.headroom", "risk", "a share of its own", set("/sizing", `{"policy":"share","share":0.25}`)},
		{"power.headroom", "unknown", "rating", drop("/supplies/1/rating_w")},

		{"power.turn-on", "blocked", "nothing", set("/supplies/1/turn_on", `"none"`)},
		{"power.turn-on", "blocked", "a dock that does not", set("/supplies/1/turn_on", `"dock"`) + "," + set("/route/stages/2/turns_on", "false")},
		{"power.turn-on", "blocked", "the board of a host it does not feed", set("/supplies/1/turn_on", `"host-board"`)},
		{"power.turn-on", "quiet", "a dock that does", set("/supplies/1/turn_on", `"dock"`)},
		{"power.turn-on", "quiet", "a brick", set("/supplies/1/kind", `"brick"`) + "," + set("/supplies/1/turn_on", `"none"`)},
		{"power.turn-on", "unknown", "not said", drop("/supplies/1/turn_on")},

		{"fit.card", "blocked", "1 mm into the cage", set("/card/length_mm", "251")},
		{"fit.card", "blocked", "through the wall at the board's side", set("/chamber/card_at/z_mm", "-1")},
		{"fit.card", "blocked", "longer than the chamber, wherever it stands", drop("/chamber/card_at") + "," + set("/card/length_mm", "301")},
		{"fit.card", "quiet", "past the cage, above it", set("/card/length_mm", "290") + "," + set("/chamber/card_at/y_mm", "102") + "," + set("/card/height_mm", "40")},
		{"fit.card", "quiet", "in the open", set("/chamber", `{"open":true}`)},
		{"fit.card", "unknown", "size of the cage", drop("/chamber/things/0/size/x_mm")},
		{"fit.card", "unknown", "no chamber", drop("/chamber")},

		{"fit.lid", "note", "the lid may stay off", set("/card/height_mm", "136") + "," + set("/brief/covers_off", `["lid"]`)},
		{"fit.lid", "quiet", "the lid closes", set("/brief/covers_off", `["lid"]`)},

		{"fit.tight", "risk", "1.4 mm", set("/card/length_mm", "248.6")},
		{"fit.tight", "risk", "3 mm measured to ±4", set("/card/length_mm", `{"value":247,"tolerance":4}`)},
		{"fit.tight", "quiet", "1.5 mm", set("/card/length_mm", "248.5")},
		{"fit.tight", "quiet", "0.8 mm, all measured to ±0.3", set("/card/length_mm", `{"value":249.2,"tolerance":0.3}`) + "," + set("/chamber/card_at/x_mm", `{"value":0,"tolerance":0.3}`) + "," + set("/chamber/things/0/at/x_mm", `{"value":250,"tolerance":0.3}`)},

		{"fit.bracket", "blocked", "full in half", set("/chamber/opening/height", `"half"`)},
		{"fit.bracket", "blocked", "two slots wide, one free", set("/chamber/opening/slots", "1")},
		{"fit.bracket", "blocked", "taller than the chamber", drop("/chamber/opening/height") + "," + set("/chamber/box/y_mm", "119")},
		{"fit.bracket", "risk", "the swap dismantles the cooler", set("/chamber/opening/height", `"half"`) + "," + set("/card/bracket/spare", `"half"`) + "," + set("/card/bracket/swap", `"dismantles-cooler"`)},
		{"fit.bracket", "quiet", "a free swap", set("/chamber/opening/height", `"half"`) + "," + set("/card/bracket/spare", `"half"`) + "," + set("/card/bracket/swap", `"free"`)},
		{"fit.bracket", "unknown", "opening not measured", drop("/chamber/opening/height")},

		{"work.memory", "risk", "8.1 of 8 GiB", set("/brief/works/0/memory_gib", "8.1")},
		{"work.memory", "quiet", "8 of 8 GiB", set("/brief/works/0/memory_gib", "8")},
		{"work.memory", "unknown", "card's memory", drop("/card/memory_gib")},

		{"work.encoder", "risk", "no av1", set("/brief/works/0/encoder", `"av1"`)},
		{"work.encoder", "risk", "none at all", set("/brief/works/0/encoder", `"any"`) + "," + set("/card/encoders", "[]")},
		{"work.encoder", "quiet", "any will do", set("/brief/works/0/encoder", `"any"`)},
		{"work.encoder", "unknown", "card's encoders", drop("/card/encoders")},

		{"brief.stance", "blocked", "a cut cover that is not spare", set("/alterations", `[{"name":"cut","touches":"cover"}]`)},
		{"brief.stance", "blocked", "nothing permanent", set("/alterations", `[{"name":"cut","touches":"spare-cover"}]`) + "," + set("/brief/stance", `"nothing-permanent"`)},
		{"brief.stance", "quiet", "the spare cover", set("/alterations", `[{"name":"cut","touches":"spare-cover"}]`)},
		{"brief.stance", "quiet", "it can be undone", set("/alterations", `[{"name":"tape","touches":"cover","permanent":false}]`)},
		{"brief.stance", "unknown", "no stance", set("/alterations", `[{"name":"cut","touches":"cover"}]`) + "," + drop("/brief/stance")},

		{"brief.budget", "risk", "400 to buy, 399 there", set("/brief/budget", "399")},
		{"brief.budget", "quiet", "400 to buy, 400 there", set("/brief/budget", "400")},
		{"brief.budget", "unknown", "a part without a price", drop("/card/price")},
	} {
		t.Run(c.rule+"/"+c.want+"/"+c.why, func(t *testing.T) {
			report := assess.Rig(whole(t, "["+c.patch+"]"), ref)
			assert.Equal(t, c.want, level(&report, c.rule, c.want), "%+v", report.Findings)
		})
		if seen[c.rule] == nil {
			seen[c.rule] = map[string]bool{}
		}
		seen[c.rule][map[bool]string{true: c.want, false: "fires"}[c.want == "quiet"]] = true
	}
	for _, r := range assess.Rules() {
		assert.True(t, seen[r.Name]["fires"] && seen[r.Name]["quiet"], "rule %s wants a test that makes it fire and one that keeps it quiet", r.Name)
	}
}

func TestFigures(t *testing.T) {
	ref := tables(t)
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

// TestClearing applies every change offered for the demo rigs: the finding is
// gone, and nothing that forbids going on has come in.
func TestClearing(t *testing.T) {
	ref, bins := tables(t), stock(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	offered := 0
	for _, r := range rigs {
		report := assess.Rig(r, ref)
		require.NoError(t, assess.Clear(&report, r, ref, bins))
		doc, err := rig.Encode(r)
		require.NoError(t, err)
		before := map[[2]string]bool{}
		for _, f := range report.Findings {
			before[[2]string{f.Rule, f.Where}] = true
		}
		for _, f := range report.Findings {
			for _, change := range f.Clear {
				offered++
				patch, err := jsonpatch.DecodePatch(change.Patch)
				require.NoError(t, err)
				changed, err := patch.Apply(doc)
				require.NoError(t, err, change.Change)
				next, err := rig.Decode(changed)
				require.NoError(t, err, change.Change)
				for _, a := range assess.Rig(next, ref).Findings {
					assert.False(t, a.Rule == f.Rule && a.Where == f.Where, "%s does not clear %s", change.Change, f.Rule)
					isNew := !before[[2]string{a.Rule, a.Where}]
					assert.False(t, isNew && a.Level >= finding.Unknown, "%s brings in %s", change.Change, a.Rule)
				}
			}
		}
	}
	assert.Greater(t, offered, 10)
}

func TestClearingFindsTheUsualWays(t *testing.T) {
	ref, bins := tables(t), stock(t)
	for _, c := range []struct{ name, patch, rule, change string }{
		{"another slot", set("/host/slots/0/carries", `["sata"]`) + "," + set("/host/drives/1/boots", "true"), "link.no-pcie", "Use slot m2-b"},
		{"occupants change places", set("/route/slot", `"m2-b"`), "boot.displaced", "Move boot drive to slot m2-a"},
		{"another outlet", dockOn("d1", "disk-15", "in 2", "disk-15"), "power.connector", "from outlet p1 (peripheral-4)"},
		{"another card", set("/card/length_mm", "251"), "fit.card", "Use card "},
		{"a larger supply", set("/supplies/1/rating_w", "119"), "power.total", "Use supply Lantern"},
		{"a switch-on board", set("/supplies/1/turn_on", `"none"`), "power.turn-on", "Add a switch-on board"},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := whole(t, "["+c.patch+","+drop("/brief/budget")+"]")
			report := assess.Rig(r, ref)
			require.NoError(t, assess.Clear(&report, r, ref, bins))
			var changes []string
			for _, f := range report.Findings {
				for _, change := range f.Clear {
					if f.Rule == c.rule {
						changes = append(changes, change.Change)
					}
				}
			}
			assert.Contains(t, strings.Join(changes, "\n"), c.change)
		})
	}
}
