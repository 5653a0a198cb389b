package pasted_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
	"kolvan/core/pasted"
	"kolvan/core/rig"
)

// pages are texts as makers, sellers and labels write them, each with what a person reads there.
var pages = []struct {
	text  string
	kind  parts.Kind
	facts string // at=value, by spaces
}{
	{"Skua 16G graphics card\nTGP 115 W, 1x 8-pin\nMemory: 16 GB GDDR6\nDimensions: 285.4 x 112 x 50 mm\n" +
		"PCIe 4.0 x8 (x16 physical)\nRecommended PSU: 550 W", parts.Card,
		"/power_w=115 /plugs/0/connector=card-8 /memory_gib=16 /length_mm=285.4 /height_mm=112 /thickness_mm=50 /generation=4 /lanes=8 " +
			"/edge_lanes=16"},
	{"Grafikkarte\nLänge: 28,54 cm\nHöhe: 112 mm\nLeistungsaufnahme: 160 W\nSpeicher: 8 GB\n" +
		"Stromanschlüsse: 2x 8-polig\nGewicht: 1,2 kg\nEmpfohlenes Netzteil: 650 W", parts.Card,
		"/length_mm=285.4 /height_mm=112 /power_w=160 /memory_gib=8 /plugs/0/connector=card-8 /plugs/1/connector=card-8 /mass_g=1200"},
	{"Carte graphique 12 Go GDDR6\nLongueur : 24,2 cm\nÉpaisseur : 39 mm\nConsommation : 170 W\n" +
		"Connecteurs d'alimentation : 1x 8 broches\nInterface : PCI Express 4.0 x16\nAlimentation recommandée : 550 W", parts.Card,
		"/memory_gib=12 /length_mm=242 /thickness_mm=39 /power_w=170 /plugs/0/connector=card-8 /generation=4 /lanes=16"},
	{"Tarjeta gráfica\nLongitud: 170 mm\nAltura: 69 mm\nConsumo: 53 W\nMemoria: 4 GB\nConector de alimentación: ninguno\nPerfil bajo",
		parts.Card,
		"/length_mm=170 /height_mm=69 /power_w=53 /memory_gib=4 /plugs=[] /bracket/height=half"},
	{"Karta graficzna\nDługość: 302 mm\nWysokość: 140 mm\nPobór mocy: 230 W\nPamięć: 16 GB\n" +
		"Złącza zasilania: 2 x 8-pin\nWaga: 1,35 kg\nZalecany zasilacz: 700 W", parts.Card,
		"/length_mm=302 /height_mm=140 /power_w=230 /memory_gib=16 /plugs/0/connector=card-8 /plugs/1/connector=card-8 /mass_g=1350"},
	{"Scheda grafica\nLunghezza: 267 mm\nSpessore: 44 mm\nPotenza: 200 W\nMemoria: 10 GB\nConnettori di alimentazione: 1x 8 pin + 1x 6 pin",
		parts.Card,
		"/length_mm=267 /thickness_mm=44 /power_w=200 /memory_gib=10 /plugs/0/connector=card-8 /plugs/1/connector=card-6"},
	{"Videokaart\nLengte: 198 mm\nHoogte: 121 mm\nVerbruik: 115 W\nGeheugen: 8 GB\nGewicht: 620 g", parts.Card,
		"/length_mm=198 /height_mm=121 /power_w=115 /memory_gib=8 /mass_g=620"},
	{"Grafikkort\nLängd: 244 mm\nHöjd: 130 mm\nEffekt: 160 W\nMinne: 16 GB\nVikt: 900 g\nLjudnivå: 34 dB(A)", parts.Card,
		"/length_mm=244 /height_mm=130 /power_w=160 /memory_gib=16 /mass_g=900 /noise_db=34"},
	{"Placa gráfica\nComprimento: 300 mm\nConsumo: 320 W\nMemória: 20 GB\nPeso: 1.800 g\n12V-2x6\nTriple slot", parts.Card,
		"/length_mm=300 /power_w=320 /memory_gib=20 /mass_g=1800 /plugs/0/connector=card-16 /bracket/slots=3"},
	{"graphics card, used\nCard length | 9.5 in\nTBP | 75W\nVRAM | 6144 MB\nPower connector | none\nDual-slot\nEncoder: H.264, HEVC and AV1",
		parts.Card,
		"/power_w=75 /memory_gib=6 /plugs=[] /bracket/slots=2 /encoders=[h264_hevc_av1]"},
	{"AC ADAPTER\nInput: 100-240V ~ 1.5A\nOutput: 19.5V ⎓ 6.32A", parts.Supply,
		"/kind=brick /rails/0/voltage_v=19.5 /rails/0/current_a=6.32"},
	{"Netzadapter 120W\nEingang: 230 V\nAusgang: 12 V = 10 A\nStecker 5,5 x 2,5 mm", parts.Supply,
		"/kind=brick /rating_w=120 /rails/0/voltage_v=12 /rails/0/current_a=10 /outlets/0/connector=barrel /outlets/0/barrel_mm=5.5x2.5"},
	{"550W 80+ ; +12V 45A", parts.Supply, "/rating_w=550 /rails/0/voltage_v=12 /rails/0/current_a=45"},
	{"Zasilacz SFX 450 W 80 PLUS Gold\nGłębokość: 100 mm\n+12V: 37,5 A\n+5V 15 A\n+3.3V 15 A\n2 x PCIe 6+2 pin, 4 x SATA", parts.Supply,
		"/kind=sfx /rating_w=450 /efficiency=gold /depth_mm=100 /rails/0/voltage_v=12 /rails/0/current_a=37.5 " +
			"/rails/1/voltage_v=5 /rails/1/current_a=15 /rails/2/voltage_v=3.3 /rails/2/current_a=15 " +
			"/outlets/0/connector=card-8 /outlets/1/connector=card-8 /outlets/2/connector=disk-15 " +
			"/outlets/5/connector=disk-15"},
	{"Power supply, form factor TFX\nTotal power: 300 W\nNoise level: 22 dB\n1 x EPS 4 pin\n1x PCIe 6-pin\n1 x peripheral 4-pin", parts.Supply,
		"/kind=tfx /rating_w=300 /noise_db=22 /outlets/0/connector=cpu-4 /outlets/1/connector=card-6 /outlets/2/connector=peripheral-4"},
	{"Fuente de alimentación ATX, form factor ATX\nPotencia total: 650 W\n80 PLUS Bronze\nProfundidad: 140 mm", parts.Supply,
		"/kind=atx /rating_w=650 /efficiency=bronze /depth_mm=140"},
	{"M.2 to OCuLink adapter, M-key, PCIe 4.0 x4", parts.Stage,
		"/kind=adapter /plug/form=m2 /socket/form=oculink /plug/key=M /generation=4 /lanes=4"},
	{"OCuLink cable 4i\nLength: 0.5 m", parts.Stage, "/kind=cable /lanes=4 /length_mm=500"},
	{"Kabel OCuLink\nLänge: 50 cm\nx4", parts.Stage, "/kind=cable /length_mm=500 /lanes=4"},
	{"PCIe x16 riser\nLength: 200 mm\nPCI Express 3.0 x16", parts.Stage, "/kind=riser /length_mm=200 /generation=3 /lanes=16"},
	{"18 AWG silicone lead\nLength: 300 mm", parts.Lead, "/gauge_awg=18 /length_mm=300"},
	{"AWG 16, 0,6 m", parts.Lead, "/gauge_awg=16 /length_mm=600"},
	{"Mini PC\nCPU: six cores, 35 W\nRAM: 16 GB\nM.2 2280 PCIe 3.0 x4, M.2 2230 PCIe 3.0 x1", parts.Host,
		"/memory_gib=16 /processor/power_w=35 /slots/0/generation=3 /slots/0/lanes=4 /slots/1/lanes=1"},
}

