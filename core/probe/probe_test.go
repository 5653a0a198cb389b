package probe_test

import (
	"fmt"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
	"kolvan/core/probe"
	"kolvan/core/rig"
)

// tree makes a tree of files of lines "path: what stands in it"; \n is an end of a line.
func tree(lines string) fstest.MapFS {
	files := fstest.MapFS{}
	for line := range strings.Lines(lines) {
		if name, text, is := strings.Cut(strings.TrimSpace(line), ": "); is {
			files[name] = &fstest.MapFile{Data: []byte(strings.ReplaceAll(text, `\n`, "\n") + "\n")}
		}
	}
	return files
}

// bridge and behind are a port of the host and what sits behind it.
func bridge(address string, below, lanes int, rate string) string {
	at := "sys/bus/pci/devices/" + address + "/"
	return fmt.Sprintf(
		"%sclass: 0x060400\n%ssecondary_bus_number: %d\n%smax_link_width: %d\n%smax_link_speed: %s GT/s PCIe\n",
		at,
		at,
		below,
		at,
		lanes,
		at,
		rate,
	)
}

func behind(address, class string, lanes int) string {
	at := "sys/bus/pci/devices/" + address + "/"
	return fmt.Sprintf("%sclass: 0x%s00\n%smax_link_width: %d\n%smax_link_speed: 16.0 GT/s PCIe\n", at, class, at, lanes, at)
}

// What is private stands in every tree, and must stand in no answer.
const private = `
sys/class/dmi/id/product_serial: SECRET-SERIAL-1
sys/class/dmi/id/product_uuid: 4c4c4544-SECRET-UUID
sys/class/dmi/id/board_serial: SECRET-SERIAL-2
sys/class/net/eth0/address: aa:bb:cc:SE:CR:ET
proc/sys/kernel/hostname: secret-hostname
etc/hostname: secret-hostname
etc/passwd: secret-person:x:1000:1000:Secret Person:/home/secret-person:/bin/sh
sys/block/nvme0n1/device/serial: SECRET-SERIAL-3
sys/block/nvme0n1/wwid: eui.SECRET
etc/machine-id: SECRET-MACHINE
`

var hosts = map[string]string{
	"mini PC": `
sys/class/dmi/id/product_name: Cairn Small Desk
sys/class/dmi/id/chassis_type: 35
proc/cpuinfo: processor : 0\nmodel name : Six cores at 2.1
proc/meminfo: MemTotal:       16123456 kB
etc/os-release: PRETTY_NAME="A system 13"
proc/sys/kernel/osrelease: 6.12.1
sys/firmware/efi/fw_platform_size: 64
proc/mounts: proc /proc proc rw 0 0\n/dev/nvme0n1p2 / ext4 rw 0 0
sys/block/nvme0n1/size: 1000215216
sys/block/nvme0n1/removable: 0
sys/block/nvme0n1/device/model: Slate 512
sys/block/loop0/size: 1000
sys/block/sdb/size: 60000000
sys/block/sdb/removable: 1
sys/class/net/lo/address: 00
sys/class/net/eth0/device/vendor: 0x1
sys/class/net/wlan0/device/vendor: 0x1
sys/class/net/wlan0/wireless/x: 1
sys/class/drm/card0-HDMI-A-1/status: connected
sys/class/drm/card0-DP-1/status: disconnected
sys/bus/pci/devices/0000:00:02.0/class: 0x030000
sys/bus/pci/devices/0000:00:02.0/resource: 0x0000006000000000 0x00000060000fffff 0x1
` + bridge("0000:00:1d.0", 1, 4, "8.0") + behind("0000:01:00.0", "0108", 4) + "sys/bus/pci/devices/0000:01:00.0/nvme/nvme0/x: 1\n" +
		bridge("0000:00:1c.0", 2, 1, "5.0") + behind("0000:02:00.0", "0280", 1) + bridge("0000:00:1c.4", 3, 2, "8.0"),
	"notebook": `
sys/class/dmi/id/chassis_type: 10
proc/cpuinfo: model name : Four cores
proc/meminfo: MemTotal: 7890000 kB
sys/class/power_supply/BAT0/type: Battery
sys/class/drm/card0-eDP-1/status: connected
sys/bus/pci/devices/0000:00:17.0/class: 0x010400
sys/bus/pci/devices/0000:01:00.0/class: 0x030200
`,
	"single board": `
proc/device-tree/model: Pebble board
proc/cpuinfo: processor : 0
proc/meminfo: MemTotal: 3900000 kB
sys/block/mmcblk0/size: 62333952
`,
	"desktop": `
sys/class/dmi/id/product_name: Menhir Tower
sys/class/dmi/id/chassis_type: 3
sys/class/dmi/id/bios_version: 2.31
proc/cpuinfo: model name : Eight cores
proc/meminfo: MemTotal: 32780000 kB
proc/mounts: /dev/sda2 / ext4 rw 0 0
sys/block/sda/size: 1953525168
sys/block/sda/removable: 0
sys/block/sdb/size: 1953525168
sys/block/sdb/removable: 0
sys/bus/pci/devices/0000:00:17.0/class: 0x010601
sys/bus/pci/devices/0000:00:02.0/class: 0x030000
sys/bus/pci/devices/0000:00:02.0/resource: 0x00000000a0000000 0x00000000afffffff 0x1
` + bridge("0000:00:01.0", 1, 16, "8.0") + behind("0000:01:00.0", "0300", 8) + bridge("0000:00:1c.0", 2, 1,
		"8.0") + behind("0000:02:00.0", "0200", 1),
	"all-in-one": `
sys/class/dmi/id/chassis_type: 13
proc/cpuinfo: model name : Four cores
proc/meminfo: MemTotal: 8046000 kB
sys/class/drm/card0-eDP-1/status: connected
sys/class/drm/card0-HDMI-A-1/status: disconnected
sys/class/net/wlan0/device/vendor: 0x1
sys/class/net/wlan0/phy80211/x: 1
sys/bus/pci/devices/0000:00:02.0/class: 0x030000
` + bridge("0000:00:1c.5", 1, 1, "5.0") + behind("0000:01:00.0", "0280", 1),
	"box on a tunnel": `
sys/class/dmi/id/chassis_type: 10
proc/cpuinfo: model name : Six cores
proc/meminfo: MemTotal: 16100000 kB
sys/class/power_supply/BAT0/type: Battery
sys/bus/usb/devices/3-0/speed: 480
sys/bus/tunnels/devices/0-0/generation: 4
sys/bus/tunnels/devices/0-0/unique_id: SECRET-UUID
sys/bus/tunnels/devices/0-1/unique_id: SECRET-UUID
sys/bus/tunnels/devices/1-0/generation: 2
sys/bus/tunnels/devices/1-0:1.1/nvm_version: 3
sys/bus/pci/devices/0000:00:02.0/class: 0x030000
sys/bus/pci/devices/0000:05:00.0/class: 0x030000
`,
}

