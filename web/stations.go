package web

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// station is one step of the work in the line under the rig's name.
type station struct {
	Key    string
	Label  string
	Figure string
	Level  string // worst level there; empty when nothing was found
	Here   bool
	Later  bool // not built yet
}

// stationKeys are the steps in the order of the work.
var stationKeys = []struct {
	key, label string
	later      bool
}{
	{"brief", "Brief", false}, {"survey", "Survey", false}, {"route", "Route", false}, {"power", "Power", false}, {"fit", "Fit", false},
	{"assembly", "Assembly", false}, {"proof", "Proof", false}, {"ledger", "Ledger", false}, {"sheet", "Sheet", false},
}

// stationOf is the station a finding belongs to: facts of the host are asked for
// at the survey, the rest where the rule's family is worked on.
func stationOf(f *finding.Finding) string {
	if f.Level == finding.Unknown && rig.Within(f.Where, "/host") {
		return string(finding.Survey)
	}
	return string(f.Row().Station)
}

// stations are the steps with their worst level, each with its worst figure: what it is, or
// how much.
func stations(r *rig.Rig, report *assess.Report, subjects []subject, here string, inches bool) []station {
	worst, open := map[string]finding.Level{}, 0
	for i := range report.Findings {
		f := &report.Findings[i]
		at := stationOf(f)
		if level, some := worst[at]; !some || f.Level > level {
			worst[at] = f.Level
		}
		if at == string(finding.Survey) && f.Level == finding.Unknown {
			open++
		}
	}
	list := make([]station, len(stationKeys))
	for i, k := range stationKeys {
		list[i] = station{
			Key: k.key, Label: k.label, Later: k.later, Here: k.key == here, Figure: stationFigure(k.key, r, report, open, inches),
		}
		if level, some := worst[k.key]; some {
			list[i].Level = level.String()
		}
		if s := worstOf(subjects, k.key); s != nil && s.Level >= worst[k.key] {
			list[i].Figure = s.Tag
		}
	}
	return list
}

func stationFigure(key string, r *rig.Rig, report *assess.Report, open int, inches bool) string {
	f := &report.Figures
	switch key {
	case "brief":
		return budgetWords(r)
	case "survey":
		if r.Host.Name == "" && len(r.Host.Slots) == 0 {
			return "no host"
		}
		if open == 0 {
			return "all found"
		}
		return fmt.Sprintf("%d to find", open)
	case "route":
		return linkWords(report)
	case "power":
		if len(r.Supplies) == 0 {
			return "no supply"
		}
		return figureOf(report, "power.supply_share", power.Percent)
	case "fit":
		return gapWords(r, f, inches)
	case "assembly":
		return assemblyFigure(r)
	case "proof":
		return proofFigure(r)
	case "ledger":
		return ledgerFigure(r)
	case "sheet":
		return "draft"
	default:
		return "later"
	}
}

func budgetWords(r *rig.Rig) string {
	budget, known := r.Brief.Budget.Get()
	if !known {
		return "no budget"
	}
	paid, _ := ledger.Committed(r)
	sum := ledger.Expected(r) + (paid.Low+paid.High)/2
	if sum > budget {
		return strings.TrimSpace((sum-budget).String()+" "+r.Brief.Currency) + " over"
	}
	return strings.TrimSpace((budget-sum).String()+" "+r.Brief.Currency) + " left"
}

func gapWords(r *rig.Rig, f *assess.Figures, inches bool) string {
	switch {
	case rig.Is(r.Card.BuiltIn, true):
		return "in its box"
	case r.Chamber.Open:
		return "open air"
	case f.Gap == nil:
		return unknown
	default:
		return length(units.Millimetre(*f.Gap).Ruled(), inches)
	}
}

// length prints a length as the setting wants it.
func length(l units.Millimetre, inches bool) string {
	words := l.String()
	if inches {
		words = l.Inches()
	}
	return minusSigns(words)
}

// minusSigns writes what is below zero as print does.
func minusSigns(figure string) string {
	if rest, below := strings.CutPrefix(figure, "-"); below {
		return "\u2212" + rest
	}
	return figure
}

// verdictWords is the verdict in a few words, and its level.
func verdictWords(report *assess.Report) (text, level string) {
	worst, some := report.Worst()
	if !some {
		return "nothing against it", ""
	}
	return map[finding.Level]string{
		finding.Danger: "stop before power-on", finding.Blocked: "does not work as planned", finding.Unknown: "facts are missing",
		finding.Risk: "may disappoint", finding.Note: "goes as planned",
	}[worst], worst.String()
}
