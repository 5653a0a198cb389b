package assess

import (
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Silently judges as the search for changes does, without a sentence, in room that it
// uses again.
func Silently(ref *reference.Tables) func(*rig.Rig) []finding.Finding {
	var d desk
	out := finding.List{Silent: true}
	return func(r *rig.Rig) []finding.Finding {
		out.Empty()
		report := d.judge(r, ref, &out)
		return report.Findings
	}
}