func read(t *testing.T, lines string) *probe.Part {
	part, err := probe.Read(tree(lines + private))
	require.NoError(t, err)
	for _, secret := range []string{"SECRET", "secret", "Secret", "aa:bb"} {
		assert.NotContains(t, string(part.Part)+strings.Join(part.Notes, " "), secret)
	}
	_, err = parts.Decode(parts.Host, part.Part)
	require.NoError(t, err, "it is a host like any other")
	return part
}

func TestAMiniPCTellsItself(t *testing.T) {
	part := read(t, hosts["mini PC"])
	h := part.Host
	assert.Equal(t, "Cairn Small Desk", h.Name)
	assert.Equal(t, rig.HostKind("mini-pc"), h.Kind.Value)
	assert.Equal(t, rig.System, h.Kind.Source)
	assert.Equal(t, "Six cores at 2.1", h.Proc.Name)
	assert.InDelta(t, 16, float64(h.Memory.Value), 0, "what modules come to, the kernel has a little less")
	assert.Equal(t, "A system 13, kernel 6.12.1", h.System.Value)
	assert.Equal(t, rig.Graphics("integrated"), h.Graphics.Value)
	assert.True(t, h.Firmware.LargeWindow.Value, "something lies beyond four gibibytes")
	assert.Equal(t, rig.Battery("none"), h.Battery.Value)
	require.Len(t, h.Drives, 1, "no loop, and no stick")
	assert.Equal(t, "Slate 512", h.Drives[0].Name)
	assert.True(t, h.Drives[0].Boots.Value)
	assert.InDelta(t, 512.1, float64(h.Drives[0].Capacity.Value), 0.05)
	require.Len(t, h.Networks, 2)
	assert.Equal(t, rig.Radio("wireless"), h.Networks[1].Kind.Value)
	assert.Equal(t, []string{"DP-1", "HDMI-A-1"}, []string{h.Screens[0].Name, h.Screens[1].Name})
	require.Len(t, h.Slots, 3)
	for i, want := range []struct {
		name     string
		lanes    int
		gen      int
		occupant string
	}{{"port 1c.0", 1, 2, "wireless card"}, {"port 1c.4", 2, 3, "none"}, {"port 1d.0", 4, 3, "Slate 512"}} {
		s := h.Slots[i]
		assert.Equal(t, want.name, s.Name)
		assert.Equal(t, want.lanes, s.Lanes.Value, "the board's, by its port")
		assert.Equal(t, want.gen, s.Gen.Value, "the port's, not the drive's Gen 4")
		assert.Equal(t, want.occupant, s.Occupant.Value)
		assert.False(t, s.Form.Known, "nothing tells it")
	}
	assert.Contains(t, strings.Join(part.Notes, " "), "Which of its 3 ports are slots was not read")
}

