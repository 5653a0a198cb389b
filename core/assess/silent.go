package assess

import (
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Silently judges without a sentence, in room that it uses again: what it returned last is
// lost with the next rig. It is for searches, which judge thousands.
func Silently(ref *reference.Tables) func(*rig.Rig) []finding.Finding {
	var d desk
	out := finding.List{Silent: true}
	return func(r *rig.Rig) []finding.Finding {
		out.Empty()
		report := d.judge(r, ref, &out)
		return report.Findings
	}
}
