// Package probe reads a Linux host from the kernel's own files: what it is, its processor and
// memory, its drives, networks and screens, and the ports of its bus with what sits behind
// them. Nothing is claimed that was not read; what needs a privilege is said and left out.
// Serial numbers, addresses, and names of people and machines are never looked at.
//
// A copied tree of files serves as well as the machine itself.
package probe

import (
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Part is a host as it told itself, in a file of its own: its notes are what could not be read,
// and what is to be looked at.
type Part struct {
	parts.File
	Host *rig.Host `json:"-"`
}

// A NotLinux is a tree without the kernel's files.
type NotLinux struct{ Missing string }

func (e *NotLinux) Error() string {
	return fmt.Sprintf("%s is not there; accepted: the root of a Linux system, or a folder with copies of its /sys and /proc", e.Missing)
}

// Read reads a tree of files. The error is a *NotLinux for one without the kernel's.
func Read(tree fs.FS) (*Part, error) {
	if _, err := fs.Stat(tree, "proc/cpuinfo"); err != nil {
		return nil, &NotLinux{"/proc/cpuinfo"}
	}
	p := &prober{tree: tree, host: &rig.Host{}, blocks: map[string]string{}}
	p.machine()
	p.system()
	p.drives()
	p.bus()
	p.networks()
	p.screens()
	p.power()
	if p.host.Name == "" {
		p.host.Name = "this host"
	}
	doc, err := rig.Encode(p.host)
	if err != nil {
		return nil, fmt.Errorf("writing what was read: %w", err)
	}
	return &Part{parts.File{Format: parts.FileFormat, Kind: parts.Host, Part: doc, By: "kolvan probe", Notes: p.notes}, p.host}, nil
}

type prober struct {
	tree    fs.FS
	host    *rig.Host
	devices []device
	blocks  map[string]string // names of drives by those of the kernel
	notes   []string
}

func (p *prober) note(format string, args ...any) {
	p.notes = append(p.notes, fmt.Sprintf(format, args...))
}

// text is a small file without the space around it; "" for none.
func (p *prober) text(name string) string {
	raw, err := fs.ReadFile(p.tree, name)
	if err != nil || len(raw) > 1<<16 {
		return ""
	}
	return strings.TrimSpace(strings.ToValidUTF8(strings.ReplaceAll(string(raw), "\x00", " "), ""))
}

// names lists a folder; none where it is not there.
func (p *prober) names(dir string) (names []string) {
	entries, err := fs.ReadDir(p.tree, dir)
	if err != nil {
		return nil
	}
	for _, e := range entries {
		names = append(names, e.Name())
	}
	return names
}

func (p *prober) there(name string) bool {
	_, err := fs.Stat(p.tree, name)
	return err == nil
}

// read marks a fact as read by the system.
func read[T any](v T) rig.Fact[T] {
	f := rig.Of(v)
	f.Source = rig.System
	return f
}

// chassis are the sorts of host by the number its firmware tells (DMI type 3).
var chassis = map[string]rig.HostKind{
	"3":  "desktop",
	"4":  "desktop",
	"6":  "desktop",
	"7":  "desktop",
	"15": "desktop",
	"16": "desktop",
	"8":  "notebook",
	"9":  "notebook",
	"10": "notebook",
	"14": "notebook",
	"31": "notebook",
	"32": "notebook",
	"13": "all-in-one",
	"35": "mini-pc",
	"36": "mini-pc",
}

// machine reads what the firmware says the machine is, its processor and its memory.
func (p *prober) machine() {
	p.host.Name = p.text("sys/class/dmi/id/product_name")
	if kind, known := chassis[p.text("sys/class/dmi/id/chassis_type")]; known {
		p.host.Kind = read(kind)
	}
	for _, tree := range []string{"proc/device-tree/model", "sys/firmware/devicetree/base/model"} {
		if model := p.text(tree); model != "" && p.host.Name == "" {
			p.host.Name, p.host.Kind = model, read(rig.HostKind("single-board"))
		}
	}
	for line := range strings.Lines(p.text("proc/cpuinfo")) {
		if key, value, is := strings.Cut(line, ":"); is && strings.TrimSpace(key) == "model name" {
			p.host.Proc.Name = strings.TrimSpace(value)
			break
		}
	}
	for line := range strings.Lines(p.text("proc/meminfo")) {
		if rest, is := strings.CutPrefix(line, "MemTotal:"); is {
			kib, _ := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(rest), " kB"), 64)
			p.memory(kib / (1 << 20))
		}
	}
}

// memory is what is fitted, which is a little more than the kernel has: the next size that
// modules come to.
func (p *prober) memory(gib float64) {
	if gib <= 0 {
		return
	}
	for _, size := range []float64{0.5, 1, 2, 3, 4, 6, 8, 12, 16, 20, 24, 32, 40, 48, 64, 96, 128, 192, 256, 384, 512} {
		if size >= gib && size-gib <= max(0.15*size, 0.2) {
			p.host.Memory = read(units.Gibibyte(size))
			return
		}
	}
	p.host.Memory = read(units.Gibibyte(units.Round(gib, 3)))
	p.host.Memory.Tolerance = units.Round(0.1*gib, 1)
}

