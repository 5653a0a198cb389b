package brief

import (
	"fmt"
	"math"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgePlace holds where a rig will stand, and with whom, against how it is built.
func judgePlace(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	l := &rg.Brief.Living
	if rig.Is(l.Harsh, true) && rg.Chamber.Open {
		out.Add(
			r, finding.Risk, "/brief/living/harsh", nil,
			"The card stands in the open, and where it will stand there is dust, damp, or small hands: give it a case, or another place.",
		)
	}
	judgeAirThere(r, rg, out)
	for i := range l.Agree {
		who := &l.Agree[i]
		where := fmt.Sprintf("/brief/living/agree/%d", i)
		switch {
		case rig.Is(who.Agreed, false):
			out.Add(r, finding.Risk, where, nil, "%s does not agree to it.", who.Name)
		case !who.Agreed.Known:
			out.Add(r, finding.Note, where, nil, "%s was not asked yet: ask before anything is ordered.", who.Name)
		}
	}
}

// judgeAirThere: a plan for open air does not stand in a cupboard.
func judgeAirThere(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	air, told := rg.Brief.Living.Air.Get()
	if !told || air == "open" || rig.Is(rg.Chamber.Around, air) {
		return
	}
	if rg.Chamber.Air.Known || rg.Chamber.Open {
		out.Add(
			r, finding.Risk, "/brief/living/air", nil,
			"It will stand %s, where its warm air comes back to it; the plan is for open air.", rig.Spoken(air),
		)
		return
	}
	out.Add(
		r, finding.Note, "/brief/living/air", nil,
		"It will stand %s, where its warm air comes back to it; nobody has told yet how much air its case moves.",
		rig.Spoken(air),
	)
}

// The noise of what is not told, dB (P).
var (
	cardNoise   = [2]float64{30, 50}
	supplyNoise = [2]float64{15, 40}
	hostNoise   = [2]float64{20, 45}
	serverNoise = [2]float64{40, 80} // a server supply on a break-out board
)

// judgeNoise adds up what makes noise, as powers; a reading at the seat stands for all of
// it.
func judgeNoise(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	allowed, told := rg.Brief.Living.Noise.Get()
	if !told {
		if rig.Is(rg.Brief.Living.Sleeps, true) {
			out.Need(
				r, "/brief/living/noise_db", "how loud it may be where somebody sleeps", "Ask who sleeps there; 25 to 30 dB at the bed is quiet.",
				"whether it can run at night",
			)
		}
		return
	}
	low, high := Noise(rg)
	for i := range rg.LoadReadings {
		if db, read := rg.LoadReadings[i].Noise.Get(); read {
			low, high = db, db
		}
	}
	numbers := finding.Numbers{
		{Name: "noise_low_db", Value: low}, {Name: "noise_high_db", Value: high}, {Name: "allowed_db", Value: allowed},
	}
	switch {
	case low > allowed:
		out.Add(
			r, finding.Risk, "/brief/living/noise_db", numbers,
			"Under load it makes %.0f dB or more at the seat; %.0f dB are allowed there.", low, allowed,
		)
	case high > allowed:
		out.Add(
			r, finding.Note, "/brief/living/noise_db", numbers,
			"Under load it may make up to %.0f dB at the seat; %.0f dB are allowed there.", high, allowed,
		)
	}
}

// Noise is what a rig makes at the seat under load, dB, from the least to the most; 0 for nothing
// that makes any. What is not told is as loud as such parts are (P).
func Noise(r *rig.Rig) (low, high float64) {
	var sum [2]float64
	add := func(f rig.Fact[float64], usual [2]float64) {
		if f.Known {
			usual = [2]float64{f.Value - f.Tolerance, f.Value + f.Tolerance}
		}
		for i, db := range usual {
			sum[i] += math.Pow(10, db/10)
		}
	}
	if r.Host.Name != "" {
		add(r.Host.Noise, hostNoise)
	}
	if r.Card.Name != "" {
		add(r.Card.Noise, cardNoise)
	}
	for i := range r.Supplies {
		kind, told := r.Supplies[i].Kind.Get()
		if quiet := told && (kind == rig.Brick || kind == rig.USBC || kind == rig.Converter); !quiet && r.Supplies[i].Name != r.Host.Supply {
			usual := supplyNoise
			if kind == rig.ServerSupply {
				usual = serverNoise
			}
			add(r.Supplies[i].Noise, usual)
		}
	}
	if sum[0] == 0 {
		return 0, 0
	}
	return 10 * math.Log10(sum[0]), 10 * math.Log10(sum[1])
}

// judgePlugs counts what wants a mains plug: each supply that no lead feeds, and perhaps a
// screen of its own.
func judgePlugs(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	free, told := rg.Brief.Living.Plugs.Get()
	if !told {
		return
	}
	sure := 0
	for i := range rg.Supplies {
		if len(rg.Supplies[i].Inlets) == 0 {
			sure++
		}
	}
	most := sure
	if kind, told := rg.Brief.Screen.Kind.Get(); !told || kind != rig.OwnPanel && kind != rig.NoScreen {
		most++
	}
	numbers := finding.Numbers{{Name: "plugs", Value: float64(sure)}, {Name: "free", Value: float64(free)}}
	switch {
	case sure > free:
		out.Add(
			r, finding.Risk, "/brief/living/mains_plugs", numbers,
			"It takes %d mains plugs; %d are free where it will stand. Use one strip that is made for the load, never one behind another.",
			sure, free,
		)
	case most > free && rg.Supplies != nil:
		out.Add(
			r, finding.Note, "/brief/living/mains_plugs", numbers,
			"It takes %d mains plugs, and perhaps one for a screen; %d are free where it will stand.", sure, free,
		)
	}
}

// judgeCarry holds a rig that is carried about against how long it takes to set up and how
// it is built.
func judgeCarry(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	l := &rg.Brief.Living
	if !rig.Is(l.Carried, true) {
		return
	}
	most, told := l.SetUp.Get()
	takes, timed := rg.Brief.Travel.Minutes.Get()
	switch {
	case told && timed && takes > most:
		out.Add(
			r, finding.Risk, "/brief/living/set_up_most_min",
			finding.Numbers{{Name: "takes_min", Value: takes}, {Name: "most_min", Value: most}},
			"It takes %.0f minutes to set up; %.0f are what somebody is ready for.", takes, most,
		)
	case told && !timed:
		out.Add(
			r, finding.Note, "/brief/living/set_up_most_min", nil,
			"Nobody has timed how long it takes to set up; %.0f minutes are what somebody is ready for.", most,
		)
	}
	if mass, told := rg.Card.Mass.Get(); rg.Chamber.Open && told && mass > heavyToCarry {
		out.Add(
			r, finding.Note, "/brief/living/carried", nil,
			"A card of %v stands in the open and is carried about: take it out for the way, or it works its slot loose.", mass,
		)
	}
}

// heavyToCarry is a card that does not travel in its slot (P).
const heavyToCarry units.Gram = 800
