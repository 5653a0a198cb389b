package fit

import (
	"fmt"
	"math"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeIntake looks before the face of the card's fans.
func judgeIntake(r *finding.Rule, c *Chamber, out *finding.List) {
	if gap, told := c.rig.Chamber.Inlet.Get(); told && !c.Open() && gap < c.ref.IntakeLeast {
		out.Add(r, finding.Risk, "/chamber/inlet_gap_mm", finding.Numbers{
			{Name: "room_mm", Value: float64(gap)}, {Name: "least_mm", Value: float64(c.ref.IntakeLeast)},
		},
			"The case draws its air in with %v before the inlet; it wants %v.", gap, c.ref.IntakeLeast)
	}
	if c.Open() || !c.Placed || !rig.Is(c.rig.Card.Intake, "face") {
		return
	}
	room, name, where, some := c.beforeFace()
	if !some || room < 0 || room >= c.ref.IntakeLeast {
		return
	}
	out.Add(r, finding.Risk, where, finding.Numbers{
		{Name: "room_mm", Value: float64(room)}, {Name: "least_mm", Value: float64(c.ref.IntakeLeast)},
	},
		"The card's fans have %v before them, to %s; they want %v.", room, name, c.ref.IntakeLeast)
}

// beforeFace is the room from the card's face to what is nearest before it.
func (c *Chamber) beforeFace() (room units.Millimetre, name, where string, some bool) {
	axis := c.axes[2]
	see := func(of, at string, distance units.Millimetre) {
		if !some || distance < room {
			room, name, where, some = distance, of, at, true
		}
	}
	if wall := extent3(&c.rig.Chamber.Box)[axis]; wall.Known {
		see(wallNames[2][1], wallPaths[axis], wall.Value-c.Card.Max[axis])
	}
	c.before(axis, func(o ahead) { see(o.name, o.where, o.distance) })
	return room, name, where, some
}

// overlapsAcross reports a box that the card's shadow along an axis falls on.
func (c *Chamber) overlapsAcross(box Box, axis int) bool {
	for i := range box.Min {
		if i != axis && (box.Min[i] >= c.Card.Max[i]-touch || box.Max[i] <= c.Card.Min[i]+touch) {
			return false
		}
	}
	return true
}

// judgeSag: a heavy card that lies flat pulls at its connector.
func judgeSag(r *finding.Rule, c *Chamber, out *finding.List) {
	mass, known := c.rig.Card.Mass.Get()
	upright := c.rig.Chamber.Down.Known && axisOf(c.rig.Chamber.Down) != c.axes[2]
	if c.Open() || c.undescribed() || !known || mass <= c.ref.SagNote || upright || rig.Is(c.rig.Chamber.Support, true) {
		return
	}
	level := finding.Note
	if mass > c.ref.SagRisk {
		level = finding.Risk
	}
	numbers := finding.Numbers{{Name: "mass_g", Value: float64(mass)}}
	if centre, told := c.rig.Card.Centre.Get(); told {
		numbers = append(numbers, finding.Number{Name: "centre_mm", Value: float64(centre)})
		out.Add(
			r, level, "/card/mass_g", numbers,
			"The card weighs %v, %v from its bracket, and hangs on connector and bracket: hold it up there, or further out.", mass,
			centre,
		)
		return
	}
	out.Add(
		r, level, "/card/mass_g", numbers,
		"The card weighs %v and hangs on its connector and bracket: hold it up at its far end.", mass,
	)
}

// earth is what a gram weighs, in newtons.
const earth = 9.81 / 1000

// Tips is the angle at which a rig falls over about the edge of its base: where
// tan θ = (w·b/2 − F·H)/(w·h + F·b/2), w its weight, b its base, h the height of its
// centre of mass, F a pull toward that edge at a height H, which keeps its direction
// in the room. Zero or below, it falls by itself.
func Tips(base, height units.Millimetre, mass units.Gram, pull units.Newton, at units.Millimetre) units.Degree {
	w, half, f := float64(mass)*earth, float64(base)/2, float64(pull)
	return units.Degree(degrees(math.Atan2(w*half-f*float64(at), w*float64(height)+f*half)))
}

// BaseFor is how wide a base must be for a rig to tip at that angle and not before; false
// where a pull turns over any: the same law as Tips, solved for its base.
func BaseFor(angle units.Degree, height units.Millimetre, mass units.Gram, pull units.Newton, at units.Millimetre,
) (units.Millimetre, bool) {
	tan, w, f := math.Tan(float64(angle)*math.Pi/180), float64(mass)*earth, float64(pull)
	if f == 0 {
		return 2 * height * units.Millimetre(tan), true
	}
	if w <= f*tan {
		return 0, false
	}
	return units.Millimetre(2 * (w*float64(height)*tan + f*float64(at)) / (w - f*tan)), true
}

func judgeTip(r *finding.Rule, c *Chamber, out *finding.List) {
	s := &c.rig.Chamber.Stand
	if *s == (rig.Stand{}) {
		return // nobody asked
	}
	pulled := s.Pull.Known && s.Pull.Value > 0
	for _, open := range []struct {
		open              bool
		field, fact, find string
	}{
		{!s.Base.Known, "base_mm", "how wide the base is", ruler},
		{!s.Height.Known, "centre_mm", "how high the centre of mass is", "Balance it on its side on an edge."},
		{pulled && !s.Mass.Known, "mass_g", "what stands there weighs together", "Put it on a kitchen scale."},
		{pulled && !s.PullAt.Known, "pull_at_mm", "how high the cables pull", ruler},
	} {
		if open.open {
			out.Need(r, "/chamber/stand/"+open.field, open.fact, open.find, "whether it tips over")
			return
		}
	}
	angle := Tips(s.Base.Value, s.Height.Value, max(1, s.Mass.Value), s.Pull.Value, s.PullAt.Value)
	if angle >= c.ref.TipLeast {
		return
	}
	out.Add(r, finding.Risk, "/chamber/stand", finding.Numbers{
		{Name: "tip_deg", Value: float64(angle)}, {Name: "least_deg", Value: float64(c.ref.TipLeast)},
	},
		"It tips over at %v; under %v a snagged cable is enough. Widen its base, or tie the cables down.", max(0, angle), c.ref.TipLeast)
}

// judgeAir holds what the case's fans move against what the watts in it need.
func judgeAir(r *finding.Rule, c *Chamber, out *finding.List) {
	air, told := c.airflow()
	if c.Open() || c.undescribed() {
		return
	}
	needed, watts, open := c.AirNeeded()
	_, word := c.returns()
	if !told {
		c.askAir(r, watts, out)
		return
	}
	switch needed.Over(units.Exactly(air)) {
	case units.Always:
		out.Add(r, finding.Risk, "/chamber/airflow_m3_h", finding.Numbers{
			{Name: "needed_m3_h", Value: float64(needed.Low)}, {Name: "airflow_m3_h", Value: float64(air)},
			{Name: "heat_w", Value: float64(watts.Low)},
		},
			"%v in the case need %v of air to leave it %v warmer%s; its fans move %v.", watts.Low, needed.Low, c.rise(), word, air)
	case units.Sometimes:
		out.Need(r, open.where, open.fact, open.find, "how much air the case needs")
	}
}

// warmCase is the heat from which the air of a closed case is asked for, W (P): less leaves
// through its walls and vents by itself.
const warmCase units.Watt = 100

// askAir asks what moves the air of a closed case, where its watts want some, or where its own
// warm air comes back to it.
func (c *Chamber) askAir(r *finding.Rule, watts units.Range[units.Watt], out *finding.List) {
	share, _ := c.returns()
	if !c.rig.Chamber.Box.X.Known || watts.Low < warmCase && share == 0 {
		return
	}
	if !c.around().Known {
		out.Need(r, "/chamber/stands_in", "where the case stands", "Under a desk or in a cupboard its warm air comes back to it.",
			"how much air it needs")
		return
	}
	out.Need(
		r, "/chamber/airflow_m3_h", "how much air the case's fans move", "Add up their papers; behind grilles a third is lost.",
		fmt.Sprintf("whether %v leave the case", watts.Low),
	)
}

// throughGrille is the share of a fan's own air that is left behind grilles (P).
const throughGrille = 2.0 / 3

// airflow is what moves through the case: as told, else by its fans where every one tells.
func (c *Chamber) airflow() (all units.CubicMetrePerHour, told bool) {
	if air, told := c.rig.Chamber.Air.Get(); told {
		return air, true
	}
	for i := range c.rig.Chamber.Fans {
		air, told := c.rig.Chamber.Fans[i].Air.Get()
		if !told {
			return 0, false
		}
		all += throughGrille * air
	}
	return all, len(c.rig.Chamber.Fans) > 0
}

func (c *Chamber) rise() units.Kelvin { return c.rig.Chamber.Rise.Or(units.Kelvin(c.ref.AirRise)) }

// AirNeeded is the air that has to move through the case for the watts in it (reference,
// section 8), the watts, and the fact that leaves them open.
func (c *Chamber) AirNeeded() (needed units.Range[units.CubicMetrePerHour], watts units.Range[units.Watt], open missingFact) {
	watts = wattsOf(c.rig.Card.Lasting(), 0, mostHeat)
	open = missingFact{"/card/power_w", "the card's board power", "Read its papers, or measure it."}
	inside, unsure := c.hostInside()
	if inside != units.Never {
		host := wattsOf(c.rig.Host.Power, 0, mostHeat)
		switch {
		case inside == units.Sometimes:
			host.Low = 0
			if watts.Known() {
				open = missingFact{
					rig.StagePath(unsure) + "/kind",
					"whether " + c.rig.Route.Stages[unsure].Name + " is a dock, which leaves the host outside", "Look at it.",
				}
			}
		case watts.Known() && !host.Known():
			open.where, open.fact = "/host/power_w", "what the host draws"
		}
		watts = watts.Plus(host)
	}
	for i := range c.rig.Route.Stages {
		if s := &c.rig.Route.Stages[i]; inside != units.Never || !rig.Is(s.Kind, rig.Adapter) {
			watts = watts.Plus(c.ref.StageDraw(s))
		}
	}
	returns, _ := c.returns()
	perWatt := c.ref.AirPerWatt / float64(c.rise()) / (1 - returns)
	return units.Between(
		units.CubicMetrePerHour(perWatt*float64(watts.Low)), units.CubicMetrePerHour(perWatt*float64(watts.High)),
	), watts, open
}

// AirWord is in plain words what moves so much air (P).
func AirWord(air units.CubicMetrePerHour) string {
	switch {
	case air <= 15:
		return "open vents may do"
	case air <= 45:
		return "one slow fan does"
	case air <= 90:
		return "two slow fans, or one that is heard"
	default:
		return "several fans, and they are heard"
	}
}

// returns is the share of the warm air that a case takes in again where it stands: that
// share of its air carries nothing away.
func (c *Chamber) returns() (share float64, word string) {
	switch c.around().Value {
	case "under-desk":
		return c.ref.ReturnsDesk, ", a quarter of which comes back to it under a desk"
	case "cupboard":
		return c.ref.ReturnsCupboard, ", half of which comes back to it in a cupboard"
	default:
		return 0, ""
	}
}

// around is where the case stands: as told of it, else of the place where the rig will stand.
func (c *Chamber) around() rig.Fact[rig.Surroundings] {
	if c.rig.Chamber.Around.Known {
		return c.rig.Chamber.Around
	}
	return c.rig.Brief.Living.Air
}

// mostHeat bounds what nobody told, W.
const mostHeat units.Watt = 700

func wattsOf(f rig.Fact[units.Watt], least, most units.Watt) units.Range[units.Watt] {
	if f.Known {
		return rig.Span(f)
	}
	return units.Between(least, most)
}

// hostInside tells whether the card stands in the host's own case: no dock is on its way.
// unsure is the first stage of which nobody knows what it is.
func (c *Chamber) hostInside() (inside units.Certainty, unsure int) {
	inside = units.Always
	for i := range c.rig.Route.Stages {
		switch kind := c.rig.Route.Stages[i].Kind; {
		case rig.Is(kind, rig.Dock):
			return units.Never, i
		case !kind.Known && inside == units.Always:
			inside, unsure = units.Sometimes, i
		}
	}
	return inside, unsure
}
