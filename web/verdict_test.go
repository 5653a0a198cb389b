package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/parts"
	"kolvan/core/rig"
)

// TestVerdictBySubject: what one feed asks too much of stands under one heading, the worst
// figure first; other stations are folded to a line, and nothing is lost on the way.
func TestVerdictBySubject(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	require.NoError(t, assess.Clear(t.Context(), report, r, ref, bins, assess.UsualEffort))
	subjects := subjectsOf(report, r, false)
	v := verdictOf(subjects, "power", stationKeys())
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
		v, shown := verdictOf(subjects, here, stationKeys()), 0
		count := func(lists ...[]subject) {
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
	r, report, _ := demoRig(t, "Field kit")
	v := verdictOf(subjectsOf(report, r, false), "power", stationKeys())
	require.Len(t, v.Here, 1)
	assert.Equal(t, "Brick 12 V 10 A is asked for 130 of its 120 W", v.Here[0].Line)
	assert.Equal(t, "danger", v.Here[0].Level.String())
	assert.Len(t, v.Here[0].Also, 7)
	assert.Contains(t, v.Here[0].Would, "163 W or more")
}

// TestAnswerSpeaksOfTheStation: the worst on hand, what is graver elsewhere as a link, the
// rig's worst where the station has none.
func TestAnswerSpeaksOfTheStation(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	subjects := subjectsOf(report, r, false)
	at := func(station string) *answer { return answerOf(report, r, subjects, station) }
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
	assert.Empty(t, answerOf(report, r, nil, "power").Level, "nothing is against it")
	r.Host.Slots = nil
	assert.Equal(t, "/host/slots", at("power").Next.Add)
}

// TestAnsweredForStepsBack: what somebody has answered for no longer leads, and is not hidden.
func TestAnsweredForStepsBack(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	for i := range report.Findings {
		if f := &report.Findings[i]; stationOf(f) == "power" {
			r.Acknowledged = append(r.Acknowledged, rig.Acknowledgement{Rule: f.Rule, Where: f.Where, Reason: "a test"})
		}
	}
	again := assess.Rig(r, ref)
	subjects := subjectsOf(&again, r, false)
	assert.Equal(t, "blocked", answerOf(&again, r, subjects, "route").Level)
	assert.Nil(t, answerOf(&again, r, subjects, "route").Graver)
	assert.Equal(t, "a test", answerOf(&again, r, subjects, "power").Answered)
}

// TestBetterIsMarkedWhereItIsSurely: never where ranges overlap; two of the same may both be.
func TestBetterIsMarkedWhereItIsSurely(t *testing.T) {
	marks := func(end int, cells ...comparedCell) (list []bool) {
		row := comparedRow{Cells: cells}
		row.mark(end)
		for _, c := range row.Cells {
			list = append(list, c.Better)
		}
		return list
	}
	one := func(v float64) comparedCell { return comparedCell{counts: v, told: true} }
	between := func(low, high float64) comparedCell {
		return comparedCell{counts: low, upTo: high, ranges: true, told: true}
	}
	assert.Equal(t, []bool{true, false}, marks(1, one(3), one(2)))
	assert.Equal(t, []bool{false, true}, marks(-1, one(3), one(2)))
	assert.Equal(t, []bool{true, true, false}, marks(1, one(3), one(3), one(2)))
	assert.Equal(t, []bool{false, false}, marks(1, one(3), one(3)))
	assert.Equal(t, []bool{false, false}, marks(-1, between(90, 110), between(109, 130)))
	assert.Equal(t, []bool{true, false}, marks(-1, between(90, 108), between(109, 130)))
	assert.Equal(t, []bool{false, false}, marks(1, one(3), comparedCell{}), "not told")
	assert.Equal(t, []bool{false, false}, marks(0, one(3), one(2)))
}
