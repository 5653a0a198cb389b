package assess_test

import (
	"fmt"
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

// raised lets the cable out under the lid.
func raised(thick, by string) string {
	return all(set("/route/stages/1/exit", `"raised-cover"`), set("/route/stages/1/thickness_mm", thick), set("/chamber/covers/0/raised_mm", by))
}

// laid gives the cable a thickness, and a way over points in one plane.
func laid(thick string, points ...float64) string {
	return all(set("/route/stages/1/thickness_mm", thick), set("/route/stages/1/path", wayOf(points...)))
}

// packed is one piece in a bag of 280 by 100 by 40 mm, which may weigh 1.5 kg.
func packed(long, mass string) string {
	return set("/brief/travel", `{"bag_length_mm":280,"bag_width_mm":100,"bag_depth_mm":40,"carries_g":1500,"pieces":[{"name":"dock","length_mm":`+long+`,"width_mm":70,"depth_mm":40,"mass_g":`+mass+`}]}`)
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
	return drop("/leads/1") + "," + set("/leads/1", `{"name":"of my own","from":[{"part":"main","at":"c1","connector":"card-8"}],"to":[{"part":"card","at":"A","connector":"card-8"}],"gauge_awg":18,"length_mm":500,"wires":[`+wires[1:]+`]`+more+`}`)
}

// ownPlug feeds the dock by a proprietary plug with a map on both sides.
func ownPlug(plug, socket string) string {
	return all(dockOn("round", "proprietary", "round", "proprietary"), set("/supplies/1/outlets/7/connector", `"proprietary"`), set("/route/stages/2/inlets/3/connector", `"proprietary"`), set("/leads/0/to/0/pins", plug), set("/route/stages/2/inlets/3/pins", socket))
}

// ownShell gives the card's lead a plug of its maker's own at the card.
func ownShell(more string) string {
	return set("/leads/1/to/0", `{"part":"card","at":"A","connector":"proprietary",`+more+`}`)
}

// inBay puts the supply into a bay for its form.
var inBay = all(set("/supplies/1/in_bay", "true"), set("/host/supply_bay", `"atx"`))

// bootMoves takes the slot of the boot drive, which goes to a new place.
func bootMoves(to string) string {
	return all(set("/route/slot", `"m2-b"`), set("/host/drives/0/reads_gb_s", "2.9"), set("/route/displaced", `[`+strings.Replace(to, "{", `{"occupant":"boot drive",`, 1)+`]`))
}

// ruleCases hold every rule just inside and just beyond its limit, and with the
// fact it needs unknown.
// openAir stands the card in the open; threeTimes are runs that show it three times as fast
// as before.
var (
	openAir    = set("/chamber/open", "true")
	threeTimes = set("/runs", `[{"name":"a","side":"before","average_hz":30,"use":"stacking"},{"name":"b","side":"after","average_hz":90,"use":"stacking"}]`)
)

var ruleCases = []struct {
	rule  string
	cases []ruleCase
}{
	{"link.no-pcie", []ruleCase{
		{"blocked", "SATA only", set("/host/slots/0/carries", `["sata"]`)},
		{"blocked", "the look-alike of mini PCIe", set("/host/slots/0/form", `"msata"`)},
		{"blocked", "no lane wired", set("/host/slots/0/lanes", "0")},
		{"quiet", "SATA beside PCIe", set("/host/slots/0/carries", `["sata","pcie"]`)},
		{"unknown", "nobody looked", drop("/host/slots/0/carries")},
		{"unknown", "no slot chosen", drop("/route/slot")},
		{"blocked", "a cable that wires no lane", set("/route/stages/1/lanes", "0")},
	}},
	{"link.form-mismatch", []ruleCase{
		{"blocked", "another key", set("/host/slots/0/key", `"E"`)},
		{"blocked", "another form", set("/host/slots/0/form", `"mini-pcie"`)},
		{"blocked", "closed slot, longer edge",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "false"))},
		{"blocked", "made for another host", set("/route/stages/0/made_for", `["Alcove 24"]`)},
		{"quiet", "made for this host among others", all(set("/host/name", `"Cairn Small Desk"`), set("/route/stages/0/made_for", `["Alcove 24", "cairn small desk"]`))},
		{"blocked", "eight-lane cable, four-lane socket", set("/route/stages/1/plug/lanes", "8")},
		{"quiet", "open end",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "true"))},
		{"quiet", "B+M module in an M slot", set("/route/stages/0/plug/key", `"B+M"`)},
		{"unknown", "is the end open?",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"))},
		{"unknown", "plug not seen", drop("/route/stages/0/plug")},
		{"blocked", "a card of eight lanes in a slot of four, its edge not told", all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "false"), set("/card/lanes", "8"), drop("/card/edge_lanes"))},
		{"unknown", "a card of four lanes in a slot of four, its edge not told", all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "false"), drop("/card/edge_lanes"))},
		{"quiet", "an edge exactly as long as its slot", all(hostSlot, set("/host/slots/3/lanes_mechanical", "8"), set("/host/slots/3/open_end", "false"), set("/card/edge_lanes", "8"))},
		{"unknown", "the size of an OCuLink plug at a socket of four lanes", drop("/route/stages/1/plug/lanes")},
	}},
	{"link.module-length", []ruleCase{
		{"blocked", "80 mm in a slot for 60", all(set("/host/slots/0/length_mm", "60"), set("/route/stages/0/module_mm", "80"))},
		{"blocked", "42 mm, and no stand-off there", all(set("/host/slots/0/length_mm", "80"), set("/host/slots/0/stand_offs", `["60","80"]`), set("/route/stages/0/module_mm", "42"))},
		{"risk", "it may be cut", all(set("/host/slots/0/length_mm", "60"), set("/route/stages/0/module_mm", "80"), set("/route/stages/0/may_be_cut", "true"))},
		{"quiet", "as long as the slot", all(set("/host/slots/0/length_mm", "80"), set("/route/stages/0/module_mm", "80"))},
		{"quiet", "42 mm on a stand-off", all(set("/host/slots/0/length_mm", "80"), set("/host/slots/0/stand_offs", `["42","80"]`), set("/route/stages/0/module_mm", "42"))},
		{"unknown", "how long the slot is", set("/route/stages/0/module_mm", "80")},
		{"unknown", "where stand-offs are", all(set("/host/slots/0/length_mm", "80"), set("/route/stages/0/module_mm", "42"))},
	}},
	{"link.sideband", []ruleCase{
		{"blocked", "no clock", set("/route/stages/1/carries_clock", "false")},
		{"blocked", "no reset", set("/route/stages/2/carries_reset", "false")},
		{"blocked", "nothing straps clock-request", all(set("/route/stages/0/straps_clkreq", "false"), set("/route/stages/1/straps_clkreq", "false"), set("/route/stages/2/straps_clkreq", "false"))},
		{"quiet", "one of three straps it", all(set("/route/stages/0/straps_clkreq", "false"), set("/route/stages/1/straps_clkreq", "false"), set("/route/stages/2/straps_clkreq", "true"))},
		{"unknown", "two do not, of one nobody knows", all(set("/route/stages/0/straps_clkreq", "false"), set("/route/stages/1/straps_clkreq", "false"))},
	}},
	{"link.margin", []ruleCase{
		{"note", "+3.3 dB over 640 mm of twinax", set("/route/stages/1/length_mm", "640")},
		{"risk", "+2.6 dB over 740 mm", set("/route/stages/1/length_mm", "740")},
		{"risk", "a metre of video-style cable at Gen 3, +2.9 dB", all(set("/route/stages/1/line", `"video-cable"`), set("/route/stages/1/length_mm", "1000"), set("/route/forced_generation", "3"))},
		{"blocked", "two metres of flat ribbon: not even Gen 1", all(set("/route/stages/1/line", `"flat-ribbon"`), set("/route/stages/1/length_mm", "2500"))},
		{"blocked", "forced to Gen 4 at -9 dB", all(set("/route/stages/1/length_mm", "2400"), set("/route/forced_generation", "4"))},
		{"quiet", "a retimer half way", all(set("/route/stages/1/length_mm", "740"), set("/route/stages/2/repeats", `"retimer"`))},
		{"quiet", "a redriver", all(set("/route/stages/1/length_mm", "740"), set("/route/stages/2/repeats", `"redriver"`))},
		{"quiet", "it was seen to be stable", all(set("/route/stages/1/length_mm", "500"), set("/route/tried", `[{"generation":4,"stable":true}]`))},
		{"risk", "it was seen to fail", set("/route/tried", `[{"generation":4,"stable":false}]`)},
		{"unknown", "how far the slot is, at the end of what 450 mm of cable leaves", all(drop("/host/slots/0/trace_mm"), set("/route/stages/1/length_mm", "450"))},
	}},
	{"link.shared-lanes", []ruleCase{
		{"note", "from a bay", set("/host/slots/0/shares_lanes_with", `"the drive bay"`)},
		{"note", "with an empty slot, said at the other", all(set("/host/slots/1/shares_lanes_with", `"m2-a"`), set("/host/slots/1/occupant", `"none"`))},
		{"risk", "with the slot the drive sits in", all(set("/host/slots/0/shares_lanes_with", `"m2-b"`), set("/host/slots/1/occupant", `"boot drive"`))},
		{"risk", "with the slot a drive is to move to", all(set("/host/slots/0/shares_lanes_with", `"m2-b"`), set("/host/slots/0/occupant", `"data drive"`), set("/host/slots/1/occupant", `"none"`), set("/route/displaced", `[{"occupant":"data drive","home":"slot","slot":"m2-b"}]`))},
		{"quiet", "with none", set("/host/slots/0/shares_lanes_with", `"none"`)},
		{"unknown", "what sits there", all(set("/host/slots/0/shares_lanes_with", `"m2-b"`), drop("/host/slots/1/occupant"))},
	}},
	{"link.shared-uplink", []ruleCase{
		{"note", "the card alone behind Gen 4 x8", all(set("/host/slots/0/behind", `"chipset"`), set("/host/uplink", `{"lanes":8,"generation":4}`))},
		{"risk", "6.43 GB/s behind Gen 3 x4", all(set("/host/slots/0/behind", `"chipset"`), set("/host/uplink", `{"lanes":4,"generation":3}`))},
		{"risk", "a displaced drive beside the card", all(set("/host/slots/0/behind", `"chipset"`), set("/host/slots/0/generation", "3"), set("/host/uplink", `{"lanes":4,"generation":3}`), set("/host/slots/0/occupant", `"data drive"`), set("/host/drives/1/reads_gb_s", "0.5"), set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay"}]`))},
		{"quiet", "behind the processor", set("/host/slots/0/behind", `"processor"`)},
		{"unknown", "the uplink", set("/host/slots/0/behind", `"chipset"`)},
	}},
	{"link.loopback", []ruleCase{
		{"note", "0.498 of 6.43 GB/s", all(set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`), set("/host/copies_frames", "true"), set("/host/graphics", `"integrated"`))},
		{"risk", "0.498 of 0.81 GB/s", all(set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`), set("/host/copies_frames", "true"), set("/host/graphics", `"integrated"`), set("/host/slots/0/lanes", "1"), set("/route/forced_generation", "3"))},
		{"quiet", "an external screen", set("/brief/screen", `{"kind":"external"}`)},
		{"unknown", "its pixels", set("/brief/screen", `{"kind":"own-panel"}`)},
	}},
	{"link.measured", []ruleCase{
		{"risk", "Gen 2 under load", set("/route/readings", `[{"width":4,"generation":2,"load":"loaded"}]`)},
		{"risk", "one lane, also at idle", set("/route/readings", `[{"width":1,"generation":4,"load":"idle"}]`)},
		{"note", "Gen 1 at idle", set("/route/readings", `[{"width":4,"generation":1,"load":"idle"}]`)},
		{"quiet", "as planned", set("/route/readings", `[{"width":4,"generation":4,"load":"loaded"}]`)},
		{"unknown", "loaded or idle", set("/route/readings", `[{"width":4,"generation":1}]`)},
	}},
	{"link.errors", []ruleCase{
		{"risk", "3 in a second: at least 9.7e-12", set("/route/readings", `[{"errors":3,"seconds":1}]`)},
		{"note", "1 in ten seconds: 1.6e-12, at least 4e-14", set("/route/readings", `[{"errors":1,"seconds":10}]`)},
		{"quiet", "none in a minute", set("/route/readings", `[{"errors":0,"seconds":60}]`)},
		{"unknown", "over how long", set("/route/readings", `[{"errors":3}]`)},
	}},
	{"link.cold-plug", []ruleCase{
		{"note", "any route over stages", set("/name", `"any"`)},
		{"quiet", "the card in the host's own slot", hostSlot},
		{"else note", "stages nobody described", set("/route/stages/0", `{"name":"something"}`)},
	}},
	{"gate.soldered", []ruleCase{
		{"blocked", "solder", all(set("/route/slot", `"m2-e"`), set("/host/slots/2/occupant_fixed", `"soldered"`))},
		{"quiet", "a screw", set("/route/slot", `"m2-e"`)},
		{"unknown", "nobody looked", all(set("/route/slot", `"m2-e"`), drop("/host/slots/2/occupant_fixed"))},
	}},
	{"gate.allow-list", []ruleCase{
		{"blocked", "its own alone", all(set("/route/slot", `"m2-e"`), set("/host/firmware", `{"allow_list":true}`))},
		{"quiet", "any card", all(set("/route/slot", `"m2-e"`), set("/host/firmware", `{"allow_list":false}`))},
		{"quiet", "no wireless slot", set("/host/firmware", `{"allow_list":true}`)},
		{"unknown", "nobody tried", set("/route/slot", `"m2-e"`)},
	}},
	{"gate.discrete-active", []ruleCase{
		{"risk", "on", all(set("/host/graphics", `"discrete"`), set("/host/firmware", `{"discrete_off":false}`))},
		{"quiet", "off", all(set("/host/graphics", `"discrete"`), set("/host/firmware", `{"discrete_off":true}`))},
		{"unknown", "nobody looked", set("/host/graphics", `"discrete"`)},
	}},
	{"gate.address-space", []ruleCase{
		{"risk", "16 GiB", all(set("/card/window_gib", "16"), set("/host/firmware", `{"large_addresses":false}`))},
		{"quiet", "a quarter of a GiB", all(set("/card/window_gib", "0.25"), set("/host/firmware", `{"large_addresses":false}`))},
		{"unknown", "the firmware", set("/card/window_gib", "16")},
		{"unknown", "the window, on a host without room", all(drop("/card/window_gib"), set("/host/firmware", `{"large_addresses":false}`))},
		{"unknown", "neither", drop("/card/window_gib")},
		{"quiet", "neither, and no memory to need it", all(drop("/card/window_gib"), set("/card/memory_gib", "1"))},
		{"quiet", "exactly as much as fits", all(set("/card/window_gib", "1"), set("/host/firmware", `{"large_addresses":false}`))},
		{"quiet", "a window nobody told, on a host with room", all(drop("/card/window_gib"), set("/host/firmware", `{"large_addresses":true}`))},
	}},
	{"gate.disk-mode", []ruleCase{
		{"risk", "bundled", set("/host/firmware", `{"disk_mode":"bundled"}`)},
		{"quiet", "plain", set("/host/firmware", `{"disk_mode":"plain"}`)},
		{"else quiet", "not told: plain", set("/host/firmware", `{}`)},
	}},
	{"gate.legacy-start", []ruleCase{
		{"risk", "UEFI alone, a legacy card", all(set("/host/firmware", `{"start_modes":["uefi"]}`), set("/card/start_modes", `["legacy"]`))},
		{"quiet", "both have UEFI", all(set("/host/firmware", `{"start_modes":["uefi"]}`), set("/card/start_modes", `["legacy","uefi"]`))},
		{"unknown", "the card's", all(drop("/card/start_modes"), set("/host/firmware", `{"start_modes":["uefi"]}`))},
		{"unknown", "the host's", set("/card/start_modes", `["legacy"]`)},
		{"unknown", "neither", drop("/card/start_modes")},
		{"quiet", "a host that starts both ways", all(drop("/card/start_modes"), set("/host/firmware", `{"start_modes":["legacy","uefi"]}`))},
	}},
	{"gate.driver", []ruleCase{
		{"risk", "dropped by the system", set("/card/driver", `"too-new"`)},
		{"quiet", "fine", set("/card/driver", `"fine"`)},
		{"unknown", "a single-board host", set("/host/kind", `"single-board"`)},
	}},
	{"gate.firmware-change", []ruleCase{
		{"risk", "a changed firmware", set("/route/modified_firmware", "true")},
		{"blocked", "nothing permanent", all(set("/route/modified_firmware", "true"), set("/brief/stance", `"nothing-permanent"`))},
		{"quiet", "none needed", set("/route/modified_firmware", "false")},
		{"else quiet", "not told: none", set("/brief/stance", `"nothing-permanent"`)},
	}},
	{"gate.listing", []ruleCase{
		{"risk", "Gen 4 listed, Gen 3 found", set("/host/slots/1/listed_generation", "4")},
		{"note", "8 GiB listed, 16 found", all(set("/host/listed", `{"memory_gib":8}`), set("/host/memory_gib", "16"))},
		{"risk", "two drives listed, one found", all(set("/host/listed", `{"drives":2}`), drop("/host/drives/1"))},
		{"quiet", "as many drives as listed", set("/host/listed", `{"drives":2}`)},
		{"risk", "said to work, and a hinge is broken", all(set("/host/listed", `{"works":true}`), set("/host/condition", `[{"name":"hinge","state":"broken"}]`))},
		{"risk", "a caddy listed, and missing", all(set("/host/listed", `{"parts_in_box":["caddy"]}`), set("/host/condition", `[{"name":"Caddy","state":"missing"}]`))},
		{"quiet", "a caddy that nobody listed is missing", set("/host/condition", `[{"name":"Caddy","state":"missing"}]`)},
		{"risk", "its supply listed, and none found", all(set("/host/listed", `{"supply_in_box":true}`), drop("/host/supply"))},
		{"quiet", "as listed", set("/host/slots/1/listed_generation", "3")},
		{"unknown", "a generation from hearsay", set("/host/slots/0/generation", `{"value":4,"source":"hearsay"}`)},
	}},
	{"boot.slow", []ruleCase{
		{"note", "2.9 before, 1 GB/s now", bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`)},
		{"risk", "a memory card", bootMoves(`{"home":"memory-card","bootable":true,"proven":true}`)},
		{"risk", "USB 2", bootMoves(`{"home":"usb","usb_gbit_s":0.48,"bootable":true,"proven":true}`)},
		{"risk", "190 MB/s", bootMoves(`{"home":"sata-bay","reads_gb_s":0.19,"bootable":true,"proven":true}`)},
		{"quiet", "another slot", bootMoves(`{"home":"slot","slot":"m2-a","proven":true}`)},
		{"unknown", "which USB port", bootMoves(`{"home":"usb","bootable":true,"proven":true}`)},
		{"risk", "the drive that takes over reads 150 MB/s", all(set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/host/drives/1/reads_gb_s", "0.15"))},
		{"quiet", "exactly 200 MB/s, which is as fast as before", all(set("/route/slot", `"m2-b"`), set("/host/drives/0/reads_gb_s", "0.2"), set("/host/drives/1/boots", "true"), set("/host/drives/1/reads_gb_s", "0.2"))},
	}},
	{"boot.capacity", []ruleCase{
		{"risk", "64 GB for 100", all(bootMoves(`{"home":"memory-card","capacity_gb":64,"bootable":true,"proven":true}`), set("/host/system_needs_gb", "40"), set("/brief/works/0/storage_gb", "60"))},
		{"quiet", "the drive itself moves", all(bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/host/drives/0/capacity_gb", "512"), set("/host/system_needs_gb", "40"))},
		{"unknown", "what the card holds", all(bootMoves(`{"home":"memory-card","bootable":true,"proven":true}`), set("/host/system_needs_gb", "40"))},
		{"risk", "the drive that takes over holds 64 GB for 100", all(set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/host/drives/1/capacity_gb", "64"), set("/host/system_needs_gb", "100"))},
	}},
	{"boot.proven", []ruleCase{
		{"quiet", "seen", bootMoves(`{"home":"slot","slot":"m2-a","proven":true}`)},
		{"unknown", "not yet seen", bootMoves(`{"home":"slot","slot":"m2-a"}`)},
	}},
	{"boot.shared", []ruleCase{
		{"risk", "system and stacking on one", all(bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/brief/works/0/on", `"boot drive"`))},
		{"quiet", "kept on the other drive", all(bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/brief/works/0/on", `"data drive"`))},
		{"else quiet", "nothing is said to be kept", bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`)},
	}},
	{"screen.path", []ruleCase{
		{"blocked", "own panel, no graphics", all(set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`), set("/host/graphics", `"none"`))},
		{"blocked", "own panel, frames are not copied", all(set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`), set("/host/graphics", `"integrated"`), set("/host/copies_frames", "false"))},
		{"blocked", "no socket in common", all(set("/brief/screen", `{"kind":"external","inputs":["panel socket"],"adapter":false}`), set("/card/outputs", `["port 1"]`))},
		{"blocked", "a dead panel and nothing else", all(set("/brief/screen", `{"kind":"external"}`), set("/host/panel", `"dead"`), set("/host/screens", "[]"))},
		{"quiet", "port in port", all(set("/brief/screen", `{"kind":"external","inputs":["Port"]}`), set("/card/outputs", `["port 1"]`))},
		{"quiet", "an adapter", all(set("/brief/screen", `{"kind":"panel-input","inputs":["panel socket"],"adapter":true}`), set("/card/outputs", `["port 1"]`))},
		{"unknown", "which sockets the screen has", all(set("/brief/screen", `{"kind":"external"}`), set("/card/outputs", `["port 1"]`))},
		{"unknown", "does the driver copy frames?", all(set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`), set("/host/graphics", `"integrated"`))},
	}},
	{"work.refused", []ruleCase{
		{"risk", "a system on USB", all(bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/brief/works/0/refuses", `["system-on-usb"]`))},
		{"risk", "this way of joining a card", set("/brief/works/0/refuses", `["this-way"]`)},
		{"quiet", "it starts from a slot", set("/brief/works/0/refuses", `["system-on-usb"]`)},
		{"else quiet", "not told: it rejects nothing", drop("/brief/works/0/encoder")},
	}},
	{"link.width", []ruleCase{
		{"note", "slot narrower than the card", set("/card/lanes", "16")},
		{"risk", "the route loses lanes", set("/route/stages/1/lanes", "2")},
		{"risk", "a wide card under 1.6 GB/s",
			all(set("/card/lanes", "8"), set("/host/slots/0/generation", "1"))},
		{"note", "a wide card just over 1.6 GB/s",
			all(set("/card/lanes", "8"), set("/host/slots/0/generation", "2"))},
		{"quiet", "five wired, four used", set("/host/slots/0/lanes", "5")},
		{"unknown", "cable not counted", drop("/route/stages/1/lanes")},
	}},
	{"link.speed", []ruleCase{
		{"note", "older slot", set("/host/slots/0/generation", "3")},
		{"note", "forced down", set("/route/forced_generation", "2")},
		{"quiet", "faster slot", set("/host/slots/0/generation", "5")},
		{"unknown", "slot's generation", drop("/host/slots/0/generation")},
	}},
	{"link.narrow-card", []ruleCase{
		{"note", "four of sixteen lanes, a generation older", hostSlot},
		{"risk", "under 2 GB/s",
			all(hostSlot, set("/host/slots/3/generation", "2"))},
		{"quiet", "as old as the link",
			all(hostSlot, set("/card/generation", "3"))},
		{"quiet", "as many lanes as are wired", set("/host/slots/0/generation", "3")},
		{"asked by link.width", "the card's lanes", all(hostSlot, drop("/card/lanes"))},
	}},
	{"link.two-lanes", []ruleCase{
		{"note", "until it is known", set("/host/slots/0/lanes", "2")},
		{"quiet", "known to do two",
			all(set("/host/slots/0/lanes", "2"), set("/card/trains_x2", "true"))},
		{"asked by link.width", "lanes of the slot", drop("/host/slots/0/lanes")},
	}},
	{"link.tunnel", []ruleCase{
		{"note", "a port of the 20 class", tunnel(set("/host/slots/0/tunnel_gbit_s", "20"))},
		{"quiet", "no tunnel", set("/host/slots/0/tunnel_gbit_s", "20")},
		{"quiet", "a look-alike for pictures", tunnel(set("/host/slots/0/carries", `["video"]`))},
		{"unknown", "its class", tunnel(set("/card/lanes", "8"))},
		{"unknown", "how new its controller is", tunnel(set("/host/slots/0/tunnel_gbit_s", "40"))},
	}},
	{"boot.displaced", []ruleCase{
		{"blocked", "boot drive leaves for nowhere", set("/route/slot", `"m2-b"`)},
		{"blocked", "its new home is in use",
			all(
				set("/route/slot", `"m2-b"`),
				set("/host/slots/0/occupant", `"data drive"`),
				set("/route/displaced", `[{"occupant":"boot drive","home":"slot","slot":"m2-a"}]`),
			)},
		{"quiet", "a bootable slot takes it",
			all(
				set("/route/slot", `"m2-b"`),
				set("/route/displaced", `[{"occupant":"boot drive","home":"slot","slot":"m2-a"}]`),
			)},
		{"quiet", "another drive boots",
			all(set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"))},
		{"unknown", "would it start from USB?",
			all(set("/route/slot", `"m2-b"`), set("/route/displaced", `[{"occupant":"boot drive","home":"usb"}]`))},
		{"blocked", "both drives that start the system leave", all(set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/host/slots/0/occupant", `"data drive"`), set("/route/displaced", `[{"occupant":"boot drive","home":"none"},{"occupant":"data drive","home":"none"}]`))},
		{"quiet", "one of both starts from its new place", all(set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/route/displaced", `[{"occupant":"boot drive","home":"none"},{"occupant":"data drive","home":"usb","bootable":true}]`))},
		{"unknown", "whether the drive that stays could start it", all(set("/route/slot", `"m2-b"`), drop("/host/drives/1/boots"))},
	}},
	{"net.displaced", []ruleCase{
		{"risk", "wireless leaves, wire not used", set("/route/slot", `"m2-e"`)},
		{"quiet", "a wire is used",
			all(set("/route/slot", `"m2-e"`), set("/host/networks/1/used", "true"))},
		{"quiet", "it goes to USB",
			all(set("/route/slot", `"m2-e"`), set("/route/displaced", `[{"occupant":"wireless card","home":"usb"}]`))},
		{"unknown", "is the wire used?",
			all(set("/route/slot", `"m2-e"`), drop("/host/networks/1/used"))},
	}},
	{"power.unfed", []ruleCase{
		{"blocked", "card plug", drop("/leads/1")},
		{"blocked", "dock", drop("/leads/0")},
		{"blocked", "host", drop("/host/supply")},
		{"blocked", "a plug that does not enter", dockOn("d1", "disk-15", "in", "disk-15")},
		{"blocked", "an M.2 slot feeds no card",
			all(set("/route/stages", "[]"), set("/leads", "[]"))},
		{"quiet", "the card slot of the host feeds it", hostSlot},
		{"unknown", "is the last stage a dock?",
			all(drop("/route/stages/2/kind"), drop("/route/stages/2/inlets"), set("/leads", "[]"), set("/card/plugs", "[]"))},
		{"unknown", "nothing said of supplies",
			all(drop("/supplies"), drop("/leads"), drop("/host/supply"))},
	}},
	{"power.pins", []ruleCase{
		{"danger", "a wire of one's own from supply to ground", all(made(`,"fuse_a":15`), set("/leads/1/wires/3", `{"from_end":1,"from_pin":1,"to_end":1,"to_pin":5}`))},
		{"blocked", "a wire of one's own to a pin that is not there", all(made(`,"fuse_a":15`), set("/leads/1/wires/3", `{"from_end":1,"from_pin":9,"to_end":1,"to_pin":5}`))},
		{"blocked", "no ground among the wires", all(made(`,"fuse_a":15`), set("/leads/1/wires", `[{"from_end":1,"from_pin":1,"to_end":1,"to_pin":1}]`))},
		{"quiet", "wired as it should be", made(`,"fuse_a":15`)},
		{"danger", "maps of a proprietary plug and socket that do not agree", ownPlug(`[{"carries":"supply"},{"carries":"ground"}]`, `[{"carries":"ground"},{"carries":"supply"}]`)},
		{"unknown", "a wire from a proprietary plug that nobody read", all(made(""), set("/leads/1/from/0/connector", `"proprietary"`), set("/supplies/1/outlets/3/connector", `"proprietary"`))},
		{"danger", "the look-alike eight-pin",
			all(
				set("/leads/1/from/0/at", `"cpu"`),
				set("/leads/1/from/0/connector", `"cpu-8"`),
				set("/leads/1/to/0/connector", `"cpu-8"`),
			)},
		{"risk", "six-pin in eight leaves sense open", set("/leads/1/to/0/connector", `"card-6"`)},
		{"quiet", "like in like", boardPower("120")},
		{"unknown", "a lead from the look-alike that nobody described",
			all(set("/leads/1/from/0/at", `"cpu"`), drop("/leads/1/from/0/connector"), drop("/leads/1/to/0/connector"))},
		{"unknown", "a processor lead into a card plug that nobody described", all(set("/leads/1/from/0/at", `"cpu"`), drop("/leads/1/from/0/connector"), drop("/leads/1/to/0/connector"), drop("/card/plugs/0/connector"))},
		{"danger", "a map in the shell of a card 8-pin with ground on its first pin", ownShell(`"shell":"card-8","pins":[{"carries":"ground"}]`)},
		{"quiet", "a map in that shell that agrees", ownShell(`"shell":"card-8","pins":[{"carries":"supply"},{"carries":"supply"},{"carries":"supply"},{"carries":"sense"},{"carries":"ground"}]`)},
		{"danger", "5 V standby where 12 V standby is told", ownPlug(`[{"carries":"standby","reads_v":5}]`, `[{"carries":"standby","reads_v":12}]`)},
	}},
	{"power.card", []ruleCase{
		{"danger", "75 + 150 W exceeded", boardPower("226")},
		{"quiet", "exactly 225 W", boardPower("225")},
		{"danger", "a sensor showed 226", set("/load_readings", `[{"card_w":226}]`)},
		{"danger", "a sensor showed 226 during a run", set("/runs", `[{"name":"a","side":"after","card_w":226}]`)},
		{"quiet", "another card took 226 before", set("/runs", `[{"name":"a","side":"before","card_w":226}]`)},
		{"asked by power.connector", "board power", drop("/card/power_w")},
	}},
	{"power.slot-limit", []ruleCase{
		{"danger", "66 W from a disk plug's 54, 1.22 times", dockOn("d1", "disk-15", "in 2", "disk-15")},
		{"blocked", "76 W of a card without plugs from 75",
			all(hostSlot, boardPower("76"))},
		{"danger", "75 W from a stated 50",
			all(hostSlot, boardPower("75"), set("/host/slots/3/power_limit_w", "50"))},
		{"blocked", "30 W from a slot of eight lanes",
			all(
				hostSlot,
				boardPower("30"),
				set("/host/slots/3/lanes_mechanical", "8"),
				drop("/host/slots/3/power_limit_w"),
			)},
		{"quiet", "25 W from a slot of eight lanes",
			all(
				hostSlot,
				boardPower("25"),
				set("/host/slots/3/lanes_mechanical", "8"),
				drop("/host/slots/3/power_limit_w"),
			)},
		{"unknown", "26 W from a slot with all lanes wired, its length not told",
			all(hostSlot, boardPower("26"), drop("/host/slots/3/power_limit_w"), drop("/host/slots/3/lanes_mechanical"))},
		{"quiet", "25 W from a long slot of unknown limit",
			all(hostSlot, boardPower("25"), drop("/host/slots/3/power_limit_w"))},
		{"unknown", "26 W from a long slot of unknown limit",
			all(hostSlot, boardPower("26"), drop("/host/slots/3/power_limit_w"))},
		{"quiet", "exactly what a stated limit allows", all(hostSlot, boardPower("50"), set("/host/slots/3/power_limit_w", "50"))},
	}},
	{"power.connector", []ruleCase{
		{"danger", "66 W through a disk plug", dockOn("d1", "disk-15", "in 2", "disk-15")},
		{"risk", "84 W planned for, 85 asked",
			all(
				dockOn("p1", "peripheral-4", "in", "peripheral-4"),
				set("/route/stages/2/outlets", `[{"name":"o","connector":"card-8"}]`),
				set("/leads/1/from", `[{"part":"dock","at":"o"}]`),
				boardPower("85"),
			)},
		{"quiet", "66 W through a peripheral plug", dockOn("p1", "peripheral-4", "in", "peripheral-4")},
		{"risk", "5.5 A through a barrel that states nothing", dockOn("round", "barrel", "round", "barrel")},
		{"quiet", "6.4 A through a barrel made for 7",
			all(
				dockOn("round", "barrel", "round", "barrel"),
				set("/route/stages/2/inlets/3/current_a", "7"),
				set("/supplies/1/outlets/7/current_a", "7"),
			)},
		{"unknown", "does the dock make its 3.3 V? 66 of 75 W, or 77",
			all(
				dockOn("d1", "card-8", "in 6", "card-6"),
				set("/leads/0/from/0/at", `"c2"`),
				drop("/route/stages/2/makes_3v3_from_12v"),
			)},
		{"quiet", "its 3.3 V cannot matter: the card takes 70 W in all",
			all(dockOn("c2", "card-8", "in 6", "card-6"), drop("/route/stages/2/makes_3v3_from_12v"), boardPower("70"))},
		{"unknown", "board power", drop("/card/power_w")},
		{"danger", "5.5 A through an extension whose free end states 2", all(set("/route/stages/2/inlets/3/current_a", "10"), set("/supplies/1/outlets/7/current_a", "10"), set("/leads/0", `{"name":"ext","from":[{"part":"main","at":"round","connector":"barrel"}],"to":[{"at":"free","connector":"barrel","current_a":2}]}`), set("/leads/-", `{"name":"dc","from":[{"part":"ext","at":"free","connector":"barrel"}],"to":[{"part":"dock","at":"round","connector":"barrel"}]}`))},
		{"quiet", "6.4 A through a barrel printed with 6.36", all(dockOn("round", "barrel", "round", "barrel"), set("/route/stages/2/inlets/3/current_a", "6.36"), set("/supplies/1/outlets/7/current_a", "6.36"))},
		{"unknown", "an eight-pin at an inlet that nobody described", all(dockOn("c2", "card-8", "in 6", "card-6"), set("/leads/0/to/0/connector", `"card-8"`), drop("/route/stages/2/inlets/2/connector"))},
		{"quiet", "what hangs on a lead that is plugged into nothing", all(dockOn("round", "barrel", "round", "barrel"), set("/leads/0/from", `[{"connector":"barrel"}]`))},
		{"unknown", "6.4 A through a plug of its maker's own that states nothing", ownPlug(`[{"carries":"supply"},{"carries":"ground"}]`, `[{"carries":"supply"},{"carries":"ground"}]`)},
	}},
	{"power.lead", []ruleCase{
		{"danger", "115 W from one disk plug",
			all(set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`), boardPower("160"))},
		{"risk", "50 W asked, 150 promised, 54 there",
			all(set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`), boardPower("95"))},
		{"risk", "two disk plugs carry 108 W together",
			set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"},{"part":"main","at":"d2","connector":"disk-15"}]`)},
		{"danger", "two ends behind one disk plug carry 54 W",
			all(
				set("/leads/2", `{"name":"chain","owned":true,"from":[{"part":"main","at":"d1","connector":"disk-15"}],"to":[{"at":"x","connector":"disk-15"},{"at":"y","connector":"disk-15"}]}`),
				set("/leads/1/from", `[{"part":"chain","at":"x","connector":"disk-15"},{"part":"chain","at":"y","connector":"disk-15"}]`),
			)},
		{"quiet", "two peripheral plugs carry 264 W",
			set("/leads/1/from", `[{"part":"main","at":"p2","connector":"peripheral-4"},{"part":"main","at":"c2","connector":"card-8"}]`)},
		{"unknown", "board power",
			all(set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`), drop("/card/power_w"))},
		{"quiet", "nothing flows from a dock that nothing feeds", all(drop("/leads/0"), set("/route/stages/2/outlets", `[{"name":"o","connector":"card-8"}]`), set("/leads/0/from", `[{"part":"dock","at":"o"}]`))},
	}},
	{"power.rail", []ruleCase{
		{"unknown", "the voltage of a rail", drop("/supplies/1/rails/0/voltage_v")},
		{"blocked", "more than the 12 V rails together, of a rail that carries it", all(set("/supplies/1/rails/0/current_a", "30"), set("/supplies/1/combined_12v_w", "100"))},
		{"quiet", "within the 12 V rails together", set("/supplies/1/combined_12v_w", "200")},
		{"blocked", "120 W from 9 A", set("/supplies/1/rails/0/current_a", "9")},
		{"blocked", "9.9 W at 3.3 V through the main plug from 2 A", mainDock("2")},
		{"quiet", "9.9 W at 3.3 V from 3 A", mainDock("3")},
		{"quiet", "121 W from 10.2 A, but little is left", set("/supplies/1/rails/0/current_a", "10.2")},
		{"unknown", "rail without current", drop("/supplies/1/rails/0/current_a")},
		{"unknown", "an ATX-style supply of which no rail of 12 V is listed", set("/supplies/1/rails", `[{"name":"5V","voltage_v":5,"current_a":15}]`)},
		{"quiet", "120 W from 12 V that is printed as 10.11 A", all(set("/supplies/1/rails/0/current_a", "10.11"), boardPower("120"))},
		{"blocked", "a rail that is told of a supply whose rating is not", all(drop("/supplies/1/rating_w"), set("/supplies/1/rails/0/current_a", "9"))},
	}},
	{"power.total", []ruleCase{
		{"blocked", "121.35 of 121 W", set("/supplies/1/rating_w", "121")},
		{"quiet", "121.35 of 121.4 W", set("/supplies/1/rating_w", "121.4")},
		{"quiet", "the host's draw: its own brick is left alone", drop("/host/power_w")},
		{"unknown", "the host's draw, of the supply that feeds the card too",
			all(set("/host/supply", `"main"`), drop("/host/power_w"))},
		{"unknown", "board power", all(set("/supplies/1/rating_w", "150"), drop("/card/power_w"))},
		{"quiet", "a dock and a plug of the card on one supply: its watts are shared", all(boardPower("225"), set("/supplies/1/rating_w", "227"))},
		{"unknown", "a board power of 120 ± 10 W on 125 W", all(set("/card/power_w", `{"value":120,"tolerance":10}`), set("/supplies/1/rating_w", "125"))},
		{"unknown", "what the host loses from a brick of which the voltage is not told", all(hostSlot, boardPower("46"), drop("/supplies/0/rails/0/voltage_v"))},
		{"unknown", "76 W from a brick of which nobody read the rating", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/kind", `"brick"`), drop("/supplies/1/rating_w"), drop("/supplies/1/rails"), set("/supplies/1/outlets/7/voltage_v", "12"))},
	}},
	{"power.headroom", []ruleCase{
		{"quiet", "the host's own brick as delivered", set("/supplies/0/rating_w", "75")},
		{"risk", "the same under a raised processor", all(set("/supplies/0/rating_w", "75"), set("/host/processor", `{"altered":true}`), set("/host/power_w", `{"value":70,"source":"measured"}`))},
		{"risk", "by the meter at the wall", set("/supplies/1/wall_w", "450")},
		{"unknown", "by the meter, of a supply of unknown class", set("/supplies/1/wall_w", "380")},
		{"risk", "120 W is over 80 % of 149", set("/supplies/1/rating_w", "149")},
		{"risk", "120 W is over 80 % of the rail's 144", set("/supplies/1/rails/0/current_a", "12")},
		{"quiet", "121.35 W is 80 % of 151.7", set("/supplies/1/rating_w", "151.7")},
		{"quiet", "nameplate policy",
			all(set("/supplies/1/rating_w", "121"), set("/sizing", `{"policy":"nameplate"}`))},
		{"risk", "a share of its own", set("/sizing", `{"policy":"share","share":0.25}`)},
		{"asked by power.total", "rating", drop("/supplies/1/rating_w")},
		{"risk", "of a rail, while the rating is not told", all(drop("/supplies/1/rating_w"), set("/supplies/1/rails/0/current_a", "12"))},
	}},
	{"power.turn-on", []ruleCase{
		{"blocked", "nothing", set("/supplies/1/turn_on", `"none"`)},
		{"blocked", "nothing, though nothing hangs on it yet", all(set("/supplies/1/turn_on", `"none"`), set("/leads", "[]"))},
		{"blocked", "a dock that does not",
			all(set("/supplies/1/turn_on", `"dock"`), set("/route/stages/2/turns_on", "false"))},
		{"blocked", "the board of a host it does not feed", set("/supplies/1/turn_on", `"host-board"`)},
		{"quiet", "a dock that does, by a main lead", all(set("/supplies/1/turn_on", `"dock"`), mainDock("3"))},
		{"blocked", "a dock that does, by a lead without the contact", set("/supplies/1/turn_on", `"dock"`)},
		{"quiet", "a brick",
			all(set("/supplies/1/kind", `"brick"`), set("/supplies/1/turn_on", `"none"`))},
		{"unknown", "not said", drop("/supplies/1/turn_on")},
		{"quiet", "nothing is told, and a joined dock pulls it", all(set("/supplies/1/turn_on", `"none"`), mainDock("3"))},
		{"quiet", "nothing is told, and the host's board is joined", all(set("/supplies/1/turn_on", `"none"`), set("/supplies/1/outlets/-", `{"name":"main","connector":"main-24"}`), toHost("main", "main-24"))},
		{"unknown", "nothing is told, and a lead that nobody described joins the host's board", all(set("/supplies/1/turn_on", `"none"`), drop("/host/supply"), set("/supplies/1/outlets/-", `{"name":"own"}`), set("/leads/-", `{"name":"l","owned":true,"from":[{"part":"main","at":"own"}],"to":[{"part":"host"}]}`))},
		{"quiet", "a supply of its maker's own that has no such contact", all(set("/supplies/1/kind", `"proprietary"`), set("/supplies/1/turn_on", `"none"`))},
	}},
	{"power.fuse", []ruleCase{
		{"risk", "none", made("")},
		{"quiet", "15 A before 21 A of wire", made(`,"fuse_a":15`)},
		{"risk", "25 A before 21 A of wire", made(`,"fuse_a":25`)},
		{"risk", "5 A for the 6.25 A that flow", made(`,"fuse_a":5`)},
		{"asked by power.pins", "what its pins are", all(made(`,"fuse_a":15`), set("/leads/1/from/0/connector", `"proprietary"`), set("/supplies/1/outlets/3/connector", `"proprietary"`))},
	}},
	{"power.harness", []ruleCase{
		{"note", "nothing measured", made(`,"fuse_a":15`)},
		{"quiet", "a lead its maker wired", set("/leads/1/gauge_awg", "18")},
		{"quiet", "every line ticked", made(`,"fuse_a":15,"meter_ticked":["wire 1/1 1/1","wire 1/2 1/2","wire 1/3 1/3","wire 1/5 1/5","wire 1/7 1/7","wire 1/8 1/8","short 1","volts 1/1","volts 1/2","volts 1/3"]`)},
		{"asked by power.pins", "what its pins are", all(made(""), set("/leads/1/from/0/connector", `"proprietary"`), set("/supplies/1/outlets/3/connector", `"proprietary"`))},
	}},
	{"power.order", []ruleCase{
		{"risk", "the host first", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"host-first"}`))},
		{"quiet", "the dock first", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"dock-first"}`))},
		{"quiet", "both by one switch", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"together"}`))},
		{"quiet", "a switch that follows the host, whatever a person does first",
			all(set("/supplies/1/turn_on", `"switch-board"`), set("/sizing", `{"switch_on":"host-first"}`))},
		{"risk", "both by one switch, of a supply that takes 1150 ± 250 ms", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"together"}`), set("/supplies/1/up_ms", `{"value":1150,"tolerance":250}`))},
		{"quiet", "both by one switch, of a supply that takes 1200 ms at the most", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"together"}`), set("/supplies/1/up_ms", `{"value":1100,"tolerance":100}`))},
		{"risk", "it follows, and takes 3 s", all(set("/supplies/1/turn_on", `"switch-board"`), set("/supplies/1/up_ms", "3000"))},
		{"risk", "it follows, and the dock lets go of the reset",
			all(set("/supplies/1/turn_on", `"switch-board"`), set("/route/stages/2/holds_reset", "false"))},
		{"quiet", "the card in the host's own slot", all(hostSlot, set("/sizing", `{"switch_on":"host-first"}`))},
		{"asked by power.turn-on", "what switches it on", drop("/supplies/1/turn_on")},
	}},
	{"link.claim", []ruleCase{
		{"risk", "eight lanes in an M.2 slot", set("/host/slots/0/lanes", "8")},
		{"risk", "mini PCIe of the third generation", all(set("/host/slots/0/form", `"mini-pcie"`), set("/host/slots/0/generation", "3"))},
		{"quiet", "four lanes in an M.2 slot", set("/host/slots/0/lanes", "4")},
		{"asked by link.width", "lanes of the slot", drop("/host/slots/0/lanes")},
	}},
	{"power.voltage", []ruleCase{
		{"danger", "19 V into the dock's round plug", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", "19"))},
		{"danger", "5 V on a 12 V contact", set("/supplies/1/outlets/0/rail", `"5V"`)},
		{"danger", "12 V into a host that takes 19", all(set("/host/inlets", `[{"name":"round","connector":"barrel","voltage_v":19}]`), toHost("round", "barrel"))},
		{"quiet", "19 V into a dock that says so", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", "19"), set("/route/stages/2/inlets/3/voltage_v", "19"))},
		{"quiet", "12 V into the dock's round plug", dockOn("round", "barrel", "round", "barrel")},
		{"unknown", "one rail was read, and nobody says of what", all(drop("/supplies/1/kind"), set("/supplies/1/rails", `[{"name":"5V","voltage_v":5,"current_a":15}]`))},
		{"unknown", "a brick without a label", all(set("/supplies/1/kind", `"brick"`), drop("/supplies/1/rails"), dockOn("round", "barrel", "round", "barrel"))},
		{"unknown", "what the host takes", all(drop("/host/supply"), toHost("round", "barrel"))},
	}},
	{"power.contract", []ruleCase{
		{"danger", "12 V on a USB-C plug", all(drop("/host/supply"), toHost("c2", "card-8"), set("/leads/2/to/0/connector", `"usb-c"`))},
		{"blocked", "70 W from a contract of 60", all(drop("/host/supply"), toHost("c", "usb-c"), set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c","voltage_v":20,"current_a":3}`))},
		{"quiet", "5 V on a USB-C plug", all(drop("/host/supply"), toHost("c", "usb-c"), set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c","voltage_v":5}`))},
		{"unknown", "what asks for 12 V", all(dockOn("c", "usb-c", "round", "barrel"), set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c","voltage_v":12}`))},
	}},
	{"power.backfeed", []ruleCase{
		{"danger", "two supplies on one dock", all(set("/supplies/0/outlets", `[{"name":"plug","connector":"barrel","voltage_v":12}]`), set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"brick","at":"plug"}],"to":[{"part":"dock","at":"round"}]}`))},
		{"danger", "two supplies on one lead", all(set("/supplies/0/outlets", `[{"name":"plug","connector":"card-8"}]`), set("/leads/1/from/-", `{"part":"brick","at":"plug"}`))},
		{"danger", "two supplies at the host", toHost("cpu", "cpu-8")},
		{"quiet", "one supply by two leads", set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"main","at":"c2","connector":"card-8"}],"to":[{"part":"dock","at":"in 6","connector":"card-6"}]}`)},
		{"unknown", "does the riser pass its slot's power on?", poweredRiser("")},
		{"danger", "a riser that does", poweredRiser(`,"passes_power":true`)},
		{"quiet", "a riser that does not", poweredRiser(`,"passes_power":false`)},
		{"danger", "two supplies at one plug of the card", all(set("/supplies/0/outlets", `[{"name":"plug","connector":"card-8","voltage_v":12}]`), set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"brick","at":"plug"}],"to":[{"part":"card","at":"A"}]}`))},
		{"quiet", "a supply in the bay in place of the one that is listed", all(set("/supplies/1/in_bay", "true"), toHost("cpu", "cpu-8"))},
	}},
	{"power.socket", []ruleCase{
		{"blocked", "two plugs in one inlet", set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"main","at":"p2"}],"to":[{"part":"dock","at":"in"}]}`)},
		{"blocked", "two plugs in one outlet", set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"main","at":"c1","connector":"card-8"}],"to":[{"part":"dock","at":"in 6","connector":"card-6"}]}`)},
		{"quiet", "two inlets", set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"main","at":"d1"}],"to":[{"part":"dock","at":"in 2"}]}`)},
		{"asked by power.unfed", "no lead told", all(drop("/supplies"), drop("/leads"), drop("/host/supply"))},
	}},
	{"power.nameplate", []ruleCase{
		{"unknown", "altered, and its nameplate entered", set("/card/altered", "true")},
		{"unknown", "a raised processor, and the host's draw entered", set("/host/processor", `{"altered":true}`)},
		{"quiet", "a raised processor, and the host measured", all(set("/host/processor", `{"altered":true}`), set("/host/power_w", `{"value":65,"source":"measured"}`))},
		{"quiet", "altered, and measured", all(set("/card/altered", "true"), set("/card/power_w", `{"value":140,"source":"measured"}`))},
	}},
	{"power.one-cable", []ruleCase{
		{"risk", "205 W for two plugs", all(twoPlugs, boardPower("250"))},
		{"danger", "300 W for two plugs", all(twoPlugs, boardPower("375"))},
		{"quiet", "150 W for two plugs", all(twoPlugs, boardPower("195"))},
		{"asked by power.connector", "which plug the lead goes to",
			all(twoPlugs, boardPower("250"), set("/leads/1/to", `[{"part":"card"}]`), set("/leads/2", `{"name":"l","owned":true,"from":[{"part":"main","at":"c2"}],"to":[{"part":"card"}]}`))},
		{"asked by power.connector", "board power", all(twoPlugs, drop("/card/power_w"))},
	}},
	{"power.wire", []ruleCase{
		{"danger", "2.1 A through each of three wires of AWG 24", set("/leads/1/gauge_awg", "24")},
		{"quiet", "the same through AWG 22", set("/leads/1/gauge_awg", "22")},
		{"unknown", "6.3 A through the one wire of an adapter", set("/leads/1/from", `[{"part":"main","at":"p2","connector":"peripheral-4"}]`)},
	}},
	{"power.drop", []ruleCase{
		{"risk", "two metres of thin wire", all(set("/leads/0/gauge_awg", "24"), set("/leads/0/length_mm", "2000"))},
		{"quiet", "half a metre of AWG 18", all(set("/leads/0/gauge_awg", "18"), set("/leads/0/length_mm", "500"))},
		{"asked by power.connector", "board power", all(set("/leads/0/gauge_awg", "24"), set("/leads/0/length_mm", "2000"), drop("/card/power_w"))},
		{"risk", "a metre to the dock and a metre on, each of them within the limit", all(set("/leads/0/gauge_awg", "22"), set("/leads/0/length_mm", "1000"), set("/route/stages/2/outlets", `[{"name":"o","connector":"card-8"}]`), set("/leads/1/from", `[{"part":"dock","at":"o"}]`), set("/leads/1/gauge_awg", "22"), set("/leads/1/length_mm", "1500"))},
		{"unknown", "two metres of which nobody told the gauge", set("/leads/0/length_mm", "2000")},
	}},
	{"power.spike", []ruleCase{
		{"risk", "twice 120 W from 160 W of any design", set("/supplies/1/rating_w", "160")},
		{"quiet", "the same from 400 W", set("/supplies/1/rating_w", "400")},
		{"quiet", "spikes are not asked for", all(set("/supplies/1/rating_w", "160"), set("/sizing", `{"policy":"share"}`))},
		{"risk", "175 W of an older design", all(set("/supplies/1/rating_w", "175"), set("/supplies/1/class", `"older"`))},
		{"unknown", "175 W of which design?", set("/supplies/1/rating_w", "175")},
		{"risk", "of a rail, while the rating is not told", all(drop("/supplies/1/rating_w"), set("/supplies/1/rails/0/current_a", "12"), set("/supplies/1/class", `"older"`))},
	}},
	{"power.group", []ruleCase{
		{"risk", "loaded at 12 V alone", set("/supplies/1/group_regulated", "true")},
		{"quiet", "its 3.3 V is loaded too", all(set("/supplies/1/group_regulated", "true"), mainDock("3"))},
		{"asked by power.unfed", "no supply told", all(drop("/supplies"), drop("/leads"), drop("/host/supply"))},
	}},
	{"power.host-brick", []ruleCase{
		{"risk", "115 of 120 W", all(hostSlot, boardPower("40"))},
		{"blocked", "138 of 120 W", all(hostSlot, boardPower("60"))},
		{"quiet", "93 of 120 W", all(hostSlot, boardPower("20"))},
		{"asked by power.total", "its rating", all(hostSlot, drop("/supplies/0/rating_w"))},
		{"quiet", "exactly 80 % of 120 W", all(hostSlot, set("/host/power_w", "50"), boardPower("40.48"))},
	}},
	{"power.ground", []ruleCase{
		{"note", "two supplies", boardPower("120")},
		{"quiet", "one", all(drop("/host/supply"), drop("/supplies/0"))},
		{"asked by power.unfed", "no supply told", all(drop("/supplies"), drop("/leads"), drop("/host/supply"))},
	}},
	{"power.barrel", []ruleCase{
		{"blocked", "2.5 mm into 2.1", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/barrel_mm", `"5.5x2.5"`), set("/route/stages/2/inlets/3/barrel_mm", `"5.5x2.1"`))},
		{"danger", "the centre of one is ground", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/centre_negative", "true"))},
		{"quiet", "like in like", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/barrel_mm", `"5.5x2.5"`), set("/route/stages/2/inlets/3/barrel_mm", `"5.5x2.5"`))},
		{"unknown", "the socket's size", all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/barrel_mm", `"5.5x2.5"`))},
	}},
	{"power.heat", []ruleCase{
		{"risk", "56 °C", set("/load_readings", `[{"plug":"card 8-pin","plug_c":56}]`)},
		{"danger", "76 °C", set("/load_readings", `[{"plug":"card 8-pin","plug_c":76}]`)},
		{"quiet", "55 °C", set("/load_readings", `[{"plug":"card 8-pin","plug_c":55}]`)},
		{"else quiet", "how hot its plugs grow", set("/load_readings", `[{"card_w":100}]`)},
	}},
	{"power.wall", []ruleCase{
		{"note", "121 W of 400", boardPower("120")},
		{"note", "a reading above it", set("/supplies/1/wall_w", "400")},
		{"note", "a reading below it", set("/supplies/1/wall_w", "90")},
		{"quiet", "nothing hangs on it", set("/leads", "[]")},
		{"asked by power.total", "its rating", drop("/supplies/1/rating_w")},
	}},
	{"fit.card", []ruleCase{
		{"blocked", "1 mm into the cage", set("/card/length_mm", "251")},
		{"blocked", "through the wall at the board's side", set("/chamber/card_at/z_mm", "-1")},
		{"blocked", "its backplate 1 mm into the wall, 20 mm behind the board", set("/card/backplate_mm", "21")},
		{"quiet", "a backplate that clears it by 5 mm", set("/card/backplate_mm", "15")},
		{"blocked", "longer than the chamber, wherever it stands",
			all(drop("/chamber/card_at"), set("/card/length_mm", "301"))},
		{"quiet", "past the cage, above it",
			all(set("/card/length_mm", "290"), set("/chamber/card_at/y_mm", "102"), set("/card/height_mm", "40"))},
		{"quiet", "in the open", set("/chamber", `{"open":true}`)},
		{"blocked", "into the cage for certain, whatever the card's thickness", all(set("/card/length_mm", "251"), drop("/card/thickness_mm"))},
		{"quiet", "0.0004 mm into the cage is touching", exactly("250.0004")},
		{"blocked", "9 mm deep in what holds it", all(set("/chamber/things/-", `{"name":"slot","at":{"x_mm":40,"y_mm":0,"z_mm":30},"size":{"x_mm":90,"y_mm":9,"z_mm":9},"holds_card":true}`), set("/chamber/card_at/y_mm", "0"))},
		{"quiet", "8.5 mm deep in what holds it", all(set("/chamber/things/-", `{"name":"slot","at":{"x_mm":40,"y_mm":0,"z_mm":30},"size":{"x_mm":90,"y_mm":8.5,"z_mm":9},"holds_card":true}`), set("/chamber/card_at/y_mm", "0"))},
		{"quiet", "a thing wholly beyond the bracket's wall", set("/chamber/things/-", `{"name":"foot","at":{"x_mm":-30,"y_mm":0,"z_mm":0},"size":{"x_mm":30,"y_mm":300,"z_mm":300}}`)},
		{"quiet", "size of the cage behind its face: it cannot matter", drop("/chamber/things/0/size/x_mm")},
		{"unknown", "where the cage is", drop("/chamber/things/0/at/x_mm")},
		{"blocked", "longer than the papers allow, nothing else told", set("/chamber", `{"takes":{"length_mm":190,"height_mm":120,"thickness_mm":45},"opening":{"height":"full","slots":2}}`)},
		{"quiet", "as long as the papers allow, nothing else told", set("/chamber", `{"takes":{"length_mm":202,"height_mm":120,"thickness_mm":45},"opening":{"height":"full","slots":2}}`)},
		{"unknown", "how thick a card may be", set("/chamber", `{"takes":{"length_mm":210,"height_mm":120},"opening":{"height":"full","slots":2}}`)},
		{"unknown", "no chamber", drop("/chamber")},
	}},
	{"fit.lid", []ruleCase{
		{"note", "an intrusion switch under a raised cover", all(set("/chamber/covers/0/intrusion_switch", "true"), set("/chamber/covers/0/raised_mm", "6"))},
		{"quiet", "a switch that is pressed", set("/chamber/covers/0/intrusion_switch", "true")},
		{"note", "the lid may stay off",
			all(set("/card/height_mm", "136"), set("/brief/covers_off", `["lid"]`))},
		{"quiet", "the lid closes", set("/brief/covers_off", `["lid"]`)},
		{"blocked", "the lid turns into the card", hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":145},"opens_deg":-90}`)},
		{"note", "and may stay off", all(hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":145},"opens_deg":-90}`), set("/brief/covers_off", `["lid"]`))},
		{"quiet", "the lid turns out of the case", hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":150},"opens_deg":110}`)},
		{"unknown", "how far the lid turns", hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":145}}`)},
		{"unknown", "where its hinge is", hinged(`{"axis":"z","at":{"x_mm":0},"opens_deg":-90}`)},
		{"blocked", "a cover that slides in", slides(`{"axis":"y","by_mm":-40}`)},
		{"quiet", "a cover that slides out", slides(`{"axis":"x","by_mm":-300}`)},
		{"asked by fit.card", "where the lid is", drop("/chamber/covers/0/at/y_mm")},
	}},
	{"fit.plug", []ruleCase{
		{"blocked", "25 mm behind the plug, and 23 to the lid", all(set("/card/plugs/0/side", `"top"`), set("/card/height_mm", "112"))},
		{"quiet", "25 mm to the lid for a plug that ends with the card", set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0}]`)},
		{"blocked", "8 mm more of plug", set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":8}]`)},
		{"blocked", "35 mm for a 16-pin", set("/card/plugs", `[{"name":"A","connector":"card-16","sense_w":600,"side":"top","stands_out_mm":0}]`)},
		{"quiet", "50 mm behind its end", set("/card/plugs", `[{"name":"A","connector":"card-8","side":"end"}]`)},
		{"unknown", "how far the plug stands out", set("/card/plugs/0/side", `"top"`)},
		{"quiet", "a beam over the card, away from the plug", all(set("/chamber/things/-", beam), set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0,"at_mm":150}]`))},
		{"blocked", "a beam over the plug", all(set("/chamber/things/-", beam), set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0,"at_mm":60}]`))},
		{"unknown", "where the plug is under the beam", all(set("/chamber/things/-", beam), set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0}]`))},
	}},
	{"fit.supply", []ruleCase{
		{"risk", "on its side, and not made for it", all(set("/supplies/1/one_way_up", "true"), set("/supplies/1/stands_that_way", "false"))},
		{"quiet", "the right way up", all(set("/supplies/1/one_way_up", "true"), set("/supplies/1/stands_that_way", "true"))},
		{"unknown", "how it stands", set("/supplies/1/one_way_up", "true")},
		{"blocked", "ATX in a bay for TFX", all(set("/supplies/1/in_bay", "true"), set("/host/supply_bay", `"tfx"`))},
		{"quiet", "SFX in a bay for ATX", all(set("/supplies/1/in_bay", "true"), set("/supplies/1/kind", `"sfx"`), set("/host/supply_bay", `"atx"`))},
		{"quiet", "it stands outside", set("/host/supply_bay", `"tfx"`)},
		{"unknown", "what the bay takes", set("/supplies/1/in_bay", "true")},
		{"blocked", "181 mm deep in a bay for 180", all(inBay, set("/supplies/1/depth_mm", "181"), set("/host/supply_bay_depth_mm", "180"))},
		{"quiet", "exactly as deep as its bay", all(inBay, set("/supplies/1/depth_mm", "180"), set("/host/supply_bay_depth_mm", "180"))},
		{"unknown", "how deep the bay is", all(inBay, set("/supplies/1/depth_mm", "180"))},
		{"unknown", "how deep the supply is", all(inBay, set("/host/supply_bay_depth_mm", "180"))},
	}},
	{"fit.displaced", []ruleCase{
		{"note", "the cage comes out", all(set("/chamber/things/0/comes_out", "true"), set("/chamber/things/0/loses", `"the optical drive"`))},
		{"quiet", "it stays", set("/chamber/things/0/comes_out", "false")},
		{"else quiet", "whether it stays", set("/card/length_mm", "200")},
	}},
	{"fit.exit", []ruleCase{
		{"blocked", "none", set("/route/stages/1/exit", `"none"`)},
		{"blocked", "a cover that may not stay off", set("/route/stages/1/exit", `"cover-off"`)},
		{"quiet", "a cover that may", all(set("/route/stages/1/exit", `"cover-off"`), set("/brief/covers_off", `["lid"]`))},
		{"quiet", "a cut that is listed", all(set("/route/stages/1/exit", `"cut"`), set("/alterations", `[{"name":"a hole in the spare cover","touches":"spare-cover"}]`))},
		{"blocked", "a cut in what the brief protects", all(set("/route/stages/1/exit", `"cut"`), set("/alterations", `[{"name":"a hole in the cover","touches":"cover"}]`))},
		{"unknown", "what is cut", set("/route/stages/1/exit", `"cut"`)},
		{"unknown", "which openings", set("/route/stages/1/exit", `"opening"`)},
		{"else quiet", "how it leaves", set("/route/stages/1/exit", `"unknown"`)},
	}},
	{"fit.gap", []ruleCase{
		{"risk", "5 mm for a cable of 5", raised("5", "5")},
		{"quiet", "6 mm", raised("5", "6")},
		{"unknown", "how thick it is", raised(`"unknown"`, "6")},
		{"unknown", "by how much the cover is raised", set("/route/stages/1/exit", `"raised-cover"`)},
	}},
	{"fit.opening", []ruleCase{
		{"blocked", "12 mm through 10", through(`{"width_mm":30,"height_mm":12}`, `{"name":"cover","width_mm":32,"height_mm":10}`)},
		{"blocked", "the second of two layers", through(`{"width_mm":30,"height_mm":12}`, `{"name":"cover","width_mm":35,"height_mm":14},{"name":"shield","width_mm":35,"height_mm":11}`)},
		{"quiet", "with room to spare", through(`{"width_mm":30,"height_mm":12}`, `{"name":"cover","width_mm":35,"height_mm":14}`)},
		{"quiet", "30 by 2 through 28 by 20, at a slant", through(`{"width_mm":30,"height_mm":2}`, `{"name":"cover","width_mm":28,"height_mm":20}`)},
		{"blocked", "30 by 2 through 28 by 14: the slant wants 14.6", through(`{"width_mm":30,"height_mm":2}`, `{"name":"cover","width_mm":28,"height_mm":14}`)},
		{"unknown", "how high the opening is", through(`{"width_mm":30,"height_mm":12}`, `{"name":"cover","width_mm":32}`)},
	}},
	{"fit.cable", []ruleCase{
		{"blocked", "250 mm for two legs of 150 and a corner: 281.8", laid("5", 0, 0, 150, 0, 150, 150)},
		{"risk", "28.2 mm to spare", laid("5", 0, 0, 120, 0, 120, 120)},
		{"quiet", "68.2 mm to spare", laid("5", 0, 0, 100, 0, 100, 100)},
		{"unknown", "where a corner is", all(laid("5", 0, 0, 100, 0, 100, 100), drop("/route/stages/1/path/1/x_mm"))},
		{"unknown", "how long it is", all(laid("5", 0, 0, 100, 0, 100, 100), drop("/route/stages/1/length_mm"))},
		{"blocked", "a lead of 200 mm on a way of 300", all(set("/leads/1/length_mm", "200"), set("/leads/1/path", wayOf(-150, 115, 150, 115)))},
		{"unknown", "how long the lead is", set("/leads/1/path", wayOf(-150, 115, 150, 115))},
		{"blocked", "straight through the cage", laid("5", 100, 130, 100, 50, 320, 50)},
		{"risk", "2 mm from the cage, 5 mm thick", laid("5", 150, 102, 294, 102)},
		{"quiet", "3 mm from it", laid("5", 150, 103, 294, 103)},
		{"unknown", "how thick, and so whether it clears the cage", all(laid("5", 150, 103, 294, 103), drop("/route/stages/1/thickness_mm"))},
		{"unknown", "how thick, and so how tightly it bends: 236 to 266 mm", all(laid("5", 0, 0, 134, 0, 134, 134), drop("/route/stages/1/thickness_mm"))},
	}},
	{"fit.bend", []ruleCase{
		{"risk", "back on itself within 50 mm: 22.5 where twinax of 5 takes 40", laid("5", 0, 0, 60, 0, 60, 50, 0, 50)},
		{"quiet", "within 100 mm: 47.5", laid("5", 0, 0, 60, 0, 60, 100, 0, 100)},
		{"quiet", "a flat ribbon within 50 mm", all(laid("1", 0, 0, 60, 0, 60, 50, 0, 50), set("/route/stages/1/line", `"flat-ribbon"`))},
		{"unknown", "how thick it is", all(laid("5", 0, 0, 60, 0, 60, 50, 0, 50), drop("/route/stages/1/thickness_mm"))},
	}},
	{"fit.strain", []ruleCase{
		{"risk", "200 mm of twinax hang free", all(set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/hangs_free_mm", "200"))},
		{"quiet", "150 mm", all(set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/hangs_free_mm", "150"))},
		{"quiet", "200 mm of ribbon", all(set("/route/stages/1/line", `"flat-ribbon"`), set("/route/stages/1/hangs_free_mm", "200"))},
		{"risk", "270 degrees over 250 mm", set("/route/stages/1/twisted_deg", "-270")},
		{"quiet", "180 degrees", set("/route/stages/1/twisted_deg", "180")},
		{"unknown", "over what length", all(set("/route/stages/1/twisted_deg", "180"), drop("/route/stages/1/length_mm"))},
		{"risk", "7.5 mm straight, then the bend takes 42.5", laid("5", 0, 120, 50, 120, 50, 0)},
		{"quiet", "10.5 mm straight", laid("5", 0, 120, 53, 120, 53, 0)},
		{"quiet", "a ribbon may bend at once", all(laid("1", 0, 120, 10, 120, 10, 0), set("/route/stages/1/line", `"flat-ribbon"`))},
		{"unknown", "how thick it is", all(laid("5", 0, 120, 53, 120, 53, 0), drop("/route/stages/1/thickness_mm"))},
		{"risk", "55 mm wanted before a wall at 54: straight, bend and thickness", all(set("/route/stages/1/thickness_mm", "5"), set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/at_socket", `{"wall_mm":54}`))},
		{"quiet", "at 55", all(set("/route/stages/1/thickness_mm", "5"), set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/at_socket", `{"wall_mm":55}`))},
		{"unknown", "how thick it is, before a wall at 55", all(set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/at_plug", `{"wall_mm":55}`))},
		{"risk", "it turns 50 mm before the wall", laid("5", 246, 120, 280, 120, 280, 20)},
		{"quiet", "55 mm before it the wall is not what presses", laid("5", 240, 120, 293, 120, 293, 20)},
		{"quiet", "it goes on through the wall", laid("5", 240, 120, 298, 120, 400, 110)},
		{"risk", "it turns under the lid, 54 above", laid("5", 60, 91, 60, 143.5, 200, 143.5)},
		{"quiet", "under a lid that may stay off", all(set("/brief/covers_off", `["lid"]`), laid("5", 60, 91, 60, 143.5, 200, 143.5))},
		{"risk", "it leaves 18 degrees off the way its plug faces, toward the slot's wall", all(laid("5", 60, 120, 120, 100), set("/route/stages/1/at_plug", `{"faces":"+x"}`))},
		{"quiet", "14 degrees off it", all(laid("5", 60, 120, 140, 100), set("/route/stages/1/at_plug", `{"faces":"+x"}`))},
		{"risk", "a lead bends 20 mm behind its plug", all(set("/leads/1/length_mm", "500"), set("/leads/1/path", wayOf(0, 120, 150, 120, 150, 140)))},
		{"quiet", "25 mm behind it", all(set("/leads/1/length_mm", "500"), set("/leads/1/path", wayOf(0, 115, 150, 115, 150, 140)))},
		{"else quiet", "how far it hangs free", set("/route/stages/1/line", `"twinax"`)},
	}},
	{"fit.fan", []ruleCase{
		{"blocked", "120 mm on holes for 92", set("/chamber/fans", `[{"name":"front","size_mm":120,"holes_apart_mm":82.5}]`)},
		{"quiet", "120 mm on holes 105 apart", set("/chamber/fans", `[{"name":"front","size_mm":120,"holes_apart_mm":105}]`)},
		{"unknown", "where the holes are", set("/chamber/fans", `[{"name":"front","size_mm":120}]`)},
		{"unknown", "how large it is", set("/chamber/fans", `[{"name":"front"}]`)},
	}},
	{"fit.packed", []ruleCase{
		{"risk", "300 mm in a bag of 280", packed("300", "900")},
		{"risk", "2 kg of 1.5", packed("250", "2000")},
		{"risk", "84 % of the bag", all(packed("250", "900"), set("/brief/travel/bag_width_mm", "75"))},
		{"quiet", "63 % of it, 900 g", packed("250", "900")},
		{"unknown", "how long a piece is", packed(`"unknown"`, "900")},
		{"unknown", "what it weighs", packed("250", `"unknown"`)},
	}},
	{"fit.intake", []ruleCase{
		{"risk", "8 mm before the fans", all(set("/card/intake", `"face"`), set("/chamber/box/z_mm", "68"))},
		{"risk", "a thing 6 mm before them", all(set("/card/intake", `"face"`), set("/chamber/things/-", `{"name":"loom","at":{"x_mm":20,"y_mm":20,"z_mm":66},"size":{"x_mm":60,"y_mm":30,"z_mm":20}}`))},
		{"risk", "8 mm before the case's inlet", set("/chamber/inlet_gap_mm", "8")},
		{"quiet", "10 mm before it", set("/chamber/inlet_gap_mm", "10")},
		{"quiet", "10 mm", all(set("/card/intake", `"face"`), set("/chamber/box/z_mm", "70"))},
		{"else quiet", "where they draw from", set("/chamber/box/z_mm", "68")},
	}},
	{"fit.sag", []ruleCase{
		{"risk", "1,300 g at 90 mm", all(set("/card/mass_g", "1300"), set("/card/centre_mm", "90"))},
		{"note", "900 g", set("/card/mass_g", "900")},
		{"risk", "1,300 g", set("/card/mass_g", "1300")},
		{"quiet", "800 g", set("/card/mass_g", "800")},
		{"quiet", "1,300 g on a holder", all(set("/card/mass_g", "1300"), set("/chamber/card_supported", "true"))},
		{"quiet", "1,300 g standing upright", all(set("/card/mass_g", "1300"), set("/chamber/down_axis", `"y"`))},
		{"else quiet", "what it weighs", set("/card/mass_g", `"unknown"`)},
	}},
	{"fit.tip", []ruleCase{
		{"risk", "14.0 degrees", set("/chamber/stand", `{"base_mm":100,"centre_mm":200}`)},
		{"quiet", "16.7 degrees", set("/chamber/stand", `{"base_mm":120,"centre_mm":200}`)},
		{"risk", "26.6 degrees alone, 6.0 with a pull of 5 N", set("/chamber/stand", `{"base_mm":200,"centre_mm":200,"mass_g":2000,"pull_n":5,"pull_at_mm":300}`)},
		{"unknown", "how high its centre of mass is", set("/chamber/stand", `{"base_mm":100}`)},
		{"unknown", "what it weighs, with a pull", set("/chamber/stand", `{"base_mm":200,"centre_mm":200,"pull_n":5,"pull_at_mm":300}`)},
	}},
	{"fit.caddy", []ruleCase{
		{"risk", "its caddy is told to be missing", set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay","caddy":false}]`)},
		{"risk", "the host's caddy was found broken", all(set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay"}]`), set("/host/condition", `[{"name":"Drive caddy and screws","state":"broken"}]`))},
		{"quiet", "another one was got for it", all(set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay","caddy":true}]`), set("/host/condition", `[{"name":"drive caddy","state":"missing"}]`))},
		{"else quiet", "how the caddy was found", set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay"}]`)},
		{"quiet", "it goes on USB", all(set("/route/displaced", `[{"occupant":"data drive","home":"usb"}]`), set("/host/condition", `[{"name":"drive caddy","state":"missing"}]`))},
	}},
	{"heat.case", []ruleCase{
		{"risk", "25 m3/h for 120 W: 30", set("/chamber/airflow_m3_h", "25")},
		{"quiet", "30 m3/h", set("/chamber/airflow_m3_h", "30")},
		{"risk", "two fans of 20 m3/h, 26.7 behind their grilles", set("/chamber/fans", `[{"name":"front","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":20},{"name":"rear","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":20}]`)},
		{"quiet", "two of 25, 33.3 behind them", set("/chamber/fans", `[{"name":"front","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":25},{"name":"rear","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":25}]`)},
		{"risk", "30 m3/h in a cupboard: 60", all(set("/chamber/airflow_m3_h", "30"), set("/chamber/stands_in", `"cupboard"`))},
		{"quiet", "41 m3/h under a desk: 40", all(set("/chamber/airflow_m3_h", "41"), set("/chamber/stands_in", `"under-desk"`))},
		{"quiet", "20 m3/h, 20 K warmer", all(set("/chamber/airflow_m3_h", "20"), set("/chamber/air_rise_k", "20"))},
		{"unknown", "what the card draws", all(set("/chamber/airflow_m3_h", "100"), drop("/card/power_w"))},
	}},
	{"fit.tight", []ruleCase{
		{"risk", "1.4 mm", set("/card/length_mm", "248.6")},
		{"risk", "3 mm measured to ±4", set("/card/length_mm", `{"value":247,"tolerance":4}`)},
		{"quiet", "1.5 mm", set("/card/length_mm", "248.5")},
		{"quiet", "touching, all of it told to be exact", exactly("250")},
		{"quiet", "0.8 mm, all measured to ±0.3",
			all(
				set("/card/length_mm", `{"value":249.2,"tolerance":0.3}`),
				set("/chamber/card_at/x_mm", `{"value":0,"tolerance":0.3}`),
				set("/chamber/things/0/at/x_mm", `{"value":250,"tolerance":0.3}`),
			)},
		{"asked by fit.card", "the card's length", drop("/card/length_mm")},
	}},
	{"fit.bracket", []ruleCase{
		{"blocked", "full in half", set("/chamber/opening/height", `"half"`)},
		{"blocked", "an adapter's bracket", all(hostSlot, inSlot, set("/route/stages/0/bracket", `"full"`), set("/host/slots/3/opening", `"half"`))},
		{"note", "an adapter with both brackets", all(hostSlot, inSlot, set("/route/stages/0/bracket", `"full"`), set("/route/stages/0/bracket_spare", `"half"`), set("/host/slots/3/opening", `"half"`))},
		{"unknown", "the opening beside an adapter's slot", all(hostSlot, inSlot, set("/route/stages/0/bracket", `"full"`))},
		{"blocked", "two slots wide, one free", set("/chamber/opening/slots", "1")},
		{"blocked", "taller than the chamber",
			all(drop("/chamber/opening/height"), set("/chamber/box/y_mm", "119"))},
		{"risk", "the swap dismantles the cooler",
			all(
				set("/chamber/opening/height", `"half"`),
				set("/card/bracket/spare", `"half"`),
				set("/card/bracket/swap", `"dismantles-cooler"`),
			)},
		{"note", "a free swap",
			all(
				set("/chamber/opening/height", `"half"`),
				set("/card/bracket/spare", `"half"`),
				set("/card/bracket/swap", `"free"`),
			)},
		{"blocked", "it cannot be changed, whatever lies in its box",
			all(set("/chamber/opening/height", `"half"`), drop("/card/bracket/spare"), set("/card/bracket/swap", `"impossible"`))},
		{"quiet", "like in like", set("/card/bracket/height", `"full"`)},
		{"unknown", "opening not measured", drop("/chamber/opening/height")},
	}},
	{"work.memory", []ruleCase{
		{"risk", "8.1 of 8 GiB", set("/brief/works/0/memory_gib", "8.1")},
		{"quiet", "8 of 8 GiB", set("/brief/works/0/memory_gib", "8")},
		{"unknown", "card's memory", drop("/card/memory_gib")},
	}},
	{"work.encoder", []ruleCase{
		{"risk", "no av1", set("/brief/works/0/encoder", `"av1"`)},
		{"risk", "none at all",
			all(set("/brief/works/0/encoder", `"any"`), set("/card/encoders", "[]"))},
		{"quiet", "any will do", set("/brief/works/0/encoder", `"any"`)},
		{"unknown", "card's encoders", drop("/card/encoders")},
	}},
	{"brief.stance", []ruleCase{
		{"blocked", "a cut cover that is not spare", set("/alterations", `[{"name":"cut","touches":"cover"}]`)},
		{"blocked", "nothing permanent",
			all(
				set("/alterations", `[{"name":"cut","touches":"spare-cover"}]`),
				set("/brief/stance", `"nothing-permanent"`),
			)},
		{"quiet", "the spare cover", set("/alterations", `[{"name":"cut","touches":"spare-cover"}]`)},
		{"quiet", "it can be undone", set("/alterations", `[{"name":"tape","touches":"cover","permanent":false}]`)},
		{"unknown", "no stance",
			all(set("/alterations", `[{"name":"cut","touches":"cover"}]`), drop("/brief/stance"))},
	}},
	{"brief.warranty", []ruleCase{
		{"note", "a sealed screw", set("/alterations", `[{"name":"open the case","touches":"enclosure","permanent":false,"breaks_seal":true}]`)},
		{"note", "a bracket that holds the cooler", all(set("/card/bracket", `{"height":"full","spare":"half","swap":"dismantles-cooler","slots":2}`), set("/chamber/opening/height", `"half"`))},
		{"quiet", "no seal", set("/alterations", `[{"name":"open the case","touches":"enclosure","permanent":false}]`)},
		{"else quiet", "whether there is one", set("/alterations", `[{"name":"open the case","touches":"enclosure","permanent":false,"breaks_seal":"unknown"}]`)},
	}},
	{"brief.matched", []ruleCase{
		{"note", "80 MB a frame over 6.4 GB/s, a card that could 200 Hz", all(set("/brief/works/0/frame_mb", "80"), set("/brief/works/0/card_hz", "200"))},
		{"risk", "120 MB a frame", all(set("/brief/works/0/frame_mb", "120"), set("/brief/works/0/card_hz", "200"))},
		{"quiet", "40 MB a frame", all(set("/brief/works/0/frame_mb", "40"), set("/brief/works/0/card_hz", "200"))},
		{"quiet", "a model that fills the card once", all(set("/brief/works/0/frame_mb", "120"), set("/brief/works/0/card_hz", "200"), set("/brief/works/0/fills_card_once", "true"))},
		{"quiet", "a stream that is encoded there", all(set("/brief/works/0/frame_mb", "120"), set("/brief/works/0/card_hz", "200"), set("/brief/works/0/streams", "true"))},
		{"else quiet", "what the card does elsewhere", set("/brief/works/0/frame_mb", "15")},
	}},
	{"work.gain", []ruleCase{
		{"note", "20 Hz today, a card that does 100", all(set("/brief/works/0/card_hz", "100"), set("/brief/works/0/today_hz", "20"), set("/brief/works/0/processor_hz", "90"))},
		{"risk", "the processor may be what holds it back today", all(set("/brief/works/0/card_hz", "100"), set("/brief/works/0/today_hz", "40"))},
		{"risk", "99 Hz today", all(set("/brief/works/0/card_hz", "100"), set("/brief/works/0/today_hz", "99"))},
		{"note", "measured three times as fast", set("/runs", `[{"name":"a","side":"before","average_hz":30,"use":"stacking"},{"name":"b","side":"after","average_hz":90,"use":"stacking"}]`)},
		{"quiet", "nothing is told of today", set("/brief/works/0/card_hz", "100")},
		{"else quiet", "what the card does", set("/brief/works/0/today_hz", "20")},
	}},
	{"live.place", []ruleCase{
		{"risk", "an open card among dust", all(openAir, set("/brief/living", `{"harsh":true}`))},
		{"risk", "air for the open, in a cupboard", all(set("/chamber/airflow_m3_h", "500"), set("/brief/living", `{"air":"cupboard"}`))},
		{"risk", "the flatmate says no", set("/brief/living", `{"agree":[{"who":"the flatmate","agreed":false}]}`)},
		{"note", "the landlord was not asked", set("/brief/living", `{"agree":[{"who":"the landlord"}]}`)},
		{"note", "a cupboard, its air not told", set("/brief/living", `{"air":"cupboard"}`)},
		{"quiet", "made for the cupboard", all(set("/chamber/airflow_m3_h", "500"), set("/chamber/stands_in", `"cupboard"`), set("/brief/living", `{"air":"cupboard","harsh":true}`))},
		{"else quiet", "where it stands", set("/brief/living", `{"noise_db":150}`)},
	}},
	{"live.noise", []ruleCase{
		{"risk", "36 and 30 and 30 dB: 37.8", all(set("/card/noise_db", "36"), set("/host/noise_db", "30"), set("/supplies/1/noise_db", "30"), set("/brief/living", `{"noise_db":37}`))},
		{"quiet", "38 allowed", all(set("/card/noise_db", "36"), set("/host/noise_db", "30"), set("/supplies/1/noise_db", "30"), set("/brief/living", `{"noise_db":38}`))},
		{"note", "the card's noise not told", all(set("/host/noise_db", "30"), set("/supplies/1/noise_db", "30"), set("/brief/living", `{"noise_db":38}`))},
		{"risk", "read louder than told", all(set("/load_readings", `[{"noise_db":45}]`), set("/card/noise_db", "20"), set("/brief/living", `{"noise_db":40}`))},
		{"else quiet", "what is allowed", set("/card/noise_db", "60")},
	}},
	{"live.plugs", []ruleCase{
		{"risk", "two supplies, one plug", set("/brief/living", `{"mains_plugs":1}`)},
		{"note", "a screen may want the third", set("/brief/living", `{"mains_plugs":2}`)},
		{"quiet", "three", set("/brief/living", `{"mains_plugs":3}`)},
		{"else quiet", "how many are free", set("/brief/living", `{"noise_db":150}`)},
	}},
	{"live.carry", []ruleCase{
		{"risk", "12 minutes, 10 wanted", all(set("/brief/travel", `{"set_up_min":12}`), set("/brief/living", `{"carried":true,"set_up_most_min":10}`))},
		{"quiet", "10 minutes", all(set("/brief/travel", `{"set_up_min":10}`), set("/brief/living", `{"carried":true,"set_up_most_min":10}`))},
		{"note", "nobody timed it", set("/brief/living", `{"carried":true,"set_up_most_min":10}`)},
		{"note", "900 g in the open", all(openAir, set("/card/mass_g", "900"), set("/brief/living", `{"carried":true}`))},
		{"else quiet", "whether it is carried", all(set("/brief/travel", `{"set_up_min":12}`), set("/brief/living", `{"set_up_most_min":10}`))},
	}},
	{"ledger.worse", []ruleCase{
		{"risk", "more for less", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":390,"gain":4}]}`))},
		{"quiet", "more for more", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":410,"gain":4}]}`))},
		{"quiet", "perhaps more", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":300,"gain":{"value":4,"tolerance":1.5}}]}`))},
		{"quiet", "what the rig brings later makes up for it", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":390,"gain":4,"resale":50}],"sale":{"price":100}}`))},
		{"else quiet", "what the other gains", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":1}]}`))},
	}},
	{"ledger.unpriced", []ruleCase{
		{"unknown", "a line without a price", set("/ledger", `{"lines":[{"name":"paste"}]}`)},
		{"unknown", "in a currency without a rate", set("/ledger", `{"lines":[{"name":"paste","price":4,"currency":"dal"}]}`)},
		{"quiet", "it came with the dock", set("/ledger", `{"lines":[{"name":"paste","comes_with":"card"}]}`)},
		{"quiet", "with a rate", set("/ledger", `{"lines":[{"name":"paste","price":4,"currency":"dal"}],"exchange":[{"currency":"dal","rate":2}]}`)},
		{"quiet", "no ledger is kept", drop("/card/price")},
	}},
	{"ledger.forced", []ruleCase{
		{"note", "130 forced, a card of 200", set("/card/price", "200")},
		{"quiet", "a card of 270", set("/sizing", `{}`)},
		{"quiet", "all was owned", all(set("/card/price", "200"), set("/ledger", `{"lines":[{"name":"a","part":"adapter","state":"owned"},{"name":"b","part":"cable","state":"owned"},{"name":"c","part":"dock","state":"owned"},{"name":"d","part":"main","state":"owned"},{"name":"e","part":"card one","state":"to-buy"}]}`))},
		{"else quiet", "what the card costs", drop("/card/price")},
	}},
	{"proof.unlike", []ruleCase{
		{"note", "two resolutions", set("/runs", `[{"name":"a","side":"before","average_hz":30,"width_px":1920,"height_px":1080},{"name":"b","side":"after","average_hz":60,"width_px":2560,"height_px":1440}]`)},
		{"note", "one tells its cap", set("/runs", `[{"name":"a","side":"before","average_hz":30},{"name":"b","side":"after","average_hz":60,"cap_hz":60}]`)},
		{"quiet", "made alike", set("/runs", `[{"name":"a","side":"before","average_hz":30},{"name":"b","side":"after","average_hz":60}]`)},
		{"quiet", "of two uses", set("/runs", `[{"name":"a","side":"before","average_hz":30,"use":"one"},{"name":"b","side":"after","average_hz":60,"use":"two","cap_hz":60}]`)},
		{"else quiet", "whether a cap held one up", set("/runs", `[{"name":"a","side":"before","average_hz":30,"frames":1000}]`)},
	}},
	{"proof.tail", []ruleCase{
		{"risk", "three times the average, half the slowest thousandth", set("/runs", `[{"name":"a","side":"before","average_hz":30,"low01_p99_hz":20},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":10}]`)},
		{"quiet", "both rose", set("/runs", `[{"name":"a","side":"before","average_hz":30,"low01_p99_hz":20},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":40}]`)},
		{"quiet", "made differently", set("/runs", `[{"name":"a","side":"before","average_hz":30,"low01_p99_hz":20,"scene":"night"},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":10}]`)},
		{"else quiet", "its slowest thousandth", set("/runs", `[{"name":"a","side":"before","average_hz":30},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":10}]`)},
	}},
	{"proof.short", []ruleCase{
		{"note", "999 frames", set("/runs", `[{"name":"a","side":"before","frames":999}]`)},
		{"quiet", "1000 frames", set("/runs", `[{"name":"a","side":"before","frames":1000}]`)},
		{"else quiet", "how many frames", set("/runs", `[{"name":"a","side":"before","average_hz":30}]`)},
	}},
	{"proof.unproven", []ruleCase{
		{"note", "read at idle alone", set("/route/readings", `[{"width":4,"generation":4,"load":"idle"}]`)},
		{"note", "a run with the card, no reading", set("/runs", `[{"name":"a","side":"after","average_hz":60}]`)},
		{"quiet", "read under load", all(set("/runs", `[{"name":"a","side":"after","average_hz":60}]`), set("/route/readings", `[{"width":4,"generation":4,"load":"loaded"}]`))},
		{"quiet", "a run from before the card", set("/runs", `[{"name":"a","side":"before","average_hz":60}]`)},
		{"else note", "loaded or idle", set("/route/readings", `[{"width":4,"generation":4}]`)},
	}},
	{"brief.budget", []ruleCase{
		{"risk", "400 to buy, 399 there", set("/brief/budget", "399")},
		{"quiet", "400 to buy, 400 there", set("/brief/budget", "400")},
		{"quiet", "399 to 401 to buy, 401 there", all(set("/brief/budget", "401"), set("/card/price", `{"value":270,"tolerance":1}`))},
		{"unknown", "399 to 401 to buy, 400 there", all(set("/brief/budget", "400"), set("/card/price", `{"value":270,"tolerance":1}`))},
		{"unknown", "a part without a price", drop("/card/price")},
	}},
}
