package main

import (
	"crypto/tls"
	"errors"
	"fmt"
	"net"
	"strconv"
	"strings"
	"sync"

	"kolvan/pairing"
	"kolvan/web"
)

// gate is one listener over several, some of which may come while it serves.
type gate struct {
	first net.Listener
	conns chan net.Conn
	done  chan struct{}

	mu     sync.Mutex
	behind []net.Listener
	closed bool
}

func newGate(first net.Listener) *gate {
	g := &gate{first: first, conns: make(chan net.Conn), done: make(chan struct{})}
	g.add(first)
	return g
}

// add takes in another listener; false once all are closed.
func (g *gate) add(l net.Listener) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.closed {
		return false
	}
	g.behind = append(g.behind, l)
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				if l == g.first {
					_ = g.Close() // without this machine's own address there is nothing to serve
				}
				return
			}
			select {
			case g.conns <- conn:
			case <-g.done:
				_ = conn.Close()
				return
			}
		}
	}()
	return true
}

func (g *gate) Accept() (net.Conn, error) {
	select {
	case conn := <-g.conns:
		return conn, nil
	case <-g.done:
		return nil, net.ErrClosed
	}
}

func (g *gate) Addr() net.Addr { return g.first.Addr() }

// Close closes all of them, once.
func (g *gate) Close() error {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.closed {
		return nil
	}
	g.closed = true
	var faults []error
	for _, l := range g.behind {
		faults = append(faults, l.Close())
	}
	close(g.done) // last, so that whoever is told of the end finds all of them closed
	return errors.Join(faults...)
}

// openNetwork listens on the machine's own addresses at a port, and names those it now
// listens on, encrypted where that is asked for. Each is opened once.
func (g *gate) openNetwork(port int, encrypted *tls.Config) func() ([]string, error) {
	var once sync.Mutex
	var names []string
	return func() ([]string, error) {
		once.Lock()
		defer once.Unlock()
		if names != nil {
			return names, nil
		}
		addresses, err := ownAddresses()
		if err != nil {
			return nil, err
		}
		var faults []error
		for _, ip := range addresses {
			at := net.JoinHostPort(ip.String(), strconv.Itoa(port))
			l, err := net.Listen("tcp", at)
			if err != nil {
				faults = append(faults, fmt.Errorf("listening on %s: %w", at, err))
				continue
			}
			if encrypted != nil {
				l = tls.NewListener(l, encrypted)
			}
			if g.add(l) {
				names = append(names, at)
			}
		}
		if names != nil {
			return names, nil // one that is taken keeps no other from being used
		}
		return nil, errors.Join(faults...)
	}
}

// ownAddresses are those by which other machines of the network reach this one.
func ownAddresses() (list []net.IP, err error) {
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil, fmt.Errorf("the addresses of this machine: %w", err)
	}
	for _, a := range all {
		if at, is := a.(*net.IPNet); is && at.IP.IsGlobalUnicast() {
			list = append(list, at.IP)
		}
	}
	return list, nil
}

// devicesSuffix is of the file with the paired devices, beside the data file.
const devicesSuffix = ".devices"

// sayLAN prints where devices of the network come in, and a code for the first of them.
func sayLAN(app *web.App) error {
	links, until, err := app.Invitation(pairing.Bench)
	if err != nil || len(links) == 0 {
		return err
	}
	code, err := pairing.Print(links[0])
	if err != nil {
		return err
	}
	p := &printer{w: stdout}
	for _, link := range links {
		p.line("Devices of this network reach it at %s", web.PairedAt(link))
	}
	if strings.HasPrefix(links[0], "http:") {
		p.line("Whoever is on this network can read along: it is not encrypted; --tls encrypts it.")
	} else if print := app.Fingerprint(); print != "" {
		p.line("Devices take in %s/ca.crt once; its SHA-256 is %s", web.PairedAt(links[0]), print)
	}
	p.line("For one device, for the bench, until %s:\n%s\n%s", until.Format("15:04:05"), links[0], code)
	return p.err
}
