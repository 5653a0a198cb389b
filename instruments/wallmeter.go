package instruments

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"sync"
	"time"

	"kolvan/core/meter"
	"kolvan/core/units"
)

// Draw is what a rig takes from the wall, for the stand-in to play.
type Draw struct {
	Idle, Loaded units.Watt
	Spike        units.Watt // what it may take for a tenth of a second
	Trips        units.Watt // what its supply gives up at; 0 where it never does
	Seed         uint64
}

// line is the command that tells a stand-in what to play.
func (d Draw) line() string {
	return fmt.Sprintf("play idle=%.3f loaded=%.3f spike=%.3f trips=%.3f seed=%d", d.Idle, d.Loaded, d.Spike, d.Trips, d.Seed)
}

// Loads are the words for how hard the rig works, in the order of rising load.
var Loads = []string{"idle", "half", "full", "heaviest"}

// Pace is how often a wall meter shows a new figure.
const Pace = 200 * time.Millisecond

// A Player makes up what a meter shows of a rig, one figure after another, the
// same for the same seed.
type Player struct {
	draw    Draw
	load    string
	level   float64 // what the rig draws now, slow in rising and falling
	wander  float64 // slow noise, a share
	tripped bool
	random  *rand.Rand
}

// NewPlayer starts a rig with nothing to do.
func NewPlayer(d Draw) *Player {
	return &Player{draw: d, load: "idle", level: float64(d.Idle), random: rand.New(rand.NewPCG(d.Seed, 1))}
}

// Set changes how hard the rig works.
func (p *Player) Set(load string) error {
	for _, word := range Loads {
		if word == load {
			p.load = load
			return nil
		}
	}
	return fmt.Errorf("%q is no load; there are %s", load, strings.Join(Loads, ", "))
}

// Trip makes the supply switch itself off; Reset brings it back.
func (p *Player) Trip() { p.tripped = true }

// Reset switches a tripped supply on again, the rig with nothing to do.
func (p *Player) Reset() { p.tripped, p.load, p.level = false, "idle", float64(p.draw.Idle) }

// Standing is what a supply that is off takes from the wall.
const standing = 0.8

// Next is the next figure, a Pace after the one before.
func (p *Player) Next() units.Watt {
	if p.tripped {
		return units.Watt(standing * (1 + 0.02*p.random.NormFloat64()))
	}
	idle, loaded := float64(p.draw.Idle), float64(p.draw.Loaded)
	wants := map[string]float64{"idle": idle, "half": (idle + loaded) / 2, "full": loaded, "heaviest": loaded}[p.load]
	p.level += (wants - p.level) * 0.35
	p.wander = 0.9*p.wander + 0.004*p.random.NormFloat64()
	shown := p.level * (1 + p.wander + 0.003*p.random.NormFloat64())
	if p.load == "heaviest" && p.random.IntN(12) == 0 {
		// The spike lasts a tenth of a second of the fifth that a figure is the
		// mean of; the supply meets it whole.
		if p.draw.Trips > 0 && p.draw.Spike > p.draw.Trips {
			p.tripped = true
		}
		shown += (float64(p.draw.Spike) - p.level) / 2
	}
	return units.Watt(max(0, shown))
}

// wallMeter is what one caller's rig is played with.
type wallMeter struct {
	mu       sync.Mutex
	player   *Player
	watching bool
}

func (m *wallMeter) obey(ctx context.Context, request string, out *says) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	if request != "watch" {
		return obey(&m.player, request)
	}
	if !m.watching {
		m.watching = true
		go m.show(ctx, out)
	}
	return nil
}

// show says a figure at every tick, once it was told what to play.
func (m *wallMeter) show(ctx context.Context, out *says) {
	ticks := time.NewTicker(Pace)
	defer ticks.Stop()
	for shown := 0; ; {
		select {
		case <-ctx.Done():
			return
		case <-ticks.C:
			watts, playing := m.next()
			if !playing {
				continue
			}
			fmt.Fprintf(out, "%.3f %.1f\n", (time.Duration(shown) * Pace).Seconds(), watts)
			if out.Flush() != nil {
				return // the caller left
			}
			shown++
		}
	}
}

func (m *wallMeter) next() (w units.Watt, playing bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.player == nil {
		return 0, false
	}
	return m.player.Next(), true
}

func obey(player **Player, command string) error {
	word, rest, _ := strings.Cut(strings.TrimSpace(command), " ")
	if word == "play" {
		var d Draw
		if _, err := fmt.Sscanf(
			rest, "idle=%f loaded=%f spike=%f trips=%f seed=%d", &d.Idle, &d.Loaded, &d.Spike, &d.Trips, &d.Seed,
		); err != nil {
			return errors.New("play wants idle=W loaded=W spike=W trips=W seed=N")
		}
		if d.Idle < 0 || d.Loaded < d.Idle || d.Loaded > 20e3 || d.Spike < d.Loaded || d.Spike > 60e3 {
			return errors.New("play wants 0 ≤ idle ≤ loaded ≤ spike, loaded to 20000 W, spike to 60000 W")
		}
		*player = NewPlayer(d)
		return nil
	}
	if *player == nil {
		return errors.New("nothing is played yet; begin with play")
	}
	switch word {
	case "load":
		return (*player).Set(rest)
	case "trip":
		(*player).Trip()
	case "reset":
		(*player).Reset()
	default:
		return fmt.Errorf("%q is no command; there are watch, play, load, trip and reset", word)
	}
	return nil
}

// A WallMeter is a meter that was called.
type WallMeter struct{ *caller }

// CallWallMeter calls the meter at an address and begins to watch it.
func CallWallMeter(ctx context.Context, addr string) (*WallMeter, error) {
	c, err := dial(ctx, addr, MeterName, "wall meter")
	if err != nil {
		return nil, err
	}
	m := &WallMeter{c}
	if err := m.Tell("watch"); err != nil {
		return nil, errors.Join(fmt.Errorf("calling the wall meter at %s: %w", addr, err), m.Close())
	}
	return m, nil
}

// Play tells a stand-in what to play; a real meter measures instead.
func (m *WallMeter) Play(d Draw) error { return m.Tell(d.line()) }

// Tell sends a request.
func (m *WallMeter) Tell(request string) error { return m.ask(request) }

// Next waits for the next sample. That a request ended is passed over, unless it is an
// error.
func (m *WallMeter) Next() (meter.Sample, error) {
	for {
		text, ended, err := m.next()
		if err != nil {
			return meter.Sample{}, fmt.Errorf("the wall meter: %w", err)
		}
		if ended {
			continue
		}
		var at, watts float64
		if n, err := fmt.Sscanf(text, "%f %f", &at, &watts); n != 2 || err != nil {
			return meter.Sample{}, fmt.Errorf("the wall meter sent %q where seconds and watts are accepted", text)
		}
		return meter.Sample{At: units.Second(at), Power: units.Watt(watts)}, nil
	}
}
