package assess_test

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

// offers are the changes offered for a rule's findings.
func offers(t *testing.T, r *rig.Rig, rule string) []finding.Change {
	ref := coretest.Tables(t)
	report := assess.Rig(r, ref)
	require.NoError(t, assess.Clear(context.Background(), &report, r, ref, stock(t), assess.UsualEffort))
	var list []finding.Change
	for _, f := range report.Findings {
		if f.Rule == rule {
			list = append(list, f.Clear...)
		}
	}
	return list
}

func TestClearingLeavesTheRigAlone(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		before, err := rig.Encode(r)
		require.NoError(t, err)
		offers(t, r, "")
		after, err := rig.Encode(r)
		require.NoError(t, err)
		assert.Equal(t, string(before), string(after), r.Name)
	}
}

// TestNothingIsOfferedForWhatIsUnknownOrFine: a missing fact is to be found, not
// designed around; a note asks for nothing.
func TestNothingIsOfferedForWhatIsUnknownOrFine(t *testing.T) {
	for rule, patch := range map[string]string{
		"power.total": drop("/supplies/1/rating_w"), "link.no-pcie": drop("/host/slots/0/carries"),
		"link.speed": set("/host/slots/0/generation", "3"),
	} {
		assert.Empty(t, offers(t, whole(t, "["+patch+"]"), rule), rule)
	}
}

// TestShortCableGetsALongerOne, laid the same way.
func TestShortCableGetsALongerOne(t *testing.T) {
	list := offers(t, whole(t, "["+laid("5", 0, 0, 150, 0, 150, 150)+"]"), "fit.cable")
	require.NotEmpty(t, list)
	assert.Contains(t, list[0].Change, "Use Link cable 500 for cable")
	assert.Contains(t, string(list[0].Patch), "Link cable 500")
	assert.NotContains(t, string(list[0].Patch), `"remove","path":"/route/stages/1/path"`, "its way is the same")
}

