package meter

import (
	"slices"
	"strconv"
	"strings"

	"kolvan/core/tables"
)

// col is a column with what turns its numbers into seconds or watts; index −1 is
// one that is not there.
type col struct {
	index int
	name  string
	unit  string
	times float64
}

// The words by which tables name their columns, and the units beside them.
var (
	timeWords = []string{
		"time", "timestamp", "time stamp", "date", "datetime", "date time", "elapsed", "elapsed time", "clock", "t", "unix",
		"epoch", "unix time", "at",
	}
	powerWords = []string{"power", "active power", "real power", "power draw", "p", "load", "consumption", "reading", "draw"}
	timeUnits  = map[string]float64{
		"s": 1, "sec": 1, "secs": 1, "second": 1, "seconds": 1, "ms": 1e-3, "msec": 1e-3, "milliseconds": 1e-3, "min": 60,
		"minutes": 60, "h": 3600, "hours": 3600,
	}
	powerUnits = map[string]float64{"w": 1, "watt": 1, "watts": 1, "kw": 1e3, "mw": 1e-3}
	unitNames  = map[float64]string{1: "W", 1e3: "kW", 1e-3: "mW"}
)

// timeColumn is the column of the moments, powerColumn that of the power: by the words and the
// units there are here, else by those of other languages.
func timeColumn(names []string) col  { return columnOf(names, timeWords, timeUnits, tables.Stamp) }
func powerColumn(names []string) col { return columnOf(names, powerWords, powerUnits, tables.Power) }

// columnOf is the first column that is named by one of the words, or by a unit, or that holds
// the quantity by its head.
func columnOf(names, words []string, units map[string]float64, quantity tables.Quantity) col {
	for i, name := range names {
		stem, unit := nameAndUnit(name)
		if times, isUnit := units[stem]; isUnit {
			return col{i, strings.TrimSpace(name), unitNames[times], times}
		}
		times, told := units[unit]
		if unit == "" {
			times, told = 1, true
		}
		if told && slices.Contains(words, stem) {
			return col{i, strings.TrimSpace(name), unitNames[times], times}
		}
	}
	for i, name := range names {
		head := tables.HeadOf(name)
		times, told := units[strings.ToLower(head.Unit)]
		if head.Unit == "" {
			times, told = 1, true
		}
		if told && head.Quantity == quantity {
			return col{i, strings.TrimSpace(name), unitNames[times], times}
		}
	}
	return col{index: -1}
}

// named is the column of that very name; in watts unless it says otherwise.
func named(names []string, column string) col {
	for i, name := range names {
		if !strings.EqualFold(strings.TrimSpace(name), strings.TrimSpace(column)) {
			continue
		}
		stem, unit := nameAndUnit(name)
		times, told := powerUnits[unit]
		if byStem, isUnit := powerUnits[stem]; isUnit {
			times, told = byStem, true
		}
		switch {
		case told:
		case unit == "" && !otherUnits[stem]:
			times = 1
		default:
			return col{index: -1} // volts, amps or degrees are no power
		}
		return col{i, strings.TrimSpace(name), unitNames[times], times}
	}
	return col{index: -1}
}

// nameAndUnit parts "Active Power [kW]", "power_w" or "P (W)" into the name and
// the unit, both in small letters.
func nameAndUnit(head string) (name, unit string) {
	name = strings.ToLower(strings.TrimSpace(head))
	if i := strings.IndexAny(name, "([{/"); i > 0 {
		return clean(name[:i]), strings.Trim(name[i:], "()[]{}/ ")
	}
	for _, sign := range []string{"_", ",", " ", "."} {
		i := strings.LastIndex(name, sign)
		if i <= 0 {
			continue
		}
		last := strings.TrimSpace(name[i+1:])
		_, time := timeUnits[last]
		_, power := powerUnits[last]
		if _, other := otherUnits[last]; time || power || other {
			return clean(name[:i]), last
		}
	}
	return clean(name), ""
}

// otherUnits are units, and names, of what is neither time nor power.
var otherUnits = map[string]bool{
	"volt": true, "volts": true, "voltage": true, "amp": true, "amps": true, "ampere": true, "current": true,
	"frequency": true, "energy": true, "temperature": true, "power factor": true, "v": true, "a": true, "va": true,
	"var": true, "wh": true, "kwh": true, "hz": true, "c": true,
}

func clean(name string) string {
	return strings.Join(
		strings.FieldsFunc(name, func(r rune) bool { return r == '_' || r == ' ' || r == '-' || r == '.' || r == ',' }), " ",
	)
}

func plain(s string) (float64, bool) {
	v, err := strconv.ParseFloat(s, 64)
	return v, err == nil && v == v
}
