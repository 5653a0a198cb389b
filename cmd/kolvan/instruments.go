package main

import (
	"context"
	"fmt"
	"net"
	"os"
	"os/signal"
	"syscall"

	"kolvan/core/proof"
	"kolvan/instruments"
)

type instrumentsCommand struct {
	Addr string `default:"127.0.0.1:8790" help:"Address on which all of them answer."`
	Play string `placeholder:"STYLE" help:"Instead, write a capture of simulated frames to standard output: times, stamps or passes."`

	ProcessorMs float64 `default:"12" help:"With --play: what a frame takes of the processor, ms."`
	CardMs      float64 `default:"8" help:"With --play: what it takes of the card, ms."`
	LinkMs      float64 `default:"3" help:"With --play: what it takes of the link, ms."`
	CapHz       float64 `help:"With --play: what holds the rate up."`
	Soak        float64 `help:"With --play: share by which the card slows once it is warm."`
	Seconds     float64 `default:"60" help:"With --play: how long the run is."`
	Seed        uint64  `default:"1" help:"With --play: the same seed plays the same frames."`
}

// Run serves the stand-ins until it is told to stop.
func (c *instrumentsCommand) Run() error {
	if c.Play != "" {
		return c.play()
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	on, err := net.Listen("tcp", c.Addr)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", c.Addr, err)
	}
	fmt.Fprintf(stdout, "A simulated wall meter, link probe and frame source answer at %s\n", on.Addr())
	return instruments.Serve(ctx, on)
}

// play writes a capture of simulated frames.
func (c *instrumentsCommand) play() error {
	source := instruments.FrameSource{
		Terms: proof.Terms{C: c.ProcessorMs, G: c.CardMs, L: c.LinkMs}, Seconds: c.Seconds, Soak: c.Soak, Seed: c.Seed,
	}
	if c.CapHz > 0 {
		source.Cap = 1000 / c.CapHz
	}
	return instruments.WriteFrames(stdout, source, c.Play)
}
