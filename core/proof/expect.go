package proof

import (
	"fmt"
	"math"
	"strings"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Ends are a range of what is expected of a use.
type Ends struct {
	Share [2]float64  `json:"share"`   // of the card's own speed that the rig lets through
	Rate  *[2]float64 `json:"rate_hz"` // null while the card's own rate is not told
	Gain  *[2]float64 `json:"gain"`    // over what the host does today; null while that is not told
}

// Expected is what is expected of a use: at the utmost, and most often.
type Expected struct {
	Ends
	Likely Ends `json:"likely"`
}

// A span is what the terms of a use may be before any run: the processor's and the card's ms a
// frame (or item, step, token, job), and the MB that move for it. Card is the card's own time,
// with what a cap leaves of its speed beside it.
type span struct {
	c, g, mb, capped [2]float64
}

// An open is how far what no use tells may go (P; proof.md, Which is the pinch): how sharply
// processor and card part, what of the link is not hidden, and how the card's time and the bytes
// grow with the pixels.
type open struct{ overlap, shown, pixels, bytes [2]float64 }

var (
	utmostOpen = open{[2]float64{leastOverlap, mostOverlap}, [2]float64{0.6, 1}, [2]float64{0.6, 1}, [2]float64{0, 0.3}}
	likelyOpen = open{[2]float64{3, 5}, [2]float64{0.7, 0.95}, [2]float64{0.75, 0.95}, [2]float64{0.05, 0.2}}
)

// drawnIn is how far toward its middle each of three likely ranges is drawn where they meet in
// one figure: what is off in one is seldom off in all, and they add by squares.
var drawnIn = 1 / math.Sqrt(3)

// likelier draws a range in, by factors where it has no zero.
func likelier(r [2]float64) [2]float64 {
	if r[0] <= 0 {
		middle, half := (r[0]+r[1])/2, (r[1]-r[0])/2*drawnIn
		return [2]float64{middle - half, middle + half}
	}
	middle, factor := math.Sqrt(r[0]*r[1]), math.Pow(r[1]/r[0], drawnIn/2)
	return [2]float64{middle / factor, middle * factor}
}

func (s span) likelier() span {
	return span{likelier(s.c), likelier(s.g), likelier(s.mb), likelier(s.capped)}
}

// The planning shares of what hardly waits for the link (P): most often, and at the utmost.
var (
	encodes        = 0.4 // GB/s from which a hardware encode of a stream is not held up
	filled         = [2]float64{0.97, 1}
	filledUtmost   = [2]float64{0.9, 1}
	encoding       = [2]float64{0.9, 1}
	encodingUtmost = [2]float64{0.85, 1}
)

// bytesPerPixel of a frame that goes back over the link.
const bytesPerPixel = 4

// expecting is all that a forecast of one use needs.
type expecting struct {
	r      *rig.Rig
	w      *rig.Work
	l      Link
	ratios Ratios
	row    *reference.Use // what the sort of the use says
}

func expect(r *rig.Rig, w *rig.Work, l Link, ratios Ratios) expecting {
	return expecting{r, w, l, ratios, l.Ref.Use(sortOf(w))}
}

// sortOf is the sort of a use: as told, else as it was told to fill the card once, or to encode.
// What was told of the use itself holds against its sort.
func sortOf(w *rig.Work) rig.UseKind {
	kind := w.Kind.Value
	switch {
	case rig.Is(w.Fills, true) && !strings.HasPrefix(string(kind), string(rig.UseRender)) &&
		!strings.HasPrefix(string(kind), string(rig.UseModel)):
		return rig.UseRender
	case !w.Kind.Known && w.Encodes():
		return rig.UseEncode
	}
	return kind
}

// ExpectOf is what is expected of a use over a link of that net rate, before any run.
func ExpectOf(r *rig.Rig, w *rig.Work, l Link, ratios Ratios) Expected {
	x := expect(r, w, l, ratios)
	likely, utmost := x.spans()
	e := Expected{
		Ends:   x.ends(utmost, utmostOpen, filledUtmost, encodingUtmost),
		Likely: x.ends(likely.likelier(), likelyOpen, filled, encoding),
	}
	if taught, some := x.taught(e.Ends); some && taught.tells(e.Likely) {
		e.Likely = taught
	}
	return e
}

// utmostOf is what is expected of a use at the utmost alone.
func utmostOf(r *rig.Rig, w *rig.Work, l Link) Ends {
	x := expect(r, w, l, Same)
	_, utmost := x.spans()
	return x.ends(utmost, utmostOpen, filledUtmost, encodingUtmost)
}

// ends are the ends of what is expected; they stand at the ends of the terms, since every term
// moves a figure one way.
func (x *expecting) ends(s span, o open, fills, streaming [2]float64) (e Ends) {
	known, hardly := x.shares(fills, streaming)
	for i := range 2 {
		e.Share[i] = x.shareAt(s, o, i)
		if hardly {
			e.Share[i] = known[i] * s.capped[i]
		}
	}
	rate, told := x.w.CardHz.Get()
	if !told || rate <= 0 {
		return e
	}
	e.Rate = &[2]float64{}
	for i := range 2 {
		e.Rate[i] = x.rateAt(s, o, i)
		if hardly {
			e.Rate[i] = 1000 / s.g[1-i] * known[i] * s.capped[i] * x.ratios.Card[i]
		}
	}
	if today, told := x.w.TodayHz.Get(); told && today > 0 {
		e.Gain = &[2]float64{e.Rate[0] / today, e.Rate[1] / today}
	}
	return e
}

// shares are those of a use that hardly waits for the link; false for any other.
func (x *expecting) shares(fills, streaming [2]float64) (shares [2]float64, hardly bool) {
	switch {
	case x.w.FillsOnce() && x.row.Per == "job" && x.fits():
		return fills, true
	case streams(x.w) && float64(x.l.Net.Low) >= encodes:
		return streaming, true
	}
	return shares, false
}

// fits reports a use of which nothing is beyond the card's memory for sure.
func (x *expecting) fits() bool {
	_, over := overflow(x.r, x.w, x.row)
	return over[1] == 0
}

// shareAt is an end of the share: the card by itself at its quickest gives the least of it.
func (x *expecting) shareAt(s span, o open, end int) float64 {
	share := x.atPixels(end, func(pixels float64) float64 {
		ms, alone := x.frame(s, o, end, end, pixels)
		return alone / ms
	})
	if row := x.row; end == 1 && row.Elsewhere > 0 {
		share = max(share, row.Elsewhere) // the processor works what does not fit
	}
	return share
}

// rateAt is an end of the rate, Hz.
func (x *expecting) rateAt(s span, o open, end int) float64 {
	return x.atPixels(end, func(pixels float64) float64 {
		ms, _ := x.frame(s, o, end, 1-end, pixels)
		return 1000 / ms
	})
}

// atPixels is the least, or the most, of a figure over both ends of the pixels.
func (x *expecting) atPixels(end int, of func(pixels float64) float64) float64 {
	a := of(x.ratios.Pixels[0])
	if x.ratios.Pixels[0] == x.ratios.Pixels[1] {
		return a
	}
	b := of(x.ratios.Pixels[1])
	if end == 0 {
		return min(a, b)
	}
	return max(a, b)
}

// frame is the time of a frame at an end of what is open, 0 for the slowest, and of the card by
// itself; card is the end of the card's own time, 0 for the quickest.
func (x *expecting) frame(s span, o open, end, card int, pixels float64) (ms, alone float64) {
	slow, net := 1-end, float64(x.l.Net.Low)
	if end == 1 {
		net = float64(x.l.Net.High)
	}
	alone = s.g[card] / x.ratios.Card[1-card] * grown(pixels, o.pixels, card)
	moved := s.mb[slow]*grown(pixels, o.bytes, slow) + ownMB(x.r)*pixels
	t := Terms{C: s.c[slow] / x.ratios.Processor[end], G: alone / s.capped[end], L: o.shown[slow] * moved / max(net, leastNet)}
	return t.Added(o.overlap[end]), alone
}

// grown is by how much more pixels make something, at the end of its power that makes least of
// it, or most.
func grown(pixels float64, power [2]float64, end int) float64 {
	a, b := math.Pow(pixels, power[0]), math.Pow(pixels, power[1])
	if end == 0 {
		return min(a, b)
	}
	return max(a, b)
}

// spans are the terms of a use: likely, and at the utmost.
func (x *expecting) spans() (likely, utmost span) {
	likely, utmost = x.sortSpans()
	for _, s := range []*span{&likely, &utmost} {
		x.tell(s)
	}
	return likely, utmost
}

// sortSpans are those that its sort says, whatever is told of the use itself.
func (x *expecting) sortSpans() (likely, utmost span) {
	row := x.row
	likely = span{c: row.ProcessorMS, g: row.CardMS, mb: row.MB}
	utmost = span{c: row.ProcessorMSMost, g: row.CardMSMost, mb: row.MBMost}
	if row.PixelBytes[1] > 0 {
		pixels := pixelsOf(x.r, x.w) / 1e6
		for i := range 2 {
			likely.mb[i], utmost.mb[i] = row.PixelBytes[i]*pixels, row.PixelBytesMost[i]*pixels
		}
	}
	over, overMost := overflow(x.r, x.w, row)
	for i := range 2 {
		likely.mb[i] += over[i] * row.Touched[i]
		utmost.mb[i] += overMost[i] * row.TouchedMost[i]
	}
	likely.capped, utmost.capped = cappedOf(x.r, x.l.Ref)
	return likely, utmost
}

// tell puts what is told of a use in the place of what its sort says.
func (x *expecting) tell(s *span) {
	w := x.w
	if today, told := w.TodayHz.Get(); told && today > 0 { // it feeds what runs today
		s.c[1] = min(s.c[1], 1000/today)
		s.c[0] = min(s.c[0], s.c[1])
	}
	if mb, told := w.FrameMB.Get(); told {
		tolerance, _ := w.FrameMB.Spread()
		s.mb = [2]float64{max(0, mb-tolerance), mb + tolerance}
	}
	for _, f := range []struct {
		fact *rig.Fact[float64]
		into *[2]float64
	}{{&w.CardHz, &s.g}, {&w.ProcHz, &s.c}} {
		if rate, told := f.fact.Get(); told && rate > 0 {
			tolerance, _ := f.fact.Spread()
			*f.into = [2]float64{1000 / (rate + tolerance), 1000 / max(0.01, rate-tolerance)}
		}
	}
}

// overflow is what of a use does not fit the card's memory, MB: likely, and at the utmost.
func overflow(r *rig.Rig, w *rig.Work, row *reference.Use) (likely, utmost [2]float64) {
	if w.FrameMB.Known {
		return likely, utmost // what moves was told, whatever moves it
	}
	scaled := func(gib [2]float64) [2]float64 {
		const mb = units.BytesPerGibibyte / 1e6
		return [2]float64{gib[0] * mb, gib[1] * mb}
	}
	need, told := w.Memory.Get()
	have, known := r.Card.Memory.Get()
	switch {
	case told && known:
		off := w.Memory.Tolerance + r.Card.Memory.Tolerance
		gib := [2]float64{max(0, float64(need)-float64(have)-off), max(0, float64(need)-float64(have)+off)}
		return scaled(gib), scaled(gib)
	case row.OverGiB[1] > 0:
		return scaled(row.OverGiB), scaled(row.OverGiBMost)
	case known:
		middle := math.Sqrt(row.MemoryGiB[0] * row.MemoryGiB[1])
		return scaled([2]float64{0, max(0, middle-float64(have))}), scaled([2]float64{0, max(0, row.MemoryGiBMost[1]-float64(have))})
	}
	return likely, utmost
}

// pixelsOf are the pixels of a use: as it wants them, else those of the screen.
func pixelsOf(r *rig.Rig, w *rig.Work) float64 {
	if pixels := enoughPixels(w); pixels > 0 {
		return pixels
	}
	return float64(r.Brief.Screen.Width.Or(usualWide)) * float64(r.Brief.Screen.Height.Or(usualHigh))
}

// The screen of which nobody told the pixels (P).
const usualWide, usualHigh = 1920, 1080

// cappedOf is the share of its speed that a cap on the card's power leaves it (reference 8a).
func cappedOf(r *rig.Rig, ref *reference.Tables) (likely, utmost [2]float64) {
	whole := [2]float64{1, 1}
	limit, told := r.Card.Cap.Get()
	power, known := r.Card.Power.Get()
	switch {
	case !told || known && limit >= power:
		return whole, whole
	case !known || power <= 0:
		return [2]float64{0.8, 1}, [2]float64{0.45, 1}
	}
	return ref.CappedSpeed(float64(limit / power))
}

// streams reports a use that encodes a stream in hardware.
func streams(w *rig.Work) bool {
	encoder, told := w.Encoder.Get()
	return told && encoder != "none" && w.Encodes()
}

// ownMB is what a frame sends back to the host's own panel, MB.
func ownMB(r *rig.Rig) float64 {
	screen := &r.Brief.Screen
	if !rig.Is(screen.Kind, rig.OwnPanel) {
		return 0
	}
	return float64(screen.Width.Or(usualWide)) * float64(screen.Height.Or(usualHigh)) * bytesPerPixel / 1e6
}

// most is the upper end of the share at the utmost; the whole for what hardly waits for the link.
func most(r *rig.Rig, w *rig.Work, l Link) float64 {
	x := expect(r, w, l, Same)
	if _, hardly := x.shares(filled, encoding); hardly {
		return 1
	}
	_, utmost := x.spans()
	return x.shareAt(utmost, utmostOpen, 1)
}

// leastNet keeps a link that carries nothing from dividing by it, GB/s.
const leastNet = 1e-3

// Words say what is expected: what it is most often, and what it is rarely under.
func (e *Expected) Words() string {
	text := percentSpan(e.Likely.Share) + " of the card's own speed"
	if rarely := e.Share[0]; rarely > 0.05 && rarely < e.Likely.Share[0]-0.03 {
		text += fmt.Sprintf(", rarely under %.0f", 100*e.Share[0])
	}
	text = "most often " + text
	if e.Likely.Rate != nil {
		text += fmt.Sprintf("; %s", hertzSpan(*e.Likely.Rate))
	}
	if e.Likely.Gain != nil {
		text += fmt.Sprintf(", %.2g to %.2g times today's", e.Likely.Gain[0], e.Likely.Gain[1])
	}
	return text
}

func percentSpan(r [2]float64) string {
	low, high := fmt.Sprintf("%.0f", 100*r[0]), fmt.Sprintf("%.0f", 100*r[1])
	if low == high {
		return low + " %"
	}
	return low + " to " + high + " %"
}

func hertzSpan(r [2]float64) string {
	low, high := units.Trim(r[0], decimalsOf(r[0])), units.Trim(r[1], decimalsOf(r[1]))
	if low == high {
		return low + " Hz"
	}
	return low + " to " + high + " Hz"
}

// decimalsOf are those with which a rate is told: one under ten.
func decimalsOf(rate float64) int {
	if rate < 10 {
		return 1
	}
	return 0
}
