package proof

import (
	"fmt"
	"strconv"
	"strings"

	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
)

// runRow is one run in words.
type runRow struct {
	N                               int
	Name, Side, Average, Lows, When string
	Sel                             string
	File                            string // address of its capture, where that is kept
	Corrected                       string // settings, and what they were
	Chosen                          bool
}

// Several reports runs enough to hold against each other.
func (v *View) Several() bool { return len(v.Runs) > 1 }

// hold holds the runs that are chosen against the first of them.
func (v *View) hold(r *rig.Rig, chosen []string) {
	var first *rig.Run
	for _, text := range chosen {
		i, err := strconv.Atoi(text)
		if err != nil || i < 0 || i >= len(r.Runs) || v.Runs[i].Chosen {
			continue
		}
		v.Runs[i].Chosen = true
		if first == nil {
			first = &r.Runs[i]
			continue
		}
		g := proof.Held(first, &r.Runs[i])
		held := gainView{Use: first.Name + ", compared with " + r.Runs[i].Name, Differs: g.Differs, Warned: g.Warned}
		for k := range g.Figures {
			held.Rows = append(held.Rows, gainRow(&g.Figures[k]))
		}
		v.Chosen = append(v.Chosen, held)
	}
}

// RunRows are the runs of a rig in words.
func RunRows(r *rig.Rig) (rows []runRow) {
	for i := range r.Runs {
		run := &r.Runs[i]
		rows = append(
			rows,
			runRow{
				N: i, Name: run.Name, Side: phrase.Or(sideNames[run.Side.Value], "not told"), Average: resultWords(run),
				Lows: hertzWords(run.Low(rig.MinimumLow1)) + ", " + hertzWords(run.Low(rig.MinimumLow1Mean)),
				When: phrase.When(run.When), Corrected: correctedWords(run), Sel: fmt.Sprintf("/runs/%d", i),
			},
		)
	}
	return rows
}

var sideNames = map[rig.RunSide]string{"before": "before the card", "after": "with the card", "elsewhere": "on another machine"}

// resultWords is what a run came to, by whatever it was measured.
func resultWords(r *rig.Run) string {
	var said []string
	add := func(known bool, says string) {
		if known {
			said = append(said, says)
		}
	}
	add(r.Average.Known, units.Trim(r.Average.Value, 1)+" Hz")
	add(r.Took.Known, units.Trim(r.Took.Value, 1)+" s")
	add(r.Score.Known, strings.TrimSpace(units.Trim(r.Score.Value, 1)+" "+r.ScoreOf))
	add(r.Eye != "", r.Eye+", by eye")
	add(r.Minimum.Known, units.Trim(r.Minimum.Value, 1)+" Hz as its minimum, "+minimumWords(r))
	add(r.Maximum.Known, units.Trim(r.Maximum.Value, 1)+" Hz as its maximum")
	add(r.Felt.Known, string(r.Felt.Value))
	add(r.Outcome != "", r.Outcome)
	if len(said) > 0 && r.Typed() {
		said = append(said, "typed")
	}
	return phrase.Or(strings.Join(said, ", "), "not given")
}

// minimumWords say what a typed minimum is: until that is stated nobody knows.
func minimumWords(r *rig.Run) string {
	if !r.MinIs.Known {
		return "of what is not stated"
	}
	return "which is " + rig.Spoken(r.MinIs.Value)
}

func hertzWords(f rig.Fact[float64]) string {
	if !f.Known {
		return "not given"
	}
	return units.Trim(f.Value, 1) + " Hz"
}

// runColumns are the columns of the table of runs.
var runColumns = []struct {
	head string
	of   func(*rig.Run) string
}{
	{"run", func(r *rig.Run) string { return r.Name }},
	{"made", func(r *rig.Run) string { return string(r.Side.Value) }},
	{"use", func(r *rig.Run) string { return r.Use }},
	{"when", func(r *rig.Run) string { return r.When }},
	{"width_px", func(r *rig.Run) string { return phrase.Plain(r.Width) }},
	{"height_px", func(r *rig.Run) string { return phrase.Plain(r.Height) }},
	{"average_hz", func(r *rig.Run) string { return phrase.Plain(r.Average) }},
	{"low1_p99_hz", func(r *rig.Run) string { return phrase.Plain(r.Low(rig.MinimumLow1)) }},
	{"low1_mean_hz", func(r *rig.Run) string { return phrase.Plain(r.Low(rig.MinimumLow1Mean)) }},
	{"low01_p99_hz", func(r *rig.Run) string { return phrase.Plain(r.Low(rig.MinimumLow01)) }},
	{"low01_mean_hz", func(r *rig.Run) string { return phrase.Plain(r.Low(rig.MinimumLow01Mean)) }},
	{"duration_s", func(r *rig.Run) string { return phrase.Plain(r.Took) }},
	{"score", func(r *rig.Run) string { return phrase.Plain(r.Score) }},
	{"score_unit", func(r *rig.Run) string { return r.ScoreOf }},
	{"wall_w", func(r *rig.Run) string { return phrase.Plain(r.Wall) }},
	{"frames", func(r *rig.Run) string { return phrase.Plain(r.Frames) }},
	{"dropped", func(r *rig.Run) string { return phrase.Plain(r.Dropped) }},
	{"sha256", func(r *rig.Run) string { return r.Sum }},
	{"typed_minimum_hz", func(r *rig.Run) string { return phrase.Plain(r.Minimum) }},
	{"typed_minimum_is", func(r *rig.Run) string { return string(r.MinIs.Value) }},
	{"typed_maximum_hz", func(r *rig.Run) string { return phrase.Plain(r.Maximum) }},
	{"card_w", func(r *rig.Run) string { return phrase.Plain(r.Board) }},
	{"card_use", func(r *rig.Run) string { return phrase.Plain(r.Busy) }},
	{"card_clock_mhz", func(r *rig.Run) string { return phrase.Plain(r.Clock) }},
	{"card_c", func(r *rig.Run) string { return phrase.Plain(r.CardC) }},
	{"processor_use", func(r *rig.Run) string { return phrase.Plain(r.ProcUse) }},
	{"processor_clock_mhz", func(r *rig.Run) string { return phrase.Plain(r.ProcMHz) }},
	{"processor_c", func(r *rig.Run) string { return phrase.Plain(r.ProcC) }},
	{"noise_db", func(r *rig.Run) string { return phrase.Plain(r.Noise) }},
	{"room_c", func(r *rig.Run) string { return phrase.Plain(r.Room) }},
	{"outcome", func(r *rig.Run) string { return r.Outcome }},
}

// runsTable is all runs as a table with a head.
func runsTable(r *rig.Rig) [][]string {
	rows := make([][]string, 1+len(r.Runs))
	for _, column := range runColumns {
		rows[0] = append(rows[0], column.head)
		for i := range r.Runs {
			rows[1+i] = append(rows[1+i], column.of(&r.Runs[i]))
		}
	}
	return rows
}
