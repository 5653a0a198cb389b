package assess_test

import "fmt"

// powerCases are the cases of the rules of power.
var powerCases = []casesOf{
	{"power.unfed", []ruleCase{
		{"blocked", "card plug", drop("/leads/1")},
		{"blocked", "dock", drop("/leads/0")},
		{"blocked", "host", drop("/host/supply")},
		{"blocked", "a plug that does not enter", dockOn("d1", "disk-15", "in", "disk-15")},
		{"blocked", "an M.2 slot feeds no card",
			all(set("/route/stages", "[]"), set("/leads", "[]"))},
		{"blocked", "3.3 V of a server supply, which has 12 V alone", all(mainDock("30"), drop("/supplies/1/rails/2"),
			set("/supplies/1/kind", `"server"`))},
		{"blocked", "3.3 V of a dock's own server supply", all(
			drop("/leads/0"), set("/route/stages/2/supply", `"main"`), set("/route/stages/2/makes_3v3_from_12v", "false"),
			set("/supplies/1/kind", `"server"`),
		)},
		{"quiet", "3.3 V of a server supply's board that makes some", all(
			mainDock("30"), set("/supplies/1/kind", `"server"`), set("/supplies/1/rails/-", `{"name":"3.3","voltage_v":3.3,"current_a":10}`),
		)},
		{"quiet", "3.3 V of a supply of that kind of plug", mainDock("30")},
		{"blocked", "a host's main plug on a server supply", all(
			drop("/host/supply"), set("/supplies/1/outlets/-", `{"name":"m","connector":"main-24"}`),
			set("/supplies/1/rails", `[{"name":"12V","voltage_v":12,"current_a":30}]`),
			set("/supplies/1/kind", `"server"`), toHost("m", "main-24"),
		)},
		{"quiet", "a host's main plug on a supply of its standard", all(
			drop("/host/supply"), set("/supplies/1/outlets/-", `{"name":"m","connector":"main-24"}`), toHost("m", "main-24"),
		)},
		{"quiet", "the card slot of the host feeds it", hostSlot},
		{"unknown", "is the last stage a dock?",
			all(drop("/route/stages/2/kind"), drop("/route/stages/2/inlets"), set("/leads", "[]"), set("/card/plugs", "[]"))},
		{"unknown", "nothing said of supplies",
			all(drop("/supplies"), drop("/leads"), drop("/host/supply"))},
	}},
	{"power.pins", []ruleCase{
		{
			"danger", "a wire of one's own from supply to ground",
			all(made(`,"fuse_a":15`), set("/leads/1/wires/3", `{"from_end":1,"from_pin":1,"to_end":1,"to_pin":5}`)),
		},
		{
			"blocked", "a wire of one's own to a pin that is not there",
			all(made(`,"fuse_a":15`), set("/leads/1/wires/3", `{"from_end":1,"from_pin":9,"to_end":1,"to_pin":5}`)),
		},
		{
			"blocked", "no ground among the wires",
			all(made(`,"fuse_a":15`), set("/leads/1/wires", `[{"from_end":1,"from_pin":1,"to_end":1,"to_pin":1}]`)),
		},
		{"quiet", "wired as it should be", made(`,"fuse_a":15`)},
		{
			"danger", "maps of a proprietary plug and socket that do not agree",
			ownPlug(`[{"carries":"supply"},{"carries":"ground"}]`, `[{"carries":"ground"},{"carries":"supply"}]`),
		},
		{
			"unknown", "a wire from a proprietary plug that nobody read",
			all(made(""), set("/leads/1/from/0/connector", `"proprietary"`), set("/supplies/1/outlets/3/connector", `"proprietary"`)),
		},
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
		{
			"unknown", "a processor lead into a card plug that nobody described",
			all(
				set("/leads/1/from/0/at", `"cpu"`), drop("/leads/1/from/0/connector"), drop("/leads/1/to/0/connector"),
				drop("/card/plugs/0/connector"),
			),
		},
		{
			"danger", "a map in the shell of a card 8-pin with ground on its first pin",
			ownShell(`"shell":"card-8","pins":[{"carries":"ground"}]`),
		},
		{
			"quiet", "a map in that shell that agrees",
			ownShell(`"shell":"card-8","pins":[{"carries":"supply"},{"carries":"supply"},{"carries":"supply"},{"carries":"sense"},{"carries":"ground"}]`),
		},
		{
			"danger", "5 V standby where 12 V standby is told",
			ownPlug(`[{"carries":"standby","reads_v":5}]`, `[{"carries":"standby","reads_v":12}]`),
		},
	}},
	{"power.card", []ruleCase{
		{"danger", "75 + 150 W exceeded", boardPower("226")},
		{"quiet", "exactly 225 W", boardPower("225")},
		{"danger", "a sensor showed 226", set("/load_readings", `[{"card_w":226}]`)},
		{"danger", "a sensor showed 226 during a run", set("/runs", `[{"name":"a","side":"after","card_w":226}]`)},
		{"quiet", "another card took 226 before", set("/runs", `[{"name":"a","side":"before","card_w":226}]`)},
		{"asked by power.connector", "board power", drop("/card/power_w")},
		{"unknown", "six or eight at a plug of the card nobody looked at", all(boardPower("151"), drop("/card/plugs/0/connector"))},
		{"quiet", "exactly what six give", all(boardPower("150"), drop("/card/plugs/0/connector"))},
		{"unknown", "six or eight at the lead's end", all(boardPower("151"), drop("/leads/1/to/0/connector"))},
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
		{
			"danger", "5.5 A through an extension whose free end states 2",
			all(
				set("/route/stages/2/inlets/3/current_a", "10"), set("/supplies/1/outlets/7/current_a", "10"),
				set(
					"/leads/0",
					`{"name":"ext","from":[{"part":"main","at":"round","connector":"barrel"}],"to":[{"at":"free","connector":"barrel","current_a":2}]}`,
				),
				set(
					"/leads/-",
					`{"name":"dc","from":[{"part":"ext","at":"free","connector":"barrel"}],"to":[{"part":"dock","at":"round","connector":"barrel"}]}`,
				),
			),
		},
		{
			"quiet", "6.4 A through a barrel printed with 6.36",
			all(
				dockOn("round", "barrel", "round", "barrel"), set("/route/stages/2/inlets/3/current_a", "6.36"),
				set("/supplies/1/outlets/7/current_a", "6.36"),
			),
		},
		{
			"unknown", "an eight-pin at an inlet that nobody described",
			all(
				dockOn("c2", "card-8", "in 6", "card-6"), set("/leads/0/to/0/connector", `"card-8"`),
				drop("/route/stages/2/inlets/2/connector"),
			),
		},
		{
			"quiet", "what hangs on a lead that is plugged into nothing",
			all(dockOn("round", "barrel", "round", "barrel"), set("/leads/0/from", `[{"connector":"barrel"}]`)),
		},
		{
			"unknown", "6.4 A through a plug of its maker's own that states nothing",
			ownPlug(`[{"carries":"supply"},{"carries":"ground"}]`, `[{"carries":"supply"},{"carries":"ground"}]`),
		},
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
				set(
					"/leads/2",
					`{"name":"chain","owned":true,"from":[{"part":"main","at":"d1","connector":"disk-15"}],"to":[{"at":"x","connector":"disk-15"},{"at":"y","connector":"disk-15"}]}`,
				),
				set("/leads/1/from", `[{"part":"chain","at":"x","connector":"disk-15"},{"part":"chain","at":"y","connector":"disk-15"}]`),
			)},
		{"quiet", "two peripheral plugs carry 264 W",
			set("/leads/1/from", `[{"part":"main","at":"p2","connector":"peripheral-4"},{"part":"main","at":"c2","connector":"card-8"}]`)},
		{"unknown", "board power",
			all(set("/leads/1/from", `[{"part":"main","at":"d1","connector":"disk-15"}]`), drop("/card/power_w"))},
		{
			"quiet", "nothing flows from a dock that nothing feeds",
			all(
				drop("/leads/0"), set("/route/stages/2/outlets", `[{"name":"o","connector":"card-8"}]`),
				set("/leads/0/from", `[{"part":"dock","at":"o"}]`),
			),
		},
	}},
	{"power.rail", []ruleCase{
		{"unknown", "the voltage of a rail", drop("/supplies/1/rails/0/voltage_v")},
		{
			"blocked", "more than the 12 V rails together, of a rail that carries it",
			all(set("/supplies/1/rails/0/current_a", "30"), set("/supplies/1/combined_12v_w", "100")),
		},
		{"quiet", "within the 12 V rails together", set("/supplies/1/combined_12v_w", "200")},
		{"blocked", "120 W from 9 A", set("/supplies/1/rails/0/current_a", "9")},
		{"blocked", "9.9 W at 3.3 V through the main plug from 2 A", mainDock("2")},
		{"quiet", "9.9 W at 3.3 V from 3 A", mainDock("3")},
		{"quiet", "121 W from 10.2 A, but little is left", set("/supplies/1/rails/0/current_a", "10.2")},
		{"unknown", "rail without current", drop("/supplies/1/rails/0/current_a")},
		{
			"unknown", "an ATX-style supply of which no rail of 12 V is listed",
			set("/supplies/1/rails", `[{"name":"5V","voltage_v":5,"current_a":15}]`),
		},
		{"quiet", "120 W from 12 V that is printed as 10.11 A", all(set("/supplies/1/rails/0/current_a", "10.11"), boardPower("120"))},
		{
			"blocked", "a rail that is told of a supply whose rating is not",
			all(drop("/supplies/1/rating_w"), set("/supplies/1/rails/0/current_a", "9")),
		},
	}},
	{"power.total", []ruleCase{
		{"blocked", "121.35 of 121 W", set("/supplies/1/rating_w", "121")},
		{"quiet", "121.35 of 121.4 W", set("/supplies/1/rating_w", "121.4")},
		{"quiet", "the host's draw: its own brick is left alone", drop("/host/power_w")},
		{"unknown", "the host's draw, of the supply that feeds the card too",
			all(set("/host/supply", `"main"`), drop("/host/power_w"))},
		{"unknown", "board power", all(set("/supplies/1/rating_w", "150"), drop("/card/power_w"))},
		{
			"quiet", "a dock and a plug of the card on one supply: its watts are shared",
			all(boardPower("225"), set("/supplies/1/rating_w", "227")),
		},
		{
			"unknown", "a board power of 120 ± 10 W on 125 W",
			all(set("/card/power_w", `{"value":120,"tolerance":10}`), set("/supplies/1/rating_w", "125")),
		},
		{
			"unknown", "what the host loses from a brick of which the voltage is not told",
			all(hostSlot, boardPower("46"), drop("/supplies/0/rails/0/voltage_v")),
		},
		{
			"unknown", "76 W from a brick of which nobody read the rating",
			all(
				dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/kind", `"brick"`), drop("/supplies/1/rating_w"),
				drop("/supplies/1/rails"), set("/supplies/1/outlets/7/voltage_v", "12"),
			),
		},
	}},
	{"power.headroom", []ruleCase{
		{"quiet", "the host's own brick as delivered", set("/supplies/0/rating_w", "75")},
		{
			"risk", "the same under a raised processor",
			all(
				set("/supplies/0/rating_w", "75"), set("/host/processor", `{"altered":true}`),
				set("/host/power_w", `{"value":70,"source":"measured"}`),
			),
		},
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
		{
			"quiet", "nothing is told, and the host's board is joined",
			all(
				set("/supplies/1/turn_on", `"none"`), set("/supplies/1/outlets/-", `{"name":"main","connector":"main-24"}`),
				toHost("main", "main-24"),
			),
		},
		{
			"unknown", "nothing is told, and a lead that nobody described joins the host's board",
			all(
				set("/supplies/1/turn_on", `"none"`), drop("/host/supply"), set("/supplies/1/outlets/-", `{"name":"own"}`),
				set("/leads/-", `{"name":"l","owned":true,"from":[{"part":"main","at":"own"}],"to":[{"part":"host"}]}`),
			),
		},
		{
			"quiet", "a supply of its maker's own that has no such contact",
			all(set("/supplies/1/kind", `"proprietary"`), set("/supplies/1/turn_on", `"none"`)),
		},
	}},
	{"power.fuse", []ruleCase{
		{"risk", "none", made("")},
		{"quiet", "15 A before 21 A of wire", made(`,"fuse_a":15`)},
		{"risk", "25 A before 21 A of wire", made(`,"fuse_a":25`)},
		{"risk", "5 A for the 6.25 A that flow", made(`,"fuse_a":5`)},
		{
			"asked by power.pins", "what its pins are",
			all(
				made(`,"fuse_a":15`), set("/leads/1/from/0/connector", `"proprietary"`),
				set("/supplies/1/outlets/3/connector", `"proprietary"`),
			),
		},
	}},
	{"power.harness", []ruleCase{
		{"note", "nothing measured", made(`,"fuse_a":15`)},
		{"quiet", "a lead its maker wired", set("/leads/1/gauge_awg", "18")},
		{
			"quiet", "every line ticked",
			made(
				`,"fuse_a":15,"meter_ticked":["wire 1/1 1/1","wire 1/2 1/2","wire 1/3 1/3","wire 1/5 1/5","wire 1/7 1/7","wire 1/8 1/8","short 1","volts 1/1","volts 1/2","volts 1/3"]`,
			),
		},
		{
			"asked by power.pins", "what its pins are",
			all(made(""), set("/leads/1/from/0/connector", `"proprietary"`), set("/supplies/1/outlets/3/connector", `"proprietary"`)),
		},
	}},
	{"power.order", []ruleCase{
		{"risk", "the host first", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"host-first"}`))},
		{"quiet", "the dock first", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"dock-first"}`))},
		{"quiet", "both by one switch", all(set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"together"}`))},
		{"quiet", "a switch that follows the host, whatever a person does first",
			all(set("/supplies/1/turn_on", `"switch-board"`), set("/sizing", `{"switch_on":"host-first"}`))},
		{
			"risk", "both by one switch, of a supply that takes 1150 ± 250 ms",
			all(
				set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"together"}`),
				set("/supplies/1/up_ms", `{"value":1150,"tolerance":250}`),
			),
		},
		{
			"quiet", "both by one switch, of a supply that takes 1200 ms at the most",
			all(
				set("/supplies/1/turn_on", `"jumper"`), set("/sizing", `{"switch_on":"together"}`),
				set("/supplies/1/up_ms", `{"value":1100,"tolerance":100}`),
			),
		},
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
		{
			"danger", "19 V into the dock's round plug",
			all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", "19")),
		},
		{"danger", "5 V on a 12 V contact", set("/supplies/1/outlets/0/rail", `"5V"`)},
		{
			"danger", "12 V into a host that takes 19",
			all(set("/host/inlets", `[{"name":"round","connector":"barrel","voltage_v":19}]`), toHost("round", "barrel")),
		},
		{
			"quiet", "19 V into a dock that says so",
			all(
				dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", "19"),
				set("/route/stages/2/inlets/3/voltage_v", "19"),
			),
		},
		{"quiet", "12 V into the dock's round plug", dockOn("round", "barrel", "round", "barrel")},
		{
			"unknown", "one rail was read, and nobody says of what",
			all(drop("/supplies/1/kind"), set("/supplies/1/rails", `[{"name":"5V","voltage_v":5,"current_a":15}]`)),
		},
		{
			"unknown", "a brick without a label",
			all(set("/supplies/1/kind", `"brick"`), drop("/supplies/1/rails"), dockOn("round", "barrel", "round", "barrel")),
		},
		{"unknown", "what the host takes", all(drop("/host/supply"), toHost("round", "barrel"))},
		{
			"danger", "19 V, give or take one",
			all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", `{"value":19,"tolerance":1}`)),
		},
		{
			"unknown", "15 V, give or take three",
			all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", `{"value":15,"tolerance":3}`)),
		},
		{
			"quiet", "12 V, give or take a half",
			all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/voltage_v", `{"value":12,"tolerance":0.5}`)),
		},
		{
			"unknown", "a dock that takes 15 V, give or take three",
			all(dockOn("round", "barrel", "round", "barrel"), set("/route/stages/2/inlets/3/voltage_v", `{"value":15,"tolerance":3}`)),
		},
	}},
	{"power.contract", []ruleCase{
		{"danger", "12 V on a USB-C plug", all(drop("/host/supply"), toHost("c2", "card-8"), set("/leads/2/to/0/connector", `"usb-c"`))},
		{
			"blocked", "70 W from a contract of 60",
			all(
				drop("/host/supply"), toHost("c", "usb-c"),
				set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c","voltage_v":20,"current_a":3}`),
			),
		},
		{
			"quiet", "5 V on a USB-C plug",
			all(drop("/host/supply"), toHost("c", "usb-c"), set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c","voltage_v":5}`)),
		},
		{"blocked", "a board that asks for 12 V of a charger without", all(
			dockOn("c", "usb-c", "round", "barrel"), set("/leads/0/asks_v", "12"),
			usbCharger("100", `{"name":"9","voltage_v":9,"current_a":3},{"name":"20","voltage_v":20,"current_a":5}`),
		)},
		{"unknown", "a board that asks for 12 V, of a charger whose label nobody read", all(
			dockOn("c", "usb-c", "round", "barrel"), set("/leads/0/asks_v", "12"), usbCharger("100", ""),
		)},
		{"unknown", "a board that asks for 12 V, and a rail without a voltage", all(
			dockOn("c", "usb-c", "round", "barrel"), set("/leads/0/asks_v", "12"), usbCharger("100", `{"name":"9","voltage_v":9},{"name":"?"}`),
		)},
		{"quiet", "a board that asks for 12 V of a charger that lists it", all(
			dockOn("c", "usb-c", "round", "barrel"), set("/leads/0/asks_v", "12"),
			usbCharger("200", `{"name":"9","voltage_v":9,"current_a":3},{"name":"12","voltage_v":12,"current_a":15}`),
		)},
		{
			"unknown", "what asks for 12 V",
			all(dockOn("c", "usb-c", "round", "barrel"), set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c","voltage_v":12}`)),
		},
	}},
	{"power.backfeed", []ruleCase{
		{
			"danger", "two supplies on one dock",
			all(
				set("/supplies/0/outlets", `[{"name":"plug","connector":"barrel","voltage_v":12}]`),
				set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"brick","at":"plug"}],"to":[{"part":"dock","at":"round"}]}`),
			),
		},
		{
			"danger", "two supplies on one lead",
			all(
				set("/supplies/0/outlets", `[{"name":"plug","connector":"card-8"}]`),
				set("/leads/1/from/-", `{"part":"brick","at":"plug"}`),
			),
		},
		{"danger", "two supplies at the host", toHost("cpu", "cpu-8")},
		{
			"quiet", "one supply by two leads",
			set(
				"/leads/-",
				`{"name":"r","owned":true,"from":[{"part":"main","at":"c2","connector":"card-8"}],"to":[{"part":"dock","at":"in 6","connector":"card-6"}]}`,
			),
		},
		{"unknown", "does the riser pass its slot's power on?", poweredRiser("")},
		{"danger", "a riser that does", poweredRiser(`,"passes_power":true`)},
		{"quiet", "a riser that does not", poweredRiser(`,"passes_power":false`)},
		{
			"danger", "two supplies at one plug of the card",
			all(
				set("/supplies/0/outlets", `[{"name":"plug","connector":"card-8","voltage_v":12}]`),
				set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"brick","at":"plug"}],"to":[{"part":"card","at":"A"}]}`),
			),
		},
		{"quiet", "a supply in the bay in place of the one that is listed", all(set("/supplies/1/in_bay", "true"), toHost("cpu", "cpu-8"))},
	}},
	{"power.socket", []ruleCase{
		{
			"blocked", "two plugs in one inlet",
			set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"main","at":"p2"}],"to":[{"part":"dock","at":"in"}]}`),
		},
		{
			"blocked", "two plugs in one outlet",
			set(
				"/leads/-",
				`{"name":"r","owned":true,"from":[{"part":"main","at":"c1","connector":"card-8"}],"to":[{"part":"dock","at":"in 6","connector":"card-6"}]}`,
			),
		},
		{
			"quiet", "two inlets",
			set("/leads/-", `{"name":"r","owned":true,"from":[{"part":"main","at":"d1"}],"to":[{"part":"dock","at":"in 2"}]}`),
		},
		{"asked by power.unfed", "no lead told", all(drop("/supplies"), drop("/leads"), drop("/host/supply"))},
	}},
	{"power.nameplate", []ruleCase{
		{"unknown", "altered, and its nameplate entered", set("/card/altered", "true")},
		{"unknown", "a raised processor, and the host's draw entered", set("/host/processor", `{"altered":true}`)},
		{
			"quiet", "a raised processor, and the host measured",
			all(set("/host/processor", `{"altered":true}`), set("/host/power_w", `{"value":65,"source":"measured"}`)),
		},
		{"quiet", "altered, and measured", all(set("/card/altered", "true"), set("/card/power_w", `{"value":140,"source":"measured"}`))},
	}},
	{"power.one-cable", []ruleCase{
		{"risk", "205 W for two plugs", all(twoPlugs, boardPower("250"))},
		{"danger", "300 W for two plugs", all(twoPlugs, boardPower("375"))},
		{"quiet", "150 W for two plugs", all(twoPlugs, boardPower("195"))},
		{"asked by power.connector", "which plug the lead goes to",
			all(
				twoPlugs, boardPower("250"), set("/leads/1/to", `[{"part":"card"}]`),
				set("/leads/2", `{"name":"l","owned":true,"from":[{"part":"main","at":"c2"}],"to":[{"part":"card"}]}`),
			)},
		{"asked by power.connector", "board power", all(twoPlugs, drop("/card/power_w"))},
	}},
	{"power.wire", []ruleCase{
		{"danger", "2.1 A through each of three wires of AWG 24", set("/leads/1/gauge_awg", "24")},
		{"quiet", "the same through AWG 22", set("/leads/1/gauge_awg", "22")},
		{
			"unknown", "6.3 A through the one wire of an adapter",
			set("/leads/1/from", `[{"part":"main","at":"p2","connector":"peripheral-4"}]`),
		},
	}},
	{"power.drop", []ruleCase{
		{"risk", "two metres of thin wire", all(set("/leads/0/gauge_awg", "24"), set("/leads/0/length_mm", "2000"))},
		{"quiet", "half a metre of AWG 18", all(set("/leads/0/gauge_awg", "18"), set("/leads/0/length_mm", "500"))},
		{
			"asked by power.connector", "board power",
			all(set("/leads/0/gauge_awg", "24"), set("/leads/0/length_mm", "2000"), drop("/card/power_w")),
		},
		{
			"risk", "a metre to the dock and a metre on, each of them within the limit",
			all(
				set("/leads/0/gauge_awg", "22"), set("/leads/0/length_mm", "1000"),
				set("/route/stages/2/outlets", `[{"name":"o","connector":"card-8"}]`),
				set("/leads/1/from", `[{"part":"dock","at":"o"}]`), set("/leads/1/gauge_awg", "22"), set("/leads/1/length_mm", "1500"),
			),
		},
		{"unknown", "two metres of which nobody told the gauge", set("/leads/0/length_mm", "2000")},
	}},
	{"power.spike", []ruleCase{
		{"risk", "twice 120 W from 160 W of any design", set("/supplies/1/rating_w", "160")},
		{"quiet", "the same from 400 W", set("/supplies/1/rating_w", "400")},
		{"quiet", "spikes are not asked for", all(set("/supplies/1/rating_w", "160"), set("/sizing", `{"policy":"share"}`))},
		{"risk", "175 W of an older design", all(set("/supplies/1/rating_w", "175"), set("/supplies/1/class", `"older"`))},
		{"unknown", "175 W of which design?", set("/supplies/1/rating_w", "175")},
		{
			"risk", "of a rail, while the rating is not told",
			all(drop("/supplies/1/rating_w"), set("/supplies/1/rails/0/current_a", "12"), set("/supplies/1/class", `"older"`)),
		},
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
		{
			"blocked", "2.5 mm into 2.1",
			all(
				dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/barrel_mm", `"5.5x2.5"`),
				set("/route/stages/2/inlets/3/barrel_mm", `"5.5x2.1"`),
			),
		},
		{
			"danger", "the centre of one is ground",
			all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/centre_negative", "true")),
		},
		{
			"quiet", "like in like",
			all(
				dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/barrel_mm", `"5.5x2.5"`),
				set("/route/stages/2/inlets/3/barrel_mm", `"5.5x2.5"`),
			),
		},
		{
			"unknown", "the socket's size",
			all(dockOn("round", "barrel", "round", "barrel"), set("/supplies/1/outlets/7/barrel_mm", `"5.5x2.5"`)),
		},
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
	{"power.cap", []ruleCase{
		{"note", "four fifths of its power", set("/card/cap_w", "96")},
		{"risk", "without it the card is beyond its plugs", all(boardPower("300"), set("/card/cap_w", "150"))},
		{"quiet", "exactly its power", set("/card/cap_w", "120")},
		{"quiet", "above its power", set("/card/cap_w", "121")},
		{"note", "its power not told", all(drop("/card/power_w"), set("/card/cap_w", "96"))},
		{"else quiet", "none is told", drop("/card/price")},
	}},
	{"power.strip", []ruleCase{
		{"danger", "more than it carries", strip(100, "")},
		{"risk", "perhaps more", strip(135, "")},
		{"quiet", "it carries it", strip(3500, "")},
		{"danger", "by way of another", all(strip(3500, "second"), set("/brief/living/strips/-", `{"name":"second","most_w":100}`))},
		{
			"risk",
			"a strip in a strip",
			all(strip(3500, "long strip"), set("/brief/living/strips/-", `{"name":"long strip","most_w":3500,"wall_socket":false}`)),
		},
		{
			"quiet",
			"in a wall socket that is told",
			all(strip(3500, "wall"), set("/brief/living/strips/-", `{"name":"wall","most_w":3500,"wall_socket":true}`)),
		},
		{"unknown", "in what may be another strip", all(strip(3500, "wall"), set("/brief/living/strips/-", `{"name":"wall","most_w":3500}`))},
		{"danger", "more than it carries, as far as it is known", all(strip(60, ""), set("/supplies/0/on_strip", `"strip"`),
			drop("/host/power_w"))},
		{"unknown", "what another supply on it takes", all(strip(3500, ""), set("/supplies/0/on_strip", `"strip"`), drop("/host/power_w"))},
		{"unknown", "what it carries", all(set("/supplies/1/on_strip", `"strip"`), set("/brief/living", `{"strips":[{"name":"strip"}]}`))},
		{"quiet", "nothing hangs on it", set("/brief/living", `{"strips":[{"name":"strip","most_w":1}]}`)},
	}},
	{"power.header", []ruleCase{
		{"blocked", "nothing is left", set("/chamber/fans", `[{"name":"side fan","fed_by":"none"}]`)},
		{"blocked", "a drive with nothing left", set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay","fed_by":"none"}]`)},
		{"blocked", "no header is free", all(headers("case fan"), set("/chamber/fans", `[{"name":"side fan","fed_by":"header"}]`))},
		{"blocked", "its header is taken", all(headers("case fan"),
			set("/chamber/fans", `[{"name":"side fan","fed_by":"header","header":"fan 1"}]`))},
		{
			"blocked",
			"two on one header",
			all(
				headers(""),
				set("/chamber/fans", `[{"name":"side fan","fed_by":"header","header":"fan 1"},{"name":"top fan","fed_by":"header","header":"fan 1"}]`),
			),
		},
		{"quiet", "one header for one fan", all(headers(""), set("/chamber/fans", `[{"name":"side fan","fed_by":"header"}]`))},
		{"quiet", "it hangs there already", all(headers("side fan"),
			set("/chamber/fans", `[{"name":"side fan","fed_by":"header","header":"fan 1"}]`))},
		{"quiet", "an old disk plug", set("/chamber/fans", `[{"name":"side fan","fed_by":"peripheral-4"}]`)},
		{"unknown", "nobody looked", set("/chamber/fans", `[{"name":"side fan"}]`)},
		{"unknown", "no header is free, its feed not told", all(headers("case fan"), set("/chamber/fans", `[{"name":"side fan"}]`))},
	}},
	{"power.board", []ruleCase{
		{"blocked", "no lead turns into it", all(boardMain(`"board_plug":"maker-6"`), set("/supplies/1/in_bay", "true"))},
		{"blocked", "made for another board", all(boardMain(`"board_plug":"maker-6","standby_v":5`), turned(`"made_for":["another"]`))},
		{"blocked", "another standby voltage", all(boardMain(`"board_plug":"maker-6","standby_v":12`), turned(`"made_for":["box"]`))},
		{"quiet", "the lead makes it", all(boardMain(`"board_plug":"maker-6","standby_v":12`), turned(`"made_for":["box"],"standby_v":12`))},
		{"quiet", "the supply's own standby", all(boardMain(`"board_plug":"maker-8","standby_v":5`), turned(`"made_for":["box"]`))},
		{"quiet", "it wants none", all(boardMain(`"board_plug":"processor-4","standby_v":0`), turned(`"made_for":["board main"]`))},
		{"note", "its clip is turned", all(boardMain(`"board_plug":"maker-8","standby_v":5,"clip_turned":true`), turned(`"made_for":["box"]`))},
		{"unknown", "what the lead is made for", all(boardMain(`"board_plug":"maker-6","standby_v":5`), turned(`"owned":true`))},
		{"unknown", "the standby voltage", all(boardMain(`"board_plug":"maker-6"`), turned(`"made_for":["box"]`))},
		{"quiet", "the standard plug", all(boardMain(`"board_plug":"standard-24"`), set("/supplies/1/in_bay", "true"))},
		{"quiet", "the host keeps its own supply", boardMain(`"board_plug":"maker-6"`)},
	}},
}

