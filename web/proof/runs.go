package proof

import (
	"fmt"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/fields"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// HeadOf is the head of a table as it is remembered by; empty without one.
func HeadOf(names []string) string { return strings.Join(names, "\x1f") }

// ProcessOf is what drew a series, without the number of its pass.
func ProcessOf(s *proof.Series) string {
	name, _, _ := strings.Cut(s.Name, " pass ")
	if strings.HasPrefix(name, "pass ") {
		return ""
	}
	return name
}

// ProcessesOf are the processes that a capture holds frames of.
func ProcessesOf(capture *proof.Capture) (list []string) {
	for _, s := range capture.Series {
		if name := ProcessOf(s); !slices.Contains(list, name) {
			list = append(list, name)
		}
	}
	return list
}

// TypedRun is a run as it was read off a screen.
func TypedRun(c fiber.Ctx) (rig.Run, error) {
	typed := rig.New("typed")
	typed.Runs = []rig.Run{{Name: "typed", When: room.When(c)}}
	some := false
	for _, field := range []string{
		"average_hz", "low1_p99_hz", "typed_minimum_hz", "typed_minimum_is", "typed_maximum_hz", "duration_s", "score",
		"score_unit", "felt", "outcome", "read_by_eye", "wall_w",
	} {
		text := strings.TrimSpace(c.FormValue(field))
		if text == "" {
			continue
		}
		some = true
		if err := setTyped(typed, "/runs/0/"+field, text); err != nil {
			return rig.Run{}, err
		}
	}
	if !some {
		return rig.Run{}, &rig.FieldError{
			Path:    "/runs",
			Accepts: "a capture of frame times, or a result that was read: an average in Hz, seconds, a score, a word",
		}
	}
	typed.Runs[0].Name = ""
	return typed.Runs[0], nil
}

// CaptureView is what was found in a table before it is taken in.
type CaptureView struct {
	Fault     string
	Column    proof.Column
	Head      []string
	Rows      [][]string
	Series    []CaptureSeries
	Processes []room.Option
}

// CaptureSeries is one series of a capture that is looked at, before it is kept.
type CaptureSeries struct {
	Name                             string
	Frames, Dropped, Seconds, Pauses string
}

// PauseWords says that time stamps have pauses, which count as frames; nothing where they have none.
func PauseWords(s *proof.Series) string {
	if s.Frames() == 0 {
		return ""
	}
	count, longest := s.Pauses()
	if count == 0 {
		return ""
	}
	return phrase.Counted(count, "pause", "pauses") + " in its time stamps, up to " + units.Trim(longest/1000, 1) +
		" s, as frames: was it stopped meanwhile?"
}

// FreeRun is a name that no other run has.
func FreeRun(r *rig.Rig, name string) string {
	taken := func(name string) bool {
		return slices.ContainsFunc(r.Runs, func(run rig.Run) bool { return run.Name == name || run.FirstName() == name })
	}
	free := name
	for n := 2; taken(free); n++ {
		free = fmt.Sprintf("%s %d", name, n)
	}
	return free
}

// correctedWords name all settings of a run that were corrected, with what they were.
func correctedWords(run *rig.Run) string {
	var said []string
	rig.WalkShallow(run, func(n rig.Node) {
		if was := fields.FormerWords(run, n.Spec); was != "" {
			said = append(said, n.Spec.Called+" was "+was)
		}
	})
	return strings.Join(said, "; ")
}
