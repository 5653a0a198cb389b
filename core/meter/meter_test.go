package meter_test

import (
	"bytes"
	"cmp"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/meter"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// Four samples a second apart, at 100, 200, 200 and 100 W: half a kilojoule over
// three seconds.
func TestTablesOfMeters(t *testing.T) {
	for name, table := range map[string]string{
		"seconds and watts": "time_s,power_w\n0,100\n1,200\n2,200\n3,100\n",
		"no head":           "0,100\n1,200\n2,200\n3,100\n",
		"other columns": "Sample,Time (ms),Voltage [V],Active Power [W],Energy " +
			"[Wh]\n1,0,230,100,0\n2,1000,230,200,0\n3,2000,231,200,0\n4,3000,230,100,0\n",
		"kilowatts": "timestamp;kW\n2026-03-01T12:00:00Z;0,1\n2026-03-01T12:00:01Z;0,2\n2026-03-01T12:00:02Z;0,2\n2026-03-01T12:00:03Z;0,1\n",
		"decimal commas": "Date;Time;Power " +
			"(W)\n01.03.2026;12:00:00;100,0\n01.03.2026;12:00:01;200,0\n01.03.2026;12:00:02;200,0\n01.03.2026;12:00:03;100,0\n",
		"quoted decimal commas": "time,watts\n\"0,0\",\"100,0\"\n\"1,0\",\"200,0\"\n\"2,0\",\"200,0\"\n\"3,0\",\"100,0\"\n",
		"units in the cells":    "Clock\tP\n12:00:00\t100 W\n12:00:01\t0.2 kW\n12:00:02\t200W\n12:00:03\t100 W\n",
		"over midnight":         "time,w\n23:59:58,100\n23:59:59,200\n00:00:00,200\n00:00:01,100\n",
		"since 1970, milliseconds": "# made by a " +
			"meter\n\nepoch,milliwatts_mw\n1767225600000,100000\n1767225601000,200000\n1767225602000,200000\n1767225603000,100000\n",
		"a mark before the head": "\ufeffTime,Watts\r\n0,100\r\n1,200\r\n2,200\r\n3,100\r\n",
		"afternoon": "Date Time,Power\n3/1/2026 1:00:00 PM,100\n3/1/2026 1:00:01 PM,200\n3/1/2026 1:00:02 PM,200\n3/1/2026 " +
			"1:00:03 PM,100\n",
	} {
		t.Run(name, func(t *testing.T) {
			column := ""
			if strings.Contains(table, "milliwatts_mw") {
				column = "milliwatts_mw"
			}
			record, err := meter.Read(strings.NewReader(table), column)
			require.NoError(t, err)
			f := record.Figures()
			assert.Equal(t, 4, f.Samples)
			assert.InDelta(t, 3, float64(f.Seconds), 1e-6)
			assert.InDelta(t, 500/3.0, float64(f.Mean), 1e-6)
			assert.InDelta(t, 200, float64(f.Peak), 1e-9)
			assert.InDelta(t, 500/3600.0, float64(f.Energy), 1e-9)
			assert.Zero(t, f.Gaps)
		})
	}
}

func TestTablesThatAreRefused(t *testing.T) {
	for name, c := range map[string]struct{ table, column, says string }{
		"nothing":                 {"", "", "a column of time and one of power"},
		"no power":                {"time,volts\n0,230\n", "", "a column named power"},
		"no time":                 {"power\n100\n", "", "a column named time"},
		"volts asked for":         {"time,Voltage [V]\n0,230\n", "Voltage [V]", "in W, kW or mW"},
		"a word for watts":        {"time,power\n0,100\n1,many\n", "", `line 3, power: "many"`},
		"less than nothing":       {"time,power\n0,-5\n", "", `"-5" is not accepted`},
		"time that goes back":     {"time,power\n5,100\n4,100\n", "", "a time not before the row above"},
		"commas without quotes":   {"time,power\n0,0,100,5\n", "", "stand in quotes"},
		"a head and nothing more": {"time,power\n", "", "at least one row"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := meter.Read(strings.NewReader(c.table), c.column)
			require.ErrorContains(t, err, c.says)
		})
	}
}

// Over a gap nothing is taken to have flowed, however long it was.
func TestGaps(t *testing.T) {
	table := "time,power\n0,100\n1,100\n2,\n3,nan\n6,100\n7,100\n8,100\n14,100\n15,100\n1000,100\n1001,100\n"
	record, err := meter.Read(strings.NewReader(table), "")
	require.NoError(t, err)
	f := record.Figures()
	assert.Equal(t, 2, f.Gaps, "five seconds without a sample are no more than five steps, six are")
	assert.InDelta(t, 10, float64(f.Seconds), 1e-9)
	assert.InDelta(t, 991, float64(f.Missing), 1e-9)
	assert.InDelta(t, 100, float64(f.Mean), 1e-9)
}

// The reading under load is the best ten seconds, not a spike and not the whole.
func TestHighest(t *testing.T) {
	record := meter.Record{}
	for i := range 100 {
		watts := 50.0
		if i >= 40 && i <= 52 {
			watts = 150
		}
		if i == 80 {
			watts = 600
		}
		record.Samples = append(record.Samples, meter.Sample{At: units.Second(i), Power: units.Watt(watts)})
	}
	assert.InDelta(t, 150, float64(record.Highest()), 1e-9)
	assert.InDelta(t, 600, float64(record.Figures().Peak), 1e-9)
}

