package reading_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/reading"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

func read(t *testing.T, text string) *reading.Reading {
	t.Helper()
	r, err := reading.Read(strings.NewReader(text), "")
	require.NoError(t, err)
	return r
}

// TestCardWithASwitchOfItsOwn: the wide link inside the card is not the one that
// counts, and what limits is the port's own link.
func TestCardWithASwitchOfItsOwn(t *testing.T) {
	text, err := os.ReadFile("testdata/switch_in_card.txt")
	require.NoError(t, err)
	r := read(t, string(text))
	assert.Equal(t, "03:00.0", r.Card)
	var chain []string
	for _, d := range r.Chain() {
		chain = append(chain, d.Address)
	}
	assert.Equal(t, []string{"00:01.0", "01:00.0", "02:00.0", "03:00.0"}, chain)
	assert.Equal(t, reading.Link{Width: 1, Gen: 3}, r.Now())
	assert.Equal(t, 128, r.Payload(), "in force, not what the port could do")
	assert.Equal(t, 1, r.Correctable(), "a sticky bit is one; an advisory one is none")
	assert.Equal(t, []string{"width"}, r.Device("00:01.0").Downgraded)

	r.Hold(plan(), coretest.Tables(t))
	require.Len(t, r.Findings, 1)
	assert.Equal(t, "link.measured", r.Findings[0].Rule)
	assert.Equal(t, "risk", r.Findings[0].Level.String(), "the width does not hang on load")
	assert.Equal(t, reading.Link{Width: 4, Gen: 3}, r.Against[0].Found, "the port")
	assert.Equal(t, reading.Link{Width: 16, Gen: 4}, r.Against[2].Found, "the card's outermost end")
	assert.Contains(t, r.Against[3].Says, "x1 Gen 3 where x4 Gen 3 was planned")
	assert.InDelta(t, 0.80426, float64(*r.Net), 1e-4)
}

// plan is a route of four lanes Gen 3 over one stage.
func plan() *rig.Rig {
	r := rig.New("plan")
	r.Host.Slots = []rig.Slot{{Name: "s", Form: rig.Of(rig.M2), Lanes: rig.Of(4), Gen: rig.Of(3), Carries: rig.Of([]rig.Carried{rig.PCIe})}}
	r.Route.Slot = "s"
	r.Route.Stages = []rig.Stage{{Name: "dock", Lanes: rig.Of(4), Gen: rig.Of(4)}}
	r.Card.Lanes, r.Card.Gen = rig.Of(16), rig.Of(4)
	return r
}

func TestFilesOfTheKernel(t *testing.T) {
	want := reading.Link{Width: 4, Gen: 2}
	for name, text := range map[string]string{
		"as grep prints them": "/sys/bus/pci/devices/0000:01:00.0/current_link_speed:5.0 GT/s " +
			"PCIe\n/sys/bus/pci/devices/0000:01:00.0/current_link_width:4\n",
		"as head prints them": "==> /sys/devices/pci0000:00/0000:00:01.0/0000:01:00.0/current_link_speed <==\n5.0 GT/s PCIe\n\n==> " +
			"/sys/devices/pci0000:00/0000:00:01.0/0000:01:00.0/current_link_width <==\n4\n",
		"as one writes them": "current_link_speed = 5 GT/s\ncurrent_link_width: x4\n",
	} {
		r := read(t, text)
		assert.Equal(t, want, r.Now(), name)
		assert.Equal(t, reading.Files, r.Source.Kind, name)
	}
	r := read(
		t,
		"0000:01:00.0/aer_dev_correctable:RxErr 2\n0000:01:00.0/aer_dev_correctable:BadTLP 5\n0000:01:00.0/aer_dev_correctable:TOTAL_ERR_COR 7\n",
	)
	assert.Equal(t, 7, r.Correctable())
	alone, err := reading.Read(strings.NewReader("8.0 GT/s PCIe\n"), "/sys/bus/pci/devices/0000:01:00.0/current_link_speed")
	require.NoError(t, err)
	assert.Equal(t, 3, alone.Now().Gen, "the name says what it holds")
}

