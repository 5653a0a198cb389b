package survey

import (
	"fmt"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/gate"
	"kolvan/core/rig"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// claim is one thing that came otherwise than the seller listed it, or damaged.
type claim struct{ What, Listed, Found string }

// claimsOf are what a seller is to be asked about: what is worse than listed, and what was found
// broken, worn or missing.
func claimsOf(r *rig.Rig, report *assess.Report) (list []claim) {
	worse := func(where string) bool {
		return slices.ContainsFunc(report.Findings, func(f finding.Finding) bool {
			return f.Rule == gate.RuleListing && f.Where == where && f.Level >= finding.Risk && f.Level != finding.Unknown
		})
	}
	said := map[string]bool{}
	for _, row := range listedRows(r, report) {
		if row.Level == finding.Risk.String() {
			list = append(list, claim{row.What, row.Listed, row.Found})
			said[row.What] = true
		}
	}
	if drives := r.Host.Listed.Drives; drives.Known && worse("/host/drives") {
		list = append(list, claim{"drives", fmt.Sprint(drives.Value), fmt.Sprint(len(r.Host.Drives))})
	}
	if screens := r.Host.Listed.Screens; screens.Known && worse("/host/screens") {
		list = append(list, claim{"video outputs", fmt.Sprint(screens.Value), fmt.Sprint(len(r.Host.Screens))})
	}
	if panel := r.Host.Listed.Panel; panel.Known && worse("/host/panel") {
		list = append(list, claim{"its panel", rig.Spoken(panel.Value), rig.Spoken(r.Host.Panel.Value)})
	}
	if worse("/host/supply") {
		list = append(list, claim{"its supply", "in the box", "not there"})
	}
	for i := range r.Host.Checks {
		c := &r.Host.Checks[i]
		if !c.State.Known || c.State.Value == "fine" {
			continue
		}
		listed := "not mentioned"
		if rig.Is(r.Host.Listed.Works, true) {
			listed = "said to work"
		}
		list = append(list, claim{c.Name, listed, rig.Spoken(c.State.Value)})
	}
	return list
}

// claimPage writes the page to the seller: what was listed, what was found, nothing else of the rig.
func claimPage(c fiber.Ctx, d *room.Desk) error {
	var b strings.Builder
	fmt.Fprintf(&b, "# %s: not as listed\n\n", phrase.Or(d.Rig.Host.Name, "The host"))
	claims := claimsOf(d.Rig, d.Report)
	if len(claims) == 0 {
		b.WriteString("Nothing that was found is worse than it was listed.\n")
	} else {
		b.WriteString("| what | listed | found |\n| --- | --- | --- |\n")
		for _, one := range claims {
			fmt.Fprintf(&b, "| %s | %s | %s |\n", phrase.Cell(one.What), phrase.Cell(one.Listed), phrase.Cell(one.Found))
		}
		b.WriteString("\nPictures of each are kept; which of them do you want to see? Please tell what you propose: a part in its place, a part " +
			"of the price, or its return.\n")
	}
	c.Attachment(phrase.FileName(d.Rig.Name) + "-claim.md")
	c.Set(fiber.HeaderContentType, "text/markdown; charset=utf-8")
	return c.SendString(b.String())
}
