package instruments

import (
	"context"
	"errors"
	"fmt"
	"io"
	"strings"
)

// A Bus is the way to a card, for the stand-in to list.
type Bus struct {
	PortLanes, PortGen int // of the port above the card
	CardLanes, CardGen int
	Lanes, Gen         int // of the link when it works as planned
	Payload            int
}

func (b Bus) line(load, fault string) string {
	return fmt.Sprintf(
		"list load=%s fault=%s port=x%d/%d card=x%d/%d link=x%d/%d payload=%d", load, fault, b.PortLanes, b.PortGen,
		b.CardLanes, b.CardGen, b.Lanes, b.Gen, b.Payload,
	)
}

// Faults are what a simulated link may suffer from, besides none.
var Faults = []string{"none", "one-lane", "fallback", "errors", "absent"}

// rates are the words a listing has for each generation.
var rates = [...]string{"", "2.5GT/s", "5GT/s", "8GT/s", "16GT/s", "32GT/s", "64GT/s"}

// WriteListing writes what a system would list of the bus, as a tool prints it in
// full. At idle the link rests at its lowest speed.
func WriteListing(w io.Writer, b Bus, load, fault string) error {
	lanes, gen, errorsSeen := b.Lanes, b.Gen, "-"
	switch fault {
	case "one-lane":
		lanes = 1
	case "fallback":
		gen = max(1, gen-1)
	case "errors":
		errorsSeen = "+"
	}
	if load == "idle" {
		gen = 1
	}
	p := &listing{w: w}
	p.line("# load: %s", load)
	p.line("00:00.0 Host bridge: Fernhill Workshop Host bridge (rev 02)")
	p.line("\tSubsystem: Fernhill Workshop Device 0001")
	p.line("")
	p.line("00:01.0 PCI bridge: Fernhill Workshop Root Port #1 (rev 02) (prog-if 00 [Normal decode])")
	p.line("\tBus: primary=00, secondary=01, subordinate=01, sec-latency=0")
	p.line("\tCapabilities: [40] Express (v2) Root Port (Slot+), MSI 00")
	p.express(b.PortLanes, b.PortGen, lanes, gen, b.Payload, errorsSeen, fault == "absent")
	p.line("")
	p.line("00:02.0 VGA compatible controller: Fernhill Workshop Own graphics (rev 01) (prog-if 00 [VGA controller])")
	p.line("\tCapabilities: [40] Power Management version 3")
	p.line("")
	if fault != "absent" {
		p.line("01:00.0 VGA compatible controller: Fernhill Workshop Card under test (rev a1) (prog-if 00 [VGA controller])")
		p.line("\tCapabilities: [60] Express (v2) Legacy Endpoint, MSI 00")
		p.express(b.CardLanes, b.CardGen, lanes, gen, b.Payload, errorsSeen, false)
		p.line("\tCapabilities: [100 v2] Advanced Error Reporting")
		p.line("\t\tCESta:\tRxErr%s BadTLP%s BadDLLP- Rollover- Timeout- AdvNonFatalErr-", errorsSeen, errorsSeen)
		p.line("")
	}
	return p.err
}

type listing struct {
	w   io.Writer
	err error
}

func (p *listing) line(format string, args ...any) {
	if p.err == nil {
		_, p.err = fmt.Fprintf(p.w, format+"\n", args...)
	}
}

func (p *listing) express(capLanes, capGen, lanes, gen, payload int, errorsSeen string, empty bool) {
	p.line("\t\tDevCap:\tMaxPayload 512 bytes, PhantFunc 0")
	p.line("\t\tDevCtl:\tCorrErr+ NonFatalErr+ FatalErr+ UnsupReq+")
	p.line("\t\t\tMaxPayload %d bytes, MaxReadReq 512 bytes", payload)
	p.line("\t\tDevSta:\tCorrErr%s NonFatalErr- FatalErr- UnsupReq- AuxPwr- TransPend-", errorsSeen)
	p.line("\t\tLnkCap:\tPort #1, Speed %s, Width x%d, ASPM L1, Exit Latency L1 <4us", rates[capGen], capLanes)
	if empty {
		p.line("\t\tLnkSta:\tSpeed 2.5GT/s, Width x0")
		return
	}
	mark := func(low bool) string {
		if low {
			return " (downgraded)"
		}
		return ""
	}
	p.line("\t\tLnkSta:\tSpeed %s%s, Width x%d%s", rates[gen], mark(gen < capGen), lanes, mark(lanes < capLanes))
}

// linkProbe lists simulated buses.
type linkProbe struct{}

func (linkProbe) obey(_ context.Context, request string, out *says) error {
	return listFor(request, out)
}

func listFor(command string, w io.Writer) error {
	var b Bus
	var load, fault string
	if _, err := fmt.Sscanf(command, "list load=%s fault=%s port=x%d/%d card=x%d/%d link=x%d/%d payload=%d",
		&load, &fault, &b.PortLanes, &b.PortGen, &b.CardLanes, &b.CardGen, &b.Lanes, &b.Gen, &b.Payload); err != nil {
		return errors.New("list wants load=idle|loaded fault=" + strings.Join(Faults, "|") + " port=xN/G card=xN/G link=xN/G payload=BYTES")
	}
	for _, gen := range []int{b.PortGen, b.CardGen, b.Gen} {
		if gen < 1 || gen >= len(rates) {
			return fmt.Errorf("there is no generation %d", gen)
		}
	}
	return WriteListing(w, b, load, fault)
}

// ReadLinkProbe calls a probe and returns its listing.
func ReadLinkProbe(ctx context.Context, addr string, b Bus, load, fault string) (string, error) {
	probe, err := dial(ctx, addr, ProbeName, "link probe")
	if err != nil {
		return "", err
	}
	defer probe.Close()
	if err := probe.ask(b.line(load, fault)); err != nil {
		return "", fmt.Errorf("asking the link probe: %w", err)
	}
	var listing strings.Builder
	for {
		line, ended, err := probe.next()
		if err != nil {
			return "", fmt.Errorf("the link probe: %w", err)
		}
		if ended {
			return listing.String(), nil
		}
		listing.WriteString(line + "\n")
	}
}
