package rig

import "strings"

// spoken has the words of the file that a person writes otherwise.
var spoken = map[string]string{
	"nothing-permanent": "nothing permanent", "spare-cover": "spare cover", "cut-freely": "cut freely",
	"own-panel": "own panel", "panel-input": "panel's own input", "mini-pc": "mini PC",

	"system-on-usb": "a system on USB", "this-system": "this system's release", "this-way": "a card joined this way",
	"uefi": "UEFI", "cloned": "cloned", "installed": "installed afresh", "loaded": "under load", "idle": "at idle", "outside": "a port outside",
	"board": "board trace", "board-mid-loss": "board trace, mid-loss laminate", "micro-coax": "shielded micro-coax ribbon", "flat-ribbon": "flat unshielded ribbon", "video-cable": "video-style cable",
	"too-old": "too old for the system", "too-new": "dropped by the system's drivers", "fails-this-way": "known to fail this way", "conflict": "another of the same maker is installed",
	"m2": "M.2", "mini-pcie": "mini PCIe", "msata": "mSATA", "oculink": "OCuLink",
	"pcie": "PCIe", "sata": "SATA", "usb": "USB", "sata-bay": "SATA bay", "ethernet": "Ethernet socket", "memory-card": "memory card",

	"test-card": "test card", "to-buy": "to buy", "owned": "owned before", "with-postage": "of price and postage", "with-tax": "of price and tax",
	"dock-first": "dock first", "host-first": "host first",
	"dismantles-cooler": "dismantles the cooler",
	"nameplate":         "its full rating", "share": "a lasting share of it", "spikes": "the share, and millisecond spikes",
	"full": "full height", "half": "low-profile (half-height)", "swing": "swings out", "slide": "slides out", "top": "over its upper edge", "end": "behind its far end", "opening": "an opening there is", "raised-cover": "under a raised cover", "cover-off": "a cover that stays off", "cut": "a cut", "face": "its face, away from its board", "open": "in the open", "under-desk": "under a desk", "cupboard": "in a cupboard", "x": "along the length (x)", "y": "up from the slot (y)", "z": "along the row of slots (z)", "+x": "to the far wall (+x)", "-x": "to the bracket (−x)", "+y": "away from the slot (+y)", "-y": "to the slot (−y)", "+z": "away from the board's side (+z)", "-z": "to the board's side (−z)", "low1-p99": "worst 1 %, 99th percentile", "low1-mean": "worst 1 %, mean of slowest", "low01-p99": "worst 0.1 %, 99.9th percentile", "low01-mean": "worst 0.1 %, mean of slowest", "slowest-frame": "the slowest frame", "slowest-second": "the slowest second", "jumper": "made jumper plug", "integrated": "in the processor", "discrete": "a card of its own",
	"5.5x2.1": "5.5 × 2.1 mm", "5.5x2.5": "5.5 × 2.5 mm",
	"xyz": "length in, height up", "xzy": "length in, thickness up", "yxz": "length up, height in", "yzx": "length up, thickness in", "zxy": "length along the slots, height in", "zyx": "length along the slots, thickness in",
	"atx": "ATX", "sfx": "SFX", "sfx-l": "SFX-L", "tfx": "TFX", "switch-board": "switch-on board", "host-board": "host's board",

	"card-6": "card 6-pin", "card-8": "card 8-pin", "card-16": "card 16-pin (12V-2x6)", "cpu-8": "processor 8-pin (EPS)", "cpu-4": "processor 4-pin (EPS)",
	"main-24": "main 24-pin", "main-20": "main 20-pin", "disk-15": "disk 15-pin (SATA power)", "peripheral-4": "peripheral 4-pin (old disk drives)",
	"small-disk-4": "small disk 4-pin (floppy)", "din-4": "power DIN 4-pin", "two-pole-30a": "two-pole 30 A", "usb-c": "USB-C", "converter": "converter board", "proprietary": "proprietary plug",
}

// Spoken is how a person writes a word of the file.
func Spoken[W ~string](word W) string {
	if s, otherwise := spoken[string(word)]; otherwise {
		return s
	}
	return string(word)
}

// SpokenList is Spoken of each word, with something between.
func SpokenList[W ~string](words []W, between string) string {
	list := make([]string, len(words))
	for i, word := range words {
		list[i] = Spoken(word)
	}
	return strings.Join(list, between)
}
