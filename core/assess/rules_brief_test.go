package assess_test

// briefCases are the cases of the rules of the brief, the ledger and the proof.
var briefCases = []casesOf{
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
		{
			"note", "a sealed screw",
			set("/alterations", `[{"name":"open the case","touches":"enclosure","permanent":false,"breaks_seal":true}]`),
		},
		{
			"note", "a bracket that holds the cooler",
			all(
				set("/card/bracket", `{"height":"full","spare":"half","swap":"dismantles-cooler","slots":2}`),
				set("/chamber/opening/height", `"half"`),
			),
		},
		{"quiet", "no seal", set("/alterations", `[{"name":"open the case","touches":"enclosure","permanent":false}]`)},
		{
			"else quiet", "whether there is one",
			set("/alterations", `[{"name":"open the case","touches":"enclosure","permanent":false,"breaks_seal":"unknown"}]`),
		},
	}},
	{"brief.matched", []ruleCase{
		{
			"note", "80 MB a frame over 6.4 GB/s, a card that could 200 Hz",
			all(set("/brief/works/0/frame_mb", "80"), set("/brief/works/0/card_hz", "200")),
		},
		{"risk", "120 MB a frame", all(set("/brief/works/0/frame_mb", "120"), set("/brief/works/0/card_hz", "200"))},
		{"note", "36 MB a frame", all(set("/brief/works/0/frame_mb", "36"), set("/brief/works/0/card_hz", "200"))},
		{"quiet", "35 MB a frame", all(set("/brief/works/0/frame_mb", "35"), set("/brief/works/0/card_hz", "200"))},
		{
			"quiet", "a model that fills the card once",
			all(set("/brief/works/0/frame_mb", "120"), set("/brief/works/0/card_hz", "200"), set("/brief/works/0/fills_card_once", "true")),
		},
		{
			"quiet", "a stream that is encoded there",
			all(set("/brief/works/0/frame_mb", "120"), set("/brief/works/0/card_hz", "200"), set("/brief/works/0/streams", "true")),
		},
		{"else quiet", "what the card does elsewhere", set("/brief/works/0/frame_mb", "15")},
	}},
	{"work.gain", []ruleCase{
		{
			"note", "20 Hz today, a card that does 100",
			all(set("/brief/works/0/card_hz", "100"), set("/brief/works/0/today_hz", "20"), set("/brief/works/0/processor_hz", "90")),
		},
		{
			"risk", "the processor may be what holds it back today",
			all(set("/brief/works/0/card_hz", "100"), set("/brief/works/0/today_hz", "40")),
		},
		{"risk", "99 Hz today", all(set("/brief/works/0/card_hz", "100"), set("/brief/works/0/today_hz", "99"))},
		{
			"note", "measured three times as fast",
			set(
				"/runs",
				`[{"name":"a","side":"before","average_hz":30,"use":"stacking"},{"name":"b","side":"after","average_hz":90,"use":"stacking"}]`,
			),
		},
		{"quiet", "nothing is told of today", set("/brief/works/0/card_hz", "100")},
		{"else quiet", "what the card does", set("/brief/works/0/today_hz", "20")},
	}},
	{"live.place", []ruleCase{
		{"risk", "an open card among dust", all(openAir, set("/brief/living", `{"harsh":true}`))},
		{"risk", "air for the open, in a cupboard", all(set("/chamber/airflow_m3_h", "500"), set("/brief/living", `{"air":"cupboard"}`))},
		{"risk", "the flatmate says no", set("/brief/living", `{"agree":[{"who":"the flatmate","agreed":false}]}`)},
		{"note", "the landlord was not asked", set("/brief/living", `{"agree":[{"who":"the landlord"}]}`)},
		{"note", "a cupboard, its air not told", all(drop("/chamber/airflow_m3_h"), set("/brief/living", `{"air":"cupboard"}`))},
		{
			"quiet", "made for the cupboard",
			all(
				set("/chamber/airflow_m3_h", "500"), set("/chamber/stands_in", `"cupboard"`),
				set("/brief/living", `{"air":"cupboard","harsh":true}`),
			),
		},
		{"else quiet", "where it stands", set("/brief/living", `{"noise_db":150}`)},
	}},
	{"live.noise", []ruleCase{
		{"unknown", "somebody sleeps there", set("/brief/living", `{"somebody_sleeps":true}`)},
		{
			"risk", "36 and 30 and 30 dB: 37.8",
			all(
				set("/card/noise_db", "36"), set("/host/noise_db", "30"), set("/supplies/1/noise_db", "30"),
				set("/brief/living", `{"noise_db":37}`),
			),
		},
		{"risk", "a server supply is never quiet", all(set("/supplies/1/kind", `"server"`), set("/brief/living", `{"noise_db":39}`))},
		{
			"quiet", "38 allowed",
			all(
				set("/card/noise_db", "36"), set("/host/noise_db", "30"), set("/supplies/1/noise_db", "30"),
				set("/brief/living", `{"noise_db":38}`),
			),
		},
		{
			"note", "the card's noise not told",
			all(set("/host/noise_db", "30"), set("/supplies/1/noise_db", "30"), set("/brief/living", `{"noise_db":38}`)),
		},
		{
			"risk", "read louder than told",
			all(set("/load_readings", `[{"noise_db":45}]`), set("/card/noise_db", "20"), set("/brief/living", `{"noise_db":40}`)),
		},
		{"else quiet", "what is allowed", set("/card/noise_db", "60")},
	}},
	{"live.plugs", []ruleCase{
		{"risk", "two supplies, one plug", set("/brief/living", `{"mains_plugs":1}`)},
		{"note", "a screen may want the third", set("/brief/living", `{"mains_plugs":2}`)},
		{"quiet", "three", set("/brief/living", `{"mains_plugs":3}`)},
		{"else quiet", "how many are free", set("/brief/living", `{"noise_db":150}`)},
	}},
	{"live.carry", []ruleCase{
		{
			"risk", "12 minutes, 10 wanted",
			all(set("/brief/travel", `{"set_up_min":12}`), set("/brief/living", `{"carried":true,"set_up_most_min":10}`)),
		},
		{
			"quiet", "10 minutes",
			all(set("/brief/travel", `{"set_up_min":10}`), set("/brief/living", `{"carried":true,"set_up_most_min":10}`)),
		},
		{"note", "nobody timed it", set("/brief/living", `{"carried":true,"set_up_most_min":10}`)},
		{"note", "900 g in the open", all(openAir, set("/card/mass_g", "900"), set("/brief/living", `{"carried":true}`))},
		{
			"else quiet", "whether it is carried",
			all(set("/brief/travel", `{"set_up_min":12}`), set("/brief/living", `{"set_up_most_min":10}`)),
		},
	}},
	{"ledger.worse", []ruleCase{
		{"risk", "more for less", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":390,"gain":4}]}`))},
		{"quiet", "more for more", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":410,"gain":4}]}`))},
		{
			"quiet", "perhaps more",
			all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":300,"gain":{"value":4,"tolerance":1.5}}]}`)),
		},
		{
			"quiet", "what the rig brings later makes up for it",
			all(
				threeTimes,
				set("/ledger", `{"alternatives":[{"name":"a used desktop","price":390,"gain":4,"resale":50}],"sale":{"price":100}}`),
			),
		},
		{"else quiet", "what the other gains", all(threeTimes, set("/ledger", `{"alternatives":[{"name":"a used desktop","price":1}]}`))},
	}},
	{"ledger.day", []ruleCase{
		{"risk", "26 hours", set("/ledger", `{"day":[{"name":"at work","hours":20},{"name":"idle","hours":6}]}`)},
		{"quiet", "exactly 24", set("/ledger", `{"day":[{"name":"at work","hours":20},{"name":"idle","hours":4}]}`)},
		{"quiet", "perhaps no more", set("/ledger", `{"day":[{"name":"at work","hours":{"value":20,"tolerance":2}},{"name":"idle","hours":6}]}`)},
		{"else quiet", "its hours not told", set("/ledger", `{"day":[{"name":"at work","hours":24},{"name":"idle"}]}`)},
	}},
	{"ledger.twice", []ruleCase{
		{"unknown", "two for the dock", set("/ledger", `{"lines":[{"name":"a","part":"dock","price":3},{"name":"b","part":"dock","price":4}]}`)},
		{"quiet", "one each", set("/ledger", `{"lines":[{"name":"a","part":"dock","price":3},{"name":"b","part":"cable","price":4}]}`)},
	}},
	{"ledger.unpriced", []ruleCase{
		{"unknown", "a line without a price", set("/ledger", `{"lines":[{"name":"paste"}]}`)},
		{"unknown", "in a currency without a rate", set("/ledger", `{"lines":[{"name":"paste","price":4,"currency":"dal"}]}`)},
		{"quiet", "it came with the dock", set("/ledger", `{"lines":[{"name":"paste","comes_with":"card"}]}`)},
		{
			"quiet", "with a rate",
			set("/ledger", `{"lines":[{"name":"paste","price":4,"currency":"dal"}],"exchange":[{"currency":"dal","rate":2}]}`),
		},
		{"quiet", "no ledger is kept", drop("/card/price")},
	}},
	{"ledger.forced", []ruleCase{
		{"note", "130 forced, a card of 200", set("/card/price", "200")},
		{"quiet", "a card of 270", set("/sizing", `{}`)},
		{
			"quiet", "all was owned",
			all(
				set("/card/price", "200"),
				set(
					"/ledger",
					`{"lines":[{"name":"a","part":"adapter","state":"owned"},{"name":"b","part":"cable","state":"owned"},{"name":"c","part":"dock","state":"owned"},{"name":"d","part":"main","state":"owned"},{"name":"e","part":"card one","state":"to-buy"}]}`,
				),
			),
		},
		{"else quiet", "what the card costs", drop("/card/price")},
	}},
	{"proof.unlike", []ruleCase{
		{
			"note", "two resolutions",
			set(
				"/runs",
				`[{"name":"a","side":"before","average_hz":30,"width_px":1920,"height_px":1080},{"name":"b","side":"after","average_hz":60,"width_px":2560,"height_px":1440}]`,
			),
		},
		{
			"note", "each at a cap of its own",
			set("/runs", `[{"name":"a","side":"before","average_hz":30,"cap_hz":30},{"name":"b","side":"after","average_hz":60,"cap_hz":60}]`),
		},
		{
			"quiet", "held up by its cap: at least twice as fast",
			set("/runs", `[{"name":"a","side":"before","average_hz":30},{"name":"b","side":"after","average_hz":60,"cap_hz":60}]`),
		},
		{"quiet", "made alike", set("/runs", `[{"name":"a","side":"before","average_hz":30},{"name":"b","side":"after","average_hz":60}]`)},
		{
			"quiet", "of two uses",
			set(
				"/runs",
				`[{"name":"a","side":"before","average_hz":30,"use":"one"},{"name":"b","side":"after","average_hz":60,"use":"two","cap_hz":60}]`,
			),
		},
		{"else quiet", "whether a cap held one up", set("/runs", `[{"name":"a","side":"before","average_hz":30,"frames":1000}]`)},
	}},
	{"proof.tail", []ruleCase{
		{
			"risk", "three times the average, half the slowest thousandth",
			set(
				"/runs",
				`[{"name":"a","side":"before","average_hz":30,"low01_p99_hz":20},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":10}]`,
			),
		},
		{
			"quiet", "both rose",
			set(
				"/runs",
				`[{"name":"a","side":"before","average_hz":30,"low01_p99_hz":20},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":40}]`,
			),
		},
		{
			"quiet", "made differently",
			set(
				"/runs",
				`[{"name":"a","side":"before","average_hz":30,"low01_p99_hz":20,"scene":"night"},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":10}]`,
			),
		},
		{
			"else quiet", "its slowest thousandth",
			set("/runs", `[{"name":"a","side":"before","average_hz":30},{"name":"b","side":"after","average_hz":90,"low01_p99_hz":10}]`),
		},
	}},
	{"proof.short", []ruleCase{
		{"note", "999 frames", set("/runs", `[{"name":"a","side":"before","frames":999}]`)},
		{"quiet", "1000 frames", set("/runs", `[{"name":"a","side":"before","frames":1000}]`)},
		{"else quiet", "how many frames", set("/runs", `[{"name":"a","side":"before","average_hz":30}]`)},
	}},
	{"proof.unproven", []ruleCase{
		{"note", "read at idle alone", set("/route/readings", `[{"width":4,"generation":4,"load":"idle"}]`)},
		{"note", "a run with the card, no reading", set("/runs", `[{"name":"a","side":"after","average_hz":60}]`)},
		{
			"quiet", "read under load",
			all(
				set("/runs", `[{"name":"a","side":"after","average_hz":60}]`),
				set("/route/readings", `[{"width":4,"generation":4,"load":"loaded"}]`),
			),
		},
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