// strip is the outlet strip of the main supply, in a socket.
func strip(most int, on string) string {
	return all(set("/supplies/1/on_strip", `"strip"`), set("/brief/living", fmt.Sprintf(`{"strips":[{"name":"strip","most_w":%d,"on":%q}]}`,
		most, on)))
}

// headers are one header of the host's board, with what hangs on it.
func headers(used string) string {
	return set("/host/headers", fmt.Sprintf(`[{"name":"fan 1","used_by":%q}]`, used))
}

// boardMain is the plug of the host's board; turned the lead that turns into it.
func boardMain(facts string) string {
	return set("/host/inlets", `[{"name":"board main","connector":"proprietary",`+facts+`}]`)
}

func turned(facts string) string {
	return set(
		"/leads/-",
		`{"name":"turned","from":[{"part":"main","at":"cpu","connector":"cpu-8"}],"to":[{"part":"host","at":"board main","connector":"proprietary"}],`+facts+`}`,
	)
}

// usbCharger makes the main supply a USB-C charger with one outlet, c.
func usbCharger(rating, rails string) string {
	return all(set("/supplies/1/kind", `"usb-c"`), set("/supplies/1/rating_w", rating), set("/supplies/1/rails", "["+rails+"]"),
		set("/supplies/1/outlets/-", `{"name":"c","connector":"usb-c"}`))
}
