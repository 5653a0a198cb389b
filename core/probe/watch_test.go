package probe_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/probe"
	"kolvan/core/reading"
	"kolvan/core/units"
)

const card = "sys/bus/pci/devices/0000:03:00.0/"

// cardIs is a tree in which a card's link, errors and sensors stand as told.
func cardIs(width int, speed string, errs int, celsius, watts float64) fstest.MapFS {
	return tree(fmt.Sprintf(`
proc/cpuinfo: model name : x
sys/bus/pci/devices/0000:00:02.0/class: 0x030000
%[1]sclass: 0x030000
%[1]scurrent_link_width: %[2]d
%[1]scurrent_link_speed: %[3]s GT/s PCIe
%[1]smax_link_width: 8
%[1]smax_link_speed: 16.0 GT/s PCIe
%[1]saer_dev_correctable: RxErr 3\nTOTAL_ERR_COR %[4]d
%[1]shwmon/hwmon3/temp1_input: %[5]d
%[1]shwmon/hwmon3/temp2_input: %[6]d
%[1]shwmon/hwmon3/temp2_label: mem
%[1]shwmon/hwmon3/power1_average: %[7]d
sys/class/hwmon/hwmon0/name: k10temp
sys/class/hwmon/hwmon0/temp1_input: 55500
sys/class/hwmon/hwmon1/name: nvme
sys/class/hwmon/hwmon1/temp1_input: 91000
`, card, width, speed, errs, int(celsius*1000), int(celsius*1000)+4000, int(watts*1e6)))
}

// TestWatchUnderLoad: the link at the fastest it ran, the errors that came meanwhile, the heat
// and the watts; and what it comes to is read as a reading under load.
func TestWatchUnderLoad(t *testing.T) {
	live := cardIs(4, "2.5", 7, 41, 12)
	w, err := probe.NewWatch(live)
	require.NoError(t, err)
	assert.Equal(t, "0000:03:00.0", w.Card, "not the processor's own")
	for i, now := range []fstest.MapFS{
		live, cardIs(4, "8.0", 7, 62, 150), cardIs(2, "8.0", 9, 79, 161), cardIs(4, "8.0", 10, 78, 158), cardIs(1, "2.5", 10, 60, 14),
	} {
		for name, file := range now {
			live[name] = file
		}
		w.Look(units.Second(30 * i))
	}
	f := w.Found()
	assert.Equal(t, 2, f.Width, "the narrowest while it was fast")
	assert.Equal(t, 3, f.Gen)
	assert.True(t, f.Loaded)
	assert.Equal(t, 3, f.Errors)
	assert.Equal(t, 2, f.Fell)
	assert.InDelta(t, 120, f.Over, 0)
	most := map[string]float64{}
	for _, r := range w.Ranges() {
		most[r.Name] = r.Most
		assert.Len(t, []rune(r.Drawn), 5)
	}
	assert.Equal(t, map[string]float64{
		"width": 4, "speed_gts": 8, "errors": 10, "card_c": 79, "card_memory_c": 83, "card_w": 161, "processor_c": 55.5,
	}, most)
	var log strings.Builder
	require.NoError(t, w.WriteCSV(&log))
	assert.Contains(t, log.String(), "time_s,width,speed_gts,errors,card_c,card_memory_c,card_w,processor_c\n0,4,2.5,7,41,45,12,55.5\n")
	r, err := reading.Read(strings.NewReader(f.Read), "")
	require.NoError(t, err)
	assert.Equal(t, reading.Loaded, r.Load)
	assert.Equal(t, reading.Link{Width: 2, Gen: 3}, r.Now())
	assert.Equal(t, 3, r.Correctable())
}

// TestWatchOfLittle: what the system does not tell stays open, and a link that never changed is
// not taken for one under load.
func TestWatchOfLittle(t *testing.T) {
	w, err := probe.NewWatch(tree("proc/cpuinfo: x\n" + card + "class: 0x030200\n" + card + "current_link_speed: Unknown\n"))
	require.NoError(t, err)
	w.Look(0)
	f := w.Found()
	assert.Zero(t, f.Width)
	assert.Equal(t, -1, f.Errors)
	assert.False(t, f.Loaded)
	assert.Empty(t, w.Ranges())
	assert.True(t, math.IsNaN(w.Samples[0].CardC))
	var log strings.Builder
	require.NoError(t, w.WriteCSV(&log))
	assert.True(t, strings.HasSuffix(log.String(), "\n0,,,,,,,\n"))
	_, err = probe.NewWatch(tree("proc/cpuinfo: x\n"))
	assert.ErrorContains(t, err, "no graphics card")
	_, err = probe.NewWatch(fstest.MapFS{})
	assert.ErrorContains(t, err, "/proc/cpuinfo")
	still, err := probe.NewWatch(cardIs(8, "16.0", 0, 40, 10))
	require.NoError(t, err)
	still.Look(0)
	still.Look(1)
	assert.False(t, still.Found().Loaded)
	assert.Equal(t, "▁▁", still.Ranges()[0].Drawn)
}