// system reads the system, and how it was started.
func (p *prober) system() {
	for line := range strings.Lines(p.text("etc/os-release")) {
		if name, is := strings.CutPrefix(line, "PRETTY_NAME="); is {
			p.host.System = read(strings.Trim(strings.TrimSpace(name), `"`))
		}
	}
	kernel := p.text("proc/sys/kernel/osrelease")
	switch {
	case kernel == "":
	case p.host.System.Known:
		p.host.System.Value += ", kernel " + kernel
	default:
		p.host.System = read("Linux " + kernel)
	}
	if p.there("sys/firmware/efi") {
		p.note("It was started in UEFI mode; whether it starts in legacy mode too, its firmware page tells.")
	}
	if version := p.text("sys/class/dmi/id/bios_version"); version != "" {
		p.note("Firmware version %s.", version)
	}
}

// power reads whether there is a battery.
func (p *prober) power() {
	battery := false
	for _, name := range p.names("sys/class/power_supply") {
		battery = battery ||
			p.text(path.Join("sys/class/power_supply", name, "type")) == "Battery" &&
				p.text(path.Join("sys/class/power_supply", name, "scope")) != "Device"
	}
	switch {
	case battery:
		p.note("It has a battery; whether it unplugs, only its inside shows.")
	case p.host.Kind.Known && p.host.Kind.Value != "notebook":
		p.host.Battery = read(rig.Battery("none"))
	}
}

// skipped are block devices that are no drive.
var skipped = []string{"loop", "ram", "zram", "dm-", "sr", "md", "fd", "nbd"}

// drives reads the drives, how much they hold, and from which one the system runs.
func (p *prober) drives() {
	root := ""
	for line := range strings.Lines(p.text("proc/mounts")) {
		if f := strings.Fields(line); len(f) > 1 && f[1] == "/" {
			root = strings.TrimPrefix(f[0], "/dev/")
		}
	}
	for _, name := range p.names("sys/block") {
		dir := path.Join("sys/block", name)
		if slices.ContainsFunc(skipped, func(s string) bool { return strings.HasPrefix(name, s) }) || p.text(dir+"/removable") == "1" {
			continue
		}
		sectors, _ := strconv.ParseFloat(p.text(dir+"/size"), 64)
		if sectors == 0 {
			continue
		}
		d := rig.Drive{Name: p.free(p.text(dir+"/device/model"), "drive"), Capacity: read(units.GB(units.Round(sectors*512/1e9, 4)))}
		switch {
		case strings.HasPrefix(name, "nvme"):
			d.Speaks = read(rig.Carried("pcie"))
		case strings.HasPrefix(name, "sd"):
			d.Speaks = read(rig.Carried("sata"))
		}
		if root != "" && strings.HasPrefix(root, name) {
			d.Boots = read(true)
		}
		p.host.Drives = append(p.host.Drives, d)
		p.blocks[name] = d.Name
	}
}

// free is a name that no drive has yet.
func (p *prober) free(name, word string) string {
	if name == "" {
		name = word
	}
	taken := func(n string) bool {
		return slices.ContainsFunc(p.host.Drives, func(d rig.Drive) bool { return d.Name == n })
	}
	free := name
	for i := 2; taken(free); i++ {
		free = fmt.Sprintf("%s %d", name, i)
	}
	return free
}

// networks reads the ways onto the network that are hardware, not their addresses.
func (p *prober) networks() {
	count := map[rig.Radio]int{}
	for _, name := range p.names("sys/class/net") {
		dir := path.Join("sys/class/net", name)
		if !p.there(dir + "/device") {
			continue
		}
		kind, word := rig.Radio("wire"), "Ethernet"
		if p.there(dir+"/wireless") || p.there(dir+"/phy80211") {
			kind, word = "wireless", "wireless"
		}
		count[kind]++
		p.host.Networks = append(p.host.Networks, rig.Network{Name: fmt.Sprintf("%s %d", word, count[kind]), Kind: read(kind)})
	}
}

// screens reads the sockets for screens, by what the kernel calls them.
func (p *prober) screens() {
	for _, name := range p.names("sys/class/drm") {
		_, socket, is := strings.Cut(name, "-")
		if !is || !p.there(path.Join("sys/class/drm", name, "status")) {
			continue
		}
		if strings.HasPrefix(socket, "eDP") || strings.HasPrefix(socket, "LVDS") || strings.HasPrefix(socket, "DSI") {
			p.note("It has a panel of its own.")
			continue
		}
		if strings.HasPrefix(socket, "Writeback") || strings.HasPrefix(socket, "Virtual") {
			continue
		}
		p.host.Screens = append(p.host.Screens, rig.ScreenSocket{Name: socket})
	}
}
