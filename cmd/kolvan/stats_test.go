package main

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"encoding/json"
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/instruments"
)

func TestStatsOfAMetersTables(t *testing.T) {
	bin, dir := built(t), t.TempDir()
	table := func(name, text string) string {
		path := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	good := table("good.csv", "time;Volt;Active Power [kW]\n0;230;0,1\n1;230;0,3\n2;230;0,1\n10;230;0,1\n")
	bad := table("bad.csv", "time,power\n0,much\n")

	out, errs, code := kolvan(t, bin, "", "stats", "--json", good)
	assert.Zero(t, code, errs)
	var one struct {
		Format, File, SHA256 string
		Column               struct {
			Name, Unit string
			Index      int
		}
		Series []map[string]any
	}
	require.NoError(t, json.Unmarshal([]byte(out), &one))
	assert.Equal(t, "kolvan-stats/1", one.Format)
	assert.Equal(t, "Active Power [kW]", one.Column.Name)
	assert.Equal(t, 2, one.Column.Index)
	assert.Len(t, one.SHA256, 64)
	assert.Equal(
		t,
		map[string]any{
			"name": "meter", "samples": 4.0, "seconds": 2.0, "mean_w": 200.0, "peak_w": 300.0, "least_w": 100.0,
			"energy_wh": 0.111111, "gaps": 1.0, "missing_s": 8.0,
		},
		one.Series[0],
	)

	out, errs, code = kolvan(t, bin, "", "stats", "--json", good, bad)
	assert.Equal(t, 2, code, "one of them is wrong")
	assert.Contains(t, errs, `line 2, power: "much" is not accepted`)
	assert.True(t, strings.HasPrefix(out, "["), "several files make an array")
	out, _, code = kolvan(t, bin, "0,50\n1,50\n", "stats", "--unit", "W", "-")
	assert.Zero(t, code)
	assert.Contains(t, out, "mean 50 W")
	_, errs, code = kolvan(t, bin, "0,50\n1,50\n2,50\n", "stats", "-")
	assert.Equal(t, 2, code, "without a head nobody knows whose table it is")
	assert.Contains(t, errs, "column 2: always 50")

	packed := filepath.Join(dir, "packed.csv.gz")
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	_, err := z.Write([]byte("when;Leistung [W]\n0;100\n1;200\n"))
	require.NoError(t, errors.Join(err, z.Close(), os.WriteFile(packed, b.Bytes(), 0o600)))
	out, _, code = kolvan(t, bin, "", "stats", "--json", packed)
	assert.Zero(t, code, "unpacked before anything is looked at")
	assert.Contains(
		t,
		strings.Join(strings.Fields(out), ""),
		`"taken":[{"name":"when","index":0,"as":"timestamps"},{"name":"Leistung[W]","index":1,"as":"power","unit":"W"}]`,
	)
	times := table("times.csv", "frametime_ms\n"+strings.Repeat("17\n", 40))
	_, errs, code = kolvan(t, bin, "", "compare", packed, "--with", times)
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "it is a meter's table, in watts")

	_, errs, code = kolvan(t, bin, "", "stats", "--column", "Volt", good)
	assert.Equal(t, 2, code)
	assert.NotContains(t, errs, "goroutine")
	_, errs, code = kolvan(t, bin, "", "stats", filepath.Join(dir, "nowhere.csv"))
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "not there")
}

// TestInstrumentsAnswer: the stand-ins say where they are, and answer there all three.
func TestInstrumentsAnswer(t *testing.T) {
	cmd := exec.Command(built(t), "instruments", "--addr", "127.0.0.1:0")
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	addr := regexp.MustCompile(`127\.0\.0\.1:\d+`).FindString(line)
	m, err := instruments.CallWallMeter(t.Context(), addr)
	require.NoError(t, err, line)
	require.NoError(t, m.Play(instruments.Draw{Idle: 10, Loaded: 100, Spike: 100, Seed: 3}))
	sample, err := m.Next()
	require.NoError(t, err)
	assert.InDelta(t, 10, float64(sample.Power), 1)
	listing, err := instruments.ReadLinkProbe(
		t.Context(), addr, instruments.Bus{PortLanes: 4, PortGen: 3, CardLanes: 8, CardGen: 4, Lanes: 4, Gen: 3, Payload: 128},
		"loaded", "none",
	)
	require.NoError(t, err)
	assert.Contains(t, listing, "Width x4")
}
