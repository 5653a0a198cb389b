package assess_test

import (
	"fmt"
	"slices"
	"strings"
)

// ruleCase changes the whole rig and says at which level the rule then speaks;
// "asked by" names the sister rule that asks for the fact in its stead.
type ruleCase struct{ want, why, patch string }

// beam is a thing 10 mm above the card, between 40 and 80 mm from its bracket.
const beam = `{"name":"beam","at":{"x_mm":40,"y_mm":130,"z_mm":0},"size":{"x_mm":40,"y_mm":8,"z_mm":100}}`

// through gives the cable a shell and layers it has to pass.
func through(shell, layers string) string {
	return all(set("/route/stages/1/shell", shell), set("/route/stages/1/openings", "["+layers+"]"))
}

// inCase sets the cable's socket into an opening of the host's case.
func inCase(socket, opening string) string {
	return all(
		set("/route/stages/1/panel_socket", `{"opening":"rear plate",`+socket+`}`), set("/host/openings", `[{"name":"rear plate",`+opening+`}]`),
	)
}

// angle is the outline of an opening with two legs as wide, 40 mm each.
func angle(wide string) string {
	at := func(across, up string) string { return `{"across_mm":` + across + `,"up_mm":` + up + `}` }
	return "[" + strings.Join([]string{at("0", "0"), at("40", "0"), at("40", wide), at(wide, wide), at(wide, "40"), at("0", "40")}, ",") + "]"
}

// raised lets the cable out under the lid.
func raised(thick, by string) string {
	return all(
		set("/route/stages/1/exit", `"raised-cover"`), set("/route/stages/1/thickness_mm", thick),
		set("/chamber/covers/0/raised_mm", by),
	)
}

// laid gives the cable a thickness, and a way over points in one plane.
func laid(thick string, points ...float64) string {
	return all(set("/route/stages/1/thickness_mm", thick), set("/route/stages/1/path", wayOf(points...)))
}

// packed is one piece in a bag of 280 by 100 by 40 mm, which may weigh 1.5 kg.
func packed(long, mass string) string {
	return set(
		"/brief/travel",
		`{"bag_length_mm":280,"bag_width_mm":100,"bag_depth_mm":40,"carries_g":1500,"pieces":[{"name":"dock","length_mm":`+long+
			`,"width_mm":70,"depth_mm":40,"mass_g":`+mass+`}]}`,
	)
}

func wayOf(points ...float64) string {
	path := ""
	for i := 0; i < len(points); i += 2 {
		path += fmt.Sprintf(`,{"x_mm":%g,"y_mm":%g,"z_mm":0}`, points[i], points[i+1])
	}
	return "[" + path[1:] + "]"
}

// hinged and slides give the lid a way.
func hinged(hinge string) string { return set("/chamber/covers/0/hinge", hinge) }

func slides(rail string) string {
	return all(set("/chamber/covers/0/kind", `"slide"`), set("/chamber/covers/0/slide", rail))
}

// made is the card's lead made by oneself: three supply and three ground wires of
// AWG 18, half a metre.
func made(more string) string {
	wires := ""
	for _, pin := range []string{"1", "2", "3", "5", "7", "8"} {
		wires += `,{"from_end":1,"from_pin":` + pin + `,"to_end":1,"to_pin":` + pin + `}`
	}
	return drop("/leads/1") + "," + set(
		"/leads/1",
		`{"name":"of my own","from":[{"part":"main","at":"c1","connector":"card-8"}],"to":[{"part":"card","at":"A","connector":"card-8"}],"gauge_awg":18,"length_mm":500,"wires":[`+wires[1:]+`]`+more+`}`,
	)
}

// ownPlug feeds the dock by a proprietary plug with a map on both sides.
func ownPlug(plug, socket string) string {
	return all(
		dockOn("round", "proprietary", "round", "proprietary"), set("/supplies/1/outlets/7/connector", `"proprietary"`),
		set("/route/stages/2/inlets/3/connector", `"proprietary"`), set("/leads/0/to/0/pins", plug),
		set("/route/stages/2/inlets/3/pins", socket),
	)
}

// ownShell gives the card's lead a plug of its maker's own at the card.
func ownShell(more string) string {
	return set("/leads/1/to/0", `{"part":"card","at":"A","connector":"proprietary",`+more+`}`)
}

// inBay puts the supply into a bay for its form.
var inBay = all(set("/supplies/1/in_bay", "true"), set("/host/supply_bay", `"atx"`))

// bootMoves takes the slot of the boot drive, which goes to a new place.
func bootMoves(to string) string {
	return all(
		set("/route/slot", `"m2-b"`), set("/host/drives/0/reads_gb_s", "2.9"),
		set("/route/displaced", `[`+strings.Replace(to, "{", `{"occupant":"boot drive",`, 1)+`]`),
	)
}

// ruleCases hold every rule just inside and just beyond its limit, and with the
// fact it needs unknown.
// openAir stands the card in the open; threeTimes are runs that show it three times as fast
// as before.
var (
	openAir    = set("/chamber/open", "true")
	threeTimes = set(
		"/runs",
		`[{"name":"a","side":"before","average_hz":30,"use":"stacking"},{"name":"b","side":"after","average_hz":90,"use":"stacking"}]`,
	)
)

// casesOf are the cases of one rule.
type casesOf struct {
	rule  string
	cases []ruleCase
}

// ruleCases are those of all rules, in the order of the work.
var ruleCases = slices.Concat(routeCases, powerCases, fitCases, briefCases)
