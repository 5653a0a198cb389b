package pasted

import "regexp"

// Labels in English, German, French, Spanish, Polish, Italian, Dutch, Portuguese and Swedish.
var (
	isLength     = labelWords(`length|l[aä]nge|longueur|longitud|largo|d[lł]ugo[sś][cć]|lunghezza|lengte|comprimento|l[aä]ngd`)
	isHeight     = labelWords(`height|h[oö]he|hauteur|altura|alto|wysoko[sś][cć]|altezza|hoogte|h[oö]jd`)
	isThickness  = labelWords(`thickness|dicke|st[aä]rke|[eé]paisseur|grosor|espesor|grubo[sś][cć]|spessore|dikte|espessura|tjocklek`)
	isDepth      = labelWords(`depth|tiefe|profondeur|profundidad|fondo|g[lł][eę]boko[sś][cć]|profondit[aà]|diepte|profundidade|djup`)
	isDimensions = labelWords(`dimensions?|abmessung(?:en)?|ma(?:ß|ss)e|dimensiones|medidas|wymiary|dimensioni|afmetingen|dimens[oõ]es|` +
		`m[aå]tt|size|gr[oö](?:ß|ss)e|taille|tama[nñ]o|rozmiar`)
	isWeight = labelWords(`weight|gewicht|poids|peso|masa|masse|waga|vikt`)
	isPower  = labelWords(`(?:(?:total )?(?:board|graphics|card) )?power|t[gbd]p|power (?:consumption|draw|usage)|max(?:imum|\.)? power|` +
		`consumption|leistungsaufnahme|(?:strom)?verbrauch|max\.? leistung|consommation|puissance(?: max\w*)?|` +
		`consumo|potencia(?: m[aá]x\w*)?|pob[oó]r mocy|moc(?: maks\w*)?|potenza|assorbimento|(?:energie)?verbruik|` +
		`vermogen|pot[eê]ncia|effekt(?:f[oö]rbrukning)?|str[oö]mf[oö]rbrukning`)
	isRating = labelWords(`(?:total |rated |max(?:imum|\.)? )?(?:power|wattage|output power)|(?:nenn|gesamt|ausgangs)?leistung|puissance(?: (?:totale|` +
		`nominale))?|potencia(?: (?:total|nominal))?|moc(?: (?:ca[lł]kowita|znamionowa))?|potenza(?: (?:totale|` +
		`nominale))?|(?:totaal)?vermogen|pot[eê]ncia(?: (?:total|nominal))?|(?:total|m[aä]rk)?effekt`)
	isMemory = labelWords(`(?:graphics |video )?memory(?: size)?|vram|(?:grafik)?speicher(?:gr[oö](?:ß|ss)e)?|m[eé]moire(?: vid[eé]o)?|` +
		`memoria(?: gr[aá]fica| video)?|pami[eę][cć]|(?:video)?geheugen|mem[oó]ria|(?:grafik)?minne`)
	isOutput = labelWords(`output|ausgang|sortie|salida|wyj[sś]cie|uscita|uitgang|sa[ií]da|utg[aå]ng|dc output|out`)
	isPlugs  = labelWords(`(?:supplementary |external |pcie? )?power (?:connectors?|plugs?|input|pins?)|strom(?:anschl[uü](?:ss|` +
		`sse|ß)|versorgung)|connecteurs? d'alimentation|alimentation(?: externe)?|conector(?:es)? de (?:alimentaci[oó]n|` +
		`energ[ií]a|alimenta[cç][aã]o)|z[lł][aą]cza? zasilania|connettor[ei] (?:di )?alimentazione|voedingsaansluiting(?:en)?|` +
		`str[oö]mkontakt(?:er)?|power`)
	isBus = labelWords(`(?:bus |host )?interface|bus(?: type)?|slot|schnittstelle|steckplatz|anschluss|interfaz|interfejs|magistrala|` +
		`interfaccia|aansluiting|gr[aä]nssnitt|pcie?(?: express)?`)
	isNoise = labelWords(`noise(?: level)?|lautst[aä]rke|ger[aä]usch(?:pegel)?|bruit|niveau sonore|ruido|ha[lł]as|g[lł]o[sś]no[sś][cć]|` +
		`rumore|geluid(?:sniveau)?|ru[ií]do|ljud(?:niv[aå])?`)
	isEncoder = labelWords(`(?:video |hardware )?encod(?:er|ers|ing|eur|eurs|ificador|ificadores|age)|enkoder(?:y)?|kodier(?:er|ung)|` +
		`codificator[ei]|codering|kodare|codec(?:s)?`)
	isProcessor = labelWords(`cpu|processor|prozessor|processeur|procesador|procesor|processore|processador`)
	isRAM       = labelWords(`ram|(?:system |main )?memory|arbeitsspeicher|m[eé]moire(?: vive)?|memoria(?: ram)?|pami[eę][cć](?: ram)?|` +
		`werkgeheugen|mem[oó]ria|minne`)
	isGauge = labelWords(`(?:wire )?gauge|awg|querschnitt|calibre|przekr[oó]j|sezione|draaddikte|bitola|ledararea`)
	isNone  = regexp.MustCompile(`(?i)^\s*(none|no|not required|n/?a|keine?r?|nicht n[oö]tig|aucune?|sans|ningun[oa]?|no necesita|brak|` +
		`nie|nessuno|nessuna|geen|nenhum|ingen|inga|-)\s*\.?\s*$`)
)

// labelWords matches a label that is one of the words, with a remark in brackets behind it.
func labelWords(words string) *regexp.Regexp {
	return regexp.MustCompile(`(?i)^(?:` + words + `)(?:\s*[(\[].*)?$`)
}

// isLabel reports words that are a label of their own.
func isLabel(words string) bool {
	for _, label := range []*regexp.Regexp{
		isLength, isHeight, isThickness, isDepth, isDimensions, isWeight, isPower, isRating, isMemory, isOutput, isPlugs, isBus, isNoise,
		isEncoder,
		isProcessor, isRAM, isGauge,
	} {
		if label.MatchString(words) {
			return true
		}
	}
	return false
}
