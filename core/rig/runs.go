package rig

import (
	"cmp"
	"fmt"
	"slices"

	"kolvan/core/units"
)

// Run is one run of a use, measured: from a capture, or typed.
type Run struct {
	Name    string                        `json:"name" name:"name" doc:"What tells it from the others."`
	Side    Fact[RunSide]                 `json:"side,omitzero" name:"made" doc:"Before the card, with it, or on another machine." setting:"yes"`
	Use     string                        `json:"use,omitzero" name:"use" doc:"What was run: a use of the brief." setting:"yes"`
	Program string                        `json:"program,omitzero" name:"program" doc:"What was run, where a use has several: runs compare when it agrees." setting:"yes"`
	When    string                        `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	Width   Fact[int]                     `json:"width_px,omitzero" is:"1..32768" name:"pixels across" doc:"Of what was drawn." setting:"yes"`
	Height  Fact[int]                     `json:"height_px,omitzero" is:"1..32768" name:"pixels down" doc:"Of what was drawn." setting:"yes"`
	Gen     Fact[int]                     `json:"generation,omitzero" is:"1..6" else:"as planned" name:"link held to generation" doc:"In the firmware, for this run." setting:"yes"`
	Preset  string                        `json:"preset,omitzero" name:"settings" doc:"Preset, ray tracing, upscaling: runs compare when these agree." setting:"yes"`
	Made    Fact[bool]                    `json:"frames_made_up,omitzero" else:"no" name:"frames are made up in between" doc:"Frame generation." setting:"yes"`
	Cap     Fact[float64]                 `json:"cap_hz,omitzero" is:"1..10000" else:"none" name:"held to" doc:"By a cap, or by the screen." setting:"yes"`
	Scene   string                        `json:"scene,omitzero" name:"scene or mode" doc:"Runs compare when it agrees." setting:"yes"`
	Rays    Fact[bool]                    `json:"ray_tracing,omitzero" else:"no" name:"ray tracing" doc:"On, for this run." setting:"yes"`
	Scaled  string                        `json:"upscaling,omitzero" name:"upscaling" doc:"Its name and step; empty for none." setting:"yes"`
	Sync    Fact[bool]                    `json:"sync,omitzero" else:"no" name:"held to the screen" doc:"The screen's rate holds the frames up." setting:"yes"`
	Window  string                        `json:"window,omitzero" name:"window mode" doc:"Whole screen, borderless, in a window." setting:"yes"`
	API     string                        `json:"graphics_interface,omitzero" name:"graphics interface" doc:"What the work draws through." setting:"yes"`
	Screen  Fact[ScreenKind]              `json:"screen,omitzero" name:"shown on" doc:"The screen it was shown on." setting:"yes"`
	Version string                        `json:"versions,omitzero" name:"versions" doc:"Of the work, the system, the driver: what differs here warns." setting:"yes"`
	Card    string                        `json:"card,omitzero" name:"of the card" doc:"Which card it was made with; empty for the rig's own. Runs of another card are kept, and say nothing of this one." setting:"yes"`
	Net     Fact[units.GigabytePerSecond] `json:"link_net_gb_s,omitzero" is:"0..1000" else:"as planned" name:"over a link of" doc:"What the link carried when the run was made, as planned then." setting:"yes"`
	Change  Fact[int]                     `json:"rig_change,omitzero" is:"0..1000000000" name:"rig as of change" doc:"Which change of the rig it was made with."`
	Machine string                        `json:"machine,omitzero" name:"on the machine" when:"side=elsewhere" doc:"Which other machine, or which other card." setting:"yes"`
	First   Fact[bool]                    `json:"first,omitzero" else:"no" name:"first run after a start" doc:"It is left out where there are others." setting:"yes"`
	Average Fact[float64]                 `json:"average_hz,omitzero" is:"0..100000" name:"average" doc:"Frames over seconds."`
	Minimum Fact[float64]                 `json:"typed_minimum_hz,omitzero" is:"0..100000" name:"minimum, as typed" doc:"What a tool calls its minimum: it may well stand above the worst hundredth."`
	MinIs   Fact[Minimum]                 `json:"typed_minimum_is,omitzero" name:"that minimum is" doc:"What the tool takes for it. Until that is stated it is held against nothing."`
	Maximum Fact[float64]                 `json:"typed_maximum_hz,omitzero" is:"0..100000" name:"maximum, as typed" doc:"It proves nothing: a menu runs faster still."`
	Low1    Fact[float64]                 `json:"low1_p99_hz,omitzero" is:"0..100000" name:"worst 1 %, 99th percentile" doc:"1000 over the 99th percentile of the frame times."`
	Low1M   Fact[float64]                 `json:"low1_mean_hz,omitzero" is:"0..100000" name:"worst 1 %, mean of slowest" doc:"1000 over the mean of the slowest hundredth."`
	Low01   Fact[float64]                 `json:"low01_p99_hz,omitzero" is:"0..100000" name:"worst 0.1 %, 99.9th percentile" doc:"1000 over the 99.9th percentile of the frame times."`
	Low01M  Fact[float64]                 `json:"low01_mean_hz,omitzero" is:"0..100000" name:"worst 0.1 %, mean of slowest" doc:"1000 over the mean of the slowest thousandth."`
	Least   Fact[float64]                 `json:"average_least_hz,omitzero" is:"0..100000" name:"average, at least" doc:"Lower end of its 95 % interval."`
	Most    Fact[float64]                 `json:"average_most_hz,omitzero" is:"0..100000" name:"average, at most" doc:"Upper end of its 95 % interval."`
	Frames  Fact[int]                     `json:"frames,omitzero" is:"0..1000000000" name:"frames" doc:"How many there were."`
	Dropped Fact[int]                     `json:"dropped,omitzero" is:"0..1000000000" name:"rows dropped" doc:"Rows of the table that were no frame."`
	Wall    Fact[units.Watt]              `json:"wall_w,omitzero" is:"0..10000" name:"watts at the wall" doc:"Over the run."`
	Score   Fact[float64]                 `json:"score,omitzero" is:"0..1000000000" name:"score" doc:"Of a measuring program."`
	ScoreOf string                        `json:"score_unit,omitzero" name:"unit of the score" doc:"What it counts."`
	Fewer   Fact[bool]                    `json:"less_is_better,omitzero" else:"no" name:"less is better" doc:"For a score that counts time or loss."`
	ProcSub Fact[float64]                 `json:"processor_score,omitzero" is:"0..1000000000" name:"its part for the processor" doc:"A sub-score."`
	CardSub Fact[float64]                 `json:"card_score,omitzero" is:"0..1000000000" name:"its part for the card" doc:"A sub-score."`
	Took    Fact[float64]                 `json:"duration_s,omitzero" is:"0..100000000" name:"it took" doc:"Seconds, for work that ends."`
	Eye     string                        `json:"read_by_eye,omitzero" name:"read by eye" doc:"A range, such as 40 to 55: it is no average."`
	Felt    Fact[Felt]                    `json:"felt,omitzero" name:"it felt" doc:"In a word."`
	Copies  Fact[float64]                 `json:"copied_gb_s,omitzero" is:"0..1000" name:"moved over the link" doc:"While the run was made, GB/s."`
	Board   Fact[units.Watt]              `json:"card_w,omitzero" is:"0..2000" name:"the card's board power" doc:"Over the run, as its sensor shows."`
	Busy    Fact[units.Share]             `json:"card_use,omitzero" is:"0..1" name:"card busy" doc:"High on a starved card too: it proves nothing."`
	Clock   Fact[float64]                 `json:"card_clock_mhz,omitzero" is:"0..20000" name:"the card's clock" doc:"MHz. High on a starved card too: it proves nothing."`
	CardC   Fact[float64]                 `json:"card_c,omitzero" is:"-40..200" name:"the card's heat" doc:"Over the run, °C."`
	ProcUse Fact[units.Share]             `json:"processor_use,omitzero" is:"0..1" name:"processor busy" doc:"All its cores together: one that is full may be hidden in it."`
	ProcMHz Fact[float64]                 `json:"processor_clock_mhz,omitzero" is:"0..20000" name:"the processor's clock" doc:"MHz."`
	ProcC   Fact[float64]                 `json:"processor_c,omitzero" is:"-40..200" name:"the processor's heat" doc:"Over the run, °C."`
	Core    Fact[bool]                    `json:"one_core_full,omitzero" name:"one processor core was full" doc:"As its monitor showed."`
	Drive   string                        `json:"work_on,omitzero" name:"its data lay on" doc:"The drive it was read from." setting:"yes"`
	Cover   Fact[bool]                    `json:"cover_off,omitzero" name:"cover off" doc:"While the run was made." setting:"yes"`
	Battery Fact[bool]                    `json:"on_battery,omitzero" name:"on battery" doc:"While the run was made." setting:"yes"`
	Room    Fact[float64]                 `json:"room_c,omitzero" is:"-40..60" name:"room" doc:"Temperature of the room, °C." setting:"yes"`
	Noise   Fact[float64]                 `json:"noise_db,omitzero" is:"0..150" name:"noise" doc:"At the seat, dB."`
	Curve   string                        `json:"curve_ms,omitzero" set:"never" name:"frame times, sorted" doc:"At forty places from the quickest to the slowest, ms."`
	Trace   string                        `json:"trace_ms,omitzero" set:"never" name:"frame times, thinned" doc:"Eighty of them that keep the shape, ms."`
	Sum     string                        `json:"sha256,omitzero" set:"never" name:"of the file" doc:"Of the capture."`
	Outcome string                        `json:"outcome,omitzero" name:"outcome" doc:"Crashed after …, would not start, stutters: a result too."`
	Called  string                        `json:"first_called,omitzero" set:"never" name:"first called" doc:"Its name before it was given another: pictures of its settings go by it."`
	Former  []Former                      `json:"corrected,omitzero" set:"never" name:"settings corrected" doc:"What a setting was before it was corrected, the latest last."`
}

// Former is what a setting of a run was before somebody corrected it.
type Former struct {
	Field string `json:"field" set:"never" name:"setting" doc:"The field of the run."`
	Was   string `json:"was" set:"never" name:"was" doc:"As it would be typed."`
	When  string `json:"when,omitzero" set:"never" name:"until" doc:"RFC 3339."`
}

// Low is one of the worst rates, by the school that is asked for: told as such, or as the
// typed minimum once it is stated that it is that.
func (r *Run) Low(of Minimum) Fact[float64] {
	var told Fact[float64]
	switch of {
	case MinimumLow1:
		told = r.Low1
	case MinimumLow1Mean:
		told = r.Low1M
	case MinimumLow01:
		told = r.Low01
	case MinimumLow01Mean:
		told = r.Low01M
	}
	if !told.Known && Is(r.MinIs, of) {
		return r.Minimum
	}
	return told
}

// Typed reports a run that was read off a screen and typed, and not read from a capture.
func (r *Run) Typed() bool { return r.Sum == "" }

// FirstName is the name a run was kept under at first: what is kept elsewhere of it goes by
// that, whatever it is called since.
func (r *Run) FirstName() string { return cmp.Or(r.Called, r.Name) }

// told reports that a run has a result, so that its settings say how it was made.
func (r *Run) told() bool {
	return r.Average.Known || r.Minimum.Known || r.Frames.Known || r.Score.Known || r.Took.Known || r.Eye != "" || r.Felt.Known ||
		r.Outcome != "" ||
		r.Curve != ""
}

// mostFormer bounds what is kept of corrections, a run; the oldest go.
const mostFormer = 64

// KeepFormer keeps beside each run that has a result what its settings were before an edit,
// and its first name where it was given another. Before are the runs as they were; what
// nobody had told is told now, and not corrected.
func KeepFormer(before []Run, r *Rig, when string) {
	for i := range r.Runs {
		run := &r.Runs[i]
		was := slices.IndexFunc(before, func(b Run) bool { return b.Name == run.Name })
		if was < 0 {
			if was = i; len(before) != len(r.Runs) {
				continue // a new one
			}
			run.Called = before[was].FirstName()
		}
		if before[was].told() {
			run.keepFormer(&before[was], when)
		}
	}
}

func (r *Run) keepFormer(before *Run, when string) {
	now := settingsOf(r)
	kept := slices.Clone(r.Former)
	for field, was := range settingsOf(before) {
		if was[1] != "" && was != now[field] {
			kept = append(kept, Former{was[0], was[1], when})
		}
	}
	if len(kept) > len(r.Former) {
		r.Former = kept[max(0, len(kept)-mostFormer):]
	}
}

// settingsOf are the settings of a run in the order of the file, each with its name and
// what is told of it.
func settingsOf(r *Run) (list [][2]string) {
	WalkShallow(r, func(n Node) {
		if !n.Spec.Setting {
			return
		}
		told := ""
		if n.Known() {
			told = fmt.Sprint(n.Plain())
		}
		if n.Known() && n.Spec.Kind == Flag {
			told = map[bool]string{true: "yes", false: "no"}[n.Plain().(bool)]
		}
		list = append(list, [2]string{n.Spec.Name, told})
	})
	return list
}

// LoadReading is what was read beside the link with the card under load.
type LoadReading struct {
	When  string                        `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	Tool  string                        `json:"tool,omitzero" name:"read with" doc:"The tool, the probe, or the hand."`
	By    string                        `json:"by,omitzero" name:"by" doc:"Who read it."`
	To    Fact[units.GigabytePerSecond] `json:"copied_to_card_gb_s,omitzero" is:"0..1000" name:"copied to the card" doc:"What a copy to the card reached, in large pieces."`
	From  Fact[units.GigabytePerSecond] `json:"copied_from_card_gb_s,omitzero" is:"0..1000" name:"copied from the card" doc:"What a copy back reached, in large pieces."`
	Card  string                        `json:"card,omitzero" name:"of the card" doc:"Which card it was; empty for the rig's own."`
	Board Fact[units.Watt]              `json:"card_w,omitzero" is:"0..2000" name:"the card's board power" doc:"As its sensor shows, sustained."`
	Plug  string                        `json:"plug,omitzero" name:"heat of the plug" doc:"Which plug was felt or probed after ten minutes."`
	Heat  Fact[float64]                 `json:"plug_c,omitzero" is:"-20..400" name:"its heat" doc:"°C. A hand stands about 50 °C for a moment."`
	CardC Fact[float64]                 `json:"card_c,omitzero" is:"-20..150" name:"the card's core" doc:"°C, as its sensor shows, after ten minutes under load."`
	MemC  Fact[float64]                 `json:"card_memory_c,omitzero" is:"-20..150" name:"the card's memory" doc:"°C, as its sensor shows."`
	ProcC Fact[float64]                 `json:"processor_c,omitzero" is:"-20..150" name:"the processor" doc:"°C, as its sensor shows."`
	Noise Fact[float64]                 `json:"noise_db,omitzero" is:"0..150" name:"noise" doc:"At the seat, dB."`
}
