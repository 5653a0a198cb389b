package assess_test

// routeCases are the cases of the rules of link, gate, boot, net and screen.
var routeCases = []casesOf{
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
		{"blocked", "a module in a card slot", all(hostSlot, set("/card/form", `"module"`))},
		{"quiet", "a module in its maker's bay", all(hostSlot, set("/card/form", `"module"`), set("/host/slots/3/form", `"module"`))},
		{
			"blocked", "an M.2 module of another key",
			all(
				hostSlot, set("/card/form", `"m2"`), set("/card/key", `"E"`), set("/host/slots/3/form", `"m2"`),
				set("/host/slots/3/key", `"M"`),
			),
		},
		{"blocked", "made for another host", set("/route/stages/0/made_for", `["Alcove 24"]`)},
		{
			"quiet", "made for this host among others",
			all(set("/host/name", `"Cairn Small Desk"`), set("/route/stages/0/made_for", `["Alcove 24", "cairn small desk"]`)),
		},
		{"blocked", "eight-lane cable, four-lane socket", set("/route/stages/1/plug/lanes", "8")},
		{"quiet", "open end",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "true"))},
		{"quiet", "B+M module in an M slot", set("/route/stages/0/plug/key", `"B+M"`)},
		{"unknown", "is the end open?",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"))},
		{"unknown", "plug not seen", drop("/route/stages/0/plug")},
		{
			"blocked", "a card of eight lanes in a slot of four, its edge not told",
			all(
				hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "false"), set("/card/lanes", "8"),
				drop("/card/edge_lanes"),
			),
		},
		{
			"unknown", "a card of four lanes in a slot of four, its edge not told",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "4"), set("/host/slots/3/open_end", "false"), drop("/card/edge_lanes")),
		},
		{
			"quiet", "an edge exactly as long as its slot",
			all(hostSlot, set("/host/slots/3/lanes_mechanical", "8"), set("/host/slots/3/open_end", "false"), set("/card/edge_lanes", "8")),
		},
		{"unknown", "the size of an OCuLink plug at a socket of four lanes", drop("/route/stages/1/plug/lanes")},
	}},
	{"link.module-length", []ruleCase{
		{"blocked", "80 mm in a slot for 60", all(set("/host/slots/0/length_mm", "60"), set("/route/stages/0/module_mm", "80"))},
		{
			"blocked", "42 mm, and no stand-off there",
			all(
				set("/host/slots/0/length_mm", "80"), set("/host/slots/0/stand_offs", `["60","80"]`),
				set("/route/stages/0/module_mm", "42"),
			),
		},
		{
			"risk", "it may be cut",
			all(set("/host/slots/0/length_mm", "60"), set("/route/stages/0/module_mm", "80"), set("/route/stages/0/may_be_cut", "true")),
		},
		{"quiet", "as long as the slot", all(set("/host/slots/0/length_mm", "80"), set("/route/stages/0/module_mm", "80"))},
		{
			"quiet", "42 mm on a stand-off",
			all(
				set("/host/slots/0/length_mm", "80"), set("/host/slots/0/stand_offs", `["42","80"]`),
				set("/route/stages/0/module_mm", "42"),
			),
		},
		{"unknown", "how long the slot is", set("/route/stages/0/module_mm", "80")},
		{"unknown", "where stand-offs are", all(set("/host/slots/0/length_mm", "80"), set("/route/stages/0/module_mm", "42"))},
	}},
	{"link.sideband", []ruleCase{
		{"blocked", "no clock", set("/route/stages/1/carries_clock", "false")},
		{"blocked", "no reset", set("/route/stages/2/carries_reset", "false")},
		{
			"blocked", "nothing straps clock-request",
			all(
				set("/route/stages/0/straps_clkreq", "false"), set("/route/stages/1/straps_clkreq", "false"),
				set("/route/stages/2/straps_clkreq", "false"),
			),
		},
		{
			"quiet", "one of three straps it",
			all(
				set("/route/stages/0/straps_clkreq", "false"), set("/route/stages/1/straps_clkreq", "false"),
				set("/route/stages/2/straps_clkreq", "true"),
			),
		},
		{
			"unknown", "two do not, of one nobody knows",
			all(set("/route/stages/0/straps_clkreq", "false"), set("/route/stages/1/straps_clkreq", "false")),
		},
	}},
	{"link.margin", []ruleCase{
		{"note", "+3.3 dB over 640 mm of twinax", set("/route/stages/1/length_mm", "640")},
		{"risk", "+2.6 dB over 740 mm", set("/route/stages/1/length_mm", "740")},
		{
			"risk", "a metre of video-style cable at Gen 3, +2.9 dB",
			all(
				set("/route/stages/1/line", `"video-cable"`), set("/route/stages/1/length_mm", "1000"),
				set("/route/forced_generation", "3"),
			),
		},
		{
			"blocked", "two metres of flat ribbon: not even Gen 1",
			all(set("/route/stages/1/line", `"flat-ribbon"`), set("/route/stages/1/length_mm", "2500")),
		},
		{"blocked", "forced to Gen 4 at -9 dB", all(set("/route/stages/1/length_mm", "2400"), set("/route/forced_generation", "4"))},
		{"quiet", "a retimer half way", all(set("/route/stages/1/length_mm", "740"), set("/route/stages/2/repeats", `"retimer"`))},
		{"quiet", "a redriver", all(set("/route/stages/1/length_mm", "740"), set("/route/stages/2/repeats", `"redriver"`))},
		{
			"quiet", "it was seen to be stable",
			all(set("/route/stages/1/length_mm", "500"), set("/route/tried", `[{"generation":4,"stable":true}]`)),
		},
		{"risk", "it was seen to fail", set("/route/tried", `[{"generation":4,"stable":false}]`)},
		{
			"unknown", "how far the slot is, at the end of what 450 mm of cable leaves",
			all(drop("/host/slots/0/trace_mm"), set("/route/stages/1/length_mm", "450")),
		},
	}},
	{"link.shared-lanes", []ruleCase{
		{"note", "from a bay", set("/host/slots/0/shares_lanes_with", `"the drive bay"`)},
		{
			"note", "with an empty slot, said at the other",
			all(set("/host/slots/1/shares_lanes_with", `"m2-a"`), set("/host/slots/1/occupant", `"none"`)),
		},
		{
			"risk", "with the slot the drive sits in",
			all(set("/host/slots/0/shares_lanes_with", `"m2-b"`), set("/host/slots/1/occupant", `"boot drive"`)),
		},
		{
			"risk", "with the slot a drive is to move to",
			all(
				set("/host/slots/0/shares_lanes_with", `"m2-b"`), set("/host/slots/0/occupant", `"data drive"`),
				set("/host/slots/1/occupant", `"none"`),
				set("/route/displaced", `[{"occupant":"data drive","home":"slot","slot":"m2-b"}]`),
			),
		},
		{"quiet", "with none", set("/host/slots/0/shares_lanes_with", `"none"`)},
		{"unknown", "what sits there", all(set("/host/slots/0/shares_lanes_with", `"m2-b"`), drop("/host/slots/1/occupant"))},
	}},
	{"link.shared-uplink", []ruleCase{
		{
			"note", "the card alone behind Gen 4 x8",
			all(set("/host/slots/0/behind", `"chipset"`), set("/host/uplink", `{"lanes":8,"generation":4}`)),
		},
		{
			"risk", "6.43 GB/s behind Gen 3 x4",
			all(set("/host/slots/0/behind", `"chipset"`), set("/host/uplink", `{"lanes":4,"generation":3}`)),
		},
		{
			"risk", "a displaced drive beside the card",
			all(
				set("/host/slots/0/behind", `"chipset"`), set("/host/slots/0/generation", "3"),
				set("/host/uplink", `{"lanes":4,"generation":3}`), set("/host/slots/0/occupant", `"data drive"`),
				set("/host/drives/1/reads_gb_s", "0.5"), set("/route/displaced", `[{"occupant":"data drive","home":"sata-bay"}]`),
			),
		},
		{"quiet", "behind the processor", set("/host/slots/0/behind", `"processor"`)},
		{"unknown", "the uplink", set("/host/slots/0/behind", `"chipset"`)},
		{"note", "a packet switch, whose draw nobody told", set("/route/stages/0/packet_switch", "true")},
		{"note", "a packet switch of 9 W", all(set("/route/stages/0/packet_switch", "true"), set("/route/stages/0/power_w", "9"))},
	}},
	{"link.loopback", []ruleCase{
		{
			"note", "0.498 of 6.43 GB/s",
			all(
				set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`),
				set("/host/copies_frames", "true"), set("/host/graphics", `"integrated"`),
			),
		},
		{
			"risk", "0.498 of 0.81 GB/s",
			all(
				set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`),
				set("/host/copies_frames", "true"), set("/host/graphics", `"integrated"`), set("/host/slots/0/lanes", "1"),
				set("/route/forced_generation", "3"),
			),
		},
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
		{
			"unknown", "the window, on a host without room",
			all(drop("/card/window_gib"), set("/host/firmware", `{"large_addresses":false}`)),
		},
		{"unknown", "neither", drop("/card/window_gib")},
		{"quiet", "neither, and no memory to need it", all(drop("/card/window_gib"), set("/card/memory_gib", "1"))},
		{"quiet", "exactly as much as fits", all(set("/card/window_gib", "1"), set("/host/firmware", `{"large_addresses":false}`))},
		{
			"quiet", "a window nobody told, on a host with room",
			all(drop("/card/window_gib"), set("/host/firmware", `{"large_addresses":true}`)),
		},
	}},
	{"gate.disk-mode", []ruleCase{
		{"risk", "bundled", set("/host/firmware", `{"disk_mode":"bundled"}`)},
		{"quiet", "plain", set("/host/firmware", `{"disk_mode":"plain"}`)},
		{"else quiet", "not told: plain", set("/host/firmware", `{}`)},
	}},
	{"gate.legacy-start", []ruleCase{
		{
			"risk", "UEFI alone, a legacy card",
			all(set("/host/firmware", `{"start_modes":["uefi"]}`), set("/card/start_modes", `["legacy"]`)),
		},
		{"quiet", "both have UEFI", all(set("/host/firmware", `{"start_modes":["uefi"]}`), set("/card/start_modes", `["legacy","uefi"]`))},
		{"unknown", "the card's", all(drop("/card/start_modes"), set("/host/firmware", `{"start_modes":["uefi"]}`))},
		{"unknown", "the host's", set("/card/start_modes", `["legacy"]`)},
		{"unknown", "neither", drop("/card/start_modes")},
		{
			"quiet", "a host that starts both ways",
			all(drop("/card/start_modes"), set("/host/firmware", `{"start_modes":["legacy","uefi"]}`)),
		},
	}},
	{"gate.driver", []ruleCase{
		{"risk", "dropped by the system", set("/card/driver", `"too-new"`)},
		{"risk", "the version that is installed is too old", set("/card/drivers", `[{"version":"31.4","state":"too-old","installed":true}]`)},
		{
			"risk",
			"two are installed",
			set("/card/drivers", `[{"version":"31.4","state":"fine","installed":true},{"version":"40.1","installed":true,"for":"the host's own"}]`),
		},
		{
			"quiet",
			"the one that fails is not installed",
			set("/card/drivers", `[{"version":"31.4","state":"fine","installed":true},{"version":"40.1","state":"too-new"}]`),
		},
		{"quiet", "fine", set("/card/driver", `"fine"`)},
		{"unknown", "a single-board host", set("/host/kind", `"single-board"`)},
	}},
	{"gate.firmware-change", []ruleCase{
		{"risk", "a changed firmware", set("/route/modified_firmware", "true")},
		{"blocked", "nothing permanent", all(set("/route/modified_firmware", "true"), set("/brief/stance", `"nothing-permanent"`))},
		{"quiet", "none needed", set("/route/modified_firmware", "false")},
		{"else quiet", "not told: none", set("/brief/stance", `"nothing-permanent"`)},
	}},
	{"gate.known", []ruleCase{
		{"note", "seen to work", set("/known", `[{"of":"card one","works":true,"seen_by":"oneself","firmware":"1.12"}]`)},
		{"note", "a card joined this way, on a host like it", set("/known", `[{"host":"its twin","works":true,"system":"from autumn"}]`)},
		{"risk", "seen to fail", set("/known", `[{"of":"cable","works":false,"seen_by":"papers","driver":"31.4","remark":"It came and went."}]`)},
		{"risk", "both were seen", set("/known", `[{"of":"card one","works":true},{"of":"card one","works":false}]`)},
		{"unknown", "nobody says how it went", set("/known", `[{"of":"card one"}]`)},
		{"quiet", "of a part that is not planned", set("/known", `[{"of":"card two","works":false}]`)},
	}},
	{"gate.split", []ruleCase{
		{"blocked", "it is not offered", all(set("/route/stages/0/needs_split", `"8+8"`), set("/host/slots/0/can_split", `["none"]`))},
		{
			"blocked",
			"its second part, not set",
			all(set("/route/stages/0/needs_split", `"8+8"`), set("/route/stages/0/takes_part", "2"), set("/host/slots/0/split_set", `"none"`)),
		},
		{"risk", "its first part, not set", all(set("/route/stages/0/needs_split", `"8+8"`), set("/host/slots/0/split_set", `"none"`))},
		{"risk", "offered, whether it is set not told", all(set("/route/stages/0/needs_split", `"8+8"`), set("/host/slots/0/can_split",
			`["8+8"]`))},
		{"quiet", "it is set", all(set("/route/stages/0/needs_split", `"8+8"`), set("/host/slots/0/split_set", `"8+8"`))},
		{"quiet", "a packet switch needs none", all(set("/route/stages/0/needs_split", `"8+8"`), set("/route/stages/0/packet_switch", "true"))},
		{"unknown", "nobody looked", set("/route/stages/0/needs_split", `"4+4+4+4"`)},
	}},
	{"link.look-alike", []ruleCase{
		{"note", "a plug made for screens", set("/route/stages/1/plug/form", `"video"`)},
		{"note", "a socket like USB", set("/route/stages/1/socket/form", `"usb3-lane"`)},
		{"quiet", "none such", set("/route/stages/1/plug/form", `"oculink"`)},
		{"else quiet", "its form is not told", drop("/route/stages/1/plug/form")},
	}},
	{"gate.listing", []ruleCase{
		{"risk", "Gen 4 listed, Gen 3 found", set("/host/slots/1/listed_generation", "4")},
		{"note", "8 GiB listed, 16 found", all(set("/host/listed", `{"memory_gib":8}`), set("/host/memory_gib", "16"))},
		{"risk", "two drives listed, one found", all(set("/host/listed", `{"drives":2}`), drop("/host/drives/1"))},
		{"quiet", "as many drives as listed", set("/host/listed", `{"drives":2}`)},
		{"risk", "a panel that is dead was listed as working", all(set("/host/listed", `{"panel":"works"}`), set("/host/panel", `"dead"`))},
		{"note", "a panel that works was listed as dead", all(set("/host/listed", `{"panel":"dead"}`), set("/host/panel", `"works"`))},
		{"quiet", "a panel as listed", all(set("/host/listed", `{"panel":"dead"}`), set("/host/panel", `"dead"`))},
		{"risk", "two video outputs listed, one found", all(set("/host/listed", `{"screens":2}`), set("/host/screens", `[{"name":"out"}]`))},
		{"quiet", "as many video outputs as listed", all(set("/host/listed", `{"screens":1}`), set("/host/screens", `[{"name":"out"}]`))},
		{
			"risk", "said to work, and a hinge is broken",
			all(set("/host/listed", `{"works":true}`), set("/host/condition", `[{"name":"hinge","state":"broken"}]`)),
		},
		{
			"risk", "a caddy listed, and missing",
			all(set("/host/listed", `{"parts_in_box":["caddy"]}`), set("/host/condition", `[{"name":"Caddy","state":"missing"}]`)),
		},
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
		{
			"risk", "the drive that takes over reads 150 MB/s",
			all(set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/host/drives/1/reads_gb_s", "0.15")),
		},
		{
			"quiet", "exactly 200 MB/s, which is as fast as before",
			all(
				set("/route/slot", `"m2-b"`), set("/host/drives/0/reads_gb_s", "0.2"), set("/host/drives/1/boots", "true"),
				set("/host/drives/1/reads_gb_s", "0.2"),
			),
		},
	}},
	{"boot.capacity", []ruleCase{
		{
			"risk", "64 GB for 100",
			all(
				bootMoves(`{"home":"memory-card","capacity_gb":64,"bootable":true,"proven":true}`), set("/host/system_needs_gb", "40"),
				set("/brief/works/0/storage_gb", "60"),
			),
		},
		{
			"quiet", "the drive itself moves",
			all(
				bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/host/drives/0/capacity_gb", "512"),
				set("/host/system_needs_gb", "40"),
			),
		},
		{
			"unknown", "what the card holds",
			all(bootMoves(`{"home":"memory-card","bootable":true,"proven":true}`), set("/host/system_needs_gb", "40")),
		},
		{
			"risk", "the drive that takes over holds 64 GB for 100",
			all(
				set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/host/drives/1/capacity_gb", "64"),
				set("/host/system_needs_gb", "100"),
			),
		},
	}},
	{"boot.proven", []ruleCase{
		{"quiet", "seen", bootMoves(`{"home":"slot","slot":"m2-a","proven":true}`)},
		{"unknown", "not yet seen", bootMoves(`{"home":"slot","slot":"m2-a"}`)},
	}},
	{"boot.shared", []ruleCase{
		{
			"risk", "system and stacking on one",
			all(bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/brief/works/0/on", `"boot drive"`)),
		},
		{
			"quiet", "kept on the other drive",
			all(bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`), set("/brief/works/0/on", `"data drive"`)),
		},
		{"else quiet", "nothing is said to be kept", bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`)},
	}},
	{"screen.path", []ruleCase{
		{
			"blocked", "own panel, no graphics",
			all(
				set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`),
				set("/host/graphics", `"none"`),
			),
		},
		{
			"blocked", "own panel, frames are not copied",
			all(
				set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`),
				set("/host/graphics", `"integrated"`), set("/host/copies_frames", "false"),
			),
		},
		{
			"blocked", "no socket in common",
			all(set("/brief/screen", `{"kind":"external","inputs":["panel socket"],"adapter":false}`), set("/card/outputs", `["port 1"]`)),
		},
		{
			"blocked", "a dead panel and nothing else",
			all(set("/brief/screen", `{"kind":"external"}`), set("/host/panel", `"dead"`), set("/host/screens", "[]")),
		},
		{"quiet", "no screen is wanted", all(set("/brief/screen", `{"kind":"none"}`), set("/card/outputs", "[]"))},
		{
			"blocked", "no screen is wanted, and the firmware cannot be seen",
			all(set("/brief/screen", `{"kind":"none"}`), set("/host/panel", `"dead"`), set("/host/screens", "[]")),
		},
		{"quiet", "port in port", all(set("/brief/screen", `{"kind":"external","inputs":["Port"]}`), set("/card/outputs", `["port 1"]`))},
		{
			"quiet", "an adapter",
			all(
				set("/brief/screen", `{"kind":"panel-input","inputs":["panel socket"],"adapter":true}`),
				set("/card/outputs", `["port 1"]`),
			),
		},
		{"unknown", "which sockets the screen has", all(set("/brief/screen", `{"kind":"external"}`), set("/card/outputs", `["port 1"]`))},
		{
			"unknown", "does the driver copy frames?",
			all(
				set("/brief/screen", `{"kind":"own-panel","width_px":1920,"height_px":1080,"rate_hz":60}`),
				set("/host/graphics", `"integrated"`),
			),
		},
	}},
	{"work.refused", []ruleCase{
		{
			"risk", "a system on USB",
			all(
				bootMoves(`{"home":"usb","usb_gbit_s":10,"bootable":true,"proven":true}`),
				set("/brief/works/0/refuses", `["system-on-usb"]`),
			),
		},
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
		{
			"blocked", "both drives that start the system leave",
			all(
				set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"), set("/host/slots/0/occupant", `"data drive"`),
				set("/route/displaced", `[{"occupant":"boot drive","home":"none"},{"occupant":"data drive","home":"none"}]`),
			),
		},
		{
			"quiet", "one of both starts from its new place",
			all(
				set("/route/slot", `"m2-b"`), set("/host/drives/1/boots", "true"),
				set("/route/displaced", `[{"occupant":"boot drive","home":"none"},{"occupant":"data drive","home":"usb","bootable":true}]`),
			),
		},
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
}
