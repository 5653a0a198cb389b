package reading_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/reading"
)

// device is one entry of a listing, with its link as a system prints it.
func device(address, class, name, capable, now string) string {
	text := address + " " + class + ": " + name + "\n"
	if capable == "" {
		return text
	}
	return text + "\tCapabilities: [40] Express (v2) Endpoint, MSI 00\n\t\tLnkCap:\tPort #0, " + capable + ", ASPM L1\n\t\tLnkSta:\t" + now +
		"\n"
}

// bridge is a port with a bus below it.
func bridge(address, below, capable, now string) string {
	from, _, _ := strings.Cut(address[strings.LastIndex(address, ":")-2:], ":")
	return address + " PCI bridge: Fernhill Port\n\tBus: primary=" + from + ", secondary=" + below + ", subordinate=" + below +
		", sec-latency=0\n" +
		"\tCapabilities: [40] Express (v2) Root Port (Slot+), MSI 00\n\t\tLnkCap:\tPort #1, " + capable + "\n\t\tLnkSta:\t" + now + "\n"
}

// TestListingsAsPeopleHaveThem: whole machines and single devices, with domains and
// without, by whatever tool and rights.
func TestListingsAsPeopleHaveThem(t *testing.T) {
	const x4gen3, x16gen4 = "Speed 8GT/s, Width x4", "Speed 16GT/s, Width x16"
	own := device("00:02.0", "VGA compatible controller", "Fernhill Own graphics", "", "")
	port := bridge("00:01.0", "01", x4gen3, x4gen3)
	card := device("01:00.0", "VGA compatible controller", "Fernhill Card", x16gen4, "Speed 8GT/s (downgraded), Width x4 (downgraded)")
	sound := device("01:00.1", "Audio device", "Fernhill Sound", x16gen4, "Speed 8GT/s, Width x4")
	for _, c := range []struct {
		name, text, card string
		now              reading.Link
		chain            int
	}{
		{"the machine", own + "\n" + port + "\n" + card + "\n" + sound, "01:00.0", reading.Link{Width: 4, Gen: 3}, 2},
		{"the card alone", card, "01:00.0", reading.Link{Width: 4, Gen: 3}, 1},
		{"the card before its port", card + port, "01:00.0", reading.Link{Width: 4, Gen: 3}, 2},
		{
			"with domains", "0000:" + strings.ReplaceAll(port, "\n00", "\n0000:00") + "0000:" + card, "01:00.0",
			reading.Link{Width: 4, Gen: 3}, 2,
		},
		{
			"a computing card", port + strings.Replace(card, "VGA compatible controller", "3D controller", 1), "01:00.0",
			reading.Link{Width: 4, Gen: 3}, 2,
		},
		{
			"with the numbers of class and maker", port + strings.Replace(card, "controller:", "controller [0300]:", 1), "01:00.0",
			reading.Link{Width: 4, Gen: 3}, 2,
		},
		{"line ends of another system", strings.ReplaceAll(port+card, "\n", "\r\n"), "01:00.0", reading.Link{Width: 4, Gen: 3}, 2},
		{"blanks in place of tabs", strings.ReplaceAll(port+card, "\t", "        "), "01:00.0", reading.Link{Width: 4, Gen: 3}, 2},
		{"cut in the middle of a word", (port + card + sound)[:len(port+card)+9], "01:00.0", reading.Link{Width: 4, Gen: 3}, 2},
		{"Gen 5", bridge(
			"00:01.0", "01", "Speed 32GT/s, Width x4", "Speed 32GT/s, Width x4",
		) + device("01:00.0", "VGA compatible controller", "Fernhill Card", "Speed 32GT/s, Width x16", "Speed 32GT/s, Width x4"),
			"01:00.0", reading.Link{Width: 4, Gen: 5}, 2},
		{"without the right to look", strings.Split(card, "\t")[0] + "\tCapabilities: <access denied>\n", "01:00.0", reading.Link{}, 1},
		{"no card found", own + port, "", reading.Link{}, 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := read(t, c.text)
			assert.Equal(t, c.card, r.Card)
			assert.Equal(t, c.now, r.Now())
			assert.Len(t, r.Chain(), c.chain)
			r.Hold(plan(), coretest.Tables(t))
			if c.card == "" {
				require.NotEmpty(t, r.Findings, "a card that is not found is said")
				assert.Equal(t, "risk", r.Findings[0].Level.String())
			}
			if c.chain == 1 {
				assert.Equal(t, reading.Link{}, r.Against[0].Found, "nothing is made up for the port")
			}
		})
	}
}

// TestErrorIntervals: exact counts of rare events, worked out by hand: of none in n
// bits the upper end is 3.689/n and one-sided 2.996/n, of three the ends are 0.6187/n
// and 8.7673/n.
func TestErrorIntervals(t *testing.T) {
	port := bridge("00:01.0", "01", "Speed 8GT/s, Width x4", "Speed 8GT/s, Width x4")
	card := device("01:00.0", "VGA compatible controller", "Fernhill Card", "Speed 8GT/s, Width x4", "Speed 8GT/s, Width x4")
	bits := 8e9 * 4 * 600.
	for errors, want := range map[int][2]float64{0: {0, 3.6889}, 3: {0.61867, 8.76727}} {
		r := read(t, port+card)
		r.Count(errors, 600, coretest.Tables(t))
		require.NotNil(t, r.Rate)
		assert.InEpsilon(t, float64(errors)/bits+1e-30, r.Rate.BER+1e-30, 1e-6)
		assert.InEpsilon(t, want[1]/bits, r.Rate.Interval95[1], 1e-3)
		assert.InDelta(t, want[0]/bits, r.Rate.Interval95[0], 1e-3*want[1]/bits)
	}
	r := read(t, port+card)
	r.Count(0, 600, coretest.Tables(t))
	assert.InEpsilon(t, 2.9957/bits, r.Rate.Below, 1e-3)
	r.Rate = nil
	r.Count(1, 0, coretest.Tables(t))
	assert.Nil(t, r.Rate, "over no time there is no rate")
}
