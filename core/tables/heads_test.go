package tables_test

import (
	"bytes"
	"compress/gzip"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/tables"
)

// TestHeads: what the head of a column says, in the languages of the trade; a unit of another
// sort is believed before its words.
func TestHeads(t *testing.T) {
	for name, want := range map[string]tables.Head{
		"frametime":                {Quantity: tables.FrameTime, Sure: 3, Stem: "frametime"},
		"MsBetweenPresents":        {Quantity: tables.FrameTime, Sure: 1, Unit: "ms", Stem: "betweenpresents"},
		"ms per frame":             {Quantity: tables.FrameTime, Sure: 3, Unit: "ms", Stem: "perframe"},
		"Bildzeit [ms]":            {Quantity: tables.FrameTime, Sure: 3, Unit: "ms", Stem: "bildzeit"},
		"temps d’image (ms)":       {Quantity: tables.FrameTime, Sure: 3, Unit: "ms", Stem: "tempsdimage"},
		"Tiempo de fotograma (µs)": {Quantity: tables.FrameTime, Sure: 3, Unit: "us", Stem: "tiempodefotograma"},
		"czas klatki, ms":          {Quantity: tables.FrameTime, Sure: 3, Unit: "ms", Stem: "czasklatki"},
		"帧时间(ms)":                  {Quantity: tables.FrameTime, Sure: 3, Unit: "ms", Stem: "帧时间"},
		"frame":                    {Quantity: tables.FrameTime, Sure: 1, Stem: "frame"},
		"fps":                      {Quantity: tables.Rate, Sure: 3, Stem: "fps"},
		"Bilder pro Sekunde":       {Quantity: tables.Rate, Sure: 3, Stem: "bilderprosekunde"},
		"Frame rate (Hz)":          {Quantity: tables.Rate, Sure: 3, Unit: "Hz", Stem: "framerate"},
		"mains (Hz)":               {Quantity: tables.Other, Unit: "Hz", Stem: "mains"},
		"TimeInSeconds":            {Quantity: tables.Stamp, Sure: 3, Unit: "s", Stem: "time"},
		"Zeit":                     {Quantity: tables.Stamp, Sure: 3, Stem: "zeit"},
		"power_w":                  {Quantity: tables.Power, Sure: 3, Unit: "W", Stem: "power"},
		"Leistung [kW]":            {Quantity: tables.Power, Sure: 3, Unit: "kW", Stem: "leistung"},
		"GPU draw [W]":             {Quantity: tables.Power, Sure: 1, Unit: "W", Stem: "gpudraw"},
		"GPU temperature [°C]":     {Quantity: tables.Other, Unit: "°c", Stem: "gputemperature"},
		"frame time (%)":           {Quantity: tables.Other, Unit: "%", Stem: "frametime"},
		"Heat (BTU)":               {Quantity: tables.Other, Unit: "btu", Stem: "heat"},
		"Prozess-ID":               {Quantity: tables.Process, Sure: 3, Stem: "prozessid"},
		"Nr.":                      {Quantity: tables.Index, Sure: 3, Stem: "nr"},
		"count (ms)":               {Unit: "ms", Stem: "count"},
		"blorp":                    {Stem: "blorp"},
	} {
		assert.Equal(t, want, tables.HeadOf(name), name)
	}
}

// TestOpen: a table cut short or of no gzip at all is named, one without anything is empty.
func TestOpen(t *testing.T) {
	_, err := tables.Open(strings.NewReader("\x1f\x8bnot really"))
	require.ErrorContains(t, err, "gzip")
	empty, err := tables.Open(strings.NewReader(""))
	require.NoError(t, err)
	all, err := io.ReadAll(empty)
	require.NoError(t, err)
	assert.Empty(t, all)
	var packed bytes.Buffer
	z := gzip.NewWriter(&packed)
	_, err = z.Write([]byte("\xff\xfea\x00,\x00"))
	require.NoError(t, err)
	require.NoError(t, z.Close())
	text, err := tables.Open(&packed)
	require.NoError(t, err)
	all, err = io.ReadAll(text)
	require.NoError(t, err)
	assert.Equal(t, "a,", string(all))
}
