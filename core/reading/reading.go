// Package reading reads what a system says of its bus: listings of devices with
// their capabilities (lspci -vv, whole or of one device, with or without numbers)
// and the files the kernel shows of a link (current_link_*, max_link_*,
// aer_dev_correctable). It finds the card and every bridge above it, and holds what
// was found against the plan.
package reading

import (
	"strconv"
	"strings"

	"kolvan/core/units"
)

// Format is the format word of a reading.
const Format = "kolvan-reading/1"

// A Reading is what one text said, and how it stands with a plan.
type Reading struct {
	Format   string                   `json:"format"`
	Source   Source                   `json:"source"`
	Devices  []Device                 `json:"devices"`
	Card     string                   `json:"card"` // its address; empty where no graphics card was found
	Load     Load                     `json:"load"`
	Net      *units.GigabytePerSecond `json:"net_gb_s"` // what the link carries as it runs, with the payload in force; nil while that is not told
	Against  []Against                `json:"against"`
	Findings []Says                   `json:"findings"`
	Rate     *Rate                    `json:"error_rate,omitzero"`
}

// Source says what was read, and by which tool it was written.
type Source struct {
	Kind string `json:"kind"` // listing or files
	Tool string `json:"tool"`
}

// The kinds of text.
const (
	Listing = "listing"
	Files   = "files"
)

// Load says whether a reading was taken at idle, where a link rests, or under load.
type Load string

// The loads.
const (
	Idle    Load = "idle"
	Loaded  Load = "loaded"
	Unknown Load = "unknown"
)

// Link is the width and the generation of a link, 0 where the text does not say.
type Link struct {
	Width int `json:"width"`
	Gen   int `json:"generation"`
}

// Device is one function on the bus.
type Device struct {
	Address    string   `json:"address"`
	Class      string   `json:"class"`
	Name       string   `json:"name"`
	Above      string   `json:"above"` // address of the bridge above it; empty at the root or where the text does not say
	Capable    Link     `json:"capable"`
	Now        Link     `json:"now"`
	Downgraded []string `json:"downgraded"` // width, speed: as the tool marks them, or as the figures tell
	Payload    int      `json:"payload_bytes"`
	Errors     Errors   `json:"errors"`

	secondary string // of a bridge, the bus below it
	port      string // root, upstream, downstream or endpoint, as far as it is told
}

// Errors are counts of link errors. A sticky status bit counts as one: the truth is
// no less.
type Errors struct {
	Correctable int `json:"correctable"`
	Fatal       int `json:"fatal"`
	NonFatal    int `json:"nonfatal"`
}

// bus is the bus of an address, with its domain.
func bus(address string) string {
	if i := strings.LastIndexByte(address, ':'); i >= 0 {
		return address[:i]
	}
	return ""
}

// generations by their rate in GT/s.
var generations = map[string]int{"2.5": 1, "5": 2, "8": 3, "16": 4, "32": 5, "64": 6}

// GenOf reads a rate such as "8GT/s", "8.0 GT/s PCIe" or "2.5"; 0 for none.
func GenOf(rate string) int {
	number, _, _ := strings.Cut(strings.TrimSpace(strings.ToUpper(rate)), "G")
	number = strings.TrimSuffix(strings.TrimSpace(number), ".0")
	return generations[number]
}

// widthOf reads "x4" or "4"; 0 for none or for what no link can have.
func widthOf(width string) int {
	n, err := strconv.Atoi(strings.TrimPrefix(strings.TrimSpace(width), "x"))
	if err != nil || n < 0 || n > 32 {
		return 0
	}
	return n
}

// downgrade compares what runs with what the device could do.
func (d *Device) downgrade() {
	mark := func(what string, now, capable int) {
		for _, have := range d.Downgraded {
			if have == what {
				return
			}
		}
		if now > 0 && now < capable {
			d.Downgraded = append(d.Downgraded, what)
		}
	}
	mark("width", d.Now.Width, d.Capable.Width)
	mark("speed", d.Now.Gen, d.Capable.Gen)
}

// isCard reports a device that draws.
func (d *Device) isCard() bool {
	class := strings.ToLower(d.Class)
	return strings.Contains(class, "vga compatible") || strings.Contains(class, "3d controller") ||
		strings.Contains(class, "display controller")
}

// Device returns the device at an address, or nil.
func (r *Reading) Device(address string) *Device {
	for i := range r.Devices {
		if r.Devices[i].Address == address {
			return &r.Devices[i]
		}
	}
	return nil
}

// Chain lists the devices from the root to the card; a bridge that is its own
// ancestor in a broken text ends it.
func (r *Reading) Chain() (chain []*Device) {
	for d := r.Device(r.Card); d != nil && len(chain) <= len(r.Devices); d = r.Device(d.Above) {
		chain = append([]*Device{d}, chain...)
		if d.Above == "" {
			break
		}
	}
	return chain
}

// Now is the link to the card: the least width and speed of every link on the way
// that the text tells. A card with a switch of its own shows a wide link inside,
// which is not the one that counts.
func (r *Reading) Now() (link Link) {
	for _, d := range r.Chain() {
		if d.Now.Width > 0 && (link.Width == 0 || d.Now.Width < link.Width) {
			link.Width = d.Now.Width
		}
		if d.Now.Gen > 0 && (link.Gen == 0 || d.Now.Gen < link.Gen) {
			link.Gen = d.Now.Gen
		}
	}
	return link
}

// Payload is the payload in force on the way to the card: the least that is told.
func (r *Reading) Payload() (bytes int) {
	for _, d := range r.Chain() {
		if d.Payload > 0 && (bytes == 0 || d.Payload < bytes) {
			bytes = d.Payload
		}
	}
	return bytes
}

// Correctable is the count of correctable errors on the way to the card, at all its
// ends.
func (r *Reading) Correctable() (count int) {
	for _, d := range r.Chain() {
		count += d.Errors.Correctable
	}
	return count
}
