package bringup

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// anyBuild draws a host, what hangs together in it, and what has to leave.
func anyBuild(t *rapid.T) *rig.Rig {
	r := bench()
	flag := func(of string) rig.Fact[bool] { return rig.Of(rapid.Bool().Draw(t, of)) }
	r.Host.Kind = rig.Of(rapid.SampledFrom([]rig.HostKind{"mini-pc", "desktop", "notebook", "all-in-one", "single-board"}).Draw(t, "host"))
	if b := rapid.SampledFrom([]rig.Battery{"", rig.BatteryUnplugs, rig.BatteryFixed, rig.NoBattery}).Draw(t, "battery"); b != "" {
		r.Host.Battery = rig.Of(b)
	}
	r.Host.Networks = []rig.Network{{Name: "radio", Kind: rig.Of(rig.Wireless)}}
	if rapid.Bool().Draw(t, "radio slot") {
		r.Host.Slots[0].Occupant, r.Route.Displaced[0].Occupant = rig.Of("radio"), "radio"
	}
	home := rapid.SampledFrom([]rig.Home{"slot", "sata-bay", "usb", "memory-card", "network", "none"}).Draw(t, "home")
	r.Route.Displaced[0].Home, r.Route.Displaced[0].Proven = rig.Of(home), flag("proven")
	if m := rapid.SampledFrom([]rig.Carryover{"", rig.Cloned, rig.Copied, rig.CarriedOver, rig.Installed}).Draw(t, "method"); m != "" {
		r.Route.Displaced[0].Method = rig.Of(m)
	}
	r.Supplies[0].InBay = flag("in the bay")
	r.Chamber.Open = rapid.Bool().Draw(t, "open")
	if rapid.Bool().Draw(t, "in the case") {
		r.Route.Stages = r.Route.Stages[:0]
		r.Leads = r.Leads[1:]
	}
	for _, name := range []string{"lid", "tray"}[:rapid.IntRange(0, 2).Draw(t, "covers")] {
		r.Chamber.Covers = append(r.Chamber.Covers, rig.Cover{Name: name, Cools: flag("cools"), Tether: flag("tied")})
	}
	if rapid.Bool().Draw(t, "lid off") {
		r.Brief.CoversOff = []string{"lid"}
	}
	if rapid.Bool().Draw(t, "cage") {
		r.Chamber.Things = []rig.Thing{{Name: "cage", Out: true}}
	}
	if rapid.Bool().Draw(t, "out by the cover") && len(r.Route.Stages) > 0 {
		r.Route.Stages[1].Exit = rig.Of(rig.Exit("cover-off"))
	}
	return r
}

// TestWhatIsPartedIsJoinedAgain, or told as left off with why; what stays off is not put
// on. A battery that unplugs is parted before anything inside is touched and joined after
// the last of it; one that does not is told.
func TestWhatIsPartedIsJoinedAgain(t *testing.T) {
	ref := tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyBuild(rt)
		e := EveningOf(r, ref)
		require.Nil(rt, e.Cycle)
		apart := map[string]bool{}
		var left []Left
		for _, s := range e.Steps {
			for _, name := range s.joined {
				_, known := apart[name]
				require.True(rt, known || name == "drive" || name == "radio", "%s is joined and was not parted", name)
				apart[name] = false
			}
			for _, name := range s.parted {
				apart[name] = true
			}
			left = append(left, s.left...)
		}
		for name, is := range apart {
			off := slices.ContainsFunc(left, func(l Left) bool { return l.Name == name && l.Why != "" })
			require.Equal(rt, is, off, "%s stays off: %v, and is told so: %v", name, is, off)
		}
		battery := (&maker{r: r}).battery()
		out, in := e.at("unplug-battery"), e.at("plug-battery")
		require.Equal(rt, battery == rig.BatteryUnplugs, out >= 0 && in > out)
		require.Equal(rt, battery == rig.BatteryFixed, e.at("live-battery") >= 0)
		for i, s := range e.Steps {
			if touches := s.tagged("inside") || s.tagged("cut") || s.tagged("leads") || s.tagged("supplies"); touches && out >= 0 {
				require.True(rt, out < i && i < in, "%s at %d, the battery out at %d and in at %d", s.ID, i, out, in)
			}
		}
	})
}

