package main

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestBringUpCommands print their formats, hold to the same seed, and name what is wrong
// with a call.
func TestBringUpCommands(t *testing.T) {
	bin := built(t)
	ask := func(wantCode int, into any, args ...string) {
		out, errs, code := kolvan(t, bin, "", args...)
		require.Equal(t, wantCode, code, errs)
		require.NoError(t, json.Unmarshal([]byte(out), into))
	}
	var steps struct {
		Format      string
		Steps, Back []struct {
			ID, Do string
			After  []string
		}
	}
	ask(0, &steps, "steps", "--json", "../../demo/rigs/dome_shed_stacker.json")
	assert.Equal(t, "kolvan-steps/1", steps.Format)
	done := map[string]bool{}
	for _, s := range steps.Steps {
		for _, before := range s.After {
			assert.True(t, done[before], "%s before %s", before, s.ID)
		}
		done[s.ID] = true
	}
	assert.NotEmpty(t, steps.Back)

	type rehearsal struct {
		Format, Order, End, Fault string
		Events                    []struct{ Seen string }
	}
	var one, again, broken rehearsal
	ask(0, &one, "rehearse", "--json", "--seed", "9", "../../demo/rigs/ticket_desk.json")
	ask(0, &again, "rehearse", "--json", "--seed", "9", "../../demo/rigs/ticket_desk.json")
	assert.Equal(t, one, again)
	assert.Equal(t, "works as planned", one.End)
	ask(1, &broken, "rehearse", "--json", "--fault", "card-dead", "--order", "together", "../../demo/rigs/ticket_desk.json")
	assert.Equal(t, [3]string{"no link", "together", "card-dead"}, [3]string{broken.End, broken.Order, broken.Fault})

	var found struct {
		Format   string
		Seen     map[string]string
		Suspects []struct{ Weight float64 }
		Next     struct{ Outcomes map[string]float64 }
		Stop     any
	}
	ask(0, &found, "find", "--json", "--seen", "lamp=on", "--seen", "device=there", "../../demo/rigs/dome_shed_stacker.json")
	assert.Equal(t, "kolvan-find/1", found.Format)
	assert.Equal(t, map[string]string{"lamp": "on", "device": "there"}, found.Seen)
	sum := 0.0
	for _, p := range found.Next.Outcomes {
		sum += p
	}
	assert.InDelta(t, 1, sum, 1e-6)
	for wrong, says := range map[string][]string{
		"accepted: see, lamp": {"find", "--seen", "smell=bad", "../../demo/rigs/ticket_desk.json"},
		"on, off":             {"find", "--seen", "lamp=green", "../../demo/rigs/ticket_desk.json"},
		"means nothing":       {"find", "--seen", "lamp=on", "../../demo/rigs/projector_tower.json"},
		"this rig cannot":     {"rehearse", "--fault", "dock-no-12v", "../../demo/rigs/projector_tower.json"},
		"possible: together":  {"rehearse", "--order", "host-first", "../../demo/rigs/field_kit.json"},
		"accepted: module-no": {"rehearse", "--fault", "gremlins", "../../demo/rigs/ticket_desk.json"},
	} {
		_, errs, code := kolvan(t, bin, "", says...)
		assert.Equal(t, 2, code, says)
		assert.Contains(t, errs, wrong, says)
	}
}

