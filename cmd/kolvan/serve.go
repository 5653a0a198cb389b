package main

import (
	"cmp"
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/instruments"
	"kolvan/pairing"
	"kolvan/store"
	"kolvan/web"
)

type listen struct {
	onShelf
	Addr  string   `default:"127.0.0.1:8788" help:"Address to listen on; one beyond this machine wants --lan and --host."`
	LAN   bool     `name:"lan" help:"Listen on this machine's own network addresses too, and let paired devices in."`
	Count bool     `name:"metrics" help:"Show at /metrics, to this machine alone, how many requests there were and what they took."`
	TLS   bool     `name:"tls" help:"Encrypt what goes beyond this machine, by a certificate authority of Kolvan's own, made once beside the data file."`
	Cert  string   `help:"A certificate of one's own in its place, PEM; with --key."`
	Key   string   `help:"The key of that certificate, PEM."`
	Hosts []string `name:"host" help:"Names or addresses, host:port, by which it is reached from elsewhere; no other is answered. Who comes by them must be paired."`
}

type instrumentsAt struct {
	Instruments string `help:"Address of a wall meter and a link probe, host:port; kolvan instruments runs simulated ones."`
	Meter       string `help:"Address of a wall meter that is elsewhere."`
	Probe       string `help:"Address of a link probe that is elsewhere."`
}

type data struct {
	Data string `help:"Data file; by default kolvan.db in the platform's place for a user's data."`
}

type serveCommand struct {
	data
	listen
	instrumentsAt
}

func (c *serveCommand) Run() error {
	path, err := c.path()
	if err != nil {
		return err
	}
	return c.serve(path, web.Instruments{Meter: cmp.Or(c.Meter, c.Instruments), Probe: cmp.Or(c.Probe, c.Instruments)})
}

type demoCommand struct {
	listen
	Data string `help:"Keep the demo's data in this file instead of a new one that goes at the end."`
}

// Run starts Kolvan on a data file of its own that holds the demo rigs.
func (c *demoCommand) Run() error {
	path := c.Data
	if path == "" {
		dir, err := os.MkdirTemp("", "kolvan-demo-")
		if err != nil {
			return fmt.Errorf("making room for the demo: %w", err)
		}
		defer os.RemoveAll(dir)
		path = filepath.Join(dir, "demo.db")
	}
	if err := fillDemo(path); err != nil {
		return err
	}
	on, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return fmt.Errorf("the instruments' stand-ins: %w", err)
	}
	go func() {
		if err := instruments.Serve(context.Background(), on); err != nil {
			slog.Error("the stand-ins of the demo ended", "err", err)
		}
	}()
	return c.serve(path, web.Instruments{Meter: on.Addr().String(), Probe: on.Addr().String()})
}

// fillDemo puts the demo rigs on an empty bench; a filled one is left as it is.
func fillDemo(path string) error {
	ctx := context.Background()
	s, err := store.Open(ctx, path)
	if err != nil {
		return err
	}
	defer s.Close()
	_, there, err := s.List(ctx, store.Query{Kind: store.RigKind})
	if err != nil || there > 0 || s.ReadOnly() {
		return err
	}
	rigs, err := demo.Rigs()
	if err != nil {
		return err
	}
	for _, r := range rigs {
		if err := keep(ctx, s, r, "the Fernhill society's rig"); err != nil {
			return err
		}
	}
	return nil
}

func keep(ctx context.Context, s *store.Store, r *rig.Rig, label string) error {
	doc, err := rig.Encode(r)
	if err != nil {
		return err
	}
	_, err = s.Create(ctx, store.RigKind, r.Name, doc, label)
	return err
}

// path is the data file, in the platform's place for a user's data.
func (d *data) path() (string, error) {
	if d.Data != "" {
		return d.Data, nil
	}
	dir, err := dataDir()
	if err != nil {
		return "", fmt.Errorf("finding the place for data: %w (give --data)", err)
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", fmt.Errorf("making the place for data: %w", err)
	}
	return filepath.Join(dir, "kolvan.db"), nil
}

func dataDir() (string, error) {
	if home := os.Getenv("XDG_DATA_HOME"); home != "" {
		return filepath.Join(home, "kolvan"), nil
	}
	if runtime.GOOS != "linux" {
		dir, err := os.UserConfigDir()
		return filepath.Join(dir, "kolvan"), err
	}
	home, err := os.UserHomeDir()
	return filepath.Join(home, ".local", "share", "kolvan"), err
}