func written(v any) string {
	return strings.ReplaceAll(fmt.Sprint(v), " ", "_")
}

// Right on 95 of 100 facts, and wrong on none that it ticks by itself.
func TestPagesAreReadAsAPersonReadsThem(t *testing.T) {
	right, all := 0, 0
	for _, page := range pages {
		reading := pasted.Read(page.text, "")
		name, _, _ := strings.Cut(page.text, "\n")
		assert.Equal(t, page.kind, reading.Kind, name)
		want := map[string]string{}
		for fact := range strings.FieldsSeq(page.facts) {
			at, value, _ := strings.Cut(fact, "=")
			want[at] = value
		}
		found := map[string]pasted.Fact{}
		for _, f := range reading.Facts {
			found[f.At] = f
			if value, told := want[f.At]; told && f.Sure {
				assert.Equal(t, value, written(f.Value), "%s: %s", name, f.At)
			}
			assert.NotEmpty(t, f.Words, "%s: %s", name, f.At)
		}
		for at, value := range want {
			all++
			if f, there := found[at]; there && written(f.Value) == value {
				right++
			} else {
				t.Logf("%s: %s is %s, read %v", name, at, value, f.Value)
			}
		}
	}
	assert.Greater(t, all, 100)
	assert.GreaterOrEqual(t, float64(right), 0.95*float64(all), "%d of %d", right, all)
}