// TestBringUpInWords: the same for a person, of several files and of one that is none.
func TestBringUpInWords(t *testing.T) {
	bin := built(t)
	for _, c := range []struct {
		code int
		args []string
		says []string
	}{
		{
			0, []string{"steps", "../../demo/rigs/field_kit.json"},
			[]string{"the host turned over", "right when:", "The way back", "bringup.dark"},
		},
		{2, []string{"steps", "../../demo/rigs/ticket_desk.json", "no-such-file.json"}, []string{"Ticket-desk all-in-one"}},
		{
			0, []string{"rehearse", "../../demo/rigs/ticket_desk.json"},
			[]string{
				"Switched on: dock-first. It works as planned.", "host-first found perhaps, -59300 to 2900 ms to spare",
				"The link runs x1 at Gen 2",
			},
		},
		{
			1, []string{"rehearse", "../../demo/rigs/dome_shed_stacker.json"},
			[]string{"found never: nothing switches its supply on", "power.turn-on"},
		},
		{0, []string{"find", "../../demo/rigs/ticket_desk.json"}, []string{"Next:", "then:", "13 min spent"}},
		{0, []string{"find", "--at-hand", "a test card", "../../demo/rigs/ticket_desk.json"}, []string{"test card"}},
		{0, []string{"rules"}, []string{"build.live", "bringup.prove-first", "assembly"}},
	} {
		out, errs, code := kolvan(t, bin, "", c.args...)
		assert.Equal(t, c.code, code, "%v: %s", c.args, errs)
		for _, says := range c.says {
			assert.Contains(t, out, says, "%v", c.args)
		}
	}
}

// TestSheetOnTheCommandLine: the same page as markdown and as one html file that fetches
// and runs nothing, but for the parts that are left out.
func TestSheetOnTheCommandLine(t *testing.T) {
	bin, desk := built(t), "../../demo/rigs/ticket_desk.json"
	headings := []string{
		"Lanes", "Power", "Switching on", "Fit", "Open", "Settings", "Steps", "The way back", "Tries", "Measured", "Cautions",
	}
	out, errs, code := kolvan(t, bin, "", "sheet", desk)
	require.Zero(t, code, errs)
	for _, h := range headings {
		assert.Contains(t, out, "## "+h+"\n")
	}
	assert.Contains(t, out, "1. [done] Copy what is on the host's drives")
	assert.Contains(t, out, "| 19:16 | Switch off; reseat")
	assert.Contains(t, out, "| own graphics | before the card | 29.8 Hz | 26.7 Hz, 14.5 Hz |")
	page, errs, code := kolvan(t, bin, "", "sheet", "--as", "html", desk)
	require.Zero(t, code, errs)
	for _, h := range headings {
		assert.Contains(t, page, "<h3>"+h+"</h3>")
	}
	for _, outside := range []string{"<script", "src=", "url(/", "url(http", "http-equiv", "@import", "href=\"/", "onload"} {
		assert.NotContains(t, page, outside)
	}
	assert.Contains(t, page, "<svg", "pictures are in it")
	short, _, code := kolvan(t, bin, "", "sheet", "--without", "steps,tries,power,runs", desk)
	require.Zero(t, code)
	for _, h := range []string{"Steps", "Tries", "Switching on", "Measured"} {
		assert.NotContains(t, short, "## "+h)
	}
	assert.Contains(t, short, "## Fit")
	_, errs, code = kolvan(t, bin, "", "sheet", "--without", "cats", desk)
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "power, fit, steps, tries, runs, open, settings, costs, diary")
	bare, _, _ := kolvan(t, bin, "", "sheet", "--without", "open", "../../demo/rigs/stacker_built.json")
	money, _, code := kolvan(t, bin, "", "sheet", "--with", "costs,diary", "../../demo/rigs/stacker_built.json")
	require.Zero(t, code)
	for _, own := range []string{"## Costs", "531 to 561 kr", "## Diary", "leave the shed door shut"} {
		assert.Contains(t, money, own)
		assert.NotContains(t, bare, own, "a person's own is asked for")
	}
	assert.NotContains(t, bare, "Nothing.", "left out is not none")
	assert.Contains(t, bare, "## Plan, and found")
}

// TestCompletion: a shell is told what can come next.
func TestCompletion(t *testing.T) {
	bin := built(t)
	out, errs, code := kolvan(t, bin, "", "completion", "-c", "bash")
	require.Zero(t, code, errs)
	assert.Contains(t, out, "complete -o default")
	t.Setenv("COMP_LINE", "kolvan reh")
	out, _, _ = kolvan(t, bin, "")
	assert.Equal(t, "rehearse\n", out)
}
