package gate

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// judgeKnown tells what was seen of the parts of the plan on this host, or on one like it:
// what worked and what failed stand beside each other.
func judgeKnown(r *finding.Rule, g *Gate, out *finding.List) {
	var told []string
	for i := range g.Known {
		k := &g.Known[i]
		if !planned(g.Rig, k.Of) || slices.Contains(told, k.Of) {
			continue
		}
		told = append(told, k.Of)
		worked, failed := g.seen(k.Of, true), g.seen(k.Of, false)
		at := "/known/" + strconv.Itoa(i)
		numbers := finding.Numbers{{Name: "failed", Value: float64(len(failed))}, {Name: "worked", Value: float64(len(worked))}}
		name := cmp.Or(k.Of, "A card joined this way")
		switch {
		case len(failed) > 0 && len(worked) > 0:
			out.Add(
				r, finding.Risk, at, numbers, "%s failed: %s. It also worked: %s. Find what differs: firmware, driver, system.", name,
				strings.Join(failed, "; "), strings.Join(worked, "; "),
			)
		case len(failed) > 0:
			out.Add(r, finding.Risk, at, numbers, "%s failed: %s.", name, strings.Join(failed, "; "))
		case len(worked) > 0:
			out.Add(r, finding.Note, at, numbers, "%s worked: %s.", name, strings.Join(worked, "; "))
		default:
			out.Need(r, at+"/works", "whether it worked", "Ask who saw it.", "how sure the plan is")
		}
	}
}

// seen are the sightings of a part that worked, or that failed, in words.
func (g *Gate) seen(of string, worked bool) (list []string) {
	for i := range g.Known {
		if k := &g.Known[i]; k.Of == of && rig.Is(k.Works, worked) {
			list = append(list, seenWords(k))
		}
	}
	return list
}

// seenWords says where it was seen, by whom, and with what.
func seenWords(k *rig.Known) string {
	words := "on this host"
	if k.Host != "" {
		words = "on " + k.Host
	}
	words += ", seen by " + rig.Spoken(k.By.Or("another"))
	for _, with := range []struct{ what, told string }{{"firmware", k.Firmware}, {"driver", k.Driver}, {"system", k.System}} {
		if with.told != "" {
			words += fmt.Sprintf(", %s %s", with.what, with.told)
		}
	}
	if k.Remark != "" {
		words += " (" + strings.TrimSuffix(k.Remark, ".") + ")"
	}
	return words
}

// planned reports a part of the plan: the card, a stage of its route, or the whole of it.
func planned(r *rig.Rig, of string) bool {
	return of == "" || of == r.Card.Name || slices.ContainsFunc(r.Route.Stages, func(s rig.Stage) bool { return s.Name == of })
}

// JudgeKnown adds what is said of what was seen before: it hangs on the parts of the route.
func JudgeKnown(r *rig.Rig, out *finding.List) { judgeKnown(rules.Of(RuleKnown), &Gate{Rig: r}, out) }

// SeenToWork is how often parts of the plan were seen to work on this very host, none of them
// failing: what somebody else saw, and what was seen on one like it, counts half.
func SeenToWork(r *rig.Rig) (times float64) {
	for i := range r.Known {
		k := &r.Known[i]
		switch worked, told := k.Works.Get(); {
		case !told || !planned(r, k.Of):
		case !worked:
			return 0
		case k.Host == "" && rig.Is(k.By, rig.BySelf):
			times++
		default:
			times += 0.5
		}
	}
	return times
}
