package proof

import (
	"math"

	"kolvan/core/rig"
)

// A Promised is what was expected of a use, beside what came of it, Hz.
type Promised struct {
	Use    string     `json:"use"`
	Kept   string     `json:"kept"` // when it was kept; empty: by the plan as it is now
	Likely [2]float64 `json:"likely_hz"`
	Utmost [2]float64 `json:"utmost_hz"`
	Before *float64   `json:"before_hz"` // null where no run from before tells it
	Found  *float64   `json:"found_hz"`  // null while no run with the card does
	Lies   string     `json:"lies"`      // likely, utmost, outside; empty while nothing was found
}

// PromisedOf holds what was expected of each use, as it was kept or by the plan alone, against its
// runs with the card; a use of which no rate is expected is left out.
func PromisedOf(r *rig.Rig, l Link) []Promised {
	list := []Promised{}
	for i := range r.Brief.Works {
		w := &r.Brief.Works[i]
		p, expected := promisedBy(r, w, l)
		if !expected {
			continue
		}
		if mean, _, known := meanOf(asUsed(WithCard(r, w.Name)), measures[0].of); known {
			p.Found, p.Lies = &mean, p.liesAt(mean)
		}
		if today, told := w.TodayHz.Get(); told {
			p.Before = &today
		}
		list = append(list, p)
	}
	return list
}

// asUsed are the runs made as most of them were, at one resolution and over the link as it is: of
// as many the one with more pixels.
func asUsed(runs []*rig.Run) (most []*rig.Run) {
	by := map[setup][]*rig.Run{}
	for _, run := range mostAlike(runs) {
		key := setupOf(run)
		by[key] = append(by[key], run)
		if group := by[key]; run.Gen.Known || len(most) > len(group) || len(most) == len(group) && pixelsRun(most) > pixelsRun(group) {
			continue
		}
		most = by[key]
	}
	return most
}

func pixelsRun(runs []*rig.Run) int { return runs[0].Width.Value * runs[0].Height.Value }

// promisedBy is what was kept of a use, else what is expected of it without its runs.
func promisedBy(r *rig.Rig, w *rig.Work, l Link) (p Promised, expected bool) {
	p.Use = w.Name
	if k := &w.Kept; k.Low.Known && k.High.Known {
		p.Kept, p.Likely = k.When, [2]float64{k.Low.Value, k.High.Value}
		p.Utmost = [2]float64{k.Least.Or(k.Low.Value), k.Most.Or(k.High.Value)}
		return p, true
	}
	if l.Net.High <= 0 {
		return p, false
	}
	e := ExpectOf(r, w, l, Same)
	if e.Rate == nil {
		return p, false
	}
	p.Likely, p.Utmost = *e.Likely.Rate, *e.Rate
	return p, true
}

func (p *Promised) liesAt(found float64) string {
	switch {
	case p.Likely[0] <= found && found <= p.Likely[1]:
		return "likely"
	case p.Utmost[0] <= found && found <= p.Utmost[1]:
		return "utmost"
	default:
		return "outside"
	}
}

// Keep keeps what is expected of every use that was not run with the card yet, as it is planned
// now, and reports whether there was any. What was kept once stays.
func Keep(r *rig.Rig, l Link, when string) (kept bool) {
	for i := range r.Brief.Works {
		w := &r.Brief.Works[i]
		if w.Kept.Low.Known || len(WithCard(r, w.Name)) > 0 {
			continue
		}
		p, expected := promisedBy(r, w, l)
		if !expected {
			continue
		}
		of := func(v float64) rig.Fact[float64] { return rig.Of(math.Round(10*v) / 10) }
		w.Kept = rig.Kept{Low: of(p.Likely[0]), High: of(p.Likely[1]), Least: of(p.Utmost[0]), Most: of(p.Utmost[1]), When: when}
		kept = true
	}
	return kept
}
