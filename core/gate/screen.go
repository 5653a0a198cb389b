package gate

import (
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// judgeScreen follows the picture from the card to the wanted screen. A panel that
// is fed through its own video input is an external screen.
func judgeScreen(r *finding.Rule, g *Gate, out *finding.List) {
	kind, told := g.Brief.Screen.Kind.Get()
	if !told {
		return
	}
	if kind == rig.OwnPanel {
		g.judgeOwnPanel(r, out)
		return
	}
	if rig.Is(g.Host.Panel, rig.PanelDead) && g.Host.Screens != nil && len(g.Host.Screens) == 0 {
		out.Add(
			r, finding.Blocked, "/host/panel", nil,
			"The host's own panel is dead and it has no video output: there is nothing to see the firmware on.",
		)
	}
	if kind != rig.NoScreen {
		g.judgeSockets(r, out)
	}
}

func (g *Gate) judgeOwnPanel(r *finding.Rule, out *finding.List) {
	switch host := &g.Host; {
	case rig.Is(host.Panel, rig.PanelDead):
		out.Add(r, finding.Blocked, "/host/panel", nil, "The picture is wanted on the host's own panel, which is dead.")
	case rig.Is(host.Panel, "none"):
		out.Add(r, finding.Blocked, "/host/panel", nil, "The picture is wanted on the host's own panel, and it has none.")
	case rig.Is(host.Graphics, rig.NoGraphics):
		out.Add(
			r, finding.Blocked, "/host/graphics", nil,
			"The host's own panel hangs on graphics of its own, and it has none: frames have no way back. Use a screen on the card's output.",
		)
	case rig.Is(host.Copies, false):
		out.Add(
			r, finding.Blocked, "/host/copies_frames", nil,
			"The system's drivers do not copy the card's frames back to the host's own panel. Use a screen on the card's output.",
		)
	case !host.Graphics.Known:
		out.Need(
			r, "/host/graphics", "what the host draws with on its own", "Read the papers of its processor.",
			"whether frames find a way back to its own panel",
		)
	case !host.Copies.Known:
		out.Need(
			r, "/host/copies_frames", "whether the system's drivers copy frames back to the host's own panel",
			"Read the notes of the card's driver for this system.", "whether there is a picture on its own panel",
		)
	}
}

// judgeSockets looks for an output of the card that goes into the screen.
func (g *Gate) judgeSockets(r *finding.Rule, out *finding.List) {
	outputs, known := g.Card.Outputs.Get()
	screen := &g.Brief.Screen
	switch {
	case !known || screen.Fed.Known && slices.Contains(outputs, screen.Fed.Value):
		return
	case len(outputs) == 0:
		out.Add(r, finding.Blocked, "/card/outputs", nil, "The card has no video output, and the picture is wanted on a screen of its own.")
	case !screen.Inputs.Known:
		out.Need(
			r, "/brief/screen/inputs", "which sockets the screen has", "Look at its back.",
			"whether the card's outputs, "+strings.Join(outputs, ", ")+", go into one",
		)
	case slices.ContainsFunc(outputs, func(o string) bool {
		return slices.ContainsFunc(screen.Inputs.Value, func(i string) bool { return sameSocket(o, i) })
	}):
	case rig.Is(screen.Adapts, true):
	case !screen.Adapts.Known:
		out.Need(
			r, "/brief/screen/adapter", "whether an adapter to the screen is planned", "Look what adapters the two sockets need.",
			"whether the card's outputs, "+strings.Join(outputs, ", ")+", reach the screen",
		)
	default:
		out.Add(
			r, finding.Blocked, "/brief/screen/inputs", nil, "The card has %s, the screen takes %s, and no adapter is planned.",
			strings.Join(outputs, ", "), strings.Join(screen.Inputs.Value, ", "),
		)
	}
}

// sameSocket compares two sockets by their sort: "port 2" goes into "Port".
func sameSocket(a, b string) bool {
	sort := func(s string) string { return strings.TrimRight(strings.ToLower(strings.TrimSpace(s)), " 0123456789") }
	return sort(a) == sort(b)
}