// serve runs until it is told to stop.
func (l *listen) serve(path string, at web.Instruments) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	s, err := store.Open(ctx, path, store.Serving)
	if err != nil {
		return err
	}
	defer s.Close()
	faults, err := s.CheckQuickly(ctx)
	if err != nil {
		return err
	}
	for _, fault := range faults {
		slog.Error("the data file is damaged; run kolvan check", "found", fault)
	}
	listener, err := net.Listen("tcp", l.Addr)
	if err != nil {
		return fmt.Errorf("listening on %s: %w", l.Addr, err)
	}
	// Every answer is made anew and thrown away: collect less often, for a few
	// megabytes more.
	debug.SetGCPercent(300)
	addr := listener.Addr().(*net.TCPAddr)
	hosts, err := l.hosts(addr)
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	app, err := web.New(s, hosts, at)
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	devices, err := pairing.Open(path + devicesSuffix)
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	encrypted, authority, err := l.encryption(path)
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	if encrypted != nil && !addr.IP.IsLoopback() {
		listener = tls.NewListener(listener, encrypted)
	}
	door := newGate(listener)
	app.Admit(web.Network{
		Devices: devices, Open: door.openNetwork(addr.Port, encrypted), Encrypted: encrypted != nil, Authority: authority,
	})
	app.Tell(faults)
	if l.Count {
		if err := app.Measure(); err != nil {
			return errors.Join(err, listener.Close())
		}
	}
	others, err := l.parts(&data{Data: path})
	if err == nil {
		err = app.UseShelf(others)
	}
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	fmt.Fprintf(stdout, "Kolvan runs at http://%s (data in %s)\n", addr, path)
	if err := l.open(app); err != nil {
		return errors.Join(err, door.Close())
	}
	go func() {
		<-ctx.Done()
		stop() // a second signal ends the process at once
		if err := app.ShutdownWithTimeout(5 * time.Second); err != nil {
			slog.Error("stopping", "err", err)
		}
		// A signal that comes before the server has begun finds nothing to shut
		// down; without its listener it does not begin.
		_ = door.Close()
	}()
	err = app.Listener(door, fiber.ListenConfig{DisableStartupMessage: true})
	if ctx.Err() != nil {
		return nil
	}
	return err
}

// caSuffix is of the files of the certificate authority, beside the data file.
const caSuffix = ".ca"

// encryption is how connections from beyond this machine are encrypted; nil for not at all.
func (l *listen) encryption(path string) (*tls.Config, *pairing.Authority, error) {
	switch {
	case (l.Cert == "") != (l.Key == ""):
		return nil, nil, errors.New("--cert and --key go together: a certificate and its key, PEM")
	case l.Cert != "":
		pair, err := tls.LoadX509KeyPair(l.Cert, l.Key)
		if err != nil {
			return nil, nil, fmt.Errorf("--cert and --key: %w", err)
		}
		return &tls.Config{MinVersion: tls.VersionTLS12, Certificates: []tls.Certificate{pair}}, nil, nil
	case !l.TLS:
		return nil, nil, nil
	}
	authority, err := pairing.OpenAuthority(path + caSuffix)
	if err != nil {
		return nil, nil, err
	}
	return authority.Config(), authority, nil
}

// open lets the network in, where that is asked for.
func (l *listen) open(app *web.App) error {
	if !l.LAN {
		return nil
	}
	if err := app.OpenNetwork(); err != nil && len(l.Hosts) == 0 {
		return fmt.Errorf("--lan: %w", err)
	}
	return sayLAN(app)
}

// hosts lists the Host headers that mean this address. Beyond this machine nothing is open
// by accident: only what is named is answered, and a wildcard names nothing.
func (l *listen) hosts(addr *net.TCPAddr) ([]string, error) {
	port := strconv.Itoa(addr.Port)
	hosts := []string{"127.0.0.1:" + port, "localhost:" + port, "[::1]:" + port}
	if !addr.IP.IsLoopback() && (!l.LAN || len(l.Hosts) == 0) {
		return nil, fmt.Errorf(
			"--addr %s is reached from beyond this machine: let paired devices in with --lan and name with --host by which name or address, "+
				"host:port; "+
				"or listen on 127.0.0.1:%s with --lan, which finds the addresses itself",
			l.Addr, port,
		)
	}
	for _, host := range l.Hosts {
		name, at, err := net.SplitHostPort(host)
		if err != nil {
			name, at = strings.Trim(host, "[]"), port
		}
		if ip := net.ParseIP(name); name == "" || at == "" || strings.ContainsAny(name, "*? /") || ip != nil && ip.IsUnspecified() {
			return nil, fmt.Errorf(
				"--host %q is not accepted; accepted: a name or an address by which this machine is reached, host:port, no wildcard",
				host,
			)
		}
		hosts = append(hosts, net.JoinHostPort(name, at))
	}
	return hosts, nil
}