// However the samples lie, the mean lies between the least and the peak, and the
// energy is the mean over the time measured.
func TestFiguresHoldTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		record, at := meter.Record{}, 0.0
		for range rapid.IntRange(1, 60).Draw(t, "samples") {
			at += rapid.SampledFrom([]float64{0, 1, 1, 1, 2, 50}).Draw(t, "step")
			record.Samples = append(
				record.Samples, meter.Sample{At: units.Second(at), Power: units.Watt(rapid.Float64Range(0, 900).Draw(t, "watts"))},
			)
		}
		f := record.Figures()
		assert.LessOrEqual(t, float64(record.Highest()), float64(f.Peak)+1e-9)
		assert.GreaterOrEqual(t, float64(f.Mean), float64(f.Least)-1e-9)
		assert.LessOrEqual(t, float64(f.Mean), float64(f.Peak)+1e-9)
		assert.InDelta(t, float64(f.Mean)*float64(f.Seconds)/3600, float64(f.Energy), 1e-6)
		assert.InDelta(t, at-float64(record.Samples[0].At), float64(f.Seconds+f.Missing), 1e-6)
	})
}

// BenchmarkDay reads a day at one second.
func BenchmarkDay(b *testing.B) {
	var table strings.Builder
	table.WriteString("time,power\n")
	for i := range 24 * 3600 {
		fmt.Fprintf(&table, "%d,%.1f\n", i, 100+float64(i%50))
	}
	b.ReportAllocs()
	for b.Loop() {
		record, err := meter.Read(strings.NewReader(table.String()), "")
		require.NoError(b, err)
		record.Figures()
	}
}

// TestWhatIsWrittenIsRead: a record written as a table is the same when it is read.
func TestWhatIsWrittenIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var record meter.Record
		at := 0.0
		for range rapid.IntRange(1, 40).Draw(t, "samples") {
			record.Samples = append(
				record.Samples, meter.Sample{At: units.Second(at), Power: units.Watt(rapid.Float64Range(0, 900).Draw(t, "w"))},
			)
			at += rapid.Float64Range(0.01, 5).Draw(t, "pace")
		}
		var table bytes.Buffer
		require.NoError(t, record.WriteCSV(&table))
		read, err := meter.Read(&table, "")
		require.NoError(t, err)
		assert.Equal(t, record.Samples, read.Samples)
	})
}

// TestLongTables: of more samples than are held the figures are those of all, and what is
// held has the peaks, whatever the pace and wherever the gaps.
func TestLongTables(t *testing.T) {
	draw := rand.New(rand.NewPCG(3, 1))
	for name, step := range map[string]func(i int) float64{
		"never alike": func(int) float64 { return 0.05 + draw.Float64()/10 },
		"with gaps":   func(i int) float64 { return []float64{0.5, 0.5, 700}[min(2, (i+1)%100000/99999*2)] },
	} {
		t.Run(name, func(t *testing.T) {
			var table strings.Builder
			table.WriteString("time_s,power_w\n")
			var all meter.Record
			at := 0.0
			for i := range 270_000 {
				watts := 100 + float64(i%70)/7
				if i == 123_456 {
					watts = 900
				}
				s := meter.Sample{At: units.Second(at), Power: units.Watt(watts)}
				all.Samples = append(all.Samples, s)
				fmt.Fprintf(&table, "%s,%s\n", strconv.FormatFloat(at, 'f', -1, 64), strconv.FormatFloat(watts, 'f', -1, 64))
				at += step(i)
			}
			open := func() (io.Reader, error) { return strings.NewReader(table.String()), nil }
			var copied strings.Builder
			held, err := meter.ReadAgain(open, "", &copied)
			require.NoError(t, err)
			assert.False(t, held.Whole())
			is, want := held.Figures(), all.Figures()
			assert.InEpsilon(t, float64(want.Energy), float64(is.Energy), 1e-9)
			want.Energy, want.Mean, want.Seconds, want.Missing = is.Energy, is.Mean, is.Seconds, is.Missing
			assert.Equal(t, want, is)
			assert.InEpsilon(t, float64(all.Highest()), float64(held.Highest()), 1e-3)
			assert.LessOrEqual(t, len(held.Samples), 1<<16+2)
			assert.True(t, slices.Contains(held.Samples, all.Samples[123_456]))
			assert.True(t, slices.IsSortedFunc(held.Samples, func(a, b meter.Sample) int { return cmp.Compare(a.At, b.At) }))
			assert.True(t, table.String() == copied.String(), "it is copied whole")
		})
	}
}

// TestShown: what a meter cannot have measured is refused, and its drift is nothing.
func TestShown(t *testing.T) {
	for is, want := range map[float64]float64{-1: 0, -0.2: 0, 0: 0, 100e3: 100e3, 12.5: 12.5} {
		got, can := meter.Shown(units.Watt(is))
		assert.True(t, can)
		assert.InDelta(t, want, float64(got), 0)
	}
	for _, is := range []float64{-1.001, -100, 100e3 + 1, 1e308, math.Inf(1), math.Inf(-1), math.NaN()} {
		_, can := meter.Shown(units.Watt(is))
		assert.False(t, can, is)
	}
}
