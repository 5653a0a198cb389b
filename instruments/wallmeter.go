// Package instruments holds simulated stand-ins for outside devices, and what
// speaks with them. They are reached over loopback, line by line, as a device on a
// wire would be; docs/instruments.md has their protocols.
package instruments

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
	"strings"
	"time"

	"kolvan/core/units"
)

// WallMeterProtocol is the first line a wall meter sends.
const WallMeterProtocol = "kolvan-meter/1"

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

// ServeWallMeter plays wall meters to all who call, until the listener is closed.
func ServeWallMeter(ctx context.Context, on net.Listener) error {
	return serve(ctx, on, "wall meter", func(conn net.Conn) error { return playOn(ctx, conn, time.NewTicker(Pace)) })
}

// mostLine bounds a command.
const mostLine = 400

// playOn answers one caller: it takes commands and sends a figure at every tick
// once it was told what to play.
func playOn(ctx context.Context, conn net.Conn, ticks *time.Ticker) error {
	defer conn.Close()
	defer ticks.Stop()
	ctx, done := context.WithCancel(ctx)
	defer done()
	if _, err := fmt.Fprintln(conn, WallMeterProtocol); err != nil {
		return err
	}
	commands := make(chan string)
	go func() {
		defer done()
		lines := bufio.NewScanner(conn)
		lines.Buffer(make([]byte, mostLine), mostLine)
		for lines.Scan() {
			select {
			case commands <- lines.Text():
			case <-ctx.Done():
				return
			}
		}
	}()
	var player *Player
	for shown := 0; ; {
		var answer string
		select {
		case <-ctx.Done():
			return ctx.Err()
		case command := <-commands:
			answer = "ok"
			if err := obey(&player, command); err != nil {
				answer = "error " + err.Error()
			}
		case <-ticks.C:
			if player == nil {
				continue
			}
			answer = fmt.Sprintf("%.3f %.1f", (time.Duration(shown) * Pace).Seconds(), player.Next())
			shown++
		}
		if err := conn.SetWriteDeadline(time.Now().Add(5 * time.Second)); err != nil {
			return err
		}
		if _, err := fmt.Fprintln(conn, answer); err != nil {
			return err
		}
	}
}

func obey(player **Player, command string) error {
	word, rest, _ := strings.Cut(strings.TrimSpace(command), " ")
	if word == "play" {
		var d Draw
		if _, err := fmt.Sscanf(rest, "idle=%f loaded=%f spike=%f trips=%f seed=%d", &d.Idle, &d.Loaded, &d.Spike, &d.Trips, &d.Seed); err != nil {
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
		return fmt.Errorf("%q is no command; there are play, load, trip and reset", word)
	}
	return nil
}