// What may be read two ways, or is none that such parts have, is not ticked; what is advised, of
// the mains or of another language's thousands is not taken for the part's own.
func TestWhatMayBeReadTwoWaysIsAsked(t *testing.T) {
	for text, c := range map[string]struct {
		at    string
		value any
		sure  bool
	}{
		"graphics card\nLength: 1.800 mm":                  {"/length_mm", 1.8, false},
		"graphics card\nSize: 50 x 112 x 285 mm":           {"/length_mm", 50.0, false},
		"graphics card\nPower: 2 W":                        {"/power_w", nil, false},
		"graphics card\nBoard power: 150 W or 170 W":       {"/power_w", 150.0, false},
		"graphics card\n2.5-slot":                          {"/bracket/slots", 3.0, false},
		"graphics card\nRecommended PSU: 550 W":            {"/power_w", nil, false},
		"power supply\nInput: 230 V 5 A":                   {"/rails/0/voltage_v", nil, false},
		"power supply 80 plus\nRating: 1,200 W":            {"/rating_w", nil, false},
		"power supply 80 plus\nTotal power: 1,200 W":       {"/rating_w", 1200.0, true},
		"graphics card\nmemory: <b>8 GB</b> \x00\xff junk": {"/memory_gib", 8.0, true},
	} {
		var found *pasted.Fact
		for _, f := range pasted.Read(text, "").Facts {
			if f.At == c.at {
				found = &f
			}
		}
		if c.value == nil {
			assert.True(t, found == nil || !found.Sure, text)
			continue
		}
		if assert.NotNil(t, found, text) {
			assert.Equal(t, c.value, found.Value, text)
			assert.Equal(t, c.sure, found.Sure, text)
		}
	}
	long := pasted.Read(strings.Repeat("Power: 100 W graphics card\n", 10000), "")
	assert.Len(t, long.Facts, 1, "a fact is taken once")
	assert.Equal(t, parts.Supply, pasted.Read("anything", parts.Supply).Kind)
}

// A part is made of the facts that are ticked alone, each told by a listing, and is a part like
// any other.
func TestATickedFactBecomesAPart(t *testing.T) {
	for _, page := range pages {
		reading := pasted.Read(page.text, "")
		all, err := reading.Part("a part", func(string) bool { return true })
		require.NoError(t, err, page.text)
		doc, err := rig.Encode(all)
		require.NoError(t, err)
		_, err = parts.Decode(reading.Kind, doc)
		require.NoError(t, err, page.text)
	}
	reading := pasted.Read(pages[0].text, "")
	part, err := reading.Part("", func(at string) bool { return at == "/plugs/0/connector" || at == "/power_w" })
	require.NoError(t, err)
	card := part.(*rig.Card)
	assert.Equal(t, "pasted card", card.Name)
	assert.Equal(t, rig.Listing, card.Power.Source)
	assert.Equal(t, rig.Connector("card-8"), card.Plugs[0].Connector.Value)
	assert.False(t, card.Length.Known, "it was not ticked")
	none := pasted.Read(pages[3].text, "")
	part, err = none.Part("", func(at string) bool { return at == "/plugs" })
	require.NoError(t, err)
	assert.NotNil(t, part.(*rig.Card).Plugs, "known to have none")
	_, err = (&pasted.Reading{Kind: "tower"}).Part("", func(string) bool { return true })
	assert.ErrorContains(t, err, "host, card, stage, supply or lead")
}