// TestStepsForWhatIsThere and for nothing else.
func TestStepsForWhatIsThere(t *testing.T) {
	ref := tables(t)
	does := func(r *rig.Rig) string {
		var all []string
		for _, s := range StepsOf(r, ref) {
			all = append(all, s.ID+": "+s.Do+" "+s.RightWhen+" "+strings.Join(s.Cautions, " ")+" "+strings.Join(s.Tools, ", "))
		}
		return strings.Join(all, "\n")
	}
	barrel := []rig.LeadEnd{{Part: "dock", At: "in", Connector: rig.Of(rig.Connector("barrel"))}}
	for _, c := range []struct {
		name      string
		change    func(*rig.Rig)
		has, lack []string
	}{
		{
			"a ribbon in an M.2 slot", func(r *rig.Rig) { r.Route.Stages = r.Route.Stages[1:] },
			[]string{"seat-cable: Put the module of cable into a: in at a slant, pressed flat, screwed down."}, nil,
		},
		{
			"a barrel has no latch", func(r *rig.Rig) { r.Leads[0].To = barrel },
			[]string{"Plug to the dock into dock, straight in to its collar."}, []string{"into dock, latch"},
		},
		{
			"a brick has no switch", func(r *rig.Rig) { r.Supplies[0].Kind = rig.Of(rig.Brick) }, []string{"its mains plug out"},
			[]string{"its switch at 0"},
		},
		{"a board has no cover", func(r *rig.Rig) { r.Host.Kind = rig.Of(rig.SingleBoard) }, nil, []string{"open-host", "close-host"}},
		{"a dock without a lamp", func(r *rig.Rig) { r.Route.Stages[2].Lamp = rig.Of(false) }, nil, []string{"dock's lamp"}},
		{"nothing looks alike", func(*rig.Rig) {}, nil, []string{"look alike"}},
		{"a processor's plug beside the card's", func(r *rig.Rig) {
			r.Supplies[0].Outlets = append(r.Supplies[0].Outlets, rig.Outlet{Name: "cpu", Connector: rig.Of(rig.Connector("cpu-8"))})
		}, []string{"look alike"}, nil},
		{"the drive itself moves", func(r *rig.Rig) {
			r.Route.Displaced[0].Home, r.Route.Displaced[0].Method = rig.Of(rig.HomeUSB), rig.Of(rig.CarriedOver)
		}, []string{"Give drive itself its new place", "an enclosure for the drive"}, []string{"prove-drive", "with the old one still in"}},
		{"another drive takes over", func(r *rig.Rig) {
			r.Route.Displaced[0].Home, r.Route.Displaced[0].Method = rig.Of(rig.HomeUSB), rig.Of(rig.Installed)
		}, []string{"with the old one still in", "system-on-drive", "a stick of 16 GB"}, nil},
		{"it starts the system already", func(r *rig.Rig) {
			d := &r.Route.Displaced[0]
			d.Home, d.Method, d.Proven = rig.Of(rig.HomeUSB), rig.Of(rig.Installed), rig.Of(true)
		}, nil, []string{"with the old one still in", "system-on-drive"}},
		{"cloned", func(r *rig.Rig) { r.Route.Displaced[0].Method = rig.Of(rig.Cloned) }, []string{"clone-drive"}, nil},
		{"copied", func(r *rig.Rig) { r.Route.Displaced[0].Method = rig.Of(rig.Copied) }, []string{"copy-drive"}, nil},
		{"a screen's plug", func(r *rig.Rig) { r.Route.Stages[1].Plug.Form = rig.Of(rig.Video) }, []string{"never into a screen"}, nil},
		{"a plug like USB", func(r *rig.Rig) { r.Route.Stages[1].Socket.Form = rig.Of(rig.USB3Lane) }, []string{"never into a USB port"}, nil},
		{
			"a cap comes after the driver", func(r *rig.Rig) { r.Card.Cap = rig.Of[units.Watt](90) },
			[]string{"set-cap: Cap the card's power at 90 W"}, nil,
		},
		{"no cap", func(*rig.Rig) {}, nil, []string{"set-cap"}},
		{"a lead of a supply is cut outside it", func(r *rig.Rig) {
			r.Alterations = []rig.Alteration{{Name: "shorten the lead", Touches: rig.Of(rig.TouchesSupply)}}
		}, []string{"Never open a supply", "crimping tool"}, []string{"saw or rotary tool"}},
		{"a cover is cut", func(r *rig.Rig) {
			r.Alterations = []rig.Alteration{{Name: "notch", Touches: rig.Of(rig.TouchesCover)}}
		}, []string{"saw or rotary tool"}, []string{"crimping tool"}},
		{"a splitter", func(r *rig.Rig) { r.Supplies[0].TurnOn = rig.Of(rig.TurnOnSplitter) }, []string{"Plug the splitter into"}, nil},
		{"a notebook opens from below", func(r *rig.Rig) { r.Host.Kind = rig.Of(rig.Notebook) }, []string{"unplug-battery"}, nil},
	} {
		r := bench()
		c.change(r)
		said := does(r)
		for _, want := range c.has {
			assert.Contains(t, said, want, c.name)
		}
		for _, not := range c.lack {
			assert.NotContains(t, said, not, c.name)
		}
	}
	notebook := bench()
	notebook.Host.Kind, notebook.Host.Slots[0].Side = rig.Of(rig.Notebook), rig.Fact[rig.Side]{}
	e := EveningOf(notebook, ref)
	assert.Equal(t, Underside, e.Steps[e.at("open")].Place)
}

