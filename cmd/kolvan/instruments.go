package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"os/signal"
	"syscall"

	"kolvan/instruments"
)

type instrumentsCommand struct {
	Meter string `default:"127.0.0.1:8790" help:"Address of the wall meter's stand-in."`
	Probe string `default:"127.0.0.1:8791" help:"Address of the link probe's stand-in."`
}

// Run serves the stand-ins until it is told to stop.
func (c *instrumentsCommand) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	meter, err := net.Listen("tcp", c.Meter)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", c.Meter, err)
	}
	probe, err := net.Listen("tcp", c.Probe)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", c.Probe, err)
	}
	fmt.Fprintf(stdout, "A simulated wall meter answers at %s\nA simulated link probe answers at %s\n", meter.Addr(), probe.Addr())
	ended := make(chan error, 2)
	go func() { ended <- instruments.ServeWallMeter(ctx, meter) }()
	go func() { ended <- instruments.ServeLinkProbe(ctx, probe) }()
	return errors.Join(<-ended, <-ended)
}
