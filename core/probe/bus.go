package probe

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/reading"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A device is one function on the bus, as far as it is read.
type device struct {
	address string
	class   string // four digits
	lanes   int    // largest, of its own capability
	gen     int
	below   string // of a bridge, the bus behind it
}

func (d *device) bus() string { return d.address[:strings.LastIndex(d.address, ":")] }

// bus reads the devices, and the ports behind which something can sit.
func (p *prober) bus() {
	const dir = "sys/bus/pci/devices"
	for _, name := range p.names(dir) {
		at := path.Join(dir, name)
		d := device{address: name}
		if class := strings.TrimPrefix(p.text(at+"/class"), "0x"); len(class) >= 4 {
			d.class = class[:4]
		}
		if strings.Count(name, ":") < 2 || d.class == "" {
			continue
		}
		d.lanes, _ = strconv.Atoi(p.text(at + "/max_link_width"))
		d.gen = reading.GenOf(p.text(at + "/max_link_speed"))
		if n, err := strconv.Atoi(p.text(at + "/secondary_bus_number")); err == nil {
			d.below = fmt.Sprintf("%s:%02x", name[:strings.Index(name, ":")], n)
		}
		p.devices = append(p.devices, d)
		p.window(at)
	}
	p.graphics()
	p.disks()
	if !p.slotsByName() {
		p.ports()
	}
	p.tunnels()
}

// routerPattern is the name of a host's own router of tunnels: of a domain, at no route.
var routerPattern = regexp.MustCompile(`^(\d+)-0$`)

// tunnelRates are the classes of ports by the generation of their router, Gb/s.
var tunnelRates = map[string]units.GigabitPerSecond{"1": 10, "2": 20, "3": 40, "4": 40}

// tunnels are the ports outside that carry PCIe in a tunnel, on whichever bus has routers that
// tell their generation.
func (p *prober) tunnels() {
	for _, bus := range p.names("sys/bus") {
		p.tunnelsOf(path.Join("sys/bus", bus, "devices"))
	}
}

// tunnelsOf tells one port for each router, since how many sockets it has is not to be read.
func (p *prober) tunnelsOf(dir string) {
	names := p.names(dir)
	for _, name := range names {
		domain := routerPattern.FindStringSubmatch(name)
		if domain == nil || !p.there(path.Join(dir, name, "generation")) {
			continue
		}
		s := rig.Slot{Name: "tunnel port " + domain[1], Form: read(rig.Tunnel), Side: read(rig.SideOutside), Occupant: read(rig.NoOccupant)}
		if rate, known := tunnelRates[p.text(path.Join(dir, name, "generation"))]; known {
			s.TunnelRate = read(rate)
		}
		if slices.ContainsFunc(names, func(n string) bool {
			return strings.HasPrefix(n, domain[1]+"-") && n != name && !strings.Contains(n, ":")
		}) {
			s.Occupant = read("a device")
		}
		p.host.Slots = append(p.host.Slots, s)
		p.note("%s may be one socket or two: look outside.", s.Name)
	}
}

// window reads whether anything lies beyond four gibibytes, which large address decoding allows.
func (p *prober) window(at string) {
	for line := range strings.Lines(p.text(at + "/resource")) {
		f := strings.Fields(line)
		if len(f) < 2 {
			continue
		}
		if start, err := strconv.ParseUint(strings.TrimPrefix(f[0], "0x"), 16, 64); err == nil && start >= 1<<32 {
			p.host.Firmware.LargeWindow = read(true)
		}
	}
}

// graphics reads what the host draws with: behind the processor itself, or on a card of its own.
func (p *prober) graphics() {
	for i := range p.devices {
		d := &p.devices[i]
		if !strings.HasPrefix(d.class, "03") {
			continue
		}
		if strings.HasSuffix(d.bus(), ":00") {
			p.host.Graphics = read(rig.Graphics("integrated"))
			return
		}
		p.host.Graphics = read(rig.Discrete)
	}
}

// disks reads whether the firmware bundles disks, which hides their slots from plain PCIe.
func (p *prober) disks() {
	for i := range p.devices {
		switch p.devices[i].class {
		case "0104":
			p.host.Firmware.DiskMode = read(rig.DiskMode("bundled"))
			return
		case "0106":
			p.host.Firmware.DiskMode = read(rig.DiskMode("plain"))
		}
	}
}

// occupants are what sits behind a port, by its class.
var occupants = []struct{ class, what string }{
	{
		"0108",
		"drive",
	},
	{"01", "disk controller"},
	{"0280", "wireless card"},
	{"0d", "wireless card"},
	{"0200", "network chip"},
	{"02", "network card"},
	{"03", "graphics card"},
	{"0805", "card reader"},
	{"0c03", "USB controller"},
	{"0c", "controller"},
	{"04", "sound"},
	{"06", "bridge"},
}

func (p *prober) behind(d *device) (what string, some bool) {
	for i := range p.devices {
		below := &p.devices[i]
		if d.below == "" || below.bus() != d.below {
			continue
		}
		for _, name := range p.names(path.Join("sys/bus/pci/devices", below.address, "nvme")) {
			if drive := p.blocks[name+"n1"]; drive != "" {
				return drive, true
			}
		}
		for _, o := range occupants {
			if strings.HasPrefix(below.class, o.class) {
				return o.what, true
			}
		}
		return "a device", true
	}
	return "", false
}