// TestAShortEvening: a closed box on a port is five steps of an hour and a half at the
// most; what is opened or moved makes it a long one again.
func TestAShortEvening(t *testing.T) {
	r := bench()
	r.Host.Slots[0] = rig.Slot{Name: "a", Form: rig.Of(rig.Tunnel), TunnelRate: rig.Of[units.GigabitPerSecond](40)}
	r.Route.Displaced, r.Leads, r.Card.BuiltIn = nil, nil, rig.Of(true)
	r.Route.Stages = []rig.Stage{{Name: "box", Kind: rig.Of(rig.Dock), Supply: "supply"}}
	report := ReportOf(r, tables(t))
	assert.Equal(t, []string{"fetch-drivers", "dock-box", "first-start", "install-driver", "prove-link"}, ids(report.Steps))
	assert.LessOrEqual(t, report.Minutes[1], 90.0)
	assert.Empty(t, report.Off)
	r.Alterations = []rig.Alteration{{Name: "a hole"}}
	assert.Contains(t, ids(StepsOf(r, tables(t))), "save-data")
}

// TestStandingCautions hold over their stretch and are not said again at each step.
func TestStandingCautions(t *testing.T) {
	report := ReportOf(bench(), tables(t))
	off := "Both sides stay off, standby too"
	for _, c := range []struct {
		step, says string
		holds      bool
	}{
		{"save-data", off, false}, {"power-off", off, true}, {"card", off, true}, {"first-start", off, false},
		{"card", "earthed metal", true}, {"open-host", "Sheet metal", true}, {"first-start", "Sheet metal", false},
		{"first-start", "just run is hot", true}, {"prove-power", "leave it alone", true}, {"install-driver", "leave it alone", false},
		{"close-host", "once more", true}, {"close-host", "earthed metal again", true}, {"save-data", "licensed hands", true},
	} {
		assert.Equal(t, c.holds, strings.Contains(strings.Join(report.Holding(c.step), " "), c.says), "%s: %s", c.step, c.says)
	}
	for _, s := range report.Steps {
		assert.NotContains(t, strings.Join(s.Cautions, " "), "standby too", s.ID)
	}
	board := bench()
	board.Host.Kind = rig.Of(rig.SingleBoard)
	assert.NotContains(t, strings.Join(ReportOf(board, tables(t)).Holding("card"), " "), "Sheet metal")
}