// TestLoadDecidesAboutSpeed: the same lower speed is nothing at idle, a fault under
// load, and a question while nobody says which.
func TestLoadDecidesAboutSpeed(t *testing.T) {
	const text = "01:00.0/current_link_speed:2.5 GT/s\n01:00.0/current_link_width:4\n"
	for load, level := range map[reading.Load]string{reading.Idle: "note", reading.Loaded: "risk", reading.Unknown: "unknown"} {
		r := read(t, text)
		r.Load = load
		r.Hold(plan(), coretest.Tables(t))
		require.Len(t, r.Findings, 1, load)
		assert.Equal(t, level, r.Findings[0].Level.String(), load)
	}
}

func TestErrorRate(t *testing.T) {
	r := read(t, "01:00.0/current_link_speed:8.0 GT/s\n01:00.0/current_link_width:4\n")
	r.Count(0, 94, coretest.Tables(t))
	assert.InDelta(t, 93.6, float64(r.Rate.ClaimAfter), 0.3, "Gen 3 x4 needs about 94 s")
	assert.Less(t, r.Rate.Below, 1e-12)
	r.Count(3, 1, coretest.Tables(t))
	assert.InDelta(t, 0.619/32e9, r.Rate.Interval95[0], 2e-14)
}

func TestRefusals(t *testing.T) {
	for _, c := range []struct {
		text string
		want error
	}{
		{"", reading.ErrEmpty}, {"\n\n  \n", reading.ErrEmpty}, {"a\x00b\n", reading.ErrBinary}, {"\xff\xfe1\n", reading.ErrBinary},
		{strings.Repeat("x", 2<<20), reading.ErrBinary}, {"a letter to the seller\n", reading.ErrNone},
	} {
		_, err := reading.Read(strings.NewReader(c.text), "")
		assert.ErrorIs(t, err, c.want, "%.20q", c.text)
	}
}

// FuzzRead: whatever the text, it is read or refused, and the way to the card ends.
func FuzzRead(f *testing.F) {
	text, err := os.ReadFile("testdata/switch_in_card.txt")
	require.NoError(f, err)
	f.Add(string(text))
	f.Add(string(text[:len(text)/2]))
	f.Add("00:01.0 PCI bridge: a\n\tBus: primary=00, secondary=00\n00:02.0 VGA compatible controller: b\n")
	f.Add("0000:01:00.0/0000:01:00.0/current_link_width:-3\n")
	ref, err := reference.Load()
	require.NoError(f, err)
	f.Fuzz(func(t *testing.T, text string) {
		r, err := reading.Read(strings.NewReader(text), "")
		if err != nil {
			return
		}
		r.Hold(plan(), ref)
		if len(r.Devices) == 0 || len(r.Chain()) > len(r.Devices)+1 {
			t.Fatalf("%d devices, a way of %d", len(r.Devices), len(r.Chain()))
		}
	})
}

// TestLargestIsWhatBothEndsCould do: the smaller of port and card, and nothing where one of
// them does not show; it is kept with the route beside what runs.
func TestLargestIsWhatBothEndsCould(t *testing.T) {
	r := &reading.Reading{Card: "02:00.0", Devices: []reading.Device{
		{Address: "00:01.0", Capable: reading.Link{Width: 16, Gen: 3}, Now: reading.Link{Width: 4, Gen: 3}},
		{Address: "02:00.0", Above: "00:01.0", Capable: reading.Link{Width: 8, Gen: 5}, Now: reading.Link{Width: 4, Gen: 3}},
	}}
	assert.Equal(t, reading.Link{Width: 8, Gen: 3}, r.Largest())
	of := r.OfLink()
	assert.Equal(t, [4]int{4, 3, 8, 3}, [4]int{of.Width.Value, of.Gen.Value, of.MostW.Value, of.MostG.Value})
	r.Devices[1].Above = ""
	assert.Zero(t, r.Largest())
	assert.False(t, r.OfLink().MostW.Known)
}