func TestOtherHostsTellWhatThereIs(t *testing.T) {
	notebook := read(t, hosts["notebook"]).Host
	assert.Equal(t, rig.HostKind("notebook"), notebook.Kind.Value)
	assert.False(t, notebook.Battery.Known, "whether it unplugs is not to be read")
	assert.Equal(t, rig.Discrete, notebook.Graphics.Value)
	assert.Equal(t, rig.DiskMode("bundled"), notebook.Firmware.DiskMode.Value)
	assert.Empty(t, notebook.Slots)
	board := read(t, hosts["single board"]).Host
	assert.Equal(t, "Pebble board", board.Name)
	assert.Equal(t, rig.HostKind("single-board"), board.Kind.Value)
	assert.InDelta(t, 4, float64(board.Memory.Value), 0)
	assert.False(t, board.Graphics.Known)
	desktop := read(t, hosts["desktop"]).Host
	assert.Equal(t, rig.HostKind("desktop"), desktop.Kind.Value)
	assert.Equal(t, rig.DiskMode("plain"), desktop.Firmware.DiskMode.Value)
	assert.False(t, desktop.Firmware.LargeWindow.Known, "nothing lies there, which does not tell that nothing may")
	assert.Equal(t, []string{"drive", "drive 2"}, []string{desktop.Drives[0].Name, desktop.Drives[1].Name}, "no model is told")
	assert.True(t, desktop.Drives[0].Boots.Value)
	assert.False(t, desktop.Drives[1].Boots.Known)
	assert.Equal(t, "graphics card", desktop.Slots[0].Occupant.Value)
	assert.Equal(t, 16, desktop.Slots[0].Lanes.Value, "the board's, not the eight of the card")
	allInOne := read(t, hosts["all-in-one"])
	assert.Equal(t, rig.HostKind("all-in-one"), allInOne.Host.Kind.Value)
	assert.Len(t, allInOne.Host.Screens, 1, "its own panel is no socket")
	assert.Contains(t, strings.Join(allInOne.Notes, " "), "It has a panel of its own.")
	assert.Equal(t, rig.Radio("wireless"), allInOne.Host.Networks[0].Kind.Value)
	tunnelled := read(t, hosts["box on a tunnel"])
	ports := tunnelled.Host.Slots
	require.Len(t, ports, 2)
	assert.InDelta(t, 40, float64(ports[0].TunnelRate.Value), 0)
	assert.Equal(t, "a device", ports[0].Occupant.Value)
	assert.InDelta(t, 20, float64(ports[1].TunnelRate.Value), 0)
	assert.Equal(t, rig.NoOccupant, ports[1].Occupant.Value, "its own firmware is no device")
	assert.Contains(t, strings.Join(tunnelled.Notes, " "), "tunnel port 0 may be one socket or two")
	_, err := probe.Read(tree("etc/x: y"))
	assert.ErrorContains(t, err, "/proc/cpuinfo is not there")
}

// entry is a system slot as the firmware lists it, with its name behind it.
func entry(name string, kind, width, usage byte, bus, dev byte) string {
	raw := make([]byte, 17)
	raw[0], raw[1], raw[4], raw[5], raw[6], raw[7], raw[0xf], raw[0x10] = 9, 17, 1, kind, width, usage, bus, dev<<3
	return string(raw) + name + "\x00\x00"
}

// As root the slots have their names and forms; what the board wires is the port's.
func TestSlotsAreReadByTheirNames(t *testing.T) {
	files := tree(hosts["mini PC"])
	for i, e := range []string{
		entry("M2_A", 0x17, 0x0a, 4, 0, 0x1d), entry("M2_E", 0x15, 0x08, 4, 0, 0x1c), entry("PCIE_1", 0xb6, 0x0b, 3, 0xff, 0x1f),
		entry("ISA", 0x03, 0x05, 3, 0, 0),
	} {
		files[fmt.Sprintf("sys/firmware/dmi/entries/9-%d/raw", i)] = &fstest.MapFile{Data: []byte(e)}
	}
	files["sys/firmware/dmi/entries/9-7/raw"] = &fstest.MapFile{Data: []byte("short")}
	part, err := probe.Read(files)
	require.NoError(t, err)
	slots := part.Host.Slots
	require.Len(t, slots, 3, "an older bus takes no card")
	assert.Equal(t, []string{"M2_A", "M2_E", "PCIE_1"}, []string{slots[0].Name, slots[1].Name, slots[2].Name})
	assert.Equal(t, rig.Key("M"), slots[0].Key.Value)
	assert.Equal(t, 4, slots[0].Lanes.Value)
	assert.Equal(t, "Slate 512", slots[0].Occupant.Value)
	assert.Equal(t, rig.Key("E"), slots[1].Key.Value)
	assert.Equal(t, rig.CardSlot, slots[2].Form.Value)
	assert.Equal(t, 16, slots[2].Mechanical.Value)
	assert.Equal(t, 8, slots[2].Lanes.Value)
	assert.False(t, slots[2].Gen.Known)
	assert.Equal(t, "none", slots[2].Occupant.Value)
}