// TestBodyIsCured: by another place, another way to lie, stand-offs, or a cut where the
// brief lets one be made.
func TestBodyIsCured(t *testing.T) {
	inTheOpen := set("/chamber/opening/height", `"none"`)
	small := through(`{"width_mm":30,"height_mm":12}`, `{"name":"lid","width_mm":20,"height_mm":10}`)
	for _, c := range []struct{ rule, patch, offered string }{
		{"fit.card", set("/chamber/card_at/z_mm", "-4"), "Stand the card, and what holds it, 20.3 mm further along the row of slots"},
		{
			"fit.card",
			all(
				inTheOpen, set("/card/length_mm", "255"), set("/chamber/card_at/x_mm", "0"), set("/chamber/box/x_mm", "400"),
				set("/chamber/things/0/at/x_mm", "20"), set("/chamber/things/0/size/x_mm", "20"),
			),
			"Stand the card, and what holds it, 42 mm further along the length",
		},
		{
			"fit.card",
			all(inTheOpen, set("/card/length_mm", "260"), set("/chamber/box/y_mm", "400"), set("/chamber/covers", "[]")),
			"Turn the card, and what holds it: length up",
		},
		{"fit.gap", raised("5", "4"), "Raise lid on stand-offs of 6 mm, with screws 2 mm longer"},
		{
			"fit.exit", all(set("/route/stages/1/exit", `"none"`), set("/route/stages/1/thickness_mm", "5")),
			"Raise lid on stand-offs of 6 mm",
		},
		{
			"fit.exit", all(set("/route/stages/1/exit", `"none"`), set("/brief/covers_off", `["lid"]`)),
			"Let lid stay off where cable leaves",
		},
		{
			"fit.cable", all(set("/leads/1/length_mm", "200"), set("/leads/1/path", wayOf(-150, 115, 150, 115))),
			"Put Card 8-pin extension of 300 mm on card lead",
		},
		{"fit.opening", all(small, set("/brief/stance", `"cut-freely"`)), "Cut an opening in lid of 31 mm by 13 mm: for good"},
		{"fit.opening", all(small, set("/brief/stance", `"nothing-permanent"`)), ""},
		{"fit.supply", all(set("/host/supply_bay", `"sfx"`), set("/supplies/1/in_bay", "true")), "Use supply Ember 450 Small for main"},
		{"fit.supply", all(set("/host/supply_bay", `"flex"`), set("/supplies/1/in_bay", "true")), ""},
		{"fit.strain", all(set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/hangs_free_mm", "200")), ""},
	} {
		list := offers(t, whole(t, "["+c.patch+"]"), c.rule)
		said := slices.ContainsFunc(list, func(f finding.Change) bool { return strings.HasPrefix(f.Change, c.offered) })
		assert.Equal(t, c.offered != "", said, "%s: %s: %v", c.rule, c.patch, list)
	}
}

// TestHostIsNeverOfferedAnotherVoltage: a brick of 19 V is not exchanged for one
// of 12 V, however large.
func TestHostIsNeverOfferedAnotherVoltage(t *testing.T) {
	r := whole(t, "["+set("/host/power_w", "150")+"]")
	for _, change := range offers(t, r, "power.total") {
		assert.NotContains(t, change.Change, "12 V")
	}
}

// TestLookAlikeIsCured: of the two eight-pins the right one is offered.
func TestLookAlikeIsCured(t *testing.T) {
	r := whole(
		t,
		"["+all(
			set("/leads/1/from/0/at", `"cpu"`), set("/leads/1/from/0/connector", `"cpu-8"`),
			set("/leads/1/to/0/connector", `"cpu-8"`),
		)+"]",
	)
	list := offers(t, r, "power.pins")
	require.NotEmpty(t, list)
	assert.Contains(t, list[0].Change, "a card 8-pin")
	var patch []struct{ Op, Path string }
	require.NoError(t, json.Unmarshal(list[0].Patch, &patch))
	require.Len(t, patch, 1)
	assert.Equal(t, "/leads/1", patch[0].Path)
}

// TestAdapterGivesWayToAPlainLead: what takes its place is no adapter by name
// either, and comes with the supply.
func TestAdapterGivesWayToAPlainLead(t *testing.T) {
	two := set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"},{"part":"main","at":"d2","connector":"disk-15"}]`)
	list := offers(
		t,
		whole(t, "["+all(boardPower("160"), set("/leads/1/name", `"two disks to an eight-pin"`), set("/leads/1/price", "9"), two)+"]"),
		"power.connector",
	)
	require.NotEmpty(t, list)
	assert.Contains(t, string(list[0].Patch), `"/leads/1"`)
	assert.NotContains(t, string(list[0].Patch), "two disks")
	assert.NotContains(t, string(list[0].Patch), `"price"`)
}

func TestChangeStatesTheNewFigure(t *testing.T) {
	for rule, c := range map[string]struct{ patch, figure string }{
		"power.connector": {dockOn("d1", "disk-15", "in 2", "disk-15"), ": the lead, 76.3 of 132 W"},
		"power.total":     {set("/supplies/1/rating_w", "119"), ": sustained load at 30.3 % of its rating"},
		"fit.card":        {set("/card/length_mm", "251"), ": smallest gap "},
		"link.no-pcie": {
			all(set("/host/slots/0/carries", `["sata"]`), set("/host/drives/1/boots", "true")), ": x4, Gen 3, 3.22 GB/s net",
		},
		"boot.displaced": {
			all(
				set("/host/slots/0/occupant", `"boot drive"`), set("/host/slots/1/occupant", `"none"`), set("/route/displaced", "[]"),
				set("/host/drives/0/reads_gb_s", "2.9"),
			),
			": it reads 2.90 GB/s there",
		},
	} {
		list := offers(t, whole(t, "["+c.patch+","+drop("/brief/budget")+"]"), rule)
		require.NotEmpty(t, list, rule)
		assert.Contains(t, list[0].Change, c.figure)
		assert.LessOrEqual(t, len(list), 3, "a few that clear it, not a catalogue")
	}
}

// TestClearing applies every change offered for the demo rigs: the finding is
// gone, and nothing that forbids going on has come in.
func TestClearing(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	offered := 0
	for _, r := range rigs {
		report := assess.Rig(r, ref)
		require.NoError(t, assess.Clear(context.Background(), &report, r, ref, bins, assess.UsualEffort))
		before := map[[2]string]bool{}
		for _, f := range report.Findings {
			before[[2]string{f.Rule, f.Where}] = true
		}
		for _, f := range report.Findings {
			for _, change := range f.Clear {
				offered++
				_, after := patched(t, r, change.Patch)
				for _, a := range after.Findings {
					assert.False(t, a.Rule == f.Rule && a.Where == f.Where, "%s does not clear %s", change.Change, f.Rule)
					isNew := !before[[2]string{a.Rule, a.Where}]
					assert.False(t, isNew && a.Level >= finding.Unknown && !a.Row().Step, "%s brings in %s", change.Change, a.Rule)
				}
			}
		}
	}
	assert.Greater(t, offered, 10)
}

func TestClearingFindsTheUsualWays(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	for _, c := range []struct{ name, patch, rule, change string }{
		{
			"another slot", set("/host/slots/0/carries", `["sata"]`) + "," + set("/host/drives/1/boots", "true"), "link.no-pcie",
			"Use slot m2-b",
		},
		{"occupants change places", set("/route/slot", `"m2-b"`), "boot.displaced", "Move boot drive to slot m2-a"},
		{"a radio on USB", set("/route/slot", `"m2-e"`), "net.displaced", "Replace wireless card by one on USB"},
		{
			"another card, with the lead for its second plug",
			set("/brief/works/0/memory_gib", "13") + "," + set("/chamber", `{"open":true}`) + "," + set("/supplies/1/rating_w", "750") + "," +
				set("/supplies/1/rails/0/current_a", "60"),
			"work.memory", "Use card Auk 16G, with another lead",
		},
		{
			"a first lead, though it is open what turns the supply on", drop("/leads/1") + "," + drop("/supplies/1/turn_on"),
			"power.unfed", "Feed card plug A from outlet c1",
		},
		{"one more supply", drop("/supplies/1") + "," + set("/leads", "[]"), "power.unfed", "Add supply "},
		{"another outlet", dockOn("d1", "disk-15", "in 2", "disk-15"), "power.connector", "from outlet p1 of main, a peripheral 4-pin"},
		{
			"a chain taken apart",
			set("/card/power_w", "300") + "," + set(
				"/card/plugs", `[{"name":"A","connector":"card-8"},{"name":"B","connector":"card-8"}]`,
			) + "," + set("/leads/1/to", `[{"part":"card","at":"A"},{"part":"card","at":"B"}]`),
			"power.lead", "Feed card plug B from outlet c2",
		},
		{"another card", set("/card/length_mm", "251"), "fit.card", "Use card "},
		{
			"a cage that swings out, before another card",
			set("/chamber/covers/0/kind", `"swing"`) + "," + set("/chamber/covers/0/at", `{"x_mm":0,"y_mm":100,"z_mm":0}`), "fit.card",
			"Let lid stay out",
		},
		{"a larger supply", set("/supplies/1/rating_w", "119"), "power.total", "Use supply Lantern"},
		{"a switch-on board", set("/supplies/1/turn_on", `"none"`), "power.turn-on", "Add a switch-on board"},
		{
			"the dock first", set("/supplies/1/turn_on", `"wire"`) + "," + set("/sizing", `{"switch_on":"host-first"}`),
			"power.order", "Switch the dock on first",
		},
		{
			"a plug of its own for a switch that comes too late", set("/route/stages/2/holds_reset", "false"), "power.order",
			"Give main a made jumper plug",
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := whole(t, "["+c.patch+","+drop("/brief/budget")+"]")
			report := assess.Rig(r, ref)
			require.NoError(t, assess.Clear(context.Background(), &report, r, ref, bins, assess.UsualEffort))
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

// TestSearchIsBounded: it ends with its effort, says that more could be tried, and
// with the client it was for.
func TestSearchIsBounded(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	r := whole(t, "["+set("/supplies/1/rating_w", "119")+"]")
	search := func(effort assess.Effort) (found int, untried bool) {
		report := assess.Rig(r, ref)
		require.NoError(t, assess.Clear(context.Background(), &report, r, ref, bins, effort))
		for _, f := range report.Findings {
			found += len(f.Clear)
		}
		return found, report.Untried
	}
	little, untried := search(1)
	assert.True(t, untried)
	all, untried := search(assess.UsualEffort)
	assert.False(t, untried)
	assert.Greater(t, all, little)

	gone, leave := context.WithCancel(context.Background())
	leave()
	report := assess.Rig(r, ref)
	assert.ErrorIs(t, assess.Clear(gone, &report, r, ref, bins, assess.UsualEffort), context.Canceled)
	report = assess.Rig(whole(t, "["+drop("/card/power_w")+","+set("/supplies/1/rating_w", "150")+"]"), ref)
	assert.ErrorIs(t, assess.Ask(gone, &report, r, ref), context.Canceled)
}

// TestChoices: of the supplies the smallest that carries the plan stands first, of
// the cards the largest; each patch puts it there, and what is said of it holds.
func TestChoices(t *testing.T) {
	ref := coretest.Tables(t)
	r := whole(t, "["+set("/supplies/1/rating_w", "119")+"]")
	report := assess.Rig(r, ref)
	supplies, err := assess.SupplyChoices(t.Context(), &report, r, ref, stock(t), 6)
	require.NoError(t, err)
	require.NotEmpty(t, supplies)
	for _, c := range supplies {
		_, after := patched(t, r, c.Change.Patch)
		assert.Equal(
			t, units.Round(c.Share, units.ReportDigits), *after.Figures.SupplyShare,
			"what is shown of %s is what its plan then says", c.Name,
		)
	}
	assert.True(t, supplies[0].Free(), "%+v", supplies[0].Says)
	assert.InDelta(t, 121.35/float64(supplies[0].Size), supplies[0].Share, 1e-6)
	assert.LessOrEqual(t, supplies[0].Size, supplies[1].Size)
	next, _ := patched(t, r, supplies[0].Change.Patch)
	assert.Equal(t, supplies[0].Name, next.Supplies[1].Name)

	bins := stock(t)
	own := slices.IndexFunc(bins.Supplies, func(s rig.Supply) bool { return s.Name == supplies[1].Name })
	bins.Supplies[own].Owned = rig.Of(true)
	again, err := assess.SupplyChoices(t.Context(), &report, r, ref, bins, 6)
	require.NoError(t, err)
	assert.Equal(t, supplies[1].Name, again[0].Name, "one's own before a smaller one to buy")

	r = whole(t, "")
	report = assess.Rig(r, ref)
	cards, err := assess.CardChoices(t.Context(), &report, r, ref, stock(t), 100)
	require.NoError(t, err)
	for i, c := range cards {
		next, after := patched(t, r, c.Change.Patch)
		assert.Equal(t, c.Name, next.Card.Name)
		assert.Equal(t, c.Free(), !slices.ContainsFunc(after.Findings, func(f finding.Finding) bool {
			return f.Level != finding.Note
		}), "%s: %s", c.Name, c.Says)
		if i > 0 && c.Free() {
			assert.LessOrEqual(t, c.Size, cards[i-1].Size)
		}
	}
	assert.True(t, cards[0].Free())

	r.Leads = nil
	report = assess.Rig(r, ref)
	supplies, err = assess.SupplyChoices(t.Context(), &report, r, ref, stock(t), 6)
	require.NoError(t, err)
	assert.Nil(t, supplies, "nothing feeds the card")
}

func patched(t *testing.T, r *rig.Rig, patch []byte) (*rig.Rig, assess.Report) {
	t.Helper()
	next := coretest.Patched(t, r, patch)
	return next, assess.Rig(next, coretest.Tables(t))
}

// TestChangesStayWithinTheFormat: whatever is offered for a rig whose lists are full
// is a rig file still.
func TestChangesStayWithinTheFormat(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	for name, r := range worst(t) {
		report := assess.Rig(r, ref)
		require.NoError(t, assess.Clear(t.Context(), &report, r, ref, bins, assess.UsualEffort), name)
		for _, f := range report.Findings {
			for _, change := range f.Clear {
				t.Log(name, change.Change)
				coretest.Patched(t, r, change.Patch)
			}
		}
	}
}

// TestASupplyThatHasToLeave gives its place up, in a way as in a change, to one that goes
// into the bay, though that one is rated for less.
func TestASupplyThatHasToLeave(t *testing.T) {
	r := whole(
		t,
		"["+all(
			set("/host/supply_bay", `"sfx"`), set("/supplies/1/in_bay", "true"), set("/supplies/1/rating_w", "900"),
			set("/supplies/1/owned", "true"),
		)+"]",
	)
	inBay := map[string]bool{}
	assess.Feeds(assess.WithoutFeeds(r), coretest.Tables(t), stock(t), func(c *rig.Rig) bool {
		if len(c.Supplies) == len(r.Supplies) {
			inBay[c.Supplies[1].Name] = rig.Is(c.Supplies[1].InBay, true)
		}
		return true
	})
	assert.True(t, inBay["Ember 450 Small"])
}

// TestABoardKeepsItsPlugs: a host whose supply has plugs or a bay of its own is offered
// no other form in its place, neither as a choice nor as a feed.
func TestABoardKeepsItsPlugs(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	r := whole(t, "["+hostSlot+"]")
	kinds := map[rig.SupplyKind]bool{}
	for _, kind := range []rig.SupplyKind{"proprietary", rig.Brick, "tfx"} {
		r.Supplies[0].Kind = rig.Of(kind)
		r.Host.Supply = r.Supplies[0].Name
		clear(kinds)
		assess.Feeds(assess.WithoutFeeds(r), ref, bins, func(c *rig.Rig) bool {
			kinds[c.Supply(c.Host.Supply).Kind.Value] = true
			return true
		})
		report := assess.Rig(r, ref)
		choices, err := assess.SupplyChoices(t.Context(), &report, r, ref, bins, 20)
		require.NoError(t, err)
		for _, c := range choices {
			changed, _ := patched(t, r, c.Change.Patch)
			kinds[changed.Supply(changed.Host.Supply).Kind.Value] = true
		}
		for other := range kinds {
			assert.Equal(t, kind, other)
		}
	}
}
