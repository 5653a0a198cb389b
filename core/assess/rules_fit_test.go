package assess_test

// fitCases are the cases of the rules of fit and heat.
var fitCases = []casesOf{
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
		{
			"blocked", "into the cage for certain, whatever the card's thickness",
			all(set("/card/length_mm", "251"), drop("/card/thickness_mm")),
		},
		{"quiet", "0.0004 mm into the cage is touching", exactly("250.0004")},
		{
			"blocked", "9 mm deep in what holds it",
			all(
				set(
					"/chamber/things/-",
					`{"name":"slot","at":{"x_mm":40,"y_mm":0,"z_mm":30},"size":{"x_mm":90,"y_mm":9,"z_mm":9},"holds_card":true}`,
				),
				set("/chamber/card_at/y_mm", "0"),
			),
		},
		{
			"quiet", "8.5 mm deep in what holds it",
			all(
				set(
					"/chamber/things/-",
					`{"name":"slot","at":{"x_mm":40,"y_mm":0,"z_mm":30},"size":{"x_mm":90,"y_mm":8.5,"z_mm":9},"holds_card":true}`,
				),
				set("/chamber/card_at/y_mm", "0"),
			),
		},
		{
			"quiet", "a thing wholly beyond the bracket's wall",
			set("/chamber/things/-", `{"name":"foot","at":{"x_mm":-30,"y_mm":0,"z_mm":0},"size":{"x_mm":30,"y_mm":300,"z_mm":300}}`),
		},
		{"quiet", "size of the cage behind its face: it cannot matter", drop("/chamber/things/0/size/x_mm")},
		{"unknown", "where the cage is", drop("/chamber/things/0/at/x_mm")},
		{
			"blocked", "longer than the papers allow, nothing else told",
			set("/chamber", `{"takes":{"length_mm":190,"height_mm":120,"thickness_mm":45},"opening":{"height":"full","slots":2}}`),
		},
		{
			"quiet", "as long as the papers allow, nothing else told",
			set("/chamber", `{"takes":{"length_mm":202,"height_mm":120,"thickness_mm":45},"opening":{"height":"full","slots":2}}`),
		},
		{
			"unknown", "how thick a card may be",
			set("/chamber", `{"takes":{"length_mm":210,"height_mm":120},"opening":{"height":"full","slots":2}}`),
		},
		{"unknown", "no chamber", drop("/chamber")},
	}},
	{"fit.lid", []ruleCase{
		{
			"note", "an intrusion switch under a raised cover",
			all(set("/chamber/covers/0/intrusion_switch", "true"), set("/chamber/covers/0/raised_mm", "6")),
		},
		{"quiet", "a switch that is pressed", set("/chamber/covers/0/intrusion_switch", "true")},
		{"note", "the lid may stay off",
			all(set("/card/height_mm", "136"), set("/brief/covers_off", `["lid"]`))},
		{"quiet", "the lid closes", set("/brief/covers_off", `["lid"]`)},
		{"blocked", "the lid turns into the card", hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":145},"opens_deg":-90}`)},
		{
			"note", "and may stay off",
			all(hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":145},"opens_deg":-90}`), set("/brief/covers_off", `["lid"]`)),
		},
		{"quiet", "the lid turns out of the case", hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":150},"opens_deg":110}`)},
		{"unknown", "how far the lid turns", hinged(`{"axis":"z","at":{"x_mm":0,"y_mm":145}}`)},
		{"unknown", "where its hinge is", hinged(`{"axis":"z","at":{"x_mm":0},"opens_deg":-90}`)},
		{"blocked", "a cover that slides in", slides(`{"axis":"y","by_mm":-40}`)},
		{"quiet", "a cover that slides out", slides(`{"axis":"x","by_mm":-300}`)},
		{"asked by fit.card", "where the lid is", drop("/chamber/covers/0/at/y_mm")},
	}},
	{"fit.plug", []ruleCase{
		{"blocked", "25 mm behind the plug, and 23 to the lid", all(set("/card/plugs/0/side", `"top"`), set("/card/height_mm", "112"))},
		{
			"quiet", "25 mm to the lid for a plug that ends with the card",
			set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0}]`),
		},
		{"blocked", "8 mm more of plug", set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":8}]`)},
		{
			"blocked", "35 mm for a 16-pin",
			set("/card/plugs", `[{"name":"A","connector":"card-16","sense_w":600,"side":"top","stands_out_mm":0}]`),
		},
		{"quiet", "50 mm behind its end", set("/card/plugs", `[{"name":"A","connector":"card-8","side":"end"}]`)},
		{"unknown", "how far the plug stands out", set("/card/plugs/0/side", `"top"`)},
		{
			"quiet", "a beam over the card, away from the plug",
			all(
				set("/chamber/things/-", beam),
				set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0,"at_mm":150}]`),
			),
		},
		{
			"blocked", "a beam over the plug",
			all(
				set("/chamber/things/-", beam),
				set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0,"at_mm":60}]`),
			),
		},
		{
			"unknown", "where the plug is under the beam",
			all(set("/chamber/things/-", beam), set("/card/plugs", `[{"name":"A","connector":"card-8","side":"top","stands_out_mm":0}]`)),
		},
	}},
	{"fit.supply", []ruleCase{
		{
			"risk", "on its side, and not made for it",
			all(set("/supplies/1/one_way_up", "true"), set("/supplies/1/stands_that_way", "false")),
		},
		{"quiet", "the right way up", all(set("/supplies/1/one_way_up", "true"), set("/supplies/1/stands_that_way", "true"))},
		{"unknown", "how it stands", set("/supplies/1/one_way_up", "true")},
		{"blocked", "ATX in a bay for TFX", all(set("/supplies/1/in_bay", "true"), set("/host/supply_bay", `"tfx"`))},
		{
			"quiet", "SFX in a bay for ATX",
			all(set("/supplies/1/in_bay", "true"), set("/supplies/1/kind", `"sfx"`), set("/host/supply_bay", `"atx"`)),
		},
		{"quiet", "it stands outside", set("/host/supply_bay", `"tfx"`)},
		{"unknown", "what the bay takes", set("/supplies/1/in_bay", "true")},
		{
			"blocked", "181 mm deep in a bay for 180",
			all(inBay, set("/supplies/1/depth_mm", "181"), set("/host/supply_bay_depth_mm", "180")),
		},
		{"quiet", "exactly as deep as its bay", all(inBay, set("/supplies/1/depth_mm", "180"), set("/host/supply_bay_depth_mm", "180"))},
		{"unknown", "how deep the bay is", all(inBay, set("/supplies/1/depth_mm", "180"))},
		{"unknown", "how deep the supply is", all(inBay, set("/host/supply_bay_depth_mm", "180"))},
	}},
	{"fit.displaced", []ruleCase{
		{
			"note", "the cage comes out",
			all(set("/chamber/things/0/comes_out", "true"), set("/chamber/things/0/loses", `"the optical drive"`)),
		},
		{"quiet", "it stays", set("/chamber/things/0/comes_out", "false")},
		{"else quiet", "whether it stays", set("/card/length_mm", "200")},
	}},
	{"fit.exit", []ruleCase{
		{"blocked", "none", set("/route/stages/1/exit", `"none"`)},
		{"blocked", "a cover that may not stay off", set("/route/stages/1/exit", `"cover-off"`)},
		{"quiet", "a cover that may", all(set("/route/stages/1/exit", `"cover-off"`), set("/brief/covers_off", `["lid"]`))},
		{
			"quiet", "a cut that is listed",
			all(
				set("/route/stages/1/exit", `"cut"`),
				set("/alterations", `[{"name":"a hole in the spare cover","touches":"spare-cover"}]`),
			),
		},
		{
			"blocked", "a cut in what the brief protects",
			all(set("/route/stages/1/exit", `"cut"`), set("/alterations", `[{"name":"a hole in the cover","touches":"cover"}]`)),
		},
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
		{
			"blocked", "the second of two layers",
			through(
				`{"width_mm":30,"height_mm":12}`,
				`{"name":"cover","width_mm":35,"height_mm":14},{"name":"shield","width_mm":35,"height_mm":11}`,
			),
		},
		{"quiet", "with room to spare", through(`{"width_mm":30,"height_mm":12}`, `{"name":"cover","width_mm":35,"height_mm":14}`)},
		{
			"quiet", "30 by 2 through 28 by 20, at a slant",
			through(`{"width_mm":30,"height_mm":2}`, `{"name":"cover","width_mm":28,"height_mm":20}`),
		},
		{
			"blocked", "30 by 2 through 28 by 14: the slant wants 14.6",
			through(`{"width_mm":30,"height_mm":2}`, `{"name":"cover","width_mm":28,"height_mm":14}`),
		},
		{"unknown", "how high the opening is", through(`{"width_mm":30,"height_mm":12}`, `{"name":"cover","width_mm":32}`)},
		{"blocked", "a socket of 24 by 12 in a blind plate of 20 by 24", inCase(`"width_mm":24,"height_mm":12`,
			`"width_mm":20,"height_mm":11.9`)},
		{"quiet", "exactly as large, turned by a quarter", inCase(`"width_mm":24,"height_mm":12`, `"width_mm":12,"height_mm":24`)},
		{"blocked", "in none of the legs of an angle", inCase(`"width_mm":24,"height_mm":12`, `"outline":`+angle("11.9"))},
		{"quiet", "in one of them, exactly", inCase(`"width_mm":24,"height_mm":12`, `"outline":`+angle("12"))},
		{"unknown", "a corner of the angle", inCase(`"width_mm":24,"height_mm":12`, `"width_mm":40,"height_mm":40,"outline":`+
			angle(`"unknown"`))},
		{"unknown", "how wide the socket is", inCase(`"height_mm":12`, `"width_mm":20,"height_mm":24`)},
		{"unknown", "how high the socket is", inCase(`"width_mm":24`, `"width_mm":20,"height_mm":24`)},
		{"blocked", "however high the socket is", inCase(`"width_mm":25`, `"width_mm":20,"height_mm":24`)},
		{"unknown", "how wide the plate is open", inCase(`"width_mm":24,"height_mm":12`, `"height_mm":24`)},
		{"unknown", "how high the plate is open", inCase(`"width_mm":24,"height_mm":12`, `"width_mm":24`)},
		{"unknown", "which opening it is", set("/route/stages/1/panel_socket", `{"opening":"rear plate"}`)},
	}},
	{"fit.cable", []ruleCase{
		{"blocked", "250 mm for two legs of 150 and a corner: 281.8", laid("5", 0, 0, 150, 0, 150, 150)},
		{"risk", "28.2 mm to spare", laid("5", 0, 0, 120, 0, 120, 120)},
		{"quiet", "68.2 mm to spare", laid("5", 0, 0, 100, 0, 100, 100)},
		{"unknown", "where a corner is", all(laid("5", 0, 0, 100, 0, 100, 100), drop("/route/stages/1/path/1/x_mm"))},
		{"unknown", "how long it is", all(laid("5", 0, 0, 100, 0, 100, 100), drop("/route/stages/1/length_mm"))},
		{
			"blocked", "a lead of 200 mm on a way of 300",
			all(set("/leads/1/length_mm", "200"), set("/leads/1/path", wayOf(-150, 115, 150, 115))),
		},
		{"unknown", "how long the lead is", set("/leads/1/path", wayOf(-150, 115, 150, 115))},
		{"blocked", "straight through the cage", laid("5", 100, 130, 100, 50, 320, 50)},
		{"risk", "2 mm from the cage, 5 mm thick", laid("5", 150, 102, 294, 102)},
		{"quiet", "3 mm from it", laid("5", 150, 103, 294, 103)},
		{
			"unknown", "how thick, and so whether it clears the cage",
			all(laid("5", 150, 103, 294, 103), drop("/route/stages/1/thickness_mm")),
		},
		{
			"unknown", "how thick, and so how tightly it bends: 236 to 266 mm",
			all(laid("5", 0, 0, 134, 0, 134, 134), drop("/route/stages/1/thickness_mm")),
		},
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
		{
			"risk", "55 mm wanted before a wall at 54: straight, bend and thickness",
			all(
				set("/route/stages/1/thickness_mm", "5"), set("/route/stages/1/line", `"twinax"`),
				set("/route/stages/1/at_socket", `{"wall_mm":54}`),
			),
		},
		{
			"quiet", "at 55",
			all(
				set("/route/stages/1/thickness_mm", "5"), set("/route/stages/1/line", `"twinax"`),
				set("/route/stages/1/at_socket", `{"wall_mm":55}`),
			),
		},
		{
			"unknown", "how thick it is, before a wall at 55",
			all(set("/route/stages/1/line", `"twinax"`), set("/route/stages/1/at_plug", `{"wall_mm":55}`)),
		},
		{"risk", "it turns 50 mm before the wall", laid("5", 246, 120, 280, 120, 280, 20)},
		{"quiet", "55 mm before it the wall is not what presses", laid("5", 240, 120, 293, 120, 293, 20)},
		{"quiet", "it goes on through the wall", laid("5", 240, 120, 298, 120, 400, 110)},
		{"risk", "it turns under the lid, 54 above", laid("5", 60, 91, 60, 143.5, 200, 143.5)},
		{"quiet", "under a lid that may stay off", all(set("/brief/covers_off", `["lid"]`), laid("5", 60, 91, 60, 143.5, 200, 143.5))},
		{
			"risk", "it leaves 18 degrees off the way its plug faces, toward the slot's wall",
			all(laid("5", 60, 120, 120, 100), set("/route/stages/1/at_plug", `{"faces":"+x"}`)),
		},
		{"quiet", "14 degrees off it", all(laid("5", 60, 120, 140, 100), set("/route/stages/1/at_plug", `{"faces":"+x"}`))},
		{
			"risk", "a lead bends 20 mm behind its plug",
			all(set("/leads/1/length_mm", "500"), set("/leads/1/path", wayOf(0, 120, 150, 120, 150, 140))),
		},
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
		{
			"risk", "a thing 6 mm before them",
			all(
				set("/card/intake", `"face"`),
				set("/chamber/things/-", `{"name":"loom","at":{"x_mm":20,"y_mm":20,"z_mm":66},"size":{"x_mm":60,"y_mm":30,"z_mm":20}}`),
			),
		},
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
		{
			"risk", "26.6 degrees alone, 6.0 with a pull of 5 N",
			set("/chamber/stand", `{"base_mm":200,"centre_mm":200,"mass_g":2000,"pull_n":5,"pull_at_mm":300}`),
		},
		{"unknown", "how high its centre of mass is", set("/chamber/stand", `{"base_mm":100}`)},
		{"unknown", "what it weighs, with a pull", set("/chamber/stand", `{"base_mm":200,"centre_mm":200,"pull_n":5,"pull_at_mm":300}`)},
	}},
	{"fit.caddy", []ruleCase{
		{"risk", "its caddy is told to be missing", set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay","caddy":false}]`)},
		{
			"risk", "the host's caddy was found broken",
			all(
				set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay"}]`),
				set("/host/condition", `[{"name":"Drive caddy and screws","state":"broken"}]`),
			),
		},
		{
			"quiet", "another one was got for it",
			all(
				set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay","caddy":true}]`),
				set("/host/condition", `[{"name":"drive caddy","state":"missing"}]`),
			),
		},
		{"else quiet", "how the caddy was found", set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay"}]`)},
		{
			"quiet", "it goes on USB",
			all(
				set("/route/displaced", `[{"occupant":"data drive","home":"usb"}]`),
				set("/host/condition", `[{"name":"drive caddy","state":"missing"}]`),
			),
		},
	}},
	{"heat.card", []ruleCase{
		{"risk", "over what is usual", set("/load_readings", `[{"card_c":91}]`)},
		{"risk", "exactly at its own limit", all(set("/card/slows_at_c", "80"), set("/load_readings", `[{"card_c":80}]`))},
		{"blocked", "exactly where it stops", set("/load_readings", `[{"card_c":105}]`)},
		{"risk", "its memory", set("/load_readings", `[{"card_memory_c":105}]`)},
		{"unknown", "where some slow down", set("/load_readings", `[{"card_c":83}]`)},
		{"quiet", "where none does", set("/load_readings", `[{"card_c":82}]`)},
		{"quiet", "under its own limit", all(set("/card/slows_at_c", "93"), set("/load_readings", `[{"card_c":91}]`))},
		{"quiet", "cooler since", set("/load_readings", `[{"card_c":91},{"card_c":70}]`)},
		{"quiet", "another card", set("/load_readings", `[{"card_c":91,"card":"card two"}]`)},
	}},
	{"heat.host", []ruleCase{
		{"risk", "over what is usual", set("/load_readings", `[{"processor_c":101}]`)},
		{"risk", "exactly at its own limit", all(set("/host/processor", `{"slows_at_c":90}`), set("/load_readings", `[{"processor_c":90}]`))},
		{"unknown", "where some slow down", set("/load_readings", `[{"processor_c":95}]`)},
		{"quiet", "where none does", set("/load_readings", `[{"processor_c":94}]`)},
	}},
	{"fit.makeshift", []ruleCase{
		{"risk", "two of four screws", set("/chamber/fans", `[{"name":"side fan","fed_by":"lead","held":{"screws_in":2,"screws_of":4}}]`)},
		{
			"risk",
			"a drive held by tape, which will do",
			set("/route/displaced", `[{"occupant":"data drive","home":"usb","held":{"by":"tape","will_do":true,"why":"it lies flat"}}]`),
		},
		{"risk", "a supply that will not hold", set("/supplies/1/held", `{"by":"ties","will_do":false}`)},
		{"quiet", "all of its screws", set("/chamber/fans", `[{"name":"side fan","fed_by":"lead","held":{"screws_in":4,"screws_of":4}}]`)},
		{"else quiet", "nobody told otherwise", set("/chamber/fans", `[{"name":"side fan","fed_by":"lead","held":{"screws_in":2}}]`)},
	}},
	{"fit.cooler", []ruleCase{
		{"blocked", "higher than the room", cooler(`"mounts":["A"],"height_mm":70,"room_mm":60`)},
		{"quiet", "exactly as high", cooler(`"mounts":["A"],"height_mm":60,"room_mm":60`)},
		{"blocked", "another mount", cooler(`"mounts":["B"],"height_mm":60,"room_mm":60`)},
		{"blocked", "over the card's slot", all(cooler(`"mounts":["A"],"height_mm":60,"room_mm":60,"over_slot_mm":4`),
			set("/chamber/name", `"case"`))},
		{"risk", "the board must come out", cooler(`"mounts":["A"],"height_mm":60,"room_mm":60,"board_out":true`)},
		{"unknown", "its back plate", cooler(`"mounts":["A"],"height_mm":60,"room_mm":60,"back_plate":true`)},
		{"unknown", "its mounts", cooler(`"height_mm":60,"room_mm":60`)},
		{"unknown", "the room", cooler(`"mounts":["A"],"height_mm":60`)},
		{"unknown", "its height", cooler(`"mounts":["A"],"room_mm":60`)},
		{"unknown", "the board's mount", set("/host/cooler", `{"new":true,"mounts":["A"]}`)},
		{"blocked", "a module that nothing cools", set("/card/form", `"mxm"`) + "," + set("/card/cooled_by", `"nothing"`)},
		{"quiet", "a module with a cooler of its own", set("/card/form", `"mxm"`) + "," + set("/card/cooled_by", `"own"`)},
		{"unknown", "what cools a module of 8 W", set("/card/form", `"mxm"`) + "," + boardPower("8")},
		{"quiet", "a module that takes less", set("/card/form", `"mxm"`) + "," + boardPower("7.9")},
		{"quiet", "the host's own", set("/host/cooler", `{"height_mm":70,"room_mm":60}`)},
	}},
	{"heat.case", []ruleCase{
		{"risk", "25 m3/h for 120 W: 30", set("/chamber/airflow_m3_h", "25")},
		{"quiet", "30 m3/h", set("/chamber/airflow_m3_h", "30")},
		{
			"risk", "two fans of 20 m3/h, 26.7 behind their grilles",
			all(drop("/chamber/airflow_m3_h"), set(
				"/chamber/fans",
				`[{"name":"front","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":20},{"name":"rear","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":20}]`,
			)),
		},
		{
			"quiet", "two of 25, 33.3 behind them",
			all(drop("/chamber/airflow_m3_h"), set(
				"/chamber/fans",
				`[{"name":"front","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":25},{"name":"rear","size_mm":120,"holes_apart_mm":105,"airflow_m3_h":25}]`,
			)),
		},
		{"risk", "30 m3/h in a cupboard: 60", all(set("/chamber/airflow_m3_h", "30"), set("/chamber/stands_in", `"cupboard"`))},
		{"quiet", "41 m3/h under a desk: 40", all(set("/chamber/airflow_m3_h", "41"), set("/chamber/stands_in", `"under-desk"`))},
		{"quiet", "20 m3/h, 20 K warmer", all(set("/chamber/airflow_m3_h", "20"), set("/chamber/air_rise_k", "20"))},
		{"unknown", "what the card draws", all(set("/chamber/airflow_m3_h", "100"), drop("/card/power_w"))},
		{"unknown", "where it stands", all(drop("/chamber/airflow_m3_h"), drop("/chamber/stands_in"))},
		{"unknown", "what moves its air, where that stands", drop("/chamber/airflow_m3_h")},
		{
			"unknown", "what moves it in a cupboard, however little",
			all(drop("/chamber/airflow_m3_h"), drop("/chamber/stands_in"), set("/card/power_w", "50"), set("/brief/living", `{"air":"cupboard"}`)),
		},
		{"quiet", "99 W leave by themselves", all(drop("/chamber/airflow_m3_h"), set("/card/power_w", "99"))},
		{"quiet", "a cap leaves 99 W", all(drop("/chamber/airflow_m3_h"), set("/card/cap_w", "99"))},
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
		{
			"blocked", "an adapter's bracket",
			all(hostSlot, inSlot, set("/route/stages/0/bracket", `"full"`), set("/host/slots/3/opening", `"half"`)),
		},
		{
			"note", "an adapter with both brackets",
			all(
				hostSlot, inSlot, set("/route/stages/0/bracket", `"full"`), set("/route/stages/0/bracket_spare", `"half"`),
				set("/host/slots/3/opening", `"half"`),
			),
		},
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
}

// cooler puts another one in, on a board with mount A.
func cooler(facts string) string {
	return all(set("/host/processor", `{"mount":"A"}`), set("/host/cooler", `{"name":"tower cooler","new":true,`+facts+`}`))
}
