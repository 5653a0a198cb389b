package tables

import (
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// A Quantity is what a column holds, by its head.
type Quantity int

// The quantities.
const (
	Unknown   Quantity = iota // nothing that is known here
	FrameTime                 // how long each frame took
	Rate                      // frames a second
	Stamp                     // the moment of a row
	Date                      // the day of a row, its time of day beside it
	Power                     // watts
	Process                   // whose row it is
	Index                     // counts the rows
	Other                     // another quantity, by its unit: volts, degrees, a share
)

// String is a quantity in words.
func (q Quantity) String() string {
	return [...]string{
		"not known", "frame times", "rates", "time stamps", "dates", "power", "process", "count of rows", "another quantity",
	}[q]
}

// A Head is what the name of a column says: its quantity, how surely, and the unit it tells;
// "" where it tells none. Units are ms, s, us, ns, min, h; Hz; W, kW, mW; others as written.
type Head struct {
	Quantity Quantity
	Sure     int // 0 to 3; larger goes before
	Unit     string
	Stem     string // its words without the unit, in small letters and without blanks
}

// timeUnits are the units of time, by how tables write them.
var timeUnits = units(map[string]string{
	"ms": "ms msec msecs millisecond milliseconds millis millisekunden millisecondes milisegundos millisecondi milissegundos " +
		"milisekundy мс ミリ秒 毫秒 밀리초",
	"s":   "s sec secs second seconds sekunde sekunden seconde secondes segundo segundos secondo secondi sekunda sekundy sek сек с 秒 초",
	"us":  "us µs μs usec microsecond microseconds mikrosekunden мкс 微秒",
	"ns":  "ns nsec nanosecond nanoseconds nanosekunden нс",
	"min": "min minutes minuten",
	"h":   "h hours stunden",
})

// powerUnits are the units of power; rateUnits those of frames a second.
var (
	powerUnits = units(map[string]string{"W": "w watt watts ватт вт ワット 瓦", "kW": "kw kilowatt",
		"mW": "mw milliwatt milliwatts"})
	rateUnits = units(map[string]string{"Hz": "fps hz 1/s f/s b/s i/s ips"})
)

// otherUnits are units of what is neither time, rate nor power.
var otherUnits = units(
	map[string]string{
		"": "v volt volts mv a amp amps ampere ma va var wh kwh mwh % percent prozent pct °c ℃ c °f f k rpm mhz ghz khz mb mib gb gib " +
			"kb db dba j kj bpm cos",
	},
)

// units lists each way of writing under what it means.
func units(by map[string]string) map[string]string {
	all := map[string]string{}
	for unit, written := range by {
		for _, word := range strings.Fields(written) {
			all[word] = unit
			if unit == "" {
				all[word] = word
			}
		}
	}
	return all
}

// heads are the words by which tables name a quantity, in the languages of the trade; blanks
// and signs count for nothing.
var heads = func() map[string]Quantity {
	all := map[string]Quantity{}
	for quantity, words := range map[Quantity]string{
		FrameTime: "frametime frametimes framems frameduration frame msperframe perframe probild jebild parimage porfotograma porcuadro " +
			"perfotogramma porquadro naklatkę frametimems timeperframe millisecondsperframe" +
			" dt delta deltatime interval frameinterval presentinterval" +
			" bildzeit bilddauer bildzeiten framezeit framedauer zeitprobild zeitjebild dauerprobild msprobild" +
			" tempsdimage duréedimage dureedimage tempsparimage duréeparimage dureeparimage tempsdetrame" +
			" tiempodefotograma tiempodecuadro tiempoporfotograma tiempoporcuadro duracióndefotograma duracióndelfotograma " +
			"duraciondefotograma tiempodelfotograma" +
			" tempodifotogramma tempofotogramma duratafotogramma tempoperfotogramma tempodelfotogramma" +
			" tempodequadro tempodoquadro tempoporquadro duraçãodoquadro" +
			" czasklatki czastrwaniaklatki czasramki frametijd beeldtijd tijdperbeeld" +
			" bildtid bildrutetid bilderutetid billedtid bildetid ruutuaika kuvaaika ruudunaika" +
			" čassnímku dobasnímku dobatrvánísnímku képidő képkockaidő timpdecadru karesüresi" +
			" времякадра длительностькадра часкадру フレーム時間 フレームタイム 帧时间 " +
			"帧时 帧间隔 幀時間 프레임시간 프레임타임",
		Rate: "fps framerate framespersecond frequencyofframes framefrequency averagefps avgfps currentfps" +
			" bildrate bilderprosekunde bildfrequenz bilderjesekunde imagesparseconde imagesseconde fréquencedimages cadence ips" +
			" fotogramasporsegundo cuadrosporsegundo tasadefotogramas tasadecuadros fotogrammialsecondo frequenzafotogrammi" +
			" quadrosporsegundo taxadequadros klatkinasekundę klatkinasekunde liczbaklatek beeldenperseconde beeldsnelheid" +
			" bilderpersekund bildfrekvens billederprsekund bilderisekundet ruutuasekunnissa snímkyzasekundu snímkovápekvence snímkovafrekvence" +
			" кадрывсекунду кадроввсекунду частотакадров кадрівнасекунду " +
			"フレームレート 帧率 帧数 幀率 프레임속도 프레임률 saniyedekikare karehızı",
		Stamp: "time timestamp timeinseconds elapsed elapsedtime presenttime t clock timestart start when at datetime timeofday unix epoch " +
			"unixtime seconds" +
			" zeit zeitstempel uhrzeit zeitpunkt datumzeit datumuhrzeit verstrichen laufzeit temps horodatage heure tempsécoulé" +
			" tiempo marcadetiempo hora fechahora tempo marcatempo orario ora dataora momento tijd tijdstip tijdstempel" +
			" czas znacznikczasu godzina tid tidpunkt tidsstämpel tidsstempel klokkeslæt klokkeslett aika aikaleima kello" +
			" čas časovárazítka časovérazítko idő időbélyeg timp zaman zamandamgası время час отметкавремени " +
			"時刻 時間 时间 时间戳 時間戳 시간 시각 타임스탬프",
		Date: "date datum fecha data dato päivä dátum tarih дата 日付 日期 날짜",
		Power: "power activepower realpower powerdraw p load consumption reading draw watts watt wattage" +
			" leistung wirkleistung leistungsaufnahme puissance puissanceactive potencia potenciaactiva consumo potenza potenzaattiva" +
			" potência potênciaativa moc moccczynna mocczynna pobórmocy vermogen effekt effekten effektforbrug teho výkon příkon " +
			"teljesítmény" +
			" putere güç мощность потужність 電力 消費電力 功率 有功功率 전력",
		Process: "process processname application app appname program executable exe pid processid pass run session" +
			" prozess prozessname prozessid anwendung programm durchlauf processus programme proceso aplicación aplicacion programa" +
			" processo applicazione aplicativo proces aplikacja proceso sovellus prosessi процесс программа " +
			"приложение プロセス 进程 程序 프로세스 프로그램",
		Index: "n no nr i # index row sample samples line number count framenumber frameno frameindex framecount id" +
			" nummer bildnummer bildnr zeile zähler numéro numero numérodimage fila riga linha lp wiersz rivi rij řádek номер " +
			"кадр 番号 编号 序号 번호",
	} {
		for word := range strings.FieldsSeq(words) {
			all[strings.ToLower(norm.NFC.String(word))] = quantity
		}
	}
	return all
}()

// HeadOf reads the head of a column.
func HeadOf(name string) Head {
	words, unit, bracketed := parted(name)
	stem := strings.Join(words, "")
	h := Head{Stem: stem}
	if h.Unit = timeUnits[unit]; h.Unit == "" {
		h.Unit = powerUnits[unit]
	}
	if h.Unit == "" {
		h.Unit = rateUnits[unit]
	}
	if h.Unit == "" && otherUnits[unit] != "" {
		h.Unit = unit
	}
	h.Quantity, h.Sure = quantityOf(stem, words)
	if h.Unit == "" && unit != "" && bracketed { // a unit nobody knows here
		h.Unit = unit
	}
	h.settle()
	return h
}

// settle holds the words and the unit together: a unit of another sort is believed.
func (h *Head) settle() {
	switch {
	case h.Unit == "":
	case h.Unit == "W" || h.Unit == "kW" || h.Unit == "mW":
		if h.Quantity != Power {
			h.Quantity, h.Sure = Power, 1
		}
	case h.Unit == "Hz":
		if frames := strings.Contains(h.Stem, "frame") || strings.Contains(h.Stem, "bild") ||
			strings.Contains(h.Stem, "present"); h.Quantity != Rate {
			h.Quantity, h.Sure = Other, 0
			if frames {
				h.Quantity, h.Sure = Rate, 2
			}
		}
	case isTime(h.Unit):
		if h.Quantity == Index || h.Quantity == Rate || h.Quantity == Power {
			h.Quantity, h.Sure = Unknown, 0
		}
	default:
		h.Quantity, h.Sure = Other, 0
	}
}

func isTime(unit string) bool {
	return slices.Contains([]string{"ms", "s", "us", "ns", "min", "h"}, unit)
}

// quantityOf is what words name, and how surely.
func quantityOf(stem string, words []string) (Quantity, int) {
	has := func(list ...string) bool {
		return slices.ContainsFunc(list, func(word string) bool { return slices.Contains(words, word) })
	}
	quantity, known := heads[stem]
	switch {
	case known && quantity == FrameTime && (stem == "frame" || len(words) == 1 && has("dt", "delta", "interval")):
		return FrameTime, 1
	case known && quantity == FrameTime:
		return FrameTime, 3
	case known:
		return quantity, 3
	case strings.Contains(stem, "frametime"), strings.Contains(stem, "frameduration"),
		has("frame", "frames") && has("time", "times", "duration", "interval", "delta") && !has("render", "busy", "gpu", "cpu", "latency",
			"wait"):
		return FrameTime, 2
	case has("fps") || strings.Contains(stem, "framerate"):
		return Rate, 2
	case has("between"):
		return FrameTime, 1
	case has("power") && !has("factor", "limit", "state"):
		return Power, 2
	case has("time", "timestamp") && len(words) == 2 && has("stamp", "elapsed", "present", "start", "capture", "since"):
		return Stamp, 2
	default:
		return Unknown, 0
	}
}

// parted is a name as its words in small letters, and the unit it tells: in brackets, or as a
// last word of its own.
func parted(name string) (words []string, unit string, bracketed bool) {
	name = norm.NFKC.String(strings.TrimSpace(strings.Trim(name, "\" \t\ufeff")))
	if from := strings.IndexAny(name, "([{"); from >= 0 {
		inside := strings.Trim(name[from:], "()[]{} ")
		if to := strings.IndexAny(name[from:], ")]}"); to > 0 {
			inside = strings.Trim(name[from:from+to], "()[]{} ")
			name = name[:from] + " " + name[from+to+1:]
		} else {
			name = name[:from]
		}
		unit, bracketed = strings.ToLower(strings.TrimPrefix(inside, "in ")), true
	}
	words = splitWords(name)
	if bracketed && (isUnit(unit) || looksLikeUnit(unit)) {
		return words, unit, true
	}
	if heads[strings.Join(words, "")] == Rate {
		return words, "", false // so many a second: the second is no unit of its own
	}
	for i := len(words) - 1; i >= 0; i-- {
		last := i == len(words)-1
		if _, time := timeUnits[words[i]]; !(last && isUnit(words[i]) || i == 0 && time && words[i] != "s" && words[i] != "h" &&
			words[i] != "min") {
			continue
		}
		if len(words) == 1 && heads[words[i]] != 0 { // "t", "fps": a name by itself
			return words, "", false
		}
		unit = words[i]
		words = append(words[:i:i], words[i+1:]...)
		if n := len(words); n > 0 && words[n-1] == "in" {
			words = words[:n-1]
		}
		break
	}
	return words, unit, false
}

// looksLikeUnit reports a word in brackets that may be a unit nobody knows here: short, and of
// letters.
func looksLikeUnit(word string) bool {
	return len(word) > 0 && len(word) <= 4 && !strings.ContainsFunc(word, func(c rune) bool { return !unicode.IsLetter(c) && c != '/' })
}

func isUnit(word string) bool {
	return timeUnits[word] != "" || powerUnits[word] != "" || rateUnits[word] != "" || otherUnits[word] != ""
}

// splitWords parts a name at signs, at blanks, and where small letters turn to capitals.
func splitWords(name string) []string {
	var b strings.Builder
	last := ' '
	for _, c := range name {
		if unicode.IsUpper(c) && unicode.IsLower(last) {
			b.WriteByte(' ')
		}
		last = c
		if strings.ContainsRune("_-.,:;/|'’", c) {
			c = ' '
		}
		b.WriteRune(unicode.ToLower(c))
	}
	return strings.Fields(b.String())
}