// ports are the bridges of the host itself with a link: their lanes and generation are the
// board's, what sits behind them is its occupant. Which of them are slots nothing tells.
func (p *prober) ports() {
	for i := range p.devices {
		d := &p.devices[i]
		if d.class != "0604" || !strings.HasSuffix(d.bus(), ":00") || d.lanes == 0 {
			continue
		}
		s := rig.Slot{Name: "port " + d.address[strings.LastIndex(d.address, ":")+1:]}
		p.slotOf(&s, d)
		p.host.Slots = append(p.host.Slots, s)
	}
	if len(p.host.Slots) > 0 {
		p.note(
			"Which of its %d ports are slots was not read: look at the board, name them and say their form. As root, slots are read by their names.",
			len(p.host.Slots),
		)
	}
}

func (p *prober) slotOf(s *rig.Slot, d *device) {
	if slices.Contains([]int{1, 2, 4, 8, 16}, d.lanes) {
		s.Lanes = read(d.lanes)
	}
	if d.gen > 0 {
		s.Gen = read(d.gen)
	}
	occupant := "none"
	if what, some := p.behind(d); some {
		occupant = what
	}
	s.Occupant = read(occupant)
}

// entryPattern is the name of an entry of a system slot (DMI type 9).
var entryPattern = regexp.MustCompile(`^9-\d+$`)

// slotsByName reads the slots as the firmware lists them, each with its form; false where that
// may not be read, or is not there.
func (p *prober) slotsByName() bool {
	const dir = "sys/firmware/dmi/entries"
	refused := false
	for _, name := range p.names(dir) {
		if !entryPattern.MatchString(name) {
			continue
		}
		raw := p.raw(path.Join(dir, name, "raw"))
		if raw == nil {
			refused = true
			continue
		}
		if s, ok := p.slot(raw); ok {
			p.host.Slots = append(p.host.Slots, s)
		}
	}
	if refused && len(p.host.Slots) == 0 {
		p.note("The names of its slots may be read only as root.")
	}
	return len(p.host.Slots) > 0
}

func (p *prober) raw(name string) []byte {
	text, err := p.tree.Open(name)
	if err != nil {
		return nil
	}
	defer text.Close()
	raw := make([]byte, 512)
	n, _ := text.Read(raw)
	if n < 17 {
		return nil
	}
	return raw[:n]
}

// slotForms are the forms of system slots by their type, and the lanes and the generation a type
// of card slot names (SMBIOS, 7.10.1).
func slotForm(kind byte) (form rig.Form, key rig.Key, lanes int) {
	switch {
	case kind == 0x14:
		return "m2", "A", 0
	case kind == 0x15:
		return "m2", "E", 0
	case kind == 0x16:
		return "m2", "B", 0
	case kind == 0x17:
		return "m2", "M", 0
	case kind >= 0x18 && kind <= 0x1d:
		return "mxm", "", 0
	case kind == 0x21 || kind == 0x22:
		return "mini-pcie", "", 1
	case kind >= 0xa5 && kind <= 0xc3:
		return rig.CardSlot, "", []int{0, 1, 2, 4, 8, 16}[min(int(kind-bases(kind)), 5)]
	}
	return "", "", 0
}

// bases is the first type of the generation that a type of card slot belongs to.
func bases(kind byte) byte {
	base := byte(0xa5)
	for _, first := range []byte{0xab, 0xb1, 0xb8, 0xbe} {
		if kind >= first {
			base = first
		}
	}
	return base
}

// widths are lanes by the data bus width of a slot (SMBIOS, 7.10.2).
var widths = map[byte]int{0x08: 1, 0x09: 2, 0x0a: 4, 0x0b: 8, 0x0d: 16}

// slot reads one entry: its name, its form, what is wired, and what sits in it.
func (p *prober) slot(raw []byte) (s rig.Slot, ok bool) {
	form, key, long := slotForm(raw[5])
	if form == "" {
		return s, false // an older bus, or nothing a card could use
	}
	s.Name = designation(raw)
	if s.Name == "" || slices.ContainsFunc(p.host.Slots, func(o rig.Slot) bool { return o.Name == s.Name }) {
		s.Name = fmt.Sprintf("slot %d", len(p.host.Slots)+1)
	}
	s.Form = read(form)
	if key != "" {
		s.Key = read(key)
	}
	if long > 0 {
		s.Mechanical = read(long)
	}
	if lanes := widths[raw[6]]; lanes > 0 {
		s.Lanes = read(lanes)
	}
	switch raw[7] {
	case 3:
		s.Occupant = read("none")
	case 4:
		s.Occupant = read("a device")
	}
	at := fmt.Sprintf("%04x:%02x:%02x.%d", int(raw[0xd])|int(raw[0xe])<<8, raw[0xf], raw[0x10]>>3, raw[0x10]&7)
	for i := range p.devices {
		if d := &p.devices[i]; d.address == at && d.lanes > 0 {
			p.slotOf(&s, d) // the port above it tells what the board wires
		}
	}
	return s, true
}

// designation is the text an entry names its slot by.
func designation(raw []byte) string {
	length := int(raw[1])
	if length >= len(raw) || raw[4] == 0 {
		return ""
	}
	texts := strings.Split(string(raw[length:]), "\x00")
	if i := int(raw[4]) - 1; i < len(texts) {
		return strings.TrimSpace(strings.ToValidUTF8(texts[i], ""))
	}
	return ""
}
