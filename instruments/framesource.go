package instruments

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"time"

	"kolvan/core/proof"
)

// FrameStyles are the kinds of table a frame source writes: frame times in ms, time stamps
// in s with decimal commas, and durations in µs with the name of what drew them.
var FrameStyles = []string{"times", "stamps", "passes"}

// A FrameSource plays a workload on a rig, for the stand-in to log.
type FrameSource struct {
	proof.Terms         // ms: what a frame waits for, and what holds it up
	Seconds     float64 // of the whole run
	Soak        float64 // share by which the card slows once it is warm
	Seed        uint64
}

// What a simulated frame is made of, besides its terms.
const (
	overlap      = 4.0   // exponent of the power mean
	noise        = 0.05  // deviation of a frame, as a share of it
	stallEach    = 400   // frames between two stalls, on average
	stallTimes   = 3.5   // a stall against a frame
	soakSeconds  = 60.0  // to two thirds of the warming
	longestRun   = 3600. // s
	mostFrames   = 2_000_000
	shortestMill = 0.1 // ms a frame
)

// WriteFrames logs the run as a table of a style; the same seed plays the same frames.
func WriteFrames(to io.Writer, s FrameSource, style string) error {
	out := bufio.NewWriter(to)
	if err := s.frames(out, style, func(float64) error { return nil }); err != nil {
		return err
	}
	if err := out.Flush(); err != nil {
		return fmt.Errorf("writing the capture: %w", err)
	}
	return nil
}

// frames writes frame after frame; shown is asked after each, with the ms since the first
// began, before the next is played.
func (s FrameSource) frames(out io.Writer, style string, shown func(at float64) error) error {
	write, head := writerOf(style)
	if write == nil {
		return fmt.Errorf("%q is no style of table; accepted: %s", style, strings.Join(FrameStyles, ", "))
	}
	if !(s.Frame(overlap) >= shortestMill) || !(s.Seconds > 0 && s.Seconds <= longestRun) {
		return errors.New("a run takes 1 to 3600 seconds, of frames that take 0.1 ms or more")
	}
	if _, err := fmt.Fprintln(out, head); err != nil {
		return err
	}
	draw := rand.New(rand.NewPCG(s.Seed, 0))
	at := 0.0 // ms
	for n := 0; at < 1000*s.Seconds && n < mostFrames; n++ {
		ms := s.next(draw, at/1000)
		at += ms
		write(out, n, ms, at)
		if err := shown(at); err != nil {
			return err
		}
	}
	return nil
}

// fastest is how many times as fast as it happens a run may be played.
const fastest = 1000

// frameSource plays runs, frame by frame as they happen.
type frameSource struct{}

func (frameSource) obey(ctx context.Context, request string, out *says) error {
	source, style, times, err := playedBy(request)
	if err != nil {
		return err
	}
	return source.live(ctx, out, style, times)
}

func playedBy(request string) (s FrameSource, style string, times float64, err error) {
	_, err = fmt.Sscanf(
		request, "play style=%s seconds=%f processor_ms=%f card_ms=%f link_ms=%f cap_ms=%f soak=%f seed=%d times=%f", &style,
		&s.Seconds, &s.C, &s.G, &s.L, &s.Cap, &s.Soak, &s.Seed, &times,
	)
	if err != nil || !(times > 0 && times <= fastest) {
		return s, style, times, fmt.Errorf(
			"play wants style=%s seconds=S processor_ms=MS card_ms=MS link_ms=MS cap_ms=MS soak=SHARE seed=N times=1 to %d",
			strings.Join(FrameStyles, "|"), fastest,
		)
	}
	return s, style, times, nil
}

// live sends the frames of a run as they happen, or so many times as fast, a few at a time.
func (s FrameSource) live(ctx context.Context, out *says, style string, times float64) error {
	began := time.Now()
	return s.frames(out, style, func(at float64) error {
		ahead := time.Duration(at/times*float64(time.Millisecond)) - time.Since(began)
		if ahead < batch {
			return ctx.Err()
		}
		if err := out.Flush(); err != nil {
			return err
		}
		select {
		case <-ctx.Done():
		case <-time.After(ahead):
		}
		return ctx.Err()
	})
}

// batch is how far frames may be ahead of their time before they are sent.
const batch = 5 * time.Millisecond

// next is the time of a frame that begins so many seconds into the run, ms.
func (s FrameSource) next(draw *rand.Rand, second float64) float64 {
	now := s.Terms
	now.G *= 1 + s.Soak*(1-math.Exp(-second/soakSeconds))
	now.Cap = 0
	ms := now.Frame(overlap) * max(0.5, 1+noise*draw.NormFloat64())
	if draw.IntN(stallEach) == 0 {
		ms *= stallTimes
	}
	return max(ms, s.Cap)
}

func writerOf(style string) (write func(w io.Writer, n int, ms, at float64), head string) {
	switch slices.Index(FrameStyles, style) {
	case 0:
		return func(w io.Writer, n int, ms, _ float64) { fmt.Fprintf(w, "%d,%.3f\n", n, ms) }, "frame,frame_time_ms"
	case 1:
		return func(w io.Writer, n int, _, at float64) {
			fmt.Fprintf(w, "%d;%s\n", n, strings.Replace(fmt.Sprintf("%.6f", at/1000), ".", ",", 1))
		}, "frame;time_s"
	case 2:
		return func(w io.Writer, _ int, ms, _ float64) { fmt.Fprintf(w, "\"stand-in\"\t%.0f\n", 1000*ms) }, "process\tframe_duration_us"
	}
	return nil, ""
}
