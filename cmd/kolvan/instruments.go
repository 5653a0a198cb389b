package main

import (
	"context"
	"fmt"
	"net"
	"os"
	"os/signal"
	"syscall"

	"kolvan/instruments"
)

type instrumentsCommand struct {
	Meter string `default:"127.0.0.1:8790" help:"Address of the wall meter's stand-in."`
}

// Run serves the stand-ins until it is told to stop.
func (c *instrumentsCommand) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	on, err := net.Listen("tcp", c.Meter)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", c.Meter, err)
	}
	fmt.Fprintf(stdout, "A simulated wall meter answers at %s\n", on.Addr())
	return instruments.ServeWallMeter(ctx, on)
}
