package verdict

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/web/roomtest"
)

// TestWhatRecursIsSaidOnce: nine leads in one socket are one line.
func TestWhatRecursIsSaidOnce(t *testing.T) {
	also := FindingView{Line: "two leads want one socket"}
	s := Subject{Line: "two supplies feed into each other", Also: []FindingView{also, {Line: "the slot is asked for 66 W"}, also, also}}
	assert.Equal(t, []string{"two leads want one socket, 3 times", "the slot is asked for 66 W"}, s.AlsoLines())
	s.Head.Says = "Two supplies feed into each other."
	assert.Equal(t, s.Head.Says, s.Says())
	s.Led = true
	assert.Empty(t, s.Says(), "the answer says it")
	s.Changes = []changeView{{Change: finding.Change{Change: "a"}}, {Change: finding.Change{Change: "b"}}}
	assert.Len(t, s.First(), 1)
	s.Pressed = true
	assert.Empty(t, s.First(), "the answer has it")
}

// TestAChangeInAFewWords: without its plug's kind, its figures behind it.
func TestAChangeInAFewWords(t *testing.T) {
	for change, want := range map[string][2]string{
		"Feed dock from outlet p1 of main, a peripheral 4-pin: the lead, 76.3 of 132 W": {"Feed dock from outlet p1 of main",
			"The lead, 76.3 of 132 W; clears 2 findings"},
		"Use card Tern 8G, giving up 8 GiB of memory: smallest gap 18 mm": {"Use card Tern 8G",
			"Giving up 8 GiB of memory: smallest gap 18 mm; clears 2 findings"},
		"Let drive cage stay out: smallest gap 4.5 mm": {"Let drive cage stay out", "Smallest gap 4.5 mm; clears 2 findings"},
	} {
		v := changeView{Change: finding.Change{Change: change}, Clears: 2}
		assert.Equal(t, want, [2]string{v.Heads(), v.Rest()})
	}
}

var theStations = []string{"brief", "survey", "route", "power", "fit", "assembly", "proof", "ledger"}

// TestVerdictBySubject: what one feed asks too much of stands under one heading, the worst
// figure first; other stations are folded to a line, and nothing is lost on the way.
func TestVerdictBySubject(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	require.NoError(t, assess.Clear(t.Context(), report, r, ref, bins, assess.UsualEffort))
	subjects := SubjectsOf(report, r, false)
	v := Of(subjects, "power", theStations)
	require.NotEmpty(t, v.Here)
	first := v.Here[0]
	assert.Equal(t, "power.connector", first.Head.Rule, "its 141 % before the slot's 122 %")
	assert.Equal(t, "disk lead to the dock carries 6.4 of its 4.5 A", first.Line)
	assert.Equal(t, "disk lead 141 %", first.Tag)
	require.Len(t, first.Also, 1)
	assert.Equal(t, "the slot is asked for 66 W of its 54 W", first.Also[0].Line)
	assert.Contains(t, first.First()[0].Change.Change, "from outlet peripheral 1")
	assert.Equal(t, 2, first.First()[0].Clears)
	require.Len(t, v.Others, 2)
	assert.Equal(t, "1 risk, 1 note", v.Others[0].Counts)
	assert.Equal(t, "no boot drive", v.Others[1].Title)
	for _, here := range []string{"brief", "survey", "route", "power", "fit", "sheet"} {
		v, shown := Of(subjects, here, theStations), 0
		count := func(lists ...[]Subject) {
			for _, list := range lists {
				for i := range list {
					shown += len(list[i].All())
				}
			}
		}
		count(v.Here, v.Notes)
		for _, o := range v.Others {
			count(o.Subjects, o.Notes)
		}
		assert.Equal(t, len(report.Findings), shown, here)
	}
}

// TestTheSupplyHeadsWhatItIsAskedFor: where the supply is the cause, its leads are *also*.
func TestTheSupplyHeadsWhatItIsAskedFor(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Field kit")
	v := Of(SubjectsOf(report, r, false), "power", theStations)
	require.Len(t, v.Here, 1)
	assert.Equal(t, "Brick 12 V 10 A is asked for 130 of its 120 W", v.Here[0].Line)
	assert.Equal(t, "danger", v.Here[0].Level.String())
	assert.Len(t, v.Here[0].Also, 7)
	assert.Contains(t, v.Here[0].Would, "163 W or more")
}

// TestAnswerSpeaksOfTheStation: the worst on hand, what is graver elsewhere as a link, the
// rig's worst where the station has none.
func TestAnswerSpeaksOfTheStation(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	subjects := SubjectsOf(report, r, false)
	at := func(station string) *Answer { return AnswerOf(report, r, subjects, station) }
	route := at("route")
	assert.Equal(
		t,
		[]string{"x4 Gen 3, 3.2 GB/s each way.", "blocked", "nothing is left to start the host from.", ""},
		[]string{route.Gets, route.Level, route.Says, route.At},
	)
	require.NotNil(t, route.Graver)
	assert.Equal(t, graver{"danger", "Power", "disk lead 141 %", "power"}, *route.Graver)
	fit := at("fit")
	assert.Equal(t, []string{"danger", "Power"}, []string{fit.Level, fit.At})
	assert.Nil(t, fit.Graver)
	assert.Empty(t, AnswerOf(report, r, nil, "power").Level, "nothing is against it")
	r.Host.Slots = nil
	assert.Equal(t, "/host/slots", at("power").Next.Add)
}

// TestAnsweredForStepsBack: what somebody has answered for no longer leads, and is not hidden.
func TestAnsweredForStepsBack(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	for i := range report.Findings {
		if f := &report.Findings[i]; StationOf(f) == "power" {
			r.Acknowledged = append(r.Acknowledged, rig.Acknowledgement{Rule: f.Rule, Where: f.Where, Reason: "a test"})
		}
	}
	again := assess.Rig(r, ref)
	subjects := SubjectsOf(&again, r, false)
	assert.Equal(t, "blocked", AnswerOf(&again, r, subjects, "route").Level)
	assert.Nil(t, AnswerOf(&again, r, subjects, "route").Graver)
	assert.Equal(t, "a test", AnswerOf(&again, r, subjects, "power").Answered)
}
